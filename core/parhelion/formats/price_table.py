"""Prices and masses from a person's own CSV: a name, what one costs, what one weighs, how many are there.

References
----------
[1] A comma before three digits is thousands or a decimal, told by the other cells of its column; where they
    do not tell, the row is left and the person asked.
"""

from __future__ import annotations

import re

from parhelion.errors import Problem, UnreadableFile
from parhelion.formats.runs_table import LineProblem
from parhelion.formats.table import rows_of, unmarked
from parhelion.quantities import Frozen

MOST_ROWS = 5_000
LONGEST_NAME = 80
HEADS = {
    "name": ("name", "item", "part", "what", "article"),
    "price": ("price", "cost", "each", "coins", "unit price"),
    "mass_kg": ("mass", "weight", "kg"),
    "quantity": ("quantity", "how many", "pieces", "count", "qty"),
}
WANTED = "columns called name and price, and if you like mass and quantity"
NUMBER = re.compile(r"[-+]?\d[\d.,' ]*")
GROUPED = re.compile(r"^\d{1,3}([.,' ]\d{3})+$")


class PriceRow(Frozen):
    """What a row says of one part."""

    name: str
    price: float | None
    mass_kg: float | None
    quantity: float | None


class ReadPrices(Frozen):
    """The rows that could be read, and those that could not."""

    rows: list[PriceRow]
    problems: list[LineProblem]


class _Unread(Exception):
    pass


def _columns(header: list[str]) -> dict[str, int]:
    found: dict[str, int] = {}
    for index, cell in enumerate(header[:40]):
        low = cell.strip().lower()[:60]
        for name, words in HEADS.items():
            if name not in found and any(re.search(rf"\b{re.escape(word)}\b", low) for word in words):
                found[name] = index
                break
    return found


def _pointed(cells: list[str]) -> str | None:
    """Which sign is the decimal point of a column [1]; None where nothing tells."""
    said = set()
    for cell in cells:
        number = NUMBER.search(cell[:80])
        text = number.group().strip() if number else ""
        marks = [c for c in text if c in ".,"]
        if not marks:
            continue
        last = marks[-1]
        after = len(text) - text.rfind(last) - 1
        if after != 3 or len(set(marks)) == 2:
            said.add(last)
    return said.pop() if len(said) == 1 else None


def _number(cell: str, pointed: str | None) -> float | None:
    cell = cell.strip()[:80]
    if not cell:
        return None
    found = NUMBER.search(cell)
    if found is None:
        raise _Unread(f"“{cell}” is no number.")
    text = found.group().strip().replace("'", "").replace(" ", "")
    if pointed is None and GROUPED.match(text):
        raise _Unread(
            f"Is “{text}” {re.sub('[.,]', '', text)} or {text.replace(',', '.')}? Write it without the mark."
        )
    point = pointed or ("," if "," in text else ".")
    other = "." if point == "," else ","
    try:
        value = float(text.replace(other, "").replace(point, "."))
    except ValueError:
        raise _Unread(f"“{cell}” is no number.") from None
    if value < 0:
        raise _Unread(f"{value:g} is less than nothing.")
    if value > 10_000_000:
        raise _Unread(f"{value:g} is more than a boat's part can be.")
    return value


def read_prices(text: str) -> ReadPrices:
    """Prices of a CSV text; every row that is wrong is told, and the others kept.

    Parameters
    ----------
    text : str

    Raises
    ------
    UnreadableFile
        Where there is no column of names, or none of prices or masses.
    """
    first = text.partition("\n")[0]
    mark = max(("\t", ";", ","), key=first.count)
    rows = rows_of(text, mark)
    columns = _columns(rows[0]) if rows else {}
    if "name" not in columns or not {"price", "mass_kg"} & set(columns):
        raise UnreadableFile([Problem(code="no_columns", message="This table has no names with prices.",
                                      field="/text", accepted=WANTED)])  # fmt: skip
    pointed = {
        name: _pointed([row[at] for row in rows[1:MOST_ROWS] if at < len(row)])
        for name, at in columns.items() if name != "name"
    }  # fmt: skip
    found: list[PriceRow] = []
    wrong: list[LineProblem] = []
    for line, row in enumerate(rows[1:], start=2):
        if not any(cell.strip() for cell in row):
            continue
        if len(found) + len(wrong) >= MOST_ROWS:
            wrong.append(LineProblem(line=line, text="", message="This row and those after it were left.",
                                     accepted=f"{MOST_ROWS} rows"))  # fmt: skip
            break
        told = ", ".join(row)[:120]
        try:
            name = unmarked(row[columns["name"]].strip())[:LONGEST_NAME] if columns["name"] < len(row) else ""
            if not name:
                raise _Unread("This row has no name.")
            values = {
                key: _number(row[at], pointed[key]) if at < len(row) else None
                for key, at in columns.items() if key != "name"
            }  # fmt: skip
        except _Unread as reason:
            wrong.append(
                LineProblem(
                    line=line, text=told, message=str(reason), accepted="a number such as 96 or 96.50"
                )
            )
            continue
        found.append(PriceRow(name=name, price=values.get("price"), mass_kg=values.get("mass_kg"),
                              quantity=values.get("quantity")))  # fmt: skip
    return ReadPrices(rows=found, problems=wrong)
