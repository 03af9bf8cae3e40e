"""A person's own price list laid over the parts list."""

from __future__ import annotations

import re
from typing import Annotated

from pydantic import Field

from parhelion.design import BoatDesign
from parhelion.design.records import NO_RECORDS, PartNote, Records
from parhelion.formats.price_table import PriceRow, read_prices
from parhelion.formats.runs_table import LineProblem
from parhelion.quantities import Frozen
from parhelion.stations.fitout.parts import Line, lines_of

MOST_TOLD = 200


class Priced(Frozen):
    """Parts as they would be noted, rows that fit none, and rows that could not be read."""

    notes: list[PartNote]
    without: list[str]
    problems: list[LineProblem]


def _plain(name: str) -> str:
    return re.sub(r"[^a-z0-9]+", " ", name.lower()).strip()


def _fitting(rows: list[PriceRow], lines: list[Line]) -> dict[str, tuple[PriceRow, Line]]:
    """The line that each row names: the same words, or the one line whose name begins with them."""
    names = [(_plain(line.part.name), line) for line in lines]
    found = {}
    for row in rows:
        wanted = _plain(row.name)
        same = [line for name, line in names if name == wanted]
        begun = [line for name, line in names if wanted and name.startswith(wanted + " ")]
        fits = same or (begun if len(begun) == 1 else [])
        if fits:
            found[row.name] = (row, fits[0])
    return found


def priced(
    design: BoatDesign, text: Annotated[str, Field(max_length=2_000_000)], records: Records = NO_RECORDS
) -> Priced:
    """The parts list with the prices of a CSV; nothing is kept by this.

    Parameters
    ----------
    design : BoatDesign
    text : str
        CSV.
    records : Records
    """
    read = read_prices(text)
    lines = lines_of(design, records)
    fits = _fitting(read.rows, lines)
    notes: list[PartNote] = []
    for row, line in fits.values():
        before = line.note
        note = before or PartNote(
            id=f"part-{len(notes)}", part=line.part.key, name=line.part.name[:80], quantity=line.quantity
        )
        changes = {"price": row.price if row.price is not None else note.price,
                   "mass_kg": row.mass_kg if row.mass_kg is not None else note.mass_kg}  # fmt: skip
        notes.append(note.model_copy(update=changes))
    return Priced(
        notes=notes,
        without=[row.name for row in read.rows if row.name not in fits][:MOST_TOLD],
        problems=read.problems[:MOST_TOLD],
    )
