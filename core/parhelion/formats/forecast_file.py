"""A forecast as open JSON: a list of days, each with its date and its sky as a word or in oktas of cloud.

{"source": "…", "days": [{"date": "2027-06-13", "sky": "broken", "wind_mps": 4.2, "wind_from_deg": 250,
                          "hours": [{"from_clock": "14:00", "sky": "overcast",
                                     "wind_mps": 6, "wind_from_deg": 270, "waves_m": 0.3}]},
                         {"date": "2027-06-14", "cloud_oktas": 7}]}

Of a day's hours each holds from its own on; a passage takes them.
"""

from __future__ import annotations

import json
from datetime import date as Date
from datetime import time as Time
from itertools import pairwise
from typing import Any

from parhelion.design import Sky
from parhelion.errors import Problem, UnreadableFile
from parhelion.sun.forecast import LONGEST_DAYS, Forecast, ForecastDay, ForecastHour, word_for

MOST_HOURS = 48  # of a day
MOST_WIND_MPS, MOST_WAVES_M = 40.0, 4.0  # as a passage takes them

WANTED = 'JSON with "days": each a "date" as 2027-06-13 and a "sky" (' + ", ".join(Sky) + ') or "cloud_oktas"'


def _refuse(message: str, field: str, value: Any = None, accepted: str = WANTED) -> UnreadableFile:
    shown = value if isinstance(value, str | int | float) else None
    return UnreadableFile(
        [Problem(code="bad_forecast", message=message, field=field, value=shown, accepted=accepted)]
    )


def _number(day: dict[str, Any], name: str, least: float, most: float, field: str) -> float | None:
    value = day.get(name)
    if value is None:
        return None
    if isinstance(value, bool) or not isinstance(value, int | float) or not least <= value <= most:
        raise _refuse(
            f"{name} is {value!r}.", f"{field}/{name}", value, f"a number from {least:g} to {most:g}"
        )
    return float(value)


def _day(day: Any, number: int) -> ForecastDay:
    field = f"/days/{number}"
    if not isinstance(day, dict):
        raise _refuse("This day is not an object.", field)
    try:
        date = Date.fromisoformat(str(day.get("date")))
    except ValueError as error:
        raise _refuse("This date is none.", f"{field}/date", day.get("date"), "as 2027-06-13") from error
    sky = _sky(day, field)
    if sky is None:
        raise _refuse("This day has no sky.", field)
    hours = day.get("hours") or []
    if not isinstance(hours, list) or len(hours) > MOST_HOURS:
        raise _refuse("These hours are no list of a day's.", f"{field}/hours", None, f"{MOST_HOURS} or fewer")
    return ForecastDay(
        date=date,
        sky=sky,
        sun_hours=_number(day, "sun_hours", 0, 24, field),
        **_weather(day, field),
        air_c=_number(day, "air_c", -60, 60, field),
        hours=[_hour(one, f"{field}/hours/{k}") for k, one in enumerate(hours)],
    )


def _sky(said: dict[str, Any], field: str) -> Sky | None:
    """By its word, else by its cloud; None where neither is said."""
    word, oktas = said.get("sky"), _number(said, "cloud_oktas", 0, 8, field)
    if word is None:
        return None if oktas is None else word_for(1 - 0.75 * (oktas / 8) ** 3.4)
    if word not in list(Sky):
        raise _refuse("This sky is not known.", f"{field}/sky", word, ", ".join(Sky))
    return Sky(word)


def _weather(said: dict[str, Any], field: str) -> dict[str, float | None]:
    return {
        "wind_mps": _number(said, "wind_mps", 0, MOST_WIND_MPS, field),
        "wind_from_deg": _number(said, "wind_from_deg", 0, 360, field),
        "waves_m": _number(said, "waves_m", 0, MOST_WAVES_M, field),
    }


def _hour(hour: Any, field: str) -> ForecastHour:
    if not isinstance(hour, dict):
        raise _refuse(
            "This hour is not an object.", field, None, '"from_clock" as 14:00, and what holds from then on'
        )
    try:
        clock = Time.fromisoformat(str(hour.get("from_clock")))
    except ValueError as error:
        raise _refuse(
            "This hour is none.", f"{field}/from_clock", hour.get("from_clock"), "as 14:00"
        ) from error
    return ForecastHour(from_clock=clock.replace(tzinfo=None), sky=_sky(hour, field), **_weather(hour, field))


def read_forecast(text: str) -> Forecast:
    """The forecast of a text.

    Parameters
    ----------
    text : str

    Raises
    ------
    UnreadableFile
        With the day and the entry that is wrong.
    """
    try:
        document = json.loads(text)
    except json.JSONDecodeError as error:
        raise _refuse(f"This is no JSON: line {error.lineno}, {error.msg.lower()}.", "") from error
    except (RecursionError, ValueError):
        raise _refuse("This is nested deeper, or holds longer numbers, than any forecast.", "") from None
    days = document.get("days") if isinstance(document, dict) else None
    if not isinstance(days, list) or not days:
        raise _refuse("There are no days in it.", "/days")
    if len(days) > LONGEST_DAYS:
        raise _refuse(
            f"{len(days)} days are more than are read.", "/days", len(days), f"{LONGEST_DAYS} or fewer"
        )
    source = document.get("source")
    made = [_day(day, number) for number, day in enumerate(days)]
    for number, (one, other) in enumerate(pairwise(made), start=1):
        if (other.date - one.date).days != 1:
            at = f"/days/{number}/date"
            raise _refuse(
                "The days do not follow each other.", at, other.date.isoformat(), "one day after the other"
            )
    return Forecast(source=str(source) if source else "a forecast file", days=made)
