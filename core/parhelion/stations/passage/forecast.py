"""A forecast laid on a passage: sky and wind of its day, and from which hours others."""

from __future__ import annotations

from datetime import time as Time

from parhelion.design import BoatDesign, Sky
from parhelion.design.passage import MOST_SKIES, MOST_WINDS, SkyFrom, WindFrom
from parhelion.errors import ParhelionError, Problem
from parhelion.quantities import Frozen, Sentence, sentence, words
from parhelion.stations.passage.words import no_passage
from parhelion.sun.forecast import Forecast, ForecastHour


class ForecastTaken(Frozen):
    """What a forecast makes of the entries of sky and wind."""

    sky: Sky
    wind_mps: float | None  # None where it says nothing of wind: the day's stays
    wind_from_deg: float | None
    skies: list[SkyFrom]
    winds: list[WindFrom]
    told: Sentence


def _no_day(forecast: Forecast, date: str) -> ParhelionError:
    known = [day.date.isoformat() for day in forecast.days]
    problem = Problem(
        code="other_days", message=f"This forecast says nothing of {date}.", field="/plan/date", value=date,
        accepted=f"a day from {known[0]} to {known[-1]}" if known else "a forecast with days",
    )  # fmt: skip
    return ParhelionError([problem])


def by_forecast(design: BoatDesign, forecast: Forecast) -> ForecastTaken:
    """Sky and wind of the passage's day.

    Parameters
    ----------
    design : BoatDesign
        With a passage.
    forecast : Forecast

    Raises
    ------
    ParhelionError
        Where there is no passage, or the forecast does not know the day.
    """
    if design.passage is None:
        raise no_passage()
    date = design.plan.date
    day = next((one for one in forecast.days if one.date == date), None)
    if day is None:
        raise _no_day(forecast, date.isoformat())
    leaves = design.passage.leaves_at
    hours = sorted(day.hours, key=lambda one: one.from_clock)
    setting_out = [one.sky for one in hours if one.sky is not None and one.from_clock <= leaves]
    sky = setting_out[-1] if setting_out else day.sky
    skies = _skies(hours, leaves, sky)
    winds = _winds(hours)
    left = len(skies) > MOST_SKIES or len(winds) > MOST_WINDS
    told = "{source}; the last sky and wind hold from there on" + (
        ", some changes are left out" if left else ""
    )
    return ForecastTaken(
        sky=sky,
        wind_mps=day.wind_mps,
        wind_from_deg=day.wind_from_deg,
        skies=skies[:MOST_SKIES],
        winds=winds[:MOST_WINDS],
        told=sentence(told, source=words(forecast.source)),
    )


def _skies(hours: list[ForecastHour], leaves: Time, first: Sky) -> list[SkyFrom]:
    """Each change of the sky after she has left."""
    found: list[SkyFrom] = []
    for one in hours:
        before = found[-1].sky if found else first
        if one.sky is not None and one.sky is not before and one.from_clock > leaves:
            found.append(SkyFrom(id=f"sky-{len(found) + 1}", from_clock=one.from_clock, sky=one.sky))
    return found


def _winds(hours: list[ForecastHour]) -> list[WindFrom]:
    """Each hour's wind whose strength and direction are both said, where it is another than before."""
    found: list[WindFrom] = []
    for one in hours:
        if one.wind_mps is None or one.wind_from_deg is None:
            continue
        if found and (found[-1].wind_mps, found[-1].wind_from_deg) == (one.wind_mps, one.wind_from_deg):
            continue
        found.append(
            WindFrom(
                id=f"wind-{len(found) + 1}", from_clock=one.from_clock, wind_mps=one.wind_mps,
                wind_from_deg=one.wind_from_deg,
            )
        )  # fmt: skip
    return found
