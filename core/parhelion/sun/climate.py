"""A stand-in air temperature where the person gives none: it only sets how warm the cells and the bank are.

References
----------
[1] A second-order fit to zonal-mean sea-level air temperature: about 27 C at the equator, 14 C at 45 deg,
    4 C at 60 deg, with a seasonal swing of 0.22 K per degree of latitude and 4 K more by day. Good to some
    6 K, which moves harvest by about 2 %.
[2] The same mean for fresh water, a swing of .20 K per degree of latitude some weeks behind the air's; of
    the sea .10 K and six weeks, 5 K warmer at 60 deg than the air's mean. Good to some 4 K.
[3] 4 K from day to night and 12 K below the season's mean; inland winters go lower.
"""

from __future__ import annotations

from datetime import date as Date
from typing import NamedTuple

import numpy as np

from parhelion.design import BoatDesign, Water

WARMEST_DAY_NORTH = 205  # day of the year, a month after the June solstice [1]
WATER_LAG_DAYS = {Water.FRESH: 15, Water.SALT: 40}  # behind the air [2]
WATER_SWING_K = {Water.FRESH: 0.20, Water.SALT: 0.10}  # per degree of latitude [2]
SEA_WARMER_K = 5.0  # at 60 deg [2]
FREEZES_C = {Water.FRESH: 0.0, Water.SALT: -1.8}
COLDER_BY_K = 16.0  # [3]
ICE_UNDER_K = {Water.FRESH: 2.0, Water.SALT: 1.0}  # so far under freezing by season there is ice to walk on


def usual_air_temperature_c(latitude_deg: float, day: Date) -> float:
    """A usual daytime air temperature for a latitude and date [C]."""
    peak = WARMEST_DAY_NORTH if latitude_deg >= 0 else WARMEST_DAY_NORTH - 182
    season = np.cos(2 * np.pi * (day.timetuple().tm_yday - peak) / 365.25)
    mean = 27.0 - 0.0065 * latitude_deg**2  # [1]
    by_day = 4.0  # [K] [1]
    return round(float(mean + by_day + 0.22 * abs(latitude_deg) * season), 1)


def coldest_morning_c(latitude_deg: float) -> float:
    """A usual record cold at dawn for a latitude: what cold panels' volts are held against [C] [3]."""
    north = latitude_deg >= 0
    midwinter = Date(2027, 1, 23) if north else Date(2027, 7, 24)
    return float(round(usual_air_temperature_c(latitude_deg, midwinter) - COLDER_BY_K))


def _water_c(latitude_deg: float, day: Date, water: Water) -> float:
    """A usual surface temperature, as if water never froze [2]."""
    peak = (WARMEST_DAY_NORTH if latitude_deg >= 0 else WARMEST_DAY_NORTH - 182) + WATER_LAG_DAYS[water]
    season = np.cos(2 * np.pi * (day.timetuple().tm_yday - peak) / 365.25)
    mean = 27.0 - 0.0065 * latitude_deg**2 + SEA_WARMER_K * (water is Water.SALT) * abs(latitude_deg) / 60
    return float(mean + WATER_SWING_K[water] * abs(latitude_deg) * season)


def usual_water_temperature_c(latitude_deg: float, day: Date, water: Water) -> float:
    """A usual surface temperature of open water for a latitude and date [C] [2]; never below its freezing."""
    return round(max(_water_c(latitude_deg, day, water), FREEZES_C[water]), 1)


def usually_frozen(design: BoatDesign) -> bool:
    """Whether the water of the place is usually ice on the plan's date, so that nobody boats."""
    site = design.site
    frozen = is_ice(site.latitude_deg, design.plan.date, site.water)
    return design.plan.water_temperature_c is None and frozen


def is_ice(latitude_deg: float, day: Date, water: Water) -> bool:
    """Whether the water of a latitude is usually ice on a date."""
    return _water_c(latitude_deg, day, water) - FREEZES_C[water] < -ICE_UNDER_K[water]


def water_temperature_c(design: BoatDesign) -> float:
    """The plan's water temperature, or a usual one for the place and date [C]."""
    given, site = design.plan.water_temperature_c, design.site
    return (
        usual_water_temperature_c(site.latitude_deg, design.plan.date, site.water) if given is None else given
    )


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
