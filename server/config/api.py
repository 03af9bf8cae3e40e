"""The API: a router by resource or station, and one error shape for every refusal."""

from __future__ import annotations

import json
from typing import Any

from boats.noted_router import router as noted_router
from boats.router import router as boats_router
from boats.router import variants_router
from django.core.exceptions import RequestDataTooBig
from django.db import DatabaseError
from django.http import Http404, HttpRequest, HttpResponse
from ninja import NinjaAPI
from ninja.errors import HttpError, ValidationError
from ninja.parser import Parser
from outings.device_router import router as device_router
from outings.picture_router import router as picture_router
from outings.router import router as outings_router
from parhelion.errors import ParhelionError, Problem, problems_from
from parhelion.formats.boat_file import said_once
from parhelion.stations.registry import STATIONS
from stations.forecasts import router as forecast_router
from stations.live import router as live_router
from stations.pack import router as pack_router
from stations.routers import rail_router, router_of
from stations.words import router as words_router
from work.router import router as work_router

from config.replies import Errors


class OnceParser(Parser):
    """JSON in which every name is said once."""

    def parse_body(self, request: HttpRequest) -> Any:
        return json.loads(request.body, object_pairs_hook=said_once)


api = NinjaAPI(title="Parhelion", version="1", urls_namespace="api", docs_url=None, parser=OnceParser())
api.add_router("/boats", boats_router)
api.add_router("/boats", noted_router)
api.add_router("/boats", outings_router)
api.add_router("/boats", device_router)
api.add_router("/boats", picture_router)
api.add_router("/variants", variants_router)
api.add_router("/work", work_router)
api.add_router("/design", words_router)
api.add_router("/year", forecast_router)
api.add_router("/fitout", pack_router)
api.add_router("", rail_router)
api.add_router("", live_router)
for station in STATIONS:
    api.add_router(f"/{station.name}", router_of(station))


STORE_FAULTS = (  # as the database says it: what is wrong, and what mends it
    ("disk is full", "disk_full", "The disk is full: nothing more can be saved.",
     "free some space; what you see is kept in this window until then"),
    ("disk I/O error", "disk_failing", "The disk does not answer as it should.",
     "download the designs you need, and check the disk"),
    ("malformed", "store_damaged", "The file that holds the boats is damaged.",
     "download what still opens, move the file away and start again with your design files"),
    ("not a database", "store_damaged", "The file that holds the boats is damaged.",
     "move it away and start again with your design files"),
    ("readonly", "store_shut", "The folder that holds the boats cannot be written to.",
     "a folder of your own"),
    ("locked", "store_busy", "Another program holds the file with the boats.",
     "a moment's patience, or its end"),
)  # fmt: skip


def refused(request: HttpRequest, problems: list[Problem], status: int) -> HttpResponse:
    """A reply in the one error shape."""
    return api.create_response(request, Errors(errors=problems).model_dump(mode="json"), status=status)


@api.exception_handler(ValidationError)
def _invalid(request: HttpRequest, error: Any) -> HttpResponse:
    items = []
    for item in error.errors:
        where = tuple(item["loc"])
        items.append({"input": None, **item, "loc": where[2:] if where[:1] == ("body",) else where[1:]})
    return refused(request, problems_from(items), 422)


@api.exception_handler(ParhelionError)
def _not_accepted(request: HttpRequest, error: Any) -> HttpResponse:
    return refused(request, error.problems, 422)


@api.exception_handler(DatabaseError)
def _store_fails(request: HttpRequest, error: Any) -> HttpResponse:
    """A full disk, a file that is damaged or held: said, and what to do; reading goes on where it can."""
    text = str(error)
    for sign, code, message, accepted in STORE_FAULTS:
        if sign in text:
            return refused(request, [Problem(code=code, message=message, accepted=accepted)], 503)
    raise error


@api.exception_handler(Http404)
def _missing(request: HttpRequest, error: Any) -> HttpResponse:
    return refused(request, [Problem(code="not_found", message="There is nothing here.")], 404)


@api.exception_handler(HttpError)
def _http(request: HttpRequest, error: Any) -> HttpResponse:
    problem = Problem(code="bad_request", message=str(error), accepted="a JSON request")
    return refused(request, [problem], error.status_code)


@api.exception_handler(RequestDataTooBig)
def _too_big(request: HttpRequest, error: Any) -> HttpResponse:
    problem = Problem(
        code="too_large",
        message="This is larger than anything that is read here.",
        accepted="a design file of 1 MB, a weather file of 8 MB",
    )
    return refused(request, [problem], 413)
