"""Boats, variants and their files."""

from __future__ import annotations

import json
from datetime import datetime
from typing import Any
from uuid import UUID

from config.replies import FOUND, REFUSALS, of_type, or_refused
from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404
from ninja import Router, Schema, Status
from parhelion.begin.known import Known
from parhelion.begin.new_boat import new_boat
from parhelion.design import BoatDesign
from parhelion.design.changes import Change
from parhelion.design.hulltypes import HullType
from parhelion.errors import ParhelionError, Problem
from parhelion.formats.boat_file import LARGEST_FILE_BYTES, read_boat, written
from pydantic import Field

from boats import actions
from boats.models import Boat, Variant

router = Router(tags=["Boats"])
variants_router = Router(tags=["Variants"])


class VariantRow(Schema):
    id: UUID
    name: str
    is_working: bool
    revision: int
    changed_at: datetime


class BoatRow(Schema):
    id: UUID
    name: str
    hull_type: HullType | None
    use: str | None
    variants: list[VariantRow]
    damaged: str | None = None  # why its working variant cannot be opened


class VariantOut(VariantRow):
    boat_id: UUID
    design: BoatDesign


class KeepVariant(Schema):
    name: str = Field(min_length=1, max_length=80)
    design: BoatDesign


class SaveVariant(Schema):
    revision: int
    design: BoatDesign
    apart: bool = False  # a state of its own in the history: it replaces one that must stay


class RevisionRow(Schema):
    """A state a variant was in."""

    number: int
    saved_at: datetime
    difference: list[Change]
    design: BoatDesign


class ConflictOut(Schema):
    """The one error shape, with what the other tab saved."""

    errors: list[Problem]
    current: VariantOut
    difference: list[Change]


VARIANT = or_refused(VariantOut, named=True)
HISTORY = or_refused(list[RevisionRow], named=True)


def _row(boat: Boat) -> BoatRow:
    variants = list(boat.variants.all())
    working = next(item for item in variants if item.is_working)
    rows = [VariantRow.from_orm(item) for item in variants]
    try:
        design = actions.design_of(working)
    except ParhelionError as error:  # one that cannot be opened locks no other out
        name = str(working.document.get("name", "A boat"))[:80]
        return BoatRow(id=boat.id, name=name, hull_type=None, use=None, variants=rows, damaged=str(error))
    return BoatRow(
        id=boat.id,
        name=design.name,
        hull_type=design.hull.type,
        use=design.use,
        variants=rows,
    )


def _out(variant: Variant) -> VariantOut:
    return VariantOut(
        id=variant.pk,
        boat_id=variant.boat_id,
        name=variant.name,
        is_working=variant.is_working,
        revision=variant.revision,
        changed_at=variant.changed_at,
        design=actions.design_of(variant),
    )


def _boat(boat_id: UUID) -> Boat:
    return get_object_or_404(Boat, pk=boat_id, deleted_at=None)


@router.get("", response=or_refused(list[BoatRow]), operation_id="listBoats")
def list_boats(request: HttpRequest) -> Any:
    boats = Boat.objects.filter(deleted_at=None).prefetch_related("variants")
    return [_row(boat) for boat in boats]


@router.post("", response={201: BoatRow, **REFUSALS}, operation_id="newBoat")
def create_boat(request: HttpRequest, body: Known) -> Any:
    return Status(201, _row(actions.add_boat(new_boat(body))))


@router.post("/file", response={201: BoatRow, **REFUSALS}, operation_id="openFile")
def open_file(request: HttpRequest) -> Any:
    """A boat from the bytes of a design file, sent as the request's body."""
    size = int(request.headers.get("Content-Length") or 0)
    if size > LARGEST_FILE_BYTES:
        read_boat(b"", size)  # refuses it in the reader's own words
    return Status(201, _row(actions.add_boat(read_boat(request.body))))


@router.post("/{uuid:boat_id}/duplicate", response={201: BoatRow, **FOUND}, operation_id="duplicateBoat")
def duplicate(request: HttpRequest, boat_id: UUID) -> Any:
    return Status(201, _row(actions.duplicate_boat(_boat(boat_id))))


@router.delete("/{uuid:boat_id}", response={204: None, **FOUND}, operation_id="deleteBoat")
def delete(request: HttpRequest, boat_id: UUID) -> Any:
    actions.delete_boat(_boat(boat_id))
    return Status(204, None)


@router.post("/{uuid:boat_id}/restore", response=or_refused(BoatRow, named=True), operation_id="restoreBoat")
def restore(request: HttpRequest, boat_id: UUID) -> Any:
    boat = get_object_or_404(Boat, pk=boat_id)
    actions.restore_boat(boat)
    return _row(boat)


@router.post("/{uuid:boat_id}/variants", response={201: VariantOut, **FOUND}, operation_id="keepVariant")
def keep(request: HttpRequest, boat_id: UUID, body: KeepVariant) -> Any:
    return Status(201, _out(actions.keep_variant(_boat(boat_id), body.design, body.name)))


def _variant(variant_id: UUID) -> Variant:
    return get_object_or_404(Variant, pk=variant_id, boat__deleted_at=None)


@variants_router.get("/{uuid:variant_id}", response=VARIANT, operation_id="readVariant")
def read_variant(request: HttpRequest, variant_id: UUID) -> Any:
    return _out(_variant(variant_id))


@variants_router.put(
    "/{uuid:variant_id}",
    response={**VARIANT, 409: ConflictOut},
    operation_id="saveVariant",
)
def save(request: HttpRequest, variant_id: UUID, body: SaveVariant) -> Any:
    try:
        return _out(actions.save_variant(variant_id, body.revision, body.design, apart=body.apart))
    except actions.RevisionConflict as conflict:
        problem = Problem(
            code="newer_revision",
            message="This boat was changed in another window.",
            field="/revision",
            value=body.revision,
            accepted=f"revision {conflict.current.revision}",
        )
        reply = ConflictOut(errors=[problem], current=_out(conflict.current), difference=conflict.difference)
        return Status(409, reply)


@variants_router.get(
    "/{uuid:variant_id}/history",
    response=HISTORY,
    operation_id="readHistory",
)
def read_history(request: HttpRequest, variant_id: UUID) -> Any:
    """The states a variant was in, newest first, each with how it differs from the one before."""
    return [
        RevisionRow(number=item.number, saved_at=item.saved_at, difference=difference, design=design)
        for item, design, difference in actions.history_of(_variant(variant_id))
    ]


@variants_router.delete("/{uuid:variant_id}", response={204: None, **FOUND}, operation_id="dropVariant")
def drop(request: HttpRequest, variant_id: UUID) -> Any:
    get_object_or_404(Variant, pk=variant_id, boat__deleted_at=None, is_working=False).delete()
    return Status(204, None)


@variants_router.get(
    "/{uuid:variant_id}/file",
    response=or_refused(None, named=True),
    openapi_extra=of_type("application/json", {"type": "object"}),
    operation_id="downloadVariant",
)
def download(request: HttpRequest, variant_id: UUID) -> HttpResponse:
    """The design as the file a person keeps."""
    variant = _variant(variant_id)
    try:
        design = actions.design_of(variant)
    except ParhelionError:  # as it is stored, for whoever can mend it
        kept = HttpResponse(json.dumps(variant.document, indent=1), content_type="application/json")
        kept["Content-Disposition"] = 'attachment; filename="damaged.parhelion.json"'
        return kept
    plain = "".join(c if c.isalnum() else "-" for c in design.name.lower() if c.isascii()).strip("-")
    reply = HttpResponse(written(design), content_type="application/json")
    reply["Content-Disposition"] = f'attachment; filename="{plain or "boat"}.parhelion.json"'
    return reply
