"""Tilt advice, what the array costs, the next panel, panels from a table: sums, bounds and orders."""

from __future__ import annotations

import unittest

import numpy as np
from parhelion.balance.outlook import outlook_of
from parhelion.cli import told
from parhelion.data import panel_models
from parhelion.design import BoatDesign, Build, PanelModel
from parhelion.formats.module_table import read_modules
from parhelion.hull.demand import demand_curve
from parhelion.hull.resistance import service_resistance
from parhelion.panels.datasheet import doubts
from parhelion.panels.gust import fold_mps, gust_n
from parhelion.panels.harvest import harvest
from parhelion.stations.array.burden import burden
from parhelion.stations.array.next_panel import next_panels
from parhelion.stations.array.tilt import tilt_advice
from parhelion.stations.array.year import through_year
from parhelion.sun.light import clear_light

from tests.cases import STEP_H, boat, findings_of
from tests.test_deck import WING

STERN = {**WING, "places__0__faces": "stern", "places__0__at": {"x_m": 0.0, "y_m": -3.0, "z_m": 1.4}}
DAYS = (31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31)
HEADER = "Name,Bifacial,STC,Length,Width,N_s,I_sc_ref,V_oc_ref,I_mp_ref,V_mp_ref,alpha_sc,beta_oc,gamma_pmp"
UNITS = "Units,,,m,m,,A,V,A,V,A/C,V/C,%/C"


class TiltTest(unittest.TestCase):
    def test_ways_of_tending_are_what_the_day_says_of_such_a_boat(self):
        design = boat(**WING)
        hinge = tilt_advice(outlook_of(design)).hinges[0]
        by = {way.key: way for way in hinge.ways}
        self.assertEqual((hinge.least_deg, hinge.most_deg), (0, 60))
        self.assertLessEqual(by["flat"].day_wh, by["thrice"].day_wh)
        self.assertLessEqual(by["thrice"].day_wh, by["followed"].day_wh * (1 + 1e-9))
        self.assertEqual(by["gone"].day_wh, 0)
        for key, change in (
            ("thrice", {"places__0__tended": "thrice"}),
            ("flat", {"places__0__tilt_deg": 0.0}),
        ):
            alike = outlook_of(boat(**WING, **change))
            self.assertAlmostEqual(float(alike.shown_sun_w.sum() * STEP_H), by[key].day_wh, places=6)
        self.assertEqual(
            max(hinge.day_wh), hinge.day_wh[hinge.tilts_deg.index(20.0)]
        )  # 61 N in June, facing south
        june, december = (next(s for s in hinge.seasons if s.label == m) for m in ("June", "December"))
        self.assertGreater(december.best_tilt_deg, june.best_tilt_deg)
        self.assertEqual(len(hinge.settings), 3)

    def test_a_place_without_a_hinge_is_named_not_advised(self):
        advice = tilt_advice(outlook_of(boat()))
        self.assertEqual((advice.hinges, advice.fixed), ([], ["canopy"]))


class BurdenTest(unittest.TestCase):
    def test_sums_and_signs(self):
        found = burden(outlook_of(boat(**WING)))
        place = found.places[0]
        self.assertAlmostEqual(found.mass_kg, sum(p.mass_kg for p in found.places))
        self.assertGreater(place.list_deg, 0)  # to starboard, where it is
        mirrored = boat(**{**WING, "places__0__at": {"x_m": -1.6, "y_m": -0.5, "z_m": 1.2}})
        self.assertAlmostEqual(burden(outlook_of(mirrored)).places[0].list_deg, -place.list_deg)
        kept = [(y.low_frac, y.high_frac) for y in found.yields]
        self.assertEqual(kept, sorted(kept, reverse=True))
        self.assertTrue(all(low <= high <= 1 for low, high in kept))
        self.assertIsNone(burden(outlook_of(boat(panels=[]))))

    def test_a_gust_at_the_wind_to_fold_pulls_half_of_what_holds(self):
        for tilt in (0.0, 30.0, 80.0):
            wind = fold_mps(500.0, 2.0, tilt)
            self.assertAlmostEqual(gust_n(1.4 * wind, 2.0, tilt), 250.0)
        weak = boat(**WING, places__0__holds_n=300.0)
        self.assertTrue(burden(outlook_of(weak)).places[0].overloaded)

    def test_panels_set_up_to_bow_or_stern_meet_the_wind(self):
        speed = [1.5, 2.5]
        flat, raised = (service_resistance(boat(**STERN, places__0__tilt_deg=t), speed) for t in (0.0, 60.0))
        across = service_resistance(
            boat(**{**STERN, "places__0__faces": "port"}, places__0__tilt_deg=60.0), speed
        )
        self.assertTrue((raised.air_n > flat.air_n).all())
        self.assertEqual(across.air_n.tolist(), flat.air_n.tolist())
        design = boat(**STERN, places__0__tilt_deg=60.0)
        cost = burden(outlook_of(design)).windage_w
        bare = demand_curve(boat(**STERN, places__0__tilt_deg=0.0))
        self.assertAlmostEqual(
            cost, float(demand_curve(design).power_at(1.85) - bare.power_at(1.85)), delta=0.01
        )
        self.assertGreater(cost, 1)

    def test_someone_under_a_canopy_sits_in_the_shade(self):
        over = {"places__0__kind": "canopy", "places__0__at": {"x_m": 0, "y_m": 0, "z_m": 2.1}, "site__latitude_deg": 10.0,
                "places__0__width_m": 1.8, "places__0__length_m": 2.7}  # fmt: skip
        self.assertGreater(burden(outlook_of(boat(**over))).seat_shade_frac, 0.4)
        folded = {"places__0__stands": {"under_way": {"how": "folded"}}}
        self.assertIsNone(burden(outlook_of(boat(**over, **folded))).seat_shade_frac)


class ThroughYearTest(unittest.TestCase):
    def test_a_year_is_its_days(self):
        """Days taken one by one by the ordinary harvest, tended three times a day among them."""
        design = boat(
            **WING, plan__air_temperature_c=None, places__0__tended="thrice", site__linke_turbidity=3.0
        )
        year = through_year(design)
        self.assertAlmostEqual(
            year.year_wh, sum(m.day_wh * n for m, n in zip(year.months, DAYS, strict=True)), delta=1
        )
        for month in (3, 7):
            days = []
            for day in range(1, 32, 5):
                dated = boat(**{**WING, "places__0__tended": "thrice", "site__linke_turbidity": 3.0,
                                "plan__date": f"2026-{month:02d}-{day:02d}"})  # fmt: skip
                light = clear_light(dated.site, dated.plan.date)
                days.append(harvest(dated, light).sun_w.sum() * STEP_H)
            self.assertAlmostEqual(year.months[month - 1].clear_wh / np.mean(days), 1, delta=0.01)
        self.assertTrue(all(m.day_wh <= m.clear_wh * 1.001 for m in year.months))

    def test_a_polar_year_and_none_without_panels(self):
        months = through_year(boat(**WING, site__latitude_deg=80.0)).months
        self.assertEqual(months[11].day_wh, 0)
        self.assertGreater(months[5].day_wh, months[8].day_wh)
        self.assertEqual(through_year(boat(panels=[])).year_wh, 0)


class NextPanelTest(unittest.TestCase):
    def test_each_gain_is_the_rail_of_that_boat(self):
        design = boat(**WING)
        outlook = outlook_of(design)
        found = next_panels(outlook)
        gains = [item.gain_m for item in found.candidates]
        self.assertEqual(gains, sorted(gains, reverse=True))
        self.assertFalse(found.enough)
        best = found.candidates[0]
        self.assertGreater(best.gain_wh, 0)
        self.assertAlmostEqual(best.m_per_kg * best.mass_kg, best.gain_m)
        grown = outlook_of(best.refit.of(design))
        self.assertAlmostEqual(
            float((grown.shown_sun_w.sum() - outlook.shown_sun_w.sum()) * STEP_H), best.gain_wh, delta=1.0
        )

    def test_a_panel_that_was_tried_leaves_room_for_another(self):
        once = next_panels(outlook_of(boat())).candidates[0].refit.of(boat())
        twice = next_panels(outlook_of(once)).candidates[0].refit.of(once)
        self.assertEqual(len(twice.panels), 3)
        BoatDesign.model_validate(twice.model_dump())

    def test_enough_is_enough(self):
        found = next_panels(
            outlook_of(boat(panels__0__nameplate_w=5000, controllers__0__current_limit_a=None))
        )
        self.assertTrue(found.enough)
        self.assertIn("Enough", found.verdict.text)


class DatasheetTest(unittest.TestCase):
    GOOD = {"nameplate_w": 200, "open_circuit_v": 24.5, "short_circuit_a": 10.4, "best_v": 20.5, "best_a": 9.76,
            "panel_width_m": 0.76, "panel_length_m": 1.48, "cells_across": 4, "cells_along": 9}  # fmt: skip

    def test_every_panel_of_the_list_can_be_true(self):
        builds = set()
        for model in panel_models():
            self.assertEqual(doubts(model), [], model.model)
            builds.add((model.build, model.half_cut, model.bifaciality_frac > 0))
        self.assertEqual({build for build, *_ in builds}, set(Build))
        self.assertTrue(
            {(Build.GLASS, True, False), (Build.GLASS, False, False), (Build.GLASS, True, True)} <= builds
        )

    def test_what_cannot_be_true_is_told_with_its_entry(self):
        for change, field in (
            ({}, None), ({"open_circuit_v": 20.0}, "open_circuit_v"), ({"short_circuit_a": 9.0}, "short_circuit_a"),
            ({"nameplate_w": 300}, "nameplate_w"), ({"panel_length_m": 0.6}, "panel_length_m"),
            ({"cells_along": 18}, "cells_along"), ({"cells_along": 18, "half_cut": True}, None),
        ):  # fmt: skip
            found = doubts(PanelModel.model_validate({**self.GOOD, **change}))
            self.assertEqual([d.field for d in found][:1], [field] if field else [], change)

    def test_a_table_is_read_with_its_units_and_told_line_by_line(self):
        rows = [HEADER, UNITS, "[0],b,stc,l,w,n,i,v,i,v,a,b,g",
                "Even 400,0,400,1.72,1.13,108,13.9,37.1,13.0,30.8,0.0055,-0.093,-0.34",
                "Even 420 two,1,420,1.72,1.13,108,14.2,37.8,13.4,31.35,0.0055,-0.093,-0.30",
                "Odd,0,400,1.72,1.13,108,13.9,30.1,13.0,30.8,0.0055,-0.093,-0.34",
                "Words,0,many,1.72,1.13,108,13.9,37.1,13.0,30.8,0.0055,-0.093,-0.34"]  # fmt: skip
        found = read_modules("\n".join(rows))
        self.assertEqual((found.rows, found.read, found.wrong), (4, 2, 2))
        self.assertEqual([p.line for p in found.problems], [6, 7])
        one, two = found.panels
        self.assertEqual((one.cells_across, one.cells_along, one.half_cut), (6, 18, True))
        self.assertAlmostEqual(one.power_coefficient_per_k, -0.0034)
        self.assertAlmostEqual(one.voltage_coefficient_per_k, -0.093 / 37.1)
        self.assertEqual((one.bifaciality_frac > 0, two.bifaciality_frac > 0), (False, True))
        self.assertEqual([p.model for p in read_modules("\n".join(rows), "two").panels], ["Even 420 two"])
        missing = read_modules("Name,STC,Voc,Isc\nA,1,2,3").problems[0]
        self.assertIn("Vmp, Imp, N_s", missing.message)
        self.assertIn("header", read_modules("hello").problems[0].message)


class CrossingTest(unittest.TestCase):
    def test_the_shade_finding_names_rows_place_hour_and_move(self):
        aerial = {"id": "aerial", "name": "Aerial", "radius_m": 0.05, "foot": {"x_m": 2.6, "y_m": -0.5, "z_m": 0.8},
                  "tip": {"x_m": 2.6, "y_m": -0.5, "z_m": 5.0}}  # fmt: skip
        found = findings_of("array", boat(**WING, obstacles=[aerial]))
        finding = next(f for f in found if f.id == "shade_costs")
        self.assertRegex(
            told(finding.detail), r"At \d\d:00 it crosses [1-6] of 6 cell rows of a panel on Canopy"
        )


if __name__ == "__main__":
    unittest.main()
