"""Reference cases and a boat to change, shared by the tests."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

from parhelion.design import BoatDesign

REFERENCES = Path(__file__).parent / "references"


def cases(name: str) -> dict[str, dict[str, Any]]:
    """The reference cases of one file by their id."""
    content = json.loads((REFERENCES / f"{name}.json").read_text(encoding="utf-8"))
    return {case["id"]: case for case in content["cases"]}


def boat(**changes: Any) -> BoatDesign:
    """A launch on a clear June day; `changes` replace top-level parts, dotted keys replace entries."""
    document = json.loads((REFERENCES / "boat-v1.json").read_text(encoding="utf-8"))
    document["plan"]["sky"] = "clear"
    for path, value in changes.items():
        node = document
        *parents, last = path.split("__")
        for key in parents:
            node = node[int(key)] if isinstance(node, list) else node[key]
        node[int(last) if isinstance(node, list) else last] = value
    return BoatDesign.model_validate(document)
