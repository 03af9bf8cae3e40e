"""Pictures of what broke, by outing."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from boats.models import Boat
from config.replies import FOUND, of_type, or_refused
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404
from django.utils import timezone
from ninja import Router, Schema, Status

from outings import pictures
from outings.models import Picture

router = Router(tags=["Logbook"])


class PictureOut(Schema):
    """A picture, small; its file is beside it."""

    key: str
    width: int
    height: int


def _boat(boat_id: UUID) -> Boat:
    return get_object_or_404(Boat, pk=boat_id, deleted_at=None)


@router.get(
    "/{uuid:boat_id}/logbook/outings/{slug:key}/pictures",
    response=or_refused(list[PictureOut], named=True),
    operation_id="listPictures",
)
def list_pictures(request: HttpRequest, boat_id: UUID, key: str) -> Any:
    """The pictures of an outing."""
    return list(Picture.objects.filter(boat=_boat(boat_id), outing_key=key, withdrawn_at=None))


@router.post(
    "/{uuid:boat_id}/logbook/outings/{slug:key}/pictures",
    response=or_refused(PictureOut, named=True),
    operation_id="addPicture",
)
def add_picture(request: HttpRequest, boat_id: UUID, key: str) -> Any:
    """Keep a picture of an outing, sent as the request's body: made small, without the camera's notes."""
    return pictures.keep(_boat(boat_id), key, request.body)


@router.get(
    "/{uuid:boat_id}/logbook/pictures/{slug:key}",
    response=or_refused(None, named=True),
    openapi_extra=of_type("image/jpeg"),
    operation_id="picture",
)
def picture(request: HttpRequest, boat_id: UUID, key: str) -> HttpResponse:
    """A picture's file."""
    path = pictures.path_of(get_object_or_404(Picture, boat=_boat(boat_id), key=key))
    if not path.is_file():
        raise Http404
    return HttpResponse(path.read_bytes(), content_type="image/jpeg")


@router.put(
    "/{uuid:boat_id}/logbook/pictures/{slug:key}",
    response={204: None, **FOUND},
    operation_id="putPictureBack",
)
def put_back(request: HttpRequest, boat_id: UUID, key: str) -> Any:
    """Show a picture again that was removed."""
    return _withdrawn(boat_id, key, None)


@router.delete(
    "/{uuid:boat_id}/logbook/pictures/{slug:key}",
    response={204: None, **FOUND},
    operation_id="removePicture",
)
def remove(request: HttpRequest, boat_id: UUID, key: str) -> Any:
    """Show a picture no more."""
    return _withdrawn(boat_id, key, timezone.now())


def _withdrawn(boat_id: UUID, key: str, at: Any) -> Any:
    if not Picture.objects.filter(boat=_boat(boat_id), key=key).update(withdrawn_at=at):
        raise Http404
    return Status(204, None)
