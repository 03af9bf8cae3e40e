"""Static files, and the rule that only this application's own pages may change something."""

from __future__ import annotations

from collections.abc import Callable

from django.http import HttpRequest, HttpResponse, JsonResponse
from parhelion.errors import Problem
from whitenoise.middleware import WhiteNoiseMiddleware
from whitenoise.responders import StaticFile

SAFE_METHODS = {"GET", "HEAD", "OPTIONS"}


POLICY = "; ".join(
    (
        "default-src 'self'",
        "style-src 'self' 'unsafe-inline'",  # places of what is drawn
        "img-src 'self' data: blob:",
        "font-src 'self' data:",
        "object-src 'none'",
        "base-uri 'none'",
        "form-action 'self'",
        "frame-ancestors 'none'",
    )
)


class DoorsMiddleware:
    """What a browser may do with a reply: no script but our own, no frame, nothing of the API kept."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]):
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        reply = self.get_response(request)
        reply["Content-Security-Policy"] = POLICY
        if request.path.startswith("/api/"):
            reply["Cache-Control"] = "no-store"
        return reply


class SameOriginMiddleware:
    """Refuses unsafe requests that another site's page sends to this machine."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]):
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        origin = request.headers.get("Origin")
        own = f"{request.scheme}://{request.get_host()}"
        if request.method not in SAFE_METHODS and origin and origin != own:
            problem = Problem(
                code="other_origin",
                message="Another site's page sent this request.",
                accepted="requests from Parhelion's own pages",
            )
            return JsonResponse({"errors": [problem.model_dump()]}, status=403)
        return self.get_response(request)


class StaticFilesMiddleware(WhiteNoiseMiddleware):
    """Serves the built pages whole: they are small, and ASGI cannot stream from a plain file."""

    @staticmethod
    def serve(static_file: StaticFile, request: HttpRequest) -> HttpResponse:
        found = static_file.get_response(request.method, request.META)
        content = b""
        if found.file is not None:
            with found.file:
                content = found.file.read()
        reply = HttpResponse(content, status=int(found.status))
        del reply["Content-Type"]
        for name, value in found.headers:
            reply[name] = value
        return reply
