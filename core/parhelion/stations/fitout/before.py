"""Before the first trip: a short list made from this boat, and nothing on it that she does not have."""

from __future__ import annotations

from dataclasses import dataclass

from parhelion.design import HIDDEN, BoatDesign, PlaceKind
from parhelion.design.records import Records, TickNote


@dataclass(frozen=True)
class Check:
    """Something to look at; `harm` where leaving it hurts somebody."""

    key: str
    words: str
    harm: bool = False


ALWAYS = (
    Check("seals", "Plugs, glands and seals dry after an hour afloat; bilge looked at", True),
    Check("second_way", "A second way home aboard, and tried: oars, paddle, sail, pedals, a tow", True),
    Check("bailer", "Something to bail with, life jackets for all, lights that light", True),
    Check("weather", "Forecast, wind and tide looked at for the whole day, not for now", True),
    Check("call", "Somebody ashore knows the way, the hour, and when to call", True),
    Check("ramp", "The ramp: does it float her both ways, and at which water?", False),
    Check("short_trip", "The first trip is short, near the shore, and up wind first", False),
)


def checks_of(design: BoatDesign) -> list[Check]:
    """The list of a boat, what can hurt first."""
    found = list(ALWAYS)
    kinds = {design.place(group.place_id).kind for group in design.panels}
    folds = any(place.stands.trailer.how in HIDDEN for place in design.places)
    if PlaceKind.WING in kinds or PlaceKind.RAIL in kinds or any(p.hinged for p in design.places):
        found.append(
            Check("wings", "Hinges, pins and stays of all that folds: the wind they are for is known", True)
        )
    if kinds & {PlaceKind.CANOPY, PlaceKind.BIMINI, PlaceKind.ARCH}:
        found.append(
            Check("top", "Everybody to one side at the dock: how far does she heel with that on top?", True)
        )
        found.append(Check("height", "Height over the water against every bridge and wire on the way", True))
    if folds or design.displacement_kg < TRAILED_KG:
        found.append(
            Check(
                "trailer", "On the trailer: array folded or tied, width, height and loads as the law has it"
            )
        )
    if design.banks:
        found.append(
            Check("switches", "Everybody aboard can find the main switch and the breaker in the dark", True)
        )
        found.append(Check("full", "The bank was full once, and its meter set to 100 % then"))
    if len(design.drives) == 1 and design.drives[0].count == 1:
        found.append(Check("spare", "One motor: spare propeller, pins, fuse and the tool for each", False))
    return sorted(found, key=lambda check: not check.harm)


TRAILED_KG = 1_500.0


def ticks_of(design: BoatDesign, records: Records) -> list[tuple[Check, TickNote | None]]:
    """The list with what was looked at."""
    ticks = records.ticks
    return [(check, ticks.get(check.key)) for check in checks_of(design)]
