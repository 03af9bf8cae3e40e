"""Plans that hold one thing all the way: a throttle, a speed through the water or over ground, or the sun.

They are sailed exactly: step by step, each step cut where a leg ends, slowed where there is a limit, stopped
where there is a lock. With a tide, what keeps the reserve need not be one stretch of speeds, so speeds are
tried one by one before two of them are narrowed.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from enum import IntEnum

import numpy as np
from numba import boolean, float64, int64, njit, types
from numpy.typing import NDArray

from parhelion.computing.kernels import OPTIONS
from parhelion.route.charge import Watthours, held_wh
from parhelion.route.triangle import made_good, through_water
from parhelion.route.way import DEMAND, FULL_THROTTLE, HOUR_S, WAY, Demand, Way, motor_w, speed_for

Array = NDArray[np.float64]

TRIED = 60  # values of what is held, before two of them are narrowed
NARROWED = 1e-5  # of the value
LEAST_WAY_MPS = 1e-6


class Holding(IntEnum):
    """What a plan holds."""

    WATTS = 0
    THROUGH_WATER = 1
    OVER_GROUND = 2
    SUN = 3  # the sun's watts less the house, and so many more


# Columns of a sailed step
MOTOR, SUN, GONE, SPEED, GROUND, LEG, REST, SHORE = range(8)  # sun with what the shore gives; share at rest
COLUMNS = 8


@njit(
    types.Tuple((float64, int64, boolean))(
        WAY, DEMAND, int64, float64, int64, float64, boolean, float64[:, ::1]
    ),
    **OPTIONS,
)
def _sail(  # noqa: PLR0912 - one loop, compiled whole
    way: Way,
    demand: Demand,
    holding: int,
    value: float,
    first: int,
    offset_s: float,
    may_wait: bool,
    out: Array,
) -> tuple[float, int, bool]:
    """Fills `out`, shape (t, 8), from step `first` on; arrival [s after the way's start], the leg she is on
    (-1 where she arrives) and whether she waited for want of way."""
    legs, steps = way.along.shape
    leg, done, stop = 0, 0.0, 0.0
    gone, waited = 0.0, False
    for t in range(first):
        out[t, SUN], out[t, REST] = way.rest_w[t], 1.0
    for t in range(first, steps):
        left = way.step_s
        if t == first:
            left -= offset_s
        energy, sun, moving, shore = 0.0, 0.0, 0.0, 0.0
        speed = ground = 0.0
        while left > 1e-9 and leg < legs:
            if stop > 0:
                used = min(stop, left)
                shore += way.shore_w[leg - 1] * used
                stop -= used
                left -= used
                continue
            if done == 0.0 and not way.passable[leg, t]:
                break
            along, across = way.along[leg, t], way.across[leg, t]
            if holding == 2:
                ground = value
                speed = through_water(ground, along, across)
            elif holding == 1:
                speed = value
                ground = made_good(speed, along, across)
            else:
                watts = value if holding == 0 else max(way.sun_w[leg, t] - way.house_w[t], 0.0) + value
                speed = speed_for(demand, way, leg, t, watts)
                ground = made_good(speed, along, across)
            if ground > way.limit_mps[leg]:
                ground = way.limit_mps[leg]
                speed = through_water(ground, along, across)
            if speed > demand.top_mps * (1 + 1e-9):
                return math.inf, leg, waited
            ahead, abeam = way.wind_ahead[leg, t], way.wind_across[leg, t]
            waves, felt = way.waves_m[t], way.felt[leg, t]
            if motor_w(demand, speed, ground, ahead, abeam, waves, felt) > demand.most_w * FULL_THROTTLE:
                speed = speed_for(demand, way, leg, t, demand.most_w)  # wind or waves hold her back
                ground = made_good(speed, along, across)
            if ground <= LEAST_WAY_MPS:
                if not may_wait:
                    return math.inf, leg, waited
                waited = True
                speed = ground = 0.0
                break
            used = min((way.length_m[leg] - done) / ground, left)
            energy += used * motor_w(demand, speed, ground, ahead, abeam, waves, felt)
            sun += (way.sun_w[leg, t] - way.rest_w[t]) * used
            moving += used
            done += ground * used
            gone += ground * used
            left -= used
            if done >= way.length_m[leg] - 1e-6:
                stop = way.stop_s[leg] if leg < legs - 1 else 0.0
                leg, done = leg + 1, 0.0
        out[t, MOTOR], out[t, GONE] = energy / way.step_s, gone
        out[t, SUN], out[t, REST] = way.rest_w[t] + (sun + shore) / way.step_s, 1 - moving / way.step_s
        out[t, SHORE] = shore / way.step_s
        out[t, SPEED], out[t, GROUND], out[t, LEG] = speed, ground, min(leg, legs - 1)
        if leg == legs:
            for after in range(t + 1, steps):
                out[after, GONE], out[after, LEG] = gone, legs - 1
                out[after, SUN], out[after, REST] = way.rest_w[after], 1.0
            return (t + 1) * way.step_s - left, -1, waited
    return math.inf, leg, waited


@dataclass(frozen=True, eq=False)
class Sailed:
    """A plan as it goes: `rows` of shape (t, 8), see the columns; arrival in hours after the way's start."""

    rows: Array
    arrives_h: float
    stands_on: int  # the leg where no way is made or the time ends; -1 where she arrives
    waited: bool

    @property
    def arrives(self) -> bool:
        return math.isfinite(self.arrives_h)


def sail(
    way: Way, demand: Demand, holding: Holding, value: float, start_h: float = 0.0, may_wait: bool = False
) -> Sailed:
    """Sail a held plan.

    Parameters
    ----------
    way : Way
    demand : Demand
    holding : Holding
    value : float
        Battery watts, or a speed [m/s].
    start_h : float
        Hours after the way's start at which she leaves.
    may_wait : bool
        Whether she anchors where no way is made, rather than fail.
    """
    rows = np.zeros((way.along.shape[1], COLUMNS))
    first = int(start_h * HOUR_S / way.step_s + 1e-9)
    offset = max(start_h * HOUR_S - first * way.step_s, 0.0)
    arrival, stands, waited = _sail(way, demand, int(holding), float(value), first, offset, may_wait, rows)
    return Sailed(rows, arrival / HOUR_S, stands, waited)


def charge_along(way: Way, sailed: Sailed, bank: Watthours, start_wh: float) -> Array:
    """What the bank holds at the steps' edges under a plan, shape (t + 1,) [Wh]."""
    return rows_charge(way, sailed.rows, bank, start_wh)


def rows_charge(way: Way, rows: Array, bank: Watthours, start_wh: float) -> Array:
    """The same of a plan's rows, shape (t, 8)."""
    sun = rows[None, :, SUN]
    return np.asarray(held_wh(rows[:, MOTOR], sun, way.house_w, start_wh, way.step_s / HOUR_S, bank)[0])


def charge_at(way: Way, held: Array, hours: float) -> float:
    """Charge some hours after the way's start, between steps in a straight line [Wh]."""
    return float(np.interp(hours * HOUR_S / way.step_s, np.arange(len(held)), held))


def keeps(way: Way, sailed: Sailed, bank: Watthours, start_wh: float) -> bool:
    """Whether a plan arrives and never goes below the reserve on the way."""
    if not sailed.arrives:
        return False
    held = charge_along(way, sailed, bank, start_wh)
    until = math.ceil(sailed.arrives_h * HOUR_S / way.step_s - 1e-9)
    lowest = min(float(held[: max(until, 1)].min()), charge_at(way, held, sailed.arrives_h))
    return lowest >= bank.reserve_wh - 1e-9


def _narrow(good: float, bad: float, fits: Callable[[float], bool]) -> float:
    while abs(good - bad) > NARROWED * max(abs(good), abs(bad)):
        middle = (good + bad) / 2
        if fits(middle):
            good = middle
        else:
            bad = middle
    return good


def fastest(
    way: Way,
    demand: Demand,
    holding: Holding,
    bank: Watthours,
    start_wh: float,
    top: float,
    least: float = 0.0,
) -> tuple[float, Sailed] | None:
    """The most that can be held with the reserve kept all the way, and the plan; None where nothing does.

    Parameters
    ----------
    top, least : float
        Of the value that is held: watts, or a speed [m/s].
    """

    def fits(value: float) -> bool:
        return keeps(way, sail(way, demand, holding, value), bank, start_wh)

    values = top - (top - least) * np.arange(TRIED) / TRIED
    above = None
    for value in values:
        if fits(float(value)):
            found = float(value) if above is None else _narrow(float(value), above, fits)
            return found, sail(way, demand, holding, found)
        above = float(value)
    return None


def arriving(
    way: Way, demand: Demand, holding: Holding, arrive_h: float, top: float, least: float = 0.0
) -> tuple[float, Sailed] | None:
    """What to hold to arrive at an hour after the way's start, and the plan; None where nothing does."""

    def in_time(value: float) -> bool:
        return sail(way, demand, holding, value).arrives_h <= arrive_h

    values = least + (top - least) * (1 + np.arange(TRIED)) / TRIED
    below = least
    for value in values:
        if in_time(float(value)):
            found = _narrow(float(value), below, in_time)
            return found, sail(way, demand, holding, found)
        below = float(value)
    return None
