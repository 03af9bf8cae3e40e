"""The triangle of a course, a stream and a speed through the water.

The boat crabs: she heads into what sets her across, so that she keeps the course over the ground. Leeway is
left out.

References
----------
[1] Speed over the ground on a course, sqrt(V^2 - across^2) + along; none where V <= |across| or the sum is
not
    above nothing.
"""

from __future__ import annotations

import numpy as np
from numba import float64, njit
from numpy.typing import ArrayLike, NDArray

from parhelion.computing.kernels import OPTIONS

Array = NDArray[np.float64]


@njit(float64(float64, float64, float64), **OPTIONS)
def made_good(speed: float, along: float, across: float) -> float:
    """Speed over the ground along the course; 0 where she makes none [1]."""
    if speed <= abs(across):
        return 0.0
    return max(np.sqrt(speed * speed - across * across) + along, 0.0)


@njit(float64(float64, float64, float64), **OPTIONS)
def through_water(ground: float, along: float, across: float) -> float:
    """Speed through the water that makes a speed good over the ground."""
    return np.sqrt((ground - along) ** 2 + across * across)


def ground_speed_mps(speed_mps: ArrayLike, along_mps: ArrayLike, across_mps: ArrayLike) -> Array:
    """Speed over the ground along a course [1].

    Parameters
    ----------
    speed_mps : array_like
        Through the water, any shape.
    along_mps, across_mps : array_like
        The stream with the course, and across it to starboard, of the same shape.

    Returns
    -------
    ndarray
        nan where the course cannot be held or no way is made.
    """
    speed, along, across = (np.asarray(x, dtype=float) for x in (speed_mps, along_mps, across_mps))
    left = np.sqrt(np.maximum(speed**2 - across**2, 0.0)) + along
    return np.where((speed > np.abs(across)) & (left > 0), left, np.nan)


def crab_deg(speed_mps: ArrayLike, across_mps: ArrayLike) -> Array:
    """Heading less course [deg], to port negative; nan where the course cannot be held."""
    share = -np.asarray(across_mps, dtype=float) / np.asarray(speed_mps, dtype=float)
    return np.degrees(np.arcsin(np.where(np.abs(share) < 1, share, np.nan)))


def on_course(east_mps: ArrayLike, north_mps: ArrayLike, course_deg: ArrayLike) -> tuple[Array, Array]:
    """A stream by its parts along a course and across it to starboard.

    Parameters
    ----------
    east_mps, north_mps : array_like
        Where the stream goes, any shape.
    course_deg : array_like
        True, of a shape that goes with it.

    Returns
    -------
    along_mps, across_mps : ndarray
    """
    east, north = np.asarray(east_mps, dtype=float), np.asarray(north_mps, dtype=float)
    course = np.radians(np.asarray(course_deg, dtype=float))
    sine, cosine = np.sin(course), np.cos(course)
    return east * sine + north * cosine, east * cosine - north * sine
