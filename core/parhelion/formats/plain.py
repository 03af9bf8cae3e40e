"""Quantities, sentences and findings as plain text for the terminal: knots, nautical miles, metric."""

from __future__ import annotations

import json
import re
from collections.abc import Callable, Iterable
from typing import Any, TextIO

from pydantic import BaseModel

from parhelion.finding import Finding
from parhelion.quantities import Quantity, Sentence
from parhelion.units import M_PER_NAUTICAL_MILE, MPS_PER_KNOT


def _watts(value: float) -> str:
    return f"{value:,.0f} W" if abs(value) < 9_999.5 else f"{value / 1000:.1f} kW"


def _watt_hours(value: float) -> str:
    return f"{value:.0f} Wh" if abs(value) < 999.5 else f"{value / 1000:.1f} kWh"


def _hours(value: float) -> str:
    minutes, minus = round(abs(value) * 60), "-" if value < 0 else ""
    return f"{minus}{minutes} min" if minutes < 60 else f"{minus}{minutes // 60} h {minutes % 60:02d}"


def _clock(value: float) -> str:
    minutes = round(value) % 1440
    return f"{minutes // 60:02d}:{minutes % 60:02d}"


_FORMATS: dict[str, Callable[[float], str]] = {
    "speed_mps": lambda v: f"{v / MPS_PER_KNOT:.1f} kn",
    "distance_m": lambda v: f"{v / M_PER_NAUTICAL_MILE:.1f} nm",
    "length_m": lambda v: f"{v:.2f} m",
    "area_m2": lambda v: f"{v:.2f} m²",
    "force_n": lambda v: f"{v:,.0f} N",
    "mass_kg": lambda v: f"{v:,.0f} kg",
    "power_w": _watts,
    "energy_wh": _watt_hours,
    "fraction": lambda v: f"{100 * v:.0f} %",
    "ratio": lambda v: f"{v:.1f}×",
    "duration_h": _hours,
    "days": lambda v: f"{v:.1f} days",
    "angle_deg": lambda v: f"{v:.0f}°",
    "temperature_c": lambda v: f"{v:.0f} °C",
    "count": lambda v: f"{v:.0f}",
    "clock_min": _clock,
    "money": lambda v: f"{v:,.0f} coins",
    "voltage_v": lambda v: f"{v:.1f} V",
    "current_a": lambda v: f"{v:,.0f} A",
    "rpm": lambda v: f"{v:,.0f} rpm",
    "years": lambda v: f"{v:.0f} year{'' if round(v) == 1 else 's'}",
    "capacity_ah": lambda v: f"{v:,.0f} Ah",
}


def shown(quantity: Quantity) -> str:
    """A quantity as text, e.g. ``3.1 kn``."""
    if isinstance(quantity.value, str):
        return quantity.value
    text = _FORMATS[quantity.quantity](quantity.value)
    return f"+{text}" if quantity.signed and quantity.value >= 0 else text


WITHOUT_UNIT = ("duration_h", "clock_min", "ratio", "count")
SPAN = re.compile(r"(from )?\{(\w+)\} to \{(\w+)\}")


def _split(quantity: Quantity) -> tuple[str, str]:
    """A quantity's number and its unit with what parts them."""
    text = shown(quantity)
    if isinstance(quantity.value, str) or quantity.quantity in WITHOUT_UNIT:
        return text, ""
    number, unit = (text[:-1], "°") if text.endswith("°") else text.split(" ", 1)
    return number, unit if unit == "°" else f" {unit}"


def told(sentence: Sentence) -> str:
    """A sentence with its slots filled in; of a span the unit is said once."""

    def span(found: re.Match[str]) -> str:
        start, low, high = found[1] or "", sentence.slots.get(found[2]), sentence.slots.get(found[3])
        if low is None or high is None:
            return found[0]
        (least, of), (most, unit) = _split(low), _split(high)
        if not unit or of != unit:
            return found[0]
        return start + ("" if least == most and not start else f"{least} to ") + most + unit

    text = SPAN.sub(span, sentence.text)
    return text.format(**{name: shown(value) for name, value in sentence.slots.items()})


def miles(metres: float) -> str:
    """A distance in a column of its own."""
    return f"{metres / M_PER_NAUTICAL_MILE:6.1f} nm"


def print_json(value: Any, out: TextIO) -> None:
    """A document, an answer or none, in SI units."""
    document = value.model_dump(mode="json") if isinstance(value, BaseModel) else value
    json.dump(document, out, indent=2, ensure_ascii=False)
    out.write("\n")


def print_told(lines: Iterable[Sentence], out: TextIO) -> None:
    """Sentences, one a line."""
    for line in lines:
        out.write(f"- {told(line)}\n")


def print_findings(findings: list[Finding], out: TextIO) -> None:
    """Findings, warnings first."""
    out.write("\n")
    for finding in findings:
        mark = {"warn": "!", "note": "-", "good": "+"}[finding.level]
        out.write(f"{mark} {told(finding.title)}. {told(finding.detail)}\n")


def with_findings(picture: BaseModel, findings: list[Finding]) -> dict[str, Any]:
    """A picture and what it tells, as one document."""
    told_json = [finding.model_dump(mode="json") for finding in findings]
    return {**picture.model_dump(mode="json"), "findings": told_json}
