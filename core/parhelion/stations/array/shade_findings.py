"""Findings about what takes the sun from the panels: one rule a function, each None where it is silent."""

from __future__ import annotations

import numpy as np

from parhelion.balance.outlook import Outlook
from parhelion.design import LYING, BoatDesign, Obstacle, Point
from parhelion.design.reads import kept
from parhelion.finding import Finding
from parhelion.panels.bodies import body_of
from parhelion.panels.deck import deck_of, obstacles_standing
from parhelion.panels.harvest import HARVEST_READS, harvest, met_by_controllers
from parhelion.panels.plane import plane_light
from parhelion.panels.shade import COARSE_DEG, shares_towards, sky_table, towards
from parhelion.panels.shaded import orientation
from parhelion.quantities import Fact, clock, count, energy, fraction, hours, sentence, words
from parhelion.stations.array.view import ArrayView, array_why
from parhelion.sun.daysteps import DaySteps
from parhelion.sun.light import Light
from parhelion.sun.skyline import hidden_hours

WORTH_FRAC = 0.01  # of the day's harvest before a shade is worth a word
WARN_FRAC = 0.04
SHIFTS = (  # forward and to starboard [m]
    (-0.8, 0.0, "0.8 m aft"),
    (0.8, 0.0, "0.8 m forward"),
    (0.0, 0.5, "0.5 m to starboard"),
    (0.0, -0.5, "0.5 m to port"),
)
SHIFT_WORTH_FRAC = 0.25  # of what the obstacle costs
CROSSED = 0.3  # shaded share of a cell that counts as crossed
UNEVEN = 0.05  # of the sky, between the best and the worst panel on one controller
HIDDEN_WORTH_H = 0.3
RULE_BAND = sentence(
    "A day within {near} of one worked out cell by cell; where a thing close above takes over {much} of a "
    "panel, {low} to {high} too little is left of it.",
    near=fraction(0.016), much=fraction(0.4), low=fraction(0.02), high=fraction(0.04),
)  # fmt: skip
MOST_COSTED = 10  # things whose cost alone is worked out
NEAR_M2 = 0.25


def _shown_wh(design: BoatDesign, shown: Light) -> float:
    """A what-if's shown day at the bank, from coarse sky tables: only to be set against another such [Wh]."""
    return float(shown.timeline.over(harvest(design, shown, COARSE_DEG).sun_w[0]))


def _looms(design: BoatDesign, thing: Obstacle) -> float:
    """About how large a thing stands in the sky of the nearest place with panels [m2/m2]."""
    foot, tip = thing.foot, thing.tip
    tall = ((tip.x_m - foot.x_m) ** 2 + (tip.y_m - foot.y_m) ** 2 + (tip.z_m - foot.z_m) ** 2) ** 0.5
    wide = max(2 * thing.radius_m, thing.width_m or 0, thing.length_m or 0)
    if thing.clew is not None:
        wide = max(wide, abs(thing.clew.y_m - foot.y_m) / 2, abs(thing.clew.x_m - foot.x_m) / 2)
    places = [design.place(group.place_id).at for group in design.fitted_panels]
    away = [(p.x_m - foot.x_m) ** 2 + (p.y_m - foot.y_m) ** 2 for p in places if p is not None]
    return tall * wide / max(min(away, default=1.0), NEAR_M2)


def obstacle_costs(outlook: Outlook) -> dict[str, float]:
    """What each obstacle alone costs of the shown day: the day with it against the day without [Wh].

    Of many only those that stand largest in the panels' sky: the others cost less.
    """
    return _costs(met_by_controllers(outlook.design), outlook.light.shown_alone)


@kept(HARVEST_READS, 32)
def _costs(design: BoatDesign, shown: Light) -> dict[str, float]:
    standing = sorted(obstacles_standing(design), key=lambda thing: -_looms(design, thing))[:MOST_COSTED]
    if not standing:
        return {}
    here = _shown_wh(design, shown)

    def without(thing: Obstacle) -> BoatDesign:
        return design.changed(obstacles=tuple(other for other in design.obstacles if other.id != thing.id))

    return {thing.id: _shown_wh(without(thing), shown) - here for thing in standing}


def _moved(thing: Obstacle, forward_m: float, starboard_m: float) -> Obstacle:
    def point(p: Point) -> Point:
        return p.model_copy(update={"x_m": p.x_m + starboard_m, "y_m": p.y_m + forward_m})

    clew = point(thing.clew) if thing.clew else None
    return thing.model_copy(update={"foot": point(thing.foot), "tip": point(thing.tip), "clew": clew})


@kept(HARVEST_READS, 32)
def _crossing(design: BoatDesign, shown: Light, index: int) -> tuple[int, int, str, float] | None:
    """Cell rows a thing crosses of the panel it harms most, at which full hour: rows, of how many, place,
    minutes.

    None where the heading is not one.
    """
    heading, day, found = design.plan.heading_deg, shown.day, deck_of(design)
    assert isinstance(day, DaySteps)
    if heading is None or design.plan.swing_deg:
        return None
    thing = next(o for o in found.obstacles if o.id == design.obstacles[index].id)
    full = [i for i in range(len(day.elevation_deg)) if day.elevation_deg[i] > 0]
    minutes = [(m := day.at_index(i + 0.5)).hour * 60 + m.minute for i in full]
    steps = [i for i, m in zip(full, minutes, strict=True) if min(m % 60, 60 - m % 60) <= 5]
    if not steps:
        return None
    body = body_of(thing)
    sun = towards((day.azimuth_deg[steps] - heading) % 360, day.elevation_deg[steps])
    worst: tuple[float, int, int, str, int] | None = None
    for deck in found.groups:
        for panel, bodies in zip(deck.panels, deck.bodies, strict=True):
            if body not in bodies or not deck.gives:
                continue
            shares = shares_towards(panel, (body,), sun)
            lit = plane_light(shown, *orientation(panel, heading))
            lost = shares.mean(axis=(0, 1)) * lit.beam_w_per_m2[0, steps]
            k = int(lost.argmax())
            if worst is None or lost[k] > worst[0]:
                lines = shares[:, :, k].max(axis=0 if panel.strings_across else 1)
                worst = float(lost[k]), int((lines > CROSSED).sum()), len(lines), deck.place.name, steps[k]
    if worst is None or worst[1] == 0:
        return None
    moment = day.at_index(worst[4] + 0.5)
    return worst[1], worst[2], worst[3], 60.0 * round((moment.hour * 60 + moment.minute) / 60)


@kept(HARVEST_READS, 32)
def _best_shift(design: BoatDesign, shown: Light, index: int) -> tuple[float, str]:
    """The shift of a thing that returns most of the shown day, and what it returns at the bank [Wh]."""
    here, gains = _shown_wh(design, shown), []
    for forward, starboard, name in SHIFTS:
        things = list(design.obstacles)
        things[index] = _moved(things[index], forward, starboard)
        gains.append((_shown_wh(design.changed(obstacles=tuple(things)), shown) - here, name))
    return max(gains, key=lambda gain: gain[0])


def shade_costs(view: ArrayView) -> Finding | None:
    """The obstacle that costs most, where it falls, and where it would cost less."""
    design, whole = view.design, view.day_wh
    if not view.costs or whole <= 0:
        return None
    worst = max(view.costs, key=lambda key: view.costs[key])
    cost = view.costs[worst]
    if cost < WORTH_FRAC * whole:
        return None
    index = next(i for i, thing in enumerate(design.obstacles) if thing.id == worst)
    gain, where = _best_shift(met_by_controllers(design), view.outlook.light.shown_alone, index)
    told = sentence("{x} of the harvest.", x=fraction(cost / (whole + cost)))
    slots, text = dict(told.slots), told.text
    crossed = _crossing(met_by_controllers(design), view.outlook.light.shown_alone, index)
    if crossed is not None:
        text += " At {at} it crosses {n} of {of} cell rows of a panel on {place}."
        slots |= {"at": clock(crossed[3]), "n": count(crossed[0]), "of": count(crossed[1]),
                  "place": words(crossed[2])}  # fmt: skip
    if gain > SHIFT_WORTH_FRAC * cost:
        text += f" {where[0].upper()}{where[1:]} returns {{e}} a day."
        slots["e"] = energy(gain)
    else:
        text += " Take it down, or lay it over, when the sun is on that side."
    return Finding(
        id="shade_costs",
        level="warn" if cost > WARN_FRAC * whole else "note",
        title=sentence(
            "{name} costs {e} a day", name=words(design.obstacles[index].name), e=energy(cost)
        ),
        detail=sentence(text, **slots),
        why=array_why(
            view, "The shown day with it and without it, by the rule of substrings", doc="shade",
            band=RULE_BAND,
        ),
        field=f"/obstacles/{index}/foot/y_m",
    )  # fmt: skip


def uneven_shade(view: ArrayView) -> Finding | None:
    """Panels on one controller that see different skies."""
    for deck in view.deck.groups:
        if deck.leaves > 1 or len(deck.panels) < 2 or not deck.gives or not any(deck.bodies):
            continue
        views = [
            sky_table(panel, bodies).sky_view if bodies else 1.0
            for panel, bodies in zip(deck.panels, deck.bodies, strict=True)
        ]
        if max(views) - min(views) < UNEVEN:
            continue
        return Finding(
            id="uneven_shade",
            level="note",
            title=sentence("Panels on {name} are shaded unevenly", name=words(deck.place.name)),
            detail=sentence(
                "One sees {low} of its sky, another {high}. In series the worst holds the rest back: give "
                "each its own controller, or wire them in parallel.",
                low=fraction(min(views)), high=fraction(max(views)),
            ),
            why=array_why(view, "Sky left to each panel, from its sky table", doc="shade"),
        )  # fmt: skip
    return None


def skyline_hides(view: ArrayView) -> Finding | None:
    """Hours that trees, hills and buildings ashore take."""
    design = view.design
    if design.plan.state not in LYING or not design.site.skyline or not design.panels:
        return None
    lost = hidden_hours(view.outlook.day, design.site.skyline)
    open_sky = design.changed(site=design.site.model_copy(update={"skyline": ()}))
    shown = view.outlook.light.shown_alone
    cost = _shown_wh(open_sky, shown) - _shown_wh(design, shown)
    if lost < HIDDEN_WORTH_H and cost < WORTH_FRAC * view.day_wh:
        return None
    return Finding(
        id="skyline_hides",
        level="warn" if cost > WARN_FRAC * view.day_wh else "note",
        title=sentence("The shore hides the sun for {h}", h=hours(lost)),
        detail=sentence("It costs {e} this day. Lie further off, or on the other side.", e=energy(cost)),
        why=array_why(view, "Sun's height against the skyline by bearing; less of the even sky, too",
                      Fact(label="Without it", value=energy(view.day_wh + cost)), doc="shade"),
        field="/site/skyline",
    )  # fmt: skip


def no_position(view: ArrayView) -> Finding | None:
    """Panels whose shade is not known."""
    design = view.design
    unknown = [design.place(g.place_id).name for g in design.panels if design.place(g.place_id).at is None]
    if not unknown or not design.obstacles:
        return None
    return Finding(
        id="no_position",
        level="warn",
        title=sentence("No shade is counted on {names}", names=words(", ".join(dict.fromkeys(unknown)))),
        detail=sentence("Its position on the boat is not known. Give it one, and its height."),
        why=array_why(view, "Shade needs the place of panels and spars in the boat"),
        field="/places",
    )


def spar_through_panel(view: ArrayView) -> Finding | None:
    """A spar that stands where a panel lies."""
    found = _pierced(met_by_controllers(view.design))
    if found is None:
        return None
    index, place = found
    return Finding(
        id="spar_through_panel",
        level="warn",
        title=sentence(
            "{name} goes through a panel on {place}",
            name=words(view.design.obstacles[index].name), place=words(place),
        ),
        detail=sentence("Nothing is moved by itself. Shift one of them, or turn the panels."),
        why=array_why(view, "The line from foot to top against each panel", doc="shade"),
        field=f"/obstacles/{index}/foot/x_m",
    )  # fmt: skip


@kept(HARVEST_READS, 32)
def _pierced(design: BoatDesign) -> tuple[int, str] | None:
    """The first thing that goes through a panel, by its number, and the name of the panel's place."""
    found = deck_of(design)
    for thing in found.obstacles:
        for deck in found.groups:
            if any(_pierces(thing, panel.corners) for panel in deck.panels):
                return next(i for i, o in enumerate(design.obstacles) if o.id == thing.id), deck.place.name
    return None


def _pierces(thing: Obstacle, corners: list[tuple[float, float, float]]) -> bool:
    """Whether the line of an obstacle from foot to tip, as thick as it is, meets a panel."""
    a, b, _, d = (np.array(c) for c in corners)
    foot, tip = (np.array((p.x_m, p.y_m, p.z_m)) for p in (thing.foot, thing.tip))
    u, v = b - a, d - a
    normal = np.cross(u, v)
    along = float((tip - foot) @ normal)
    if abs(along) < 1e-9:
        return False
    t = float((a - foot) @ normal) / along
    if not 0 <= t <= 1:
        return False
    hit = foot + t * (tip - foot) - a
    inside = [float(hit @ side) / float(side @ side) for side in (u, v)]
    slack = [thing.radius_m / float(np.linalg.norm(side)) for side in (u, v)]
    return all(-s <= i <= 1 + s for i, s in zip(inside, slack, strict=True))
