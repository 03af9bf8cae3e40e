"""Where a boat heads, by the places of her track.

References
----------
[1] The course over the ground between the last place before a row and the next after it, on the plane that
    touches the earth there. A stream across sets it beside her heading, by 15 degrees where it runs at a
    quarter of her speed: less than shade and tilt ask for. A boat that drifts or circles has no course.
"""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]

EARTH_M = 6.371e6
SLOWEST_MPS = 0.3  # slower is drift, and what a receiver wanders
FASTEST_MPS = 40.0  # faster than any boat: the receiver jumped
APART_ROWS = 3  # places farther apart do not tell how she headed between them


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
        Clockwise from true north [deg]; nan where she makes no way, a place cannot be, or none is known near.
    """
    found = np.full(len(latitude_deg), np.nan)
    known = np.flatnonzero(np.isfinite(latitude_deg) & np.isfinite(longitude_deg))
    north, east = np.radians(latitude_deg[known]), np.radians(longitude_deg[known])
    for row in range(len(found) if len(known) > 1 else 0):
        place = int(np.searchsorted(known, row))
        here = place < len(known) and known[place] == row
        low, high = max(place - 1, 0), min(place + 1 if here else place, len(known) - 1)
        if here:  # one that is far from its neighbour on a side looks to the other
            low = low if row - known[low] <= APART_ROWS else place
            high = high if known[high] - row <= APART_ROWS else place
        if high <= low or not known[low] <= row <= known[high]:
            continue
        rows = int(known[high] - known[low])
        if not here and rows > APART_ROWS:
            continue
        across = (east[high] - east[low] + np.pi) % (2 * np.pi) - np.pi
        across *= np.cos((north[low] + north[high]) / 2)
        along = north[high] - north[low]
        if SLOWEST_MPS * step_s * rows <= EARTH_M * np.hypot(along, across) <= FASTEST_MPS * step_s * rows:
            found[row] = np.degrees(np.arctan2(across, along)) % 360
    return found
