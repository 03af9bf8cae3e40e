"""Days one after the other, each carrying its charge into the next, at constant motor watts."""

from __future__ import annotations

import numpy as np
from numba import float64, njit
from numpy.typing import NDArray

from parhelion.balance.flow import step
from parhelion.bank.joint import ABOARD, Aboard
from parhelion.computing.kernels import OPTIONS

Array = NDArray[np.float64]

RAN_H, MOTOR_WH, HOUSE_WH, REFUSED_WH, LOST_WH, END_SOC, STOPPED, RESIDUAL_WH = range(8)  # columns of a day
STOPPED_BELOW = 1 - 1e-9


@njit(
    float64[:, ::1](
        float64[:, :, ::1], float64[:, ::1], float64[::1], float64[::1], float64, float64, float64, ABOARD
    ),
    **OPTIONS,
)
def run_chain(
    sun_w: Array,
    house_w: Array,
    motor_w: Array,
    motoring: Array,
    start_soc: float,
    own_start_soc: float,
    step_h: float,
    aboard: Aboard,
) -> Array:
    """Every day of a chain: the motor gives way at the reserve, without foresight.

    Parameters
    ----------
    sun_w : ndarray, shape (n, t, 2)
        At the terminals of the main bank and of the house's own [W].
    house_w : ndarray, shape (4, t)
        As of `flow.run_days` [W].
    motor_w, motoring : ndarray, shape (t,)
        The motor's mean watts, and its share of each step.
    start_soc, own_start_soc : float

    Returns
    -------
    ndarray, shape (n, 8)
        Hours run, motor, house, refused, lost in banks and converters [Wh], charge at the day's end, 1 where
        the motor stopped, what the day's ledger leaves over [Wh].
    """
    days, steps, _ = sun_w.shape
    found = np.zeros((days, 8))
    soc, own = start_soc, own_start_soc
    for d in range(days):
        left = 0.0
        for t in range(steps):
            row = step(
                soc, own, sun_w[d, t, 0], sun_w[d, t, 1], house_w[0, t], house_w[1, t], house_w[2, t],
                house_w[3, t], motor_w[t], step_h, aboard,
            )  # fmt: skip
            soc, own = row[0], row[10]
            found[d, 0] += row[1] * motoring[t] * step_h
            found[d, 1] += row[5] * step_h
            found[d, 2] += row[4] * step_h
            found[d, 3] += row[2] * step_h
            lost = row[8] + row[9] + row[11]
            found[d, 4] += lost * step_h
            if motoring[t] > 0 and row[1] < STOPPED_BELOW:
                found[d, 6] = 1.0
            left += (
                sun_w[d, t, 0] + sun_w[d, t, 1] + row[7] - row[2] - row[4] - row[5] - row[6] - lost
            ) * step_h
        found[d, 5] = soc
        found[d, 7] = abs(left)
    return found
