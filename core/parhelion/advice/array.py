"""Findings about the array: one rule a function, each None where it has nothing to say."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from parhelion.advice.finding import Finding, ordered
from parhelion.answers.reasons import SUN_SOURCE, sun_facts
from parhelion.array.harvest import harvest
from parhelion.array.layout import columns_of, panels_of
from parhelion.constants import STEP_H
from parhelion.day.outlook import Outlook
from parhelion.design import BoatDesign, Obstacle, PlaceKind, Point
from parhelion.hull.air import air_resistance_n
from parhelion.hull.stability import stiffness_lost
from parhelion.quantities import (
    Fact,
    Why,
    count,
    energy,
    fraction,
    length,
    mass,
    power,
    sentence,
    speed,
    words,
)
from parhelion.units import MPS_PER_KNOT

WORTH_FRAC = 0.01  # of the day's harvest before a shade is worth a word
WARN_FRAC = 0.04
SHIFTS = (  # forward and to starboard [m]
    (-0.8, 0.0, "0.8 m aft"),
    (0.8, 0.0, "0.8 m forward"),
    (0.0, 0.5, "0.5 m to starboard"),
    (0.0, -0.5, "0.5 m to port"),
)
SHIFT_WORTH_FRAC = 0.25  # of what the spar costs
HIGH_ABOVE_M = 1.2
STIFFNESS_WORTH = 0.02
STIFFNESS_WARN = 0.1
CATCHES_WIND_DEG = 15.0  # of tilt, before a gust is worth a word
RUBBING_M = 0.15  # outboard that passes for a rubbing strake
GUST_MPS = 22 * MPS_PER_KNOT  # where a strong breeze begins
GUST_CD = 1.3  # of a plate across the wind
OVERLAP_M, SAME_HEIGHT_M = 0.01, 0.15


@dataclass(frozen=True)
class ArrayView:
    """A boat's array on its day, ready for the rules; costs of spars at the bank on the shown day [Wh]."""

    outlook: Outlook
    costs: dict[str, float]


def _shown_wh(outlook: Outlook, design: BoatDesign) -> float:
    return float(harvest(design, outlook.light.shown_alone).sun_w.sum() * STEP_H)


def spar_costs(outlook: Outlook) -> dict[str, float]:
    """What each spar alone costs of the shown day's harvest [Wh]: the day with it against the day without."""
    design = outlook.design
    if not design.obstacles:
        return {}
    here = _shown_wh(outlook, design)

    def without(spar: Obstacle) -> BoatDesign:
        return design.changed(obstacles=tuple(other for other in design.obstacles if other is not spar))

    return {spar.id: _shown_wh(outlook, without(spar)) - here for spar in design.obstacles}


def _why(view: ArrayView, method: str, *facts: Fact, doc: str = "array") -> Why:
    return Why(method=method, source=SUN_SOURCE, inputs=[*facts, *sun_facts(view.outlook)], doc=doc)


def _moved(spar: Obstacle, forward_m: float, starboard_m: float) -> Obstacle:
    def point(p: Point) -> Point:
        return p.model_copy(update={"x_m": p.x_m + starboard_m, "y_m": p.y_m + forward_m})

    return spar.model_copy(update={"foot": point(spar.foot), "tip": point(spar.tip)})


def shade_costs(view: ArrayView) -> Finding | None:
    """The spar that costs most, and where it would cost less."""
    outlook, design = view.outlook, view.outlook.design
    whole = float(outlook.shown_sun_w.sum() * STEP_H)
    if not view.costs or whole <= 0:
        return None
    worst = max(view.costs, key=lambda key: view.costs[key])
    cost = view.costs[worst]
    if cost < WORTH_FRAC * whole:
        return None
    index = next(i for i, spar in enumerate(design.obstacles) if spar.id == worst)
    best: tuple[float, str] | None = None
    for forward, starboard, name in SHIFTS:
        spars = list(design.obstacles)
        spars[index] = _moved(spars[index], forward, starboard)
        gain = _shown_wh(outlook, design.changed(obstacles=tuple(spars))) - whole
        if best is None or gain > best[0]:
            best = (gain, name)
    move = sentence("Take it down, or lay it over, when the sun is on that side.")
    if best is not None and best[0] > SHIFT_WORTH_FRAC * cost:
        move = sentence("{where} returns {e} a day.", where=words(best[1]), e=energy(best[0]))
        move = move.model_copy(update={"text": move.text[0].upper() + move.text[1:]})
    return Finding(
        id="shade_costs",
        level="warn" if cost > WARN_FRAC * whole else "note",
        title=sentence(
            "{name} costs {e} a day", name=words(design.obstacles[index].name), e=energy(cost)
        ),
        detail=sentence("{x} of the harvest. " + move.text, x=fraction(cost / (whole + cost)), **move.slots),
        why=_why(view, "The shown day with it and without it, by the rule of substrings", doc="shade"),
        field=f"/obstacles/{index}/foot/y_m",
    )  # fmt: skip


def adds_up(view: ArrayView) -> Finding | None:
    """The nameplate recounted from its parts."""
    design = view.outlook.design
    if not design.panels:
        return Finding(
            id="adds_up",
            level="note",
            title=sentence("No panels yet"),
            detail=sentence("Add a place and put panels on it: the sky decides the rest."),
            why=_why(view, "Nothing to add up"),
        )
    best = float(view.outlook.clear_harvest.sun_w.max())
    number = sum(group.count for group in design.panels)
    return Finding(
        id="adds_up",
        level="good",
        title=sentence("{x} of nameplate at the clear peak", x=fraction(best / design.nameplate_w)),
        detail=sentence(
            ("{n} panels add up to {w}, " if number > 1 else "One panel of {w}, ")
            + "{m} with frames: {k} a kilogram.",
            n=count(number), w=power(design.nameplate_w),
            m=mass(design.panels_kg), k=power(design.nameplate_w / design.panels_kg),
        ),
        why=_why(view, "Salt, mismatch, wiring, heat and conversion taken off one by one"),
    )  # fmt: skip


def no_position(view: ArrayView) -> Finding | None:
    """Panels whose shade is not known."""
    design = view.outlook.design
    unknown = [design.place(g.place_id).name for g in design.panels if design.place(g.place_id).at is None]
    if not unknown or not design.obstacles:
        return None
    return Finding(
        id="no_position",
        level="warn",
        title=sentence("No shade is counted on {names}", names=words(", ".join(dict.fromkeys(unknown)))),
        detail=sentence("Its position on the boat is not known. Give it one, and its height."),
        why=_why(view, "Shade needs the place of panels and spars in the boat"),
        field="/places",
    )


def top_weight(view: ArrayView) -> Finding | None:
    """Panels high up cost stability."""
    design = view.outlook.design
    high = [
        (g.mass, design.place(g.place_id).at)
        for g in design.panels
        if design.place(g.place_id).at is not None
    ]
    raised = [(kg, at.z_m) for kg, at in high if at is not None and at.z_m > HIGH_ABOVE_M]
    if not raised:
        return None
    kilograms = sum(kg for kg, _ in raised)
    mean = sum(kg * z for kg, z in raised) / kilograms
    rise, share = stiffness_lost(design, kilograms, mean)
    if share < STIFFNESS_WORTH:
        return None
    return Finding(
        id="top_weight",
        level="warn" if share > STIFFNESS_WARN else "note",
        title=sentence("{m} sits {z} up", m=mass(kilograms), z=length(mean)),
        detail=sentence(
            "Some {x} of the stiffness that the hull's breadth gives is lost, and the wind finds more. An "
            "estimate, not a stability book: check crew numbers and the loading plate; keep people low.",
            x=fraction(share),
        ),
        why=_why(view, "Rise of the centre of gravity over the metacentric radius of the waterplane",
                 Fact(label="Centre of gravity rises", value=length(rise))),
        caution=True,
    )  # fmt: skip


def gust_load(view: ArrayView) -> Finding | None:
    """What a gust pulls at tilted panels."""
    design = view.outlook.design
    worst: tuple[float, str] | None = None
    for group in design.panels:
        place = design.place(group.place_id)
        if place.tilt_deg < CATCHES_WIND_DEG:
            continue
        area = group.width * group.length * group.count * np.sin(np.radians(place.tilt_deg))
        force = float(air_resistance_n(GUST_MPS, area, GUST_CD))
        if worst is None or force > worst[0]:
            worst = (force, place.name)
    if worst is None:
        return None
    return Finding(
        id="gust_load",
        level="note",
        title=sentence(
            "A gust of {w} pulls {f} N at {name}",
            w=speed(GUST_MPS), f=words(f"{worst[0]:.0f}"), name=words(worst[1]),
        ),
        detail=sentence(
            "Know what its hinges and fastenings hold, and fold it before: thin frames let go there, and a "
            "loose panel is a blade."
        ),
        why=_why(view, "Half rho Cd A V squared on the tilted area"),
        caution=True,
    )  # fmt: skip


def does_not_fit(view: ArrayView) -> Finding | None:
    """Panels larger than their place, or more than it takes."""
    design = view.outlook.design
    for index, group in enumerate(design.panels):
        place = design.place(group.place_id)
        if place.width_m is None or place.length_m is None:
            continue
        columns = columns_of(place, group)
        rows = -(-group.count // columns)
        wide, long = (group.length, group.width) if group.turned else (group.width, group.length)
        over_w, over_l = columns * wide - place.width_m, rows * long - place.length_m
        if max(over_w, over_l) <= OVERLAP_M:
            continue
        return Finding(
            id="does_not_fit",
            level="warn",
            title=sentence("The panels on {name} are larger than it", name=words(place.name)),
            detail=sentence(
                "{n} in {c} columns take {w} by {l}; the place is {pw} by {pl}. Turn them, use fewer, or "
                "measure again.",
                n=count(group.count), c=count(columns), w=length(columns * wide), l=length(rows * long),
                pw=length(place.width_m), pl=length(place.length_m),
            ),
            why=_why(view, "Panels laid out in rows and columns"),
            field=f"/panels/{index}/count",
        )  # fmt: skip
    return None


def overlaps(view: ArrayView) -> Finding | None:
    """Panels on top of each other."""
    design = view.outlook.design
    boxes = []
    for group in design.panels:
        place = design.place(group.place_id)
        for panel in panels_of(place, group):
            corners = np.array(panel.corners)
            boxes.append((place.name, corners.min(axis=0), corners.max(axis=0)))
    for i, (name, low, high) in enumerate(boxes):
        for other, its_low, its_high in boxes[i + 1 :]:
            apart = np.minimum(high, its_high) - np.maximum(low, its_low)
            level = abs(high[2] - its_high[2]) < SAME_HEIGHT_M
            if level and apart[0] > OVERLAP_M and apart[1] > OVERLAP_M:
                return Finding(
                    id="overlaps",
                    level="warn",
                    title=sentence("Panels overlap: {a} and {b}", a=words(name), b=words(other)),
                    detail=sentence("Nothing is moved by itself. Shift one of the places."),
                    why=_why(view, "Panels in plan at the same height"),
                    field="/places",
                )
    return None


def outboard(view: ArrayView) -> Finding | None:
    """A place that reaches beyond the boat."""
    design = view.outlook.design
    half = design.hull.breadth_m / 2
    for index, place in enumerate(design.places):
        if place.at is None or place.kind is PlaceKind.SHORE:
            continue
        reach = abs(place.at.x_m) + (place.width_m or 0) / 2
        if reach <= half + RUBBING_M:
            continue
        return Finding(
            id="outboard",
            level="note" if place.kind in (PlaceKind.WING, PlaceKind.RAIL) else "warn",
            title=sentence("{name} reaches {d} outboard", name=words(place.name), d=length(reach - half)),
            detail=sentence("Fold it in locks, alongside, and before another boat comes near."),
            why=_why(view, "The place in plan against the hull's breadth"),
            field=f"/places/{index}/at/x_m",
            caution=True,
        )
    return None


def live_panels(view: ArrayView) -> Finding | None:
    """Standing cautions of working on panels."""
    if not view.outlook.design.panels:
        return None
    return Finding(
        id="live_panels",
        level="note",
        title=sentence("Panels are live whenever there is light"),
        detail=sentence(
            "Cover them or open the breaker before parting a connector. Work over water and at height with "
            "someone by; thin frames and fastenings are not handholds."
        ),
        why=Why(method="Usual cautions", source="Local codes and licensed practice come first.",
                doc="cautions"),
        caution=True,
    )  # fmt: skip


def array_findings(view: ArrayView) -> list[Finding]:
    """Everything the array tells, warnings first."""
    return ordered(
        [
            no_position(view), does_not_fit(view), overlaps(view), shade_costs(view), adds_up(view),
            outboard(view), top_weight(view), gust_load(view), live_panels(view),
        ]
    )  # fmt: skip
