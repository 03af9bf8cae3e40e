"""What a group gives on a heading, and what it gives when someone sets its hinge through the day."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from parhelion.design import BoatDesign, Tended
from parhelion.panels.deck import DeckGroup, at_tilt, deck_of
from parhelion.panels.panel import cell_temperature_c, power_per_watt
from parhelion.panels.shade import STEP_DEG
from parhelion.panels.shaded import group_light
from parhelion.panels.turned import turned
from parhelion.sun.climate import Air, air_of
from parhelion.sun.light import Light
from parhelion.sun.many import ManyDays
from parhelion.wiring.held import Held, held_in

Array = NDArray[np.float64]

TILT_STEP_DEG = 10.0  # between the tilts that are tried
SETTINGS = 3  # a day, where a place is set three times


def panel_powers(
    light: Light, deck: DeckGroup, heading_deg: float, air: Air, held: Held | None, step_deg: float
) -> Iterator[Array]:
    """DC power over nameplate of the panels of a group on one heading, at their best volts or as held.

    Shapes (n, 144) [W/W]; one for all where they see the sky alike.
    """
    air_c = air.temperature_c if light.air_c is None else light.air_c
    ventilation = deck.place.ventilation
    before, made = None, np.zeros(0)
    for lit in group_light(light, deck, heading_deg, step_deg):
        if lit is before:  # panels of one string have one light
            yield made
            continue
        before = lit
        made = power_per_watt(lit, air_c, air.wind_mps, ventilation, deck.group.power_coefficient_per_k)
        if held is not None:
            cell = cell_temperature_c(lit.global_w_per_m2, air_c, air.wind_mps, ventilation)
            made = made * held.share(lit.effective_w_per_m2, cell)
        yield made


def heading_power_per_watt(
    light: Light,
    deck: DeckGroup,
    heading_deg: float,
    air: Air,
    held: Held | None,
    step_deg: float = STEP_DEG,
) -> Array:
    """DC power over nameplate of a group on one heading, the mean of its panels, shape (n, 144) [W/W]."""
    made = list(panel_powers(light, deck, heading_deg, air, held, step_deg))
    wired = deck.group.wired_frac if deck.alone else 1.0  # the others were told one by one
    return np.asarray(np.mean(made, axis=0)) * wired


def tilts_of(least_deg: float, most_deg: float, step_deg: float = TILT_STEP_DEG) -> Array:
    """The tilts that are tried on a hinge, both ends among them [deg]."""
    inner = np.arange(np.ceil(least_deg / step_deg), np.floor(most_deg / step_deg) + 1) * step_deg
    return np.unique(np.clip(np.concatenate([[least_deg], inner, [most_deg]]), least_deg, most_deg))


def blocks_of(light: Light) -> NDArray[np.int64]:
    """Which part of which day's light each step is in, shape (s,); -1 in the dark. Three parts a day, as even
    as they go."""
    lit = np.flatnonzero(light.day.elevation_deg > 0)
    made = np.full(light.ghi.shape[1], -1)
    day = light.day.day_of_step[lit] if isinstance(light.day, ManyDays) else np.zeros(len(lit), dtype=int)
    starts = np.flatnonzero(np.diff(day, prepend=-1))
    lengths = np.diff(np.append(starts, len(lit)))
    rank = np.arange(len(lit)) - np.repeat(starts, lengths)
    made[lit] = np.repeat(np.arange(len(starts)), lengths) * SETTINGS + (
        rank * SETTINGS // np.maximum(np.repeat(lengths, lengths), 1)
    )
    return made


@dataclass(frozen=True)
class Tilted:
    """A group's power over nameplate by tilt and step on one heading, the mean of the members [W/W]."""

    tilts_deg: Array  # shape (a,)
    power: Array  # shape (a, s)
    blocks: NDArray[np.int64]  # as of `blocks_of`

    def chosen(self, tended: Tended, now: int) -> NDArray[np.int64]:
        """Which tilt each step has, shape (s,): left at `now`, set three times a day, or at its best."""
        if tended is Tended.FOLLOWED:
            return np.asarray(self.power.argmax(axis=0))
        made = np.full(self.power.shape[1], now)
        lit = self.blocks >= 0
        if tended is Tended.THRICE and lit.any():
            mine = self.blocks[lit]
            sums = np.array([np.bincount(mine, weights=row[lit]) for row in self.power])
            made[lit] = sums.argmax(axis=0)[mine]
        return made

    def given(self, tended: Tended, now: int) -> Array:
        """Power by step under a way of tending, shape (s,) [W/W]."""
        return np.asarray(self.power[self.chosen(tended, now), np.arange(self.power.shape[1])])


def _stacked(
    design: BoatDesign, light: Light, deck: DeckGroup, heading_deg: float, tilts_deg: Array, air: Air
) -> list[Array]:
    """Power of a group at each tilt, shapes (n, 144)."""
    made = []
    for tilt in tilts_deg:
        tilted = at_tilt(design, deck.place.id, float(tilt))
        own = next(item for item in deck_of(tilted).groups if item.group.id == deck.group.id)
        held = held_in(tilted, own.group)
        made.append(heading_power_per_watt(light, own, heading_deg, air, held))
    return made


def tilted_power(
    design: BoatDesign, light: Light, deck: DeckGroup, heading_deg: float, step_deg: float = TILT_STEP_DEG
) -> Tilted:
    """A hinged group at every tilt on one heading."""
    tilts = np.unique(np.append(tilts_of(*deck.place.hinge_deg, step_deg), deck.place.tilt_deg))
    made = np.array(
        [p.mean(axis=0) for p in _stacked(design, light, deck, heading_deg, tilts, air_of(design))]
    )
    return Tilted(tilts, made, blocks_of(light))


def tended_power_per_watt(
    design: BoatDesign, light: Light, deck: DeckGroup, headings_deg: tuple[float, ...], air: Air
) -> Array:
    """DC power over nameplate of a tended group, shape (n, 144) [W/W].

    The tilts are chosen on the mean of the members, by heading; every member then has them.
    """
    total = np.zeros_like(light.ghi)
    steps = np.arange(light.ghi.shape[1])
    for heading in headings_deg:
        tilts = tilts_of(*deck.place.hinge_deg)
        seen, bow = (light, heading) if light.course_deg is None else (turned(light, (heading,)), 0.0)
        made = np.array(_stacked(design, seen, deck, bow, tilts, air))
        mean = Tilted(tilts, made.mean(axis=1), blocks_of(light))
        nearest = int(np.abs(tilts - deck.place.tilt_deg).argmin())
        total += made[mean.chosen(deck.place.tended, nearest)[None, :], np.arange(len(total))[:, None], steps]
    return total / len(headings_deg)
