"""The largest constant motor watts that a day sustains, found by bisection on watts (not on speed).

Power rises with speed, so the largest sustainable watts give the largest sustainable speed, whatever the
demand curve.
"""

from __future__ import annotations

import numpy as np
from numba import float64, int64, njit, types
from numpy.typing import NDArray

from parhelion.balance.flow import end_of_day, motor_watts
from parhelion.bank.joint import ABOARD, Aboard
from parhelion.computing.kernels import OPTIONS

Array = NDArray[np.float64]


POWER_HALVINGS = 20  # of what the day's sun allows: about a milliwatt on a boat's drive
MOST_DAYS = 30  # days run on from full before a slow loss counts as a loss
SOC_TOLERANCE = 1e-8  # "at least that charge a day later", to rounding


@njit(float64[::1](float64[:, ::1], float64), **OPTIONS)
def motor_of(motor: Array, power_w: float) -> Array:
    """The motor's mean watts over each step at constant watts; rows of `motor`: share, relief, idle."""
    made = np.empty(motor.shape[1])
    for t in range(motor.shape[1]):
        made[t] = motor_watts(power_w, motor[0, t], motor[1, t], motor[2, t])
    return made


@njit(
    types.UniTuple(float64, 2)(
        float64[:, ::1], float64[:, ::1], float64[:, ::1], float64, float64, float64, float64, ABOARD
    ),
    **OPTIONS,
)
def start_that_lasts(
    sun_w: Array,
    house_w: Array,
    motor: Array,
    power_w: float,
    fullest: float,
    own_fullest: float,
    step_h: float,
    aboard: Aboard,
) -> tuple[float, float]:
    """Start charges from reserve to full that the day gives back with the motor never stopped; -1 if none.

    The charge a day later rises with the start charge, never faster. So the day run on from full falls to the
    largest charge that returns to itself; if the motor stops on the way down there is none. Harder motoring
    never raises that charge, so the run may begin at `fullest`, the one found for fewer watts.
    """
    watts = motor_of(motor, power_w)
    start, own = fullest, own_fullest
    two = aboard.joint.present > 0
    for _ in range(MOST_DAYS):
        end, own_end, runs, refused = end_of_day(
            sun_w, house_w, watts, start, own, len(sun_w), step_h, aboard
        )
        if not runs or end < aboard.main.reserve - SOC_TOLERANCE:
            return -1.0, -1.0
        if end >= start - SOC_TOLERANCE and (not two or own_end >= own - SOC_TOLERANCE):
            return start, own
        if not refused and not two:  # nothing was turned away: a lower start loses as much, day after day
            return -1.0, -1.0
        start, own = min(end, start), min(own_end, own)
    return -1.0, -1.0


@njit(
    float64[::1](float64[:, ::1], float64[:, ::1], float64[:, ::1], float64, float64, float64, ABOARD),
    **OPTIONS,
)
def steady_power(
    sun_w: Array,
    house_w: Array,
    motor: Array,
    least_w: float,
    most_w: float,
    step_h: float,
    aboard: Aboard,
) -> Array:
    """Largest constant motor watts over the motoring steps that some start charge sustains for ever.

    Parameters
    ----------
    sun_w : ndarray, shape (t, 2)
        One day at the main bank and at the house's own [W].
    house_w : ndarray, shape (4, t)
        As of `run_days` [W].
    motor : ndarray, shape (3, t)
        Share of each step in which the motor runs [-], what others push [W], the idle draw [W].
    least_w, most_w : float
        The drive's idle draw and rating [W].

    Returns
    -------
    ndarray, shape (3,)
        Watts and the start charges; watts -1 where not even the idle draw is sustained.
    """
    start, own = start_that_lasts(sun_w, house_w, motor, most_w, 1.0, 1.0, step_h, aboard)
    if start >= 0:
        return np.array([most_w, start, own])
    start, own = start_that_lasts(sun_w, house_w, motor, least_w, 1.0, 1.0, step_h, aboard)
    if start < 0:
        return np.array([-1.0, -1.0, -1.0])
    # all the sun spent on the motor and nothing lost: no steady watts lie above that
    spent = (sun_w.sum() + (motor[0] * motor[1]).sum()) / motor[0].sum()
    low, high = least_w, max(min(most_w, spent), least_w)
    for _ in range(POWER_HALVINGS):
        middle = (low + high) / 2
        found, own_found = start_that_lasts(sun_w, house_w, motor, middle, start, own, step_h, aboard)
        if found >= 0:
            low, start, own = middle, found, own_found
        else:
            high = middle
    return np.array([low, start, own])


@njit(
    float64(
        float64[:, ::1], float64[:, ::1], float64[:, ::1], float64, float64, float64, int64, float64, ABOARD
    ),
    **OPTIONS,
)
def power_to_reserve(
    sun_w: Array,
    house_w: Array,
    motor: Array,
    start_soc: float,
    least_w: float,
    most_w: float,
    last_step: int,
    step_h: float,
    aboard: Aboard,
) -> float:
    """Largest constant watts that never stop from a start charge to the last motoring step; -1 if none."""
    for trial in (most_w, least_w):
        _, _, runs, _ = end_of_day(
            sun_w, house_w, motor_of(motor, trial), start_soc, start_soc, last_step, step_h, aboard
        )
        if runs and trial == most_w:
            return most_w
        if not runs and trial == least_w:
            return -1.0
    low, high = least_w, most_w
    for _ in range(POWER_HALVINGS):
        middle = (low + high) / 2
        _, _, runs, _ = end_of_day(
            sun_w, house_w, motor_of(motor, middle), start_soc, start_soc, last_step, step_h, aboard
        )
        if runs:
            low = middle
        else:
            high = middle
    return low
