"""What the screen shows of an edit, in one request: the rail, the open station, then what can rest.

The reply is a line of JSON for each part, sent as soon as it is computed, from one gathering of the design.
While someone drags a panel their page asks many times a second: of a page's requests only the newest is
computed, and what takes longer than a glance waits until the page has rested.
"""

from __future__ import annotations

import asyncio
import logging
import threading
from collections import OrderedDict
from collections.abc import AsyncIterator, Callable
from datetime import time as Time
from functools import cache
from typing import Annotated, Any, Literal
from uuid import UUID

from asgiref.sync import sync_to_async
from config.replies import of_type, or_refused
from django.http import HttpRequest, StreamingHttpResponse
from ninja import Router, Schema
from outings.actions import logbooks
from parhelion.design import BoatDesign
from parhelion.design.records import NO_RECORDS, Records
from parhelion.errors import ParhelionError, Problem, problems_of
from parhelion.finding import Finding
from parhelion.rail.models import Answers
from parhelion.stations.registry import BY_NAME, usual, warning_counts
from parhelion.stations.station import Beside, Study
from parhelion.stations.usual import UsualOf
from pydantic import BaseModel, Field, RootModel, ValidationError, create_model

from stations.routers import AskedAnswers, adapter_of, answers_asked

REST_S = 0.3  # after a request has come, before what takes longer is begun
PAGES = 200  # whose newest request is remembered
LINES = "application/x-ndjson"

log = logging.getLogger(__name__)
router = Router(tags=["Rail"])


class AskedStudy(Schema):
    """A study by its address, such as hull/range, and what is asked beside the design."""

    study: str = Field(max_length=60)
    asked: dict[str, Any] = {}


class AskedLive(Schema):
    """`page` names a page, and `turn` counts its requests; `records` are those of the boat.

    Studies that ask for records are given them, and those that ask for the logbook that of the boat
    `boat_id`, with the outing that is open; `log_turn` is the turn of the logbook that the page knows of.
    """

    page: str = Field(max_length=40)
    turn: int = Field(ge=0)
    design: BoatDesign
    records: Records = NO_RECORDS
    boat_id: UUID | None = None
    log_turn: int = 0
    outing: str = Field(default="", max_length=40)
    rail: bool = True
    compared_with: BoatDesign | None = None
    at: Time | None = None
    station: str | None = Field(default=None, max_length=20)
    studies: list[AskedStudy] = Field(default=[], max_length=12)
    usual: bool = True
    counts: bool = True


class Checked(BaseModel):
    """The design is one."""

    part: Literal["checked"] = "checked"


class RailPart(BaseModel):
    part: Literal["rail"] = "rail"
    answer: Answers


class StudyPart(BaseModel):
    """`index` counts the studies that were asked for; the answer is that of the study's own address."""

    part: Literal["study"] = "study"
    index: int
    answer: Any


class FindingsPart(BaseModel):
    part: Literal["findings"] = "findings"
    station: str
    findings: list[Finding]


class CountsPart(BaseModel):
    """Open warnings of every station."""

    part: Literal["counts"] = "counts"
    counts: dict[str, int]


class UsualPart(BaseModel):
    """What the design's empty entries mean, by their pointers."""

    part: Literal["usual"] = "usual"
    usual: UsualOf


class FailedPart(BaseModel):
    """One part, or the study of that index, could not be computed; the others are not held up by it."""

    part: Literal["failed"] = "failed"
    of: Literal["rail", "study", "findings", "usual", "counts"]
    index: int | None = None
    errors: list[Problem]


class Overtaken(BaseModel):
    """A newer request of the page took this one's place."""

    part: Literal["overtaken"] = "overtaken"


AnyPart = Annotated[
    Checked | RailPart | StudyPart | FindingsPart | UsualPart | CountsPart | FailedPart | Overtaken,
    Field(discriminator="part"),
]


class LivePart(RootModel[AnyPart]):
    """One line of the reply."""


class _Page:
    """The newest request of a page, and a lock for the one that is computed."""

    def __init__(self) -> None:
        self.newest = -1
        self.turn = threading.Lock()


class Pages:
    """The pages that ask."""

    def __init__(self) -> None:
        self._pages: OrderedDict[str, _Page] = OrderedDict()
        self._lock = threading.Lock()

    def asked(self, name: str, turn: int) -> _Page:
        """A page has asked again."""
        with self._lock:
            page = self._pages.setdefault(name, _Page())
            self._pages.move_to_end(name)
            while len(self._pages) > PAGES:
                self._pages.popitem(last=False)
            page.newest = max(page.newest, turn)
            return page


pages = Pages()
Line = Callable[[], bytes]
Asked = tuple[str, int | None, Line]  # which part, which of the studies, and its line


@cache
def _asked_model(study: Study) -> type[Schema]:
    """What a study is asked beside the design."""
    entries: dict[str, Any] = dict(study.signature.asked)
    return create_model("Asked", __base__=Schema, **entries)


def _dumped(part: BaseModel) -> bytes:
    return part.model_dump_json().encode()


def _study(body: AskedLive, index: int) -> tuple[Study, dict[str, Any]]:
    """A study that is asked for, and what is asked beside the design, checked."""
    address = body.studies[index]
    name, _, rest = address.study.partition("/")
    study = BY_NAME[name].study(rest) if name in BY_NAME else None
    where = f"/studies/{index}"
    if study is None:
        known = ", ".join(f"{s.name}/{q.name}" for s in BY_NAME.values() for q in s.studies)
        problem = Problem(
            code="no_study", message="There is no such study.", field=f"{where}/study", accepted=known
        )
        raise ParhelionError([problem])
    try:
        asked = _asked_model(study).model_validate(address.asked)
    except ValidationError as error:
        problems = problems_of(error)
        raise ParhelionError(
            [p.model_copy(update={"field": f"{where}/asked{p.field}"}) for p in problems]
        ) from error
    found = {name: getattr(asked, name) for name in study.signature.asked}
    return study, found


def _beside(body: AskedLive) -> Beside:
    """What stands beside the design."""
    return Beside(body.records, logbooks.of(body.boat_id), body.outing)


def _parts(body: AskedLive) -> tuple[list[Asked], list[Asked]]:
    """What is computed at once, and what after a rest."""
    at_once: list[Asked] = []
    resting: list[Asked] = []
    design = body.design

    def rail() -> bytes:
        asked = AskedAnswers.model_construct(design=design, compared_with=body.compared_with, at=body.at)
        return _dumped(RailPart.model_construct(answer=answers_asked(asked)))

    @cache
    def beside() -> Beside:  # read from the database in the thread that computes
        return _beside(body)

    def line(study: Study, asked: dict[str, Any], index: int) -> Line:
        def made() -> bytes:
            answer = study.about(design, **{**asked, **beside().asked_by(asked)})
            return b'{"part":"study","index":%d,"answer":%b}' % (index, adapter_of(study).dump_json(answer))

        return made

    for index in range(len(body.studies)):
        study, asked = _study(body, index)
        (resting if study.at_rest else at_once).append(("study", index, line(study, asked, index)))
    if body.rail:
        at_once.insert(0, ("rail", None, rail))
    if body.station in BY_NAME:
        station = BY_NAME[body.station]

        def told() -> bytes:
            return _dumped(
                FindingsPart.model_construct(station=station.name, findings=station.told(design, beside()))
            )

        (resting if station.told_at_rest(design) else at_once).append(("findings", None, told))
    if body.usual:
        at_once.append(("usual", None, lambda: _dumped(UsualPart(usual=usual(design)))))
    if body.counts:
        resting.append(("counts", None, lambda: _dumped(CountsPart(counts=warning_counts(design, beside())))))
    return at_once, resting


def _computed(page: _Page, turn: int, kind: Any, index: int | None, line: Line) -> bytes | None:
    """One part as a line; None where a newer request has come meanwhile."""
    with page.turn:
        if page.newest > turn:
            return None
        try:
            part = line()
        except ParhelionError as error:
            part = _dumped(FailedPart(of=kind, index=index, errors=error.problems))
        except Exception:
            log.exception("%s %s could not be computed", kind, "" if index is None else index)
            problem = Problem(code="failed", message="This could not be computed.")
            part = _dumped(FailedPart(of=kind, index=index, errors=[problem]))
    return part + b"\n"


async def _lines(page: _Page, turn: int, at_once: list[Asked], resting: list[Asked]) -> AsyncIterator[bytes]:
    yield Checked().model_dump_json().encode() + b"\n"
    compute = sync_to_async(_computed, thread_sensitive=False)
    began = asyncio.get_running_loop().time()
    for parts, wait_s in ((at_once, 0.0), (resting, REST_S)):
        if parts and wait_s:
            await asyncio.sleep(max(began + wait_s - asyncio.get_running_loop().time(), 0.0))
        for kind, index, line in parts:
            made = await compute(page, turn, kind, index, line)
            if made is None:
                yield Overtaken().model_dump_json().encode() + b"\n"
                return
            yield made


@router.post(
    "/live",
    response=or_refused(LivePart),
    openapi_extra=of_type(LINES, {"$ref": "#/components/schemas/LivePart"}),
    operation_id="live",
)
async def live(request: HttpRequest, body: AskedLive) -> Any:
    """Everything that the screen shows of a design, part by part."""
    at_once, resting = _parts(body)  # a wrong question is refused before anything is computed
    page = pages.asked(body.page, body.turn)
    return StreamingHttpResponse(_lines(page, body.turn, at_once, resting), content_type=LINES)
