"""The controllers that panels are wired to, and the light that gets into the strings on each."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from parhelion.design import BoatDesign
from parhelion.diagnosis.expected import MOST_DIRT, Wired
from parhelion.panels.deck import deck_of
from parhelion.panels.harvest import COVER_KEEPS
from parhelion.panels.panel import cell_temperature_c
from parhelion.panels.shaded import group_light, light_over
from parhelion.panels.turned import by_heading, turned
from parhelion.sun.light import Light
from parhelion.wiring.circuits import Circuit, wiring_of
from parhelion.wiring.panel_volts import in_series, panel_volts

Array = NDArray[np.float64]

WIPED_DIRT = 0.015  # of the light, on panels that were wiped, at most


@dataclass(frozen=True)
class Input:
    """Everything on one controller of the design; of several boxes alike, on each of them."""

    key: str
    name: str
    circuits: tuple[Circuit, ...]
    strings: int  # on one box
    boxes: int

    @property
    def nameplate_w(self) -> float:
        """Of what is on one box [W]."""
        return sum(circuit.per_box * circuit.string_w for circuit in self.circuits)


def inputs_of(design: BoatDesign) -> list[Input]:
    """The controllers that panels are wired to."""
    by_box: dict[str, list[Circuit]] = {}
    for circuit in wiring_of(design).circuits:
        if circuit.strings:
            by_box.setdefault(circuit.controller.id, []).append(circuit)
    return [
        Input(
            key=key,
            name=" + ".join(dict.fromkeys(circuit.name for circuit in found)),
            circuits=tuple(found),
            strings=sum(circuit.per_box for circuit in found),
            boxes=found[0].controller.count,
        )
        for key, found in by_box.items()
    ]


@dataclass(frozen=True, eq=False)
class Lit:
    """Strings alike in a light, shapes as the light's (n, t)."""

    wired: Wired
    effective_w_per_m2: Array  # that gets into the cells, before what they keep of it
    cell_c: Array


def lit_strings(
    design: BoatDesign,
    circuit: Circuit,
    strings: int,
    light: Light,
    headings_deg: tuple[float, ...],
    air_c: float | Array,
    wiped: bool = False,
) -> Lit | None:
    """Light on so many strings of a circuit and the heat in them; None where their panels are put away.

    Parameters
    ----------
    design : BoatDesign
    circuit : Circuit
    strings : int
    light : Light
        Shape (n, t).
    headings_deg : tuple of float
        The boat's; a mean is taken over several.
    air_c : float or ndarray, shape (t,)
        The air.
    wiped : bool
        Whether the panels were.
    """
    decks = {held.group.id: held for held in deck_of(design).groups}
    effective, cells, kept, salted = [], [], [], []
    for group in dict.fromkeys(circuit.groups):
        deck = decks.get(group.id)
        if deck is None or not deck.gives:
            return None
        here = light_over(design, light, deck.place.kind)
        for lit in group_light(turned(here, headings_deg), deck, 0.0):
            effective.append(by_heading(lit.effective_w_per_m2, headings_deg).mean(axis=0))
            warmed = by_heading(lit.global_w_per_m2, headings_deg).mean(axis=0)
            cells.append(cell_temperature_c(warmed, air_c, design.plan.wind_mps, deck.place.ventilation))
        kept.append(
            (1 - group.mismatch_loss_frac) * group.derate_frac * (COVER_KEEPS if group.covered else 1.0)
        )
        salted.append(0.0 if wiped else group.salt_loss_frac)
    main = max(circuit.groups, key=lambda group: group.wiring_loss_frac)
    wired = Wired(
        panel=in_series([panel_volts(g) for g in circuit.groups])
        if circuit.mixed
        else panel_volts(circuit.group),
        series=1 if circuit.mixed else circuit.series,
        parallel=strings,
        kept=min(kept) * (1 - max(salted)),
        drop=main.wiring_loss_frac,
        substrings=3 * circuit.series if circuit.mixed else 3,
        most_dirt=WIPED_DIRT if wiped else MOST_DIRT,
    )
    least = np.min(effective, axis=0) if circuit.mixed else np.mean(effective, axis=0)
    return Lit(wired, least, np.mean(cells, axis=0))
