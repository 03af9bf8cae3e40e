"""How warm a bank of a boat is on its day."""

from __future__ import annotations

from parhelion.bank.store import temperature_of
from parhelion.design import Bank, BoatDesign
from parhelion.sun.climate import air_temperature_c, water_temperature_c


def bank_temperature_c(design: BoatDesign, bank: Bank) -> float:
    """As given, as the water around the hull, or as the air on deck, on the plan's day [C]."""
    return temperature_of(bank, air_temperature_c(design), water_temperature_c(design))
