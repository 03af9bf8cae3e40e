"""Readings from a table of any layout.

Its columns are guessed from the heading and may be matched by hand; how they were matched is a recipe that
reads the next file of that layout. Times may be moments with an offset, local dates and clocks, clocks
alone, or seconds since 1970; times that go backwards, rows that are there twice and cells that are no number
are told.
"""

from __future__ import annotations

import hashlib
import re
from datetime import UTC, datetime
from datetime import date as Date
from datetime import time as Time
from math import isfinite
from zoneinfo import ZoneInfo

from pydantic import ValidationError

from parhelion.design import Sky
from parhelion.design.logbook import VALUES, Reading
from parhelion.errors import Problem, UnreadableFile, problems_of
from parhelion.formats.table import rows_of
from parhelion.quantities import Frozen
from parhelion.units import MPS_PER

MOST_ROWS, MOST_CHARACTERS, MOST_PROBLEMS = 20_000, 8_000_000, 30
GUESSES = (  # what a heading may say, and the entry it is; the first that fits
    (r"^(time|date ?time|timestamp|clock|zeit|uhrzeit|moment)\b|^t$", "time"),
    (r"^(date|day|datum)\b", "date"),
    (r"\bsky\b|weather", "sky"), (r"note|remark|word|comment", "note"),
    (r"\bsoc\b|charge ?(state|level)|state of charge|\bcharge\b", "charge_frac"),
    (r"(pv|panel|solar|array).*(volt|\bv\b)", "pv_v"),
    (r"(pv|panel|solar|array).*(amp|current|\ba\b)", "pv_a"),
    (r"(pv|panel|solar|array|harvest|yield)", "pv_w"),
    (r"(bank|batt|battery|shunt).*(amp|current|\ba\b)", "bank_a"),
    (r"(bank|batt|battery).*(volt|\bv\b)|^volts?\b|^v$", "bank_v"),
    (r"(motor|drive|propulsion)", "motor_w"), (r"(house|load|consumption)", "house_w"),
    (r"\bsog\b|ground", "ground_mps"), (r"\bstw\b|speed|log\b|knots|\bkn\b", "speed_mps"),
    (r"wind", "wind_mps"), (r"wave", "waves_m"), (r"tilt", "tilt_deg"),
    (r"lat", "latitude_deg"), (r"lon|lng", "longitude_deg"), (r"^(watts?|power|w)\b", "pv_w"),
)  # fmt: skip
SPEEDS = ("speed_mps", "ground_mps", "wind_mps")
KNOTS, KMH, MPH = MPS_PER["kn"], MPS_PER["km/h"], MPS_PER["mph"]
SPEED_UNITS = ((r"km/?h|kph", KMH), (r"mph", MPH), (r"m/s|mps", 1.0), (r"kn|kt|knots?", KNOTS))
CLOCK = re.compile(r"^\d{1,2}:\d{2}(:\d{2}(\.\d+)?)?$")
DATE = re.compile(r"^(\d{1,4})[-./](\d{1,2})[-./](\d{1,4})")
FIELDS = ("time", "date", "sky", "note", *VALUES)
THOUSANDS_OF_SECONDS = 1e11  # a number of seconds this large is one of milliseconds


class Column(Frozen):
    """A column of a table: its heading, the entry that it is, and what its numbers are multiplied by."""

    heading: str
    field: str  # "": let be
    factor: float = 1.0


class LineTold(Frozen):
    line: int
    message: str
    accepted: str = ""


class ReadReadings(Frozen):
    """The readings of a file, and what was wrong in it."""

    columns: list[Column]
    readings: list[Reading]
    problems: list[LineTold]
    left: int  # lines that were not taken
    lacks: str = ""  # what the columns still want before anything is read: to be matched by hand


def refused(message: str, accepted: str, field: str = "") -> UnreadableFile:
    return UnreadableFile([Problem(code="no_readings", message=message, field=field, accepted=accepted)])


def key_of(source: str, of: str | None, at: datetime) -> str:
    """The same reading of the same file has the same id, so that reading it again changes nothing."""
    told = f"{source}|{of or ''}|{at.astimezone(UTC).isoformat()}"
    return "f" + hashlib.sha256(told.encode()).hexdigest()[:30]


def guessed(headings: list[str]) -> list[Column]:
    """What the columns of a heading are likely to be; each entry once."""
    found, taken = [], set()
    for heading in headings:
        low = re.sub(r"[_\-]+", " ", heading.strip().lower())
        plain = re.sub(r"[\[\](),]", " ", low)
        field = next((name for sign, name in GUESSES if re.search(sign, plain) and name not in taken), "")
        taken.add(field)
        found.append(Column(heading=heading, field=field, factor=_factor(field, plain)))
    return found


def _factor(field: str, heading: str) -> float:
    if field in SPEEDS:
        return next((size for sign, size in SPEED_UNITS if re.search(sign, heading)), KNOTS)
    if field.endswith("_w") and re.search(r"\bkw\b", heading):
        return 1000.0
    if field.endswith("_v") and re.search(r"\bmv\b", heading):
        return 0.001
    if field == "charge_frac":
        return 1.0 if re.search(r"\bfrac|0 ?- ?1\b", heading) else 0.01
    return 1.0


def _date(text: str, day_first: bool) -> Date:
    found = DATE.match(text)
    if found is None:
        raise ValueError(text)
    a, b, c = (int(part) for part in found.groups())
    if a > 31:
        return Date(a, b, c)
    year = c + 2000 if c < 100 else c
    return Date(year, b, a) if day_first else Date(year, a, b)


def _day_first(texts: list[str]) -> bool:
    """Whether dates such as 04/07/2027 have their day first: by one that can be read only one way."""
    for text in texts:
        found = DATE.match(text)
        if found and int(found[1]) <= 31:
            if int(found[1]) > 12:
                return True
            if int(found[2]) > 12:
                return False
    return True


def _moment(time: str, date: str, zone: ZoneInfo, on: Date, day_first: bool) -> datetime:
    text = time.strip()
    if re.fullmatch(r"\d{9,14}(\.\d+)?", text):
        seconds = float(text)
        return datetime.fromtimestamp(seconds / 1000 if seconds > THOUSANDS_OF_SECONDS else seconds, UTC)
    if CLOCK.match(text):
        clock = Time.fromisoformat(text.zfill(len(text) + (text.index(":") == 1)).split(".")[0])
        day = _date(date.strip(), day_first) if date.strip() else on
        return datetime.combine(day, clock, zone)
    try:
        made = datetime.fromisoformat(text.replace("Z", "+00:00"))
    except ValueError:
        day = _date(text, day_first)
        clock_text = re.sub(r"^\S+[ T]*", "", text).strip()
        made = datetime.combine(day, Time.fromisoformat(clock_text.zfill(5)))
    return made if made.tzinfo else made.replace(tzinfo=zone)


def _number(text: str) -> float:
    plain = text.strip().replace("\u202f", "").replace("\u00a0", "")
    if "," in plain and "." not in plain:
        plain = plain.replace(",", ".")
    plain = re.sub(r"\s*(kW|W|V|A|%|kn|°)$", "", plain)
    value = float(plain)
    if not isfinite(value):
        raise ValueError(text)
    return value


def _mark(text: str) -> str:
    head = text.split("\n", 1)[0]
    return max(("\t", ";", ","), key=head.count)


def read_table(
    text: str,
    zone: ZoneInfo,
    on: Date,
    source: str,
    of: str | None = None,
    recipe: list[Column] | None = None,
) -> ReadReadings:
    """The readings of a table with a heading.

    Parameters
    ----------
    text : str
    zone : ZoneInfo
        Of times without an offset.
    on : datetime.date
        Of clocks without a date.
    source : str
        What read them.
    of : str, optional
        A controller, for watts, volts and amps of panels.
    recipe : list of Column, optional
        How the columns are matched; guessed where it is not given.

    Raises
    ------
    UnreadableFile
        Where there are no rows under a heading, or the recipe names an entry that is none. Columns without a
        time, or without anything that was read, come back to be matched.
    """
    if len(text) > MOST_CHARACTERS:
        raise refused("This table is too long to be read at once.", "8 MB or less: cut it by days")
    rows = [row for row in rows_of(text, _mark(text.lstrip("\ufeff"))) if any(cell.strip() for cell in row)]
    if len(rows) < 2:
        raise refused("There are no rows under a heading.", "a heading, then a row a reading")
    columns = guessed(rows[0])
    if recipe is not None:
        chosen = {column.heading: column for column in recipe}
        columns = [chosen.get(column.heading, column.model_copy(update={"field": ""})) for column in columns]
    unknown = [column.field for column in columns if column.field and column.field not in FIELDS]
    if unknown:
        raise refused(f"{unknown[0]!r} is no entry of a reading.", ", ".join(FIELDS), "/recipe")
    fields = [column.field for column in columns]
    lacks = _lacks(fields)
    if lacks:
        return ReadReadings(columns=columns, readings=[], problems=[], left=len(rows) - 1, lacks=lacks)
    return _readings(rows[1:], columns, zone, on, source, of)


def _lacks(fields: list[str]) -> str:
    """What is still to be matched by hand, in words."""
    if "time" not in fields:
        return "No column says when: choose the one that holds times such as 08:30 or 2027-06-13 08:30."
    if not set(fields) & {*VALUES, "sky", "note"}:
        return "No column says what was read: choose what each of them is."
    return ""


def _readings(
    rows: list[list[str]], columns: list[Column], zone: ZoneInfo, on: Date, source: str, of: str | None
) -> ReadReadings:
    fields = [column.field for column in columns]
    at_time, at_date = fields.index("time"), fields.index("date") if "date" in fields else None
    dated = at_time if at_date is None else at_date
    day_first = _day_first([row[dated] for row in rows if len(row) > dated])
    made: dict[str, Reading] = {}
    problems: list[LineTold] = []
    left, last = max(len(rows) - MOST_ROWS, 0), None
    for number, row in enumerate(rows[:MOST_ROWS], start=2):
        cells = row + [""] * (len(columns) - len(row))
        try:
            date = "" if at_date is None else cells[at_date]
            at = _moment(cells[at_time], date, zone, on, day_first)
        except (ValueError, IndexError, OverflowError):
            problems.append(LineTold(line=number, message=f"“{cells[at_time][:40]}” is no time.",
                                     accepted="08:30 or 2027-06-13 08:30"))  # fmt: skip
            left += 1
            continue
        values, wrong = _values(cells, columns)
        problems += [one.model_copy(update={"line": number}) for one in wrong]
        if not values:
            left += 1
            continue
        if last is not None and at < last:
            problems.append(LineTold(line=number, message="This time is earlier than the row before it."))
        last = at
        key = key_of(source, of, at)
        if key in made:
            problems.append(LineTold(line=number, message="This moment is there twice; the last row counts."))
        part = of if any(name in values for name in ("pv_w", "pv_v", "pv_a")) else None
        try:
            made[key] = Reading.model_validate({"id": key, "at": at, "source": source, "of": part, **values})
        except ValidationError as error:
            first = problems_of(error)[0]
            problems.append(LineTold(line=number, message=first.message, accepted=first.accepted or ""))
            left += 1
    if not made:
        why = f"Line {problems[0].line}: {problems[0].message}" if problems else "No row has a number."
        return ReadReadings(columns=columns, readings=[], problems=problems[:MOST_PROBLEMS], left=left,
                            lacks=f"No row could be read. {why} Match the columns otherwise.")  # fmt: skip
    readings = sorted(made.values(), key=lambda reading: reading.at)
    return ReadReadings(columns=columns, readings=readings, problems=problems[:MOST_PROBLEMS], left=left)


def _values(cells: list[str], columns: list[Column]) -> tuple[dict[str, object], list[LineTold]]:
    values: dict[str, object] = {}
    wrong = []
    for cell, column in zip(cells, columns, strict=False):
        text, field = cell.strip(), column.field
        if not text or field in ("", "time", "date"):
            continue
        if field == "note":
            values["note"] = text[:400]
        elif field == "sky":
            if text.lower() in list(Sky):
                values["sky"] = text.lower()
            else:
                wrong.append(LineTold(line=0, message=f"“{text[:40]}” is no sky.", accepted=", ".join(Sky)))
        else:
            try:
                values[field] = _number(text) * column.factor
            except ValueError:
                wrong.append(
                    LineTold(
                        line=0, message=f"{column.heading}: “{text[:40]}” is no number.", accepted="a number"
                    )
                )
    return values, wrong
