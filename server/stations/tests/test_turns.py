"""Turns: what a page no longer waits for is not computed, and nobody else is held up by it."""

from __future__ import annotations

import threading
import time
from concurrent.futures import Future, ThreadPoolExecutor
from unittest import TestCase

from django.http import HttpResponse
from django.test import RequestFactory

from stations.turns import TurnsMiddleware


class TurnsTest(TestCase):
    def setUp(self) -> None:
        self.computed: list[str] = []
        self.inside, self.go_on = threading.Event(), threading.Event()
        self.turns = TurnsMiddleware(self.compute)
        pool = ThreadPoolExecutor(8)
        self.addCleanup(pool.shutdown)
        self.addCleanup(self.go_on.set)
        self.pool = pool

    def compute(self, request) -> HttpResponse:
        turn = request.headers.get("X-Turn", "none")
        self.computed.append(turn)
        if turn.split()[2:3] == ["1"]:
            self.inside.set()
            self.go_on.wait(10)
        return HttpResponse("done")

    def ask(self, turn: str | None) -> Future[HttpResponse]:
        extra = {} if turn is None else {"headers": {"X-Turn": turn}}
        future = self.pool.submit(self.turns, RequestFactory().post("/api/answers", **extra))
        time.sleep(0.05)
        return future

    def test_of_those_that_wait_only_the_newest_is_computed(self):
        first = self.ask("tab answers 1 now")
        self.inside.wait(10)
        waiting = [self.ask(f"tab answers {number} now") for number in (2, 4, 3)]
        self.go_on.set()
        self.assertEqual(first.result(10).status_code, 200)
        self.assertEqual([reply.result(10).status_code for reply in waiting], [409, 200, 409])
        self.assertEqual(self.computed, ["tab answers 1 now", "tab answers 4 now"])

    def test_questions_at_rest_share_a_line_and_lose_only_to_their_own_kind(self):
        self.ask("tab tilt 1 rest")
        self.inside.wait(10)
        tilt, advice = self.ask("tab tilt 2 rest"), self.ask("tab advice 3 rest")
        self.assertEqual(self.computed, ["tab tilt 1 rest"])
        self.go_on.set()
        self.assertEqual([tilt.result(10).status_code, advice.result(10).status_code], [200, 200])

    def test_nobody_else_waits(self):
        self.ask("tab answers 1 now")
        self.inside.wait(10)
        for turn in ("other answers 9 now", "tab array 2 now", "tab tilt 3 rest", "nonsense", None):
            self.assertEqual(self.ask(turn).result(5).status_code, 200, turn)
