"""What a finding is: a short sentence with a number, an action, and the reasoning behind it."""

from __future__ import annotations

from typing import Literal

from parhelion.quantities import Frozen, Sentence, Why

Level = Literal["warn", "note", "good"]
_ORDER = {"warn": 0, "note": 1, "good": 2}


class Finding(Frozen):
    """One finding. `field` points to the entry it is about; a caution warns of harm and always stays."""

    id: str
    level: Level
    title: Sentence
    detail: Sentence
    why: Why
    field: str | None = None
    caution: bool = False


def ordered(found: list[Finding | None]) -> list[Finding]:
    """Findings that fired: warnings first, standing cautions last."""
    return sorted(
        (item for item in found if item is not None), key=lambda item: (item.caution, _ORDER[item.level])
    )
