"""A stand-in air temperature where the person gives none: it only sets how warm the cells and the bank are.

References
----------
[1] A second-order fit to zonal-mean sea-level air temperature: about 27 C at the equator, 14 C at 45 deg,
    4 C at 60 deg, with a seasonal swing of 0.22 K per degree of latitude and 4 K more by day. Good to some
    6 K, which moves harvest by about 2 %.
"""

from __future__ import annotations

from datetime import date as Date
from typing import NamedTuple

import numpy as np

from parhelion.design import BoatDesign

WARMEST_DAY_NORTH = 205  # day of the year, a month after the June solstice [1]


def usual_air_temperature_c(latitude_deg: float, day: Date) -> float:
    """A usual daytime air temperature for a latitude and date [C]."""
    peak = WARMEST_DAY_NORTH if latitude_deg >= 0 else WARMEST_DAY_NORTH - 182
    season = np.cos(2 * np.pi * (day.timetuple().tm_yday - peak) / 365.25)
    mean = 27.0 - 0.0065 * latitude_deg**2  # [1]
    by_day = 4.0  # [K] [1]
    return round(float(mean + by_day + 0.22 * abs(latitude_deg) * season), 1)


class Air(NamedTuple):
    """The air about the panels."""

    temperature_c: float
    wind_mps: float


def air_temperature_c(design: BoatDesign) -> float:
    """The plan's air temperature, or a usual one for the place and date [C]."""
    given = design.plan.air_temperature_c
    return usual_air_temperature_c(design.site.latitude_deg, design.plan.date) if given is None else given


def air_of(design: BoatDesign) -> Air:
    """The air of the plan's day."""
    return Air(air_temperature_c(design), design.plan.wind_mps)
