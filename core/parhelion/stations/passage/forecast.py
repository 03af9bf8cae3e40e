"""A forecast laid on a passage: sky and wind of its day, and from which hours others."""

from __future__ import annotations

from datetime import time as Time
from datetime import timedelta

from parhelion.design import BoatDesign, Sky
from parhelion.design.passage import MOST_DAYS, MOST_SKIES, MOST_WINDS, SkyFrom, WindFrom
from parhelion.errors import ParhelionError, Problem
from parhelion.quantities import Frozen, Sentence, sentence, words
from parhelion.stations.passage.voyage import voyage_of
from parhelion.stations.passage.words import no_passage
from parhelion.sun.forecast import Forecast, ForecastDay, ForecastHour


class ForecastTaken(Frozen):
    """What a forecast makes of the entries of sky, wind and waves."""

    sky: Sky
    wind_mps: float | None  # None where it says nothing of wind: the day's stays
    wind_from_deg: float | None
    wave_height_m: float | None  # the same of waves
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
    """Sky, wind and waves of the passage's day, and of its later ones where it goes on over them.

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
    voyage = voyage_of(design)
    if voyage is None or design.passage is None:
        raise no_passage()
    date = design.plan.date
    known = {day.date: day for day in forecast.days}
    if date not in known:
        raise _no_day(forecast, date.isoformat())
    first, leaves = known[date], design.passage.leaves_at
    hours = _in_order(first)
    setting_out = [one.sky for one in hours if one.sky is not None and one.from_clock <= leaves]
    sky = setting_out[-1] if setting_out else first.sky
    plan = voyage.plan
    days = min(int(plan.arrives_h // 24) + 1, MOST_DAYS) if plan.arrives else voyage.ahead.days
    later = [known.get(date + timedelta(days=number)) for number in range(days)]
    skies = _skies(later, leaves, sky)
    winds = _winds(later)
    told = "{source}; the last sky and wind hold from there on"
    if None in later:
        told += ", of the passage's later days it knows nothing"
    if len(skies) > MOST_SKIES or len(winds) > MOST_WINDS:
        told += ", some changes are left out"
    return ForecastTaken(
        sky=sky,
        wind_mps=first.wind_mps,
        wind_from_deg=first.wind_from_deg,
        wave_height_m=first.waves_m,
        skies=skies[:MOST_SKIES],
        winds=winds[:MOST_WINDS],
        told=sentence(told, source=words(forecast.source)),
    )


def _in_order(day: ForecastDay) -> list[ForecastHour]:
    return sorted(day.hours, key=lambda one: one.from_clock)


def _parts(number: int, day: ForecastDay) -> list[ForecastHour]:
    """What a day says from which hour on: a later one's own word from midnight, before that of its hours."""
    whole = ForecastHour(
        from_clock=Time(), sky=day.sky, wind_mps=day.wind_mps, wind_from_deg=day.wind_from_deg,
        waves_m=day.waves_m,
    )  # fmt: skip
    hours = _in_order(day)
    return hours if number == 1 or (hours and hours[0].from_clock == Time()) else [whole, *hours]


def _skies(days: list[ForecastDay | None], leaves: Time, first: Sky) -> list[SkyFrom]:
    """Each change of the sky after she has left."""
    found: list[SkyFrom] = []
    for number, day in enumerate(days, 1):
        for one in [] if day is None else _parts(number, day):
            before = found[-1].sky if found else first
            gone = number == 1 and one.from_clock <= leaves
            if one.sky is not None and one.sky is not before and not gone:
                name = f"sky-{len(found) + 1}"
                found.append(SkyFrom(id=name, day=number, from_clock=one.from_clock, sky=one.sky))
    return found


def _winds(days: list[ForecastDay | None]) -> list[WindFrom]:
    """Each hour's wind whose strength and direction are both said, where something is another than before."""
    found: list[WindFrom] = []
    before: tuple[object, ...] = ()
    for number, day in enumerate(days, 1):
        for one in [] if day is None else _parts(number, day):
            if one.wind_mps is None or one.wind_from_deg is None:
                continue
            same = one.waves_m is None or before[2:] == (one.waves_m,)
            if before[:2] == (one.wind_mps, one.wind_from_deg) and same:
                continue
            before = (one.wind_mps, one.wind_from_deg, one.waves_m)
            found.append(
                WindFrom(
                    id=f"wind-{len(found) + 1}", day=number, from_clock=one.from_clock, wind_mps=one.wind_mps,
                    wind_from_deg=one.wind_from_deg, waves_m=one.waves_m,
                )
            )  # fmt: skip
    return found
