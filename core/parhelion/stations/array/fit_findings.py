"""Findings about what is on the boat: sums, sizes, names, hinges and datasheets."""

from __future__ import annotations

from collections import Counter

import numpy as np

from parhelion.design import HIDDEN, How, PlaceKind
from parhelion.finding import Finding
from parhelion.panels.datasheet import doubts
from parhelion.panels.layout import columns_of
from parhelion.quantities import angle, count, fraction, length, mass, power, sentence, words
from parhelion.stations.array.view import ArrayView, array_why

RUBBING_M = 0.15  # outboard that passes for a rubbing strake
OVERLAP_M, SAME_HEIGHT_M = 0.01, 0.15
CLAIM_OFF = 0.02  # between an advertised total and its parts


def adds_up(view: ArrayView) -> Finding | None:
    """The nameplate recounted from its parts."""
    design = view.outlook.design
    if not design.panels:
        return Finding(
            id="adds_up",
            level="note",
            title=sentence("No panels yet"),
            detail=sentence("Add a place and put panels on it: the sky decides the rest."),
            why=array_why(view, "Nothing to add up"),
        )
    if not design.nameplate_w:
        return None
    best = float(view.outlook.clear_harvest.sun_w.max())
    if best <= 0:
        return None  # what gives nothing is told by itself
    number = sum(group.count for group in design.fitted_panels)
    kg = design.panels_kg + design.frames_kg
    return Finding(
        id="adds_up",
        level="good",
        title=sentence("{x} of nameplate at the clear peak", x=fraction(best / design.nameplate_w)),
        detail=sentence(
            ("{n} panels add up to {w}, " if number > 1 else "One panel of {w}, ")
            + ("{m} with frames" if design.frames_kg else "{m}, frames not counted")
            + ": {k} a kilogram.",
            n=count(number), w=power(design.nameplate_w),
            m=mass(kg), k=power(design.nameplate_w / kg),
        ),
        why=array_why(view, "Salt, mismatch, wiring, heat and conversion taken off one by one"),
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
        over_w, over_l = columns * wide - (place.width_m - place.clear_m), rows * long - place.length_m
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
                pw=length(place.width_m - place.clear_m), pl=length(place.length_m),
            ),
            why=array_why(view, "Panels laid out in rows and columns"),
            field=f"/panels/{index}/count",
        )  # fmt: skip
    return None


def overlaps(view: ArrayView) -> Finding | None:
    """Panels on top of each other."""
    laid = [
        (deck, np.array(panel.corners))
        for deck in view.deck.groups
        if deck.how not in HIDDEN and deck.leaves == 1
        for panel in deck.panels
    ]
    if not laid:
        return None
    low = np.array([corners.min(axis=0) for _, corners in laid])
    high = np.array([corners.max(axis=0) for _, corners in laid])
    for i, (deck, _) in enumerate(laid):
        apart = np.minimum(high[i], high[i + 1 :]) - np.maximum(low[i], low[i + 1 :])
        level = np.abs(high[i, 2] - high[i + 1 :, 2]) < SAME_HEIGHT_M
        hits = np.flatnonzero(level & (apart[:, 0] > OVERLAP_M) & (apart[:, 1] > OVERLAP_M))
        if hits.size:
            other = laid[i + 1 + int(hits[0])][0]
            return Finding(
                id="overlaps",
                level="warn",
                title=sentence(
                    "Panels overlap: {a} and {b}", a=words(deck.place.name), b=words(other.place.name)
                ),
                detail=sentence("Nothing is moved by itself. Shift one of the places."),
                why=array_why(view, "Panels in plan at the same height"),
                field=view.place_field(other.place.id, "at/x_m"),
            )
    return None


def outboard(view: ArrayView) -> Finding | None:
    """A place that reaches beyond the boat."""
    design = view.outlook.design
    half = design.hull.breadth_m / 2
    reaches = [
        (abs(place.at.x_m) + (place.width_m or 0) / 2, index, place)
        for index, place in enumerate(design.places)
        if place.at is not None
        and place.kind is not PlaceKind.SHORE
        and view.design.as_it_stands(place)[1] not in HIDDEN
    ]
    reach, index, place = max(reaches, key=lambda item: item[0], default=(0.0, 0, None))
    if place is None or reach <= half + RUBBING_M:
        return None
    return Finding(
        id="outboard",
        level="note" if place.kind in (PlaceKind.WING, PlaceKind.RAIL) else "warn",
        title=sentence("{name} reaches {d} outboard", name=words(place.name), d=length(reach - half)),
        detail=sentence("Fold it in locks, alongside, and before another boat comes near."),
        why=array_why(view, "The place in plan against the hull's breadth"),
        field=f"/places/{index}/at/x_m",
        caution=True,
    )


def claimed(view: ArrayView) -> Finding | None:
    """An advertised total against its parts."""
    design = view.design
    if design.claimed_w is None or not design.nameplate_w:
        return None
    off = design.nameplate_w / design.claimed_w - 1
    if abs(off) < CLAIM_OFF:
        return None
    return Finding(
        id="claimed",
        level="warn",
        title=sentence(
            "The advertised {c} adds up to {w}", c=power(design.claimed_w), w=power(design.nameplate_w)
        ),
        detail=sentence("Counted from the panels, {x} of what is claimed. Read the labels on their backs.",
                        x=fraction(1 + off)),
        why=array_why(view, "Nameplates times their number"),
        field="/claimed_w",
    )  # fmt: skip


def same_name(view: ArrayView) -> Finding | None:
    """Two places that cannot be told apart."""
    names = Counter(place.name.strip().lower() for place in view.design.places)
    for index, place in enumerate(view.design.places):
        if names[place.name.strip().lower()] > 1:
            return Finding(
                id="same_name",
                level="warn",
                title=sentence("Two places are called {name}", name=words(place.name)),
                detail=sentence("Every finding names its place: call one of them something else."),
                why=array_why(view, "Names compared"),
                field=f"/places/{index}/name",
            )
    return None


def beyond_hinge(view: ArrayView) -> Finding | None:
    """A tilt that the hinge does not reach."""
    state = view.design.plan.state
    for place in view.design.places:
        if not place.hinged:
            continue
        least, most = place.hinge_deg
        standing = place.stands.in_state(state)
        tilted = standing.how is How.TILTED
        tilt = standing.tilt_deg if tilted else place.tilt_deg
        if standing.how in HIDDEN or least <= tilt <= most:
            continue
        entry = f"stands/{state.value}/tilt_deg" if tilted else "tilt_deg"
        return Finding(
            id="beyond_hinge",
            level="warn",
            title=sentence("{name} stands at {t}, beyond its hinge", name=words(place.name), t=angle(tilt)),
            detail=sentence("It goes from {a} to {b}. The harvest is counted at the tilt you gave.",
                            a=angle(least), b=angle(most)),
            why=array_why(view, "The tilt against the hinge's range", doc="tilt"),
            field=view.place_field(place.id, entry),
        )  # fmt: skip
    return None


def doubtful_datasheet(view: ArrayView) -> Finding | None:
    """A datasheet that cannot be true."""
    for index, group in enumerate(view.design.panels):
        found = doubts(group)
        if found:
            doubt = found[0]
            place = view.design.place(group.place_id).name
            return Finding(
                id="doubtful_datasheet",
                level="warn",
                title=sentence("{p}: this datasheet cannot be true",
                               p=words(group.model or f"A panel on {place}")),
                detail=sentence("{m} It would be believed with {a}.",
                                m=words(doubt.message), a=words(doubt.accepted)),
                why=array_why(view, "Volts times amps against watts, open against best, watts against size"),
                field=f"/panels/{index}/{doubt.field}",
            )  # fmt: skip
    return None


def stowed(view: ArrayView) -> Finding | None:
    """Panels that give nothing in the plan's state."""
    dark = [deck for deck in view.deck.groups if not deck.gives]
    if not dark:
        return None
    watts = sum(deck.group.nameplate_w * deck.group.count for deck in dark)
    names = list(dict.fromkeys(deck.place.name for deck in dark))
    return Finding(
        id="stowed",
        level="note",
        title=sentence(
            "{w} give nothing {state}", w=power(watts), state=words(view.design.plan.state.label)
        ),
        detail=sentence("{names}: folded, covered or gone in this state.", names=words(", ".join(names))),
        why=array_why(view, "Each place as it stands in the state of the plan"),
        field=view.place_field(dark[0].place.id, f"stands/{view.design.plan.state.value}/how"),
    )  # fmt: skip
