"""The front of boats that meet a wish: for more money never less, none left behind by another.

References
----------
[1] Boats are looked at from the cheapest on. One whose bound (`boats.may_do`) does not pass what a cheaper
    one reaches is cut; one that does is asked for just that stretch, and only where it does it, how far it
    goes.
    What it reaches is then worked out on the whole design, as the stations would: shade of panels on each
    other, its own hull's demand.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import partial
from itertools import pairwise

import numpy as np

from parhelion.computing.progress import Report, within
from parhelion.computing.together import HANDS, together
from parhelion.design import BoatDesign
from parhelion.design.wish import Wish
from parhelion.market.refits import Bought, bought
from parhelion.stations.wish.boats import (
    Boat,
    Yard,
    boats_of,
    built,
    in_each_others_light,
    may_do,
    yard_of,
)
from parhelion.stations.wish.held import (
    LEAST_STRETCH,
    Numbers,
    Question,
    curve_of,
    does,
    most_stretch,
    numbers_of,
    question_of,
    reach,
    watts_of,
)

FARTHER = 0.005  # of a stretch: a dearer boat that goes less than that farther is no step of the front
OVER = 1.6  # times the money there is, and MORE: so far the front is drawn
MORE = 500.0
SCOUTS, FEWER_SCOUTS = 24, 7  # boats asked first, the most promising of each price
MOST_ASKED, FEWER = 900, 30  # boats run through their days, and so many times fewer for a first look
FEWER_WEEKS = 4  # of each month, by which a first look chooses; what it shows is proved on all
FIRST_SHOWN = 6  # points of a first look, about
AT_ONCE = 2 * HANDS
BLOCK = 240  # boats of nearly one price
ALIKE = 1e-3  # of sun and bank: less apart is the same


@dataclass(frozen=True, eq=False)
class Proved:
    """A boat with its design, and how far the wish stretches with it."""

    boat: Boat
    design: BoatDesign
    numbers: Numbers
    stretch: float


@dataclass(frozen=True, eq=False)
class Found:
    """The front, cheapest first, and how it was come by."""

    yard: Yard
    front: list[Proved]
    lightest: Proved | None  # of those that do it within the money; not looked for at a first look
    fewest: Proved | None  # boxes, the same
    looked_at: int  # boats there are
    cut: int  # by a bound
    asked: int  # run through the days
    stopped: bool  # before all that no bound cuts were asked


def most_cost(wish: Wish) -> float:
    """So far the front is drawn [coins]."""
    return OVER * wish.coins + MORE


def have_of(design: BoatDesign, wish: Wish) -> Bought:
    """What is there already, as the wish says, and her motor where nothing is to move."""
    motor = wish.keeps_motor or not any(ask.moves for ask in wish.asks)
    return bought(design, wish.keeps_panels, wish.keeps_bank, motor, wish.owned)


@dataclass(frozen=True, eq=False)
class _Failed:
    """A boat that did not do a stretch: no boat with less sun at any hour and less bank does it either."""

    stretch: float
    watts: np.ndarray  # of each moving ask
    bank_wh: float
    marks_w: np.ndarray


class _Search:
    def __init__(self, yard: Yard, trial: Question):
        self.yard, self.question, self.trial = yard, yard.question, trial
        self.few = trial is not yard.question
        self.most = most_stretch(yard.question)
        self.proved: dict[int, Proved] = {}
        self.failed: dict[object, list[_Failed]] = {}
        self.moving = [n for n, ask in enumerate(yard.question.asks) if ask.moves]
        self.asked = 0

    def _kind(self, boat: Boat) -> object:
        bank = boat.bank
        return None if bank is None else (bank.chemistry, bank.nominal_v)

    def _as_failed(self, boat: Boat, stretch: float) -> _Failed:
        watts = self.yard.watts(boat)[self.moving, 0]
        return _Failed(stretch, watts, boat.bank.nominal_wh if boat.bank else 0.0, boat.laid.energies.marks_w)

    def fails_like_another(self, boat: Boat, goal: float) -> bool:
        """Whether one with no less sun and bank failed at less; a lighter boat's fewer watts stretch that."""
        known = self.failed.get(self._kind(boat))
        if not known:
            return False
        mine = self._as_failed(boat, goal)
        for other in reversed(known):
            if other.bank_wh < mine.bank_wh * (1 - ALIKE):
                continue
            lighter = float((other.watts / mine.watts).max()) if len(mine.watts) else 1.0
            if not np.isfinite(lighter) or other.stretch * max(lighter, 1.0) > goal:
                continue
            if np.all(mine.marks_w <= other.marks_w * (1 + ALIKE) + ALIKE):
                return True
        return False

    def may(self, boat: Boat, goal: float) -> bool:
        """Whether neither its energy nor another that failed rules a boat out."""
        if goal > self.most:  # the days have no room for more
            return False
        return may_do(self.yard, boat, goal) and not self.fails_like_another(boat, goal)

    def best_within(self, cost: float) -> float:
        """The farthest that anything proved reaches for that money."""
        return max((p.stretch for p in self.proved.values() if p.boat.cost <= cost + 1e-9), default=0.0)

    def does(self, boat: Boat, stretch: float) -> bool:
        """Whether its days say so; a failure is remembered."""
        self.asked += 1
        if does(self.trial, self.yard.numbers(boat), stretch):
            return True
        self.failed.setdefault(self._kind(boat), []).append(self._as_failed(boat, stretch))
        return False

    def prove(self, boats: list[Boat]) -> None:
        """Boats drawn and held against the wish; at a first look by tables, what it shows in full."""
        todo = [boat for boat in boats if id(boat) not in self.proved]
        proof = self._by_tables if self.few else self.in_full
        for boat, made in zip(todo, together([partial(proof, boat) for boat in todo]), strict=True):
            self.proved[id(boat)] = made

    def _by_tables(self, boat: Boat) -> Proved:
        numbers = self.yard.numbers(boat)
        stretch = reach(lambda s: does(self.trial, numbers, s), self.most, self.thought(boat))
        return Proved(boat, built(self.yard, boat), numbers, stretch)

    def in_full(self, boat: Boat) -> Proved:
        """A boat as the stations see her."""
        design = built(self.yard, boat)
        if in_each_others_light(self.yard, boat, design):
            numbers = numbers_of(design, self.question, self.few)
        else:
            numbers = Numbers(
                self.yard.numbers(boat).months, watts_of(self.yard.wish, curve_of(design, self.yard.wish))
            )
        far = reach(lambda s: does(self.question, numbers, s), self.most, self.thought(boat))
        return Proved(boat, design, numbers, far)

    def thought(self, boat: Boat) -> float | None:
        """About how far it goes: as its tables say, or a step beyond cheaper ones; None for the first."""
        known = self.proved.get(id(boat))
        return (known.stretch if known else 0.0) or self.best_within(boat.cost) * (1 + FARTHER) or None

    def goal(self, cost: float) -> float:
        """The stretch that a boat of that price must do to be a step of the front."""
        best = self.best_within(cost)
        return max(best * (1 + FARTHER), LEAST_STRETCH)


def search(design: BoatDesign, wish: Wish, report: Report, few: bool = False) -> Found:
    """The boats that a wish may choose from.

    Parameters
    ----------
    design : BoatDesign
    wish : Wish
        With something asked.
    report : Report
    few : bool
        A first look: a few fills of each place.

    Returns
    -------
    Found
    """
    question = question_of(design, wish, few)
    have = have_of(design, wish)
    yard = yard_of(design, wish, question, have, most_cost(wish), within(report, 0.02, 0.45), few)
    boats = boats_of(yard, most_cost(wish))
    looking = _Search(yard, question.shorter(FEWER_WEEKS) if few else question)
    limit = MOST_ASKED // FEWER if few else MOST_ASKED
    scouts = _scouts(boats, FEWER_SCOUTS if few else SCOUTS)
    for number in range(0, len(scouts), HANDS):
        some = [b for b in scouts[number : number + HANDS] if looking.may(b, looking.goal(b.cost))]
        _settle(looking, some)
        report(0.45 + 0.15 * number / len(scouts))
    does_it = any(one.stretch >= 1 and one.boat.cost <= wish.coins for one in looking.proved.values())
    cut, stopped = 0, few and does_it  # a first look goes on only where it would have to say no
    if not stopped:
        cut, stopped = _through(looking, boats, limit, within(report, 0.6, 0.9))
    front = _front(list(looking.proved.values()))
    if few:
        shown = [one.boat for one in _some_of(front)]
        front = _front(together([partial(looking.in_full, boat) for boat in shown]))
    lightest = None if few else _first(looking, boats, lambda b: (b.whole_kg, b.cost))
    fewest = None if few else _first(looking, boats, lambda b: (b.boxes, b.cost))
    report(0.95)
    return Found(yard, front, lightest, fewest, len(boats), cut, looking.asked, stopped)


def _scouts(boats: list[Boat], number: int) -> list[Boat]:
    """The cheapest boat, and of each of so many prices the one with most sun and bank."""
    if not boats:
        return []
    costs = np.array([boat.cost for boat in boats])
    stores = np.array([_stores(boat) for boat in boats])
    edges = np.unique(np.quantile(costs, np.linspace(0, 1, number + 1)))
    picked = [0]
    for low, high in pairwise(edges):
        inside = np.flatnonzero((costs > low) & (costs <= high))
        if len(inside):
            picked.append(int(inside[np.argmax(stores[inside])]))
    return [boats[index] for index in dict.fromkeys(picked)]


def _through(looking: _Search, boats: list[Boat], limit: int, report: Report) -> tuple[int, bool]:
    """From the cheapest on, whatever no bound cuts [1]. How many were cut, and whether the limit ended it."""
    cut, start = 0, looking.asked
    for first in range(0, len(boats), BLOCK):
        block = sorted(boats[first : first + BLOCK], key=lambda b: -_stores(b))  # the strongest tell most
        pending: list[Boat] = []
        for number, boat in enumerate(block):
            if id(boat) in looking.proved:
                continue
            if looking.may(boat, looking.goal(boat.cost)):
                pending.append(boat)
            else:
                cut += 1
            if len(pending) >= AT_ONCE or (pending and number == len(block) - 1):
                _settle(looking, pending)
                pending = []
        report(first / len(boats))
        if looking.asked - start > limit:
            return cut, True
    return cut, False


def _settle(looking: _Search, pending: list[Boat]) -> None:
    """Boats run through their days together; those that do it are drawn and proved, so many at a time."""
    goals = [looking.goal(boat.cost) for boat in pending]
    asks = [partial(looking.does, boat, goal) for boat, goal in zip(pending, goals, strict=True)]
    passed = [boat for boat, done in zip(pending, together(asks), strict=True) if done]
    while passed:
        some, passed = passed[:HANDS], passed[HANDS:]
        goals_now = [looking.goal(boat.cost) for boat in some]
        looking.prove([b for b, g in zip(some, goals_now, strict=True) if g in goals or looking.does(b, g)])


def _stores(boat: Boat) -> float:
    """A mean day's sun and the bank [Wh]."""
    return boat.laid.mean_wh + (boat.bank.nominal_wh if boat.bank else 0.0)


def _front(proved: list[Proved]) -> list[Proved]:
    """Those that no cheaper one leaves behind, by what was proved; nothing that does nothing of the wish."""
    found: list[Proved] = []
    for one in sorted(proved, key=lambda p: (p.boat.cost, -p.stretch)):
        if one.stretch > 0 and (not found or one.stretch > found[-1].stretch * (1 + FARTHER / 2)):
            found.append(one)
    return found


def _some_of(front: list[Proved]) -> list[Proved]:
    """A few points of a front: its ends, the first that does the wish, and others evenly between."""
    if len(front) <= FIRST_SHOWN:
        return front
    picked = {round(k) for k in np.linspace(0, len(front) - 1, FIRST_SHOWN)}
    picked |= {next((k for k, one in enumerate(front) if one.stretch >= 1), 0)}
    return [front[k] for k in sorted(picked)]


def _first(looking: _Search, boats: list[Boat], rank: Callable[[Boat], tuple[float, float]]) -> Proved | None:
    """The first by rank that does the wish within its money; of the many, as many as can be asked."""
    tried = 0
    for boat in sorted(boats, key=rank):
        if boat.cost > looking.yard.wish.coins or not looking.may(boat, 1.0):
            continue
        tried += 1
        if looking.does(boat, 1.0):
            looking.prove([boat])
            if looking.proved[id(boat)].stretch >= 1.0:
                return looking.proved[id(boat)]
        if tried > MOST_ASKED // 4:
            return None
    return None
