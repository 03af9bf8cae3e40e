"""What each cause would make of the panels through a day, over the sizes it may have."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from parhelion.design.chemistries import CHEMICALS
from parhelion.diagnosis.conditions import Condition
from parhelion.diagnosis.day_model import Strings, day_model, light_through
from parhelion.diagnosis.day_panels import HELD_FRAC, PanelRows, Shown
from parhelion.panels.plane import plane_light
from parhelion.panels.shaded import facing_deg

Array = NDArray[np.float64]
Mask = NDArray[np.bool_]

OF_PANELS = (
    Condition.STRING_DEAD, Condition.SUBSTRING_SHADE, Condition.SOILING, Condition.HOT,
    Condition.HIGH_RESISTANCE, Condition.NOT_TRACKING, Condition.COLD_BLOCK, Condition.PV_FUSE,
    Condition.REVERSED, Condition.PV_BELOW_BANK, Condition.CLOCK, Condition.ASPECT,
)  # fmt: skip
DIRT = (0.06, 0.08, 0.10, 0.125, 0.16, 0.20)  # of the light
HEAT_V = (0.04, 0.055, 0.07, 0.085, 0.10, 0.12, 0.14, 0.16)  # of the volts at full sun: 10 to 40 K too many
JOINT_V = (0.05, 0.07, 0.09, 0.11, 0.13, 0.16, 0.20)  # of the volts at the best amps
UNTRACKED_V = (0.2, 0.5, 0.9)  # over the bank's
AHEAD_H = (-2.0, -1.0, -0.5, 0.5, 1.0, 2.0)
TURNED_DEG = tuple(range(0, 360, 30))
MOST_TURNED_DEG, LEAST_TURNED = 100.0, 20.0
TILTED_DEG = (10.0, 20.0, 30.0, 45.0, 60.0)
LEAST_WINDOWED = 6  # lit rows
SHADE_STEPS = 9  # edges of the day between which a shade may lie
FREEZING_MARGIN_C = 3.0  # a bank follows the air by hours
PWM_OVER_V = 0.3


class Cause(NamedTuple):
    """A cause at one size: what the panels show of it."""

    condition: Condition
    shown: Shown
    size: float = 0.0
    span: tuple[int, int] | None = None  # the rows it lasts; None: all day


def _usual_v(rows: PanelRows) -> float:
    """The bank's volts where none were read in a row."""
    known = rows.log.bank_v[np.isfinite(rows.log.bank_v)]
    bank = rows.model.design.bank
    return float(np.median(known)) if len(known) else 0.0 if bank is None else bank.nominal_v


def _amps_near(strings: Strings, volts: Array) -> Array:
    """Amps at volts, and the best ones where they stand there anyway."""
    return strings.amps_at(np.maximum(volts, LEAST_V))


LEAST_V = 1e-3


def _untracked(rows: PanelRows) -> Iterator[Cause]:
    """The panels held at the bank's volts."""
    s, bank = rows.strings, np.nan_to_num(rows.log.bank_v, nan=_usual_v(rows))
    for over in UNTRACKED_V:
        volts = np.minimum(bank + over, s.open_v)
        yield Cause(
            Condition.NOT_TRACKING,
            Shown(_amps_near(s, volts), volts, rows.throttled & (rows.over > 0.0)),
            over,
        )


def below_bank(rows: PanelRows) -> Shown | None:
    """What strings show that stand below the bank's volts and what the controller needs over them."""
    s, log = rows.strings, rows.log
    headroom = min(circuit.controller.headroom_v for box in rows.model.inputs for circuit in box.circuits)
    needs = np.nan_to_num(log.bank_v, nan=_usual_v(rows)) + headroom
    short = rows.lit & (s.best_v < needs)
    if not short.any():
        return None
    volts = np.where(s.best_v < needs, np.minimum(needs, s.open_v), s.best_v)
    amps = np.where(s.best_v < needs, _amps_near(s, volts), s.best_a)
    return Shown(amps, volts, rows.throttled & (rows.over > 2 * HELD_FRAC))


def _substrings(rows: PanelRows, edges: list[Window]) -> Iterator[Cause]:
    """So many substrings of a string out, all day or between two hours."""
    s, bank = rows.strings, np.nan_to_num(rows.log.bank_v, nan=_usual_v(rows))
    parts = s.wired.series * s.wired.substrings
    for out in range(1, max(parts // 2, 1) + 1):
        share = 1 - out / parts
        lower = s.best_v * share
        least = bank + PWM_OVER_V
        volts = np.maximum(lower, np.minimum(least, s.open_v * share))
        amps = np.where(lower >= least, s.best_a, _amps_near(s, np.minimum(volts / share, s.open_v)))
        for window, span in edges:
            shown = Shown(np.where(window, amps, s.best_a), np.where(window, volts, s.best_v), rows.throttled)
            yield Cause(Condition.SUBSTRING_SHADE, shown, float(out), span)


Window = tuple[Mask, tuple[int, int] | None]


def since(rows: PanelRows) -> list[Window]:
    """All of the day, and its rest from each of some hours on."""
    last = int(np.flatnonzero(rows.lit)[-1]) + 1 if rows.lit.any() else 0
    return [one for one in windows(rows) if one[1] is None or one[1][1] == last]


def windows(rows: PanelRows) -> list[Window]:
    """Stretches of the day in which a shade may lie, all of it first."""
    lit = np.flatnonzero(rows.lit)
    found: list[Window] = [(np.ones(len(rows.lit), dtype=bool), None)]
    if len(lit) < LEAST_WINDOWED:
        return found
    number = min(SHADE_STEPS, len(lit) // 2 + 1)
    chosen = np.linspace(0, len(lit), number).astype(int)
    edges = np.append(lit, lit[-1] + 1)[chosen]
    index = np.arange(len(rows.lit))
    for first in range(number - 1):
        for last in range(first + 1, number):
            if (first, last) != (0, number - 1):
                span = int(edges[first]), int(edges[last])
                found.append(((index >= span[0]) & (index < span[1]), span))
    return found


def _cold(rows: PanelRows) -> Iterator[Cause]:
    """No charge until the bank has warmed."""
    model, s = rows.model, rows.strings
    bank = model.design.bank
    if bank is None or not CHEMICALS[bank.chemistry].lithium:
        return
    from_c = CHEMICALS[bank.chemistry].charge_c_from
    if float(np.min(model.air_c)) > from_c + FREEZING_MARGIN_C:
        return
    lit = np.flatnonzero(rows.lit)
    for last in lit:
        block = np.arange(len(rows.lit)) <= last
        yield Cause(
            Condition.COLD_BLOCK,
            Shown(np.where(block, 0.0, s.best_a), np.where(block, s.open_v, s.best_v), rows.throttled),
            float(last),
        )


def _aspects(rows: PanelRows) -> Iterator[Cause]:
    """Panels that lie or face another way than the design says."""
    model, s = rows.model, rows.strings
    light = light_through(model.track, model.index)
    stands = {(c.place.tilt_deg, c.place.faces) for box in model.inputs for c in box.circuits}
    heading = model.design.plan.heading_deg
    if len(stands) != 1 or (heading is None and next(iter(stands))[0]):
        return
    tilt, faces = next(iter(stands))
    azimuth = facing_deg(faces, tilt, heading or 0.0)
    now = plane_light(light, tilt, azimuth).effective_w_per_m2[0]
    tilts = TILTED_DEG if tilt == 0 else sorted({tilt, *(t for t in TILTED_DEG if abs(t - tilt) <= 20)})
    for other in tilts:
        for turn in TURNED_DEG:
            off = abs((turn - azimuth + 180) % 360 - 180)
            if tilt and (off > MOST_TURNED_DEG or (off < LEAST_TURNED and abs(other - tilt) < 15)):
                continue
            there = plane_light(light, other, float(turn)).effective_w_per_m2[0]
            ratio = np.clip(there / np.maximum(now, 1.0), 0.01, 20.0)
            cell = model.air_c + (s.cell_c - model.air_c) * ratio
            moved = replace(s, light_w_per_m2=s.light_w_per_m2 * ratio, cell_c=cell)
            yield Cause(Condition.ASPECT, Shown(moved.best_a, moved.best_v, rows.throttled), float(turn))


def _clocks(rows: PanelRows) -> Iterator[Cause]:
    """A clock that is off by whole or half hours."""
    for ahead in AHEAD_H:
        moved = day_model(rows.model.design, rows.log, rows.around, ahead * 3600, rows.model.inputs).strings
        if moved is not None:
            yield Cause(Condition.CLOCK, Shown(moved.best_a, moved.best_v, rows.throttled), ahead)


def panel_causes(rows: PanelRows) -> Iterator[Cause]:
    """All causes that move the panels' volts and amps, each at the sizes it may have."""
    s, lit = rows.strings, rows.lit
    none = np.zeros_like(s.best_a)
    sun = np.minimum(s.light_w_per_m2 / 1000.0, 1.2)
    for share in sorted(
        {round(1 - n * s.shares[0], 3) for n in range(1, len(s.shares))}
        | {round(1 - one, 3) for one in s.shares if len(s.shares) > 1}
    ):
        if share < 0.02:
            continue
        for window, span in since(rows):
            amps = np.where(window, s.best_a * share, s.best_a)
            yield Cause(Condition.STRING_DEAD, Shown(amps, s.best_v, rows.throttled), share, span)
    for dirt in DIRT:
        yield Cause(Condition.SOILING, Shown(s.best_a * (1 - dirt), s.best_v, rows.throttled), dirt)
    still = rows.held & rows.still
    for drop in HEAT_V:
        volts = s.best_v * (1 - drop * sun)
        open_fit = still & (np.abs(rows.log.pv_v - s.open_v) < drop * sun * s.open_v)
        yield Cause(Condition.HOT, Shown(s.best_a, volts, rows.throttled | open_fit), drop)
    for drop in JOINT_V:
        volts = s.best_v * (1 - drop * s.best_a / (s.wired.panel.best_a * s.wired.parallel))
        yield Cause(Condition.HIGH_RESISTANCE, Shown(s.best_a, volts, rows.throttled), drop)
    yield from _untracked(rows)
    short = below_bank(rows)
    if short is not None:
        yield Cause(Condition.PV_BELOW_BANK, short)
    yield from _substrings(rows, windows(rows))
    yield from _cold(rows)
    yield from _aspects(rows)
    yield from _clocks(rows)
    yield Cause(Condition.PV_FUSE, Shown(none, s.open_v, ~lit))
    yield Cause(Condition.REVERSED, Shown(none, np.where(rows.log.pv_v < 0, -s.open_v, 0.0), ~lit))
    held_low = rows.held & ~rows.at_top & ~rows.still
    yield Cause(Condition.CHARGE_PROFILE, Shown(s.best_a, s.best_v, rows.throttled | held_low | rows.blocked))
