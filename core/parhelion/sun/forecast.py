"""A simulated forecast, in the place of a weather service: days as the climate of the place has them.

The same place and date give the same forecast. It foresees nothing.
"""

from __future__ import annotations

from datetime import date as Date
from datetime import time as Time
from datetime import timedelta

import numpy as np
from numpy.typing import NDArray

from parhelion.design import Site, Sky
from parhelion.quantities import Frozen
from parhelion.sun.climate import usual_air_temperature_c
from parhelion.sun.generated import DAYS, WORDS, daily_wh_per_m2, month_of

Array = NDArray[np.float64]

LONGEST_DAYS = 16
USUAL_WIND_MPS, WIND_SHAPE = 4.5, 2.0  # mean and Weibull shape over the days
# From what hour, share of the day's wind, degrees round with the sun: as a fair day's breeze does, typical
PARTS = ((5, 0.7, -20), (10, 1.0, 0), (14, 1.25, 20), (18, 0.8, 30))
GREY_WIND = 1.5  # the greyest day's wind over the brightest one's, typical


class ForecastHour(Frozen):
    """What holds from an hour of a day on; what is not said stays as it was."""

    from_clock: Time
    sky: Sky | None = None
    wind_mps: float | None = None
    wind_from_deg: float | None = None  # true
    waves_m: float | None = None  # significant height


class ForecastDay(Frozen):
    """One day of a forecast."""

    date: Date
    sky: Sky
    sun_hours: float | None = None  # full-sun hours
    wind_mps: float | None = None  # the mean of the day
    wind_from_deg: float | None = None  # true
    waves_m: float | None = None  # significant height
    air_c: float | None = None
    hours: list[ForecastHour] = []


class Forecast(Frozen):
    """Days one after the other, and who says so."""

    source: str
    days: list[ForecastDay]


def word_for(index: float) -> Sky:
    """The sky word of a day's clear-sky index."""
    return next(word for least, word in WORDS if index >= least)


def _hours(site: Site, lit_index: Array, wind_mps: float, from_deg: float) -> list[ForecastHour]:
    """A day's parts: the sky of each; a wind strongest in the afternoon that goes round with the sun."""
    round_with = 1 if site.latitude_deg >= 0 else -1
    return [
        ForecastHour(
            from_clock=Time(hour),
            sky=word_for(float(np.mean(part))) if part.size else None,
            wind_mps=round(wind_mps * strength, 1),
            wind_from_deg=(from_deg + round_with * turned) % 360,
        )
        for (hour, strength, turned), part in zip(PARTS, np.array_split(lit_index, len(PARTS)), strict=True)
    ]


def simulated_forecast(site: Site, start: Date, days: int) -> Forecast:
    """Days from a date on as the climate has them.

    Parameters
    ----------
    site : Site
    start : date
    days : int
        At most 16.
    """
    found = []
    for number in range(min(days, LONGEST_DAYS)):
        date = start + timedelta(days=number)
        month = month_of(site, date.year, date.month)
        clear = daily_wh_per_m2(month.day, month.day.clear_ghi_w_per_m2)
        row = (37 * date.year + date.day) % DAYS  # days of a month follow each other as they were generated
        sun = daily_wh_per_m2(month.day, month.index[row] * month.day.clear_ghi_w_per_m2)
        index = sun / clear if clear > 0 else 0.0
        draw, turn = np.random.Generator(np.random.Philox(key=date.toordinal())).random(2)
        wind_from = 10.0 * round(36 * float(turn))
        grey = 1 + (GREY_WIND - 1) * (1 - min(index, 1.0))
        wind = float(USUAL_WIND_MPS * grey * (-np.log(1 - draw)) ** (1 / WIND_SHAPE))
        found.append(
            ForecastDay(
                date=date,
                sky=word_for(index),
                sun_hours=round(sun / 1000.0, 2),
                wind_mps=round(wind, 1),
                wind_from_deg=wind_from % 360,
                air_c=round(usual_air_temperature_c(site.latitude_deg, date), 1),
                hours=_hours(site, month.index[row][month.day.clear_ghi_w_per_m2 > 0], wind, wind_from),
            )
        )
    return Forecast(source="simulated from the climate of the place: it foresees nothing", days=found)
