"""Boats with a wish, for the tests of the Wish."""

from __future__ import annotations

import json
from pathlib import Path

from parhelion.data import panel_models
from parhelion.design import BoatDesign
from parhelion.design.wish import Ask, Wish
from parhelion.stations.wish.picture import wish_picture

from tests.cases import boat

DEMO = Path(__file__).resolve().parents[2] / "demo"
KNOT = 0.5144
TRIP = Ask(id="trip", distance_m=30_000, speed_mps=2.2, first_month="jun", last_month="jul")


def wished(design: BoatDesign, *asks: Ask, **binds: object) -> BoatDesign:
    """The boat with a wish."""
    return design.changed(wish=Wish(asks=asks, **binds))


def demo(name: str) -> BoatDesign:
    return BoatDesign.model_validate(json.loads((DEMO / f"{name}.json").read_text()))


def small_world(**binds: object) -> BoatDesign:
    """Two places, four panels, three banks, a controller or two: few enough to try every boat."""
    design = boat()
    kept = tuple(place for place in design.places[:1])
    listed = tuple(
        panel.model_copy(update={"leaf_tilts_deg": ()})
        for panel in panel_models() if panel.nameplate_w in (105, 185, 225, 60)
    )  # fmt: skip
    made = design.changed(places=kept, obstacles=(), strings=())
    more = {
        "coins": 1_400,
        "own_panels": listed,
        "places": ("canopy", "deck"),
        "stiffness_frac": 0.5,
        **binds,
    }
    return wished(made, TRIP, **more)


def asking(design: BoatDesign, ask: Ask) -> BoatDesign:
    """The same binds, another wish."""
    return design.changed(wish=design.wish.model_copy(update={"asks": (ask,)}))


def far_of(design: BoatDesign) -> float:
    """How far a boat's wish stretches, as her own picture says."""
    return wish_picture(design).stretch
