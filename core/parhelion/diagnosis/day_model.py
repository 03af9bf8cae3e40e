"""A logged day beside its model: what the panels, the house and the motor should have shown, row by row.

References
----------
[1] A word for the sky holds for the rows nearer to its note than to another's; the spread of a step under it
    is that of `sun.sky`. Under a broken sky a step of minutes is a mixture of its two states.
[2] Air through a day: lowest about sunrise, highest in mid-afternoon, a sine between.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from datetime import datetime, timedelta

import numpy as np
from numpy.typing import NDArray

from parhelion.balance.spells import house_watts
from parhelion.computing.kept import once
from parhelion.design import BoatDesign, Shade, Sky
from parhelion.diagnosis.expected import Wired
from parhelion.diagnosis.inputs import Input, inputs_of, lit_strings
from parhelion.hull.demand import demand_curve
from parhelion.panels.shaded import headings_of
from parhelion.sun.daysteps import SunTrack, track_over
from parhelion.sun.light import Light, split
from parhelion.sun.sky import BROKEN_BRIGHT, BROKEN_DULL, steady_index
from parhelion.sun.timeline import Timeline
from parhelion.wiring.held import Diode, diode_of

Array = NDArray[np.float64]
Mask = NDArray[np.bool_]

BROKEN_MEAN = (BROKEN_BRIGHT + BROKEN_DULL) / 2
BROKEN_SPREAD = 0.30  # of a step of minutes under a broken sky, over its mean
WARMEST_CLOCK_H, COLDEST_CLOCK_H = 15.0, 5.5  # [2]


@dataclass(frozen=True, eq=False)
class DayLog:
    """What was read over a day; arrays of shape (t,), nan where nothing was."""

    timeline: Timeline
    words: tuple[Sky | None, ...]  # noted in each step
    pv_v: Array  # at the panel side of the PV fuse, all strings together [V]
    pv_a: Array
    bank_v: Array
    bank_a: Array  # at the shunt, charging positive [A]
    soc: Array  # what the meter of charge says [-]
    speed_mps: Array  # through the water
    motor_w: Array  # at the bank [W]
    watts: Array | None = None  # from the panels, where a meter gives them alone
    house_w: Array | None = None
    course_deg: Array | None = None  # over the ground, where she made way

    @once
    def pv_w(self) -> Array:
        product = self.pv_v * self.pv_a
        return product if self.watts is None else np.where(np.isfinite(product), product, self.watts)


@dataclass(frozen=True)
class WaterNote:
    """Wind and waves as somebody saw them."""

    at: datetime
    wind_mps: float
    waves_m: float


@dataclass(frozen=True)
class Around:
    """What is known of the day beside its readings."""

    lowest_c: float
    highest_c: float
    absorption_v: float  # the charging volts that are set
    float_v: float
    water: tuple[WaterNote, ...] = field(default=())


def held_words(timeline: Timeline, words: Sequence[Sky | None]) -> tuple[Sky, ...]:
    """The word that holds in each step [1]; clear where none was noted all day."""
    noted = [index for index, word in enumerate(words) if word is not None]
    if not noted:
        return (Sky.CLEAR,) * len(words)
    at = timeline.middles_s
    nearest = np.abs(at[:, None] - at[noted][None, :]).argmin(axis=1)
    return tuple(words[noted[int(k)]] or Sky.CLEAR for k in nearest)


def word_index(word: Sky) -> tuple[float, float]:
    """Mean of the clear-sky index of some minutes under a word, and its spread over that mean [-]."""
    if word is Sky.BROKEN:
        return BROKEN_MEAN, BROKEN_SPREAD
    mean, spread = steady_index(word, Shade.USUAL)
    return mean, spread / mean


def air_through(timeline: Timeline, lowest_c: float, highest_c: float) -> Array:
    """The air over a day's steps, shape (t,) [C] [2]."""
    hours = (np.array(timeline.clock_min) / 60 + timeline.step_h / 2) % 24
    rising = WARMEST_CLOCK_H - COLDEST_CLOCK_H
    since = (hours - COLDEST_CLOCK_H) % 24
    phase = np.where(since < rising, since / rising, 1 - (since - rising) / (24 - rising))
    return np.asarray(lowest_c + (highest_c - lowest_c) * (1 - np.cos(np.pi * phase)) / 2)


@dataclass(frozen=True, eq=False)
class Strings:
    """All strings of a boat through a day as one input; volts of one string, amps of all; shapes (t,)."""

    wired: Wired
    light_w_per_m2: Array  # that the cells keep
    cell_c: Array
    amps_times: Array | float = 1.0  # where strings of other volts stand beside these
    shares: tuple[float, ...] = ()  # of all watts, of a string of each kind and of how many there are

    @once
    def diode(self) -> Diode:
        """One panel's."""
        return diode_of(self.wired.panel, self.light_w_per_m2, self.cell_c)

    @once
    def _best(self) -> tuple[Array, Array]:
        volts, amps = self.diode.best()
        drop = self.wired.drop * self.wired.panel.best_v * amps / self.wired.panel.best_a
        return (volts - drop) * self.wired.series, amps * self.wired.parallel * self.amps_times

    @property
    def best_v(self) -> Array:
        return self._best[0]

    @property
    def best_a(self) -> Array:
        return self._best[1]

    @property
    def best_w(self) -> Array:
        return self.best_v * self.best_a

    @once
    def open_v(self) -> Array:
        return self.diode.open_v * self.wired.series

    def amps_at(self, volts: Array) -> Array:
        """Amps of all strings held at volts at the controller; the cable's drop is small beside them."""
        drop = self.wired.drop * self.wired.panel.best_v
        inner = volts / self.wired.series + drop * np.minimum(
            self.best_a / (self.wired.panel.best_a * self.wired.parallel * self.amps_times), 1.0
        )
        watts = self.diode.held_w(inner)
        return watts / np.maximum(inner, 1e-6) * self.wired.parallel * self.amps_times


@dataclass(frozen=True, eq=False)
class DayModel:
    """A day as the model has it under the words that were noted; arrays of shape (t,)."""

    design: BoatDesign
    track: SunTrack
    words: tuple[Sky, ...]
    index: Array  # of a clear sky's light
    spread: Array  # of the light of a step, over its mean
    air_c: Array
    inputs: tuple[Input, ...]
    strings: Strings | None  # None: no panel gives

    @property
    def timeline(self) -> Timeline:
        return self.track.timeline

    @once
    def house_w(self) -> Array:
        """All loads, their mean [W]."""
        return house_watts(self.timeline, self.design).sum(axis=0)

    def motor_w(self, speed_mps: Array) -> Array:
        """Battery watts at a speed through calm water [W]; nan beyond the curve."""
        return demand_curve(self.design).power_at(speed_mps)


def light_through(track: SunTrack, index: Array, course_deg: Array | None = None) -> Light:
    """A light of one member, shape (1, t), on a boat with a course where one is known."""
    ghi = (track.clear_ghi_w_per_m2 * index)[None, :]
    dhi, dni = split(track, ghi)
    return Light(track, ghi, dhi, dni, 0, course_deg=course_deg)


def strings_under(design: BoatDesign, inputs: Sequence[Input], light: Light, air_c: Array) -> Strings | None:
    """The strings of all inputs as one; None where no panel of theirs stands.

    Volts are those of the strings that give most; others are counted by their watts.
    """
    circuits = [circuit for box in inputs for circuit in box.circuits]
    lit = [
        lit_strings(design, circuit, circuit.strings, light, headings_of(design), air_c)
        for circuit in circuits
    ]
    kinds = [
        Strings(one.wired, one.effective_w_per_m2[0] * one.wired.kept, one.cell_c[0])
        for one in lit
        if one is not None
    ]
    if not kinds:
        return None
    plain = [replace(kind, wired=replace(kind.wired, kept=1.0)) for kind in kinds]
    main = max(plain, key=lambda kind: float(kind.best_w.sum()))
    whole = np.sum([kind.best_w for kind in plain], axis=0)
    day = max(float(whole.sum()), 1e-9)
    shares = tuple(
        float(kind.best_w.sum()) / day / kind.wired.parallel
        for kind in plain
        for _ in range(kind.wired.parallel)
    )
    times = np.divide(whole, main.best_w, out=np.ones_like(whole), where=main.best_w > 0)
    return Strings(main.wired, main.light_w_per_m2, main.cell_c, times, shares)


def day_model(
    design: BoatDesign,
    log: DayLog,
    around: Around,
    clock_ahead_s: float = 0.0,
    inputs: tuple[Input, ...] | None = None,
) -> DayModel:
    """The model of a logged day.

    Parameters
    ----------
    design : BoatDesign
        As she was.
    log : DayLog
    around : Around
    clock_ahead_s : float
        How far the log's clock is ahead of the sun's [s].
    inputs : tuple of Input, optional
        Whose panels were read; all of them where it is not given.
    """
    steps = log.timeline
    true = Timeline(steps.starts_at - timedelta(seconds=clock_ahead_s), steps.step_s, steps.zone)
    track = track_over(design.site.spot, true)
    words = held_words(steps, log.words)
    index, spread = (np.array(values) for values in zip(*(word_index(word) for word in words), strict=True))
    air = air_through(true, around.lowest_c, around.highest_c)
    boxes = tuple(inputs_of(design)) if inputs is None else inputs
    strings = strings_under(design, boxes, light_through(track, index, log.course_deg), air)
    return DayModel(design, track, words, index, spread, air, boxes, strings)
