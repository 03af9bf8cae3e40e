"""Where a passage's marks lie, what she keeps off, and a leg to a place by its latitude and longitude."""

from __future__ import annotations

import math
from dataclasses import dataclass
from itertools import pairwise
from typing import Annotated

from pydantic import Field

from parhelion.design import BoatDesign
from parhelion.design.passage import LONGEST_LEG_M, KeepOff, Leg, Passage
from parhelion.errors import ParhelionError, Problem
from parhelion.formats.route_file import SHORTEST_M, between, beyond
from parhelion.quantities import Frozen
from parhelion.stations.passage.words import no_passage, start_of

Spot = tuple[float, float]
OF_THE_MARK = ("name", "mark", "stop_h", "shore_w", "open_h", "hours")  # entries of a leg that are its end's
Latitude = Annotated[float, Field(ge=-90, le=90)]
Longitude = Annotated[float, Field(ge=-180, le=180)]


def _off(spot: Spot, bearing_deg: float, distance_m: float) -> Spot:
    bearing = math.radians(bearing_deg)
    return spot[0] + distance_m * math.sin(bearing), spot[1] + distance_m * math.cos(bearing)


def spots_of(passage: Passage) -> list[Spot]:
    """East and north of the start [m], on a plane: the start, and the end of every leg out."""
    found = [(0.0, 0.0)]
    for leg in passage.legs:
        found.append(_off(found[-1], leg.course_deg, leg.distance_m))
    return found


@dataclass(frozen=True)
class Clearance:
    """Something she keeps off, where it lies, and the leg that passes it nearest."""

    item: KeepOff
    spot: Spot
    leg_index: int
    nearest_m: float

    @property
    def clear(self) -> bool:
        return self.nearest_m >= self.item.clear_m


def _nearest_m(spot: Spot, start: Spot, end: Spot) -> float:
    """Distance of a spot from a straight leg [m]."""
    along = (end[0] - start[0], end[1] - start[1])
    length = math.hypot(*along)
    share = 0.0
    if length > 0:
        share = ((spot[0] - start[0]) * along[0] + (spot[1] - start[1]) * along[1]) / length**2
    share = min(max(share, 0.0), 1.0)
    return math.hypot(spot[0] - start[0] - share * along[0], spot[1] - start[1] - share * along[1])


def clearances(passage: Passage) -> list[Clearance]:
    """How near the way comes to each thing that she keeps off."""
    legs = list(pairwise(spots_of(passage)))
    found = []
    for item in passage.keep_off:
        spot = _off((0.0, 0.0), item.bearing_deg, item.distance_m)
        each = [_nearest_m(spot, start, end) for start, end in legs]
        index = min(range(len(each)), key=each.__getitem__)
        found.append(Clearance(item, spot, index, each[index]))
    return found


def places_of(design: BoatDesign, passage: Passage) -> list[Spot]:
    """Latitude and longitude of the start and of every leg's end [deg]."""
    found = [start_of(design.site, passage)]
    for leg in passage.legs:
        found.append(beyond(found[-1], leg.course_deg, leg.distance_m))
    return found


class Turned(Frozen):
    """A way from its far end back to where it began."""

    begins_at: str
    begins_latitude_deg: float
    begins_longitude_deg: float
    legs: list[Leg]
    keep_off: list[KeepOff]


def turned(design: BoatDesign) -> Turned:
    """The way turned round: from the far end, every course the other way, each mark where it was.

    Raises
    ------
    ParhelionError
        Without a passage.
    """
    passage = design.passage
    if passage is None:
        raise no_passage()
    legs = []
    for index in range(len(passage.legs) - 1, -1, -1):
        gone = passage.legs[index]
        way = {
            "id": gone.id, "distance_m": gone.distance_m, "course_deg": (gone.course_deg + 180) % 360,
            "stream": gone.stream, "limit_mps": gone.limit_mps,
        }  # fmt: skip
        at = (
            {"name": passage.begins_at}
            if index == 0
            else {name: getattr(passage.legs[index - 1], name) for name in OF_THE_MARK}
        )
        legs.append(Leg(**way, **at))
    latitude, longitude = places_of(design, passage)[-1]
    far = spots_of(passage)[-1]
    off = []
    for one in clearances(passage):
        east, north = one.spot[0] - far[0], one.spot[1] - far[1]
        seen = {
            "bearing_deg": math.degrees(math.atan2(east, north)) % 360,
            "distance_m": math.hypot(east, north),
        }
        off.append(one.item.model_copy(update={name: round(value, 2) for name, value in seen.items()}))
    return Turned(
        begins_at=passage.legs[-1].name, begins_latitude_deg=round(latitude, 6),
        begins_longitude_deg=round(longitude, 6), legs=legs, keep_off=off,
    )  # fmt: skip


class AimedLeg(Frozen):
    """A leg's distance and course as its ends now lie."""

    index: int
    distance_m: float
    course_deg: float


def aimed(
    design: BoatDesign, leg: Annotated[int, Field(ge=0)], latitude_deg: Latitude, longitude_deg: Longitude
) -> list[AimedLeg]:
    """A leg laid to a place; the next one goes on from there to where it went before.

    Raises
    ------
    ParhelionError
        Without such a leg, or where one would be longer than a leg may be.
    """
    passage = design.passage
    if passage is None or leg >= len(passage.legs):
        raise no_passage()
    places = places_of(design, passage)
    places[leg + 1] = (latitude_deg, longitude_deg)
    found = []
    for index in range(leg, min(leg + 2, len(passage.legs))):
        length, course = between(places[index], places[index + 1])
        if not SHORTEST_M <= length <= LONGEST_LEG_M:
            problem = Problem(
                code="too_far", message="A leg to there is too long, or none.", field="/latitude_deg",
                accepted=f"a place {SHORTEST_M:g} m to {LONGEST_LEG_M / 1000:g} km from the marks beside it",
            )  # fmt: skip
            raise ParhelionError([problem])
        found.append(AimedLeg(index=index, distance_m=round(length, 1), course_deg=round(course, 1) % 360))
    return found
