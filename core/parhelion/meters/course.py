"""Where a boat heads, by the places of her track.

References
----------
[1] The course over the ground between the places of the rows before and after, on the plane that touches the
    earth there. A stream across sets it beside her heading, by 15 degrees where it runs at a quarter of her
    speed: less than shade and tilt ask for. A boat that drifts or circles has no course.
"""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]

EARTH_M = 6.371e6
SLOWEST_MPS = 0.3  # slower is drift, and what a receiver wanders


def course_deg(latitude_deg: Array, longitude_deg: Array, step_s: float) -> Array:
    """Course over the ground in each row of a track.

    Parameters
    ----------
    latitude_deg, longitude_deg : ndarray, shape (t,)
        Her mean place in each row; nan where none is known.
    step_s : float
        Length of a row [s].

    Returns
    -------
    ndarray, shape (t,)
        Clockwise from true north [deg]; nan where she makes no way or her place is not known on both sides.
    """
    found = np.full(len(latitude_deg), np.nan)
    known = np.isfinite(latitude_deg) & np.isfinite(longitude_deg)
    for row in np.flatnonzero(known):
        before = row - 1 if row > 0 and known[row - 1] else row
        after = row + 1 if row + 1 < len(known) and known[row + 1] else row
        if before == after:
            continue
        north = np.radians(latitude_deg[after] - latitude_deg[before])
        east = np.radians((longitude_deg[after] - longitude_deg[before] + 180) % 360 - 180)
        east *= np.cos(np.radians(latitude_deg[row]))
        if EARTH_M * np.hypot(north, east) >= SLOWEST_MPS * step_s * (after - before):
            found[row] = np.degrees(np.arctan2(east, north)) % 360
    return found
