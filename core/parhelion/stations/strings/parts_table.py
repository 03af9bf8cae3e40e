"""The parts of a wiring as CSV."""

from __future__ import annotations

from parhelion.formats.table import written_table
from parhelion.wiring.parts import Part

COLUMNS = ("kind", "item", "quantity", "unit", "where")


def written_parts(parts: list[Part]) -> str:
    """One part a row, with a header."""
    rows = [[part.kind, part.item, f"{part.quantity:g}", part.unit, part.where] for part in parts]
    return written_table([COLUMNS, *rows])
