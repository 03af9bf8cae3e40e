"""Speeds that cost least, in closed form: against a stream, with an idle draw, over legs, on a humped curve.

References
----------
[1] P = a V^3 + P0 against a stream c: the least watt-hours per mile made good solve 2 a V^3 - 3 a c V^2 = P0.
[2] Legs within given hours: the same 2 a V^3 + 3 a c V^2 - P0 on every leg, c the stream that helps.
[3] Below (P0/2a)^(1/3) running part of the time at that speed, and stopping, costs less than crawling.
[4] Any curve: the lower convex hull of its points with (0, 0) is what a mix of two speeds costs.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from functools import partial
from itertools import pairwise
from typing import NamedTuple

import numpy as np
from scipy.optimize import brentq

SLOWEST, FASTEST = 1e-6, 1e3  # where roots of speed are looked for, in whatever unit


class Costing(NamedTuple):
    """A speed and what it costs: speeds in the unit of the stream, energy per that unit's mile."""

    speed: float
    ground: float
    wh_per_mile: float


def _root(function: Callable[[float], float], low: float, high: float) -> float:
    return float(brentq(function, low, high, xtol=1e-13, rtol=8.9e-16))


def cheapest_against(cube: float, against: float, fixed_w: float = 0.0) -> Costing:
    """The speed through the water that costs least per mile made good against a stream [1].

    Parameters
    ----------
    cube : float
        a of a V^3 [W per cubed speed].
    against : float
        The stream that is against her; below nothing it helps.
    fixed_w : float
        What is drawn whatever the speed: idle and house, less the sun [W].
    """
    rest = max(against, 0.0)

    def slope(v: float) -> float:
        return 2 * cube * v**3 - 3 * cube * against * v**2 - fixed_w

    low = 1.5 * rest if rest > 0 else SLOWEST
    v = low if fixed_w <= 0 and against > 0 else _root(slope, min(low, SLOWEST), FASTEST)
    if fixed_w < 0 and against > 0:
        v = _root(slope, rest + SLOWEST, low)
    ground = v - against
    return Costing(v, ground, (cube * v**3 + fixed_w) / ground)


def there_and_back(miles_each: float, speed: float, stream: float, cube: float) -> tuple[float, float]:
    """Hours and watt-hours out and home at one speed through the water: the stream never evens out."""
    hours = miles_each / (speed + stream) + miles_each / (speed - stream)
    return hours, hours * cube * speed**3


def least_over_legs(
    miles: Sequence[float],
    along: Sequence[float],
    hours: float,
    cube: float,
    fixed_w: float = 0.0,
    limits: Sequence[float | None] | None = None,
) -> tuple[list[float], float]:
    """Speeds through the water on each leg that take least within the hours, and the watt-hours [2].

    Parameters
    ----------
    miles, along : sequences
        Lengths, and the stream that helps on each leg.
    hours : float
        Under way, stops taken off.
    cube, fixed_w : float
    limits : sequence, optional
        Over the ground, None where there is none.

    Raises
    ------
    ValueError
        Where the limits do not allow it in the hours.
    """
    tops = [np.inf if one is None else one for one in (limits or [None] * len(miles))]

    def dearness(c: float, price: float, v: float) -> float:
        return 2 * cube * v**3 + 3 * cube * c * v**2 - fixed_w - price

    def speeds(price: float) -> list[float]:
        found = []
        for c, top in zip(along, tops, strict=True):
            least = max(-c, 0.0) + SLOWEST
            found.append(min(_root(partial(dearness, c, price), least, FASTEST), top - c))
        return found

    def late(price: float) -> float:
        return sum(m / (v + c) for m, v, c in zip(miles, speeds(price), along, strict=True)) - hours

    lowest = -fixed_w - cube * min(max(-c, 0.0) for c in along) ** 3 + 1e-9
    top = cube * FASTEST**3
    if late(top) > 0:
        raise ValueError("the limits leave more hours than these")
    found = speeds(_root(late, lowest, top))
    spent = sum((cube * v**3 + fixed_w) * m / (v + c) for m, v, c in zip(miles, found, along, strict=True))
    return found, spent


class Mix(NamedTuple):
    """Two speeds, the share of the time at the faster one, and the mean watts; one of them may be at rest."""

    slow: float
    fast: float
    fast_share: float
    power_w: float


def cheapest_mix(points: Sequence[tuple[float, float]], speed: float) -> Mix:
    """What a mean speed costs least, by two speeds of a curve or by one of them and a stop [4].

    Parameters
    ----------
    points : sequence of (speed, watts)
        The curve, straight between its points; rest, (0, 0), is added.
    speed : float
        The mean wanted, within the curve.

    Raises
    ------
    ValueError
        Where the mean is beyond the curve's end.
    """
    hull: list[tuple[float, float]] = []
    for v, w in sorted({(0.0, 0.0), *((float(v), float(w)) for v, w in points)}):
        while len(hull) > 1:
            (v0, w0), (v1, w1) = hull[-2:]
            if (w1 - w0) * (v - v0) < (w - w0) * (v1 - v0):
                break
            hull.pop()
        hull.append((v, w))
    for (v0, w0), (v1, w1) in pairwise(hull):
        if v0 <= speed <= v1:
            share = (speed - v0) / (v1 - v0)
            return Mix(v0, v1, share, w0 + share * (w1 - w0))
    raise ValueError("no speed of the curve is that fast")


def duty(cube: float, fixed_w: float, miles: float, hours: float) -> tuple[float, float, float]:
    """In still water with time to spare: speed, hours under way and watt-hours that are least [3]."""
    best = (fixed_w / (2 * cube)) ** (1 / 3)
    speed = max(best, miles / hours)
    under_way = miles / speed
    return speed, under_way, (cube * speed**3 + fixed_w) * under_way


class TurnedBack(NamedTuple):
    """When and where the last turn is, and when she is home; hours after the start."""

    home_speed: float
    turn_h: float
    turn_miles: float
    home_h: float


def last_turn(
    usable_wh: float,
    out_speed: float,
    with_out: float,
    cube: float,
    draw_w: float,
    home_speed: float | None = None,
) -> TurnedBack:
    """The last turn of a way out and home under one power of sun and house, by the sums alone.

    Parameters
    ----------
    usable_wh : float
        Over the reserve at the start.
    out_speed : float
        Through the water.
    with_out : float
        The stream that helps on the way out and hinders on the way home.
    cube : float
    draw_w : float
        House less sun, out and home.
    home_speed : float, optional
        Through the water; the cheapest one where it is not given.
    """
    home = home_speed or cheapest_against(cube, with_out, draw_w).speed
    out_ground, home_ground = out_speed + with_out, home - with_out
    per_mile_home = (cube * home**3 + draw_w) / home_ground
    spent_per_h = cube * out_speed**3 + draw_w + out_ground * per_mile_home
    turn = usable_wh / spent_per_h
    miles = turn * out_ground
    return TurnedBack(home, turn, miles, turn + miles / home_ground)


def muscle_speed(muscle_w: float, efficiency: float, cube: float, drive_efficiency: float) -> float:
    """Speed that legs or arms make: the hull takes drive efficiency x a V^3."""
    return float(np.cbrt(muscle_w * efficiency / (cube * drive_efficiency)))
