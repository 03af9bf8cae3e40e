"""The largest constant motor watts that a day sustains, found by bisection on watts (not on speed).

Power rises with speed, so the largest sustainable watts give the largest sustainable speed, whatever the
demand curve.
"""

from __future__ import annotations

import numpy as np
from numba import float64, int64, njit
from numpy.typing import NDArray

from parhelion.bank.store import STORE, Store
from parhelion.day.flow import end_of_day
from parhelion.kernels import OPTIONS

Array = NDArray[np.float64]


POWER_HALVINGS = 22  # of what the day's sun allows: less than a milliwatt on a boat's drive
MOST_DAYS = 30  # days run on from full before a slow loss counts as a loss
SOC_TOLERANCE = 1e-8  # "at least that charge a day later", to rounding


@njit(
    float64(float64[::1], float64[::1], float64[::1], float64[::1], float64, float64, float64, STORE),
    **OPTIONS,
)
def start_that_lasts(
    sun_w: Array,
    essential_w: Array,
    other_w: Array,
    motoring: Array,
    power_w: float,
    fullest: float,
    step_h: float,
    store: Store,
) -> float:
    """A start charge from reserve to full that the day gives back with the motor never stopped; -1 if none.

    The charge a day later rises with the start charge, never faster. So the day run on from full falls to the
    largest charge that returns to itself; if the motor stops on the way down there is none. Harder motoring
    never raises that charge, so the run may begin at `fullest`, the one found for fewer watts.
    """
    motor = motoring * power_w
    start = fullest
    for _ in range(MOST_DAYS):
        end, runs, refused = end_of_day(sun_w, essential_w, other_w, motor, start, len(sun_w), step_h, store)
        if not runs or end < store.reserve - SOC_TOLERANCE:
            return -1.0
        if end >= start - SOC_TOLERANCE:
            return start
        if not refused:  # nothing was turned away: a lower start loses as much, day after day
            return -1.0
        start = end
    return -1.0


@njit(
    float64[::1](float64[::1], float64[::1], float64[::1], float64[::1], float64, float64, float64, STORE),
    **OPTIONS,
)
def steady_power(
    sun_w: Array,
    essential_w: Array,
    other_w: Array,
    motoring: Array,
    least_w: float,
    most_w: float,
    step_h: float,
    store: Store,
) -> Array:
    """Largest constant motor watts over the motoring steps that some start charge sustains for ever.

    Parameters
    ----------
    sun_w, essential_w, other_w : ndarray, shape (t,)
        One day [W].
    motoring : ndarray, shape (t,)
        Share of each step in which the motor runs [-].
    least_w, most_w : float
        The drive's idle draw and rating [W].

    Returns
    -------
    ndarray, shape (2,)
        Watts and the start charge; watts -1 where not even the idle draw is sustained.
    """
    start = start_that_lasts(sun_w, essential_w, other_w, motoring, most_w, 1.0, step_h, store)
    if start >= 0:
        return np.array([most_w, start])
    start = start_that_lasts(sun_w, essential_w, other_w, motoring, least_w, 1.0, step_h, store)
    if start < 0:
        return np.array([-1.0, -1.0])
    # all the sun spent on the motor and nothing lost: no steady watts lie above that
    low, high = least_w, max(min(most_w, sun_w.sum() / motoring.sum()), least_w)
    for _ in range(POWER_HALVINGS):
        middle = (low + high) / 2
        found = start_that_lasts(sun_w, essential_w, other_w, motoring, middle, start, step_h, store)
        if found >= 0:
            low, start = middle, found
        else:
            high = middle
    return np.array([low, start])


@njit(
    float64(
        float64[::1],
        float64[::1],
        float64[::1],
        float64[::1],
        float64,
        float64,
        float64,
        int64,
        float64,
        STORE,
    ),
    **OPTIONS,
)
def power_to_reserve(
    sun_w: Array,
    essential_w: Array,
    other_w: Array,
    motoring: Array,
    start_soc: float,
    least_w: float,
    most_w: float,
    last_step: int,
    step_h: float,
    store: Store,
) -> float:
    """Largest constant watts that never stop from a start charge to the last motoring step; -1 if none."""
    low, high = least_w, most_w
    for trial in (most_w, least_w):
        _, runs, _ = end_of_day(
            sun_w, essential_w, other_w, motoring * trial, start_soc, last_step, step_h, store
        )
        if runs and trial == most_w:
            return most_w
        if not runs and trial == least_w:
            return -1.0
    for _ in range(POWER_HALVINGS):
        middle = (low + high) / 2
        _, runs, _ = end_of_day(
            sun_w, essential_w, other_w, motoring * middle, start_soc, last_step, step_h, store
        )
        if runs:
            low = middle
        else:
            high = middle
    return low
