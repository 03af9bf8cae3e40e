"""What else charges: turbines by hand, the generator's rule, shore behind the sun, states through the day."""

from __future__ import annotations

import unittest
from math import exp, gamma

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from parhelion.balance.flow import GENERATOR, RAN, REFUSED, SHORE, SOC
from parhelion.balance.ledger import ledger_of
from parhelion.balance.outlook import outlook_of
from parhelion.balance.sources import mean_wind_w, turbine_w
from parhelion.design import BoatDesign, Source
from parhelion.rail.answers import answers_for
from scipy.integrate import quad

from tests.cases import STEP_H, boat, picture

KINDS = {
    "shore": {"id": "s", "name": "Shore", "kind": "shore", "rated_power_w": 600},
    "wind": {"id": "w", "name": "Wind", "kind": "wind", "rated_power_w": 400},
    "generator": {"id": "g", "name": "Generator", "kind": "generator", "rated_power_w": 900},
    "hydro": {"id": "h", "name": "Tow", "kind": "hydro", "rated_power_w": 300},
    "pedals": {"id": "p", "name": "Pedals", "kind": "pedals", "rated_power_w": 80, "from_clock": "10:00", "hours_per_day": 1},
}  # fmt: skip
HOUSE = {"id": "house", "unit_v": 12.8, "unit_ah": 100}
DOWN = {"id": "down", "from_bank_id": "bank", "to_bank_id": "house", "limit_w": 300, "efficiency": 0.9}


def shown(design: BoatDesign) -> np.ndarray:
    outlook = outlook_of(design)
    return outlook.plan_record[outlook.light.shown]


class TurbineTest(unittest.TestCase):
    def test_watts_rise_with_the_cube_between_begin_and_full(self):
        wind = Source(**KINDS["wind"], begins_mps=3, full_mps=11)
        found = turbine_w(wind, np.array([0, 3, 7, 11, 16, 20]))  # furled in a gale
        np.testing.assert_allclose(found, [0, 0, 400 * (343 - 27) / (1331 - 27), 400, 400, 0])

    def test_a_days_wind_is_the_mean_over_its_spread(self):
        """Against quadrature over the Weibull density; a steady wind of the mean would give less."""
        wind = Source(**KINDS["wind"])
        for mean in (4.0, 7.0):
            scale = mean / gamma(1 + 1 / 3)

            def density(v: float, c: float = scale) -> float:
                return 3 / c * (v / c) ** 2 * exp(-((v / c) ** 3))

            whole = quad(lambda v, f=density: float(turbine_w(wind, v)) * f(v), 0, 40)[0]
            self.assertAlmostEqual(mean_wind_w(wind, mean), whole, delta=0.02 * whole)
            self.assertGreater(whole, float(turbine_w(wind, mean)))


class BehindTheSunTest(unittest.TestCase):
    @settings(max_examples=25, deadline=None)
    @given(
        st.sets(st.sampled_from(sorted(KINDS))), st.floats(0.3, 1), st.floats(0, 12),
        st.sampled_from(["dock", "under_way", "sailing"]), st.sampled_from(["clear", "overcast", "rain"]), st.booleans(),
    )  # fmt: skip
    def test_the_accounts_close_with_every_source(self, kinds, start, wind, state, sky, two):
        banks = {"banks": [boat().bank.model_dump(mode="json"), HOUSE], "links": [DOWN]} if two else {}
        design = boat(sources=[KINDS[k] for k in kinds], plan__start_charge_frac=start, plan__wind_mps=wind,
                      plan__state=state, plan__sky=sky, **banks)  # fmt: skip
        outlook = outlook_of(design)
        record = outlook.plan_record
        for member in (0, outlook.light.shown):
            ledger = ledger_of(outlook, record, member)
            whole = ledger.array_wh + ledger.discharged_wh + ledger.shore_wh + ledger.wind_wh
            self.assertLess(abs(ledger.residual_wh), 1e-8 * max(whole, 1.0))
            self.assertTrue(all(value >= -1e-12 for value in ledger.model_dump().values()), ledger)

    def test_shore_fills_what_the_sun_leaves_and_refuses_no_sun(self):
        at = {"plan__state": "dock", "plan__spells": [{"starts_at": "03:00", "ends_at": "03:10"}],
              "plan__start_charge_frac": 0.5}  # fmt: skip
        alone, moored = (shown(boat(**at, sources=s)) for s in ([], [KINDS["shore"]]))
        self.assertGreater(moored[:, SHORE].sum(), 0)
        self.assertTrue(np.all(moored[:, SOC] >= alone[:, SOC] - 1e-12))
        early = moored[:, SOC] < 0.9
        np.testing.assert_allclose(moored[early, SHORE], 600)
        self.assertLess(moored[~early, SHORE].mean(), 120)  # full: only what the house takes
        self.assertTrue(np.all((moored[:, SHORE] < 1e-6) | (moored[:, REFUSED] < 1e-6)))
        away = shown(boat(**{**at, "plan__state": "anchored"}, sources=[KINDS["shore"]]))
        self.assertEqual(away[:, SHORE].sum(), 0)

    def test_the_generator_starts_and_stops_by_its_rule(self):
        plan = {"plan__sky": "rain", "plan__speed_mps": 2.0, "plan__start_charge_frac": 0.6}
        rule = {**KINDS["generator"], "start_frac": 0.45, "stop_frac": 0.7}
        record = shown(boat(**plan, sources=[rule]))
        on = record[:, GENERATOR] > 1
        before = np.concatenate([[0.6], record[:-1, SOC]])
        starts = np.flatnonzero(on[1:] & ~on[:-1]) + 1
        self.assertTrue(starts.size and np.all(before[starts] <= 0.45), before[starts])
        stops = np.flatnonzero(~on[1:] & on[:-1]) + 1
        self.assertTrue(np.all(before[stops] >= 0.7))
        self.assertTrue(np.all(record[:, RAN] > 1 - 1e-9), "it keeps her going")
        quiet = shown(boat(**plan, sources=[{**rule, "from_clock": "02:00", "hours_per_day": 1}]))
        self.assertLessEqual((quiet[:, GENERATOR] > 1).sum(), 7)
        with self.assertRaisesRegex(ValueError, "never stop"):
            boat(sources=[{**rule, "stop_frac": 0.4}])
        with self.assertRaisesRegex(ValueError, "Two generators"):
            boat(sources=[rule, {**rule, "id": "g2"}])

    def test_more_of_a_source_is_never_less_in_the_bank_and_the_sun_only_answers_stay(self):
        base = answers_for(boat())
        for kind, source in KINDS.items():
            more = answers_for(boat(sources=[source], plan__wind_mps=8.0))
            windy = answers_for(boat(plan__wind_mps=8.0))
            self.assertGreaterEqual(more.bank_at_dusk.soc_frac, windy.bank_at_dusk.soc_frac - 1e-12, kind)
            self.assertEqual(more.sun_only_steady.speed_mps, windy.sun_only_steady.speed_mps, kind)
        self.assertIsNotNone(base.sun_only_steady.speed_mps)

    def test_the_picture_and_the_diagram_show_them(self):
        design = boat(sources=[KINDS["wind"], KINDS["shore"]], plan__wind_mps=8.0)
        drawn = picture("day", design)
        self.assertEqual([other.name for other in drawn.others], ["Shore", "Wind"])
        wind = mean_wind_w(design.sources[0], 8.0)
        self.assertAlmostEqual(drawn.ledger.wind_wh, 24 * wind, delta=1e-6)
        self.assertLess(drawn.sun_share_frac, 1)
        drawn = picture("strings", design)
        amps = [charger.wire.current_a * design.bank.nominal_v for charger in drawn.chargers]
        np.testing.assert_allclose(amps, [400, 600])


class ThroughTheDayTest(unittest.TestCase):
    FOLDED = {"under_way": {"how": "folded"}}

    def test_a_stay_takes_the_harvest_of_its_state_and_time(self):
        at = {"places__0__stands": {"under_way": {"how": "folded"}}}
        noon = {"starts_at": "00:00", "ends_at": "13:00", "state": "anchored"}
        away, lying, both = (
            outlook_of(boat(**{**at, **plan})).harvest.sun_w[0]
            for plan in ({}, {"plan__state": "anchored"}, {"plan__stays": [noon]})
        )
        share = np.divide(
            both - away, lying - away, out=np.full_like(both, np.nan), where=lying - away > 1e-6
        )
        found = share[~np.isnan(share)]
        self.assertTrue(
            np.all((np.abs(found) < 1e-9) | (np.abs(found - 1) < 1e-9) | (np.diff(found, prepend=1) != 0))
        )
        self.assertTrue(0 < both.sum() - away.sum() < lying.sum() - away.sum())

    def test_each_spell_at_its_own_speed(self):
        spells = [
            {"starts_at": "09:00", "ends_at": "11:00", "speed_mps": 1.2},
            {"starts_at": "14:00", "ends_at": "15:00"},
        ]
        outlook = outlook_of(boat(plan__spells=spells, plan__start_charge_frac=0.9, plan__speed_mps=2.0))
        metres = outlook.plan_distance_m(outlook.plan_record)[outlook.light.shown]
        self.assertAlmostEqual(metres, 2 * 3600 * 1.2 + 3600 * 2.0, delta=1)
        watts = float(outlook.plan_motor_w.sum() * STEP_H)
        asked = 2 * float(outlook.curve.power_at(1.2)) + float(outlook.curve.power_at(2.0))
        self.assertAlmostEqual(watts, asked, delta=1e-6 * asked)
        plain = [{k: v for k, v in spell.items() if k != "speed_mps"} for spell in spells]
        same = outlook_of(boat(plan__spells=plain, plan__start_charge_frac=0.9, plan__speed_mps=2.0))
        np.testing.assert_allclose(same.plan_record, same.run(same.plan_power_w, 0.9), atol=1e-12)


if __name__ == "__main__":
    unittest.main()
