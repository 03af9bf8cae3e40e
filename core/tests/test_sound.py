"""A design that passes the check computes at every station, finitely: entries at their bounds, on boats of each kind."""

from __future__ import annotations

import json
import math
import random
import time
import unittest
from collections.abc import Iterator
from datetime import date
from itertools import pairwise
from pathlib import Path
from typing import Any

from parhelion.begin.known import Known
from parhelion.begin.new_boat import new_boat
from parhelion.computing.progress import silent
from parhelion.data import places
from parhelion.design import BoatDesign
from parhelion.errors import InvalidDesign, NoAnswer, ParhelionError
from parhelion.formats.boat_file import design_from, json_schema
from parhelion.formats.table import rows_of, unmarked, written_table
from parhelion.quantities import Frozen
from parhelion.rail.answers import answers_for
from parhelion.stations.registry import STATIONS, WORKS
from parhelion.stations.station import Question
from pydantic import BaseModel, ValidationError

from tests.cases import boat

DEMO = Path(__file__).parents[2] / "demo"
ABSURD = 1e12  # watts, metres, days: nothing of a boat is larger
SCHEMA = json_schema()
TRIALS = 18


def whole(node: dict[str, Any]) -> dict[str, Any]:
    """A definition, or the one kind of several, in the place of what refers to it."""
    if "$ref" in node:
        return whole(
            SCHEMA["$defs"][node["$ref"].split("/")[-1]] | {k: v for k, v in node.items() if k != "$ref"}
        )
    kinds = [kind for kind in node.get("anyOf", ()) if kind.get("type") != "null"]
    return whole(kinds[0]) | {k: v for k, v in node.items() if k != "anyOf"} if kinds else node


def numbers(node: dict[str, Any], held: Any, path: tuple = ()) -> Iterator[tuple[tuple, dict[str, Any]]]:
    """Every number that a document has, or could have in the parts that are there."""
    for name, entry in whole(node).get("properties", {}).items():
        inner, there = whole(entry), held.get(name)
        if inner.get("type") in ("number", "integer"):
            yield (*path, name), inner
        elif "properties" in inner and isinstance(there, dict):
            yield from numbers(inner, there, (*path, name))
        elif inner.get("type") == "array" and isinstance(there, list):
            for index, item in enumerate(there):
                if isinstance(item, dict):
                    yield from numbers(inner["items"], item, (*path, name, index))


def ends(entry: dict[str, Any]) -> list[float]:
    """The least and the most an entry may be."""
    small = 1 if entry["type"] == "integer" else 1e-3
    found = [entry[key] for key in ("minimum", "maximum") if key in entry]
    if "exclusiveMinimum" in entry:
        found.append(entry["exclusiveMinimum"] + max(abs(entry["exclusiveMinimum"]) * small, small))
    if "exclusiveMaximum" in entry:
        found.append(entry["exclusiveMaximum"] - max(abs(entry["exclusiveMaximum"]) * small, small))
    return found


def unsound(value: Any, path: str = "") -> Iterator[str]:
    """Where an answer has a number that is none, or an absurd one."""
    if isinstance(value, BaseModel):
        value = dict(value)
    if isinstance(value, dict):
        for key, item in value.items():
            yield from unsound(item, f"{path}/{key}")
    elif isinstance(value, (list, tuple)):
        for index, item in enumerate(value):
            yield from unsound(item, f"{path}/{index}")
    elif isinstance(value, float) and not (math.isfinite(value) and abs(value) < ABSURD):
        yield f"{path} = {value}"


class Offered(Frozen):
    least_m: list[float]


def everything(design: BoatDesign) -> Iterator[str]:
    yield from unsound(answers_for(design))
    for station in STATIONS:
        for study in station.studies:
            if not study.at_rest:
                yield from unsound(study.about(design), f"{station.name}/{study.name}")
        if not station.told_at_rest:
            yield from unsound(station.told(design), station.name)


class GateTest(unittest.TestCase):
    def test_a_number_without_an_end_is_refused_by_name(self):
        def endless() -> Offered:
            return Offered(least_m=[1.0, math.inf])

        def another() -> Offered:
            return Offered(least_m="far")

        question = Question("reach", endless)
        with self.assertRaises(NoAnswer) as refused:
            question.about(None)
        self.assertIn("reach: Offered, least_m/1", refused.exception.problems[0].message)
        with self.assertRaises(ValidationError):  # another fault of the program is not taken for it
            Question("reach", another).about(None)

    def test_long_work_ends_finitely_where_the_sun_keeps_up(self):
        """A kayak home-charged with a panel: with one more the range has no end, and so it is said."""
        kayak = json.loads((DEMO / "strangers.json").read_text())["kayak, loose panel"]
        known = Known(site=places()[3], date=date(2027, 7, 15), name="kayak", **kayak)
        design = new_boat(known)
        found = WORKS["upgrades"].about(design, report=silent)
        self.assertEqual(list(unsound(found)), [])
        self.assertTrue(any("no end" in line.text for line in found.told))
        bank = design.banks[0].model_copy(update={"parallel": 4})
        panels = design.panels[0]
        rails = [
            answers_for(design.changed(banks=(bank,), panels=(panels.model_copy(update={"count": n}),)))
            for n in range(1, 9)
        ]
        last = next(rail for rail, after in pairwise(rails) if after.range_at_speed.keeps_up)
        self.assertTrue(next(step for step in last.held_back_by.steps if step.key == "panel").keeps_up)
        self.assertIn("no end", [slot.value for line in last.rail[-1].lines for slot in line.slots.values()])


class SoundTest(unittest.TestCase):
    def changed(self, document: dict[str, Any], path: tuple, value: float) -> BoatDesign | None:
        copy = json.loads(json.dumps(document))
        node = copy
        for part in path[:-1]:
            node = node[part]
        node[path[-1]] = value
        try:
            return BoatDesign.model_validate(copy)
        except ValidationError:
            return None

    def test_entries_at_their_bounds(self):
        chance = random.Random(4)
        strangers = json.loads((DEMO / "strangers.json").read_text())
        documents = [
            json.loads((DEMO / f"{name}.json").read_text()) for name in ("whimbrel", "sabine", "grebe")
        ]
        documents += [
            new_boat(Known(site=places()[3], date=date(2027, 7, 15), name=kind, **said)).model_dump(
                mode="json"
            )
            for kind, said in strangers.items()
        ]
        tried = 0
        while tried < TRIALS:
            document = chance.choice(documents)
            path, entry = chance.choice(list(numbers(SCHEMA, document)))
            bounds = ends(entry)
            if not bounds or path[-1] in ("schema_version", "count"):
                continue
            value = chance.choice(bounds)
            design = self.changed(document, path, value)
            if design is None:
                continue
            tried += 1
            with self.subTest(boat=document["name"], entry="/".join(map(str, path)), value=value):
                self.assertEqual(list(everything(design)), [])

    def test_what_once_broke_every_page(self):
        document = json.loads((DEMO / "whimbrel.json").read_text())
        for kind, path, value in (
            ("launch", ("panels", 0, "short_circuit_a"), 0.01), ("launch", ("panels", 0, "open_circuit_v"), 0.41),
            ("launch", ("panels", 0, "best_v"), 0.41), ("pontoon", ("hull", "midship_coefficient"), 1.0),
            ("catamaran", ("hull", "midship_coefficient"), 1.0), ("launch", ("hull", "waterplane_coefficient"), 1.0),
            ("launch", ("banks", 0, "usable_depth_frac"), 0.06),
            ("launch", ("site", "latitude_deg"), -90.0), ("launch", ("site", "linke_turbidity"), 10.0),
            ("launch", ("drives", 0, "motor", "current_limit_a"), 0.001),
        ):  # fmt: skip
            boat = {**document, "hull": {**document["hull"], "type": kind}}
            design = self.changed(boat, path, value)
            with self.subTest(kind=kind, entry=path):
                self.assertIsNotNone(design)
                self.assertEqual(list(everything(design)), [])
        for name, path, value in (
            ("grebe", ("banks", 0, "unit_v"), 1000.0), ("grebe", ("site", "linke_turbidity"), 1.0),
            ("fulmar", ("panels", 2, "best_v"), 0.401), ("sabine", ("hull", "displacement_kg"), 20.02),
            ("whimbrel", ("banks", 0, "reserve_frac"), 1.0),
        ):  # fmt: skip
            design = self.changed(json.loads((DEMO / f"{name}.json").read_text()), path, value)
            with self.subTest(name=name, entry=path):
                self.assertEqual(list(everything(design)), [])


class TextsTest(unittest.TestCase):
    def test_every_reader_answers_or_refuses_any_text_soon(self):
        """Digits without end, brackets, lone returns, cells and numbers beyond a limit, nesting."""
        texts = (
            "", "a\rb\rc", "1" * 9000 + "x", "(" * 50_000, "[" * 100_000, '"' * 9999, "a," * 50_000, "\x00" * 999,
            "x" * 200_000, '{"days":' * 20_000, "inf,inf,inf", "N_s,inf\n1,inf", "-" * 30_000,
        )  # fmt: skip
        usual = {"unit": "kn", "taken_ids": [], "latitude_deg": 50.0}
        for station in STATIONS:
            for reader in station.readers:
                for text in texts:
                    asked = {
                        name: text if name == "text" else usual.get(name, default)
                        for name, (_, default) in reader.signature.asked.items()
                    }
                    began = time.process_time()
                    try:
                        reader.about(boat() if reader.signature.subject else None, **asked)
                    except ParhelionError as refused:
                        self.assertTrue(refused.problems[0].message)
                    self.assertLess(
                        time.process_time() - began, 5, f"{station.name}/{reader.name} {text[:9]!r}"
                    )

    def test_a_table_never_begins_a_formula_and_reads_back(self):
        made = written_table([["name", "watts"], ["=cmd|1", "-12.5"], ["@x", "+3"], ["-boat", 4]])
        self.assertEqual(
            rows_of(made), [["name", "watts"], ["'=cmd|1", "-12.5"], ["'@x", "+3"], ["'-boat", "4"]]
        )
        self.assertEqual([unmarked(cell) for cell in ("'=cmd|1", "'tis", "-3")], ["=cmd|1", "'tis", "-3"])

    def test_a_design_holds_no_more_than_is_answered_in_seconds(self):
        document = json.loads((DEMO / "whimbrel.json").read_text())
        document["panels"][0]["count"] = 130
        with self.assertRaises(InvalidDesign) as refused:
            design_from(document)
        problem = refused.exception.problems[0]
        self.assertEqual((problem.field, "panels or fewer" in problem.accepted), ("/panels/0/count", True))
