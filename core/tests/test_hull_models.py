"""The models of the hull types: published and independent cases, closed forms, and laws that all obey."""

from __future__ import annotations

import unittest

import numpy as np
from parhelion.design.hull import hull_speed_mps
from parhelion.design.hulltypes import TYPICAL, HullType
from parhelion.hull.calm import PLANING_BLEND, YACHT_BLEND, calm_water, hulls_of
from parhelion.hull.delft import CanoeBody, residuary_n
from parhelion.hull.demand import demand_curve
from parhelion.hull.planing import (
    PlaningHull,
    pressure_centre_share,
    running_state,
    wetted_ratio_at_trim,
)
from parhelion.hull.resistance import range_warnings, widening
from parhelion.hull.thinship import ThinHull, thin_hull, wave_resistance_n
from parhelion.hull.transom import dry_share, transom_n

from tests.cases import boat, cases

WIGLEY = ThinHull(10.0, 1.0, 0.625, 2.0, 2.0)


def typical(hull_type: HullType, **changes):
    form = TYPICAL[hull_type]
    usual = {
        "hull__type": hull_type, "hull__waterline_length_m": form.length_m, "hull__beam_m": form.beam_m,
        "hull__displacement_kg": form.displacement_kg, "drives__0__overall_efficiency": None,
    }  # fmt: skip
    return boat(**{**usual, **changes})


def water_of(design, speeds):
    return calm_water(design.hull, design.displacement_kg, design.site.water, speeds)


class ThinShipTest(unittest.TestCase):
    def test_the_wigley_hull(self):
        geometry = cases("hull")["M01-wigley-geometry"]["expected"]
        self.assertAlmostEqual(WIGLEY.wetted_m2 / 100, geometry["S_over_L2"]["value"], delta=0.0003)
        self.assertAlmostEqual(WIGLEY.block, geometry["CB"]["value"], places=6)
        for name, case in cases("hull").items():
            if name.startswith("M02"):
                speed = case["inputs"]["Fn"] * np.sqrt(9.81 * 10)
                drag = wave_resistance_n(WIGLEY, speed, 1000.0)
                found = 1e3 * drag / (0.5 * 1000 * speed**2 * WIGLEY.wetted_m2)
                expected = case["expected"]["Cw_1e3"]
                self.assertAlmostEqual(float(found) / expected["value"], 1, delta=expected["rel_tol"])

    def test_two_hulls_meet_each_others_waves(self):
        for name, spacing, froude in (("M10-cat-s0.4-Fn0.35", 4.0, 0.35), ("M10-cat-s0.4-Fn0.80", 4.0, 0.8),
                                      ("M15-cat-limit-inf", 200.0, 0.3)):  # fmt: skip
            expected = cases("hull")[name]["expected"]["interference"]
            speed = froude * np.sqrt(9.81 * 10)
            both = wave_resistance_n(WIGLEY, speed, 1000.0, spacing)
            found = both / 2 / wave_resistance_n(WIGLEY, speed, 1000.0)
            self.assertAlmostEqual(float(found) / expected["value"], 1, delta=expected["rel_tol"])
        # on top of each other two hulls are one of twice the beam: four times its waves, so twice the pair's
        together = wave_resistance_n(WIGLEY, 3.0, 1000.0, 0.0)
        self.assertAlmostEqual(float(together / wave_resistance_n(WIGLEY, 3.0, 1000.0)), 4.0, places=9)

    def test_a_direct_sum_over_the_surface_finds_the_same_waves(self):
        """An oracle without tables or panels: plain midpoint sums over hull and angle."""
        hull = thin_hull(4.6, 0.54, 0.13, 0.55, 0.80)
        speed = 0.4 * np.sqrt(9.81 * 4.6)
        x = (np.arange(3000) + 0.5) / 3000
        z = (np.arange(400) + 0.5) / 400
        n, m = hull.waterline_exponent, hull.section_exponent
        angles = (np.arange(1500) + 0.5) / 1500 * 1.5
        total = 0.0
        for angle in angles:
            k, kappa = 9.81 / speed**2 / np.cos(angle), 9.81 / speed**2 / np.cos(angle) ** 2
            lengthwise = np.mean(n * x ** (n - 1) * np.sin(k * 2.3 * x)) * 2 * 0.54 / 2
            depthwise = np.mean((1 - z**m) * np.exp(-kappa * 0.13 * z)) * 0.13
            total += (lengthwise * depthwise) ** 2 / np.cos(angle) ** 3
        expected = 4 * 1000 * 9.81**2 / (np.pi * speed**2) * total * 1.5 / 1500
        self.assertAlmostEqual(float(wave_resistance_n(hull, speed, 1000.0)) / expected, 1, delta=0.01)


class SeriesTest(unittest.TestCase):
    def test_the_yacht_series(self):
        for name, case in cases("hull").items():
            if name.startswith("D01"):
                i = case["inputs"]
                body = CanoeBody(
                    i["L"], i["B"], i["T"], i["vol"], i["Cp"], i["Cm"], i["Cwp"], i["LCB_pct"], i["LCF_pct"]
                )
                froude = float(name.rsplit("Fn", 1)[1])
                found = residuary_n(body, froude * np.sqrt(9.81 * i["L"]), 1025.0) / (1025 * 9.81 * i["vol"])
                self.assertAlmostEqual(float(found) / case["expected"]["Rr_over_W"]["value"], 1, delta=0.01)

    def test_the_series_and_the_component_method_agree_where_both_hold(self):
        # recalled coefficients gate nothing alone: their total must lie near the other method's
        design = typical(HullType.FIN_KEEL_YACHT)
        speeds = np.array([0.36, 0.40]) * np.sqrt(9.81 * 8.0)
        blended = water_of(design, speeds)
        as_launch = water_of(typical(HullType.FIN_KEEL_YACHT, hull__type="launch", hull__prismatic_coefficient=0.56,
                                       hull__midship_coefficient=0.74, hull__waterplane_coefficient=0.68,
                                       hull__lcb_percent=-3.5), speeds)  # fmt: skip
        ratio = (blended.viscous_n + blended.wave_n) / (as_launch.viscous_n + as_launch.wave_n)
        self.assertTrue(np.all((ratio > 0.75) & (ratio < 1.25)), ratio)

    def test_a_transom(self):
        case = cases("hull")["X01-transom"]
        i, expected = case["inputs"], case["expected"]
        dry = dry_share(i["V"], i["b_t"], i["t_t"], 1.139e-6)
        self.assertAlmostEqual(float(dry) / expected["eta_dry"]["value"], 1, delta=0.01)
        found = transom_n(i["V"], i["b_t"], i["t_t"], 999.1, 1.139e-6)
        self.assertAlmostEqual(float(found) / expected["R"]["value"], 1, delta=0.01)
        self.assertAlmostEqual(float(transom_n(20.0, 1.1, 0.1, 1000.0, 1e-6)), 0.5 * 1000 * 9.81 * 1.1 * 0.01)
        self.assertEqual(float(transom_n(2.0, 1.1, 0.0, 1000.0, 1e-6)), 0.0)

    def test_planing(self):
        case = cases("hull")["S05-skiff"]
        i = case["inputs"]
        state = running_state(
            PlaningHull(i["mass_kg"], i["LCG_m"], i["b_m"], i["beta_deg"]), i["V_ms"], 999.1, 1.139e-6
        )
        found = {"cv": state.speed_coefficient, "clb": state.lift_coefficient, "cl0": state.flat_lift_coefficient,
                 "lam": state.wetted_ratio, "tau": state.trim_deg, "D": state.drag_n}  # fmt: skip
        for key, expected in case["expected"].items():
            self.assertAlmostEqual(found[key] / expected["value"], 1, delta=expected["rel_tol"])
        # the paper's worked example: 60,000 lb, 14 ft over the chines, 10 deg of deadrise, 40 kn, 1.94 slug/ft³
        example = PlaningHull(60_000 * 0.45359237, 29 * 0.3048, 14 * 0.3048, 10.0)
        for name in ("S02-trim-2", "S02-trim-4"):
            found = wetted_ratio_at_trim(
                example, 40 * 1852 / 3600, cases("hull")[name]["inputs"]["tau_deg"], 999.8
            )
            expected = cases("hull")[name]["expected"]["lam"]
            self.assertAlmostEqual(found / expected["oracle"], 1, delta=0.01)
            self.assertAlmostEqual(found / expected["value"], 1, delta=expected["rel_tol"])
        lever = cases("hull")["S06-lp"]
        share = pressure_centre_share(lever["inputs"]["lam"], lever["inputs"]["cv"])
        self.assertAlmostEqual(share, lever["expected"]["lp_over_lamb"]["value"], places=6)


class FarOutsideTest(unittest.TestCase):
    def test_a_hull_outside_every_model_gets_the_widest_band_and_no_nonsense(self):
        usual = demand_curve(typical(HullType.LAUNCH))
        raft = typical(
            HullType.LAUNCH, hull__waterline_length_m=2.0, hull__beam_m=2.4, hull__displacement_kg=300
        )
        sheet = typical(HullType.LAUNCH, hull__displacement_kg=25)
        for design in (raft, sheet):
            curve = demand_curve(design)
            self.assertTrue(np.all(np.isfinite(curve.power_w)) and np.all(np.isfinite(curve.band_factor)))
            self.assertGreater(widening(design), 1)
            self.assertGreater(curve.band_factor[100], usual.band_factor[100])
        self.assertEqual(widening(typical(HullType.LAUNCH)), 1.0)
        self.assertAlmostEqual(float(demand_curve(sheet).band_factor[0]), 1.5 ** widening(sheet), places=6)


class EveryTypeTest(unittest.TestCase):
    def test_ordinary_boats_draw_what_such_boats_draw(self):
        """Battery watts of usual boats at an easy pace lie where owners find them, within the band of 1.5."""
        table = (  # type, speed [m/s], what such boats draw [W]
            (HullType.KAYAK, 1.5, 60), (HullType.CANOE, 1.5, 75), (HullType.ROWING_BOAT, 1.5, 150),
            (HullType.LAUNCH, 2.0, 450), (HullType.FIN_KEEL_YACHT, 2.0, 950), (HullType.CATAMARAN, 2.5, 2100),
            (HullType.SKIFF, 1.5, 260),
        )  # fmt: skip
        for hull_type, speed, watts in table:
            found = float(demand_curve(typical(hull_type)).power_at(speed))
            self.assertTrue(watts / 1.5 < found < watts * 1.5, (hull_type, found))

    def test_watts_rise_smoothly_with_speed_and_with_mass(self):
        for hull_type, form in TYPICAL.items():
            design = typical(hull_type)
            curve = demand_curve(design)
            self.assertTrue(
                np.all(np.isfinite(curve.power_w)) and np.all(np.diff(curve.power_w) > 0), hull_type
            )
            growth = np.diff(np.log(curve.model_w[24:]))
            self.assertLess(np.abs(np.diff(growth)).max(), 0.08, hull_type)  # no kinks between blends
            heavier = demand_curve(design, 1.1 * form.displacement_kg)
            slow = np.linspace(0.3, 0.9, 7) * hull_speed_mps(form.length_m)
            self.assertTrue(np.all(heavier.power_at(slow) > 0.999 * curve.power_at(slow)), hull_type)

    def test_blends_begin_and_end_where_they_say(self):
        yacht = typical(HullType.FIN_KEEL_YACHT)
        slow = YACHT_BLEND[0] * np.sqrt(9.81 * 8.0) * np.array([0.5, 0.99])
        like = typical(HullType.FIN_KEEL_YACHT, hull__type="launch", hull__prismatic_coefficient=0.56,
                       hull__midship_coefficient=0.74, hull__waterplane_coefficient=0.68, hull__lcb_percent=-3.5)  # fmt: skip
        np.testing.assert_allclose(water_of(yacht, slow).wave_n, water_of(like, slow).wave_n, rtol=1e-9)
        skiff = typical(HullType.SKIFF)
        unit = np.sqrt(
            9.81 * hulls_of(skiff.hull, skiff.displacement_kg, skiff.site.water).one.volume_m3 ** (1 / 3)
        )
        shares = water_of(skiff, unit * np.array([0.9, 1.5, 2.05])).planing_share
        np.testing.assert_allclose(shares, [0, 0.5, 1], atol=1e-9)
        self.assertEqual(PLANING_BLEND, (1.0, 2.0))

    def test_each_model_warns_of_its_own_limits(self):
        self.assertEqual(range_warnings(typical(HullType.KAYAK)), [])
        tubby = range_warnings(typical(HullType.CANOE, hull__beam_m=1.2))
        self.assertEqual([w.quantity for w in tubby], ["length to beam"])
        self.assertEqual(tubby[0].low, 5.0)
        skiff = typical(HullType.SKIFF)
        named = [{w.quantity for w in range_warnings(skiff, speed)} for speed in (1.5, 7.0, 14.0)]
        self.assertNotIn("trim on the plane", named[0] | named[1])
        self.assertIn("trim on the plane", named[2])  # so fast that it runs nearly level
        fast = range_warnings(typical(HullType.FIN_KEEL_YACHT), 0.65 * np.sqrt(9.81 * 8.0))
        self.assertEqual([w.high for w in fast if w.quantity == "Froude number"], [0.6])
