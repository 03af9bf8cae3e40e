"""Every sentence that stations and rail say of boats of many kinds reads as a person would write it."""

from __future__ import annotations

import re
from collections.abc import Iterator
from typing import Any
from unittest import TestCase

from parhelion.formats.plain import told
from parhelion.quantities import Sentence, angle, clock, fraction, power, sentence, words
from parhelion.stations.registry import STATIONS
from pydantic import BaseModel

from tests.test_agree import NAMES, design_of, rail, shown

ONES = (
    "loads|days|panels|hours|strings|boxes|runs|miles|trips|nights|motors|banks|minutes|steps|weeks|months|years"
    "|pieces|units|times|legs|groups|readings|outings|others"
)
ILL = {
    "a slot left open": re.compile(r"[{}]"),
    "two spaces": re.compile(r"\S  \S"),
    "a number that is none": re.compile(r"\b(nan|inf|None|NaN)\b"),
    "a space before its stop": re.compile(r"[a-z] [,.;:](?!\d| 1\b)"),
    "two stops": re.compile(r"\.\.(?!\.)|[,;:][,;:]"),
    "false precision": re.compile(r"\d\.\d{4,}"),
    "one of many": re.compile(rf"(?<![\d.,:])1 ({ONES})\b"),
    "a span's unit twice": re.compile(r"(?<!from )\b[\d.,]+ (?!h\b)(\S+) to [\d.,]+ \1(?!\w)"),
    "one word twice": re.compile(r"\b([a-z]{2,}) \1\b"),
    "a for an": re.compile(r"(?<!\d )\b[Aa] (?!one)[aeio][a-z]+\b"),
    "an for a": re.compile(r"\b[Aa]n (?!hour|honest|MPPT)[bcdfghjklmnpqrstvwxyz][a-z]+\b"),
    "a program's word": re.compile(r"[a-z]_[a-z]|\bTrue\b|\bFalse\b"),
}


def sentences(thing: Any, where: str) -> Iterator[tuple[str, str]]:
    """Everything in words in an answer, with the entries that lead to it."""
    if isinstance(thing, Sentence):
        yield where, told(thing)
    elif isinstance(thing, BaseModel):
        for name in type(thing).model_fields:
            yield from sentences(getattr(thing, name), f"{where}.{name}")
    elif isinstance(thing, dict):
        for name, one in thing.items():
            yield from sentences(one, f"{where}.{name}")
    elif isinstance(thing, (list, tuple)):
        for one in thing:
            yield from sentences(one, where)
    elif isinstance(thing, str) and " " in thing:
        yield where, thing


def answers(name: str) -> Iterator[tuple[str, Any]]:
    """All that a boat is told at once."""
    yield "rail", rail(name)
    for station in STATIONS:
        for study in station.studies:
            if not study.at_rest and all(begins is not ... for _, begins in study.signature.asked.values()):
                yield f"{station.name}/{study.name}", shown(name, station.name, study.name)
        yield f"{station.name} told", station.told(design_of(name))


class SaidTest(TestCase):
    def test_every_sentence_of_every_boat(self):
        self.maxDiff = None
        ill, seen = [], set()
        for name in NAMES:
            for of, answer in answers(name):
                for where, text in sentences(answer, of):
                    if (where, text) in seen:
                        continue
                    seen.add((where, text))
                    ill += [
                        f"{name}: {what}: {where}: {text}" for what, how in ILL.items() if how.search(text)
                    ]
        self.assertEqual(ill, [])
        self.assertGreater(len(seen), 1500)

    def test_findings_are_titles_details_and_reasons(self):
        for name in NAMES:
            for station in STATIONS:
                told_of = station.told(design_of(name))
                ids = [finding.id for finding in told_of]
                warned = {finding.id for finding in station.warned(design_of(name))}
                self.assertEqual(warned, {item.id for item in told_of if item.level == "warn"})
                self.assertEqual(sorted(ids), sorted(set(ids)), (name, station.name))
                for finding in told_of:
                    title, detail = told(finding.title), told(finding.detail)
                    with self.subTest(name=name, finding=finding.id):
                        self.assertRegex(title, r"^[A-Z0-9“.−±-].*[^. ]$")
                        self.assertTrue(not detail or detail[-1] in ".?!", detail)
                        self.assertLess(len(title), 110)
                        self.assertTrue(finding.why.method and finding.why.source)

    def test_a_span_says_its_unit_once(self):
        cases = (
            ("{a} to {b} left", fraction(0.8), fraction(0.85), "80 to 85 % left"),
            ("{a} to {b} left", fraction(0.85), fraction(0.853), "85 % left"),
            ("from {a} to {b}", angle(20), angle(20.2), "from 20 to 20°"),
            ("{a} to {b}", power(900), power(12_000), "900 W to 12.0 kW"),
            ("{a} to {b}", clock(60), clock(60), "01:00 to 01:00"),
            ("{a} to {b}", words("Port"), words("Port"), "Port to Port"),
        )
        for text, a, b, said in cases:
            self.assertEqual(told(sentence(text, a=a, b=b)), said)

    def test_the_laws_find_what_is_ill(self):
        said = {
            "a slot left open": "Home with {soc}",
            "two spaces": "Home  with it",
            "a number that is none": "about nan of it",
            "a space before its stop": "Home , with it",
            "two stops": "Home..",
            "false precision": "0.12345 kn",
            "one of many": "after 1 days",
            "a span's unit twice": "85 % to 90 % on 8 of 10",
            "one word twice": "to to the shore",
            "a for an": "a aerial",
            "an for a": "an boat",
            "a program's word": "in under_way",
        }
        self.assertEqual(set(said), set(ILL))
        for what, text in said.items():
            self.assertRegex(text, ILL[what])
            self.assertEqual([one for one, how in ILL.items() if how.search(text)], [what])
