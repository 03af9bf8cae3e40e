"""A line as a device sends it: plain JSON, an NMEA 0183 sentence, or a JSON delta of paths and values.

A plain JSON line names a reading's entries: {"of": "canopy-controller", "pv_w": 310, "pv_v": 57.2}. A delta
is {"updates": [{"values": [{"path": "electrical.solar.canopy.panelPower", "value": 310}]}]}: the path says
what it is, in SI units, angles aside.
"""

from __future__ import annotations

import json
import re
from math import isfinite
from typing import NamedTuple

import pynmea2

from parhelion.design.logbook import VALUES
from parhelion.design.part import Choice
from parhelion.formats.nmea_log import nmea_values

LONGEST_LINE = 4_000
PATHS = (  # what the end of a path says, and what it begins with
    (r"^electrical\.solar\..*(panel)?power$", "pv_w"), (r"^electrical\.solar\..*panelvoltage$", "pv_v"),
    (r"^electrical\.solar\..*panelcurrent$", "pv_a"),
    (r"^electrical\.batteries\..*stateofcharge$", "charge_frac"),
    (r"^electrical\.batteries\..*voltage$", "bank_v"), (r"^electrical\.batteries\..*current$", "bank_a"),
    (r"^propulsion\..*power$", "motor_w"), (r"^electrical\.loads\..*power$", "house_w"),
    (r"^navigation\.speedthroughwater$", "speed_mps"), (r"^navigation\.speedoverground$", "ground_mps"),
    (r"^environment\.wind\.speed(true|overground)?$", "wind_mps"),
)  # fmt: skip


class Form(Choice):
    """How a device speaks."""

    JSON_LINES = "json_lines", "plain JSON lines, TCP"
    NMEA_TCP = "nmea_tcp", "NMEA 0183, TCP"
    NMEA_UDP = "nmea_udp", "NMEA 0183, UDP"
    DELTAS = "deltas", "JSON deltas, WebSocket"


class Said(NamedTuple):
    """What a line says; `of` a part that the line itself names."""

    values: dict[str, float]
    of: str | None = None


class NoLine(ValueError):
    """A line that says nothing that is known."""


def _number(value: object) -> float | None:
    if isinstance(value, bool) or not isinstance(value, int | float) or not isfinite(value):
        return None
    return float(value)


def _plain(document: dict[str, object]) -> Said:
    values = {n: v for n, raw in document.items() if n in VALUES and (v := _number(raw)) is not None}
    of = document.get("of")
    return Said(values, of if isinstance(of, str) and 0 < len(of) <= 160 else None)


def _delta(document: dict[str, object]) -> Said:
    found: dict[str, float] = {}
    updates = document.get("updates")
    for update in updates if isinstance(updates, list) else []:
        told = update.get("values") if isinstance(update, dict) else None
        for one in told if isinstance(told, list) else []:
            if not isinstance(one, dict):
                continue
            path, value = str(one.get("path", "")).lower(), _number(one.get("value"))
            name = next((name for sign, name in PATHS if re.search(sign, path)), None)
            if name is not None and value is not None:
                found[name] = value
    return Said(found)


def line_values(line: str, form: Form) -> Said:
    """What a line says, by the entries of a reading.

    Raises
    ------
    NoLine
        Where it is none of that form, or says nothing that is read here.
    """
    if len(line) > LONGEST_LINE:
        raise NoLine("a line longer than any device's")
    if form in (Form.NMEA_TCP, Form.NMEA_UDP):
        start = max(line.find("$"), 0)
        try:
            values = nmea_values(pynmea2.parse(line[start:].strip(), check=True))
        except (pynmea2.ParseError, ValueError, IndexError):
            raise NoLine("no sentence, or its sum is wrong") from None
        return Said(values)  # a sentence of another kind says nothing, and is none the worse
    try:
        document = json.loads(line)
    except (ValueError, RecursionError):
        raise NoLine("no JSON") from None
    if not isinstance(document, dict):
        raise NoLine("no object")
    said = _delta(document) if form is Form.DELTAS else _plain(document)
    if not said.values and form is Form.JSON_LINES:
        raise NoLine(f"none of {', '.join(VALUES[:8])} …")
    return said
