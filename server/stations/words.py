"""The design document itself: whether a design is one, its words, and lists to begin from."""

from __future__ import annotations

from typing import Any

from config.replies import or_refused
from django.http import HttpRequest
from ninja import Router, Schema
from parhelion.data import places
from parhelion.design import BoatDesign, Site
from parhelion.design.hulltypes import TYPICAL, HullType
from parhelion.design.new_boat import LOAD_PRESETS, LoadPreset
from parhelion.formats.boat_file import json_schema

router = Router(tags=["Design"])


class Asked(Schema):
    design: BoatDesign


class Valid(Schema):
    """The design is one."""

    valid: bool = True


class HullTypeRow(Schema):
    """A hull type with its usual numbers, so that a form can show what an empty field means."""

    type: HullType
    label: str
    hulls: int
    efficiency: float
    waterline_length_m: float
    beam_m: float
    displacement_kg: float


@router.get("/schema", response=or_refused(dict[str, Any]), operation_id="designSchema")
def schema(request: HttpRequest) -> Any:
    """The JSON Schema of a design: every entry with its words, its bounds and what a new part is."""
    return json_schema()


@router.post("/check", response=or_refused(Valid), operation_id="checkDesign")
def check(request: HttpRequest, body: Asked) -> Any:
    """Whether a design is valid; the problems with their fields where it is not."""
    return Valid()


@router.get("/load-presets", response=or_refused(list[LoadPreset]), operation_id="listLoadPresets")
def load_presets(request: HttpRequest) -> Any:
    """Usual house loads."""
    return list(LOAD_PRESETS)


@router.get("/hull-types", response=or_refused(list[HullTypeRow]), operation_id="listHullTypes")
def hull_types(request: HttpRequest) -> Any:
    """The types of hull."""
    return [
        HullTypeRow(
            type=hull_type,
            label=hull_type.label,
            hulls=typical.hulls,
            efficiency=typical.efficiency,
            waterline_length_m=typical.length_m,
            beam_m=typical.beam_m,
            displacement_kg=typical.displacement_kg,
        )
        for hull_type, typical in TYPICAL.items()
    ]


@router.get("/places", response=or_refused(list[Site]), operation_id="listPlaces")
def list_places(request: HttpRequest) -> Any:
    """Waters to choose from."""
    return list(places())
