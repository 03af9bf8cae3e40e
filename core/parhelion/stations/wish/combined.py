"""Whole arrays: a fill for every place, within what binds, those that others leave behind dropped."""

from __future__ import annotations

from collections.abc import Hashable
from dataclasses import dataclass, field
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from parhelion.computing.kept import once
from parhelion.design import BoatDesign, PanelGroup, PlaceKind
from parhelion.design.wish import Wish
from parhelion.hull.stability import BODY_CENTRE_M, list_deg, stiffness_lost
from parhelion.market.refits import Bought, panel_key, panels_cost
from parhelion.stations.wish.arrays import MANY, NOTHING, Option, bare, harvested, models_for
from parhelion.stations.wish.energies import HOURS, Energies, Energy
from parhelion.stations.wish.held import Question
from parhelion.stations.wish.places import exclusive_pairs

Array = NDArray[np.float64]

MOST_ARRAYS = 500  # kept of those that may be put together; the rest gives less for its price and weight
PRICE_RANGES = 25  # of each of which as many arrays are kept
MOST_LIST_DEG = 4.0  # to either side, by panels: more is felt aboard


@dataclass(frozen=True, eq=False)
class Laid:
    """A whole array: an option for every place."""

    options: tuple[Option, ...]
    cost: float
    mass_kg: float
    moment_kg_m: float
    boxes: int
    athwart_kg_m: float
    energies: Energies
    _poorest: dict[tuple[int, int], Array] = field(default_factory=dict)

    @property
    def mean_wh(self) -> float:
        return self.energies.mean_wh

    @once
    def filled(self) -> frozenset[str]:
        return frozenset(key for option in self.options for key in option.key)

    def poorest_wh(self, row: int, spared: int) -> Array:
        """Sun of the poorest day of a moving ask but so many, by the hours it lasts, shape (HOURS,) [Wh]."""
        key = row, spared
        if key not in self._poorest:
            days = self.energies.day_wh[row]
            at = min(spared, len(days) - 1)
            self._poorest[key] = np.partition(days, at, axis=0)[at] if len(days) else np.zeros(HOURS)
        return self._poorest[key]

    def sun(self, index: int) -> tuple[Array, Array]:
        """In a month: on a day out and at rest, shapes (12, 48, 2) [W]."""
        tables = [option.sun[index] for option in self.options]
        whole = np.sum(tables, axis=0)
        return np.ascontiguousarray(whole[0]), np.ascontiguousarray(whole[1])


Binding = Literal["stiffness", "list", "boxes", "weight"]


@dataclass(eq=False)
class Combined:
    """Arrays that may be, how many were looked at, and the sunniest for the money that each bind refuses."""

    arrays: list[Laid]
    looked_at: int
    refused: dict[Binding, Laid]

    def refuse(self, binding: Binding, laid: Laid) -> None:
        """Remembers the sunniest."""
        other = self.refused.get(binding)
        if other is None or laid.mean_wh > other.mean_wh:
            self.refused[binding] = laid

    def add(self, other: Combined) -> None:
        """Counts and refusals of another voltage's arrays."""
        self.looked_at += other.looked_at
        for binding, laid in other.refused.items():
            self.refuse(binding, laid)


def combined(
    design: BoatDesign, question: Question, have: Bought, slots: list[list[Option]], most_cost: float
) -> Combined:
    """Arrays from a choice for every slot, within what binds; those that others leave behind are dropped."""
    energy, found = Energy(question), Combined([], 0, {})
    worth = {id(option): energy.of(option) for slot in slots for option in slot}
    places = {p.id: p for slot in slots for option in slot for p in option.places}
    apart = {frozenset(pair) for pair in exclusive_pairs(list(places.values())) if _one_is_new(design, pair)}
    none = energy.of(harvested(design, question, NOTHING))
    arrays = [Laid((), 0.0, 0.0, 0.0, 0, 0.0, none)]
    binds = _Binds.of(design, question.wish, have)
    for slot in slots:
        grown = []
        for array in arrays:
            for option in slot:
                if any(frozenset((a, b)) in apart for a in option.key for b in array.filled):
                    continue
                made = array if not option.groups else _grown(design, binds, array, option, worth[id(option)])
                if made.cost > most_cost or not binds.there_are(made):
                    continue
                against = binds.against(made)
                if against is None:
                    grown.append(made)
                elif made.cost <= question.wish.coins:
                    found.refuse(against, made)
        found.looked_at += len(grown)
        arrays = _the_most(grown)
    for array in arrays:
        if binds.lies_level(array):
            found.arrays.append(array)
        elif array.cost <= question.wish.coins:
            found.refuse("list", array)
    return found


def _one_is_new(design: BoatDesign, pair: tuple[str, str]) -> bool:
    own = {place.id for place in design.places}
    return not (pair[0] in own and pair[1] in own)


def _grown(design: BoatDesign, binds: _Binds, array: Laid, option: Option, worth: Energies) -> Laid:
    """An array with one more option."""
    options = (*array.options, option)
    cost = array.cost + option.cost
    if option.uses and any(binds.have(key) < n for key, n in used_by(options).items()):
        cost = panels_cost(_drawn(design, options), binds.bought)  # what is there is there once
    return Laid(
        options, cost, array.mass_kg + option.mass_kg, array.moment_kg_m + option.moment_kg_m,
        array.boxes + option.boxes, array.athwart_kg_m + option.athwart_kg_m, array.energies.and_(worth),
    )  # fmt: skip


def used_by(options: tuple[Option, ...]) -> dict[Hashable, int]:
    """How many of what is there options ask for together."""
    found: dict[Hashable, int] = {}
    for option in options:
        for key, number in option.uses:
            found[key] = found.get(key, 0) + number
    return found


def _drawn(design: BoatDesign, options: tuple[Option, ...]) -> BoatDesign:
    return bare(design).changed(
        places=tuple(place for option in options for place in option.places),
        panels=tuple(group for option in options for group in option.groups),
        controllers=tuple(box for option in options for box in option.controllers),
    )


@dataclass(frozen=True, eq=False)
class _Binds:
    """What binds an array, worked out once."""

    wish: Wish
    bought: Bought
    only_there: frozenset[Hashable]  # panels that are to be had no more
    stiff_per_kg_m: float
    stiff_most: float
    kg_now: float
    list_kg_m: float

    @classmethod
    def of(cls, design: BoatDesign, wish: Wish, have: Bought) -> _Binds:
        some = {panel_key(model) for model, most in models_for(design, wish, have) if most < MANY}
        most = max(wish.stiffness_frac, _stiffness_now(design))
        each = stiffness_lost(design, 1.0, BODY_CENTRE_M + 1.0)[1]
        now = sum(
            group.mass * (place.at.x_m if (place := design.place(group.place_id)).at else 0.0)
            for group in design.fitted_panels if place_aboard(design, group)
        )  # fmt: skip
        list_kg_m = max(abs(now), MOST_LIST_DEG / max(abs(list_deg(design, 1.0)), 1e-9))
        return cls(wish, have, frozenset(some), each, most, design.panels_kg, list_kg_m)

    def have(self, key: Hashable) -> int:
        return self.bought.panels[key] or self.bought.boxes[key]

    def there_are(self, laid: Laid) -> bool:
        """Whether there are as many of what is to be had no more."""
        return not self.only_there or all(
            number <= self.have(key)
            for key, number in used_by(laid.options).items() if key in self.only_there
        )  # fmt: skip

    def against(self, laid: Laid) -> Binding | None:
        """What an array is refused by, if anything."""
        wish = self.wish
        if wish.most_boxes is not None and laid.boxes > wish.most_boxes:
            return "boxes"
        fresh = sum(option.mass_kg for option in laid.options if not option.own)
        if wish.added_kg is not None and fresh > wish.added_kg + self.kg_now:
            return "weight"
        takes = self.stiff_per_kg_m * (laid.moment_kg_m - BODY_CENTRE_M * laid.mass_kg)
        return "stiffness" if takes > self.stiff_most else None

    def lies_level(self, laid: Laid) -> bool:
        """Whether a whole array lists her no more than is felt; one side of wings waits for the other."""
        return abs(laid.athwart_kg_m) <= self.list_kg_m


def stiffness_of(design: BoatDesign, laid: Laid) -> float:
    """Share of the hull's stiffness that an array takes [-]."""
    if laid.mass_kg <= 0:
        return 0.0
    return max(stiffness_lost(design, laid.mass_kg, laid.moment_kg_m / laid.mass_kg)[1], 0.0)


def place_aboard(design: BoatDesign, group: PanelGroup) -> bool:
    """Whether a group's place is on the boat and has a position."""
    place = design.place(group.place_id)
    return place.at is not None and place.kind is not PlaceKind.SHORE


def _stiffness_now(design: BoatDesign) -> float:
    """What the panels she has take: no wish makes her stiffer."""
    mass = moment = 0.0
    for group in design.fitted_panels:
        at = design.place(group.place_id).at
        if at is not None and place_aboard(design, group):
            mass, moment = mass + group.mass, moment + group.mass * at.z_m
    return max(stiffness_lost(design, mass, moment / mass)[1], 0.0) if mass > 0 else 0.0


def _the_most(arrays: list[Laid]) -> list[Laid]:
    """At most MOST_ARRAYS, as many cheap ones as dear: those that fewest others leave behind in price, weight
    and sun; of twins one."""
    twins = {
        (round(a.cost, 2), round(a.mass_kg, 3), a.boxes, round(a.mean_wh, 1)): a for a in reversed(arrays)
    }
    arrays = list(reversed(twins.values()))
    if len(arrays) <= MOST_ARRAYS:
        return arrays
    cost, mass, sun = np.array([(a.cost, a.mass_kg, -a.mean_wh) for a in arrays]).T
    behind = np.array([
        int(((cost <= c) & (mass <= m) & (sun <= s)).sum()) for c, m, s in zip(cost, mass, sun, strict=True)
    ])  # fmt: skip
    kept: list[int] = [int(np.argmin(cost))]
    ranges = np.minimum((cost / max(float(cost.max()), 1.0) * PRICE_RANGES).astype(int), PRICE_RANGES - 1)
    for number in range(PRICE_RANGES):
        share = np.flatnonzero(ranges == number)
        best = np.lexsort((sun[share], behind[share]))[: MOST_ARRAYS // PRICE_RANGES - 1]
        kept += [int(index) for index in share[best]]
    return [arrays[index] for index in sorted(set(kept))]
