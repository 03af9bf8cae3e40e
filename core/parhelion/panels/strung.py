"""Strings wired by hand: panels of different groups, tilts and makes carrying one current.

References
----------
[1] The rule of substrings (`mismatch`) in amps and volts: each substring's current is its best times the
    light it keeps, its volts the panel's third, less with heat; P = max over k of I_k x (volts of the k that
    carry at least I_k, raised by how far below their best they run, less what bypasses take).
"""

from __future__ import annotations

from collections.abc import Sequence
from functools import partial

import numpy as np
from numba import float64, njit
from numpy.typing import NDArray

from parhelion.computing.kept import kept_by_arguments
from parhelion.computing.kernels import OPTIONS
from parhelion.computing.together import together
from parhelion.design import BoatDesign, PanelGroup
from parhelion.panels.deck import Deck, DeckGroup
from parhelion.panels.mismatch import BYPASS_V, CELL_V, raised
from parhelion.panels.panel import STANDARD_CELL_C, STANDARD_LIGHT_W_PER_M2, cell_temperature_c
from parhelion.panels.shade import STEP_DEG
from parhelion.panels.shaded import cast_shade, headings_of, light_over, panel_lights
from parhelion.panels.turned import at_once, by_heading, turned
from parhelion.sun.climate import Air, air_of
from parhelion.sun.light import Light
from parhelion.wiring.held import Held, held_by, volts_beside
from parhelion.wiring.panel_volts import in_series, panel_volts
from parhelion.wiring.strings import Strung

Array = NDArray[np.float64]

THIRDS = 3


@njit(float64[:, ::1](float64[:, :, ::1], float64[:, :, ::1], float64[::1], float64[::1]), **OPTIONS)
def mixed_string_w(light: Array, warm: Array, amps: Array, volts: Array) -> Array:
    """Power of a string of different panels by the rule of substrings [1] [W].

    Parameters
    ----------
    light : ndarray, shape (m, n, s)
        On each substring, three to a panel [W/m2].
    warm : ndarray, shape (p, n, s)
        Power of each panel over its own at 25 C [-].
    amps, volts : ndarray, shape (2, p) flattened
        `amps`: best amps of each panel in full sun, then what a bypass takes over the volts of its substring;
        `volts`: best volts of each panel [A], [-], [V].

    Returns
    -------
    ndarray, shape (n, s)
    """
    parts, members, steps = light.shape
    panels = len(volts)
    made = np.zeros((members, steps))
    current, at_best, order = np.empty(parts), np.empty(parts), np.arange(parts)
    for s in range(steps):
        for n in range(members):
            for i in range(parts):
                part = order[i]
                p = part // 3
                mine = light[part, n, s] / 1000.0 * amps[p]
                j = i
                while j > 0 and current[j - 1] < mine:
                    current[j], order[j] = current[j - 1], order[j - 1]
                    j -= 1
                current[j], order[j] = mine, part
            if current[0] <= 0:
                continue
            for i in range(parts):
                p = order[i] // 3
                at_best[i] = volts[p] / 3 * warm[p, n, s]
            best, bypassed = 0.0, 0.0
            for k in range(parts, 0, -1):
                run = current[k - 1]
                stands = -bypassed
                for j in range(k):
                    stands += at_best[j] * raised(run / max(current[j], 1e-9))
                best = max(best, run * stands)
                bypassed += at_best[k - 1] * amps[panels + order[k - 1] // 3]
            made[n, s] = best
    return made


def _labels(groups: Sequence[PanelGroup], kept: Sequence[float]) -> tuple[Array, Array]:
    """Amps with the bypass shares after them, and volts, as `mixed_string_w` takes them."""
    amps = [panel_volts(group).best_a for group in groups]
    volts = [group.nameplate_w / a for group, a in zip(groups, amps, strict=True)]
    cells = [group.grid.in_series for group in groups]
    drops = [BYPASS_V / (CELL_V * max(c, 1.0) / THIRDS) for c in cells]
    given = [a * k for a, k in zip(amps, kept, strict=True)]
    return np.array([*given, *drops]), np.array(volts)


def string_watts(groups: Sequence[PanelGroup]) -> float:
    """A string of panels in full sun at 25 C, all alike lit [W]."""
    light = np.full((THIRDS * len(groups), 1, 1), STANDARD_LIGHT_W_PER_M2)
    amps, volts = _labels(groups, [1.0] * len(groups))
    return float(mixed_string_w(light, np.ones((len(groups), 1, 1)), amps, volts)[0, 0])


def _on_heading(
    lit: tuple[tuple[str, DeckGroup, Light], ...], strung: Strung, kept: tuple[float, ...], held: Held | None,
    air: Air, step_deg: float, heading_deg: float,
) -> Array:  # fmt: skip
    lights = {key: panel_lights(light, deck, heading_deg, step_deg) for key, deck, light in lit}
    decks = {key: (deck, light) for key, deck, light in lit}
    parts, warm, cells = [], [], []
    for group, number in strung.panels:
        on = lights[group.id][number % len(lights[group.id])]
        deck, light = decks[group.id]
        air_c = air.temperature_c if light.air_c is None else light.air_c
        cell = cell_temperature_c(on.global_w_per_m2, air_c, air.wind_mps, deck.place.ventilation)
        cells.append(cell)
        warm.append(np.maximum(1 + group.power_coefficient_per_k * (cell - STANDARD_CELL_C), 0.0))
        parts += list(on.substrings)
    amps, volts = _labels(strung.groups, kept)
    made = mixed_string_w(np.ascontiguousarray(parts), np.ascontiguousarray(warm), amps, volts)
    if held is None:
        return made
    return made * held.share(np.mean(parts, axis=0), np.mean(cells, axis=0))


def string_power_w(
    design: BoatDesign, light: Light, deck: Deck, strung: Strung, kept: tuple[float, ...],
    step_deg: float = STEP_DEG,
) -> Array:  # fmt: skip
    """DC power of a string wired by hand, the mean of the headings, shape (n, 144) [W].

    Parameters
    ----------
    design : BoatDesign
    light : Light
    deck : Deck
    strung : Strung
    kept : tuple of float
        What salt, cables and the rest leave of each panel [-].
    step_deg : float
        Of the sky tables [deg].
    """
    decks = {group.group.id: group for group in deck.groups}
    lit = tuple(
        (key, decks[key].lit, light_over(design, light, decks[key].place.kind))
        for key in dict.fromkeys(group.id for group in strung.groups)
    )
    controller = design.controller(strung.controller_id)
    bank = design.bank_of(controller)
    held = None
    if bank is not None:
        mine_as = tuple(sorted(group.id for group in strung.groups))
        beside = volts_beside(design, controller.id).get(mine_as, 1.0)
        volts = in_series([panel_volts(group) for group in strung.groups])
        held = held_by(controller, bank, volts, beside=beside)
    return _string_power_w(lit, strung, kept, held, headings_of(design), air_of(design), step_deg)


@kept_by_arguments(120)
def _string_power_w(
    lit: tuple[tuple[str, DeckGroup, Light], ...], strung: Strung, kept: tuple[float, ...], held: Held | None,
    headings: tuple[float, ...], air: Air, step_deg: float,
) -> Array:  # fmt: skip
    """The same of groups as they are lit, by their ids."""
    cast_shade([deck for _, deck, _ in lit], step_deg)
    if at_once(lit[0][2], headings):
        around = tuple((key, deck, turned(light, headings)) for key, deck, light in lit)
        made = _on_heading(around, strung, kept, held, air, step_deg, 0.0)
        return np.asarray(np.mean(by_heading(made, headings), axis=0))
    tasks = [partial(_on_heading, lit, strung, kept, held, air, step_deg, heading) for heading in headings]
    return np.asarray(np.mean(together(tasks), axis=0))
