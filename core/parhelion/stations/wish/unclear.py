"""Wishes that cannot be asked as they stand: nothing wished, or two things at once."""

from __future__ import annotations

from parhelion.design import BoatDesign
from parhelion.design.wish import Ask, AskKind, Wish
from parhelion.quantities import Sentence, sentence, words
from parhelion.stations.wish.ground import ends_at, hours_asked, month_days
from parhelion.stations.wish.places import allowed_places

OVERLAP_H = 0.05


def unclear(design: BoatDesign, wish: Wish) -> tuple[Sentence, str | None] | None:
    """Why nothing can be looked for, and the entry it is about; None where all is clear.

    Parameters
    ----------
    design : BoatDesign
    wish : Wish
    """
    if not wish.asks:
        return sentence("Say first what she should do."), "/wish"
    for number, ask in enumerate(wish.asks):
        if ask.moves and not ask.weekdays:
            return sentence("No day of the week is chosen for it."), f"/wish/asks/{number}/weekdays"
        if ask.kind is AskKind.HOUSE and not design.loads:
            return sentence("There is no house load to keep going: enter it in the Bank."), "/loads"
        for earlier in wish.asks[:number]:
            if _at_once(design, earlier, ask):
                return (
                    sentence(
                        "Two wishes motor through the same hours of a {day}: give them other days or hours.",
                        day=words(_common_day(earlier, ask)),
                    ),
                    f"/wish/asks/{number}/weekdays",
                )  # fmt: skip
    if not allowed_places(design, wish) and not design.fitted_panels and not design.banks:
        return sentence("She has no room for panels where you allow them, and no bank."), "/wish/places"
    return None


def _common_day(one: Ask, other: Ask) -> str:
    return next((day.label for day in one.weekdays if day in other.weekdays), "day")


def _at_once(design: BoatDesign, one: Ask, other: Ask) -> bool:
    """Whether two things that motor ask for the same hours of some day."""
    if not (one.moves and other.moves) or not set(one.weekdays) & set(other.weekdays):
        return False
    for month in set(one.months) & set(other.months):
        day = month_days(design, month, 7).day
        spans = []
        for ask in (one, other):
            hours = min(hours_asked(ask, 1.0, 0.0), 24.0)
            ends = ends_at(ask, day, hours)
            spans.append((ends - hours, ends))
        if min(spans[0][1], spans[1][1]) - max(spans[0][0], spans[1][0]) > OVERLAP_H:
            return True
    return False
