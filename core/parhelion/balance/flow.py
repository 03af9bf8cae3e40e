"""The energy of a day, step by step: sun first to the house, then the motor, then the bank, then nowhere.

The motor gives way at the reserve, and with it the house loads not marked essential; essential ones run to
the cut-out. A step in which the bank reaches the reserve runs the motor for the part that the energy allows.

With two banks a converter carries what the receiving side lacks as long as the giving bank is above its
reserve (where it is set to), and sun that the giving bank refuses. What it carries counts among the giver's
loads that are shed at the reserve.

Shore and a generator only add what the bank still takes: what it refuses is taken off them before the sun.
The generator starts at a charge and runs until another.

Ledger of every step, all terms >= 0 [W]: array + free sources + shore + generator + discharged = conversion +
clipped + refused + curtailed + house + motor + charged + coulomb + heat + converted.
"""

from __future__ import annotations

import numpy as np
from numba import boolean, float64, int64, njit, types
from numpy.typing import NDArray

from parhelion.balance.sources import NO_BACKUP, Backup
from parhelion.bank.joint import ABOARD, Aboard
from parhelion.bank.store import STORE, Store, charge, clearly_gives, deliverable_w, discharge, energy_wh
from parhelion.computing.kernels import OPTIONS

Array = NDArray[np.float64]


# Columns of a recorded step
SOC, RAN, REFUSED, CURTAILED, HOUSE, MOTOR, CHARGED, DISCHARGED, COULOMB, HEAT, HOUSE_SOC, CONVERTED = range(
    12
)
SHORE, GENERATOR = 12, 13
COLUMNS, RECORDED = 12, 14  # of a step, and with what came from behind the sun

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
        float64[:, :, ::1], float64[:, ::1], float64[::1], float64[::1], float64[::1], float64, ABOARD,
        float64[:, ::1], float64, float64, boolean[::1],
    ),
    **OPTIONS,
)  # fmt: skip
def run_days_behind(
    sun_w: Array, house_w: Array, motor_w: Array, start_soc: Array, own_start_soc: Array, step_h: float,
    aboard: Aboard, backup_w: Array, generator_starts: float, generator_stops: float, running: Array,
) -> Array:  # fmt: skip
    """Every member's day; see `run_days`.

    `running`, shape (n,): whether the generator runs as the day begins.
    """
    members, steps, _ = sun_w.shape
    record = np.empty((members, steps, RECORDED))
    for m in range(members):
        soc, own = start_soc[m], own_start_soc[m]
        on = running[m]
        for t in range(steps):
            on = soc < generator_stops if on else soc <= generator_starts
            shore = backup_w[0, t] + backup_w[1, t]
            main, mine, made = backup_w[0, t], backup_w[1, t], 0.0
            if on:
                made = backup_w[2, t] + backup_w[3, t]
                main += backup_w[2, t]
                mine += backup_w[3, t]
            row = step(
                soc, own, sun_w[m, t, 0] + main, sun_w[m, t, 1] + mine, house_w[0, t], house_w[1, t],
                house_w[2, t], house_w[3, t], motor_w[t], step_h, aboard,
            )  # fmt: skip
            for k in range(COLUMNS):
                record[m, t, k] = row[k]
            spared = min(row[REFUSED], shore + made)
            throttled = min(spared, made)  # the generator gives way first
            record[m, t, REFUSED] = row[REFUSED] - spared
            record[m, t, SHORE] = shore - (spared - throttled)
            record[m, t, GENERATOR] = made - throttled
            soc, own = row[SOC], row[HOUSE_SOC]
    return record


def run_days(
    sun_w: Array,
    house_w: Array,
    motor_w: Array,
    start_soc: Array,
    own_start_soc: Array,
    step_h: float,
    aboard: Aboard,
    backup: Backup = NO_BACKUP,
    running: NDArray[np.bool_] | None = None,
) -> Array:
    """Every member's day with a bank.

    Parameters
    ----------
    sun_w : ndarray, shape (n, t, 2)
        At the terminals of the main bank and of the house's own, free sources with it [W].
    house_w : ndarray, shape (4, t)
        Essential and other loads of the main bank, then of the house's own [W].
    motor_w : ndarray, shape (t,)
        The motor's mean watts over each step.
    start_soc, own_start_soc : ndarray, shape (n,)
        States of charge at the start [-].
    backup : Backup
        Shore and generator.
    running : ndarray, shape (n,), optional
        Whether the generator runs as the day begins.

    Returns
    -------
    ndarray, shape (n, t, 14)
        State of charge at the end of each step, share of the motoring that ran, then the ledger [W].
    """
    steps = sun_w.shape[1]
    on = np.zeros(len(sun_w), dtype=bool) if running is None else running
    watts = np.ascontiguousarray(backup.watts[:, :steps])
    made = run_days_behind(
        sun_w, house_w, motor_w, start_soc, own_start_soc, step_h, aboard, watts, backup.start_soc,
        backup.stop_soc, on,
    )  # fmt: skip
    return np.asarray(made)


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
    record = np.zeros((*sun_w.shape, RECORDED))
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
