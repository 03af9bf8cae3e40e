"""The logbook of a boat: outings and readings."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from boats.models import Boat
from config.replies import of_type, or_refused
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404
from ninja import Router, Schema
from parhelion.design import BoatDesign
from parhelion.design.logbook import Outing, Reading
from parhelion.errors import ParhelionError, Problem
from parhelion.formats.logbook_file import written_logbook
from parhelion.stations.log.station import STATION
from pydantic import Field

from outings import actions

router = Router(tags=["Logbook"])
MOST_AT_ONCE = 2_000


class LogbookTurn(Schema):
    """`turn` counts the changes of a logbook."""

    turn: int


class SomeReadings(Schema):
    """Readings, each in the place of one of the same id."""

    readings: list[Reading] = Field(min_length=1, max_length=MOST_AT_ONCE)


class AboutBoat(Schema):
    """The design that the readings are laid over."""

    design: BoatDesign


class OneOuting(Schema):
    outing: Outing


def _boat(boat_id: UUID) -> Boat:
    return get_object_or_404(Boat, pk=boat_id, deleted_at=None)


def _turned(turn: int | None) -> LogbookTurn:
    if turn is None:
        raise Http404
    return LogbookTurn(turn=turn)


@router.get(
    "/{uuid:boat_id}/logbook", response=or_refused(LogbookTurn, named=True), operation_id="logbookTurn"
)
def logbook_turn(request: HttpRequest, boat_id: UUID) -> Any:
    """How often the logbook has changed."""
    return _turned(actions.turn_of(_boat(boat_id).id))


@router.put(
    "/{uuid:boat_id}/logbook/outings", response=or_refused(LogbookTurn, named=True), operation_id="noteOuting"
)
def put_outing(request: HttpRequest, boat_id: UUID, body: OneOuting) -> Any:
    """Keep an outing, in the place of one of the same id."""
    return _turned(actions.put_outing(_boat(boat_id), body.outing))


@router.delete(
    "/{uuid:boat_id}/logbook/outings/{slug:key}",
    response=or_refused(LogbookTurn, named=True),
    operation_id="withdrawOuting",
)
def withdraw_outing(request: HttpRequest, boat_id: UUID, key: str) -> Any:
    """Take an outing back with its readings; noting it again brings both back."""
    return _turned(actions.withdraw_outing(_boat(boat_id), key))


@router.put(
    "/{uuid:boat_id}/logbook/readings",
    response=or_refused(LogbookTurn, named=True),
    operation_id="noteReadings",
)
def put_readings(request: HttpRequest, boat_id: UUID, body: SomeReadings) -> Any:
    """Keep readings; all of them, or none."""
    return _turned(actions.put_readings(_boat(boat_id), body.readings))


@router.delete(
    "/{uuid:boat_id}/logbook/readings/{slug:key}",
    response=or_refused(LogbookTurn, named=True),
    operation_id="dropReading",
)
def drop_reading(request: HttpRequest, boat_id: UUID, key: str) -> Any:
    """Remove a reading."""
    return _turned(actions.drop_reading(_boat(boat_id), key))


@router.get(
    "/{uuid:boat_id}/logbook/file",
    response=or_refused(None, named=True),
    openapi_extra=of_type("application/json", {"type": "object"}),
    operation_id="downloadLogbook",
)
def download(request: HttpRequest, boat_id: UUID) -> HttpResponse:
    """The logbook as the file a person keeps."""
    content = written_logbook(actions.whole_logbook(_boat(boat_id).id))
    reply = HttpResponse(content, content_type="application/json")
    reply["Content-Disposition"] = 'attachment; filename="boat.logbook.json"'
    return reply


@router.post(
    "/{uuid:boat_id}/logbook/file",
    response=or_refused(LogbookTurn, named=True),
    operation_id="takeInLogbook",
)
def take_in(request: HttpRequest, boat_id: UUID) -> Any:
    """The logbook of a file, sent as the request's body, beside what is there."""
    if not request.body:
        raise ParhelionError([Problem(code="empty", message="The file is empty.", accepted="a logbook file")])
    return _turned(actions.take_in(_boat(boat_id), request.body))


@router.post(
    "/{uuid:boat_id}/logbook/papers/{str:name}",
    response=or_refused(None, named=True),
    openapi_extra=of_type("application/octet-stream"),
    operation_id="logbookPaper",
)
def paper(request: HttpRequest, boat_id: UUID, name: str, body: AboutBoat) -> HttpResponse:
    """A paper of the Log, of the logbook as it is stored: readings.csv, outings.csv, season.pdf."""
    found = next((one for one in STATION.papers if one.name == name), None)
    boat = _boat(boat_id)
    if found is None:
        raise Http404
    content = found.about(body.design, logbook=actions.whole_logbook(boat.id))
    return HttpResponse(content, content_type=found.media_type)
