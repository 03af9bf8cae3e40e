"""The passage's words: what its numbers assume, by what method, from what source."""

from __future__ import annotations

from parhelion.design import Site
from parhelion.design.passage import Going, Passage
from parhelion.errors import InvalidDesign, Problem
from parhelion.finding import Finding, Level
from parhelion.quantities import (
    Fact,
    Quantity,
    Sentence,
    Why,
    clock,
    fraction,
    length,
    sentence,
    speed,
    words,
)
from parhelion.stations.passage.plans import Plan

METHOD = (
    "Sailed minute by minute: the current triangle on every leg, the demand curve with the wind on that "
    "course, "
    "the sun on that heading, the bank's own model"
)
SOURCE = "Demand curve, sun and bank of the stations before; streams and high water as entered, not for "
"navigation."


def clock_of(hours: float) -> Quantity:
    """Hours after the first midnight as a time of day."""
    return clock(hours * 60 % 1440)


def day_words(hours: float) -> str:
    """Which day an hour lies on, where it is not the first."""
    day = int(hours // 24)
    return "" if day == 0 else ", the next day" if day == 1 else f", {day} days later"


def assumed(plan: Plan) -> Sentence:
    """What the passage's numbers assume, in one line."""
    ahead = plan.ahead
    design, passage = ahead.design, ahead.passage
    text = f"{design.plan.date.day} {design.plan.date:%B %Y}, {{sky}}, leaving {{at}}"
    slots = {"sky": words(design.plan.sky_words), "at": clock_of(plan.leaves_h)}
    if plan.pace is Going.SPEED and plan.value:
        text += ", {v} through the water"
        slots["v"] = speed(plan.value)
    else:
        text += ", {pace}"
        slots["pace"] = words(plan.pace.label)
    if ahead.store is not None:
        text += ", bank {soc}"
        slots["soc"] = fraction(ahead.start_soc)
    if ahead.winds.strongest_mps > 0:
        text += ", wind up to {w} counted" if passage.winds else ", wind {w} counted on each course"
        slots["w"] = speed(ahead.winds.strongest_mps)
    elif design.plan.wind_mps > 0:
        text += ", wind not counted as drag"
    waves_m = ahead.winds.highest_waves_m
    if waves_m > 0:
        with_wind = all(wind.from_deg is not None for wind in ahead.winds.each if wind.waves_m > 0)
        text += (
            ", waves up to {h} with the wind" if with_wind else ", waves up to {h}, from ahead on every leg"
        )
        slots["h"] = length(waves_m)
    elif ahead.winds.strongest_mps > 0:
        text += ", flat water"
    return sentence(text, **slots)


def why(plan: Plan, *inputs: Fact, method: str = METHOD, band: Sentence | None = None) -> Why:
    """The reasoning of one of the passage's numbers."""
    return Why(method=method, source=SOURCE, inputs=list(inputs), band=band, doc="passage")


def passage_finding(
    key: str,
    level: Level,
    title: Sentence,
    detail: Sentence,
    reason: Why,
    field: str | None = None,
    caution: bool = False,
) -> Finding:
    """One finding of the passage."""
    return Finding(
        id=f"passage_{key}", level=level, title=title, detail=detail, why=reason, field=field, caution=caution
    )


def no_passage() -> InvalidDesign:
    """The refusal of what is asked about a passage where there is none."""
    problem = Problem(
        code="no_passage", message="This design has no passage.", field="/passage", accepted="one leg or more"
    )
    return InvalidDesign([problem])


def start_of(site: Site, passage: Passage) -> tuple[float, float]:
    """Where a passage begins: latitude and longitude, its own or those of the boat's waters [deg]."""
    latitude, longitude = passage.begins_latitude_deg, passage.begins_longitude_deg
    return (
        site.latitude_deg if latitude is None else latitude,
        site.longitude_deg if longitude is None else longitude,
    )
