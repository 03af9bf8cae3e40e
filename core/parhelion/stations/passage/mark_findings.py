"""What the places along a passage tell: what she keeps off."""

from __future__ import annotations

from parhelion.finding import Finding
from parhelion.quantities import distance, sentence, words
from parhelion.stations.passage.marked import clearances
from parhelion.stations.passage.voyage import Voyage
from parhelion.stations.passage.words import passage_finding, why

METHOD = "The distance of a place from the straight leg that passes it nearest, on a plane about the start"


def too_near(voyage: Voyage) -> list[Finding | None]:
    """Every thing that a leg passes nearer than she keeps clear."""
    passage = voyage.ahead.passage
    found: list[Finding | None] = []
    for index, one in enumerate(clearances(passage)):
        if one.clear:
            continue
        leg = passage.legs[one.leg_index]
        found.append(
            passage_finding(
                f"keep_off/{one.item.id}", "warn",
                sentence(
                    "The leg to {leg} passes {near} off {name}", leg=words(leg.name),
                    near=distance(one.nearest_m), name=words(one.item.name),
                ),
                sentence(
                    "Keep {clear} off: lay a mark beside it. A line knows no stream, leeway or depth.",
                    clear=distance(one.item.clear_m),
                ),
                why(voyage.plan, method=METHOD), f"/passage/keep_off/{index}/clear_m",
            )
        )  # fmt: skip
    return found
