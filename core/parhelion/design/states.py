"""The states of a boat, and how what is on deck stands in each."""

from __future__ import annotations

from enum import StrEnum

from pydantic import Field

from parhelion.design.part import Part


class BoatState(StrEnum):
    UNDER_WAY = "under_way"
    SAILING = "sailing"
    ANCHORED = "anchored"
    DOCK = "dock"
    TRAILER = "trailer"


LYING = (BoatState.ANCHORED, BoatState.DOCK, BoatState.TRAILER)  # where the shore stays where it is


class How(StrEnum):
    """How a place stands: as set, at another tilt, or giving nothing."""

    SET = "set"
    TILTED = "tilted"
    FOLDED = "folded"  # aboard, out of the sun and the wind
    COVERED = "covered"  # in its place, but dark
    GONE = "gone"  # neither in the sun nor aboard


HIDDEN = (How.FOLDED, How.GONE)  # out of the sun and the wind


class Standing(Part):
    how: How = How.SET
    tilt_deg: float = Field(default=0, ge=0, le=90, title="Tilt then")  # where it is tilted


class Stands(Part):
    """How a place stands in each state of the boat."""

    under_way: Standing = Standing()
    sailing: Standing = Standing()
    anchored: Standing = Standing()
    dock: Standing = Standing()
    trailer: Standing = Standing()

    def in_state(self, state: BoatState) -> Standing:
        found: Standing = getattr(self, state.value)
        return found
