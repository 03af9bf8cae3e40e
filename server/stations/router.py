"""What the stations compute from a design posted whole; nothing here is saved."""

from __future__ import annotations

import hashlib
from datetime import UTC, datetime
from datetime import time as Time
from typing import Any

from django.http import HttpRequest
from ninja import Router, Schema
from parhelion.answers.compose import answers_for
from parhelion.answers.models import Answers
from parhelion.data import places
from parhelion.design import BoatDesign, Site
from parhelion.hulltypes import TYPICAL, HullType
from parhelion.pictures.day import DayPicture, day_picture
from parhelion.pictures.hull import HullPicture, hull_picture
from parhelion.sun.daysteps import day_steps

router = Router(tags=["stations"])


class Asked(Schema):
    design: BoatDesign


class AskedAnswers(Asked):
    """`at` is the local clock time that "now" means; this minute where it is not given."""

    compared_with: BoatDesign | None = None
    at: Time | None = None


class Checked(Schema):
    content_hash: str


class AnswersOut(Checked):
    answers: Answers


class HullOut(Checked):
    picture: HullPicture


class DayOut(Checked):
    picture: DayPicture


class HullTypeRow(Schema):
    """A hull type with its usual numbers, so that a form can show what an empty field means."""

    type: HullType
    label: str
    hulls: int
    efficiency: float
    waterline_length_m: float
    beam_m: float
    displacement_kg: float


def content_hash(design: BoatDesign) -> str:
    """A short digest of a design; replies carry it so that stale ones can be told."""
    return hashlib.sha256(design.model_dump_json().encode()).hexdigest()[:16]


@router.post("/check", response=Checked, operation_id="checkDesign")
def check(request: HttpRequest, body: Asked) -> Any:
    """Whether a design is valid; the problems with their fields where it is not."""
    return Checked(content_hash=content_hash(body.design))


@router.post("/answers", response=AnswersOut, operation_id="computeAnswers")
def answers(request: HttpRequest, body: AskedAnswers) -> Any:
    at = datetime.now(UTC)
    if body.at is not None:
        at = day_steps(body.design.site, body.design.plan.date).moment(body.at)
    found = answers_for(body.design, at, body.compared_with)
    return AnswersOut(content_hash=content_hash(body.design), answers=found)


@router.post("/hull/picture", response=HullOut, operation_id="drawHull")
def hull(request: HttpRequest, body: Asked) -> Any:
    return HullOut(content_hash=content_hash(body.design), picture=hull_picture(body.design))


@router.post("/day/picture", response=DayOut, operation_id="drawDay")
def day(request: HttpRequest, body: Asked) -> Any:
    return DayOut(content_hash=content_hash(body.design), picture=day_picture(body.design))


@router.get("/hull-types", response=list[HullTypeRow], operation_id="listHullTypes")
def hull_types(request: HttpRequest) -> Any:
    return [
        HullTypeRow(
            type=hull_type,
            label=typical.label,
            hulls=typical.hulls,
            efficiency=typical.efficiency,
            waterline_length_m=typical.length_m,
            beam_m=typical.beam_m,
            displacement_kg=typical.displacement_kg,
        )
        for hull_type, typical in TYPICAL.items()
    ]


@router.get("/places", response=list[Site], operation_id="listPlaces")
def list_places(request: HttpRequest) -> Any:
    return list(places())
