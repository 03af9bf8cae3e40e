"""A day's readings as a table: one row every so many minutes, the clock in its first column."""

from __future__ import annotations

from datetime import date as Date
from datetime import datetime, timedelta, timezone
from datetime import time as Time

import numpy as np
from numpy.typing import NDArray

from parhelion.design import Sky
from parhelion.diagnosis.day_model import DayLog
from parhelion.errors import Problem, UnreadableFile
from parhelion.formats.table import rows_of
from parhelion.sun.timeline import even_steps
from parhelion.units import MPS_PER

Array = NDArray[np.float64]

COLUMNS = ("pv_v", "pv_a", "bank_v", "bank_a", "soc_pct", "speed_kn", "motor_w")
LARGEST_BYTES, MOST_ROWS = 8_000_000, 3_000
LEAST_ROWS = 3


def _refused(message: str, field: str, accepted: str) -> UnreadableFile:
    return UnreadableFile([Problem(code="not_a_day", message=message, field=field, accepted=accepted)])


def _clock(text: str, row: int) -> float:
    """Minutes after midnight."""
    try:
        clock = Time.fromisoformat(text.strip().zfill(5))
    except ValueError:
        raise _refused(f"Row {row}: {text[:40]!r} is no time of day.", "/time", "such as 08:30") from None
    return clock.hour * 60 + clock.minute + clock.second / 60


def _number(text: str, column: str, row: int) -> float:
    if not text.strip():
        return float("nan")
    try:
        value = float(text.replace(",", ".") if text.count(",") == 1 else text)
    except ValueError:
        value = float("inf")
    if not np.isfinite(value):
        raise _refused(f"Row {row}: {text[:40]!r} is no number.", f"/{column}", "a number, or nothing")
    return value


def read_day(content: bytes, date: Date, utc_offset_h: float) -> DayLog:
    """The day of a table with the columns time, sky, pv_v, pv_a, bank_v, bank_a, soc_pct, speed_kn, motor_w.

    Parameters
    ----------
    content : bytes
    date : datetime.date
        Local.
    utc_offset_h : float
        Of the clock in the table [h].

    Raises
    ------
    UnreadableFile
        Where it is no such table, or times go backwards.
    """
    if len(content) > LARGEST_BYTES:
        raise _refused("This file is larger than a day's readings.", "", "8 MB or less")
    try:
        table = [row for row in rows_of(content.decode("utf-8-sig")) if any(cell.strip() for cell in row)]
    except UnicodeDecodeError:
        raise _refused("This is no text.", "", "a table, CSV") from None
    names = [name.strip().lower() for name in table[0]] if table else []
    missing = [name for name in ("time", *COLUMNS) if name not in names]
    if missing:
        raise _refused(
            f"Columns are missing: {', '.join(missing)}.", "", ", ".join(("time", "sky", *COLUMNS))
        )
    body = table[1:]
    if not LEAST_ROWS <= len(body) <= MOST_ROWS:
        raise _refused(f"{len(body)} rows are no day.", "", f"{LEAST_ROWS} to {MOST_ROWS} rows")
    padded = [row + [""] * (len(names) - len(row)) for row in body]
    at = np.array([_clock(row[names.index("time")], n + 2) for n, row in enumerate(padded)])
    steps = np.diff(at)
    if (steps <= 0).any():
        row = int(np.argmax(steps <= 0)) + 3
        raise _refused(
            f"Row {row} is no later than the one before it.", "/time", "times that follow each other"
        )
    step = float(np.min(steps))
    size = max(int(24 * 60 // step), 1)
    place = np.clip(np.round(at / step).astype(int), 0, size - 1)

    def column(name: str) -> Array:
        values = np.full(size, np.nan)
        values[place] = [_number(line[names.index(name)], name, n + 2) for n, line in enumerate(padded)]
        return values

    words: list[Sky | None] = [None] * size
    if "sky" in names:
        for index, line in zip(place, padded, strict=True):
            word = line[names.index("sky")].strip().lower()
            if word:
                words[int(index)] = _sky(word)
    zone = timezone(timedelta(hours=utc_offset_h))
    start = datetime.combine(date, Time(0), zone)
    read = {name: column(name) for name in COLUMNS}
    return DayLog(
        timeline=even_steps(start, step * 60, size, zone),  # type: ignore[arg-type]
        words=tuple(words),
        pv_v=read["pv_v"], pv_a=read["pv_a"], bank_v=read["bank_v"], bank_a=read["bank_a"],
        soc=read["soc_pct"] / 100, speed_mps=read["speed_kn"] * MPS_PER["kn"], motor_w=read["motor_w"],
    )  # fmt: skip


def _sky(word: str) -> Sky:
    try:
        return Sky(word)
    except ValueError:
        raise _refused(f"{word[:40]!r} is no word for the sky here.", "/sky", ", ".join(Sky)) from None
