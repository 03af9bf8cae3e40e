"""Ways to spend a day's energy side by side, and what every step is worth."""

from __future__ import annotations

from parhelion.balance.outlook import Outlook
from parhelion.quantities import Frozen, Sentence, distance, energy, fraction, sentence
from parhelion.rail.furthest import SAME_FRAC, PaceWay, ShownDay
from parhelion.stations.day.worths import Worths, worths_of


class Ways(Frozen):
    """The ways side by side, the furthest first, with what to make of them."""

    ways: list[PaceWay]
    reserve_frac: float
    told: list[Sentence]


class Pace(Frozen):
    """The day's ways and worths; None without a bank, without hours, or without panels."""

    ways: Ways | None
    worths: Worths | None


def pace_of(outlook: Outlook) -> Pace:
    """How to spend the shown day's energy, and what every practical step is worth."""
    return Pace(ways=ways_of(outlook), worths=worths_of(outlook))


def ways_of(outlook: Outlook) -> Ways | None:
    """The ways of a design's shown day side by side; None without a bank or without hours.

    Parameters
    ----------
    outlook : Outlook
    """
    if outlook.aboard is None or not outlook.hours:
        return None
    day = ShownDay(outlook)
    ways = [
        day.way("best", *day.best()),
        day.way("constant", *day.constant()),
        day.way("sun", *day.sun()),
        day.way("sprint", *day.sprint()),
    ]
    ways.sort(key=lambda way: (way.stops, -_made_good_m(way)))
    return Ways(ways=ways, reserve_frac=outlook.aboard.main.reserve, told=_told(ways))


def _made_good_m(way: PaceWay) -> float:
    """How far a way comes: over the ground where there is a stream [m]."""
    return way.distance_m if way.ground_m is None else way.ground_m


def _told(ways: list[PaceWay]) -> list[Sentence]:
    by_key = {way.key: way for way in ways}
    best, level = by_key["best"], by_key["constant"]
    found = []
    if best.stops:
        return [sentence("The bank starts too low for these hours: begin fuller, or shorter.")]
    whole = _made_good_m(level)
    gain = _made_good_m(best) - whole
    if gain <= SAME_FRAC * level.distance_m:
        found.append(
            sentence(
                "Constant speed is as good as any here: power rises steeply, and neither hurrying nor "
                "holding back wins a thing."
            )
        )
    else:
        found.append(
            sentence(
                "Faster while the bank would overflow, slower before it runs low: {gain} over constant.",
                gain=distance(gain, signed=True),
            )
        )
    sprint = by_key["sprint"]
    if whole > 0:
        lost = 1 - _made_good_m(sprint) / whole
        found.append(
            sentence("An hour on, an hour off at the same energy loses {x}.", x=fraction(max(lost, 0.0)))
        )
    saved = level.wasted_wh - best.wasted_wh
    if saved > 1:
        found.append(sentence("It keeps {e} of sun that constant speed throws away.", e=energy(saved)))
    return found
