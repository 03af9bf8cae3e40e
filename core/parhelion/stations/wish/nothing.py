"""Why a boat does nothing of a wish: the one cause of a zero."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from parhelion.design import BoatDesign
from parhelion.design.wish import Ask, AskKind
from parhelion.quantities import Sentence, fraction, hours, power, sentence, speed
from parhelion.stations.wish.ground import hours_asked, longest
from parhelion.stations.wish.held import LEAST_STRETCH, Numbers, Question, curve_of, does


def day_too_short(question: Question) -> Sentence | None:
    """Where days have less room than is asked, from sunset or from a clock on; None where they have it."""
    for ask in question.asks:
        if not ask.moves:
            continue
        rooms = [longest(ask, month.day) for month in question.months if month.month in ask.months]
        if min(rooms, default=0.0) < hours_asked(ask, 1.0, 0.0):
            what = "From sunset" if ask.kind is AskKind.NIGHT else "From its clock on"
            text = f"{what} the shortest of those days has {{room}} until the next sunrise; {{h}} are asked."
            if ask.kind is not AskKind.NIGHT and ask.from_clock is None:
                text = "A day has {room}; {h} are asked."
            return sentence(text, room=hours(min(rooms, default=0.0)), h=hours(hours_asked(ask, 1.0, 0.0)))
    return None


def speed_out_of_reach(design: BoatDesign, question: Question, numbers: Numbers) -> Sentence | None:
    """A speed that the motor does not give, or the hull's model does not know; None where all are given."""
    for n, ask in enumerate(question.asks):
        if ask.moves and not np.isfinite(numbers.watts[n]).any():
            curve = curve_of(design, question.wish)
            if not np.isfinite(float(curve.power_at(ask.speed_mps))):
                return sentence("The hull's model does not reach {v}.", v=speed(ask.speed_mps))
            return sentence(
                "Her motor does not give {v}: it takes {w}, of {most}.", v=speed(ask.speed_mps),
                w=power(float(curve.power_at(ask.speed_mps))), most=power(curve.most_w),
            )  # fmt: skip
    return None


def why_nothing(design: BoatDesign, question: Question, numbers: Numbers) -> Sentence:
    """The cause of a stretch of nothing.

    Parameters
    ----------
    design : BoatDesign
    question : Question
    numbers : Numbers
        Of that boat, which does not do the least of the wish.
    """
    told = speed_out_of_reach(design, question, numbers) or day_too_short(question)
    if told is not None:
        return told
    kept = next((ask for ask in question.asks if ask.moves and ask.kept_frac), None)
    if kept is not None and does(_keeping_nothing(question), numbers, LEAST_STRETCH):
        return sentence(
            "Only {x} left in the bank stands in its way: less of it, and she does some.",
            x=fraction(kept.kept_frac or 0.0),
        )
    first = question.asks[0]
    if any(month.aboard is None for month in numbers.months):
        return _without_bank(question, numbers, first)
    if first.moves:
        return sentence(
            "As often as that, bank and sun do not carry even a little of it: {v} takes {w}.",
            v=speed(first.speed_mps), w=power(float(numbers.watts[0, 0])),
        )  # fmt: skip
    return sentence("As often as that, the sun does not keep the house going.")


def _without_bank(question: Question, numbers: Numbers, first: Ask) -> Sentence:
    if first.moves:
        return sentence(
            "Without a bank the sun of every half hour must give the {w} that {v} takes.",
            w=power(float(numbers.watts[0, 0])), v=speed(first.speed_mps),
        )  # fmt: skip
    return sentence("Without a bank nothing keeps the house going at night.")


def _keeping_nothing(question: Question) -> Question:
    asks = tuple(ask.model_copy(update={"kept_frac": None}) for ask in question.asks)
    return replace(question, wish=question.wish.model_copy(update={"asks": asks}))
