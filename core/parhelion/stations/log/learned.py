"""The model made the boat's own: what a season's readings say of panels, hull, house and sky.

References
----------
[1] Panels: the harvest factor of each controller's panels over the outings (`meters.factors`). Hull: each
    outing's median of watts over the model's at the speed read; a median of those. House: what is left of the
    harvest when motor and the change of charge are taken off, over the loads as set down.
[2] What was known before: panels alike differ by some 6 % with dirt and heat; the design's own band of watts
    at speed; a house by its list of loads within a quarter; a bank by its label and age within some 15 %.
[3] Bank: amp-hours between moments at which it tells its charge (`meters.capacity`).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from parhelion.bank.age import health_of
from parhelion.bank.store import temperature_of
from parhelion.design import BoatDesign, MeasuredRun, Sky
from parhelion.design.chemistries import CHEMICALS
from parhelion.design.refit import refit
from parhelion.diagnosis.day_model import word_index
from parhelion.diagnosis.inputs import inputs_of
from parhelion.hull.demand import demand_curve
from parhelion.meters.capacity import Count, capacity, counts
from parhelion.meters.factors import DayRatio, Factor, day_ratio, harvest_factor, power_scale
from parhelion.quantities import Quantity, Sentence, fraction, power, sentence, speed, words
from parhelion.quantities import capacity as capacity_ah
from parhelion.stations.log.outing_day import OutingDay
from parhelion.stations.log.shown import Learned, RunOffered
from parhelion.sun.climate import water_temperature_c

Array = NDArray[np.float64]

PANELS_BEFORE, HOUSE_BEFORE, BANK_BEFORE = 1.10, 1.25, 1.15  # 9 of 10 lie within these times the model [2]
LEAST_HOUSE_H, TOP_SOC, SOC_KNOWN = 4.0, 0.97, 0.015
UNDER_WAY_MPS, LEAST_STEADY, STEADY_SPREAD = 0.5, 3, 0.35
MOST_RUNS = 12
RUN_PREFIX, RUN_SET = "log-", "from the log"
HOUSE_LEAST, HOUSE_MOST = 0.2, 5.0
HEALTH_LEAST, HEALTH_MOST = 0.06, 1.2  # of the label, as a design may have it
CLOUDS = (Sky.BROKEN, Sky.OVERCAST, Sky.RAIN)
LEAST_OUTINGS = 3
LAME = 0.8  # of the model: below it something is broken
WORTH_SPREADS, WORTH = 1.0, 0.02  # a factor nearer to 1 than this is no news


@dataclass(frozen=True)
class Steady:
    """An outing's steady speed, the battery watts it took, and the model's."""

    outing_id: str
    speed_mps: float
    power_w: float
    model_w: float
    waves: bool


def steady_of(day: OutingDay) -> Steady | None:
    """The middle of an outing's rows under way; None with too few."""
    log = day.rows.log()
    rows = np.isfinite(log.motor_w) & np.isfinite(log.speed_mps) & (log.speed_mps > UNDER_WAY_MPS)
    rows &= log.motor_w > 1
    if rows.sum() < LEAST_STEADY:
        return None
    model = demand_curve(day.design).power_at(np.maximum(log.speed_mps, 0.05))
    logs = np.log(log.motor_w[rows] / model[rows])
    keep = np.isfinite(logs) & (np.abs(logs - np.median(logs)) < STEADY_SPREAD)
    if keep.sum() < LEAST_STEADY:
        return None
    through = float(np.median(log.speed_mps[rows][keep]))
    here = float(demand_curve(day.design).power_at(through))
    times = float(np.exp(np.median(logs[keep])))
    return Steady(day.outing.id, through, here * times, here, bool(day.rows.water))


def part_ratio(day: OutingDay, part: str | None, words: Sequence[Sky] | None = None) -> DayRatio | None:
    """What one outing says of a controller's panels, of all of them where none is named; under some words."""
    model = day.modelled_w if part is None else day.box_w(part)
    read = day.read_w if part is None else day.rows.panel_watts(part)
    nameplate = sum(watts for key, watts in day.nameplates_w.items() if part in (None, key))
    free = ~day.throttled & ~day.full_between
    if words is not None:
        free &= np.array([word in words for word in day.words])
    return day_ratio(model, read, day.words, free, nameplate, least_rows=LEAST_STEADY)


def house_ratio(day: OutingDay) -> tuple[float, float] | None:
    """What the house took over its loads as set down, and its spread; None where charge does not tell."""
    bank = day.design.bank
    known = np.flatnonzero(np.isfinite(day.soc_read))
    if bank is None or day.aboard is None or len(known) < 2:
        return None
    first, last = int(known[0]), int(known[-1])
    hours = float(day.steps.step_h[first:last].sum())
    if hours < LEAST_HOUSE_H or float(np.nanmax(day.soc_read)) > TOP_SOC:
        return None
    span = slice(first, last)
    step_h = day.steps.step_h[span]
    share = np.divide(
        day.harvest.by_bank_w[0, span].sum(axis=-1), day.modelled_w[span],
        out=np.zeros(last - first), where=day.modelled_w[span] > 0,
    )  # fmt: skip
    sun = float(np.nansum(day.harvested_w[span] * share * step_h))
    store = day.aboard.main
    chemical = CHEMICALS[bank.chemistry]
    middle = (day.soc_read[last] + day.soc_read[first]) / 2
    charge, cell_v = np.array(chemical.rest_v).T
    rest_v = bank.cells * float(np.interp(middle, charge, cell_v))
    stored = (day.soc_read[last] - day.soc_read[first]) * store.capacity_ah * rest_v
    taken = sun - float(np.sum(day.motor_w[span] * step_h)) - stored
    plan = float(np.sum(day.house_w[span] * step_h))
    if plan <= 0:
        return None
    stored_off = SOC_KNOWN * np.sqrt(2) * store.capacity_ah * store.nominal_v
    off = np.hypot(np.hypot(stored_off, 0.02 * max(sun, 1.0)), _motor_off_wh(day, span))
    spread = off / plan
    value = taken / plan
    return (float(value), float(spread)) if -HOUSE_MOST < value < HOUSE_MOST else None


def _motor_off_wh(day: OutingDay, span: slice) -> float:
    """How far the motor's energy may be off, started and stopped between readings: a flat spread for each."""
    read = day.rows.log().motor_w[span]
    known = np.flatnonzero(np.isfinite(read))
    if len(known) < 2:
        return float(np.sum(day.motor_w[span] * day.steps.step_h[span]))
    apart_h = float(np.median(np.diff(known))) * float(np.mean(day.steps.step_h[span]))
    steps = np.abs(np.diff(read[known]))
    return float(np.sqrt(np.sum(steps**2)) * apart_h / np.sqrt(12))


def _news(found: Factor) -> bool:
    """Whether a factor differs from 1 by more than it is known to."""
    off = abs(np.log(found.value))
    return bool(off > max(WORTH_SPREADS * found.spread_ln, WORTH))


def times_of(value: float) -> Quantity:
    """A factor as it is read: two digits after the point."""
    return words(f"{value:.2f}")


def _as_it_is(found: Factor, lame: bool) -> Sentence | None:
    """Why a factor is not put into the design; None where it can be."""
    if lame:
        return sentence("so little is a fault, not dirt: find it first")
    return None if _news(found) else sentence("as the design has it, within what is known")


def _of(found: Factor) -> dict[str, Any]:
    return {"value": found.value, "low": found.low, "high": found.high, "number": found.number}


def panels_learned(design: BoatDesign, days: Sequence[OutingDay]) -> list[Learned]:
    """The harvest factor of each controller's panels, or of all where only the whole was read."""
    boxes = inputs_of(design)
    read = {part for day in days for part in day.rows.parts}
    parts: list[tuple[str | None, str]] = [(box.key, box.name) for box in boxes if box.key in read]
    if not parts:
        parts = [(None, "Panels")]
    found = []
    for part, name in parts:
        ratios = [one for day in days if (one := part_ratio(day, part)) is not None]
        factor = harvest_factor(ratios)
        if factor is None:
            continue
        groups = {
            group.id
            for box in boxes
            if part in (None, box.key)
            for circuit in box.circuits
            for group in circuit.groups
        }
        panels = tuple(
            group.model_copy(update={"derate_frac": min(max(group.derate_frac * factor.value, 0.05), 1.5)})
            if group.id in groups
            else group
            for group in design.panels
        )
        lame = factor.value < LAME
        now = next((group.derate_frac for group in design.panels if group.id in groups), 1.0)
        found.append(
            Learned(
                key=f"panels-{part or 'all'}", label=name, **_of(factor), of="days",
                before_low=1 / PANELS_BEFORE, before_high=PANELS_BEFORE,
                used=now != 1.0,
                words=sentence(
                    f"{name}: {{f}} of the model's harvest ({{a}} to {{b}}); the design counts {{d}} of the "
                    "label",
                    f=times_of(factor.value), a=times_of(factor.low), b=times_of(factor.high),
                    d=fraction(now),
                ),
                refit=refit(design, design.changed(panels=panels)) if _news(factor) and not lame else None,
                reason=_as_it_is(factor, lame),
            )
        )  # fmt: skip
    return found


def run_of(one: Steady) -> MeasuredRun:
    """An outing's steady speed as a run of the Hull."""
    return MeasuredRun(
        id=f"{RUN_PREFIX}{one.outing_id}"[:40], speed_mps=round(one.speed_mps, 3),
        back_speed_mps=round(one.speed_mps, 3), power_w=round(one.power_w, 1), set_name=RUN_SET,
    )  # fmt: skip


def run_offered(day: OutingDay) -> RunOffered | None:
    """What an outing says of watts at speed, to be put among the Hull's runs; None without a steady speed."""
    one = steady_of(day)
    if one is None:
        return None
    run, runs = run_of(one), day.design.runs
    taken = any(other.id == run.id for other in runs)
    words = sentence(
        "Steady {v} took {w} of the battery, {f} of what the design takes", v=speed(one.speed_mps),
        w=power(one.power_w), f=fraction(one.power_w / one.model_w),
    )  # fmt: skip
    if taken:
        return RunOffered(words=words, refit=None, reason=sentence("it is among the Hull's runs"))
    if one.waves:
        return RunOffered(words=words, refit=None, reason=sentence("in waves: no run for calm water"))
    return RunOffered(
        words=words, refit=refit(day.design, day.design.changed(runs=(*runs, run))), reason=None
    )


def hull_learned(design: BoatDesign, days: Sequence[OutingDay]) -> Learned | None:
    """Watts at speed."""
    steady = [one for day in days if (one := steady_of(day)) is not None]
    factor = power_scale(np.array([one.power_w for one in steady]), np.array([one.model_w for one in steady]))
    if factor is None:
        return None
    kept = tuple(run for run in design.runs if not run.id.startswith(RUN_PREFIX))
    calm = sorted((one for one in steady if not one.waves), key=lambda one: one.speed_mps)
    chosen = (
        [calm[int(i)] for i in np.unique(np.linspace(0, len(calm) - 1, MOST_RUNS).astype(int))]
        if calm
        else []
    )
    runs = tuple(run_of(one) for one in chosen)
    band = float(demand_curve(design).band_at(design.plan.speed_mps))
    enough = len(runs) >= LEAST_OUTINGS
    middle = float(np.median([one.speed_mps for one in steady]))
    watts = float(np.median([one.power_w for one in steady]))
    return Learned(
        key="hull", label="Hull", **_of(factor), of="outings", before_low=1 / band, before_high=band,
        used=len(kept) < len(design.runs),
        words=sentence(
            "She takes {f} of the model's watts ({a} to {b}): {w} at {v}",
            f=times_of(factor.value), a=times_of(factor.low), b=times_of(factor.high),
            w=power(watts), v=speed(middle),
        ),
        refit=refit(design, design.changed(runs=(*kept, *runs))) if enough else None,
        reason=None if enough else sentence("three outings with steady speeds and watts are needed"),
    )  # fmt: skip


def house_learned(design: BoatDesign, days: Sequence[OutingDay]) -> Learned | None:
    """What the house takes."""
    told = [one for day in days if (one := house_ratio(day)) is not None]
    if len(told) < LEAST_OUTINGS:
        return None
    values, spreads = np.array([v for v, _ in told]), np.array([s for _, s in told])
    weights = 1 / spreads**2
    middle = float(np.sum(values * weights) / weights.sum())
    wide = max(float(1 / np.sqrt(weights.sum())), float(np.std(values)) / np.sqrt(len(values)))
    factor = Factor(middle, middle - 1.96 * wide, middle + 1.96 * wide, len(told))
    clocked = sum(load.drawn_w * load.hours_per_day for load in design.loads if load.from_clock is not None)
    spread = sum(load.drawn_w * load.hours_per_day for load in design.loads if load.from_clock is None)
    times = (factor.value * (clocked + spread) - clocked) / spread if spread > 0 else 0.0
    can = spread > 0 and times > HOUSE_LEAST and abs(middle - 1) > max(wide, WORTH)
    loads = tuple(
        load.model_copy(update={"hours_per_day": min(round(load.hours_per_day * times, 2), 24.0)})
        if load.from_clock is None
        else load
        for load in design.loads
    )
    return Learned(
        key="house", label="House", **_of(factor), of="outings", used=False,
        before_low=1 / HOUSE_BEFORE, before_high=HOUSE_BEFORE,
        words=sentence(
            "The house takes {f} of what its loads add up to ({a} to {b})",
            f=times_of(factor.value), a=times_of(factor.low), b=times_of(factor.high),
        ),
        refit=refit(design, design.changed(loads=loads)) if can else None,
        reason=None if can else _no_house(spread, middle, wide),
    )  # fmt: skip


def bank_learned(design: BoatDesign, days: Sequence[OutingDay]) -> Learned | None:
    """What the bank holds, from amp-hours counted between moments at which it tells its charge."""
    bank = design.bank
    if bank is None:
        return None
    water = water_temperature_c(design)
    found: list[Count] = []
    for day in days:
        air = (day.around.lowest_c + day.around.highest_c) / 2
        log, warm = day.rows.log(), temperature_of(bank, air, water)
        found += counts(bank, log.bank_v, log.bank_a, day.steps.step_h, warm)
    holds = capacity(found)
    if holds is None:
        return None
    counted = bank.capacity_ah * health_of(bank)
    factor = Factor(holds.value / counted, holds.low / counted, holds.high / counted, holds.number)
    health = min(max(round(holds.value / bank.capacity_ah, 3), HEALTH_LEAST), HEALTH_MOST)
    banks = (bank.model_copy(update={"health_frac": health}), *design.banks[1:])
    return Learned(
        key="bank", label=bank.name, **_of(factor), of="counts",
        before_low=1 / BANK_BEFORE, before_high=BANK_BEFORE, used=bank.health_frac is not None,
        words=sentence(
            "{name} holds {c} ({a} to {b}), counted between full, empty or rest; the design counts on {d}",
            name=words(bank.name), c=capacity_ah(holds.value), a=capacity_ah(holds.low),
            b=capacity_ah(holds.high), d=capacity_ah(counted),
        ),
        refit=refit(design, design.changed(banks=banks)) if _news(factor) else None,
        reason=None if _news(factor) else sentence("as the design has it, within what is known"),
    )  # fmt: skip


def _no_house(spread: float, middle: float, wide: float) -> Sentence:
    if spread <= 0:
        return sentence("every load has its own hours: set them at the Bank")
    if abs(middle - 1) <= max(wide, WORTH):
        return sentence("as the design has it, within what is known")
    return sentence("more than hours of these loads can tell: look at the list of loads")


def sky_learned(days: Sequence[OutingDay]) -> Learned | None:
    """What came under cloud against what the words say."""
    ratios = [one for day in days if (one := part_ratio(day, None, CLOUDS)) is not None]
    clear = harvest_factor(
        [one for day in days if (one := part_ratio(day, None, (Sky.CLEAR, Sky.HAZY))) is not None]
    )
    cloudy = harvest_factor(ratios)
    if cloudy is None or clear is None or cloudy.number < LEAST_OUTINGS:
        return None
    before = 1 + word_index(Sky.BROKEN)[1]
    times = 1 / clear.value
    return Learned(
        key="sky", label="Cloud, as noted", value=cloudy.value * times, low=cloudy.low * times,
        high=cloudy.high * times, number=cloudy.number, of="days", before_low=1 / before, before_high=before,
        used=False,
        words=sentence(
            "Under cloud {f} of what the words say ({a} to {b}), clear days aside",
            f=times_of(cloudy.value * times), a=times_of(cloudy.low * times), b=times_of(cloudy.high * times),
        ),
        refit=None, reason=sentence("a word is a word: this is how yours are to be read"),
    )  # fmt: skip


def learned_of(design: BoatDesign, days: Sequence[OutingDay]) -> list[Learned]:
    """All that the outings say of the model."""
    found = [
        hull_learned(design, days),
        *panels_learned(design, days),
        sky_learned(days),
        house_learned(design, days),
        bank_learned(design, days),
    ]
    return [one for one in found if one is not None]
