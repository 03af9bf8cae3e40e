"""The energy of a day, step by step: sun first to the house, then the motor, then the bank, then nowhere.

The motor gives way at the reserve, and with it the house loads not marked essential; essential ones run to
the cut-out. A step in which the bank reaches the reserve runs the motor for the part that the energy allows.

Ledger of every step, all terms >= 0 [W]:
array + discharged = conversion + clipped + refused + curtailed + house + motor + charged + coulomb + heat.
"""

from __future__ import annotations

import numpy as np
from numba import boolean, float64, int64, njit, types
from numpy.typing import NDArray

from parhelion.bank.store import STORE, Store, charge, deliverable_w, discharge, energy_wh
from parhelion.kernels import OPTIONS

Array = NDArray[np.float64]


# Columns of a recorded step
SOC, RAN, REFUSED, CURTAILED, HOUSE, MOTOR, CHARGED, DISCHARGED, COULOMB, HEAT = range(10)
COLUMNS = 10

STOPPED_BELOW = 1 - 1e-9  # a motor that ran less of a step than this has stopped
REFUSES_FROM_W = 1e-6  # less is rounding


@njit(
    types.UniTuple(float64, COLUMNS)(float64, float64, float64, float64, float64, float64, STORE), **OPTIONS
)
def step(
    soc: float,
    sun_w: float,
    essential_w: float,
    other_w: float,
    motor_w: float,
    step_h: float,
    store: Store,
) -> tuple[float, ...]:
    """One step with a bank. All watts are means over the step; returns the recorded columns."""
    need = essential_w + other_w + motor_w - sun_w
    ran = 1.0
    if need > 0:
        spare = deliverable_w(soc, store.reserve, step_h, store)
        if need > spare:
            room = spare + sun_w - essential_w - other_w
            if room >= 0:
                if motor_w > 0:
                    ran = min(room / motor_w, 1.0)
                    motor_w = ran * motor_w
            else:
                if motor_w > 0:
                    ran = 0.0
                motor_w = 0.0
                other_w = max(spare + sun_w - essential_w, 0.0)
                if other_w == 0.0:
                    last = deliverable_w(soc, store.cut_out, step_h, store)
                    essential_w = min(essential_w, last + sun_w)
            need = essential_w + other_w + motor_w - sun_w
    house = essential_w + other_w
    before = energy_wh(soc, store)
    if need > 0:
        after, heat = discharge(soc, need, step_h, store)
        given = (before - energy_wh(after, store)) / step_h
        return after, ran, 0.0, 0.0, house, motor_w, 0.0, given, 0.0, heat
    after, taken, heat = charge(soc, -need, step_h, store)
    stored = (energy_wh(after, store) - before) / step_h
    coulomb = stored / store.coulomb_efficiency - stored
    return after, ran, max(-need - taken, 0.0), 0.0, house, motor_w, stored, 0.0, coulomb, heat


@njit(
    float64[:, :, :](float64[:, ::1], float64[::1], float64[::1], float64[::1], float64[::1], float64, STORE),
    **OPTIONS,
)
def run_days(
    sun_w: Array,
    essential_w: Array,
    other_w: Array,
    motor_w: Array,
    start_soc: Array,
    step_h: float,
    store: Store,
) -> Array:
    """Every member's day with a bank.

    Parameters
    ----------
    sun_w : ndarray, shape (n, t)
        At the bank's terminals [W].
    essential_w, other_w, motor_w : ndarray, shape (t,)
        House by priority, and the motor's mean watts over each step [W].
    start_soc : ndarray, shape (n,)
        State of charge at the start [-].

    Returns
    -------
    ndarray, shape (n, t, 10)
        State of charge at the end of each step, share of the motoring that ran, then the ledger [W].
    """
    members, steps = sun_w.shape
    record = np.empty((members, steps, COLUMNS))
    for m in range(members):
        soc = start_soc[m]
        for t in range(steps):
            row = step(soc, sun_w[m, t], essential_w[t], other_w[t], motor_w[t], step_h, store)
            for k in range(COLUMNS):
                record[m, t, k] = row[k]
            soc = row[SOC]
    return record


def run_without_bank(sun_w: Array, house_w: Array, motor_w: Array) -> Array:
    """Every member's day on live sun alone: house first, the motor takes what is left, the rest is curtailed.

    Parameters
    ----------
    sun_w : ndarray, shape (n, t)
    house_w : ndarray, shape (t,)
    motor_w : ndarray, shape (n, t)
        What the motor would take [W].

    Returns
    -------
    ndarray, shape (n, t, 10)
        As of `run_days`; the state of charge is nan.
    """
    record = np.zeros((*sun_w.shape, COLUMNS))
    house = np.minimum(sun_w, house_w)
    motor = np.minimum(sun_w - house, motor_w)
    record[:, :, SOC] = np.nan
    record[:, :, RAN] = np.divide(motor, motor_w, out=np.ones_like(motor), where=motor_w > 0)
    record[:, :, HOUSE], record[:, :, MOTOR] = house, motor
    record[:, :, CURTAILED] = np.maximum(sun_w - house - motor, 0.0)
    return record


@njit(
    types.Tuple((float64, boolean, boolean))(
        float64[::1], float64[::1], float64[::1], float64[::1], float64, int64, float64, STORE
    ),
    **OPTIONS,
)
def end_of_day(
    sun_w: Array,
    essential_w: Array,
    other_w: Array,
    motor_w: Array,
    soc: float,
    last_step: int,
    step_h: float,
    store: Store,
) -> tuple[float, bool, bool]:
    """State of charge after the first `last_step` steps, whether the motor never stopped on the way, and
    whether the bank refused any sun.

    Gives up at the first stop.
    """
    refused = False
    for t in range(last_step):
        row = step(soc, sun_w[t], essential_w[t], other_w[t], motor_w[t], step_h, store)
        soc = row[SOC]
        if motor_w[t] > 0 and row[RAN] < STOPPED_BELOW:
            return soc, False, refused
        refused = refused or row[REFUSED] > REFUSES_FROM_W
    return soc, True, refused
