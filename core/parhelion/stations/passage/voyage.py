"""A design's passage with all that is asked of it, each worked out once."""

from __future__ import annotations

from dataclasses import dataclass

from parhelion.balance.ahead import Ahead, ahead_of
from parhelion.computing.kept import once
from parhelion.design import BoatDesign
from parhelion.design.reads import Reads, kept
from parhelion.route.home import Needs
from parhelion.stations.passage.departures import Departure, departures
from parhelion.stations.passage.plans import Plan, chosen, ways
from parhelion.stations.passage.sure import Sure, sure_of
from parhelion.stations.passage.turning import (
    LastTurn,
    Reach,
    Refuge,
    by_hand_h,
    last_turn,
    needs_of,
    reach_of,
    refuges_of,
)


@dataclass(frozen=True, eq=False)
class Voyage:
    """A passage laid out, and what follows from it."""

    ahead: Ahead
    begun: Ahead | None = None  # as it was planned, where she is under way already

    @once
    def planned_soc(self) -> float | None:
        """What the plan had for this place, where she is under way: state of charge."""
        if self.begun is None:
            return None
        plan = chosen(self.begun)
        hour = plan.hour_at(self.ahead.done_m)
        return None if hour is None else plan.soc_at(hour)

    @once
    def planned_h(self) -> float | None:
        """When the plan had her here."""
        return None if self.begun is None else chosen(self.begun).hour_at(self.ahead.done_m)

    @once
    def plan(self) -> Plan:
        """As it is set."""
        return chosen(self.ahead)

    @once
    def ways(self) -> list[Plan]:
        """Beside each other, the plan as it is set first."""
        return ways(self.ahead, self.plan)

    @once
    def turn(self) -> LastTurn | None:
        return last_turn(self.plan, self.needs)

    @once
    def refuges(self) -> list[Refuge]:
        """Those she passes on the way out."""
        return refuges_of(self.plan)

    @once
    def needs(self) -> Needs | None:
        """What the way home needs from every place and hour."""
        return needs_of(self.plan)

    @once
    def reach(self) -> Reach | None:
        """How far she may still go in all and be in."""
        return reach_of(self.plan)

    @once
    def sure(self) -> Sure | None:
        """How many of all skies bring her in."""
        return sure_of(self.plan)

    @once
    def departures(self) -> list[Departure]:
        return departures(self.ahead)

    @once
    def far_h(self) -> float | None:
        """When she is at the far end."""
        return self.plan.hour_at(self.ahead.out_m)

    @once
    def by_hand_h(self) -> float | None:
        """Hours home from the far end without the motor."""
        return None if self.far_h is None else by_hand_h(self.ahead, self.far_h)


VOYAGE_READS = Reads.all_but("name", "note", "wish")


@kept(VOYAGE_READS, 8)
def _voyage(design: BoatDesign) -> Voyage | None:
    passage = design.passage
    if passage is None:
        return None
    if passage.now is None:
        return Voyage(ahead_of(design, passage))
    whole = passage.model_copy(update={"now": None})
    return Voyage(ahead_of(design, passage), ahead_of(design, whole))


def voyage_of(design: BoatDesign) -> Voyage | None:
    """A design's passage; None where it has none. Kept for the last designs asked about."""
    return _voyage(design)


def sure(design: BoatDesign) -> Sure | None:
    """How many of the skies bring her in; None without a passage, a bank or an arrival."""
    voyage = voyage_of(design)
    return None if voyage is None else voyage.sure
