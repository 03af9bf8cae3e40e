"""The largest constant motor watts that a day sustains, found on watts (not on speed).

Power rises with speed, so the largest sustainable watts give the largest sustainable speed, whatever the
demand curve.

References
----------
[1] The charge a day later rises with the start charge, never faster. So what a day gives back less what it
    began with is largest from the lowest start whose motor never stops: a day sustains some watts if and only
    if that start gets its charge back. What it gets back falls with the watts; its zero is bracketed and
    found by the Illinois form of the false position (G. Dowell and P. Jarratt, BIT 11 (1971) 168-174).
"""

from __future__ import annotations

import numpy as np
from numba import float64, int64, njit, types
from numpy.typing import NDArray

from parhelion.balance.flow import end_of_day, motor_watts
from parhelion.bank.joint import ABOARD, Aboard
from parhelion.computing.kept import kept_by_content
from parhelion.computing.kernels import OPTIONS
from parhelion.design.banks import MAIN, OWN

Array = NDArray[np.float64]

KEPT = 64  # solves of the last edits
POWER_HALVINGS = 20  # of the watts from a start charge to the reserve
MOST_TRIALS = 40  # of watts
TELLS = 1e-6  # state of charge given back: less tells nothing of how much more the day would sustain
SETTLED_FRAC = 2e-6  # of the watts: a bracket this narrow is done
LOWERINGS, RAISINGS = 20, 16  # trials for a start that lasts, and for the highest
LOWERED = 0.98  # of what is left over at the lowest
TOUCHES = 1e-5  # state of charge: a start this near its lowest is taken for it
MOST_DAYS = 30  # days run on from full before a slow loss counts as a loss
SOC_TOLERANCE = 1e-8  # "at least that charge a day later", to rounding
NEVER = -2.0  # a motor that stops whatever the start charge
NEARLY = 3e-5  # state of charge a day: at the very most a day sustains, a start that loses less gets it back


@njit(float64[::1](float64[:, ::1], float64), **OPTIONS)
def motor_of(motor: Array, power_w: float) -> Array:
    """The motor's mean watts over each step at constant watts; rows of `motor`: share, relief, idle."""
    made = np.empty(motor.shape[1])
    for t in range(motor.shape[1]):
        made[t] = motor_watts(power_w, motor[0, t], motor[1, t], motor[2, t])
    return made


@njit(
    types.UniTuple(float64, 4)(float64[:, ::1], float64[:, ::1], float64[::1], float64, float64[::1], ABOARD),
    **OPTIONS,
)
def start_that_lasts(
    sun_w: Array, house_w: Array, watts: Array, own: float, step_h: Array, aboard: Aboard
) -> tuple[float, float, float, float]:
    """A start charge that the day gives back, or the lowest that runs [1]: what is back over it, it, and the
    charge of the house's own bank a day later, and the same from full; the first NEVER where no start runs.

    `own`: where the house's own bank begins.
    """
    low, high = aboard.main.reserve, 1.0
    start, back, found, found_own, most_own = 1.0, NEVER, 1.0, 0.0, 0.0
    for trial in range(LOWERINGS):
        end, own_end, runs, _, lowest = end_of_day(
            sun_w, house_w, watts, start, own, len(sun_w), step_h, aboard
        )
        if runs:
            back, found, found_own = end - start, start, own_end
            most_own = own_end if trial == 0 else most_own
            spare = lowest - aboard.main.reserve
            if back > 0 or spare < TOUCHES:
                break
            high = min(high, end)  # no start above what a higher one ends with gets its charge back
            # then one lower by what is left over at the lowest; at fewer volts it draws a bit more
            start = high if trial == 0 else max(min(high, start - LOWERED * spare), low)
        else:
            if back == NEVER:
                break
            low = start
            start = (low + high) / 2
        if high - low < TOUCHES:
            break
    return back, found, found_own, most_own


@njit(
    types.UniTuple(float64, 3)(
        float64[:, ::1], float64[:, ::1], float64[::1], float64, float64, float64, float64[::1], ABOARD
    ),
    **OPTIONS,
)
def highest_start(
    sun_w: Array,
    house_w: Array,
    watts: Array,
    known: float,
    own: float,
    near: float,
    step_h: Array,
    aboard: Aboard,
) -> tuple[float, float, float]:
    """The highest start charge that a day gives back to within `near`, and the charges then; `known` is
    one that it does."""
    low, high = known, 1.0
    start, found, found_end, found_own = 1.0, known, known, 0.0
    for _ in range(RAISINGS):
        end, own_end, runs, _, _ = end_of_day(sun_w, house_w, watts, start, own, len(sun_w), step_h, aboard)
        if runs and end >= start - near:
            found, found_end, found_own, low = start, end, own_end, start
            if start == 1.0:
                break
        else:
            high = start
        start = (low + high) / 2
    return found, found_end, found_own


@njit(
    types.UniTuple(float64, 3)(
        float64[:, ::1], float64[:, ::1], float64[:, ::1], float64, float64, float64[::1], ABOARD
    ),
    **OPTIONS,
)
def gets_back(
    sun_w: Array, house_w: Array, motor: Array, power_w: float, own: float, step_h: Array, aboard: Aboard
) -> tuple[float, float, float]:
    """What a day at constant watts gives back over what it began with, at best; and that start [1].

    The house's own bank begins where it comes back to, at `own` or lower: day after day, where the converter
    between has less to bring. The first is NEVER where the motor stops, or the house loses charge, in
    any case.
    """
    watts = motor_of(motor, power_w)
    for _ in range(MOST_DAYS):
        back, start, own_end, most_own = start_that_lasts(sun_w, house_w, watts, own, step_h, aboard)
        if back == NEVER:
            return NEVER, 0.0, 0.0
        if aboard.joint.present == 0.0 or back < -SOC_TOLERANCE or own_end >= own - SOC_TOLERANCE:
            return back, start, own
        if most_own >= own - SOC_TOLERANCE:  # a fuller main bank keeps it up
            start, _, own_end = highest_start(
                sun_w, house_w, watts, start, own, SOC_TOLERANCE, step_h, aboard
            )
            if own_end >= own - SOC_TOLERANCE:
                return back, start, own
            own = own_end
        else:
            own = most_own
    return NEVER, 0.0, 0.0


@kept_by_content(KEPT)
@njit(
    float64[::1](float64[:, ::1], float64[:, ::1], float64[:, ::1], float64, float64, float64[::1], ABOARD),
    **OPTIONS,
)
def steady_power(
    sun_w: Array, house_w: Array, motor: Array, least_w: float, most_w: float, step_h: Array, aboard: Aboard
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
    step_h : ndarray, shape (t,)
        Lengths of the steps [h].

    Returns
    -------
    ndarray, shape (3,)
        Watts, and a start charge of each bank that they give back; watts -1 where not even the idle draw is
        sustained.
    """
    above, start, own = gets_back(sun_w, house_w, motor, most_w, 1.0, step_h, aboard)
    if above >= -SOC_TOLERANCE:
        return np.array([most_w, start, own])
    below, start, own = gets_back(sun_w, house_w, motor, least_w, 1.0, step_h, aboard)
    if below < -SOC_TOLERANCE:
        return np.array([-1.0, -1.0, -1.0])
    low, high = least_w, most_w
    hours, spent = 0.0, 0.0
    for t in range(len(sun_w)):
        hours += motor[0, t] * step_h[t]
        spent += (sun_w[t, MAIN] + sun_w[t, OWN] + motor[0, t] * motor[1, t]) * step_h[t]
    if spent / hours < high:  # all the sun spent on the motor and nothing lost: no steady watts lie above
        high, above = max(spent / hours, low), NEVER
    side, crept = 0, False
    for _ in range(MOST_TRIALS):
        if high - low <= SETTLED_FRAC * high:
            break
        middle = (low + high) / 2
        if above > NEVER and not (below <= TELLS and crept):
            middle = low + (high - low) * below / (below - above)
            edge = 0.25 * SETTLED_FRAC * high
            middle = min(max(middle, low + edge), high - edge)
            crept = below <= TELLS  # as good as the zero, or a full bank that tells nothing: looked at once
        back, at, own_at = gets_back(sun_w, house_w, motor, middle, own, step_h, aboard)
        if back >= -SOC_TOLERANCE:
            low, below, start, own = middle, max(back, 0.0), at, own_at
            above = above / 2 if side == 1 and above > NEVER else above
            side = 1
        else:
            high, above = middle, back
            below = below / 2 if side == -1 else below
            side = -1
    return np.array([low, start, own])


@kept_by_content(KEPT)
@njit(
    float64(
        float64[:, ::1], float64[:, ::1], float64[:, ::1], float64, float64, float64, float64[::1], ABOARD
    ),
    **OPTIONS,
)
def fullest_start(
    sun_w: Array,
    house_w: Array,
    motor: Array,
    power_w: float,
    known: float,
    own: float,
    step_h: Array,
    aboard: Aboard,
) -> float:
    """The largest start charge that a day at constant watts gives back, nearly; `known` is one that it does.

    `own`: where the house's own bank begins.
    """
    watts = motor_of(motor, power_w)
    return highest_start(sun_w, house_w, watts, known, own, NEARLY, step_h, aboard)[0]


@kept_by_content(KEPT)
@njit(
    float64(
        float64[:, ::1], float64[:, ::1], float64[:, ::1], float64, float64, float64, int64, float64[::1],
        ABOARD,
    ),
    **OPTIONS,
)  # fmt: skip
def power_to_reserve(
    sun_w: Array,
    house_w: Array,
    motor: Array,
    start_soc: float,
    least_w: float,
    most_w: float,
    last_step: int,
    step_h: Array,
    aboard: Aboard,
) -> float:
    """Largest constant watts that never stop from a start charge to the last motoring step; -1 if none."""
    for trial in (most_w, least_w):
        _, _, runs, _, _ = end_of_day(
            sun_w, house_w, motor_of(motor, trial), start_soc, start_soc, last_step, step_h, aboard
        )
        if runs and trial == most_w:
            return most_w
        if not runs and trial == least_w:
            return -1.0
    low, high = least_w, most_w
    for _ in range(POWER_HALVINGS):
        middle = (low + high) / 2
        _, _, runs, _, _ = end_of_day(
            sun_w, house_w, motor_of(motor, middle), start_soc, start_soc, last_step, step_h, aboard
        )
        if runs:
            low = middle
        else:
            high = middle
    return low
