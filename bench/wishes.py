"""What a wish costs: the first look, the whole front, and every boat tried without a bound."""

from __future__ import annotations

import time
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
MOST_TRIED = 300  # of the boats there are, run through their days and stretched


def all_ratios() -> None:
    from parhelion.computing.kept import forget_all
    from parhelion.computing.progress import silent
    from parhelion.formats.boat_file import read_boat
    from parhelion.stations.wish.boats import boats_of
    from parhelion.stations.wish.held import does, most_stretch, reach
    from parhelion.stations.wish.search import most_cost, search

    design = read_boat((ROOT / "demo" / "whimbrel.json").read_bytes())
    wish = design.wish
    assert wish is not None
    took = {}
    for few, name in ((True, "first look"), (False, "whole front")):
        forget_all()
        began = time.perf_counter()
        found = search(design, wish, silent, few)
        took[name] = time.perf_counter() - began
        print(
            f"a wish, {name:12s}    {took[name]:7.1f} s   {found.looked_at} boats, {found.cut} cut, "
            f"{found.asked} run  (budget {2 if few else 30})"
        )
    boats = boats_of(found.yard, most_cost(wish))
    question, most = found.yard.question, most_stretch(found.yard.question)
    began = time.perf_counter()
    for boat in boats[:: max(len(boats) // MOST_TRIED, 1)][:MOST_TRIED]:
        numbers = found.yard.numbers(boat)
        reach(lambda s, n=numbers: does(question, n, s), most)  # type: ignore[misc]
    every = (time.perf_counter() - began) / MOST_TRIED * len(boats)
    print(f"  every boat tried       {every:7.0f} s   {every / took['whole front']:6.0f} times the core")
