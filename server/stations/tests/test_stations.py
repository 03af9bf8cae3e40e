"""The stations' endpoints: the core's numbers, the hash of what was asked, and refusals beside fields."""

from __future__ import annotations

import io
import json
from datetime import time as Time
from unittest import mock

from django.conf import settings
from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import settings as effort
from hypothesis import strategies as st
from parhelion.formats.boat_file import read_boat
from parhelion.rail.answers import answers_for
from parhelion.sun.daysteps import day_steps

DEMO = json.loads((settings.ROOT / "demo" / "whimbrel.json").read_text())
ABSURD = st.one_of(
    st.none(),
    st.booleans(),
    st.text(max_size=8),
    st.integers(-(10**9), 10**9),
    st.floats(),
    st.just([]),
    st.just({}),
)


def leaves(node, path=()):
    if isinstance(node, dict):
        for key, value in node.items():
            yield from leaves(value, (*path, key))
    elif isinstance(node, list):
        for index, value in enumerate(node):
            yield from leaves(value, (*path, index))
    else:
        yield path


class StationsTest(SimpleTestCase):
    def post(self, url, **body):
        return self.client.post(url, json.dumps(body), content_type="application/json")

    def test_answers_are_the_cores(self):
        design = read_boat(json.dumps(DEMO))
        at = day_steps(design.site, design.plan.date).moment(Time(12, 30))
        reply = self.post("/api/answers", design=DEMO, at="12:30").json()
        self.assertEqual(reply, answers_for(design, at).model_dump(mode="json"))

    def test_a_comparison_carries_the_change(self):
        more = json.loads(json.dumps(DEMO))
        more["panels"][0]["count"] = 6
        cells = self.post("/api/answers", design=more, compared_with=DEMO).json()["rail"]
        self.assertGreater(cells[1]["change"]["value"], 1852)

    def test_a_print_pack_is_one_file_and_a_forecast_is_laid_on_a_passage(self):
        reply = self.post("/api/fitout/pack.pdf", design=DEMO, unit="mph")
        self.assertEqual((reply["Content-Type"], reply.content[:5]), ("application/pdf", b"%PDF-"))
        self.assertEqual(self.post("/api/fitout/pack.pdf", design=DEMO, unit="furlongs").status_code, 422)
        asked = {"site": DEMO["site"], "date": DEMO["plan"]["date"], "days": 1}
        forecast = self.post("/api/year/forecast", **asked).json()
        taken = self.post("/api/passage/forecast", design=DEMO, forecast=forecast).json()
        self.assertEqual(len(taken["winds"]), 4)
        self.assertEqual(taken["sky"] in ("clear", "hazy", "broken", "overcast", "rain"), True)
        other = self.post("/api/passage/forecast", design=DEMO, forecast={**forecast, "days": []})
        self.assertEqual((other.status_code, other.json()["errors"][0]["field"]), (422, "/plan/date"))

    def test_forecasts_come_from_the_stand_in_or_a_service(self):
        site = DEMO["site"]
        body = {"site": site, "date": "2027-06-13", "days": 3}
        first = self.post("/api/year/forecast", **body).json()
        self.assertEqual([day["date"] for day in first["days"]], ["2027-06-13", "2027-06-14", "2027-06-15"])
        self.assertIn("simulated", first["source"])
        self.assertEqual(self.post("/api/year/forecast", **{**body, "days": 40}).status_code, 422)
        told = {"source": "the lock keeper", "days": [{"date": "2027-06-13", "sky": "rain"}]}
        served = io.BytesIO(json.dumps(told).encode())
        with (
            self.settings(FORECAST_ADDRESS="http://127.0.0.1:9/forecast"),
            mock.patch("stations.forecasts.urlopen", return_value=served) as asked,
        ):
            found = self.post("/api/year/forecast", **body).json()
        self.assertEqual((found["source"], found["days"][0]["sky"]), ("the lock keeper", "rain"))
        self.assertIn("from=2027-06-13", asked.call_args[0][0])
        with self.settings(FORECAST_ADDRESS="http://127.0.0.1:9/forecast"):
            refused = self.post("/api/year/forecast", **body)
        self.assertEqual((refused.status_code, refused.json()["errors"][0]["code"]), (422, "no_forecast"))
        read = self.post("/api/year/forecast/read", text=json.dumps(first))
        self.assertEqual(read.json()["days"], first["days"])
        wrong = self.post("/api/year/forecast/read", text='{"days": [{"date": "2027-06-13", "sky": "nice"}]}')
        self.assertEqual(wrong.json()["errors"][0]["field"], "/days/0/sky")

    def test_pace_and_worths(self):
        found = self.post("/api/day/pace", design=DEMO).json()
        self.assertEqual(len(found["ways"]["ways"]), 4)
        self.assertTrue(
            {"panel", "battery", "house", "mass"} <= {step["key"] for step in found["worths"]["steps"]}
        )
        bare = {**DEMO, "banks": [], "links": []}
        for part in ("loads", "controllers", "sources"):
            bare[part] = [{**item, "bank_id": None} for item in DEMO.get(part, [])]
        self.assertEqual(self.post("/api/day/pace", design=bare).json()["ways"], None)

    def test_pictures_and_lists(self):
        hull = self.post("/api/hull/picture", design=DEMO).json()
        self.assertEqual(len(hull["speed_mps"]), len(hull["formula_w"]))
        day = self.post("/api/day/picture", design=DEMO).json()
        self.assertEqual((len(day["clear_w"]), day["zone"]), (144, "Europe/Stockholm"))
        self.assertGreater(len(self.client.get("/api/design/places").json()), 8)

    @effort(max_examples=120, deadline=None)
    @given(st.sampled_from(sorted(leaves(DEMO), key=str)), ABSURD)
    def test_no_entry_whatever_brings_the_server_down(self, path, value):
        document = json.loads(json.dumps(DEMO))
        node = document
        for key in path[:-1]:
            node = node[key]
        node[path[-1]] = value
        reply = self.post("/api/answers", design=document)
        self.assertIn(reply.status_code, (200, 400, 422), (path, value))
        if reply.status_code != 200:
            self.assertTrue(reply.json()["errors"][0]["message"])
        else:
            self.post("/api/day/picture", design=document)
            self.post("/api/hull/picture", design=document)
            self.assertNotIn("NaN", reply.content.decode())

    def test_extremes_that_are_allowed_are_computed(self):
        for changes in (
            {"site": {**DEMO["site"], "latitude_deg": 90}}, {"site": {**DEMO["site"], "latitude_deg": -90}},
            {"site": {**DEMO["site"], "latitude_deg": 78}, "plan": {**DEMO["plan"], "date": "2027-12-21"}},
            {"plan": {**DEMO["plan"], "spells": [{"starts_at": "23:00", "ends_at": "03:00"}]}},
            {"plan": {**DEMO["plan"], "speed_mps": 30}}, {"banks": []}, {"panels": [], "places": [], "controllers": []},
            {"plan": {**DEMO["plan"], "start_charge_frac": 0}}, {"loads": [{"id": "x", "name": "x", "power_w": 50000, "hours_per_day": 24}]},
            {"hull": {**DEMO["hull"], "displacement_kg": 21}}, {"drives": [{"id": "d", "rated_power_w": 1e-3, "idle_power_w": 2000}]},
        ):  # fmt: skip
            for url in ("/api/answers", "/api/hull/picture", "/api/day/picture"):
                reply = self.post(url, design={**DEMO, **changes})
                self.assertEqual(reply.status_code, 200, (url, changes, reply.content[:300]))
                self.assertNotRegex(reply.content.decode(), r"\b(NaN|Infinity)\b")
