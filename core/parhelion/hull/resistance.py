"""What the boat asks of its drive: service resistance, by the model that suits the hull type."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike, NDArray

from parhelion.constants import GRAVITY_MPS2
from parhelion.design import BoatDesign, Hull, Tow, Water
from parhelion.design.hulltypes import TYPICAL, Model
from parhelion.hull import delft, planing
from parhelion.hull.air import PLATE_CD, air_resistance_n, frontal_area_m2, raised_panels_m2
from parhelion.hull.calm import CalmWater, calm_water, hulls_of, planing_hull, planing_share
from parhelion.hull.weather import WaveDrag, lost_speed_shares, ship_waves_n, wind_resistance_n

Array = NDArray[np.float64]

# What the regression was made from (value ranges of the fleet behind it).
LENGTH_TO_BEAM = (3.9, 15.0)
BEAM_TO_DRAUGHT = (2.1, 4.0)
PRISMATIC = (0.55, 0.85)
FASTEST_FROUDE = 0.80
WIDER_PER_DOUBLING = 0.6
THIN_LENGTH_TO_BEAM = (5.0, 30.0)  # below 5 a hull is not thin


@dataclass(frozen=True)
class ServiceResistance:
    """Resistance over the speeds [N], part by part; `total_n` is their sum, never below zero."""

    speed_mps: Array
    service_n: Array  # margin x (calm water + still air): what runs on flat water measure
    air_n: Array  # still air's part of the service resistance
    wind_n: Array  # below zero where it pushes
    waves_n: Array
    tow_n: Array
    wave_share: Array  # that the boat's own waves make of the smooth resistance
    planing_share: Array  # 0 displacing to 1 planing

    @property
    def total_n(self) -> Array:
        return np.maximum(self.service_n + self.wind_n + self.waves_n + self.tow_n, 0.0)


@dataclass(frozen=True)
class RangeWarning:
    """A form number outside what the model was made from."""

    quantity: str
    value: float
    low: float
    high: float

    @property
    def times(self) -> float:
        """How many times beyond its limit the value lies, 1 or more [-]."""
        return max(self.low / self.value if self.value > 0 else np.inf, self.value / self.high)


def frontal_area_of(hull: Hull) -> float:
    """Area of what stands above the water seen from ahead, given or usual for the type [m2]."""
    if hull.frontal_area_m2 is not None:
        return hull.frontal_area_m2
    return frontal_area_m2(hull.type, hull.waterline_length_m, hull.beam_m)


def air_area_m2(design: BoatDesign) -> float:
    """Area that the air's drag is taken on: the boat's, and what panels standing up add to it [m2]."""
    hull = design.hull
    return frontal_area_of(hull) + raised_panels_m2(design) * PLATE_CD / max(hull.air_drag, 1e-3)


def _service(
    hull: Hull, displacement_kg: float, water: Water, speed: Array, area_m2: float
) -> tuple[Array, Array, CalmWater]:
    """Margin x (calm water + still air), the still air's part of it, and the calm water by itself [N].

    The margin passes from the displacing to the planing one as the hull rises.
    """
    calm = calm_water(hull, displacement_kg, water, speed)
    air = air_resistance_n(speed, area_m2, hull.air_drag)
    margin = hull.service_margin + (hull.fast_margin - hull.service_margin) * calm.planing_share
    return margin * (calm.viscous_n + calm.wave_n + air), margin * air, calm


def tow_resistance_n(tow: Tow, water: Water, speed: Array) -> Array:
    """Resistance of what is towed, by the model of its own type, over a row of speeds [N]."""
    hull = Hull(type=tow.type, waterline_length_m=tow.waterline_length_m, beam_m=tow.beam_m)
    return tow.count * _service(hull, tow.displacement_kg, water, speed, frontal_area_of(hull))[0]


def wave_drag_of(
    design: BoatDesign,
    speed_mps: Array,
    displacement_kg: float | None = None,
    height_m: ArrayLike | None = None,
) -> WaveDrag:
    """What waves from ahead add over a row of speeds, low and high [N].

    By the methods for ships, and no more than costs a small boat the share of its speed that such boats are
    seen to lose.

    Parameters
    ----------
    design : BoatDesign
    speed_mps : ndarray
        Through the water.
    displacement_kg : float, optional
        Another displacement than the design's [kg].
    height_m : array_like, optional
        Significant heights that go with the speeds; the plan's where left out.
    """
    displacement, hull = displacement_kg or design.displacement_kg, design.hull
    hulls = hulls_of(hull, displacement, design.site.water)
    one, height = hulls.one, design.plan.wave_height_m if height_m is None else height_m
    ships = ship_waves_n(height, one.length_m, one.beam_m, one.block, hulls.count, hulls.density)

    def smooth(speed: Array) -> Array:
        return _service(hull, displacement, design.site.water, speed, air_area_m2(design))[0]

    flat = smooth(speed_mps)
    seen = [smooth(speed_mps / (1 - lost)) - flat for lost in lost_speed_shares(height, one.length_m)]
    low, high = (np.minimum(ship, np.maximum(more, 0.0)) for ship, more in zip(ships, seen, strict=True))
    return WaveDrag(np.minimum(low, high), np.maximum(low, high))


def service_resistance(
    design: BoatDesign, speed_mps: ArrayLike, displacement_kg: float | None = None, flat: bool = False
) -> ServiceResistance:
    """What the boat asks at each speed: its service resistance, and what wind, waves and a tow add.

    Parameters
    ----------
    design : BoatDesign
    speed_mps : array_like
        Speeds through the water [m/s], any shape.
    displacement_kg : float, optional
        Another displacement than the design's [kg].
    flat : bool
        Flat water, no wind, nothing in tow: how runs are made.

    Returns
    -------
    ServiceResistance
        Of the shape of `speed_mps`.
    """
    shape = np.shape(speed_mps)
    speed = np.asarray(speed_mps, dtype=float).ravel()
    hull, plan, water = design.hull, design.plan, design.site.water
    displacement = displacement_kg or design.displacement_kg
    area = air_area_m2(design)
    service, air, calm = _service(hull, displacement, water, speed, area)
    smooth = calm.viscous_n + calm.wave_n
    share = np.divide(calm.wave_n, smooth, out=np.zeros_like(smooth), where=smooth > 0)
    wind, waves, tow = (np.zeros_like(speed) for _ in range(3))
    if not flat:
        if plan.wind_angle_deg is not None:
            wind = wind_resistance_n(speed, plan.wind_mps, plan.wind_angle_deg, area, hull.air_drag)
        if plan.wave_height_m > 0:
            waves = wave_drag_of(design, speed, displacement).middle_n
        for item in design.tows:
            tow = tow + tow_resistance_n(item, water, speed)
    made = (service, air, wind, waves, tow, share, calm.planing_share)
    return ServiceResistance(np.asarray(speed_mps, dtype=float), *(part.reshape(shape) for part in made))


def range_warnings(design: BoatDesign, speed_mps: float | None = None) -> list[RangeWarning]:
    """Where this hull, at a speed if one is given [m/s], lies outside what its model was made from."""
    hulls = hulls_of(design.hull, design.displacement_kg, design.site.water)
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
            checks.append(("trim on the plane", float(state.trim_deg), planing.TRIM_DEG))
            checks.append(("wetted length to beam", float(state.wetted_ratio), planing.WETTED_TO_BEAM))
        else:
            froude = speed_mps / np.sqrt(GRAVITY_MPS2 * hull.length_m)
            fastest = delft.FASTEST_FROUDE if model is Model.YACHT else FASTEST_FROUDE
            checks.append(("Froude number", float(froude), (0.0, fastest)))
    return [
        RangeWarning(name, value, low, high)
        for name, value, (low, high) in checks
        if not low <= value <= high
    ]


def widening(design: BoatDesign) -> float:
    """How much wider than usual the band of this hull's model is, in ln P [-].

    Most small craft lie outside some limit, and the usual band holds that. It widens for a form number more
    than twice beyond its limit, by six tenths for each further doubling, to the 2.2-fold at most.
    """
    farthest = max((warning.times for warning in range_warnings(design)), default=1.0)
    doublings = float(np.clip(np.log2(farthest) - 1, 0.0, 2.0))
    return 1 + WIDER_PER_DOUBLING * doublings
