"""What every piece of the document is made of, and the words that its entries are drawn from.

An entry says its label, a word of help, its bounds and its default once (`entry`); its quantity follows from
its name, which carries the unit. A piece's first example is what a new one begins with. The published JSON
Schema carries all of it: benches, errors, differences and the terminal are drawn from there.
"""

from __future__ import annotations

import unicodedata
from collections.abc import Callable
from datetime import time as Time
from enum import StrEnum
from typing import Annotated, Any, LiteralString, Self

from pydantic import AfterValidator, BaseModel, ConfigDict, Field, GetJsonSchemaHandler
from pydantic.json_schema import JsonSchemaValue
from pydantic_core import CoreSchema, PydanticCustomError

from parhelion.quantities import QuantityKind

Id = Annotated[str, Field(min_length=1, max_length=40, pattern=r"^[A-Za-z0-9_-]+$")]
JOINERS = {"\u200c", "\u200d"}  # within words of some scripts, and within emoji


def control_characters(text: str) -> list[str]:
    """The characters of a text that are not shown: ends of lines, nulls, turns of the writing's direction."""
    return [one for one in text if unicodedata.category(one) in ("Cc", "Cf") and one not in JOINERS]


def _plain(name: str) -> str:
    if control_characters(name):
        raise out_of_reach("This name holds characters that cannot be seen.", "", "letters, digits and signs")
    if not name.strip():
        raise out_of_reach("A name cannot be blank.", "", "at least one letter or digit")
    return name.strip()


Name = Annotated[str, Field(min_length=1, max_length=80), AfterValidator(_plain)]
Clock = Annotated[Time, AfterValidator(lambda clock: clock.replace(tzinfo=None))]  # of the place, always
Share = Annotated[float, Field(ge=0, le=1)]

BY_NAME: dict[str, QuantityKind] = {  # the last word of an entry's name: what it is
    "m": "length_m", "m2": "area_m2", "kg": "mass_kg", "w": "power_w", "wh": "energy_wh", "v": "voltage_v",
    "a": "current_a", "ah": "capacity_ah", "deg": "angle_deg", "c": "temperature_c", "mps": "speed_mps",
    "n": "force_n", "frac": "fraction", "share": "fraction", "efficiency": "fraction", "rpm": "rpm",
    "price": "money", "years": "years", "day": "duration_h",
}  # fmt: skip
STEPS: dict[QuantityKind, float] = {  # what an arrow key adds, in the unit that is shown
    "length_m": 0.1, "distance_m": 0.1,
    "area_m2": 0.1, "mass_kg": 1, "power_w": 10, "energy_wh": 100, "voltage_v": 0.1,
    "current_a": 1, "capacity_ah": 10, "angle_deg": 5, "temperature_c": 1, "speed_mps": 0.1, "force_n": 5,
    "fraction": 1, "rpm": 50, "money": 10, "years": 1, "duration_h": 0.5, "days": 1, "count": 1,
    "ratio": 0.01,
}  # fmt: skip


class Choice(StrEnum):
    """One of a few, each with its words."""

    label: str

    def __new__(cls, value: str, label: str = "") -> Self:
        choice = str.__new__(cls, value)
        choice._value_ = value
        choice.label = label
        return choice

    @classmethod
    def __get_pydantic_json_schema__(
        cls, core_schema: CoreSchema, handler: GetJsonSchemaHandler
    ) -> JsonSchemaValue:
        schema = handler(core_schema)
        handler.resolve_ref_schema(schema)["labels"] = {choice.value: choice.label for choice in cls}
        return schema


def entry(
    label: str,
    hint: str = "",
    *,
    step: float | None = None,
    unit: str | None = None,
    quantity: QuantityKind | None = None,
    labels: dict[str, str] | None = None,
    of: str | None = None,
    empty: str | None = None,
    **field: Any,
) -> Any:
    """An entry of the document with the words and numbers that a bench draws it from.

    Parameters
    ----------
    label : str
    hint : str, optional
        A word of help.
    step : float, optional
        What an arrow key adds, in the unit that is shown; usual for the quantity where it is not given.
    unit : str, optional
        The unit's sign, where it is not that of the quantity.
    quantity : str, optional
        What it is, where its name does not say so.
    labels : dict, optional
        Words of the values to choose from.
    of : str, optional
        The list of the design whose parts it names one of.
    empty : str, optional
        Words of no choice.
    **field
        Default, bounds and examples, as pydantic's `Field` has them.
    """
    said = {"step": step, "unit": unit, "quantity": quantity, "labels": labels, "of": of, "empty": empty}
    extra: Any = {name: word for name, word in said.items() if word is not None}
    return Field(title=label, description=hint or None, json_schema_extra=extra or None, **field)


def begins(*examples: dict[str, Any], **example: Any) -> ConfigDict:
    """What a new part is begun with beside its defaults; several where its first choice differs."""
    return ConfigDict(json_schema_extra={"examples": [*examples, *([example] if example else [])]})


def quantity_of(name: str, kinds: set[str]) -> QuantityKind | None:
    """What a number is, by the last word of its entry's name; None for no number."""
    if "number" in kinds:
        return BY_NAME.get(name.rsplit("_", 1)[-1], "ratio")
    return "count" if "integer" in kinds else None


def _kinds(schema: dict[str, Any]) -> set[str]:
    """The JSON types of an entry, or of the items of a list of numbers."""
    inner = [schema, *schema.get("anyOf", ()), schema.get("items", {})]
    return {item["type"] for item in inner if isinstance(item.get("type"), str)}


class Part(BaseModel):
    """A piece of the document; frozen, so that a changed boat is a new boat."""

    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False)
    __slots__ = ("_hashed", "_like")

    def __hash__(self) -> int:
        """By the entries that are there: of a slice of a piece as well (`reads`). Kept: parts are frozen."""
        try:
            return _hash_of(self)
        except AttributeError:
            found = hash(tuple(vars(self).values()))
            object.__setattr__(self, "_like", None)  # there to be read: a missing one costs ten times as much
            object.__setattr__(self, "_hashed", found)
            return found

    def __eq__(self, other: object) -> bool:
        """By their entries, looked at once: two that were alike know it from then on, being frozen."""
        if self is other:
            return True
        if not isinstance(other, Part):
            return NotImplemented
        mine, others = _first_like(self), _first_like(other)
        if mine is others:
            return True
        if hash(mine) != hash(others):
            return False
        if type(mine) is not type(others) or vars(mine) != vars(others):
            return False
        low, high = (mine, others) if id(mine) < id(others) else (others, mine)
        object.__setattr__(high, "_like", low)  # always one way: two threads cannot point them at each other
        return True

    @classmethod
    def __get_pydantic_json_schema__(
        cls, core_schema: CoreSchema, handler: GetJsonSchemaHandler
    ) -> JsonSchemaValue:
        schema = handler(core_schema)
        for name, entry in handler.resolve_ref_schema(schema)["properties"].items():
            quantity = entry.get("quantity") or quantity_of(name, _kinds(entry))
            if quantity:
                entry["quantity"] = quantity
                entry.setdefault("step", STEPS[quantity])
        return schema


def _first_like(part: Part) -> Part:
    """The part that stands for all that this one was found to be like; itself where that is none."""
    try:
        while (like := _like_of(part)) is not None:
            part = like
    except AttributeError:
        hash(part)  # from now on there is a place for it
    return part


_like_of: Callable[[Part], Part | None] = Part.__dict__["_like"].__get__
_hash_of: Callable[[Part], int] = Part.__dict__["_hashed"].__get__


class Point(Part):
    """A point of the boat frame [m]."""

    x_m: float = entry("To starboard", "From the centreline; to port is negative", ge=-100, le=100, step=0.05)
    y_m: float = entry("Forward", "From amidships; aft is negative", ge=-100, le=100, step=0.05)
    z_m: float = entry("Height", "Above the waterline", ge=-10, le=100, step=0.05)


def out_of_reach(message: LiteralString, field: str, accepted: str, **context: object) -> PydanticCustomError:
    """An error of what cannot be, beside the field it is about; `context` fills the message's slots."""
    return PydanticCustomError("out_of_reach", message, {"accepted": accepted, "field": field, **context})
