"""Sentences with typed numbers in them, put into the reader's units only where they are shown."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel, ConfigDict

QuantityKind = Literal[
    "speed_mps", "distance_m", "length_m", "mass_kg", "power_w", "energy_wh", "fraction", "ratio",
    "duration_h", "days", "angle_deg", "temperature_c", "count", "clock_min", "money", "capacity_ah",
    "voltage_v", "current_a", "rpm", "years", "area_m2", "force_n", "text",
]  # fmt: skip


class Frozen(BaseModel):
    """A value object of an answer; a number in it that is none, or has no end, is refused."""

    model_config = ConfigDict(frozen=True, allow_inf_nan=False)


class Quantity(Frozen):
    """A number with what it is; `signed` asks for an explicit plus."""

    quantity: QuantityKind
    value: float | str
    signed: bool = False


class Sentence(Frozen):
    """Words with named slots, e.g. ``"Half a knot less: {gain}"``."""

    text: str
    slots: dict[str, Quantity] = {}


class Fact(Frozen):
    """One labelled input of a reasoning."""

    label: str
    value: Quantity


class Why(Frozen):
    """The reasoning behind a number: inputs, method by name, source, uncertainty."""

    method: str
    source: str
    inputs: list[Fact] = []
    band: Sentence | None = None
    doc: str | None = None  # page under docs/methods


def sentence(text: str, /, **slots: Quantity) -> Sentence:
    """A sentence with its slots filled by quantities."""
    return Sentence(text=text, slots=slots)


def speed(value: float, signed: bool = False) -> Quantity:
    return Quantity(quantity="speed_mps", value=float(value), signed=signed)


def distance(value: float, signed: bool = False) -> Quantity:
    return Quantity(quantity="distance_m", value=float(value), signed=signed)


def power(value: float, signed: bool = False) -> Quantity:
    return Quantity(quantity="power_w", value=float(value), signed=signed)


def energy(value: float) -> Quantity:
    return Quantity(quantity="energy_wh", value=float(value))


def mass(value: float, signed: bool = False) -> Quantity:
    return Quantity(quantity="mass_kg", value=float(value), signed=signed)


def length(value: float) -> Quantity:
    return Quantity(quantity="length_m", value=float(value))


def fraction(value: float, signed: bool = False) -> Quantity:
    return Quantity(quantity="fraction", value=float(value), signed=signed)


def force(value: float) -> Quantity:
    return Quantity(quantity="force_n", value=float(value))


def ratio(value: float) -> Quantity:
    return Quantity(quantity="ratio", value=float(value))


def hours(value: float, signed: bool = False) -> Quantity:
    return Quantity(quantity="duration_h", value=float(value), signed=signed)


def days(value: float) -> Quantity:
    return Quantity(quantity="days", value=float(value))


def angle(value: float) -> Quantity:
    return Quantity(quantity="angle_deg", value=float(value))


def temperature(value: float) -> Quantity:
    return Quantity(quantity="temperature_c", value=float(value))


def so_many(number: float, one: str, slot: str = "n") -> str:
    """Words for a number of things, to stand in a sentence: ``"{n} panel"`` or ``"{n} panels"``."""
    return f"{{{slot}}} {one}" + ("" if number == 1 else "es" if one.endswith("x") else "s")


def count(value: float) -> Quantity:
    return Quantity(quantity="count", value=float(value))


def clock(minutes: float) -> Quantity:
    """Minutes after local midnight, shown as a time of day."""
    return Quantity(quantity="clock_min", value=float(minutes))


def area(value: float) -> Quantity:
    return Quantity(quantity="area_m2", value=float(value))


def money(value: float) -> Quantity:
    return Quantity(quantity="money", value=float(value))


def volts(value: float) -> Quantity:
    return Quantity(quantity="voltage_v", value=float(value))


def amps(value: float) -> Quantity:
    return Quantity(quantity="current_a", value=float(value))


def capacity(value: float) -> Quantity:
    return Quantity(quantity="capacity_ah", value=float(value))


def rpm(value: float) -> Quantity:
    return Quantity(quantity="rpm", value=float(value))


def years(value: float) -> Quantity:
    return Quantity(quantity="years", value=float(value))


def words(value: str) -> Quantity:
    return Quantity(quantity="text", value=value)
