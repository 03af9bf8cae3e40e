"""What changes the logbook of a boat, and the logbook as the core takes it."""

from __future__ import annotations

import contextlib
import threading
from collections import OrderedDict
from collections.abc import Iterable
from datetime import UTC, datetime
from uuid import UUID

from boats.models import Boat
from django.db import DatabaseError, connection, transaction
from django.db.models import F
from django.utils import timezone
from parhelion.design.logbook import MOST_OUTINGS, NO_LOGBOOK, VALUES, Logbook
from parhelion.design.logbook import Outing as OutingDocument
from parhelion.design.logbook import Reading as ReadingDocument
from parhelion.errors import ParhelionError, Problem
from parhelion.formats.logbook_file import read_logbook

from outings.models import LogTurn, Outing, Reading

FIELDS = ("outing_key", "at", "source", "of", "sky", *VALUES, "left_out", "note")
WHOLE_ROWS = 1_500  # of an outing; more are thinned to ten minutes for the pictures
THIN_S = 600
HELD = 12  # logbooks that are kept as the core takes them
BATCH = 900


def turn_of(boat_id: UUID) -> int:
    """How often the logbook has changed."""
    return LogTurn.objects.filter(boat_id=boat_id).values_list("turn", flat=True).first() or 0


def _turned(boat: Boat) -> int:
    turn, _ = LogTurn.objects.get_or_create(boat=boat)
    LogTurn.objects.filter(pk=turn.pk).update(turn=F("turn") + 1)
    return turn_of(boat.id)


@transaction.atomic
def put_outing(boat: Boat, outing: OutingDocument) -> int:
    """Keep an outing, in the place of one of the same id; one that was withdrawn stands again.

    Raises
    ------
    ParhelionError
        Where a boat would have more than any has.
    """
    mine = Outing.objects.filter(boat=boat, withdrawn_at=None)
    if not mine.filter(key=outing.id).exists() and mine.count() >= MOST_OUTINGS:
        problem = Problem(
            code="too_many", message="This boat has as many outings as are kept.",
            accepted=f"{MOST_OUTINGS} or fewer; save the logbook as a file, and remove old ones",
        )  # fmt: skip
        raise ParhelionError([problem])
    Outing.objects.update_or_create(
        boat=boat,
        key=outing.id,
        defaults={
            "began_at": outing.began_at, "content": outing.model_dump(mode="json"), "withdrawn_at": None,
        },
    )  # fmt: skip
    return _turned(boat)


@transaction.atomic
def withdraw_outing(boat: Boat, key: str) -> int | None:
    """Take an outing back, its readings with it until it stands again; None where there is none."""
    found = Outing.objects.filter(boat=boat, key=key, withdrawn_at=None)
    if not found.update(withdrawn_at=timezone.now()):
        return None
    return _turned(boat)


def _row(boat: Boat, reading: ReadingDocument) -> Reading:
    told = {name: getattr(reading, name) for name in VALUES}
    return Reading(
        boat=boat, key=reading.id, outing_key=reading.outing_id, at=reading.at, source=reading.source,
        of=reading.of, sky=reading.sky, left_out=reading.left_out, note=reading.note, **told,
    )  # fmt: skip


@transaction.atomic
def put_readings(boat: Boat, readings: Iterable[ReadingDocument]) -> int:
    """Keep readings, each in the place of one of the same id; all of them, or none."""
    once = {reading.id: reading for reading in readings}  # the last word on each
    ids = list(once)
    touched = {reading.outing_id for reading in once.values()}
    for first in range(0, len(ids), BATCH):  # one may have stood in another outing
        known = Reading.objects.filter(boat=boat, key__in=ids[first : first + BATCH])
        touched |= set(known.values_list("outing_key", flat=True).distinct())
    Reading.objects.bulk_create(
        [_row(boat, reading) for reading in once.values()],
        update_conflicts=True, unique_fields=["boat", "key"], update_fields=list(FIELDS),
        batch_size=BATCH // 30,
    )  # fmt: skip
    _touched(boat, touched)
    return _turned(boat)


def _touched(boat: Boat, outings: set[str | None]) -> None:
    """The readings of these outings have changed."""
    Outing.objects.filter(boat=boat, key__in=[key for key in outings if key]).update(turn=F("turn") + 1)


@transaction.atomic
def drop_reading(boat: Boat, key: str) -> int | None:
    """Remove a reading for good; None where there is none."""
    found = Reading.objects.filter(boat=boat, key=key).first()
    if found is None:
        return None
    _touched(boat, {found.outing_key})
    found.delete()
    return _turned(boat)


@transaction.atomic
def take_in(boat: Boat, content: bytes) -> int:
    """The logbook of a file beside what is there; what has the same id is replaced."""
    brought = read_logbook(content)
    for outing in brought.outings:
        put_outing(boat, outing)
    return put_readings(boat, brought.readings)


def _document(row: tuple[object, ...]) -> ReadingDocument:
    told = dict(zip(("id", *FIELDS), row, strict=True))
    told["outing_id"] = told.pop("outing_key")
    return ReadingDocument.model_validate(told)


def whole_logbook(boat_id: UUID) -> Logbook:
    """Every outing and reading that stands, as it was noted."""
    outings = Outing.objects.filter(boat_id=boat_id, withdrawn_at=None)
    rows = Reading.objects.filter(boat_id=boat_id).values_list("key", *FIELDS)
    return Logbook(
        outings=tuple(OutingDocument.model_validate(outing.content) for outing in outings),
        readings=tuple(_document(row) for row in rows.iterator(chunk_size=2000)),
    )


def means_of(boat_id: UUID, key: str, step_s: int, only: str, name: str) -> list[ReadingDocument]:
    """Readings of an outing as means of so many seconds by source and part, words and notes kept.

    Parameters
    ----------
    boat_id, key
        Of the boat, and of the outing.
    step_s : int
    only : str
        A condition on the rows, written here and never by a person.
    name : str
        What their ids begin with.
    """
    means = ", ".join(f"avg({value})" for value in VALUES)
    table, step = Reading._meta.db_table, f"cast(strftime('%%s', at) as integer) / {step_s}"
    with connection.cursor() as cursor:
        cursor.execute(
            f"select source, of, {step}, max(sky), max(note), {means} from {table} "
            f"where boat_id = %s and outing_key = %s and {only} group by source, of, {step}",
            [boat_id.hex, key],
        )
        rows = cursor.fetchall()
    found = []
    for number, (source, of, at, sky, note, *values) in enumerate(rows):
        told = dict(zip(VALUES, values, strict=True))
        if sky is None and not note and all(value is None for value in values):
            continue
        found.append(
            ReadingDocument(
                id=f"{name}-{number}", at=datetime.fromtimestamp(at * step_s + step_s / 2, UTC),
                outing_id=key, source=source, of=of, sky=sky, note=note or "", **told,
            )
        )  # fmt: skip
    return found


def _readings_of(outing: Outing) -> tuple[ReadingDocument, ...]:
    """The readings of an outing as pictures want them: thinned where they are many, and that kept once it is
    over."""
    if outing.thinned is not None and outing.thinned_turn == outing.turn:
        return tuple(ReadingDocument.model_validate(told) for told in outing.thinned)
    mine = Reading.objects.filter(boat_id=outing.boat_id, outing_key=outing.key)
    if mine.count() <= WHOLE_ROWS:
        return tuple(_document(row) for row in mine.values_list("key", *FIELDS))
    found = tuple(means_of(outing.boat_id, outing.key, THIN_S, "not left_out", "thin"))
    if outing.content.get("ended_at") is not None:
        told = [reading.model_dump(mode="json", exclude_defaults=True) for reading in found]
        with contextlib.suppress(DatabaseError):  # it is worked out again the next time
            Outing.objects.filter(pk=outing.pk).update(thinned=told, thinned_turn=outing.turn)
    return found


Held = dict[str, tuple[int, tuple[ReadingDocument, ...]]]  # of an outing: its turn, its readings


class Logbooks:
    """Logbooks as the core takes them, kept until they change; only what changed is read again."""

    def __init__(self) -> None:
        self._held: OrderedDict[UUID, tuple[int, Logbook, Held]] = OrderedDict()
        self._lock = threading.Lock()

    def of(self, boat_id: UUID | None) -> Logbook:
        """The logbook of a boat; an empty one without a boat."""
        if boat_id is None:
            return NO_LOGBOOK
        with self._lock:
            turn = turn_of(boat_id)
            known = self._held.get(boat_id)
            if known is not None and known[0] == turn:
                self._held.move_to_end(boat_id)
                return known[1]
            logbook, held = (NO_LOGBOOK, {}) if turn == 0 else _read(boat_id, known[2] if known else {})
            self._held[boat_id] = (turn, logbook, held)
            while len(self._held) > HELD:
                self._held.popitem(last=False)
            return logbook


def _read(boat_id: UUID, known: Held) -> tuple[Logbook, Held]:
    """The logbook now, from what is known of outings that have not changed."""
    outings, held = [], {}
    for outing in Outing.objects.filter(boat_id=boat_id, withdrawn_at=None):
        outings.append(OutingDocument.model_validate(outing.content))
        before = known.get(outing.key)
        same = before is not None and before[0] == outing.turn
        held[outing.key] = before if same and before else (outing.turn, _readings_of(outing))
    readings = tuple(reading for _, told in held.values() for reading in told)
    return Logbook.model_construct(
        schema_name="parhelion.logbook", schema_version=1, outings=tuple(outings), readings=readings
    ), held


logbooks = Logbooks()
