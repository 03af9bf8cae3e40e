"""The frames of every place with panels."""

from __future__ import annotations

import math

from parhelion.design import BoatDesign, Place, PlaceKind, Ventilation
from parhelion.panels.frame import FrameFound, frame_of, needs_inside_m
from parhelion.stations.fitout.shown import CutShown, FrameShown
from parhelion.wiring.circuits import wiring_of

LIES = (PlaceKind.CABIN_TOP, PlaceKind.DECK, PlaceKind.LOOSE, PlaceKind.SHORE)


def needs_none(place: Place) -> bool:
    """Whether its panels lie on something that carries them."""
    return place.ventilation is Ventilation.ON_SURFACE or place.kind in LIES


def framed_places(design: BoatDesign) -> list[tuple[int, Place, FrameFound | None]]:
    """Every place with panels, its index, and what its frame comes to."""
    found = []
    for index, place in enumerate(design.places):
        groups = [group for group in design.fitted_panels if group.place_id == place.id]
        if groups:
            found.append((index, place, frame_of(place, groups)))
    return found


def frames_shown(design: BoatDesign) -> list[FrameShown]:
    """The frames of a boat, place by place."""
    return [_shown(design, *one) for one in framed_places(design)]


def _shown(design: BoatDesign, index: int, place: Place, made: FrameFound | None) -> FrameShown:
    groups = [group for group in design.fitted_panels if group.place_id == place.id]
    sizes = [c.cable.size_mm2 for c in wiring_of(design).circuits if c.place.id == place.id]
    cable = max(sizes, default=None)
    return FrameShown(
        place_id=place.id,
        place_index=index,
        name=place.name,
        framed=place.frame is not None,
        lies=needs_none(place),
        no_size=place.frame is not None and made is None,
        width_m=place.width_m,
        length_m=place.length_m,
        cuts=[CutShown(name=c.name, length_m=c.length_m, pieces=c.pieces) for c in made.cuts] if made else [],
        bars=made.bars if made else [],
        stock_m=place.frame.stock_m if place.frame else 0.0,
        left_m=made.left_m if made else 0.0,
        mass_kg=made.mass_kg if made else 0.0,
        panels_kg=sum(group.mass for group in groups),
        watts_per_kg=sum(group.nameplate_w * group.count for group in groups)
        / (sum(group.mass for group in groups) + place.frame_kg),
        span_m=made.span_m if made else 0.0,
        sag_m=made.sag_m if made else 0.0,
        gust_mps=made.gust_mps if made else 0.0,
        gust_pull_n=made.gust_pull_n if made else 0.0,
        gust_sag_m=made.gust_sag_m if made else 0.0,
        holds=made.holds if made and math.isfinite(made.holds) else None,
        hinges=made.hinges if made else 0,
        hinge_m=made.hinge_m if made else 0.0,
        cable_mm2=cable,
        inside_m=made.inside_m if made else None,
        needs_m=None if cable is None else needs_inside_m(cable),
        too_long=bool(made and made.too_long),
        crossbars=place.frame.crossbars if place.frame else 0,
        feet=place.frame.feet if place.frame else 0,
    )
