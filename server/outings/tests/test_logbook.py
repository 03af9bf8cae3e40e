"""The logbook over the API: kept once, replaced, taken back, brought in, thinned, shown in the live request."""

from __future__ import annotations

import io
import json
import tempfile
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Any
from unittest import mock

from asgiref.sync import async_to_sync
from django.conf import settings
from django.test import TestCase, TransactionTestCase
from parhelion.design.logbook import NO_LOGBOOK, Outing, Reading
from PIL import Image

from outings import actions, old_seconds
from outings.models import Reading as Row

DEMO = (settings.ROOT / "demo" / "whimbrel.json").read_bytes()
LOGBOOK = (settings.ROOT / "demo" / "whimbrel.logbook.json").read_bytes()
AT = "2027-06-13T12:00:00+02:00"


class LogbookTest(TestCase):
    def setUp(self) -> None:
        self.boat = self.client.post("/api/boats/file", DEMO, content_type="application/json").json()
        self.at = f"/api/boats/{self.boat['id']}/logbook"

    def put(self, what: str, body: Any) -> Any:
        return self.client.put(f"{self.at}/{what}", body, content_type="application/json")

    def file(self) -> dict[str, Any]:
        found: dict[str, Any] = json.loads(self.client.get(f"{self.at}/file").content)
        return found

    def test_a_reading_is_kept_once_replaced_and_removed(self) -> None:
        outing = {"id": "o", "name": "Out", "began_at": AT}
        self.assertEqual(self.put("outings", {"outing": outing}).json(), {"turn": 1})
        reading = {"id": "r", "at": AT, "outing_id": "o", "pv_w": 300}
        for turn in (2, 3):  # sent again after a reply that never came
            self.assertEqual(self.put("readings", {"readings": [reading]}).json(), {"turn": turn})
        self.put("readings", {"readings": [{**reading, "pv_w": 310, "sky": "hazy"}, {**reading, "id": "s"}]})
        told = {one["id"]: one for one in self.file()["readings"]}
        self.assertEqual((told["r"]["pv_w"], told["r"]["sky"], set(told)), (310, "hazy", {"r", "s"}))
        self.assertEqual(self.client.delete(f"{self.at}/readings/s").status_code, 200)
        self.assertEqual(self.client.delete(f"{self.at}/readings/s").status_code, 404)
        self.assertEqual(self.client.delete(f"{self.at}/outings/o").status_code, 200)
        self.assertEqual(self.client.delete(f"{self.at}/outings/o").status_code, 404)
        self.assertEqual(self.file()["outings"], [])
        self.put("outings", {"outing": outing})  # it stands again, its reading with it
        counted = [one for one in actions.logbooks.of(self.uuid()).readings if not one.left_out]
        self.assertEqual([one.outing_id for one in counted], ["o"])

    def uuid(self) -> Any:
        return Row.objects.first().boat_id  # type: ignore[union-attr]

    def test_a_picture_of_what_broke_is_made_small_kept_and_removed(self) -> None:
        var = self.enterContext(tempfile.TemporaryDirectory())
        self.enterContext(self.settings(VAR=Path(var)))
        self.put("outings", {"outing": {"id": "o", "name": "Out", "began_at": AT}})
        to, sent = f"{self.at}/outings/o/pictures", io.BytesIO()
        exif = Image.Exif()
        exif[0x0112], exif[0x010F] = 6, "a camera"  # it lies on its side
        Image.new("RGB", (2400, 1200), "teal").save(sent, "JPEG", exif=exif)
        made = self.client.post(to, sent.getvalue(), content_type="image/jpeg").json()
        self.assertEqual((made["width"], made["height"]), (800, 1600))
        self.assertEqual([one["key"] for one in self.client.get(to).json()], [made["key"]])
        at = f"{self.at}/pictures/{made['key']}"
        reply = self.client.get(at)
        self.assertEqual(reply["Content-Type"], "image/jpeg")
        kept = Image.open(io.BytesIO(reply.content))
        self.assertEqual((kept.size, dict(kept.getexif())), ((800, 1600), {}))
        self.assertEqual(self.client.delete(at).status_code, 204)
        self.assertEqual(self.client.get(to).json(), [])
        self.assertEqual(self.client.put(at).status_code, 204)
        self.assertEqual(len(self.client.get(to).json()), 1)
        bomb = io.BytesIO()
        Image.new("1", (9_000, 9_000)).save(bomb, "PNG")
        for wrong, code in ((b"<svg onload='x'/>", "no_picture"), (b"", "no_picture"),
                            (sent.getvalue()[:400], "no_picture"), (bomb.getvalue(), "too_large")):  # fmt: skip
            reply = self.client.post(to, wrong, content_type="image/jpeg")
            self.assertEqual((reply.status_code, reply.json()["errors"][0]["code"]), (422, code))
        other = self.client.post(to.replace("/o/", "/nobody/"), sent.getvalue(), content_type="image/jpeg")
        self.assertEqual(other.json()["errors"][0]["code"], "no_outing")

    def test_what_is_no_reading_is_refused_and_none_of_them_is_kept(self) -> None:
        good = {"id": "r", "at": AT, "pv_w": 300}
        for wrong in (
            {"id": "x", "at": AT}, {"id": "x", "at": "noon", "pv_w": 1}, {"id": "x", "at": AT, "charge_frac": 9},
            {"id": "x", "at": "9999-01-01T00:00:00Z", "pv_w": 1}, {"id": "a b", "at": AT, "pv_w": 1},
        ):  # fmt: skip
            reply = self.put("readings", {"readings": [good, wrong]})
            self.assertEqual(reply.status_code, 422, wrong)
            self.assertTrue(all(one["message"] for one in reply.json()["errors"]))
        ends = {"id": "o", "began_at": AT, "ended_at": "2027-06-12T12:00:00+02:00"}
        self.assertEqual(self.put("outings", {"outing": ends}).status_code, 422)
        self.assertEqual(Row.objects.count(), 0)
        missing = "/api/boats/00000000-0000-0000-0000-000000000000/logbook"
        self.assertEqual(self.client.get(missing).status_code, 404)

    def test_a_logbook_is_brought_in_whole_and_saved_as_it_was(self) -> None:
        path = f"{self.at}/file"
        self.assertEqual(self.client.post(path, LOGBOOK, content_type="application/json").status_code, 200)
        brought, kept = json.loads(LOGBOOK), self.file()
        self.assertEqual(len(kept["outings"]), len(brought["outings"]))
        self.assertEqual({r["id"] for r in kept["readings"]}, {r["id"] for r in brought["readings"]})
        self.client.post(path, LOGBOOK, content_type="application/json")  # twice is once
        self.assertEqual(Row.objects.count(), len(brought["readings"]))
        for name, begins in (("season.pdf", b"%PDF"), ("outings.csv", b"date,"), ("readings.csv", b"time,")):
            reply = self.client.post(
                f"{self.at}/papers/{name}", {"design": json.loads(DEMO)}, content_type="application/json"
            )
            self.assertTrue(reply.content.startswith(begins), name)
        song = self.client.post(
            f"{self.at}/papers/song.pdf", {"design": json.loads(DEMO)}, content_type="application/json"
        )
        self.assertEqual(song.status_code, 404)
        for wrong in (b"", b"{}", b'{"schema_name": "parhelion.logbook", "readings": [{}]}'):
            self.assertEqual(self.client.post(path, wrong, content_type="application/json").status_code, 422)

    def test_an_outing_by_the_second_reaches_the_pictures_thinned_and_stays_whole(self) -> None:
        boat = actions.Boat.objects.get(pk=self.boat["id"])
        began = datetime(2027, 6, 13, 8, tzinfo=UTC)
        actions.put_outing(boat, Outing(id="o", began_at=began))
        actions.put_readings(boat, (
            Reading(id=f"r{s}", at=began + timedelta(seconds=s), outing_id="o", source="shunt", pv_w=s % 100)
            for s in range(3600)
        ))  # fmt: skip
        thin = actions.logbooks.of(boat.id)
        self.assertEqual(len(thin.readings), 6)
        self.assertTrue(all(abs((r.pv_w or 0) - 49.5) < 0.01 for r in thin.readings))
        self.assertEqual(len(actions.whole_logbook(boat.id).readings), 3600)
        self.assertIs(actions.logbooks.of(boat.id), thin)  # until it changes
        self.assertEqual(actions.logbooks.of(None), NO_LOGBOOK)
        actions.put_outing(boat, Outing(id="o", began_at=began, ended_at=began + timedelta(hours=1)))
        over = actions.Logbooks().of(boat.id)
        with mock.patch.object(actions, "means_of", side_effect=AssertionError("it is kept")):
            self.assertEqual(actions.Logbooks().of(boat.id).readings, over.readings)  # after a restart
        self.assertEqual([r.pv_w for r in over.readings], [r.pv_w for r in thin.readings])
        more = Reading(id="late", at=began + timedelta(minutes=5), outing_id="o", source="shunt", pv_w=5_000)
        actions.put_readings(boat, [more])
        self.assertGreater(actions.Logbooks().of(boat.id).readings[0].pv_w, thin.readings[0].pv_w + 5)

    def test_old_seconds_become_minutes_and_what_a_person_noted_stands(self) -> None:
        boat = actions.Boat.objects.get(pk=self.boat["id"])
        now = datetime(2027, 8, 1, tzinfo=UTC)
        for key, began in (("old", now - timedelta(days=40)), ("new", now - timedelta(days=2))):
            actions.put_outing(boat, Outing(id=key, began_at=began))
            actions.put_readings(boat, [
                Reading(id=f"{key}{s}", at=began + timedelta(seconds=s), outing_id=key, source="shunt",
                        bank_v=13 + (s % 2) / 10)
                for s in range(1800)
            ])  # fmt: skip
        began = now - timedelta(days=40)
        said = {"source": "shunt", "outing_id": "old", "at": began}
        actions.put_readings(boat, [Reading(id="hand", at=began, outing_id="old", bank_v=12.9),
                                    Reading(id="word", **said, note="a smell"),
                                    Reading(id="wrong", **said, bank_v=99, left_out=True)])  # fmt: skip
        (found,) = old_seconds.old_ones(now)
        self.assertEqual(old_seconds.put_together(found), (1800, 30))
        self.assertEqual(old_seconds.old_ones(now), [])
        book = actions.whole_logbook(boat.id)
        self.assertEqual((book.outing("old").means_s, book.outing("new").means_s), (60, None))  # type: ignore[union-attr]
        mine = {r.id: r for r in book.readings if r.outing_id == "old"}
        self.assertEqual(len(mine), 33)
        self.assertGreaterEqual(set(mine), {"hand", "word", "wrong"})
        self.assertTrue(all(abs((r.bank_v or 0) - 13.05) < 1e-9 for key, r in mine.items() if "min" in key))
        self.assertEqual(sum(r.outing_id == "new" for r in book.readings), 1800)


class LiveLogTest(TransactionTestCase):
    """The live request computes in a thread of its own, which sees what is stored."""

    def setUp(self) -> None:
        self.boat = self.client.post("/api/boats/file", DEMO, content_type="application/json").json()
        path = f"/api/boats/{self.boat['id']}/logbook/file"
        self.client.post(path, LOGBOOK, content_type="application/json")

    def test_the_live_request_shows_the_open_outing_and_counts_its_warnings(self) -> None:
        body = {
            "page": "p", "turn": 1, "design": json.loads(DEMO), "boat_id": self.boat["id"],
            "outing": "out-8", "station": "log", "rail": False, "usual": False,
            "studies": [{"study": "log/picture", "asked": {}}],
        }  # fmt: skip
        reply = self.client.post("/api/live", body, content_type="application/json")

        async def lines() -> bytes:
            return b"".join([part async for part in reply.streaming_content])  # type: ignore[attr-defined]

        parts = [json.loads(line) for line in async_to_sync(lines)().splitlines()]
        found = {part["part"]: part for part in parts}
        self.assertNotIn("failed", found)
        self.assertEqual(found["study"]["answer"]["day"]["outing"]["id"], "out-8")
        warned = [one["id"] for one in found["findings"]["findings"] if one["level"] == "warn"]
        self.assertEqual(warned, ["means_wing-controller"])
        self.assertEqual(found["counts"]["counts"]["log"], 1)
