"""The parts of a wiring as CSV."""

from __future__ import annotations

import csv
import io

from parhelion.wiring.parts import Part

COLUMNS = ("kind", "item", "quantity", "unit", "where")


def written_parts(parts: list[Part]) -> str:
    """One part a row, with a header."""
    text = io.StringIO()
    writer = csv.writer(text)
    writer.writerow(COLUMNS)
    writer.writerows([part.kind, part.item, f"{part.quantity:g}", part.unit, part.where] for part in parts)
    return text.getvalue()
