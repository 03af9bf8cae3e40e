"""Whole boats that a wish is held against: an array, a bank and motors, put together and weighed."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray

from parhelion.bank.joint import Aboard
from parhelion.bank.store import energy_wh
from parhelion.computing.together import together
from parhelion.design import Bank, BoatDesign, Drive
from parhelion.design.banks import bank_column
from parhelion.design.wish import Wish
from parhelion.hull.demand import demand_curve
from parhelion.market.refits import Bought, banks_cost, drives_cost
from parhelion.panels.deck import deck_of
from parhelion.stations.wish.arrays import NOTHING, Option, as_she_has, bare, clusters, fills_of, harvested
from parhelion.stations.wish.combined import Combined, Laid, combined
from parhelion.stations.wish.energies import HOURS
from parhelion.stations.wish.ground import ends_at, hours_asked
from parhelion.stations.wish.held import SLOWER, MonthNumbers, Numbers, Question, curve_of, house_in, watts_of
from parhelion.stations.wish.places import allowed_places
from parhelion.stations.wish.stores import bank_choices, drive_choices, heavier_kg, with_bank, with_drives
from parhelion.sun.skies import SKIES

Array = NDArray[np.float64]

ROUNDING_WH = 0.5
MASSES = 4  # at which a hull's demand is worked out; between them it is read


@dataclass(frozen=True, eq=False)
class Boat:
    """An array, a bank, motors: what they cost and weigh together."""

    laid: Laid
    bank: Bank | None
    drives: tuple[Drive, ...]
    cost: float
    whole_kg: float
    boxes: int


@dataclass(eq=False)
class Yard:
    """All that boats for one wish are put together from."""

    design: BoatDesign
    wish: Wish
    question: Question
    have: Bought
    empty_kg: float  # the boat without her panels and the motor's bank
    laid: dict[float, list[Laid]] = field(default_factory=dict)  # by the bank's volts; 0 without a bank
    banks: list[Bank | None] = field(default_factory=list)
    drives: list[tuple[Drive, ...]] = field(default_factory=list)
    refused: Combined = field(default_factory=lambda: Combined([], 0, {}))  # arrays looked at, and kept off
    _houses: dict[object, tuple[Array, Aboard | None]] = field(default_factory=dict)
    _watts: dict[tuple[Drive, ...], tuple[Array, Array]] = field(default_factory=dict)
    _house_wh: dict[tuple[int, int], float] = field(default_factory=dict)
    _full: dict[Bank | None, float] = field(default_factory=dict)

    def numbers(self, boat: Boat) -> Numbers:
        """A boat as the wish meets her, read from tables."""
        months = []
        for index, days in enumerate(self.question.months):
            house_w, aboard = self._house(boat.bank, index)
            house_w = house_w + self._own_draw(boat.laid)[:, None]
            if boat.laid.options:
                out_w, rest_w = boat.laid.sun(index)
            else:
                out_w = rest_w = np.zeros((len(SKIES), days.below.shape[1], 2))
            months.append(MonthNumbers(out_w, rest_w, house_w, aboard))
        return Numbers(tuple(months), self.watts(boat))

    def _own_draw(self, laid: Laid) -> Array:
        """What controllers draw day and night, by the house's rows, shape (4,) [W]."""
        found = np.zeros(4)
        for option in laid.options:
            for box in option.controllers:
                found[2 * bank_column(self.design, box.bank_id)] += box.count * box.own_power_w
        return found

    def _house(self, bank: Bank | None, index: int) -> tuple[Array, Aboard | None]:
        key = (bank, index)
        if key not in self._houses:
            one = with_bank(bare(self.design), bank)
            month = self.question.months[index].month
            self._houses[key] = house_in(one, month, demand_curve(self.design))
        return self._houses[key]

    def watts(self, boat: Boat) -> Array:
        """Battery watts of every ask at every share of its bend, at the boat's weight, shape (asks, 5)."""
        masses, table = self._table(boat.drives)
        spread = np.clip((boat.whole_kg - masses[0]) / (masses[-1] - masses[0]), 0.0, 1.0) * (MASSES - 1)
        low = min(int(spread), MASSES - 2)
        return np.asarray(table[low] + (table[low + 1] - table[low]) * (spread - low))

    def least_watts(self, drives: tuple[Drive, ...]) -> Array:
        """What each ask takes of the lightest boat there can be, by its bend, shape (asks, 5) [W]."""
        return self._table(drives)[1][0]

    def house_wh(self, n: int, hours: float) -> float:
        """The least that the house takes until an ask of so many hours ends, of the months it has [Wh]."""
        key = n, int(hours)
        if key not in self._house_wh:
            found = []
            for index, month in enumerate(self.question.months):
                if month.month in self.question.asks[n].months:
                    rows = self._house(self.design.bank, index)[0].sum(axis=0)
                    end = min(ends_at(self.question.asks[n], month.day, float(key[1])), 24.0)
                    found.append(float(rows[: int(end * len(rows) / 24.0)].sum() * 24.0 / len(rows)))
            self._house_wh[key] = min(found, default=0.0)
        return self._house_wh[key]

    def least_cost(self) -> float:
        """What the cheapest boat costs, without a panel that is to be bought [coins]."""
        banks = min(banks_cost(with_bank(self.design, bank), self.have) for bank in self.banks)
        return banks + min(drives_cost(self.design.changed(drives=one), self.have) for one in self.drives)

    def full_wh(self, bank: Bank | None) -> float:
        """The most that full banks hold over their reserves in any month asked [Wh]."""
        if bank not in self._full:
            self._full[bank] = max(
                (_over_reserve_wh(self._house(bank, k)[1]) for k in range(len(self.question.months))),
                default=0.0,
            )
        return self._full[bank]

    def _table(self, drives: tuple[Drive, ...]) -> tuple[Array, Array]:
        if drives not in self._watts:
            heaviest = max((one.mass_kg for kept in self.laid.values() for one in kept), default=0.0)
            bank = max((one.mass for one in self.banks if one is not None), default=0.0)
            lightest = self.empty_kg + heavier_kg(self.design, drives)
            masses = np.linspace(lightest, lightest + heaviest + bank + 1.0, MASSES)
            changed = bare(self.design).changed(drives=drives)
            table = np.stack([watts_of(self.wish, curve_of(changed, self.wish, kg)) for kg in masses])
            self._watts[drives] = masses, table
        return self._watts[drives]


def _over_reserve_wh(aboard: Aboard | None) -> float:
    """What full banks hold over the reserve; the house's own over its cut-out [Wh]."""
    if aboard is None:
        return 0.0
    main, house = aboard.main, aboard.house
    over = energy_wh(1.0, main) - energy_wh(main.reserve, main)
    return over + (energy_wh(1.0, house) - energy_wh(house.cut_out, house) if aboard.joint.present else 0.0)


def empty_kg(design: BoatDesign) -> float:
    """All aboard without panels and the motor's bank; frames that stand stay [kg]."""
    return design.displacement_kg - design.panels_kg - (design.bank.mass if design.bank else 0.0)


def yard_of(
    design: BoatDesign, wish: Wish, question: Question, have: Bought, most_cost: float,
    report: Callable[[float], None], few: bool = False,
) -> Yard:  # fmt: skip
    """Everything that boats may be put together from.

    Parameters
    ----------
    design : BoatDesign
    wish : Wish
    question : Question
    have : Bought
    most_cost : float
        No boat costs more [coins].
    report : Report
    few : bool
        Only a few fills of each place, for a first look.
    """
    yard = Yard(design, wish, question, have, empty_kg(design))
    yard.banks = bank_choices(design, wish, have, most_cost)
    yard.drives = drive_choices(design, wish, have)
    volts = list(dict.fromkeys(0.0 if bank is None else bank.nominal_v for bank in yard.banks))
    for number, volt in enumerate(volts):
        first = next(b for b in yard.banks if (0.0 if b is None else b.nominal_v) == volt)
        slots = _slots(with_bank(design, first), wish, have, first == design.bank, few)
        todo = [option for slot in slots for option in slot]
        made = _harvested(design, first, question, todo, few, lambda s: report((number + s) / len(volts)))  # noqa: B023
        ready = iter(made)
        slots = [[next(ready) for _ in slot] for slot in slots]
        made_up = combined(design, question, have, slots, most_cost)
        yard.laid[volt] = made_up.arrays
        yard.refused.add(made_up)
    return yard


def _slots(design: BoatDesign, wish: Wish, have: Bought, as_is: bool, few: bool) -> list[list[Option]]:
    """What may lie on each place, or on those that share controllers; nothing is always one of them."""
    places = allowed_places(design, wish)
    found, taken = [], set()
    for cluster in clusters(design):
        own = as_she_has(design, cluster, have)
        taken |= set(own.key)
        slot = [NOTHING, *([own] if as_is else [])]
        only = [place for place in places if (place.id,) == own.key]
        for place in only:
            slot += _some(fills_of(design, wish, place, have), few)
        found.append(slot)
    for place in places:
        if place.id not in taken:
            found.append([NOTHING, *_some(fills_of(design, wish, place, have), few)])
    return found


def _some(options: list[Option], few: bool) -> list[Option]:
    """For a first look: the fill with most watts, and the one with most for its price."""
    if not few or len(options) < 3:
        return options
    most = max(options, key=lambda o: o.watts)
    worth = max(options, key=lambda o: o.watts / (o.cost + 50.0))
    return list(dict.fromkeys((worth, most)))


def _harvested(
    design: BoatDesign, bank: Bank | None, question: Question, options: list[Option],
    few: bool, report: Callable[[float], None],
) -> list[Option]:  # fmt: skip
    base, found = with_bank(design, bank), []
    step = 4
    for start in range(0, len(options), step):
        part = options[start : start + step]
        found += together([lambda o=one: harvested(base, question, o, few) for one in part])  # type: ignore[misc]
        report(min((start + step) / len(options), 1.0))
    return found


def boats_of(yard: Yard, most_cost: float) -> list[Boat]:
    """Every boat within what binds, the cheapest first."""
    wish, found = yard.wish, []
    now_kg = yard.design.displacement_kg
    for bank in yard.banks:
        banks = banks_cost(with_bank(yard.design, bank), yard.have)
        for drives in yard.drives:
            motors = drives_cost(yard.design.changed(drives=drives), yard.have)
            heavier = heavier_kg(yard.design, drives)
            for laid in yard.laid[0.0 if bank is None else bank.nominal_v]:
                cost = banks + motors + laid.cost
                whole = yard.empty_kg + heavier + laid.mass_kg + (bank.mass if bank else 0.0)
                if cost > most_cost or (wish.added_kg is not None and whole - now_kg > wish.added_kg + 1e-9):
                    continue
                found.append(Boat(laid, bank, drives, cost, whole, laid.boxes))
    return sorted(found, key=lambda boat: (boat.cost, boat.whole_kg, boat.boxes))


def may_do(yard: Yard, boat: Boat, stretch: float) -> bool:
    """Whether energy alone lets a boat do the wish stretched so far; a bound, never false for one that does.

    Of each ask: until its motoring ends a day has no more than its own sun and full banks, and the house is
    served; all days together have no more than all the sun and full banks once a month. Nothing is lost, and
    the boat is as light as any.
    """
    question, full = yard.question, yard.full_wh(boat.bank)
    moving = [n for n in question.runs if question.asks[n].moves]
    watts = yard.least_watts(boat.drives)
    for row, n in enumerate(moving):
        ask, days = question.asks[n], len(boat.laid.energies.day_wh[row])
        if not days:
            continue
        poorest = boat.laid.poorest_wh(row, int((1 - ask.surely_frac) * days + 1e-9))
        fits = False
        for bend, slower in enumerate(SLOWER):
            hours = hours_asked(ask, stretch, slower)
            if not np.isfinite(watts[n, bend]) or hours > HOURS:
                continue
            at = max(int(np.ceil(hours - 1e-9)), 1) - 1
            needs = watts[n, bend] * hours
            least = needs + yard.house_wh(n, hours)
            enough = ask.surely_frac * days * needs
            whole = boat.laid.energies.whole_wh + len(question.months) * full
            if least <= full + poorest[at] + ROUNDING_WH and (question.filled or enough <= whole):
                fits = True
                break
        if not fits:
            return False
    return True


def built(yard: Yard, boat: Boat) -> BoatDesign:
    """The design of a boat: all of it drawn, to be opened, changed and proved."""
    design, laid = yard.design, boat.laid
    new = [place for option in laid.options for place in option.places]
    by_id = {place.id: place for place in new}
    kept = tuple(by_id.pop(place.id, place) for place in design.places)
    made = with_bank(with_drives(design, boat.drives), boat.bank).changed(
        places=(*kept, *by_id.values()),
        panels=tuple(group for option in laid.options for group in option.groups),
        controllers=tuple(box for option in laid.options for box in option.controllers),
        strings=(),
    )
    if design.hull.displacement_kg is not None:  # weighed as she was: the difference is put on the scales
        made = made.weighing(boat.whole_kg)
    return made


def in_each_others_light(yard: Yard, boat: Boat, design: BoatDesign) -> bool:
    """Whether panels of one option may shade those of another: then a sum over options gives too much."""
    whole = {held.group.id: held.bodies for held in deck_of(design).groups}
    for option in boat.laid.options:
        alone = bare(yard.design).changed(
            places=option.places, panels=option.groups, controllers=option.controllers
        )
        if any(whole[held.group.id] != held.bodies for held in deck_of(alone).groups):
            return True
    return False
