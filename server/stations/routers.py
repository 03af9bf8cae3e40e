"""One router a station, made of what the station registers: the addresses, the questions and the answers."""

from __future__ import annotations

from collections.abc import Callable
from datetime import UTC, datetime
from datetime import time as Time
from functools import cache
from typing import Any

from config.replies import of_type, or_refused
from django.http import HttpRequest, HttpResponse
from ninja import Router, Schema
from parhelion.design import BoatDesign
from parhelion.rail.answers import answers_for
from parhelion.rail.models import Answers
from parhelion.stations.station import Paper, Question, Station, Study
from parhelion.sun.daysteps import day_steps
from pydantic import BaseModel, TypeAdapter, create_model

JSON = "application/json"
rail_router = Router(tags=["Rail"])


class AskedAnswers(Schema):
    """`at` is the local clock time that "now" means; this minute where it is not given."""

    design: BoatDesign
    compared_with: BoatDesign | None = None
    at: Time | None = None


def answers_asked(asked: AskedAnswers) -> Answers:
    """The rail of a design, at the clock time it is asked for."""
    at = datetime.now(UTC).replace(second=0, microsecond=0)
    if asked.at is not None:
        at = day_steps(asked.design.site, asked.design.plan.date).moment(asked.at)
    return answers_for(asked.design, at, asked.compared_with)


@rail_router.post("/answers", response=or_refused(Answers), operation_id="computeAnswers")
def answers(request: HttpRequest, body: AskedAnswers) -> Any:
    """How fast and how far on the sun alone, and what holds the boat back."""
    return HttpResponse(answers_asked(body).model_dump_json(), content_type=JSON)


@cache
def adapter_of(question: Question) -> TypeAdapter[Any]:
    """Writes the answers of a question as JSON."""
    return TypeAdapter(question.signature.answers)


def written(answer: Any, question: Question) -> HttpResponse:
    """An answer of the core as JSON: it is what its type says, and is not checked again."""
    return HttpResponse(adapter_of(question).dump_json(answer), content_type=JSON)


def operation_id(station: Station, question: Question) -> str:
    """`array`, `panel-models` makes arrayPanelModels."""
    words = question.name.replace("/", " ").replace("-", " ").replace(".", " ").split()
    return station.name + "".join(word.capitalize() for word in words)


def asked_model(station: Station, question: Question) -> type[Schema]:
    """What is posted to a question: the design, where it is about one, and what is asked beside it."""
    entries: dict[str, Any] = dict(question.signature.asked)
    if question.signature.subject is not None:
        entries = {"design": (BoatDesign, ...), **entries}
    name = operation_id(station, question)
    return create_model(f"{name[0].upper()}{name[1:]}Asked", __base__=Schema, **entries)


def asked_of(question: Question, body: BaseModel) -> dict[str, Any]:
    """What was asked beside the design."""
    return {name: getattr(body, name) for name in question.signature.asked}


def _answering(question: Question) -> Callable[..., HttpResponse]:
    def ask(request: HttpRequest, body: Any) -> HttpResponse:
        design = getattr(body, "design", None)
        return written(question.about(design, **asked_of(question, body)), question)

    return ask


def _writing(paper: Paper) -> Callable[..., HttpResponse]:
    def write(request: HttpRequest, body: Any) -> HttpResponse:
        content = paper.about(body.design, **asked_of(paper, body))
        return HttpResponse(content, content_type=paper.media_type)

    return write


def _listing(question: Question) -> Callable[..., HttpResponse]:
    def show(request: HttpRequest) -> HttpResponse:
        return written(question.about(None), question)

    return show


def router_of(station: Station) -> Router:
    """All addresses of a station."""
    router = Router(tags=[station.title])

    def add(question: Question, method: str, view: Callable[..., HttpResponse], **options: Any) -> None:
        if method == "POST":
            view.__annotations__["body"] = asked_model(station, question)
        view.__doc__ = question.answer.__doc__
        router.add_api_operation(
            f"/{question.name}",
            [method],
            view,
            operation_id=operation_id(station, question),
            summary=(question.answer.__doc__ or "").strip().split("\n")[0],
            **options,
        )

    for question in (*station.studies, Study("findings", station.findings), *station.readers):
        add(question, "POST", _answering(question), response=or_refused(question.signature.answers))
    for paper in station.papers:
        add(
            paper, "POST", _writing(paper), response=or_refused(None), openapi_extra=of_type(paper.media_type)
        )
    for listing in station.lists:
        add(listing, "GET", _listing(listing), response=or_refused(listing.signature.answers))
    return router
