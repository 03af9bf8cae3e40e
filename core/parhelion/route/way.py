"""A way as the compiled sums see it: legs with stream, wind, limits and stops over even steps of time."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import NamedTuple

import numpy as np
from numba import boolean, float64, int64, njit, types
from numpy.typing import NDArray

from parhelion.computing.kernels import OPTIONS
from parhelion.constants import AIR_DENSITY_KG_PER_M3
from parhelion.route.sea import felt_of_waves
from parhelion.route.stream import Stream
from parhelion.route.triangle import made_good, on_course

Array = NDArray[np.float64]

HOUR_S = 3600.0


class Demand(NamedTuple):
    """Battery watts through the water, in calm: `power_w` and `efficiency` at speeds 0, d, 2d .. to the top.

    `area_m2` is drag coefficient times area of what stands above the water; with `own_air` 1 the drag of
    still air is in the watts already, and comes off again where a wind is counted. `rough_w` is what waves
    from ahead of the heights `waves_m`, rising from 0, add; the drive takes `most_w` and no more.
    """

    power_w: Array
    efficiency: Array
    speed_step: float
    top_mps: float
    area_m2: float = 0.0
    own_air: float = 0.0
    most_w: float = math.inf
    waves_m: Array = np.zeros(1)
    rough_w: Array = np.zeros((1, 2))


class Way(NamedTuple):
    """Legs (l) over steps of time (t)."""

    step_s: float
    length_m: Array  # (l,)
    along: Array  # stream with the course, at each step's middle (l, t) [m/s]
    across: Array  # and across it
    wind_ahead: Array  # true wind from ahead on the course (l, t) [m/s]
    wind_across: Array
    waves_m: Array  # significant height (t,)
    felt: Array  # share of their drag from ahead (l, t)
    limit_mps: Array  # over the ground, inf where there is none (l,)
    stop_s: Array  # after the leg (l,)
    shore_w: Array  # while stopped there (l,)
    passable: NDArray[np.bool_]  # whether the leg may be begun in a step (l, t)
    sun_w: Array  # at the bank under way on each leg, with other sources (l, t)
    rest_w: Array  # the same at rest (t,)
    house_w: Array  # (t,)


_ROW, _GRID = float64[::1], float64[:, ::1]
DEMAND = types.NamedTuple(
    (_ROW, _ROW, float64, float64, float64, float64, float64, _ROW, _GRID),
    Demand,
)
WAY = types.NamedTuple(
    (
        float64, _ROW, _GRID, _GRID, _GRID, _GRID, _ROW, _GRID, _ROW, _ROW, _ROW, boolean[:, ::1],
        _GRID, _ROW, _ROW,
    ),
    Way,
)  # fmt: skip
FULL_THROTTLE = 1 + 1e-4  # of the most watts: what is read between speeds may be a hair over


@njit(float64(float64[::1], float64, float64), **OPTIONS)
def _at(row: Array, speed: float, speed_step: float) -> float:
    """Between the speeds of a row."""
    place = speed / speed_step
    low = min(int(place), len(row) - 2)
    share = place - low
    return row[low] + share * (row[low + 1] - row[low])


@njit(float64(DEMAND, float64, float64), **OPTIONS)
def rough_w(demand: Demand, waves_m: float, speed: float) -> float:
    """Battery watts that waves of a height from ahead add at a speed [W]."""
    heights = demand.waves_m
    high = 1
    while high < len(heights) - 1 and heights[high] < waves_m:
        high += 1
    if waves_m <= 0 or high >= len(heights):
        return 0.0
    share = min((waves_m - heights[high - 1]) / (heights[high] - heights[high - 1]), 1.0)
    less = _at(demand.rough_w[high - 1], speed, demand.speed_step)
    return less + share * (_at(demand.rough_w[high], speed, demand.speed_step) - less)


@njit(float64(DEMAND, float64, float64, float64, float64, float64, float64), **OPTIONS)
def motor_w(  # numbers, not the way itself: handing that over takes longer than the sum
    demand: Demand, speed: float, ground: float, wind_ahead: float, wind_across: float, waves_m: float,
    felt_of_waves: float,
) -> float:  # fmt: skip
    """Battery watts at a speed through the water and over the ground in wind and waves [W], 0 or more."""
    made = _at(demand.power_w, speed, demand.speed_step)
    if waves_m > 0 and speed > 0:
        made += felt_of_waves * rough_w(demand, waves_m, speed)
    if demand.area_m2 > 0 and speed > 0:
        whole = _at(demand.efficiency, speed, demand.speed_step)
        felt = ground + wind_ahead
        drag = math.hypot(felt, wind_across) * felt - demand.own_air * speed * speed
        made += 0.5 * AIR_DENSITY_KG_PER_M3 * demand.area_m2 * drag * speed / whole
    return max(made, 0.0)


@njit(float64(DEMAND, WAY, int64, int64, float64), **OPTIONS)
def speed_for(demand: Demand, way: Way, leg: int, step: int, watts: float) -> float:
    """Speed through the water that battery watts give on a leg in a step [m/s]; at most the top speed."""
    along, across = way.along[leg, step], way.across[leg, step]
    ahead, abeam = way.wind_ahead[leg, step], way.wind_across[leg, step]
    waves, felt = way.waves_m[step], way.felt[leg, step]
    low, high = 0.0, demand.top_mps
    if motor_w(demand, high, made_good(high, along, across), ahead, abeam, waves, felt) <= watts:
        return high
    for _ in range(40):
        middle = (low + high) / 2
        if motor_w(demand, middle, made_good(middle, along, across), ahead, abeam, waves, felt) > watts:
            high = middle
        else:
            low = middle
    return low


def cubic(
    cube_w: float, idle_w: float, top_mps: float, efficiency: float = 1.0, area_m2: float = 0.0
) -> Demand:
    """Watts that rise with the cube of the speed, over an idle draw.

    Parameters
    ----------
    cube_w : float
        a of a V^3 [W/(m/s)^3].
    idle_w, top_mps, efficiency, area_m2 : float
    """
    step = top_mps / 2000
    speeds: Array = np.arange(2002, dtype=float) * step
    return Demand(
        cube_w * speeds**3 + idle_w, np.full(len(speeds), efficiency), step, float(top_mps), float(area_m2)
    )


@dataclass(frozen=True)
class LegAhead:
    """One leg before it is laid over time.

    `passable_h` are the stretches of the clock in which it may be begun, None for at all hours.
    """

    length_m: float
    course_deg: float
    stream: Stream | None = None
    limit_mps: float | None = None
    stop_s: float = 0.0
    shore_w: float = 0.0
    passable_h: Sequence[tuple[float, float]] | None = None


def laid(
    legs: Sequence[LegAhead],
    start_h: float,
    step_s: float,
    sun_w: Array,
    house_w: Array,
    wind_from_deg: float | Array = 0.0,
    wind_mps: float | Array = 0.0,
    waves_m: float | Array = 0.0,
    rest_w: Array | None = None,
) -> Way:
    """Legs laid over even steps of time.

    Parameters
    ----------
    legs : sequence of LegAhead
    start_h : float
        The clock at the first step's start; streams and gates go by it.
    step_s : float
    sun_w : ndarray, shape (t,) or (l, t)
        On every leg, or on each; its length is the horizon.
    house_w : ndarray, shape (t,)
    wind_from_deg : float or ndarray of shape (t,)
        Where wind and waves come from; nan where nobody says: the wind is not counted, the waves come from
        ahead on every leg.
    wind_mps, waves_m : float or ndarray of shape (t,)
    rest_w : ndarray, shape (t,), optional
        The sun at rest; that of the first leg where it is not given.

    Returns
    -------
    Way
    """
    steps = len(house_w)
    under_way = np.array(np.broadcast_to(np.asarray(sun_w, dtype=float), (len(legs), steps)), order="C")
    at_rest = np.array(under_way[0] if rest_w is None else rest_w, dtype=float)
    middles = start_h + (np.arange(steps) + 0.5) * step_s / HOUR_S
    shape = (len(legs), steps)
    along, across, ahead, abeam, felt = (np.zeros(shape) for _ in range(5))
    passable = np.ones(shape, dtype=bool)
    from_deg, blown, waves = (
        np.array(np.broadcast_to(np.asarray(x, dtype=float), (steps,)))
        for x in (wind_from_deg, wind_mps, waves_m)
    )
    blown[np.isnan(from_deg)] = 0.0
    sides, side_of = np.unique(from_deg, return_inverse=True)  # a wind stays for hours
    for k, leg in enumerate(legs):
        if leg.stream is not None:
            along[k], across[k] = on_course(*leg.stream.at(middles), leg.course_deg)
        off = np.radians(np.nan_to_num(sides) - leg.course_deg)
        ahead[k], abeam[k] = blown * np.cos(off)[side_of], blown * np.sin(off)[side_of]
        felt[k] = felt_of_waves(sides, leg.course_deg)[side_of]
        if leg.passable_h is not None:
            passable[k] = np.any([(a <= middles) & (middles <= b) for a, b in leg.passable_h], axis=0)
    numbers = [
        np.array([leg.length_m for leg in legs], dtype=float), along, across, ahead, abeam,
        waves, felt, np.array([leg.limit_mps or np.inf for leg in legs], dtype=float),
        np.array([leg.stop_s for leg in legs], dtype=float),
        np.array([leg.shore_w for leg in legs], dtype=float), passable,
        under_way, np.ascontiguousarray(at_rest), np.ascontiguousarray(house_w, dtype=float),
    ]  # fmt: skip
    return Way(float(step_s), *numbers)


def there_again(legs: Sequence[LegAhead]) -> list[LegAhead]:
    """The legs home the same way: reversed, each course turned, the stops between them kept."""
    found = []
    for k in range(len(legs) - 1, -1, -1):
        leg, nearer = legs[k], legs[k - 1] if k else None
        stop = nearer.stop_s if nearer else 0.0
        shore = nearer.shore_w if nearer else 0.0
        nxt = legs[k + 1] if k + 1 < len(legs) else None
        found.append(
            LegAhead(
                leg.length_m, (leg.course_deg + 180) % 360, leg.stream, leg.limit_mps, stop, shore,
                nxt.passable_h if nxt else None,
            )
        )  # fmt: skip
    return found
