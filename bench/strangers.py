"""Seventeen boats from nothing but what their owners know: what each is told, as a table in the docs.

Run by `make strangers`; writes docs/strangers.md.
"""

from __future__ import annotations

import json
from datetime import date
from pathlib import Path
from typing import Any

from parhelion.begin.known import Known
from parhelion.begin.new_boat import new_boat
from parhelion.design import BoatDesign, Site
from parhelion.formats.plain import shown, told
from parhelion.rail.answers import answers_for
from parhelion.stations.registry import STATIONS

ROOT = Path(__file__).resolve().parents[1]
PAGE = ROOT / "docs" / "strangers.md"
WHERE = Site(name="Lake Hesper", latitude_deg=47.0, longitude_deg=9.0, altitude_m=400)
JULY = date(2027, 7, 15)
KINDS: dict[str, dict[str, Any]] = json.loads((ROOT / "demo" / "strangers.json").read_text())


def stranger(kind: str) -> BoatDesign:
    """The boat of a kind, as its owner describes it."""
    return new_boat(Known(name=kind, site=WHERE, date=JULY, **KINDS[kind]))


def row(kind: str) -> str:
    """What the boat is told: entries said, the rail's first three cells, and warnings by station."""
    design = stranger(kind)
    rail = answers_for(design).rail
    cells = []
    for cell in rail[:3]:
        value = shown(cell.value) if cell.value else "–"
        band = f" ({shown(cell.band[0])} to {shown(cell.band[1])})" if cell.band else ""
        cells.append(f"{cell.label}: {value}{band}" + (f"; {told(cell.reason)}" if cell.reason else ""))
    warned = [
        told(finding.title)
        for station in STATIONS
        for finding in station.told(design)
        if finding.level == "warn" and not finding.caution
    ]
    return (
        f"| {kind} | {len(KINDS[kind])} | {' · '.join(cells)} | {'; '.join(dict.fromkeys(warned)) or '–'} |"
    )


def main() -> None:
    lines = [
        "# Seventeen strangers",
        "",
        "Boats entered at “New boat” with nothing but what their owners know (`demo/strangers.json`), on a",
        "clear day in July at 47° north. Made by `make strangers`: it says what the program says today.",
        "",
        "| boat | entries | first answer | warned of |",
        "|---|---|---|---|",
        *(row(kind) for kind in KINDS),
    ]
    PAGE.write_text("\n".join(lines) + "\n", encoding="utf-8")
    print(f"{len(KINDS)} boats written to {PAGE.name}")


if __name__ == "__main__":
    main()
