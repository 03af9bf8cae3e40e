"""One thread that does the long work, one question after the other, with progress and cancel.

Progress is kept here and written to its row at most once a second; the result is written once. A run of
another start of the program can no longer be going on: it counts as interrupted until it is asked again.
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

from runs.kinds import WORK, Kind, Named
from runs.models import Run

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
    """Nobody waits for this run any more."""


class _Going:
    """A run that waits or works."""

    def __init__(self, run: Run, named: Named):
        self.id, self.kind, self.named = run.pk, Kind(run.kind), named
        self.cancelled = threading.Event()
        self.progress, self.written_at = 0.0, 0.0

    def report(self, share: float) -> None:
        """Takes the share done; ends the work where it was cancelled."""
        if self.cancelled.is_set():
            raise Cancelled
        self.progress = share
        now = time.monotonic()
        if now - self.written_at > WRITE_S:
            self.written_at = now
            Run.objects.filter(pk=self.id).update(progress=share)


_lock = threading.Lock()
_waiting: queue.SimpleQueue[_Going] = queue.SimpleQueue()
_going: dict[uuid.UUID, _Going] = {}
_threads: list[threading.Thread] = []  # the one that works; another only where it has died


def content_hash(kind: Kind, named: Named) -> str:
    """A digest of a question: equal ones share their answer."""
    told = [f"{name}\n{design.model_dump_json()}" for name, design in named]
    return hashlib.sha256("\n".join([CODE, kind, *told]).encode()).hexdigest()


def ask(kind: Kind, named: Named) -> Run:
    """The run of a question: the one that is done or going on, or a new one.

    Parameters
    ----------
    kind : Kind
    named : list of (str, BoatDesign)
    """
    key = content_hash(kind, named)
    with _lock, transaction.atomic():
        run = Run.objects.filter(content_hash=key).first()
        going = _going.get(run.pk) if run is not None else None
        if run is not None and going is not None and going.cancelled.is_set():
            run.delete()  # what is ending writes no more
            run = going = None
        if run is not None and (run.status == Run.Status.DONE or going is not None):
            return run
        if run is None:
            run = Run(kind=kind, content_hash=key, boot_id=BOOT_ID)
        run.boot_id, run.status, run.progress, run.problem = BOOT_ID, Run.Status.WAITING, 0.0, ""
        run.save()
        _forget()
        going = _Going(run, named)
        _going[run.pk] = going
    _start()
    _waiting.put(going)
    return run


def _forget() -> None:
    """Old rows go, so that the table does not grow for ever."""
    kept = list(Run.objects.values_list("pk", flat=True)[:KEPT_ROWS])
    Run.objects.exclude(pk__in=[*kept, *_going]).delete()


def cancel(run: Run) -> None:
    """End a run, if it waits or works."""
    going = _going.get(run.pk)
    if going is not None:
        going.cancelled.set()


def state_of(run: Run) -> tuple[str, float]:
    """A run's status and progress now; "interrupted" where another start of the program had it."""
    going = _going.get(run.pk)
    if going is not None:
        return ("cancelled" if going.cancelled.is_set() else run.status), going.progress
    if run.status in (Run.Status.WAITING, Run.Status.RUNNING):
        fresh = Run.objects.get(pk=run.pk)
        ended = fresh.status not in (Run.Status.WAITING, Run.Status.RUNNING)
        return (fresh.status, fresh.progress) if ended else ("interrupted", fresh.progress)
    return run.status, run.progress


def _start() -> None:
    with _lock:
        _threads[:] = [thread for thread in _threads if thread.is_alive()]
        if not _threads:
            _threads.append(threading.Thread(target=_work, name="runs", daemon=True))
            _threads[0].start()


def _work() -> None:
    while True:
        going = _waiting.get()
        try:
            _do(going)
        except Exception:
            log.exception("A run could not be ended")
        finally:
            _going.pop(going.id, None)
            connections.close_all()


def _do(going: _Going) -> None:
    row = Run.objects.filter(pk=going.id)
    try:
        going.report(0.0)
        row.update(status=Run.Status.RUNNING)
        result = WORK[going.kind](going.named, going.report)
    except Cancelled:
        row.update(status=Run.Status.CANCELLED, progress=going.progress)
    except Exception as error:
        log.exception("%s failed", going.kind)
        row.update(status=Run.Status.FAILED, problem=f"{type(error).__name__}: {error}")
    else:
        row.update(status=Run.Status.DONE, progress=1.0, result=result.model_dump(mode="json"))
