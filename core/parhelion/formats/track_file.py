"""Speeds over the ground from a GPX track that was recorded."""

from __future__ import annotations

from datetime import UTC

import gpxpy
from gpxpy.gpx import GPXException

from parhelion.design.logbook import Reading
from parhelion.formats.readings_table import MOST_ROWS, ReadReadings, key_of, refused
from parhelion.meters.course import FASTEST_MPS

EVERY_S = 30.0  # a reading
LONGEST_S = 3600.0  # beyond, a pause of the track


def read_track(text: str, source: str) -> ReadReadings:
    """Speeds over the ground of a GPX track, a reading a half minute.

    Raises
    ------
    UnreadableFile
        Where it is no GPX, or has no points with times.
    """
    if "<!ENTITY" in text or "<!DOCTYPE" in text:
        raise refused("This file declares entities, which no track does.", "a GPX track")
    try:
        track = gpxpy.parse(text)
    except GPXException:
        raise refused("This is no GPX file.", "a GPX track with times") from None
    made: list[Reading] = []
    for segment in (s for t in track.tracks for s in t.segments):
        points = [point for point in segment.points if point.time is not None]
        start = 0
        for index in range(1, len(points)):
            a, b = points[start], points[index]
            assert a.time is not None and b.time is not None
            seconds = (b.time - a.time).total_seconds()
            if seconds < EVERY_S:
                continue
            way = sum(
                p.distance_2d(q) or 0.0
                for p, q in zip(points[start:index], points[start + 1 : index + 1], strict=True)
            )
            at = a.time + (b.time - a.time) / 2
            at = at if at.tzinfo else at.replace(tzinfo=UTC)
            if way / seconds < FASTEST_MPS and seconds < LONGEST_S:
                made.append(Reading(
                    id=key_of(source, None, at), at=at, source=source, ground_mps=way / seconds,
                    latitude_deg=b.latitude, longitude_deg=b.longitude,
                ))  # fmt: skip
            start = index
    if not made:
        raise refused("This track has no points with times.", "a GPX track that was recorded, not drawn")
    return ReadReadings(
        columns=[], readings=made[:MOST_ROWS], problems=[], left=max(len(made) - MOST_ROWS, 0)
    )
