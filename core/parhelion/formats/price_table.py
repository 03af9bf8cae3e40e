"""Prices and masses from a person's own CSV: a name, what one costs, what one weighs, how many are there."""

from __future__ import annotations

from parhelion.errors import Problem, UnreadableFile
from parhelion.formats.cell_number import Unread, columns_named, number_in, pointed
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
    columns = columns_named(rows[0], HEADS) if rows else {}
    if "name" not in columns or not {"price", "mass_kg"} & set(columns):
        raise UnreadableFile([Problem(code="no_columns", message="This table has no names with prices.",
                                      field="/text", accepted=WANTED)])  # fmt: skip
    points = {
        name: pointed([row[at] for row in rows[1:MOST_ROWS] if at < len(row)])
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
                raise Unread("This row has no name.")
            values = {
                key: number_in(row[at], points[key]) if at < len(row) else None
                for key, at in columns.items() if key != "name"
            }  # fmt: skip
        except Unread as reason:
            wrong.append(LineProblem(line=line, text=told, message=str(reason), accepted=reason.accepted))
            continue
        found.append(PriceRow(name=name, price=values.get("price"), mass_kg=values.get("mass_kg"),
                              quantity=values.get("quantity")))  # fmt: skip
    return ReadPrices(rows=found, problems=wrong)
