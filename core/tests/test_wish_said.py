"""What the Wish says: nearest wishes, what turns it, what keeps panels off, what is unclear, every zero's cause."""

from __future__ import annotations

import json
import random
import unittest
from datetime import date

import numpy as np
from parhelion.begin.known import Known
from parhelion.begin.new_boat import new_boat
from parhelion.data import places
from parhelion.design import BoatDesign, PanelModel
from parhelion.design.wish import Ask, MonthName, Weekday, Wish
from parhelion.formats.module_table import read_panel_list
from parhelion.formats.parts_list import read_part_list
from parhelion.hull.demand import demand_curve
from parhelion.market.parts import motor_offer
from parhelion.market.refits import refit_cost
from parhelion.stations.wish.between import between
from parhelion.stations.wish.findings import wish_findings
from parhelion.stations.wish.front import WishFront, first_front, wish_front
from parhelion.stations.wish.picture import wish_picture
from parhelion.stations.wish.search import FARTHER, have_of

from tests.cases import boat
from tests.wishes import DEMO, TRIP, demo, small_world, wished


class SaidTest(unittest.TestCase):
    def front(self, ask: Ask, **binds: object) -> tuple[BoatDesign, WishFront]:
        design = wished(demo("whimbrel"), ask, **binds)
        return design, first_front(design)

    def test_an_impossible_wish_is_bent_to_possible_ones(self):
        design, front = self.front(Ask(id="a", distance_m=80_000, speed_mps=2.6), coins=600)
        self.assertFalse(any(p.does and p.within for p in front.points))
        near = {item.key: item for item in front.near}
        self.assertGreaterEqual(set(near), {"shorter", "slower"})
        for key in ("shorter", "slower"):
            bent = first_front(design.changed(wish=near[key].wish))
            with self.subTest(key):
                self.assertTrue(any(p.does and p.within for p in bent.points))
        self.assertIn(front.turn.key, ("money", "room"))
        _, rich = self.front(Ask(id="a", distance_m=55_560, speed_mps=2.57), coins=1_600)
        self.assertEqual(rich.turn.key, "money")
        self.assertIn("money", {item.key for item in rich.near})
        _, fast = self.front(Ask(id="a", distance_m=20_000, speed_mps=9.0), coins=900)
        self.assertIn(fast.turn.key, ("motor", "room"))

    def test_several_wishes_have_nearest_ones_too(self):
        base = demo("whimbrel")
        span = {"first_month": "mar", "last_month": "sep"}
        days = Ask(id="a", distance_m=55_000, speed_mps=2.4, **span)
        night = Ask(id="b", kind="night", hours=4, speed_mps=1.6, weekdays=["tue"], **span)
        for asks, missing in (
            ((days, night), set()),
            ((days, night.model_copy(update={"hours": 6})), {"surely"}),
        ):
            design = wished(base, *asks, coins=0)
            near = {item.key: item for item in first_front(design).near}
            self.assertGreaterEqual(set(near), set() if missing else {"months", "surely"})
            self.assertFalse(missing & set(near))  # no sureness makes a night longer
            for key in {"months", "surely", "shorter"} & set(near):
                with self.subTest(key):
                    bent = first_front(design.changed(wish=near[key].wish))
                    self.assertTrue(any(p.does and p.within for p in bent.points))

    def test_what_the_choice_hangs_on(self):
        design = small_world()
        self.assertEqual(first_front(design).assumptions, [])  # they are worked out with the whole
        front = wish_front(design)
        self.assertGreaterEqual({item.key for item in front.assumptions}, {"draws", "sun"})
        reaches = [float(item.reach.value) for item in front.assumptions]
        self.assertEqual(reaches, sorted(reaches))
        cheapest = next(point for point in front.points if point.does)
        self.assertLess(reaches[0], float(cheapest.reach.value))
        marks = {mark for point in front.points for mark in point.marks}
        self.assertGreaterEqual(marks, {"cheapest", "money"})

    def test_what_keeps_panels_off_her_is_told_and_that_no_more_was_asked(self):
        """Three panels in the shed of a small rowing boat: her stiffness, her boxes, her weight by turns."""
        known = Known(hull_type="rowing_boat", overall_m=3.7, people=2, date="2027-06-15", panels="none",
                      site=demo("whimbrel").site)  # fmt: skip
        binds = {"coins": 800, "owned": [{"id": "o", "count": 3, "nameplate_w": 120}]}
        ask = Ask(id="a", distance_m=150_000, speed_mps=2.0)
        for key, more in (
            ("stiffness", {"stiffness_frac": 0.05}),
            ("boxes", {"stiffness_frac": 0.5, "most_boxes": 1}),
            ("weight", {"stiffness_frac": 0.5, "added_kg": 6}),
        ):
            with self.subTest(key):
                found = first_front(wished(new_boat(known), ask, **binds, **more))
                self.assertEqual(found.turn.key, key)
                self.assertNotIn(found.turn.told, found.told)  # told once
                self.assertIn("The money would buy", found.turn.told.text)
                self.assertGreater(float(found.turn.told.slots["a"].value), found.points[0].watts)
        free = first_front(wished(new_boat(known), ask, **binds, stiffness_frac=1))
        self.assertEqual(free.turn.key, "room")
        short = Ask(id="a", distance_m=200, speed_mps=1.0)
        picture = wish_picture(wished(new_boat(known), short))
        self.assertEqual(picture.reaches.text, "As surely as wished she reaches {far} or more.")
        long = Ask(id="a", hours=20, kind="hours", speed_mps=0.2, first_month="jul", last_month="jul")
        picture = wish_picture(wished(new_boat(known), long, between="shore"))
        self.assertEqual(picture.reaches.text, "As surely as wished she reaches {far}, all that the day has.")

    def test_money_too_little_for_any_boat_says_so_and_her_motor_is_no_part_of_a_life_at_anchor(self):
        known = Known(
            hull_type="fin_keel_yacht", overall_m=10.5, date="2027-06-15", site=demo("whimbrel").site
        )
        yacht = new_boat(known)  # nothing counts as bought
        poor = first_front(
            wished(yacht, TRIP, coins=100, keeps_panels=False, keeps_bank=False, keeps_motor=False)
        )
        self.assertEqual((poor.points, poor.turn.key, [n.key for n in poor.near]), ([], "money", ["money"]))
        self.assertTrue(first_front(yacht.changed(wish=poor.near[0].wish)).points)
        house = {"id": "a", "kind": "house"}
        aboard = first_front(wished(yacht, Ask(**house), coins=2_000, keeps_panels=False, keeps_motor=False))
        self.assertTrue(any(point.does and point.within for point in aboard.points))

    def test_two_boats_thing_by_thing(self):
        design, front = self.front(Ask(id="a", distance_m=55_560, speed_mps=2.57), coins=2_600)
        first, last = front.points[0], front.points[-1]
        found = between(design, first.refit, last.refit)
        self.assertAlmostEqual(found.cost, last.cost - first.cost, places=3)
        self.assertGreater(len(found.differences), 1)
        self.assertAlmostEqual(float(found.second.value), float(last.reach.value), delta=400)
        gains = [abs(float(item.gained.value)) for item in found.differences]
        self.assertEqual(gains, sorted(gains, reverse=True))
        same = between(design, first.refit, first.refit)
        self.assertEqual(same.differences, [])

    def test_what_cannot_be_asked_is_said(self):
        base = boat()
        for design, text, field in (
            (base.changed(wish=Wish()), "Say first", "/wish"),
            (wished(base, TRIP, TRIP.model_copy(update={"id": "b"})), "same hours", "/wish/asks/1/weekdays"),
            (wished(base, TRIP.model_copy(update={"weekdays": ()})), "No day", "/wish/asks/0/weekdays"),
            (wished(base.changed(loads=()), Ask(id="h", kind="house")), "no house load", "/loads"),
        ):
            found = wish_picture(design)
            self.assertIn(text, found.refused.text)
            self.assertEqual(found.field, field)
            self.assertEqual(first_front(design).points, [])
        other = TRIP.model_copy(update={"id": "b", "weekdays": ("sun",)})
        self.assertIsNone(wish_picture(wished(base, TRIP, other)).refused)
        for wrong in ({"slowest_mps": 9.0}, {"surely_frac": 1.0}):
            with self.assertRaises(ValueError):
                Ask(**{**TRIP.model_dump(), **wrong})

    def test_every_zero_names_its_cause(self):
        base = boat()
        night = Ask(id="n", kind="night", hours=20, speed_mps=1.5, first_month="jun", last_month="jul")
        daily = {"weekdays": tuple(Weekday), "first_month": MonthName.DEC, "last_month": MonthName.DEC}
        for design, text in (
            (wished(base, TRIP.model_copy(update={"speed_mps": 4.0})), "motor does not give"),
            (wished(base, TRIP.model_copy(update={"speed_mps": 12.0})), "model does not reach"),
            (wished(base, TRIP.model_copy(update={"speed_mps": 0.001})), "A day has"),
            (wished(base, TRIP.model_copy(update={"kept_frac": 1.0})), "left in the bank"),
            (wished(base.changed(banks=(), links=()), TRIP), "Without a bank"),
            (
                wished(base.changed(panels=(), controllers=(), loads=()), TRIP.model_copy(update=daily)),
                "do not carry",
            ),
        ):
            found = wish_picture(design)
            with self.subTest(text):
                self.assertEqual(found.stretch, 0.0)
                self.assertIn(text, found.nothing.text)
                told = next(f for f in wish_findings(design) if f.id == "wish_not_met")
                self.assertEqual(told.detail, found.nothing)
        long = first_front(wished(base, night, coins=300))
        self.assertEqual(long.turn.key, "day")
        self.assertIn("From sunset", long.turn.told.text)
        self.assertIsNone(wish_picture(wished(base, TRIP)).nothing)

    def test_findings_fire_and_are_silent(self):
        def told(design: BoatDesign) -> set[str]:
            return {finding.id.split("/")[0] for finding in wish_findings(design)}

        base = boat()
        self.assertEqual(told(base), {"nothing_wished"})
        self.assertEqual(told(wished(base, TRIP)) - {"wish_met", "wish_not_met"}, {"only_a_drawing"})
        self.assertIn("wish_met", told(wished(base, TRIP.model_copy(update={"distance_m": 5_000}))))
        far = TRIP.model_copy(update={"distance_m": 90_000})
        self.assertIn("wish_not_met", told(wished(base, far)))
        self.assertIn("wished_too_fast", told(wished(base, TRIP.model_copy(update={"speed_mps": 8.0}))))
        self.assertIn("no_money", told(wished(base, TRIP, coins=0)))
        huge = {"id": "o", "nameplate_w": 900, "panel_width_m": 3.5, "panel_length_m": 5.5, "count": 2}
        self.assertIn("shed_does_not_fit", told(wished(base, TRIP, owned=[huge])))
        self.assertNotIn(
            "shed_does_not_fit", told(wished(base, TRIP, owned=[{"id": "o", "nameplate_w": 60}]))
        )
        self.assertIn("unclear_wish", told(wished(base, TRIP, TRIP.model_copy(update={"id": "b"}))))

    def test_strangers_boats_are_answered(self):
        """A kayak with a 12 V panel, a boat without a bank, a yacht at 48 V: each sees a front or why not."""
        said = json.loads((DEMO / "strangers.json").read_text())
        for name in list(said)[::4]:
            design = new_boat(Known(site=places()[3], date=date(2027, 7, 15), name=name, **said[name]))
            ask = Ask(id="a", distance_m=12_000, speed_mps=design.plan.speed_mps, first_month="jun",
                      last_month="jul", slowest_mps=0.7 * design.plan.speed_mps)  # fmt: skip
            front = first_front(wished(design, ask, coins=1_500))
            with self.subTest(name):
                self.assertTrue(front.points or front.turn is not None)
                self.assertTrue(all(np.isfinite(p.cost) and np.isfinite(p.stretch) for p in front.points))

    def test_own_batteries_and_motors_are_chosen_priced_and_weighed(self):
        head, lbs = "Battery;Volts;Ah;Weight (lb);Price\n", 0.45359237
        listed = "LiFePO4 100;12,8;100;24;149\nAGM 110;12;110;66;180\nOdd iron;20;50;9;80"
        units = read_part_list(head + listed, 9, 9)
        listed = 'Motor,Power (kW),Weight,Price\nLittle,1.2,14,900\nHeavy,9,88,1500\nLight,8,38,"2,500.00"\n'
        motors = read_part_list(listed, 9, 9)
        self.assertEqual((units.kind, motors.kind, motors.problems), ("batteries", "motors", []))
        self.assertAlmostEqual(units.units[1].unit_mass_kg, 24 * lbs)
        self.assertEqual([m.price for m in motors.motors], [900, 1500, 2500])
        unread = read_part_list(f"{head}Mystery;12;90;9;9\nx;y;90;9;9", 9, 9)
        self.assertEqual(
            [(p.line, "chemistry" in p.message) for p in unread.problems], [(2, True), (3, False)]
        )
        self.assertIn("thrust", read_part_list("a,b\n1,2", 9, 9).problems[0].accepted)
        base = boat()
        curve = demand_curve(base)
        fast = TRIP.model_copy(update={"distance_m": 15_000, "speed_mps": 1.1 * curve.speed_at(curve.most_w)})
        design = wished(base, fast, coins=4_000, places=("canopy",), own_units=units.units,
                        own_motors=motors.motors)  # fmt: skip
        found = first_front(design)
        chosen = [(point, point.refit.of(design)) for point in found.points]
        self.assertEqual({boat.drives[0].name for _, boat in chosen} - {"Light"}, {"Heavy"})
        self.assertTrue(any(boat.bank.unit_price == 149 for _, boat in chosen))
        have = have_of(design, design.wish)
        for point, opened in chosen:
            again = BoatDesign.model_validate(opened.model_dump(mode="json"))
            self.assertAlmostEqual(refit_cost(again, have), point.cost, places=3)
            motor_kg = {"Heavy": 88, "Light": 38}[again.drives[0].name]
            kg = motor_kg - motor_offer(base.drives[0]).mass_kg
            kg += again.banks_kg + again.panels_kg + again.frames_kg
            parts = base.banks_kg + base.panels_kg + base.frames_kg
            self.assertAlmostEqual(again.displacement_kg, base.displacement_kg + kg - parts, places=3)
        told = {finding.id: finding for finding in wish_findings(design)}
        self.assertEqual(float(told["own_batteries"].title.slots["n"].value), 2)
        weak = wished(base, fast, own_motors=motors.motors[:1])
        self.assertIn("own_motors", {finding.id for finding in wish_findings(weak)})

    def test_a_list_of_two_thousand_panels_is_read_to_what_is_worth_choosing(self):
        head = "Name,STC,Voc,Isc,Vmp,Imp,N_s,Length,Width,Mass,Price\n"
        chance = random.Random(1)
        rows = [
            f"P{n},{w},24.5,{w / 19:.3f},20.5,{w / 20.5:.3f},36,1.5,{w / 300:.3f},{w / 18:.1f},{w * chance.uniform(0.4, 1.5):.0f}"
            for n in range(2_000) if (w := chance.choice((100, 150, 180, 200)))
        ]  # fmt: skip
        found = read_panel_list(head + "\n".join(rows) + "\nbad,x,1,1,1,1,1,1,1,1,1\n", 200)
        self.assertEqual((found.rows, found.read, found.wrong), (2_001, 2_000, 1))
        self.assertLess(len(found.panels), 40)
        cheapest = min(found.panels, key=lambda p: p.price / p.nameplate_w)
        self.assertTrue(all(isinstance(p, PanelModel) and p.price for p in found.panels))
        self.assertLess(cheapest.price / cheapest.nameplate_w, 0.42)
        self.assertLess(FARTHER, 0.01)


if __name__ == "__main__":
    unittest.main()
