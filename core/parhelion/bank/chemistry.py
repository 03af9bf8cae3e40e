"""What is typical of each battery chemistry; a bank's own numbers always come first.

References
----------
[1] Typical published ranges for marine and leisure batteries (docs/methods/bank.md gives low, typical, high).
"""

from __future__ import annotations

from dataclasses import dataclass

from parhelion.design import Chemistry


@dataclass(frozen=True)
class Typical:
    """Typical values of one chemistry [1]."""

    label: str
    coulomb_efficiency: float  # Ah out over Ah in [-]
    resistance_ohm_ah: float  # per cell: ohms times amp-hours
    cell_v: float  # nominal volts of a cell
    swing: float  # open-circuit volts, empty to full, over nominal [-]
    usable_depth: float  # [-]
    charge_c: float  # largest charge current over capacity [1/h]
    taper_from: float  # state of charge where acceptance begins to fall [-]
    lithium: bool
    capacity_per_k: float  # lost per kelvin below capacity_from_c [1/K]
    capacity_from_c: float
    wh_per_kg: float  # of a boxed bank with its cables
    price_per_wh: float  # invented coins


TYPICAL: dict[Chemistry, Typical] = {
    Chemistry.LFP: Typical(
        "LFP", 0.995, 0.10, 3.2, 0.07, 0.90, 0.50, 0.97, True, 0.004, 20.0, 95.0, 0.42),
    Chemistry.NMC: Typical(
        "NMC", 0.995, 0.12, 3.65, 0.22, 0.80, 0.50, 0.88, True, 0.004, 20.0, 140.0, 0.55),
    Chemistry.AGM: Typical(
        "AGM", 0.95, 0.10, 2.0, 0.09, 0.50, 0.30, 0.85, False, 0.008, 25.0, 34.0, 0.24),
    Chemistry.FLOODED: Typical(
        "flooded lead", 0.88, 0.18, 2.0, 0.09, 0.50, 0.13, 0.80, False, 0.008, 25.0, 36.0, 0.16),
    Chemistry.GEL: Typical(
        "gel", 0.93, 0.16, 2.0, 0.09, 0.50, 0.15, 0.82, False, 0.008, 25.0, 33.0, 0.28),
}  # fmt: skip

FREEZING_C = 0.0  # lithium takes no charge at or below this
FULL_CHARGE_FROM_C = 10.0  # and its full current from here
LEAST_CAPACITY = 0.3  # share of the label that cold can leave; below it the model says nothing

LITHIUM_FULL = 0.99  # state of charge that counts as full
LEAD_FULL_C = 0.02  # lead counts as full when it accepts less than this share of its capacity [1/h]
RESERVE_AT_LEAST = 0.30
RESERVE_OVER_CUT_OUT = 0.10
