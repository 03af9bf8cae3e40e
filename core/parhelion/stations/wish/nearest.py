"""When a wish cannot be met: the nearest ones that can, and what turns it."""

from __future__ import annotations

from dataclasses import replace
from typing import Literal

import numpy as np

from parhelion.design.wish import Ask, AskKind, MonthName, Wish
from parhelion.hull.demand import DemandCurve, demand_curve
from parhelion.quantities import Frozen, Sentence, fraction, money, sentence, speed, words
from parhelion.stations.wish.held import Numbers, Question, counted, passes, watts_of
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
    curve: DemandCurve = demand_curve(one.design)
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
    """The longest run of months in which it is done as surely as wished, for one thing wished."""
    if len(wish.asks) != 1:
        return None
    ask, by_month = wish.asks[0], counted(found.yard.question, best.numbers)
    share = {c[0].month: (c[0].done, c[0].asked) for c in by_month if c[0].asked}
    order = [month for month in ask.months if month in share]
    runs = [order[a:b] for a in range(len(order)) for b in range(a + 1, len(order) + 1)]
    good = [
        run for run in runs
        if sum(share[m][0] for m in run) >= ask.surely_frac * sum(share[m][1] for m in run) - 1e-9
    ]  # fmt: skip
    if not good:
        return None
    longest = max(good, key=len)
    if len(longest) == len(order):
        return None
    names = list(MonthName)
    first, last = names[longest[0] - 1], names[longest[-1] - 1]
    changed = ask.model_copy(update={"first_month": first, "last_month": last})
    told = sentence("In {a} alone", a=words(first.label))
    if first is not last:
        told = sentence("From {a} to {b} alone", a=words(first.label), b=words(last.label))
    return NearWish(key="months", told=told, cost=best.boat.cost, wish=_with_asks(wish, [changed]))


def _less_surely(found: Found, best: Proved, wish: Wish) -> NearWish | None:
    if len(wish.asks) != 1:
        return None
    ask, by_month = wish.asks[0], counted(found.yard.question, best.numbers)
    done, asked = sum(c[0].done for c in by_month), sum(c[0].asked for c in by_month)
    share = float(np.floor(100 * ROUND * done / asked) / 100) if asked else 0.0
    if share < LEAST_SURE or share >= ask.surely_frac:
        return None
    changed = ask.model_copy(update={"surely_frac": share})
    return NearWish(
        key="surely", told=sentence("Less surely: on {x} of those days", x=fraction(share)),
        cost=best.boat.cost, wish=_with_asks(wish, [changed]),
    )  # fmt: skip
