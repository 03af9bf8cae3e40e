"""The practical steps: lithium for lead, a propeller that suits, a stronger motor; and the rack ashore."""

from __future__ import annotations

import re
import unittest

from parhelion.balance.outlook import outlook_of, shown_outlook
from parhelion.bank.store import energy_wh
from parhelion.design import Bank, BoatDesign, PlaceKind, Stands
from parhelion.design.chemistries import CHEMICALS, Chemistry
from parhelion.formats.plain import told
from parhelion.market.fittings import fitting_offer
from parhelion.market.parts import bank_price, motor_offer
from parhelion.rail.answers import answers_for
from parhelion.rail.held_back import miles_m
from parhelion.rail.steps import better_screw, lithium_of, with_better_screw, with_stronger_drive
from parhelion.stations.day.ways import ways_of
from parhelion.stations.day.worths import worths_of
from parhelion.stations.registry import BY_NAME
from parhelion.stations.strings.propose import propose
from parhelion.stations.year.compare import compare
from parhelion.stations.year.upgrades import upgrade_steps
from parhelion.stations.year.worth import worth

from tests.cases import boat, findings_of
from tests.test_drive import driven

LEAD = {
    "banks": [{"id": "bank", "name": "Bank", "chemistry": "agm", "unit_v": 12, "unit_ah": 90, "series": 2}]
}
ASHORE = {
    "places__0__kind": "shore",
    "places__0__stands": {"under_way": {"how": "gone"}},
    "use": "home_charged",
}
RACK = {"kind": PlaceKind.SHORE, "stands": Stands.model_validate({"under_way": {"how": "gone"}})}


def step_of(design: BoatDesign, key: str):
    held = answers_for(design).held_back_by
    return next((step for step in held.steps if step.key == key), None)


class ChemistryTest(unittest.TestCase):
    def test_lithium_keeps_the_volts_of_its_class_and_the_amp_hours(self):
        for volts, series, kept in (
            (12, 1, 12.8),
            (12, 2, 25.6),
            (6, 4, 25.6),
            (2, 24, 51.2),
            (6, 1, 6.4),
            (12, 3, 38.4),
        ):
            old = Bank(
                id="b", chemistry="gel", unit_v=volts, unit_ah=80, series=series, parallel=2, age_years=9
            )
            new = lithium_of(old)
            self.assertAlmostEqual(new.nominal_v, kept)
            self.assertAlmostEqual(new.capacity_ah, old.capacity_ah)
            self.assertEqual((new.chemistry, new.age_years, new.id), (Chemistry.LFP, 0, "b"))
            self.assertLess(new.mass, old.mass)

    def test_the_step_is_a_boat_solved_again_paid_and_weighed_on_every_page(self):
        design = boat(**LEAD, plan__budget={"coins": 3_000})
        base = outlook_of(design)
        found = step_of(design, "chemistry")
        other = design.changed(banks=(lithium_of(design.banks[0]),))
        kg = other.banks[0].mass - design.banks[0].mass
        trial = shown_outlook(other, base, design.displacement_kg + kg)
        gained = miles_m(trial, "days_run_sun") - answers_for(design).days_run_sun.distance_m
        self.assertAlmostEqual(found.gain_m, gained, delta=1)
        self.assertEqual((found.cost, found.mass_kg), (bank_price(other.banks[0]), kg))
        priced = next(step for step in worths_of(base).steps if step.key == "chemistry")
        self.assertEqual((priced.cost, priced.mass_kg), (found.cost, found.mass_kg))
        self.assertGreater(priced.gain_m, 0)
        self.assertIsNone(step_of(boat(), "chemistry"))  # lithium already

    def test_the_ladder_buys_more_of_the_new_bank_never_of_the_old_one_before_it(self):
        """No cheaper way round: a boat that ends with lithium has paid for no lead that it throws away."""
        design = boat(**LEAD, loads__0__power_w=90, plan__budget={"coins": 6_000, "owned_units": 2})
        found = upgrade_steps(outlook_of(design))
        kinds = [step.kind for step in found.steps]
        self.assertIn("chemistry", kinds)
        self.assertNotIn("battery", kinds[: kinds.index("chemistry")])
        self.assertFalse(any(step.owned for step in found.steps if step.kind == "battery"))
        made = BoatDesign.model_validate(found.refit.of(design).model_dump())
        self.assertTrue(CHEMICALS[made.bank.chemistry].lithium)
        self.assertAlmostEqual(made.displacement_kg, design.displacement_kg + found.mass_kg, delta=0.01)


class MotorStepsTest(unittest.TestCase):
    def test_the_propeller_that_the_hull_page_names_is_the_step_the_rail_and_the_ladder_take(self):
        design = driven(motor={"kv_rpm_per_v": 60, "no_load_current_a": 4.5, "current_limit_a": 150})
        base = outlook_of(design)
        named = better_screw(base)
        step, made = step_of(design, "propeller"), with_better_screw(base)
        self.assertGreater(step.gain_m, 0)
        self.assertEqual(step.cost, fitting_offer("propeller").price)
        self.assertEqual(made.design.drives[0].propeller.pitch_m, named.pitch_m)
        title = next(f for f in findings_of("hull", design) if f.id == "better_match").title
        self.assertAlmostEqual(title.slots["p"].value, named.pitch_m)
        again = better_screw(outlook_of(made.design))  # one that suits is not changed again
        self.assertLess(again.saved_frac, 0.02)
        rich = design.changed(plan=design.plan.model_copy(update={"budget": design.plan.budget.model_copy(
            update={"coins": 4_000})}))  # fmt: skip
        kinds = {found.kind for found in upgrade_steps(outlook_of(rich)).steps}
        self.assertTrue("propeller" in kinds)
        self.assertFalse({"propeller", "drive"} <= kinds)  # a new motor brings its own

    def test_a_stronger_motor_is_paid_whole_and_weighs_more(self):
        design = boat(drives__0__rated_power_w=300, drives__0__price=50, drives__0__mass_kg=4)
        step = step_of(design, "drive")
        self.assertIsNotNone(step)
        larger = design.drives[0].model_copy(update={"rated_power_w": 330.0, "price": None, "mass_kg": None})
        self.assertAlmostEqual(step.cost, design.drives[0].count * motor_offer(larger).price)
        self.assertGreater(step.mass_kg, 0)
        two = with_stronger_drive(boat(drives__0__rating="thrust", drives__0__static_thrust_n=200))
        self.assertAlmostEqual(two.design.drives[0].static_thrust_n, 220)

    def test_side_by_side_another_motor_costs_what_it_costs(self):
        plain = boat()
        drive = plain.drives[0].model_copy(update={"price": motor_offer(plain.drives[0]).price + 250})
        found = compare([("as designed", plain), ("dearer motor", plain.changed(drives=(drive,)))])
        price = next(line for line in found.lines if line.key == "price")
        self.assertAlmostEqual(price.values[1].value - price.values[0].value, 250 * drive.count)


class RackAshoreTest(unittest.TestCase):
    def test_a_rack_ashore_is_no_zero(self):
        design = boat(**ASHORE, plan__speed_mps=1.5, loads=[])
        found = answers_for(design)
        cells = {cell.key: cell for cell in found.rail}
        self.assertNotIn("sun_share", cells)
        outlook, day = outlook_of(design), found.dock_day
        stored = energy_wh(day.soc_frac, outlook.store) - energy_wh(outlook.store.reserve, outlook.store)
        by_hand = stored / outlook.plan_power_w * outlook.plan_speed_mps * 3600
        self.assertAlmostEqual(
            day.distance_m / by_hand, 1, delta=0.05
        )  # less what the bank's resistance takes
        self.assertIsNotNone(found.held_back_by.step)  # a charge has its own limits
        told_of = {finding.id for finding in findings_of("day", design)}
        self.assertIn("dock_alone", told_of)
        self.assertNotIn("no_harvest", told_of)
        self.assertNotIn(
            "adds_up", {finding.id for finding in findings_of("array", design)}
        )  # no "0 % of nameplate"
        says = worth(outlook_of(design))
        self.assertFalse(any("No sun" in told(line) for line in says.says))
        best = propose(outlook).proposals[0]  # wired by what it gives where it gives
        self.assertGreater(best.day_wh, 0.8 * day.harvest_wh)
        self.assertIsNone(answers_for(boat(use="home_charged")).dock_day)

    def test_a_controller_that_only_draws_is_still_chosen_by_its_price(self):
        """Beside panels aboard, one ashore brings nothing under way: what is left is the boxes' own draw."""
        aboard = boat()
        ashore = aboard.places[0].model_copy(update={"id": "rack", "name": "Rack", **RACK})
        more = aboard.panels[0].model_copy(update={"id": "more", "place_id": "rack", "controller_id": "rack"})
        box = aboard.controllers[0].model_copy(update={"id": "rack", "name": "Rack controller"})
        design = aboard.changed(places=(*aboard.places, ashore), panels=(*aboard.panels, more),
                                controllers=(*aboard.controllers, box))  # fmt: skip
        found = propose(outlook_of(design))
        self.assertTrue(found.proposals)
        self.assertEqual(found.unwired, [])


class NoWayTest(unittest.TestCase):
    def test_what_leaves_no_way_on_the_sun_is_what_holds_her_back(self):
        """Not "nothing: go slower or longer", and no house takes a sun that does not rise."""
        polar = {"site__latitude_deg": 78.0, "plan__date": "2027-01-05", "loads": []}
        thirsty = {"loads__0__power_w": 2000, "loads__0__hours_per_day": 24}
        dim = {"panels__0__nameplate_w": 3.0, "loads": [], "drives__0__idle_power_w": 40.0}
        held = driven().changed(
            plan=boat(plan__wind_mps=36.0, plan__wind_angle_deg=0.0).plan, loads=boat(loads=[]).loads
        )
        home = {**polar, "use": "home_charged"}
        for design, value, said in (
            (
                boat(**home, plan__start_charge_frac=0.1, plan__sky="rain"),
                "the bank's charge",
                "starts at its",
            ),
            (boat(**thirsty), "the house", "The house takes all"),
            (boat(**polar), "too little sun", "No sun reaches"),
            (boat(**polar, plan__current_mps=-0.3), "too little sun", "No sun reaches"),
            (
                boat(**home, plan__start_charge_frac=0.1, plan__current_mps=-0.3),
                "the bank's charge",
                "starts at",
            ),
            (boat(**polar, plan__spells=None), "too little sun", "The sun does not rise"),
            (boat(**dim), "too little sun", "idle draw"),
            (boat(**thirsty, banks=[], links=[]), "the house", "The house takes all"),
            (held, "wind and waves", "hold against the wind"),
        ):
            with self.subTest(said):
                found = answers_for(design)
                cell = next(c for c in found.rail if c.key == "held_back_by")
                self.assertEqual((cell.value.value, cell.lines), (value, []))
                self.assertIn(said, told(cell.reason))
                self.assertIn(said, told(found.rail[0].reason))
        for design in (held, boat(plan__current_mps=-3.0), boat(**polar, banks=[], links=[])):
            titles = [
                told(f.title) for name in ("hull", "strings", "day") for f in BY_NAME[name].told(design)
            ]
            self.assertEqual([t for t in titles if re.search(r"(?<!\d)0\.0 (kn|nm)", t)], [])
        dark = answers_for(boat(**home))
        self.assertIn("No sun reaches", told(dark.sun_share.reason))
        self.assertIn(
            "No sun reaches",
            told(
                answers_for(
                    boat(**{k: v for k, v in {**polar, **thirsty}.items() if k != "loads"})
                ).refill.reason
            ),
        )


class StreamTest(unittest.TestCase):
    def test_the_pace_the_steps_and_the_comparison_go_over_the_ground(self):
        """Steady ways are carried as long as they run, a sprint half as long; a foul stream costs as much."""
        for stream in (0.5, -0.5):
            still, moved = boat(), boat(plan__current_mps=stream)
            outlook = outlook_of(moved)
            ways = {way.key: way for way in ways_of(outlook).ways}
            carried = stream * outlook.hours * 3600
            for key, share in (("constant", 1.0), ("sprint", 0.5)):
                apart = ways[key].ground_m - ways[key].distance_m
                self.assertAlmostEqual(apart / carried, share, delta=0.06, msg=key)
            self.assertTrue(all(way.ground_m is None for way in ways_of(outlook_of(still)).ways))
            before, after = (
                next(step for step in worths_of(outlook_of(design)).steps if step.key == "hours")
                for design in (still, moved)
            )
            self.assertAlmostEqual(after.gain_m - before.gain_m, stream * 3600, delta=1)
            lines = {line.key: line for line in compare([("still", still), ("moved", moved)]).lines}
            rail = answers_for(moved)
            self.assertEqual(lines["run"].values[1].value, rail.days_run_sun.ground_m)
            self.assertIn("through the water", lines["year"].label)
            self.assertEqual(lines["year"].values[0], lines["year"].values[1])


if __name__ == "__main__":
    unittest.main()
