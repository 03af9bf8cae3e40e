"""What cable, guards, frames and the small things cost and weigh, where nobody has said. Prices are invented
coins; masses are usual ones.

References
----------
[1] Copper 8.96 g/cm3, with some 45 % more for insulation and strands of marine cable.
"""

from __future__ import annotations

from typing import NamedTuple

from parhelion.design.frame import FrameMetal
from parhelion.market.parts import Offer

COPPER_KG_PER_M_MM2, INSULATION = 0.00896, 1.45  # [1]
STOCK_PRICE_PER_KG = {FrameMetal.ALUMINIUM: 14.0, FrameMetal.STAINLESS: 12.0, FrameMetal.STEEL: 4.5}
CABLE_PRICE_PER_M, CABLE_PRICE_PER_M_MM2 = 0.6, 0.19


class Fitting(NamedTuple):
    """Price and mass of a thing, and what each amp or square millimetre adds."""

    price: float
    mass_kg: float
    price_per: float = 0.0
    kg_per: float = 0.0


FITTINGS = {
    "breaker": Fitting(18.0, 0.22, 0.12, 0.001),
    "fuse": Fitting(14.0, 0.16, 0.11, 0.001),
    "string_fuse": Fitting(6.5, 0.05),
    "connector": Fitting(3.5, 0.05),
    "switch": Fitting(32.0, 0.4),
    "lug": Fitting(1.1, 0.01, 0.03, 0.0006),
    "shrink": Fitting(9.0, 0.2),
    "shunt": Fitting(92.0, 0.6),
    "precharge": Fitting(34.0, 0.3),
    "guard": Fitting(140.0, 0.9),
    "box": Fitting(28.0, 1.5),
    "bus": Fitting(19.0, 0.45),
    "converter": Fitting(165.0, 1.4),
    "charger": Fitting(165.0, 2.6),
    "propeller": Fitting(120.0, 1.8),
    "foot": Fitting(6.0, 0.12),
    "hinge": Fitting(11.0, 0.2),
    "oars": Fitting(90.0, 5.2),
    "lights": Fitting(48.0, 0.6),
    "bailer": Fitting(14.0, 0.4),
    "extinguisher": Fitting(62.0, 2.4),
    "life_jackets": Fitting(75.0, 0.9),
    "anchor": Fitting(70.0, 6.0),
    "horn": Fitting(12.0, 0.2),
}


def fitting_offer(kind: str, size: float = 0.0) -> Offer:
    """One of a kind; `size` is its amps, or square millimetres."""
    fitting = FITTINGS[kind]
    return Offer(
        round(fitting.price + fitting.price_per * size, 2), round(fitting.mass_kg + fitting.kg_per * size, 3)
    )


def cable_offer(size_mm2: float) -> Offer:
    """One metre of one conductor [1]."""
    return Offer(
        round(CABLE_PRICE_PER_M + CABLE_PRICE_PER_M_MM2 * size_mm2, 2),
        round(COPPER_KG_PER_M_MM2 * size_mm2 * INSULATION, 4),
    )
