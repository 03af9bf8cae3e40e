"""Measured runs from a spreadsheet or a CSV file, and back into one.

Columns may be named (speed, back, watts, volts, amps, set, kg, wind, off the bow, waves) or stand as speed,
back, watts; without a name two columns are speed and watts. Numbers may carry units and decimal commas; a
span is written 4.0-4.5, volts times amps 25.6 x 14.
"""

from __future__ import annotations

import csv
import re
from collections.abc import Iterable
from typing import Any

from pydantic import ValidationError

from parhelion.design import MeasuredRun
from parhelion.errors import problems_of
from parhelion.formats.table import unmarked, written_table
from parhelion.quantities import Frozen
from parhelion.units import KG_PER_POUND, M_PER_FOOT, MPS_PER, SpeedUnit

MOST_LINES = 500
OTHER_SPEEDS: dict[str, SpeedUnit] = {"kt": "kn", "kts": "kn", "knots": "kn", "kmh": "km/h", "kph": "km/h"}
SPEED_SIZES = {
    **{str(unit): size for unit, size in MPS_PER.items()},
    **{word: MPS_PER[unit] for word, unit in OTHER_SPEEDS.items()},
    "m/s": 1.0,
}
OTHER_SIZES = {
    "m": 1.0,
    "ft": M_PER_FOOT,
    "cm": 0.01,
    "°": 1.0,
    "deg": 1.0,
    "w": 1.0,
    "kw": 1000.0,
    "v": 1.0,
    "a": 1.0,
    "kg": 1.0,
    "lb": KG_PER_POUND,
}
NAMES = (  # what a heading may say, and the column it is
    ("wave", "waves"), ("wind", "wind"), ("bow", "angle"),
    ("back", "back"), ("return", "back"), ("speed", "speed"), ("out", "speed"), ("watt", "power"),
    ("power", "power"), ("volt", "volts"), ("amp", "amps"), ("current", "amps"), ("set", "set"),
    ("displacement", "kg"), ("weight", "kg"), ("kw", "power"), ("kn", "speed"), ("km/h", "speed"),
    ("mph", "speed"), ("kg", "kg"),
)  # fmt: skip
EXACT = {"w": "power", "v": "volts", "a": "amps"}
ENTRIES = {
    "speed": "speed_mps", "back": "back_speed_mps", "power": "power_w", "volts": "volts", "amps": "amps",
    "kg": "displacement_kg", "set": "set_name", "wind": "wind_mps", "angle": "wind_angle_deg",
    "waves": "wave_height_m",
}  # fmt: skip
NUMBER = r"[-+]?\d+(?:[.,]\d+)?"
VALUE = re.compile(rf"^\s*({NUMBER})(?:\s*(?:-|–|to)\s*({NUMBER}))?\s*([a-zA-Z/]*)\s*$")
LOOSE = re.compile(
    rf"({NUMBER}(?:\s*[-–]\s*{NUMBER})?)\s*(kn|kts?|knots|km/h|kmh|kph|mph|m/s|kW|W|V|A)?(?=\s|$)", re.I
)
PRODUCT = re.compile(rf"^\s*({NUMBER})\s*v?\s*[x×*]\s*({NUMBER})\s*a?\s*$", re.I)
SPEEDS = ("speed", "back", "wind")
SPAN_ENTRIES = {"speed": "speed_to_mps", "power": "power_to_w"}
LONGEST_LINE = 400
UNSURE = re.compile(r"^\s*[-+]?\d{1,3}(,\d{3})+(\.\d+)?(?![\d.,])")  # 1,900: thousands, or a decimal comma
DECIMAL_COMMA = re.compile(r"\d,(\d{1,2}|\d{4,})(?!\d)")
THOUSANDS = re.compile(r"\d,\d{3}(\.\d|,\d{3})")
ACCEPTED = "a number such as 3.5, with or without its unit; a span such as 4.0-4.5"


class LineProblem(Frozen):
    """What is wrong with one line, and what would be accepted."""

    line: int
    text: str
    message: str
    accepted: str


class ReadRuns(Frozen):
    """The runs that could be read, and the lines that could not."""

    runs: list[MeasuredRun]
    problems: list[LineProblem]


class _Unread(Exception):
    pass


def _commas(cells: Iterable[str]) -> str | None:
    """What a comma before three digits is in these cells, by the others: a decimal point, or nothing at all.

    None where they do not tell, or tell both.
    """
    texts = list(cells)
    decimal, thousands = (any(p.search(t) for t in texts) for p in (DECIMAL_COMMA, THOUSANDS))
    return None if decimal == thousands else "." if decimal else ""


def _without_thousands(text: str, comma: str | None) -> str:
    """A cell with its commas decided; refused where nothing tells what they are."""
    unsure = UNSURE.match(text)
    if unsure is None:
        return text
    number = unsure.group().strip()
    if "." in number:
        return text.replace(number, number.replace(",", ""), 1)
    if comma is None:
        joined, pointed = number.replace(",", ""), number.replace(",", ".", 1)
        raise _Unread(f"Is “{number}” {joined} or {pointed}? Write it without the comma.")
    return text.replace(number, number.replace(",", comma), 1)


def _cells(line: str) -> list[str]:
    for mark in ("\t", ";"):
        if mark in line:
            return [cell.strip() for cell in line.split(mark)]
    if "," in line and not re.fullmatch(rf"\s*{NUMBER}(\s+{NUMBER})+\s*", line):
        return [cell.strip() for cell in next(csv.reader([line]))]
    loose = [f"{number} {unit or ''}".strip() for number, unit in LOOSE.findall(line)]
    return loose or [line.strip()]


def _heading(cells: list[str]) -> list[tuple[str, str] | None] | None:
    """What the columns of a heading are, and their units; None where the line is no heading."""
    if any(re.match(r"\s*[-+]?\d", cell) for cell in cells):
        return None
    found: list[tuple[str, str] | None] = []
    for cell in cells:
        low = cell.lower().replace("_", " ")
        column = EXACT.get(low.strip()) or next((name for key, name in NAMES if key in low), None)
        unit = next(
            (
                u
                for u in (*SPEED_SIZES, "kw", "lb", "ft", "cm")
                if re.search(rf"(^|[\s(]){re.escape(u)}\b", low)
            ),
            "",
        )
        found.append((column, unit) if column else None)
    speed_unit = next((unit for column, unit in filter(None, found) if column in SPEEDS and unit), "")
    shared = [
        (cell[0], cell[1] or speed_unit) if cell is not None and cell[0] in SPEEDS else cell for cell in found
    ]
    return shared if any(shared) else None


def _standing(count: int) -> list[tuple[str, str] | None]:
    """What the columns are without a heading."""
    names = ("speed", "power") if count == 2 else ("speed", "back", "power", "set")
    return [(name, "") for name in names[:count]]


def _value(text: str, column: str, heading_unit: str, speed_size: float) -> tuple[float, float | None]:
    match = VALUE.match(text)
    if not match:
        raise _Unread(f"“{text}” is not a number.")
    first, second, unit = match.groups()
    unit = (unit or heading_unit).lower()
    if column in SPEEDS:
        size = SPEED_SIZES.get(unit, speed_size if not unit else 0.0)
    else:
        size = OTHER_SIZES.get(unit, 1.0 if not unit else 0.0)
    if size == 0.0:
        raise _Unread(f"“{unit}” is no unit that is known here.")
    number = float(first.replace(",", "."))
    return number * size, None if second is None else float(second.replace(",", ".")) * size


def _run(
    cells: list[str],
    columns: list[tuple[str, str] | None],
    speed_size: float,
    run_id: str,
    comma: str | None,
) -> MeasuredRun:
    entries: dict[str, Any] = {"id": run_id}
    for cell, column in zip(cells, columns, strict=False):
        if column is None or not cell:
            continue
        name, unit = column
        text = cell if name == "set" else _without_thousands(cell, comma)
        if name == "set":
            entries["set_name"] = unmarked(text)[:40]
            continue
        product = PRODUCT.match(text) if name == "power" else None
        if product:
            entries["volts"], entries["amps"] = (float(n.replace(",", ".")) for n in product.groups())
            continue
        value, other = _value(text, name, unit, speed_size)
        entries[ENTRIES[name]] = value
        if other is not None:
            if name not in SPAN_ENTRIES:
                raise _Unread(f"“{text}”: only speeds and watts may be spans.")
            entries[SPAN_ENTRIES[name]] = other
    try:
        return MeasuredRun.model_validate(entries)
    except ValidationError as error:
        problem = problems_of(error)[0]
        raise _Unread(f"{problem.field.strip('/').replace('_', ' ')}: {problem.message}") from None


def read_runs(text: str, unit: SpeedUnit, taken: Iterable[str] = ()) -> ReadRuns:
    """Runs from pasted or uploaded text; what cannot be read is told line by line, nothing is guessed.

    Parameters
    ----------
    text : str
    unit : str
        Of speeds that do not name their own.
    taken : iterable of str
        Ids already in use.
    """
    runs: list[MeasuredRun] = []
    problems: list[LineProblem] = []
    columns: list[tuple[str, str] | None] | None = None
    used = set(taken)
    lines = text.replace("\ufeff", "").splitlines()
    comma = _commas(cell for line in lines[:MOST_LINES] if len(line) <= LONGEST_LINE for cell in _cells(line))
    for number, line in enumerate(lines[:MOST_LINES], start=1):
        if not line.strip() or line.lstrip().startswith("#"):
            continue
        if len(line) > LONGEST_LINE:
            problems.append(
                LineProblem(line=number, text=line[:80], message=f"This line has {len(line)} characters.",
                            accepted=f"{LONGEST_LINE} or fewer")
            )  # fmt: skip
            continue
        cells = _cells(line)
        heading = _heading(cells) if columns is None and not runs else None
        if heading is not None:
            columns = heading
            continue
        run_id = next(name for name in (f"run-{i}" for i in range(1, 10_000)) if name not in used)
        try:
            made = _run(cells, columns or _standing(len(cells)), SPEED_SIZES[unit], run_id, comma)
        except _Unread as error:
            problems.append(
                LineProblem(line=number, text=line.strip()[:80], message=str(error), accepted=ACCEPTED)
            )
            continue
        runs.append(made)
        used.add(run_id)
    if len(lines) > MOST_LINES:
        problems.append(
            LineProblem(line=MOST_LINES + 1, text="", message=f"There are {len(lines)} lines.",
                        accepted=f"{MOST_LINES} lines or fewer")
        )  # fmt: skip
    return ReadRuns(runs=runs, problems=problems)


def _number(value: float | None, size: float = 1.0) -> str:
    return "" if value is None else f"{value / size:.6g}"


def _weather(run: MeasuredRun, size: float) -> tuple[str, str, str]:
    """A run's wind, its angle and waves; empty on flat water."""
    if not run.in_weather:
        return "", "", ""
    return _number(run.wind_mps, size), _number(run.wind_angle_deg), _number(run.wave_height_m)


def written_runs(runs: Iterable[MeasuredRun], unit: SpeedUnit) -> str:
    """Runs as CSV text with a heading that `read_runs` understands, speeds in a unit."""
    rows = [
        [f"speed out ({unit})", f"back ({unit})", "watts", "volts", "amps", "displacement (kg)", "set",
         f"wind ({unit})", "off the bow (deg)", "waves (m)"]
    ]  # fmt: skip
    size = SPEED_SIZES[unit]
    for run in runs:
        speed, watts = _number(run.speed_mps, size), _number(run.power_w)
        if run.speed_to_mps is not None:
            speed += f"-{_number(run.speed_to_mps, size)}"
        if run.power_to_w is not None:
            watts += f"-{_number(run.power_to_w)}"
        rows.append(
            [speed, _number(run.back_speed_mps, size), watts, _number(run.volts), _number(run.amps),
             _number(run.displacement_kg), run.set_name, *_weather(run, size)]
        )  # fmt: skip
    return written_table(rows)
