"""Panels from a table in the open module-database layout: one row a module, its columns by name.

Known columns, under any of their usual names: the module's name, power at standard conditions, Voc, Isc,
Vmp, Imp, the three temperature coefficients, cells in series, length, width, mass, price, whether it is
two-sided.
A row of units under the header is heeded, a row of internal names skipped.
"""

from __future__ import annotations

from typing import Any

from pydantic import ValidationError

from parhelion.computing.kept import Memo
from parhelion.design import Build, PanelModel
from parhelion.errors import problems_of
from parhelion.formats.runs_table import LineProblem
from parhelion.formats.table import rows_of
from parhelion.panels.datasheet import doubts
from parhelion.quantities import Frozen

MOST_ROWS = 50_000
MOST_TOLD = 50  # problems, and panels in an answer
NAMES = {  # a column's usual names, without case, blanks and marks
    "name": ("name", "model", "module", "panel"),
    "nameplate_w": ("stc", "pmax", "pmp", "pmpp", "nameplate", "power", "watts", "stcpower", "pstc"),
    "open_circuit_v": ("voc", "vocref", "opencircuitvoltage"),
    "short_circuit_a": ("isc", "iscref", "shortcircuitcurrent"),
    "best_v": ("vmp", "vmpref", "vmpp"),
    "best_a": ("imp", "impref", "impp"),
    "power_coefficient_per_k": ("gammapmp", "gamma", "gammar", "gammaref", "pmptempcoefficient"),
    "voltage_coefficient_per_k": ("betaoc", "betavoc", "beta", "voctempcoefficient"),
    "current_coefficient_per_k": ("alphasc", "alphaisc", "alpha", "isctempcoefficient"),
    "cells": ("ns", "cells", "cellsinseries", "ncells"),
    "panel_length_m": ("length", "longside"),
    "panel_width_m": ("width", "shortside"),
    "mass_kg": ("mass", "weight"),
    "bifacial": ("bifacial", "twosided"),
    "price": ("price", "cost", "coins"),
    "most_fuse_a": ("maxseriesfuse", "seriesfuse", "maxfuse"),
}
WANTED = "columns named STC, Voc, Isc, Vmp, Imp and N_s, one module a row"
NEEDED = ("nameplate_w", "open_circuit_v", "short_circuit_a", "best_v", "best_a", "cells")
COEFFICIENTS = ("power_coefficient_per_k", "voltage_coefficient_per_k", "current_coefficient_per_k")
USUAL_BIFACIALITY = 0.75
HALF_CELL_V = 0.45  # fewer volts a cell than this means two halves in parallel
SAID = {"nameplate_w": "STC", "open_circuit_v": "Voc", "short_circuit_a": "Isc", "best_v": "Vmp",
        "best_a": "Imp", "cells": "N_s"}  # fmt: skip


class ReadModules(Frozen):
    """What a table holds: how many modules, the first that match a search, and the lines that are wrong."""

    rows: int
    read: int
    matching: int
    panels: list[PanelModel]
    problems: list[LineProblem]
    wrong: int


class _Whole(Frozen):
    rows: int
    panels: tuple[PanelModel, ...]
    problems: tuple[LineProblem, ...]


_tables: Memo[_Whole] = Memo(2)


def _plain(text: str) -> str:
    return "".join(mark for mark in text.lower() if mark.isalnum())


def _columns(header: list[str]) -> dict[str, int]:
    found: dict[str, int] = {}
    for index, cell in enumerate(header):
        plain = _plain(cell)
        for name, known in NAMES.items():
            if plain in known and name not in found:
                found[name] = index
    return found


def _number(text: str) -> float | None:
    try:
        return float(text.replace(",", "."))
    except ValueError:
        return None


def _layout(cells: int, half: bool, length_m: float | None, width_m: float | None) -> tuple[int, int]:
    """Rows and columns of square cells that suit the sides of the panel best."""
    shape = (length_m or 1.55) / (width_m or 1.0) * (2 if half else 1)
    pairs = [(a, cells // a) for a in range(1, 25) if cells % a == 0 and a <= cells // a <= 48]
    return min(pairs, key=lambda pair: abs(pair[1] / pair[0] - shape), default=(1, min(cells, 48)))


def _coefficient(value: float, unit: str, of: float) -> float:
    """A temperature coefficient per kelvin of the value itself; by its unit: per cent, V or A."""
    if "%" in unit:
        return value / 100
    if unit.lower().startswith(("v", "a")):
        return value / of
    return value / 100 if abs(value) > 0.02 else value


def _panel(row: list[str], columns: dict[str, int], units: dict[str, str]) -> PanelModel:
    def cell(name: str) -> str:
        index = columns.get(name)
        return row[index].strip() if index is not None and index < len(row) else ""

    values: dict[str, Any] = {}
    for name in (
        *NEEDED,
        *COEFFICIENTS,
        "panel_length_m",
        "panel_width_m",
        "mass_kg",
        "most_fuse_a",
        "price",
    ):
        text = cell(name)
        if not text and name not in NEEDED:
            continue
        number = _number(text)
        if number is None:
            raise _Wrong(f"{SAID.get(name, name)} is “{text}”.", "a number in every needed column")
        if "mm" in units.get(name, ""):
            number /= 1000
        values[name] = number
    cells = int(values.pop("cells"))
    if cells < 1:
        raise _Wrong("It has no cells.", "1 cell or more")
    bases = {"power_coefficient_per_k": ("%/C", 1.0),
             "voltage_coefficient_per_k": ("V/C", values["open_circuit_v"]),
             "current_coefficient_per_k": ("A/C", values["short_circuit_a"])}  # fmt: skip
    for name, (usual, of) in bases.items():
        if name in values and of:
            values[name] = _coefficient(values[name], units.get(name) or usual, of)
    half = values["open_circuit_v"] / cells < HALF_CELL_V
    sides = sorted(v for v in (values.get("panel_width_m"), values.get("panel_length_m")) if v)
    if len(sides) == 2:
        values["panel_width_m"], values["panel_length_m"] = sides
    across, along = _layout(cells, half, values.get("panel_length_m"), values.get("panel_width_m"))
    two_sided = cell("bifacial").lower() in ("1", "true", "yes", "y")
    panel = PanelModel(
        model=cell("name")[:80] or "Module",
        build=Build.GLASS,
        cells_across=across,
        cells_along=along,
        half_cut=half,
        bifaciality_frac=USUAL_BIFACIALITY if two_sided else 0.0,
        **values,
    )
    wrong = doubts(panel)
    if wrong:
        raise _Wrong(wrong[0].message, wrong[0].accepted)
    return panel


class _Wrong(Exception):
    def __init__(self, message: str, accepted: str) -> None:
        super().__init__(message)
        self.accepted = accepted


def _whole(text: str) -> _Whole:
    lines = rows_of(text)
    start = next((i for i, row in enumerate(lines) if len(_columns(row)) >= 3), None)
    columns = _columns(lines[start]) if start is not None else {}
    missing = [SAID[name] for name in NEEDED if name not in columns]
    if start is None or missing:
        head = ",".join(lines[start or 0])[:80] if lines else ""
        said = "No header row was found." if start is None else f"Columns are missing: {', '.join(missing)}."
        told = LineProblem(line=(start or 0) + 1, text=head, message=said, accepted=WANTED)
        return _Whole(rows=0, panels=(), problems=(told,))
    units: dict[str, str] = {}
    panels, problems, rows = [], [], 0
    for number, row in enumerate(lines[start + 1 :], start=start + 2):
        if not any(cell.strip() for cell in row):
            continue
        watts = columns["nameplate_w"]
        if number <= start + 3 and (watts >= len(row) or _number(row[watts].strip()) is None):
            units = units or {name: row[i].strip() for name, i in columns.items() if i < len(row)}
            continue  # units, or internal names
        rows += 1
        if rows > MOST_ROWS:
            continue
        try:
            panels.append(_panel(row, columns, units))
            continue
        except _Wrong as wrong:
            message, accepted = str(wrong), wrong.accepted
        except ValidationError as error:
            problem = problems_of(error)[0]
            message = f"{problem.field.strip('/').replace('_', ' ')}: {problem.message}"
            accepted = problem.accepted or "another value"
        problems.append(LineProblem(line=number, text=",".join(row)[:80], message=message, accepted=accepted))
    if rows > MOST_ROWS:
        most = f"{MOST_ROWS} or fewer; the first of them were read"
        problems.append(LineProblem(line=0, text="", message=f"There are {rows} modules.", accepted=most))
    return _Whole(rows=rows, panels=tuple(panels), problems=tuple(problems))


def read_modules(text: str, search: str = "") -> ReadModules:
    """Modules of a table that match a search; what cannot be true is told line by line.

    Parameters
    ----------
    text : str
        Comma-separated, with a header row.
    search : str
        Words that a module's name must hold, or its watts.
    """
    whole = _tables.get(text, lambda: _whole(text))
    asked = search.lower().split()
    matching = [
        panel
        for panel in whole.panels
        if all(word in panel.model.lower() or word == f"{panel.nameplate_w:g}" for word in asked)
    ]
    return ReadModules(
        rows=whole.rows, read=len(whole.panels), matching=len(matching), panels=matching[:MOST_TOLD],
        problems=list(whole.problems[:MOST_TOLD]), wrong=len(whole.problems),
    )  # fmt: skip


class ReadPanelList(Frozen):
    """Panels to choose from: those of a table that no other of it makes useless, at most so many."""

    rows: int
    read: int
    worse: int  # no smaller, lighter or cheaper than another with as many watts
    panels: list[PanelModel]
    problems: list[LineProblem]
    wrong: int


def read_panel_list(text: str, most: int) -> ReadPanelList:
    """A person's own list of panels, what is plainly worse left out.

    Parameters
    ----------
    text : str
        As of `read_modules`; a column of prices is heeded.
    most : int
        The best for their price are kept where there are more.
    """
    whole = _tables.get(text, lambda: _whole(text))
    kept: list[PanelModel] = []
    for panel in sorted(whole.panels, key=lambda p: (p.price or 0.0, p.each_kg, -p.nameplate_w)):
        if not any(_no_worse(other, panel) for other in kept):
            kept.append(panel)
    worth = sorted(kept, key=lambda p: (p.price or 0.0) / p.nameplate_w)[:most]
    return ReadPanelList(
        rows=whole.rows, read=len(whole.panels), worse=len(whole.panels) - len(worth), panels=worth,
        problems=list(whole.problems[:MOST_TOLD]), wrong=len(whole.problems),
    )  # fmt: skip


def _no_worse(one: PanelModel, other: PanelModel) -> bool:
    return (
        (one.price or 0.0) <= (other.price or 0.0)
        and one.each_kg <= other.each_kg
        and one.width <= other.width
        and one.length <= other.length
        and one.nameplate_w >= other.nameplate_w
    )
