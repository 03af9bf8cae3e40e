"""Deck in the sun: the boat in plan, its panels cell by cell, what shades them, the sky from one panel."""

from __future__ import annotations

from datetime import date as Date

import numpy as np
from numpy.typing import NDArray

from parhelion.advice.array import ArrayView, array_findings, spar_costs
from parhelion.advice.finding import Finding
from parhelion.array.harvest import air_temperature_c
from parhelion.array.layout import PanelAt, axes, most_that_fit, panels_of
from parhelion.array.panel import power_per_watt
from parhelion.array.plane import PlaneLight, plane_light
from parhelion.array.shade import shares_towards, sky_directions, sky_table, spars_of, towards
from parhelion.array.shaded import facing_deg, headings_of, panel_light, tilt_of
from parhelion.constants import STEP_H
from parhelion.day.outlook import Outlook, outlook_of
from parhelion.design import BoatDesign, PanelGroup
from parhelion.memo import Memo
from parhelion.quantities import Frozen
from parhelion.sun.daysteps import day_steps

Array = NDArray[np.float64]

OUTLINE_POINTS = 24  # along one side of a hull
BOW_FINENESS, STERN_BREADTH = 1.7, 0.72  # of a usual outline: how the bow closes, and the stern over the beam
PATH_DATES = (("June", 6), ("September", 9), ("December", 12))
NOWHERE = "Give this place a position to see what shades it."


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
    kept_frac: float  # of what it would give with nothing in the way


class DeckPlace(Frozen):
    """One place in plan."""

    id: str
    name: str
    kind: str
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


class DeckSpar(Frozen):
    """One spar and what it costs this day."""

    id: str
    name: str
    foot: Corner
    tip: Corner
    radius_m: float
    cost_wh: float


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
    paths: list[SkyPath]


class ArrayPicture(Frozen):
    """Everything the Array station shows; steps are those of the day."""

    outlines: list[list[Spot]]
    length_m: float
    breadth_m: float
    places: list[DeckPlace]
    panels: list[DeckPanel]
    spars: list[DeckSpar]
    sun: list[SunAt]
    clock_min: list[float]
    noon_index: float
    sunset_index: float | None
    heading_deg: float | None
    nameplate_w: float
    day_wh: float  # at the bank's terminals
    sun_w: list[float]  # at the bank's terminals, by step
    shade_wh: float  # what all spars cost together, at the panels
    mass_kg: float
    dome: SkyDome | None
    findings: list[Finding]


def array_picture(design: BoatDesign, group_id: str | None = None, number: int = 0) -> ArrayPicture:
    """Everything the Array station shows of a design, the sky from one panel of a group."""
    return array_picture_from(outlook_of(design), group_id, number)


def _clock(outlook: Outlook, index: int) -> float:
    moment = outlook.day.at_index(float(index))
    return moment.hour * 60 + moment.minute + moment.second / 60


def array_picture_from(outlook: Outlook, group_id: str | None, number: int) -> ArrayPicture:
    """The Array station of a design already gathered."""
    design, day = outlook.design, outlook.day
    panels = [panel for group in design.panels for panel in _deck_panels(outlook, group)]
    costs = spar_costs(outlook)
    groups = [g for g in design.panels if design.place(g.place_id).at is not None]
    chosen = next((g for g in groups if g.id == group_id), groups[0] if groups else None)
    return ArrayPicture(
        outlines=_outlines(design),
        length_m=design.hull.waterline_length_m,
        breadth_m=design.hull.breadth_m,
        places=[_deck_place(outlook, place.id, panels) for place in design.places],
        panels=panels,
        spars=[
            DeckSpar(
                id=o.id, name=o.name, foot=Corner(**o.foot.model_dump()), tip=Corner(**o.tip.model_dump()),
                radius_m=o.radius_m, cost_wh=costs.get(o.id, 0.0),
            )
            for o in design.obstacles
        ],
        sun=_track(day.azimuth_deg, day.elevation_deg),
        clock_min=[_clock(outlook, i) for i in range(len(day.azimuth_deg))],
        noon_index=day.index_at(day.solar_noon_at),
        sunset_index=day.dusk_index if day.sunset_at else None,
        heading_deg=design.plan.heading_deg,
        nameplate_w=design.nameplate_w,
        day_wh=float(outlook.shown_sun_w.sum() * STEP_H),
        sun_w=outlook.shown_sun_w.tolist(),
        shade_wh=sum(p.day_wh / p.kept_frac - p.day_wh for p in panels if p.kept_frac > 0),
        mass_kg=design.panels_kg,
        dome=_dome(design, chosen, number) if chosen is not None else None,
        findings=array_findings(ArrayView(outlook, costs)),
    )  # fmt: skip


def _track(azimuth_deg: Array, elevation_deg: Array) -> list[SunAt]:
    return [
        SunAt(azimuth_deg=float(a), elevation_deg=float(e))
        for a, e in zip(azimuth_deg, elevation_deg, strict=True)
    ]


def _outlines(design: BoatDesign) -> list[list[Spot]]:
    """A usual plan of each hull from its measures: a fine bow, a broad stern."""
    hull = design.hull
    length, half = hull.waterline_length_m, hull.beam_m / 2
    y = np.linspace(-1, 1, OUTLINE_POINTS)
    aft = STERN_BREADTH + (1 - STERN_BREADTH) * (1 - np.clip(-y, 0, 1) ** 2)
    fore = 1 - np.clip(y, 0, 1) ** BOW_FINENESS
    wide = half * np.where(y < 0, aft, fore)
    side = [(float(w), float(v * length / 2)) for w, v in zip(wide, y, strict=True)]
    middles = [-hull.spacing / 2, hull.spacing / 2] if hull.spacing else [0.0]
    return [
        [Spot(x_m=m + w, y_m=v) for w, v in side] + [Spot(x_m=m - w, y_m=v) for w, v in reversed(side)]
        for m in middles
    ]


_laid: Memo[list[DeckPanel]] = Memo(64)


def _deck_panels(outlook: Outlook, group: PanelGroup) -> list[DeckPanel]:
    """The panels of a group with their cells, kept by what they depend on: other edits cost nothing."""
    design = outlook.design
    key = (
        outlook.light.key, outlook.light.shown, design.place(group.place_id), group, design.obstacles,
        headings_of(design), air_temperature_c(design), design.plan.wind_mps,
    )  # fmt: skip
    return _laid.get(key, lambda: _lay(outlook, group))


def _lay(outlook: Outlook, group: PanelGroup) -> list[DeckPanel]:
    """The panels of a group on the shown day; none where the place has no position."""
    design = outlook.design
    place = design.place(group.place_id)
    laid = panels_of(place, group)
    if not laid:
        return []
    light = outlook.light.shown_alone
    headings = headings_of(design)
    air, wind = air_temperature_c(design), design.plan.wind_mps

    def watts(lit: PlaneLight) -> float:
        made = power_per_watt(lit, air, wind, place.ventilation, group.power_coefficient_per_k)
        return float(made.sum() * STEP_H * group.nameplate_w)

    bare = [plane_light(light, tilt_of(place), facing_deg(place, heading)) for heading in headings]
    free = float(np.mean([watts(lit) for lit in bare]))
    given = np.full(len(laid), free)
    cells = [np.ones((panel.rows, panel.columns)) for panel in laid]
    if design.obstacles:
        given = np.mean([[watts(x) for x in panel_light(design, light, group, h)] for h in headings], axis=0)
        cells = [_cells(outlook, panel, headings, bare) for panel in laid]
    return [
        DeckPanel(
            group_id=group.id,
            place_id=place.id,
            number=index,
            corners=[Corner(x_m=c[0], y_m=c[1], z_m=c[2]) for c in panel.corners],
            columns=panel.columns,
            rows=panel.rows,
            cells=[round(float(v), 4) for v in cells[index].ravel()],
            day_wh=float(given[index]),
            yield_h=float(given[index]) / group.nameplate_w,
            kept_frac=float(given[index]) / free if free > 0 else 1.0,
        )
        for index, panel in enumerate(laid)
    ]


def _cells(outlook: Outlook, panel: PanelAt, headings: tuple[float, ...], bare: list[PlaneLight]) -> Array:
    """Share of the day's beam that each cell keeps, shape (rows, columns)."""
    day, spars = outlook.day, spars_of(outlook.design.obstacles)
    up = day.elevation_deg > 0
    lost, whole = np.zeros((panel.rows, panel.columns)), 0.0
    for heading, lit in zip(headings, bare, strict=True):
        beam = lit.beam_w_per_m2[0, up]
        directions = towards((day.azimuth_deg[up] - heading) % 360.0, day.elevation_deg[up])
        lost += shares_towards(panel, spars, directions) @ beam
        whole += float(beam.sum())
    return 1 - lost / whole if whole > 0 else np.ones_like(lost)


def _deck_place(outlook: Outlook, place_id: str, panels: list[DeckPanel]) -> DeckPlace:
    design = outlook.design
    place = design.place(place_id)
    groups = [group for group in design.panels if group.place_id == place_id]
    mine = [panel for panel in panels if panel.place_id == place_id]
    corners = []
    if place.at is not None and place.width_m is not None and place.length_m is not None:
        u, v = axes(place)
        middle = np.array([place.at.x_m, place.at.y_m, place.at.z_m])
        for a, b in ((-1, -1), (1, -1), (1, 1), (-1, 1)):
            c = middle + a * u * place.width_m / 2 + b * v * place.length_m / 2
            corners.append(Corner(x_m=float(c[0]), y_m=float(c[1]), z_m=float(c[2])))
    day_wh = sum(panel.day_wh for panel in mine)
    free_wh = sum(panel.day_wh / panel.kept_frac for panel in mine if panel.kept_frac > 0)
    return DeckPlace(
        id=place.id,
        name=place.name,
        kind=place.kind,
        corners=corners,
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


def _dome(design: BoatDesign, group: PanelGroup, number: int) -> SkyDome:
    """The sky from one panel: what is in the way, and the sun's paths in three months."""
    laid = panels_of(design.place(group.place_id), group)
    index = min(max(number, 0), len(laid) - 1)
    table = sky_table(laid[index], design.obstacles)
    bearings, heights = sky_directions()
    heading = design.plan.heading_deg or 0.0
    paths = []
    for label, month in PATH_DATES:
        day = day_steps(design.site, Date(design.plan.date.year, month, 21))
        up = day.elevation_deg > 0
        bearing = (day.azimuth_deg[up] - heading) % 360.0
        paths.append(SkyPath(label=label, points=_track(bearing[::2], day.elevation_deg[up][::2])))
    return SkyDome(
        group_id=group.id, number=index, bearings_deg=bearings.tolist(), heights_deg=heights.tolist(),
        shade=np.round(table.mean, 3).tolist(), sky_view_frac=table.sky_view, paths=paths,
    )  # fmt: skip
