"""The days that a wish is asked of: drawn once for all boats that are held against it.

References
----------
[1] Days of each month as the place has them: `sun.generated`. All boats meet the same days.
[2] Half-hour steps: light and loads the mean of three of ten minutes, the sun in their middle; a day's energy
    changes by a tenth of a percent, by .7 where a low winter sun passes between spars.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import date as Date
from datetime import datetime, timedelta
from functools import cache

import numpy as np
from numpy.typing import NDArray

from parhelion.computing.kept import kept_by_arguments
from parhelion.design import BoatDesign, Climate, Site, Spot, Use
from parhelion.design.wish import Ask, AskKind, Filled, Weekday, Wish
from parhelion.sun.daysteps import DaySteps
from parhelion.sun.generated import middle_day, month_of
from parhelion.sun.skies import places_between

Array = NDArray[np.float64]

WEEKS, LEAST_WEEKS, MOST_WEEKS = 80, 7, 40  # counted: over all months, and of each
WARM_UP = 2  # weeks before, from full banks, that are not counted
THREE = 3  # ten-minute steps in one of a wish [2]
DAY_H, DAYS_A_YEAR = 24.0, 365


@dataclass(frozen=True, eq=False)
class MonthDays:
    """A month's days in a row, shapes (d, 48)."""

    month: int
    day: DaySteps
    below: NDArray[np.int64]
    share: Array
    warm: int  # days at the start that are not counted

    @property
    def step_h(self) -> Array:
        steps = self.below.shape[1]
        return np.full(steps, DAY_H / steps)

    def first(self, weeks: int) -> MonthDays:
        """Its first weeks alone."""
        days = self.warm + 7 * weeks
        return replace(self, below=self.below[:days], share=self.share[:days])


def coarse(watts: Array, axis: int) -> Array:
    """Ten-minute watts as those of half an hour [2]."""
    shape = list(watts.shape)
    shape[axis : axis + 1] = [shape[axis] // THREE, THREE]
    return np.ascontiguousarray(watts.reshape(shape).mean(axis=axis + 1))


def weeks_of(months: int) -> int:
    """Weeks of each month that are counted."""
    return int(min(max(round(WEEKS / months), LEAST_WEEKS), MOST_WEEKS))


def month_days(design: BoatDesign, month: int, weeks: int) -> MonthDays:
    """A month's days at a design's place, of the year of its plan."""
    site = design.site
    return _month_days(site.spot, site.climate, design.plan.date.year, month, weeks)


@kept_by_arguments(36)
def _month_days(spot: Spot, climate: Climate, year: int, month: int, weeks: int) -> MonthDays:
    site = Site(
        latitude_deg=spot.latitude_deg, longitude_deg=spot.longitude_deg, altitude_m=spot.altitude_m,
        linke_turbidity=spot.linke_turbidity, climate=climate,
    )  # fmt: skip
    found = month_of(site, year, month, 7 * (weeks + WARM_UP))
    below, share = places_between(coarse(found.index, 1))
    return MonthDays(month, found.day, below, share, 7 * WARM_UP)


def months_of(wish: Wish) -> tuple[int, ...]:
    """The months in which anything is asked, in their order."""
    return tuple(sorted({month for ask in wish.asks for month in ask.months}))


def date_in(design: BoatDesign, month: int) -> BoatDesign:
    """The design on the day that stands for a month, its air usual."""
    plan = design.plan.model_copy(
        update={
            "date": middle_day(design.plan.date.year, month), "air_temperature_c": None,
            "water_temperature_c": None, "stays": (), "swing_deg": 0.0,
        }
    )  # fmt: skip
    return design.changed(plan=plan)


def asked_on(ask: Ask, month: int, days: int) -> NDArray[np.bool_]:
    """On which days of a month's row an ask stands, shape (d,)."""
    if month not in ask.months or ask.kind is AskKind.STAY:
        return np.zeros(days, dtype=bool)
    if ask.kind is AskKind.HOUSE:
        return np.ones(days, dtype=bool)
    wanted = [list(Weekday).index(day) for day in ask.weekdays]
    return np.isin(np.arange(days) % 7, wanted)


def hours_asked(ask: Ask, scale: float, slower: float) -> float:
    """How long an ask motors when it is stretched by `scale`, at the share `slower` of its bend [h]."""
    if ask.kind is AskKind.TRIP:
        return scale * ask.distance_m / speed_of(ask, slower) / 3600.0
    return scale * ask.hours


def speed_of(ask: Ask, slower: float) -> float:
    """Its speed: 0 of its bend is as wished, 1 is the slowest it may be [m/s]."""
    least = ask.slowest_mps or ask.speed_mps
    return ask.speed_mps + (least - ask.speed_mps) * slower


@cache
def _edges(steps: int) -> Array:
    """Hours at which the steps of a day begin, and the last ends."""
    return np.linspace(0.0, DAY_H, steps + 1)


def motoring(ask: Ask, day: DaySteps, hours: float) -> Array | None:
    """Its share of every half hour of a day, shape (48,); None where the day is too short for it.

    From its clock, else about the sun's noon; into the night from sunset. The day begins at sunrise.
    """
    whole = DAY_H
    ends = ends_at(ask, day, hours)
    starts = ends - hours
    if hours > whole or starts < 0 or ends > whole + 1e-9:
        return None
    edges = _edges(day.steps // THREE)
    width = edges[1]
    overlap = np.minimum(edges[1:], starts + hours) - np.maximum(edges[:-1], starts)
    return np.asarray(np.clip(overlap, 0.0, None) / width)


def _from(ask: Ask, day: DaySteps, hours: float) -> float:
    """Hours after the day's start at which it begins."""
    begins = day.starts_at
    if ask.from_clock is not None:
        at = datetime.combine(begins.date(), ask.from_clock, tzinfo=begins.tzinfo)
        if at < begins:
            at += timedelta(days=1)
        return (at - begins).total_seconds() / 3600
    if ask.kind is AskKind.NIGHT:
        sunset = day.sunset_at or day.solar_noon_at
        return (sunset - begins).total_seconds() / 3600
    return (day.solar_noon_at - begins).total_seconds() / 3600 - hours / 2


def ends_at(ask: Ask, day: DaySteps, hours: float) -> float:
    """Hours after the day's start at which it ends."""
    starts = _from(ask, day, hours)
    if ask.kind is not AskKind.NIGHT and ask.from_clock is None:
        starts = min(max(starts, 0.0), DAY_H - hours)
    return starts + hours


def longest(ask: Ask, day: DaySteps) -> float:
    """The most hours that a day has for it [h]."""
    if ask.kind is AskKind.NIGHT or ask.from_clock is not None:
        return max(DAY_H - _from(ask, day, 0.0), 0.0)
    return DAY_H


def days_left(ask: Ask, by: Date) -> tuple[int, int]:
    """Days of the first season on or after a date that an ask stands on, and of that whole season.

    The season is that of the date's year; one over the turn of the year begins in it.
    """
    wanted = [list(Weekday).index(day) for day in ask.weekdays] or list(range(7))
    first = Date(by.year, ask.months[0], 1)
    every = [first + timedelta(days=k) for k in range(366)]
    season = [day for day in every if day.month in ask.months and day.weekday() in wanted]
    season = [day for day in season if (day - first).days < DAYS_A_YEAR]
    return sum(day >= by for day in season), len(season)


def ashore(design: BoatDesign, wish: Wish) -> bool:
    """Whether the shore fills her between outings: said, or as boats charged at home are."""
    if any(ask.kind is AskKind.HOUSE for ask in wish.asks):
        return False
    if wish.between is Filled.AS_USED:
        return design.use is Use.HOME_CHARGED
    return wish.between is Filled.SHORE
