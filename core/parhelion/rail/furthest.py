"""Ways to spend the shown day's energy, and the furthest of them.

References
----------
[1] `balance.pace`: the furthest run from the start charge to the reserve. Its losses are those of mean
    currents; the plan is then run through the bank step by step and scaled until it never stops.
[2] Each way ends at the reserve or at the drive's limit, on the shown day, over the same hours; sprint and
    rest takes every other hour of them.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from parhelion.balance.flow import CURTAILED, RAN, REFUSED, SOC, end_of_day, run_days
from parhelion.balance.outlook import Outlook, remembered
from parhelion.balance.pace import Pace, Speeds, pace_plan, speeds_of
from parhelion.bank.store import energy_wh
from parhelion.quantities import Frozen
from parhelion.rail.models import Distance
from parhelion.rail.speeds import bank_power_w
from parhelion.sun.timeline import HOUR_S

Array = NDArray[np.float64]
Policy = Literal["best", "constant", "sun", "sprint"]

HALVINGS = 18
EDGES = 600  # of the speed curve that the plan sees
MOST_SCALED = 1.3
SAME_FRAC = 0.005  # of a distance: nothing to choose between
NAMES: dict[Policy, str] = {
    "best": "Furthest",
    "constant": "Constant",
    "sun": "Follow the sun",
    "sprint": "Sprint and rest",
}


class PaceWay(Frozen):
    """One way through the day; lists over its steps, the charge at their edges."""

    key: Policy
    label: str
    distance_m: float
    speed_mps: list[float]  # while the motor runs, 0 where it does not
    motor_w: list[float]
    soc: list[float]
    end_frac: float  # at the last motoring step
    wasted_wh: float
    stops: bool  # short of its hours
    ground_m: float | None = None  # over the ground, where the plan has a stream


@dataclass(frozen=True)
class Losses:
    """Mean losses of a bank at the plan's watts [-]."""

    into: float
    out: float


def losses_of(outlook: Outlook) -> Losses:
    """What charging and discharging keep, at the mean sun and at the plan's watts."""
    store = outlook.store
    assert store is not None
    drawn = outlook.plan_power_w / store.nominal_v
    lit = outlook.shown_sun_w > 0
    given = float(outlook.shown_sun_w[lit].mean()) / store.nominal_v if lit.any() else 0.0
    heavy = max(drawn / store.label_a, 1.0) ** (store.peukert - 1)
    into = store.coulomb_efficiency / (1 + store.resistance_ohm * given / store.nominal_v)
    out = (1 - store.resistance_ohm * drawn / store.nominal_v) / heavy
    return Losses(into, float(np.clip(out, 0.3, 1.0)))


def speeds_over_watts(outlook: Outlook) -> Speeds:
    """The boat's speed over its battery watts up to what the drive takes, as the pace plan sees it."""
    idle, top = outlook.curve.idle_w, max(outlook.rated_w, outlook.curve.idle_w + 1.0)
    watts = idle + (top - idle) * np.linspace(0.0, 1.0, EDGES) ** 2
    return speeds_of(watts, np.asarray(outlook.curve.speed_at(watts)))


def net_w(outlook: Outlook) -> Array:
    """What the sun leaves over the house, with what others spare the motor, shape (144,) [W]."""
    return np.asarray(outlook.shown_net_w + outlook.relief_w * outlook.motoring)


def trip_plan(outlook: Outlook, speeds: Speeds, start_frac: float, last: int) -> Pace:
    """The pace plan from a charge to the reserve, over the first `last` steps."""
    store = outlook.store
    assert store is not None
    losses = losses_of(outlook)
    floor = energy_wh(store.reserve, store)
    return pace_plan(
        net_w(outlook)[:last], outlook.motoring[:last], outlook.timeline.step_h[:last],
        energy_wh(start_frac, store), floor, floor, energy_wh(1.0, store), losses.into, losses.out, speeds,
    )  # fmt: skip


def _most(runs: Callable[[float], bool], low: float, high: float) -> float | None:
    """The largest value that runs, by bisection; None if even the lowest does not."""
    if runs(high):
        return high
    if not runs(low):
        return None
    for _ in range(HALVINGS):
        middle = (low + high) / 2
        low, high = (middle, high) if runs(middle) else (low, middle)
    return low


class ShownDay:
    """One shown day, ready to be driven in several ways."""

    def __init__(self, outlook: Outlook):
        assert outlook.aboard is not None
        self.outlook = outlook
        self.speeds = speeds_over_watts(outlook)
        self.start = outlook.design.plan.start_charge_frac
        self.last = outlook.last_motoring_step
        self.share = outlook.motoring

    def mean_w(self, power_w: Array, share: Array) -> Array:
        """The motor's mean watts over each step, from those while it runs and what others spare it."""
        idle = np.minimum(self.outlook.curve.idle_w, power_w)
        return np.asarray(share * np.maximum(power_w - self.outlook.relief_w, idle))

    def lasts(self, power_w: Array, share: Array) -> bool:
        """Whether the motor never stops."""
        outlook = self.outlook
        _, _, runs, _, _ = end_of_day(
            outlook.shown_by_bank_w,
            outlook.house_rows_w,
            self.mean_w(power_w, share),
            self.start,
            self.start,
            self.last,
            outlook.timeline.step_h,
            outlook.aboard,
        )
        return bool(runs)

    def way(self, key: Policy, power_w: Array, share: Array, stops: bool) -> PaceWay:
        outlook = self.outlook
        assert outlook.aboard is not None
        one = np.array([self.start])
        record = run_days(
            outlook.shown_by_bank_w[None],
            outlook.house_rows_w,
            self.mean_w(power_w, share),
            one,
            one,
            outlook.timeline.step_h,
            outlook.aboard,
        )[0]
        speed = self.speeds.at(power_w)
        metres = outlook.wh(record[:, RAN] * share * speed) * HOUR_S
        stream = outlook.design.plan.current_mps
        made_good = np.where(speed > 0, np.maximum(speed + stream, 0.0), 0.0)
        return PaceWay(
            key=key, label=NAMES[key], distance_m=metres, speed_mps=np.where(share > 0, speed, 0.0).tolist(),
            motor_w=self.mean_w(power_w, share).tolist(), soc=[self.start, *record[:, SOC].tolist()],
            end_frac=float(record[max(self.last - 1, 0), SOC]),
            wasted_wh=outlook.wh(record[:, REFUSED] + record[:, CURTAILED]), stops=stops,
            ground_m=outlook.wh(record[:, RAN] * share * made_good) * HOUR_S if stream else None,
        )  # fmt: skip

    def best(self) -> tuple[Array, Array, bool]:
        """Watts while the motor runs, its share of each step, and whether it stops all the same [1]."""
        plan = np.zeros(self.outlook.timeline.steps)
        made = trip_plan(self.outlook, self.speeds, self.start, self.last)
        plan[: self.last] = made.motor_w
        top = self.speeds.most_w
        scaled = _most(lambda s: self.lasts(np.minimum(s * plan, top), self.share), 0.2, MOST_SCALED)
        watts = np.minimum((scaled or 1.0) * plan, top)
        return watts, self.share, scaled is None or not (watts * self.share).any()

    def constant(self) -> tuple[Array, Array, bool]:
        watts = bank_power_w(self.outlook)
        level = np.full(len(self.share), watts or self.outlook.curve.idle_w)
        return level, self.share, watts is None

    def sun(self) -> tuple[Array, Array, bool]:
        """What the sun gives at each step and a constant share of the bank on top."""
        live = np.maximum(net_w(self.outlook), 0.0)
        idle, top = self.outlook.curve.idle_w, self.outlook.rated_w

        def watts(extra: float) -> Array:
            return np.clip(live + extra, idle, top)

        found = _most(lambda extra: self.lasts(watts(extra), self.share), -top, top)
        return watts(-top if found is None else found), self.share, found is None

    def sprint(self) -> tuple[Array, Array, bool]:
        """Every other hour, at the watts that end at the reserve."""
        hours = np.floor(np.cumsum(self.share * self.outlook.timeline.step_h) - 1e-9)
        share = np.where(hours % 2 == 0, self.share, 0.0)
        idle, top = self.outlook.curve.idle_w, self.outlook.rated_w
        found = _most(lambda w: self.lasts(np.full(len(self.share), w), share), idle, top)
        return np.full(len(self.share), found or idle), share, found is None


@remembered
def further_way(outlook: Outlook, constant_m: float) -> PaceWay | None:
    """The furthest way through the shown day, where it goes clearly further than a constant speed."""
    if outlook.aboard is None or not outlook.hours:
        return None
    day = ShownDay(outlook)
    best = day.way("best", *day.best())
    return best if not best.stops and best.distance_m > (1 + SAME_FRAC) * constant_m else None


def by_pace(constant: Distance, outlook: Outlook, way: PaceWay) -> Distance:
    """The run with the bank by a pace plan in the place of a constant speed; its band in proportion."""
    ratio = way.distance_m / constant.distance_m if constant.distance_m else 1.0

    def scaled(metres: float | None) -> float | None:
        return None if metres is None else metres * ratio

    return constant.model_copy(
        update={
            "distance_m": way.distance_m,
            "low_m": scaled(constant.low_m),
            "high_m": scaled(constant.high_m),
            "speed_mps": way.distance_m / (outlook.hours * 3600),
            "reason": None,
            "why": constant.why.model_copy(
                update={
                    "method": "The furthest pace from the start charge to the reserve: a taut string with "
                    "losses, run through the bank step by step",
                    "band": None,
                    "doc": "pace",
                }
            ),
        }
    )


def distances_m(outlook: Outlook, way: PaceWay) -> Array:
    """How far every member of the ensemble comes the same way, without foresight, shape (n,) [m]."""
    assert outlook.aboard is not None
    starts = np.full(len(outlook.light.ghi), outlook.design.plan.start_charge_frac)
    record = run_days(
        np.ascontiguousarray(outlook.harvest.by_bank_w), outlook.house_rows_w, np.array(way.motor_w), starts,
        starts, outlook.timeline.step_h, outlook.aboard,
    )  # fmt: skip
    made_good = outlook.motoring * np.array(way.speed_mps)
    return outlook.timeline.over(record[:, :, RAN] * made_good) * HOUR_S
