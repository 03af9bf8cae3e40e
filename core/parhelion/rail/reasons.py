"""The words that go with the numbers: what is assumed, by what method, from what source."""

from __future__ import annotations

from datetime import time as Time

from parhelion.balance.outlook import Outlook, remembered
from parhelion.design import BoatDesign, BoatState, Spell
from parhelion.design.hulltypes import TYPICAL, Model
from parhelion.hull.runs import ENOUGH_RUNS
from parhelion.quantities import (
    Fact,
    Quantity,
    Sentence,
    Why,
    angle,
    clock,
    count,
    fraction,
    hours,
    mass,
    power,
    sentence,
    speed,
    temperature,
    words,
)
from parhelion.sun.climate import air_temperature_c

NO_BANK = sentence("There is no bank: only the live answer exists.")
NO_PANELS = sentence("There are no panels yet.")
NO_HOURS = sentence("The sun does not rise: there are no useful hours to motor in.")
AT_REST = sentence("A day at rest: no motoring hours are set.")
HOUSE_TAKES_ALL = sentence("The house takes all the sun gives.")
NO_CHARGE = sentence("The bank takes no charge this cold or this hot: the sun drives her live, or is lost.")
FULL_AT_DUSK = sentence("Full at this plan's dusk.")
NEVER_TURNS = sentence("The live sun never turns the motor in the motoring hours.")
BELOW_IDLE = sentence("The sun gives less than the drive's idle draw.")
HELD_BY_WEATHER = sentence("The sun gives less than it takes to hold against the wind and the waves.")
DRIVE_HELD = sentence("The drive cannot hold against the wind and the waves.")
STARTS_EMPTY = sentence("The bank starts at its reserve and the sun cannot turn the motor through.")
NO_SUN_TODAY = sentence("No sun reaches the panels on this day.")
NO_SUN = sentence("There is no sun to run on at this moment.")


def minutes(local: Time) -> float:
    """A time of day as minutes after midnight."""
    return local.hour * 60 + local.minute + local.second / 60


def why_no_hours(outlook: Outlook) -> Sentence:
    """Why there is no hour to motor in: the person's choice, or no sun."""
    return NO_HOURS if outlook.design.plan.spells is None else AT_REST


def _no_hours(outlook: Outlook) -> str:
    return "no useful hours" if outlook.design.plan.spells is None else "at rest all day"


def spell_words(spells: tuple[Spell, ...]) -> tuple[str, dict[str, Quantity]]:
    """The hours as text with slots, e.g. ``{from0} to {to0}``."""
    parts: list[str] = []
    slots: dict[str, Quantity] = {}
    for index, spell in enumerate(spells):
        parts.append(f"{{from{index}}} to {{to{index}}}")
        slots[f"from{index}"] = clock(minutes(spell.starts_at))
        slots[f"to{index}"] = clock(minutes(spell.ends_at))
    return ", ".join(parts), slots


def assumes_hours(outlook: Outlook, tail: str, **slots: Quantity) -> Sentence:
    """The hours and the sky, then `tail`."""
    if not outlook.spells:
        sky = words(outlook.design.plan.sky_words)
        return sentence("{hours}, {sky} sky", hours=words(_no_hours(outlook)), sky=sky)
    text, clocks = spell_words(outlook.spells)
    named = "useful sun " if outlook.design.plan.spells is None else ""
    return Sentence(
        text=f"{{hours}}, {named}{text}, {{sky}} sky{tail}",
        slots={
            "hours": hours(outlook.hours),
            "sky": words(outlook.design.plan.sky_words),
            **clocks,
            **slots,
        },
    )


def assumes_all(outlook: Outlook) -> Sentence:
    """The line under the whole rail: day, place, sky, hours, start charge."""
    plan = outlook.design.plan
    text, slots = spell_words(outlook.spells)
    hours_text = f"motoring {{hours}}, {text}" if outlook.spells else _no_hours(outlook)
    bank_text = ", bank {start} at {dawn}" if outlook.design.bank else ", no bank"
    heading = "" if plan.heading_deg is None else ", heading {heading}"
    heading += "" if plan.heading_deg is None or not plan.swing_deg else " swinging {swing} to either side"
    state = "" if plan.state is BoatState.UNDER_WAY else ", {state}"
    with_her = plan.current_mps > 0
    stream = f", {{stream}} of stream {'with' if with_her else 'against'} her" if plan.current_mps else ""
    return Sentence(
        text=f"{{date}}, {{place}}, {{sky}} sky{state}{heading}, {hours_text}{bank_text}{stream}",
        slots={
            **slots,
            "date": words(f"{plan.date.day} {plan.date:%B %Y}"),
            "place": words(outlook.design.site.name),
            "sky": words(plan.sky_words),
            "hours": hours(outlook.hours),
            "start": fraction(plan.start_charge_frac),
            "dawn": words("sunrise" if outlook.day.sunrise_at else "the day's start"),
            "heading": angle(plan.heading_deg or 0.0),
            "swing": angle(plan.swing_deg),
            "state": words(plan.state.label),
            "stream": speed(abs(plan.current_mps)),
        },
    )


@remembered
def sun_facts(outlook: Outlook) -> list[Fact]:
    """What the harvest was computed from."""
    design = outlook.design
    facts = [
        Fact(label="Nameplate, all panels", value=power(design.nameplate_w)),
        Fact(label="Sky", value=words(design.plan.sky_words)),
        Fact(label="Air temperature", value=temperature(air_temperature_c(design))),
        Fact(label="Haze (Linke turbidity)", value=words(f"{outlook.day.linke_turbidity:.1f}")),
    ]
    if outlook.house_w.any():
        facts.append(Fact(label="House, mean", value=power(float(outlook.house_w.mean()))))
    return facts


@remembered
def hull_facts(outlook: Outlook) -> list[Fact]:
    """What the demand curve was computed from."""
    design = outlook.design
    return [
        Fact(label="Displacement", value=mass(design.displacement_kg)),
        Fact(label="Battery to thrust", value=fraction(outlook.curve.efficiency_at(outlook.plan_speed_mps))),
        Fact(label="Measured runs", value=count(len(design.fitted_runs))),
    ]


MODEL_WORDS = {
    Model.COMPONENT: "Holtrop and Mennen component method",
    Model.TRANSOM: "Holtrop and Mennen component method with transom drag",
    Model.THIN_SHIP: "Michell thin-ship waves on ITTC-57 friction",
    Model.YACHT: "Holtrop and Mennen, handing over to the Delft yacht series from Froude .30 to .40",
    Model.TWO_HULLS: "the mean of Holtrop and Michell waves with the interference of two hulls",
    Model.TUBES: "Michell thin-ship waves for each tube, with blunt ends",
    Model.PLANING: "Holtrop and Mennen with transom drag, rising onto Savitsky's planing method",
}
MODEL_REASONS = {
    Model.COMPONENT: "a displacement hull of ordinary proportions",
    Model.TRANSOM: "a small displacement hull that drags its stern",
    Model.THIN_SHIP: "a hull thin enough for wave theory",
    Model.YACHT: "a yacht's body was tank-tested at speed",
    Model.TWO_HULLS: "slender hulls that meet each other's waves",
    Model.TUBES: "two thin tubes with blunt ends",
    Model.PLANING: "a hull that climbs onto the plane",
}


def demand_method(design: BoatDesign) -> str:
    """The name of the method behind the demand curve."""
    model = MODEL_WORDS[TYPICAL[design.hull.type].model]
    if len(design.fitted_runs) >= ENOUGH_RUNS:
        return f"your measured runs on {model}"
    if design.fitted_runs:
        return f"{model}, leaning on your runs"
    return model


SUN_SOURCE = (
    "Sun: SPA position, Ineichen clear sky, sky word, Erbs-Driesse split, Hay-Davies plane, Faiman cells, "
    "PVWatts."
)
HULL_SOURCE = "Water: the resistance model of the hull type; band from the prior and your runs."
BANK_SOURCE = "Bank: charge efficiency, tapering acceptance, internal resistance, ten-minute steps."


def joint_words(low: Quantity, high: Quantity) -> Sentence:
    """A joint band in words."""
    return sentence(
        "9 of 10 such boats, panels and days reach {low}, 1 of 10 reaches {high}", low=low, high=high
    )


def why(method: str, source: str, facts: list[Fact], band: Sentence | None, doc: str) -> Why:
    """A reasoning, ready to open."""
    return Why(method=method, source=source, inputs=facts, band=band, doc=doc)


def hull_why(outlook: Outlook, method: str, *facts: Fact, doc: str = "demand") -> Why:
    """A reasoning about the demand curve, with what it was computed from."""
    return Why(method=method, source=HULL_SOURCE, inputs=[*facts, *hull_facts(outlook)], doc=doc)


def model_fact(outlook: Outlook) -> Fact:
    """Why the type's model was chosen."""
    return Fact(label="Model chosen for", value=words(MODEL_REASONS[TYPICAL[outlook.design.hull.type].model]))
