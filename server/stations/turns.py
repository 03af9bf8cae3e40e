"""Whose turn it is to be computed: a page's newer question takes the place of its older ones that still wait.

While someone drags a panel their page asks many times a second and gives up on all answers but the last. Left
alone, each of those would be computed to its end and slow down the one that is waited for.
"""

from __future__ import annotations

import re
import threading
from collections import OrderedDict
from collections.abc import Callable

from django.http import HttpRequest, HttpResponse, JsonResponse
from parhelion.errors import Problem

HEADER = "X-Turn"
PATTERN = re.compile(
    r"(?P<page>[\w-]{1,40}) (?P<question>[\w-]{1,40}) (?P<number>\d{1,9}) (?P<pace>now|rest)"
)
KEPT = 400


class _Line:
    """Those who wait for one thing: the newest number asked for, and a lock for the one being computed."""

    def __init__(self) -> None:
        self.newest = -1
        self.turn = threading.Lock()


class TurnsMiddleware:
    """Computes a page's questions of one kind one after the other, and of those that wait only the newest.

    The header's parts are the page, the kind of question, its number, and its pace. Of a page's questions at
    rest, those nobody waits for while they drag, one at a time is computed, whatever its kind. A question
    without the header is computed at once.
    """

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]):
        self.get_response = get_response
        self._lines: OrderedDict[tuple[str, str], _Line] = OrderedDict()
        self._lock = threading.Lock()

    def _line(self, page: str, question: str) -> _Line:
        line = self._lines.setdefault((page, question), _Line())
        self._lines.move_to_end((page, question))
        while len(self._lines) > KEPT:
            self._lines.popitem(last=False)
        return line

    def __call__(self, request: HttpRequest) -> HttpResponse:
        asked = PATTERN.fullmatch(request.headers.get(HEADER, ""))
        if asked is None:
            return self.get_response(request)
        number = int(asked["number"])
        with self._lock:
            line = self._line(asked["page"], asked["question"])
            line.newest = max(line.newest, number)
            waits_in = line if asked["pace"] == "now" else self._line(asked["page"], " at rest")
        with waits_in.turn:
            if line.newest > number:
                problem = Problem(code="superseded", message="A newer question took its place.")
                return JsonResponse({"errors": [problem.model_dump()]}, status=409)
            return self.get_response(request)
