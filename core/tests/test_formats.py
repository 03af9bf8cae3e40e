"""Files in and out, refusals with their place, differences in words, and the command line."""

from __future__ import annotations

import contextlib
import hashlib
import io
import json
import re
import tempfile
import time
import unittest
import zlib
from pathlib import Path

import jsonschema
from hypothesis import given, settings
from hypothesis import strategies as st
from parhelion.cli import main
from parhelion.design.boat import SCHEMA_VERSION
from parhelion.design.changes import changes
from parhelion.errors import InvalidDesign, ParhelionError, UnreadableFile
from parhelion.formats.boat_file import json_schema, read_boat, written
from parhelion.formats.controller_table import read_controllers
from parhelion.formats.module_table import read_modules
from parhelion.formats.plain import shown
from parhelion.formats.runs_table import read_runs, written_runs
from parhelion.quantities import Quantity, mass
from parhelion.rail.answers import answers_for
from parhelion.stations.hull.station import helm_paper
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
            (json.dumps({**good, "schema_version": 99}).encode(), "newer_version", "version 99"),
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
            (found[0].field, found[0].before, found[0].after),
            ("/hull/displacement_kg", mass(1240), mass(1300)),
        )
        self.assertEqual(found[0].label, "Hull, all-up weight")
        self.assertTrue(any(item.field == "/banks/0" and item.after is None for item in found))
        self.assertEqual(changes(boat(), boat()), [])

    def test_quantities_in_plain_words(self):
        for kind, value, text in (
            ("speed_mps", 1852 / 3600, "1.0 kn"), ("distance_m", 18520, "10.0 nm"), ("duration_h", 9.35, "9 h 21"),
            ("clock_min", 61, "01:01"), ("power_w", 12_345, "12.3 kW"), ("energy_wh", 900, "900 Wh"),
        ):  # fmt: skip
            self.assertEqual(shown(Quantity(quantity=kind, value=value)), text)
        self.assertEqual(shown(Quantity(quantity="mass_kg", value=3, signed=True)), "+3 kg")


class PaperTest(unittest.TestCase):
    def test_letters_that_a_page_has_not_are_told(self):
        for name, printed, lost in (("Grèbe", "Grèbe", False), ("Łódź – “Ő”", "Lódz - \"O\"", False),
                                    ("海燕 Čajka", "?? Cajka", True), ("Why?", "Why?", False)):  # fmt: skip
            paper = helm_paper(boat(name=name))
            streams = re.findall(rb"stream\n(.*?)\nendstream", paper, re.S)
            text = b"".join(zlib.decompress(one) for one in streams if one[:1] == b"x").decode("latin-1")
            self.assertIn(printed, text)
            self.assertEqual("a letter that the fonts" in text, lost, name)


class VersionsTest(unittest.TestCase):
    """One frozen file for each version of the schema; each opens as the boat it was."""

    def test_version_1(self):
        old = json.loads(FROZEN.read_text())
        design = read_boat(FROZEN.read_bytes())
        bank = old["banks"][0]
        self.assertEqual(
            (design.bank.nominal_v, design.bank.capacity_ah), (bank["nominal_v"], bank["capacity_ah"])
        )
        self.assertEqual(design.displacement_kg, old["hull"]["displacement_kg"])
        self.assertEqual(json.loads(written(design))["schema_version"], SCHEMA_VERSION)
        looped = {**old, "links": [{"id": "l", "from_bank_id": "bank", "to_bank_id": "bank", "limit_w": 9}]}
        self.assertEqual(read_boat(json.dumps(looped)).links, ())  # version 1 never counted it

    def test_version_2_holds_everything_and_is_computed(self):
        content = (REFERENCES / f"boat-v{SCHEMA_VERSION}.json").read_bytes()
        design = read_boat(content)
        self.assertEqual(read_boat(written(design)), design)
        jsonschema.validate(json.loads(content), json_schema(), jsonschema.Draft202012Validator)
        self.assertGreater(answers_for(design).days_run_bank.distance_m, 0)
        self.assertAlmostEqual(
            design.displacement_kg, design.loading.total_kg + design.banks_kg + design.panels_kg
        )

    def test_versions_that_only_add_open_as_the_boat_they_were(self):
        old, *newer = (read_boat((REFERENCES / f"boat-v{n}.json").read_bytes()) for n in (2, 3, 4, 5, 6, 7))
        for frozen in newer:
            self.assertEqual(frozen, old)

    def test_every_change_of_shape_is_a_version(self):
        """An entry more, less or of another type: raise SCHEMA_VERSION, migrate, freeze a file, then its shape."""
        schema = json_schema()
        kinds = {"BoatDesign": schema, **schema["$defs"]}
        shape = {
            name: [kind.get("enum"), sorted(kind.get("required", ())), {
                entry: [said.get(key) for key in ("type", "$ref", "anyOf", "items", "format")]
                for entry, said in kind.get("properties", {}).items() if entry != "schema_version"
            }]
            for name, kind in sorted(kinds.items())
        }  # fmt: skip
        bounds = r'"(?:exclusive)?(?:M|m)(?:in|ax)imum": [^,}]*,? ?|"(?:min|max)(?:Length|Items)": [^,}]*,? ?'
        text = re.sub(bounds, "", json.dumps(shape, sort_keys=True))
        digest = hashlib.sha256(text.encode()).hexdigest()[:16]
        known = json.loads((REFERENCES / "shapes.json").read_text())
        self.assertEqual(known.get(str(SCHEMA_VERSION)), digest)
        for version in range(1, SCHEMA_VERSION + 1):
            self.assertTrue((REFERENCES / f"boat-v{version}.json").is_file())

    def test_what_cannot_be_is_refused_beside_its_field(self):
        base = json.loads((REFERENCES / f"boat-v{SCHEMA_VERSION}.json").read_text())
        table = (
            (("banks", 0, "series"), 0, "/banks/0/series", "1 or more"),
            (("banks", 0, "series"), 200, "/banks/0/series", "or fewer"),
            (("banks", 0, "usable_depth_frac"), 6.0, "/banks/0/usable_depth_frac", "1 or less"),
            (("banks", 0, "empty_v"), 99.0, None, None),
            (("drives", 0, "rated_power_w"), 0, "/drives/0/rated_power_w", "more than 0"),
            (("drives", 0, "rated_power_w"), None, "/drives/0/rated_power_w", "watts on its label"),
            (("drives", 1, "static_thrust_n"), None, "/drives/1/static_thrust_n", "newtons"),
            (("drives", 0, "propeller", "pitch_m"), 3.0, "/drives/0/propeller/pitch_m", "for this diameter"),
            (("drives", 0, "motor", "kv_rpm_per_v"), None, "/drives/0/motor/kv_rpm_per_v", "no-load speed"),
            (("runs", 2, "amps"), None, "/runs/2/power_w", "volts and amps"),
            (("loads", 0, "bank_id"), "shed", "/loads/0/bank_id", "house"),
            (("links", 0, "to_bank_id"), "bank", "/links/0/to_bank_id", "other bank"),
            (("loading",), None, "/hull/displacement_kg", "weight"),
            (("loading", "boat_kg"), 90_000, "/loading/boat_kg", "or less for this length"),
        )
        for path, value, field, accepted in table:
            document = json.loads(json.dumps(base))
            node = document
            for key in path[:-1]:
                node = node[key]
            node[path[-1]] = value
            if field is None:
                self.assertTrue(read_boat(json.dumps(document)))  # no full volts to stand against
                continue
            with self.subTest(path), self.assertRaises(InvalidDesign) as caught:
                read_boat(json.dumps(document))
            problem = caught.exception.problems[0]
            self.assertEqual(problem.field, field if path != ("loading",) else "/loading/boat_kg")
            self.assertIn(accepted, problem.accepted)


class RunsTableTest(unittest.TestCase):
    def test_what_people_paste(self):
        table = (
            ("3.2\t2.8\t245\n4.1\t3.7\t512", [(3.2, 2.8, 245), (4.1, 3.7, 512)]),
            ("speed (kn),watts\n3.0,200\n4.0,450", [(3.0, None, 200), (4.0, None, 450)]),
            ("3,2;2,8;245\n\n# a note\n4,1;;0,5 kW", [(3.2, 2.8, 245), (4.1, None, 500)]),
            ("Speed km/h;back;W\n5.4;5.0;180", [(5.4 / 1.852, 5.0 / 1.852, 180)]),
            ("3.5 kn 410 W\n4.5kn 900W", [(3.5, None, 410), (4.5, None, 900)]),
            ("out,back,volts,amps\n3.0,2.6,25.5,10", [(3.0, 2.6, 255)]),
            ("3.0\t2.6\t25,5 V x 10 A", [(3.0, 2.6, 255)]),
        )
        for text, expected in table:
            with self.subTest(text):
                found = read_runs(text, "kn")
                self.assertEqual(found.problems, [])
                for run, (out, back, watts) in zip(found.runs, expected, strict=True):
                    self.assertAlmostEqual(run.speed_mps * 3600 / 1852, out, places=6)
                    if back is None:
                        self.assertIsNone(run.back_speed_mps)
                    else:
                        self.assertAlmostEqual(run.back_speed_mps * 3600 / 1852, back, places=6)
                    self.assertAlmostEqual(run.battery_w, watts)

    def test_spans_sets_and_what_cannot_be_read(self):
        found = read_runs(
            "speed,watts,set\n4.0-4.5,600-700,before\n4.2,4 knots,after\nfast,300\n5,-3,x\n,,",
            "kn",
            ["run-1"],
        )
        self.assertEqual([run.set_name for run in found.runs], ["before"])
        self.assertEqual(found.runs[0].id, "run-2")
        self.assertAlmostEqual(found.runs[0].battery_w, (600 * 700) ** 0.5)
        self.assertEqual([problem.line for problem in found.problems], [3, 4, 5, 6])
        self.assertTrue(all(problem.accepted and problem.message for problem in found.problems))

    def test_a_comma_before_three_digits_is_decided_by_the_others_or_asked(self):
        for text, watts, asked in (
            ("3.2\t2.8\t1,900 W", [], True), ("3.2\t2.8\t1,900.5", [1900.5], False),
            ("3,2\t2,8\t1,900", [1.9], False), ("3.2\t2.8\t12,345,678", [], False),
            ("3.2\t2.8\t1,900.5\n3.4\t3.0\t2,100", [1900.5, 2100], False), ("3.2\t2.8\t1900", [1900], False),
        ):  # fmt: skip
            found = read_runs(text, "kn")
            self.assertEqual([run.battery_w for run in found.runs], watts, text)
            self.assertEqual(
                any("Write it without the comma" in p.message for p in found.problems), asked, text
            )

    def test_no_paste_holds_a_reader(self):
        """Patterns that were cubic: each is answered in a blink, with what would be accepted."""
        for hard in ("8" * 8000 + "x", "(" * 50_000 + ",x\n1,2", "Name" + "[" * 50_000 + ",PV volts\nA,100",
                     "1 " * 20_000 + "x", "," * 50_000, "\"" * 20_001):  # fmt: skip
            for read in (lambda text: read_runs(text, "kn"), read_controllers, read_modules):
                began = time.process_time()
                with contextlib.suppress(ParhelionError):
                    read(hard)
                self.assertLess(time.process_time() - began, 5.0, hard[:12])

    def test_what_is_saved_is_read_again(self):
        runs = read_boat((REFERENCES / f"boat-v{SCHEMA_VERSION}.json").read_bytes()).runs
        blown = {"id": "w", "wind_mps": 4.0, "wind_angle_deg": -30.0, "wave_height_m": 0.2}
        runs = (*runs, runs[0].model_copy(update=blown))
        for unit in ("kn", "km/h", "mph"):
            found = read_runs(written_runs(runs, unit), unit)
            self.assertEqual(found.problems, [])
            for old, new in zip(runs, found.runs, strict=True):
                self.assertAlmostEqual(old.through_water_mps, new.through_water_mps, delta=1e-5)
                self.assertAlmostEqual(old.battery_w, new.battery_w, places=4)
                self.assertEqual(
                    (old.set_name, old.back_speed_mps is None), (new.set_name, new.back_speed_mps is None)
                )
                for entry in ("wind_mps", "wind_angle_deg", "wave_height_m"):
                    self.assertAlmostEqual(getattr(old, entry), getattr(new, entry), delta=1e-5)

    @settings(max_examples=150, deadline=None)
    @given(st.text(max_size=60))
    def test_no_text_whatever_brings_it_down(self, text):
        found = read_runs(text, "kn")
        self.assertLessEqual(len(found.runs), len(text) + 1)


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
        status, text, _ = self.run_cli("harvest", str(FROZEN), "--json")
        self.assertEqual((status, json.loads(text)["nameplate_w"]), (0, 860))
        for command in ("answers", "power", "day", "harvest", "schema"):
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
