"""The words of an entry by where it stands: its label and its value as a person reads them."""

from __future__ import annotations

from typing import Any, get_args

from pydantic import BaseModel
from pydantic.fields import FieldInfo

from parhelion.design.boat import BoatDesign
from parhelion.design.part import BY_NAME, Choice
from parhelion.quantities import Quantity, QuantityKind, words

Path = tuple[str, ...]
SYMBOLS = ("Voc", "Isc", "Vmp", "Imp", "Kv", "LCB")


def _inner(annotation: Any) -> tuple[Any, bool]:
    """The piece, choice or plain type in an annotation, and whether it is a list of these."""
    arguments = [kind for kind in get_args(annotation) if kind not in (type(None), Ellipsis)]
    if not arguments or (not isinstance(arguments[0], type) and not get_args(arguments[0])):
        return annotation, False
    inner, many = _inner(arguments[0])
    return inner, many or getattr(annotation, "__origin__", None) is tuple


def _steps(path: Path) -> list[tuple[str, FieldInfo | None, Any]]:
    """Of every part of a path: the entry it names, and what is in it; no entry for an item of a list."""
    found: list[tuple[str, FieldInfo | None, Any]] = []
    kind: Any = BoatDesign
    in_list = False
    for part in path:
        if in_list:
            found.append((part, None, kind))
            in_list = False
            continue
        fields = kind.model_fields if isinstance(kind, type) and issubclass(kind, BaseModel) else {}
        field = fields.get(part)
        if field is None:
            break
        kind, in_list = _inner(field.annotation)
        found.append((part, field, kind))
    return found


def _inside(label: str) -> str:
    """A label within a line of words; a symbol keeps its capital."""
    return (
        label
        if label.split(",", maxsplit=1)[0].split(maxsplit=1)[0] in SYMBOLS
        else label[:1].lower() + label[1:]
    )


def label_of(path: Path, called: dict[Path, str] | None = None) -> str:
    """An entry in words, such as "House bank, volts of one unit".

    Parameters
    ----------
    path : tuple of str
        Names and places in lists (from 0, or an id), as in a JSON Pointer.
    called : dict, optional
        What parts of lists are called, by their paths; else they are numbered.
    """
    said: list[str] = []
    for length, (part, field, _) in enumerate(_steps(path), start=1):
        if field is not None:
            said.append(field.title or part.replace("_", " "))
            continue
        own = (called or {}).get(path[:length])
        said[-1] = own or (f"{said[-1]} {int(part) + 1}" if part.isdigit() else said[-1])
    first, *rest = said or [" ".join(path)]
    return ", ".join([first, *(_inside(word) for word in rest)])


def _number(name: str, field: FieldInfo, value: float) -> Quantity:
    extra = field.json_schema_extra if isinstance(field.json_schema_extra, dict) else {}
    said, unit = extra.get("labels"), extra.get("unit", "")
    if isinstance(said, dict) and f"{value:g}" in said:
        return words(str(said[f"{value:g}"]))
    usual: QuantityKind = "count" if isinstance(value, int) else BY_NAME.get(name.rsplit("_", 1)[-1], "ratio")
    quantity: Any = extra.get("quantity", usual)
    if unit or quantity == "ratio":  # of its own unit
        return words(f"{value * (100 if quantity == 'fraction' else 1):.6g} {unit}".strip())
    return Quantity(quantity=quantity, value=value)


def value_of(path: Path, value: Any) -> Quantity | None:
    """An entry's value as a quantity or in words; None where there is none."""
    if value is None or value in ([], {}, ""):
        return None
    entries = [(name, field, kind) for name, field, kind in _steps(path) if field is not None]
    name, field, kind = entries[-1] if entries else (path[-1], None, None)
    if isinstance(kind, type) and issubclass(kind, Choice):
        return words(kind(value).label)
    if isinstance(value, bool):
        return words("yes" if value else "no")
    if field is None or not isinstance(value, int | float):
        return words(str(value))
    return _number(name, field, value)
