"""Grey days on end at anchor, the house alone: which runs of them a bank carries, and how low it comes."""

from __future__ import annotations

import numpy as np
from numba import boolean, float64, int64, njit, types
from numpy.typing import NDArray

from parhelion.balance.dock import NEXT_MEMBER
from parhelion.balance.flow import ESSENTIAL, HOUSE, HOUSE_SOC, OTHER, OWN_ESSENTIAL, OWN_OTHER, SOC, step
from parhelion.bank.joint import ABOARD, Aboard
from parhelion.computing.kernels import OPTIONS
from parhelion.design.banks import MAIN, OWN

Array = NDArray[np.float64]

SHORTFALL_WH = 0.5  # a house that got all of a day but this much got everything


@njit(
    types.Tuple((boolean[::1], float64[::1]))(
        float64[:, :, ::1], float64[:, ::1], int64[::1], int64, float64[::1], ABOARD
    ),
    **OPTIONS,
)
def carried(
    sun_w: Array, house_w: Array, firsts: NDArray[np.int64], days: int, step_h: Array, aboard: Aboard
) -> tuple[NDArray[np.bool_], Array]:
    """Which runs of days a bank, full when they begin, keeps the house going over; the motor is off.

    Parameters
    ----------
    sun_w : ndarray, shape (n, t, 2)
        Grey days at the main bank and at the house's own [W].
    house_w : ndarray, shape (4, t)
        As of `run_days` [W].
    firsts : ndarray, shape (k,)
        The day that each run begins with; later ones are other days' draws, as in `days_to_full`.
    days : int
        On end.
    step_h : ndarray, shape (t,)
        Lengths of the steps [h].

    Returns
    -------
    (ndarray, ndarray), shapes (k,)
        Whether the house got all it asked on each day, and the main bank's lowest charge [-].
    """
    members, steps, _ = sun_w.shape
    kept, lowest = np.ones(len(firsts), dtype=np.bool_), np.ones(len(firsts))
    asked_wh = 0.0
    for t in range(steps):
        asked_wh += house_w[:, t].sum() * step_h[t]
    for k in range(len(firsts)):
        soc = own = 1.0
        for day in range(days):
            row = (firsts[k] + day * NEXT_MEMBER) % members
            served_wh = 0.0
            for t in range(steps):
                made = step(
                    soc, own, sun_w[row, t, MAIN], sun_w[row, t, OWN], house_w[ESSENTIAL, t],
                    house_w[OTHER, t], house_w[OWN_ESSENTIAL, t], house_w[OWN_OTHER, t], 0.0, step_h[t],
                    aboard,
                )  # fmt: skip
                soc, own = made[SOC], made[HOUSE_SOC]
                served_wh += made[HOUSE] * step_h[t]
                lowest[k] = min(lowest[k], soc)
            if served_wh < asked_wh - SHORTFALL_WH:
                kept[k] = False
    return kept, lowest
