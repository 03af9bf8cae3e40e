"""The devices of a boat, and how it goes with each."""

from __future__ import annotations

from datetime import datetime
from typing import Any
from uuid import UUID

from boats.models import Boat
from config.replies import FOUND, or_refused
from django.http import Http404, HttpRequest
from django.shortcuts import get_object_or_404
from ninja import Router, Schema, Status
from parhelion.design.logbook import Reading
from parhelion.design.part import Id, Name
from parhelion.errors import ParhelionError, Problem
from parhelion.formats.device_line import Form
from pydantic import Field

from outings.devices import State, listeners
from outings.models import Device

router = Router(tags=["Devices"])
MOST_DEVICES = 20


class DeviceIn(Schema):
    """A device: loopback, or an address that a person names."""

    id: Id
    name: Name
    form: Form
    host: str = Field(default="127.0.0.1", min_length=1, max_length=120, pattern=r"^[A-Za-z0-9.:_-]+$")
    port: int = Field(ge=1, le=65_535)
    of: str | None = Field(default=None, max_length=160)
    is_on: bool = True


class DeviceOut(DeviceIn):
    """With what is known of it at the moment."""

    state: str
    lines: int
    wrong: int
    let_go: int
    kept: int
    last_at: datetime | None
    told: str
    values: dict[str, float]
    heard: list[Reading]


def _boat(boat_id: UUID) -> Boat:
    return get_object_or_404(Boat, pk=boat_id, deleted_at=None)


@router.get(
    "/{uuid:boat_id}/devices", response=or_refused(list[DeviceOut], named=True), operation_id="listDevices"
)
def list_devices(request: HttpRequest, boat_id: UUID) -> Any:
    """The devices of a boat; those that are on are listened to from now on."""
    devices = list(Device.objects.filter(boat=_boat(boat_id)))
    states = listeners.match(boat_id, devices)
    return [_out(device, states.get(device.key, State(state="off"))) for device in devices]


def _out(device: Device, state: State) -> dict[str, Any]:
    told = {name: getattr(state, name) for name in State.__dataclass_fields__}
    return {
        "id": device.key, "name": device.name, "form": device.form, "host": device.host, "port": device.port,
        "of": device.of, "is_on": device.is_on, **told,
    }  # fmt: skip


@router.put("/{uuid:boat_id}/devices", response={204: None, **FOUND}, operation_id="putDevice")
def put_device(request: HttpRequest, boat_id: UUID, body: DeviceIn) -> Any:
    """Keep a device, in the place of one of the same id."""
    boat = _boat(boat_id)
    others = Device.objects.filter(boat=boat).exclude(key=body.id)
    if others.filter(name=body.name).exists():
        problem = Problem(
            code="twice", message="Another device has this name.", field="/name", accepted="a name of its own"
        )
        raise ParhelionError([problem])
    if others.count() >= MOST_DEVICES:
        raise ParhelionError(
            [
                Problem(
                    code="too_many", message="These are enough.", accepted=f"{MOST_DEVICES} devices or fewer"
                )
            ]
        )
    Device.objects.update_or_create(
        boat=boat, key=body.id, defaults=body.model_dump(exclude={"id"}) | {"form": body.form.value}
    )
    return Status(204, None)


@router.delete(
    "/{uuid:boat_id}/devices/{slug:key}", response={204: None, **FOUND}, operation_id="removeDevice"
)
def remove_device(request: HttpRequest, boat_id: UUID, key: str) -> Any:
    """Listen to it no more, and forget it; its readings stay."""
    gone, _ = Device.objects.filter(boat=_boat(boat_id), key=key).delete()
    if not gone:
        raise Http404
    listeners.match(boat_id, list(Device.objects.filter(boat_id=boat_id)))
    return Status(204, None)
