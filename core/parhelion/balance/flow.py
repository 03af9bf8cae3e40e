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

from functools import partial

import numpy as np
from numba import boolean, float64, int64, njit, types
from numpy.typing import NDArray

from parhelion.balance.backup import (
    GENERATOR_MAIN,
    GENERATOR_OWN,
    SHORE_MAIN,
    SHORE_OWN,
    Backup,
    no_backup,
)  # fmt: skip
from parhelion.bank.joint import ABOARD, Aboard
from parhelion.bank.store import STORE, Store, charge, clearly_gives, deliverable_w, discharge, energy_wh
from parhelion.computing.kernels import OPTIONS
from parhelion.computing.together import shares_of, together
from parhelion.design.banks import MAIN, OWN

Array = NDArray[np.float64]


# Columns of a recorded step
SOC, RAN, REFUSED, CURTAILED, HOUSE, MOTOR, CHARGED, DISCHARGED, COULOMB, HEAT, HOUSE_SOC, CONVERTED = range(
    12
)
SHORE, GENERATOR = 12, 13
COLUMNS, RECORDED = 12, 14  # of a step, and with what came from behind the sun

ESSENTIAL, OTHER, OWN_ESSENTIAL, OWN_OTHER = range(4)  # rows of the house's watts

STOPPED_BELOW = 1 - 1e-9  # a motor that ran less of a step than this has stopped
AT_RESERVE = 1e-9  # state of charge over it
SERVED_FROM = 1 - 1e-9  # a house that got less of what it asked is shed
REFUSES_FROM_W = 1e-6  # less is rounding
SHARED_FROM = 32  # members: fewer are not worth sharing out


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
        share = m[4] / (other_w + asked) if other_w + asked > 0 else 0.0
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
    types.void(
        float64[:, :, ::1], float64[:, ::1], float64[::1], float64[::1], float64[::1], float64[::1], ABOARD,
        float64[:, ::1], float64, float64, boolean[::1], float64[:, :, ::1],
    ),
    **OPTIONS,
)  # fmt: skip
def run_days_behind(
    sun_w: Array, house_w: Array, motor_w: Array, start_soc: Array, own_start_soc: Array, step_h: Array,
    aboard: Aboard, backup_w: Array, generator_starts: float, generator_stops: float, running: Array,
    record: Array,
) -> None:  # fmt: skip
    """Every member's day into `record`; see `run_days`.

    `running`, shape (n,): whether the generator runs as the day begins.
    """
    members, steps, _ = sun_w.shape
    for m in range(members):
        soc, own = start_soc[m], own_start_soc[m]
        on = running[m]
        for t in range(steps):
            on = soc < generator_stops if on else soc <= generator_starts
            shore = backup_w[SHORE_MAIN, t] + backup_w[SHORE_OWN, t]
            main, mine, made = backup_w[SHORE_MAIN, t], backup_w[SHORE_OWN, t], 0.0
            if on:
                made = backup_w[GENERATOR_MAIN, t] + backup_w[GENERATOR_OWN, t]
                main += backup_w[GENERATOR_MAIN, t]
                mine += backup_w[GENERATOR_OWN, t]
            row = step(
                soc, own, sun_w[m, t, MAIN] + main, sun_w[m, t, OWN] + mine, house_w[ESSENTIAL, t],
                house_w[OTHER, t], house_w[OWN_ESSENTIAL, t], house_w[OWN_OTHER, t], motor_w[t], step_h[t],
                aboard,
            )  # fmt: skip
            for k in range(COLUMNS):
                record[m, t, k] = row[k]
            spared = min(row[REFUSED], shore + made)
            throttled = min(spared, made)  # the generator gives way first
            record[m, t, REFUSED] = row[REFUSED] - spared
            record[m, t, SHORE] = shore - (spared - throttled)
            record[m, t, GENERATOR] = made - throttled
            soc, own = row[SOC], row[HOUSE_SOC]


def run_days(
    sun_w: Array,
    house_w: Array,
    motor_w: Array,
    start_soc: Array,
    own_start_soc: Array,
    step_h: Array,
    aboard: Aboard,
    backup: Backup | None = None,
    running: NDArray[np.bool_] | None = None,
) -> Array:
    """Every member's time with a bank: a day, a passage, an outing; the members shared out over processors.

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
    step_h : ndarray, shape (t,)
        Lengths of the steps [h].
    backup : Backup, optional
        Shore and generator.
    running : ndarray, shape (n,), optional
        Whether the generator runs as the day begins.

    Returns
    -------
    ndarray, shape (n, t, 14)
        State of charge at the end of each step, share of the motoring that ran, then the ledger [W].
    """
    members, steps, _ = sun_w.shape
    on = np.zeros(members, dtype=bool) if running is None else running
    behind = no_backup(steps) if backup is None else backup

    record = np.empty((members, steps, RECORDED))

    def some(rows: slice) -> None:
        run_days_behind(
            sun_w[rows], house_w, motor_w, start_soc[rows], own_start_soc[rows], step_h, aboard,
            behind.watts, behind.start_soc, behind.stop_soc, on[rows], record[rows],
        )  # fmt: skip

    together(
        [partial(some, rows) for rows in (shares_of(members) if members >= SHARED_FROM else [slice(None)])]
    )
    return record


@njit(
    float64[::1](
        float64[:, :, ::1], float64[:, ::1], float64[::1], float64[::1], float64, int64, int64, float64[::1],
        ABOARD,
    ),
    **OPTIONS,
)  # fmt: skip
def some_hours_run(
    sun_w: Array, house_w: Array, motor_w: Array, motoring: Array, start_soc: float, first: int, last: int,
    step_h: Array, aboard: Aboard,
) -> Array:  # fmt: skip
    """Of the members from first to last; see `hours_run`."""
    hours = np.zeros(last - first)
    for m in range(first, last):
        soc = own = start_soc
        for t in range(sun_w.shape[1]):
            row = step(
                soc, own, sun_w[m, t, MAIN], sun_w[m, t, OWN], house_w[ESSENTIAL, t], house_w[OTHER, t],
                house_w[OWN_ESSENTIAL, t], house_w[OWN_OTHER, t], motor_w[t], step_h[t], aboard,
            )  # fmt: skip
            hours[m - first] += row[RAN] * motoring[t] * step_h[t]
            soc, own = row[SOC], row[HOUSE_SOC]
    return hours


def hours_run(
    sun_w: Array,
    house_w: Array,
    motor_w: Array,
    motoring: Array,
    start_soc: float,
    step_h: Array,
    aboard: Aboard,
) -> Array:
    """Hours the motor runs on each member's day, where nothing else of the record is asked, shape (n,).

    Parameters
    ----------
    sun_w, house_w, motor_w, step_h
        As of `run_days`.
    motoring : ndarray, shape (t,)
        The share of each step that the motor is meant to run [-].
    start_soc : float
        Of every member and bank.
    """

    def some(rows: slice) -> Array:
        made = some_hours_run(
            sun_w, house_w, motor_w, motoring, start_soc, rows.start, rows.stop, step_h, aboard
        )
        return np.asarray(made)

    return np.concatenate(together([partial(some, rows) for rows in shares_of(len(sun_w))]))


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
    types.Tuple((float64, float64, boolean, boolean, float64))(
        float64[:, ::1], float64[:, ::1], float64[::1], float64, float64, int64, float64[::1], ABOARD
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
    step_h: Array,
    aboard: Aboard,
) -> tuple[float, float, bool, bool, float]:
    """States of charge after the first `last_step` steps, whether all of them ran, whether sun was refused,
    and the lowest charge after a step that asks for more than the reserve gives.

    A step runs in which neither the motor stops nor a load of the house is shed. Gives up at the first that
    does not.
    """
    refused, lowest = False, 1.0
    lends = aboard.joint.out_needs > 0  # what the house is lent is shed at the reserve as well
    for t in range(last_step):
        essential, other = house_w[ESSENTIAL, t], house_w[OTHER, t]
        own_essential, own_other = house_w[OWN_ESSENTIAL, t], house_w[OWN_OTHER, t]
        row = step(
            soc, own, sun_w[t, MAIN], sun_w[t, OWN], essential, other, own_essential, own_other, motor_w[t],
            step_h[t], aboard,
        )  # fmt: skip
        soc, own = row[SOC], row[HOUSE_SOC]
        asked = essential + other + own_essential + own_other
        if (motor_w[t] > 0 and row[RAN] < STOPPED_BELOW) or row[HOUSE] < SERVED_FROM * asked:
            return soc, own, False, refused, soc
        if lends and soc <= aboard.main.reserve + AT_RESERVE:
            return soc, own, False, refused, soc
        if motor_w[t] > 0 or other > 0 or lends:
            lowest = min(lowest, soc)
        refused = refused or row[REFUSED] > REFUSES_FROM_W or row[CONVERTED] > REFUSES_FROM_W
    return soc, own, True, refused, lowest
