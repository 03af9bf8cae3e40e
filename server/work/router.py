"""Long work: asked for, looked after, left."""

from __future__ import annotations

from typing import Annotated, Any, Literal, Union
from uuid import UUID

from config.replies import or_refused
from django.http import HttpRequest
from django.shortcuts import get_object_or_404
from ninja import Router, Schema
from parhelion.design import BoatDesign
from parhelion.errors import ParhelionError, Problem
from parhelion.stations.registry import WORKS
from parhelion.stations.year.compare import MOST_SIDES
from pydantic import BaseModel, Field, RootModel, create_model

from work import worker
from work.models import Work

router = Router(tags=["Work"])


class NamedDesign(Schema):
    name: str = Field(default="", max_length=80)
    design: BoatDesign


class AskedWork(Schema):
    """A question that takes a while: of one design, or of two to four to compare."""

    kind: str = Field(max_length=20, json_schema_extra={"enum": list(WORKS)})
    designs: list[NamedDesign] = Field(min_length=1, max_length=MOST_SIDES)


class WorkState(BaseModel):
    """Where long work stands. `ticket` is that of the one who asked: who waits no more leaves with it."""

    id: UUID
    status: Literal["waiting", "running", "done", "cancelled", "failed", "interrupted"]
    progress: float
    problem: str
    ticket: UUID | None = None


def _kind_of_work(kind: str) -> type[WorkState]:
    """The state of one kind of work, with its answer once it is done."""
    entries: dict[str, Any] = {
        "kind": (Literal[kind], kind),
        "result": (WORKS[kind].signature.answers | None, None),
    }
    return create_model(f"{kind.capitalize()}Work", __base__=WorkState, **entries)


STATES = {kind: _kind_of_work(kind) for kind in WORKS}


class WorkOut(RootModel[Annotated[Union[tuple(STATES.values())], Field(discriminator="kind")]]):  # type: ignore[misc] # noqa: UP007
    """Long work of any kind, told by its kind."""


class Leaving(Schema):
    """The ticket that the question was answered with."""

    ticket: UUID


def _out(row: Work, ticket: UUID | None = None) -> WorkState:
    status, progress = worker.state_of(row)
    if status == Work.Status.DONE and row.result is None:
        row.refresh_from_db()
    made = {"id": row.pk, "status": status, "progress": progress, "problem": row.problem, "ticket": ticket}
    return STATES[row.kind].model_validate({**made, "result": row.result})


@router.post("", response=or_refused(WorkOut), operation_id="askWork")
def ask(request: HttpRequest, body: AskedWork) -> Any:
    """Begin long work, or find it begun or done."""
    work = WORKS.get(body.kind)
    if work is None:
        known = ", ".join(WORKS)
        problem = Problem(code="no_work", field="/kind", message="There is no such work.", accepted=known)
        raise ParhelionError([problem])
    if work.several != (len(body.designs) > 1):
        problem = Problem(
            code="wrong_number", field="/designs", value=len(body.designs),
            message="That is not a number of designs that this can be asked of.",
            accepted=f"two to {MOST_SIDES} designs" if work.several else "one design",
        )  # fmt: skip
        raise ParhelionError([problem])
    return _out(*worker.ask(body.kind, [(item.name, item.design) for item in body.designs]))


@router.get("/{uuid:work_id}", response=or_refused(WorkOut, named=True), operation_id="readWork")
def read(request: HttpRequest, work_id: UUID) -> Any:
    """How far it is, and its answer."""
    return _out(get_object_or_404(Work, pk=work_id))


@router.post("/{uuid:work_id}/leave", response=or_refused(WorkOut, named=True), operation_id="leaveWork")
def leave(request: HttpRequest, work_id: UUID, body: Leaving) -> Any:
    """Wait no more: work that nobody waits for ends."""
    row = get_object_or_404(Work, pk=work_id)
    worker.leave(row, body.ticket)
    return _out(row)
