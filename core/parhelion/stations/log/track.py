"""Her track: where she went by the places that were read, and where on it the sun paid.

References
----------
[1] The plane that touches the earth at the first place; over a day's way it is within .1 % of the sphere.
[2] The sun pays where what came from the panels is no less than motor and house took; what was not read is
    the model's, as in the day's picture.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from datetime import timedelta

import numpy as np
from numpy.typing import NDArray

from parhelion.constants import STEP_S
from parhelion.design.logbook import Reading
from parhelion.meters.course import EARTH_M
from parhelion.stations.log.outing_day import OutingDay
from parhelion.stations.log.shown import Track, TrackHour, TrackPlace

Array = NDArray[np.float64]

MOST_PLACES = 400
FASTEST_MPS = 40.0  # a place that she cannot have reached is the receiver's


def _placed(day: OutingDay) -> list[tuple[float, Reading]]:
    """Readings with a place, by their seconds after the day began; none that she cannot have reached."""
    ahead = timedelta(seconds=day.outing.clock_ahead_s)
    found: list[tuple[float, Reading]] = []
    for reading in day.told.readings:
        if reading.latitude_deg is None or reading.longitude_deg is None:
            continue
        seconds = day.steps.index_at(reading.at - ahead) * STEP_S
        if found:
            before = found[-1]
            apart_m = math.hypot(*_metres([before[1], reading])[-1].tolist())
            if apart_m > FASTEST_MPS * max(seconds - before[0], 1.0):
                continue
        found.append((seconds, reading))
    every = max(math.ceil(len(found) / MOST_PLACES), 1)
    return found[::every] if not found or found[::every][-1] is found[-1] else [*found[::every], found[-1]]


def _metres(readings: Sequence[Reading]) -> Array:
    """East and north of the first place, shape (n, 2) [m] [1]."""
    at = np.radians([[one.longitude_deg or 0.0, one.latitude_deg or 0.0] for one in readings])
    east = (at[:, 0] - at[0, 0] + np.pi) % (2 * np.pi) - np.pi
    return np.asarray(EARTH_M * np.stack([east * np.cos(at[0, 1]), at[:, 1] - at[0, 1]], axis=1))


def track_of(day: OutingDay) -> Track | None:
    """The track of an outing; None where fewer than two places were read.

    Parameters
    ----------
    day : OutingDay
    """
    placed = _placed(day)
    if len(placed) < 2:
        return None
    at = _metres([reading for _, reading in placed])
    seconds = np.array([moment for moment, _ in placed])
    came = np.where(np.isfinite(day.harvested_w), day.harvested_w, day.modelled_w)
    pays = came >= day.motor_w + day.house_w
    rows = np.clip((seconds / STEP_S).astype(int), 0, day.steps.steps - 1)
    hours = np.arange(math.ceil(seconds[0] / 3600), math.floor(seconds[-1] / 3600) + 1)
    return Track(
        places=[
            TrackPlace(
                minute=float(moment / 60), east_m=float(east), north_m=float(north),
                sun_pays=bool(pays[row]) if day.motor_w[row] > 0 else None,
            )
            for moment, (east, north), row in zip(seconds, at, rows, strict=True)
        ],
        hours=[
            TrackHour(
                minute=float(60 * hour), east_m=float(np.interp(3600 * hour, seconds, at[:, 0])),
                north_m=float(np.interp(3600 * hour, seconds, at[:, 1])),
            )
            for hour in hours
        ],
    )  # fmt: skip
