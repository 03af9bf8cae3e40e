"""Tables as CSV that a spreadsheet shows and never runs: what would begin a formula is marked as text."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterable

STARTS = ("=", "+", "-", "@", "\t", "\r")  # of what spreadsheets take for a formula
MARK = "'"
LONGEST_CELL = 8_000_000  # characters; the readers' texts are no longer
csv.field_size_limit(LONGEST_CELL)


def rows_of(text: str, mark: str = ",") -> list[list[str]]:
    """The rows of a CSV text, whatever ends its lines.

    Parameters
    ----------
    text : str
    mark : str
        Between cells.
    """
    plain = text.replace("\ufeff", "").replace("\r\n", "\n").replace("\r", "\n")
    return list(csv.reader(io.StringIO(plain, newline=""), delimiter=mark))


def written_table(rows: Iterable[Iterable[object]]) -> str:
    """Rows as CSV text.

    Parameters
    ----------
    rows : iterable of iterables
        Numbers may be texts; only what is no number is marked.

    Returns
    -------
    str
    """
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerows([_safe(cell) for cell in row] for row in rows)
    return out.getvalue()


def _safe(cell: object) -> object:
    if not isinstance(cell, str) or not cell.startswith(STARTS):
        return cell
    try:
        float(cell)
    except ValueError:
        return MARK + cell
    return cell


def unmarked(text: str) -> str:
    """A cell as it was before it was marked as text."""
    return text[1:] if text.startswith(tuple(MARK + start for start in STARTS)) else text
