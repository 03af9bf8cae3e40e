"""Wind, waves, tows, streams, head winds, ways home, other push and range: cases, closed forms and laws."""

from __future__ import annotations

import unittest

import numpy as np
from parhelion.balance.outlook import outlook_of
from parhelion.balance.push import TO_THRUST
from parhelion.drive.pull import most_pull_n
from parhelion.hull.demand import demand_curve
from parhelion.hull.resistance import frontal_area_of, service_resistance, tow_resistance_n, wave_drag_of
from parhelion.hull.weather import kreitner_n, ship_waves_n, stawave_n, wind_resistance_n
from parhelion.rail.answers import answers_for
from parhelion.rail.reach import reach_at, reaches
from parhelion.rail.stores import range_at_speed
from parhelion.stations.hull.seaway import HEADWAY_MPS, fetch_height_m, head_wind, seaway_costs, way_home

from tests.cases import boat, cases


def costs(**changes) -> dict[str, float]:
    return {cost.key: cost.power_w for cost in seaway_costs(outlook_of(boat(**changes)))}


TOW = {"id": "t", "type": "inflatable", "waterline_length_m": 2.4, "beam_m": 1.1, "displacement_kg": 60}


class WeatherTest(unittest.TestCase):
    def test_waves_by_two_methods(self):
        i = cases("hull")["E04-kreitner"]["inputs"]
        found = kreitner_n(i["Hs"], i["L"], i["B"], i["CB"], 1025.0)
        self.assertAlmostEqual(found, cases("hull")["E04-kreitner"]["expected"]["R"]["value"], places=2)
        self.assertAlmostEqual(
            stawave_n(0.5, 10.0, 3.0, 1025.0), 1025 * 9.81 * 0.25 * 3 * np.sqrt(3 / 3.5) / 16, places=6
        )
        low, high = ship_waves_n(0.5, 10.0, 3.0, 0.4, 2, 1025.0)
        self.assertAlmostEqual(high, 2 * found, places=2)
        self.assertTrue(low < high < 2 * low)

    def test_a_chop_slows_a_small_boat_and_does_not_stop_it(self):
        """An 8 m yacht in 0.3 m loses a tenth to a third of its speed at the same watts; higher waves lose more."""
        yacht = {"hull__type": "fin_keel_yacht", "hull__waterline_length_m": 8.0, "hull__beam_m": 2.6,
                 "hull__displacement_kg": 4000.0, "drives__0__rated_power_w": 8000}  # fmt: skip
        speeds = [
            float(demand_curve(boat(**yacht, plan__wave_height_m=height)).speed_at(1500.0))
            for height in (0.0, 0.1, 0.2, 0.3, 0.5, 1.0)
        ]
        self.assertEqual(speeds, sorted(speeds, reverse=True))
        self.assertTrue(0.7 < speeds[3] / speeds[0] < 0.9, speeds)
        self.assertGreater(speeds[4] / speeds[0], 0.5)
        at = np.array([0.5, 1.0, 2.0])
        found = wave_drag_of(boat(**yacht, plan__wave_height_m=0.3), at)
        self.assertTrue(np.all(found.low_n < found.middle_n) and np.all(found.middle_n < found.high_n))

    def test_wind_by_its_components(self):
        self.assertAlmostEqual(
            float(wind_resistance_n(2.0, 6.0, 0.0, 3.0, 0.8)), 0.5 * 1.225 * 0.8 * 3 * (64 - 4)
        )
        self.assertLess(float(wind_resistance_n(2.0, 6.0, 180.0, 3.0, 0.8)), 0)
        abeam = float(wind_resistance_n(2.0, 6.0, 90.0, 3.0, 0.8))
        self.assertAlmostEqual(abeam, 0.5 * 1.225 * 0.8 * 3 * (np.hypot(2, 6) * 2 - 4))
        self.assertEqual(float(wind_resistance_n(2.0, 0.0, 0.0, 3.0, 0.8)), 0.0)

    def test_each_cost_stands_apart_and_an_unknown_direction_costs_nothing(self):
        self.assertEqual(set(costs()), {"water", "air"})
        self.assertEqual(set(costs(plan__wind_mps=12)), {"water", "air"})
        rough = costs(plan__wind_mps=8, plan__wind_angle_deg=0, plan__wave_height_m=0.3, tows=[TOW],
                      plan__current_mps=-0.4)  # fmt: skip
        self.assertEqual(set(rough), {"water", "air", "wind", "waves", "tow", "stream"})
        self.assertTrue(all(value > 0 for value in rough.values()), rough)
        self.assertLess(costs(plan__current_mps=0.4)["stream"], 0)
        self.assertLess(costs(plan__wind_mps=8, plan__wind_angle_deg=180)["wind"], 0)

    def test_a_tow_is_its_own_hull(self):
        two = boat(tows=[{**TOW, "count": 2}])
        one = boat(tows=[TOW])
        speed = np.array([1.0, 1.8])
        pulled = [service_resistance(design, speed).tow_n for design in (one, two)]
        np.testing.assert_allclose(pulled[1], 2 * pulled[0])
        np.testing.assert_allclose(pulled[0], tow_resistance_n(one.tows[0], one.site.water, speed))

    def test_a_foul_bottom_costs_what_is_said(self):
        clean, foul = (
            float(service_resistance(boat(hull__correlation_allowance=c), np.array([1.8])).service_n[0])
            for c in (0.0004, 0.0014)
        )
        self.assertTrue(1.08 < foul / clean < 1.25, foul / clean)


class HeadWindTest(unittest.TestCase):
    def test_at_that_wind_the_pull_is_just_enough(self):
        design = boat()
        outlook = outlook_of(design)
        found = head_wind(outlook)
        at = np.array([HEADWAY_MPS])
        still = float(service_resistance(design, at).service_n[0])
        against = float(
            wind_resistance_n(
                HEADWAY_MPS, found.flat_wind_mps, 0.0, frontal_area_of(design.hull), design.hull.air_drag
            )
        )
        self.assertAlmostEqual(
            (still + against) / most_pull_n(design, HEADWAY_MPS), 1, delta=1e-4
        )  # read between
        self.assertLess(found.wind_mps, found.flat_wind_mps)
        self.assertAlmostEqual(found.wave_height_m, fetch_height_m(found.wind_mps))

    def test_more_windage_or_a_foul_stream_leaves_less(self):
        here = head_wind(outlook_of(boat())).wind_mps
        self.assertLess(head_wind(outlook_of(boat(hull__frontal_area_m2=9))).wind_mps, here)
        self.assertLess(head_wind(outlook_of(boat(plan__current_mps=-1.0))).wind_mps, here)


class WayHomeTest(unittest.TestCase):
    def test_what_is_left_when_the_motor_fails(self):
        self.assertEqual(way_home(outlook_of(boat())).means, "none")
        pair = way_home(outlook_of(boat(drives__0__count=2)))
        self.assertEqual(pair.means, "second motor")
        self.assertAlmostEqual(pair.speed_mps, float(outlook_of(boat()).curve.speed_at(3000)), delta=0.02)
        oars = {"id": "o", "kind": "oars", "power_w": 80, "hours_per_day": 1}
        rowed = way_home(outlook_of(boat(pushes=[oars])))
        curve = outlook_of(boat()).curve
        thrust = float(np.interp(rowed.speed_mps, curve.speed_mps, curve.thrust_power_w))
        self.assertAlmostEqual(thrust, 80 * TO_THRUST["oars"], delta=0.5)
        self.assertEqual(
            way_home(outlook_of(boat(pushes=[{"id": "s", "kind": "sail", "hours_per_day": 3}]))).means, "sail"
        )


class PushTest(unittest.TestCase):
    def test_on_the_sun_alone_is_without_legs_which_have_a_line_of_their_own(self):
        push = {"id": "p", "kind": "pedals", "power_w": 100, "hours_per_day": 6, "from_clock": "09:00"}
        for more in ({}, {"banks": [], "links": []}):
            alone, pedalled = (answers_for(boat(**more, **also)) for also in ({}, {"pushes": [push]}))
            self.assertEqual(alone.sun_only_steady.speed_mps, pedalled.sun_only_steady.speed_mps)
            self.assertEqual(alone.days_run_sun.distance_m, pedalled.days_run_sun.distance_m)
            cell = next(c for c in pedalled.rail if c.key.startswith("sun_only"))
            line = next(item for item in cell.lines if item.text.startswith("with {name}"))
            self.assertEqual(line.slots["name"].value, "pedals")
            self.assertGreater(line.slots["v"].value, 1.02 * cell.value.value)
        self.assertGreater(pedalled.days_run_sun.distance_m, 0)

    def test_pedals_spare_the_bank_what_their_thrust_would_have_cost(self):
        spells = [{"starts_at": "09:00", "ends_at": "13:00"}]
        push = {"id": "p", "kind": "pedals", "power_w": 75, "hours_per_day": 2, "from_clock": "10:00"}
        base, helped = (
            outlook_of(boat(plan__spells=spells, panels=[], loads=[], **more))
            for more in ({}, {"pushes": [push]})
        )
        used = [o.run(o.plan_power_w, 0.9)[0][:, 5].sum() / 6 for o in (base, helped)]
        spared = 75 * TO_THRUST["pedals"] / base.curve.efficiency_at(base.plan_speed_mps)
        self.assertAlmostEqual(used[0] - used[1], 2 * min(spared, base.plan_power_w - 12), delta=1.0)

    def test_under_sail_the_motor_is_off(self):
        sail = {"id": "s", "kind": "sail", "hours_per_day": 3, "from_clock": "10:00"}
        spells = [{"starts_at": "09:00", "ends_at": "15:00"}]
        base, sailed = (outlook_of(boat(plan__spells=spells, **more)) for more in ({}, {"pushes": [sail]}))
        self.assertAlmostEqual(base.hours - sailed.hours, 3.0)


class ReachTest(unittest.TestCase):
    def test_the_range_curve_meets_the_rail_and_falls_with_speed(self):
        outlook = outlook_of(boat(plan__sky="overcast", plan__speed_mps=2.5))
        rail = range_at_speed(outlook)
        hours, distance = reach_at(outlook, outlook.shown_by_bank_w, 2.5)
        self.assertAlmostEqual(distance, rail.distance_m)
        self.assertAlmostEqual(hours, rail.hours)
        _, found = reaches(outlook)
        self.assertEqual([reach.key for reach in found], ["clear", "broken", "overcast", "dark", "formula"])
        dark = found[3].hours
        self.assertEqual(dark, sorted(dark, reverse=True))
        for clear, grey in zip(found[0].hours, found[2].hours, strict=True):
            self.assertTrue(clear is None or (grey is not None and grey <= clear + 1e-9))
        self.assertEqual(reaches(outlook_of(boat(banks=[])))[1], [])
