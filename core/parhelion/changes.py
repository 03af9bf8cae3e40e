"""What differs between two designs, entry by entry, in words."""

from __future__ import annotations

from typing import Any

from parhelion.design import BoatDesign
from parhelion.quantities import Frozen

UNITS = {  # the last word of an entry's name, as a person writes it
    "m": "m", "m2": "m²", "kg": "kg", "w": "W", "v": "V", "ah": "Ah", "a": "A", "deg": "°", "c": "°C",
    "mps": "m/s", "frac": "share",
}  # fmt: skip


class Change(Frozen):
    """One entry that differs; an empty side means it is not there."""

    field: str  # JSON Pointer
    label: str
    before: str
    after: str


def _flat(value: Any, path: tuple[str, ...] = ()) -> dict[tuple[str, ...], Any]:
    if isinstance(value, dict) and value:
        return {k: v for key, item in value.items() for k, v in _flat(item, (*path, key)).items()}
    if isinstance(value, list) and value:
        return {k: v for index, item in enumerate(value) for k, v in _flat(item, (*path, str(index))).items()}
    return {path: value}


def _label(path: tuple[str, ...]) -> str:
    words = " ".join(str(int(part) + 1) if part.isdigit() else part for part in path).split("_")
    if words[-1] in UNITS:
        words[-1] = f"({UNITS[words[-1]]})"
    return " ".join(words)


def _text(value: Any) -> str:
    if value is None or value in ([], {}):
        return ""
    return f"{value:.6g}" if isinstance(value, float) else str(value)


def changes(before: BoatDesign, after: BoatDesign) -> list[Change]:
    """Every entry that differs from one design to another, in the document's order."""
    old, new = (_flat(design.model_dump(mode="json")) for design in (before, after))
    return [
        Change(
            field="/" + "/".join(path),
            label=_label(path),
            before=_text(old.get(path)),
            after=_text(new.get(path)),
        )
        for path in dict.fromkeys([*old, *new])
        if old.get(path) != new.get(path)
    ]
