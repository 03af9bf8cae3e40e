"""When a wish cannot be met: the nearest ones that can, and what turns it."""

from __future__ import annotations

from dataclasses import replace
from typing import Literal

import numpy as np

from parhelion.design.wish import Ask, AskKind, MonthName, Wish
from parhelion.quantities import Frozen, Sentence, fraction, money, sentence, speed, words
from parhelion.stations.wish.held import (
    Numbers,
    Question,
    counted,
    curve_of,
    does,
    most_stretch,
    numbers_of,
    passes,
    question_of,
    watts_of,
)
from parhelion.stations.wish.kept_off import kept_off
from parhelion.stations.wish.nothing import day_too_short, speed_out_of_reach
from parhelion.stations.wish.search import Found, Proved
from parhelion.stations.wish.words import stretched

SLOWEST_SHARE = 0.35  # of the speed wished: slower than that is another wish
SHARES, HALVINGS = 14, 5  # of it that are tried, and then between two of them
ROUND = 0.98  # of what it does: a wish that is surely met
LEAST_SURE = 0.05
FULL_COINS = 10.0  # to which money is rounded up


class NearWish(Frozen):
    """A wish like it that can be met, and for how much."""

    key: Literal["shorter", "slower", "months", "surely", "money"]
    told: Sentence
    cost: float
    wish: Wish


class Turn(Frozen):
    """The limit that turns a wish."""

    key: Literal["money", "motor", "day", "room", "stiffness", "list", "boxes", "weight"]
    told: Sentence


def nearest(found: Found, wish: Wish) -> list[NearWish]:
    """Wishes near this one that a boat within the money meets, or the cheapest that does any of it where none
    is; last, what it would cost as it stands.

    Parameters
    ----------
    found : Found
    wish : Wish
    """
    within = [p for p in found.front if p.boat.cost <= wish.coins]
    near: list[NearWish | None] = []
    if found.front:
        best = within[-1] if within else found.front[0]
        wish = wish.model_copy(update={"coins": max(wish.coins, _rounded(best.boat.cost))})
        near = [_shorter(best, wish), _slower(found, best, wish), _fewer_months(found, best, wish),
                _less_surely(found, best, wish)]  # fmt: skip
    dearer = next((p for p in found.front if p.stretch >= 1), None)
    if dearer is not None:
        near.append(
            NearWish(
                key="money", told=sentence("As it stands, for {c}", c=money(dearer.boat.cost)),
                cost=dearer.boat.cost,
                wish=wish.model_copy(update={"coins": _rounded(dearer.boat.cost)}),
            )
        )  # fmt: skip
    elif not found.looked_at:
        enough = _rounded(found.yard.least_cost())
        raised = wish.model_copy(update={"coins": enough})
        told = sentence("Look from {c} on", c=money(enough))
        near.append(NearWish(key="money", told=told, cost=enough, wish=raised))
    return [item for item in near if item is not None]


def _rounded(cost: float) -> float:
    """Money that is surely enough: a cost up to the next full step of it [coins]."""
    return float(np.ceil(cost / FULL_COINS) * FULL_COINS)


def turned_by(found: Found, wish: Wish) -> Turn:
    """Which limit turns a wish that is not met."""
    if any(p.stretch >= 1 for p in found.front):
        return Turn(key="money", told=sentence("The money turns it."))
    least = found.yard.least_cost()
    if not found.looked_at and least > wish.coins:
        dear = "The money turns it: any boat costs {c} or more, with her motor and bank."
        return Turn(key="money", told=sentence(dear, c=money(least)))
    short = day_too_short(found.yard.question)
    if short is not None:
        return Turn(key="day", told=short)
    given = [found.yard.least_watts(drives) for drives in found.yard.drives]
    if all(np.isinf(watts).all(axis=1).any() for watts in given):
        design = found.yard.design.changed(drives=found.yard.drives[-1])
        told = speed_out_of_reach(design, found.yard.question, Numbers((), given[-1]))
        return Turn(key="motor", told=told or sentence("No motor that may be chosen gives that speed."))
    kept = kept_off(found.yard)
    told = sentence("Room turns it: with all that the places you allow can carry, it is too little.")
    return Turn(key="room" if kept is None else kept[0], told=told if kept is None else kept[1])


def _with_asks(wish: Wish, asks: list[Ask]) -> Wish:
    return wish.model_copy(update={"asks": tuple(asks)})


def _shorter(best: Proved, wish: Wish) -> NearWish | None:
    if best.stretch <= 0:
        return None
    share = ROUND * best.stretch
    asks = [_shortened(ask, share) for ask in wish.asks]
    first = next((ask for ask in wish.asks if ask.kind is not AskKind.HOUSE), None)
    if first is None:
        return None
    return NearWish(
        key="shorter", told=sentence("Shorter: {far}", far=stretched(first, share)), cost=best.boat.cost,
        wish=_with_asks(wish, asks),
    )  # fmt: skip


def _shortened(ask: Ask, share: float) -> Ask:
    match ask.kind:
        case AskKind.TRIP:
            return ask.model_copy(update={"distance_m": round(ask.distance_m * share)})
        case AskKind.STAY:
            return ask.model_copy(update={"days": round(ask.days * share, 2)})
        case AskKind.HOUSE:
            return ask
    return ask.model_copy(update={"hours": round(ask.hours * share, 2)})


def _at_speed(found: Found, one: Proved, wish: Wish, share: float) -> tuple[Wish, Question, Numbers]:
    """The wish at a share of its speeds, bent no further, and the boat as it then meets it."""
    asks = [
        ask.model_copy(update={"speed_mps": ask.speed_mps * share, "slowest_mps": None}) if ask.moves else ask
        for ask in wish.asks
    ]
    slower = _with_asks(wish, asks)
    curve = curve_of(one.design, slower)
    question = replace(found.yard.question, wish=slower)
    return slower, question, replace(one.numbers, watts=watts_of(slower, curve))


def _slower(found: Found, best: Proved, wish: Wish) -> NearWish | None:
    if not any(ask.moves for ask in wish.asks):
        return None

    def does(share: float) -> bool:
        _, question, numbers = _at_speed(found, best, wish, share)
        return passes(question, numbers, 1.0, 0)

    shares = np.linspace(1.0, SLOWEST_SHARE, SHARES)  # too slow and the day has no hours for it
    low = next((float(share) for share in shares if does(float(share))), None)
    if low is None:
        return None
    high = min(low + (1.0 - SLOWEST_SHARE) / (SHARES - 1), 1.0)
    for _ in range(HALVINGS):
        middle = (low + high) / 2
        low, high = (middle, high) if does(middle) else (low, middle)
    slower, _, _ = _at_speed(found, best, wish, low * ROUND)
    ask = next(ask for ask in slower.asks if ask.moves)
    return NearWish(
        key="slower", told=sentence("Slower: all of it at {v}", v=speed(ask.speed_mps)), cost=best.boat.cost,
        wish=slower,
    )  # fmt: skip


def _fewer_months(found: Found, best: Proved, wish: Wish) -> NearWish | None:
    """As many months in a row as it is done in, the easiest of each thing that is not done in all of them."""
    by_month = _by_month(found, best)
    for length in range(max(len(share) for share in by_month) - 1, 0, -1):
        asks = [_easiest(ask, share, length) for ask, share in zip(wish.asks, by_month, strict=True)]
        nearer = _with_asks(wish, asks)
        question = question_of(found.yard.design, nearer)
        if nearer == wish or most_stretch(question) < 1:
            continue
        if does(question, numbers_of(best.design, question, few=True), 1.0):
            told = _months_told([ask for ask, old in zip(asks, wish.asks, strict=True) if ask != old])
            return NearWish(key="months", told=told, cost=best.boat.cost, wish=nearer)
    return None


def _easiest(ask: Ask, share: dict[int, tuple[int, int]], length: int) -> Ask:
    """The months in a row in which it is done most surely; all where that is as surely as wished."""

    def surely(months: list[int]) -> float:
        done, asked = (sum(share[month][k] for month in months) for k in (0, 1))
        return done / asked

    order = [month for month in ask.months if month in share]
    if len(order) <= length or surely(order) >= ask.surely_frac:
        return ask
    run = max((order[at : at + length] for at in range(len(order) - length + 1)), key=surely)
    names = list(MonthName)
    return ask.model_copy(update={"first_month": names[run[0] - 1], "last_month": names[run[-1] - 1]})


def _months_told(asks: list[Ask]) -> Sentence:
    spans = {(ask.first_month, ask.last_month) for ask in asks}
    first, last = asks[0].first_month, asks[0].last_month
    if len(spans) > 1:
        return sentence("In fewer months, each its own")
    if first is last:
        return sentence("In {a} alone", a=words(first.label))
    return sentence("From {a} to {b} alone", a=words(first.label), b=words(last.label))


def _has_room(found: Found, wish: Wish) -> bool:
    """Whether the days have hours for all of a wish."""
    return most_stretch(replace(found.yard.question, wish=wish)) >= 1


def _by_month(found: Found, best: Proved) -> list[dict[int, tuple[int, int]]]:
    """Of each thing wished, by month: on how many days the boat did it, and on how many it was asked."""
    by_month = counted(found.yard.question, best.numbers)
    return [
        {counts[n].month: (counts[n].done, counts[n].asked) for counts in by_month if counts[n].asked}
        for n in range(len(found.yard.question.asks))
    ]


def _less_surely(found: Found, best: Proved, wish: Wish) -> NearWish | None:
    """On so many days as each thing wished is done; the least of them is said."""
    asks = []
    for ask, share in zip(wish.asks, _by_month(found, best), strict=True):
        done, asked = (sum(count[k] for count in share.values()) for k in (0, 1))
        sure = float(np.floor(100 * ROUND * done / asked) / 100) if asked else 0.0
        if sure < LEAST_SURE:
            return None
        asks.append(ask.model_copy(update={"surely_frac": min(sure, ask.surely_frac)}))
    least = min(
        (ask.surely_frac for ask, old in zip(asks, wish.asks, strict=True) if ask != old), default=None
    )
    if least is None or not _has_room(found, wish):
        return None
    text = "Less surely: on {x} of those days" if len(asks) == 1 else "Less surely: down to {x} of the days"
    return NearWish(
        key="surely", told=sentence(text, x=fraction(least)), cost=best.boat.cost, wish=_with_asks(wish, asks)
    )  # fmt: skip
