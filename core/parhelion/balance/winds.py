"""The winds of a passage: the day's, and others from an hour on."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]


class WindAt(NamedTuple):
    """A wind from some hours after the first midnight on."""

    from_h: float
    from_deg: float | None  # where it comes from; None: not given, and not counted as drag
    mps: float

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

    def at(self, hours: float) -> WindAt:
        """The wind that blows at an hour."""
        return [wind for wind in self.each if wind.from_h <= hours][-1]

    def over(self, from_h: float, steps: int, step_s: float) -> tuple[Array, Array]:
        """Where it comes from [deg] and how strong it is [m/s] in steps from an hour on, shapes (t,)."""
        middles = from_h + (np.arange(steps) + 0.5) * step_s / 3600
        which = np.searchsorted([wind.from_h for wind in self.each], middles, side="right") - 1
        from_deg = np.array([wind.from_deg or 0.0 for wind in self.each])
        return from_deg[which], np.array([wind.counted_mps for wind in self.each])[which]

    def turned(self, from_deg: float) -> Winds:
        """As strong as they are, all from one direction."""
        return Winds(tuple(wind._replace(from_deg=from_deg, mps=wind.counted_mps) for wind in self.each))


def steady(from_deg: float | None, mps: float) -> Winds:
    """One wind all the time."""
    return Winds((WindAt(-math.inf, from_deg, mps),))
