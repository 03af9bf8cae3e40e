"""The light of one minute: as bright as a sky word, or the shadow of a hand, says it is.

References
----------
[1] Clear-sky index by sky word with its spread (`sky`); a minute wanders more than the mean of ten.
[2] The shadow of a hand held a metre over a light surface: sharp while the beam carries nearly all of the
    light, soft through haze, faint through thin cloud, none under a closed one; docs/methods/first-sun.md.
"""

from __future__ import annotations

from datetime import datetime, timedelta
from zoneinfo import ZoneInfo

import numpy as np
from numpy.typing import NDArray
from scipy.special import ndtri

from parhelion.design import Shade, Sky, Spot
from parhelion.design.records import HandShadow
from parhelion.sun.daysteps import track_over
from parhelion.sun.light import Light, split
from parhelion.sun.sky import BROKEN_BRIGHT, steady_index
from parhelion.sun.timeline import even_steps
from parhelion.sun.zone import zone_at

Array = NDArray[np.float64]

DRAWS = 400
MINUTE_WIDER = 1.25  # spread of a minute over that of ten [1]
BRIGHT_SPREAD = 0.04  # of the bright state between clouds, their edges included
DARKEST = 0.02  # of a clear sky's light; whoever reads a meter sees it


HAND = {  # mean and spread of the clear-sky index [2]
    HandShadow.SHARP: (1.0, 0.03),
    HandShadow.SOFT: (0.84, 0.08),
    HandShadow.FAINT: (0.50, 0.12),
    HandShadow.NONE: (0.24, 0.09),
}


def minute_index(sky: Sky | HandShadow) -> tuple[float, float]:
    """Mean and spread of the clear-sky index of one minute; under a broken sky that of its bright state."""
    if isinstance(sky, HandShadow):
        return HAND[sky]
    if sky is Sky.BROKEN:
        return BROKEN_BRIGHT, BRIGHT_SPREAD
    mean, spread = steady_index(sky, Shade.USUAL)
    return mean, spread * MINUTE_WIDER


def evenly_drawn(columns: int, draws: int = DRAWS) -> Array:
    """Numbers in (0, 1) that fill a space evenly, shape (draws, columns): the same ones always.

    Each column is the multiples of a root of a small prime, their whole parts taken off.
    """
    roots = np.sqrt(np.array([2.0, 3.0, 5.0, 7.0, 11.0, 13.0])[:columns])
    return np.asarray((np.arange(1, draws + 1)[:, None] * roots[None, :] + 0.5) % 1.0)


def index_draws(sky: Sky | HandShadow, uniforms: Array) -> Array:
    """Clear-sky index of a minute for each number drawn [-]; the first is its mean."""
    mean, spread = minute_index(sky)
    return np.concatenate([[mean], np.maximum(mean + spread * ndtri(uniforms), DARKEST)])


def minute_light(spot: Spot, at: datetime, index: Array, zone: ZoneInfo | None = None) -> Light:
    """The light of the minute that begins at a moment, a member for each index, shape (n, 1).

    Parameters
    ----------
    spot : Spot
    at : datetime
        With its offset.
    index : ndarray, shape (n,)
        Share of a clear sky's light [-].
    zone : ZoneInfo, optional
        Of the place; found from it where it is not given.
    """
    start = at - timedelta(seconds=30)
    own = zone or zone_at(spot.latitude_deg, spot.longitude_deg)
    day = track_over(spot, even_steps(start, 60.0, 1, own))
    ghi = day.clear_ghi_w_per_m2[None, :] * np.asarray(index, dtype=float)[:, None]
    dhi, dni = split(day, ghi)
    return Light(day, ghi, dhi, dni, 0)
