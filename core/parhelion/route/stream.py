"""Streams over time, by their parts to the east and to the north.

References
----------
[1] A tidal table: sets and rates by hours from the nearest high water at springs and at neaps; the rate of
a day
    is neaps + (springs - neaps) (range - neaps range) / (springs range - neaps range), beyond both as well.
    Between hours the east and north parts run straight, never the angle: the set of an almost slack hour
    turns fast.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Protocol

import numpy as np
from numpy.typing import ArrayLike, NDArray

Array = NDArray[np.float64]

SEMIDIURNAL_H = 12.42  # [h] from high water to high water, in the mean: the M2 constituent


def parts_of(set_deg: ArrayLike, rate_mps: ArrayLike) -> tuple[Array, Array]:
    """A set and a rate as parts to the east and to the north [m/s]."""
    angle, rate = np.radians(np.asarray(set_deg, dtype=float)), np.asarray(rate_mps, dtype=float)
    return rate * np.sin(angle), rate * np.cos(angle)


class Stream(Protocol):
    """What a stream does."""

    def at(self, hours: ArrayLike) -> tuple[Array, Array]:
        """East and north parts at hours of one clock, any shape [m/s]."""
        ...


@dataclass(frozen=True)
class Steady:
    """One set and one rate, whatever the hour."""

    set_deg: float
    rate_mps: float

    def at(self, hours: ArrayLike) -> tuple[Array, Array]:
        east, north = parts_of(self.set_deg, self.rate_mps)
        still = np.zeros_like(np.asarray(hours, dtype=float))
        return still + east, still + north


@dataclass(frozen=True)
class Sine:
    """To and fro along one line: mean + amplitude cos(2 pi (t - strongest) / period) along the set."""

    set_deg: float
    amplitude_mps: float
    strongest_h: float
    period_h: float = SEMIDIURNAL_H
    mean_mps: float = 0.0

    def at(self, hours: ArrayLike) -> tuple[Array, Array]:
        turn = 2 * np.pi * (np.asarray(hours, dtype=float) - self.strongest_h) / self.period_h
        return parts_of(self.set_deg, self.mean_mps + self.amplitude_mps * np.cos(turn))


@dataclass(frozen=True)
class TidalTable:
    """A table by hours from high water [1].

    `rows` are hour, set [deg], rate at springs, rate at neaps [m/s]; `high_waters_h` and `ranges_m` go
    together.
    """

    rows: Sequence[tuple[float, float, float, float]]
    high_waters_h: Sequence[float]
    ranges_m: Sequence[float]
    springs_range_m: float
    neaps_range_m: float

    def at(self, hours: ArrayLike) -> tuple[Array, Array]:
        when = np.asarray(hours, dtype=float)
        waters = np.asarray(self.high_waters_h, dtype=float)
        nearest = np.argmin(np.abs(when[..., None] - waters), axis=-1)
        share = (np.asarray(self.ranges_m, dtype=float)[nearest] - self.neaps_range_m) / (
            self.springs_range_m - self.neaps_range_m
        )
        table = np.asarray(sorted(self.rows), dtype=float)
        after = when - waters[nearest]
        parts = []
        for part in (0, 1):
            springs = parts_of(table[:, 1], table[:, 2])[part]
            neaps = parts_of(table[:, 1], table[:, 3])[part]
            low, high = np.interp(after, table[:, 0], neaps), np.interp(after, table[:, 0], springs)
            parts.append(low + (high - low) * share)
        return parts[0], parts[1]
