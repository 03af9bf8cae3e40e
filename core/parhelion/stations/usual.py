"""What entries that are left empty mean for this boat."""

from __future__ import annotations

from parhelion.quantities import Frozen


class Usual(Frozen):
    """The value that counts while the entry is empty, and from where to where it is usual."""

    value: float
    low: float | None = None
    high: float | None = None


UsualOf = dict[str, Usual]  # by JSON Pointer; only entries that this boat has


def by_pointer(at: str, values: dict[str, float | None]) -> UsualOf:
    """Values of one part's entries, under its pointer."""
    return {f"{at}/{name}": Usual(value=value) for name, value in values.items() if value is not None}
