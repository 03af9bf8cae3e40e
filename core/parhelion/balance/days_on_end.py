"""Days one after the other, each carrying its charge into the next, at constant motor watts."""

from __future__ import annotations

import numpy as np
from numba import float64, njit
from numpy.typing import NDArray

from parhelion.balance.flow import (
    CHARGED,
    CONVERTED,
    COULOMB,
    DISCHARGED,
    ESSENTIAL,
    HEAT,
    HOUSE,
    HOUSE_SOC,
    MOTOR,
    OTHER,
    OWN_ESSENTIAL,
    OWN_OTHER,
    RAN,
    REFUSED,
    SOC,
    STOPPED_BELOW,
    step,
)  # fmt: skip
from parhelion.bank.joint import ABOARD, Aboard
from parhelion.computing.kernels import OPTIONS
from parhelion.design.banks import MAIN, OWN

Array = NDArray[np.float64]

# Columns of a day
RAN_H, MOTOR_WH, HOUSE_WH, REFUSED_WH, LOST_WH, END_SOC, STOPPED, RESIDUAL_WH = range(8)
COLUMNS = 8


@njit(
    float64[:, ::1](
        float64[:, :, ::1],
        float64[:, ::1],
        float64[::1],
        float64[::1],
        float64,
        float64,
        float64[::1],
        ABOARD,
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
    step_h: Array,
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
    step_h : ndarray, shape (t,)
        Lengths of the steps [h].

    Returns
    -------
    ndarray, shape (n, 8)
        Hours run, motor, house, refused, lost in banks and converters [Wh], charge at the day's end, 1 where
        the motor stopped, what the day's ledger leaves over [Wh].
    """
    days, steps, _ = sun_w.shape
    found = np.zeros((days, COLUMNS))
    soc, own = start_soc, own_start_soc
    for d in range(days):
        left = 0.0
        for t in range(steps):
            row = step(
                soc, own, sun_w[d, t, MAIN], sun_w[d, t, OWN], house_w[ESSENTIAL, t], house_w[OTHER, t],
                house_w[OWN_ESSENTIAL, t], house_w[OWN_OTHER, t], motor_w[t], step_h[t], aboard,
            )  # fmt: skip
            h = step_h[t]
            soc, own = row[SOC], row[HOUSE_SOC]
            found[d, RAN_H] += row[RAN] * motoring[t] * h
            found[d, MOTOR_WH] += row[MOTOR] * h
            found[d, HOUSE_WH] += row[HOUSE] * h
            found[d, REFUSED_WH] += row[REFUSED] * h
            lost = row[COULOMB] + row[HEAT] + row[CONVERTED]
            found[d, LOST_WH] += lost * h
            if motoring[t] > 0 and row[RAN] < STOPPED_BELOW:
                found[d, STOPPED] = 1.0
            came = sun_w[d, t, MAIN] + sun_w[d, t, OWN] + row[DISCHARGED]
            left += (came - row[REFUSED] - row[HOUSE] - row[MOTOR] - row[CHARGED] - lost) * h
        found[d, END_SOC] = soc
        found[d, RESIDUAL_WH] = abs(left)
    return found
