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
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from parhelion.constants import STEP_S
from parhelion.design.logbook import Reading
from parhelion.meters.course import EARTH_M, FASTEST_MPS
from parhelion.stations.log.outing_day import OutingDay
from parhelion.stations.log.shown import Track, TrackHour, TrackPlace

Array = NDArray[np.float64]

MOST_PLACES = 400


def _placed(day: OutingDay) -> tuple[Array, Array]:
    """Seconds after the day began and places from the first, shapes (n,) and (n, 2); none that cannot be.

    A place that she can have reached neither from the one before nor to the one after is the receiver's.
    """
    ahead = timedelta(seconds=day.outing.clock_ahead_s)
    read = [
        one for one in day.told.readings if one.latitude_deg is not None and one.longitude_deg is not None
    ]
    if len(read) < 2:
        return np.zeros(0), np.zeros((0, 2))
    seconds = np.array([day.steps.index_at(one.at - ahead) * STEP_S for one in read])
    apart_m = np.array([math.hypot(*_metres(pair)[1].tolist()) for pair in pairwise(read)])
    can = apart_m <= FASTEST_MPS * np.maximum(np.diff(seconds), 1.0)
    kept = np.flatnonzero(np.append(can, False) | np.insert(can, 0, False))
    some = kept[np.unique(np.linspace(0, len(kept) - 1, min(len(kept), MOST_PLACES)).round().astype(int))]
    return seconds[some], _metres([read[index] for index in some]) if len(some) else np.zeros((0, 2))


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
    seconds, at = _placed(day)
    if len(seconds) < 2:
        return None
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
        else_paid="the bank gave" if day.aboard is not None else "more than the sun gave",
    )  # fmt: skip
