"""Routes as GPX: legs from a route, a track or waypoints, and a passage's marks back.

References
----------
[1] GPX 1.1, the exchange format; read and written with gpxpy.
[2] C. F. F. Karney, "Algorithms for geodesics", J. Geodesy 87 (2013) 43-55; geographiclib.
"""

from __future__ import annotations

from typing import Any

from parhelion.design.part import control_characters
from parhelion.design.passage import LONGEST_LEG_M, Leg
from parhelion.errors import Problem, UnreadableFile
from parhelion.quantities import Frozen, Sentence, count, distance, sentence, words

LARGEST_CHARACTERS = 8_000_000
MOST_POINTS = 20_000
MOST_LEGS = 40
WITHIN_M = 30.0  # a track is first thinned to points this near it, then ever coarser
SHORTEST_M = 5.0  # two points nearer than this are one


class RouteRead(Frozen):
    """Legs of a route file, the place they begin at, and what was left out."""

    begins_at: str
    begins_latitude_deg: float
    begins_longitude_deg: float
    legs: list[Leg]
    told: list[Sentence]


def _refuse(code: str, message: str, accepted: str) -> UnreadableFile:
    return UnreadableFile([Problem(code=code, message=message, field="/text", accepted=accepted)])


def _name(point: Any, fallback: str) -> str:
    hidden = set(control_characters(point.name or ""))
    return "".join(one for one in point.name or "" if one not in hidden).strip()[:80] or fallback


def between(one: tuple[float, float], other: tuple[float, float]) -> tuple[float, float]:
    """Distance [m] and true course at the start [deg] between two places of latitude and longitude [2]."""
    from geographiclib.geodesic import Geodesic

    found = Geodesic.WGS84.Inverse(*one, *other)
    return float(found["s12"]), float(found["azi1"]) % 360


def beyond(start: tuple[float, float], course_deg: float, distance_m: float) -> tuple[float, float]:
    """The place a distance away on a course [2] [deg]."""
    from geographiclib.geodesic import Geodesic

    found = Geodesic.WGS84.Direct(*start, course_deg, distance_m)
    return float(found["lat2"]), float(found["lon2"])


def read_route(text: str) -> RouteRead:  # noqa: PLR0912 - one refusal after the other
    """Legs from a GPX file: its first route, else its first track, else its waypoints in their order.

    Parameters
    ----------
    text : str
        Of at most 8 million characters and 20,000 points; document types and entities are refused.

    Raises
    ------
    UnreadableFile
        No GPX, too large, or without two points.
    """
    import gpxpy
    from gpxpy.gpx import GPXException, GPXXMLSyntaxException

    if len(text) > LARGEST_CHARACTERS:
        raise _refuse("too_large", f"This file has {len(text) / 1e6:.1f} MB.", "8 MB or less")
    if "<!DOCTYPE" in text or "<!ENTITY" in text:
        raise _refuse("has_entities", "This file has a document type or entities of its own.", "plain GPX")
    try:
        held = gpxpy.parse(text)
    except (GPXException, GPXXMLSyntaxException, ValueError, TypeError) as error:
        raise _refuse(
            "not_gpx", f"This is no GPX that can be read: {str(error)[:120]}.", "GPX 1.0 or 1.1"
        ) from None
    told: list[Sentence] = []
    points: list[Any]
    if held.routes and len(held.routes[0].points) > 1:
        points, what = list(held.routes[0].points), "route"
    elif held.tracks and held.tracks[0].get_points_no() > 1:
        points, what = _thinned(held, told), "track"
    elif len(held.waypoints) > 1:
        points, what = list(held.waypoints), "list of waypoints"
    else:
        raise _refuse(
            "no_way", "There is no way in this file.", "a route, a track or waypoints, of two points or more"
        )
    others = len(held.routes) + len(held.tracks) - 1
    if others > 0:
        told.append(
            sentence("The first {what} is taken; {n} more are left.", what=words(what), n=count(others))
        )
    if len(points) > MOST_LEGS + 1:
        told.append(sentence("The first {n} legs are taken.", n=count(MOST_LEGS)))
        points = points[: MOST_LEGS + 1]
    legs: list[Leg] = []
    here = points[0]
    for point in points[1:]:
        length, course = between((here.latitude, here.longitude), (point.latitude, point.longitude))
        if length < SHORTEST_M:
            continue
        if length > LONGEST_LEG_M:
            raise _refuse(
                "too_far",
                f"Two points that follow each other are {length / 1852:.0f} nm apart.",
                "legs of 248 nm or less",
            )
        number = len(legs) + 1
        legs.append(
            Leg(id=f"leg{number}", name=_name(point, f"Mark {number}"), distance_m=round(length, 1),
                course_deg=round(course, 1) % 360)
        )  # fmt: skip
        here = point
    if not legs:
        raise _refuse("no_way", "All points of this file are in one place.", "two places or more")
    first = points[0]
    return RouteRead(
        begins_at=_name(first, "Start"),
        begins_latitude_deg=round(first.latitude, 6),
        begins_longitude_deg=round(first.longitude, 6),
        legs=legs,
        told=told,
    )


def _thinned(held: Any, told: list[Sentence]) -> list[Any]:
    """A track's points thinned until they are few enough, with what that loses."""
    track = held.tracks[0]
    before, length = track.get_points_no(), track.length_2d()
    if before > MOST_POINTS:
        raise _refuse("too_many", f"This track has {before:,} points.", f"{MOST_POINTS:,} or fewer")
    within = WITHIN_M
    while True:
        made = track.clone()
        made.simplify(within)
        points = [point for segment in made.segments for point in segment.points]
        if len(points) <= MOST_LEGS + 1 or within > LONGEST_LEG_M:
            break
        within *= 2
    told.append(
        sentence(
            "{a} points of a track became {b}; none is farther than {d} from its line, "
            "{lost} of its length are lost.",
            a=count(before),
            b=count(len(points)),
            d=distance(within),
            lost=distance(max(length - made.length_2d(), 0.0)),
        )
    )
    return points


def written_route(
    name: str, start: tuple[float, float], begins_at: str, legs: list[Leg] | tuple[Leg, ...]
) -> str:
    """A passage's marks as a GPX route, laid out from its start by course and distance.

    Parameters
    ----------
    name : str
    start : (float, float)
        Latitude and longitude [deg].
    begins_at : str
    legs : sequence of Leg
    """
    import gpxpy.gpx

    made = gpxpy.gpx.GPX()
    made.creator = "Parhelion"
    route = gpxpy.gpx.GPXRoute(name=name, description="Not for navigation")
    made.routes.append(route)
    here = start
    route.points.append(gpxpy.gpx.GPXRoutePoint(*here, name=begins_at))
    for leg in legs:
        here = beyond(here, leg.course_deg, leg.distance_m)
        route.points.append(gpxpy.gpx.GPXRoutePoint(*here, name=leg.name, type=leg.mark.label))
    return str(made.to_xml(version="1.1"))
