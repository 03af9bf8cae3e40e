"""What the meters should say at a minute: every controller's inputs under the sky as somebody sees it."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime

import numpy as np

from parhelion.computing.kept import kept_by_arguments
from parhelion.design import BoatDesign, Spot
from parhelion.design.records import HandShadow
from parhelion.diagnosis.expected import COLUMNS, MOST_DIRT, Expected, Wired, expected, together
from parhelion.panels.deck import deck_of
from parhelion.panels.harvest import COVER_KEEPS
from parhelion.panels.panel import cell_temperature_c
from parhelion.panels.shaded import group_light, light_over
from parhelion.sun.climate import usual_air_temperature_c
from parhelion.sun.daysteps import day_steps
from parhelion.sun.light import Light
from parhelion.sun.minute import evenly_drawn, index_draws, minute_light
from parhelion.wiring.by_itself import absorption_v
from parhelion.wiring.circuits import Circuit, wiring_of
from parhelion.wiring.panel_volts import in_series, panel_volts

WIPED_DIRT = 0.015  # of the light, on panels that were wiped, at most


@dataclass(frozen=True)
class Now:
    """The minute, and what is seen and felt in it."""

    at: datetime
    shadow: HandShadow = HandShadow.SHARP
    heading_deg: float = 0.0
    air_c: float | None = None  # usual for the place and day where nobody has said
    wiped: bool = True


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


def usual_now(design: BoatDesign) -> Now:
    """The plan's day at solar noon, on its heading."""
    noon = day_steps(design.site, design.plan.date).solar_noon_at
    return Now(noon.replace(second=0, microsecond=0), heading_deg=design.plan.heading_deg or 0.0)


def air_at(design: BoatDesign, now: Now) -> float:
    """The air of the minute: as felt, or usual [C]."""
    if now.air_c is not None:
        return now.air_c
    given = design.plan.air_temperature_c
    return usual_air_temperature_c(design.site.latitude_deg, now.at.date()) if given is None else given


@kept_by_arguments(40)
def _light(spot: Spot, at: datetime, shadow: HandShadow) -> Light:
    return minute_light(spot, at, index_draws(shadow, evenly_drawn(COLUMNS)[:, 0]))


def light_of(design: BoatDesign, now: Now) -> Light:
    """The light of the minute: its middle, and as it may be."""
    return _light(design.site.spot, now.at, now.shadow)


def expected_of(design: BoatDesign, circuit: Circuit, now: Now, strings: int) -> Expected | None:
    """What so many strings of a circuit should show; None where their panels are put away."""
    light, decks = light_of(design, now), {held.group.id: held for held in deck_of(design).groups}
    effective, cells, kept, salted = [], [], [], []
    for group in dict.fromkeys(circuit.groups):
        deck = decks.get(group.id)
        if deck is None or not deck.gives:
            return None
        here = light_over(design, light, deck.place.kind)
        for lit in group_light(here, deck, now.heading_deg):
            effective.append(lit.effective_w_per_m2[:, 0])
            cells.append(
                cell_temperature_c(
                    lit.global_w_per_m2[:, 0],
                    air_at(design, now),
                    design.plan.wind_mps,
                    deck.place.ventilation,
                )
            )
        kept.append(
            (1 - group.mismatch_loss_frac) * group.derate_frac * (COVER_KEEPS if group.covered else 1.0)
        )
        salted.append(0.0 if now.wiped else group.salt_loss_frac)
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
        most_dirt=WIPED_DIRT if now.wiped else MOST_DIRT,
    )
    least = np.min(effective, axis=0) if circuit.mixed else np.mean(effective, axis=0)
    bank_v = None if circuit.bank is None else circuit.bank.nominal_v
    return expected(wired, least, np.mean(cells, axis=0), evenly_drawn(COLUMNS), bank_v)


def expected_in(design: BoatDesign, box: Input, now: Now) -> Expected | None:
    """What a controller should show; None where all of its panels are put away."""
    found = [expected_of(design, circuit, now, circuit.per_box) for circuit in box.circuits]
    here = [one for one in found if one is not None]
    return together(here) if here else None


def full_at_v(circuit: Circuit) -> float | None:
    """Volts at which its bank is being filled to the end."""
    return None if circuit.bank is None else absorption_v(circuit.bank)
