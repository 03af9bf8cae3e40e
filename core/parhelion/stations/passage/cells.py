"""The passage's cells of the answer rail: arrives, charge on arrival, turn back by."""

from __future__ import annotations

from parhelion.quantities import Fact, Sentence, distance, fraction, hours, sentence, words
from parhelion.rail.models import RailCell
from parhelion.stations.passage.departures import dark_h
from parhelion.stations.passage.plans import POOR, Plan
from parhelion.stations.passage.voyage import Voyage
from parhelion.stations.passage.words import assumed, clock_of, day_words, why

DARK_H = 0.05  # less is not worth a word


def no_arrival(plan: Plan) -> Sentence:
    """Why she does not arrive."""
    if plan.stops_h is not None:
        return sentence("The motor stops at the reserve at {at}.", at=clock_of(plan.stops_h))
    if plan.ahead.bank is None:
        return sentence("The sun does not pay for the way in the light there is.")
    leg = plan.ahead.marks[max(plan.stands_on, 0) + 1].name
    return sentence("She makes no way towards {mark} any more.", mark=words(leg))


def passage_cells(voyage: Voyage) -> list[RailCell]:
    """The three cells in their order."""
    plan = voyage.plan
    return [_arrives(voyage, plan), _charge(plan), _turn(voyage, plan)]


def _arrives(voyage: Voyage, plan: Plan) -> RailCell:
    ahead = plan.ahead
    lines = []
    reason = None
    if plan.arrives:
        lines.append(
            sentence("{h} after leaving" + day_words(plan.arrives_h), h=hours(plan.arrives_h - plan.leaves_h))
        )
        dark = dark_h(plan)
        if dark > DARK_H:
            lines.append(sentence("{h} under way in the dark", h=hours(dark)))
        elif ahead.sunset_h is not None and ahead.sunrise_h is not None:
            lit_h = (ahead.sunset_h - plan.arrives_h) % 24
            if lit_h < ahead.sunset_h - ahead.sunrise_h:
                lines.append(sentence("{h} before sunset", h=hours(lit_h)))
    else:
        reason = no_arrival(plan)
    return RailCell(
        key="arrives",
        label="Arrives",
        value=clock_of(plan.arrives_h) if plan.arrives else None,
        lines=lines,
        reason=reason,
        assumes=assumed(plan),
        why=why(plan, Fact(label="Way", value=distance(ahead.length_m))),
    )


def _charge(plan: Plan) -> RailCell:
    soc = plan.arrival_soc
    lines: list[Sentence] = []
    reason = None
    store = plan.ahead.store
    if store is None:
        reason = sentence("There is no bank.")
    elif soc is None:
        reason = no_arrival(plan)
    else:
        poor = plan.soc_at(plan.arrives_h, POOR)
        if poor is not None:
            lines.append(sentence("{poor} on a poor day", poor=fraction(poor)))
        lines.append(
            sentence(
                "lowest {low}, reserve {r}", low=fraction(plan.lowest_soc or 0.0), r=fraction(store.reserve)
            )
        )
    return RailCell(
        key="charge_on_arrival",
        label="Charge on arrival",
        value=None if soc is None else fraction(soc),
        lines=lines,
        reason=reason,
        assumes=assumed(plan),
        why=why(plan, Fact(label="As she leaves", value=fraction(plan.ahead.start_soc))),
    )


TURN_METHOD = (
    "The least charge that brings her home, backwards from home over every place and hour, under a sky "
    "that nine "
    "of ten outshine and the stream of that hour; 20 minutes are kept in hand"
)


def _turn(voyage: Voyage, plan: Plan) -> RailCell:
    turn = voyage.turn
    lines: list[Sentence] = []
    value, reason = None, None
    if turn is not None and turn.everywhere:
        value = words("anywhere")
        lines.append(sentence("home from the far end too, at {at}", at=clock_of(turn.hours)))
    elif turn is not None:
        value = clock_of(turn.hours)
        lines.append(sentence("{d} out, {soc} in the bank", d=distance(turn.out_m), soc=fraction(turn.soc)))
    elif plan.ahead.bank is None:
        reason = sentence("There is no bank to come home on.")
    elif plan.ahead.outward == 0:
        value = words("homeward")
        lines.append(sentence("she is on her way home"))
    else:
        reason = sentence("Even turned at once she is not home by {by}.", by=clock_of(plan.ahead.in_by_h))
    return RailCell(
        key="turn_back",
        label="Turn back by",
        value=value,
        lines=lines,
        reason=reason,
        assumes=sentence("home above the reserve under a poor sky"),
        why=why(plan, method=TURN_METHOD),
    )
