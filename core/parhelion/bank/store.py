"""The bank as the day's steps see it, and how it charges and discharges within one step.

Open-circuit volts run straight from empty to full, so that the energy between two states is exact. Charge
acceptance is I0 up to a knee and falls to nothing at full; it is stepped in closed form, so that the answer
does not depend on the step. Within a step P dt = dE + I^2 R dt + coulomb loss holds to rounding.

References
----------
[1] Constant-acceptance taper: ds/dt = eta I0 (1-s)/((1-knee) C), an exponential of
    tau = (1-knee) C / (eta I0).
[2] Peukert: a current I over the twenty-hour one draws I (I / I20)^(k-1) from the store.
"""

from __future__ import annotations

import math
from typing import NamedTuple

from numba import boolean, float64, njit, types

from parhelion.bank.age import health_of
from parhelion.computing.kernels import OPTIONS
from parhelion.design import Bank
from parhelion.design.bank import Berth
from parhelion.design.chemistries import CHEMICALS

FREEZING_C = 0.0  # lithium takes no charge at or below this
FULL_CHARGE_FROM_C = 10.0  # and its full current from here
FULL_CHARGE_TO_C, NO_CHARGE_FROM_C = 40.0, 45.0  # lithium again: its full current to here, none from there
OWN_WARMTH_K = 2.0  # of a bank in use over the water around the hull
HEATED_C = 12.0  # what a bank's own heater keeps
LEAST_CAPACITY = 0.3  # share of the label that cold can leave; below it the model says nothing
LITHIUM_FULL = 0.99  # state of charge that counts as full
LEAD_FULL_C = 0.02  # lead counts as full when it accepts less than this share of its capacity [1/h]
RESERVE_AT_LEAST = 0.30
RESERVE_OVER_CUT_OUT = 0.10
LABEL_HOURS = 20.0  # a label's amp-hours are given over this long

SETTLED = 1e-12  # of the state of charge: where a step ends has stopped moving
# Clear of the reserve by this many times the energy asked, at this many times the label's current or less:
# then the rate of discharge, at most (PLENTY_A)^(k-1) with k below 1.5, cannot reach it
PLENTY, PLENTY_A = 8.0, 40.0
VOLT_PASSES = 8  # at most, on the mean volts of a step; mostly one, since the first begins from the end it
# has where neither its rate nor a full bank is in the way: a quadratic in the current


def taken_share(temperature_c: float) -> float:
    """Share of its charge current that lithium takes: none frozen, all from 10 C, none hot [-]."""
    cold = (temperature_c - FREEZING_C) / (FULL_CHARGE_FROM_C - FREEZING_C)
    hot = (NO_CHARGE_FROM_C - temperature_c) / (NO_CHARGE_FROM_C - FULL_CHARGE_TO_C)
    return min(max(min(cold, hot), 0.0), 1.0)


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
    peukert: float = 1.0  # exponent k
    label_a: float = 1e9  # current the label's amp-hours are given at


STORE = types.NamedUniTuple(float64, len(Store._fields), Store)


def reserve_of(bank: Bank) -> float:
    """The reserve as a state of charge: given, or the larger of .30 and the cut-out + .10, never below it."""
    cut_out = 1 - bank.depth
    if bank.reserve_frac is not None:
        return max(bank.reserve_frac, cut_out)
    return max(RESERVE_AT_LEAST, cut_out + RESERVE_OVER_CUT_OUT)


def charge_limit_a(bank: Bank) -> float:
    """Largest charge current, given or usual for the chemistry and size [A]."""
    return bank.charge_limit_a or CHEMICALS[bank.chemistry].charge_c[1] * bank.capacity_ah


def discharge_limit_a(bank: Bank) -> float:
    """Largest lasting discharge current, given or usual for the chemistry and size [A]."""
    return bank.discharge_limit_a or CHEMICALS[bank.chemistry].discharge_c[1] * bank.capacity_ah


def resistance_of(bank: Bank) -> float:
    """Internal resistance of the whole bank, given or usual [ohm]."""
    typical = CHEMICALS[bank.chemistry]
    cells = bank.nominal_v / typical.cell_v
    return bank.resistance_ohm or cells * typical.resistance[1] / bank.capacity_ah


def temperature_of(bank: Bank, air_c: float, water_c: float) -> float:
    """How warm a bank is: as given, as the water about the hull and a little more, or as the air [C]."""
    if bank.temperature_c is not None:
        return bank.temperature_c
    if bank.berth is Berth.DECK:
        return air_c
    below = water_c + OWN_WARMTH_K
    return max(below, HEATED_C) if bank.berth is Berth.HEATED else below


def store_of(bank: Bank, temperature_c: float) -> Store:
    """The bank at a temperature.

    Parameters
    ----------
    bank : Bank
    temperature_c : float
        Of the bank [C]; its own is used where it is given.
    """
    typical = CHEMICALS[bank.chemistry]
    temperature = temperature_c if bank.temperature_c is None else bank.temperature_c
    cold = 1 - typical.capacity_per_k * max(typical.capacity_from_c - temperature, 0)
    capacity = bank.capacity_ah * max(cold, LEAST_CAPACITY) * health_of(bank)
    accept = charge_limit_a(bank)
    if typical.lithium:
        accept *= taken_share(temperature)
    full = LITHIUM_FULL
    if not typical.lithium:
        full = 1 - (1 - typical.taper[1]) * LEAD_FULL_C / typical.charge_c[1]
    return Store(
        capacity_ah=capacity,
        nominal_v=bank.nominal_v,
        swing=typical.swing,
        resistance_ohm=resistance_of(bank),
        coulomb_efficiency=bank.coulomb_efficiency or typical.coulomb_efficiency,
        acceptance_a=accept,
        taper_from=typical.taper[1],
        reserve=reserve_of(bank),
        cut_out=1 - bank.depth,
        full=full,
        peukert=typical.peukert[1],
        label_a=bank.capacity_ah / LABEL_HOURS,
    )


@njit(float64(float64, STORE), **OPTIONS)
def energy_wh(soc: float, store: Store) -> float:
    """Energy in the bank: the integral of the open-circuit volts from empty to `soc` [Wh]."""
    return store.capacity_ah * store.nominal_v * (soc + store.swing * (soc * soc - soc) / 2)


@njit(float64(float64, STORE), **OPTIONS)
def open_circuit_v(soc: float, store: Store) -> float:
    """Open-circuit volts at a state of charge [V]."""
    return store.nominal_v * (1 + store.swing * (soc - 0.5))


@njit(float64(float64, STORE), **OPTIONS)
def drawn_a(current_a: float, store: Store) -> float:
    """What a discharge current takes from the store [A]: more than itself above the label's [2]."""
    if store.peukert <= 1.0 or current_a <= store.label_a:
        return current_a
    return current_a * (current_a / store.label_a) ** (store.peukert - 1)


@njit(types.UniTuple(float64, 3)(float64, float64, float64, STORE), **OPTIONS)
def discharge(soc: float, power_w: float, step_h: float, store: Store) -> tuple[float, float, float]:
    """State of charge after giving `power_w` at the terminals for a step, the heat [W], and what the rate of
    discharge lost beside it [W]."""
    resistance = store.resistance_ohm
    per_ah = store.nominal_v * store.swing / (2 * store.capacity_ah)  # of the mean volts
    volts = open_circuit_v(soc, store)
    root = max(volts * volts - 4 * (resistance + per_ah * step_h) * power_w, 0.0)
    current = 2 * power_w / (volts + math.sqrt(root))
    after, drawn = soc, current
    guess = soc - current * step_h / store.capacity_ah  # where it ends if its rate costs nothing
    for _ in range(VOLT_PASSES):
        volts = open_circuit_v((soc + guess) / 2, store)
        root = math.sqrt(max(volts * volts - 4 * resistance * power_w, 0.0))
        current = 2 * power_w / (volts + root)
        drawn = drawn_a(current, store)
        after = soc - drawn * step_h / store.capacity_ah
        moved = after - guess
        if abs(moved) < SETTLED:
            break
        # Newton: an end guessed higher means more volts, less current and an end higher by slope / root of it
        slope = per_ah * step_h * drawn * store.peukert
        guess = after + (moved * slope / (root - slope) if 2 * slope < root else 0.0)
    return after, current * current * resistance, volts * (drawn - current)


@njit(boolean(float64, float64, float64, STORE), **OPTIONS)
def clearly_gives(soc: float, power_w: float, step_h: float, store: Store) -> bool:
    """Whether the bank gives `power_w` for a step and stays above its reserve, by a wide margin."""
    volts = open_circuit_v(store.reserve, store)
    if power_w > volts * volts / (8 * store.resistance_ohm) or power_w > PLENTY_A * store.label_a * volts:
        return False
    return (soc - store.reserve) * store.capacity_ah * volts > PLENTY * power_w * step_h


@njit(float64(float64, float64, float64, STORE), **OPTIONS)
def deliverable_w(soc: float, floor: float, step_h: float, store: Store) -> float:
    """Terminal watts that take the bank from `soc` down to `floor` in one step [W]; 0 at or below it."""
    if soc <= floor:
        return 0.0
    current = (soc - floor) * store.capacity_ah / step_h
    if store.peukert > 1.0 and current > store.label_a:
        current = (current * store.label_a ** (store.peukert - 1)) ** (1 / store.peukert)
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
        square += steady * steady * tau / 2 * fall * (2 - fall)
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
    per_ah = store.nominal_v * store.swing * eta / (2 * store.capacity_ah)  # of the mean volts
    volts = open_circuit_v(soc, store)
    current = 2 * power_w / (volts + math.sqrt(volts * volts + 4 * (resistance + per_ah * step_h) * power_w))
    after, heat_wh = soc, 0.0
    guess = soc + eta * current * step_h / store.capacity_ah  # where it ends if it takes all
    for _ in range(VOLT_PASSES):
        volts = open_circuit_v((soc + guess) / 2, store)
        current = (
            2 * power_w / (volts + math.sqrt(volts * volts + 4 * resistance * power_w))
        )  # I^2 R + V I = P, without cancellation
        after, _, heat_wh = accept_current(soc, current, step_h, store)
        moved = after - guess
        if abs(moved) < SETTLED:
            break
        guess = after
    taken_wh = (energy_wh(after, store) - energy_wh(soc, store)) / eta + heat_wh
    return after, taken_wh / step_h, heat_wh / step_h
