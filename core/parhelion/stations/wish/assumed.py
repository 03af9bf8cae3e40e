"""What the choice hangs on: the same boats with a heavier hull, a poor summer, a hungrier house."""

from __future__ import annotations

from dataclasses import replace
from typing import Literal

import numpy as np

from parhelion.quantities import Frozen, Quantity, Sentence, fraction, money, sentence
from parhelion.stations.wish.held import Numbers, Question, does, most_stretch, reach
from parhelion.stations.wish.search import Proved
from parhelion.stations.wish.words import stretched

DRAWS_MORE, POOR_SUN, HUNGRY = 1.2, 0.85, 1.3


class Assumption(Frozen):
    """One thing that may be otherwise, and what the cheapest boat that does the wish then does."""

    key: Literal["draws", "sun", "house"]
    label: Sentence
    reach: Quantity  # of the first thing wished, with the cheapest that does it as assumed
    does: bool
    cost: float | None  # of the cheapest point that still does it; None where none does
    settles: Sentence  # the measurement that would tell
    told: Sentence


def _otherwise(numbers: Numbers, key: str) -> Numbers:
    if key == "draws":
        return replace(numbers, watts=numbers.watts * DRAWS_MORE)
    if key == "sun":
        months = tuple(
            replace(m, out_w=np.ascontiguousarray(m.out_w * POOR_SUN),
                    rest_w=np.ascontiguousarray(m.rest_w * POOR_SUN))
            for m in numbers.months
        )  # fmt: skip
        return replace(numbers, months=months)
    return replace(
        numbers, months=tuple(replace(m, house_w=np.ascontiguousarray(m.house_w * HUNGRY))
                              for m in numbers.months)
    )  # fmt: skip


def assumptions(question: Question, points: list[Proved], cheapest: Proved) -> list[Assumption]:
    """What moves the choice, what moves it most first.

    Parameters
    ----------
    question : Question
    points : list of Proved
        By price.
    cheapest : Proved
        That does the wish.
    """
    moving = any(ask.moves for ask in question.asks)
    house = any(month.house_w.any() for month in cheapest.numbers.months)
    wanted: list[tuple[Literal["draws", "sun", "house"], Sentence, Sentence]] = []
    if moving:
        wanted.append(("draws", sentence("The hull draws {x} more than counted", x=fraction(DRAWS_MORE - 1)),
                       sentence("Three measured runs, both ways, in the Hull.")))  # fmt: skip
    wanted.append(("sun", sentence("A summer with {x} less sun", x=fraction(1 - POOR_SUN)),
                   sentence("Two weeks of harvest in the Log, or the place's own full-sun hours in the Year.")
                   ))  # fmt: skip
    if house:
        wanted.append(("house", sentence("A house that takes {x} more", x=fraction(HUNGRY - 1)),
                       sentence("Amps read at night with everything on that stays on.")))  # fmt: skip
    most, found = most_stretch(question), []
    for key, label, settles in wanted:
        otherwise = _otherwise(cheapest.numbers, key)
        far = reach(lambda s, n=otherwise: does(question, n, s), most)  # type: ignore[misc]
        holds = next((p for p in points if does(question, _otherwise(p.numbers, key), 1.0)), None)
        found.append(
            Assumption(
                key=key, label=label, reach=stretched(question.asks[0], far), does=far >= 1,
                cost=holds.boat.cost if holds is not None else None, settles=settles,
                told=_told(cheapest, holds),
            )
        )  # fmt: skip
    return sorted(found, key=lambda item: float(item.reach.value))


def _told(cheapest: Proved, holds: Proved | None) -> Sentence:
    if holds is None:
        return sentence("nothing on the front does it")
    if holds.boat.cost <= cheapest.boat.cost:
        return sentence("she still does it")
    return sentence("what still does it costs {c}", c=money(holds.boat.cost))
