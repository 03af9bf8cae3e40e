"""Days at the dock until the bank is full, and how far a charge goes without a pause."""

from __future__ import annotations

import numpy as np
from numba import float64, int64, njit, types
from numpy.typing import NDArray

from parhelion.bank.store import STORE, Store
from parhelion.day.flow import RAN, SOC, STOPPED_BELOW, step
from parhelion.kernels import OPTIONS

Array = NDArray[np.float64]


LONGEST_WAIT_DAYS = 30
NEXT_MEMBER = 68  # the next day of a member is this many members on; shares no factor with 201
LONGEST_RANGE_H = 72.0  # after this "the sun keeps up"


@njit(
    float64[::1](float64[:, ::1], float64[::1], float64[::1], float64, int64, float64, STORE),
    **OPTIONS,
)
def days_to_full(
    sun_w: Array,
    essential_w: Array,
    other_w: Array,
    start_soc: float,
    start_step: int,
    step_h: float,
    store: Store,
) -> Array:
    """Clock days at the dock, motor off, from a step of the day until the bank counts as full.

    Parameters
    ----------
    sun_w : ndarray, shape (n, 144)
        One day of each member at the bank's terminals [W]; later days take other members' draws.
    essential_w, other_w : ndarray, shape (144,)
        House [W].
    start_soc : float
    start_step : int
        Step of the day at which the wait begins.

    Returns
    -------
    ndarray, shape (n,)
        [days]; inf where it is not full within 30 days.
    """
    members, steps = sun_w.shape
    waits = np.empty(members)
    for m in range(members):
        soc = start_soc
        waited = 0.0
        day = 0
        t = start_step
        waits[m] = np.inf
        if soc >= store.full:
            waits[m] = 0.0
            continue
        while day <= LONGEST_WAIT_DAYS:
            row = (m + day * NEXT_MEMBER) % members
            made = step(soc, sun_w[row, t], essential_w[t], other_w[t], 0.0, step_h, store)
            after = made[SOC]
            if after >= store.full:
                waits[m] = (waited + (store.full - soc) / (after - soc)) * step_h / 24.0
                break
            soc = after
            waited += 1.0
            t += 1
            if t == steps:
                t = 0
                day += 1
    return waits


@njit(
    types.UniTuple(float64, 2)(
        float64[::1], float64[::1], float64[::1], float64, float64, int64, float64, STORE
    ),
    **OPTIONS,
)
def hours_to_reserve(
    sun_w: Array,
    essential_w: Array,
    other_w: Array,
    motor_w: float,
    start_soc: float,
    start_step: int,
    step_h: float,
    store: Store,
) -> tuple[float, float]:
    """Hours of motoring without a pause until the reserve, the shown day repeated, and the sun's Wh in them.

    Returns
    -------
    (float, float)
        Hours (inf after 72: the sun keeps up) and the harvest that arrived in them [Wh].
    """
    soc, hours, sun = start_soc, 0.0, 0.0
    t = start_step
    while hours < LONGEST_RANGE_H:
        row = step(soc, sun_w[t], essential_w[t], other_w[t], motor_w, step_h, store)
        if row[RAN] < STOPPED_BELOW:
            return hours + row[RAN] * step_h, sun + row[RAN] * step_h * sun_w[t]
        soc = row[SOC]
        sun += sun_w[t] * step_h
        hours += step_h
        t = (t + 1) % len(sun_w)
    return np.inf, sun
