"""Each finding once where it fires and once where it is silent."""

from __future__ import annotations

import unittest
from pathlib import Path

from parhelion.formats.plain import told
from parhelion.pictures.day import day_picture
from parhelion.pictures.hull import hull_picture

from tests.cases import boat
from tests.test_runs import runs

METHODS = Path(__file__).resolve().parents[2] / "docs" / "methods"
AERIAL = {
    "id": "a", "name": "Aerial", "radius_m": 0.02,
    "foot": {"x_m": 0, "y_m": -2, "z_m": 1}, "tip": {"x_m": 0, "y_m": -2, "z_m": 3},
}  # fmt: skip

HULL = {  # fires with, silent with
    "half_a_knot_less": ({}, {"plan__speed_mps": 0.4}),
    "formula_says": ({}, {"plan__speed_mps": 3.6, "drives__0__rated_power_w": 30000}),
    "beyond_drive": ({"plan__speed_mps": 3.6}, {}),
    "near_hull_speed": ({"plan__speed_mps": 3.1}, {}),
    "outside_model": (
        {},
        {"hull__beam_m": 1.2, "hull__displacement_kg": 1500, "hull__prismatic_coefficient": 0.6},
    ),
    "runs_contradict": ({"runs": runs(4, spread=0.5)}, {"runs": runs(4)}),
    "one_way_runs": ({"runs": runs(2, both=False)}, {"runs": runs(2)}),
    "heavy_for_length": ({"hull__displacement_kg": 9500}, {}),
}
DAY = {
    "home_with": ({}, {"plan__speed_mps": 2.8, "plan__start_charge_frac": 0.3}),
    "stops_at_reserve": ({"plan__speed_mps": 2.8, "plan__start_charge_frac": 0.4}, {}),
    "goes_to_waste": ({"plan__start_charge_frac": 1.0, "plan__speed_mps": 1.0}, {"plan__speed_mps": 2.4}),
    "could_go_faster": ({"plan__speed_mps": 1.2}, {"plan__speed_mps": 2.6}),
    "grey_day": ({}, {"plan__sky": "overcast"}),
    "house_heavy": ({"loads__0__power_w": 150, "loads__0__hours_per_day": 24}, {}),
    "controller_clips": ({"controllers__0__current_limit_a": 12}, {}),
    "cold_lithium": ({"plan__air_temperature_c": -4}, {"plan__air_temperature_c": 15}),
    "no_sun": ({"site__latitude_deg": 80, "plan__date": "2027-12-21"}, {}),
    "kept_not_counted": ({"obstacles": [AERIAL]}, {}),
    "unshaded": ({}, {"panels": []}),
    "live_wires": ({}, {"panels": [], "banks": []}),
    "beyond_drive": ({"plan__speed_mps": 3.6}, {}),
    "reserve_homeward": (
        {"plan__speed_mps": 1.85, "plan__start_charge_frac": 0.33},
        {"plan__start_charge_frac": 0.9},
    ),
}


class FindingsTest(unittest.TestCase):
    def check(self, table, draw):
        for name, (loud, quiet) in table.items():
            with self.subTest(name):
                found = {finding.id: finding for finding in draw(boat(**loud)).findings}
                self.assertIn(name, found)
                finding = found[name]
                text = f"{told(finding.title)} {told(finding.detail)}"
                self.assertNotIn("{", text)
                self.assertNotIn("nan", text)
                self.assertTrue(finding.why.method and finding.why.source)
                self.assertTrue((METHODS / f"{finding.why.doc}.md").is_file(), finding.why.doc)
                self.assertNotIn(name, {item.id for item in draw(boat(**quiet)).findings})

    def test_hull(self):
        self.check(HULL, hull_picture)

    def test_day(self):
        self.check(DAY, day_picture)

    def test_whose_curve_it_is(self):
        for count, start in ((0, "No runs"), (2, "2 of your own"), (4, "Your runs set")):
            finding = next(f for f in hull_picture(boat(runs=runs(count))).findings if f.id == "curve_source")
            self.assertTrue(told(finding.title).startswith(start))
            self.assertEqual(finding.level == "good", count == 4)

    def test_cautions_of_harm_always_stand_and_come_last(self):
        for draw, name in ((hull_picture, "strongest_head_wind"), (day_picture, "live_wires")):
            self.assertTrue(draw(boat()).findings[-1].caution)
            self.assertEqual(draw(boat()).findings[-1].id, name)
        high = next(f for f in day_picture(boat(banks__0__nominal_v=96)).findings if f.id == "live_wires")
        self.assertEqual(high.level, "warn")
