"""All answers of a design, composed."""

from __future__ import annotations

from datetime import datetime

from parhelion.balance.outlook import Outlook, outlook_of, remembered, shown_outlook
from parhelion.bank.store import reserve_of
from parhelion.design import BoatDesign
from parhelion.errors import finite
from parhelion.quantities import Quantity
from parhelion.rail import cells
from parhelion.rail.furthest import by_pace, distances_m, further_way
from parhelion.rail.ground import over_ground_mps, with_stream
from parhelion.rail.held_back import held_back_by, measure_of
from parhelion.rail.joint import joined, joined_range, joined_run
from parhelion.rail.models import Answers, Distance, RailCell, SteadySpeed
from parhelion.rail.no_harvest import with_cause
from parhelion.rail.reasons import assumes_all
from parhelion.rail.speeds import (
    bank_power_w,
    days_run_bank,
    days_run_sun,
    live_distance,
    live_speed,
    nine_in_ten,
    solve_steady,
    steady_speed,
    with_push,
)
from parhelion.rail.steps import with_panel
from parhelion.rail.stores import bank_at_dusk, dock_day, range_at_speed, refill, sun_share


def answers_for(
    design: BoatDesign, at: datetime | None = None, compared_with: BoatDesign | None = None
) -> Answers:
    """The headline answers of a design.

    Parameters
    ----------
    design : BoatDesign
    at : datetime, optional
        The moment that "now" means, with its time zone; solar noon where it is not given. Only its place
        within the day counts.
    compared_with : BoatDesign, optional
        A kept variant; the rail's cells then carry the change against it.

    Returns
    -------
    Answers

    Raises
    ------
    NoAnswer
        Where a number of them came out endless, or as none.
    """
    with finite("the rail"):
        found = answers_from(outlook_of(design), at)
        other = None if compared_with is None else answers_from(outlook_of(compared_with), at)
    if other is None:
        return found
    return found.model_copy(update={"rail": with_changes(found.rail, other.rail)})


@remembered
def answers_from(outlook: Outlook, at: datetime | None = None) -> Answers:
    """The answers of a design already gathered; see `answers_for`."""
    design, day = outlook.design, outlook.day
    kind = cells.rail_kind(design)
    moment = at or day.solar_noon_at
    solved = solve_steady(outlook)
    steady = joined(outlook, solved, steady_speed(outlook, solved))
    live = kind == "no_bank" or (outlook.takes_no_charge and bool(design.panels))
    on_sun = live_distance(outlook) if live else days_run_sun(outlook, steady)
    watts = bank_power_w(outlook)
    with_bank = joined_run(outlook, watts, days_run_bank(outlook, watts))
    way = further_way(outlook, with_bank.distance_m or 0.0)
    if way is not None:
        with_bank = by_pace(with_bank, outlook, way)
    dusk = bank_at_dusk(outlook)
    reach = range_at_speed(outlook)
    if measure_of(outlook, kind) == "range":
        reach = joined_range(outlook, reach)
    made = Answers.model_construct(
        rail_kind=kind,
        rail=[],
        assumes=assumes_all(outlook),
        sun_only_now=live_speed(outlook, day.step_at(moment), moment),
        sun_only_noon=live_speed(outlook, day.noon_step, day.solar_noon_at),
        sun_only_steady=steady,
        days_run_sun=on_sun,
        days_run_bank=with_bank,
        nine_in_ten=nine_in_ten(
            outlook, with_bank, watts, None if way is None else distances_m(outlook, way)
        ),
        bank_at_dusk=dusk,
        refill=refill(outlook, dusk),
        range_at_speed=reach,
        sun_share=sun_share(outlook, reach),
        dock_day=dock_day(outlook),
        held_back_by=held_back_by(outlook, kind, solved),
        zone=day.timeline.zone.key,
        starts_at=day.starts_at,
        spells_default=design.plan.spells is None,
    )
    found = with_stream(outlook, with_cause(outlook, made))
    return found.model_copy(update={"rail": _rail(outlook, found)})


def _first_panel(outlook: Outlook) -> tuple[SteadySpeed, Distance]:
    """What a first panel would give, over the hours of the plan."""
    trial = shown_outlook(with_panel(outlook.design), outlook)
    steady = steady_speed(trial, solve_steady(trial))
    return steady, days_run_sun(trial, steady)


def _rail(outlook: Outlook, found: Answers) -> list[RailCell]:
    on_sun = (
        cells.live_cell(found.sun_only_noon, found.sun_only_now)
        if outlook.takes_no_charge
        else cells.steady_cell(found.sun_only_steady, found.sun_only_noon, found.sun_only_now)
    )
    live = cells.live_cell(found.sun_only_noon, found.sun_only_now)
    pushed = with_push(outlook)
    if pushed is not None:
        name, through_mps = pushed
        made_good = over_ground_mps(through_mps, outlook.design.plan.current_mps)
        on_sun, live = (cells.with_line(cell, cells.push_line(name, made_good)) for cell in (on_sun, live))
    bank = outlook.design.bank
    dusk = cells.dusk_cell(found.bank_at_dusk, reserve_of(bank) if bank else None)
    held = cells.held_cell(found.held_back_by)
    if found.rail_kind == "auxiliary":
        return [
            cells.range_cell(found.range_at_speed),
            cells.win_back_cell(found.refill),
            dusk,
            on_sun,
            held,
        ]
    if found.rail_kind == "home_charged":
        return [
            cells.range_cell(found.range_at_speed),
            cells.share_cell(found.sun_share) if found.dock_day is None else cells.dock_cell(found.dock_day),
            dusk,
            cells.refill_cell(found.refill),
            held,
        ]
    if found.rail_kind == "no_bank":
        return [
            live,
            cells.live_distance_cell(found.days_run_sun, found.nine_in_ten),
            held,
        ]
    if found.rail_kind == "no_panels":
        return [
            cells.range_cell(found.range_at_speed),
            cells.first_panel_cell(*_first_panel(outlook)),
            dusk,
            held,
        ]
    return [
        on_sun,
        cells.run_cell(found.days_run_sun, found.days_run_bank, found.nine_in_ten),
        dusk,
        cells.refill_cell(found.refill),
        held,
    ]


def with_changes(rail: list[RailCell], other: list[RailCell]) -> list[RailCell]:
    """Each cell with its change against the cell of the same key in another rail."""
    values = {cell.key: cell.value for cell in other}

    def change(cell: RailCell) -> Quantity | None:
        old = values.get(cell.key)
        if cell.value is None or old is None or old.quantity != cell.value.quantity:
            return None
        if isinstance(cell.value.value, str) or isinstance(old.value, str):
            return None
        return cell.value.model_copy(update={"value": cell.value.value - old.value, "signed": True})

    return [cell.model_copy(update={"change": change(cell)}) for cell in rail]
