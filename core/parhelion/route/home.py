"""The way home from every place and hour: the least charge that still brings her home above the reserve.

One sweep backwards over the legs home, under a poor sky and with an hour by which she must be home (else
waiting for the sun always gets there), gives the need at every place and hour at once. The last turn is the
last moment of the way out before which all earlier ones have the charge they need.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numba import boolean, float64, int64, njit, types
from numpy.typing import NDArray

from parhelion.computing.kernels import OPTIONS
from parhelion.route.best import SLOWEST_MPS, Cut, cut
from parhelion.route.charge import WATTHOURS, Watthours, before
from parhelion.route.held import SUN, Holding, keeps, sail
from parhelion.route.triangle import through_water
from parhelion.route.way import DEMAND, FULL_THROTTLE, HOUR_S, WAY, Demand, Way, motor_w

Array = NDArray[np.float64]
Counts = NDArray[np.int64]

SAME_STEP = 1e-9  # of a step: the clock stands at its edge
NEAR_M = 2_000.0  # stretches of the way home are this short: between their ends the need runs straight


@njit(
    types.void(
        WAY, DEMAND, WATTHOURS, float64[::1], int64[::1], int64[::1], int64, boolean, float64, float64[:, ::1]
    ),
    **OPTIONS,
)
def _needs(  # noqa: PLR0912 - one loop, compiled whole
    way: Way, demand: Demand, bank: Watthours, stretch_m: Array, leg_of: Counts, stop_steps: Counts,
    by_step: int, may_wait: bool, slowest: float, need: Array,
) -> None:  # fmt: skip
    """Fills `need`, shape (n + 1, t + 1) [Wh]; inf where nothing brings her home by step `by_step`."""
    hours = way.step_s / 3600.0
    nodes, steps = len(stretch_m), way.along.shape[1]
    nets = np.empty(steps)
    need[:, :] = np.inf
    for t in range(by_step + 1):
        need[nodes, t] = bank.reserve_wh
    for j in range(nodes - 1, -1, -1):
        leg, length, stop = leg_of[j], stretch_m[j], stop_steps[j]
        begins = j == 0 or leg_of[j - 1] != leg
        for k in range(1, int(length / (slowest * way.step_s)) + 1):
            ground = length / (k * way.step_s)
            if ground > way.limit_mps[leg] * (1 + 1e-9):
                continue
            last = min(by_step, steps) - k - stop
            if last < 0:
                break
            some = False
            for s in range(last + k):
                speed = through_water(ground, way.along[leg, s], way.across[leg, s])
                nets[s] = -np.inf
                if speed <= demand.top_mps:
                    some = True
                    watts = motor_w(
                        demand, speed, ground, way.wind_ahead[leg, s], way.wind_across[leg, s],
                        way.waves_m[s], way.felt[leg, s],
                    )  # fmt: skip
                    if watts > demand.most_w * FULL_THROTTLE:
                        continue
                    nets[s] = way.sun_w[leg, s] - way.house_w[s] - watts
            if not some:
                continue
            for t in range(last + 1):
                if begins and not way.passable[leg, t]:
                    continue
                held = need[j + 1, t + k + stop]
                for s in range(t + k + stop - 1, t + k - 1, -1):
                    net = way.rest_w[s] + way.shore_w[leg] - way.house_w[s]
                    held = max(before(held, net, hours, bank), bank.reserve_wh)
                for s in range(t + k - 1, t - 1, -1):
                    if nets[s] == -np.inf or held > bank.full_wh:
                        held = np.inf
                        break
                    held = max(before(held, nets[s], hours, bank), bank.reserve_wh)
                if held <= bank.full_wh and held < need[j, t]:
                    need[j, t] = held
        if may_wait:
            for t in range(min(by_step, steps) - 1, -1, -1):
                if need[j, t + 1] < np.inf:
                    held = before(need[j, t + 1], way.rest_w[t] - way.house_w[t], hours, bank)
                    held = max(held, bank.reserve_wh)
                    if held <= bank.full_wh and held < need[j, t]:
                        need[j, t] = held


@dataclass(frozen=True, eq=False)
class Needs:
    """What a way home needs: `need_wh` at its stretches' ends and the steps' edges, shape (n + 1, t + 1)."""

    way: Way
    left_m: Array  # way still to go at each end of a stretch (n + 1,)
    need_wh: Array

    def at(self, left_m: float, hours: float) -> float:
        """The least charge with so much of the way to go, hours after the way's start; inf for none [Wh]."""
        place = float(np.interp(-left_m, -self.left_m, np.arange(len(self.left_m))))
        t = hours * HOUR_S / self.way.step_s
        if t > self.need_wh.shape[1] - 1:
            return math.inf
        low, early = int(place), int(t)
        total = 0.0
        for node, weight in ((low, 1 - place + low), (low + 1, place - low)):
            for step, share in ((early, 1 - t + early), (early + 1, t - early)):
                if weight * share > 1e-12:
                    total += weight * share * float(self.need_wh[node, step])
        return total

    def reach_m(self, held_wh: float, hours: float) -> float:
        """The furthest way home that a charge still does, hours after the way's start [m]."""
        t = hours * HOUR_S / self.way.step_s
        early = int(t)
        if early + 1 > self.need_wh.shape[1] - 1:
            return 0.0
        share = t - early
        asked = self.need_wh[:, early] if share < SAME_STEP else (
            (1 - share) * self.need_wh[:, early] + share * self.need_wh[:, early + 1]
        )  # fmt: skip
        reached = 0.0
        for node in range(len(asked) - 2, -1, -1):  # from home outward
            if asked[node] > held_wh:
                less, more = asked[node + 1], asked[node]
                if np.isfinite(more) and more > less:
                    part = max(held_wh - less, 0.0) / (more - less)
                    reached += part * (self.left_m[node] - self.left_m[node + 1])
                return float(reached)
            reached = float(self.left_m[node])
        return reached


def needs_home(
    way: Way,
    demand: Demand,
    bank: Watthours,
    home_by_h: float,
    may_wait: bool = True,
    stretch_m: float = NEAR_M,
    slowest_mps: float = SLOWEST_MPS,
) -> Needs:
    """What a way home needs of the bank from each place and hour.

    Parameters
    ----------
    way : Way
        Home, from the far end on, its sun that of a poor sky.
    demand : Demand
    bank : Watthours
    home_by_h : float
        Hours after the way's start.
    may_wait : bool
        Whether she may anchor on the way.
    stretch_m, slowest_mps : float

    Returns
    -------
    Needs
    """
    pieces: Cut = cut(way.length_m, stretch_m)
    need = np.empty((len(pieces.length_m) + 1, way.along.shape[1] + 1))
    by = min(int(home_by_h * HOUR_S / way.step_s + 1e-9), way.along.shape[1])
    _needs(
        way,
        demand,
        bank,
        pieces.length_m,
        pieces.leg,
        pieces.stop_steps(way),
        by,
        may_wait,
        slowest_mps,
        need,
    )
    left = float(pieces.length_m.sum()) - np.concatenate([[0.0], np.cumsum(pieces.length_m)])
    return Needs(way, left, need)


@dataclass(frozen=True)
class Turn:
    """A last turn: when, how far out, with what charge; hours after the way's start."""

    turn_h: float
    out_m: float
    charge_wh: float
    home_h: float | None = None


def last_turn_home(
    out_h: Array, out_m: Array, out_wh: Array, needs: Needs, whole_m: float | None = None
) -> Turn | None:
    """The last moment of a way out before which every earlier one gets home.

    Parameters
    ----------
    out_h, out_m, out_wh : ndarray, shape (t,)
        Moments of the way out: hours after the start of the way home's clock, metres gone, charge.
    needs : Needs
    whole_m : float, optional
        Length of the way home from its beginning; that of `needs` where it is not given.

    Returns
    -------
    Turn or None
        None where not even the first moment gets home.
    """
    spare = [wh - needs.at(m, h) for h, m, wh in zip(out_h, out_m, out_wh, strict=True)]
    good = 0
    while good < len(spare) and spare[good] >= -1e-6:
        good += 1
    if good == 0:
        return None
    k = good - 1
    share = 0.0
    if good < len(spare) and math.isfinite(spare[good]):
        share = spare[k] / (spare[k] - spare[good]) if spare[k] > spare[good] else 0.0

    def between(x: Array) -> float:
        return float(x[k] + share * (x[k + 1] - x[k])) if share > 0 else float(x[k])

    return Turn(between(out_h), between(out_m), between(out_wh))


def same_speed_turn(
    out_h: Array, out_m: Array, out_wh: Array, way: Way, demand: Demand, bank: Watthours, speed_mps: float,
    home_by_h: float,
) -> Turn | None:  # fmt: skip
    """The same where she comes home at one speed through the water.

    `way` is the way home from the farthest place that `out_m` reaches.
    """

    def home(h: float, m: float, wh: float) -> float:
        """When she is home, inf where she is not by then or not above the reserve."""
        nearer = _from(way, m)
        sailed = sail(nearer, demand, Holding.THROUGH_WATER, speed_mps, start_h=h)
        if not sailed.arrives or sailed.arrives_h > home_by_h:
            return math.inf
        before_turn = np.clip(h * HOUR_S / way.step_s - np.arange(len(way.house_w)), 0.0, 1.0)
        left = nearer._replace(house_w=nearer.house_w * (1 - before_turn))
        sailed.rows[:, SUN] *= 1 - before_turn
        return sailed.arrives_h if keeps(left, sailed, bank, wh) else math.inf

    good = -1
    while good + 1 < len(out_h) and math.isfinite(
        home(float(out_h[good + 1]), float(out_m[good + 1]), float(out_wh[good + 1]))
    ):
        good += 1
    if good < 0:
        return None
    low, high = float(good), float(min(good + 1, len(out_h) - 1))
    index = np.arange(len(out_h))

    def at(place: float) -> tuple[float, float, float]:
        h, m, wh = (float(np.interp(place, index, x)) for x in (out_h, out_m, out_wh))
        return h, m, wh

    while high - low > 1e-3:
        middle = (low + high) / 2
        if math.isfinite(home(*at(middle))):
            low = middle
        else:
            high = middle
    h, m, wh = at(low)
    return Turn(h, m, wh, home(h, m, wh))


def _from(way: Way, left_m: float) -> Way:
    """The last metres of a way: legs before them have no length, and no stop."""
    lengths, stops = way.length_m.copy(), way.stop_s.copy()
    ahead = float(lengths.sum()) - left_m
    for k in range(len(lengths)):
        used = min(max(ahead, 0.0), float(lengths[k]))
        if used > 0 and used == lengths[k] and k + 1 < len(lengths):
            stops[k] = 0.0
        lengths[k] -= used
        ahead -= used
    return way._replace(length_m=lengths, stop_s=stops)


def muscle_h(way: Way, speed_mps: float, start_h: float = 0.0, may_anchor: bool = True) -> float | None:
    """Hours home by legs or arms at one speed through the water, anchored where the stream beats her.

    Parameters
    ----------
    way : Way
    speed_mps : float
    start_h : float
        Hours after the way's start.
    may_anchor : bool
        Without it she is carried back while the stream is the stronger.

    Returns
    -------
    float or None
        Hours under way and at anchor; None where she is not home by the way's end.
    """
    t = start_h * HOUR_S / way.step_s
    leg, done, hours = 0, 0.0, 0.0
    while t < way.along.shape[1]:
        s = int(t)
        part = min(s + 1 - t, 1.0) or 1.0
        along, across = float(way.along[leg, s]), float(way.across[leg, s])
        held = speed_mps > abs(across)
        ground = (math.sqrt(speed_mps**2 - across**2) if held else 0.0) + along
        if may_anchor:
            ground = max(ground, 0.0) if held else 0.0
        time_s = part * way.step_s
        left = float(way.length_m[leg]) - done
        if ground * time_s >= left and ground > 0:
            used = left / ground
            hours += used / HOUR_S
            t += used / way.step_s
            leg, done = leg + 1, 0.0
            if leg == len(way.length_m):
                return hours
            continue
        done += ground * time_s
        hours += time_s / HOUR_S
        t = float(s + 1)
    return None
