"""Position, speeds and wind from NMEA 0183 sentences, as a file or as they come."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import UTC, datetime
from datetime import date as Date
from datetime import time as Time
from math import isfinite

import pynmea2

from parhelion.design.logbook import Reading
from parhelion.formats.readings_table import (
    KNOTS,
    MOST_PROBLEMS,
    MOST_ROWS,
    LineTold,
    ReadReadings,
    key_of,
    refused,
)

EVERY_S = 30.0  # a burst of sentences is one reading


def read_nmea(text: str, on: Date, source: str) -> ReadReadings:
    """Position, speeds and wind of NMEA 0183 sentences, a reading a half minute.

    Raises
    ------
    UnreadableFile
        Where none of its lines is a sentence with a time before or in it.
    """
    held: dict[str, list[float]] = {}
    made: list[Reading] = []
    problems: list[LineTold] = []
    now: datetime | None = None
    began: datetime | None = None
    wrong = 0

    def close(at: datetime) -> None:
        values = {name: sum(told) / len(told) for name, told in held.items()}
        if values:
            made.append(Reading(id=key_of(source, None, at), at=at, source=source, **values))
        held.clear()

    for number, sentence in _sentences(text):
        if sentence is None:
            wrong += 1
            if len(problems) < MOST_PROBLEMS:
                problems.append(LineTold(line=number, message="This is no sentence, or its sum is wrong."))
            continue
        clock, date = getattr(sentence, "timestamp", None), getattr(sentence, "datestamp", None)
        if isinstance(clock, Time):
            day = date if isinstance(date, Date) else now.date() if now else on
            now = datetime.combine(day, clock.replace(tzinfo=None), UTC)
            if began is None:
                began = now
            elif (now - began).total_seconds() >= EVERY_S:
                close(began + (now - began) / 2)
                began = now
        for name, value in nmea_values(sentence).items():
            held.setdefault(name, []).append(value)
    if began is not None and held:
        close(now or began)
    if not made:
        raise refused(
            "No line is a sentence with a time.", "NMEA 0183 with RMC, GGA or ZDA among its sentences"
        )
    return ReadReadings(columns=[], readings=made[:MOST_ROWS], problems=problems, left=wrong)


def _sentences(text: str) -> Iterator[tuple[int, object | None]]:
    for number, line in enumerate(text.splitlines(), start=1):
        plain = line.strip()
        start = max(plain.find("$"), plain.find("!"))
        if not plain:
            continue
        try:
            yield number, pynmea2.parse(plain[start:] if start > 0 else plain, check=True)
        except (pynmea2.ParseError, ValueError, IndexError):
            yield number, None


def nmea_values(sentence: object) -> dict[str, float]:
    """What a sentence says, by the entries of a reading; what is marked void says nothing."""
    kind, found = getattr(sentence, "sentence_type", ""), {}

    def number(name: str) -> float | None:
        try:
            value = float(getattr(sentence, name))
        except (TypeError, ValueError, AttributeError):
            return None
        return value if isfinite(value) else None

    def put(name: str, value: float | None, factor: float = 1.0) -> None:
        if value is not None:
            found[name] = value * factor

    if kind == "RMC" and getattr(sentence, "status", "") == "A":
        put("ground_mps", number("spd_over_grnd"), KNOTS)
        put("latitude_deg", number("latitude"))
        put("longitude_deg", number("longitude"))
    elif kind == "VTG":
        put("ground_mps", number("spd_over_grnd_kts"), KNOTS)
    elif kind == "VHW":
        put("speed_mps", number("water_speed_knots"), KNOTS)
    elif kind == "MWD":
        put("wind_mps", number("wind_speed_meters"))
    return found
