"""Places for panels that a boat has room for and does not have yet, from her outline and type.

References
----------
[1] Heights over the water and shares of length and beam: typical of small craft. Each stands in the design,
    where it is seen and can be moved; a drawing to begin with, not a builder's.
"""

from __future__ import annotations

from parhelion.design import BoatDesign, How, Obstacle, Place, PlaceKind, Point, Side, Standing, Stands
from parhelion.design.array import Under, Ventilation
from parhelion.design.frame import Frame, FrameStock

NEW = "next"
WING_TILT_DEG = 60.0
WING_OVER_DECK_M = 0.75  # a rail's height over the waterline for each 5 m of length, at least
ARCH_HALF_M = 0.6  # narrower boats carry no arch
ROOF_HALF_M = 0.45  # narrower boats carry nothing overhead
WING_HALF_M = 0.3  # narrower boats carry no wings
ROOF_M, TOP_M, RACK_M = 1.9, 1.2, 1.5  # heights over the water [1]
MAST_M = 3.0  # a spar that reaches as high over the water is a mast
OVERLAP = 0.1  # of the smaller place: so much in common and only one of two can be filled
ASHORE = Stands(
    under_way=Standing(how=How.GONE), sailing=Standing(how=How.GONE), anchored=Standing(how=How.GONE),
    trailer=Standing(how=How.GONE),
)  # fmt: skip
LEGGED = Frame(stock=FrameStock.ROUND, leg_m=1.2)
LYING = Frame(stock=FrameStock.ANGLE, size_m=0.025)


def masts(design: BoatDesign) -> list[Obstacle]:
    """Spars that reach high over the water."""
    return [thing for thing in design.obstacles if max(thing.tip.z_m, thing.foot.z_m) >= MAST_M]


def _place(key: str, name: str, kind: PlaceKind, at: tuple[float, float, float], size: tuple[float, float],
           **more: object) -> Place:  # fmt: skip
    x, y, z = (round(v, 2) for v in at)
    return Place(
        id=f"{NEW}-{key}", name=name, kind=kind, at=Point(x_m=x, y_m=y, z_m=z), width_m=round(size[0], 2),
        length_m=round(size[1], 2), **more,
    )  # fmt: skip


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
    rail = max(WING_OVER_DECK_M * length / 5, WING_OVER_DECK_M)
    long, mast = min(1.6, 0.25 * length), bool(masts(design))
    found = []
    if not kinds & {PlaceKind.CANOPY, PlaceKind.BIMINI} and half > ROOF_HALF_M:
        if not mast:
            size = min(2 * half, 3.2), 0.55 * length
            found.append(
                _place(
                    "canopy", "A canopy", PlaceKind.CANOPY, (0, -0.05 * length, ROOF_M), size, frame=LEGGED
                )
            )
        size = min(2 * half * 0.9, 2.6), min(0.24 * length, 2.4)
        found.append(
            _place("bimini", "A bimini", PlaceKind.BIMINI, (0, -0.28 * length, ROOF_M), size, frame=LEGGED)
        )
    if PlaceKind.CABIN_TOP not in kinds and half > ARCH_HALF_M and length > 5.5:
        found.append(
            _place("top", "On the cabin top", PlaceKind.CABIN_TOP, (0, 0.05 * length, TOP_M),
                   (min(half * 1.1, 1.9), 0.24 * length), ventilation=Ventilation.ON_SURFACE)
        )  # fmt: skip
    if PlaceKind.WING not in kinds and PlaceKind.RAIL not in kinds and half > WING_HALF_M:
        for side, sign in ((Side.STARBOARD, 1), (Side.PORT, -1)):
            found.append(
                _place(f"wing-{side.value}", f"A wing to {side.value}", PlaceKind.WING,
                       (sign * (half + 0.3), -0.15 * length, rail), (0.72, long), faces=side,
                       tilt_least_deg=0, tilt_most_deg=WING_TILT_DEG, frame=LYING)
            )  # fmt: skip
    if PlaceKind.ARCH not in kinds and half > ARCH_HALF_M:
        found.append(
            _place("arch", "An arch over the stern", PlaceKind.ARCH, (0, -0.48 * length, rail + 1.2),
                   (min(2 * half, 2.4), 1.2), frame=LEGGED)
        )  # fmt: skip
    if PlaceKind.DECK not in kinds:
        found.append(
            _place("deck", "Flat on the foredeck", PlaceKind.DECK, (0, 0.25 * length, rail * 0.7),
                   (min(half if half > ROOF_HALF_M else 1.6 * half, 1.4), long),
                   ventilation=Ventilation.ON_SURFACE)
        )  # fmt: skip
    if PlaceKind.SHORE not in kinds:
        found.append(
            _place("rack", "A rack ashore", PlaceKind.SHORE, (half + 3, 0, RACK_M), (3.6, 3.6), stands=ASHORE,
                   under=Under.DARK)
        )  # fmt: skip
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
