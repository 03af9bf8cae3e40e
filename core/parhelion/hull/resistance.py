"""What the boat asks of its drive: service resistance, by the model that suits the hull type."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike, NDArray

from parhelion.constants import GRAVITY_MPS2
from parhelion.design import BoatDesign
from parhelion.hull import delft, planing
from parhelion.hull.air import air_resistance_n, frontal_area_m2
from parhelion.hull.calm import calm_water, hulls_of, planing_hull, planing_share
from parhelion.hulltypes import TYPICAL, Model

# What the regression was made from (value ranges of the fleet behind it).
LENGTH_TO_BEAM = (3.9, 15.0)
BEAM_TO_DRAUGHT = (2.1, 4.0)
PRISMATIC = (0.55, 0.85)
FASTEST_FROUDE = 0.80
THIN_LENGTH_TO_BEAM = (5.0, 30.0)  # below 5 a hull is not thin


@dataclass(frozen=True)
class ServiceResistance:
    """Resistance in service [N] over the speeds, with the share that waves make of it."""

    speed_mps: NDArray[np.float64]
    total_n: NDArray[np.float64]
    wave_share: NDArray[np.float64]
    planing_share: NDArray[np.float64]  # 0 displacing to 1 planing


@dataclass(frozen=True)
class RangeWarning:
    """A form number outside what the model was made from."""

    quantity: str
    value: float
    low: float
    high: float


def service_resistance(
    design: BoatDesign, speed_mps: ArrayLike, displacement_kg: float | None = None
) -> ServiceResistance:
    """Margin x (calm water of the whole boat + still air).

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
    hull, typical = design.hull, TYPICAL[design.hull.type]
    calm = calm_water(design, speed.ravel(), displacement_kg)
    area = hull.frontal_area_m2
    if area is None:
        area = frontal_area_m2(hull.type, hull.waterline_length_m, hull.beam_m)
    air = air_resistance_n(speed.ravel(), area, typical.air_drag_cd)
    smooth = calm.viscous_n + calm.wave_n + air
    share = np.divide(calm.wave_n, smooth, out=np.zeros_like(smooth), where=smooth > 0)
    return ServiceResistance(
        speed,
        (hull.service_margin * smooth).reshape(speed.shape),
        share.reshape(speed.shape),
        calm.planing_share.reshape(speed.shape),
    )


def hull_speed_mps(length_m: float) -> float:
    """The speed whose wave is as long as the waterline: Froude number 1/sqrt(2 pi) [m/s]."""
    return float(np.sqrt(GRAVITY_MPS2 * length_m / (2 * np.pi)))


def range_warnings(design: BoatDesign, speed_mps: float | None = None) -> list[RangeWarning]:
    """Where this hull, at a speed if one is given [m/s], lies outside what its model was made from."""
    hulls = hulls_of(design)
    hull = hulls.one
    model = TYPICAL[design.hull.type].model
    slender = ("length to beam", hull.length_m / hull.beam_m, THIN_LENGTH_TO_BEAM)
    checks = [
        ("length to beam", hull.length_m / hull.beam_m, LENGTH_TO_BEAM),
        ("beam to draught", hull.beam_m / hull.draught_m, BEAM_TO_DRAUGHT),
        ("prismatic coefficient", hull.prismatic, PRISMATIC),
    ]
    if model in (Model.THIN_SHIP, Model.TUBES):
        checks = [slender]
    if speed_mps is not None:
        share = float(planing_share(hulls, np.array(speed_mps))) if model is Model.PLANING else 0.0
        if share > 0:
            state = planing.running_state(planing_hull(hulls), speed_mps, hulls.density, hulls.viscosity)
            checks.append(("trim on the plane", state.trim_deg, planing.TRIM_DEG))
            checks.append(("wetted length to beam", state.wetted_ratio, planing.WETTED_TO_BEAM))
        else:
            froude = speed_mps / np.sqrt(GRAVITY_MPS2 * hull.length_m)
            fastest = delft.FASTEST_FROUDE if model is Model.YACHT else FASTEST_FROUDE
            checks.append(("Froude number", float(froude), (0.0, fastest)))
    return [
        RangeWarning(name, value, low, high)
        for name, value, (low, high) in checks
        if not low <= value <= high
    ]
