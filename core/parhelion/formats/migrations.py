"""Older versions of a design file, brought up to date one version at a time.

Each step takes a parsed document of its version and gives one of the next; it changes a copy.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from parhelion.design.part import control_characters

Document = dict[str, Any]


def _from_1(document: Document) -> Document:
    """Version 2: a bank is units in series and parallel; its mass is that of the units."""
    banks = document.get("banks")
    if isinstance(banks, list):
        banks = [_bank_from_1(bank) if isinstance(bank, dict) else bank for bank in banks]
        document = {**document, "banks": banks}
    links = document.get("links")
    if isinstance(links, list):  # version 1 kept links uncounted, and let them join a bank to itself
        kept = [x for x in links if not isinstance(x, dict) or x.get("from_bank_id") != x.get("to_bank_id")]
        document = {**document, "links": kept}
    return {**document, "schema_version": 2}


def _bank_from_1(bank: Document) -> Document:
    renamed = {"nominal_v": "unit_v", "capacity_ah": "unit_ah", "mass_kg": "unit_mass_kg"}
    return {renamed.get(key, key): value for key, value in bank.items()}


def _from_2(document: Document) -> Document:
    """Version 3: from here on every change of shape is a version; nothing of version 2 is renamed."""
    return {**document, "schema_version": 3}


def _from_3(document: Document) -> Document:
    """Version 4: where a bank stands and how warm the water is; left out they are usual."""
    return {**document, "schema_version": 4}


def _from_4(document: Document) -> Document:
    """Version 5: keel and rudder left at nothing are usual for the type, not absent."""
    hull = document.get("hull")
    if isinstance(hull, dict) and hull.get("appendage_area_m2") == 0:
        document = {**document, "hull": {**hull, "appendage_area_m2": None}}
    return {**document, "schema_version": 5}


def _from_5(document: Document) -> Document:
    """Version 6: cells and strings left out are usual for how panels are sold; before, 72 cells alone."""
    panels = document.get("panels")
    if isinstance(panels, list):
        before = {"series": 1, "cells_across": 6, "cells_along": 12}
        panels = [{**before, **panel} if isinstance(panel, dict) else panel for panel in panels]
        document = {**document, "panels": panels}
    return {**document, "schema_version": 6}


def _from_6(document: Document) -> Document:
    """Version 7: passages; and names hold only what can be seen."""
    return {**_named(document), "schema_version": 7}


def _named(value: Any) -> Any:
    if isinstance(value, dict):
        return {key: _seen(item) if key == "name" else _named(item) for key, item in value.items()}
    return [_named(item) for item in value] if isinstance(value, list) else value


def _seen(name: Any) -> Any:
    if not isinstance(name, str):
        return name
    hidden = set(control_characters(name))
    return "".join(one for one in name if one not in hidden).strip() or "unnamed"


def _from_7(document: Document) -> Document:
    """Version 8: frames of places; without one nothing is added."""
    return {**document, "schema_version": 8}


def _from_8(document: Document) -> Document:
    """Version 9: wishes; without one nothing is asked."""
    return {**document, "schema_version": 9}


def _from_9(document: Document) -> Document:
    """Version 10: prices of batteries and motors, a motor's weight; left out they are usual."""
    return {**document, "schema_version": 10}


def _from_10(document: Document) -> Document:
    """Version 11: winds of a passage by the hour; without one the day's stays."""
    return {**document, "schema_version": 11}


def _from_11(document: Document) -> Document:
    """Version 12: days of later skies and winds, waves of these, hours of marks, what she keeps off."""
    return {**document, "schema_version": 12}


MIGRATIONS: dict[int, Callable[[Document], Document]] = {
    1: _from_1, 2: _from_2, 3: _from_3, 4: _from_4, 5: _from_5, 6: _from_6, 7: _from_7,
    8: _from_8, 9: _from_9, 10: _from_10, 11: _from_11,
}  # fmt: skip
