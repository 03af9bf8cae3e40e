"""Readings at whatever times, by several meters, as the even rows of a day that the model is laid beside.

References
----------
[1] A row is the mean of what fell into it; a row in which nothing fell is a gap and stays one. Watts, volts
    and amps of several controllers add up only in rows in which each was read.
"""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime, timedelta
from zoneinfo import ZoneInfo

import numpy as np
from numpy.typing import NDArray

from parhelion.computing.kept import once
from parhelion.constants import STEP_S
from parhelion.design import Sky
from parhelion.design.logbook import Reading
from parhelion.diagnosis.day_model import DayLog, WaterNote
from parhelion.meters.course import course_deg
from parhelion.sun.timeline import Timeline, even_steps

Array = NDArray[np.float64]

DAY_STEPS = 144
WHOLE = ("bank_v", "bank_a", "charge_frac", "motor_w", "house_w", "speed_mps", "ground_mps")
PANELS = ("pv_w", "pv_v", "pv_a")


def steps_of(began_at: datetime, ended_at: datetime, zone: ZoneInfo) -> Timeline:
    """The whole local days that a time on the water touches, in steps of ten minutes."""
    start = began_at.astimezone(zone).replace(hour=0, minute=0, second=0, microsecond=0)
    last = ended_at.astimezone(zone)
    days = max((last.date() - start.date()).days + 1, 1)
    return even_steps(start, STEP_S, DAY_STEPS * days, zone)


class Rows:
    """Readings laid on even steps; nan where nothing was read."""

    def __init__(
        self, steps: Timeline, readings: Sequence[Reading], clock_ahead_s: float = 0.0, by_track: bool = True
    ):
        self.steps, self.by_track = steps, by_track
        ahead = timedelta(seconds=clock_ahead_s)
        read: dict[int, list[Reading]] = {}
        for reading in readings:
            index = int(np.floor(steps.index_at(reading.at - ahead)))
            if 0 <= index < steps.steps and not reading.left_out:
                read.setdefault(index, []).append(reading)
        self._in = dict(sorted(read.items()))  # by step; those without a reading are not in it
        self._means: dict[tuple[str, str | None, str | None], Array] = {}
        self._logs: dict[str | None, DayLog] = {}

    def mean(self, name: str, of: str | None = None, source: str | None = None) -> Array:
        """The mean of an entry in each step, of a part of the boat or of her whole, by one meter or all."""
        known = self._means.get((name, of, source))
        if known is not None:
            return known
        found = np.full(self.steps.steps, np.nan)
        for index, readings in self._in.items():
            told = [
                value
                for reading in readings
                if reading.of == of
                and source in (None, reading.source)
                and (value := getattr(reading, name)) is not None
            ]
            if told:
                found[index] = sum(told) / len(told)
        found.flags.writeable = False  # kept, and given to all who ask
        self._means[name, of, source] = found
        return found

    @property
    def words(self) -> tuple[Sky | None, ...]:
        """The last word for the sky that was noted in each step."""
        said = {
            index: next((reading.sky for reading in reversed(readings) if reading.sky is not None), None)
            for index, readings in self._in.items()
        }
        return tuple(said.get(index) for index in range(self.steps.steps))

    @property
    def parts(self) -> tuple[str, ...]:
        """The controllers that were read on their own."""
        return tuple(sorted({r.of for readings in self._in.values() for r in readings if r.of is not None}))

    @property
    def sources(self) -> tuple[str, ...]:
        """Who and what read."""
        return tuple(sorted({r.source for readings in self._in.values() for r in readings}))

    @property
    def water(self) -> tuple[WaterNote, ...]:
        """Wind and waves as they were noted."""
        return tuple(
            WaterNote(reading.at, reading.wind_mps or 0.0, reading.waves_m or 0.0)
            for readings in self._in.values()
            for reading in readings
            if reading.waves_m is not None or reading.wind_mps is not None
        )

    @once
    def course_deg(self) -> Array | None:
        """Where she headed by the places that were read, by row; None where none says."""
        found = course_deg(self.mean("latitude_deg"), self.mean("longitude_deg"), STEP_S)
        return found if np.isfinite(found).any() else None

    def panel_watts(self, of: str | None) -> Array:
        """Watts of one controller, read or volts times amps."""
        watts = self.mean("pv_w", of)
        return np.where(np.isfinite(watts), watts, self.mean("pv_v", of) * self.mean("pv_a", of))

    def whole_watts(self) -> Array:
        """Watts of all panels: read so, or added up where every controller that is read was read [1]."""
        whole = self.panel_watts(None)
        if self.parts:
            added = np.sum([self.panel_watts(part) for part in self.parts], axis=0)
            whole = np.where(np.isfinite(whole), whole, added)
        return whole

    def log(self, of: str | None = None) -> DayLog:
        """The rows as the diagnosis takes them: of one controller's panels, or of all."""
        if of in self._logs:
            return self._logs[of]
        of_one = of is not None or not self.parts
        nothing = np.full(self.steps.steps, np.nan)
        whole = {name: self.mean(name) for name in WHOLE}
        through = whole["speed_mps"]
        self._logs[of] = found = DayLog(
            timeline=self.steps,
            words=self.words,
            pv_v=self.mean("pv_v", of) if of_one else nothing,
            pv_a=self.mean("pv_a", of) if of_one else nothing,
            bank_v=whole["bank_v"],
            bank_a=whole["bank_a"],
            soc=whole["charge_frac"],
            speed_mps=np.where(np.isfinite(through), through, whole["ground_mps"]),
            motor_w=whole["motor_w"],
            watts=self.panel_watts(of) if of_one else self.whole_watts(),
            house_w=whole["house_w"],
            course_deg=self.course_deg if self.by_track else None,
        )
        return found
