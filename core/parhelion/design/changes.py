"""What differs between two designs, entry by entry, in words."""

from __future__ import annotations

from typing import Any

from parhelion.design import BoatDesign
from parhelion.design.words import Path, label_of, value_of
from parhelion.quantities import Frozen, Quantity, words


class Change(Frozen):
    """One entry that differs; an empty side means it is not there."""

    field: str  # JSON Pointer
    label: str
    before: Quantity | None
    after: Quantity | None


def _flat(value: Any, path: Path = ()) -> dict[Path, Any]:
    """Every entry of a document by its path; parts that have an id stand under it, not under their number."""
    if isinstance(value, dict) and value:
        return {k: v for key, item in value.items() for k, v in _flat(item, (*path, key)).items()}
    if isinstance(value, list) and value:
        found: dict[Path, Any] = {}
        for index, item in enumerate(value):
            own = item.get("id") if isinstance(item, dict) else None
            found |= _flat(item, (*path, f"#{own}" if own else str(index)))
        return found
    return {path: value}


def _names(value: Any, path: Path = ()) -> dict[Path, tuple[str, str]]:
    """Of every part with an id: its number in its list, and what it is called."""
    found: dict[Path, tuple[str, str]] = {}
    items = value.items() if isinstance(value, dict) else enumerate(value) if isinstance(value, list) else ()
    for key, item in items:
        own = item.get("id") if isinstance(item, dict) and isinstance(value, list) else None
        here = (*path, f"#{own}" if own else str(key))
        if own:
            called = item.get("name") or item.get("model") or ""
            found[here] = str(key), str(called)
        found |= _names(item, here)
    return found


def _pointer(path: Path, names: dict[Path, tuple[str, str]]) -> str:
    parts = [names[path[:n]][0] if part.startswith("#") else part for n, part in enumerate(path, start=1)]
    return "/" + "/".join(parts)


def _whole(old: dict[Path, Any], new: dict[Path, Any], names: dict[Path, tuple[str, str]]) -> set[Path]:
    """Parts that are in one of two documents alone."""
    return {
        part
        for part in names
        if len(part) == 2
        and not (any(path[:2] == part for path in old) and any(path[:2] == part for path in new))
    }


def changes(before: BoatDesign, after: BoatDesign) -> list[Change]:
    """Every entry that differs from one design to another, in the document's order.

    A part that is in one of them alone is one change, by its name.
    """
    documents = [design.model_dump(mode="json") for design in (before, after)]
    old, new = (_flat(document) for document in documents)
    names = {**_names(documents[0]), **_names(documents[1])}
    called = {
        path: name or f"{label_of(path[:-1])} {int(number) + 1}" for path, (number, name) in names.items()
    }
    alone = _whole(old, new, names)
    found: list[Change] = []
    told: set[Path] = set()
    for path in dict.fromkeys([*old, *new]):
        if old.get(path) == new.get(path):
            continue
        part = path[:2]
        if part in alone:
            if part not in told:
                told.add(part)
                here = called[part]
                gone = any(other[:2] == part for other in old)
                found.append(
                    Change(
                        field=_pointer(part, names), label=label_of(part[:1]),
                        before=words(here) if gone else None, after=None if gone else words(here),
                    )
                )  # fmt: skip
            continue
        if any(p[: len(path)] == path and len(p) > len(path) for p in (*old, *new)):
            continue  # an empty list on one side; what is in it on the other is told
        found.append(
            Change(
                field=_pointer(path, names), label=label_of(path, called),
                before=value_of(path, old.get(path)), after=value_of(path, new.get(path)),
            )
        )  # fmt: skip
    return found
