"""Every word of the terminal on boats of every kind: plain text without holes, JSON that is finite, refusals."""

from __future__ import annotations

import io
import json
import re
import tempfile
from pathlib import Path
from unittest import TestCase

import parhelion
from parhelion.balance.outlook import outlook_of
from parhelion.cli import main
from parhelion.formats.boat_file import read_boat
from parhelion.rail.answers import answers_for
from parhelion.stations.day.picture import day_picture
from parhelion.stations.passage.picture import passage_picture
from parhelion.stations.registry import STATIONS
from parhelion.stations.year.season import season

DEMO = Path(__file__).resolve().parents[2] / "demo"
ELSEWHERE = {"wish", "log"}  # tried with their search and their logbook
HOLES = re.compile(r"\bnan\b|\binf\b|\bNone\b|[{}]|<[a-z_.]+ object")


def finite(text: str):
    def none(word: str):
        raise AssertionError(f"{word} in JSON")

    return json.loads(text, parse_constant=none)


class VerbsTest(TestCase):
    def said(self, *words: str) -> tuple[int, str, str]:
        out, err = io.StringIO(), io.StringIO()
        return main(list(words), out, err), out.getvalue(), err.getvalue()

    def boats(self):
        """Demo boats, and one without a bank, one without panels."""
        whimbrel = json.loads((DEMO / "whimbrel.json").read_text())
        bare = whimbrel | {"panels": [], "places": [], "controllers": [], "strings": []}
        live = whimbrel | {"banks": [], "links": []}
        with tempfile.TemporaryDirectory() as folder:
            for name, document in (("bare", bare), ("live", live)):
                path = Path(folder) / f"{name}.json"
                path.write_text(json.dumps(document))
                yield name, str(path)
            yield "grebe", str(DEMO / "grebe.json")

    def test_each_verb_answers_in_words_and_in_numbers_the_same_twice(self):
        verbs = ["answers", *(v.name for station in STATIONS for v in station.verbs if v.of_boat)]
        for boat, path in self.boats():
            for verb in verbs:
                if verb in ELSEWHERE:
                    continue
                with self.subTest(f"{verb} {boat}"):
                    at = ("--at", "12:00") if verb == "answers" else ()
                    status, plain, refused = self.said(verb, path, *at)
                    if status == 2:  # nothing of the kind on this boat: said, with what would do
                        self.assertRegex(refused, r"^parhelion: \S+: .+\.")
                        self.assertEqual(plain, "")
                        continue
                    self.assertEqual((status, refused), (0, ""))
                    self.assertGreater(len(plain.strip()), 20)
                    self.assertIsNone(HOLES.search(plain), plain)
                    status, told, _ = self.said(verb, path, *at, "--json")
                    self.assertEqual(status, 0)
                    self.assertTrue(isinstance(finite(told), dict | list) or plain.startswith("No "))
                    self.assertEqual(self.said(verb, path, *at, "--json")[1], told)

    def test_another_day_and_sky_change_the_answer_and_wrong_ones_are_refused(self):
        whimbrel = str(DEMO / "whimbrel.json")
        june = finite(self.said("answers", whimbrel, "--at", "12:00", "--json")[1])
        december = finite(
            self.said("answers", whimbrel, "--at", "12:00", "--json", "--date", "2027-12-13")[1]
        )
        grey = finite(self.said("answers", whimbrel, "--at", "12:00", "--json", "--sky", "overcast")[1])
        speeds = [one["sun_only_steady"]["speed_mps"] for one in (june, december, grey)]
        self.assertLess(max(speeds[1:]), speeds[0])
        for wrong, field in (("--date", "/plan/date"), ("--sky", "/plan/sky")):
            status, _, refused = self.said("answers", whimbrel, wrong, "soon")
            self.assertEqual(status, 2)
            self.assertIn(f"parhelion: {field}: ", refused)

    def test_what_is_no_boat_is_refused_with_what_would_be_accepted(self):
        with tempfile.TemporaryDirectory() as folder:
            for name, content in (("empty", b""), ("text", b"a boat"), ("list", b"[]"), ("bytes", b"\xff\xfe\x00"),
                                  ("newer", b'{"schema_name": "parhelion.boat", "schema_version": 999}')):  # fmt: skip
                path = Path(folder) / name
                path.write_bytes(content)
                status, out, refused = self.said("answers", str(path))
                self.assertEqual((status, out), (2, ""), name)
                self.assertTrue(refused.startswith("parhelion: "), name)
            status, _, refused = self.said("day", str(Path(folder) / "gone.json"))
            self.assertEqual(status, 2)
            self.assertIn("gone.json", refused)

    def test_the_schema_is_the_one_that_is_published(self):
        status, told, _ = self.said("schema")
        published = json.loads((DEMO.parent / "docs" / "boat-design.schema.json").read_text())
        self.assertEqual((status, json.loads(told)), (0, published))


class FaceTest(TestCase):
    """The public face: a boat read, and its questions each in a word."""

    def test_it_asks_what_the_stations_ask(self):
        content = (DEMO / "sabine.json").read_bytes()
        design = parhelion.read_boat(content)
        self.assertEqual(design, read_boat(content))
        self.assertEqual(parhelion.answers(design), answers_for(design))
        self.assertEqual(parhelion.day(design), day_picture(outlook_of(design)))
        self.assertEqual(parhelion.season(design), season(design))
        self.assertEqual(parhelion.passage(design), passage_picture(design))
        with self.assertRaises(parhelion.ParhelionError):
            parhelion.read_boat(b"{}")
