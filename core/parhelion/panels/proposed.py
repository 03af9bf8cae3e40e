"""Places for panels that a boat has room for and does not have yet, from her outline and type.

References
----------
[1] Heights over the water and shares of length and beam: typical of small craft. Each stands in the design,
    where it is seen and can be moved; a drawing to begin with, not a builder's.
"""

from __future__ import annotations

from typing import NamedTuple

from parhelion.design import BoatDesign, How, Obstacle, Place, PlaceKind, Point, Side, Standing, Stands
from parhelion.design.array import Under, Ventilation
from parhelion.design.frame import Frame, FrameStock

NEW = "next"
WING_TILT_DEG, WING_WIDE_M, WING_OUT_M = 60.0, 0.72, 0.3  # the last: its middle over the side
WING_ALONG = -0.15  # of the length
RAIL_M_PER_M = 0.15  # a rail's height over the water for each metre of length
LEAST_RAIL_M, ARCH_OVER_RAIL_M, DECK_TO_RAIL = 0.75, 1.2, 0.7
ARCH_HALF_M = 0.6  # narrower boats carry no arch and no cabin top
ROOF_HALF_M = 0.45  # narrower boats carry nothing overhead
WING_HALF_M = 0.3  # narrower boats carry no wings
CABIN_FROM_M = 5.5  # shorter boats have no cabin top
NARROW_DECK = 1.6  # of a wider boat's share of the breadth, on the deck of a narrow one
RACK_M, RACK_OFF_M = 3.6, 3.0  # sides of a rack ashore, and how far from the side it stands
MAST_M = 3.0  # a spar that reaches as high over the water is a mast
OVERLAP = 0.1  # of the smaller place: so much in common and only one of two can be filled
HEIGHTS_M = {PlaceKind.CANOPY: 1.9, PlaceKind.BIMINI: 1.9, PlaceKind.ARCH: 1.9, PlaceKind.CABIN_TOP: 1.2,
             PlaceKind.RAIL: 1.2, PlaceKind.WING: 0.6, PlaceKind.SHORE: 1.5}  # over the water  # fmt: skip
ASHORE = Stands(
    under_way=Standing(how=How.GONE), sailing=Standing(how=How.GONE), anchored=Standing(how=How.GONE),
    trailer=Standing(how=How.GONE),
)  # fmt: skip
LEGGED = Frame(stock=FrameStock.ROUND, leg_m=1.2)
LYING = Frame(stock=FrameStock.ANGLE, size_m=0.025)


class Room(NamedTuple):
    """Where a place of a kind lies on a boat and how large it may be [1]."""

    along: float  # its middle forward of amidships, over the length
    wide: float  # over the breadth
    widest_m: float
    long: float  # over the length
    longest_m: float


ROOMS = {
    PlaceKind.CANOPY: Room(-0.05, 1.0, 3.2, 0.55, 20.0),
    PlaceKind.BIMINI: Room(-0.28, 0.9, 2.6, 0.24, 2.4),
    PlaceKind.CABIN_TOP: Room(0.05, 0.55, 1.9, 0.24, 8.0),
    PlaceKind.ARCH: Room(-0.48, 1.0, 2.4, 1.0, 1.2),
    PlaceKind.DECK: Room(0.25, 0.5, 1.4, 0.25, 1.6),
}


def masts(design: BoatDesign) -> list[Obstacle]:
    """Spars that reach high over the water."""
    return [thing for thing in design.obstacles if max(thing.tip.z_m, thing.foot.z_m) >= MAST_M]


def _new(key: str, name: str, kind: PlaceKind, at: Point, wide_m: float, long_m: float) -> Place:
    lies = kind in (PlaceKind.DECK, PlaceKind.CABIN_TOP)
    frame = None if lies or kind is PlaceKind.SHORE else LYING if kind is PlaceKind.WING else LEGGED
    return Place(
        id=f"{NEW}-{key}", name=name, kind=kind, at=at, width_m=round(wide_m, 2), length_m=round(long_m, 2),
        frame=frame, ventilation=Ventilation.ON_SURFACE if lies else Ventilation.OPEN,
    )  # fmt: skip


def _point(x_m: float, y_m: float, z_m: float) -> Point:
    return Point(x_m=round(x_m, 2), y_m=round(y_m, 2), z_m=round(z_m, 2))


def proposed_places(design: BoatDesign) -> list[Place]:
    """Places of every kind that the boat does not have and has room for, sized from her measures [1].

    Parameters
    ----------
    design : BoatDesign

    Returns
    -------
    list of Place
        Several may lie over each other: see `in_each_others_way`.
    """
    kinds = {place.kind for place in design.places}
    length, half = design.hull.waterline_length_m, design.hull.breadth_m / 2
    rail_m = max(RAIL_M_PER_M * length, LEAST_RAIL_M)
    heights = HEIGHTS_M | {
        PlaceKind.ARCH: rail_m + ARCH_OVER_RAIL_M, PlaceKind.DECK: rail_m * DECK_TO_RAIL
    }  # fmt: skip

    def on_her(key: str, name: str, kind: PlaceKind, wider: float = 1.0) -> Place:
        room = ROOMS[kind]
        at = _point(0.0, room.along * length, heights[kind])
        wide_m = min(2 * half * room.wide * wider, room.widest_m)
        return _new(key, name, kind, at, wide_m, min(room.long * length, room.longest_m))

    found = []
    if not kinds & {PlaceKind.CANOPY, PlaceKind.BIMINI} and half > ROOF_HALF_M:
        if not masts(design):
            found.append(on_her("canopy", "A canopy", PlaceKind.CANOPY))
        found.append(on_her("bimini", "A bimini", PlaceKind.BIMINI))
    if PlaceKind.CABIN_TOP not in kinds and half > ARCH_HALF_M and length > CABIN_FROM_M:
        found.append(on_her("top", "On the cabin top", PlaceKind.CABIN_TOP))
    if not kinds & {PlaceKind.WING, PlaceKind.RAIL} and half > WING_HALF_M:
        long_m = min(ROOMS[PlaceKind.DECK].long * length, ROOMS[PlaceKind.DECK].longest_m)
        for side, sign in ((Side.STARBOARD, 1), (Side.PORT, -1)):
            at = _point(sign * (half + WING_OUT_M), WING_ALONG * length, rail_m)
            name = f"A wing to {side.value}"
            wing = _new(f"wing-{side.value}", name, PlaceKind.WING, at, WING_WIDE_M, long_m)
            hinge = {"faces": side, "tilt_least_deg": 0.0, "tilt_most_deg": WING_TILT_DEG}
            found.append(wing.model_copy(update=hinge))
    if PlaceKind.ARCH not in kinds and half > ARCH_HALF_M:
        found.append(on_her("arch", "An arch over the stern", PlaceKind.ARCH))
    if PlaceKind.DECK not in kinds:
        wider = 1.0 if half > ROOF_HALF_M else NARROW_DECK
        found.append(on_her("deck", "Flat on the foredeck", PlaceKind.DECK, wider))
    if PlaceKind.SHORE not in kinds:
        at = _point(half + RACK_OFF_M, 0.0, HEIGHTS_M[PlaceKind.SHORE])
        rack = _new("rack", "A rack ashore", PlaceKind.SHORE, at, RACK_M, RACK_M)
        found.append(rack.model_copy(update={"stands": ASHORE, "under": Under.DARK}))
    taken = {place.id for place in design.places}
    return [place for place in found if place.id not in taken]


def in_each_others_way(one: Place, other: Place) -> bool:
    """Whether two places lie over each other as seen from above, so that the upper shades the lower."""
    if one.at is None or other.at is None or PlaceKind.SHORE in (one.kind, other.kind):
        return False
    sizes = [(place.width_m or 0.0, place.length_m or 0.0) for place in (one, other)]
    across = _common(one.at.x_m, sizes[0][0], other.at.x_m, sizes[1][0])
    along = _common(one.at.y_m, sizes[0][1], other.at.y_m, sizes[1][1])
    least = min(width * length for width, length in sizes)
    return across > 0 and along > 0 and across * along > OVERLAP * least


def _common(a: float, a_size: float, b: float, b_size: float) -> float:
    return min(a + a_size / 2, b + b_size / 2) - max(a - a_size / 2, b - b_size / 2)
