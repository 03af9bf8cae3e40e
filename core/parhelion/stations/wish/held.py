"""A boat held against a wish: on how many of the days asked she does it, and how far the wish stretches.

References
----------
[1] Every month's days run one after the other, the banks carrying on (`balance.asked_days`). A stretch of 1
    is the wish as stated; the largest stretch that is done as surely as wished is found by bisection.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from functools import partial
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from parhelion.balance.asked_days import DONE, FAILED, run_asked, run_stays
from parhelion.balance.outlook import outlook_under
from parhelion.bank.joint import Aboard
from parhelion.computing.kept import once
from parhelion.computing.together import together
from parhelion.design import BoatDesign, BoatState
from parhelion.design.reads import Reads, kept
from parhelion.design.wish import Ask, AskKind, Wish
from parhelion.hull.demand import DemandCurve, demand_curve
from parhelion.panels.deck import deck_of
from parhelion.panels.harvest import harvest
from parhelion.stations.wish.ground import (
    THREE,
    MonthDays,
    ashore,
    asked_on,
    coarse,
    date_in,
    hours_asked,
    longest,
    month_days,
    months_of,
    motoring,
    speed_of,
    weeks_of,
)
from parhelion.sun.skies import SKIES, days_at_skies, light_at_skies

Array = NDArray[np.float64]

UNREAD = (  # entries that no wish turns on
    "name", "note", "passage", "claimed_w", "plan.trip", "plan.budget", "plan.sky", "plan.sky_shade",
    "plan.start_charge_frac", "plan.air_temperature_c", "plan.spells", "plan.stays", "site.name",
)  # fmt: skip
WISH_READS = Reads.all_but(*UNREAD)
SLOWER = (0.0, 0.25, 0.5, 0.75, 1.0)  # shares of a bend that are tried
LEAST_STRETCH, MOST_STRETCH = 0.04, 6.0
SETTLED = 0.003  # of a stretch
COARSE_RUNGS, FINE_RUNGS = 130, 5  # first looked away: half as far again, or a little
SURE = 1e-9
FEW_MONTHS = 5  # of a first look, spread over those asked


@dataclass(frozen=True, eq=False)
class Question:
    """A wish with its days, the same for every boat."""

    wish: Wish
    months: tuple[MonthDays, ...]
    filled: bool

    @property
    def asks(self) -> tuple[Ask, ...]:
        return self.wish.asks

    @property
    def month_numbers(self) -> tuple[int, ...]:
        """1 to 12."""
        return tuple(month.month for month in self.months)

    def shorter(self, weeks: int) -> Question:
        """The same of the first weeks of each month alone."""
        return replace(self, months=tuple(month.first(weeks) for month in self.months))

    @once
    def runs(self) -> tuple[int, ...]:
        """The asks that run together on one bank, by their numbers: all but stays."""
        return tuple(n for n, ask in enumerate(self.asks) if ask.kind is not AskKind.STAY)

    @once
    def stretches_house(self) -> bool:
        """Whether it is the house's use that a stretch multiplies: where nothing moves."""
        return not any(ask.moves or ask.kind is AskKind.STAY for ask in self.asks)

    @once
    def of_house(self) -> NDArray[np.bool_]:
        """Of each of `runs`, whether nothing moves: the house is to have what it asks."""
        return np.array([not self.asks[n].moves for n in self.runs], dtype=bool)

    @once
    def kept(self) -> Array:
        """Of each of `runs`, the state of charge that is to be left."""
        return np.array([self.asks[n].kept_frac or 0.0 for n in self.runs], dtype=float)

    @once
    def may_fail(self) -> tuple[float, ...]:
        """Days of each ask that may fail."""
        found = []
        for n, ask in enumerate(self.asks):
            if ask.kind is AskKind.STAY:
                found.append(math.inf)
                continue
            column = self.runs.index(n)
            pairs = zip(self.asked, self.months, strict=True)
            days = sum(int(asked[m.warm :, column].sum()) for asked, m in pairs)
            found.append((1 - ask.surely_frac) * days + SURE)
        return tuple(found)

    @once
    def asked(self) -> tuple[NDArray[np.bool_], ...]:
        """Of each month: on which days each of `runs` stands, shape (d, a)."""
        return tuple(
            np.ascontiguousarray(
                np.stack([asked_on(self.asks[n], m.month, len(m.below)) for n in self.runs], axis=1)
                if self.runs else np.zeros((len(m.below), 0), dtype=bool)
            )
            for m in self.months
        )  # fmt: skip

    @once
    def fills(self) -> tuple[NDArray[np.bool_], ...]:
        """Of each month: the days that begin with full banks, from the shore after a day at rest."""
        moving = [k for k, n in enumerate(self.runs) if self.asks[n].moves]
        found = []
        for asked in self.asked:
            out = np.asarray(asked[:, moving].any(axis=1), dtype=bool)
            before = np.concatenate([[False], out[:-1]])
            found.append(np.ascontiguousarray(out & ~before & self.filled))
        return tuple(found)


def question_of(design: BoatDesign, wish: Wish, few: bool = False) -> Question:
    """The wish of a design with the days of its place; of few months for a first look."""
    months = months_of(wish)
    weeks = weeks_of(max(len(months), 1))
    if few and len(months) > FEW_MONTHS:
        months = tuple(months[k] for k in np.linspace(0, len(months) - 1, FEW_MONTHS).round().astype(int))
    days = together([partial(month_days, design, month, weeks) for month in months])
    return Question(wish, tuple(days), ashore(design, wish))


@dataclass(frozen=True, eq=False)
class MonthNumbers:
    """A boat in one month: sun at the banks at each steady sky, shapes (12, 48, 2); house, shape (4, 48)."""

    out_w: Array
    rest_w: Array
    house_w: Array
    aboard: Aboard | None


@dataclass(frozen=True, eq=False)
class Numbers:
    """A boat as a wish meets her: watts of each ask at each share of its bend, infinite where she cannot."""

    months: tuple[MonthNumbers, ...]
    watts: Array  # shape (asks, len(SLOWER))

    @once
    def hardest_first(self) -> tuple[int, ...]:
        """The months by their sun under one sky, the poorest first."""
        sun = [float(month.out_w[SKIES.index(0.55)].sum()) for month in self.months]
        return tuple(sorted(range(len(sun)), key=sun.__getitem__))


def curve_of(design: BoatDesign, wish: Wish, whole_kg: float | None = None) -> DemandCurve:
    """A boat's demand with the people and gear wished aboard; at another weight than hers if one is given."""
    whole = design.displacement_kg if whole_kg is None else whole_kg
    return demand_curve(design, whole + wish.extra_kg if wish.extra_kg or whole_kg is not None else None)


def watts_of(wish: Wish, curve: DemandCurve) -> Array:
    """Battery watts of each ask at each share of its bend, shape (asks, 5) [W]; 0 of what does not move."""
    found = np.zeros((len(wish.asks), len(SLOWER)))
    for n, ask in enumerate(wish.asks):
        if not ask.moves:
            continue
        speeds = np.array([speed_of(ask, slower) for slower in SLOWER])
        watts = np.asarray(curve.power_at(speeds), dtype=float)
        found[n] = np.where(np.isfinite(watts) & (watts <= curve.most_w), watts, np.inf)
    return found


def sun_in(design: BoatDesign, months: tuple[int, ...], rest: BoatState) -> tuple[tuple[Array, Array], ...]:
    """At the banks under each steady sky of each month, on a day out and at rest, shapes (12, 48, 2) [W]."""
    then = [date_in(design, month) for month in months]
    if not then:
        return ()
    light = days_at_skies(design.site.spot, tuple(day.plan.date for day in then), THREE)

    def in_state(state: BoatState) -> BoatDesign:
        return then[0].changed(plan=then[0].plan.model_copy(update={"state": state}))

    def by_month(whole: Array) -> list[Array]:
        return [np.ascontiguousarray(part) for part in np.split(whole, len(months), axis=1)]

    out, lying = in_state(BoatState.UNDER_WAY), in_state(rest)
    out_w = by_month(harvest(out, light).by_bank_w)
    if deck_of(out) == deck_of(lying) and not design.site.skyline:
        return tuple(zip(out_w, out_w, strict=True))
    return tuple(zip(out_w, by_month(harvest(lying, light).by_bank_w), strict=True))


first_sun_in = kept(Reads.all_but("wish", *UNREAD), 40)(
    sun_in
)  # of a first look, which few boats meet again and again


def numbers_of(design: BoatDesign, question: Question, few: bool = False) -> Numbers:
    """What a wish needs to know of a boat; `few` for a first look, which is asked again soon."""
    sun = first_sun_in if few else sun_in
    curve = curve_of(design, question.wish)
    months = []
    suns = sun(design, question.month_numbers, question.wish.rest_state)
    for days, (out_w, rest_w) in zip(question.months, suns, strict=True):
        house_w, aboard = house_in(design, days.month, curve)
        months.append(MonthNumbers(out_w, rest_w, house_w, aboard))
    return Numbers(tuple(months), watts_of(question.wish, curve))


def house_in(design: BoatDesign, month: int, curve: DemandCurve) -> tuple[Array, Aboard | None]:
    """The house's watts in a month, shape (4, 48), and the banks as warm as they then are."""
    then = date_in(design, month)
    still = then.changed(plan=then.plan.model_copy(update={"spells": ()}))
    outlook = outlook_under(still, light_at_skies(design.site.spot, then.plan.date), curve)
    return coarse(outlook.house_rows_w, 1), outlook.aboard


@dataclass(frozen=True)
class Count:
    """Of one ask in one month: on how many days it was done, of how many."""

    month: int
    done: int
    asked: int


def _motors(question: Question, days: MonthDays, numbers: Numbers, scale: float, bend: int) -> Array | None:
    """Mean watts of every half hour for each of `runs`, shape (a, 48); None where it cannot be asked."""
    found = np.zeros((len(question.runs), days.below.shape[1]))
    for row, n in enumerate(question.runs):
        ask = question.asks[n]
        if not ask.moves:
            continue
        watts = float(numbers.watts[n, bend])
        share = motoring(ask, days.day, hours_asked(ask, scale, SLOWER[bend]))
        if share is None or not math.isfinite(watts):
            return None
        found[row] = share * watts
    return found


def month_counts(
    question: Question, numbers: Numbers, index: int, scale: float, bend: int,
    spare: Sequence[float] | None = None,
) -> list[Count]:  # fmt: skip
    """Every ask in one month, stretched by `scale`, at a share of its bend [1].

    With `spare`, so many days of each ask may fail: the count ends where one more has.
    """
    days, mine = question.months[index], numbers.months[index]
    house_w = mine.house_w * (scale if question.stretches_house else 1.0)
    counts = [Count(days.month, 0, 0) for _ in question.asks]
    motors = _motors(question, days, numbers, scale, bend)
    asked = question.asked[index]
    if motors is None:
        flags = np.where(asked, FAILED, -1.0)
    elif mine.aboard is None:
        flags = _on_live_sun(question, days, mine, house_w, motors, asked)
    else:
        flags = run_asked(
            days.below, days.share, mine.out_w, mine.rest_w, house_w, motors, asked,
            question.of_house, question.kept, question.fills[index],
            1.0, 1.0, days.step_h, mine.aboard, days.warm,
            np.array([math.inf if spare is None else spare[n] for n in question.runs]),
        )  # fmt: skip
    for row, n in enumerate(question.runs):
        seen = flags[days.warm :, row]
        counts[n] = Count(days.month, int((seen == DONE).sum()), int((seen >= FAILED).sum()))
    for n, ask in enumerate(question.asks):
        if ask.kind is AskKind.STAY and days.month in ask.months:
            counts[n] = _stays(days, mine, house_w, ask, scale)
    return counts


def _stays(days: MonthDays, mine: MonthNumbers, house_w: Array, ask: Ask, scale: float) -> Count:
    steps = days.below.shape[1]
    length = max(round(scale * ask.days * steps), 1)
    whole = days.below.shape[0] * steps // length
    if mine.aboard is None:
        return Count(days.month, 0 if house_w.any() else whole, whole)
    flags = run_stays(days.below, days.share, mine.rest_w, house_w, length, days.step_h, mine.aboard)
    return Count(days.month, int((flags == DONE).sum()), len(flags))


def _on_live_sun(
    question: Question, days: MonthDays, mine: MonthNumbers, house_w: Array, motors: Array,
    asked: NDArray[np.bool_],
) -> Array:  # fmt: skip
    """Without a bank: done where the sun of every half hour drives the motor at that speed."""
    whole = mine.out_w.sum(axis=2)
    steps = np.arange(whole.shape[1])
    sun = whole[days.below, steps] * (1 - days.share) + whole[days.below + 1, steps] * days.share
    left = sun - house_w.sum(axis=0)
    needs = (motors[None, :, :] * asked[:, :, None]).sum(axis=1)
    found = np.full(asked.shape, -1.0)
    for row, n in enumerate(question.runs):
        if question.asks[n].moves:
            fine = ((left >= needs) | (motors[row] == 0)).all(axis=1)
        else:
            fine = np.full(len(left), not house_w.any())
        found[:, row] = np.where(asked[:, row], np.where(fine, DONE, FAILED), -1.0)
    return found


def counted(question: Question, numbers: Numbers, scale: float = 1.0, bend: int = 0) -> list[list[Count]]:
    """Of every month, every ask."""
    return [month_counts(question, numbers, index, scale, bend) for index in range(len(question.months))]


def passes(question: Question, numbers: Numbers, scale: float, bend: int) -> bool:
    """Whether all that is asked is done as surely as wished; it stops at the first month that decides."""
    allowed = question.may_fail
    failed, asked = [0] * len(question.asks), [0] * len(question.asks)
    for index in numbers.hardest_first:
        left = [most - so_far for most, so_far in zip(allowed, failed, strict=True)]
        for n, count in enumerate(month_counts(question, numbers, index, scale, bend, left)):
            failed[n] += count.asked - count.done
            asked[n] += count.asked
            if failed[n] > allowed[n]:
                return False
    return all(
        asked[n] > 0 and failed[n] <= (1 - ask.surely_frac) * asked[n] + SURE
        for n, ask in enumerate(question.asks)
    )


def bend_that_passes(question: Question, numbers: Numbers, scale: float) -> int | None:
    """The least of the bend with which a stretch is done; None where none does."""
    bent = any(ask.slowest_mps is not None and ask.moves for ask in question.asks)
    tried = range(len(SLOWER)) if bent else range(1)
    return next((bend for bend in tried if passes(question, numbers, scale, bend)), None)


def does(question: Question, numbers: Numbers, scale: float) -> bool:
    """Whether a stretch is done, bent as far as it may be: at its slowest first, then as wished."""
    bent = any(ask.slowest_mps is not None and ask.moves for ask in question.asks)
    tried = (len(SLOWER) - 1, 0, len(SLOWER) // 2) if bent else (0,)
    return any(passes(question, numbers, scale, bend) for bend in tried)


def most_stretch(question: Question) -> float:
    """The largest stretch that the days themselves have room for."""
    most = MOST_STRETCH
    for ask in question.asks:
        if ask.moves:
            hours = hours_asked(ask, 1.0, 0.0)
            rooms = [longest(ask, m.day) for m in question.months if m.month in ask.months]
            most = min(most, min(rooms, default=0.0) / hours)
    return max(most, LEAST_STRETCH)


def ends_of(question: Question, stretch: float) -> Literal["bank", "asked", "day"]:
    """What ends a stretch: what she has; that no longer one is asked; that the day has no more hours."""
    if stretch >= MOST_STRETCH * (1 - SETTLED):
        return "asked"
    return "day" if stretch >= most_stretch(question) * (1 - SETTLED) else "bank"


def reach(enough: Callable[[float], bool], most: float, near: float | None = None) -> float:
    """The largest stretch that is enough, on rungs SETTLED apart; 0 where not even the least is [1].

    Whatever it begins with it ends on the same rung.

    Parameters
    ----------
    enough : callable
        Of a stretch; what holds for one holds for all shorter ones.
    most : float
        No stretch beyond it is asked.
    near : float, optional
        About where it is thought to be; about the wish as stated where nothing is known.
    """
    rung = math.log1p(SETTLED)

    def stretch(k: int) -> float:
        return min(math.exp(k * rung), most)

    lowest, top = math.ceil(math.log(LEAST_STRETCH) / rung), math.ceil(math.log(most) / rung - SURE)
    start = min(max(round(math.log(near) / rung) if near else 0, lowest), top)
    step = FINE_RUNGS if near else COARSE_RUNGS
    if enough(stretch(start)):
        low, high = start, start + step
        while high <= top and enough(stretch(high)):
            low, high, step = high, high + 2 * step, 2 * step
        high = min(high, top + 1)
    else:
        low, high = start - step, start
        while low >= lowest and not enough(stretch(low)):
            low, high, step = low - 2 * step, low, 2 * step
        if low < lowest:
            if high == lowest or not enough(stretch(lowest)):
                return 0.0
            low = lowest
    while high - low > 1:
        middle = (low + high) // 2
        low, high = (middle, high) if enough(stretch(middle)) else (low, middle)
    return stretch(low)
