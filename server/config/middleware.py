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
        if request.path.startswith("/api/"):
            reply = in_one_shape(reply)
        reply["Content-Security-Policy"] = POLICY
        if request.path.startswith("/api/"):
            reply["Cache-Control"] = "no-store"
        return reply


FAULTS = {
    400: ("bad_request", "This request is for no address of this machine.", "localhost or 127.0.0.1"),
    405: ("method_not_allowed", "This is not asked in that way.", None),
    500: ("fault", "The program failed at this. Nothing that was saved is changed.", None),
}


def in_one_shape(reply: HttpResponse) -> HttpResponse:
    """A refusal that was made outside the API's own handlers, in the one error shape."""
    if reply.status_code < 400 or reply.get("Content-Type", "").startswith("application/json"):
        return reply
    code, message, accepted = FAULTS.get(reply.status_code, ("refused", "This is not accepted.", None))
    problem = Problem(code=code, message=message, accepted=reply.get("Allow") or accepted)
    made = JsonResponse({"errors": [problem.model_dump()]}, status=reply.status_code)
    if "Allow" in reply:
        made["Allow"] = reply["Allow"]
    return made


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
