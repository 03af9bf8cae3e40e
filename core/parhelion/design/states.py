"""The states of a boat, and how what is on deck stands in each."""

from __future__ import annotations

from parhelion.design.part import Choice, Part, entry


class BoatState(Choice):
    UNDER_WAY = "under_way", "under way"
    SAILING = "sailing", "sailing"
    ANCHORED = "anchored", "at anchor"
    DOCK = "dock", "at the dock"
    TRAILER = "trailer", "on the trailer"


LYING = (BoatState.ANCHORED, BoatState.DOCK, BoatState.TRAILER)  # where the shore stays where it is


class How(Choice):
    """How a place stands: as set, at another tilt, or giving nothing."""

    SET = "set", "as set"
    TILTED = "tilted", "at a tilt"
    FOLDED = "folded", "folded"  # aboard, out of the sun and the wind
    COVERED = "covered", "covered"  # in its place, but dark
    GONE = "gone", "gone"  # neither in the sun nor aboard


HIDDEN = (How.FOLDED, How.GONE)  # out of the sun and the wind


class Standing(Part):
    how: How = entry("How it stands", default=How.SET)
    tilt_deg: float = entry("Tilt", default=0, ge=0, le=90)  # where it is tilted


class Stands(Part):
    """How a place stands in each state of the boat."""

    under_way: Standing = entry("Under way", default=Standing())
    sailing: Standing = entry("Sailing", default=Standing())
    anchored: Standing = entry("At anchor", default=Standing())
    dock: Standing = entry("At the dock", default=Standing())
    trailer: Standing = entry("On the trailer", default=Standing())

    def in_state(self, state: BoatState) -> Standing:
        found: Standing = getattr(self, state.value)
        return found
