"""The climate of a place as a year: what every month's days bring, and what that rests on."""

from __future__ import annotations

import numpy as np

from parhelion.computing.kept import kept_by_arguments
from parhelion.design import BoatDesign, Site
from parhelion.quantities import Frozen, Sentence, sentence, words
from parhelion.sun.daysteps import day_steps
from parhelion.sun.generated import (
    DAYS,
    LEAST,
    MOST,
    MOST_OF_CLEAR,
    daily_wh_per_m2,
    days_of_clearness,
    mean_clearness,
    middle_day,
    outside_wh_per_m2,
    ranks_of_days,
)
from parhelion.sun.koppen import usual_word

POOR, GOOD = 0.1, 0.9
SUNNY_FROM, GREY_TO = 0.85, 0.5  # clear-sky index of a whole day


class ClimateMonth(Frozen):
    """Full-sun hours of a month's days, and how many are of which kind."""

    month: int
    sun_h: float  # mean
    asked_h: float  # the same as the climate says; more or less than `sun_h` where no such month can be
    poor_h: float  # 1 day in 10 has less
    good_h: float  # 1 day in 10 has more
    clear_h: float  # of a clear day
    sunny_frac: float
    mixed_frac: float
    grey_frac: float


class ClimateYear(Frozen):
    """Twelve months, and what they rest on."""

    months: list[ClimateMonth]
    rests_on: Sentence


def climate_told(site: Site) -> Sentence:
    """What the climate of a place rests on."""
    climate = site.climate
    if climate.known_by == "word":
        named = climate.word or usual_word(site.latitude_deg, site.longitude_deg)
        text = "Climate by a word: {w}" + ("" if climate.word else ", usual for the place") + "."
        return sentence(text, w=words(named.value.replace("_", " ")))
    told = (
        "full-sun hours by month"
        if climate.known_by == "sun_hours"
        else "sunny, mixed and grey days by month"
    )
    return sentence(
        "Climate by {w}{s}.", w=words(told), s=words(f", {climate.source}" if climate.source else "")
    )


def _month(site: Site, year: int, month: int) -> ClimateMonth:
    day = day_steps(site, middle_day(year, month))
    clear, outside = daily_wh_per_m2(day, day.clear_ghi_w_per_m2), outside_wh_per_m2(day)
    if clear <= 0 or outside <= 0:
        return ClimateMonth(
            month=month,
            sun_h=0,
            asked_h=0,
            poor_h=0,
            good_h=0,
            clear_h=0,
            sunny_frac=0,
            mixed_frac=0,
            grey_frac=1,
        )
    asked = mean_clearness(site.spot, site.climate, year, month)
    mean = float(np.clip(asked, LEAST, min(MOST, MOST_OF_CLEAR * clear / outside)))
    daily = days_of_clearness(mean, ranks_of_days(month, DAYS), clear / outside) * outside
    index = daily / clear
    sunny, grey = float((index >= SUNNY_FROM).mean()), float((index < GREY_TO).mean())
    poor, good = (float(np.quantile(daily, share)) / 1000.0 for share in (POOR, GOOD))
    return ClimateMonth(
        month=month, sun_h=float(daily.mean()) / 1000.0,
        asked_h=asked * outside / 1000.0, poor_h=poor, good_h=good, clear_h=clear / 1000.0,
        sunny_frac=sunny, mixed_frac=1 - sunny - grey, grey_frac=grey,
    )  # fmt: skip


@kept_by_arguments(12)
def climate_year(site: Site, year: int) -> ClimateYear:
    """The days that a place has, month by month.

    Parameters
    ----------
    site : Site
    year : int
    """
    return ClimateYear(
        months=[_month(site, year, month) for month in range(1, 13)], rests_on=climate_told(site)
    )


def climate_picture(design: BoatDesign) -> ClimateYear:
    """The days that the boat's place has in the plan's year."""
    return climate_year(design.site, design.plan.date.year)
