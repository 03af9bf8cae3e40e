"""Reference cases and a boat to change, shared by the tests."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

import numpy as np
from parhelion.bank.joint import Aboard, Joint
from parhelion.bank.store import Store
from parhelion.design import BoatDesign
from parhelion.finding import Finding
from parhelion.formats.migrations import MIGRATIONS
from parhelion.stations.registry import BY_NAME

REFERENCES = Path(__file__).parent / "references"


def cases(name: str) -> dict[str, dict[str, Any]]:
    """The reference cases of one file by their id."""
    content = json.loads((REFERENCES / f"{name}.json").read_text(encoding="utf-8"))
    return {case["id"]: case for case in content["cases"]}


def boat(**changes: Any) -> BoatDesign:
    """A launch on a clear June day; `changes` replace top-level parts, dotted keys replace entries.

    Changes may be written as of schema version 1: they are brought up to date with the rest.
    """
    document = json.loads((REFERENCES / "boat-v1.json").read_text(encoding="utf-8"))
    document["plan"]["sky"] = "clear"
    for path, value in changes.items():
        node = document
        *parents, last = path.split("__")
        for key in parents:
            node = node[int(key)] if isinstance(node, list) else node.setdefault(key, {})
        node[int(last) if isinstance(node, list) else last] = value
    for version in sorted(MIGRATIONS):
        document = MIGRATIONS[version](document)
    return BoatDesign.model_validate(document)


def one_bank(store: Store) -> Aboard:
    """A bank alone, as the kernels take it."""
    return Aboard(store, store, Joint())


def at_banks(sun, own=0.0) -> np.ndarray:
    """Sun at the main bank and at the house's own, shape (..., 2)."""
    sun = np.asarray(sun, dtype=float)
    return np.ascontiguousarray(np.stack([sun, np.broadcast_to(own, sun.shape)], axis=-1))


def house_rows(essential=0.0, other=0.0, own_essential=0.0, own_other=0.0) -> np.ndarray:
    """House watts as the kernels take them, shape (4, 144)."""
    rows = (essential, other, own_essential, own_other)
    return np.array([np.broadcast_to(row, 144) for row in rows], dtype=float)


def motor_rows(motoring=1.0, relief=0.0, idle=0.0) -> np.ndarray:
    """The motor as the kernels take it, shape (3, 144)."""
    return np.array([np.broadcast_to(row, 144) for row in (motoring, relief, idle)], dtype=float)


STEP_H = 1 / 6  # of the ten-minute steps that most cases are made of
HOURS = np.full(144, STEP_H)


def picture(station: str, design: BoatDesign, **asked: Any) -> Any:
    """A station's picture of a design."""
    study = BY_NAME[station].study("picture")
    assert study is not None
    return study.about(design, **asked)


def findings_of(station: str, design: BoatDesign) -> list[Finding]:
    """What a station tells of a design."""
    return BY_NAME[station].told(design)
