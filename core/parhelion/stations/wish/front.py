"""The front as it is shown: each point a whole boat, with what she does, costs and weighs.

References
----------
[1] Where it stops being worth it: the point farthest over the straight line from the first to the last.
"""

from __future__ import annotations

from itertools import pairwise
from typing import Literal

import numpy as np

from parhelion.computing.progress import Report, silent
from parhelion.design import HIDDEN, BoatDesign
from parhelion.design.reads import kept
from parhelion.design.refit import Refit, refit
from parhelion.design.wish import Ask, MonthName, Wish
from parhelion.panels.deck import deck_of
from parhelion.quantities import Frozen, Quantity, Sentence, count, money, sentence, speed, words
from parhelion.stations.wish.assumed import Assumption, assumptions
from parhelion.stations.wish.combined import stiffness_of
from parhelion.stations.wish.fulfilled import AskMet, bend_for, fulfilled
from parhelion.stations.wish.ground import days_left
from parhelion.stations.wish.held import WISH_READS, Question
from parhelion.stations.wish.kept_off import kept_off
from parhelion.stations.wish.nearest import NearWish, Turn, nearest, turned_by
from parhelion.stations.wish.search import Found, Proved, most_cost, search
from parhelion.stations.wish.unclear import unclear
from parhelion.stations.wish.words import ask_words, has_words, reaches, stretched

MOST_POINTS = 24
QUARTERS, MULTIPLES = (0.25, 0.5, 0.75, 1.0, 1.25, 1.5, 1.75), (1.0, 2.0, 3.0, 4.0, 5.0, 6.0)  # of a wish
MONTHS = list(MonthName)
NEXT_COINS = 500.0  # what the next of them buys

Mark = Literal["cheapest", "lightest", "fewest", "money", "stops"]


class DeckCorner(Frozen):
    """A corner of a panel as seen from above."""

    x_m: float
    y_m: float


class PanelDrawn(Frozen):
    """One panel on deck; `own` where it lies as she has it."""

    own: bool
    corners: list[DeckCorner]


class WishTick(Frozen):
    """A mark of the axis: so much of the wish."""

    stretch: float
    reach: Quantity


class WishPoint(Frozen):
    """A whole boat that the wish may choose."""

    cost: float
    added_kg: float
    boxes: int
    watts: float
    bank_wh: float
    stiffness_frac: float
    top_m: float | None  # the highest panel over the water
    stretch: float  # of the wish, 1 as it is stated
    reach: Quantity  # of the first thing wished
    reaches: Sentence  # the same, and whether it could be more
    surely_frac: float  # of the days that the first thing wished stands on, as it is stated
    does: bool
    within: bool  # the money
    next_buys: Sentence | None
    on_front: bool
    marks: list[Mark]
    asks: list[AskMet]
    has: list[Sentence]
    deck: list[PanelDrawn]
    refit: Refit


class WishFront(Frozen):
    """Cost against how far; the boats from the cheapest on."""

    refused: Sentence | None  # why nothing was looked for
    asked: list[Sentence]
    surely_frac: float  # how surely that is wished
    whole: Quantity | None  # what the first thing wished is, for the axis
    ticks: list[WishTick]
    points: list[WishPoint]
    coins: float
    assumptions: list[Assumption]
    near: list[NearWish]
    turn: Turn | None
    told: list[Sentence]
    looked_at: int
    cut: int
    run: int
    stopped: bool
    first_look: bool


def wish_front(design: BoatDesign, report: Report = silent) -> WishFront:
    """The boats that a design's wish may choose from.

    Parameters
    ----------
    design : BoatDesign
        With a wish.
    report : Report

    Returns
    -------
    WishFront
        Refused in words where nothing is wished, or what is wished cannot be asked together.
    """
    return _front(design, False, report)


@kept(WISH_READS, 8, aside="report")
def first_front(design: BoatDesign, report: Report = silent) -> WishFront:
    """A first look at it: few fills of each place, the cheaper and larger ones."""
    return _front(design, True, report)


def _front(design: BoatDesign, few: bool, report: Report) -> WishFront:
    wish = design.wish or Wish()
    why = unclear(design, wish)
    if why is not None:
        return _refused(why[0], wish, few)
    found = search(design, wish, report, few)
    question, front = found.yard.question, found.front
    chosen = _chosen(found, wish)
    points = [_point(design, found, one, question) for one in chosen]
    cheapest = next((p for p in chosen if p.stretch >= 1 and p.boat.cost <= wish.coins), None)
    assumed = assumptions(question, chosen, cheapest) if cheapest is not None and not few else []
    within = [p for p in front if p.boat.cost <= wish.coins]
    near = [] if cheapest is not None else nearest(found, wish)
    report(1.0)
    return WishFront(
        refused=None, asked=[ask_words(ask) for ask in wish.asks],
        surely_frac=wish.asks[0].surely_frac, whole=stretched(wish.asks[0], 1.0),
        ticks=_ticks(wish.asks[0], points), points=points, coins=wish.coins,
        assumptions=assumed, near=near, turn=None if cheapest else turned_by(found, wish),
        told=_told(found, wish, within, cheapest, few), looked_at=found.looked_at, cut=found.cut,
        run=found.asked, stopped=found.stopped, first_look=few,
    )  # fmt: skip


def _refused(why: Sentence, wish: Wish, few: bool) -> WishFront:
    return WishFront(
        refused=why, asked=[ask_words(ask) for ask in wish.asks],
        surely_frac=1.0, whole=None,
        ticks=[], points=[], coins=wish.coins, assumptions=[], near=[], turn=None, told=[], looked_at=0,
        cut=0, run=0, stopped=False, first_look=few,
    )  # fmt: skip


def _ticks(ask: Ask, points: list[WishPoint]) -> list[WishTick]:
    """Marks of the axis up to the farthest point: quarters, or whole multiples where it goes far."""
    far = max((point.stretch for point in points), default=1.0)
    marks = QUARTERS if far < 2 else MULTIPLES
    return [WishTick(stretch=mark, reach=stretched(ask, mark)) for mark in marks if mark <= max(far, 1.0)]


def _chosen(found: Found, wish: Wish) -> list[Proved]:
    """The points that are shown, by price: the front, thinned where it is long, and the marked boats."""
    front = found.front
    marked = [p for p in (found.lightest, found.fewest) if p is not None]
    if len(front) > MOST_POINTS:
        steps = np.array([b.stretch - a.stretch for a, b in pairwise(front)])
        most = set(np.argsort(-steps)[: MOST_POINTS - 4].tolist())
        does = next((k for k, p in enumerate(front) if p.stretch >= 1), None)
        last = max((k for k, p in enumerate(front) if p.boat.cost <= wish.coins), default=None)
        kept_at = {0, len(front) - 1, *(k + 1 for k in most), *(k for k in (does, last) if k is not None)}
        front = [p for k, p in enumerate(front) if k in kept_at]
    whole = {id(p): p for p in (*front, *marked)}
    return sorted(whole.values(), key=lambda p: (p.boat.cost, p.stretch))


def _marks(found: Found, wish: Wish, one: Proved) -> list[Mark]:
    front = found.front
    marks: list[Mark] = []
    if one is next((p for p in front if p.stretch >= 1), None):
        marks.append("cheapest")
    if one is found.lightest:
        marks.append("lightest")
    if one is found.fewest:
        marks.append("fewest")
    within = [p for p in front if p.boat.cost <= wish.coins]
    if within and one is within[-1]:
        marks.append("money")
    if one is _knee(front):
        marks.append("stops")
    return marks


def _knee(front: list[Proved]) -> Proved | None:
    """Where the front bends most [1]; None for a short one."""
    if len(front) < 4:
        return None
    cost = np.array([p.boat.cost for p in front])
    far = np.array([p.stretch for p in front])
    x, y = (cost - cost[0]) / (cost[-1] - cost[0]), (far - far[0]) / (far[-1] - far[0])
    return front[int(np.argmax(y - x))]


def _next(found: Found, one: Proved, ask: Ask) -> Sentence | None:
    """What the next coins buy over a point, where the front is drawn as far."""
    most = one.boat.cost + NEXT_COINS
    after = [p.stretch for p in found.front if p.boat.cost <= most]
    if not after or most > most_cost(found.yard.wish):
        return None
    gained = stretched(ask, max(max(after) - one.stretch, 0.0)).model_copy(update={"signed": True})
    return sentence("The next {c} buy {far}.", c=money(NEXT_COINS), far=gained)


def _point(design: BoatDesign, found: Found, one: Proved, question: Question) -> WishPoint:
    wish, boat = question.wish, one.boat
    met = fulfilled(question, one.numbers, bend_for(question, one.numbers))
    return WishPoint(
        cost=boat.cost,
        added_kg=boat.whole_kg - design.displacement_kg,
        boxes=boat.boxes,
        watts=one.design.nameplate_w,
        bank_wh=sum(bank.nominal_wh for bank in one.design.banks),
        stiffness_frac=stiffness_of(design, boat.laid),
        top_m=_top_m(one.design),
        stretch=one.stretch,
        reach=stretched(wish.asks[0], one.stretch),
        reaches=reaches(question, one.stretch),
        surely_frac=met[0].surely_frac,
        does=one.stretch >= 1,
        within=boat.cost <= wish.coins,
        next_buys=_next(found, one, wish.asks[0]),
        on_front=any(one is p for p in found.front),
        marks=_marks(found, wish, one),
        asks=met,
        has=has_words(one.design, design),
        deck=drawn(one.design, {g.id for option in boat.laid.options if option.own for g in option.groups}),
        refit=refit(design, one.design),
    )


def _top_m(design: BoatDesign) -> float | None:
    """The highest corner of any panel that stands [m]."""
    heights = [
        corner[2]
        for held in deck_of(design).groups if held.how not in HIDDEN
        for panel in held.panels for corner in panel.corners
    ]  # fmt: skip
    return max(heights, default=None)


def drawn(design: BoatDesign, own: set[str]) -> list[PanelDrawn]:
    """Every panel as seen from above."""
    return [
        PanelDrawn(own=held.group.id in own, corners=[DeckCorner(x_m=c[0], y_m=c[1]) for c in panel.corners])
        for held in deck_of(design).groups for panel in held.panels
    ]  # fmt: skip


def _told(
    found: Found, wish: Wish, within: list[Proved], cheapest: Proved | None, few: bool
) -> list[Sentence]:
    ask = wish.asks[0]
    told = []
    if cheapest is not None:
        text = "It can be done for {c}." if cheapest.boat.cost > 0 else "She does it as she is."
        told.append(sentence(text, **({"c": money(cheapest.boat.cost)} if cheapest.boat.cost > 0 else {})))
        bend = bend_for(found.yard.question, cheapest.numbers)
        if bend and ask.moves:
            slow = fulfilled(found.yard.question, cheapest.numbers, bend)[0].speed_mps
            told.append(sentence("For that she goes {v}: bent as you allow.", v=speed(slow or 0.0)))
    elif within:
        told.append(
            sentence(
                "Not for {c}: {far} of the {whole}.",
                c=money(wish.coins),
                far=stretched(ask, within[-1].stretch),
                whole=stretched(ask, 1.0),
            )
        )
    else:
        told.append(sentence("No boat for {c} does any of it.", c=money(wish.coins)))
    if wish.by is not None:
        left, whole = days_left(ask, wish.by)
        told.append(
            sentence(
                "Ready by {day}: {n} of the {m} days asked of her first season are left.",
                day=words(f"{wish.by.day} {MONTHS[wish.by.month - 1].label} {wish.by.year}"),
                n=count(left),
                m=count(whole),
            )
        )
    if found.yard.question.filled:
        told.append(
            sentence("Filled from the shore before each day out; with the sun alone it asks for more panel.")
        )
    kept = kept_off(found.yard)
    if kept is not None and cheapest is not None and cheapest.boat.cost > 0:  # else it is the turn's
        told.append(kept[1])
    knee = _knee(found.front)
    if knee is not None and knee.stretch > 0:
        told.append(
            sentence("Beyond {c} each coin wins less: {far} there.", c=money(knee.boat.cost),
                     far=stretched(ask, knee.stretch))
        )  # fmt: skip
    if found.stopped and not few:
        told.append(
            sentence(
                "{n} boats were run through their days before it was enough; a better one may hide.",
                n=count(found.asked),
            )
        )
    return told
