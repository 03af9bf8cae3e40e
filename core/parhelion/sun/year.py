"""The light of a whole year at ten-minute steps, the sun's place from daily knots.

References
----------
[1] Right ascension, declination and apparent sidereal time by the solar position algorithm (see
    `daysteps`) once a day; a cubic spline between, parallax and refraction at every step. Within 5e-5 deg.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from datetime import date as Date
from datetime import timedelta

import numpy as np
from numba import float64, njit, types
from numpy.typing import NDArray

from parhelion.computing.kept import kept_by_arguments
from parhelion.computing.kernels import OPTIONS
from parhelion.constants import STEP_S, STEPS_PER_DAY
from parhelion.design import Shade, Site, Sky, Spot
from parhelion.sun.climate import usual_air_temperature_c
from parhelion.sun.light import Light, split
from parhelion.sun.sky import BRIGHT_SHARE, BROKEN_BRIGHT, BROKEN_DULL, steady_index

Array = NDArray[np.float64]

DAY_S = 86_400
DELTA_T_S = 67.0  # as in pvlib
SIDEREAL_DEG = 360.98564736629  # a day
PARALLAX_RAD = math.radians(8.794 / 3600)
FLATTENING = 0.99664719
EARTH_M = 6_378_140.0
USUAL_C = 12.0  # of the air that bends the light, as in pvlib
HORIZON_DEG = -0.8333  # below it nothing is bent


@njit(
    types.UniTuple(float64[::1], 3)(
        float64[::1], float64[::1], float64[::1], float64, float64, float64, float64
    ),
    **OPTIONS,
)
def _sky_place(
    sidereal: Array, ascension: Array, declination: Array, latitude: float, longitude: float,
    altitude_m: float, pressure_pa: float,
) -> tuple[Array, Array, Array]:  # fmt: skip
    """Zenith, apparent zenith and azimuth [deg] from Greenwich sidereal time and the sun's place [deg]."""
    number = len(sidereal)
    zenith, apparent, azimuth = np.empty(number), np.empty(number), np.empty(number)
    rad = math.pi / 180
    lat = latitude * rad
    sin_lat, cos_lat = math.sin(lat), math.cos(lat)
    u = math.atan(FLATTENING * math.tan(lat))
    x = math.cos(u) + altitude_m / EARTH_M * cos_lat
    y = FLATTENING * math.sin(u) + altitude_m / EARTH_M * sin_lat
    sin_xi = math.sin(PARALLAX_RAD)
    for i in range(number):
        hour = (sidereal[i] + longitude - ascension[i]) * rad
        dec = declination[i] * rad
        sin_dec, cos_dec = math.sin(dec), math.cos(dec)
        across = -x * sin_xi * math.sin(hour)
        along = cos_dec - x * sin_xi * math.cos(hour)
        shift = math.atan2(across, along)
        dec = math.atan2((sin_dec - y * sin_xi) * math.cos(shift), along)
        hour -= shift
        sin_h, cos_h = math.sin(hour), math.cos(hour)
        up = math.asin(sin_lat * math.sin(dec) + cos_lat * math.cos(dec) * cos_h) / rad
        bent = 0.0
        if up >= HORIZON_DEG:
            bent = pressure_pa / 101_000.0 * 283 / (273 + USUAL_C)
            bent *= 1.02 / (60 * math.tan((up + 10.3 / (up + 5.11)) * rad))
        zenith[i], apparent[i] = 90 - up, 90 - up - bent
        azimuth[i] = (math.atan2(sin_h, cos_h * sin_lat - math.tan(dec) * cos_lat) / rad + 180) % 360
    return zenith, apparent, azimuth


@dataclass(frozen=True, eq=False)
class YearSteps:
    """The ten-minute steps of a year with the sun up, shape (s,); the part of `DaySteps` that light needs."""

    zenith_deg: Array
    apparent_zenith_deg: Array
    azimuth_deg: Array
    extraterrestrial_w_per_m2: Array
    clear_ghi_w_per_m2: Array
    clear_dhi_w_per_m2: Array
    clear_dni_w_per_m2: Array
    step: NDArray[np.int64]  # counted from the year's first, the dark ones too
    day_of_step: NDArray[np.int64]  # counted from the year's first
    month_of_day: NDArray[np.int64]  # 1 to 12, by day

    @property
    def elevation_deg(self) -> Array:
        return 90.0 - self.apparent_zenith_deg


def _days(year: int) -> list[Date]:
    first = Date(year, 1, 1)
    return [first + timedelta(days=k) for k in range((Date(year + 1, 1, 1) - first).days)]


def sun_track(spot: Spot, year: int) -> tuple[Array, Array, Array]:
    """Zenith, apparent zenith and azimuth of every step of a year [1], shape (days x 144,) [deg].

    Parameters
    ----------
    spot : Spot
    year : int
        Its days begin at mean solar midnight.
    """
    from pvlib import atmosphere, spa
    from scipy.interpolate import CubicSpline

    days = len(_days(year))
    epoch = (Date(year, 1, 1) - Date(1970, 1, 1)).days * DAY_S
    knots = epoch + np.arange(-1, days + 2) * float(DAY_S)
    sidereal, ascension, declination = spa.solar_position(
        knots, spot.latitude_deg, spot.longitude_deg, spot.altitude_m, 1013.25, USUAL_C, DELTA_T_S, 0.5667,
        sst=True,
    )  # fmt: skip
    steps = (np.arange(days * STEPS_PER_DAY) + 0.5) * STEP_S / DAY_S - spot.longitude_deg / 360.0
    at = np.arange(-1, days + 2, dtype=float)
    slow = CubicSpline(at, np.stack([np.unwrap(ascension, period=360.0), declination], axis=1))(steps)
    turned = np.unwrap(np.mod(sidereal - SIDEREAL_DEG * at, 360.0), period=360.0)
    spun = np.interp(steps, at, turned) + SIDEREAL_DEG * steps
    return _sky_place(
        spun, np.ascontiguousarray(slow[:, 0]), np.ascontiguousarray(slow[:, 1]), spot.latitude_deg,
        spot.longitude_deg, spot.altitude_m, float(atmosphere.alt2pres(spot.altitude_m)),
    )  # fmt: skip


def year_steps(site: Site, year: int) -> YearSteps:
    """The year's steps with the sun up, and the clear sky's light in them; kept for the last few."""
    return year_at(site.spot, year)


@kept_by_arguments(4)
def year_at(spot: Spot, year: int) -> YearSteps:
    """As `year_steps`, of a spot."""
    import pandas as pd
    from pvlib import atmosphere, clearsky, irradiance

    dates = _days(year)
    zenith, apparent, azimuth = sun_track(spot, year)
    up = np.flatnonzero(apparent < 90)
    day_of_step = up // STEPS_PER_DAY
    stamps = pd.DatetimeIndex(pd.to_datetime(dates))
    extra = irradiance.get_extra_radiation(stamps).to_numpy()[day_of_step]
    turbidity: Array | float
    if spot.linke_turbidity is None:
        monthly = pd.DatetimeIndex([Date(year, month, 15) for month in range(1, 13)], tz="UTC")
        found = clearsky.lookup_linke_turbidity(monthly, spot.latitude_deg, spot.longitude_deg).to_numpy()
        middles = np.array([(Date(year, m, 15) - dates[0]).days for m in range(1, 13)], dtype=float)
        turbidity = np.interp(np.arange(len(dates)), middles, found, period=len(dates))[day_of_step]
    else:
        turbidity = spot.linke_turbidity
    airmass = atmosphere.get_absolute_airmass(
        atmosphere.get_relative_airmass(apparent[up]), atmosphere.alt2pres(spot.altitude_m)
    )
    with np.errstate(divide="ignore", invalid="ignore"):
        clear = clearsky.ineichen(apparent[up], airmass, turbidity, altitude=spot.altitude_m, dni_extra=extra)
    months = np.array([date.month for date in dates])
    ghi, dhi, dni = (np.maximum(np.nan_to_num(np.asarray(clear[n])), 0.0) for n in ("ghi", "dhi", "dni"))
    return YearSteps(
        zenith[up], apparent[up], azimuth[up], extra, ghi, dhi, dni, up, day_of_step, months
    )  # fmt: skip


def year_air_c(latitude_deg: float, year: int, steps: YearSteps) -> Array:
    """A usual daytime air temperature of every step [C]."""
    daily = np.array([usual_air_temperature_c(latitude_deg, date) for date in _days(year)])
    return daily[steps.day_of_step]


def year_light(
    site: Site, year: int, sky: Sky, shade: Shade = Shade.USUAL
) -> tuple[tuple[float, Light], ...]:
    """The light of a year under one sky word: its steady states and their shares of time, shape (1, s)."""
    return _year_light(site.spot, year, sky, shade)


@kept_by_arguments(6)
def _year_light(spot: Spot, year: int, sky: Sky, shade: Shade) -> tuple[tuple[float, Light], ...]:
    steps = year_at(spot, year)
    air = year_air_c(spot.latitude_deg, year, steps)
    bright = BRIGHT_SHARE[shade]
    broken = [(bright, BROKEN_BRIGHT), (1 - bright, BROKEN_DULL)]
    states = broken if sky is Sky.BROKEN else [(1.0, steady_index(sky, shade)[0])]
    made = []
    for share, index in states:
        ghi = index * steps.clear_ghi_w_per_m2[None, :]
        made.append((share, Light(steps, ghi, *split(steps, ghi), 0, air)))
    return tuple(made)
