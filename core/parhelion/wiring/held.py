"""What a string gives when its controller holds it at volts that are not its best.

References
----------
[1] A PWM controller holds the string at the bank's volts; MPPT brings volts down, so the
    string stands at its best or at what the bank needs; a boost controller holds it below the bank's.
[2] A single diode through (0, Isc), (Vmp, Imp) and (Voc, 0) without a shunt, Voc moved by its coefficient:
    within .013 of a single diode with one from 0 to 75 C below the best volts, in full light and in a tenth
    of it, .03 in full light beyond; see docs/methods/wiring.
[3] Strings of different volts side by side on one input share the volts at which they give most together,
    found at a usual noon and kept in proportion to their best volts as heat moves them.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from itertools import pairwise
from typing import NamedTuple

import numpy as np
from numba import float64, vectorize
from numpy.typing import NDArray

from parhelion.computing.kernels import WHOLE
from parhelion.design import Bank, BoatDesign, Controller, ControllerKind, PanelGroup
from parhelion.design.reads import Reads, kept
from parhelion.wiring.by_itself import STRUNG_READS, charging_v
from parhelion.wiring.panel_volts import (
    CELL_VOC,
    STANDARD_C,
    PanelVolts,
    in_series,
    panel_volts,
)
from parhelion.wiring.strings import by_hand, strings_of

Array = NDArray[np.float64]

BOLTZMANN_V_PER_K, ZERO_C_K, IDEALITY = 8.617e-5, 273.15, 1.1
LEAST_OPEN = 0.1  # of Voc at 25 C, in whatever heat
NEWTONS = 6
HOTTEST_C, FULL_W_PER_M2 = 90.0, 1000.0
NOON_CELL_C, SHARED_STEPS = 45.0, 41


@vectorize([float64(*[float64] * 5)], **WHOLE)
def _held_w(volts: float, light_a: float, dark_a: float, steep_v: float, series_ohm: float) -> float:
    """Watts at terminal volts, by Newton's method from the amps in the dark's knee."""
    open_v = steep_v * math.log1p(light_a / dark_a)
    if volts >= open_v:
        return 0.0  # nothing flows out of it
    most_v = open_v + max(volts, 0.0)
    inner = min(volts + light_a * series_ohm, open_v)
    for _ in range(NEWTONS):
        before = inner
        amps = light_a - dark_a * math.expm1(inner / steep_v)
        slope = 1 + series_ohm * dark_a / steep_v * math.exp(inner / steep_v)
        inner = min(inner - (inner - amps * series_ohm - volts) / slope, most_v)
        if inner == before:
            break
    return max(volts * (light_a - dark_a * math.expm1(inner / steep_v)), 0.0)


@vectorize([float64(*[float64] * 4)], **WHOLE)
def _best_inner_v(light_a: float, dark_a: float, steep_v: float, series_ohm: float) -> float:
    """Volts inside the series resistance at most power, by Newton's method on dP/dV = 0."""
    open_v = steep_v * math.log1p(light_a / dark_a)
    inner = open_v - steep_v * math.log1p(open_v / steep_v)
    for _ in range(NEWTONS):
        before = inner
        now = light_a - dark_a * math.expm1(inner / steep_v)
        fall = -dark_a / steep_v * math.exp(inner / steep_v)
        over = inner - 2 * now * series_ohm
        bend = fall / steep_v * over + fall * (2 - 2 * fall * series_ohm)
        inner = min(max(inner - (fall * over + now) / bend, 0.0), open_v)
        if inner == before:
            break
    return inner


class Diode(NamedTuple):
    """A panel as a current source, a diode and a series resistance [2]; arrays over light and heat."""

    light_a: Array
    dark_a: Array
    steep_v: Array  # ideality x kT/q x cells
    series_ohm: float

    def amps(self, inner_v: Array) -> Array:
        """Amps at volts inside the series resistance."""
        return self.light_a - self.dark_a * np.expm1(inner_v / self.steep_v)

    def held_w(self, volts: Array) -> Array:
        """Watts at terminal volts."""
        return np.asarray(_held_w(volts, *self))

    @property
    def open_v(self) -> Array:
        """Volts with no current drawn."""
        return self.steep_v * np.log1p(self.light_a / self.dark_a)

    def best(self) -> tuple[Array, Array]:
        """Volts and amps of most power."""
        inner = np.asarray(_best_inner_v(*self))
        now = self.amps(inner)
        return inner - now * self.series_ohm, now

    def most_w(self) -> Array:
        """Watts at its best."""
        volts, amps = self.best()
        return volts * amps


def diode_of(panel: PanelVolts, light_w_per_m2: Array, cell_c: Array) -> Diode:
    """The single diode through a datasheet's three points, at a light and heat [2]."""
    kelvin = cell_c + ZERO_C_K
    cells = panel.open_v / CELL_VOC
    steep = IDEALITY * cells * BOLTZMANN_V_PER_K * (STANDARD_C + ZERO_C_K)
    spare = np.log(1 - panel.best_a / panel.short_a)
    steep = min(steep, (panel.best_v - panel.open_v) / spare)  # no resistance below nothing
    series = max((steep * spare + panel.open_v - panel.best_v) / panel.best_a, 0.0)
    light_a = panel.short_a * np.maximum(light_w_per_m2, 1.0) / FULL_W_PER_M2
    steep_v = steep * kelvin / (STANDARD_C + ZERO_C_K)
    dark_a = panel.short_a / np.expm1(np.maximum(panel.open_at(cell_c), LEAST_OPEN * panel.open_v) / steep_v)
    return Diode(light_a, dark_a, steep_v, series)


def share_at(panel: PanelVolts, volts: Array | float, light_w_per_m2: Array, cell_c: Array) -> Array:
    """Power of a panel held at some volts, over its most in the same light and heat [2] [-].

    Parameters
    ----------
    panel : PanelVolts
    volts : ndarray or float
        At the panel; in a string, the string's over its panels [V].
    light_w_per_m2, cell_c : ndarray, shapes alike
        Effective light, and the cells' temperature.
    """
    diode = diode_of(panel, light_w_per_m2, cell_c)
    held, most = diode.held_w(np.asarray(volts, dtype=float)), diode.most_w()
    share = np.divide(held, most, out=np.zeros(np.broadcast(held, most).shape), where=most > 0)
    return np.asarray(np.minimum(share, 1.0))


@dataclass(frozen=True)
class Held:
    """How a controller holds the strings of a group; volts are a panel's share of the string's."""

    kind: ControllerKind
    panel: PanelVolts
    volts: float
    beside: float = 1.0  # volts it shares with other strings over its best ones [3]

    def share(self, light_w_per_m2: Array, cell_c: Array) -> Array:
        """Of the most that a panel could give [-]; shapes alike."""
        if self.kind is ControllerKind.PWM:
            return share_at(self.panel, self.volts, light_w_per_m2, cell_c)
        best = self.beside * self.panel.best_at(cell_c)
        tracks = best >= self.volts if self.kind is ControllerKind.MPPT else best <= self.volts
        if self.beside != 1.0:
            return share_at(self.panel, np.where(tracks, best, self.volts), light_w_per_m2, cell_c)
        made = np.ones(np.shape(tracks))
        lost = ~tracks
        made[lost] = share_at(self.panel, self.volts, light_w_per_m2[lost], cell_c[lost])
        return made


def held_by(
    controller: Controller, bank: Bank, panel: PanelVolts, series: int = 1, beside: float = 1.0
) -> Held | None:
    """How a controller holds strings of a panel; None where they always stand at their best volts.

    One rule whether a datasheet gives the volts or they are usual for how panels are sold: what a wiring
    cannot charge is not counted.

    Parameters
    ----------
    controller : Controller
    bank : Bank
        That it charges.
    panel : PanelVolts
        Or a whole string as one.
    series : int
        Panels in a string.
    beside : float
        As of `volts_beside` [-].
    """
    if panel.unknown:
        return None
    needs = charging_v(bank)
    tracks = controller.kind is not ControllerKind.PWM
    if tracks and beside != 1.0:
        least = needs + controller.headroom_v if controller.kind is ControllerKind.MPPT else 0.0
        return Held(ControllerKind.MPPT, panel, least / series, beside)
    if controller.kind is ControllerKind.MPPT:
        held = Held(controller.kind, panel, (needs + controller.headroom_v) / series)
        return held if panel.best_at(HOTTEST_C) < held.volts else None
    if controller.kind is ControllerKind.BOOST:
        held = Held(controller.kind, panel, (needs - controller.headroom_v) / series)
        return held if panel.best_at(STANDARD_C - 50.0) > held.volts else None
    return Held(controller.kind, panel, needs / series)


Key = tuple[str, ...]  # the group of each panel of a string, sorted


def _inputs(strings: dict[Key, tuple[PanelVolts, float]], number: int) -> list[list[Key]]:
    """Strings dealt to so many inputs, those of like volts together: parted where volts differ most."""
    order = sorted(strings, key=lambda key: strings[key][0].best_v)
    steps = [strings[b][0].best_v / strings[a][0].best_v for a, b in pairwise(order)]
    parted = sorted(sorted(range(len(steps)), key=lambda i: -steps[i])[: number - 1])
    edges = [0, *(i + 1 for i in parted), len(order)]
    return [order[a:b] for a, b in pairwise(edges)]


WIRED_READS = Reads("panels", "panel_set", "strings", *STRUNG_READS)


@kept(WIRED_READS, 120)
def volts_beside(design: BoatDesign, controller_id: str) -> dict[Key, float]:
    """Volts that strings of a controller share over the best volts of each [3] [-].

    Parameters
    ----------
    design : BoatDesign
    controller_id : str

    Returns
    -------
    dict
        By the groups of a string's panels; 1 for one that has an input to itself, or stands with its like.
    """
    controller = design.controller(controller_id)
    strings: dict[Key, tuple[PanelVolts, float]] = {}
    for strung in strings_of(design):
        if strung.controller_id != controller_id:
            continue
        key = tuple(sorted(group.id for group in strung.groups))
        watts = strings[key][1] if key in strings else 0.0
        volts = in_series([panel_volts(group) for group in strung.groups])
        strings[key] = volts, watts + volts.best_v * volts.best_a
    if len(strings) <= controller.inputs * controller.count:
        return dict.fromkeys(strings, 1.0)
    found: dict[Key, float] = {}
    noon, light = np.full(SHARED_STEPS, NOON_CELL_C), np.full(SHARED_STEPS, FULL_W_PER_M2)
    for together in _inputs(strings, controller.inputs * controller.count):
        best = {key: strings[key][0].best_at(NOON_CELL_C) for key in together}
        at = np.linspace(min(best.values()), max(best.values()), SHARED_STEPS)
        made = sum(strings[key][1] * share_at(strings[key][0], at, light, noon) for key in together)
        shared = float(at[int(np.argmax(made))])
        found |= {key: shared / best[key] for key in together}
    return found


def held_in(design: BoatDesign, group: PanelGroup) -> Held | None:
    """The same for a group as it is wired; None without a bank, and where strings are wired by hand."""
    if by_hand(design):
        return None
    controller = design.controller(group.controller_id)
    bank = design.bank_of(controller)
    if bank is None:
        return None
    beside = volts_beside(design, controller.id).get((group.id,) * group.in_series, 1.0)
    return held_by(controller, bank, panel_volts(group), group.in_series, beside)
