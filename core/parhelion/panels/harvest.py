"""What the array sends to the bank: every panel group through its controller, loss by named loss."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from functools import partial

import numpy as np
from numpy.typing import NDArray

from parhelion.computing.kept import kept_by_arguments
from parhelion.computing.together import together
from parhelion.design import BoatDesign, PanelGroup, Tended
from parhelion.design.banks import bank_column, bank_in
from parhelion.design.reads import Reads, kept, only
from parhelion.panels.deck import DECK_READS, DeckGroup, deck_of
from parhelion.panels.shade import STEP_DEG
from parhelion.panels.shaded import cast_shade, headings_of, light_over
from parhelion.panels.strung import string_power_w
from parhelion.panels.tending import heading_power_per_watt, tended_power_per_watt
from parhelion.panels.turned import at_once, by_heading, turned
from parhelion.sun.climate import Air, air_of
from parhelion.sun.light import Light
from parhelion.wiring.by_itself import STRUNG_READS
from parhelion.wiring.conversion import Passed, passed
from parhelion.wiring.held import Held, held_in
from parhelion.wiring.strings import by_hand, strings_of

Array = NDArray[np.float64]


@dataclass(frozen=True)
class Harvest:
    """Watts of members x steps, shape (n, 144): what the panels feed in and where it goes before the bank."""

    array_w: Array  # at the controllers' inputs
    conversion_w: Array  # lost in the controllers
    clipped_w: Array  # above the controllers' current limits
    sun_w: Array  # at the banks' terminals
    by_bank_w: Array  # the same by bank: the main one's, the house's own; shape (n, 144, 2)
    groups_w: dict[str, Array]  # at the bank's terminals, by panel group
    boxes_w: dict[str, Passed]  # by controller

    def member(self, index: int) -> Harvest:
        """One member alone, shape (1, 144)."""
        return self._at(slice(index, index + 1))

    def steps(self, first: int, end: int) -> Harvest:
        """Some of the steps alone, shape (n, end - first)."""
        return self._at((slice(None), slice(first, end)))

    def _at(self, where: slice | tuple[slice, slice]) -> Harvest:
        return Harvest(
            self.array_w[where],
            self.conversion_w[where],
            self.clipped_w[where],
            self.sun_w[where],
            self.by_bank_w[where],
            {key: watts[where] for key, watts in self.groups_w.items()},
            {key: Passed(*(part[where] for part in box)) for key, box in self.boxes_w.items()},
        )


def blended(parts: list[tuple[Array, Harvest]]) -> Harvest:
    """Harvests of the same design in several states, each by its share of every step, shape (144,)."""

    shares = [share for share, _ in parts]
    made = [harvested for _, harvested in parts]

    def mix(terms: list[Array]) -> Array:
        return np.asarray(sum(share * term for share, term in zip(shares, terms, strict=True)))

    return Harvest(
        mix([h.array_w for h in made]),
        mix([h.conversion_w for h in made]),
        mix([h.clipped_w for h in made]),
        mix([h.sun_w for h in made]),
        np.stack([mix([h.by_bank_w[..., bank] for h in made]) for bank in (0, 1)], axis=-1),
        {key: mix([h.groups_w[key] for h in made]) for key in made[0].groups_w},
        {
            key: Passed(*(mix([h.boxes_w[key][part] for h in made]) for part in range(3)))
            for key in made[0].boxes_w
        },
    )


LEAST_W_PER_W = 1e-4
COVER_KEEPS = 0.94  # of the light, a clear cover over a flexible panel; typical 0.90 to 0.96


def kept_of(group: PanelGroup) -> float:
    """What salt, mismatch, wiring, a clear cover and a measured derate leave of a group's power [-]."""
    kept = (1 - group.salt_loss_frac) * (1 - group.mismatch_loss_frac) * (1 - group.wiring_loss_frac)
    return kept * group.derate_frac * (COVER_KEEPS if group.covered else 1.0)


def group_power_per_watt(
    design: BoatDesign, light: Light, deck: DeckGroup, step_deg: float = STEP_DEG
) -> Array:
    """DC power over nameplate of one panel group as it stands, before system losses, shape (n, 144) [W/W].

    Zero for a group that is folded, covered or gone. A place that is tended takes, at each heading, the tilts
    that give the mean day most; see `tending`.
    """
    if not deck.gives:
        return np.zeros_like(light.ghi)
    group, place = deck.group, deck.place
    here = light_over(design, light, place.kind)
    headings = headings_of(design)
    if place.tended is not Tended.LEFT and place.hinged:
        return _tended_per_watt(design, here, group.id, headings, air_of(design))
    if deck.alone and place.tilt_deg == 0 and not group.bifaciality_frac:
        headings = headings[:1]  # a flat panel in the clear does not ask
    return _left_per_watt(here, deck.lit, headings, air_of(design), held_in(design, group), step_deg)


@kept_by_arguments(160)
def _left_per_watt(
    light: Light, deck: DeckGroup, headings: tuple[float, ...], air: Air, held: Held | None, step_deg: float
) -> Array:
    """Power of a group that is left as it stands, the mean of the headings."""
    cast_shade([deck], step_deg)  # every heading reads the same tables
    if at_once(light, headings):
        made = heading_power_per_watt(turned(light, headings), deck, 0.0, air, held, step_deg)
        return np.asarray(np.mean(by_heading(made, headings), axis=0))
    each = [partial(heading_power_per_watt, light, deck, h, air, held, step_deg) for h in headings]
    return np.asarray(np.mean(together(each), axis=0))


@kept(DECK_READS | Reads(*STRUNG_READS), 40)
def _tended_per_watt(
    design: BoatDesign, light: Light, group_id: str, headings: tuple[float, ...], air: Air
) -> Array:
    """Power of a group that is tended."""
    deck = next(item for item in deck_of(design).groups if item.group.id == group_id)
    return tended_power_per_watt(design, light, deck, headings, air)


def _fed(design: BoatDesign, light: Light, step_deg: float) -> Iterator[tuple[str, str, Array]]:
    """What each group feeds each controller: their ids and watts, shape (n, 144) [W]."""
    deck = deck_of(design)
    if not by_hand(design):
        for item in deck.groups:
            group = item.group
            watts = group_power_per_watt(design, light, item, step_deg)
            yield group.id, group.controller_id, watts * (group.nameplate_w * group.count * kept_of(group))
        return
    tended = {item.group.id: _tended_gain(design, light, item) for item in deck.groups}
    for strung in strings_of(design):
        kept = tuple(kept_of(group) for group in strung.groups)
        watts = string_power_w(design, light, deck, strung, kept, step_deg)
        whole = sum(group.nameplate_w for group in strung.groups)
        for group in strung.groups:
            yield group.id, strung.controller_id, watts * (group.nameplate_w / whole) * tended[group.id]


def _tended_gain(design: BoatDesign, light: Light, deck: DeckGroup) -> Array | float:
    """Power of a tended group over the same left alone, by step; 1 for the others [-]."""
    if deck.place.tended is Tended.LEFT or not deck.place.hinged or not deck.gives:
        return 1.0
    place = deck.place.model_copy(update={"tended": Tended.LEFT})
    left = group_power_per_watt(design, light, replace(deck, place=place))
    cared = group_power_per_watt(design, light, deck)
    return np.divide(cared, left, out=np.ones_like(left), where=left > LEAST_W_PER_W)


HARVEST_READS = DECK_READS | Reads(
    *STRUNG_READS, "site.latitude_deg", "site.skyline", "plan.date", "plan.heading_deg",
    "plan.swing_deg", "plan.air_temperature_c", "plan.wind_mps",
)  # fmt: skip
BANK_VOLTS = ("id", "chemistry", "unit_v", "series")  # all that a charge controller meets of a bank


def harvest(design: BoatDesign, light: Light, step_deg: float = STEP_DEG) -> Harvest:
    """The whole array under a light, kept: however large the banks, whatever else is aboard.

    Parameters
    ----------
    design : BoatDesign
    light : Light
    step_deg : float
        Of the sky tables that shade is read from [deg].

    Returns
    -------
    Harvest
        All zero for a boat without panels. Salt, mismatch and wiring are taken off each group; conversion
        and clipping are the controllers' own.
    """
    return _harvest(met_by_controllers(design), light, step_deg)


def met_by_controllers(design: BoatDesign) -> BoatDesign:
    """The design with nothing of its banks but what a charge controller meets of them."""
    return design.changed(banks=tuple(only(bank, BANK_VOLTS) for bank in design.banks))


@kept(HARVEST_READS, 24)
def _harvest(design: BoatDesign, light: Light, step_deg: float) -> Harvest:
    shape = light.ghi.shape
    inputs = {controller.id: np.zeros(shape) for controller in design.controllers}
    groups: dict[str, Array] = {}
    by_box: dict[tuple[str, str], Array] = {}
    few = light.few
    for group_id, controller_id, told in _fed(design, few.light if few else light, step_deg):
        watts = few.read(told) if few else told
        groups[group_id] = groups.get(group_id, 0.0) + watts
        by_box[group_id, controller_id] = by_box.get((group_id, controller_id), 0.0) + watts
        inputs[controller_id] += watts
    array, conversion, clipped, whole = (np.zeros(shape) for _ in range(4))
    shares: dict[str, Array] = {}
    boxes: dict[str, Passed] = {}
    by_bank = np.zeros((*shape, 2))
    for controller in design.controllers:
        column = bank_column(design, controller.bank_id)
        bank = bank_in(design, column)
        offered = inputs[controller.id]
        out, lost, above = passed(offered, controller, bank.nominal_v if bank else None)
        array += offered
        clipped += above
        conversion += lost
        whole += out
        boxes[controller.id] = Passed(out, lost, above)
        by_bank[:, :, column] += out
        shares[controller.id] = np.divide(out, offered, out=np.zeros(shape), where=offered > 0)
    terminals = {group.id: np.zeros(shape) for group in design.panels}
    for (group_id, controller_id), watts in by_box.items():
        terminals[group_id] = terminals[group_id] + watts * shares[controller_id]
    return Harvest(array, conversion, clipped, whole, by_bank, terminals, boxes)
