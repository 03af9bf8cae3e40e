"""Days as a place has them: a month's mean clearness, its spread of days, their order, and each by itself.

References
----------
[1] K.G.T. Hollands and R.G. Huget, "A probability density function for the clearness index, with
    applications", Solar Energy 30 (1983) 195-209: f(K) = C (1 - K/Kmax) exp(gamma K), Kmax =
    .6313 + .267 Kmean - 11.9 (Kmean - .75)^8; C and gamma solved here for the mean.
[2] V.A. Graham, K.G.T. Hollands and T.E. Unny, "A time series model for Kt with application to global
    synthetic weather generation", Solar Energy 40 (1988) 83-92: day after day a normal of lag-1 .29.
[3] Mean clearness by climate word and month, northern: typical; docs/methods/season.md.
[4] Clear-sky index of sunny, mixed and grey days: typical.
"""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date as Date

import numpy as np
from numpy.typing import NDArray
from scipy.optimize import brentq
from scipy.signal import lfilter

from parhelion.computing.kept import kept_by_arguments
from parhelion.design import Climate, ClimateWord, Site, Sky, Spot
from parhelion.sun.daysteps import DaySteps, day_at
from parhelion.sun.koppen import usual_word
from parhelion.sun.sky import clear_sky_index

Array = NDArray[np.float64]

DAYS = 1000  # of each month
STEEPEST, NEAR_END = 200.0, 1e-6  # of the distribution's slope; of the clearness that it reaches
LAG = 0.29  # [2]
MIDDLE_DAYS = (17, 16, 16, 15, 15, 11, 17, 16, 15, 15, 14, 10)  # whose sun is the month's mean
CLEARNESS = {  # [3]
    ClimateWord.MARITIME: (0.32, 0.36, 0.40, 0.45, 0.48, 0.47, 0.46, 0.46, 0.43, 0.38, 0.33, 0.29),
    ClimateWord.INLAND: (0.40, 0.44, 0.47, 0.49, 0.51, 0.53, 0.54, 0.53, 0.50, 0.45, 0.38, 0.36),
    ClimateWord.MEDITERRANEAN: (0.46, 0.49, 0.53, 0.56, 0.60, 0.65, 0.68, 0.66, 0.61, 0.54, 0.47, 0.44),
    ClimateWord.TRADE_WIND: (0.55, 0.57, 0.59, 0.59, 0.58, 0.57, 0.57, 0.57, 0.55, 0.54, 0.53, 0.53),
    ClimateWord.MONSOON: (0.62, 0.63, 0.62, 0.60, 0.55, 0.43, 0.38, 0.39, 0.46, 0.54, 0.59, 0.61),
    ClimateWord.HIGH_LATITUDE: (0.30, 0.38, 0.45, 0.49, 0.48, 0.47, 0.45, 0.43, 0.40, 0.34, 0.28, 0.22),
}
SUNNY, MIXED, GREY = 0.97, 0.65, 0.28  # [4]
LEAST, MOST = 0.05, 0.78  # mean clearness that the distribution is made for
MOST_OF_CLEAR = 0.98  # of a month of clear days
WORDS = ((0.92, Sky.CLEAR), (0.78, Sky.HAZY), (0.42, Sky.BROKEN), (0.20, Sky.OVERCAST), (-1.0, Sky.RAIN))
BRIGHTEST = 1.12  # of a clear day of usual haze: the clearest days of a year pass it, typical
CAPPINGS = 12
POINTS = 800
PATTERNS = 201  # of the wander within a day, for each sky word


def middle_day(year: int, month: int) -> Date:
    """The day whose sun stands for a month's, 1 to 12."""
    return Date(year, month, MIDDLE_DAYS[month - 1])


@dataclass(frozen=True)
class Month:
    """A month's days at a place: shapes (144,) and (days, 144)."""

    day: DaySteps
    clearness: float  # mean over the days, of the light outside the air
    sun_h: float  # full-sun hours of its mean day
    asked_h: float  # the same as the climate says; more than `sun_h` where no such month can be
    index: Array  # clear-sky index of each day and step


def daily_wh_per_m2(day: DaySteps, watts: Array) -> float:
    return float(day.timeline.over(watts))


def outside_wh_per_m2(day: DaySteps) -> float:
    """Light on a level plane outside the air, over the day [Wh/m2]."""
    height = np.maximum(np.cos(np.radians(day.zenith_deg)), 0.0)
    return daily_wh_per_m2(day, day.extraterrestrial_w_per_m2 * height)


def mean_clearness(spot: Spot, climate: Climate, year: int, month: int) -> float:
    """What is known of a month, as the mean clearness of its days [-]."""
    day = day_at(spot, middle_day(year, month))
    outside = outside_wh_per_m2(day)
    if outside <= 0:
        return 0.0
    if climate.known_by == "sun_hours":
        return 1000.0 * climate.sun_hours[month - 1] / outside
    if climate.known_by == "day_counts":
        days = climate.day_counts[month - 1]
        index = (SUNNY * days.sunny + MIXED * days.mixed + GREY * days.grey) / (
            days.sunny + days.mixed + days.grey
        )
        return index * daily_wh_per_m2(day, day.clear_ghi_w_per_m2) / outside
    north = spot.latitude_deg >= 0
    word = climate.word or usual_word(spot.latitude_deg, spot.longitude_deg)
    return CLEARNESS[word][(month - 1 + (0 if north else 6)) % 12]


def spread_of_days(mean: float, ranks: Array) -> Array:
    """Daily clearness at ranks from 0 to 1 about a monthly mean [1], of the ranks' shape."""
    most = 0.6313 + 0.267 * mean - 11.9 * (mean - 0.75) ** 8
    k = np.linspace(0.0, most, POINTS)

    def weights(gamma: float) -> Array:
        made = (1 - k / most) * np.exp(gamma * (k - most))
        return np.asarray(made / made.sum())

    reached = [float(weights(g) @ k) for g in (-STEEPEST, STEEPEST)]  # beyond them no month can be
    mean = min(max(mean, reached[0] + NEAR_END), reached[1] - NEAR_END)
    gamma = brentq(lambda g: float(weights(g) @ k) - mean, -STEEPEST, STEEPEST)
    made = weights(float(gamma))
    up_to = np.cumsum(made) - made / 2
    return np.asarray(np.interp(ranks, up_to, k))


def days_of_clearness(mean: float, ranks: Array, clear: float) -> Array:
    """Daily clearness at ranks about a monthly mean, none far over a clear day's; the mean is kept.

    The distribution [1] knows no sun's height: in a low winter sun its best days would pass any clear sky.
    """
    daily, most = spread_of_days(mean, ranks), BRIGHTEST * clear
    for _ in range(CAPPINGS):
        over = daily >= most
        daily = np.where(over, most, daily)
        rest = daily[~over]
        if not over.any() or not rest.size:
            break
        wanted = mean * len(daily) - most * over.sum()
        daily[~over] = rest * max(wanted / rest.sum(), 0.0)
    return daily


def ranks_of_days(month: int, days: int) -> Array:
    """Ranks from 0 to 1 of the days in their order [2], evenly spread; the same for the same month."""
    noise = np.random.Generator(np.random.Philox(key=31_000 + month)).standard_normal(days)
    order = np.argsort(np.argsort(lfilter([1.0], [1.0, -LAG], noise)))
    return np.asarray((order + 0.5) / days)


def month_of(site: Site, year: int, month: int, days: int = DAYS) -> Month:
    """Many days of a month as its climate has them, in an order in which they follow each other.

    Parameters
    ----------
    site : Site
    year, month : int
        Month from 1 to 12.
    days : int

    Returns
    -------
    Month
        The mean of the days is that of the climate, as far as a clear sky allows it.
    """
    return _month(site.spot, site.climate, year, month, days)


@kept_by_arguments(36)
def _month(spot: Spot, climate: Climate, year: int, month: int, days: int) -> Month:
    day = day_at(spot, middle_day(year, month))
    clear = day.clear_ghi_w_per_m2
    clear_wh, outside = daily_wh_per_m2(day, clear), outside_wh_per_m2(day)
    if clear_wh <= 0 or outside <= 0:
        return Month(day, 0.0, 0.0, 0.0, np.zeros((days, len(clear))))
    asked = mean_clearness(spot, climate, year, month)
    mean = float(np.clip(asked, LEAST, min(MOST, MOST_OF_CLEAR * clear_wh / outside)))
    clear_frac = clear_wh / outside
    daily = days_of_clearness(mean, ranks_of_days(month, days), clear_frac) / clear_frac
    index = np.empty((days, len(clear)))
    above = np.inf
    for least, word in WORDS:
        mine = np.flatnonzero((daily >= least) & (daily < above))
        above = least
        if len(mine) == 0:
            continue
        pattern = clear_sky_index(word, middle_day(year, month), PATTERNS)[mine % PATTERNS]
        index[mine] = pattern * (daily[mine] * clear_wh / day.timeline.over(pattern * clear))[:, None]
    whole = float(day.timeline.over(index * clear).mean())
    return Month(day, whole / outside, whole / 1000.0, asked * outside / 1000.0, index)
