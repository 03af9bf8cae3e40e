"""Facts with one home: a motor's watts and amps, ids of a list; and nothing kept that is no longer so."""

from __future__ import annotations

import json
import random
import unittest
from pathlib import Path
from unittest.mock import patch

from parhelion.balance.outlook import outlook_of
from parhelion.computing.kept import forget_all
from parhelion.design import BoatDesign
from parhelion.drive.chain import FULL_LOAD_EFFICIENCY
from parhelion.errors import ParhelionError
from parhelion.formats.boat_file import read_boat
from parhelion.market.parts import first_panel_offer, panel_offer
from parhelion.rail.held_back import held_back_by
from parhelion.rail.speeds import solve_steady
from parhelion.rail.steps import more_panels
from parhelion.stations.array.findings import array_findings
from parhelion.stations.array.picture import array_picture
from parhelion.stations.day.worths import worths_of
from parhelion.stations.passage.findings import passage_findings
from parhelion.stations.registry import STATIONS
from parhelion.stations.strings.picture import strings_picture
from parhelion.stations.year.upgrades import upgrade_steps
from parhelion.wiring.circuits import wiring_of

DEMO = Path(__file__).resolve().parents[2] / "demo"


def changed(document: dict, at: tuple[str | int, ...], times: float) -> dict:
    """A copy with one number so many times as large."""
    made = json.loads(json.dumps(document))
    inside = made
    for step in at[:-1]:
        inside = inside[step]
    inside[at[-1]] *= times
    return made


def demo(name: str = "whimbrel") -> dict:
    return json.loads((DEMO / f"{name}.json").read_text())


def boat(document: dict) -> BoatDesign:
    return read_boat(json.dumps(document))


class MotorsTest(unittest.TestCase):
    """A 24 V bank; what the drive takes is what its cable carries and what is drawn."""

    def with_drives(self, *drives: dict) -> BoatDesign:
        document = demo()
        document["banks"] = [
            {"id": "b", "name": "Bank", "chemistry": "lfp", "unit_v": 12.8, "unit_ah": 200, "series": 2}
        ]
        document["links"] = []
        for part in ("loads", "controllers", "sources"):
            document[part] = [{**item, "bank_id": None} for item in document.get(part, [])]
        document["drives"] = list(drives)
        return boat(document)

    def seen(self, design: BoatDesign) -> list[float]:
        """Battery watts of each drive as the diagram has them; the same as its cable's amps and the limit."""
        outlook = outlook_of(design)
        motors = wiring_of(design).motor_runs
        drawn = [item.watts for item in strings_picture(outlook).consumers if item.kind == "motor"]
        volts = design.bank.nominal_v
        for watts, run, drive in zip(drawn, motors, design.drives, strict=True):
            self.assertAlmostEqual(watts, run.current_a * volts * drive.count, places=6)
        if all(drive.rating != "thrust" for drive in design.drives):  # its thrust ends it earlier under way
            self.assertAlmostEqual(outlook.rated_w, sum(drawn), places=6)
        self.assertLessEqual(outlook.rated_w, sum(drawn) + 1e-6)
        return drawn

    def test_a_shaft_rated_motor_is_cabled_for_what_the_battery_gives(self):
        (watts,) = self.seen(self.with_drives({"id": "m", "rating": "shaft", "rated_power_w": 3000}))
        self.assertAlmostEqual(watts, 3000 / FULL_LOAD_EFFICIENCY, places=6)
        self.assertGreater(watts, 3300)

    def test_a_thrust_rated_motor_is_cabled_by_its_label(self):
        thrust = {
            "id": "t",
            "rating": "thrust",
            "static_thrust_n": 245,
            "full_thrust_current_a": 30,
            "full_thrust_v": 24,
        }
        self.assertEqual(self.seen(self.with_drives(thrust)), [720.0])
        del thrust["full_thrust_current_a"]
        (guessed,) = self.seen(self.with_drives(thrust))
        self.assertGreater(guessed, 300)  # drawn by its thrust, where no amps are known

    def test_several_motors_of_each_kind_each_have_their_own_cable(self):
        drives = (
            {
                "id": "t",
                "rating": "thrust",
                "static_thrust_n": 245,
                "full_thrust_current_a": 30,
                "full_thrust_v": 24,
                "count": 2,
            },
            {"id": "s", "rating": "shaft", "rated_power_w": 2000},
            {"id": "b", "rating": "battery", "rated_power_w": 1000},
        )
        twice, shaft, battery = self.seen(self.with_drives(*drives))
        self.assertEqual((twice, battery), (1440.0, 1000.0))
        self.assertAlmostEqual(shaft, 2000 / FULL_LOAD_EFFICIENCY, places=6)
        again = self.seen(self.with_drives(*reversed(drives)))
        self.assertEqual(again, [battery, shaft, twice])

    def test_without_a_bank_the_wiring_is_drawn_all_the_same(self):
        document = demo()
        document["banks"], document["links"] = [], []
        for part in ("loads", "controllers", "sources"):
            document[part] = [{**item, "bank_id": None} for item in document.get(part, [])]
        consumers = strings_picture(outlook_of(boat(document))).consumers
        self.assertEqual([item.kind for item in consumers], ["house"])


class MarketTest(unittest.TestCase):
    """One more of the same panel costs and weighs the same wherever it is offered; its own price comes first."""

    def offers(self, own: dict) -> tuple[set[float], set[float]]:
        document = demo("whimbrel")
        document["panels"] = [{**document["panels"][0], "price": None, "mass_kg": None, **own}]
        document["plan"]["budget"] = {"coins": 2000}
        outlook = outlook_of(boat(document))
        held = next(
            item
            for item in held_back_by(outlook, "cruiser", solve_steady(outlook)).steps
            if item.key == "panel"
        )
        worth = next((item for item in worths_of(outlook).steps if item.key == "panel"), held)
        bought = [item for item in upgrade_steps(outlook).steps if item.kind == "panel"] or [held]
        offer = panel_offer(outlook.design.panels[0])
        each, _ = more_panels(outlook.design)  # whole strings
        costs = {held.cost / each, worth.cost / each, bought[0].cost, offer.price}
        return {round(cost, 6) for cost in costs}, {
            round(kg, 6) for kg in (held.mass_kg / each, bought[0].mass_kg, offer.mass_kg)
        }

    def test_a_panel_has_one_price_and_one_mass(self):
        for own in ({}, {"price": 333.0}, {"price": 0.0, "mass_kg": 9.0}):
            costs, masses = self.offers(own)
            self.assertEqual((len(costs), len(masses)), (1, 1), (own, costs, masses))

    def test_a_boat_without_panels_is_offered_a_first_one_at_one_price(self):
        document = demo("whimbrel")
        document["panels"], document["controllers"], document["places"] = [], [], []
        document["strings"] = []
        outlook = outlook_of(boat(document))
        held = next(
            item
            for item in held_back_by(outlook, "no_panels", solve_steady(outlook)).steps
            if item.key == "panel"
        )
        self.assertEqual((held.cost, held.mass_kg), first_panel_offer(200.0))


class IdsTest(unittest.TestCase):
    def test_no_list_takes_one_id_twice(self):
        document = demo()
        lists = [
            name for name, value in document.items() if isinstance(value, list) and value and "id" in value[0]
        ]
        self.assertLessEqual(
            {"drives", "banks", "loads", "places", "panels", "controllers", "obstacles"}, set(lists)
        )
        for name in lists:
            twice = {**document, name: [*document[name], document[name][0]]}
            with self.assertRaises(ParhelionError, msg=name) as refused:
                boat(twice)
            self.assertIn("share one id", refused.exception.problems[0].message)
        tree = {"id": "t", "from_deg": 10, "to_deg": 20, "height_m": 5, "distance_m": 40}
        document["site"]["skyline"] = [tree, tree]
        with self.assertRaises(ParhelionError):
            boat(document)


class UntouchedTest(unittest.TestCase):
    def test_what_no_panel_sees_lays_no_sun_on_the_way_and_draws_no_deck(self):
        """Loads, mass, speed and the size of the bank; a panel's watts are another matter, and do."""
        forget_all()  # what another test asked of this boat may be kept in part
        document = demo()
        design = boat(document)
        drawn = array_picture(outlook_of(design))
        self.assertTrue(passage_findings(design) and array_findings(outlook_of(design)))
        for at in (
            ("loads", 0, "power_w"),
            ("loading", "boat_kg"),
            ("plan", "speed_mps"),
            ("banks", 0, "unit_ah"),
        ):
            with (
                self.subTest(at),
                patch("parhelion.balance.way_sun.harvest", side_effect=AssertionError("laid again")),
                patch("parhelion.stations.array.picture.outlines", side_effect=AssertionError("drawn again")),
                patch(
                    "parhelion.stations.array.burden.face_shares", side_effect=AssertionError("seen again")
                ),
            ):
                other = boat(changed(document, at, 1.03))
                self.assertEqual(array_picture(outlook_of(other)), drawn)
                self.assertTrue(passage_findings(other) and array_findings(outlook_of(other)))
        larger = boat(changed(document, ("panels", 0, "nameplate_w"), 1.03))
        self.assertGreater(array_picture(outlook_of(larger)).day_wh, drawn.day_wh)


class StaleTest(unittest.TestCase):
    """Random edits, one after the other: every study that is kept against one that knows nothing yet."""

    EDITS = (
        ("obstacles", 0, "foot", "x_m"), ("obstacles", 0, "radius_m"), ("places", 1, "at", "z_m"), ("places", 0, "tilt_deg"), ("panels", 0, "count"),
        ("controllers", 0, "efficiency"), ("loads", 0, "power_w"), ("hull", "displacement_kg"), ("plan", "speed_mps"),
        ("plan", "heading_deg"), ("banks", 0, "unit_ah"), ("drives", 0, "rated_power_w"), ("site", "latitude_deg"),
        ("places", 1, "tended"), ("plan", "state"), ("wiring", "coldest_c"), ("panels", 1, "series"), ("plan", "sky"),
    )  # fmt: skip
    WORDS = {
        "tended": ("left", "thrice", "followed"),
        "state": ("under_way", "anchored", "dock"),
        "sky": ("clear", "broken", "overcast"),
    }

    def edited(self, document: dict, chance: random.Random) -> dict:
        changed = json.loads(json.dumps(document))
        *way, last = chance.choice(self.EDITS)
        node = changed
        for part in way:
            node = node[part]
        old = node.get(last)
        if last in self.WORDS:
            node[last] = chance.choice(self.WORDS[last])
        elif last in ("count", "series"):
            node[last] = chance.choice((1, 2))
        elif last == "efficiency":
            node[last] = chance.choice((0.9, 0.96, 0.98))
        else:
            node[last] = round((old or 10.0) * chance.choice((0.95, 1.04, 1.1)) + 0.01, 3)
        return changed

    @staticmethod
    def answers(design: BoatDesign) -> dict[str, str]:
        found = {}
        for station in STATIONS:
            for study in station.studies:
                if study.name in ("next", "tilt", "pace", "ahead", "whole", "first", "between"):
                    continue  # each many seconds, made of what the others are made of
                if any(begins is ... for _, begins in study.signature.asked.values()):
                    continue  # about more than the design
                answer = study.about(design)
                found[f"{station.name}/{study.name}"] = (
                    "null"
                    if answer is None
                    else answer.model_dump_json()
                    if hasattr(answer, "model_dump_json")
                    else repr(answer)
                )
            found[f"{station.name} tells"] = repr([item.model_dump() for item in station.told(design)])
        return found

    def test_nothing_kept_is_stale(self):
        chance = random.Random(12)
        document = demo()
        designs = []
        while len(designs) < 6:
            try:
                changed = self.edited(document, chance)
                designs.append(boat(changed))
                document = changed
            except ParhelionError:
                continue
        kept = [self.answers(design) for design in designs]
        for design, before in zip(designs[-2:], kept[-2:], strict=True):
            forget_all()
            self.assertEqual(self.answers(design), before)
