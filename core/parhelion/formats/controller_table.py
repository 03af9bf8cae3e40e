"""Controllers from a CSV table: one row a controller, columns by name, units in brackets."""

from __future__ import annotations

import re
from typing import Any

from pydantic import ValidationError

from parhelion.design import ControllerModel
from parhelion.errors import problems_of
from parhelion.formats.runs_table import LineProblem
from parhelion.formats.table import rows_of
from parhelion.quantities import Frozen

MOST_ROWS = 200
NAMES = {  # a column's usual names, without case, blanks and marks
    "name": ("name", "model", "controller"),
    "kind": ("kind", "type"),
    "most_pv_v": ("pvvolts", "maxpvvoltage", "pvlimit", "mostpvv"),
    "most_pv_a": ("pvamps", "maxpvcurrent", "shortcircuit", "mostpva"),
    "current_limit_a": ("chargeamps", "chargecurrent", "outputamps", "currentlimita"),
    "least_bank_v": ("leastbankvolts", "minbatteryvoltage", "leastbankv"),
    "most_bank_v": ("bankvolts", "mostbankvolts", "maxbatteryvoltage", "mostbankv"),
    "headroom_v": ("headroom", "startheadroom", "headroomv"),
    "efficiency": ("efficiency",),
    "light_efficiency": ("lightefficiency", "efficiencyatatenth"),
    "full_efficiency": ("fullefficiency", "efficiencyatfull"),
    "own_power_w": ("owndraw", "ownpower", "selfconsumption", "ownpowerw"),
    "inputs": ("inputs",),
    "price": ("price",),
}
NEEDED = ("name", "most_pv_v", "most_pv_a", "current_limit_a", "most_bank_v")
SAID = {"name": "Name", "most_pv_v": "PV volts", "most_pv_a": "PV amps", "current_limit_a": "Charge amps",
        "most_bank_v": "Bank volts"}  # fmt: skip
UNITS = {"v": "V", "a": "A", "w": "W"}
SCALES = {
    "mv": ("V", 0.001), "kv": ("V", 1000.0), "ma": ("A", 0.001), "mw": ("W", 0.001), "kw": ("W", 1000.0),
    "v": ("V", 1.0), "a": ("A", 1.0), "w": ("W", 1.0), "%": ("", 0.01),
}  # fmt: skip
WANTED = (
    "columns named Name, PV volts, PV amps, Charge amps and Bank volts; Kind (mppt, pwm, boost), Least bank "
    "volts, Headroom, Efficiency, Light efficiency, Full efficiency, Own draw, Inputs and Price may follow; "
    "units in brackets where they differ"
)

LONGEST_HEADING = 80


class EmptyCell(ValueError):
    """A row without something that every controller has."""


class ReadControllers(Frozen):
    """The controllers of a table, and the lines that are wrong."""

    rows: int
    controllers: list[ControllerModel]
    problems: list[LineProblem]


def _column(cell: str) -> tuple[str | None, float, str | None]:
    """The entry a header names, what its values are times, and its unit where that cannot be."""
    cell = cell[:LONGEST_HEADING]
    unit = re.search(r"[\[(]\s*([^\])]*?)\s*[\])]", cell)
    plain = re.sub(r"[^a-z]", "", re.sub(r"[\[(].*?[\])]", "", cell).lower())
    name = next((key for key, known in NAMES.items() if plain in known), None)
    if name is None or unit is None or not unit[1]:
        return name, 1.0, None
    wanted = UNITS.get(name.rsplit("_", 1)[-1], "")
    scale = SCALES.get(unit[1].lower())
    if name in ("price", "name", "kind") or (scale is not None and scale[0] == wanted):
        return name, 1.0 if scale is None else scale[1], None
    return name, 1.0, unit[1]


def _value(name: str, text: str, scale: float) -> Any:
    if name == "name":
        return text
    if name == "kind":
        return text.lower()
    number = float(text.replace(",", "."))
    if name.endswith("efficiency") and scale == 1.0 and number > 1:
        number /= 100
    return int(number) if name == "inputs" else number * scale


def _told(line: int, row: list[str], message: str, accepted: str | None) -> LineProblem:
    return LineProblem(line=line, text=", ".join(row)[:120], message=message, accepted=accepted or "")


def _header_problems(header: list[str]) -> list[LineProblem]:
    """Columns in units that cannot be, and those that are missing."""
    columns = [_column(cell) for cell in header]
    found = []
    for cell, (name, _, unit) in zip(header, columns, strict=True):
        if unit is not None:
            wanted = UNITS.get((name or "").rsplit("_", 1)[-1], "no unit")
            found.append(_told(1, header, f"{cell.strip()} is in {unit}.", f"{wanted} in this column"))
    missing = [SAID[name] for name in NEEDED if name not in {known for known, *_ in columns}]
    if missing:
        found.append(_told(1, header, f"Columns are missing: {', '.join(missing)}.", WANTED))
    return found


def _controller(row: list[str], columns: list[tuple[str | None, float, str | None]]) -> ControllerModel:
    values: dict[str, Any] = {}
    for (name, scale, _), cell in zip(columns, row, strict=False):
        if name is not None and cell.strip():
            values[name] = _value(name, cell.strip(), scale)
    missing = [SAID[name] for name in NEEDED if name not in values]
    if missing:
        raise EmptyCell(", ".join(missing))
    return ControllerModel.model_validate(values)


def read_controllers(text: str) -> ReadControllers:
    """Controllers of a CSV text; every wrong line is told and the others kept.

    Parameters
    ----------
    text : str
    """
    mark = ";" if ";" in text.partition("\n")[0] else ","
    rows = rows_of(text, mark)
    header = rows[0] if rows else []
    wrong = _header_problems(header) if rows else [_told(1, [], "The file is empty.", WANTED)]
    columns = [_column(cell) for cell in header]
    found: list[ControllerModel] = []
    for line, row in enumerate(rows[1:] if not wrong else [], start=2):
        if not any(cell.strip() for cell in row):
            continue
        if len(found) == MOST_ROWS:
            wrong.append(_told(line, row, "This row and those after it were left.", f"{MOST_ROWS} rows"))
            break
        try:
            found.append(_controller(row, columns))
        except ValidationError as error:
            problem = problems_of(error)[0]
            wrong.append(_told(line, row, f"{problem.field.strip('/')}: {problem.message}", problem.accepted))
        except EmptyCell as empty:
            wrong.append(_told(line, row, f"Empty in this row: {empty}.", "a value in each of these columns"))
        except ValueError:
            wrong.append(_told(line, row, "A number is wanted and there is none.", "a number such as 150"))
    return ReadControllers(rows=max(len(rows) - 1, 0), controllers=found, problems=wrong)
