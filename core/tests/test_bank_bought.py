"""A bank as it was bought: volts and amp-hours, the voltmeter, age, sizes, and sums people get wrong."""

from __future__ import annotations

import math
import unittest
from itertools import pairwise

import numpy as np
from hypothesis import given
from hypothesis import strategies as st
from parhelion.balance.outlook import outlook_of
from parhelion.bank.age import cycles_at, health_of, years_of
from parhelion.bank.store import LABEL_HOURS, deliverable_w, discharge, drawn_a, store_of
from parhelion.bank.tape import blind_span, rest_volts, tape_volts
from parhelion.bank.trim import stern_sinks_m
from parhelion.design import Bank
from parhelion.rail.stores import hours_at
from parhelion.stations.bank.sizing import FINE_LN, LARGEST, SMALLEST, SizingAsk, sizes, smallest_size

from tests.cases import boat, cases, picture


def bank(**changes) -> Bank:
    return Bank(**{"id": "b", "unit_v": 12.8, "unit_ah": 100, **changes})


class BoughtTest(unittest.TestCase):
    def test_series_adds_volts_and_parallel_adds_amp_hours(self):
        made = bank(series=4, parallel=2, unit_mass_kg=11)
        self.assertEqual((made.nominal_v, made.capacity_ah, made.units), (51.2, 200, 8))
        self.assertAlmostEqual(made.nominal_wh, 8 * 12.8 * 100)
        self.assertEqual((made.mass, made.cells), (88, 16))

    def test_the_weakest_unit_sets_a_series(self):
        self.assertEqual(bank(series=2, smallest_unit_ah=80).capacity_ah, 80)
        self.assertEqual(bank(series=2, parallel=2, smallest_unit_ah=80).capacity_ah, 160)
        self.assertEqual(bank(parallel=2, smallest_unit_ah=80).capacity_ah, 180)

    def test_the_bank_for_some_hours_by_hand(self):
        case = cases("energy")["hand.bank"]
        i = case["inputs"]
        used = i["a"] * i["h"]
        made = bank(unit_v=i["v"], unit_ah=used / i["dod"], usable_depth_frac=i["dod"])
        self.assertAlmostEqual(made.capacity_ah, case["expected"]["ah_bank"])
        self.assertAlmostEqual(made.nominal_wh * made.depth, case["expected"]["wh_used"])


class PeukertTest(unittest.TestCase):
    def test_hours_by_the_published_law(self):
        i, expected = cases("energy")["bat.peukert"]["inputs"], cases("energy")["bat.peukert"]["expected"]
        store = store_of(bank(chemistry="flooded", unit_v=12, unit_ah=i["C20"]), 25.0)._replace(
            peukert=i["k"]
        )
        self.assertAlmostEqual(i["C20"] / drawn_a(i["A"], store), expected["h"], places=9)
        self.assertEqual(drawn_a(i["C20"] / LABEL_HOURS, store), i["C20"] / LABEL_HOURS)
        case = cases("energy")["hand.peukert"]
        store = store_of(bank(chemistry="flooded", unit_v=12, unit_ah=case["inputs"]["ah"]), 25.0)
        store = store._replace(peukert=case["inputs"]["k"])
        self.assertAlmostEqual(
            case["inputs"]["ah"] / drawn_a(case["inputs"]["a"], store), case["expected"]["h"]
        )

    def test_what_can_be_delivered_leads_to_the_floor_however_fast(self):
        store = store_of(bank(chemistry="flooded", unit_v=12, unit_ah=100), 25.0)
        for gap in (0.002, 0.02, 0.08):
            power = deliverable_w(0.5 + gap, 0.5, 1 / 6, store)
            self.assertAlmostEqual(discharge(0.5 + gap, power, 1 / 6, store)[0], 0.5, places=7)


class TapeTest(unittest.TestCase):
    def test_volts_rise_with_charge_and_the_makers_own_come_first(self):
        for chemistry in ("lfp", "nmc", "agm", "flooded", "gel"):
            volts = rest_volts(bank(chemistry=chemistry), np.linspace(0, 1, 101))
            self.assertTrue(np.all(np.diff(volts) > 0), chemistry)
        own = bank(full_v=13.9, empty_v=11.0)
        np.testing.assert_allclose(rest_volts(own, [0, 1]), [11.0, 13.9])
        marks = {name: volts for name, _, volts in tape_volts(bank(series=2, cut_out_v=20.0))}
        self.assertEqual(marks["cuts out, under load"], 20.0)
        self.assertTrue(marks["usable end"] < marks["reserve"] < marks["full"])

    def test_volts_are_blind_in_the_flat_middle_of_lfp_alone(self):
        low, high = blind_span(bank())
        self.assertTrue(0.2 < low < 0.5 and 0.8 < high < 0.97, (low, high))
        for chemistry in ("nmc", "agm", "flooded"):
            self.assertIsNone(blind_span(bank(chemistry=chemistry, unit_v=12)))


class AgeTest(unittest.TestCase):
    def test_cycles_fall_with_depth_by_the_stated_power(self):
        self.assertAlmostEqual(cycles_at(bank(), 0.8), 4000)
        self.assertAlmostEqual(cycles_at(bank(), 0.4), 4000 * 2**1.1)
        self.assertAlmostEqual(cycles_at(bank(chemistry="agm"), 0.25), 600 * 2**1.2)

    def test_health_and_years(self):
        self.assertEqual(health_of(bank()), 1.0)
        self.assertAlmostEqual(health_of(bank(cycles_used=4000)), 0.8)
        self.assertEqual(health_of(bank(cycles_used=4000, health_frac=0.9)), 0.9)
        self.assertGreater(years_of(bank(), 0.3, 120), years_of(bank(), 0.8, 120))
        self.assertLess(years_of(bank(chemistry="agm"), 0.8, 120), years_of(bank(chemistry="agm"), 0.4, 120))
        old = store_of(bank(health_frac=0.7), 25.0)
        self.assertAlmostEqual(old.capacity_ah, 70.0)


class TrimTest(unittest.TestCase):
    def test_a_box_trims_by_its_closed_form(self):
        """A box barge: moment / (displacement x L²/12 / T), half a length from amidships."""
        design = boat(
            hull__waterplane_coefficient=1.0, hull__prismatic_coefficient=0.94, hull__midship_coefficient=1.0
        )
        draught = design.displacement_kg / design.water_density_kg_per_m3 / (6.7 * 1.62)
        box = 100 * 2.0 / (design.displacement_kg * 6.7**2 / 12 / draught) * 6.7 / 2
        self.assertAlmostEqual(stern_sinks_m(design, 100.0, -2.0) / box, 11.7 / 12, delta=1e-3)
        self.assertLess(stern_sinks_m(design, 100.0, 2.0), 0)


class SizingTest(unittest.TestCase):
    @given(st.floats(-6.0, 7.0), st.floats(0.0, 600.0))
    def test_the_smallest_that_does_is_found_from_any_guess(self, threshold_ln, guess):
        """Also from none, from beyond the ends, and where every size does or none."""
        least = math.exp(threshold_ln)
        found = smallest_size(lambda size: size >= least, guess)
        if least > LARGEST:
            self.assertIsNone(found)
        elif least <= SMALLEST:
            self.assertEqual(found, SMALLEST)
        else:
            self.assertGreaterEqual(found, least * (1 - 1e-12))
            self.assertLessEqual(found, least * math.exp(FINE_LN) * (1 + 1e-12))

    def test_a_bank_of_that_size_lasts_those_hours(self):
        """Built into the boat at its mass, the answer lasts just as long as was asked."""
        design = boat(loads=[], hull__displacement_kg=None, loading={"boat_kg": 900})
        size = next(
            s for s in sizes(outlook_of(design), SizingAsk(hours=5, speed_mps=2.2)) if s.key == "hours"
        )
        old = design.banks[0]
        larger = {"unit_ah": old.unit_ah * size.of_present, "unit_mass_kg": old.mass * size.of_present}
        outlook = outlook_of(design.changed(banks=(old.model_copy(update=larger),)))
        watts = float(outlook.curve.power_at(2.2))
        self.assertAlmostEqual(hours_at(outlook, watts, np.zeros((144, 2)), 1.0), 5.0, delta=0.03)

    def test_more_asked_never_takes_less(self):
        outlook = outlook_of(boat(plan__sky="overcast"))
        needed = [
            [s.energy_wh for s in sizes(outlook, SizingAsk(hours=h, speed_mps=v, grey_days=d))]
            for h, v, d in ((2, 1.8, 1), (4, 1.8, 4), (4, 2.2, 4))
        ]
        for less, more in pairwise(needed):
            self.assertTrue(
                all(b is None or a is None or b >= a - 1e-6 for a, b in zip(less, more, strict=True))
            )
        fast = sizes(outlook, SizingAsk(speed_mps=3.4))[0]
        self.assertIsNone(fast.energy_wh)
        self.assertIn("drive", fast.reason.text)

    def test_the_midsummer_night_that_is_none(self):
        polar = boat(site__latitude_deg=72.0)
        night = next(s for s in sizes(outlook_of(polar), SizingAsk()) if s.key == "night")
        self.assertIn("does not set", night.reason.text)

    def test_the_picture_adds_up(self):
        drawn = picture("bank", boat())
        tank = drawn.tanks[0]
        self.assertAlmostEqual(sum(t.energy_wh for t in drawn.takes if t.kind != "motor"), drawn.house_wh)
        self.assertTrue(tank.working_wh < tank.usable_wh < tank.held_wh <= tank.nominal_wh)
        hours = [row.hours for row in drawn.speeds if row.hours is not None]
        self.assertEqual(hours, sorted(hours, reverse=True))
        self.assertEqual(picture("bank", boat(banks=[])).tanks, [])
