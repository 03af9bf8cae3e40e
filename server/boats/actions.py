"""What changes boats and variants; callable from the API, a command or a test."""

from __future__ import annotations

from datetime import timedelta
from uuid import UUID

from django.db import transaction
from django.http import Http404
from django.utils import timezone
from parhelion.design import BoatDesign
from parhelion.design.changes import Change, changes
from parhelion.formats.boat_file import design_from

from boats.models import Boat, Revision, Variant

COALESCE = timedelta(seconds=60)  # edits closer than this share one revision row
WORKING = "as designed"
MOST_HISTORY = 40  # states shown


class RevisionConflict(Exception):
    """Somebody else saved this variant since; carries what they saved and how it differs."""

    def __init__(self, current: Variant, difference: list[Change]):
        super().__init__(f"revision {current.revision} is newer")
        self.current = current
        self.difference = difference


def document_of(design: BoatDesign) -> dict[str, object]:
    """The design as it is stored."""
    return design.model_dump(mode="json")


def design_of(variant: Variant) -> BoatDesign:
    """The stored design, brought up to date."""
    return design_from(variant.document)


@transaction.atomic
def add_boat(design: BoatDesign) -> Boat:
    """A new boat with this design as its working variant."""
    boat = Boat.objects.create()
    _add_variant(boat, design, WORKING, is_working=True)
    return boat


def _add_variant(boat: Boat, design: BoatDesign, name: str, *, is_working: bool) -> Variant:
    variant = Variant.objects.create(
        boat=boat, name=name, is_working=is_working, document=document_of(design)
    )
    Revision.objects.create(variant=variant, number=1, document=variant.document, saved_at=timezone.now())
    return variant


@transaction.atomic
def keep_variant(boat: Boat, design: BoatDesign, name: str) -> Variant:
    """Keep this design beside the working one; a name already taken gets a number."""
    taken = set(boat.variants.values_list("name", flat=True))
    chosen, number = name, 2
    while chosen in taken:
        chosen, number = f"{name} {number}", number + 1
    return _add_variant(boat, design, chosen, is_working=False)


@transaction.atomic
def save_variant(variant_id: UUID, revision: int, design: BoatDesign, *, apart: bool = False) -> Variant:
    """Save a design over the revision it started from.

    Edits within a minute share a state of the history, but one that is saved `apart` (mine over another
    window's, a state brought back) leaves the state it replaces where it is.

    Raises
    ------
    RevisionConflict
        Where the stored revision is another one; nothing is written.
    """
    variant = Variant.objects.select_for_update().filter(pk=variant_id, boat__deleted_at=None).first()
    if variant is None:
        raise Http404
    document = document_of(design)
    if variant.document == document:
        return variant
    if variant.revision != revision:
        raise RevisionConflict(variant, changes(design_of(variant), design))
    now = timezone.now()
    variant.revision += 1
    variant.document = document
    variant.save()
    last = variant.revisions.first()
    if not apart and last is not None and last.number > 1 and now - last.saved_at < COALESCE:
        last.number, last.document = variant.revision, document
        last.save(update_fields=["number", "document"])
    else:
        Revision.objects.create(variant=variant, number=variant.revision, document=document, saved_at=now)
    return variant


def history_of(variant: Variant) -> list[tuple[Revision, BoatDesign, list[Change]]]:
    """The last states of a variant, newest first: the design, and how it differs from the state before."""
    rows = list(variant.revisions.all()[: MOST_HISTORY + 1])
    designs = [design_from(row.document) for row in rows]
    found = []
    for index, (row, design) in enumerate(zip(rows, designs, strict=True)):
        before = designs[index + 1] if index + 1 < len(designs) else None
        found.append((row, design, [] if before is None else changes(before, design)))
    return found[:MOST_HISTORY]


def duplicate_boat(boat: Boat) -> Boat:
    """A new boat from the working design of another."""
    design = design_of(boat.variants.get(is_working=True))
    return add_boat(design.model_copy(update={"name": f"{design.name[:73]}, copy"}))


def delete_boat(boat: Boat) -> None:
    """Put a boat away; `restore_boat` brings it back."""
    boat.deleted_at = timezone.now()
    boat.save(update_fields=["deleted_at"])


def restore_boat(boat: Boat) -> None:
    """Bring a deleted boat back."""
    boat.deleted_at = None
    boat.save(update_fields=["deleted_at"])
