"""The pace plan: how fast to go at every hour, for the furthest run that a store of energy allows.

References
----------
[1] A concave programme: V(p) concave, the store between floor and full, loss on the way in and out. Between
    the moments when the store is full or at its floor one worth of stored energy rules: charging steps run at
    V' = worth x efficiency in, discharging ones at V' = worth / efficiency out, the others on what the sun
    leaves ("taut string" with losses). One worth is solved for the whole, the worst violation is pinned, both
    sides are solved again; the most violated bound is tight in the optimum.
[2] The worths are marginal values: of the start charge the first worth; of the capacity the rises of the
    worth at full; of the floor its falls at the floor; of a watt of sun in a step V' there.
[3] A motor that draws idle watts runs part of a step at its best speed rather than all of it slower: V(p) is
    taken as its concave hull from rest.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numba import float64, int64, njit, types
from numpy.typing import NDArray

from parhelion.computing.kernels import OPTIONS

Array = NDArray[np.float64]

HALVINGS = 52
NEAR = 1e-10  # of the capacity: a bound is kept to this
UNKNOWN = -1.0  # worth of steps that lack energy whatever is done
FLAT = 1e-8  # of a marginal, the tilt of an edge of the hull


@dataclass(frozen=True)
class Speeds:
    """V over battery watts, concave: watts, metres per second for one more watt, speed; shapes (n,)."""

    power_w: Array  # rising; a node may stand twice, where the marginal steps down
    marginal: Array
    speed_mps: Array

    @property
    def most_w(self) -> float:
        return float(self.power_w[-1])

    def at(self, power_w: Array) -> Array:
        """Speed at battery watts, shape as given [m/s]."""
        return np.interp(power_w, self.power_w, self.speed_mps)


@njit(int64[::1](float64[::1], float64[::1]), **OPTIONS)
def _corners(watts: Array, way: Array) -> NDArray[np.int64]:
    """Which points lie on the concave hull of a speed over watts, the first always, by their places."""
    kept = np.zeros(len(watts), dtype=np.int64)
    last = 0
    for i in range(1, len(watts)):
        if watts[i] <= watts[kept[last]]:
            continue
        while last > 0:
            a, b = kept[last - 1], kept[last]
            first = (way[b] - way[a]) / (watts[b] - watts[a])
            if first * (1 - 4 * FLAT) > (way[i] - way[b]) / (watts[i] - watts[b]):
                break
            last -= 1
        last += 1
        kept[last] = i
    return kept[: last + 1].copy()


def speeds_of(power_w: Array, speed_mps: Array) -> Speeds:
    """The concave hull from rest of a speed over its battery watts [3].

    Parameters
    ----------
    power_w, speed_mps : ndarray, shape (n,)
        Rising; the first at rest may draw idle watts.
    """
    watts, way = np.concatenate([[0.0], power_w]), np.concatenate([[0.0], speed_mps])
    kept = _corners(watts, way)
    hull_w, hull_v = watts[kept], way[kept]
    slope = np.diff(hull_v) / np.diff(hull_w)
    # an edge has one slope from end to end, but for a tilt by which it can be read backwards
    edges = np.repeat(hull_w, 2)[1:-1]
    marginal = np.stack([slope * (1 + FLAT), slope * (1 - FLAT)], axis=1).ravel()
    return Speeds(edges, marginal, np.repeat(hull_v, 2)[1:-1])


@njit(float64(float64, float64[::1], float64[::1]), **OPTIONS)
def _watts_at(marginal: float, power_w: Array, marginals: Array) -> float:
    """Watts at which one more watt gives so many metres per second; `marginals` fall."""
    if marginal >= marginals[0]:
        return 0.0
    last = len(marginals) - 1
    if marginal <= marginals[last]:
        return power_w[last]
    low, high = 0, last
    while high - low > 1:
        middle = (low + high) // 2
        if marginals[middle] > marginal:
            low = middle
        else:
            high = middle
    part = (marginals[low] - marginal) / (marginals[low] - marginals[high])
    return power_w[low] + part * (power_w[high] - power_w[low])


@njit(
    float64(
        float64[::1], float64[::1], float64[::1], int64, int64, float64, float64, float64, float64,
        float64[::1], float64[::1], float64[::1], float64[::1],
    ),
    **OPTIONS,
)  # fmt: skip
def _run(
    net_w: Array, share: Array, step_h: Array, first: int, last: int, start_wh: float, worth: float,
    into: float, out: float, power_w: Array, marginals: Array, watts: Array, stored: Array,
) -> float:  # fmt: skip
    """Steps first to last at one worth; fills `watts` and `stored` (edges), returns the energy at the end."""
    charging = _watts_at(worth * into, power_w, marginals)
    drawing = _watts_at(worth / out, power_w, marginals)
    energy = start_wh
    for t in range(first, last):
        motor = 0.0
        if share[t] > 0:
            direct = max(net_w[t], 0.0) / share[t]
            motor = min(max(direct, drawing), charging)
        left = net_w[t] - share[t] * motor
        energy += step_h[t] * (left * into if left > 0 else left / out)
        watts[t], stored[t + 1] = motor, energy
    return energy


@njit(
    types.void(
        float64[::1],
        float64[::1],
        float64[::1],
        float64,
        float64,
        float64,
        float64,
        float64,
        float64,
        float64[::1],
        float64[::1],
        float64[::1],
        float64[::1],
        float64[::1],
    ),
    **OPTIONS,
)
def taut_string(
    net_w: Array,
    share: Array,
    step_h: Array,
    start_wh: float,
    end_wh: float,
    floor_wh: float,
    full_wh: float,
    into: float,
    out: float,
    power_w: Array,
    marginals: Array,
    watts: Array,
    stored: Array,
    worths: Array,
) -> None:
    """The plan [1], into `watts` (t,), `stored` (t + 1,) and `worths` (t,); see `pace_plan`."""
    steps = len(net_w)
    spans = np.empty((steps + 2, 2), dtype=np.int64)
    ends = np.empty((steps + 2, 2))
    spans[0, 0], spans[0, 1], ends[0, 0], ends[0, 1] = 0, steps, start_wh, end_wh
    todo = 1
    top, bottom = marginals[0] / into, marginals[len(marginals) - 1] * out * (1 - 1e-9)
    near = NEAR * full_wh
    stored[0] = start_wh
    while todo > 0:
        todo -= 1
        first, last, begin, goal = spans[todo, 0], spans[todo, 1], ends[todo, 0], ends[todo, 1]
        spends = _run(
            net_w, share, step_h, first, last, begin, 0.0, into, out, power_w, marginals, watts, stored
        )
        worth = 0.0
        if spends < goal:
            worth = top
            keeps = _run(
                net_w, share, step_h, first, last, begin, top, into, out, power_w, marginals, watts, stored
            )
            if keeps > goal:
                low, high = np.log(bottom), np.log(top)
                for _ in range(HALVINGS):
                    worth = (low + high) / 2
                    energy = _run(
                        net_w,
                        share,
                        step_h,
                        first,
                        last,
                        begin,
                        np.exp(worth),
                        into,
                        out,
                        power_w,
                        marginals,
                        watts,
                        stored,
                    )
                    if energy < goal:
                        low = worth
                    else:
                        high = worth
                worth = np.exp(high)
                _run(
                    net_w,
                    share,
                    step_h,
                    first,
                    last,
                    begin,
                    worth,
                    into,
                    out,
                    power_w,
                    marginals,
                    watts,
                    stored,
                )
        worst, at, pin = near, -1, 0.0
        for t in range(first + 1, last):
            over = stored[t] - full_wh
            if over > worst:
                worst, at, pin = over, t, full_wh
            under = floor_wh - stored[t]
            if worth < top and under > worst:
                worst, at, pin = under, t, floor_wh
        if at >= 0:
            spans[todo, 0], spans[todo, 1], ends[todo, 0], ends[todo, 1] = first, at, begin, pin
            spans[todo + 1, 0], spans[todo + 1, 1], ends[todo + 1, 0], ends[todo + 1, 1] = at, last, pin, goal
            todo += 2
            continue
        for t in range(first, last):
            worths[t] = worth if worth < top else UNKNOWN
            stored[t + 1] = min(stored[t + 1], full_wh)  # worth nothing: what is over runs off
        if worth > 0:
            stored[last] = goal if worth < top else stored[last]


def _carried(worths: Array) -> Array:
    """Worths with those that no choice sets taken from what follows, at the end from what went before."""
    known = np.flatnonzero(worths != UNKNOWN)
    if not known.size:
        return np.zeros_like(worths)
    after = np.searchsorted(known, np.arange(len(worths)))
    return worths[known[np.minimum(after, len(known) - 1)]]


@dataclass(frozen=True)
class Pace:
    """A pace plan over t steps."""

    motor_w: Array  # while the motor runs, shape (t,)
    speed_mps: Array  # while it runs, by the hull of the curve
    stored_wh: Array  # at the edges, shape (t + 1,)
    worth: Array  # metres for one more stored watt-hour, shape (t,)
    sun_worth: Array  # metres for one more watt-hour of sun in the step, shape (t,)
    distance_m: float
    of_start: float  # metres for one more watt-hour at the start
    of_full: float  # for one more watt-hour of capacity, the floor as it is
    of_floor: float  # for a floor one watt-hour higher: zero or less
    of_end: float  # for one more watt-hour wanted at the end: zero or less


def pace_plan(
    net_w: Array,
    share: Array,
    step_h: Array | float,
    start_wh: float,
    end_wh: float,
    floor_wh: float,
    full_wh: float,
    into: float,
    out: float,
    speeds: Speeds,
) -> Pace:
    """The furthest run from one store of energy to another [1].

    Parameters
    ----------
    net_w, share : ndarray, shape (t,)
        Sun less house [W], and how much of each step the motor may run [-].
    step_h : ndarray, shape (t,), or float
        Lengths of the steps, or of each [h].
    start_wh, end_wh : float
        At least so much is left at the end.
    floor_wh, full_wh : float
        Bounds on the way. What is over at full runs off; a house that draws the store below its floor
        with the motor off does so.
    into, out : float
        Efficiency of charging and of discharging [-].
    speeds : Speeds

    Returns
    -------
    Pace
    """
    net, part = np.ascontiguousarray(net_w, dtype=float), np.ascontiguousarray(share, dtype=float)
    steps = len(net)
    hours = np.full(steps, step_h, dtype=float)
    watts, stored, worths = np.zeros(steps), np.zeros(steps + 1), np.zeros(steps)
    taut_string(
        net, part, hours, start_wh, end_wh, floor_wh, full_wh, into, out, speeds.power_w, speeds.marginal,
        watts, stored, worths,
    )  # fmt: skip
    per_wh = 3600.0 * _carried(worths)
    way = speeds.at(watts)
    direct = np.interp(watts, speeds.power_w, speeds.marginal) * 3600.0
    left = net - part * watts
    near = 1e-9 * (np.abs(net) + part * watts + 1e-9)
    sun = np.where(left > near, per_wh * into, np.where(left < -near, per_wh / out, direct))
    rises = np.diff(per_wh)
    at_full = stored[1:-1] >= full_wh * (1 - 1e-9)
    at_floor = stored[1:-1] <= floor_wh + 1e-9 * full_wh
    return Pace(
        motor_w=watts,
        speed_mps=way,
        stored_wh=stored,
        worth=per_wh,
        sun_worth=sun,
        distance_m=float((way * part) @ hours * 3600.0),
        of_start=float(per_wh[0]) if steps else 0.0,
        of_full=max(float(rises[at_full].sum()), 0.0),
        of_floor=min(float(rises[at_floor & ~at_full].sum()), 0.0),
        of_end=-float(per_wh[-1]) if steps else 0.0,
    )
