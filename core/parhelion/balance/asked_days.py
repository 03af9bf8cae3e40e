"""Days one after the other on which something is asked: whether the banks gave it, day by day.

References
----------
[1] Physics of a step: `balance.flow`. A step's sun is read between steady skies (`sun.skies`), so that the
    same days cost nothing to draw again for another array.
"""

from __future__ import annotations

import numpy as np
from numba import boolean, float64, int64, njit
from numpy.typing import NDArray

from parhelion.balance.flow import HOUSE, HOUSE_SOC, RAN, REFUSED, SOC, STOPPED_BELOW, step
from parhelion.bank.joint import ABOARD, Aboard
from parhelion.computing.kernels import OPTIONS
from parhelion.design.banks import MAIN, OWN

Array = NDArray[np.float64]

NOT_ASKED, FAILED, DONE = -1.0, 0.0, 1.0
SHED_W = 0.5  # mean watts: a house that lacks less over a step has what it asks


@njit(**OPTIONS)
def _judge(
    done: Array, asked: NDArray[np.bool_], of_house: NDArray[np.bool_], motor_w: Array, kept: Array,
    last: NDArray[np.int64], t: int, ran: float, soc: float, lacks_w: float,
) -> None:  # fmt: skip
    """What a step makes fail: a house that goes short, a motor that stops, too little left at the end."""
    for a in range(len(asked)):
        if not asked[a]:
            continue
        if of_house[a]:
            if lacks_w > SHED_W:
                done[a] = FAILED
        elif (motor_w[a] > 0 and ran < STOPPED_BELOW) or (t == last[a] and soc < kept[a]):
            done[a] = FAILED


@njit(**OPTIONS)
def _decided(failed: Array, done: Array, spare: Array) -> bool:
    """Counts a day's failures; whether one thing asked has failed on more days than it may."""
    over = False
    for a in range(len(failed)):
        if done[a] == FAILED:
            failed[a] += 1
            over = over or failed[a] > spare[a]
    return over


@njit(
    float64[:, ::1](
        int64[:, ::1], float64[:, ::1], float64[:, :, ::1], float64[:, :, ::1], float64[:, ::1],
        float64[:, ::1], boolean[:, ::1], boolean[::1], float64[::1], boolean[::1], float64, float64,
        float64[::1], ABOARD, int64, float64[::1],
    ),
    **OPTIONS,
)  # fmt: skip
def run_asked(
    below: NDArray[np.int64],
    share: Array,
    out_w: Array,
    rest_w: Array,
    house_w: Array,
    motor_w: Array,
    asked: NDArray[np.bool_],
    of_house: NDArray[np.bool_],
    kept: Array,
    filled: NDArray[np.bool_],
    start_soc: float,
    own_start_soc: float,
    step_h: Array,
    aboard: Aboard,
    warm: int,
    spare: Array,
) -> Array:
    """Whether each thing asked was done, on every day of a chain.

    Parameters
    ----------
    below, share : ndarray, shape (d, t)
        Of every day and step: the steady sky below its own, and how far it lies on the way to the next.
    out_w, rest_w : ndarray, shape (k, t, 2)
        At the banks under each steady sky, on a day out and on a day at rest [W].
    house_w : ndarray, shape (4, t)
        As of `flow.run_days` [W].
    motor_w : ndarray, shape (a, t)
        Mean watts of each step that each thing asked takes on its days [W].
    asked : ndarray of bool, shape (d, a)
        On which days each is asked.
    of_house : ndarray of bool, shape (a,)
        Whether it asks that the house never goes short, rather than that the motor never stops.
    kept : ndarray, shape (a,)
        State of charge that is to be left when its motoring ends.
    filled : ndarray of bool, shape (d,)
        Days that begin with full banks.
    start_soc, own_start_soc : float
    step_h : ndarray, shape (t,)
    aboard : Aboard
    warm : int
        Days at the start whose failures do not count.
    spare : ndarray, shape (a,)
        So many days of each may fail: with one more it is decided, and the days left are not run.

    Returns
    -------
    ndarray, shape (d, a + 3)
        NOT_ASKED, FAILED or DONE for each, FAILED where it was decided before; then the lowest charge of the
        day, the charge at its end, and what was refused [Wh].
    """
    days, steps = below.shape
    asks = motor_w.shape[0]
    found = np.zeros((days, asks + 3))
    soc, own = start_soc, own_start_soc
    last = np.zeros(asks, dtype=np.int64)
    for a in range(asks):
        for t in range(steps):
            if motor_w[a, t] > 0:
                last[a] = t
    failed = np.zeros(asks)
    for d in range(days):
        if filled[d]:
            soc, own = 1.0, 1.0
        out = False
        for a in range(asks):
            found[d, a] = DONE if asked[d, a] else NOT_ASKED
            if asked[d, a] and not of_house[a]:
                out = True
        lowest = soc
        for t in range(steps):
            k, f = below[d, t], share[d, t]
            table = out_w if out else rest_w
            main = table[k, t, MAIN] * (1 - f) + table[k + 1, t, MAIN] * f
            second = table[k, t, OWN] * (1 - f) + table[k + 1, t, OWN] * f
            motor = 0.0
            for a in range(asks):
                if asked[d, a]:
                    motor += motor_w[a, t]
            row = step(
                soc, own, main, second, house_w[0, t], house_w[1, t], house_w[2, t], house_w[3, t], motor,
                step_h[t], aboard,
            )  # fmt: skip
            soc, own = row[SOC], row[HOUSE_SOC]
            lowest = min(lowest, soc)
            found[d, asks + 2] += row[REFUSED] * step_h[t]
            lacks = house_w[0, t] + house_w[1, t] + house_w[2, t] + house_w[3, t] - row[HOUSE]
            _judge(found[d], asked[d], of_house, motor_w[:, t], kept, last, t, row[RAN], soc, lacks)
        found[d, asks] = lowest
        found[d, asks + 1] = soc
        if d >= warm and _decided(failed, found[d], spare):
            break
    return found


@njit(
    float64[::1](
        int64[:, ::1], float64[:, ::1], float64[:, :, ::1], float64[:, ::1], int64, float64[::1], ABOARD
    ),
    **OPTIONS,
)
def run_stays(
    below: NDArray[np.int64], share: Array, rest_w: Array, house_w: Array, length: int, step_h: Array,
    aboard: Aboard,
) -> Array:  # fmt: skip
    """Stays of so many steps, one after the other, each from full banks: whether the house had all it asked.

    Parameters
    ----------
    below, share, rest_w, house_w, step_h, aboard
        As of `run_asked`.
    length : int
        Steps of one stay.

    Returns
    -------
    ndarray, shape (n,)
        DONE or FAILED of every whole stay; the rest of the days is left out.
    """
    days, steps = below.shape
    whole = days * steps // length
    found = np.full(whole, DONE)
    for n in range(whole):
        soc, own = 1.0, 1.0
        for i in range(n * length, (n + 1) * length):
            d, t = i // steps, i % steps
            k, f = below[d, t], share[d, t]
            main = rest_w[k, t, MAIN] * (1 - f) + rest_w[k + 1, t, MAIN] * f
            second = rest_w[k, t, OWN] * (1 - f) + rest_w[k + 1, t, OWN] * f
            row = step(
                soc, own, main, second, house_w[0, t], house_w[1, t], house_w[2, t], house_w[3, t], 0.0,
                step_h[t], aboard,
            )  # fmt: skip
            soc, own = row[SOC], row[HOUSE_SOC]
            lacks = house_w[0, t] + house_w[1, t] + house_w[2, t] + house_w[3, t] - row[HOUSE]
            if lacks > SHED_W:
                found[n] = FAILED
                break
    return found
