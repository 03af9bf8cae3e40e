"""The pace plan: independent cases, a linear programme, closed forms, prices against finite differences."""

from __future__ import annotations

import unittest

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from parhelion.balance.outlook import outlook_of, shown_outlook
from parhelion.balance.pace import Speeds, pace_plan, speeds_of
from parhelion.rail.answers import answers_for
from parhelion.rail.furthest import further_way, speeds_over_watts
from parhelion.rail.speeds import bank_power_w
from parhelion.stations.day.ways import ways_of
from parhelion.stations.day.worths import by_worth_m, cycle_of, worths_of
from scipy.optimize import linprog

from tests.cases import boat, cases

KNOT = 0.5144444444
SMALL = {"banks__0__unit_ah": 40, "banks__0__capacity_ah": 40}


def cubic(a: float, most: float) -> Speeds:
    """V = (p / a)^(1/3), exactly at its nodes."""
    v = np.geomspace(1e-3, most, 6000)
    slope = 1 / (3 * a * v**2)
    return Speeds(np.concatenate([[0.0], a * v**3]), np.concatenate([[1.01 * slope[0]], slope]),
                  np.concatenate([[0.0], v]))  # fmt: skip


def sine_days(peak: float, days: list[float], hotel: float) -> tuple[np.ndarray, np.ndarray]:
    hours = (np.arange(144 * len(days)) + 0.5) / 6
    sun = np.maximum(0, peak * np.sin(np.pi * (hours % 24 - 6) / 12))
    return hours, np.repeat(days, 144) * sun - hotel


def knots(watts: np.ndarray, a: float = 12.0) -> np.ndarray:
    return np.cbrt(watts / a)


class IndependentTest(unittest.TestCase):
    def test_three_days_with_every_bound(self):
        for name in ("opt.3day.big.all", "opt.3day.small.all", "opt.3day.small.day"):
            case = cases("energy")[name]
            given_, wanted = case["inputs"], case["expected"]
            hours, net = sine_days(1050, [1, 0.4, 0.8], 0)
            net = net - 60
            first, last = given_["motor_hours"]
            share = ((hours % 24 >= first) & (hours % 24 <= last)).astype(float)
            plan = pace_plan(net, share, 1 / 6, given_["e0"], given_["eend"], given_["emin"], given_["cap"],
                             given_["ec"], given_["ed"], cubic(given_["a"], given_["vmax"]))  # fmt: skip
            run = knots(plan.motor_w)
            self.assertAlmostEqual((run * share).sum() / 6 / wanted["nm"], 1, delta=1e-7, msg=name)
            self.assertAlmostEqual(plan.of_start / 3600 / wanted["mu_first"], 1, delta=1e-5)
            self.assertAlmostEqual(-plan.of_end / 3600 / wanted["mu_last"], 1, delta=1e-5)
            self.assertAlmostEqual(plan.stored_wh.min(), wanted["e_min"], delta=1.0)
            np.testing.assert_allclose(run[[72, 216, 360]], wanted["speeds_at_72_216_360"], atol=1e-5)

    def test_prices_are_the_marginal_values(self):
        case = cases("energy")["marg.dual"]
        given_, wanted = case["inputs"], case["expected"]
        _, net = sine_days(1400, [1, 1, 1, 1], 50)
        plan = pace_plan(net, np.ones(576), 1 / 6, given_["e0"], given_["eend"], given_["emin"], given_["cap"],
                         given_["ec"], given_["ed"], cubic(12, 20))  # fmt: skip
        self.assertAlmostEqual(knots(plan.motor_w).sum() / 6 / wanted["nm"], 1, delta=1e-8)
        for found, key in ((plan.of_start, "dD_de0"), (plan.of_end, "dD_deend"), (plan.of_full, "dD_dcap"),
                           (plan.of_floor, "dD_demin")):  # fmt: skip
            self.assertAlmostEqual(found / 3600 / wanted[key], 1, delta=1e-5, msg=key)

    def test_no_bound_binds_and_the_speed_is_constant(self):
        case = cases("energy")["opt.lossless.closed"]
        given_ = case["inputs"]
        _, net = sine_days(1050, [1], 60)
        args = (np.ones(144), 1 / 6, given_["e0"], given_["eend"], 0.0, given_["cap"], 1.0, 1.0, cubic(12, 9))
        run = knots(pace_plan(net, *args).motor_w)
        self.assertAlmostEqual(run.sum() / 6 / case["expected"]["nm"], 1, delta=1e-4)  # the sine in steps
        self.assertLess(np.ptp(run), 1e-6)

    def test_a_menu_of_whole_knots_never_beats_it(self):
        case = cases("energy")["opt.brute7"]
        i = case["inputs"]
        plan = pace_plan(np.array(i["n_W"]), np.ones(7), i["dt"], i["e0"], i["eend"], i["emin"], i["emax"], 1.0,
                         1.0, cubic(i["a"], 6))  # fmt: skip
        found = knots(plan.motor_w).sum()
        self.assertTrue(case["expected"]["nm"] <= found <= 1.06 * case["expected"]["nm"], found)

    def test_sprint_and_rest_by_the_closed_form(self):
        for f in (0.25, 0.5):
            factor = cases("energy")[f"ans.sprint.{f}"]["expected"]["distance_factor"]
            part = np.zeros(24)
            part[: int(24 * f)] = 1.0
            whole, some = (
                pace_plan(
                    np.zeros(24), share, 1.0, 9000.0, 0.0, 0.0, 9000.0, 1.0, 1.0, cubic(12, 12)
                ).distance_m
                for share in (np.ones(24), part)
            )
            self.assertAlmostEqual(some / whole, factor, delta=1e-4)


class ProgrammeTest(unittest.TestCase):
    """Against a linear programme that splits the power curve into edges."""

    def _programme(self, net, share, begin, goal, floor, full, into, out, watts, way) -> float | None:
        steps, edges, slopes = len(net), np.diff(watts), np.diff(way) / np.diff(watts)
        parts = len(edges)
        width = steps * parts + 2 * steps + steps + 1
        cost, most, least = np.zeros(width), [], []
        right, equal = [], []
        for k in range(steps):
            cost[k * parts : (k + 1) * parts] = -slopes * 3600.0
            row = np.zeros(width)
            row[k * parts : (k + 1) * parts], row[steps * parts + k], row[steps * (parts + 1) + k] = 1, 1, -1
            most.append(row)
            right.append(net[k])
            row = np.zeros(width)
            at = steps * (parts + 2)
            row[at + k + 1], row[at + k] = 1, -1
            row[steps * parts + k], row[steps * (parts + 1) + k] = -into, 1 / out
            least.append(row)
            equal.append(0.0)
        bounds = [(0, edge * share[k]) for k in range(steps) for edge in edges]
        bounds += (
            [(0, None)] * (2 * steps) + [(begin, begin)] + [(floor, full)] * (steps - 1) + [(goal, full)]
        )
        found = linprog(
            cost, A_ub=np.array(most), b_ub=right, A_eq=np.array(least), b_eq=equal, bounds=bounds
        )
        return -float(found.fun) if found.success else None

    def test_random_days(self):
        rng = np.random.default_rng(5)
        v = np.linspace(0, 6, 181)
        watts, solved = 12 * v**3, 0
        speeds = speeds_of(watts[1:], v[1:])
        for _ in range(40):
            steps = int(rng.integers(6, 22))
            sunny = rng.random(steps) < 0.6
            net = rng.uniform(-150, 1500, steps) * sunny + rng.uniform(-100, 50, steps)
            share = np.where(rng.random(steps) < 0.75, 1.0, rng.random(steps) * (rng.random(steps) < 0.5))
            full = float(rng.uniform(500, 6000))
            begin, goal = (float(x) for x in rng.uniform(0.2 * full, full, 2))
            wanted = self._programme(net, share, begin, goal, 0.2 * full, full, 0.95, 0.97, watts, v)
            if wanted is None:
                continue
            solved += 1
            found = pace_plan(net, share, 1.0, begin, goal, 0.2 * full, full, 0.95, 0.97, speeds).distance_m
            self.assertAlmostEqual(found / wanted, 1, delta=3e-4)  # the edges of the programme
        self.assertGreater(solved, 20)

    @settings(max_examples=40, deadline=None)
    @given(st.lists(st.floats(-100, 1500), min_size=8, max_size=40), st.floats(0, 1), st.floats(300, 5000))
    def test_more_sun_never_fewer_miles_and_the_store_stays_in_its_bounds(self, net, start, full):
        sun = np.array(net)
        begin = 0.2 * full + 0.8 * start * full
        args = (np.ones(len(sun)), 0.5, begin, 0.2 * full, 0.2 * full, full, 0.95, 0.97, cubic(12, 7))
        less, more = pace_plan(sun, *args), pace_plan(sun + 20.0, *args)
        self.assertGreaterEqual(more.distance_m, less.distance_m - 1e-6 * less.distance_m)
        self.assertTrue(np.all(less.stored_wh <= full * (1 + 1e-9)))
        starved = less.motor_w > 0
        self.assertTrue(np.all(less.stored_wh[1:][starved] >= 0.2 * full * (1 - 1e-6)))


class BoatTest(unittest.TestCase):
    def test_the_ways_end_at_the_reserve_and_none_beats_the_furthest(self):
        for changes in ({}, {"plan__sky": "overcast"}, SMALL, {"plan__start_charge_frac": 0.5}):
            found = ways_of(outlook_of(boat(**changes)))
            by_key = {way.key: way for way in found.ways}
            best = by_key["best"]
            self.assertEqual(len(by_key), 4)
            for way in found.ways:
                self.assertFalse(way.stops)
                self.assertGreaterEqual(best.distance_m, 0.998 * way.distance_m, way.key)
                self.assertGreaterEqual(way.end_frac, found.reserve_frac - 1e-6)
                self.assertGreaterEqual(min(way.soc[:144]), 0.1)
            self.assertLess(by_key["sprint"].distance_m, 0.9 * by_key["constant"].distance_m)

    def test_the_constant_way_is_the_rails_and_a_full_bank_asks_for_pace(self):
        outlook = outlook_of(boat())
        level = next(way for way in ways_of(outlook).ways if way.key == "constant")
        speed = float(outlook.curve.speed_at(bank_power_w(outlook)))
        self.assertAlmostEqual(level.distance_m / (speed * outlook.hours * 3600), 1, delta=1e-3)
        self.assertIsNone(further_way(outlook, level.distance_m))
        small = boat(**SMALL)
        ways = {way.key: way for way in ways_of(outlook_of(small)).ways}
        found = answers_for(small).days_run_bank
        self.assertEqual(found.distance_m, ways["best"].distance_m)
        self.assertGreater(found.distance_m, 1.01 * ways["constant"].distance_m)
        self.assertLess(ways["best"].wasted_wh, ways["constant"].wasted_wh)

    def test_a_bank_below_its_reserve_has_no_way(self):
        for changes in ({"plan__start_charge_frac": 0.1, "plan__sky": "rain"}, {"loads__0__power_w": 3000}):
            found = ways_of(outlook_of(boat(**changes)))
            self.assertTrue(all(way.stops for way in found.ways))
            self.assertIn("starts too low", found.told[0].text)
            self.assertIsNone(further_way(outlook_of(boat(**changes)), 0.0))

    def test_prices_equal_finite_differences(self):
        """Small steps of everything that has a price, on a bank whose bounds bind and on one whose do not."""
        for changes in ({}, SMALL, {**SMALL, "plan__sky": "hazy", "loads__0__power_w": 60}):
            base = shown_outlook(boat(**changes), outlook_of(boat(**changes)))
            speeds = speeds_over_watts(base)
            cycle = cycle_of(base, speeds)
            bank, load = base.design.banks[0], base.design.loads[0]
            group = base.design.panels[0]
            trials = {
                "panel": {"panels": (group.model_copy(update={"nameplate_w": 1.002 * group.nameplate_w}),)},
                "house": {
                    "loads": (load.model_copy(update={"power_w": load.power_w - 1}), *base.design.loads[1:])
                },
                "bank": {"banks": (bank.model_copy(update={"unit_ah": 1.002 * bank.unit_ah}),)},
                "reserve": {"banks": (bank.model_copy(update={"reserve_frac": 0.298}),)},
            }
            for key, parts in trials.items():
                trial = shown_outlook(base.design.changed(**parts), base, base.design.displacement_kg)
                again = cycle_of(trial, speeds_over_watts(trial)).pace.distance_m - cycle.pace.distance_m
                priced = by_worth_m(base, cycle, trial)
                self.assertAlmostEqual(priced, again, delta=0.02 * abs(again) + 1.0, msg=f"{changes} {key}")
            light = shown_outlook(base.design, base, 0.998 * base.design.displacement_kg)
            again = cycle_of(light, speeds_over_watts(light)).pace.distance_m - cycle.pace.distance_m
            self.assertAlmostEqual(by_worth_m(base, cycle, light), again, delta=0.02 * again + 1.0)

    def test_bank_adds_nothing_where_no_bound_binds_and_that_is_said(self):
        outlook = outlook_of(boat())
        found = worths_of(outlook)
        self.assertTrue(any(line.text.startswith("More bank adds nothing") for line in found.told))
        bank = next(step for step in found.steps if step.key == "battery")
        self.assertLess(bank.gain_m, 5.0)
        small = worths_of(outlook_of(boat(**SMALL)))
        self.assertFalse(any(line.text.startswith("More bank adds nothing") for line in small.told))
        self.assertGreater(next(step for step in small.steps if step.key == "battery").gain_m, 50)
        self.assertIsNone(worths_of(outlook_of(boat(banks=[]))))
        self.assertIsNone(ways_of(outlook_of(boat(banks=[]))))


if __name__ == "__main__":
    unittest.main()
