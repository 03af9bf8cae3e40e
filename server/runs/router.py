"""Long work: asked for, looked after, ended."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from django.http import HttpRequest
from django.shortcuts import get_object_or_404
from ninja import Router, Schema
from parhelion.design import BoatDesign
from parhelion.errors import ParhelionError, Problem
from parhelion.stations.strings.propose import Proposals
from parhelion.stations.year.compare import MOST_SIDES, Comparison
from parhelion.stations.year.season import WholeSeason
from parhelion.stations.year.upgrades import UpgradeLadder
from pydantic import Field

from runs import worker
from runs.kinds import RESULTS, Kind
from runs.models import Run

router = Router(tags=["runs"])


class NamedDesign(Schema):
    name: str = Field(default="", max_length=80)
    design: BoatDesign


class AskedRun(Schema):
    """A question that takes a while: of one design, or of two to four to compare."""

    kind: Kind
    designs: list[NamedDesign] = Field(min_length=1, max_length=MOST_SIDES)


class RunOut(Schema):
    """Where a run stands; the answer of its kind once it is done."""

    id: UUID
    kind: Kind
    status: str
    progress: float
    problem: str
    season: WholeSeason | None = None
    proposals: Proposals | None = None
    ladder: UpgradeLadder | None = None
    comparison: Comparison | None = None


def _out(run: Run) -> RunOut:
    status, progress = worker.state_of(run)
    if status == Run.Status.DONE and run.result is None:
        run.refresh_from_db()
    kind = Kind(run.kind)
    found = RunOut(id=run.pk, kind=kind, status=status, progress=progress, problem=run.problem)
    if status == Run.Status.DONE and run.result is not None:
        return found.model_copy(update={kind.value: RESULTS[kind].model_validate(run.result)})
    return found


@router.post("", response=RunOut, operation_id="askRun")
def ask(request: HttpRequest, body: AskedRun) -> Any:
    """Begin long work, or find it begun or done."""
    several = body.kind is Kind.COMPARISON
    if several != (len(body.designs) > 1):
        raise ParhelionError(
            [
                Problem(
                    code="wrong_number", field="/designs", value=len(body.designs),
                    message="That is not a number of designs that this can be asked of.",
                    accepted=f"two to {MOST_SIDES} designs" if several else "one design",
                )
            ]
        )  # fmt: skip
    return _out(worker.ask(body.kind, [(item.name, item.design) for item in body.designs]))


@router.get("/{uuid:run_id}", response=RunOut, operation_id="readRun")
def read(request: HttpRequest, run_id: UUID) -> Any:
    return _out(get_object_or_404(Run, pk=run_id))


@router.post("/{uuid:run_id}/cancel", response=RunOut, operation_id="cancelRun")
def cancel(request: HttpRequest, run_id: UUID) -> Any:
    run = get_object_or_404(Run, pk=run_id)
    worker.cancel(run)
    return _out(run)
