"""The bank as the day's steps see it, and how it charges and discharges within one step.

Open-circuit volts run straight from empty to full, so that the energy between two states is exact. Charge
acceptance is I0 up to a knee and falls to nothing at full; it is stepped in closed form, so that the answer
does not depend on the step. Within a step P dt = dE + I^2 R dt + coulomb loss holds to rounding.

References
----------
[1] Constant-acceptance taper: ds/dt = eta I0 (1-s)/((1-knee) C), an exponential of
    tau = (1-knee) C / (eta I0).
"""

from __future__ import annotations

import math
from typing import NamedTuple

from numba import float64, njit, types

from parhelion.bank.chemistry import (
    FREEZING_C,
    FULL_CHARGE_FROM_C,
    LEAD_FULL_C,
    LEAST_CAPACITY,
    LITHIUM_FULL,
    RESERVE_AT_LEAST,
    RESERVE_OVER_CUT_OUT,
    TYPICAL,
)
from parhelion.design import Bank
from parhelion.kernels import OPTIONS

SETTLED = 1e-14  # of the state of charge: the mean volts have stopped moving
VOLT_PASSES = 8  # at most; fixed-point passes on the mean volts of a step; each gains two digits or more


class Store(NamedTuple):
    """A bank in numbers; all floats, so that compiled code takes it as it is."""

    capacity_ah: float
    nominal_v: float
    swing: float  # open-circuit volts from empty to full, over nominal
    resistance_ohm: float
    coulomb_efficiency: float
    acceptance_a: float  # I0, with the cold taken off
    taper_from: float
    reserve: float  # state of charge
    cut_out: float
    full: float  # the state of charge that counts as full


STORE = types.NamedUniTuple(float64, len(Store._fields), Store)


def reserve_of(bank: Bank) -> float:
    """The reserve as a state of charge: given, or the larger of .30 and the cut-out + .10, never below it."""
    cut_out = 1 - depth_of(bank)
    if bank.reserve_frac is not None:
        return max(bank.reserve_frac, cut_out)
    return max(RESERVE_AT_LEAST, cut_out + RESERVE_OVER_CUT_OUT)


def depth_of(bank: Bank) -> float:
    """Usable depth, given or usual for the chemistry [-]."""
    return bank.usable_depth_frac or TYPICAL[bank.chemistry].usable_depth


def mass_of(bank: Bank) -> float:
    """Mass of the bank, given or estimated from its energy [kg]."""
    return bank.mass_kg or bank.nominal_v * bank.capacity_ah / TYPICAL[bank.chemistry].wh_per_kg


def store_of(bank: Bank, air_c: float) -> Store:
    """The bank at a temperature.

    Parameters
    ----------
    bank : Bank
    air_c : float
        Air temperature [C]; the bank's own is used where it is given.
    """
    typical = TYPICAL[bank.chemistry]
    temperature = air_c if bank.temperature_c is None else bank.temperature_c
    cold = 1 - typical.capacity_per_k * max(typical.capacity_from_c - temperature, 0)
    capacity = bank.capacity_ah * max(cold, LEAST_CAPACITY)
    accept = typical.charge_c * bank.capacity_ah
    if typical.lithium:
        accept *= min(max((temperature - FREEZING_C) / (FULL_CHARGE_FROM_C - FREEZING_C), 0.0), 1.0)
    cells = bank.nominal_v / typical.cell_v
    full = LITHIUM_FULL
    if not typical.lithium:
        full = 1 - (1 - typical.taper_from) * LEAD_FULL_C / typical.charge_c
    return Store(
        capacity_ah=capacity,
        nominal_v=bank.nominal_v,
        swing=typical.swing,
        resistance_ohm=cells * typical.resistance_ohm_ah / bank.capacity_ah,
        coulomb_efficiency=typical.coulomb_efficiency,
        acceptance_a=accept,
        taper_from=typical.taper_from,
        reserve=reserve_of(bank),
        cut_out=1 - depth_of(bank),
        full=full,
    )


@njit(float64(float64, STORE), **OPTIONS)
def energy_wh(soc: float, store: Store) -> float:
    """Energy in the bank: the integral of the open-circuit volts from empty to `soc` [Wh]."""
    return store.capacity_ah * store.nominal_v * (soc + store.swing * (soc * soc - soc) / 2)


@njit(float64(float64, STORE), **OPTIONS)
def open_circuit_v(soc: float, store: Store) -> float:
    """Open-circuit volts at a state of charge [V]."""
    return store.nominal_v * (1 + store.swing * (soc - 0.5))


@njit(types.UniTuple(float64, 2)(float64, float64, float64, STORE), **OPTIONS)
def discharge(soc: float, power_w: float, step_h: float, store: Store) -> tuple[float, float]:
    """State of charge after giving `power_w` at the terminals for a step, and the heat [W] it made."""
    resistance = store.resistance_ohm
    after, current = soc, 0.0
    for _ in range(VOLT_PASSES):
        volts = open_circuit_v((soc + after) / 2, store)
        root = max(volts * volts - 4 * resistance * power_w, 0.0)
        current = 2 * power_w / (volts + math.sqrt(root))
        last, after = after, soc - current * step_h / store.capacity_ah
        if abs(after - last) < SETTLED:
            break
    return after, current * current * resistance


@njit(float64(float64, float64, float64, STORE), **OPTIONS)
def deliverable_w(soc: float, floor: float, step_h: float, store: Store) -> float:
    """Terminal watts that take the bank from `soc` down to `floor` in one step [W]; 0 at or below it."""
    if soc <= floor:
        return 0.0
    current = (soc - floor) * store.capacity_ah / step_h
    volts = open_circuit_v((soc + floor) / 2, store)
    current = min(current, volts / (2 * store.resistance_ohm))  # the most a source can give
    return current * (volts - current * store.resistance_ohm)


@njit(types.UniTuple(float64, 3)(float64, float64, float64, STORE), **OPTIONS)
def accept_current(soc: float, offered_a: float, step_h: float, store: Store) -> tuple[float, float, float]:
    """A charging current offered for a step, taken as far as the acceptance allows [1].

    Returns
    -------
    (float, float, float)
        State of charge after, amp-hours taken, and the I^2 R heat [Wh].
    """
    eta, capacity = store.coulomb_efficiency, store.capacity_ah
    most = store.acceptance_a
    if offered_a <= 0 or most <= 0 or soc >= 1:
        return soc, 0.0, 0.0
    tail = 1 - store.taper_from
    steady = min(offered_a, most)
    knee = 1 - tail * steady / most
    after, taken, square = soc, 0.0, 0.0
    left = step_h
    if soc < knee:
        lasts = min((knee - soc) * capacity / (eta * steady), left)
        after = soc + eta * steady * lasts / capacity
        taken = steady * lasts
        square = steady * steady * lasts
        left -= lasts
    else:
        steady = most * (1 - soc) / tail
    if left > 0:
        tau = tail * capacity / (eta * most)
        fall = -math.expm1(-left / tau)
        taken += steady * tau * fall
        square += steady * steady * tau / 2 * -math.expm1(-2 * left / tau)
        after += (1 - after) * fall
    return after, taken, square * store.resistance_ohm


@njit(types.UniTuple(float64, 3)(float64, float64, float64, STORE), **OPTIONS)
def charge(soc: float, power_w: float, step_h: float, store: Store) -> tuple[float, float, float]:
    """Charging power offered at the terminals for a step.

    Returns
    -------
    (float, float, float)
        State of charge after, watts taken at the terminals (mean over the step), heat [W].
    """
    resistance, eta = store.resistance_ohm, store.coulomb_efficiency
    after, heat_wh = soc, 0.0
    for _ in range(VOLT_PASSES):
        volts = open_circuit_v((soc + after) / 2, store)
        current = (
            2 * power_w / (volts + math.sqrt(volts * volts + 4 * resistance * power_w))
        )  # I^2 R + V I = P, without cancellation
        last = after
        after, _, heat_wh = accept_current(soc, current, step_h, store)
        if abs(after - last) < SETTLED:
            break
    taken_wh = (energy_wh(after, store) - energy_wh(soc, store)) / eta + heat_wh
    return after, taken_wh / step_h, heat_wh / step_h
