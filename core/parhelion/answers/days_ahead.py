"""Days ahead: out some days, at rest some days, a spell of fog between; ready by Saturday?

References
----------
[1] Days of the plan's month as the place has them (`sun.generated`): 200 runs of days that follow each other,
    each carrying its charge into the next; out at the plan's speed and hours, without foresight.
"""

from __future__ import annotations

from typing import Literal

import numpy as np
from numpy.typing import NDArray

from parhelion.answers.season import POOR, between, light_at_skies
from parhelion.constants import STEP_H
from parhelion.day.flow import GENERATOR, HOUSE_SOC, RAN, SOC, run_days
from parhelion.day.outlook import Outlook, outlook_under
from parhelion.design import BoatDesign, Sky
from parhelion.hull.demand import demand_curve
from parhelion.quantities import Frozen, Sentence, count, distance, fraction, sentence, speed
from parhelion.sun.generated import DAYS, middle_day, month_of
from parhelion.sun.sky import clear_sky_index

Array = NDArray[np.float64]

RUNS = 200
STRIDE = DAYS // RUNS  # days between the starts of two runs
FULL = 0.99
NEARLY = 1e-6


class DayAhead(Frozen):
    """One day of the trip, over all runs: 1 in 10 is lower, the usual, 1 in 10 is higher."""

    number: int
    kind: Literal["out", "rest"]
    fog: bool
    charge_low: float  # at the day's end
    charge_middle: float
    charge_high: float
    metres_low: float
    metres_middle: float
    metres_high: float
    stopped_frac: float  # of the runs in which the motor stopped at the reserve
    dark_frac: float  # in which the bank reached its cut-out


class DaysAhead(Frozen):
    """A trip, day by day."""

    days: list[DayAhead]
    start_frac: float
    reserve_frac: float
    metres_middle: float  # of the whole trip
    metres_low: float
    told: list[Sentence]


def _sun(outlook: Outlook, index: Array) -> Array:
    return np.ascontiguousarray(between(outlook.harvest.by_bank_w, index) + outlook.free_w)


def _thirds(values: Array) -> tuple[float, float, float]:
    low, middle, high = np.quantile(values, (POOR, 0.5, 1 - POOR))
    return float(low), float(middle), float(high)


def days_ahead(design: BoatDesign) -> DaysAhead | None:
    """The plan's trip day by day; None without a bank.

    Parameters
    ----------
    design : BoatDesign

    Returns
    -------
    DaysAhead or None
    """
    if design.bank is None:
        return None
    trip, plan = design.plan.trip, design.plan
    year, month = plan.date.year, plan.date.month
    found = month_of(design.site, year, month)
    curve = demand_curve(design)
    light = light_at_skies(design, found.day, middle_day(year, month))
    dated = plan.model_copy(update={"date": middle_day(year, month), "air_temperature_c": None})
    out = outlook_under(design.changed(plan=dated), light, curve)
    at_rest = dated.model_copy(update={"state": trip.rest_state, "stays": ()})
    rest = outlook_under(design.changed(plan=at_rest), light, curve)
    assert out.aboard is not None  # there is a bank
    fog = clear_sky_index(Sky.RAIN, middle_day(year, month), RUNS)
    starts = np.arange(RUNS) * STRIDE
    soc, own = np.full(RUNS, plan.start_charge_frac), np.full(RUNS, plan.start_charge_frac)
    running = np.zeros(RUNS, dtype=bool)
    whole, filled = np.zeros(RUNS), np.zeros(RUNS, dtype=bool)
    made = []
    pattern = (["out"] * trip.out_days + ["rest"] * trip.rest_days) * trip.rounds
    for number, kind in enumerate(pattern, start=1):
        boat = out if kind == "out" else rest
        foggy = trip.fog_days > 0 and trip.fog_from <= number < trip.fog_from + trip.fog_days
        index = fog if foggy else found.index[(starts + number - 1) % DAYS]
        watts = boat.plan_motor_w if kind == "out" else np.zeros(index.shape[1])
        record = run_days(
            _sun(boat, index), boat.house_rows_w, watts, soc, own, STEP_H, out.aboard, boat.backup, running
        )
        running = np.ascontiguousarray(record[:, -1, GENERATOR] > 0)
        soc, own = np.ascontiguousarray(record[:, -1, SOC]), np.ascontiguousarray(record[:, -1, HOUSE_SOC])
        metres = boat.plan_distance_m(record) if kind == "out" else np.zeros(len(index))
        whole += metres
        short = ((record[:, :, RAN] < 1 - NEARLY) & (boat.motoring > 0)).any(axis=1) & (kind == "out")
        dark = record[:, :, SOC].min(axis=1) <= out.aboard.main.cut_out + NEARLY
        filled = record[:, :, SOC].max(axis=1) >= FULL
        low, middle, high = _thirds(soc)
        near, usual, far = _thirds(metres)
        made.append(
            DayAhead(
                number=number, kind="out" if kind == "out" else "rest", fog=foggy, charge_low=low,
                charge_middle=middle, charge_high=high, metres_low=near, metres_middle=usual, metres_high=far,
                stopped_frac=float(short.mean()), dark_frac=float(dark.mean()),
            )
        )  # fmt: skip
    near, usual, _ = _thirds(whole)
    return DaysAhead(
        days=made, start_frac=plan.start_charge_frac, reserve_frac=out.aboard.main.reserve,
        metres_middle=usual, metres_low=near, told=_told(design, made, usual, near, soc, filled, out),
    )  # fmt: skip


def _told(
    design: BoatDesign,
    made: list[DayAhead],
    usual: float,
    near: float,
    soc: Array,
    filled: NDArray[np.bool_],
    out: Outlook,
) -> list[Sentence]:
    trip = design.plan.trip
    found = []
    if trip.out_days:
        found.append(
            sentence(
                "{n} days out at {v}: {usual} in all, 1 trip in 10 less than {near}.",
                n=count(trip.out_days * trip.rounds),
                v=speed(out.plan_speed_mps),
                usual=distance(usual),
                near=distance(near),
            )
        )
    stops = [day for day in made if day.stopped_frac >= 0.5]
    if stops:
        found.append(
            sentence(
                "From day {d} the motor stops at the reserve on most trips: slower, shorter, or rest before.",
                d=count(stops[0].number),
            )
        )
    elif trip.out_days:
        worst = max(made, key=lambda day: day.stopped_frac)
        found.append(
            sentence(
                "The motor stops on {x} of trips at the worst, day {d}.",
                x=fraction(worst.stopped_frac),
                d=count(worst.number),
            )
        )
    dark = [day for day in made if day.dark_frac >= POOR]
    if dark:
        found.append(
            sentence(
                "On day {d} the house goes dark on {x} of trips.",
                d=count(dark[0].number),
                x=fraction(dark[0].dark_frac),
            )
        )
    if trip.rest_days:
        ready = float((soc >= design.plan.start_charge_frac - NEARLY).mean())
        full = float(filled.mean())
        found.append(
            sentence(
                "After {r} days at rest she is back at {s} on {x} of trips, and was full that day on {f}.",
                r=count(trip.rest_days),
                s=fraction(design.plan.start_charge_frac),
                x=fraction(ready),
                f=fraction(full),
            )
        )
    return found
