"""One request for what the screen shows: its parts are the addresses' own answers, the newest of a page wins."""

from __future__ import annotations

import asyncio
import itertools
import json
import pickle
from collections import Counter
from unittest import mock

from django.conf import settings
from django.test import AsyncClient, SimpleTestCase
from parhelion.rail import speeds

from stations import live

DEMO = json.loads((settings.ROOT / "demo" / "whimbrel.json").read_text())
turns = itertools.count()


class LiveTest(SimpleTestCase):
    def asked(self, **more):
        body = {"page": "a page", "turn": next(turns), "design": DEMO, "at": "14:20", **more}
        return json.dumps(body)

    async def parts(self, **more):
        with mock.patch.object(live, "REST_S", 0.0):
            reply = await AsyncClient().post("/api/live", self.asked(**more), content_type="application/json")
            if reply.status_code != 200:
                return reply
            text = b"".join([part async for part in reply.streaming_content]).decode()
        return [json.loads(line) for line in text.splitlines()]

    def post(self, url, **body):
        reply = self.client.post(url, json.dumps({"design": DEMO, **body}), content_type="application/json")
        return reply.json()

    async def test_parts_are_what_the_addresses_answer(self):
        studies = [{"study": "hull/picture"}, {"study": "bank/picture", "asked": {"ask": {"hours": 5}}}]
        parts = await self.parts(station="hull", studies=studies)
        self.assertEqual(
            [part["part"] for part in parts],
            ["checked", "rail", "study", "study", "findings", "usual", "counts"],
        )
        _, rail, hull, bank, told, usual, counts = parts
        self.assertIn("/hull/margin", usual["usual"])
        ask = asyncio.to_thread
        self.assertEqual(rail["answer"], await ask(self.post, "/api/answers", at="14:20"))
        self.assertEqual(hull["answer"], await ask(self.post, "/api/hull/picture"))
        self.assertEqual(bank["answer"], await ask(self.post, "/api/bank/picture", ask={"hours": 5}))
        self.assertEqual(told["findings"], await ask(self.post, "/api/hull/findings"))
        warns = sum(item["level"] == "warn" for item in told["findings"])
        self.assertEqual(counts["counts"]["hull"], warns)
        self.assertEqual(
            list(counts["counts"]),
            ["wish", "hull", "bank", "array", "strings", "day", "year", "passage", "fitout", "log"],
        )

    async def test_an_older_request_of_a_page_gives_way(self):
        live.pages.asked("busy", 7)
        parts = await self.parts(page="busy", turn=6)
        self.assertEqual([part["part"] for part in parts], ["checked", "overtaken"])
        parts = await self.parts(page="busy", turn=7, counts=False)
        self.assertEqual([part["part"] for part in parts], ["checked", "rail", "usual"])

    async def test_the_arrays_findings_rest_only_while_shade_is_still_to_be_cast(self):
        async def order(design) -> list[str]:
            parts = await self.parts(design=design, station="array", studies=[{"study": "array/advice"}])
            return [part["part"] for part in parts]

        known = ["checked", "rail", "findings", "usual", "study", "counts"]
        await order(DEMO)
        self.assertEqual(await order(DEMO), known)
        moved = json.loads(json.dumps(DEMO))
        moved["obstacles"][0]["foot"]["y_m"] += 0.017
        self.assertEqual(await order(moved), ["checked", "rail", "usual", "study", "findings", "counts"])
        self.assertEqual(await order(moved), known)

    async def test_one_part_that_fails_holds_up_no_other(self):
        with (
            mock.patch.object(live, "answers_asked", side_effect=ZeroDivisionError),
            self.assertLogs("stations.live", "ERROR"),
        ):
            parts = await self.parts(studies=[{"study": "day/picture"}], counts=False)
        self.assertEqual([part["part"] for part in parts], ["checked", "failed", "study", "usual"])
        self.assertEqual((parts[1]["of"], parts[1]["errors"][0]["code"]), ("rail", "failed"))

    async def test_wrong_questions_are_refused_beside_their_field(self):
        for more, field in (
            ({"studies": [{"study": "hull/nothing"}]}, "/studies/0/study"),
            (
                {"studies": [{"study": "hull/helm-card", "asked": {"unit": "furlongs"}}]},
                "/studies/0/asked/unit",
            ),
            ({"design": {**DEMO, "drives": "two"}}, "/design/drives"),
        ):
            reply = await self.parts(**more)
            self.assertEqual((reply.status_code, reply.json()["errors"][0]["field"]), (422, field))

    async def test_a_day_is_solved_once_and_asked_again_or_renamed_none(self):
        studies = [{"study": "hull/picture"}, {"study": "day/picture"}, {"study": "bank/picture"}]
        edited = json.loads(json.dumps(DEMO))
        solved: list[bytes] = []
        solve = speeds.steady_power

        def counted(*asked):
            solved.append(pickle.dumps(asked))
            return solve(*asked)

        with mock.patch.object(speeds, "steady_power", counted):
            edited["loads"][0]["power_w"] = 161.0
            await self.parts(design=edited, compared_with=DEMO, studies=studies, station="hull")
            # Boats that are tried by what holds this one back, lighter or with another propeller, have the
            # same sun: each may ask the same watts once more.
            self.assertLessEqual(max(Counter(solved).values()), 3)
            alone = len(solved)
            self.assertGreater(alone, 0)
            for changes in ({}, {"name": "Other"}, {"note": "said"}):
                await self.parts(design={**edited, **changes}, studies=studies, station="hull")
            self.assertEqual(len(solved), alone)
