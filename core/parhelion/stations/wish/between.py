"""Why this boat and not that: what differs between two, and what each difference is worth by itself."""

from __future__ import annotations

from collections.abc import Iterator

from parhelion.design import BoatDesign, Place
from parhelion.design.refit import Refit
from parhelion.design.wish import Wish
from parhelion.errors import ParhelionError, Problem
from parhelion.market.refits import refit_cost
from parhelion.quantities import Frozen, Quantity, Sentence, count, sentence, words
from parhelion.stations.wish.held import Question, does, most_stretch, numbers_of, question_of, reach
from parhelion.stations.wish.search import have_of
from parhelion.stations.wish.stores import with_drives
from parhelion.stations.wish.unclear import unclear
from parhelion.stations.wish.words import bank_words, drive_words, panels_words, stretched

AS_SHE_IS = Refit()
APART = 0.8  # of what all do together: parts that add up to less, or over its inverse, are told
SLIGHT = 0.003  # of a stretch: less is rounding


class Difference(Frozen):
    """One thing that the other boat has otherwise."""

    has: Sentence  # what the first has; "nothing" too
    other: Sentence
    gained: Quantity  # of the first thing wished, with this alone changed in the first boat
    cost: float  # more for it


class Between(Frozen):
    """Two boats, thing by thing."""

    first: Quantity
    second: Quantity
    gained: Quantity  # by the second
    cost: float  # more for the second
    differences: list[Difference]
    told: Sentence


def between(design: BoatDesign, first: Refit = AS_SHE_IS, second: Refit = AS_SHE_IS) -> Between:
    """What differs between two boats that a wish may choose, and what each difference does alone.

    Parameters
    ----------
    design : BoatDesign
        As she is, with the wish.
    first, second : Refit
        Points of its front.
    """
    wish = design.wish or Wish()
    why = unclear(design, wish)
    if why is not None:
        raise ParhelionError(
            [
                Problem(
                    code="unclear", field=why[1] or "", message=why[0].text, accepted="a wish that is clear"
                )
            ]
        )
    question, have = question_of(design, wish), have_of(design, wish)
    one, other = first.of(design), second.of(design)
    here, there = _reach(one, question), _reach(other, question)
    ask = wish.asks[0]
    found = []
    for has, instead, changed in _swaps(design, one, other):
        far = _reach(changed, question)
        gained = stretched(ask, far - here).model_copy(update={"signed": True})
        cost = refit_cost(changed, have) - refit_cost(one, have)
        found.append(Difference(has=has, other=instead, gained=gained, cost=cost))
    gained = stretched(ask, there - here).model_copy(update={"signed": True})
    found.sort(key=lambda item: -abs(float(item.gained.value)))
    return Between(
        first=stretched(ask, here), second=stretched(ask, there),
        gained=gained,
        cost=refit_cost(other, have) - refit_cost(one, have), differences=found,
        told=_told(found, there - here, float(gained.value)),
    )  # fmt: skip


def _reach(design: BoatDesign, question: Question) -> float:
    numbers = numbers_of(design, question)
    return reach(lambda s: does(question, numbers, s), most_stretch(question))


NOTHING = sentence("nothing")


def _swaps(
    design: BoatDesign, one: BoatDesign, other: BoatDesign
) -> Iterator[tuple[Sentence, Sentence, BoatDesign]]:
    """The first boat with one thing after the other as the second has it."""
    places = {place.id: place for place in (*one.places, *other.places)}
    for place in places.values():
        mine = tuple(g for g in one.panels if g.place_id == place.id)
        theirs = tuple(g for g in other.panels if g.place_id == place.id)
        boxes = [
            tuple(box for box in boat.controllers if any(g.controller_id == box.id for g in groups))
            for boat, groups in ((one, mine), (other, theirs))
        ]
        if (mine, boxes[0]) == (theirs, boxes[1]):
            continue
        changed = _with_place(one, other, place)
        has = [panels_words(one, g) for g in mine] or [NOTHING]
        instead = [panels_words(other, g) for g in theirs] or [NOTHING]
        if [g.model_copy(update={"controller_id": "-", "series": None, "id": "-"}) for g in mine] == [
            g.model_copy(update={"controller_id": "-", "series": None, "id": "-"}) for g in theirs
        ]:
            has = [sentence("{box} for it", box=words(box.name)) for box in boxes[0]]
            instead = [sentence("{box}", box=words(box.name)) for box in boxes[1]]
        yield _joined(has), _joined(instead), changed
    if one.bank != other.bank:
        yield (
            bank_words(one.bank) if one.bank else NOTHING, bank_words(other.bank) if other.bank else NOTHING,
            _weighed(one, one.changed(banks=other.banks)),
        )  # fmt: skip
    if one.drives != other.drives:
        yield (
            drive_words(one, design) or sentence("the motor as it is"),
            drive_words(other, design) or sentence("the motor as it is"), with_drives(one, other.drives),
        )  # fmt: skip


def _joined(said: list[Sentence]) -> Sentence:
    """Several things as one line."""
    slots = {f"{name}{k}": slot for k, one in enumerate(said) for name, slot in one.slots.items()}
    texts = []
    for k, one in enumerate(said):
        text = one.text
        for name in one.slots:
            text = text.replace("{" + name + "}", "{" + f"{name}{k}" + "}")
        texts.append(text)
    return Sentence(text="; ".join(texts), slots=slots)


def _with_place(one: BoatDesign, other: BoatDesign, place: Place) -> BoatDesign:
    """The first boat with a place filled as in the second."""
    kept = tuple(g for g in one.panels if g.place_id != place.id)
    theirs = tuple(g for g in other.panels if g.place_id == place.id)
    groups = (*kept, *theirs)
    fed = {g.controller_id for g in groups}
    boxes = {box.id: box for box in (*other.controllers, *one.controllers)}
    there = {p.id for p in one.places}
    places = (*one.places, *(p for p in other.places if p.id == place.id and p.id not in there))
    changed = one.changed(
        panels=groups, places=places, controllers=tuple(boxes[key] for key in boxes if key in fed)
    )
    return _weighed(one, changed)


def _weighed(before: BoatDesign, after: BoatDesign) -> BoatDesign:
    """A boat known by her whole weight, with the difference of her parts put on the scales."""
    whole = before.hull.displacement_kg
    if whole is None:
        return after
    parts = [boat.banks_kg + boat.panels_kg + boat.frames_kg for boat in (before, after)]
    return after.weighing(whole + parts[1] - parts[0])


def _told(found: list[Difference], whole: float, total: float) -> Sentence:
    if not found:
        return sentence("They are the same boat.")
    if abs(whole) < SLIGHT:
        return sentence("They go as far: what one gains here it loses there.")
    if len(found) == 1:
        return sentence("One thing differs.")
    alone = sum(float(item.gained.value) for item in found)
    text = "{n} things differ; the first does most. Alone, each does this:"
    if alone < APART * total:
        text = "{n} things differ. Together they do more than each alone: what one lacks the other brings."
    elif alone * APART > total:
        text = "{n} things differ. Together they do less than each alone: they win the same."
    return sentence(text, n=count(len(found)))
