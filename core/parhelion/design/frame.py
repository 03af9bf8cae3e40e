"""A simple frame of tube or angle stock that holds the panels of a place."""

from __future__ import annotations

import math
from typing import NamedTuple

from pydantic import model_validator

from parhelion.design.part import Choice, Part, begins, entry, out_of_reach


class FrameStock(Choice):
    ROUND = "round", "round tube"
    SQUARE = "square", "square tube"
    ANGLE = "angle", "angle"


class FrameMetal(Choice):
    ALUMINIUM = "aluminium", "aluminium"
    STAINLESS = "stainless", "stainless steel"
    STEEL = "steel", "steel, coated"


class Metal(NamedTuple):
    """Typical of what is sold as stock: density [kg/m3], stiffness [Pa], yield [Pa]."""

    kg_per_m3: float
    stiff_pa: float
    yields_pa: float


METALS = {
    FrameMetal.ALUMINIUM: Metal(2_700, 69e9, 150e6),
    FrameMetal.STAINLESS: Metal(7_950, 193e9, 205e6),
    FrameMetal.STEEL: Metal(7_850, 205e9, 235e6),
}


class Cut(NamedTuple):
    """Pieces alike."""

    name: str
    length_m: float
    pieces: int


class Frame(Part):
    """Two sides, two ends, bars across between them, and feet, all of one stock."""

    model_config = begins(stock="round")

    stock: FrameStock = entry("Stock", default=FrameStock.ROUND)
    metal: FrameMetal = entry("Of", default=FrameMetal.ALUMINIUM)
    size_m: float = entry("Its size", "Outside, across", default=0.03, ge=0.008, le=0.2, step=0.005)
    wall_m: float = entry("Its wall", default=0.002, ge=0.0005, le=0.02, step=0.0005)
    crossbars: int = entry("Bars across", "Between the ends", default=1, ge=0, le=20)
    feet: int = entry("Feet or clamps", "Half of them on each long side", default=4, ge=2, le=40)
    leg_m: float = entry("Each leg", "0 where it sits on clamps", default=0, ge=0, le=5, step=0.05)
    stock_m: float = entry("Sold in lengths of", default=6, ge=0.5, le=12, step=0.5)

    @model_validator(mode="after")
    def _hollow(self) -> Frame:
        if 2 * self.wall_m > self.size_m:
            raise out_of_reach(
                "A wall of {wall} mm leaves nothing inside.", "wall_m", f"{500 * self.size_m:g} mm or less",
                wall=f"{1000 * self.wall_m:g}",
            )  # fmt: skip
        return self

    @property
    def section_m2(self) -> float:
        """Metal across the stock [m2]."""
        outer, wall = self.size_m, self.wall_m
        inner = outer - 2 * wall
        match self.stock:
            case FrameStock.ROUND:
                return math.pi / 4 * (outer**2 - inner**2)
            case FrameStock.SQUARE:
                return outer**2 - inner**2
        return wall * (2 * outer - wall)

    @property
    def inertia_m4(self) -> float:
        """Second moment of area about the axis it bends on [m4]."""
        outer, wall = self.size_m, self.wall_m
        inner = outer - 2 * wall
        match self.stock:
            case FrameStock.ROUND:
                return math.pi / 64 * (outer**4 - inner**4)
            case FrameStock.SQUARE:
                return (outer**4 - inner**4) / 12
        low = (outer**2 + wall * (outer - wall)) / (2 * (2 * outer - wall))  # its middle over the leg
        return (wall * (outer - low) ** 3 + outer * low**3 - (outer - wall) * (low - wall) ** 3) / 3

    @property
    def kg_per_m(self) -> float:
        return self.section_m2 * METALS[self.metal].kg_per_m3

    def cuts(self, width_m: float, length_m: float) -> list[Cut]:
        """The pieces of a frame around a place, longest first."""
        long, short = max(width_m, length_m), min(width_m, length_m)
        found = [Cut("side", long, 2), Cut("end", short, 2)]
        if self.crossbars:
            found.append(Cut("bar across", short, self.crossbars))
        if self.leg_m > 0:
            found.append(Cut("leg", self.leg_m, self.feet))
        return sorted(found, key=lambda cut: -cut.length_m)

    def mass_kg(self, width_m: float, length_m: float) -> float:
        """Of all its pieces [kg]."""
        return self.kg_per_m * sum(cut.length_m * cut.pieces for cut in self.cuts(width_m, length_m))
