"""The design document itself: whether a design is one, its words, and lists to begin from."""

from __future__ import annotations

import json
from functools import cache
from typing import Any

from config.replies import or_refused
from django.http import HttpRequest, HttpResponse
from ninja import Router, Schema
from parhelion.balance.outlook import outlook_of
from parhelion.begin.gazetteer import Town, towns_named
from parhelion.begin.known import Known
from parhelion.begin.new_boat import new_boat
from parhelion.data import places
from parhelion.design import BoatDesign, Site
from parhelion.design.load_presets import LOAD_PRESETS, LoadPreset
from parhelion.design.logbook import Outing
from parhelion.formats.boat_file import json_schema
from parhelion.quantities import Sentence
from parhelion.rail.answers import answers_from
from parhelion.rail.models import RailCell

router = Router(tags=["Design"])


class Asked(Schema):
    design: BoatDesign


class Valid(Schema):
    """The design is one."""

    valid: bool = True


@router.get("/schema", response=or_refused(dict[str, Any]), operation_id="designSchema")
def schema(request: HttpRequest) -> Any:
    """The JSON Schema of a design: every entry with its words, its bounds and what a new part is."""
    return HttpResponse(_schema_text(), content_type="application/json")


@cache
def _schema_text() -> str:
    """It takes a fifth of a second to make, and never changes while the server runs."""
    return json.dumps(json_schema())


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


class Begun(Schema):
    """A boat of which so much is known, and what she does."""

    design: BoatDesign
    rail: list[RailCell]
    assumes: Sentence


@router.get("/known", response=or_refused(dict[str, Any]), operation_id="knownSchema")
def known_schema(request: HttpRequest) -> Any:
    """The words of what an owner knows of a boat."""
    return Known.model_json_schema()


@router.get("/outing", response=or_refused(dict[str, Any]), operation_id="outingSchema")
def outing_schema(request: HttpRequest) -> Any:
    """The words of what is noted of an outing."""
    return Outing.model_json_schema()


@router.post("/begin", response=or_refused(Begun), operation_id="beginBoat")
def begin(request: HttpRequest, body: Known) -> Any:
    """A whole boat from what is known of her, with her first answer; nothing is saved."""
    design = new_boat(body)
    found = answers_from(outlook_of(design))
    return Begun(design=design, rail=found.rail, assumes=found.assumes)


@router.get("/towns", response=or_refused(list[Town]), operation_id="listTowns")
def towns(request: HttpRequest, name: str) -> Any:
    """Towns by the beginning of their name, the larger first."""
    return towns_named(name[:80])
