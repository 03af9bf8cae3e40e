"""The records beside a boat's design: what was bought, proved, read and ticked."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from config.replies import FOUND, of_type, or_refused
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404
from ninja import Router, Status
from parhelion.design.records import Record, Records
from parhelion.errors import ParhelionError, Problem
from parhelion.formats.records_file import written_records
from pydantic import RootModel

from boats import noted
from boats.models import Boat

router = Router(tags=["Records"])


class OneRecord(RootModel[Record]):
    """A record of any kind."""


def _boat(boat_id: UUID) -> Boat:
    return get_object_or_404(Boat, pk=boat_id, deleted_at=None)


@router.get("/{uuid:boat_id}/records", response=or_refused(Records, named=True), operation_id="listRecords")
def list_records(request: HttpRequest, boat_id: UUID) -> Any:
    return noted.records_of(_boat(boat_id))


@router.put("/{uuid:boat_id}/records", response={204: None, **FOUND}, operation_id="noteRecord")
def put_record(request: HttpRequest, boat_id: UUID, body: OneRecord) -> Any:
    """Keep a record, in the place of one of the same id."""
    noted.note(_boat(boat_id), body.root)
    return Status(204, None)


@router.get(
    "/{uuid:boat_id}/records/file",
    response=or_refused(None, named=True),
    openapi_extra=of_type("application/json", {"type": "object"}),
    operation_id="downloadRecords",
)
def download(request: HttpRequest, boat_id: UUID) -> HttpResponse:
    """The records as the file a person keeps."""
    reply = HttpResponse(written_records(noted.records_of(_boat(boat_id))), content_type="application/json")
    reply["Content-Disposition"] = 'attachment; filename="boat.records.json"'
    return reply


@router.post(
    "/{uuid:boat_id}/records/file", response=or_refused(Records, named=True), operation_id="takeInRecords"
)
def take_in(request: HttpRequest, boat_id: UUID) -> Any:
    """The records of a file, sent as the request's body, beside those that are there."""
    if not request.body:
        raise ParhelionError([Problem(code="empty", message="The file is empty.", accepted="a records file")])
    return noted.take_in(_boat(boat_id), request.body)


@router.delete(
    "/{uuid:boat_id}/records/{slug:key}", response={204: None, **FOUND}, operation_id="withdrawRecord"
)
def withdraw_record(request: HttpRequest, boat_id: UUID, key: str) -> Any:
    """Take a record back."""
    if not noted.withdraw(_boat(boat_id), key):
        raise Http404
    return Status(204, None)
