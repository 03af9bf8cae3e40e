"""What stands on the horizon ashore: the hours of sun it takes, and the light that is left."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from parhelion.computing.kept import kept_by_arguments
from parhelion.design import Skyline
from parhelion.sun.daysteps import DaySteps
from parhelion.sun.light import Light

Array = NDArray[np.float64]

BEARINGS = np.arange(360.0)


def height_deg(skyline: tuple[Skyline, ...], azimuth_deg: Array) -> Array:
    """How high the skyline stands at true bearings, of their shape [deg]; 0 where nothing stands."""
    azimuth = np.asarray(azimuth_deg, dtype=float) % 360.0
    found = np.zeros_like(azimuth)
    for part in skyline:
        breadth = (part.to_deg - part.from_deg) % 360.0 or 360.0
        inside = (azimuth - part.from_deg) % 360.0 <= breadth
        found = np.where(inside, np.maximum(found, part.up_deg), found)
    return found


def sky_left(skyline: tuple[Skyline, ...]) -> float:
    """Share of an even sky's light that a flat plane keeps: 1 - the mean of sin^2 of the height."""
    return 1 - float(np.mean(np.sin(np.radians(height_deg(skyline, BEARINGS))) ** 2))


def hidden_hours(day: DaySteps, skyline: tuple[Skyline, ...]) -> float:
    """Hours of the day when the sun is up and behind the skyline."""
    up = day.elevation_deg > 0
    hidden = up & (day.elevation_deg < height_deg(skyline, day.azimuth_deg))
    return float(day.timeline.over(hidden.astype(float)))


@kept_by_arguments(24)
def light_behind(light: Light, skyline: tuple[Skyline, ...]) -> Light:
    """The light that a skyline leaves: no beam while the sun is behind it, less of the sky's own."""
    if not skyline:
        return light
    day = light.day
    seen = day.elevation_deg >= height_deg(skyline, day.azimuth_deg)
    dni = light.dni * seen
    dhi = light.dhi * sky_left(skyline)
    ghi = dhi + dni * np.maximum(np.cos(np.radians(day.zenith_deg)), 0.0)
    return Light(day, ghi, dhi, dni, light.shown, light.air_c, course_deg=light.course_deg)
