"""One thread that does the long work, one question after the other, with progress and an end on request.

Progress is kept here and written to its row at most once a second; the result is written once. Several pages
may wait for the same work: it ends before its time only when the last of them has left. Work of another
start of the program can no longer be going on: it counts as interrupted until it is asked again.
"""

from __future__ import annotations

import hashlib
import logging
import queue
import threading
import time
import uuid
from pathlib import Path

import parhelion
from django.db import connections, transaction
from parhelion.computing.progress import Report
from parhelion.design import BoatDesign
from parhelion.stations.registry import WORKS
from pydantic import BaseModel

from work.models import Work

Named = list[tuple[str, BoatDesign]]
BOOT_ID = uuid.uuid4()
WRITE_S = 1.0  # between two writes of progress
KEPT_ROWS = 300

log = logging.getLogger(__name__)


def _code() -> str:
    """What the results depend on besides the question: the core as it is."""
    parts = sorted(Path(parhelion.__file__).parent.rglob("*.py"))
    return hashlib.sha256(b"".join(part.read_bytes() for part in parts)).hexdigest()


CODE = _code()


class Cancelled(Exception):
    """Nobody waits for this work any more."""


class _Going:
    """Work that waits or is done, and who waits for it."""

    def __init__(self, row: Work, named: Named):
        self.id, self.kind, self.named = row.pk, row.kind, named
        self.cancelled = threading.Event()
        self.waiting: set[uuid.UUID] = set()
        self.progress, self.written_at = 0.0, 0.0

    def report(self, share: float) -> None:
        """Takes the share done; ends the work where nobody waits for it."""
        if self.cancelled.is_set():
            raise Cancelled
        self.progress = share
        now = time.monotonic()
        if now - self.written_at > WRITE_S:
            self.written_at = now
            Work.objects.filter(pk=self.id).update(progress=share)


_lock = threading.Lock()
_queue: queue.SimpleQueue[_Going] = queue.SimpleQueue()
_going: dict[uuid.UUID, _Going] = {}
_threads: list[threading.Thread] = []  # the one that works; another only where it has died


def content_hash(kind: str, named: Named) -> str:
    """A digest of a question, by what it reads of the designs: equal ones share their answer."""
    work = WORKS[kind]
    told = [f"{name if work.several else ''}\n{work.reads.digest(design)}" for name, design in named]
    return hashlib.sha256("\n".join([CODE, kind, *told]).encode()).hexdigest()


def ask(kind: str, named: Named) -> tuple[Work, uuid.UUID]:
    """The work of a question, done or going on or new, and the ticket of the one who waits for it.

    Parameters
    ----------
    kind : str
        As the stations register it.
    named : list of (str, BoatDesign)
    """
    key, ticket = content_hash(kind, named), uuid.uuid4()
    with _lock, transaction.atomic():
        row = Work.objects.filter(content_hash=key).first()
        going = _going.get(row.pk) if row is not None else None
        if row is not None and going is not None and going.cancelled.is_set():
            row.delete()  # what is ending writes no more
            row = going = None
        if row is not None and (row.status == Work.Status.DONE or going is not None):
            if going is not None:
                going.waiting.add(ticket)
            return row, ticket
        if row is None:
            row = Work(kind=kind, content_hash=key, boot_id=BOOT_ID)
        row.boot_id, row.status, row.progress, row.problem = BOOT_ID, Work.Status.WAITING, 0.0, ""
        row.save()
        _forget()
        going = _Going(row, named)
        going.waiting.add(ticket)
        _going[row.pk] = going
    _start()
    _queue.put(going)
    return row, ticket


def _forget() -> None:
    """Old rows go, so that the table does not grow for ever."""
    kept = list(Work.objects.values_list("pk", flat=True)[:KEPT_ROWS])
    Work.objects.exclude(pk__in=[*kept, *_going]).delete()


def leave(row: Work, ticket: uuid.UUID) -> None:
    """One who waited waits no more; the work ends where it was the last."""
    with _lock:
        going = _going.get(row.pk)
        if going is not None:
            going.waiting.discard(ticket)
            if not going.waiting:
                going.cancelled.set()


def state_of(row: Work) -> tuple[str, float]:
    """Status and progress now; "interrupted" where another start of the program had it."""
    going = _going.get(row.pk)
    if going is not None:
        return ("cancelled" if going.cancelled.is_set() else row.status), going.progress
    if row.status in (Work.Status.WAITING, Work.Status.RUNNING):
        fresh = Work.objects.get(pk=row.pk)
        ended = fresh.status not in (Work.Status.WAITING, Work.Status.RUNNING)
        return (fresh.status, fresh.progress) if ended else ("interrupted", fresh.progress)
    return row.status, row.progress


def _start() -> None:
    with _lock:
        _threads[:] = [thread for thread in _threads if thread.is_alive()]
        if not _threads:
            _threads.append(threading.Thread(target=_work, name="work", daemon=True))
            _threads[0].start()


def _work() -> None:
    while True:
        going = _queue.get()
        try:
            _do(going)
        except Exception:
            log.exception("Work could not be ended")
        finally:
            _going.pop(going.id, None)
            connections.close_all()


def _answer(kind: str, named: Named, report: Report) -> BaseModel:
    """The core's answer, of one design or of several by name."""
    work = WORKS[kind]
    if work.several:
        several: BaseModel = work.about(None, named=named, report=report)
        return several
    one: BaseModel = work.about(named[0][1], report=report)
    return one


def _do(going: _Going) -> None:
    row = Work.objects.filter(pk=going.id)
    try:
        going.report(0.0)
        row.update(status=Work.Status.RUNNING)
        result = _answer(going.kind, going.named, going.report).model_dump(mode="json")
        row.update(status=Work.Status.DONE, progress=1.0, result=result)
    except Cancelled:
        row.update(status=Work.Status.CANCELLED, progress=going.progress)
    except Exception as error:  # of the core, or of the store that refuses what came out
        log.exception("%s failed", going.kind)
        row.update(status=Work.Status.FAILED, problem=f"{type(error).__name__}: {error}")
