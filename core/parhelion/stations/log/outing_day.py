"""A time on the water beside its model: harvest, house, motor and bank over the same hours.

References
----------
[1] Between readings the share of the model's harvest that was read is taken on a straight line: energy is the
    model's times that share, from the first reading to the last. Hours without readings count nothing.
[2] What was read of speed and motor holds until the next reading or a pause, an hour and a half at most.
"""

from __future__ import annotations

import math
from collections import OrderedDict
from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import datetime, timedelta
from zoneinfo import ZoneInfo

import numpy as np
from numpy.typing import NDArray

from parhelion.balance.flow import SOC, run_days
from parhelion.balance.outlook import OUTLOOK_READS
from parhelion.balance.spells import house_watts
from parhelion.bank.joint import Aboard, aboard_of
from parhelion.computing.kept import once
from parhelion.design import BoatDesign, Sky
from parhelion.design.logbook import LONGEST_OUTING_H, Logbook, Outing, Reading
from parhelion.design.reads import kept
from parhelion.diagnosis.day import Diagnosis, diagnosed
from parhelion.diagnosis.day_model import Around, air_through, held_words, light_through, word_index
from parhelion.diagnosis.inputs import inputs_of
from parhelion.hull.demand import demand_curve
from parhelion.meters.rows import Rows, steps_of
from parhelion.panels.harvest import Harvest, harvest
from parhelion.sun.climate import usual_air_temperature_c, water_temperature_c
from parhelion.sun.daysteps import SunTrack, track_over
from parhelion.sun.light import Light
from parhelion.sun.many import joined
from parhelion.sun.timeline import HOUR_S, Timeline
from parhelion.sun.zone import zone_at
from parhelion.wiring.by_itself import absorption_v
from parhelion.wiring.circuits import float_v

Array = NDArray[np.float64]
Mask = NDArray[np.bool_]

NIGHT_COOLER_K = 8.0  # the lowest air under the highest, where nobody has said
SETTLED_H = 1e-6
HOLDS_H = 1.5  # a reading of speed or watts, until the next [2]
LIT_FRAC = 0.05  # of the nameplate
LEAST_SHARE, MOST_SHARE = 0.0, 2.0
HELD_BOOKS = 8


@dataclass(frozen=True, eq=False)
class Told:
    """An outing with its readings that count; the same where both are."""

    outing: Outing
    readings: tuple[Reading, ...]

    @once
    def _hash(self) -> int:
        return hash((self.outing, self.readings))

    def __hash__(self) -> int:
        return self._hash

    def __eq__(self, other: object) -> bool:
        if not isinstance(other, Told) or self._hash != other._hash:
            return False
        return self.outing == other.outing and self.readings == other.readings


class Book:
    """A logbook by its outings, the newest first."""

    def __init__(self, logbook: Logbook):
        by_outing: dict[str, list[Reading]] = {}
        for reading in logbook.readings:
            if reading.outing_id is not None and not reading.left_out:
                by_outing.setdefault(reading.outing_id, []).append(reading)
        self.told = tuple(
            Told(outing, tuple(sorted(by_outing.get(outing.id, []), key=lambda r: r.at)))
            for outing in sorted(logbook.outings, key=lambda outing: outing.began_at, reverse=True)
        )

    def outing(self, outing_id: str) -> Told | None:
        """The outing of an id, or the newest where none is named or there is none of it."""
        named = next((told for told in self.told if told.outing.id == outing_id), None)
        return named or (self.told[0] if self.told else None)


_books: OrderedDict[int, tuple[Logbook, Book]] = OrderedDict()


def book_of(logbook: Logbook) -> Book:
    """The book of a logbook, made once for as long as it is asked about."""
    known = _books.get(id(logbook))
    if known is not None and known[0] is logbook:
        return known[1]
    book = Book(logbook)
    _books[id(logbook)] = (logbook, book)
    while len(_books) > HELD_BOOKS:
        _books.popitem(last=False)
    return book


def ended_at(told: Told) -> datetime:
    """When an outing ended: as noted, or its last reading; two days after it began at the latest."""
    outing = told.outing
    if outing.ended_at is not None:
        return outing.ended_at
    last = told.readings[-1].at if told.readings else outing.began_at
    return min(max(last, outing.began_at), outing.began_at + timedelta(hours=LONGEST_OUTING_H))


def held_on(values: Array, step_h: Array, still: Mask | None = None, holds_h: float = HOLDS_H) -> Array:
    """Readings that hold until the next one [2], nothing where she lies still; nan where none does."""
    rows = np.arange(len(values))
    read = np.isfinite(values)
    lies = np.zeros_like(read) if still is None else still & ~read
    last = np.maximum.accumulate(np.where(read, rows, -1))
    stopped = np.maximum.accumulate(np.where(lies, rows, -1))
    begins_h = np.cumsum(step_h) - step_h
    holds = (last > stopped) & (holds_h - (begins_h - begins_h[last]) > SETTLED_H)
    return np.where(lies, 0.0, np.where(holds, values[last], np.nan))


def rows_of(told: Told, zone: ZoneInfo) -> Rows:
    """The readings of an outing on even steps."""
    steps = steps_of(told.outing.began_at, ended_at(told), zone)
    return Rows(steps, told.readings, told.outing.clock_ahead_s)


def still_in(outing: Outing, steps: Timeline) -> Mask:
    """Rows of which the middle lies in a pause; one that was not ended goes on."""
    found = np.zeros(steps.steps, dtype=bool)
    middles = np.arange(steps.steps) + 0.5
    for pause in outing.pauses:
        end = math.inf if pause.ended_at is None else steps.index_at(pause.ended_at)
        found |= (middles >= steps.index_at(pause.began_at)) & (middles < end)
    return found


def lies_in(outing: Outing, steps: Timeline) -> Mask:
    """The same, and all rows after the end that was noted: what was read holds no longer."""
    ends = math.inf if outing.ended_at is None else steps.index_at(outing.ended_at)
    return still_in(outing, steps) | (np.arange(steps.steps) + 0.5 >= ends)


def speeds_of(outing: Outing, rows: Rows) -> Array:
    """Speed through the water, held between readings; 0 where nothing says otherwise [m/s]."""
    still = lies_in(outing, rows.steps)
    return np.nan_to_num(held_on(rows.log().speed_mps, rows.steps.step_h, still))


def way_of(outing: Outing, rows: Rows) -> float:
    """The distance as noted, or from the speeds that were read [m]."""
    if outing.distance_m is not None:
        return outing.distance_m
    return float(np.sum(speeds_of(outing, rows) * rows.steps.step_h) * HOUR_S)


@dataclass(frozen=True, eq=False)
class OutingDay:
    """Arrays over the ten-minute steps of the days it touches, shape (t,)."""

    design: BoatDesign
    told: Told
    rows: Rows
    around: Around
    track: SunTrack
    words: tuple[Sky, ...]
    spread: Array  # of a step's light under its word
    light: Light
    harvest: Harvest
    aboard: Aboard | None
    nameplates_w: dict[str, float]  # of what is wired to each controller

    @property
    def steps(self) -> Timeline:
        return self.rows.steps

    @property
    def outing(self) -> Outing:
        return self.told.outing

    @once
    def modelled_w(self) -> Array:
        """At the panels' meter, with nothing held back."""
        return np.ascontiguousarray(self.harvest.array_w[0])

    @once
    def clear_w(self) -> Array:
        """The same under a clear sky."""
        lit = light_through(self.track, np.ones(self.steps.steps), self.light.course_deg)
        light = replace(lit, air_c=self.light.air_c)
        return np.ascontiguousarray(harvest(self.design, light).array_w[0])

    def box_w(self, key: str) -> Array:
        """The same of one controller."""
        out, lost, above = self.harvest.boxes_w[key]
        return np.asarray((out + lost + above)[0])

    @once
    def read_w(self) -> Array:
        return self.rows.whole_watts()

    @once
    def lit(self) -> Mask:
        return self.modelled_w > LIT_FRAC * max(self.design.nameplate_w, 1.0)

    @once
    def share(self) -> Array:
        """Read over modelled; nan where nothing was read or it is dark."""
        return np.where(self.lit, self.read_w / np.maximum(self.modelled_w, 1.0), np.nan)

    @once
    def throttled(self) -> Mask:
        """Rows in which the bank stood at its top and less than the model came."""
        log = self.rows.log()
        by_v = np.nan_to_num(log.bank_v) > self.around.float_v * 0.994
        full = np.where(np.isfinite(log.bank_v), by_v, np.nan_to_num(log.soc) >= 0.985)
        return full & self.lit & (np.nan_to_num(self.share, nan=1.0) < 0.9)

    @once
    def harvested_w(self) -> Array:
        """What came from the panels, between the first reading and the last [1]; nan elsewhere."""
        known = np.flatnonzero(np.isfinite(self.share))
        found = np.where(np.isfinite(self.read_w), self.read_w, np.nan)
        if len(known) < 2:
            return found
        at = np.arange(self.steps.steps)
        share = np.interp(at, known, np.clip(self.share[known], LEAST_SHARE, MOST_SHARE))
        inside = (at >= known[0]) & (at <= known[-1])
        return np.where(np.isfinite(found), found, np.where(inside, self.modelled_w * share, np.nan))

    @once
    def _house_w(self) -> Array:
        return house_watts(self.steps, self.design)

    @once
    def house_w(self) -> Array:
        """As the loads are set down."""
        return self._house_w.sum(axis=0)

    @once
    def speed_mps(self) -> Array:
        return speeds_of(self.outing, self.rows)

    @once
    def motor_model_w(self) -> Array:
        """Battery watts of that speed by the design's curve."""
        curve = demand_curve(self.design)
        watts = np.nan_to_num(curve.power_at(np.maximum(self.speed_mps, 0.05)))
        return np.where(self.speed_mps > 0.05, watts, 0.0)

    @once
    def motor_w(self) -> Array:
        """As read and held; the model's where only the speed was read."""
        read = held_on(self.rows.log().motor_w, self.steps.step_h, lies_in(self.outing, self.steps))
        return np.where(np.isfinite(read), read, self.motor_model_w)

    @once
    def soc_read(self) -> Array:
        return self.rows.log().soc

    @once
    def record(self) -> Array | None:
        """The bank as the model has it from the first reading of its charge; None without a bank or one."""
        known = np.flatnonzero(np.isfinite(self.soc_read))
        if self.aboard is None or not len(known):
            return None
        first = int(known[0])
        start = np.array([min(float(self.soc_read[first]), 1.0)])
        house = self._house_w
        sun = np.ascontiguousarray(self.harvest.by_bank_w[:, first:])
        house, motor = np.ascontiguousarray(house[:, first:]), np.ascontiguousarray(self.motor_w[first:])
        step_h = np.ascontiguousarray(self.steps.step_h[first:])
        made = run_days(sun, house, motor, start, start, step_h, self.aboard)
        whole = np.full((self.steps.steps, made.shape[2]), np.nan)
        whole[first:] = made[0]
        return whole

    @once
    def soc_model(self) -> Array:
        """State of charge at the end of each step; nan before the first reading."""
        return np.full(self.steps.steps, np.nan) if self.record is None else self.record[:, SOC]

    @once
    def thrown_w(self) -> Array:
        """What was held back because the bank was full, between the readings that say so."""
        held = np.maximum(self.modelled_w - np.nan_to_num(self.harvested_w), 0.0)
        return np.where(np.isfinite(self.harvested_w) & self.full_between, held, 0.0)

    @once
    def full_between(self) -> Mask:
        """Rows between readings of which the last said that the bank was full."""
        said = np.where(np.isfinite(self.read_w), self.throttled.astype(float), np.nan)
        return np.nan_to_num(held_on(said, self.steps.step_h)) > 0.5

    @once
    def out(self) -> Mask:
        """Rows between its beginning and its end."""
        index = np.arange(self.steps.steps)
        first, last = self.steps.index_at(self.outing.began_at), self.steps.index_at(ended_at(self.told))
        return (index + 1 > first) & (index <= last)

    def wh(self, watts: Array) -> float:
        return float(np.nansum(watts * self.steps.step_h))

    @once
    def way_m(self) -> float:
        """As noted, or from the speeds that were read."""
        return way_of(self.outing, self.rows)

    @once
    def under_way_h(self) -> float:
        return float(self.steps.step_h[self.speed_mps > 0.2].sum())


def _around(design: BoatDesign, outing: Outing, rows: Rows) -> Around:
    bank, day = design.bank, outing.began_at.date()
    usual = design.plan.air_temperature_c
    high = outing.highest_c
    if high is None:
        high = usual_air_temperature_c(design.site.latitude_deg, day) if usual is None else usual
    low = high - NIGHT_COOLER_K if outing.lowest_c is None else outing.lowest_c
    if bank is None:
        return Around(low, high, float("inf"), float("inf"), rows.water)
    return Around(low, high, absorption_v(bank), float_v(bank), rows.water)


def wind_of(told: Told) -> float | None:
    """The wind as noted for the outing, or the middle of what was read; None where nobody says [m/s]."""
    if told.outing.wind_mps is not None:
        return told.outing.wind_mps
    read = [reading.wind_mps for reading in told.readings if reading.wind_mps is not None]
    return float(np.median(read)) if read else None


def then(design: BoatDesign, told: Told) -> BoatDesign:
    """The boat on the day of an outing: its date, wind and heading."""
    outing, wind_mps = told.outing, wind_of(told)
    update = {
        "date": outing.began_at.date(),
        **({} if wind_mps is None else {"wind_mps": wind_mps}),
        **({} if outing.heading_deg is None else {"heading_deg": outing.heading_deg, "swing_deg": 0.0}),
    }
    return design.changed(plan=design.plan.model_copy(update=update))


@kept(OUTLOOK_READS, 120)
def outing_day(design: BoatDesign, told: Told) -> OutingDay:
    """A time on the water beside its model; kept for the last boats and outings.

    Parameters
    ----------
    design : BoatDesign
    told : Told
    """
    return outing_days(design, [told])[0]


def outing_days(design: BoatDesign, told: Sequence[Told]) -> list[OutingDay]:
    """Times on the water beside their model: the sun of all that were alike in wind and heading at once."""
    zone = zone_at(design.site.latitude_deg, design.site.longitude_deg)
    nameplates = {box.key: box.nameplate_w * box.boxes for box in inputs_of(design)}
    seen = [_seen(then(design, one), one, zone) for one in told]
    alike: dict[tuple[float, float | None, float], list[int]] = {}
    for index, plan in enumerate(one.boat.plan for one in seen):
        alike.setdefault((plan.wind_mps, plan.heading_deg, plan.swing_deg), []).append(index)
    harvests: dict[int, Harvest] = {}
    for members in alike.values():
        some = [seen[index] for index in members]
        whole = harvest(some[0].boat, joined([one.light for one in some]))
        end = 0
        for index, one in zip(members, some, strict=True):
            first, end = end, end + one.rows.steps.steps
            harvests[index] = whole.steps(first, end)
    return [
        OutingDay(
            one.boat, told[index], one.rows, one.around, one.track, one.words, one.spread, one.light,
            harvests[index], one.aboard, nameplates,
        )
        for index, one in enumerate(seen)
    ]  # fmt: skip


@dataclass(frozen=True, eq=False)
class _Seen:
    """The boat on the day of an outing, its readings and the sky over it."""

    boat: BoatDesign
    rows: Rows
    around: Around
    track: SunTrack
    words: tuple[Sky, ...]
    spread: Array
    light: Light
    aboard: Aboard | None


def _seen(boat: BoatDesign, told: Told, zone: ZoneInfo) -> _Seen:
    outing = told.outing
    steps = steps_of(outing.began_at, ended_at(told), zone)
    rows = Rows(steps, told.readings, outing.clock_ahead_s, by_track=outing.heading_deg is None)
    around = _around(boat, told.outing, rows)
    words = held_words(rows.steps, rows.words)
    index, spread = (np.array(values) for values in zip(*(word_index(word) for word in words), strict=True))
    track = track_over(boat.site.spot, rows.steps)
    air = air_through(rows.steps, around.lowest_c, around.highest_c)
    light = replace(light_through(track, index, rows.log().course_deg), air_c=air)
    aboard = None if boat.bank is None else aboard_of(boat, around.highest_c, water_temperature_c(boat))
    return _Seen(boat, rows, around, track, words, spread, light, aboard)


@kept(OUTLOOK_READS, 60)
def outing_diagnosis(design: BoatDesign, told: Told, of: str | None = None) -> Diagnosis | None:
    """What the readings of an outing mean, of all panels or of one controller's; None with too few."""
    day = outing_day(design, told)
    log = day.rows.log(of)
    if np.isfinite(log.pv_w).sum() < 3 and np.isfinite(log.motor_w).sum() < 3:
        return None
    inputs = None
    if of is not None:  # its panels alone: what the bank and the motor say is told of the whole boat
        nothing = np.full(len(log.bank_a), np.nan)
        log = replace(log, bank_a=nothing, motor_w=nothing, speed_mps=nothing)
        inputs = tuple(box for box in inputs_of(day.design) if box.key == of)
    found = diagnosed(day.design, log, day.around, inputs)
    return found if found.ranked else None
