"""What changes the records of a boat; callable from the API, a command or a test."""

from __future__ import annotations

from django.db import transaction
from django.utils import timezone
from parhelion.design.records import MOST_RECORDS, Record, Records
from parhelion.errors import ParhelionError, Problem
from parhelion.formats.records_file import read_records

from boats.models import Boat, Noted


def records_of(boat: Boat) -> Records:
    """All records of a boat that stand, oldest first."""
    rows = boat.noted.filter(withdrawn_at=None)
    return Records.model_validate({"records": [row.content for row in rows]})


def _revision(boat: Boat) -> int:
    return boat.variants.get(is_working=True).revision


def _put(boat: Boat, record: Record, revision: int) -> None:
    Noted.objects.update_or_create(
        boat=boat,
        key=record.id,
        defaults={"kind": record.kind, "content": record.model_dump(mode="json"), "withdrawn_at": None},
        create_defaults={
            "kind": record.kind,
            "content": record.model_dump(mode="json"),
            "revision": revision,
        },
    )


@transaction.atomic
def note(boat: Boat, record: Record) -> None:
    """Keep a record, in the place of one of the same id; one that was withdrawn stands again.

    Raises
    ------
    ParhelionError
        Where a boat would have more than any has.
    """
    known = boat.noted.filter(key=record.id).exists()
    if not known and boat.noted.filter(withdrawn_at=None).count() >= MOST_RECORDS:
        problem = Problem(
            code="too_many", message="This boat has as many records as are kept.",
            accepted=f"{MOST_RECORDS} or fewer; save them as a file, and remove old ones",
        )  # fmt: skip
        raise ParhelionError([problem])
    _put(boat, record, _revision(boat))


def withdraw(boat: Boat, key: str) -> bool:
    """Take a record back; false where there is none. Noting it again brings it back."""
    found = boat.noted.filter(key=key, withdrawn_at=None)
    return found.update(withdrawn_at=timezone.now()) > 0


@transaction.atomic
def take_in(boat: Boat, content: bytes) -> Records:
    """The records of a file beside those that are there; one of the same id is replaced."""
    brought = read_records(content)
    revision = _revision(boat)
    for record in brought.records:
        _put(boat, record, revision)
    return records_of(boat)
