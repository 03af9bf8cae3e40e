"""The light on each panel of a group once spars have shaded it, step by step and for every member."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np
from numpy.typing import NDArray

from parhelion.array.layout import PanelAt, panels_of
from parhelion.array.mismatch import effective_light
from parhelion.array.plane import PlaneLight, plane_light
from parhelion.array.shade import sky_table
from parhelion.design import BoatDesign, PanelGroup, Place, Side
from parhelion.sun.light import Light

Array = NDArray[np.float64]

FACING_DEG = {Side.BOW: 0.0, Side.STARBOARD: 90.0, Side.STERN: 180.0, Side.PORT: 270.0}
ANY_HEADING_COUNT = 8  # an unknown heading is the mean over this many
FLAT_BELOW_DEG = 0.05


def headings_of(design: BoatDesign) -> tuple[float, ...]:
    """The boat's heading, or several when it is not known [deg]."""
    given = design.plan.heading_deg
    if given is not None:
        return (given,)
    return tuple(float(h) for h in np.arange(ANY_HEADING_COUNT) * 360.0 / ANY_HEADING_COUNT)


def tilt_of(place: Place) -> float:
    """Tilt, with what is next to flat taken as flat [deg]."""
    return 0.0 if place.tilt_deg < FLAT_BELOW_DEG else place.tilt_deg


def facing_deg(place: Place, heading_deg: float) -> float:
    """True bearing that a tilted place faces on a heading; 0 for a flat one [deg]."""
    return (heading_deg + FACING_DEG[place.faces]) % 360.0 if tilt_of(place) else 0.0


def shaded_panels(design: BoatDesign, group: PanelGroup) -> list[PanelAt]:
    """The group's panels where something may shade them; none where nothing can or no position is known."""
    return panels_of(design.place(group.place_id), group) if design.obstacles else []


def panel_light(
    design: BoatDesign, light: Light, group: PanelGroup, heading_deg: float
) -> Iterator[PlaneLight]:
    """Light on every panel of a group that something may shade, on one heading, shapes (n, 144)."""
    place = design.place(group.place_id)
    whole = plane_light(light, tilt_of(place), facing_deg(place, heading_deg))
    diffuse = whole.effective_w_per_m2 - whole.beam_w_per_m2
    day = light.day
    bearing = (day.azimuth_deg - heading_deg) % 360.0
    cells = group.cells_across * group.cells_along
    for panel in panels_of(place, group):
        table = sky_table(panel, design.obstacles)
        worst = table.at(bearing, day.elevation_deg)
        left = diffuse * table.sky_view
        made = whole.beam_w_per_m2 + left
        dark = (worst.max(axis=0) > 0) & (day.elevation_deg > 0)
        if dark.any():
            made[:, dark] = effective_light(
                whole.beam_w_per_m2[:, dark], left[:, dark], worst[:, None, dark], cells, group.half_cut
            )
        yield PlaneLight(whole.global_w_per_m2, made, whole.beam_w_per_m2)
