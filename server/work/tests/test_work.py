"""Long work: asked for once by equal questions, followed, ended, interrupted by a new start of the program."""

from __future__ import annotations

import dataclasses
import json
import time
import uuid
from contextlib import contextmanager
from unittest import mock

from django.conf import settings
from django.test import TransactionTestCase
from parhelion.balance.outlook import Outlook, outlook_of
from parhelion.computing.progress import Report, silent
from parhelion.formats.boat_file import read_boat
from parhelion.stations.registry import WORKS
from parhelion.stations.strings.propose import Proposals
from parhelion.stations.year.season import WholeSeason
from parhelion.stations.year.upgrades import upgrade_steps

from work import worker
from work.models import Work

DEMO = json.loads((settings.ROOT / "demo" / "whimbrel.json").read_text())
WAIT_S = 120.0


class WorkTest(TransactionTestCase):
    def ask(self, kind, *designs):
        body = {"kind": kind, "designs": [{"name": f"d{n}", "design": d} for n, d in enumerate(designs)]}
        return self.client.post("/api/work", json.dumps(body), content_type="application/json")

    def state(self, work_id):
        return self.client.get(f"/api/work/{work_id}").json()

    def ended(self, work_id):
        until = time.monotonic() + WAIT_S
        while time.monotonic() < until:
            state = self.state(work_id)
            if state["status"] not in ("waiting", "running"):
                return state
            time.sleep(0.05)
        self.fail("the work does not end")

    def test_equal_questions_share_their_work_and_its_answer_is_the_cores(self):
        first = self.ask("upgrades", DEMO).json()
        second = self.ask("upgrades", DEMO).json()
        self.assertEqual(first["id"], second["id"])
        done = self.ended(first["id"])
        self.assertEqual((done["status"], done["progress"]), ("done", 1.0))
        self.assertEqual(
            done["result"], upgrade_steps(outlook_of(read_boat(json.dumps(DEMO)))).model_dump(mode="json")
        )
        again = self.ask("upgrades", DEMO).json()
        self.assertEqual((again["id"], again["status"]), (first["id"], "done"))
        other = json.loads(json.dumps(DEMO))
        other["plan"]["budget"] = {"coins": 1}
        self.assertNotEqual(self.ask("upgrades", other).json()["id"], first["id"])

    def test_a_name_or_a_note_changed_asks_nothing_new(self):
        first = self.ask("season", DEMO).json()["id"]
        for entry in ("name", "note"):
            self.assertEqual(self.ask("season", {**DEMO, entry: "other words"}).json()["id"], first)
        other = json.loads(json.dumps(DEMO))
        other["plan"]["speed_mps"] += 0.1
        self.assertNotEqual(self.ask("season", other).json()["id"], first)
        self.assertEqual(self.ended(first)["status"], "done")

    @contextmanager
    def in_the_place_of(self, kind, answer):
        with mock.patch.dict(WORKS, {kind: dataclasses.replace(WORKS[kind], answer=answer)}):
            yield

    @staticmethod
    def slow(design: Outlook, report: Report = silent) -> WholeSeason:
        for step in range(2000):
            report(step / 2000)
            time.sleep(0.01)
        raise AssertionError("nobody ended it")

    def begun(self, work_id):
        until = time.monotonic() + WAIT_S
        while self.state(work_id)["progress"] <= 0 and time.monotonic() < until:
            time.sleep(0.02)
        self.assertEqual(self.state(work_id)["status"], "running")

    def leave(self, work):
        body = json.dumps({"ticket": work["ticket"]})
        self.client.post(f"/api/work/{work['id']}/leave", body, content_type="application/json")

    def test_work_ends_when_the_last_who_waited_has_left(self):
        with self.in_the_place_of("season", self.slow):
            mine, theirs = self.ask("season", DEMO).json(), self.ask("season", DEMO).json()
            self.assertEqual(mine["id"], theirs["id"])
            self.assertNotEqual(mine["ticket"], theirs["ticket"])
            self.begun(mine["id"])
            self.leave(mine)
            self.leave(mine)  # twice is once
            time.sleep(0.1)
            self.assertEqual(self.state(mine["id"])["status"], "running")
            self.leave(theirs)
            self.assertEqual(self.ended(mine["id"])["status"], "cancelled")
        again = self.ask("season", DEMO).json()
        self.assertEqual(len(self.ended(again["id"])["result"]["months"]), 12)

    def test_what_fails_says_so_and_what_another_start_had_is_interrupted(self):
        def fails(design: Outlook, report: Report = silent) -> Proposals:
            raise RuntimeError("no such water")

        with self.in_the_place_of("proposals", fails), self.assertLogs("work.worker", "ERROR"):
            failed = self.ended(self.ask("proposals", DEMO).json()["id"])
        self.assertEqual(failed["status"], "failed")
        self.assertIn("no such water", failed["problem"])
        endless = Proposals.model_construct(
            tried=1, legal=1, now_wh=float("inf"), now_year_wh=0.0, proposals=[], volts=[], unwired=[]
        )
        with (
            self.in_the_place_of("proposals", lambda design, report=silent: endless),
            self.assertLogs("work.worker", "ERROR"),
        ):  # an answer that the store refuses
            other = DEMO | {"plan": DEMO["plan"] | {"speed_mps": 1.0}}
            refused = self.ended(self.ask("proposals", other).json()["id"])
        self.assertEqual((refused["status"], bool(refused["problem"])), ("failed", True))
        left = Work.objects.create(
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
                Work.objects.create(kind="season", content_hash=f"{n}", status="done", boot_id=worker.BOOT_ID)
            self.ended(self.ask("upgrades", DEMO).json()["id"])
        self.assertLessEqual(Work.objects.count(), 4)
