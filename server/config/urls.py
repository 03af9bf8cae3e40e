"""The API under /api/; everything else is the single page."""

from __future__ import annotations

from django.conf import settings
from django.http import HttpRequest, HttpResponse
from django.urls import path, re_path
from parhelion.errors import Problem

from config.api import api, refused


def page(request: HttpRequest) -> HttpResponse:
    """The single page, for every address that is not the API's or a file's."""
    index = settings.WEB_DIST / "index.html"
    if not index.is_file():
        return HttpResponse(
            "The pages are not built yet: run make demo.", status=503, content_type="text/plain"
        )
    reply = HttpResponse(index.read_bytes(), content_type="text/html; charset=utf-8")
    reply["Cache-Control"] = "no-cache"
    return reply


def no_such_endpoint(request: HttpRequest, rest: str) -> HttpResponse:
    """An address under /api/ that is none."""
    return refused(request, [Problem(code="not_found", message=f"There is no endpoint {rest}.")], 404)


urlpatterns = [
    path("api/", api.urls),
    re_path(r"^api/(?P<rest>.*)$", no_such_endpoint),
    re_path(r"^(?!api/|assets/|static/).*$", page),
]
