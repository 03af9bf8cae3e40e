"""Boats, variants, revisions and files over the API."""

from __future__ import annotations

import json
import re
from datetime import timedelta
from pathlib import Path
from tempfile import TemporaryDirectory
from unittest import mock

from config.secret import secret_kept_in
from django.conf import settings
from django.core.management import call_command
from django.db import OperationalError
from django.test import TestCase
from django.utils import timezone

from boats.models import Revision, Variant

DEMO = (settings.ROOT / "demo" / "whimbrel.json").read_bytes()


class BoatsTest(TestCase):
    def setUp(self) -> None:
        self.boat = self.client.post("/api/boats/file", DEMO, content_type="application/json").json()
        self.variant_id = self.boat["variants"][0]["id"]
        self.variant = self.client.get(f"/api/variants/{self.variant_id}").json()

    def put(self, revision: int, **hull: float):
        design = json.loads(json.dumps(self.variant["design"]))
        design["hull"].update(hull)
        body = {"revision": revision, "design": design}
        return self.client.put(f"/api/variants/{self.variant_id}", body, content_type="application/json")

    def names(self) -> list[str]:
        return [row["name"] for row in self.client.get("/api/boats").json()]

    def test_a_document_that_cannot_be_opened_locks_no_other_out(self):
        other = self.client.post("/api/boats/file", DEMO, content_type="application/json").json()
        stored = Variant.objects.get(pk=self.variant_id)
        for harm in ({"schema_version": 99}, {"hull": {"type": "raft"}}):
            stored.document = {**stored.document, **harm}
            stored.save()
            rows = {row["id"]: row for row in self.client.get("/api/boats").json()}
            self.assertTrue(rows[self.boat["id"]]["damaged"])
            self.assertIsNone(rows[other["id"]]["damaged"])
            self.assertEqual(rows[self.boat["id"]]["name"], stored.document["name"])
            kept = self.client.get(f"/api/variants/{self.variant_id}/file")
            self.assertEqual((kept.status_code, kept.json()), (200, stored.document))
        self.assertEqual(self.client.delete(f"/api/boats/{self.boat['id']}").status_code, 204)
        self.assertEqual([row["id"] for row in self.client.get("/api/boats").json()], [other["id"]])

    def test_demo_boats_are_added_once(self):
        call_command("load_demo", stdout=mock.Mock())
        call_command("load_demo", stdout=mock.Mock())
        self.assertEqual(sorted(self.names()), ["Fulmar", "Little Grebe", "Sabine", "Whimbrel"])

    def test_new_duplicate_delete_and_undo(self):
        body = {
            "hull_type": "kayak",
            "name": "Teal",
            "site": {"latitude_deg": 52, "longitude_deg": 5},
            "date": "2027-06-01",
        }
        made = self.client.post("/api/boats", body, content_type="application/json")
        self.assertEqual((made.status_code, made.json()["hull_type"]), (201, "kayak"))
        copy = self.client.post(f"/api/boats/{self.boat['id']}/duplicate")
        self.assertEqual(copy.json()["name"], "Whimbrel, copy")
        self.assertEqual(self.client.delete(f"/api/boats/{self.boat['id']}").status_code, 204)
        self.assertNotIn("Whimbrel", self.names())
        self.assertEqual(self.client.get(f"/api/variants/{self.variant_id}").status_code, 404)
        self.assertEqual(self.client.post(f"/api/boats/{self.boat['id']}/restore").status_code, 200)
        self.assertIn("Whimbrel", self.names())

    def test_saving_bumps_the_revision_and_keeps_a_history(self):
        self.assertEqual(self.put(1, beam_m=1.7).json()["revision"], 2)
        self.assertEqual(self.put(2, beam_m=1.8).json()["revision"], 3)
        history = Revision.objects.filter(variant_id=self.variant_id)
        self.assertEqual([item.number for item in history], [3, 1])  # edits close together share a row
        later = timezone.now() + timezone.timedelta(minutes=5)
        with mock.patch("boats.actions.timezone.now", return_value=later):
            self.put(3, beam_m=1.9)
        self.assertEqual([item.number for item in history.all()], [4, 3, 1])
        self.assertEqual(self.put(4, beam_m=1.9).json()["revision"], 4)  # nothing changed

    def test_another_tabs_revision_is_never_overwritten(self):
        self.put(1, beam_m=1.7)
        refused = self.put(1, beam_m=1.5)
        self.assertEqual(refused.status_code, 409)
        reply = refused.json()
        self.assertEqual(reply["errors"][0]["code"], "newer_revision")
        self.assertEqual([reply["difference"][0][side]["value"] for side in ("before", "after")], [1.7, 1.5])
        self.assertEqual(Variant.objects.get(pk=self.variant_id).document["hull"]["beam_m"], 1.7)
        self.assertEqual(self.put(reply["current"]["revision"], beam_m=1.5).status_code, 200)

    def test_variants_are_kept_beside_the_working_one(self):
        url = f"/api/boats/{self.boat['id']}/variants"
        body = {"name": "with wings", "design": self.variant["design"]}
        first = self.client.post(url, body, content_type="application/json").json()
        second = self.client.post(url, body, content_type="application/json").json()
        self.assertEqual([first["name"], second["name"]], ["with wings", "with wings 2"])
        self.assertEqual(len(self.client.get("/api/boats").json()[0]["variants"]), 3)
        self.assertEqual(self.client.delete(f"/api/variants/{first['id']}").status_code, 204)
        self.assertEqual(self.client.delete(f"/api/variants/{self.variant_id}").status_code, 404)

    def test_a_file_goes_out_and_comes_back_the_same(self):
        reply = self.client.get(f"/api/variants/{self.variant_id}/file")
        self.assertIn("whimbrel.parhelion.json", reply["Content-Disposition"])
        again = self.client.post("/api/boats/file", reply.content, content_type="application/json")
        other = self.client.get(f"/api/variants/{again.json()['variants'][0]['id']}").json()
        self.assertEqual(other["design"], self.variant["design"])

    def test_bad_files_are_refused_in_the_one_shape(self):
        newer = re.sub(rb'"schema_version": \d+', b'"schema_version": 99', DEMO)
        for content, code, status in (
            (b"\x89PNG", "not_text", 422),
            (b"{", "not_json", 422),
            (newer, "newer_version", 422),
            (b"x" * 1_500_000, "too_large", 422),
            (b"x" * 50_000_000, "too_large", 422),
        ):
            reply = self.client.post("/api/boats/file", content, content_type="application/octet-stream")
            self.assertEqual((reply.status_code, reply.json()["errors"][0]["code"]), (status, code))
        self.assertEqual(self.names(), ["Whimbrel"])

    def test_every_refusal_has_the_one_shape(self):
        bad = {"revision": 1, "design": {**self.variant["design"], "hull": {"beam_m": "wide"}}}
        calls = (
            (self.client.put(f"/api/variants/{self.variant_id}", bad, content_type="application/json"), 422),
            (self.client.put(f"/api/variants/{self.variant_id}", "{", content_type="application/json"), 400),
            (self.client.get("/api/variants/00000000-0000-0000-0000-000000000000"), 404),
            (self.client.get("/api/nothing/here"), 404),
            (self.client.post("/api/boats", {"hull_type": "raft"}, content_type="application/json"), 422),
            (self.client.post("/api/design/check", "x" * 8_500_000, content_type="application/json"), 413),
            (self.client.post("/api/design/check", {}, content_type="application/json", headers={"Origin": "http://elsewhere.example"}), 403),
        )  # fmt: skip
        for reply, status in calls:
            self.assertEqual(reply.status_code, status)
            for problem in reply.json()["errors"]:
                self.assertTrue(problem["code"] and problem["message"])
        fields = {problem["field"] for problem in calls[0][0].json()["errors"]}
        self.assertIn("/design/hull/beam_m", fields)

    def test_history_tells_each_state_and_any_can_come_back(self):
        begun = timezone.now()
        for n, beam in enumerate((2.0, 2.1, 2.2)):
            with mock.patch.object(timezone, "now", return_value=begun + timedelta(minutes=5 * n)):
                self.assertEqual(self.put(n + 1, beam_m=beam).status_code, 200)
        rows = self.client.get(f"/api/variants/{self.variant_id}/history").json()
        self.assertEqual([row["number"] for row in rows], [4, 3, 2, 1])
        self.assertEqual([(d["field"], d["before"]["value"], d["after"]["value"]) for d in rows[0]["difference"]],
                         [("/hull/beam_m", 2.1, 2.2)])  # fmt: skip
        self.assertEqual(rows[-1]["difference"], [])
        back = {"revision": 4, "design": rows[-1]["design"]}
        reply = self.client.put(f"/api/variants/{self.variant_id}", back, content_type="application/json")
        self.assertEqual(reply.json()["design"], self.variant["design"])
        self.assertEqual(self.client.get(f"/api/variants/{self.boat['id']}/history").status_code, 404)

    def test_a_state_saved_apart_leaves_the_one_it_replaces_in_the_history(self):
        """Mine over another window's, or a state brought back, within the minute that joins edits."""
        design = self.variant["design"]

        def save(revision: int, beam: float, **more):
            body = {
                "revision": revision,
                "design": {**design, "hull": {**design["hull"], "beam_m": beam}},
                **more,
            }
            return self.client.put(f"/api/variants/{self.variant_id}", body, content_type="application/json")

        for n, (beam, more) in enumerate(((2.0, {}), (2.1, {}), (2.2, {"apart": True}), (2.3, {}))):
            self.assertEqual(save(n + 1, beam, **more).status_code, 200)
        rows = self.client.get(f"/api/variants/{self.variant_id}/history").json()
        self.assertEqual([row["design"]["hull"]["beam_m"] for row in rows][:2], [2.3, 2.1])

    def test_what_fails_outside_the_api_has_the_one_shape_too(self):
        for reply, status, code in (
            (self.client.patch("/api/boats"), 405, "method_not_allowed"),
            (self.client.get("/api/boats", headers={"host": "elsewhere.example"}), 400, "bad_request"),
        ):
            self.assertEqual((reply.status_code, reply.json()["errors"][0]["code"]), (status, code))
        for text, code in (
            ("database or disk is full", "disk_full"),
            ("file is not a database", "store_damaged"),
        ):
            with mock.patch("boats.actions.add_boat", side_effect=OperationalError(text)):
                reply = self.client.post("/api/boats/file", DEMO, content_type="application/json")
            self.assertEqual((reply.status_code, reply.json()["errors"][0]["code"]), (503, code))
            self.assertTrue(reply.json()["errors"][0]["accepted"])

    def test_a_name_said_twice_or_that_cannot_be_seen_is_refused(self):
        twice = DEMO.decode().replace('"name": "Whimbrel"', '"name": "Whimbrel", "name": "Teal"', 1)
        reply = self.client.post("/api/boats/file", twice, content_type="application/json")
        self.assertEqual(reply.json()["errors"][0]["code"], "said_twice")
        for name in ("  ", "a\nb", "\u202eevil", "a\x00b"):
            body = {"design": {**self.variant["design"], "name": name}}
            reply = self.client.post("/api/design/check", body, content_type="application/json")
            self.assertEqual([item["field"] for item in reply.json()["errors"]], ["/design/name"], repr(name))
        body = {
            "design": {**self.variant["design"], "name": " \U0001f469\u200d\U0001f680 "}
        }  # joined on purpose
        self.assertEqual(
            self.client.post("/api/design/check", body, content_type="application/json").status_code, 200
        )

    def test_the_secret_is_made_once_and_is_the_owners_alone(self):
        with TemporaryDirectory() as folder:
            one = secret_kept_in(Path(folder))
            self.assertEqual((secret_kept_in(Path(folder)), len(one) > 40), (one, True))
            self.assertEqual((Path(folder) / "secret").stat().st_mode & 0o77, 0)
