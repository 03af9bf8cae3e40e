"""The winds of a passage with the waves they bring: the day's, and others from an hour on."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from parhelion.design.passage import WindFrom

Array = NDArray[np.float64]


class WindAt(NamedTuple):
    """A wind from some hours after the first midnight on."""

    from_h: float
    from_deg: float | None  # where it comes from; None: not given, and not counted as drag
    mps: float
    waves_m: float = 0.0

    @property
    def counted_mps(self) -> float:
        return 0.0 if self.from_deg is None else self.mps


@dataclass(frozen=True)
class Winds:
    """One after the other; the first has always blown."""

    each: tuple[WindAt, ...]

    @property
    def strongest_mps(self) -> float:
        """Of those that are counted as drag."""
        return max(wind.counted_mps for wind in self.each)

    @property
    def highest_waves_m(self) -> float:
        return max(wind.waves_m for wind in self.each)

    def at(self, hours: float) -> WindAt:
        """The wind that blows at an hour."""
        return [wind for wind in self.each if wind.from_h <= hours][-1]

    def over(self, from_h: float, steps: int, step_s: float) -> tuple[Array, Array, Array]:
        """Where it comes from [deg], nan where nobody says, how strong it is [m/s] and its waves [m].

        In steps from an hour on, shapes (t,).
        """
        middles = from_h + (np.arange(steps) + 0.5) * step_s / 3600
        which = np.searchsorted([wind.from_h for wind in self.each], middles, side="right") - 1
        each = np.array(
            [
                (math.nan if wind.from_deg is None else wind.from_deg, wind.counted_mps, wind.waves_m)
                for wind in self.each
            ]
        )
        from_deg, mps, waves_m = each[which].T
        return from_deg, mps, waves_m

    def turned(self, from_deg: float) -> Winds:
        """As strong as they are, all from one direction."""
        return Winds(tuple(wind._replace(from_deg=from_deg, mps=wind.counted_mps) for wind in self.each))


def steady(from_deg: float | None, mps: float, waves_m: float = 0.0) -> Winds:
    """One wind all the time."""
    return Winds((WindAt(-math.inf, from_deg, mps, waves_m),))


def winds_of(first: Winds, later: Sequence[tuple[float, WindFrom]]) -> Winds:
    """The day's wind and those from their hours on, each with its own waves or those before it."""
    found = list(first.each)
    for from_h, item in sorted(later, key=lambda one: one[0]):
        waves = found[-1].waves_m if item.waves_m is None else item.waves_m
        found.append(WindAt(from_h, item.wind_from_deg, item.wind_mps, waves))
    return Winds(tuple(found))
