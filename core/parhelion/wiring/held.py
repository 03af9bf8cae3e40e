"""What a string gives when its controller holds it at volts that are not its best.

References
----------
[1] A PWM controller holds the string at the bank's volts; MPPT brings volts down, so the
    string stands at its best or at what the bank needs; a boost controller holds it below the bank's.
[2] Up to the best volts: the exponential through (0, Isc), (Vmp, Imp) and (Voc, 0). Beyond: power falls as
    1 - x^2.25 over the way from Vmp to Voc. Both within .025 of a single diode from 10 to 75 C, in full
    and in 30 % of full light, where a third or more is left; see docs/methods/wiring.
[3] Strings of different volts side by side on one input share the volts at which they give most together,
    found at a usual noon and kept in proportion to their best volts as heat moves them.
[4] Voc falls with the logarithm of the light by 1.1 kT/q a cell.
"""

from __future__ import annotations

from dataclasses import dataclass
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from parhelion.design import Bank, BoatDesign, Controller, ControllerKind, PanelGroup
from parhelion.design.chemistries import CHEMICALS
from parhelion.design.reads import Reads, kept
from parhelion.wiring.panel_volts import CELL_VOC, STANDARD_C, PanelVolts, in_series, panel_volts
from parhelion.wiring.strings import by_hand, strings_of

Array = NDArray[np.float64]

FALLS, BOLTZMANN_V_PER_K, ZERO_C_K, IDEALITY = 2.25, 8.617e-5, 273.15, 1.1
LEAST_OVER = 1.03  # Voc over Vmp, in however little light
HOTTEST_C, FULL_W_PER_M2 = 90.0, 1000.0
NOON_CELL_C, SHARED_STEPS = 45.0, 41


def charging_v(bank: Bank) -> float:
    """A bank's volts while it charges: midway from nominal to absorption [V]."""
    return (bank.nominal_v + bank.cells * CHEMICALS[bank.chemistry].absorption_v) / 2


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
    light = np.maximum(light_w_per_m2, 1.0) / FULL_W_PER_M2
    best = panel.best_at(cell_c)
    thermal = IDEALITY * panel.open_v / CELL_VOC * BOLTZMANN_V_PER_K * (cell_c + ZERO_C_K)
    open_v = np.maximum(panel.open_at(cell_c) + thermal * np.log(light), LEAST_OVER * best)
    spare = 1 - panel.best_a / panel.short_a
    steep = (best / open_v - 1) / np.log(spare)
    x = np.minimum(volts / best, 1.0)
    amps = (1 - spare * np.exp(best * (x - 1) / (steep * open_v))) / (1 - spare)
    over = np.clip((volts - best) / (open_v - best), 0.0, 1.0)
    return np.asarray(np.where(volts > best, 1 - over**FALLS, np.minimum(x * amps, 1.0)))


@dataclass(frozen=True)
class Held:
    """How a controller holds the strings of a group; volts are a panel's share of the string's."""

    kind: ControllerKind
    panel: PanelVolts
    volts: float
    beside: float = 1.0  # volts it shares with other strings over its best ones [3]

    def share(self, light_w_per_m2: Array, cell_c: Array) -> Array:
        """Of the most that a panel could give [-]; shapes alike."""
        best = self.beside * self.panel.best_at(cell_c)
        at: Array | float = self.volts
        if self.kind is ControllerKind.MPPT:
            at = np.maximum(best, self.volts)
        elif self.kind is ControllerKind.BOOST:
            at = np.minimum(best, self.volts)
        return share_at(self.panel, at, light_w_per_m2, cell_c)


def held_by(
    controller: Controller, bank: Bank, panel: PanelVolts, series: int = 1, beside: float = 1.0
) -> Held | None:
    """How a controller holds strings of a panel; None where they always stand at their best volts.

    Volts that no datasheet gives take nothing off behind MPPT or boost: the findings tell them.

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
    needs = charging_v(bank)
    tracks = controller.kind is not ControllerKind.PWM
    if tracks and beside != 1.0:
        given = panel.given and controller.kind is ControllerKind.MPPT
        least = needs + controller.headroom_v if given else 0.0
        return Held(ControllerKind.MPPT, panel, least / series, beside)
    if tracks and not panel.given:
        return None
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


WIRED_READS = Reads("panels", "panel_set", "strings", "controllers")


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
    beside = volts_beside(design, controller.id).get((group.id,) * group.series, 1.0)
    return held_by(controller, bank, panel_volts(group), group.series, beside)
