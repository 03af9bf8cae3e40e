"""The design document itself: whether a design is one, its words, and lists to begin from."""

from __future__ import annotations

from typing import Any

from config.replies import or_refused
from django.http import HttpRequest
from ninja import Router, Schema
from parhelion.data import places
from parhelion.design import BoatDesign, Site
from parhelion.design.new_boat import LOAD_PRESETS, LoadPreset
from parhelion.formats.boat_file import json_schema

router = Router(tags=["Design"])


class Asked(Schema):
    design: BoatDesign


class Valid(Schema):
    """The design is one."""

    valid: bool = True


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


@router.get("/places", response=or_refused(list[Site]), operation_id="listPlaces")
def list_places(request: HttpRequest) -> Any:
    """Waters to choose from."""
    return list(places())
