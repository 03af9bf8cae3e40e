"""The best plan of a way: dynamic programming over (end of a stretch, clock), the most charge there.

Legs are cut into stretches, none across a leg's end. A move takes a whole number of steps at a constant
speed over the ground, so that the speed through the water follows without a triangle to solve and every
plan can be sailed. More charge is never worse, so one number a place and hour is enough. One sweep gives
the whole trade: the last column is the most charge for every hour of arrival, its first entry the earliest.
It is swept coarsely, then twice more finely in a corridor about the plan, laid again wherever the plan
touches the corridor's edge.

A stretch of constant speed over the ground is some tenths of a per cent from the best where the stream
turns within it; docs/methods/passage.md has what was measured.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numba import boolean, float64, int64, njit, types
from numpy.typing import NDArray

from parhelion.computing.kernels import OPTIONS
from parhelion.route.charge import WATTHOURS, Watthours, after
from parhelion.route.held import COLUMNS, GONE, GROUND, LEG, MOTOR, REST, SHORE, SPEED, SUN
from parhelion.route.triangle import through_water
from parhelion.route.way import DEMAND, FULL_THROTTLE, HOUR_S, WAY, Demand, LegAhead, Way, laid, motor_w

Array = NDArray[np.float64]
Counts = NDArray[np.int64]

STRETCH_M = 4_000.0  # at most; some 2 nm
COARSE_S = 300.0
FINER = ((60.0, 720.0), (15.0, 120.0))  # steps, and the corridor to either side of the plan [s]
RELAID = 12  # times at most
MOST_CELLS = 10e6  # places x hours x speeds of a sweep: a second or less
SLOWEST_MPS = 0.25  # over the ground; anchoring is slower still


# Rows of what one speed over the ground makes of a leg: watt-hours into the bank and steps faster than the
# boat, both summed up to each step; net watts; the highest and the lowest of the first row within a move
GAINED, TOO_FAST, NET, HIGHEST, LOWEST = range(5)


@njit(boolean(WAY, DEMAND, WATTHOURS, int64, float64, int64, int64, float64[:, ::1]), **OPTIONS)
def _summed(
    way: Way, demand: Demand, bank: Watthours, leg: int, ground: float, low: int, high: int, sums: Array
) -> bool:
    """Fills the first rows of `sums`, shape (5, t + 1), between two steps, for a bank below its knee.

    Whether any step can be sailed.
    """
    hours = way.step_s / 3600.0
    sums[GAINED, low] = sums[TOO_FAST, low] = 0.0
    some = False
    for s in range(low, high):
        speed = through_water(ground, way.along[leg, s], way.across[leg, s])
        sums[GAINED, s + 1] = sums[GAINED, s]
        sums[TOO_FAST, s + 1] = sums[TOO_FAST, s]
        sums[NET, s] = 0.0
        if speed > demand.top_mps:
            sums[TOO_FAST, s + 1] += 1
            continue
        watts = motor_w(
            demand, speed, ground, way.wind_ahead[leg, s], way.wind_across[leg, s],
            way.waves_m[s], way.felt[leg, s],
        )  # fmt: skip
        if watts > demand.most_w * FULL_THROTTLE:
            sums[TOO_FAST, s + 1] += 1
            continue
        some = True
        net = way.sun_w[leg, s] - way.house_w[s] - watts
        sums[NET, s] = net
        if net < 0:
            sums[GAINED, s + 1] += net / bank.discharge_efficiency * hours
        else:
            sums[GAINED, s + 1] += min(net, bank.accept_w) * bank.charge_efficiency * hours
    return some


@njit(types.void(int64, int64, int64, float64[:, ::1], int64[::1]), **OPTIONS)
def _between(k: int, low: int, high: int, sums: Array, queue: Counts) -> None:
    """Fills the last two rows: the highest and the lowest within `k` steps of each step from `low` to `high`.

    From the last step back, with a queue of those that may still be the highest, rising.
    """
    for row, sign in ((HIGHEST, 1.0), (LOWEST, -1.0)):
        head = tail = 0
        for s in range(high, low - 1, -1):
            while tail > head and sign * sums[GAINED, queue[tail - 1]] <= sign * sums[GAINED, s]:
                tail -= 1
            queue[tail] = s
            tail += 1
            while queue[head] > s + k:
                head += 1
            sums[row, s] = sums[GAINED, queue[head]]


@njit(float64(WAY, WATTHOURS, float64, int64, int64, float64[:, ::1]), **OPTIONS)
def _marched(way: Way, bank: Watthours, held: float, first: int, end: int, sums: Array) -> float:
    """What is left after steps taken one by one; -inf where it goes below the reserve."""
    for s in range(first, end):
        base = held - sums[GAINED, s]
        if base + sums[HIGHEST, s] <= bank.knee * bank.full_wh and base + sums[LOWEST, s] >= bank.reserve_wh:
            return base + sums[GAINED, end]
        held = after(held, sums[NET, s], way.step_s / 3600.0, bank)
        if held < bank.reserve_wh:
            return -np.inf
    return held


@njit(
    types.void(
        WAY, DEMAND, WATTHOURS, float64[::1], int64[::1], int64[::1], int64[::1], int64[::1], int64, boolean,
        float64, float64, float64[:, ::1], int64[:, ::1],
    ),
    **OPTIONS,
)  # fmt: skip
def _sweep(  # noqa: PLR0912 - one loop, compiled whole
    way: Way, demand: Demand, bank: Watthours, stretch_m: Array, leg_of: Counts, stop_steps: Counts,
    from_step: Counts, to_step: Counts, first: int, may_wait: bool, start_wh: float, slowest: float,
    most: Array, moved: Counts,
) -> None:  # fmt: skip
    """Fills `most` [Wh] and `moved`, shapes (n + 1, t + 1): steps under way that led there, 0 for waiting.

    Node n may be occupied from `from_step[n]` to `to_step[n]`.
    """
    hours = way.step_s / 3600.0
    stretches = len(stretch_m)
    steps = way.along.shape[1]
    sums, queue = np.empty((5, steps + 1)), np.empty(steps + 1, dtype=np.int64)
    came = np.empty(steps + 1)  # at a stretch's end, before its stop
    came_in = np.empty(steps + 1, dtype=np.int64)
    most[:, :] = -np.inf
    moved[:, :] = -1
    most[0, first] = start_wh
    for j in range(stretches + 1):
        if may_wait or j == stretches:
            for t in range(from_step[j], min(to_step[j], steps)):
                if most[j, t] > -np.inf:
                    held = after(most[j, t], way.rest_w[t] - way.house_w[t], hours, bank)
                    if held >= bank.reserve_wh and held > most[j, t + 1]:
                        most[j, t + 1] = held
                        moved[j, t + 1] = 0
        if j == stretches:
            break
        leg, length, stop = leg_of[j], stretch_m[j], stop_steps[j]
        begins = j == 0 or leg_of[j - 1] != leg
        begin, last = from_step[j], min(to_step[j], steps - 1)
        came[:] = -np.inf
        for k in range(1, int(length / (slowest * way.step_s)) + 1):
            ground = length / (k * way.step_s)
            if ground > way.limit_mps[leg] * (1 + 1e-9):
                continue
            low, high = (
                max(begin, from_step[j + 1] - k - stop),
                min(last, to_step[j + 1] - k - stop, steps - k - stop),
            )
            if low > high:
                continue
            if not _summed(way, demand, bank, leg, ground, low, high + k, sums):
                continue
            _between(k, low, high + k, sums, queue)
            for t in range(low, high + 1):
                held = most[j, t]
                if held == -np.inf or (begins and not way.passable[leg, t]):
                    continue
                if sums[TOO_FAST, t + k] > sums[TOO_FAST, t]:
                    continue
                base = held - sums[GAINED, t]
                if base + sums[LOWEST, t] < bank.reserve_wh or base + sums[GAINED, t + k] <= came[t + k]:
                    continue
                if base + sums[HIGHEST, t] <= bank.knee * bank.full_wh:
                    held = base + sums[GAINED, t + k]
                else:
                    held = _marched(way, bank, held, t, t + k, sums)
                if held > came[t + k]:
                    came[t + k] = held
                    came_in[t + k] = k
        for t in range(steps + 1 - stop):
            held = came[t]
            if held == -np.inf:
                continue
            for s in range(t, t + stop):
                held = after(held, way.rest_w[s] + way.shore_w[leg] - way.house_w[s], hours, bank)
            if held >= bank.reserve_wh:
                most[j + 1, t + stop] = held
                moved[j + 1, t + stop] = came_in[t]


@dataclass(frozen=True, eq=False)
class Cut:
    """A way's stretches."""

    length_m: Array
    leg: Counts

    def stop_steps(self, way: Way) -> Counts:
        """Steps of the stop after each stretch; none after the last."""
        ends = np.append(self.leg[1:] != self.leg[:-1], False)
        return np.where(ends, np.ceil(way.stop_s[self.leg] / way.step_s - 1e-9), 0).astype(np.int64)


def cut(length_m: Array, most_m: float = STRETCH_M) -> Cut:
    """Legs cut into even stretches of at most some metres."""
    pieces = np.maximum(np.ceil(length_m / most_m - 1e-9), 1).astype(int)
    leg = np.repeat(np.arange(len(length_m)), pieces)
    return Cut(np.ascontiguousarray(length_m[leg] / pieces[leg]), leg.astype(np.int64))


@dataclass(frozen=True, eq=False)
class Best:
    """A best plan.

    `moves` are stretch by stretch the steps at which it is begun and ended, of `way`; `trade` is the most
    charge at the way's end for every step of arrival there [Wh], -inf where it cannot be.
    """

    way: Way
    stretches: Cut
    moves: tuple[tuple[int, int], ...]
    end_step: int
    charge_wh: float
    trade: Array

    @property
    def arrives_h(self) -> float:
        """Hours after the way's start at the end of the last stretch."""
        return self.moves[-1][1] * self.way.step_s / HOUR_S

    @property
    def end_h(self) -> float:
        return self.end_step * self.way.step_s / HOUR_S

    def sailed(self, demand: Demand) -> Array:
        """The plan step by step, shape (t, 8), as of a held one."""
        way = self.way
        rows = np.zeros((way.along.shape[1], COLUMNS))
        rows[:, SUN], rows[:, REST] = way.rest_w, 1.0
        gone = 0.0
        stops = self.stretches.stop_steps(way).tolist()
        parts = zip(self.moves, self.stretches.length_m, self.stretches.leg, stops, strict=True)
        for (start, end), length, leg, stop in parts:
            ground = length / ((end - start) * way.step_s)
            rows[start:, GONE] = gone
            for t in range(start, end):
                speed = through_water(ground, way.along[leg, t], way.across[leg, t])
                watts = motor_w(
                    demand, speed, ground, way.wind_ahead[leg, t], way.wind_across[leg, t],
                    way.waves_m[t], way.felt[leg, t],
                )  # fmt: skip
                gone += ground * way.step_s
                rows[t, [MOTOR, SUN, GONE, SPEED, GROUND, REST]] = (
                    watts,
                    way.sun_w[leg, t],
                    gone,
                    speed,
                    ground,
                    0,
                )
            rows[end:, GONE] = gone
            rows[start:, LEG] = leg
            rows[end : end + stop, [SUN, SHORE]] += way.shore_w[leg]
        return rows


def _traced(moved: Counts, stops: Counts, end_step: int) -> tuple[tuple[int, int], ...]:
    t, moves = end_step, []
    for node in range(len(stops), 0, -1):
        while moved[node, t] == 0:
            t -= 1
        end = t - int(stops[node - 1])
        t = end - int(moved[node, t])
        moves.append((t, end))
    return tuple(reversed(moves))


def _end_of(last: Array, arrive_step: int | None) -> int | None:
    reached = np.flatnonzero(last > -np.inf)
    if arrive_step is None:
        return int(reached[0]) if reached.size else None
    return arrive_step if arrive_step < len(last) and last[arrive_step] > -np.inf else None


class Laying:
    """The same legs, sun and wind over steps of any length, made when they are asked for.

    `sun_w` of shape (t,) or (l, t); see `laid`.
    """

    def __init__(
        self, legs: Sequence[LegAhead], start_h: float, step_s: float, sun_w: Array, house_w: Array,
        wind_from_deg: float | Array = 0.0, wind_mps: float | Array = 0.0, waves_m: float | Array = 0.0,
        rest_w: Array | None = None,
    ):  # fmt: skip
        self.legs, self.start_h, self.step_s = legs, start_h, step_s
        steps = len(house_w)
        weather = (wind_from_deg, wind_mps, waves_m)
        blown = (np.broadcast_to(np.asarray(x, dtype=float), (steps,)) for x in weather)
        sun = np.asarray(sun_w, dtype=float)
        rest = (sun if sun.ndim == 1 else sun[0]) if rest_w is None else np.asarray(rest_w, dtype=float)
        self.series = [sun, np.asarray(house_w, dtype=float), *blown, rest]

    def over(self, step_s: float) -> Way:
        """Laid over steps of this length, which divides the series' own or is a multiple of it."""
        if step_s <= self.step_s:
            fold = round(self.step_s / step_s)
            parts = [np.repeat(part, fold, axis=-1) for part in self.series]
        else:
            fold = round(step_s / self.step_s)
            whole = self.series[1].shape[-1] // fold * fold
            folded = [part[..., :whole].reshape(*part.shape[:-1], -1, fold) for part in self.series]
            sun, house, *blown, rest = folded
            middle = fold // 2  # an angle has no mean
            parts = [sun.mean(-1), house.mean(-1), *(part[:, middle] for part in blown), rest.mean(-1)]
        return laid(self.legs, self.start_h, step_s, *parts)


def best(
    laying: Laying,
    demand: Demand,
    bank: Watthours,
    start_wh: float,
    arrive_h: float | None = None,
    may_wait: bool = True,
    finest_s: float = 15.0,
    stretch_m: float = STRETCH_M,
    leave_h: float = 0.0,
    slowest_mps: float = SLOWEST_MPS,
    near: Best | None = None,
) -> Best | None:
    """The earliest arrival that keeps the reserve all the way, or the most charge at an hour.

    Parameters
    ----------
    laying : Laying
    demand : Demand
    bank : Watthours
    start_wh : float
    arrive_h : float, optional
        Hours after the way's start; the most charge then, arrived then or before. The earliest without it.
    may_wait : bool
        Whether she may anchor between stretches.
    finest_s : float
        Steps of the last sweep [s].
    stretch_m : float
        Longest stretch.
    leave_h : float
        Hours after the way's start before which she does not leave.
    slowest_mps : float
        Slowest speed over the ground that is looked at.
    near : Best, optional
        A plan of the same way with another bank, about which it is looked for first.

    Returns
    -------
    Best or None
        None where nothing keeps the reserve and arrives.
    """
    longer = _longer(laying, stretch_m, slowest_mps)
    steps_s = [longer * COARSE_S, *(step for step, _ in FINER if step >= finest_s)]
    found = near
    for level, step_s in enumerate(steps_s):
        if level == 0 and near is not None:
            continue
        way = laying.over(step_s)
        sweeps = Sweeps(
            way, cut(way.length_m, longer * stretch_m), demand, bank, start_wh, may_wait, slowest_mps,
            first=math.ceil(leave_h * HOUR_S / step_s - 1e-9),
            end=None if arrive_h is None else min(int(arrive_h * HOUR_S / step_s + 1e-9), way.along.shape[1]),
        )  # fmt: skip
        if found is None:
            windows = sweeps.whole()
            if level > 0 and sweeps.cells(windows) > MOST_CELLS:
                return None  # of a shorter way a bank that only just reaches is tried in finer steps
            found = sweeps.planned(windows)
        else:
            made = sweeps.about(found, int(longer * FINER[level - 1][1] / step_s))
            if made is None and found is near:
                return best(
                    laying, demand, bank, start_wh, arrive_h, may_wait, finest_s, stretch_m, leave_h,
                    slowest_mps,
                )  # fmt: skip
            found = _in_steps(made or found, way)
    return found


@dataclass(frozen=True, eq=False)
class Sweeps:
    """What the sweeps over one way, in steps of one length, have in common."""

    way: Way
    pieces: Cut
    demand: Demand
    bank: Watthours
    start_wh: float
    may_wait: bool
    slowest_mps: float
    first: int  # step before which she does not leave
    end: int | None  # step at which the most charge is asked for; None for the earliest arrival

    @property
    def last(self) -> int:
        return self.end or self.way.along.shape[1]

    def whole(self) -> tuple[Counts, Counts]:
        """Any place at any step."""
        nodes = len(self.pieces.length_m) + 1
        return np.full(nodes, self.first, dtype=np.int64), np.full(nodes, self.last, dtype=np.int64)

    def cells(self, windows: tuple[Counts, Counts]) -> float:
        """How much a sweep looks at: places x hours x speeds."""
        least_m = self.slowest_mps * self.way.step_s
        return float(((windows[1] - windows[0])[:-1] * (self.pieces.length_m / least_m)).sum())

    def planned(self, windows: tuple[Counts, Counts]) -> Best | None:
        """The best plan with every place within its window; None where there is none."""
        way, pieces = self.way, self.pieces
        shape = (len(pieces.length_m) + 1, way.along.shape[1] + 1)
        most, moved = np.empty(shape), np.empty(shape, dtype=np.int64)
        _sweep(
            way, self.demand, self.bank, pieces.length_m, pieces.leg, pieces.stop_steps(way), *windows,
            self.first, self.may_wait, float(self.start_wh), self.slowest_mps, most, moved,
        )  # fmt: skip
        at = _end_of(most[-1], self.end)
        if at is None:
            return None
        moves = _traced(moved, pieces.stop_steps(way), at)
        return Best(way, pieces, moves, at, float(most[-1, at]), most[-1])

    def about(self, plan: Best, width: int) -> Best | None:
        """The best plan within so many steps of another, looked for again where it touches the corridor."""
        scale = plan.way.step_s / self.way.step_s
        stops = self.pieces.stop_steps(self.way)
        arrivals = [self.first, *(round(b * scale) for _, b in plan.moves)]
        leaves = [*(round(a * scale) for a, _ in plan.moves), round(plan.end_step * scale)]
        found: Best | None = None
        for _ in range(RELAID):
            if self.end is not None:
                leaves[-1] = self.end
            low = np.array([max(a - width, self.first) for a in arrivals], dtype=np.int64)
            high = np.array([min(b + width, self.last) for b in leaves], dtype=np.int64)
            low[0] = self.first
            if self.cells((low, high)) > MOST_CELLS:
                break
            made = self.planned((low, high))
            if made is None:
                width *= 2
                continue
            found = made
            arrivals = [self.first, *(b + int(s) for (_, b), s in zip(made.moves, stops, strict=True))]
            leaves = [*(a for a, _ in made.moves), made.end_step]
            if not any(
                (a <= lo and lo > self.first) or (b >= hi and hi < self.last)
                for a, b, lo, hi in zip(arrivals, leaves, low.tolist(), high.tolist(), strict=True)
            ):
                break
        return found


def _longer(laying: Laying, stretch_m: float, slowest_mps: float) -> int:
    """How many times as long the first sweep's steps and stretches are where a way takes many days."""
    hours = len(laying.series[1]) * laying.step_s / HOUR_S
    length_m = sum(leg.length_m for leg in laying.legs)
    cells = length_m / (slowest_mps * COARSE_S) * hours * HOUR_S / COARSE_S
    return max(math.ceil(math.sqrt(cells / MOST_CELLS)), 1)


def _in_steps(found: Best, way: Way) -> Best:
    """A plan in the finer steps of the same way; as it is where it is in these already."""
    times = round(found.way.step_s / way.step_s)
    if times == 1:
        return found
    trade = np.full(way.along.shape[1] + 1, -np.inf)
    known = found.trade[: (len(trade) - 1) // times + 1]
    trade[: len(known) * times : times] = known
    moves = tuple((start * times, end * times) for start, end in found.moves)
    return Best(way, found.stretches, moves, found.end_step * times, found.charge_wh, trade)
