"""Where the sun stands at any moment, from daily knots that all places share.

References
----------
[1] I. Reda and A. Andreas, "Solar position algorithm for solar radiation applications", Solar Energy 76
    (2004) 577-589, as implemented in pvlib: right ascension, declination and apparent sidereal time once a
    day; a cubic spline between, parallax and refraction at every moment. Within 5e-5 deg of it.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from datetime import date as Date

import numpy as np
from numba import float64, njit, types
from numpy.typing import NDArray
from scipy.interpolate import CubicSpline
from scipy.optimize import brentq

from parhelion.computing.kept import kept_by_arguments
from parhelion.computing.kernels import OPTIONS
from parhelion.design import Spot

Array = NDArray[np.float64]

DAY_S = 86_400
DELTA_T_S = 67.0  # as in pvlib
SIDEREAL_DEG = 360.98564736629  # a day
PARALLAX_RAD = math.radians(8.794 / 3600)
FLATTENING = 0.99664719
EARTH_M = 6_378_140.0
USUAL_C = 12.0  # of the air that bends the light, as in pvlib
HORIZON_DEG = -0.8333  # below it nothing is bent, and the sun has set
KNOTS_BESIDE = 3  # days before the first year and after the last
EPOCH = Date(1970, 1, 1)
FARTHEST_EVENT_H = 12.5  # a rise or set farther than this from solar noon belongs to another day
TRIED_S = 300.0  # between the moments that a rise or set is looked for


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
class Knots:
    """The sun among the stars and the earth's turn, over days from a first one on."""

    first: float  # days since the epoch
    sun: CubicSpline  # right ascension and declination [deg] by the days
    spun_deg: Array  # sidereal time less the even turn, at each day

    def at(self, seconds: Array) -> tuple[Array, Array, Array]:
        """Greenwich sidereal time, right ascension and declination [deg] at seconds since the epoch."""
        days = np.asarray(seconds, dtype=float) / DAY_S - self.first
        ascension, declination = self.sun(days).T
        spun = np.interp(days, np.arange(len(self.spun_deg)), self.spun_deg) + SIDEREAL_DEG * days
        return spun, np.ascontiguousarray(ascension), np.ascontiguousarray(declination)

    def hour_angle_deg(self, seconds: float, longitude_deg: float) -> float:
        """Of the sun, from -180 to 180 [deg]."""
        spun, ascension, _ = self.at(np.array([seconds]))
        return float((spun[0] + longitude_deg - ascension[0] + 180.0) % 360.0 - 180.0)

    def height_deg(self, seconds: Array, spot: Spot) -> Array:
        """The sun's centre over the horizon, seen from the earth's middle, without refraction [deg]."""
        spun, ascension, declination = self.at(seconds)
        hour, dec = np.radians(spun + spot.longitude_deg - ascension), np.radians(declination)
        lat = math.radians(spot.latitude_deg)
        return np.degrees(np.arcsin(math.sin(lat) * np.sin(dec) + math.cos(lat) * np.cos(dec) * np.cos(hour)))


@kept_by_arguments(4)
def _knots(first_year: int, last_year: int) -> Knots:
    from pvlib import spa

    first = (Date(first_year, 1, 1) - EPOCH).days - KNOTS_BESIDE
    last = (Date(last_year, 12, 31) - EPOCH).days + KNOTS_BESIDE
    days = np.arange(first, last + 1, dtype=float)
    sidereal, ascension, declination = spa.solar_position(
        days * DAY_S, 0.0, 0.0, 0.0, 1013.25, USUAL_C, DELTA_T_S, 0.5667, sst=True
    )
    at = days - first
    sun = CubicSpline(at, np.stack([np.unwrap(ascension, period=360.0), declination], axis=1))
    spun = np.unwrap(np.mod(sidereal - SIDEREAL_DEG * at, 360.0), period=360.0)
    return Knots(float(first), sun, spun)


def _year_of(seconds: float) -> int:
    return Date.fromordinal(EPOCH.toordinal() + int(seconds // DAY_S)).year


def sun_place(spot: Spot, seconds: Array) -> tuple[Array, Array, Array]:
    """Zenith, apparent zenith and azimuth [1], shapes as given [deg].

    Parameters
    ----------
    spot : Spot
    seconds : ndarray, shape (t,)
        Since 1970 began, universal time, rising.
    """
    from pvlib import atmosphere

    knots = _knots(_year_of(float(seconds[0])), _year_of(float(seconds[-1])))
    pressure_pa = float(atmosphere.alt2pres(spot.altitude_m))
    return _sky_place(*knots.at(seconds), spot.latitude_deg, spot.longitude_deg, spot.altitude_m, pressure_pa)


def sun_events(spot: Spot, midday_s: float) -> tuple[float, float | None, float | None]:
    """The solar noon nearest to a moment, the last rise before it and the first set after it.

    Seconds since the epoch, universal time; None where the sun does not rise or set.
    """
    year = _year_of(midday_s)
    knots = _knots(year, year)
    noon = midday_s
    for _ in range(3):
        noon -= knots.hour_angle_deg(noon, spot.longitude_deg) / SIDEREAL_DEG * DAY_S
    reach = round(FARTHEST_EVENT_H * 3600 / TRIED_S)
    tried: Array = noon + np.arange(-reach, reach + 1, dtype=float) * TRIED_S
    up = knots.height_deg(tried, spot) > HORIZON_DEG
    turns = np.flatnonzero(up[1:] != up[:-1]).tolist()

    def crossing(k: int) -> float:
        def over(at: float) -> float:
            return float(knots.height_deg(np.array([at]), spot)[0]) - HORIZON_DEG

        return float(brentq(over, tried[k], tried[k + 1], xtol=0.1))

    rises = [k for k in turns if up[k + 1] and k < reach]
    sets = [k for k in turns if up[k] and k >= reach]
    return noon, crossing(rises[-1]) if rises else None, crossing(sets[0]) if sets else None
