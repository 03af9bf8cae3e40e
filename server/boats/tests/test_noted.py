"""Records beside a boat over the API: kept, replaced, taken back, brought in, refused."""

from __future__ import annotations

import json
from typing import Any
from unittest import mock

from asgiref.sync import async_to_sync
from django.conf import settings
from django.core.management import call_command
from django.test import TestCase

from boats.models import Boat, Noted

DEMO = (settings.ROOT / "demo" / "whimbrel.json").read_bytes()
RECORDS = (settings.ROOT / "demo" / "whimbrel.records.json").read_bytes()
AT = "2027-06-13T12:00:00+02:00"


class NotedTest(TestCase):
    def setUp(self) -> None:
        self.boat = self.client.post("/api/boats/file", DEMO, content_type="application/json").json()
        self.at = f"/api/boats/{self.boat['id']}/records"

    def put(self, **record: Any) -> Any:
        return self.client.put(self.at, record, content_type="application/json")

    def ids(self) -> list[str]:
        return [record["id"] for record in self.client.get(self.at).json()["records"]]

    def test_a_record_is_kept_replaced_taken_back_and_stands_again(self) -> None:
        tick = {"kind": "tick", "id": "a", "item": "seals", "at": AT}
        self.assertEqual(self.put(**tick).status_code, 204)
        self.assertEqual(self.put(**{**tick, "id": "b"}).status_code, 204)
        self.assertEqual(self.put(**tick, note="twice").status_code, 204)
        found = self.client.get(self.at).json()["records"]
        self.assertEqual([(r["id"], r["note"]) for r in found], [("a", "twice"), ("b", "")])
        self.assertEqual(self.client.delete(f"{self.at}/a").status_code, 204)
        self.assertEqual((self.ids(), self.client.delete(f"{self.at}/a").status_code), (["b"], 404))
        self.put(**tick)
        self.assertEqual(self.ids(), ["a", "b"])
        self.assertEqual(set(Noted.objects.values_list("revision", flat=True)), {1})

    def test_what_is_no_record_is_refused_in_the_one_shape_and_nothing_is_kept(self) -> None:
        for wrong, field in (
            ({"kind": "song", "id": "a"}, ""),
            ({"kind": "part", "id": "a", "part": "hull", "name": "Hull", "quantity": -1}, "quantity"),
            ({"kind": "part", "id": "a", "part": "hull", "name": "", "price": "dear"}, "price"),
            ({"kind": "sun", "id": "a", "at": "9999-01-01T00:00:00Z", "input": "x"}, "at"),
            ({"kind": "tick", "id": "a b", "item": "x", "at": AT}, "id"),
            (
                {"kind": "test", "id": "a", "name": "P", "at": AT, "cell_c": 40, "points": [[1, 9e9]]},
                "points",
            ),
        ):
            reply = self.put(**wrong)
            self.assertEqual(reply.status_code, 422, wrong)
            told = reply.json()["errors"]
            self.assertTrue(all(one["message"] for one in told))
            self.assertTrue(any(field in one["field"] for one in told), (field, told))
        self.assertEqual(self.ids(), [])

    def test_records_of_another_boat_are_not_mixed_and_of_none_not_found(self) -> None:
        other = self.client.post("/api/boats/file", DEMO, content_type="application/json").json()
        self.put(kind="tick", id="a", item="seals", at=AT)
        self.assertEqual(self.client.get(f"/api/boats/{other['id']}/records").json()["records"], [])
        gone = "/api/boats/00000000-0000-4000-8000-000000000000/records"
        self.assertEqual(self.client.get(gone).status_code, 404)

    def test_a_file_goes_out_and_comes_in(self) -> None:
        brought = self.client.post(f"{self.at}/file", RECORDS, content_type="application/json")
        self.assertEqual(brought.status_code, 200)
        kept = self.client.get(f"{self.at}/file")
        self.assertIn("attachment", kept["Content-Disposition"])
        self.assertEqual(len(kept.json()["records"]), len(json.loads(RECORDS)["records"]))
        again = self.client.post(f"{self.at}/file", kept.content, content_type="application/json")
        self.assertEqual(len(again.json()["records"]), len(kept.json()["records"]))
        for text in (b"", b"{}", b"[1]"):
            self.assertEqual(
                self.client.post(f"{self.at}/file", text, content_type="application/json").status_code, 422
            )

    def test_no_boat_has_more_than_can_be_kept(self) -> None:
        with mock.patch("boats.noted.MOST_RECORDS", 2):
            for name in ("a", "b"):
                self.assertEqual(self.put(kind="tick", id=name, item=name, at=AT).status_code, 204)
            reply = self.put(kind="tick", id="c", item="c", at=AT)
            self.assertEqual((reply.status_code, reply.json()["errors"][0]["code"]), (422, "too_many"))
            self.assertEqual(self.put(kind="tick", id="a", item="x", at=AT).status_code, 204)

    def test_the_live_request_is_answered_with_them(self) -> None:
        """Findings, counts and the picture are of the records that are sent along."""
        design = self.client.get(f"/api/variants/{self.boat['variants'][0]['id']}").json()["design"]
        body = {
            "page": "p", "turn": 1, "design": design, "records": json.loads(RECORDS), "station": "fitout",
            "studies": [{"study": "fitout/picture", "asked": {"at": "2027-06-13T12:00:00"}}],
        }  # fmt: skip

        async def said() -> bytes:
            reply = await self.async_client.post("/api/live", body, content_type="application/json")
            return b"".join([part async for part in reply.streaming_content])

        parts = [json.loads(line) for line in async_to_sync(said)().splitlines()]
        found = {part["part"]: part for part in parts}
        self.assertEqual(found["study"]["answer"]["next_step"], "strings/canopy-panels")
        warned = [f["id"] for f in found["findings"]["findings"] if f["level"] == "warn"]
        self.assertIn("wrong_strings/canopy-panels_string2", warned)
        self.assertEqual(found["counts"]["counts"]["fitout"], len(warned))

    def test_the_demo_yacht_comes_half_built(self) -> None:
        Boat.objects.all().delete()
        call_command("load_demo", stdout=mock.Mock())
        self.assertGreater(Noted.objects.count(), 60)
