"""The energy of a day, step by step: sun first to the house, then the motor, then the bank, then nowhere.

The motor gives way at the reserve, and with it the house loads not marked essential; essential ones run to
the cut-out. A step in which the bank reaches the reserve runs the motor for the part that the energy allows.

With two banks a converter carries what the receiving side lacks as long as the giving bank is above its
reserve (where it is set to), and sun that the giving bank refuses. What it carries counts among the giver's
loads that are shed at the reserve.

Ledger of every step, all terms >= 0 [W]: array + discharged = conversion + clipped + refused + curtailed +
house + motor + charged + coulomb + heat + converted.
"""

from __future__ import annotations

import numpy as np
from numba import boolean, float64, int64, njit, types
from numpy.typing import NDArray

from parhelion.bank.joint import ABOARD, Aboard
from parhelion.bank.store import STORE, Store, charge, clearly_gives, deliverable_w, discharge, energy_wh
from parhelion.kernels import OPTIONS

Array = NDArray[np.float64]


# Columns of a recorded step
SOC, RAN, REFUSED, CURTAILED, HOUSE, MOTOR, CHARGED, DISCHARGED, COULOMB, HEAT, HOUSE_SOC, CONVERTED = range(
    12
)
COLUMNS = 12

MAIN, OWN = 0, 1  # columns of the sun: at the main bank, at the house's own
ESSENTIAL, OTHER, OWN_ESSENTIAL, OWN_OTHER = range(4)  # rows of the house's watts

STOPPED_BELOW = 1 - 1e-9  # a motor that ran less of a step than this has stopped
REFUSES_FROM_W = 1e-6  # less is rounding


@njit(float64(float64, float64, float64, float64), **OPTIONS)
def motor_watts(power_w: float, motoring: float, relief_w: float, idle_w: float) -> float:
    """Battery watts of a step: what others push comes off, but a motor that is on never goes below idle."""
    return motoring * max(power_w - relief_w, min(idle_w, power_w))


@njit(types.UniTuple(float64, 10)(float64, float64, float64, float64, float64, float64, STORE), **OPTIONS)
def one_bank(
    soc: float, sun_w: float, essential_w: float, other_w: float, motor_w: float, step_h: float, store: Store
) -> tuple[float, ...]:
    """One step of one bank. All watts are means over the step.

    Returns
    -------
    tuple of float
        State of charge after, share of the motoring that ran, refused, essential and other loads served,
        motor, charged, discharged, coulomb loss, heat [W].
    """
    need = essential_w + other_w + motor_w - sun_w
    ran = 1.0
    if need > 0 and not clearly_gives(soc, need, step_h, store):
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
    before = energy_wh(soc, store)
    if need > 0:
        after, heat, rate = discharge(soc, need, step_h, store)
        given = (before - energy_wh(after, store)) / step_h
        return after, ran, 0.0, essential_w, other_w, motor_w, 0.0, given, rate, heat
    after, taken, heat = charge(soc, -need, step_h, store)
    stored = (energy_wh(after, store) - before) / step_h
    coulomb = stored / store.coulomb_efficiency - stored
    refused = max(-need - taken, 0.0)
    return after, ran, refused, essential_w, other_w, motor_w, stored, 0.0, coulomb, heat


@njit(
    types.UniTuple(float64, COLUMNS)(
        float64, float64, float64, float64, float64, float64, float64, float64, float64, float64, ABOARD
    ),
    **OPTIONS,
)
def step(
    soc: float,
    own_soc: float,
    sun_w: float,
    own_sun_w: float,
    essential_w: float,
    other_w: float,
    own_essential_w: float,
    own_other_w: float,
    motor_w: float,
    step_h: float,
    aboard: Aboard,
) -> tuple[float, ...]:
    """One step with one bank or two; returns the recorded columns. `own` is the house's own bank."""
    joint = aboard.joint
    if joint.present == 0.0:
        m = one_bank(soc, sun_w, essential_w, other_w, motor_w, step_h, aboard.main)
        return m[0], m[1], m[2], 0.0, m[3] + m[4], m[5], m[6], m[7], m[8], m[9], 0.0, 0.0
    lack = own_essential_w + own_other_w - own_sun_w
    extra, converted = 0.0, 0.0
    if lack > 0 and joint.out_needs > 0:
        asked = min(lack, joint.out_w) / joint.out_efficiency
        m = one_bank(soc, sun_w, essential_w, other_w + asked, motor_w, step_h, aboard.main)
        share = m[4] / (other_w + asked)
        sent = asked * share
        other = other_w * share
        received = sent * joint.out_efficiency
        extra = min(m[2], (joint.out_w - received) / joint.out_efficiency)
        received += extra * joint.out_efficiency
        converted = (sent + extra) * (1 - joint.out_efficiency)
        h = one_bank(own_soc, own_sun_w + received, own_essential_w, own_other_w, 0.0, step_h, aboard.house)
        own_other = h[4]
    else:
        asked = 0.0
        if joint.back_needs > 0:
            short = essential_w + other_w + motor_w - sun_w
            asked = min(max(short, 0.0), joint.back_w) / joint.back_efficiency
        h = one_bank(own_soc, own_sun_w, own_essential_w, own_other_w + asked, 0.0, step_h, aboard.house)
        sent = max(h[4] - own_other_w, 0.0) if asked > 0 else 0.0  # the house's own loads come first
        own_other = h[4] - sent
        received = sent * joint.back_efficiency
        surplus = 0.0
        if joint.back_w > received:
            surplus = min(h[2], (joint.back_w - received) / joint.back_efficiency)
        received += surplus * joint.back_efficiency
        converted = (sent + surplus) * (1 - joint.back_efficiency)
        m = one_bank(soc, sun_w + received, essential_w, other_w, motor_w, step_h, aboard.main)
        other = m[4]
        if m[2] > 0 and h[2] == 0.0 and joint.out_w > 0 and sent == 0.0:
            extra = min(m[2], joint.out_w / joint.out_efficiency)
            converted += extra * (1 - joint.out_efficiency)
            h = one_bank(
                own_soc, own_sun_w + extra * joint.out_efficiency, own_essential_w, own_other_w, 0.0, step_h,
                aboard.house,
            )  # fmt: skip
            own_other = h[4]
            surplus = 0.0
        extra += surplus
    refused = max(m[2] + h[2] - extra, 0.0)
    house = m[3] + other + h[3] + own_other
    return (
        m[0], m[1], refused, 0.0, house, m[5], m[6] + h[6], m[7] + h[7], m[8] + h[8], m[9] + h[9], h[0],
        converted,
    )  # fmt: skip


@njit(
    float64[:, :, :](
        float64[:, :, ::1], float64[:, ::1], float64[::1], float64[::1], float64[::1], float64, ABOARD
    ),
    **OPTIONS,
)
def run_days(
    sun_w: Array,
    house_w: Array,
    motor_w: Array,
    start_soc: Array,
    own_start_soc: Array,
    step_h: float,
    aboard: Aboard,
) -> Array:
    """Every member's day with a bank.

    Parameters
    ----------
    sun_w : ndarray, shape (n, t, 2)
        At the terminals of the main bank and of the house's own [W].
    house_w : ndarray, shape (4, t)
        Essential and other loads of the main bank, then of the house's own [W].
    motor_w : ndarray, shape (t,)
        The motor's mean watts over each step.
    start_soc, own_start_soc : ndarray, shape (n,)
        States of charge at the start [-].

    Returns
    -------
    ndarray, shape (n, t, 12)
        State of charge at the end of each step, share of the motoring that ran, then the ledger [W].
    """
    members, steps, _ = sun_w.shape
    record = np.empty((members, steps, COLUMNS))
    for m in range(members):
        soc, own = start_soc[m], own_start_soc[m]
        for t in range(steps):
            row = step(
                soc, own, sun_w[m, t, 0], sun_w[m, t, 1], house_w[0, t], house_w[1, t], house_w[2, t],
                house_w[3, t], motor_w[t], step_h, aboard,
            )  # fmt: skip
            for k in range(COLUMNS):
                record[m, t, k] = row[k]
            soc, own = row[SOC], row[HOUSE_SOC]
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
    ndarray, shape (n, t, 12)
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
    types.Tuple((float64, float64, boolean, boolean))(
        float64[:, ::1], float64[:, ::1], float64[::1], float64, float64, int64, float64, ABOARD
    ),
    **OPTIONS,
)
def end_of_day(
    sun_w: Array,
    house_w: Array,
    motor_w: Array,
    soc: float,
    own: float,
    last_step: int,
    step_h: float,
    aboard: Aboard,
) -> tuple[float, float, bool, bool]:
    """States of charge after the first `last_step` steps, whether the motor never stopped on the way, and
    whether any sun was refused.

    Gives up at the first stop.
    """
    refused = False
    for t in range(last_step):
        row = step(
            soc, own, sun_w[t, 0], sun_w[t, 1], house_w[0, t], house_w[1, t], house_w[2, t], house_w[3, t],
            motor_w[t], step_h, aboard,
        )  # fmt: skip
        soc, own = row[SOC], row[HOUSE_SOC]
        if motor_w[t] > 0 and row[RAN] < STOPPED_BELOW:
            return soc, own, False, refused
        refused = refused or row[REFUSED] > REFUSES_FROM_W or row[CONVERTED] > REFUSES_FROM_W
    return soc, own, True, refused
