"""The light on each panel of a group as it stands, once what is around has shaded it."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import partial

import numpy as np
from numpy.typing import NDArray

from parhelion.computing.kept import is_there
from parhelion.computing.together import together
from parhelion.design import LYING, BoatDesign, PlaceKind, Side
from parhelion.panels.bodies import Body
from parhelion.panels.deck import FLAT_BELOW_DEG, DeckGroup
from parhelion.panels.layout import SUBSTRINGS, PanelAt
from parhelion.panels.mismatch import BYPASS_V, CELL_V, effective_light, series_light, string_light
from parhelion.panels.plane import PlaneLight, plane_light
from parhelion.panels.rear import rear_light
from parhelion.panels.shade import STEP_DEG, sky_table
from parhelion.sun.light import Light
from parhelion.sun.skyline import light_behind

Array = NDArray[np.float64]

FACING_DEG = {Side.BOW: 0.0, Side.STARBOARD: 90.0, Side.STERN: 180.0, Side.PORT: 270.0}
ANY_HEADING_COUNT = 8  # an unknown heading is the mean over this many
SWING = (-np.sqrt(3) / 2, 0.0, np.sqrt(3) / 2)  # thirds of a swing's time stand about these shares of it


def headings_of(design: BoatDesign) -> tuple[float, ...]:
    """The boat's heading, or several where she swings or it is not known [deg].

    A boat swinging like a pendulum is three headings, at the middles of the thirds of its time.
    """
    given, swing = design.plan.heading_deg, design.plan.swing_deg
    if given is None:
        return tuple(float(h) for h in np.arange(ANY_HEADING_COUNT) * 360.0 / ANY_HEADING_COUNT)
    if swing == 0:
        return (given,)
    return tuple(float((given + swing * share) % 360.0) for share in SWING)


def light_over(design: BoatDesign, light: Light, kind: PlaceKind) -> Light:
    """The light that reaches a place: a boat lying still, and a rack ashore, have the skyline about them."""
    if design.plan.state in LYING or kind is PlaceKind.SHORE:
        return light_behind(light, design.site.skyline)
    return light


def orientation(panel: PanelAt, heading_deg: float) -> tuple[float, float]:
    """Tilt, and the true bearing it faces on a heading; 0 for a flat one [deg]."""
    x, y, z = panel.normal
    tilt = float(np.degrees(np.arccos(np.clip(z, -1, 1))))
    if tilt < FLAT_BELOW_DEG:
        return 0.0, 0.0
    return tilt, float((heading_deg + np.degrees(np.arctan2(x, y))) % 360.0)


def facing_deg(faces: Side, tilt_deg: float, heading_deg: float) -> float:
    """True bearing that a tilted place faces on a heading; 0 for a flat one [deg]."""
    return (heading_deg + FACING_DEG[faces]) % 360.0 if tilt_deg else 0.0


def cast_shade(groups: Sequence[DeckGroup], step_deg: float = STEP_DEG) -> None:
    """Cast the shade on all panels of groups at once, so that their sky tables are there when asked for."""
    together([partial(sky_table, *pair, step_deg) for pair in _seen(groups)])


def shade_is_cast(groups: Sequence[DeckGroup], step_deg: float = STEP_DEG) -> bool:
    """Whether the sky tables of all panels of groups are there already."""
    return all(is_there(sky_table, *pair, step_deg) for pair in _seen(groups))


def _seen(groups: Sequence[DeckGroup]) -> list[tuple[PanelAt, tuple[Body, ...]]]:
    """Panels that something stands before, and what does."""
    shaded = [deck for deck in groups if not deck.alone]
    return [pair for deck in shaded for pair in zip(deck.panels, deck.bodies, strict=True) if pair[1]]


def group_light(
    light: Light, deck: DeckGroup, heading_deg: float, step_deg: float = STEP_DEG
) -> Iterator[PlaneLight]:
    """Light on the panels of a group on one heading, shapes (n, 144).

    One for all where they see the sky alike (`deck.alone`), one for each panel otherwise. Light from behind
    is added to what gets into the cells of a two-sided panel, not to what warms it. Shade is read from sky
    tables of that step.
    """
    group, place = deck.group, deck.place
    if deck.alone:
        azimuth = facing_deg(place.faces, place.tilt_deg, heading_deg)
        lit = plane_light(light, place.tilt_deg, azimuth)
        yield _two_sided(light, deck, lit, heading_deg, place.tilt_deg, azimuth)
        return
    planes: dict[tuple[float, float], PlaneLight] = {}
    leaves: list[PlaneLight] = []
    strung: list[tuple[Array, float]] = []
    grid = group.grid
    cells = grid.across * grid.along // deck.leaves
    for panel, bodies in zip(deck.panels, deck.bodies, strict=True):
        stands = orientation(panel, heading_deg)
        whole = _kept(planes, stands, light)
        half_cut = grid.halved and deck.leaves == 1
        if group.in_series > 1 and deck.leaves == 1:
            strung.append(_keeps(light, panel, bodies, heading_deg, step_deg))
            if len(strung) == group.in_series:
                drop = BYPASS_V / (CELL_V * cells / SUBSTRINGS / (2 if half_cut else 1))
                kept = np.concatenate([share for share, _ in strung])
                views = np.repeat([view for _, view in strung], SUBSTRINGS)
                beam, left = whole.beam_w_per_m2, whole.effective_w_per_m2 - whole.beam_w_per_m2
                made = string_light(beam, left, kept, views, drop)
                lit = PlaneLight(whole.global_w_per_m2, made, whole.beam_w_per_m2)
                lit = _two_sided(light, deck, lit, heading_deg, *stands)
                yield from [lit] * group.in_series
                strung = []
            continue
        lit = _behind(light, panel, bodies, whole, heading_deg, cells, half_cut, step_deg)
        lit = _two_sided(light, deck, lit, heading_deg, *stands)
        if deck.leaves == 1:
            yield lit
            continue
        leaves.append(lit)
        if len(leaves) == deck.leaves:
            yield PlaneLight(
                np.mean([leaf.global_w_per_m2 for leaf in leaves], axis=0),
                series_light(np.array([leaf.effective_w_per_m2 for leaf in leaves]), cells),
                np.mean([leaf.beam_w_per_m2 for leaf in leaves], axis=0),
            )
            leaves = []
    for _ in strung:  # panels that fill no string
        yield PlaneLight(whole.global_w_per_m2, np.zeros_like(light.ghi), np.zeros_like(light.ghi))


@dataclass(frozen=True)
class PanelLight:
    """Light on the substrings of one panel, shapes (n, s) [W/m2]."""

    global_w_per_m2: Array
    substrings: Array  # shape (3, n, s)


def panel_lights(
    light: Light, deck: DeckGroup, heading_deg: float, step_deg: float = STEP_DEG
) -> list[PanelLight]:
    """Light on the substrings of each panel of a group, for strings that its own wiring does not know.

    One for all where they see the sky alike; a folding panel's leaves are one, by their rule. Nothing on
    panels that are folded, covered or gone.
    """
    if not deck.gives:
        dark = np.zeros_like(light.ghi)
        return [PanelLight(dark, np.stack([dark] * SUBSTRINGS))]
    if deck.alone or deck.leaves > 1:
        return [
            PanelLight(lit.global_w_per_m2, np.stack([lit.effective_w_per_m2] * SUBSTRINGS))
            for lit in group_light(light, deck, heading_deg, step_deg)
        ]
    planes: dict[tuple[float, float], PlaneLight] = {}
    found = []
    for panel, bodies in zip(deck.panels, deck.bodies, strict=True):
        stands = orientation(panel, heading_deg)
        whole = _kept(planes, stands, light)
        kept, view = _keeps(light, panel, bodies, heading_deg, step_deg)
        left = (whole.effective_w_per_m2 - whole.beam_w_per_m2) * view
        if deck.group.bifaciality_frac:
            left = left + rear_light(light, deck.place, deck.group, heading_deg, *stands)
        found.append(
            PanelLight(whole.global_w_per_m2, left[None] + whole.beam_w_per_m2[None] * kept[:, None, :])
        )
    return found


def _kept(
    planes: dict[tuple[float, float], PlaneLight], stands: tuple[float, float], light: Light
) -> PlaneLight:
    """The light on an orientation, computed once."""
    if stands not in planes:
        planes[stands] = plane_light(light, *stands)
    return planes[stands]


def _behind(
    light: Light, panel: PanelAt, bodies: tuple[Body, ...], whole: PlaneLight, heading_deg: float, cells: int,
    half_cut: bool, step_deg: float,
) -> PlaneLight:  # fmt: skip
    """What bodies leave of the light on one panel."""
    if not bodies:
        return whole
    day = light.day
    table = sky_table(panel, bodies, step_deg)
    worst = table.through(day, heading_deg)
    left = (whole.effective_w_per_m2 - whole.beam_w_per_m2) * table.sky_view
    made = effective_light(whole.beam_w_per_m2, left, worst, cells, half_cut)
    return PlaneLight(whole.global_w_per_m2, made, whole.beam_w_per_m2)


def _keeps(
    light: Light, panel: PanelAt, bodies: tuple[Body, ...], heading_deg: float, step_deg: float
) -> tuple[Array, float]:
    """Shares that the substrings of a panel keep of the beam, shape (3, s), and of the diffuse light."""
    day = light.day
    if not bodies:
        return np.ones((SUBSTRINGS, len(day.azimuth_deg))), 1.0
    table = sky_table(panel, bodies, step_deg)
    worst = table.through(day, heading_deg)
    return 1 - (worst[0::2] + worst[1::2]) / 2, table.sky_view


def _two_sided(
    light: Light, deck: DeckGroup, lit: PlaneLight, heading_deg: float, tilt_deg: float, azimuth_deg: float
) -> PlaneLight:
    if not deck.group.bifaciality_frac:
        return lit
    back = rear_light(light, deck.place, deck.group, heading_deg, tilt_deg, azimuth_deg)
    return PlaneLight(lit.global_w_per_m2, lit.effective_w_per_m2 + back, lit.beam_w_per_m2)
