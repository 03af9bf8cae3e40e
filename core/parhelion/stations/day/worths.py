"""What holds the day's run on sun back: every practical step by the worths of one solve, and solved again.

References
----------
[1] The furthest day that gives its charge back (`balance.pace`, start free between reserve and full). What a
    step is worth: sun that it brings, watts that it saves at the planned speeds, room above and below, each
    at the worth that the solve gives it. Solving the day again with the step confirms it; the two part where
    a step is large.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from parhelion.balance.outlook import Outlook, shown_outlook
from parhelion.balance.pace import Pace, Speeds, pace_plan
from parhelion.bank.store import energy_wh
from parhelion.design import BoatDesign
from parhelion.market.parts import CONTROLLER_PRICE, battery_price
from parhelion.quantities import Frozen, Sentence, distance, energy, fraction, sentence
from parhelion.rail.furthest import losses_of, net_w, speeds_over_watts, trip_plan
from parhelion.rail.speeds import solve_steady, steady_mps
from parhelion.rail.steps import longer_day, usual_steps, with_larger_controllers, with_stronger_drive
from parhelion.sun.timeline import HOUR_S

Array = NDArray[np.float64]
Key = Literal[
    "panel", "battery", "controller", "house", "mass", "reserve", "chemistry", "propeller", "drive", "hours",
    "start",
]  # fmt: skip

HALVINGS = 40
BANK_STEP_WH, RESERVE_STEP, START_STEP = 1000.0, 0.10, 0.10
SAME_WORTH, NEAR_FRAC = 1e-7, 1e-7
HEAVY_M, NOTHING_M = 185.0, 20.0  # a day: less is rounding


class WorthStep(Frozen):
    """One practical step; distances a day on sun alone, those of the start charge once."""

    key: Key
    label: Sentence
    by_worth_m: float | None  # None where no worth of the solve tells it
    gain_m: float  # the day solved again
    cost: float
    mass_kg: float
    for_100_coins_m: float | None  # by the gain; None where it costs nothing
    for_10_kg_m: float | None


class Worths(Frozen):
    """The furthest day on sun alone, and what every step is worth there."""

    distance_m: float
    steady_m: float  # the same day at a constant speed
    steps: list[WorthStep]
    full_frac: float  # of the day with the bank full
    floor_frac: float  # at its reserve
    told: list[Sentence]


@dataclass(frozen=True)
class Cycle:
    """A day that gives its charge back, with the worth of room at the top and at the bottom of the bank."""

    pace: Pace
    of_full: float  # metres for one more watt-hour of capacity
    of_floor: float  # for a reserve one watt-hour higher: zero or less


def cycle_of(outlook: Outlook, speeds: Speeds) -> Cycle:
    """The furthest shown day from some charge back to it [1]."""
    store = outlook.store
    assert store is not None
    floor, full, losses = energy_wh(store.reserve, store), energy_wh(1.0, store), losses_of(outlook)
    net = net_w(outlook)

    def plan(start: float) -> Pace:
        return pace_plan(
            net,
            outlook.motoring,
            outlook.timeline.step_h,
            start,
            start,
            floor,
            full,
            losses.into,
            losses.out,
            speeds,
        )

    def falls(pace: Pace) -> float:
        """How much dearer a stored watt-hour is at the start than at the end."""
        return pace.of_start + pace.of_end

    low, high = floor, full
    for _ in range(HALVINGS):
        middle = (low + high) / 2
        pace = plan(middle)
        lacks = pace.stored_wh.min() < floor - NEAR_FRAC * full  # the house before sunrise
        if not lacks and abs(falls(pace)) <= SAME_WORTH * pace.of_start:
            return Cycle(pace, pace.of_full, pace.of_floor)
        low, high = (middle, high) if lacks or falls(pace) > 0 else (low, middle)
    pace = plan(high)
    # a start charge that no more is won by moving is held by a bound: reserve or full
    return Cycle(pace, pace.of_full + max(falls(pace), 0.0), pace.of_floor + min(falls(pace), 0.0))


def by_worth_m(base: Outlook, cycle: Cycle, trial: Outlook) -> float:
    """What a changed boat wins over a day, by the worths of the base's solve [m].

    Parameters
    ----------
    base, trial : Outlook
        On the same shown day and hours.
    cycle : Cycle
        Of the base.
    """
    assert base.store is not None and trial.store is not None
    pace = cycle.pace
    sun = net_w(trial) - net_w(base)
    asked = trial.curve.power_at(pace.speed_mps) - base.curve.power_at(pace.speed_mps)
    asked = np.where(pace.motor_w > 0, np.nan_to_num(asked), 0.0) * base.motoring
    worth = base.wh(pace.sun_worth * (sun - asked))
    room = energy_wh(1.0, trial.store) - energy_wh(1.0, base.store)
    kept = energy_wh(trial.store.reserve, trial.store) - energy_wh(base.store.reserve, base.store)
    return worth + cycle.of_full * room + cycle.of_floor * kept


@dataclass(frozen=True)
class _Trial:
    key: Key
    label: Sentence
    outlook: Outlook
    cost: float = 0.0
    mass_kg: float = 0.0
    by_worth: bool = True


def _larger_bank(design: BoatDesign) -> tuple[BoatDesign, float, float]:
    """A kilowatt-hour more of the main bank, its mass and its price."""
    bank = design.banks[0]
    grown = 1 + BANK_STEP_WH / bank.nominal_wh
    larger = bank.model_copy(
        update={
            "unit_ah": bank.unit_ah * grown,
            "smallest_unit_ah": bank.smallest_unit_ah and bank.smallest_unit_ah * grown,
            "unit_mass_kg": bank.unit_mass_kg and bank.unit_mass_kg * grown,
        }
    )
    return (
        design.model_copy(update={"banks": (larger, *design.banks[1:])}),
        larger.mass - bank.mass,
        battery_price(bank, BANK_STEP_WH),
    )


def _trials(base: Outlook) -> list[_Trial]:
    """Every step that this boat can take."""
    design = base.design
    whole = design.displacement_kg
    found = []

    def on(changed: BoatDesign, added_kg: float = 0.0) -> Outlook:
        return shown_outlook(changed, base, whole + added_kg)

    for step in usual_steps(base):
        found.append(_Trial(step.key, step.label, on(step.design, step.mass_kg), step.cost, step.mass_kg))
    changed, kg, coins = _larger_bank(design)
    label = sentence("{e} more bank", e=energy(BANK_STEP_WH))
    found.insert(1, _Trial("battery", label, on(changed, kg), coins, kg))
    boxes = with_larger_controllers(base)
    if boxes is not None:
        larger = on(boxes)
        found.append(_Trial("controller", sentence("the next larger controller"), larger, CONTROLLER_PRICE))
    store = base.store
    assert store is not None
    lower = max(store.reserve - RESERVE_STEP, store.cut_out)
    if lower < store.reserve - 1e-6:
        bank = design.banks[0].model_copy(update={"reserve_frac": lower})
        found.append(
            _Trial("reserve", sentence("a reserve of {r}", r=fraction(lower)),
                   on(design.changed(banks=(bank, *design.banks[1:]))))
        )  # fmt: skip
    longer = longer_day(base)
    if longer is not None:
        found.append(_Trial("hours", sentence("an hour longer under way"), longer, by_worth=False))
    return found


def _drive_step(base: Outlook, cycle: Cycle, speeds: Speeds) -> WorthStep | None:
    """A drive of a tenth more watts, where the day runs into its rating."""
    pace, most = cycle.pace, speeds.most_w
    at_top = pace.motor_w >= most * (1 - 1e-9)
    if not at_top.any():
        return None
    made = with_stronger_drive(base.design)
    stronger = shown_outlook(made.design, base, base.design.displacement_kg + made.mass_kg)
    added = stronger.rated_w - base.rated_w
    again = cycle_of(stronger, speeds_over_watts(stronger))
    top = float(speeds.marginal[-1]) * HOUR_S
    dear = np.minimum(pace.sun_worth, top)
    worth = base.wh(np.where(at_top, top - dear, 0.0) * base.motoring) * added
    gain = again.pace.distance_m - pace.distance_m
    return _step("drive", made.label, worth, gain, made.cost, made.mass_kg)


def _step(key: Key, label: Sentence, worth: float | None, gain: float, cost: float, kg: float) -> WorthStep:
    return WorthStep(
        key=key, label=label, by_worth_m=worth, gain_m=gain, cost=cost, mass_kg=kg,
        for_100_coins_m=100 * gain / cost if cost > 0 else None,
        for_10_kg_m=10 * gain / kg if kg > 0 else None,
    )  # fmt: skip


def worths_of(outlook: Outlook) -> Worths | None:
    """Every practical step's worth on the shown day; None without a bank, hours or panels.

    Parameters
    ----------
    outlook : Outlook
    """
    if outlook.aboard is None or not outlook.hours or not outlook.design.panels:
        return None
    base = shown_outlook(outlook.design, outlook)
    speeds = speeds_over_watts(base)
    cycle = cycle_of(base, speeds)
    steps = []
    for trial in _trials(base):
        again = cycle_of(trial.outlook, speeds_over_watts(trial.outlook))
        carried = base.design.plan.current_mps * (trial.outlook.hours - base.hours) * HOUR_S
        gain = again.pace.distance_m - cycle.pace.distance_m + carried
        worth = by_worth_m(base, cycle, trial.outlook) if trial.by_worth else None
        steps.append(_step(trial.key, trial.label, worth, gain, trial.cost, trial.mass_kg))
    drive = _drive_step(base, cycle, speeds)
    steps += [drive] if drive is not None else []
    start = _start_step(base, speeds)
    steps += [start] if start is not None else []
    store = base.store
    assert store is not None
    stored = cycle.pace.stored_wh / energy_wh(1.0, store)
    return Worths(
        distance_m=cycle.pace.distance_m,
        steady_m=steady_mps(outlook, solve_steady(outlook)) * outlook.hours * HOUR_S,
        steps=sorted(steps, key=lambda step: -step.gain_m),
        full_frac=float((stored > 1 - 1e-6).mean()),
        floor_frac=float((cycle.pace.stored_wh < energy_wh(store.reserve, store) * (1 + 1e-6)).mean()),
        told=[*_told(cycle, steps), *_stream_told(base)],
    )


def _start_step(base: Outlook, speeds: Speeds) -> WorthStep | None:
    """Ten points more in the bank at the start, on the run with the bank; told once, not every day."""
    store, start = base.store, base.design.plan.start_charge_frac
    assert store is not None
    more = min(START_STEP, 1.0 - start)
    if more < 0.01:
        return None
    last = base.last_motoring_step
    now, then = (trip_plan(base, speeds, at, last) for at in (start, start + more))
    added = energy_wh(start + more, store) - energy_wh(start, store)
    label = sentence("{x} at the start, once", x=fraction(start + more))
    return _step("start", label, now.of_start * added, then.distance_m - now.distance_m, 0.0, 0.0)


def _stream_told(base: Outlook) -> list[Sentence]:
    """What the distances leave out, where there is a stream."""
    stream = base.design.plan.current_mps
    if not stream:
        return []
    carried = distance(stream * base.hours * HOUR_S, signed=True)
    return [sentence("The day's distance is through the water: the stream makes it {d}.", d=carried)]


def _told(cycle: Cycle, steps: list[WorthStep]) -> list[Sentence]:
    found = []
    by_key = {step.key: step for step in steps}
    bank = by_key["battery"]
    heavy = bank.gain_m < -HEAVY_M
    if abs(cycle.of_full) < 1e-9 and abs(cycle.of_floor) < 1e-9:
        found.append(
            sentence(
                "More bank adds nothing to the day's run: it is never full and never at its reserve."
                + (" Its weight costs {lost}." if heavy else ""),
                **({"lost": distance(-bank.gain_m)} if heavy else {}),
            )
        )
    best = max(steps, key=lambda step: step.gain_m if step.key != "start" else -np.inf)
    if best.gain_m > NOTHING_M:
        found.append(
            Sentence(
                text=f"Most miles: {best.label.text}, {{gain}} a day.",
                slots={**best.label.slots, "gain": distance(best.gain_m, signed=True)},
            )
        )
    paid = [step for step in steps if step.for_100_coins_m is not None and step.gain_m > NOTHING_M]
    if paid:
        cheap = max(paid, key=lambda step: step.for_100_coins_m or 0.0)
        found.append(
            Sentence(
                text=f"Most for its price: {cheap.label.text}, {{gain}} for 100 coins.",
                slots={**cheap.label.slots, "gain": distance(cheap.for_100_coins_m or 0.0)},
            )
        )
    return found
