"""A boat played through a day, minute by minute: what her meters would show, sound or with a fault.

It stands in for real devices: for the demo's season, for the simulated devices that ship with the program,
and for trying the diagnosis on days whose truth is known. Every draw comes from the seed that is given.

References
----------
[1] The light of a minute wanders about its word's clear-sky index with a memory of some ten minutes; under a
    broken sky it jumps between two states in spells of twelve minutes (`sun.sky`).
[2] A charger gives all it can until the bank stands at its absorption volts, holds those until the amps tail
    off, then lets the bank sink to float and serves the loads.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from datetime import datetime
from datetime import time as Time
from typing import Any

import numpy as np
from numpy.typing import NDArray

from parhelion.balance.spells import load_share
from parhelion.bank.store import resistance_of
from parhelion.design import Bank, BoatDesign, Load, Sky
from parhelion.design.chemistries import CHEMICALS
from parhelion.diagnosis.conditions import Condition
from parhelion.diagnosis.day_model import (
    Around,
    DayLog,
    Strings,
    air_through,
    held_words,
    light_through,
    strings_under,
    word_index,
)
from parhelion.diagnosis.inputs import inputs_of
from parhelion.hull.demand import demand_curve
from parhelion.sun.daysteps import SunTrack, track_over
from parhelion.sun.light import Light
from parhelion.sun.sky import BROKEN_BRIGHT, BROKEN_DULL, BROKEN_SPELL_MIN
from parhelion.sun.timeline import Timeline, even_steps

Array = NDArray[np.float64]
Mask = NDArray[np.bool_]

MINUTES = 1440
MEMORY_MIN = 10.0  # of the light's wander [1]
PANEL_SPREAD, MOTOR_SPREAD, MOTOR_WANDER, SPEED_WANDER = 0.025, 0.03, 0.03, 0.012
VOLTS_SPREAD = 0.006
CYCLE_MIN = 40.0  # of a fridge
ABSORBS_MIN = 25
TAIL_C = 0.03  # amps over capacity at which absorption ends [2]
SINKS_PER_MIN = 0.012  # of a bank's volts over its rest, once it is let go
MINUTES_LITHIUM, MINUTES_LEAD = 1.8, 5.2  # of a bank's ohms, over some minutes
COLD_BLOCKS_C = 0.0
BANK_OVER_V = 0.4  # of panels that are not tracked, over the bank
OPEN_STEPS = 24
LEAST_W = 1e-9


@dataclass(frozen=True)
class Fault:
    """What is wrong with the boat that is played, and how much."""

    condition: Condition = Condition.FINE
    size: float = 0.0
    from_h: float = 0.0  # local clock, where it comes and goes
    to_h: float = 24.0


@dataclass(frozen=True)
class Played:
    """How a day is played."""

    seed: int
    words: tuple[tuple[float, Sky], ...]  # the clock in hours, and the word noted then
    trips: tuple[tuple[float, float, float], ...] = ()  # from, to [h], speed through the water [m/s]
    start_soc: float = 0.6
    said_soc: float | None = None  # what the meter of charge says at the start; the truth where None
    fault: Fault = field(default_factory=Fault)
    gaps: float = 0.02  # share of the rows that are lost
    step_min: int = 10
    boxes: tuple[tuple[str, float, float], ...] = ()  # a controller, what its panels keep, from which hour
    house_times: float = 1.0  # what the house takes over the design's loads
    motor_times: float = 1.0
    panels_times: float = 1.0


@dataclass(frozen=True, eq=False)
class TrueDay:
    """What happened, by the minute, shapes (1440,)."""

    log: DayLog  # as the meters say it, by the step
    harvest_w: Array
    motor_w: Array
    house_w: Array
    soc: Array
    way_mps: Array
    boxes_w: dict[str, Array]  # of the harvest, by controller

    @property
    def harvest_wh(self) -> float:
        return float(self.harvest_w.sum() / 60)

    @property
    def way_m(self) -> float:
        return float(self.way_mps.sum() * 60)


def _minute_index(words: Sequence[Sky], draw: np.random.Generator) -> Array:
    """Share of a clear sky's light by the minute [1]."""
    mean, spread = (np.array(v) for v in zip(*(word_index(word) for word in words), strict=True))
    keep = np.exp(-1 / MEMORY_MIN)
    steps = draw.standard_normal(len(words))
    wander = np.empty(len(words))
    now = draw.standard_normal()
    for minute, step in enumerate(steps):
        now = keep * now + np.sqrt(1 - keep**2) * step
        wander[minute] = now
    bright, broken = draw.random() < 0.5, np.empty(len(words))
    for minute in range(len(words)):
        if draw.random() < 1 / BROKEN_SPELL_MIN:
            bright = not bright
        broken[minute] = BROKEN_BRIGHT if bright else BROKEN_DULL
    day = draw.standard_normal()
    steady = mean * (1 + spread * (0.6 * wander + 0.6 * day))
    is_broken = np.array([word is Sky.BROKEN for word in words])
    return np.maximum(np.where(is_broken, broken, steady), 0.02)


def _house(design: BoatDesign, steps: Timeline, draw: np.random.Generator) -> Array:
    """Watts of the loads; one without a clock cycles."""
    total = np.zeros(steps.steps)
    clock = np.arange(steps.steps, dtype=float)
    for load in design.loads:
        total += load.drawn_w * _on(load, steps, clock + draw.random() * CYCLE_MIN)
    return total


def _on(load: Load, steps: Timeline, phase: Array) -> Array:
    if load.from_clock is None and load.hours_per_day < 24:
        return ((phase % CYCLE_MIN) / CYCLE_MIN < load.hours_per_day / 24).astype(float)
    return load_share(steps, load)


def _faulty(strings: Strings, fault: Fault, active: Mask) -> tuple[Array, Array, Array]:
    """Volts and amps at the best, and open volts, with a fault of the panels'."""
    s, size = strings, fault.size
    volts, amps, open_v = s.best_v.copy(), s.best_a.copy(), s.open_v.copy()
    match fault.condition:
        case Condition.STRING_DEAD:
            amps = amps * np.where(active, size, 1.0)
        case Condition.SOILING:
            amps = amps * (1 - size)
        case Condition.HOT:
            lost = size * np.minimum(s.light_w_per_m2 / 1000, 1.2)
            volts, open_v = volts * (1 - lost), open_v * (1 - 0.85 * lost)
        case Condition.HIGH_RESISTANCE:
            volts = volts * (1 - size * amps / (s.wired.panel.best_a * s.wired.parallel))
        case Condition.SUBSTRING_SHADE:
            share = 1 - size / (s.wired.series * s.wired.substrings)
            volts, open_v = np.where(active, volts * share, volts), np.where(active, open_v * share, open_v)
        case Condition.PV_FUSE | Condition.REVERSED:
            amps = amps * 0.0
    return volts, amps, open_v


def _track(design: BoatDesign, start: datetime) -> SunTrack:
    return track_over(design.site.spot, even_steps(start, 60.0, MINUTES, start.tzinfo))  # type: ignore[arg-type]


def _design_seen(design: BoatDesign, fault: Fault) -> BoatDesign:
    """The boat as her panels really stand."""
    if fault.condition is not Condition.ASPECT:
        return design
    heading = ((design.plan.heading_deg or 0.0) + fault.size) % 360
    return design.changed(plan=design.plan.model_copy(update={"heading_deg": heading}))


@dataclass(frozen=True, eq=False)
class _Sent:
    """What the bank and its charger made of a minute's panels and loads."""

    pv_w: Array
    bank_v: Array
    bank_a: Array
    soc: Array
    motor: Array  # share of the motor's watts that ran
    throttled: Mask


class _BankThrough:
    """A bank and its charger through a day [2]."""

    def __init__(self, bank: Bank, around: Around, efficiency: float, fault: Fault):
        chemical = CHEMICALS[bank.chemistry]
        minutes = MINUTES_LITHIUM if chemical.lithium else MINUTES_LEAD
        weak = fault.condition is Condition.WEAK_CELL
        self.cells, self.efficiency = bank.cells, efficiency
        self.ohm = resistance_of(bank) * minutes * (fault.size if weak else 1.0)
        self.capacity = bank.capacity_ah * (0.55 if weak else 1.0)
        self.label_ah = bank.capacity_ah
        self.coulomb = chemical.coulomb_efficiency
        self.most_a = chemical.charge_c[1] * bank.capacity_ah
        self.tail = 1 - chemical.taper[1]  # of the charge, over which the acceptance falls
        self.rest = np.array(chemical.rest_v)
        scale = 1 + fault.size if fault.condition is Condition.CHARGE_PROFILE else 1.0
        self.absorption_v, self.float_v = around.absorption_v * scale, around.float_v * scale
        if scale != 1.0:
            self.float_v = min(self.float_v, self.absorption_v)
        self.cut_out_v = bank.cuts_out_v

    def rest_v(self, soc: float) -> float:
        return float(np.interp(soc, self.rest[:, 0], self.rest[:, 1])) * self.cells

    def run(self, offered_w: Array, motor_w: Array, house_w: Array, soc: float, blocked: Mask) -> _Sent:
        n = len(offered_w)
        pv, volts, amps, charge, ran = (np.zeros(n) for _ in range(5))
        held = np.zeros(n, dtype=bool)
        state, surface, absorbed = "bulk", 0.0, 0
        for i in range(n):
            rest = self.rest_v(soc) + surface
            wants = motor_w[i] if soc > 0.03 else 0.0
            offer = 0.0 if blocked[i] else float(offered_w[i]) * self.efficiency
            limit = self.float_v if state == "float" else self.absorption_v
            net = offer - wants - house_w[i]
            current = net / rest
            full_v = rest + current * self.ohm
            accepted = self.most_a * min((1 - soc) / self.tail, 1.0)
            if (rest + current * self.ohm > limit or current > accepted) and offer > 0:
                current = min(current, (limit - rest) / self.ohm, accepted)
                full_v = limit if accepted <= current else rest + current * self.ohm
                given = max(current * rest + wants + house_w[i], 0.0)
                held[i] = given < offer
                current = (given - wants - house_w[i]) / rest
                pv[i] = given / self.efficiency
                absorbed += state == "bulk"
                tailed = 0 <= current < TAIL_C * self.label_ah and soc > 0.9
                if state == "bulk" and tailed and absorbed > ABSORBS_MIN:
                    state, absorbed = "float", 0
            else:
                pv[i] = offer / self.efficiency
                if state == "float" and rest < self.float_v - 0.03 * self.cells:
                    state = "bulk"
            factor = self.coulomb if current > 0 else 1.0
            soc = float(np.clip(soc + current * factor / 60 / self.capacity, 0.0, 1.0))
            full_rest = self.rest_v(soc)
            surface += (max(rest + current * self.ohm - full_rest, 0.0) * 0.3 - surface) * (
                0.05 if current > 0 else SINKS_PER_MIN
            )
            volts[i], amps[i], charge[i], ran[i] = full_v, current, soc, wants
        return _Sent(pv, volts, amps, charge, ran, held)


def _pv_point(
    s: Strings, best_v: Array, best_a: Array, open_v: Array, watts: Array, held: Mask
) -> tuple[Array, Array]:
    """Volts and amps where the panels give so many watts: their best, or above it where they are held "
    "back."""
    share = np.linspace(0.0, 1.0, OPEN_STEPS)[:, None]
    at = best_v + share * (open_v - best_v)
    own = s.best_v + share * (s.open_v - s.best_v)
    made = np.maximum(s.amps_at(own), 0.0) * best_a / np.maximum(s.best_a, 1e-6) * at
    wanted = np.minimum(watts, made[0])
    above = (made >= wanted).sum(axis=0) - 1
    low = np.clip(above, 0, OPEN_STEPS - 2)
    column = np.arange(len(watts))
    high_w, low_w = made[low, column], made[low + 1, column]
    part = np.clip((high_w - wanted) / np.maximum(high_w - low_w, LEAST_W), 0.0, 1.0)
    volts = at[low, column] + part * (at[low + 1, column] - at[low, column])
    volts = np.where(held, volts, best_v)
    return volts, np.divide(watts, volts, out=np.zeros_like(watts), where=volts > 1)


def played_day(design: BoatDesign, start: datetime, around: Around, play: Played) -> TrueDay:
    """A day of a boat with one bank, as it went and as her meters say it.

    Parameters
    ----------
    design : BoatDesign
    start : datetime
        Midnight, with its offset.
    around : Around
        Air, and the charging volts as they are set down.
    play : Played
    """
    draw = np.random.default_rng(play.seed)
    fault, bank = play.fault, design.bank
    assert bank is not None
    track = _track(design, start)
    steps = track.timeline
    clock = np.arange(MINUTES) / 60
    active = (clock >= fault.from_h) & (clock < fault.to_h)
    noted: list[Sky | None] = [None] * MINUTES
    for hour, word in play.words:
        noted[min(int(hour * 60), MINUTES - 1)] = word
    words = held_words(steps, noted)
    index = _minute_index(words, draw)
    air = air_through(steps, around.lowest_c, around.highest_c)
    seen = _design_seen(design, fault)
    strings = strings_under(seen, inputs_of(seen), light_through(track, index), air)
    assert strings is not None
    best_v, best_a, open_v = _faulty(strings, fault, active)
    given = _boxes(seen, play, light_through(track, index), air, clock)
    kept = np.sum(list(given.values()), axis=0)
    best_a = best_a * kept * play.panels_times * (1 + PANEL_SPREAD * draw.standard_normal())
    lift = 1 + VOLTS_SPREAD * draw.standard_normal()
    best_v, open_v = best_v * lift, open_v * lift
    up = (track.elevation_deg > -0.5) & (strings.best_a > 0.01)
    offered = np.where(up, best_v * best_a, 0.0)
    boxes = [circuit.controller for box in inputs_of(design) for circuit in box.circuits]
    efficiency, headroom = float(np.mean([b.efficiency for b in boxes])), boxes[0].headroom_v
    through = _BankThrough(bank, around, efficiency, fault)
    pinned = np.zeros(MINUTES, dtype=bool)
    nominal = bank.nominal_v * 1.02
    if fault.condition is Condition.NOT_TRACKING:
        pinned = up
    out = fault.condition is Condition.SUBSTRING_SHADE
    short = up & (best_v < nominal + (BANK_OVER_V if out else headroom))
    pinned = pinned | short
    over = BANK_OVER_V if out or fault.condition is Condition.NOT_TRACKING else headroom
    if pinned.any():
        at = np.minimum(nominal + over, open_v)
        gain = best_a / np.maximum(strings.best_a, 1e-6)
        offered = np.where(
            pinned, np.maximum(strings.amps_at(at / (best_v / strings.best_v)), 0) * gain * at, offered
        )
    motor, way = _motor(design, play, draw, clock)
    motor = motor * play.motor_times
    house = _house(design, steps, draw) * play.house_times
    blocked = np.zeros(MINUTES, dtype=bool)
    if fault.condition is Condition.COLD_BLOCK:
        blocked = air < COLD_BLOCKS_C + 3.0
    if fault.condition in (Condition.PV_FUSE, Condition.REVERSED):
        blocked = np.ones(MINUTES, dtype=bool)
    sent = through.run(offered, motor, house, play.start_soc, blocked)
    pv_v, pv_a = _pv_point(
        strings, best_v, np.maximum(best_a, 1e-6), open_v, sent.pv_w, sent.throttled | blocked
    )
    if pinned.any():
        at = np.minimum(sent.bank_v + over, open_v)
        hold = pinned & ~sent.throttled
        pv_v = np.where(hold, at, pv_v)
        pv_a = np.where(hold, sent.pv_w / np.maximum(at, 1.0), pv_a)
    pv_v = np.where(up, pv_v, 0.0)
    pv_a = np.where(up, pv_a, 0.0)
    if fault.condition is Condition.REVERSED:
        pv_v, pv_a = pv_v * 0.0, pv_a * 0.0
    said = _said(play, sent, through, draw)
    shunt = sent.bank_a.copy()
    if fault.condition is Condition.METER_GAIN:
        shunt = shunt * fault.size
    if fault.condition is Condition.METER_OFFSET:
        shunt = shunt + fault.size
    log = _logged(steps, play, noted, draw, pv_v, pv_a, sent.bank_v, shunt, said, way, sent.motor, fault)
    return TrueDay(
        log,
        sent.pv_w,
        sent.motor,
        house,
        sent.soc,
        np.where(sent.motor > 0, way, 0.0),
        {key: sent.pv_w * share / np.maximum(kept, 1e-6) for key, share in given.items()},
    )


def _boxes(design: BoatDesign, play: Played, light: Light, air_c: Array, clock: Array) -> dict[str, Array]:
    """What each controller's panels give of all that is offered, their own losses taken off."""
    watts = {}
    for box in inputs_of(design):
        own = strings_under(design, [box], light, air_c)
        watts[box.key] = np.zeros(MINUTES) if own is None else own.best_w
    whole = np.maximum(np.sum(list(watts.values()), axis=0), 1e-6)
    found = {key: own / whole for key, own in watts.items()}
    for key, keeps, from_h in play.boxes:
        found[key] = np.where(clock >= from_h, found[key] * keeps, found[key])
    return found


def _said(play: Played, sent: _Sent, through: _BankThrough, draw: np.random.Generator) -> Array:
    """What the meter of charge says: amps counted from where it began, set to full when the bank is."""
    fault = play.fault
    amps = sent.bank_a
    if fault.condition is Condition.METER_GAIN:
        amps = amps * fault.size
    if fault.condition is Condition.METER_OFFSET:
        amps = amps + fault.size
    now = play.start_soc if play.said_soc is None else play.said_soc
    if fault.condition is Condition.SOC_DRIFT:
        now = float(np.clip(now + fault.size, 0.05, 0.99))
    found = np.empty(len(amps))
    for i, amp in enumerate(amps):
        now = min(max(now + amp / 60 / through.label_ah, 0.0), 1.0)
        found[i] = now
    return found


def _motor(design: BoatDesign, play: Played, draw: np.random.Generator, clock: Array) -> tuple[Array, Array]:
    """Battery watts and speed of the trips, by the minute."""
    curve, fault = demand_curve(design), play.fault
    watts, way = np.zeros(MINUTES), np.zeros(MINUTES)
    own = np.exp(MOTOR_SPREAD * draw.standard_normal())
    times = fault.size if fault.condition is Condition.FOULING else 1.0
    for start, end, speed in play.trips:
        run = (clock >= start) & (clock < end)
        at = speed * (1 + SPEED_WANDER * draw.standard_normal(MINUTES))
        drawn = curve.power_at(np.maximum(at, 0.05)) * own * times
        drawn = drawn * np.exp(MOTOR_WANDER * draw.standard_normal(MINUTES))
        if fault.condition is Condition.VENTILATION:
            airy = (clock >= fault.from_h) & (clock < fault.to_h)
            slow = 1 - (0.12 + 0.25 * draw.random(MINUTES)) * airy
            at = at * slow
        watts, way = np.where(run, drawn, watts), np.where(run, at, way)
    return np.nan_to_num(watts), way


def _logged(
    steps: Timeline, play: Played, noted: Sequence[Sky | None], draw: np.random.Generator, pv_v: Array,
    pv_a: Array, bank_v: Array, bank_a: Array, soc: Array, way: Array, motor: Array, fault: Fault,
) -> DayLog:  # fmt: skip
    """Means over the meters' steps, with their noise and their gaps."""
    size, n = play.step_min, MINUTES // play.step_min

    def mean(values: Array) -> Array:
        return values.reshape(n, size).mean(axis=1)

    words: list[Sky | None] = [
        next((word for word in noted[k * size : (k + 1) * size] if word is not None), None) for k in range(n)
    ]
    noise = 0.015 if fault.condition is Condition.NOISY else 0.002
    lost = 0.35 if fault.condition is Condition.NOISY else play.gaps

    def read(values: Array, least: float) -> Array:
        made = mean(values)
        made = made * (1 + noise * draw.standard_normal(n)) + least * draw.standard_normal(n) * (made != 0)
        return np.where(draw.random(n) < lost / 3, np.nan, made)

    columns = [
        read(pv_v, 0.05), read(pv_a, 0.02), read(bank_v, 0.01), read(bank_a, 0.03),
        np.round(mean(soc), 2), read(way, 0.02), read(motor, 1.0),
    ]  # fmt: skip
    gone = draw.random(n) < lost
    columns = [np.where(gone, np.nan, column) for column in columns]
    if fault.condition is Condition.CLOCK:
        shift = round(fault.size * 60 / size)
        columns = [np.roll(column, shift) for column in columns]
        words = list(np.roll(np.array(words, dtype=object), shift))
    timeline = even_steps(steps.starts_at, size * 60.0, n, steps.zone)
    return DayLog(timeline, tuple(words), *columns)


def every(log: DayLog, rows: int, first: int = 0) -> DayLog:
    """A log of which every so many rows was read, as by hand."""
    keep = np.zeros(log.timeline.steps, dtype=bool)
    keep[first::rows] = True
    names = ("pv_v", "pv_a", "bank_v", "bank_a", "soc", "speed_mps", "motor_w")
    columns: dict[str, Any] = {name: np.where(keep, getattr(log, name), np.nan) for name in names}
    return replace(log, **columns)


def clock_of(hours: float) -> Time:
    """A time of day from its hours."""
    minutes = round(hours * 60) % MINUTES
    return Time(minutes // 60, minutes % 60)
