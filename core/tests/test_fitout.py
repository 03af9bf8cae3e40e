"""The Fit-out: the order of connecting, parts, frames, minutes and records."""

from __future__ import annotations

import json
from dataclasses import replace
from datetime import date, datetime, timedelta
from io import BytesIO
from pathlib import Path
from unittest import TestCase

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from parhelion.begin.known import Known
from parhelion.begin.new_boat import new_boat
from parhelion.data import places
from parhelion.design import BoatDesign
from parhelion.design.frame import Cut, Frame
from parhelion.design.records import NO_RECORDS, HandShadow, Records
from parhelion.diagnosis.inputs import inputs_of
from parhelion.diagnosis.reading import Means
from parhelion.errors import ParhelionError, UnreadableFile
from parhelion.formats.boat_file import design_from, read_boat
from parhelion.formats.price_table import read_prices
from parhelion.formats.records_file import read_records, written_records
from parhelion.panels.frame import cutting_plan, frame_of
from parhelion.stations.fitout.findings import fitout_findings
from parhelion.stations.fitout.noted_csv import records_csv
from parhelion.stations.fitout.now import Now, expected_in, expected_of, usual_now
from parhelion.stations.fitout.paper import fitout_pdf, parts_csv
from parhelion.stations.fitout.parts import implied, lines_of, sums_of
from parhelion.stations.fitout.picture import fitout_picture
from parhelion.stations.fitout.priced import priced
from parhelion.stations.fitout.steps import next_step, shown_steps, steps_of
from parhelion.stations.pack import packed, print_pack
from pydantic import ValidationError
from pypdf import PdfReader

from tests.cases import REFERENCES

DEMO = Path(__file__).resolve().parents[2] / "demo"
METHODS = Path(__file__).resolve().parents[2] / "docs" / "methods"
AT = "2027-06-13T12:00:00+02:00"


def demo(name: str = "whimbrel", **changes) -> BoatDesign:
    document = json.loads((DEMO / f"{name}.json").read_text())
    return design_from({**document, **changes})


def records(*rows) -> Records:
    return Records.model_validate({"records": [{"id": f"r{i}", **row} for i, row in enumerate(rows)]})


class OrderTest(TestCase):
    """The order of connecting."""

    def boats(self):
        yield from (demo(name) for name in ("whimbrel", "grebe", "sabine", "fulmar"))
        for kind, said in json.loads((DEMO / "strangers.json").read_text()).items():
            yield new_boat(Known(site=places()[3], date=date(2027, 7, 15), name=kind, **said))

    def test_a_controller_never_meets_panels_before_its_bank(self):
        seen = 0
        for design in self.boats():
            steps = [step.key for step in steps_of(design, usual_now(design))]
            self.assertEqual(len(set(steps)), len(steps))
            self.assertEqual(steps[0], "open")
            for box in inputs_of(design):
                bank = box.circuits[0].bank
                for circuit in box.circuits:
                    joined = steps.index(f"strings/{circuit.key}")
                    self.assertLess(joined, steps.index(f"close/{box.key}"))
                    if bank is not None:
                        takes = [key for key in steps if key.startswith("motor/") or key == "house"]
                        order = [f"bank/{bank.id}", f"fuse/{bank.id}", f"box/{box.key}", *takes]
                        places = [*(steps.index(key) for key in order), joined]
                        self.assertEqual(places, sorted(places), design.name)
                        seen += 1
            if not design.banks:
                self.assertFalse([key for key in steps if key.startswith(("bank/", "box/"))])
        self.assertGreater(seen, 12)
        kayak = next(d for d in self.boats() if d.name == "kayak, loose panel")
        told = {step.kind: step for step in steps_of(kayak, usual_now(kayak))}
        self.assertIn("guessed", told["strings"].what)
        self.assertNotIn("recharge", told["motor"].title + told["motor"].what)
        whimbrel = {step.kind: step for step in steps_of(demo(), usual_now(demo()))}
        self.assertNotIn("guessed", whimbrel["strings"].what)
        self.assertIn("recharge", whimbrel["motor"].what)

    def proof(self, design, key, item, reading=None, at=AT):
        step = next(step for step in steps_of(design, usual_now(design)) if step.key == key)
        of = next(one.of for one in step.items if one.key == item)
        return {"kind": "step", "step": key, "item": item, "of": of, "at": at, "reading": reading}

    def test_readings_of_a_string_are_judged(self):
        design = demo()
        key = "strings/canopy-panels"
        for volts, means in (
            (83.6, Means.AS_EXPECTED), (41.8, Means.PANEL_MISSING), (-83.5, Means.REVERSED), (0.2, Means.NO_VOLTS),
            (69.5, Means.SUBSTRING), (125.0, Means.OTHER_KIND), (30.0, Means.UNCLEAR),
        ):  # fmt: skip
            noted = records(self.proof(design, key, "string1", volts))
            step = next(s for s in shown_steps(design, noted, usual_now(design)) if s.step.key == key)
            self.assertIs(step.items[0].means, means, volts)
            self.assertEqual(step.items[0].good, means is Means.AS_EXPECTED)
            self.assertFalse(step.done)  # the other string is open
            told = [f.id for f in fitout_findings(design, noted)]
            self.assertEqual(f"wrong_{key}_string1" in told, means is not Means.AS_EXPECTED)
            self.assertEqual("proved_well" in told, means is Means.AS_EXPECTED)

    def test_a_reading_is_judged_under_the_sky_it_was_read_in(self):
        design, key = demo(), "strings/canopy-panels"
        dull = Now(usual_now(design).at, HandShadow.NONE)
        volts = next(s for s in steps_of(design, dull) if s.key == key).items[0].expected.open_v
        bright = replace(dull, shadow=HandShadow.SHARP)
        noted = self.proof(design, key, "string1", volts * 0.985)
        for seen, means in (({"shadow": "none"}, Means.AS_EXPECTED), (None, Means.UNCLEAR)):
            step = next(
                s for s in shown_steps(design, records({**noted, "seen": seen}), bright) if s.step.key == key
            )
            self.assertIs(step.items[0].means, means)

    def test_the_minute_that_is_shown_is_that_of_the_last_reading(self):
        sun = {"kind": "sun", "at": AT, "shadow": "soft", "heading_deg": 40, "input": "canopy", "pv_w": 300}
        shown = fitout_picture(demo(), records(sun)).minute
        self.assertEqual((shown.shadow, shown.heading_deg), ("soft", 40))
        self.assertEqual(fitout_picture(demo(), records(sun), shadow=HandShadow.NONE).minute.shadow, "none")

    def test_a_string_too_low_for_its_bank_is_told_though_it_is_as_expected(self):
        design = demo()
        single = design.changed(panels=tuple(g.model_copy(update={"series": 1}) for g in design.panels))
        key, now = "strings/port-panels", usual_now(single)
        step = next(step for step in steps_of(single, now) if step.key == key)
        volts = step.items[0].expected.open_v
        noted = records(self.proof(single, key, "string1", volts))
        shown = next(s for s in shown_steps(single, noted, now) if s.step.key == key)
        self.assertIs(shown.items[0].means, Means.BELOW_BANK)
        self.assertFalse(shown.items[0].good)

    def test_what_was_proved_and_changed_since_is_open_again(self):
        design = demo()
        noted = records(
            self.proof(design, "strings/canopy-panels", "string1", 83.6),
            self.proof(design, "strings/canopy-panels", "string2", 83.4),
            self.proof(design, "bank/bank", "posts", 26.5),
        )
        other = design.changed(panels=tuple(
            group.model_copy(update={"series": 1}) if group.id == "canopy-panels" else group
            for group in design.panels
        ))  # fmt: skip
        now = usual_now(design)
        before = {s.step.key: s for s in shown_steps(design, noted, now)}
        after = {s.step.key: s for s in shown_steps(other, noted, now)}
        self.assertTrue(before["strings/canopy-panels"].done and before["bank/bank"].done)
        self.assertTrue(after["strings/canopy-panels"].stale and not after["strings/canopy-panels"].done)
        self.assertTrue(after["bank/bank"].done)
        self.assertEqual(next_step(list(before.values())).step.key, "open")
        self.assertIn("opened_again", [f.id for f in fitout_findings(other, noted)])
        self.assertNotIn("opened_again", [f.id for f in fitout_findings(design, noted)])

    def test_a_bank_of_units_missing_or_swapped_is_told(self):
        design = demo("fulmar")
        for volts, means in (
            (52.9, Means.AS_EXPECTED),
            (-52.9, Means.REVERSED),
            (0.0, Means.NO_VOLTS),
            (49.2, Means.UNIT_MISSING),
        ):
            noted = records(self.proof(design, "bank/traction", "posts", volts))
            step = next(
                s for s in shown_steps(design, noted, usual_now(design)) if s.step.key == "bank/traction"
            )
            self.assertIs(step.items[0].means, means)


class PartsTest(TestCase):
    def test_every_part_of_the_design_is_on_the_list_once_and_sums_are_of_its_lines(self):
        for name in ("whimbrel", "grebe", "sabine", "fulmar"):
            design = demo(name)
            parts = implied(design)
            keys = [part.key for part in parts]
            self.assertEqual(len(set(keys)), len(keys))
            for group in design.panels:
                self.assertEqual(
                    next(p.quantity for p in parts if p.key == f"panels/{group.id}"), group.count
                )
            picture = fitout_picture(design)
            lines = [line for system in picture.systems for line in system.lines]
            self.assertEqual(len(lines), len(parts))
            self.assertAlmostEqual(picture.money.cost, sum(line.cost or 0 for line in lines))
            self.assertEqual(picture.money.no_price, sum(line.price is None for line in lines))
            self.assertEqual(picture.money.to_buy, picture.money.cost)

    def test_what_is_noted_counts_and_what_is_not_asked_for_any_more_is_told(self):
        design = demo()
        noted = records(
            {"kind": "part", "part": "panels/canopy-panels", "name": "Panel", "state": "have", "quantity": 6},
            {
                "kind": "part",
                "part": "bank/bank",
                "name": "Pack",
                "state": "ordered",
                "quantity": 2,
                "price": 400,
            },
            {"kind": "part", "part": "controller/gone", "name": "Old box", "state": "have", "quantity": 1},
            {
                "kind": "part",
                "part": "own/x",
                "name": "Bell",
                "system": "safety",
                "quantity": 2,
                "price": 8,
                "mass_kg": 1,
            },
            {"kind": "part", "part": "hull", "name": "Hull", "state": "have", "price": 0, "used": True},
            {"kind": "money", "budget": 100},
        )
        lines = {line.part.key: line for line in lines_of(design, noted)}
        self.assertEqual((lines["panels/canopy-panels"].short, lines["bank/bank"].short), (-2, 2))
        self.assertEqual((lines["bank/bank"].cost, lines["own/x"].cost, lines["hull"].cost), (1600, 16, 0))
        self.assertTrue(lines["controller/gone"].gone and lines["own/x"].own)
        bare, full = sums_of(lines_of(design, NO_RECORDS)), sums_of([v for v in lines.values() if not v.gone])
        self.assertEqual(bare.no_price - full.no_price, 1)
        told = {f.id: f.level for f in fitout_findings(design, noted)}
        self.assertEqual(told["not_enough_bank/bank"], "warn")
        self.assertEqual(told["not_enough_panels/canopy-panels"], "note")
        self.assertEqual(told["over_budget"], "warn")
        self.assertIn("gone_controller/gone", told)
        quiet = {f.id for f in fitout_findings(design)}
        self.assertFalse({"over_budget", "gone_controller/gone", "not_enough_bank/bank"} & quiet)

    def test_an_own_price_list_is_read_with_its_commas_decided(self):
        read = read_prices("item;price;kg\nShunt;96,50;0,6\nOars;1.200,00;5\n;3;1\nRope;dear;1\nPump;-4;\n")
        self.assertEqual(
            [(r.name, r.price, r.mass_kg) for r in read.rows], [("Shunt", 96.5, 0.6), ("Oars", 1200.0, 5.0)]
        )
        self.assertEqual([p.line for p in read.problems], [4, 5, 6])
        unsure = read_prices('name,price\nOars,"1,900"\n')
        self.assertEqual((unsure.rows, unsure.problems[0].line), ([], 2))
        with self.assertRaises(UnreadableFile):
            read_prices("a,b\n1,2\n")
        many = read_prices("name,price\n" + "\n".join(f"Part {i},{i}.50" for i in range(6_000)))
        self.assertEqual((len(many.rows), many.problems[-1].line), (5_000, 5_002))
        laid = priced(demo(), "name,price\nShunt and meter,96.50\nOars or paddles,0\nA piano,900\n")
        self.assertEqual({n.part: n.price for n in laid.notes}, {"shunt": 96.5, "safety/oars": 0.0})
        self.assertEqual(laid.without, ["A piano"])

    def test_the_print_pack_is_every_paper_in_one_file_without_what_a_boat_has_not(self):
        said = {}
        for name, changes in (("goes", {}), ("stays", {"passage": None})):
            made = PdfReader(BytesIO(print_pack(demo(**changes), records=NO_RECORDS, unit="km/h")))
            said[name] = [page.extract_text() for page in made.pages]
            titles = [paper.title for paper in packed()]
            self.assertEqual([item.title for item in made.outline], titles if name == "goes" else titles[:-1])
        for words in ("Connecting, in this order", "km/h", "A computed arrival"):
            self.assertTrue(any(words in page for page in said["goes"]), words)
        self.assertEqual(len(said["goes"]), len(said["stays"]) + 1)
        bare = demo("grebe", panels=[], banks=[], places=[], passage=None, controllers=[], strings=[])
        self.assertGreater(len(PdfReader(BytesIO(print_pack(bare))).pages), 1)

    def test_papers(self):
        for name in ("whimbrel", "grebe", "fulmar"):
            design = demo(name)
            noted = (
                read_records((DEMO / f"{name}.records.json").read_bytes()) if name != "grebe" else NO_RECORDS
            )
            self.assertEqual(fitout_pdf(design, noted)[:5], b"%PDF-")
            self.assertLess(len(fitout_pdf(design, noted, "steps")), len(fitout_pdf(design, noted)))
            rows = parts_csv(design, noted).splitlines()
            self.assertEqual(len(rows), 1 + len(lines_of(design, noted)))
            noted_rows = records_csv(design, noted).splitlines()
            self.assertGreaterEqual(len(noted_rows), 1 + len(noted.records) // 2)
            if name == "whimbrel":
                self.assertTrue(any("a panel of a string is missing" in row for row in noted_rows))
        tricky = records({"kind": "part", "part": "own/x", "name": "=1+1", "system": "safety"})
        self.assertIn("'=1+1", parts_csv(demo(), tricky))


class FindingsTest(TestCase):
    """Those that are not held elsewhere: once where they fire, once where they are silent."""

    def told(self, design: BoatDesign, *rows) -> dict[str, str]:
        found = fitout_findings(design, records(*rows))
        for finding in found:
            self.assertTrue(finding.why.method and finding.why.source)
            self.assertTrue((METHODS / f"{finding.why.doc}.md").is_file(), finding.why.doc)
        return {finding.id: finding.level for finding in found}

    def test_each_fires_and_each_is_silent(self):
        design, small = demo(), demo("grebe")
        have = {"kind": "part", "part": "bank/bank", "name": "Pack", "state": "have", "quantity": 4}
        used = {
            "kind": "part",
            "part": "panels/canopy-panels",
            "name": "P",
            "state": "have",
            "quantity": 4,
            "used": True,
        }
        opened = {"kind": "step", "step": "open", "item": "open", "of": "open", "at": AT}
        twin = {"kind": "test", "at": AT, "name": "P 1", "group_id": "canopy-panels", "cell_c": 40}
        bad = {**twin, "points": [[0, 3.0], [20, 2.95], [28, 2.8], [39, 0]], "irradiance_w_per_m2": 800}
        box = inputs_of(design)[0]
        now = usual_now(design)
        watts = expected_in(design, box, now).watts.middle
        sun = {"kind": "sun", "at": now.at.isoformat(), "input": box.key}
        for key, loud, quiet in (
            ("no_extinguisher", (design, have), (design, have, {**have, "part": "safety/extinguisher"})),
            ("used_panels", (design, used), (design, used, {**twin, "points": []})),
            ("dearest", (design,), (small, {"kind": "part", "part": "bank/bank", "name": "B", "price": 1, "quantity": 1})),
            ("shock", (design,), (small,)),
            ("own_order", (design,), None),
            ("waits_for", (design, opened), (design, opened, have)),
            ("measured_panel_canopy-panels", (design, bad), (design,)),
            (f"sun_reading_{box.key}", (design, {**sun, "pv_w": watts}), (design,)),
        ):  # fmt: skip
            with self.subTest(key):
                self.assertIn(key, self.told(*loud))
                if quiet is not None:
                    self.assertNotIn(key, self.told(*quiet))
        self.assertEqual(self.told(design, {**sun, "pv_w": watts})[f"sun_reading_{box.key}"], "good")
        self.assertEqual(self.told(design, {**sun, "pv_w": watts / 2})[f"sun_reading_{box.key}"], "warn")
        full = {**sun, "pv_w": 30, "bank_full": True}
        self.assertEqual(self.told(design, full)[f"sun_reading_{box.key}"], "note")


class FrameTest(TestCase):
    """Frames: cut, weighed, bent."""

    def framed(self, place=0, **frame) -> BoatDesign:
        document = json.loads((DEMO / "whimbrel.json").read_text())
        for one in document["places"]:
            one.pop("frame", None)
        document["places"][place]["frame"] = frame
        return design_from(document)

    @settings(max_examples=60, deadline=None)
    @given(
        st.lists(st.tuples(st.floats(0.05, 9), st.integers(1, 6)), min_size=1, max_size=8), st.floats(1, 8)
    )
    def test_every_piece_is_cut_and_no_length_is_overdrawn(self, pieces, stock):
        cuts = [Cut("piece", length, many) for length, many in pieces]
        bars = cutting_plan(cuts, stock)
        whole = sum(length * many for length, many in pieces)
        self.assertAlmostEqual(sum(map(sum, bars)), whole, places=6)
        for bar in bars:
            self.assertLessEqual(sum(bar) + 0.003 * (len(bar) - 1), stock + 1e-6)
        self.assertGreaterEqual(len(bars), whole / stock - 1e-9)
        half_full = [bar for bar in bars if sum(bar) + 0.003 * len(bar) < stock / 2]
        self.assertLessEqual(len(half_full), 1)

    def test_sections_are_those_of_a_fine_grid(self):
        for stock in ("round", "square", "angle"):
            frame = Frame(stock=stock, size_m=0.04, wall_m=0.004)
            at = (np.arange(1600) + 0.5) / 1600 * 0.04
            x, y = np.meshgrid(at, at)
            inside = {
                "round": (np.hypot(x - 0.02, y - 0.02) < 0.02) & (np.hypot(x - 0.02, y - 0.02) > 0.016),
                "square": (np.abs(x - 0.02) > 0.016) | (np.abs(y - 0.02) > 0.016),
                "angle": (x < 0.004) | (y < 0.004),
            }[stock]
            area = inside.mean() * 0.04**2
            middle = y[inside].mean()
            inertia = ((y[inside] - middle) ** 2).mean() * area
            self.assertAlmostEqual(frame.section_m2 / area, 1, delta=3e-3)
            self.assertAlmostEqual(frame.inertia_m4 / inertia, 1, delta=5e-3)

    def test_it_weighs_in_the_boat_and_more_feet_hang_through_less(self):
        bare, six = self.framed(1), self.framed(0, size_m=0.03, feet=6)
        four = self.framed(0, size_m=0.03, feet=4)
        kg = four.place("canopy").frame_kg
        self.assertAlmostEqual(kg, four.place("canopy").frame.kg_per_m * (2 * 3.1 + 3 * 1.55))
        light = bare.changed(places=tuple(p.model_copy(update={"frame": None}) for p in bare.places))
        self.assertAlmostEqual(four.displacement_kg - light.displacement_kg, kg)
        groups = [g for g in four.panels if g.place_id == "canopy"]
        one, two = (frame_of(d.place("canopy"), groups) for d in (four, six))
        self.assertAlmostEqual(one.sag_m / two.sag_m, 2.0**4)
        held = (one.panels_kg + one.mass_kg) * 9.81 / 2 / 3.1
        i, e = one.frame.inertia_m4, 69e9
        self.assertAlmostEqual(one.sag_m, 5 * held * 3.1**4 / (384 * e * i))
        x = np.linspace(0, 3.1, 20_001)  # the same beam by integrating its curvature twice
        turn = np.cumsum(held * x * (3.1 - x) / 2 / (e * i)) * (x[1] - x[0])
        drop = np.cumsum(turn) * (x[1] - x[0])
        self.assertAlmostEqual(np.max(np.abs(drop - drop[-1] * x / 3.1)) / one.sag_m, 1, delta=1e-3)

    def test_a_thin_one_an_uncounted_one_and_unlike_metals_are_told(self):
        def told(design):
            return {f.id for f in fitout_findings(design)}

        thin = told(self.framed(0, stock="angle", size_m=0.02, wall_m=0.002, feet=2))
        stout = told(self.framed(0, stock="square", size_m=0.04, wall_m=0.003, feet=6))
        self.assertIn("thin_frame_canopy", thin)
        self.assertNotIn("thin_frame_canopy", stout)
        self.assertIn("unframed", stout)
        self.assertNotIn("unframed", told(demo("grebe")))
        salt = demo("fulmar").model_dump(mode="json")
        salt["places"][0] |= {"frame": {}, "width_m": 2.0, "length_m": 3.0}
        self.assertIn("metals_meet", told(design_from(salt)))
        self.assertNotIn("metals_meet", stout)
        parts = {part.key: part for part in implied(self.framed(0, feet=4))}
        self.assertEqual((parts["frame/canopy"].quantity, parts["feet/canopy"].quantity), (3, 4))
        wing = self.framed(1, size_m=0.01, wall_m=0.001, feet=6)
        self.assertEqual(next(p.quantity for p in implied(wing) if p.key == "hinges/port-wing"), 3)
        shown = {frame.place_id: frame for frame in fitout_picture(wing).frames}["port-wing"]
        self.assertEqual((shown.hinges, shown.hinge_m), (3, 2.1))
        self.assertLess(shown.inside_m, shown.needs_m)  # no room for its cable
        self.assertNotIn("hinges/canopy", parts)


class MinutesTest(TestCase):
    def test_any_minute_on_any_boat_is_answered_finitely(self):
        draw = np.random.default_rng(5)
        for design in OrderTest().boats():
            for _ in range(2):
                at = datetime.fromisoformat("2027-01-01T00:00:00+00:00") + timedelta(
                    minutes=int(draw.integers(525_000))
                )
                picture = fitout_picture(design, at=at, heading_deg=float(draw.uniform(0, 360)))
                text = picture.model_dump_json()
                self.assertNotIn("NaN", text)
                self.assertNotIn("Infinity", text)
                self.assertEqual(len(picture.cells), 3)

    def test_a_shaded_string_is_expected_to_give_less(self):
        """The boom over the roof of the demo catamaran."""
        design = demo("fulmar")
        box = next(one for one in inputs_of(design) if one.circuits[0].name == "Foredeck")
        noon = usual_now(design)
        each = [expected_in(design, box, replace(noon, heading_deg=h)).pv_w for h in range(0, 360, 30)]
        self.assertLess(min(each), 0.8 * max(each))

    def test_panels_put_away_are_expected_to_give_nothing_and_say_so(self):
        document = json.loads((DEMO / "whimbrel.json").read_text())
        for place in document["places"]:
            place.setdefault("stands", {})[document["plan"].get("state", "under_way")] = {"how": "folded"}
        design = design_from(document)
        self.assertIsNone(expected_of(design, inputs_of(design)[0].circuits[0], usual_now(design), 1))
        self.assertTrue(all(gauge.away for gauge in fitout_picture(design).gauges))

    def test_minutes_out_of_reach_are_refused(self):
        for at in ("0001-01-01T00:00:00", "9999-12-31T23:59:00"):
            with self.assertRaises((ParhelionError, ValidationError)):
                records({"kind": "tick", "item": "x", "at": at + "+00:00"})
        noon = fitout_picture(demo(), at=datetime.fromisoformat("2027-06-13T13:03:00"))
        self.assertEqual(noon.minute.at.utcoffset(), timedelta(hours=2))  # by the boat's own clock
        self.assertIsInstance(usual_now(demo()), Now)


class RecordsTest(TestCase):
    def test_a_file_of_records_comes_back_as_it_was_and_others_are_refused(self):
        held = read_records((DEMO / "whimbrel.records.json").read_bytes())
        self.assertEqual(read_records(written_records(held)), held)
        for text in (b"", b"[]", b'{"schema_name": "parhelion.boat"}', b"\xff\xfe", b"[" * 100_000,
                     b'{"schema_name": "parhelion.records", "records": [{"kind": "song"}]}'):  # fmt: skip
            with self.assertRaises(UnreadableFile):
                read_records(text)

    def test_the_demo_yacht_is_half_built(self):
        held = read_records((DEMO / "whimbrel.records.json").read_bytes())
        picture = fitout_picture(read_boat((DEMO / "whimbrel.json").read_bytes()), held)
        self.assertEqual(picture.next_step, "strings/canopy-panels")
        self.assertEqual([test.verdict for test in picture.tests], ["substring_shorted", "as_labelled"])
        self.assertEqual(picture.gone, [])
        self.assertTrue((REFERENCES / "fitout.json").is_file())
