"""Resistance, the formula and the demand curve against published cases, closed forms and laws."""

from __future__ import annotations

import unittest

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from parhelion.design.hull import hull_speed_mps
from parhelion.design.hulltypes import TYPICAL, HullType
from parhelion.hull import formula
from parhelion.hull.demand import demand_curve
from parhelion.hull.friction import friction_coefficient
from parhelion.hull.holtrop import HoltropHull, calm_resistance, run_length_m, run_share
from parhelion.hull.resistance import range_warnings, service_resistance
from parhelion.units import MPS_PER_KNOT

from tests.cases import boat, cases


def hull_of(inputs: dict) -> HoltropHull:
    return HoltropHull(
        length_m=inputs["L"], beam_m=inputs["B"], draught_fore_m=inputs["TF"], draught_aft_m=inputs["TA"],
        volume_m3=inputs["vol"], midship=inputs["CM"], waterplane=inputs["CWP"], lcb_percent=inputs["lcb"],
        bulb_area_m2=inputs["ABT"], bulb_height_m=inputs["hB"], transom_area_m2=inputs["AT"],
        stern_shape=inputs["Cstern"], appendage_area_m2=inputs["Sapp"], appendage_form=inputs["k2_1"],
        wetted_area_m2=inputs["S"], entrance_angle_deg=inputs["iE"], roughness_m=inputs["ks"],
    )  # fmt: skip


class HoltropTest(unittest.TestCase):
    def test_published_and_independent_cases(self):
        checked = 0
        for name, case in cases("hull").items():
            if case["module"] != "holtrop" or "V_ms" not in case["inputs"]:
                continue
            hull = hull_of(case["inputs"])
            made = calm_resistance(hull, case["inputs"]["V_ms"], 1025.0, 1.18831e-6)
            found = {
                "R": made.total_n, "RW": made.wave_n, "RTR": made.transom_n, "k1": hull.form_factor,
                "S": hull.wetted_m2, "iE": hull.entrance_deg, "CP": hull.prismatic,
                "RF": made.friction_n / hull.form_factor,
            }  # fmt: skip
            for key, expected in case["expected"].items():
                with self.subTest(case=name, value=key, source=case["source"]):
                    np.testing.assert_allclose(
                        found[key], expected["value"], rtol=expected["rel_tol"], atol=1e-9
                    )
                    checked += 1
        self.assertGreater(checked, 30)

    def test_run_length_is_held_where_the_regression_turns_negative(self):
        case = cases("hull")["H15-guard-LR"]
        share = run_share(case["inputs"]["Cp"], case["inputs"]["lcb"])
        self.assertAlmostEqual(4.0 * share, case["expected"]["LR"]["value"], places=9)
        self.assertEqual(run_length_m(4.0, 0.85, -8.0), 4.0 * 0.05)

    def test_friction_line(self):
        self.assertAlmostEqual(float(friction_coefficient(1e7)), 0.003, delta=3e-12)

    def test_wave_branches_join_without_a_step(self):
        hull = hull_of(cases("hull")["H12-small-yacht-Fn0.300"]["inputs"])
        for froude in (0.40, 0.55):
            speeds = np.array([froude - 1e-7, froude + 1e-7]) * np.sqrt(9.81 * hull.length_m)
            before, after = calm_resistance(hull, speeds, 1025.0, 1.19e-6).wave_n
            self.assertAlmostEqual(before / after, 1.0, places=4)

    @settings(max_examples=40, deadline=None)
    @given(st.floats(0.05, 0.8), st.floats(2.5, 12), st.floats(2.2, 8))
    def test_every_part_is_a_drag(self, froude, slenderness, flatness):
        beam = 8.0 / slenderness
        draught = beam / flatness
        hull = HoltropHull(8.0, beam, draught, draught, 8 * beam * draught * 0.45, 0.75, 0.7, -2.0)
        made = calm_resistance(hull, froude * np.sqrt(9.81 * 8.0), 1000.0, 1.1e-6)
        for part in (made.friction_n, made.wave_n, made.transom_n, made.allowance_n):
            self.assertGreaterEqual(float(part), 0.0)


class FormulaTest(unittest.TestCase):
    def test_round_trips(self):
        for name in ("F05-inverse", "F06-inverse"):
            case = cases("hull")[name]
            given_w, length, mass = (case["inputs"][key] for key in ("shaft_W", "LWL_m", "disp_kg"))
            expected = case["expected"]["V_ms"]["value"]
            self.assertAlmostEqual(float(formula.speed_mps(given_w, length, mass)) / expected, 1, places=5)
            self.assertAlmostEqual(
                float(formula.shaft_power_w(expected, length, mass)) / given_w, 1, places=5
            )

    def test_it_overstates_a_slow_launch_two_to_four_times(self):
        design = boat()
        slow = 0.8 * np.sqrt(6.7 / 0.3048) * MPS_PER_KNOT  # speed/length ratio .8
        asked = formula.shaft_power_w(slow, 6.7, 1240) / formula.MOTOR_AND_CONTROLLER_EFFICIENCY
        times = asked / demand_curve(design).power_at(slow)
        self.assertTrue(2 < times < 4, times)


class DemandTest(unittest.TestCase):
    def test_watts_are_resistance_times_speed_over_efficiency_plus_idle(self):
        design = boat()
        at = np.array([1.0, 2.0, 3.0])
        expected = service_resistance(design, at).total_n * at / 0.47 + 12
        np.testing.assert_allclose(demand_curve(design).power_at(at), expected, rtol=2e-4)

    def test_speed_reads_the_curve_backwards_anywhere_in_the_band(self):
        curve = demand_curve(boat())
        at = np.linspace(0.6, 3.2, 12)
        np.testing.assert_allclose(curve.speed_at(curve.power_at(at)), at, rtol=2e-3)
        self.assertEqual(float(curve.speed_at(curve.idle_w - 1)), 0.0)
        for band in (-1.0, 1.0):
            found = curve.speed_at(300.0, band)
            drive = (curve.power_at(found) - curve.idle_w) * curve.band_at(found) ** -band
            self.assertAlmostEqual(float(drive) / (300 - curve.idle_w), 1, delta=5e-3)

    def test_watts_never_fall_with_speed_and_grow_with_mass_for_every_type(self):
        for hull_type, typical in TYPICAL.items():
            design = boat(
                hull__type=hull_type, hull__waterline_length_m=typical.length_m, hull__beam_m=typical.beam_m,
                hull__displacement_kg=typical.displacement_kg,
            )  # fmt: skip
            curve = demand_curve(design)
            self.assertTrue(np.all(np.diff(curve.power_w) > 0), hull_type)
            heavier = demand_curve(design, 1.1 * typical.displacement_kg)
            usual = np.linspace(0.3, 0.9, 8) * hull_speed_mps(typical.length_m)
            self.assertTrue(np.all(heavier.power_at(usual) >= curve.power_at(usual) * 0.999), hull_type)

    def test_out_of_range_numbers_are_named_with_value_and_limit(self):
        names = {w.quantity: w for w in range_warnings(boat())}
        self.assertIn("beam to draught", names)
        self.assertGreater(names["beam to draught"].value, names["beam to draught"].high)
        narrow = boat(hull__beam_m=1.2, hull__displacement_kg=1500, hull__prismatic_coefficient=0.6)
        self.assertEqual(range_warnings(narrow), [])
        self.assertEqual(len(HullType), len(TYPICAL))
