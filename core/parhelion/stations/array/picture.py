"""Deck in the sun: the boat in plan, its panels cell by cell, what shades them, the sky from one panel."""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import date as Date
from functools import partial
from typing import Annotated

import numpy as np
from numpy.typing import NDArray
from pydantic import Field

from parhelion.balance.outlook import Outlook, harvest_of
from parhelion.computing.kept import kept_by_arguments
from parhelion.computing.together import together
from parhelion.design import (
    LYING,
    BoatDesign,
    BoatState,
    How,
    Obstacle,
    PanelSet,
    Place,
    PlaceKind,
    Shape,
    Tended,
)
from parhelion.design.reads import Reads, kept
from parhelion.hull.outline import outlines
from parhelion.panels.bodies import body_of
from parhelion.panels.deck import DeckGroup, deck_of
from parhelion.panels.harvest import group_power_per_watt, harvest, met_by_controllers
from parhelion.panels.layout import axes, most_that_fit
from parhelion.panels.plane import plane_light
from parhelion.panels.shade import (
    COARSE_DEG,
    STEP_DEG,
    shares_towards,
    sky_directions,
    sky_table,
    towards,
)
from parhelion.panels.shaded import cast_shade, headings_of, light_over, orientation
from parhelion.panels.tending import panel_powers
from parhelion.panels.turned import by_heading, turned
from parhelion.quantities import Frozen
from parhelion.stations.array.findings import array_view
from parhelion.sun.climate import Air, air_of
from parhelion.sun.daysteps import DaySteps, day_steps
from parhelion.sun.light import Light
from parhelion.sun.skyline import height_deg, sky_left
from parhelion.wiring.held import Held, held_in

Array = NDArray[np.float64]

PATH_DATES = (("June", 6), ("September", 9), ("December", 12))
DRAFT_ABOVE = 6  # panels: fewer are quick at any rate
EVERY = 3  # of the steps, for the cells' colours where headings are averaged
NOWHERE = "Give this place a position to see what shades it."
DRAWN_READS = Reads.all_but(
    "name", "note", "use", "loading", "tows", "runs", "fitted_set", "drives", "pushes", "loads", "sources",
    "passage", "wish", "plan.trip", "plan.budget", "plan.speed_mps", "plan.spells", "plan.start_charge_frac",
    "plan.wave_height_m", "plan.current_mps",
)  # fmt: skip


class Spot(Frozen):
    """A point in plan [m]."""

    x_m: float
    y_m: float


class Corner(Spot):
    z_m: float


class DeckPanel(Frozen):
    """One panel on the deck."""

    group_id: str
    place_id: str
    number: int
    corners: list[Corner]
    columns: int  # of cells, along the first side
    rows: int
    cells: list[float]  # share of the day's beam that each keeps, row by row from the first corner
    day_wh: float  # at the panel, this day
    yield_h: float  # kWh per kW of nameplate, this day
    kept_frac: float  # of what it would give with nothing aboard in the way


class DeckPlace(Frozen):
    """One place in plan."""

    id: str
    name: str
    kind: str
    how: How  # it stands, in the state of the plan
    tilt_deg: float
    corners: list[Corner]
    nameplate_w: float
    panels: int
    mass_kg: float
    height_m: float | None
    day_wh: float
    lost_frac: float
    fits: int  # panels of the first group on it, as many as it takes
    fits_turned: int  # the same, with their long side athwart
    missing: str | None = None


class DeckThing(Frozen):
    """Something that throws shade."""

    id: str
    name: str
    shape: Shape
    foot: Corner
    tip: Corner
    radius_m: float
    faces: list[list[Corner]]  # of a box or a sail
    stands: bool  # in the state of the plan


class StateYield(Frozen):
    """What the boat harvests in one of her states, this day under this sky."""

    state: BoatState
    day_wh: float


class SunAt(Frozen):
    azimuth_deg: float
    elevation_deg: float


class SkyPath(Frozen):
    """The sun over one day as the panel sees it: bearings off the bow, heights."""

    label: str
    points: list[SunAt]


class SkyDome(Frozen):
    """The sky over one panel."""

    group_id: str
    number: int
    bearings_deg: list[float]
    heights_deg: list[float]
    shade: list[list[float]]  # mean shaded share, by bearing then height
    sky_view_frac: float
    skyline_deg: list[float]  # height of what stands ashore, by bearing; empty where it does not count
    paths: list[SkyPath]


class ArrayPicture(Frozen):
    """Everything the Array station shows; steps are those of the day."""

    outlines: list[list[Spot]]
    length_m: float
    breadth_m: float
    places: list[DeckPlace]
    panels: list[DeckPanel]
    things: list[DeckThing]
    sun: list[SunAt]
    clock_min: list[float]
    noon_index: float
    sunset_index: float | None
    heading_deg: float | None
    nameplate_w: float
    day_wh: float  # at the bank's terminals
    sun_w: list[float]  # at the bank's terminals, by step
    shade_wh: float  # what all that stands aboard costs together, at the panels
    mass_kg: float
    dome: SkyDome | None
    coarse: bool  # whether it was drawn from the coarser sky tables of a draft


class SetYield(Frozen):
    """What the panels as planned, or as built, add up to and harvest this day."""

    panel_set: PanelSet
    nameplate_w: float
    mass_kg: float
    day_wh: float


class ThingCost(Frozen):
    """What one thing costs of this day, at the bank."""

    id: str
    cost_wh: float


class ArrayAdvice(Frozen):
    """What takes longer than the picture: the costs of what stands, the other states."""

    costs: list[ThingCost]
    states: list[StateYield]
    sets: list[SetYield]  # empty where planned and built are the same


def array_picture(
    outlook: Outlook,
    group_id: str | None = None,
    number: Annotated[int, Field(ge=0, lt=400)] = 0,
    draft: bool = False,
) -> ArrayPicture:
    """Everything the Array station shows of a design, the sky from one panel of a group.

    A draft of many panels reads coarser sky tables, so that it follows a drag.
    """
    return _drawn(met_by_controllers(outlook.design), outlook.light, group_id, number, draft)


@kept(DRAWN_READS, 24)
def _drawn(design: BoatDesign, light: Light, group_id: str | None, number: int, draft: bool) -> ArrayPicture:
    """The picture of what stands on the deck, whatever else is aboard."""
    day = light.day
    assert isinstance(day, DaySteps)
    deck = deck_of(design)
    many = sum(len(group.panels) for group in deck.groups) > DRAFT_ABOVE
    step_deg = COARSE_DEG if draft and many else STEP_DEG
    cast_shade([group for group in deck.groups if group.gives], step_deg)
    panels = [panel for group in deck.groups for panel in _deck_panels(design, light, group, step_deg)]
    sun_w = _shown_w(design, light, step_deg)
    placed = [g for g in deck.groups if g.panels]
    chosen = next((g for g in placed if g.group.id == group_id), placed[0] if placed else None)
    return ArrayPicture(
        outlines=[[Spot(x_m=x, y_m=y) for x, y in line] for line in outlines(design)],
        length_m=design.hull.waterline_length_m,
        breadth_m=design.hull.breadth_m,
        places=[_deck_place(design, place.id, panels) for place in design.places],
        panels=panels,
        things=[_thing(thing, thing.as_it_stands(design.plan.state)) for thing in design.obstacles],
        sun=_track(day.azimuth_deg, day.elevation_deg),
        clock_min=day.timeline.clock_min,
        noon_index=day.index_at(day.solar_noon_at),
        sunset_index=day.dusk_index if day.sunset_at else None,
        heading_deg=design.plan.heading_deg,
        nameplate_w=design.nameplate_w,
        day_wh=float(day.timeline.over(sun_w)),
        sun_w=sun_w.tolist(),
        shade_wh=sum(p.day_wh / p.kept_frac - p.day_wh for p in panels if p.kept_frac > 0),
        mass_kg=design.panels_kg,
        dome=_dome(design, chosen, number, step_deg) if chosen is not None else None,
        coarse=step_deg > STEP_DEG,
    )  # fmt: skip


def whole_picture(
    outlook: Outlook, group_id: str | None = None, number: Annotated[int, Field(ge=0, lt=400)] = 0
) -> ArrayPicture:
    """The same once nobody drags anything: never coarse."""
    return array_picture(outlook, group_id, number)


def array_advice(outlook: Outlook) -> ArrayAdvice:
    """Costs of what stands in the sun, and the other states of the boat: it takes longer than the picture."""
    view = array_view(outlook)
    return ArrayAdvice(
        costs=[ThingCost(id=key, cost_wh=cost) for key, cost in view.costs.items()],
        states=[StateYield(state=state, day_wh=_state_wh(outlook, state)) for state in BoatState],
        sets=_sets(outlook),
    )


def _shown_w(design: BoatDesign, light: Light, step_deg: float) -> Array:
    """At the banks' terminals on the shown day, shape (144,) [W]; without the other members where they do not
    matter, so that a picture follows a drag."""
    if any(place.tended is not Tended.LEFT for place in design.places):
        return harvest_of(design, light).sun_w[light.shown]  # tilts are chosen on the mean of all members
    return harvest(design, light.shown_alone, step_deg).sun_w[0]


def _track(azimuth_deg: Array, elevation_deg: Array) -> list[SunAt]:
    return [
        SunAt(azimuth_deg=float(a), elevation_deg=float(e))
        for a, e in zip(azimuth_deg, elevation_deg, strict=True)
    ]


def _state_wh(outlook: Outlook, state: BoatState) -> float:
    """What the banks get on the shown day with the boat in a state [Wh]."""
    plan = outlook.design.plan
    if state is plan.state:
        return outlook.wh(outlook.shown_sun_w)
    design = outlook.design.changed(plan=plan.model_copy(update={"state": state}))
    return outlook.wh(harvest(design, outlook.light.shown_alone).sun_w[0])


def _sets(outlook: Outlook) -> list[SetYield]:
    if all(group.belongs is PanelSet.BOTH for group in outlook.design.panels):
        return []
    found = []
    for panel_set in (PanelSet.PLANNED, PanelSet.BUILT):
        design = outlook.design.changed(panel_set=panel_set)
        day_wh = outlook.wh(harvest(design, outlook.light.shown_alone).sun_w[0])
        found.append(
            SetYield(
                panel_set=panel_set, nameplate_w=design.nameplate_w, mass_kg=design.panels_kg, day_wh=day_wh
            )
        )
    return found


def _corner(point: Array) -> Corner:
    return Corner(x_m=float(point[0]), y_m=float(point[1]), z_m=float(point[2]))


def _thing(thing: Obstacle, standing: Obstacle | None) -> DeckThing:
    obstacle = standing or thing
    faces = body_of(obstacle).faces
    return DeckThing(
        id=obstacle.id, name=obstacle.name, shape=obstacle.shape,
        foot=Corner(**obstacle.foot.model_dump()), tip=Corner(**obstacle.tip.model_dump()),
        radius_m=obstacle.radius_m,
        faces=[[_corner(c) for c in face[:12].reshape(4, 3)[: int(face[12])]] for face in faces],
        stands=standing is not None,
    )  # fmt: skip


@dataclass(frozen=True)
class _Laid:
    """Panels of a group as they stand, left at their tilt; panel by panel."""

    given_wh: Array  # of the shown day, over nameplate [Wh/W]
    free_wh: Array  # the same with nothing around
    cells: list[list[float]]


def _deck_panels(design: BoatDesign, light: Light, deck: DeckGroup, step_deg: float) -> list[DeckPanel]:
    """The panels of a group with their cells; a folding panel's leaves share what it gives."""
    group, shown = deck.group, light.shown_alone
    if not deck.panels or deck.how in (How.FOLDED, How.GONE):
        return []
    here = light_over(design, shown, deck.place.kind)
    held = held_in(design, group)
    laid = _lay(here, deck.lit, headings_of(design), air_of(design), held, step_deg)
    leaves, given = deck.leaves, laid.given_wh * group.nameplate_w
    tended = shown.timeline.over(group_power_per_watt(design, shown, deck, step_deg)[0]) * group.nameplate_w
    usual = given.mean() * leaves
    scale = float(tended / usual) if usual > 0 else 1.0
    return [
        DeckPanel(
            group_id=group.id,
            place_id=deck.place.id,
            number=index,
            corners=[_corner(np.array(c)) for c in panel.corners],
            columns=panel.columns,
            rows=panel.rows,
            cells=laid.cells[index] if deck.gives else [0.0] * panel.columns * panel.rows,
            day_wh=float(given[index]) * scale,
            yield_h=float(given[index]) * scale * leaves / group.nameplate_w,
            kept_frac=float(laid.given_wh[index] / laid.free_wh[index]) if laid.free_wh[index] > 0 else 1.0,
        )
        for index, panel in enumerate(deck.panels)
    ]


@kept_by_arguments(64)
def _lay(
    light: Light, deck: DeckGroup, headings: tuple[float, ...], air: Air, held: Held | None, step_deg: float
) -> _Laid:
    """What each panel of a group gives and keeps: other edits cost nothing."""
    number, leaves, timeline = len(deck.panels), deck.leaves, light.timeline

    def energy(of: DeckGroup) -> Array:
        """Of each panel, the mean of the headings, shape (panels,)."""

        powers = panel_powers(turned(light, headings), of, 0.0, air, held, step_deg)
        days = [timeline.over(by_heading(w, headings)[:, 0]) for w in powers]
        each = np.mean(days, axis=1) / leaves
        return np.asarray(np.broadcast_to(np.repeat(each, leaves), number))

    bare = replace(deck, bodies=tuple(() for _ in deck.panels))
    free, given = energy(bare), energy(deck)
    cells: list[list[float]] = []
    if deck.gives:
        cells = together([partial(_cells, light, deck, index, headings) for index in range(number)])
    return _Laid(given, free, cells)


def _cells(light: Light, deck: DeckGroup, index: int, headings: tuple[float, ...]) -> list[float]:
    """Share of the day's beam that each cell keeps, row by row."""
    panel, bodies, day = deck.panels[index], deck.bodies[index], light.day
    if not bodies:
        return [1.0] * panel.columns * panel.rows
    up = np.flatnonzero(day.elevation_deg > 0)[:: 1 if len(headings) == 1 else EVERY]
    turned = np.repeat(headings, len(up))
    beam = np.concatenate(
        [plane_light(light, *orientation(panel, heading)).beam_w_per_m2[0, up] for heading in headings]
    )
    around = np.tile(day.azimuth_deg[up], len(headings)) - turned
    directions = towards(around % 360.0, np.tile(day.elevation_deg[up], len(headings)))
    whole = beam.sum()
    lost = shares_towards(panel, bodies, directions) @ beam
    kept = 1 - lost / whole if whole > 0 else np.ones_like(lost)
    return [round(float(v), 4) for v in kept.ravel()]


def _corners_of(place: Place) -> list[Corner]:
    """Corners of a place in plan, none where it has no position or size."""
    if place.at is None or place.width_m is None or place.length_m is None:
        return []
    u, v = axes(place)
    middle = np.array([place.at.x_m, place.at.y_m, place.at.z_m])
    return [
        _corner(middle + a * u * place.width_m / 2 + b * v * place.length_m / 2)
        for a, b in ((-1, -1), (1, -1), (1, 1), (-1, 1))
    ]


def _deck_place(design: BoatDesign, place_id: str, panels: list[DeckPanel]) -> DeckPlace:
    place, how = design.as_it_stands(design.place(place_id))
    groups = [group for group in design.fitted_panels if group.place_id == place_id]
    mine = [panel for panel in panels if panel.place_id == place_id]
    day_wh = sum(panel.day_wh for panel in mine)
    free_wh = sum(panel.day_wh / panel.kept_frac for panel in mine if panel.kept_frac > 0)
    return DeckPlace(
        id=place.id,
        name=place.name,
        kind=place.kind,
        how=how,
        tilt_deg=place.tilt_deg,
        corners=_corners_of(place),
        nameplate_w=sum(group.nameplate_w * group.count for group in groups),
        panels=sum(group.count for group in groups),
        mass_kg=sum(group.mass for group in groups),
        height_m=place.at.z_m if place.at else None,
        day_wh=day_wh,
        lost_frac=1 - day_wh / free_wh if free_wh > 0 else 0.0,
        fits=most_that_fit(place, groups[0], False) if groups else 0,
        fits_turned=most_that_fit(place, groups[0], True) if groups else 0,
        missing=NOWHERE if place.at is None else None,
    )


def _dome(design: BoatDesign, deck: DeckGroup, number: int, step_deg: float) -> SkyDome:
    """The sky from one panel: what is in the way, and the sun's paths in three months."""
    index = min(max(number, 0), len(deck.panels) - 1)
    table = sky_table(deck.panels[index], deck.bodies[index], step_deg)
    bearings, heights = sky_directions(step_deg)
    drawn = np.isclose(heights % step_deg, 0)  # evenly, as the dome is drawn
    heading = design.plan.heading_deg or 0.0
    paths = []
    for label, month in PATH_DATES:
        day = day_steps(design.site, Date(design.plan.date.year, month, 21))
        up = day.elevation_deg > 0
        bearing = (day.azimuth_deg[up] - heading) % 360.0
        paths.append(SkyPath(label=label, points=_track(bearing[::2], day.elevation_deg[up][::2])))
    ashore = design.plan.state in LYING or deck.place.kind is PlaceKind.SHORE
    skyline = design.site.skyline if ashore else ()
    return SkyDome(
        group_id=deck.group.id, number=index, bearings_deg=bearings.tolist(),
        heights_deg=heights[drawn].tolist(),
        shade=np.round(table.mean[:, drawn], 3).tolist(), sky_view_frac=table.sky_view * sky_left(skyline),
        skyline_deg=height_deg(skyline, (bearings + heading) % 360.0).tolist() if skyline else [],
        paths=paths,
    )  # fmt: skip
