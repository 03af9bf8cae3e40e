"""Days ahead: out some days, at rest some days, a spell of fog between; ready by Saturday?

References
----------
[1] Days of the plan's month as the place has them (`sun.generated`): 200 runs of days that follow each other,
    each carrying its charge into the next; out at the plan's speed and hours, without foresight.
"""

from __future__ import annotations

from datetime import date as Date
from datetime import timedelta
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from parhelion.balance.flow import GENERATOR, HOUSE_SOC, RAN, SOC, run_days
from parhelion.balance.outlook import Outlook, outlook_under
from parhelion.design import BoatDesign, Sky, TripDay
from parhelion.design.plan import Trip
from parhelion.hull.demand import demand_curve
from parhelion.quantities import Frozen, Sentence, count, distance, fraction, sentence, so_many, speed
from parhelion.stations.year.season import POOR, between, light_at_skies
from parhelion.sun.generated import DAYS, middle_day, month_of
from parhelion.sun.sky import clear_sky_index

Array = NDArray[np.float64]

RUNS = 200
STRIDE = DAYS // RUNS  # days between the starts of two runs
FULL = 0.99
NEARLY = 1e-6
RARELY = 0.005
SAME = 1e-3  # of a distance


class DayAhead(Frozen):
    """One day of the trip, over all runs: 1 in 10 is lower, the usual, 1 in 10 is higher."""

    number: int
    kind: Literal["out", "rest"]
    date: Date | None  # where the days are planned one by one
    sky: Sky | None  # None: as the climate has it
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


def days_of(trip: Trip) -> list[TripDay]:
    """The trip's days one by one: as planned, or out and at rest in rounds with their fog."""
    if trip.days:
        return list(trip.days)
    made = []
    pattern = ([True] * trip.out_days + [False] * trip.rest_days) * trip.rounds
    for number, out in enumerate(pattern, start=1):
        foggy = trip.fog_days > 0 and trip.fog_from <= number < trip.fog_from + trip.fog_days
        made.append(TripDay(out=out, sky=Sky.RAIN if foggy else None))
    return made


class _Boats:
    """The boat out, at each speed, and at rest, under the light of one day at every steady sky."""

    def __init__(self, design: BoatDesign, date: Date):
        self.design = design
        self.curve = demand_curve(design)
        self.light = light_at_skies(design.site.spot, date)
        self.dated = design.plan.model_copy(update={"date": date, "air_temperature_c": None})
        self.made: dict[tuple[bool, float | None], Outlook] = {}

    def of(self, day: TripDay) -> Outlook:
        key = (day.out, day.speed_mps if day.out else None)
        if key not in self.made:
            rest = {"state": self.dated.trip.rest_state, "stays": ()}
            asked = {"speed_mps": day.speed_mps} if day.out and day.speed_mps is not None else {}
            plan = self.dated.model_copy(update=asked if day.out else rest)
            self.made[key] = outlook_under(self.design.changed(plan=plan), self.light, self.curve)
        return self.made[key]


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
    boats = _Boats(design, middle_day(year, month))
    starts = np.arange(RUNS) * STRIDE
    soc, own = np.full(RUNS, plan.start_charge_frac), np.full(RUNS, plan.start_charge_frac)
    running = np.zeros(RUNS, dtype=bool)
    whole, filled = np.zeros(RUNS), np.zeros(RUNS, dtype=bool)
    made = []
    for number, day in enumerate(days_of(trip), start=1):
        boat = boats.of(day)
        aboard = boat.aboard
        assert aboard is not None  # there is a bank
        index = found.index[(starts + number - 1) % DAYS]
        if day.sky is not None:
            index = clear_sky_index(day.sky, middle_day(year, month) + timedelta(days=number), RUNS)
        watts = boat.plan_motor_w if day.out else np.zeros(index.shape[1])
        record = run_days(
            _sun(boat, index),
            boat.house_rows_w,
            watts,
            soc,
            own,
            boat.timeline.step_h,
            aboard,
            boat.backup,
            running,
        )
        running = np.ascontiguousarray(record[:, -1, GENERATOR] > 0)
        soc, own = np.ascontiguousarray(record[:, -1, SOC]), np.ascontiguousarray(record[:, -1, HOUSE_SOC])
        metres = boat.plan_distance_m(record) if day.out else np.zeros(len(index))
        whole += metres
        short = ((record[:, :, RAN] < 1 - NEARLY) & (boat.motoring > 0)).any(axis=1) & day.out
        dark = record[:, :, SOC].min(axis=1) <= aboard.main.cut_out + NEARLY
        filled = record[:, :, SOC].max(axis=1) >= FULL
        low, middle, high = _thirds(soc)
        near, usual, far = _thirds(metres)
        made.append(
            DayAhead(
                number=number, kind="out" if day.out else "rest", sky=day.sky,
                date=plan.date + timedelta(days=number - 1) if trip.days else None, charge_low=low,
                charge_middle=middle, charge_high=high, metres_low=near, metres_middle=usual, metres_high=far,
                stopped_frac=float(short.mean()), dark_frac=float(dark.mean()),
            )
        )  # fmt: skip
    near, usual, _ = _thirds(whole)
    out = boats.of(TripDay())
    assert out.aboard is not None
    return DaysAhead(
        days=made, start_frac=plan.start_charge_frac, reserve_frac=out.aboard.main.reserve,
        metres_middle=usual, metres_low=near,
        told=_told(design, made, usual, near, soc, filled, out),
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
    days = days_of(design.plan.trip)
    out_days = sum(day.out for day in days)
    rest_days = len(days) - len("".join("o" if day.out else "r" for day in days).rstrip("r"))
    found = []
    if out_days:
        speeds = {day.speed_mps for day in days if day.out}
        at = " at {v}" if speeds == {None} else ""
        found.append(
            sentence(
                so_many(out_days, "day")
                + " out"
                + at
                + (
                    ": {usual} in all, 1 trip in 10 less than {near}."
                    if near < usual * (1 - SAME)
                    else ": {usual} in all on nine trips of ten."
                ),
                n=count(out_days),
                **({"v": speed(out.plan_speed_mps)} if at else {}),
                usual=distance(usual),
                **({"near": distance(near)} if near < usual * (1 - SAME) else {}),
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
    elif out_days:
        worst = max(made, key=lambda day: day.stopped_frac)
        never = worst.stopped_frac < RARELY
        found.append(
            sentence("The motor never stops at the reserve on these trips.")
            if never
            else sentence(
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
    if rest_days:
        start = design.plan.start_charge_frac
        back = (soc >= start - NEARLY) | (filled & (start >= FULL))  # full by day is back
        ready = float(back.mean())
        full = float(filled.mean())
        found.append(
            sentence(
                "After "
                + so_many(rest_days, "day", "r")
                + " at rest she is back at {s} on {x} of trips, and was full that day on {f}.",
                r=count(rest_days),
                s=fraction(design.plan.start_charge_frac),
                x=fraction(ready),
                f=fraction(full),
            )
        )
    return found
