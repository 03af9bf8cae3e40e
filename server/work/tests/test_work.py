"""Long work: asked for once by equal questions, followed, ended, interrupted by a new start of the program."""

from __future__ import annotations

import json
import time
import uuid
from unittest import mock

from django.conf import settings
from django.test import TransactionTestCase
from parhelion.balance.outlook import outlook_of
from parhelion.formats.boat_file import read_boat
from parhelion.stations.year.upgrades import upgrade_ladder
from runs import worker
from runs.kinds import WORK, Kind
from runs.models import Run

DEMO = json.loads((settings.ROOT / "demo" / "whimbrel.json").read_text())
WAIT_S = 120.0


class RunsTest(TransactionTestCase):
    def ask(self, kind, *designs):
        body = {"kind": kind, "designs": [{"name": f"d{n}", "design": d} for n, d in enumerate(designs)]}
        return self.client.post("/api/runs", json.dumps(body), content_type="application/json")

    def state(self, run_id):
        return self.client.get(f"/api/runs/{run_id}").json()

    def ended(self, run_id):
        until = time.monotonic() + WAIT_S
        while time.monotonic() < until:
            state = self.state(run_id)
            if state["status"] not in ("waiting", "running"):
                return state
            time.sleep(0.05)
        self.fail("the run does not end")

    def test_equal_questions_share_a_run_and_its_answer_is_the_cores(self):
        first = self.ask("ladder", DEMO).json()
        second = self.ask("ladder", DEMO).json()
        self.assertEqual(first["id"], second["id"])
        done = self.ended(first["id"])
        self.assertEqual((done["status"], done["progress"]), ("done", 1.0))
        self.assertEqual(
            done["ladder"], upgrade_ladder(outlook_of(read_boat(json.dumps(DEMO)))).model_dump(mode="json")
        )
        self.assertIsNone(done["season"])
        again = self.ask("ladder", DEMO).json()
        self.assertEqual((again["id"], again["status"]), (first["id"], "done"))
        other = json.loads(json.dumps(DEMO))
        other["plan"]["budget"] = {"coins": 1}
        self.assertNotEqual(self.ask("ladder", other).json()["id"], first["id"])

    def slow(self, named, report):
        for step in range(2000):
            report(step / 2000)
            time.sleep(0.01)
        raise AssertionError("nobody ended it")

    def test_progress_and_cancel_and_asked_again(self):
        with mock.patch.dict(WORK, {Kind.SEASON: self.slow}):
            run = self.ask("season", DEMO).json()
            until = time.monotonic() + WAIT_S
            while self.state(run["id"])["progress"] <= 0 and time.monotonic() < until:
                time.sleep(0.02)
            self.assertEqual(self.state(run["id"])["status"], "running")
            self.client.post(f"/api/runs/{run['id']}/cancel")
            self.assertEqual(self.ended(run["id"])["status"], "cancelled")
        again = self.ask("season", DEMO).json()
        self.assertEqual(len(self.ended(again["id"])["season"]["months"]), 12)

    def test_what_fails_says_so_and_what_another_start_had_is_interrupted(self):
        def fails(named, report):
            raise RuntimeError("no such water")

        with mock.patch.dict(WORK, {Kind.PROPOSALS: fails}), self.assertLogs("runs.worker", "ERROR"):
            failed = self.ended(self.ask("proposals", DEMO).json()["id"])
        self.assertEqual(failed["status"], "failed")
        self.assertIn("no such water", failed["problem"])
        left = Run.objects.create(
            kind="season", content_hash="0" * 64, status="running", boot_id=uuid.uuid4()
        )
        self.assertEqual(self.state(left.pk)["status"], "interrupted")

    def test_numbers_of_designs_and_old_rows(self):
        for kind, designs in (("comparison", [DEMO]), ("season", [DEMO, DEMO])):
            refused = self.ask(kind, *designs)
            self.assertEqual(refused.status_code, 422)
            self.assertEqual(refused.json()["errors"][0]["field"], "/designs")
        self.assertEqual(self.ask("comparison", *[DEMO] * 5).status_code, 422)
        with mock.patch.object(worker, "KEPT_ROWS", 3):
            for n in range(6):
                Run.objects.create(kind="season", content_hash=f"{n}", status="done", boot_id=worker.BOOT_ID)
            self.ended(self.ask("ladder", DEMO).json()["id"])
        self.assertLessEqual(Run.objects.count(), 4)
