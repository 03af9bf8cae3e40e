"""Light on a tilted plane.

References
----------
[1] J.E. Hay and J.A. Davies, "Calculations of the solar radiation incident on an inclined surface", 1980;
    pvlib's haydavies.
[2] A.F. Souka and H.H. Safwat, incidence angle modifier in the ASHRAE form; pvlib.iam.ashrae.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from parhelion.computing.kept import kept_by_arguments
from parhelion.sun.light import Light

Array = NDArray[np.float64]

WATER_ALBEDO = 0.08  # [-] open water, not the land default
INCIDENCE_B = 0.05  # [-] ASHRAE coefficient of flat glass
DIFFUSE_INCIDENCE = 0.96  # [-] share of diffuse light that gets in
LOWEST_COS_ZENITH = 0.01745  # cos 89 deg, as in pvlib


@dataclass(frozen=True, eq=False)
class PlaneLight:
    """Light on a plane, shape (n, 144) [W/m2]: what falls on it, and what gets into the cells, beam apart."""

    global_w_per_m2: Array
    effective_w_per_m2: Array
    beam_w_per_m2: Array  # of the effective light, what comes straight from the sun


def plane_light(light: Light, tilt_deg: float, azimuth_deg: float | Array) -> PlaneLight:
    """Beam, Hay-Davies sky and water-reflected light on a plane [1], with incidence losses [2]; kept.

    Parameters
    ----------
    light : Light
    tilt_deg : float
        From horizontal [deg].
    azimuth_deg : float
        Which way the plane faces, clockwise from true north; or that of each step [deg].
    """
    if isinstance(azimuth_deg, np.ndarray):
        return _computed(light, tilt_deg, azimuth_deg)
    return _facing_one_way(light, tilt_deg, azimuth_deg)


@kept_by_arguments(48)
def _facing_one_way(light: Light, tilt_deg: float, azimuth_deg: float) -> PlaneLight:
    return _computed(light, tilt_deg, azimuth_deg)


def _computed(light: Light, tilt_deg: float, azimuth_deg: float | Array) -> PlaneLight:
    from pvlib import iam, irradiance

    day = light.day
    cosine = irradiance.aoi_projection(tilt_deg, azimuth_deg, day.zenith_deg, day.azimuth_deg)
    facing = np.maximum(cosine, 0.0)
    ratio = facing / np.maximum(np.cos(np.radians(day.zenith_deg)), LOWEST_COS_ZENITH)
    sky = irradiance.haydavies(
        tilt_deg, azimuth_deg, light.dhi, light.dni, day.extraterrestrial_w_per_m2, projection_ratio=ratio
    )
    ground = irradiance.get_ground_diffuse(tilt_deg, light.ghi, albedo=WATER_ALBEDO)
    beam = light.dni * facing
    entering = iam.ashrae(np.degrees(np.arccos(np.clip(cosine, -1, 1))), b=INCIDENCE_B)
    diffuse = np.nan_to_num(sky) + ground
    return PlaneLight(beam + diffuse, beam * entering + DIFFUSE_INCIDENCE * diffuse, beam * entering)
