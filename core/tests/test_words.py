"""Fields said once: every entry has its words, new parts are valid, and what is usual is what counts."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any
from unittest import TestCase

from parhelion.design import BoatDesign
from parhelion.design.part import STEPS
from parhelion.design.words import label_of, value_of
from parhelion.formats.boat_file import json_schema, read_boat
from parhelion.quantities import length, so_many, words
from parhelion.rail.answers import answers_for
from parhelion.stations.registry import usual

from tests.cases import boat

DEMO = Path(__file__).resolve().parents[2] / "demo"
SCHEMA = json_schema()
ID = ("id", "schema_name", "schema_version")


def pieces() -> list[tuple[str, dict[str, Any]]]:
    inner = {name: piece for name, piece in SCHEMA["$defs"].items() if "properties" in piece}
    return [("BoatDesign", SCHEMA), *inner.items()]


def whole(entry: dict[str, Any]) -> dict[str, Any]:
    """An entry with what it refers to."""
    if "anyOf" in entry:
        kind = next(item for item in entry["anyOf"] if item.get("type") != "null")
        return {**whole(kind), **entry}
    if "$ref" in entry:
        return {**SCHEMA["$defs"][entry["$ref"].split("/")[-1]], **entry}
    return entry


def put(design: BoatDesign, pointer: str, value: Any) -> BoatDesign:
    document = design.model_dump(mode="json")
    node: Any = document
    *path, last = pointer.strip("/").split("/")
    for part in path:
        node = node[int(part)] if isinstance(node, list) else node[part]
    node[last] = value
    return BoatDesign.model_validate(document)


class NumbersTest(TestCase):
    def test_one_thing_is_one_thing(self):
        self.assertEqual([so_many(n, "panel") for n in (0, 1, 2)], ["{n} panels", "{n} panel", "{n} panels"])
        self.assertEqual([so_many(n, "box", "boxes") for n in (1, 3)], ["{boxes} box", "{boxes} boxes"])


class WordsTest(TestCase):
    def test_every_entry_says_what_it_is(self):
        for name, piece in pieces():
            labels = []
            for entry, said in piece["properties"].items():
                if entry in ID:
                    continue
                with self.subTest(piece=name, entry=entry):
                    self.assertTrue(whole(said).get("title"))
                    self.assertNotRegex(said.get("description", ""), r"\.$")
                    kinds = {item.get("type") for item in (whole(said), whole(said).get("items", {}))}
                    if kinds & {"number", "integer"}:
                        self.assertIn(said["quantity"], STEPS)
                        self.assertGreater(said["step"], 0)
                    if "enum" in whole(said):
                        self.assertEqual(set(whole(said)["labels"]), set(whole(said)["enum"]))
                    labels.append(whole(said)["title"])
            self.assertEqual(len(labels), len(set(labels)), f"two entries of {name} share a label")

    def test_a_new_part_is_one(self):
        """What a bench begins a part with, beside an id, a name and what it belongs to, is accepted."""
        document = json.loads((DEMO / "fulmar.json").read_text())
        named = {"banks": "banks", "places": "places", "controllers": "controllers", "panels": "panels"}
        for entry, said in SCHEMA["properties"].items():
            item = whole(whole(said).get("items", {}))
            if entry in ("runs", "strings", "own_controllers", "banks") or "properties" not in item:
                continue
            for example in item.get("examples", [{}]):
                with self.subTest(list=entry, example=example):
                    new = {"id": "new-one", **({"name": "New"} if "name" in item["properties"] else {})}
                    for name, of in item["properties"].items():
                        if of.get("of") in named and name in item["required"]:
                            banks = [part["id"] for part in document[of["of"]]]
                            new[name] = banks[-1 if name == "to_bank_id" else 0]
                    given = {**new, **example}
                    held = [] if entry in ("drives", "sources") else document.get(entry, [])
                    changed = BoatDesign.model_validate({**document, entry: [*held, given]})
                    self.assertEqual(getattr(changed, entry)[-1].id, "new-one")
        for at in ("drives/0/propeller", "drives/0/motor", "banks/0/at", "places/0/at", "loading"):
            name = at.split("/")[-1]
            owner = {"d": "Drive", "b": "Bank", "p": "Place"}.get(at[0]) if "/" in at else None
            piece = SCHEMA["$defs"][owner] if owner else SCHEMA
            put(boat(), at, whole(piece["properties"][name])["examples"][0])

    def test_labels_and_values_read_as_a_person_says_them(self):
        for pointer, label in (
            ("hull/beam_m", "Hull, beam at the waterline"), ("banks/0/unit_v", "Bank 1, volts of one unit"),
            ("plan/trip/out_days", "Plan, days ahead, days out"), ("places/1/at/z_m", "Place 2, its middle, height"),
            ("panels/0/open_circuit_v", "Panels 1, Voc"), ("name", "Name"),
        ):  # fmt: skip
            self.assertEqual(label_of(tuple(pointer.split("/"))), label)
        for pointer, value, said in (
            ("hull/beam_m", 2.1, length(2.1)), ("plan/sky", "rain", words("rain or fog")),
            ("hull/correlation_allowance", 0.001, words("rough or slimy")), ("hull/margin", 1.2, words("1.2 ×")),
            ("loads/0/essential", True, words("yes")), ("loads/0/from_clock", None, None),
            ("panels/0/power_coefficient_per_k", -0.0035, words("-0.35 %/K")), ("tows", [], None),
        ):  # fmt: skip
            self.assertEqual(value_of(tuple(pointer.split("/")), value), said)

    def test_what_is_usual_counts_while_the_entry_is_empty(self):
        """Written into its entry, a usual value changes no answer: there is no second home of it."""
        for file in ("whimbrel", "sabine"):  # between them wings, two banks, a link, wind and shore
            design = read_boat((DEMO / f"{file}.json").read_text())
            before = [cell.value.value if cell.value else None for cell in answers_for(design).rail]
            for pointer, found in usual(design).items():
                node: Any = design.model_dump()
                for part in pointer.strip("/").split("/"):
                    node = node[int(part)] if isinstance(node, (list, tuple)) else node[part]
                # a limit that is given binds; worked link by link, the efficiency is one at each speed
                if node is not None or pointer.endswith(("discharge_limit_a", "overall_efficiency")):
                    continue
                with self.subTest(boat=file, entry=pointer):
                    after = answers_for(put(design, pointer, found.value)).rail
                    for was, cell in zip(before, after, strict=True):
                        now = cell.value.value if cell.value else None
                        if isinstance(was, float) and isinstance(now, float):
                            self.assertAlmostEqual(was, now, delta=1e-6 * max(abs(was), 1))
                        else:
                            self.assertEqual(was, now)
