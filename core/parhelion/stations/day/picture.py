"""Sky above, water below: one day's harvest, use and bank, step by step."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta

import numpy as np
from numpy.typing import NDArray

from parhelion.balance.flow import CURTAILED, HOUSE, MOTOR, RAN, REFUSED, SOC
from parhelion.balance.ledger import Ledger, ledger_of, others_w
from parhelion.balance.outlook import Outlook
from parhelion.design import SourceKind, Spell
from parhelion.quantities import Frozen
from parhelion.sun.climate import air_temperature_c

TICK_H = 2


class GroupHarvest(Frozen):
    """Watts of one panel group at the bank's terminals, step by step."""

    id: str
    name: str
    power_w: list[float]


class OtherSource(Frozen):
    """Watts of one kind of other source at the bank, step by step."""

    kind: SourceKind
    name: str
    power_w: list[float]


class Stretch(Frozen):
    """From one place on the axis to another, in steps from the start."""

    start: float
    end: float


class Tick(Frozen):
    """A whole local hour on the axis: how many steps from the start, and what the clock shows."""

    index: float
    clock_min: int


class DayPicture(Frozen):
    """Lists over the steps, unless said otherwise; indices count steps from the start of the day."""

    starts_at: datetime
    clock_min: list[float]  # local clock at the start of each step, minutes after midnight
    ticks: list[Tick]
    sunrise_index: float | None
    sunset_index: float | None
    noon_index: float
    elevation_deg: list[float]
    groups: list[GroupHarvest]
    others: list[OtherSource]  # those aboard
    sun_share_frac: float | None  # of all that charged or drove this day; None where nothing came
    clear_w: list[float]
    house_w: list[float]
    motor_w: list[float]
    thrown_away_w: list[float]  # refused by the bank, or curtailed without one
    soc: list[float] | None  # at the steps' edges, one value more
    soc_low: list[float] | None  # 10 % of such days
    soc_high: list[float] | None
    reserve_frac: float | None
    cut_out_frac: float | None
    spells: list[Spell]
    spells_default: bool
    motoring: list[Stretch]
    plan_speed_mps: float
    nameplate_w: float
    stopped: list[bool]  # the motor was meant to run and did not, or not all of the step
    zone: str
    air_temperature_c: float
    ledger: Ledger
    ledger_shares: dict[str, float]  # of each entry, over all that came
    motor_direct_wh: float  # of the motor's energy, what came straight from the sun


def day_picture(outlook: Outlook) -> DayPicture:
    """Everything the day's picture shows of a design."""
    design, day, store = outlook.design, outlook.day, outlook.store
    start = design.plan.start_charge_frac
    record = outlook.plan_record
    shown_index = outlook.light.shown
    shown = record[shown_index]
    lanes = None
    if store is not None:
        edges = np.concatenate([np.full((len(record), 1), start), record[:, :, SOC]], axis=1)
        low, high = np.percentile(edges, [10, 90], axis=0)
        lanes = (edges[shown_index].tolist(), low.tolist(), high.tolist())
    ledger = ledger_of(outlook, record, shown_index)
    return DayPicture(
        starts_at=day.starts_at,
        clock_min=list(outlook.timeline.clock_min),
        ticks=_ticks(outlook),
        sunrise_index=0.0 if day.sunrise_at else None,
        sunset_index=day.dusk_index if day.sunset_at else None,
        noon_index=day.index_at(day.solar_noon_at),
        elevation_deg=day.elevation_deg.tolist(),
        groups=[
            GroupHarvest(
                id=group.id,
                name=design.place(group.place_id).name,
                power_w=outlook.harvest.groups_w[group.id][shown_index].tolist(),
            )
            for group in design.panels
        ],
        others=[
            OtherSource(
                kind=kind,
                name=", ".join(source.name for source in design.sources if source.kind is kind),
                power_w=watts.tolist(),
            )
            for kind, watts in others_w(outlook, shown).items()
            if any(source.kind is kind for source in design.sources)
        ],
        sun_share_frac=ledger.sun_share,
        clear_w=outlook.clear_harvest.sun_w[0].tolist(),
        house_w=shown[:, HOUSE].tolist(),
        motor_w=shown[:, MOTOR].tolist(),
        thrown_away_w=(shown[:, REFUSED] + shown[:, CURTAILED]).tolist(),
        soc=lanes[0] if lanes else None,
        soc_low=lanes[1] if lanes else None,
        soc_high=lanes[2] if lanes else None,
        reserve_frac=store.reserve if store else None,
        cut_out_frac=store.cut_out if store else None,
        spells=list(outlook.spells),
        spells_default=design.plan.spells is None,
        motoring=_stretches(outlook.motoring),
        plan_speed_mps=outlook.plan_speed_mps,
        nameplate_w=design.nameplate_w,
        stopped=((shown[:, RAN] < 1 - 1e-9) & (outlook.motoring > 0)).tolist(),
        zone=day.timeline.zone.key,
        air_temperature_c=air_temperature_c(design),
        ledger=ledger,
        ledger_shares=ledger.shares,
        motor_direct_wh=_direct_wh(outlook, shown),
    )


def _direct_wh(outlook: Outlook, shown: NDArray[np.float64]) -> float:
    """Of the motor's energy, what the sun of the same step gave after the house [Wh]."""
    left = np.maximum(outlook.live_net_w(outlook.shown_by_bank_w), 0.0)
    return outlook.wh(np.minimum(left, shown[:, MOTOR]))


def _clock(moment: datetime) -> float:
    return moment.hour * 60 + moment.minute + moment.second / 60


def _ticks(outlook: Outlook) -> list[Tick]:
    """Every second whole local hour of the day; found by the clock, so that a change of offset shows."""
    day = outlook.day
    first = day.starts_at.astimezone(UTC).replace(minute=0, second=0, microsecond=0)
    found = []
    for quarter in range(4 * 26):  # zones stand at quarter hours from UTC
        moment = first + timedelta(minutes=15 * quarter)
        local = moment.astimezone(day.starts_at.tzinfo)
        index = day.index_at(moment)
        if local.minute == 0 and local.hour % TICK_H == 0 and 0 <= index <= day.steps:
            found.append(Tick(index=index, clock_min=local.hour * 60))
    return found


def _stretches(motoring: NDArray[np.float64]) -> list[Stretch]:
    """Where the motor is meant to run, as stretches of step indices with their fractions."""
    found: list[Stretch] = []
    start: float | None = None
    for index, share in enumerate(motoring):
        if share > 0 and start is None:
            start = index + 1 - share
        elif share == 0 and start is not None:
            found.append(Stretch(start=start, end=_end(motoring, index - 1)))
            start = None
    if start is not None:
        found.append(Stretch(start=start, end=_end(motoring, len(motoring) - 1)))
    return found


def _end(motoring: NDArray[np.float64], last: int) -> float:
    return float(last + (motoring[last] if motoring[last] < 1 else 1))
