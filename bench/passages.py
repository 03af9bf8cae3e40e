"""What a passage costs: the best plan beside a plain loop over the same states, and what the screen asks."""

from __future__ import annotations

import sys
from pathlib import Path

import numpy as np
from clock import seconds

ROOT = Path(__file__).resolve().parents[1]
sys.path.insert(0, str(ROOT / "core"))

NM, KNOT = 1852.0, 1852 / 3600
MIDNIGHT_TO_EVENING = 720  # minutes of the twelve hours


def ten_legs() -> tuple:
    """A twelve-hour day of ten legs with turning streams, a limit and a lock."""
    from parhelion.route.best import Laying
    from parhelion.route.charge import watthours
    from parhelion.route.stream import Sine
    from parhelion.route.way import LegAhead, cubic

    legs = [
        LegAhead(
            (2 + k % 3) * NM, (37 * k) % 360, Sine(60, 0.2 + 0.08 * k, 9.0 + 0.3 * k),
            2.0 if k == 3 else None, 1200 if k == 5 else 0,
        )
        for k in range(10)
    ]  # fmt: skip
    minutes = np.arange(MIDNIGHT_TO_EVENING)
    sun = 1200 * np.sin(np.pi * (minutes + 120) / 960)
    laying = Laying(legs, 7.0, 60.0, sun, np.full(MIDNIGHT_TO_EVENING, 60.0))
    bank = watthours(9000, 2700, charge_efficiency=0.96, discharge_efficiency=0.98)
    return laying, cubic(13 / KNOT**3, 20, 8 * KNOT), bank


def all_ratios() -> None:
    from parhelion.formats.boat_file import read_boat
    from parhelion.route.best import COARSE_S, best, cut
    from parhelion.stations.passage import voyage as voyages
    from parhelion.stations.passage.picture import passage_picture
    from parhelion.stations.passage.voyage import sure
    from tests.twins.passage import trade

    laying, boat, bank = ten_legs()
    way = laying.over(COARSE_S)
    pieces = cut(way.length_m)
    first = best(laying, boat, bank, 7200.0, finest_s=COARSE_S)
    assert first is not None
    quick = seconds(lambda: best(laying, boat, bank, 7200.0, finest_s=COARSE_S))
    plain = seconds(lambda: trade(way, boat, bank, pieces.length_m, pieces.leg, 7200.0, 0.25), 1)
    print(f"a day of ten legs, 5 min {1e3 * quick:7.1f} ms")
    print(f"  plain loop             {1e3 * plain:7.1f} ms   {plain / quick:6.0f} times the core")
    for finest, budget in ((60.0, 60), (15.0, 200)):
        took = seconds(lambda finest=finest: best(laying, boat, bank, 7200.0, finest_s=finest))  # type: ignore[misc]
        print(f"  to {finest:3.0f} s               {1e3 * took:7.1f} ms  (budget {budget})")
    design = read_boat((ROOT / "demo" / "sabine.json").read_bytes())
    passage_picture(design)
    sure(design)
    number = 0

    def edited() -> object:
        nonlocal number
        number += 1
        assert design.passage is not None
        changed = design.passage.model_copy(update={"speed_mps": 2.0 + 0.001 * number})
        return design.changed(passage=changed)

    scan = seconds(lambda: voyages.voyage_of(edited()).departures)  # type: ignore[arg-type,union-attr]
    ribbon = seconds(lambda: passage_picture(edited()))  # type: ignore[arg-type]
    skies = seconds(lambda: sure(edited()))  # type: ignore[arg-type]
    print(f"48 departures            {1e3 * scan:7.1f} ms  (budget 400)")
    print(f"an edit's ribbon         {1e3 * ribbon:7.1f} ms  (budget 150)")
    print(f"201 skies                {1e3 * skies:7.1f} ms  (budget 1000)")
