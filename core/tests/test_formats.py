"""Files in and out, refusals with their place, differences in words, and the command line."""

from __future__ import annotations

import io
import json
import tempfile
import unittest
from pathlib import Path

import jsonschema
from parhelion.answers.compose import answers_for
from parhelion.changes import changes
from parhelion.cli import main
from parhelion.data import places
from parhelion.defaults import new_boat
from parhelion.errors import InvalidDesign, ParhelionError, UnreadableFile
from parhelion.formats.boat_file import json_schema, read_boat, written
from parhelion.formats.plain import shown
from parhelion.hulltypes import HullType
from parhelion.pictures.hull import hull_picture
from parhelion.quantities import Quantity
from parhelion.sun.daysteps import day_steps

from tests.cases import REFERENCES, boat

FROZEN = REFERENCES / "boat-v1.json"


class BoatFileTest(unittest.TestCase):
    def test_what_is_written_is_read_again_and_meets_the_published_schema(self):
        for design in (boat(), boat(banks=[], runs=[{"id": "a", "speed_mps": 1.5, "power_w": 200}])):
            text = written(design)
            self.assertEqual(read_boat(text.encode()), design)
            jsonschema.validate(json.loads(text), json_schema(), jsonschema.Draft202012Validator)
        self.assertEqual(read_boat(b"\xef\xbb\xbf" + FROZEN.read_bytes()).name, "Whimbrel")

    def test_refusals_say_what_and_where(self):
        good = json.loads(FROZEN.read_text())
        for content, code, place in (
            (b"{\n  broken", "not_json", "line 2"),
            (b"\xff\xfe\x00", "not_text", "Byte 0"),
            (b"[1, 2]", "not_a_boat", "not a boat design"),
            (b"[" * 100_000, "not_json", "breaks at"),
            (b" " * 50_000_000, "too_large", "50.0 MB"),
            (json.dumps({**good, "schema_version": 9}).encode(), "newer_version", "version 9"),
            (json.dumps({**good, "schema_version": "1"}).encode(), "no_version", "version"),
        ):
            with self.assertRaises(UnreadableFile) as caught:
                read_boat(content)
            problem = caught.exception.problems[0]
            self.assertEqual(problem.code, code)
            self.assertIn(place, problem.message)
            self.assertTrue(problem.accepted)

    def test_values_are_refused_beside_their_field(self):
        table = (
            ({"hull__displacement_kg": 90_000}, "/hull/displacement_kg", "kg or less"),
            ({"hull__waterline_length_m": 0}, "/hull/waterline_length_m", "more than 0.5"),
            ({"hull__beam_m": -1}, "/hull/beam_m", "more than"),
            ({"drives__0__rated_power_w": "fast"}, "/drives/0/rated_power_w", "a number"),
            ({"site__latitude_deg": 91}, "/site/latitude_deg", "90 or less"),
            ({"plan__sky": "foggy"}, "/plan/sky", "overcast"),
            ({"plan__date": "13 June"}, "/plan/date", "2026-06-13"),
            ({"plan__spells": []}, "/plan/spells", "at least one"),
            (
                {"plan__spells": [{"starts_at": "09:00", "ends_at": "09:00"}]},
                "/plan/spells/0/ends_at",
                "other",
            ),
            ({"banks__0": {"id": "half"}}, "/banks/0/unit_v", "a value"),
            ({"runs": [{"id": "empty"}]}, "/runs/0/speed_mps", "a value"),
            ({"panels__0__place_id": "mast"}, "/panels/0/place_id", "canopy"),
            ({"runs": [{"id": "a", "speed_mps": 1, "power_w": 9}] * 2}, "/runs", "different id"),
        )
        for change, field, accepted in table:
            with self.subTest(field):
                document = json.loads(FROZEN.read_text())
                ((path, value),) = change.items()
                node = document
                *parents, last = path.split("__")
                for key in parents:
                    node = node[int(key)] if isinstance(node, list) else node[key]
                node[int(last) if isinstance(node, list) else last] = value
                with self.assertRaises(InvalidDesign) as caught:
                    read_boat(json.dumps(document))
                problem = next(p for p in caught.exception.problems if p.field == field)
                self.assertIn(accepted, problem.accepted)
        with self.assertRaises(InvalidDesign):
            read_boat(FROZEN.read_text().replace('"speed_mps": 1.85', '"speed_mps": NaN'))

    def test_every_refusal_is_in_plain_words_and_says_what_is_accepted(self):
        table = (
            ("panels", 0, "count", 2.5, "a whole number"), ("panels", 0, "count", "four", "a whole number"),
            ("plan", None, "heading_deg", 400, "less than 360"), ("loads", 0, "hours_per_day", 30, "24 or less"),
            ("loads", 0, "essential", "maybe", "true or false"), ("loads", 0, "from_clock", "25:00", "09:30"),
            ("banks", 0, "id", "a b", "letters, digits"), ("plan", None, "spells", [1], "an object"),
            (None, None, "drives", [], "1 or more"), (None, None, "hull", "x", "an object"),
            (None, None, "banks", "x", "a list"), (None, None, "name", 5, "text"),
            (None, None, "name", "x" * 99, "80 characters"), (None, None, "colour", "red", "published schema"),
            (None, None, "note", "x" * 3000, "2000 characters"), (None, None, "schema_name", "parhelion.boat ", "parhelion.boat"),
        )  # fmt: skip
        for part, index, key, value, accepted in table:
            document = json.loads(FROZEN.read_text())
            node = document if part is None else document[part]
            node = node if index is None else node[index]
            node[key] = value
            with self.subTest(key=key, value=value), self.assertRaises(ParhelionError) as caught:
                read_boat(json.dumps(document))
            problem = caught.exception.problems[0]
            self.assertIn(accepted, problem.accepted or "")
            self.assertNotRegex(problem.message, r"Input should|Tuple|String should|pattern|dictionary")

    def test_differences_are_named(self):
        found = changes(boat(), boat(hull__displacement_kg=1300, banks=[]))
        self.assertEqual(
            (found[0].field, found[0].before, found[0].after), ("/hull/displacement_kg", "1240", "1300")
        )
        self.assertEqual(found[0].label, "hull displacement (kg)")
        self.assertTrue(any(item.field == "/banks/0/unit_v" and item.after == "" for item in found))
        self.assertEqual(changes(boat(), boat()), [])

    def test_a_new_boat_of_every_type_moves_on_the_sun(self):
        for hull_type in HullType:
            design = new_boat(hull_type, "New", places()[3], boat().plan.date)
            found = answers_for(design)
            self.assertGreater(found.sun_only_steady.speed_mps, 0.3, hull_type)
            picture = hull_picture(design)
            self.assertLess(picture.plan_power_w, picture.rated_power_w, hull_type)

    def test_quantities_in_plain_words(self):
        for kind, value, text in (
            ("speed_mps", 1852 / 3600, "1.0 kn"), ("distance_m", 18520, "10.0 nm"), ("duration_h", 9.35, "9 h 21"),
            ("clock_min", 61, "01:01"), ("power_w", 12_345, "12.3 kW"), ("energy_wh", 900, "900 Wh"),
        ):  # fmt: skip
            self.assertEqual(shown(Quantity(quantity=kind, value=value)), text)
        self.assertEqual(shown(Quantity(quantity="mass_kg", value=3, signed=True)), "+3 kg")


class CommandLineTest(unittest.TestCase):
    def run_cli(self, *arguments: str) -> tuple[int, str, str]:
        out, err = io.StringIO(), io.StringIO()
        return main(list(arguments), out, err), out.getvalue(), err.getvalue()

    def test_the_same_numbers_as_the_core(self):
        status, text, _ = self.run_cli(
            "answers", str(FROZEN), "--json", "--at", "13:00", "--sky", "hazy", "--date", "2027-07-01"
        )
        self.assertEqual(status, 0)
        design = boat(plan__sky="hazy", plan__date="2027-07-01")
        day = day_steps(design.site, design.plan.date)
        expected = answers_for(
            design, day.moment(day.solar_noon_at.time().replace(hour=13, minute=0))
        ).model_dump(mode="json")
        found = json.loads(text)
        for key in ("sun_only_now", "sun_only_noon", "sun_only_steady", "days_run_sun", "days_run_bank", "nine_in_ten",
                    "bank_at_dusk", "refill", "held_back_by"):  # fmt: skip
            if key != "sun_only_now":
                self.assertEqual(found[key], expected[key])
        self.assertIsInstance(found["sun_only_now"]["speed_mps"], float)

    def test_power_and_day(self):
        status, text, _ = self.run_cli("power", str(FROZEN), "--json", "--speeds", "1,2,30")
        points = json.loads(text)["points"]
        self.assertEqual((status, points[0]["speed_mps"]), (0, 1.0))
        self.assertTrue(points[0]["low_w"] < points[0]["power_w"] < points[1]["power_w"])
        self.assertIsNone(points[2]["power_w"])
        self.assertIn("beyond the model", points[2]["reason"])
        status, text, _ = self.run_cli("day", str(FROZEN), "--json")
        self.assertLess(abs(json.loads(text)["ledger"]["residual_wh"]), 1e-5)
        for command in ("answers", "power", "day", "schema"):
            status, text, _ = self.run_cli(command, *([] if command == "schema" else [str(FROZEN)]))
            self.assertEqual(status, 0)
            self.assertGreater(len(text), 300)

    def test_refusals_go_to_standard_error(self):
        with tempfile.TemporaryDirectory() as folder:
            broken = Path(folder) / "broken.json"
            broken.write_text("{")
            for arguments in (
                (str(broken),),
                (str(Path(folder) / "none.json"),),
                (str(FROZEN), "--sky", "foggy"),
            ):
                status, out, err = self.run_cli("answers", *arguments)
                self.assertEqual((status, out), (2, ""))
                self.assertIn("parhelion:", err)
