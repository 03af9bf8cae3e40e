"""What the boat asks of its drive: service resistance, by the model that suits the hull type."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike, NDArray

from parhelion.constants import FRESH_VISCOSITY_M2_PER_S, GRAVITY_MPS2, SEA_VISCOSITY_M2_PER_S
from parhelion.design import BoatDesign, Water
from parhelion.hull.air import air_resistance_n, frontal_area_m2
from parhelion.hull.holtrop import HoltropHull, calm_resistance
from parhelion.hulltypes import TYPICAL

# What the regression was made from (value ranges of the fleet behind it).
LENGTH_TO_BEAM = (3.9, 15.0)
BEAM_TO_DRAUGHT = (2.1, 4.0)
PRISMATIC = (0.55, 0.85)
FASTEST_FROUDE = 0.80
FASTEST_FROUDE_YACHT = 0.40


@dataclass(frozen=True)
class ServiceResistance:
    """Resistance in service [N] over the speeds, with the share that waves make of it."""

    speed_mps: NDArray[np.float64]
    total_n: NDArray[np.float64]
    wave_share: NDArray[np.float64]


@dataclass(frozen=True)
class RangeWarning:
    """A form number outside what the model was made from."""

    quantity: str
    value: float
    low: float
    high: float


def holtrop_hull(design: BoatDesign, displacement_kg: float | None = None) -> HoltropHull:
    """One hull of the boat, as the component method wants it.

    Parameters
    ----------
    design : BoatDesign
    displacement_kg : float, optional
        Another displacement than the design's [kg], for runs measured at it and for what-ifs.
    """
    hull = design.hull
    if displacement_kg is not None:
        hull = hull.model_copy(update={"displacement_kg": displacement_kg})
    draught = hull.draught(design.water_density_kg_per_m3)
    volume = hull.displacement_kg / design.water_density_kg_per_m3 / TYPICAL[hull.type].hulls
    return HoltropHull(
        length_m=hull.waterline_length_m,
        beam_m=hull.beam_m,
        draught_fore_m=draught,
        draught_aft_m=draught,
        volume_m3=volume,
        midship=hull.midship,
        waterplane=hull.waterplane,
        lcb_percent=hull.lcb,
        correlation_allowance=hull.correlation_allowance,
    )


def service_resistance(
    design: BoatDesign, speed_mps: ArrayLike, displacement_kg: float | None = None
) -> ServiceResistance:
    """Margin x (calm water of every hull + still air).

    Parameters
    ----------
    design : BoatDesign
    speed_mps : array_like
        Speeds through the water [m/s], any shape.
    displacement_kg : float, optional
        Another displacement than the design's [kg].

    Returns
    -------
    ServiceResistance
        Of the shape of `speed_mps`.
    """
    speed = np.asarray(speed_mps, dtype=float)
    viscosity = FRESH_VISCOSITY_M2_PER_S if design.site.water is Water.FRESH else SEA_VISCOSITY_M2_PER_S
    hull, typical = design.hull, TYPICAL[design.hull.type]
    calm = calm_resistance(
        holtrop_hull(design, displacement_kg), speed, design.water_density_kg_per_m3, viscosity
    )
    area = hull.frontal_area_m2
    if area is None:
        area = frontal_area_m2(hull.type, hull.waterline_length_m, hull.beam_m)
    smooth = typical.hulls * calm.total_n + air_resistance_n(speed, area, typical.air_drag_cd)
    share = np.divide(typical.hulls * calm.wave_n, smooth, out=np.zeros_like(smooth), where=smooth > 0)
    return ServiceResistance(speed, hull.service_margin * smooth, share)


def hull_speed_mps(length_m: float) -> float:
    """The speed whose wave is as long as the waterline: Froude number 1/sqrt(2 pi) [m/s]."""
    return float(np.sqrt(GRAVITY_MPS2 * length_m / (2 * np.pi)))


def range_warnings(design: BoatDesign) -> list[RangeWarning]:
    """Where this hull lies outside the fleet that the component method was made from."""
    hull = holtrop_hull(design)
    checks = (
        ("length to beam", hull.length_m / hull.beam_m, LENGTH_TO_BEAM),
        ("beam to draught", hull.beam_m / hull.draught_m, BEAM_TO_DRAUGHT),
        ("prismatic coefficient", hull.prismatic, PRISMATIC),
    )
    return [
        RangeWarning(name, value, low, high)
        for name, value, (low, high) in checks
        if not low <= value <= high
    ]
