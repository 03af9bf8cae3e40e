"""Days at the dock until the bank is full, and how far a charge goes without a pause."""

from __future__ import annotations

from functools import partial

import numpy as np
from numba import float64, int64, njit, types
from numpy.typing import NDArray

from parhelion.balance.flow import (
    ESSENTIAL,
    HOUSE_SOC,
    OTHER,
    OWN_ESSENTIAL,
    OWN_OTHER,
    RAN,
    SOC,
    STOPPED_BELOW,
    motor_watts,
    step,
)  # fmt: skip
from parhelion.bank.joint import ABOARD, Aboard
from parhelion.computing.kept import kept_by_content
from parhelion.computing.kernels import OPTIONS
from parhelion.computing.together import shares_of, together
from parhelion.design.banks import MAIN, OWN

Array = NDArray[np.float64]


LONGEST_WAIT_DAYS = 30
NEXT_MEMBER = 68  # the next day of a member is this many members on; shares no factor with 201
LONGEST_RANGE_H = 72.0  # after this "the sun keeps up"


@njit(
    float64[::1](
        float64[:, :, ::1], float64[:, ::1], float64, float64, int64, int64, int64, float64[::1], ABOARD
    ),
    **OPTIONS,
)
def some_days_to_full(
    sun_w: Array,
    house_w: Array,
    start_soc: float,
    own_start_soc: float,
    start_step: int,
    first: int,
    last: int,
    step_h: Array,
    aboard: Aboard,
) -> Array:
    """The waits of the members from first to last; see `days_to_full`."""
    members, steps, _ = sun_w.shape
    waits = np.empty(last - first)
    two = aboard.joint.present > 0
    full = aboard.main.full
    for m in range(first, last):
        soc, own = start_soc, own_start_soc
        waited_h = 0.0
        day = 0
        t = start_step
        waits[m - first] = np.inf
        if soc >= full and (not two or own >= aboard.house.full):
            waits[m - first] = 0.0
            continue
        while day <= LONGEST_WAIT_DAYS:
            row = (m + day * NEXT_MEMBER) % members
            made = step(
                soc, own, sun_w[row, t, MAIN], sun_w[row, t, OWN], house_w[ESSENTIAL, t], house_w[OTHER, t],
                house_w[OWN_ESSENTIAL, t], house_w[OWN_OTHER, t], 0.0, step_h[t], aboard,
            )  # fmt: skip
            after = made[SOC]
            if after >= full and (not two or made[HOUSE_SOC] >= aboard.house.full):
                part = 1.0 if soc >= full else (full - soc) / (after - soc)
                waits[m - first] = (waited_h + part * step_h[t]) / 24.0
                break
            soc, own = after, made[HOUSE_SOC]
            waited_h += step_h[t]
            t += 1
            if t == steps:
                t = 0
                day += 1
    return waits


@kept_by_content(8)
def days_to_full(
    sun_w: Array,
    house_w: Array,
    start_soc: float,
    own_start_soc: float,
    start_step: int,
    step_h: Array,
    aboard: Aboard,
) -> Array:
    """Clock days at the dock, motor off, from a step of the day until the bank counts as full.

    With a house bank of its own, until both do.

    Parameters
    ----------
    sun_w : ndarray, shape (n, t, 2)
        One day of each member, as of `run_days` [W]; later days take other members' draws.
    house_w : ndarray, shape (4, t)
        As of `run_days` [W].
    start_soc, own_start_soc : float
    start_step : int
        Step of the day at which the wait begins.
    step_h : ndarray, shape (t,)
        Lengths of the steps [h].

    Returns
    -------
    ndarray, shape (n,)
        [days]; inf where it is not full within 30 days.
    """

    def some(rows: slice) -> Array:
        made = some_days_to_full(
            sun_w, house_w, start_soc, own_start_soc, start_step, rows.start, rows.stop, step_h, aboard
        )
        return np.asarray(made)

    return np.concatenate(together([partial(some, rows) for rows in shares_of(len(sun_w))]))


@njit(
    types.UniTuple(float64, 2)(
        float64[:, ::1], float64[:, ::1], float64[:, ::1], float64, float64, int64, float64[::1], ABOARD
    ),
    **OPTIONS,
)
def hours_to_reserve(
    sun_w: Array,
    house_w: Array,
    motor: Array,
    power_w: float,
    start_soc: float,
    start_step: int,
    step_h: Array,
    aboard: Aboard,
) -> tuple[float, float]:
    """Hours of motoring without a pause until the reserve, the shown day repeated, and the sun's Wh in them.

    Returns
    -------
    (float, float)
        Hours (inf after 72: the sun keeps up) and the harvest that arrived in them [Wh].
    """
    soc, own, hours, sun = start_soc, start_soc, 0.0, 0.0
    t = start_step
    while hours < LONGEST_RANGE_H:
        watts = motor_watts(power_w, 1.0, motor[1, t], motor[2, t])
        row = step(
            soc, own, sun_w[t, MAIN], sun_w[t, OWN], house_w[ESSENTIAL, t], house_w[OTHER, t],
            house_w[OWN_ESSENTIAL, t], house_w[OWN_OTHER, t], watts, step_h[t], aboard,
        )  # fmt: skip
        given = sun_w[t, MAIN] + sun_w[t, OWN]
        if row[RAN] < STOPPED_BELOW:
            return hours + row[RAN] * step_h[t], sun + row[RAN] * step_h[t] * given
        soc, own = row[SOC], row[HOUSE_SOC]
        sun += given * step_h[t]
        hours += step_h[t]
        t = (t + 1) % len(sun_w)
    return np.inf, sun
