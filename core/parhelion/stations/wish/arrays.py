"""What may lie on each place: panels of a kind, fitted and wired, with what they cost and what they give.

References
----------
[1] Every option is harvested by itself among what stands on deck: panels elsewhere can only shade it, so
    that sums over places are never too small. Options that no better one leaves worth taking are dropped.
"""

from __future__ import annotations

from collections.abc import Hashable, Iterable
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from parhelion.data import panel_models
from parhelion.design import (
    Bank,
    BoatDesign,
    Build,
    Controller,
    ControllerKind,
    PanelGroup,
    PanelModel,
    Place,
    PlaceKind,
)
from parhelion.design.wish import Wish
from parhelion.market.refits import Bought, panel_key, panels_cost, uses_of
from parhelion.panels.layout import most_that_fit
from parhelion.stations.wish.held import Question, first_sun_in, sun_in
from parhelion.wiring.arrangements import Arrangement, arrangements, wired
from parhelion.wiring.by_itself import charging_v
from parhelion.wiring.panel_volts import panel_volts

Array = NDArray[np.float64]

MANY = 400  # panels of a kind: as many as anybody wants
MANY_FILLS, NEARLY = 10, 0.04  # with more fills than that, those nearly as good as a cheaper one go too
PWM_OVER = 1.35  # hot best volts over the charging bank's: with more a PWM controller wastes a quarter
BACK_SHARE = 0.05  # what the back of a two-sided panel may add over water
HOT_C = 55.0  # of a cell in the sun
ROUND_UP = 1e-6  # of watts and watt-hours: options nearer than that are alike


@dataclass(frozen=True, eq=False)
class Option:
    """What may lie on one place, or on several that share their controllers."""

    places: tuple[Place, ...]  # that it fills; with those it stands on
    groups: tuple[PanelGroup, ...]
    controllers: tuple[Controller, ...]
    cost: float
    mass_kg: float  # with frames that are not there yet
    moment_kg_m: float  # of it about the waterline
    athwart_kg_m: float  # about the centreline, to starboard
    boxes: int
    own: bool  # as she has it
    uses: tuple[tuple[Hashable, int], ...]  # of what is there already, by what it is
    sun: tuple[Array, ...] = ()  # by month: days out and at rest, shape (2, 12, 48, 2) [W]

    @property
    def watts(self) -> float:
        return sum(group.nameplate_w * group.count for group in self.groups)

    @property
    def key(self) -> tuple[str, ...]:
        return tuple(place.id for place in self.places)


NOTHING = Option((), (), (), 0.0, 0.0, 0.0, 0.0, 0, False, ())


def bare(design: BoatDesign) -> BoatDesign:
    """The boat without panels and controllers, her places and all else as they are."""
    return design.changed(panels=(), controllers=(), strings=())


def _masses(
    places: Iterable[Place], groups: Iterable[PanelGroup], there: set[str]
) -> tuple[float, float, float]:
    """Mass aboard of panels and new frames, its moment about the waterline and to starboard [kg, kg m]."""
    by_id = {place.id: place for place in places if place.kind is not PlaceKind.SHORE}
    parts = [(group.mass, by_id[group.place_id].at) for group in groups if group.place_id in by_id]
    parts += [(place.frame_kg, place.at) for place in by_id.values() if place.id not in there]
    mass = sum(kg for kg, _ in parts)
    up = sum(kg * at.z_m for kg, at in parts if at)
    return mass, up, sum(kg * at.x_m for kg, at in parts if at)


def option_of(
    design: BoatDesign, places: tuple[Place, ...], groups: tuple[PanelGroup, ...],
    controllers: tuple[Controller, ...], have: Bought, own: bool,
) -> Option:  # fmt: skip
    """An option with its price and weight, not yet harvested."""
    alone = bare(design).changed(places=places, panels=groups, controllers=controllers)
    mass, up, athwart = _masses(places, groups, {place.id for place in design.places})
    boxes = sum(box.count for box in controllers)
    uses = uses_of(groups, controllers, have)
    return Option(places, groups, controllers, panels_cost(alone, have), mass, up, athwart, boxes, own, uses)


def clusters(design: BoatDesign) -> list[tuple[PanelGroup, ...]]:
    """Her panels as they hang together: those of one place, and those that share a controller."""
    left = list(design.fitted_panels)
    found = []
    while left:
        cluster = [left.pop(0)]
        grown = True
        while grown:
            grown = False
            for group in list(left):
                if any(g.place_id == group.place_id or g.controller_id == group.controller_id
                       for g in cluster):  # fmt: skip
                    cluster.append(group)
                    left.remove(group)
                    grown = True
        found.append(tuple(cluster))
    return found


def as_she_has(design: BoatDesign, cluster: tuple[PanelGroup, ...], have: Bought) -> Option:
    """A cluster of her own panels as it is."""
    places = tuple(place for place in design.places if any(g.place_id == place.id for g in cluster))
    fed = {group.controller_id for group in cluster}
    boxes = tuple(box for box in design.controllers if box.id in fed)
    return option_of(design, places, cluster, boxes, have, True)


def models_for(design: BoatDesign, wish: Wish, have: Bought) -> list[tuple[PanelModel, int]]:
    """Panels to choose from, and how many of each there are to be had."""
    listed = wish.own_panels or panel_models()
    found = [(model, MANY) for model in listed if model.build in wish.builds]
    known = {panel_key(model) for model, _ in found}
    for panel in (*(design.fitted_panels if wish.keeps_panels else ()), *wish.owned):
        key = panel_key(panel)
        if key not in known:
            known.add(key)
            model = PanelModel.model_validate({n: getattr(panel, n) for n in PanelModel.model_fields})
            found.append((model, have.panels[key]))
    return found


def _counts(most: int) -> list[int]:
    """How many of a kind are tried on a place: all up to four, then quarters of the most."""
    if most <= 4:
        return list(range(1, most + 1))
    return sorted({1, 2, *(max(round(most * share), 1) for share in (0.25, 0.5, 0.75, 1.0))})


def _wirings(design: BoatDesign, group: PanelGroup, bank: Bank | None) -> list[tuple[int, Controller]]:
    """Legal ways to wire a group: the cheapest, and the cheapest that tracks; none where nothing suits."""
    if bank is None:
        return [(1, Controller(id=group.controller_id, name="Controller"))]
    legal = [one for one in arrangements(design, group, bank)[1] if not _wasted(one, bank)]
    picks: list[Arrangement] = []
    for kept in (legal, [one for one in legal if one.model.kind is not ControllerKind.PWM]):
        best = min(kept, key=lambda one: (one.price, one.boxes), default=None)
        if best is not None and best not in picks:
            picks.append(best)
    return [(one.series, wired(design, group, one.boxes, one.model)) for one in picks]


def _wasted(one: Arrangement, bank: Bank) -> bool:
    """Whether a PWM controller holds panels so far under their best volts that nobody would."""
    hot_v = panel_volts(one.group).best_at(HOT_C, one.series)
    return one.model.kind is ControllerKind.PWM and hot_v > PWM_OVER * charging_v(bank)


def fills_of(design: BoatDesign, wish: Wish, place: Place, have: Bought) -> list[Option]:
    """Every fill of one place by one kind of panel, the plainly worse ones left out."""
    base, found = bare(design), []
    for number, (model, stock) in enumerate(models_for(design, wish, have)):
        if model.build is Build.FOLDING and place.kind is not PlaceKind.LOOSE:
            continue
        lying = PanelGroup(
            **model.model_dump(), id=f"{place.id}-{number}"[:40], place_id=place.id,
            controller_id=f"{place.id}-{number}-box"[:40],
        )  # fmt: skip
        fits = [most_that_fit(place, lying, turned) for turned in (False, True)]
        for count in _counts(min(max(fits), stock)) if max(fits) else []:
            group = lying.model_copy(update={"count": count, "turned": fits[0] < count})
            box = Controller(id=group.controller_id)
            alone = base.changed(places=(place,), panels=(group,), controllers=(box,))
            for series, made in _wirings(alone, group, design.bank):
                wired_group = group.model_copy(update={"series": series, "controller_id": made.id})
                found.append(option_of(design, (place,), (wired_group,), (made,), have, False))
    kept = _not_worse(design, found, 0.0)
    return kept if len(kept) <= MANY_FILLS else _not_worse(design, kept, NEARLY)


def _gives(design: BoatDesign, option: Option) -> float:
    """Watts of an option as its controllers take them: PWM holds its panels at the bank's volts [W]."""
    total = 0.0
    for group in option.groups:
        box = next(box for box in option.controllers if box.id == group.controller_id)
        watts = group.nameplate_w * group.count * (1 + BACK_SHARE * group.bifaciality_frac)
        bank = design.bank_of(box)
        if box.kind is ControllerKind.PWM and bank is not None:
            hot_v = panel_volts(group).best_at(HOT_C, group.in_series)
            watts *= min(charging_v(bank) / hot_v, 1.0)
        total += watts
    return total


def _not_worse(design: BoatDesign, options: list[Option], nearly: float) -> list[Option]:
    """Options that no other leaves behind in price, weight and boxes while it gives no less, or nearly so."""
    kept: list[tuple[Option, float]] = []
    rated = [(one, _gives(design, one)) for one in options]
    for one, watts in sorted(rated, key=lambda o: (o[0].cost, o[0].mass_kg, o[0].boxes, -o[1])):
        if not any(
            other.cost <= one.cost and other.mass_kg * (1 - nearly) <= one.mass_kg
            and other.boxes <= one.boxes and theirs >= watts * (1 - ROUND_UP - nearly)
            for other, theirs in kept
        ):  # fmt: skip
            kept.append((one, watts))
    return [one for one, _ in kept]


def harvested(design: BoatDesign, question: Question, option: Option, few: bool = False) -> Option:
    """The option with the sun it gives, by itself among what stands on deck [1]."""
    if not option.groups:
        steps = question.months[0].below.shape[1] if question.months else 0
        nothing = np.zeros((2, 12, steps, 2))
        return _with_sun(option, tuple(nothing for _ in question.months))
    alone = bare(design).changed(places=option.places, panels=option.groups, controllers=option.controllers)
    rest, sun = question.wish.rest_state, first_sun_in if few else sun_in
    return _with_sun(option, tuple(np.stack(both) for both in sun(alone, question.month_numbers, rest)))


def _with_sun(option: Option, sun: tuple[Array, ...]) -> Option:
    return replace(option, sun=sun)
