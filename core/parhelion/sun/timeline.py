"""Steps of time at a place: a day in ten minutes, a passage across midnight, the uneven minutes of a log.

Everything that is computed over time takes its steps and their lengths from here; light, loads, wind, stream
and states are series on it.
"""

from __future__ import annotations

from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from datetime import date as Date
from datetime import time as Time
from itertools import pairwise
from zoneinfo import ZoneInfo

import numpy as np
from numpy.typing import NDArray

from parhelion.computing.kept import once

Array = NDArray[np.float64]

HOUR_S = 3600.0
LEAST_BETWEEN_TURNS_H = 21 * 24.0  # the clocks are not turned there and back within less


@dataclass(frozen=True, eq=False)
class Timeline:
    """Steps one after the other.

    `starts_at` is a moment in the place's time zone, `zone`; `step_s` are the steps' lengths, shape (t,) [s].
    """

    starts_at: datetime
    step_s: Array
    zone: ZoneInfo

    @property
    def steps(self) -> int:
        return len(self.step_s)

    @once
    def step_h(self) -> Array:
        """Lengths of the steps, shape (t,) [h]."""
        return np.ascontiguousarray(self.step_s / HOUR_S)

    @once
    def edges_s(self) -> Array:
        """Seconds after the start at the steps' edges, shape (t + 1,)."""
        return np.concatenate([[0.0], np.cumsum(self.step_s)])

    @once
    def middles_s(self) -> Array:
        """Seconds after the start at the steps' middles, shape (t,)."""
        return (self.edges_s[:-1] + self.edges_s[1:]) / 2

    @property
    def hours(self) -> float:
        return float(self.edges_s[-1] / HOUR_S)

    @property
    def ends_at(self) -> datetime:
        return self.at_index(float(self.steps))

    def over(self, rates: Array) -> Array:
        """Rates added up over the hours, along the last axis: watts make watt-hours, a share makes hours."""
        return np.asarray(rates @ self.step_h)

    def index_at(self, moment: datetime) -> float:
        """How many steps after the start a moment lies, with its fraction; beyond the ends by their steps."""
        seconds = (moment - self.starts_at).total_seconds()
        edges = self.edges_s
        if seconds < 0:
            return seconds / float(self.step_s[0])
        if seconds > edges[-1]:
            return self.steps + (seconds - float(edges[-1])) / float(self.step_s[-1])
        low = min(int(np.searchsorted(edges, seconds, side="right")) - 1, self.steps - 1)
        return low + (seconds - float(edges[low])) / float(self.step_s[low])

    def at_index(self, index: float) -> datetime:
        """The local moment some steps after the start."""
        if index > self.steps:
            seconds = float(self.edges_s[-1] + (index - self.steps) * self.step_s[-1])
        else:
            seconds = float(np.interp(index, np.arange(self.steps + 1), self.edges_s))
        moment = self.starts_at.astimezone(UTC) + timedelta(seconds=seconds)
        return moment.astimezone(self.zone)

    @once
    def dates(self) -> tuple[Date, ...]:
        """Every local calendar day that the steps touch."""
        first, last = self.starts_at.date(), self.ends_at.date()
        return tuple(first + timedelta(days=k) for k in range((last - first).days + 1))

    @once
    def clock_min(self) -> list[float]:
        """The local clock at the start of each step [min after midnight]."""
        if self.starts_at.utcoffset() == self.ends_at.utcoffset() and self.hours < LEAST_BETWEEN_TURNS_H:
            first = minutes_of(self.starts_at.time())
            return ((first + self.edges_s[:-1] / 60) % 1440).tolist()
        return [minutes_of(self.at_index(float(index)).time()) for index in range(self.steps)]

    def clock_stretches(self, starts: Time, ends: Time) -> list[tuple[float, float]]:
        """Where a daily stretch of local clock time lies, from and to in steps after the start.

        An end at or before the start is on the next day. Every calendar day that the steps touch is laid on,
        and the one before, each with its own offset from UTC, so that days of 23 and 25 hours come out right.
        """
        found = []
        for date in (self.dates[0] - timedelta(days=1), *self.dates):
            following = date if ends > starts else date + timedelta(days=1)
            first = datetime.combine(date, starts, self.zone).astimezone(UTC)
            last = datetime.combine(following, ends, self.zone).astimezone(UTC)
            found.append((self.index_at(first), self.index_at(last)))
        return found

    def share_of_steps(self, stretches: list[tuple[float, float]]) -> Array:
        """How much of each step lies in any of the stretches, shape (t,) [-]; overlaps count once."""
        total = np.zeros(self.steps)
        edges = np.arange(self.steps)
        reached = -np.inf
        for start, end in sorted(stretches):
            fresh = max(start, reached)
            total += np.clip(np.minimum(end, edges + 1) - np.maximum(fresh, edges), 0.0, 1.0)
            reached = max(reached, end)
        return np.minimum(total, 1.0)

    def clock_share(self, starts: Time, ends: Time) -> Array:
        """How much of each step a daily stretch of local clock time covers, shape (t,) [-]."""
        return self.share_of_steps(self.clock_stretches(starts, ends))

    def lasting_share(self, starts: Time, hours: float) -> Array:
        """How much of each step a daily stretch of some hours from a clock time covers, shape (t,) [-]."""
        if hours <= 0:
            return np.zeros(self.steps)
        if hours >= 24:
            return np.ones(self.steps)
        end = datetime.combine(self.starts_at.date(), starts) + timedelta(hours=hours)
        return self.clock_share(starts, end.time())


def even_steps(starts_at: datetime, step_s: float, steps: int, zone: ZoneInfo) -> Timeline:
    """Steps of one length."""
    return Timeline(starts_at.astimezone(zone), np.full(steps, float(step_s)), zone)


def between_moments(moments: list[datetime], zone: ZoneInfo) -> Timeline:
    """Steps from moment to moment, such as the rows of a log.

    Raises
    ------
    ValueError
        Where there are fewer than two moments, or they do not follow each other.
    """
    lengths = np.array([(b - a).total_seconds() for a, b in pairwise(moments)])
    if len(lengths) == 0 or (lengths <= 0).any():
        raise ValueError("moments must follow each other, two at least")
    return Timeline(moments[0].astimezone(zone), lengths, zone)


def minutes_of(clock: Time) -> float:
    """A time of day as minutes after midnight."""
    return clock.hour * 60 + clock.minute + clock.second / 60
