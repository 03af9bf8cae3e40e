"""The light of a whole year at ten-minute steps."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date as Date
from datetime import timedelta

import numpy as np
from numpy.typing import NDArray

from parhelion.computing.kept import kept_by_arguments
from parhelion.constants import STEP_S, STEPS_PER_DAY
from parhelion.design import Shade, Site, Sky, Spot
from parhelion.sun.climate import usual_air_temperature_c
from parhelion.sun.light import Light, split
from parhelion.sun.many import ManyDays
from parhelion.sun.place import DAY_S, EPOCH, sun_place
from parhelion.sun.sky import BRIGHT_SHARE, BROKEN_BRIGHT, BROKEN_DULL, steady_index

Array = NDArray[np.float64]


@dataclass(frozen=True, eq=False)
class YearSteps(ManyDays):
    """The ten-minute steps of a year with the sun up, shape (s,)."""

    step: NDArray[np.int64]  # counted from the year's first, the dark ones too
    month_of_day: NDArray[np.int64]  # 1 to 12, by day


def _days(year: int) -> list[Date]:
    first = Date(year, 1, 1)
    return [first + timedelta(days=k) for k in range((Date(year + 1, 1, 1) - first).days)]


def sun_track(spot: Spot, year: int) -> tuple[Array, Array, Array]:
    """Zenith, apparent zenith and azimuth of every step of a year, shape (days x 144,) [deg].

    Parameters
    ----------
    spot : Spot
    year : int
        Its days begin at mean solar midnight.
    """
    days = len(_days(year))
    epoch_days = (Date(year, 1, 1) - EPOCH).days - spot.longitude_deg / 360.0
    middles: Array = (np.arange(days * STEPS_PER_DAY, dtype=float) + 0.5) * STEP_S
    return sun_place(spot, epoch_days * DAY_S + middles)


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
        zenith[up], apparent[up], azimuth[up], extra, ghi, dhi, dni, day_of_step, up, months
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
