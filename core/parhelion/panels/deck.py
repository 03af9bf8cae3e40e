"""The deck as it stands in a state of the boat: which panels give, where each lies, what may shade it."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import NamedTuple

import numpy as np

from parhelion.computing.kept import kept_by_arguments
from parhelion.design import HIDDEN, BoatDesign, How, Obstacle, PanelGroup, Place, Tended
from parhelion.design.reads import Reads, kept, only
from parhelion.panels.bodies import Body, body_of, body_of_panels
from parhelion.panels.layout import PanelAt, leaves_of, panels_of
from parhelion.wiring.by_itself import strung_panels

FLAT_BELOW_DEG = 0.05
LYING_EDGE_M = 0.02  # a neighbour that rises less over a panel's plane lies in it


# Entries that power over nameplate depends on; a two-sided panel's also on what lies under it.
LIT_GROUP: tuple[str, ...] = (
    "power_coefficient_per_k", "cells_across", "cells_along", "half_cut", "bifaciality_frac", "series",
    "count",
)  # fmt: skip
LIT_PLACE: tuple[str, ...] = ("tilt_deg", "faces", "ventilation")
BACK_GROUP = ("panel_width_m", "panel_length_m", "nameplate_w", "turned", "columns")
BACK_PLACE = ("at", "under", "gap_m", "width_m", "length_m", "clear_m")


@dataclass(frozen=True)
class DeckGroup:
    """A panel group as it stands: its place in that state, its panels and what may shade each of them.

    A folding panel lies here as its leaves, `leaves` of them one after another; flat where its place has no
    position.
    """

    group: PanelGroup
    place: Place  # with the tilt of the state
    how: How
    panels: tuple[PanelAt, ...]
    bodies: tuple[tuple[Body, ...], ...]  # by panel
    leaves: int = 1

    @property
    def lit(self) -> DeckGroup:
        """What its light depends on, and nothing else."""
        group, place = LIT_GROUP, LIT_PLACE
        grid = self.group.grid
        told = {"cells_across": grid.across, "cells_along": grid.along, "half_cut": grid.halved}
        if self.group.bifaciality_frac:
            group, place = (*group, *BACK_GROUP), (*place, *BACK_PLACE)
        return replace(
            self, group=only(self.group.model_copy(update=told), group), place=only(self.place, place)
        )

    @property
    def gives(self) -> bool:
        return self.how in (How.SET, How.TILTED)

    @property
    def alone(self) -> bool:
        """Whether all its panels see the sky alike, so that one stands for all."""
        return self.leaves == 1 and not any(self.bodies)


@dataclass(frozen=True)
class Deck:
    """All panel groups of the set in use, and the obstacles that stand."""

    groups: tuple[DeckGroup, ...]
    obstacles: tuple[Obstacle, ...]


def obstacles_standing(design: BoatDesign) -> tuple[Obstacle, ...]:
    """What throws shade in the plan's state, as it then stands."""
    found = (thing.as_it_stands(design.plan.state) for thing in design.obstacles)
    return tuple(thing for thing in found if thing is not None)


DECK_READS = Reads("places", "panels", "panel_set", "strings", "obstacles", "plan.state")


def deck_of(design: BoatDesign) -> Deck:
    """The deck of a design in the state of its plan, each group with the strings it has."""
    deck = _deck(design)
    if all(held.group.series for held in deck.groups):
        return deck
    strung = {group.id: group for group in strung_panels(design)}
    groups = tuple(replace(held, group=strung[held.group.id]) for held in deck.groups)
    return replace(deck, groups=groups)


@kept(DECK_READS, 256)
def _deck(design: BoatDesign) -> Deck:
    standing = []
    for group in design.fitted_panels:
        place, how = design.as_it_stands(design.place(group.place_id))
        if 0 < place.tilt_deg < FLAT_BELOW_DEG:
            place = place.model_copy(update={"tilt_deg": 0.0})
        panels = leaves_of(place, group) if group.leaf_tilts_deg else panels_of(place, group)
        standing.append((group, place, how, panels))
    obstacles = obstacles_standing(design)
    laid: list[Laid] = []
    for group, place, how, panels in standing:
        if how not in HIDDEN:
            for real, found in ((True, panels), (False, _as_neighbour(place, group, panels))):
                laid += [Laid(place.id, group.id, real, panel) for panel in found]
    around = _bodies_around(
        obstacles, tuple(laid), tuple((place.id, tuple(p)) for _, place, _, p in standing)
    )
    return Deck(
        tuple(
            DeckGroup(
                group, place, how, tuple(panels), bodies, max(len(group.leaf_tilts_deg), 1) if panels else 1
            )
            for (group, place, how, panels), bodies in zip(standing, around, strict=True)
        ),
        obstacles,
    )


class Laid(NamedTuple):
    """A panel on deck as it throws shade."""

    place_id: str
    group_id: str
    real: bool  # as it lies; else as others see one that is tended
    panel: PanelAt


@kept_by_arguments(64)
def _bodies_around(
    obstacles: tuple[Obstacle, ...],
    laid: tuple[Laid, ...],
    groups: tuple[tuple[str, tuple[PanelAt, ...]], ...],
) -> tuple[tuple[tuple[Body, ...], ...], ...]:
    """What may shade each panel of groups on their places: things on deck, and panels that rise over it."""
    things = [body_of(obstacle) for obstacle in obstacles]
    corners = np.array([item.panel.corners for item in laid]).reshape(-1, 4, 3)

    def around(place_id: str, panel: PanelAt) -> tuple[Body, ...]:
        found = [thing for thing in things if thing.rises_above(panel)]
        rises = ((corners - np.array(panel.middle)) @ panel.normal).max(axis=1) > LYING_EDGE_M
        by_group: dict[str, list[PanelAt]] = {}
        for index in np.flatnonzero(rises):
            other = laid[index]
            if other.real is (other.place_id == place_id) and other.panel != panel:
                by_group.setdefault(other.group_id, []).append(other.panel)
        return (*found, *(body_of_panels(panels) for panels in by_group.values()))

    return tuple(tuple(around(place_id, panel) for panel in panels) for place_id, panels in groups)


def _as_neighbour(place: Place, group: PanelGroup, panels: list[PanelAt]) -> list[PanelAt]:
    """Panels as others see them; whoever tends a place sees to it that it shades nothing else."""
    if place.tended is Tended.LEFT or not place.hinged:
        return panels
    return panels_of(place.model_copy(update={"tilt_deg": place.hinge_deg[0]}), group)


def at_tilt(design: BoatDesign, place_id: str, tilt_deg: float) -> BoatDesign:
    """The design with one place at another tilt in the state it is in, left there; for what-ifs."""
    place, state = design.place(place_id), design.plan.state.value
    standing = getattr(place.stands, state)
    changes: dict[str, object] = {"tended": Tended.LEFT}
    if standing.how is How.TILTED:
        tilted = standing.model_copy(update={"tilt_deg": tilt_deg})
        changes["stands"] = place.stands.model_copy(update={state: tilted})
    else:
        changes["tilt_deg"] = tilt_deg
    other = place.model_copy(update=changes)
    return design.changed(places=tuple(other if item is place else item for item in design.places))
