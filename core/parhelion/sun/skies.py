"""A day's light at a dozen steady skies, between which any sky's watts are read.

Power of an array at a step depends on that step's light alone: it is harvested once at each of these skies.
"""

from __future__ import annotations

from datetime import date as Date

import numpy as np
from numpy.typing import NDArray

from parhelion.computing.kept import kept_by_arguments
from parhelion.design import Spot
from parhelion.sun.climate import usual_air_temperature_c
from parhelion.sun.daysteps import day_at
from parhelion.sun.light import Light, split
from parhelion.sun.many import joined

Array = NDArray[np.float64]

SKIES = (0.0, 0.05, 0.12, 0.2, 0.3, 0.42, 0.55, 0.7, 0.85, 1.0, 1.15, 1.35)  # clear-sky indices harvested


@kept_by_arguments(24)
def light_at_skies(spot: Spot, date: Date, every: int = 1) -> Light:
    """A day's light at the steady SKIES, with air usual for it, shape (12, 144 / every)."""
    day = day_at(spot, date).middle_of(every)
    ghi = np.array(SKIES)[:, None] * day.clear_ghi_w_per_m2[None, :]
    air = np.full(ghi.shape[1], usual_air_temperature_c(spot.latitude_deg, date))
    return Light(day, ghi, *split(day, ghi), SKIES.index(1.0), air)


@kept_by_arguments(24)
def days_at_skies(spot: Spot, dates: tuple[Date, ...], every: int = 1) -> Light:
    """The same of several days end to end, shape (12, days x 144 / every)."""
    return joined([light_at_skies(spot, date, every) for date in dates])


def between(table: Array, index: Array) -> Array:
    """Watts at clear-sky indices from those at SKIES, step by step, shape (days, 144, 2)."""
    found = np.empty((*index.shape, 2))
    for t in range(index.shape[1]):
        for bank in range(2):
            found[:, t, bank] = np.interp(index[:, t], SKIES, table[:, t, bank])
    return found


def places_between(index: Array) -> tuple[NDArray[np.int64], Array]:
    """Of clear-sky indices: the sky of SKIES below each, and how far it lies on the way to the next."""
    skies = np.array(SKIES)
    below = np.clip(np.searchsorted(skies, index, side="right") - 1, 0, len(skies) - 2)
    share = (index - skies[below]) / (skies[below + 1] - skies[below])
    return np.ascontiguousarray(below, dtype=np.int64), np.ascontiguousarray(np.clip(share, 0.0, 1.0))
