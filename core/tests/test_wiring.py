"""Wiring: published and analytic cases, laws of strings, what is told of a wrong one."""

from __future__ import annotations

import unittest

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from parhelion.balance.outlook import outlook_of
from parhelion.cli import told
from parhelion.data import controller_models
from parhelion.design import BoatDesign, PanelModel
from parhelion.panels.deck import deck_of
from parhelion.panels.harvest import harvest
from parhelion.panels.mismatch import effective_light, string_light
from parhelion.panels.shaded import group_light
from parhelion.stations.array.year import through_year
from parhelion.stations.strings.findings import RULES
from parhelion.stations.strings.propose import first_legal, propose
from parhelion.sun.light import clear_light
from parhelion.wiring.by_itself import absorption_v
from parhelion.wiring.cables import (
    AMPACITY_A,
    SIZES_MM2,
    cable_for,
    drop_v,
    gauge,
    lasting_a,
    string_fuses,
)
from parhelion.wiring.circuits import wiring_of
from parhelion.wiring.panel_volts import most_in_series, panel_volts

from tests.cases import STEP_H, boat, cases, findings_of, picture
from tests.test_shade import CATCHES, spar

SHEET = {
    "panels__0__open_circuit_v": 25.0, "panels__0__best_v": 20.5, "panels__0__best_a": 10.49,
    "panels__0__short_circuit_a": 11.1, "panels__0__cells_across": 4, "panels__0__cells_along": 9,
    "panels__0__most_fuse_a": 20.0, "panels__0__voltage_coefficient_per_k": -0.0028,
}  # fmt: skip
GOOD = {
    **SHEET, "panels__0__series": 2, "controllers__0__most_pv_v": 100.0, "controllers__0__most_pv_a": 40.0,
    "controllers__0__most_bank_v": 24.0, "controllers__0__current_limit_a": 40.0,
}  # fmt: skip
PAIR = {
    "id": "canopy-panels", "place_id": "canopy", "controller_id": "canopy-controller", "nameplate_w": 200,
    "count": 2, "series": 2, "cells_across": 4, "cells_along": 9, "most_fuse_a": 20.0,
}  # fmt: skip
WRONG = {
    "over_limit": {"panels__0__series": 4},
    "too_low": {"panels__0__series": 1},
    "left_over": {"panels__0__series": 3},
    "input_amps": {"controllers__0__most_pv_a": 15.0},
    "wrong_bank": {"controllers__0__most_bank_v": 12.0},
    "mixed_volts": {"panels": [PAIR, {**PAIR, "id": "other", "series": 3, "count": 3}]},
    "mixed_string": {"panels": [PAIR, {**PAIR, "id": "other", "nameplate_w": 150}], "strings": [
        {"id": "s", "controller_id": "canopy-controller", "panels": [
            {"group_id": "canopy-panels", "number": 0}, {"group_id": "other", "number": 0}]},
        {"id": "t", "controller_id": "canopy-controller", "panels": [
            {"group_id": "canopy-panels", "number": 1}, {"group_id": "other", "number": 1}]},
    ]},
    "string_fuse": {"panels__0__count": 8},
    "large_array": {"controllers__0__current_limit_a": 20.0},
    "thick_cable": {"wiring__motor_cable_m": 49.0},
    "shock": {"panels__0__series": 4, "controllers__0__most_pv_v": 150.0},
    "charge_rate": {"banks__0__charge_limit_a": 20.0},
    "fuse_far": {"wiring__fuse_at_m": 0.9},
    "direct_drive": {"banks": [], "loads": []},
    "volts_guessed": {"panels__0__best_v": None},
    "pwm_loss": {"controllers__0__kind": "pwm"},
    "sun_by_bank": {
        "banks": [{"id": "bank", "unit_v": 25.6, "unit_ah": 280}, {"id": "house", "unit_v": 25.6, "unit_ah": 100}],
        "controllers__0__bank_id": "house",
    },
    "within_limits": {},
    "order_of_connecting": {},
}  # fmt: skip


CHECKED = ("over_limit", "too_low", "left_over", "input_amps", "wrong_bank", "mixed_volts", "thick_cable",
           "charge_rate", "fuse_far")  # fmt: skip

MAST = [spar(0.1, 0.6, top=9.0, radius=0.12, name="mast")]


def day_wh(**changes) -> float:
    design = boat(**{**CATCHES, "controllers__0__current_limit_a": None, **changes})
    return float(harvest(design, clear_light(design.site, design.plan.date)).sun_w.sum() * STEP_H)


class ReferenceTest(unittest.TestCase):
    def test_drops_sizes_and_strings(self):
        found = cases("energy")
        wire = found["wire.drop"]
        inputs = wire["inputs"]
        for copper, volts in zip(inputs["T"], wire["expected"]["V"], strict=True):
            self.assertAlmostEqual(
                drop_v(inputs["A"], inputs["L_oneway"], inputs["mm2"], copper), volts, places=9
            )
        inputs, expected = found["wire.pick.4"]["inputs"], found["wire.pick.4"]["expected"]
        made = cable_for(inputs["A"], inputs["L_oneway"], inputs["V"], inputs["drop"], inputs["T"])
        self.assertEqual((made.size_mm2, made.fuse_a), (expected["size"], expected["fuse"]))
        self.assertAlmostEqual(made.drop_v, expected["dropV"], places=6)
        self.assertAlmostEqual(made.drop_frac, expected["drop_frac"], places=6)
        inputs, expected = found["wire.voc"]["inputs"], found["wire.voc"]["expected"]
        panel = panel_volts(PanelModel(nameplate_w=400, open_circuit_v=inputs["voc"], best_v=38, best_a=10.5,
                                       short_circuit_a=11, voltage_coefficient_per_k=inputs["beta"]))  # fmt: skip
        self.assertAlmostEqual(panel.open_at(inputs["T"], inputs["ns"]), expected["V"], places=9)
        self.assertEqual(
            most_in_series(inputs["voc"], inputs["beta"], inputs["T"], inputs["limit"]), expected["ns_max"]
        )
        inputs, expected = found["wire.isc"]["inputs"], found["wire.isc"]["expected"]
        self.assertAlmostEqual(lasting_a(inputs["isc"], inputs["npar"]), expected["design_A"])

    def test_linear_volts_are_the_single_diodes_within_half_a_per_cent(self):
        for name in ("string_1s_limits", "string_2s_limits", "string_3s_limits"):
            inputs, expected = cases("sun")[name]["inputs"], cases("sun")[name]["expected"]
            series = inputs["series"]
            volts = expected["voc_stc"] / series
            panel = panel_volts(
                PanelModel(nameplate_w=102.6, open_circuit_v=volts, best_v=18.42, best_a=5.572, short_circuit_a=5.99,
                           voltage_coefficient_per_k=expected["beta_voc_pct_per_k"] / 100,
                           power_coefficient_per_k=-0.004965, current_coefficient_per_k=0.0005)
            )  # fmt: skip
            self.assertAlmostEqual(
                panel.open_at(inputs["cold_c"], series) / expected["voc_cold"], 1, delta=0.005
            )
            self.assertAlmostEqual(
                panel.best_at(inputs["hot_c"], series) / expected["vmp_hot"], 1, delta=0.005
            )

    def test_gauges_by_their_own_formula(self):
        for size, name in ((2.0, "14"), (5.2, "10"), (13.2, "6"), (33.0, "2"), (53.0, "1/0"), (84.0, "3/0")):
            self.assertEqual(gauge(size), name)


class CableTest(unittest.TestCase):
    @settings(max_examples=60, deadline=None)
    @given(st.floats(0.5, 180), st.floats(0.5, 30), st.floats(10, 60), st.floats(0.01, 0.1))
    def test_a_cable_carries_its_fuse_and_keeps_the_drop_or_says_so(self, current, length, volts, share):
        made = cable_for(current, length, volts, share)
        ampacity = AMPACITY_A[SIZES_MM2.index(made.size_mm2)]
        if made.reason != "none is thick enough":
            self.assertGreaterEqual(made.fuse_a, 1.25 * current - 1e-9)
            self.assertGreaterEqual(ampacity, made.fuse_a)
            self.assertLessEqual(made.drop_frac, share + 1e-9)
        hotter = cable_for(current, length, volts, share, engine_space=True)
        self.assertGreaterEqual(hotter.size_mm2, made.size_mm2)

    def test_string_fuses(self):
        self.assertIs(string_fuses(11, 1, 20), False)
        self.assertIs(string_fuses(11, 2, 20), False)
        self.assertIs(string_fuses(11, 3, 20), True)
        self.assertIsNone(string_fuses(11, 2, None))
        self.assertIs(string_fuses(11, 3, None), True)


class StringsTest(unittest.TestCase):
    @settings(max_examples=30, deadline=None)
    @given(st.lists(st.floats(0, 1), min_size=6, max_size=6), st.floats(50, 900), st.floats(5, 300))
    def test_one_panel_is_a_string_of_one(self, worst, beam, diffuse):
        shares = np.array(worst)[:, None]
        light = np.array([[beam]]), np.array([[diffuse]])
        kept = 1 - (shares[0::2] + shares[1::2]) / 2
        drop = 0.5 / (0.53 * 72 / 3)
        string = string_light(*light, kept, np.ones(3), drop)
        np.testing.assert_allclose(string, effective_light(*light, shares, 72, False), rtol=1e-9)

    @settings(max_examples=60, deadline=None)
    @given(st.integers(2, 5), st.randoms(use_true_random=False), st.booleans())
    def test_a_string_is_the_best_of_all_the_currents_it_could_carry(self, panels, random, rough):
        """Against every substring's current tried in turn; rough shares make many of them equal."""
        parts, drop = 3 * panels, 0.5 / (0.53 * 12)
        kept = np.array([[round(random.random(), 0 if rough else 9) for _ in range(4)] for _ in range(parts)])
        views = np.array([0.5 + round(random.random() / 2, 0 if rough else 9) for _ in range(parts)])
        beam, diffuse = (
            np.array([[800.0, 0.0, 5.0, 0.0], [300.0, 700.0, 9.0, 0.0]]),
            np.array([[90.0, 200.0, 40.0, 0.0], [150.0, 30.0, 1.0, 0.0]]),
        )
        found = string_light(beam, diffuse, kept, views, drop)
        currents = diffuse * views[:, None, None] + beam * kept[:, None, :]
        for n, s in np.ndindex(2, 4):
            own = currents[:, n, s]
            tries = []
            for current in own:
                run = own >= current
                volts = 1 + 0.057 * np.log((1 - 0.94 * current / np.maximum(own[run], 1e-9)) / (1 - 0.94))
                tries.append(current * (volts.sum() - drop * (~run).sum()) / parts)
            self.assertAlmostEqual(found[n, s], max(tries), places=6)

    def test_series_never_beats_a_controller_each_and_unshaded_it_is_the_same(self):
        worst = 1.0
        for heading in (20.0, 130.0, 250.0):
            at = {"plan__heading_deg": heading, "obstacles": MAST}
            each, two, four = (day_wh(**at, panels__0__series=n) for n in (1, 2, 4))
            self.assertLessEqual(two, each * (1 + 1e-9))
            self.assertLessEqual(four, two * (1 + 1e-9))
            self.assertGreater(four, 0.8 * each)
            worst = min(worst, four / each)
        self.assertLess(worst, 0.985)
        self.assertAlmostEqual(day_wh(panels__0__series=4) / day_wh(), 1, places=9)

    def test_panels_in_no_string_give_nothing(self):
        self.assertAlmostEqual(day_wh(panels__0__series=3) / day_wh(), 0.75, places=9)
        shaded = day_wh(panels__0__series=3, obstacles=MAST, plan__heading_deg=20.0)
        self.assertTrue(0.55 < shaded / day_wh(plan__heading_deg=20.0) < 0.75)
        design = boat(**CATCHES, obstacles=MAST, plan__heading_deg=20.0, panels__0__series=3)
        lits = list(group_light(clear_light(design.site, design.plan.date), deck_of(design).groups[0], 20.0))
        self.assertEqual([bool(lit.effective_w_per_m2.any()) for lit in lits], [True, True, True, False])

    def test_colder_never_lowers_open_volts_and_a_breaker_takes_no_energy(self):
        cold = [wiring_of(boat(**GOOD, wiring__coldest_c=c)).circuits[0].cold_v for c in (20.0, 0.0, -20.0)]
        self.assertEqual(cold, sorted(cold))
        self.assertEqual(day_wh(**SHEET), day_wh(**{**SHEET, "panels__0__most_fuse_a": 5.0}))


class ProposeTest(unittest.TestCase):
    def test_every_proposal_holds_the_limits_and_gives_what_it_says(self):
        design = boat(**{**CATCHES, **GOOD}, obstacles=MAST, plan__heading_deg=20.0)
        found = propose(outlook_of(design))
        self.assertGreater(found.tried, 20)
        self.assertEqual(found.proposals[0].key, "best")
        wh = {item.key: item.day_wh for item in found.proposals}
        self.assertEqual(max(wh.values()), wh["most"])
        cheap = min(found.proposals, key=lambda item: item.price)
        self.assertEqual([c.controller for c in first_legal(design)], [c.controller for c in cheap.choices])
        self.assertGreaterEqual(wh["best"], 0.98 * wh["most"])
        prices = {item.key: item.price for item in found.proposals}
        self.assertLess(prices["best"], prices["most"])
        for item in found.proposals:
            refitted = BoatDesign.model_validate(item.refit.of(design).model_dump())
            told_ids = {finding.id for finding in findings_of("strings", refitted)}
            self.assertFalse(told_ids & set(CHECKED), told_ids)
            own_wh = sum(24 * box.count * box.own_power_w for box in refitted.controllers)
            light = outlook_of(refitted).light.mean
            given = float(harvest(refitted, light).sun_w.sum() * STEP_H)
            self.assertAlmostEqual(given - own_wh, item.day_wh, delta=1)
            year = through_year(refitted).year_wh
            self.assertAlmostEqual((year - 365 * own_wh) / item.year_wh, 1, places=6)

    def test_panels_that_no_controller_suits_are_named(self):
        low = propose(outlook_of(boat(**{**GOOD, "panels__0__count": 1, "panels__0__series": 1})))
        self.assertEqual((low.proposals, low.unwired), ([], ["Canopy"]))
        self.assertEqual(propose(outlook_of(boat(banks=[]))).proposals, [])

    def test_a_bank_over_48_volts_has_controllers_too(self):
        limits = {model.name: model.most_pv_v for model in controller_models()}
        for bank_v, count, series in ((76.8, 4, None), (96, 12, None)):
            high = {
                **GOOD,
                "banks__0__unit_v": bank_v,
                "panels__0__count": count,
                "panels__0__series": series,
            }
            found = propose(outlook_of(boat(**high)))
            choices = [choice for item in found.proposals for choice in item.choices]
            self.assertTrue(choices)
            for choice in choices:
                self.assertIn("high bank", choice.controller)
                self.assertLessEqual(choice.cold_v, limits[choice.controller])
        self.assertTrue(any(choice.hot_v > 1.2 * 96 for choice in choices))

    def test_every_controller_of_the_list_has_its_label(self):
        models = controller_models()
        self.assertGreaterEqual(len(models), 12)
        for model in models:
            self.assertTrue(model.most_pv_v and model.most_pv_a and model.current_limit_a and model.price)


class LadderTest(unittest.TestCase):
    def test_the_rungs_of_two_in_series(self):
        rung = picture("strings", boat(**GOOD)).rungs[0]
        self.assertAlmostEqual(rung.cold_v, 2 * 25 * (1 + 0.0028 * 35), places=9)
        self.assertLess(rung.hot_v, rung.noon_v)
        self.assertEqual((rung.series, rung.strings, rung.over, rung.low), (2, 2, False, False))
        design = boat(**GOOD)
        self.assertAlmostEqual(absorption_v(design.bank), 8 * 3.5)

    def test_every_wrong_wiring_is_told_and_a_right_one_is_not(self):
        self.assertEqual({rule.__name__ for rule in RULES}, set(WRONG))
        right = {finding.id for finding in findings_of("strings", boat(**GOOD))}
        self.assertEqual(right, {"within_limits", "order_of_connecting"})
        for name, change in WRONG.items():
            with self.subTest(name):
                found = {
                    finding.id: finding for finding in findings_of("strings", boat(**{**GOOD, **change}))
                }
                self.assertIn(name, found)
                text = told(found[name].title) + told(found[name].detail)
                self.assertNotIn("{", text)
                self.assertNotIn(" safe", text)
                if name in CHECKED:
                    self.assertNotIn("within_limits", found)

    def test_a_boat_without_bank_or_panels_is_drawn_too(self):
        for change in ({"banks": []}, {"panels": []}):
            drawn = picture("strings", boat(**change))
            self.assertEqual(len(drawn.rungs), 0 if "panels" in change else 1)
        self.assertIsNone(picture("strings", boat(banks=[])).rungs[0].needs_v)


if __name__ == "__main__":
    unittest.main()
