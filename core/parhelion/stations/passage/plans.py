"""Plans of a passage: one thing held all the way, or the best of all, each told by the bank's own model."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from parhelion.balance.ahead import GRID_S, RUN_S, Ahead, edges_soc, kept_reserve
from parhelion.balance.flow import RAN
from parhelion.computing.kept import once
from parhelion.design.passage import Going
from parhelion.route.best import Best, Laying, best
from parhelion.route.held import COLUMNS, GONE, LEG, MOTOR, REST, SUN, Holding, sail

Array = NDArray[np.float64]

SHOWN, POOR = 0, 1
RUNS_FROM = 1 - 1e-9  # of a step: less is a motor that was stopped
GRID_H = GRID_S / 3600
MARGINS = (0.0, 0.002, 0.01, 0.03, 0.06)  # of the bank over the reserve, that plans are made with
HOLDINGS = {
    Going.SPEED: Holding.THROUGH_WATER, Going.THROTTLE: Holding.WATTS, Going.SUN: Holding.SUN,
}  # fmt: skip


@dataclass(frozen=True, eq=False)
class Plan:
    """A plan sailed: rows of shape (t, 8) over minutes from the first midnight, and its banks."""

    ahead: Ahead
    pace: Going
    rows: Array
    leaves_h: float
    arrives_h: float  # inf where she does not
    stands_on: int  # the leg where she makes no way; -1 for none
    value: float | None = None  # what is held
    waited: bool = False

    @property
    def has_way(self) -> bool:
        """Whether the way itself is done, were there charge enough."""
        return math.isfinite(self.arrives_h)

    @property
    def arrives(self) -> bool:
        """Whether she gets there: the way is done and the motor is never stopped at the reserve."""
        return self.has_way and self.keeps_reserve

    @once
    def stops_h(self) -> float | None:
        """When the motor is stopped at the reserve under the shown sky; None where it is not."""
        return None if self.keeps_reserve else self.stopped(SHOWN)

    def stopped(self, member: int) -> float:
        """When the motor of a day is stopped; the end where it is not."""
        ran = self.record[member, :, RAN]
        first = next((k for k, share in enumerate(ran) if share < RUNS_FROM), len(ran))
        return self.first_h + first * RUN_S / 3600

    @property
    def ends_h(self) -> float:
        """When it ends: at the end of the way, or where she gives up."""
        if self.has_way:
            return self.arrives_h
        return min(self.leaves_h + 24.0, self.ahead.days * 24.0)

    @once
    def record(self) -> Array:
        """The banks of the shown and the poor day from the start to the end, shape (2, t, 14)."""
        return self.ahead.banked(self.rows, self.leaves_h, self.ends_h)

    @property
    def first_h(self) -> float:
        """When the record begins."""
        return math.floor(self.leaves_h * 3600 / RUN_S + 1e-9) * RUN_S / 3600

    @once
    def soc(self) -> Array | None:
        """States of charge at the record's edges, shape (2, t + 1); None without a bank."""
        return None if self.ahead.store is None else edges_soc(self.record, self.ahead.start_soc)

    def soc_at(self, hours: float, member: int = SHOWN) -> float | None:
        """State of charge at an hour, between steps in a straight line."""
        if self.soc is None:
            return None
        place = (hours - self.first_h) * 3600 / RUN_S
        return float(np.interp(place, np.arange(self.soc.shape[1]), self.soc[member]))

    @once
    def keeps_reserve(self) -> bool:
        """Whether the motor is never stopped under the shown sky; without a bank there is none to keep."""
        return self.ahead.store is None or bool(kept_reserve(self.record)[SHOWN])

    @property
    def arrival_soc(self) -> float | None:
        return self.soc_at(self.arrives_h) if self.arrives else None

    @property
    def lowest_soc(self) -> float | None:
        return None if self.soc is None else float(self.soc[SHOWN].min())

    def passes_h(self, gone_m: float) -> float | None:
        """When she has gone so far on her own motor; None where it is stopped before."""
        if gone_m <= 0:
            return self.leaves_h
        hour = self.arrives_h if self.has_way and gone_m >= self.ahead.length_m else self.hour_at(gone_m)
        return None if hour is None or (self.stops_h is not None and hour > self.stops_h) else hour

    @property
    def in_time(self) -> bool:
        return self.arrives_h <= self.ahead.in_by_h + 1e-6

    @property
    def good(self) -> bool:
        """Whether it arrives in time with the reserve kept."""
        return self.arrives and self.keeps_reserve and self.in_time

    def hour_at(self, gone_m: float) -> float | None:
        """When she has gone so far; None where she never has."""
        gone = self.rows[:, GONE]
        first = int(self.leaves_h / GRID_H)
        k = first + int(np.searchsorted(gone[first:], gone_m - 0.5))
        if k >= len(gone):
            return None
        before = float(gone[k - 1]) if k > 0 else 0.0
        here = float(gone[k])
        share = 1.0 if here <= before else min(max((gone_m - before) / (here - before), 0.0), 1.0)
        return max((k + share) * GRID_H, self.leaves_h)


def speed_of(ahead: Ahead) -> float:
    """The speed she means to hold, as far as the drive gives it [m/s]."""
    asked = ahead.passage.speed_mps or ahead.design.plan.speed_mps
    return min(asked, ahead.demand.top_mps)


TRIED = 24  # speeds


def speed_that_keeps(ahead: Ahead) -> float | None:
    """The fastest speed through the water that is in time with the reserve kept [m/s]; None where none is."""
    top = ahead.demand.top_mps
    for k in range(TRIED, 0, -1):
        plan = held(ahead, Going.SPEED, ahead.leaves_h, top * k / TRIED)
        if plan.good:
            return top * k / TRIED
    return None


def held(ahead: Ahead, pace: Going, leaves_h: float, value: float | None = None) -> Plan:
    """A plan that holds one thing; anchored where the stream is the stronger."""
    usual = {Going.SPEED: speed_of(ahead), Going.THROTTLE: ahead.passage.throttle_w or 0.0, Going.SUN: 0.0}
    chosen = usual[pace] if value is None else value
    found = sail(ahead.shown_way, ahead.demand, HOLDINGS[pace], chosen, leaves_h, may_wait=True)
    return Plan(ahead, pace, found.rows, leaves_h, found.arrives_h, found.stands_on, chosen, found.waited)


def planned(ahead: Ahead, pace: Going, leaves_h: float) -> Plan | None:
    """The best plan of its kind; None where nothing keeps the reserve, or there is no bank."""
    if ahead.bank is None:
        return None
    laying = ahead.laying(ahead.legs, SHOWN, leaves_h)
    offset = leaves_h - laying.start_h
    by = ahead.in_by_h - laying.start_h if pace is Going.MOST else None
    plan, found, like = None, None, ahead.bank
    for margin in MARGINS:  # the bank that plans is a little other than the one it is told by
        if plan is not None:
            like = ahead.bank_at(mean_motor_w(plan)) or like
        bank = like._replace(reserve_wh=like.reserve_wh + margin * like.full_wh)
        found = best(
            laying, ahead.demand, bank, ahead.start_wh, by, leave_h=offset, finest_s=GRID_S, near=found
        )
        if found is None:
            break
        plan = _laid_out(ahead, pace, leaves_h, laying, found)
        if plan.keeps_reserve:
            break
    return plan


def mean_motor_w(plan: Plan) -> float:
    """Battery watts under way, the mean over the energy: what the bank's losses go by."""
    motor = plan.rows[:, MOTOR]
    return float((motor**2).sum() / max(float(motor.sum()), 1e-9))


def _laid_out(ahead: Ahead, pace: Going, leaves_h: float, laying: Laying, found: Best) -> Plan:
    """A best plan over the steps of the whole way."""
    part = found.sailed(ahead.demand)
    whole = ahead.shown_way
    rows = np.zeros((whole.along.shape[1], COLUMNS))
    rows[:, SUN], rows[:, REST] = whole.rest_w, 1.0
    first = round(laying.start_h / GRID_H)
    rows[first : first + len(part)] = part
    rows[first + len(part) :, [GONE, LEG]] = part[-1, [GONE, LEG]]
    return Plan(ahead, pace, rows, leaves_h, laying.start_h + found.arrives_h, -1)


def chosen(ahead: Ahead) -> Plan:
    """The plan as it is set; without a bank as the sun pays, and where nothing is best one speed held."""
    pace, leaves = ahead.passage.pace, ahead.leaves_h
    if ahead.bank is None:
        return held(ahead, Going.SUN, leaves)
    if pace in HOLDINGS:
        return held(ahead, pace, leaves)
    return planned(ahead, pace, leaves) or held(ahead, Going.SPEED, leaves)


def ways(ahead: Ahead, first: Plan) -> list[Plan]:
    """The plans to set side by side, the chosen one first."""
    found = [first]
    leaves = ahead.leaves_h
    if ahead.bank is None:
        return found
    for pace in (Going.SPEED, Going.EARLIEST, Going.MOST, Going.SUN):
        if pace is first.pace:
            continue
        made = held(ahead, pace, leaves) if pace in HOLDINGS else planned(ahead, pace, leaves)
        if made is not None:
            found.append(made)
    return found
