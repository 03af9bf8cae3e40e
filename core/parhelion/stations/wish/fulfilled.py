"""How surely a boat does each thing wished, month by month."""

from __future__ import annotations

from parhelion.quantities import Frozen, Sentence
from parhelion.stations.wish.ground import speed_of
from parhelion.stations.wish.held import SLOWER, Numbers, Question, bend_that_passes, counted
from parhelion.stations.wish.words import ask_words


class MonthMet(Frozen):
    """In one month: the share of its days asked on which it was done."""

    month: int  # 1 to 12
    frac: float


class AskMet(Frozen):
    """One thing wished, as a boat does it."""

    id: str
    label: Sentence
    surely_frac: float  # of the days asked on which it was done
    wanted_frac: float
    met: bool
    speed_mps: float | None  # at which it was done, bent where it may be
    months: list[MonthMet]
    days: int  # that were drawn


def bend_for(question: Question, numbers: Numbers) -> int:
    """The least of the bend that does the wish as stated; none of it where nothing does."""
    return bend_that_passes(question, numbers, 1.0) or 0


def fulfilled(question: Question, numbers: Numbers, bend: int) -> list[AskMet]:
    """Each thing wished, as it is stated.

    Parameters
    ----------
    question : Question
    numbers : Numbers
    bend : int
        Which share of the bend (`held.SLOWER`).
    """
    by_month = counted(question, numbers, 1.0, bend)
    found = []
    for n, ask in enumerate(question.asks):
        mine = [counts[n] for counts in by_month if counts[n].asked]
        done, asked = sum(c.done for c in mine), sum(c.asked for c in mine)
        share = done / asked if asked else 0.0
        found.append(
            AskMet(
                id=ask.id, label=ask_words(ask), surely_frac=share, wanted_frac=ask.surely_frac,
                met=asked > 0 and asked - done <= (1 - ask.surely_frac) * asked + 1e-9,
                speed_mps=speed_of(ask, SLOWER[bend]) if ask.moves else None,
                months=[MonthMet(month=c.month, frac=c.done / c.asked) for c in mine], days=asked,
            )
        )  # fmt: skip
    return found
