"""Battery chemistries, with what is typical of each; a bank's own numbers always come first.

References
----------
[1] Typical published ranges for marine and leisure batteries, as low, typical and high
    (docs/methods/bank.md).
"""

from __future__ import annotations

from dataclasses import dataclass

from parhelion.design.part import Choice


class Chemistry(Choice):
    LFP = "lfp", "LFP"
    NMC = "nmc", "NMC"
    AGM = "agm", "AGM"
    FLOODED = "flooded", "flooded lead"
    GEL = "gel", "gel"


Range = tuple[float, float, float]  # low, typical, high


@dataclass(frozen=True)
class Chemical:
    """Typical values of one chemistry [1]; volts are per cell."""

    lithium: bool
    cell_v: float  # nominal
    swing: float  # open-circuit volts, empty to full, over nominal [-]
    coulomb: Range  # Ah out over Ah in [-]
    resistance: Range  # per cell: ohms times amp-hours
    peukert: Range  # exponent k
    depth: Range  # usable [-]
    charge_c: Range  # largest charge current over capacity [1/h]
    discharge_c: Range  # largest lasting discharge current over capacity [1/h]
    taper: Range  # state of charge where acceptance begins to fall [-]
    cycles: Range  # full life at `cycles_depth`
    cycles_depth: float
    cycles_exponent: float  # m in cycles x (reference depth / depth)^m
    absorption_v: float
    float_v: float
    cut_out_v: float
    charge_c_from: float  # [C] coldest and hottest it may be charged
    charge_c_to: float
    capacity_per_k: float  # lost per kelvin below capacity_from_c [1/K]
    capacity_from_c: float
    calendar_per_year: float  # capacity lost with age alone [1/year]
    wh_per_kg: float  # of a boxed bank with its cables
    price_per_wh: float  # invented coins
    rest_v: tuple[tuple[float, float], ...]  # (state of charge, volts of a cell at rest, 25 C)

    @property
    def coulomb_efficiency(self) -> float:
        return self.coulomb[1]

    @property
    def usable_depth(self) -> float:
        return self.depth[1]

    @property
    def full_v(self) -> float:
        """Volts of a full cell at rest."""
        return self.rest_v[-1][1]


CHEMICALS: dict[Chemistry, Chemical] = {
    Chemistry.LFP: Chemical(
        True, 3.2, 0.07, (0.985, 0.995, 0.999), (0.05, 0.10, 0.20), (1.0, 1.02, 1.05), (0.8, 0.9, 1.0),
        (0.3, 0.5, 1.0), (0.5, 1.0, 3.0), (0.95, 0.97, 0.99), (2500, 4000, 6000), 0.8, 1.1, 3.5, 3.375, 2.8,
        0, 45, 0.004, 20.0, 0.015, 95.0, 0.42,
        ((0.0, 2.60), (0.05, 3.00), (0.1, 3.14), (0.2, 3.22), (0.3, 3.26), (0.4, 3.275), (0.6, 3.295),
         (0.7, 3.315), (0.9, 3.330), (0.97, 3.345), (1.0, 3.40))),
    Chemistry.NMC: Chemical(
        True, 3.65, 0.22, (0.985, 0.995, 0.999), (0.06, 0.12, 0.25), (1.0, 1.03, 1.06),
        (0.7, 0.8, 0.9), (0.3, 0.5, 1.0), (0.5, 1.0, 3.0), (0.80, 0.88, 0.92), (800, 1500, 2500), 0.8, 1.2,
        4.15, 4.05, 3.0,
        0, 45, 0.004, 20.0, 0.025, 140.0, 0.55,
        ((0.0, 3.00), (0.1, 3.45), (0.2, 3.56), (0.3, 3.62), (0.4, 3.66), (0.5, 3.71), (0.6, 3.80),
         (0.7, 3.90), (0.8, 3.98), (0.9, 4.07), (1.0, 4.17))),
    Chemistry.AGM: Chemical(
        False, 2.0, 0.09, (0.92, 0.95, 0.98), (0.06, 0.10, 0.18), (1.08, 1.12, 1.2), (0.4, 0.5, 0.6),
        (0.2, 0.3, 0.4), (0.2, 0.5, 1.0), (0.8, 0.85, 0.9), (300, 600, 1000), 0.5, 1.2, 2.40, 2.27, 1.917,
        -15, 45, 0.008, 25.0, 0.05, 34.0, 0.24,
        ((0.0, 1.95), (0.25, 2.00), (0.5, 2.05), (0.75, 2.095), (1.0, 2.14))),
    Chemistry.FLOODED: Chemical(
        False, 2.0, 0.09, (0.80, 0.88, 0.92), (0.10, 0.18, 0.30), (1.15, 1.25, 1.4),
        (0.4, 0.5, 0.5), (0.1, 0.13, 0.2), (0.1, 0.2, 0.5), (0.75, 0.8, 0.85), (300, 800, 1500), 0.5, 1.15,
        2.43, 2.25, 1.917, -15, 45, 0.008, 25.0, 0.05, 36.0, 0.16,
        ((0.0, 1.94), (0.25, 1.99), (0.5, 2.035), (0.75, 2.08), (1.0, 2.12))),
    Chemistry.GEL: Chemical(
        False, 2.0, 0.09, (0.88, 0.93, 0.96), (0.10, 0.16, 0.25), (1.1, 1.15, 1.25), (0.5, 0.5, 0.6),
        (0.1, 0.15, 0.2), (0.1, 0.2, 0.5), (0.75, 0.82, 0.88), (500, 800, 1200), 0.5, 1.2, 2.35, 2.28, 1.917,
        -15, 45, 0.008, 25.0, 0.04, 33.0, 0.28,
        ((0.0, 1.95), (0.25, 2.00), (0.5, 2.05), (0.75, 2.10), (1.0, 2.15))),
}  # fmt: skip
