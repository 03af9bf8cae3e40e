"""What is wished, and what a boat has for it, in words."""

from __future__ import annotations

from parhelion.design import Bank, BoatDesign, PanelGroup
from parhelion.design.wish import Ask, AskKind
from parhelion.market.refits import same_motor
from parhelion.quantities import (
    Quantity,
    Sentence,
    count,
    days,
    distance,
    energy,
    force,
    hours,
    length,
    power,
    ratio,
    sentence,
    speed,
    volts,
    words,
)
from parhelion.stations.wish.held import Question, ends_of


def ask_words(ask: Ask) -> Sentence:
    """A wish in a line."""
    match ask.kind:
        case AskKind.TRIP:
            return sentence("{d} at {v} in a day", d=distance(ask.distance_m), v=speed(ask.speed_mps))
        case AskKind.HOURS:
            return sentence("{h} at {v} in a day", h=hours(ask.hours), v=speed(ask.speed_mps))
        case AskKind.NIGHT:
            return sentence("{h} at {v} from sunset", h=hours(ask.hours), v=speed(ask.speed_mps))
        case AskKind.STAY:
            return sentence("{d} at anchor on what is aboard", d=days(ask.days))
    return sentence("the house without shore power")


def stretched(ask: Ask, stretch: float) -> Quantity:
    """How far, or how long, a wish goes when it is stretched."""
    match ask.kind:
        case AskKind.TRIP:
            return distance(stretch * ask.distance_m)
        case AskKind.STAY:
            return days(stretch * ask.days)
        case AskKind.HOUSE:
            return ratio(stretch)
    return hours(stretch * ask.hours)


def reaches(question: Question, stretch: float, text: str = "{far}") -> Sentence:
    """How far it goes, said where it is not the boat that ends it; `text` has a slot for it."""
    ends = ends_of(question, stretch)
    tail = {"bank": "", "asked": " or more", "day": ", all that the day has"}[ends]
    return sentence(text.replace("{far}", "{far}" + tail), far=stretched(question.asks[0], stretch))


def panels_words(design: BoatDesign, group: PanelGroup) -> Sentence:
    """So many panels of a kind on their place."""
    return sentence(
        "{n} × {panel} on {place}",
        n=count(group.count),
        panel=words(group.model) if group.model else power(group.nameplate_w),
        place=words(_within(design.place(group.place_id).name)),
    )


def _within(name: str) -> str:
    """A place's name within a sentence: "A canopy" is "a canopy"; names of one's own stay."""
    for start in ("On ", "Flat on "):
        name = name.removeprefix(start)
    first, _, rest = name.partition(" ")
    return f"{first.lower()} {rest}" if first in ("A", "An") else name


def boxes_words(design: BoatDesign) -> Sentence:
    """The charge controllers, those alike told once."""
    names: dict[str, int] = {}
    for box in design.controllers:
        names[box.name] = names.get(box.name, 0) + box.count
    told = ", ".join(name if number == 1 else f"{number} × {name}" for name, number in names.items())
    return sentence("charged by {boxes}", boxes=words(told))


def bank_words(bank: Bank) -> Sentence:
    """A bank in a line."""
    return sentence(
        "{wh} of {kind} at {v}", wh=energy(bank.nominal_wh), kind=words(bank.chemistry.label),
        v=volts(bank.nominal_v),
    )  # fmt: skip


def drive_words(design: BoatDesign, before: BoatDesign) -> Sentence | None:
    """What is new about the motors, or None."""
    new, old = design.drives[0], before.drives[0]
    if new == old:
        return None
    if not same_motor(new, old):
        size = power(new.rated_power_w) if new.rated_power_w else force(new.static_thrust_n or 0.0)
        if new.price is not None:  # of one's own list
            return sentence("the motor {name}, {w}", name=words(new.name), w=size)
        return sentence("a motor of {w}", w=size)
    pitch = new.propeller.pitch_m if new.propeller else 0.0
    return sentence("a propeller of {p} pitch", p=length(pitch))


def has_words(design: BoatDesign, before: BoatDesign) -> list[Sentence]:
    """What a boat has for the wish: panels by place, her bank, what is new about her motor."""
    found = [panels_words(design, group) for group in design.panels]
    if design.controllers:
        found.append(boxes_words(design))
    if design.bank is not None:
        found.append(bank_words(design.bank))
    motor = drive_words(design, before)
    return [*found, *([motor] if motor else [])]
