"""The upgrade ladder: which steps to take, in which order, within a budget of money and weight.

References
----------
[1] Every step is a changed boat, its mass and cost counted, and its day solved again. A beam search: from the
    few best boats so far each step is tried; those that go furthest and those that go furthest for their
    price are kept. Against every combination on small ladders it finds the best; see docs/methods/pace.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Literal

import numpy as np

from parhelion.balance.dock import LONGEST_RANGE_H
from parhelion.balance.outlook import Outlook, shown_outlook
from parhelion.computing.progress import Report, silent
from parhelion.design import BoatDesign, Budget
from parhelion.design.refit import Refit, refit
from parhelion.market.parts import CONTROLLER_PRICE, battery_price, first_panel_offer, panel_offer
from parhelion.quantities import (
    Frozen,
    Sentence,
    count,
    distance,
    fraction,
    mass,
    money,
    power,
    sentence,
    so_many,
)
from parhelion.rail.cells import rail_kind
from parhelion.rail.held_back import Measure, endless_m, measure_of, miles_m
from parhelion.rail.steps import (
    FIRST_PANEL_W,
    Changed,
    longer_day,
    with_better_screw,
    with_larger_controllers,
    with_lithium,
    with_panel,
    with_stronger_drive,
)
from parhelion.wiring.panel_volts import swelled

Kind = Literal["panel", "battery", "controller", "house", "mass", "chemistry", "propeller", "drive"]

MOST_STEPS, BEAM = 8, 3
HOUSE_FRAC, HOUSE_COINS_PER_W = 0.3, 6.0  # a thriftier fridge, better lights; invented coins a watt saved
LIGHTER_FRAC = 0.03  # of all aboard, left ashore
WORTH_FRAC = 0.002  # of the miles: a step that wins less is not taken
ONCE: tuple[Kind, ...] = ("house", "mass", "controller", "chemistry", "propeller", "drive")


class UpgradeStep(Frozen):
    """One step of the ladder, in the order it is taken."""

    kind: Kind
    label: Sentence
    cost: float
    mass_kg: float
    gain_m: float  # over the step before
    total_m: float
    owned: bool


class UpgradeSteps(Frozen):
    """From the boat as she is, step by step."""

    measure: Measure
    start_m: float
    steps: list[UpgradeStep]
    cost: float
    mass_kg: float
    tried: int
    told: list[Sentence]
    refit: Refit | None  # that takes all steps; None where none is worth it


_Made = tuple[BoatDesign, Sentence, float, float, bool]  # with a step: its name, cost, mass, whether owned
_Step = tuple[Kind, BoatDesign, Sentence, float, float, bool]


@dataclass(frozen=True)
class _Boat:
    """A boat on the ladder."""

    design: BoatDesign
    miles_m: float
    added_kg: float = 0.0
    cost: float = 0.0
    bought_kg: float = 0.0  # what counts against the weight of the budget
    steps: tuple[UpgradeStep, ...] = ()
    taken: tuple[tuple[Kind, int], ...] = field(default=())

    def times(self, kind: Kind) -> int:
        return dict(self.taken).get(kind, 0)


def _panel(boat: _Boat, base: BoatDesign, budget: Budget) -> _Made:
    """One more of the largest group's panels; it gives what those of its group give on the mean."""
    largest, more = base.largest_group, boat.times("panel") + 1
    if largest is None:
        changed, watts = with_panel(boat.design), FIRST_PANEL_W
        price, kg = first_panel_offer(watts)
    else:
        watts = largest.nameplate_w
        grown = swelled(largest, more)
        panels = tuple(grown if g.id == largest.id else g for g in boat.design.panels)
        changed = boat.design.changed(panels=panels)
        price, kg = panel_offer(largest)
    owned = more <= budget.owned_panels
    return changed, sentence("a {w} panel", w=power(watts)), 0.0 if owned else price, kg, owned


def _built(base: BoatDesign, top: _Boat) -> BoatDesign:
    """The boat at the top of the ladder as it would be drawn and weighed: panels counted, not spread."""
    more, largest, made = top.times("panel"), base.largest_group, top.design
    if more and largest is not None:
        grown = largest.model_copy(update={"count": largest.count + more, "columns": None})
        made = made.changed(panels=tuple(grown if g.id == largest.id else g for g in base.panels))
    return made.weighing(base.displacement_kg + top.added_kg)


def _unit(boat: _Boat, budget: Budget) -> _Made | None:
    bank = boat.design.bank
    if bank is None:
        return None
    grown = bank.model_copy(update={"parallel": bank.parallel + 1})
    owned = boat.times("battery") < budget.owned_units and not boat.times("chemistry")
    price = battery_price(bank, grown.nominal_wh - bank.nominal_wh)
    changed = boat.design.changed(banks=(grown, *boat.design.banks[1:]))
    label = sentence("one more string of {n} battery units", n=count(bank.series))
    if bank.series == 1:
        label = sentence("one more battery unit")
    return changed, label, 0.0 if owned else price, grown.mass - bank.mass, owned


def _thrift(boat: _Boat) -> _Made | None:
    loads = boat.design.loads
    mean_w = sum(load.power_w * load.hours_per_day / 24 for load in loads)
    if mean_w < 1:
        return None
    less = tuple(load.model_copy(update={"power_w": load.power_w * (1 - HOUSE_FRAC)}) for load in loads)
    label = sentence("a house that takes {x} less", x=fraction(HOUSE_FRAC))
    return boat.design.changed(loads=less), label, HOUSE_FRAC * mean_w * HOUSE_COINS_PER_W, 0.0, False


def _amps(boat: _Boat, base: Outlook) -> _Made | None:
    larger = with_larger_controllers(base)
    if larger is None:
        return None
    changed = boat.design.changed(controllers=larger.controllers)
    return changed, sentence("the next larger controller"), CONTROLLER_PRICE, 0.0, False


def _made(step: Changed | None) -> _Made | None:
    return None if step is None else (step.design, step.label, step.cost, step.mass_kg, False)


def _lithium(boat: _Boat) -> _Made | None:
    """Asked before more of the old bank is bought, not after."""
    return None if boat.times("battery") else _made(with_lithium(boat.design))


def _screw(boat: _Boat, base: Outlook) -> _Made | None:
    """The propeller that suits the motor as it is, on any boat of the ladder."""
    made = None if boat.times("drive") else with_better_screw(base)
    if made is None:
        return None
    return boat.design.changed(drives=made.design.drives), made.label, made.cost, made.mass_kg, False


def _stronger(boat: _Boat) -> _Made | None:
    """A motor of more watts; its propeller comes with it, so that the old one is not changed before."""
    return None if boat.times("propeller") else _made(with_stronger_drive(boat.design))


def _steps(boat: _Boat, base: Outlook, budget: Budget) -> list[_Step]:
    """Every step from a boat: kind, the boat with it, its name, cost, mass, whether it is owned."""
    made: list[tuple[Kind, _Made | None]] = [
        ("panel", _panel(boat, base.design, budget)),
        ("battery", _unit(boat, budget)),
        ("house", _thrift(boat)),
        ("controller", _amps(boat, base)),
        ("chemistry", _lithium(boat)),
        ("propeller", _screw(boat, base)),
        ("drive", _stronger(boat)),
    ]
    drop = LIGHTER_FRAC * base.design.displacement_kg
    made.append(("mass", (boat.design, sentence("{m} left ashore", m=mass(drop)), 0.0, -drop, False)))
    found = []
    for kind, step in made:
        if step is not None and not (kind in ONCE and boat.times(kind)):
            found.append((kind, *step))
    return found


def _allowed(budget: Budget, cost: float, bought_kg: float) -> bool:
    return cost <= budget.coins + 1e-9 and (budget.mass_kg is None or bought_kg <= budget.mass_kg + 1e-9)


def _after(boat: _Boat, step: _Step, miles: Callable[..., float]) -> _Boat:
    kind, design, label, cost, kg, owned = step
    total = miles(design, boat.added_kg + kg)
    taken_step = UpgradeStep(
        kind=kind, label=label, cost=cost, mass_kg=kg, gain_m=total - boat.miles_m, total_m=total, owned=owned
    )
    taken = {**dict(boat.taken), kind: boat.times(kind) + 1}
    return _Boat(
        design, total, boat.added_kg + kg, boat.cost + cost, boat.bought_kg + max(kg, 0.0),
        (*boat.steps, taken_step), tuple(sorted(taken.items())),
    )  # fmt: skip


def upgrade_steps(outlook: Outlook, report: Report = silent) -> UpgradeSteps:
    """The best steps within the plan's budget.

    Parameters
    ----------
    outlook : Outlook
    report : Report
        Told after every step.

    Returns
    -------
    UpgradeSteps
        No steps where nothing within the budget is worth taking.
    """
    design, budget = outlook.design, outlook.design.plan.budget
    measure = measure_of(outlook, rail_kind(design))
    base = shown_outlook(design, outlook)
    whole = design.displacement_kg
    most = endless_m(base) if measure == "range" else np.inf

    def miles(changed: BoatDesign, added_kg: float) -> float:
        return min(miles_m(shown_outlook(changed, base, whole + added_kg), measure), most)

    start = _Boat(design, miles(design, 0.0))
    best, beam, tried = start, [start], 0
    seen: dict[tuple[tuple[Kind, int], ...], _Boat] = {}
    for level in range(MOST_STEPS):
        grown = []
        for boat in beam:
            for step in _steps(boat, base, budget):
                _, _, _, cost, kg, _ = step
                if not _allowed(budget, boat.cost + cost, boat.bought_kg + max(kg, 0.0)):
                    continue
                kind = step[0]
                key = tuple(sorted({**dict(boat.taken), kind: boat.times(kind) + 1}.items()))
                if key in seen:
                    continue
                tried += 1
                made = _after(boat, step, miles)
                seen[key] = made
                grown.append(made)
        report((level + 1) / MOST_STEPS)
        if not grown:
            break
        top = max(grown, key=lambda b: (b.miles_m, -b.cost))
        if top.miles_m > best.miles_m * (1 + WORTH_FRAC) + 1.0:
            best = top
        by_miles = sorted(grown, key=lambda b: -b.miles_m)[:BEAM]
        by_price = sorted(grown, key=lambda b: -(b.miles_m - start.miles_m) / (b.cost + 1.0))[:BEAM]
        beam = list({boat.taken: boat for boat in (*by_miles, *by_price)}.values())
    best = _pruned(best, start, budget, base, miles)
    worth = bool(best.steps)
    return UpgradeSteps(
        measure=measure,
        start_m=start.miles_m,
        steps=list(best.steps),
        cost=best.cost,
        mass_kg=best.added_kg,
        tried=tried,
        told=[*_told(start, best, budget), *_no_end(best, most), *_longer(base, measure, start.miles_m)],
        refit=refit(design, _built(design, best)) if worth else None,
    )


def _pruned(best: _Boat, start: _Boat, budget: Budget, base: Outlook, miles: Callable[..., float]) -> _Boat:
    """The same steps, those that win nothing left out, in the order of what they win for their price."""
    wanted = dict(best.taken)
    boat = start
    while True:
        steps = [s for s in _steps(boat, base, budget) if boat.times(s[0]) < wanted.get(s[0], 0)]
        if "chemistry" in wanted and not boat.times("chemistry"):  # of the new bank, not of the old one
            steps = [s for s in steps if s[0] != "battery"]
        after = [_after(boat, step, miles) for step in steps]
        after = [b for b in after if b.steps[-1].gain_m > WORTH_FRAC * max(boat.miles_m, 1.0)]
        if not after:
            return boat
        boat = max(after, key=lambda b: b.steps[-1].gain_m / (b.steps[-1].cost + 1.0))


def _no_end(best: _Boat, most_m: float) -> list[Sentence]:
    """That a range is followed no further."""
    if best.miles_m < most_m:
        return []
    return [sentence("With them the sun keeps up: no end after {h} hours.", h=count(round(LONGEST_RANGE_H)))]


def _longer(base: Outlook, measure: Measure, start_m: float) -> list[Sentence]:
    """What an hour more under way wins, which costs nothing; nothing where hours do not count."""
    longer = longer_day(base) if measure != "range" else None
    gain = miles_m(longer, measure) - start_m if longer is not None else 0.0
    if gain <= WORTH_FRAC * start_m:
        return []
    return [sentence("An hour longer under way wins {gain}, for nothing.", gain=distance(gain, signed=True))]


def _told(start: _Boat, best: _Boat, budget: Budget) -> list[Sentence]:
    if not best.steps:
        return [
            sentence(
                "Nothing within {c} wins a thing worth taking: go slower, or shorter.", c=money(budget.coins)
            )
        ]
    gain = best.miles_m - start.miles_m
    found = [
        sentence(
            so_many(len(best.steps), "step") + " for {c}: {gain}, from {a} to {b}.",
            n=count(len(best.steps)), c=money(best.cost), gain=distance(gain, signed=True),
            a=distance(start.miles_m), b=distance(best.miles_m),
        )
    ]  # fmt: skip
    left = budget.coins - best.cost
    if left > 0.3 * budget.coins and budget.coins > 0:
        found.append(sentence("{c} are left: more of the same wins little.", c=money(left)))
    if any(step.kind == "panel" for step in best.steps):
        found.append(
            sentence("Where another panel lies is not asked here: the Array looks for its place and shade.")
        )
    return found
