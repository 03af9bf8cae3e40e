"""Numbers of a table's cells, thousands and decimal commas told apart.

References
----------
[1] A comma before three digits is thousands or a decimal, told by the other cells of its column; where they
    do not tell, the row is left and the person asked.
"""

from __future__ import annotations

import re

NUMBER = re.compile(r"[-+]?\d[\d.,' ]*")
GROUPED = re.compile(r"^\d{1,3}([.,' ]\d{3})+$")
LONGEST_CELL = 80
MOST = 10_000_000


class Unread(Exception):
    """A cell that cannot be read, and why."""

    def __init__(self, message: str, accepted: str = "a number such as 96 or 96.50") -> None:
        super().__init__(message)
        self.accepted = accepted


def columns_named(header: list[str], heads: dict[str, tuple[str, ...]]) -> dict[str, int]:
    """Where each thing stands, by the words that its column's heading may hold."""
    found: dict[str, int] = {}
    for index, cell in enumerate(header[:40]):
        low = cell.strip().lower()[:60]
        for name, words in heads.items():
            if name not in found and any(re.search(rf"\b{re.escape(word)}\b", low) for word in words):
                found[name] = index
                break
    return found


def pointed(cells: list[str]) -> str | None:
    """Which sign is the decimal point of a column [1]; None where nothing tells."""
    said = set()
    for cell in cells:
        number = NUMBER.search(cell[:LONGEST_CELL])
        text = number.group().strip() if number else ""
        marks = [c for c in text if c in ".,"]
        if not marks:
            continue
        last = marks[-1]
        after = len(text) - text.rfind(last) - 1
        if after != 3 or len(set(marks)) == 2:
            said.add(last)
    return said.pop() if len(said) == 1 else None


def number_in(cell: str, point: str | None) -> float | None:
    """The number of a cell whatever stands about it; None where the cell is empty.

    Parameters
    ----------
    cell : str
    point : str or None
        The decimal sign of its column, as `pointed` tells it.

    Raises
    ------
    Unread
    """
    cell = cell.strip()[:LONGEST_CELL]
    if not cell:
        return None
    found = NUMBER.search(cell)
    if found is None:
        raise Unread(f"“{cell}” is no number.")
    text = found.group().strip().replace("'", "").replace(" ", "")
    if point is None and GROUPED.match(text):
        raise Unread(
            f"Is “{text}” {re.sub('[.,]', '', text)} or {text.replace(',', '.')}? Write it without the mark."
        )
    point = point or ("," if "," in text else ".")
    other = "." if point == "," else ","
    try:
        value = float(text.replace(other, "").replace(point, "."))
    except ValueError:
        raise Unread(f"“{cell}” is no number.") from None
    if value < 0:
        raise Unread(f"{value:g} is less than nothing.")
    if value > MOST:
        raise Unread(f"{value:g} is more than a boat's part can be.")
    return value
