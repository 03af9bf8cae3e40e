"""Wiring: published and analytic cases, laws of strings, what is told of a wrong one."""

from __future__ import annotations

import unittest

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from parhelion.balance.outlook import outlook_of
from parhelion.cli import told
from parhelion.data import controller_models
from parhelion.design import BoatDesign, Controller, PanelModel
from parhelion.panels.bodies import body_of
from parhelion.panels.deck import deck_of
from parhelion.panels.harvest import harvest
from parhelion.panels.layout import substring_of_cells
from parhelion.panels.mismatch import effective_light, string_light
from parhelion.panels.plane import plane_light
from parhelion.panels.shade import shares_towards, sky_table, towards
from parhelion.panels.shaded import group_light
from parhelion.panels.strung import string_watts
from parhelion.stations.array.year import through_year
from parhelion.stations.strings.boxes_year import boxes_through_year
from parhelion.stations.strings.findings import RULES
from parhelion.stations.strings.propose import first_legal, propose
from parhelion.stations.strings.ways_out import volts_options
from parhelion.sun.light import clear_light
from parhelion.wiring.cables import (
    AMPACITY_A,
    SIZES_MM2,
    cable_for,
    drop_v,
    gauge,
    lasting_a,
    string_fuses,
)
from parhelion.wiring.circuits import absorption_v, wiring_of
from parhelion.wiring.conversion import passed
from parhelion.wiring.held import share_at, volts_beside
from parhelion.wiring.panel_volts import most_in_series, panel_volts
from pvlib.pvsystem import calcparams_desoto, i_from_v, singlediode

from tests.cases import STEP_H, boat, cases, findings_of, picture
from tests.test_shade import CATCHES, spar
from tests.twins import cells

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
    MAST = [spar(0.1, 0.6, top=9.0, radius=0.12, name="mast")]

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
            at = {"plan__heading_deg": heading, "obstacles": self.MAST}
            each, two, four = (day_wh(**at, panels__0__series=n) for n in (1, 2, 4))
            self.assertLessEqual(two, each * (1 + 1e-9))
            self.assertLessEqual(four, two * (1 + 1e-9))
            self.assertGreater(four, 0.8 * each)
            worst = min(worst, four / each)
        self.assertLess(worst, 0.985)
        self.assertAlmostEqual(day_wh(panels__0__series=4) / day_wh(), 1, places=9)

    def test_panels_in_no_string_give_nothing(self):
        self.assertAlmostEqual(day_wh(panels__0__series=3) / day_wh(), 0.75, places=9)
        shaded = day_wh(panels__0__series=3, obstacles=self.MAST, plan__heading_deg=20.0)
        self.assertTrue(0.55 < shaded / day_wh(plan__heading_deg=20.0) < 0.75)
        design = boat(**CATCHES, obstacles=self.MAST, plan__heading_deg=20.0, panels__0__series=3)
        lits = list(group_light(clear_light(design.site, design.plan.date), deck_of(design).groups[0], 20.0))
        self.assertEqual([bool(lit.effective_w_per_m2.any()) for lit in lits], [True, True, True, False])

    def test_colder_never_lowers_open_volts_and_a_breaker_takes_no_energy(self):
        cold = [wiring_of(boat(**GOOD, wiring__coldest_c=c)).circuits[0].cold_v for c in (20.0, 0.0, -20.0)]
        self.assertEqual(cold, sorted(cold))
        self.assertEqual(day_wh(**SHEET), day_wh(**{**SHEET, "panels__0__most_fuse_a": 5.0}))


def string(name: str, *numbers: int, group: str = "canopy-panels") -> dict:
    panels = [{"group_id": group, "number": number} for number in numbers]
    return {"id": name, "controller_id": "canopy-controller", "panels": panels}


class HandTest(unittest.TestCase):
    """Strings wired by hand."""

    HEADINGS = (20.0, 130.0, 250.0)

    def test_wired_by_hand_as_the_group_says_is_the_same_harvest(self):
        for heading in self.HEADINGS:
            at = {"plan__heading_deg": heading, "obstacles": StringsTest.MAST}
            for series in (1, 2, 4):
                usual = day_wh(**at, panels__0__series=series)
                strings = [string(f"s{k}", *range(k, k + series)) for k in range(0, 4, series)]
                self.assertAlmostEqual(
                    day_wh(**at, strings=strings) / usual, 1, places=6, msg=f"{heading} {series}"
                )

    def test_what_is_not_connected_gives_nothing_and_stale_panels_fall_out(self):
        whole = day_wh()
        apart = {"controllers__0__inputs": 2, "strings": [string("s", 0), string("t", 1, 3)]}
        self.assertAlmostEqual(day_wh(**apart) / whole, 0.75, places=9)
        gone = [string("s", 0, 1), string("t", 2, 9), string("u", 0, group="sold")]
        self.assertAlmostEqual(day_wh(**{**apart, "strings": gone}) / whole, 0.75, places=9)
        drawn = picture("strings", boat(strings=gone))
        self.assertEqual([panel.label for panel in drawn.board.loose], ["Canopy 4"])
        found = {finding.id: told(finding.title) for finding in findings_of("strings", boat(strings=gone))}
        self.assertEqual(found["left_over"], "1 panel is not connected")
        with self.assertRaisesRegex(ValueError, "in two strings"):
            boat(strings=[string("s", 0, 1), string("t", 1)])

    def test_which_panels_share_a_string_matters_under_a_mast(self):
        at = {"plan__heading_deg": 20.0, "obstacles": StringsTest.MAST}
        each = day_wh(**at, strings=[string(f"s{k}", k) for k in range(4)])
        pairs = [
            day_wh(**at, strings=[string("s", 0, a), string("t", *({1, 2, 3} - {a}))]) for a in (1, 2, 3)
        ]
        self.assertLess(max(pairs), each * (1 + 1e-9))
        self.assertGreater(max(pairs) - min(pairs), 0.0001 * each)

    def test_a_string_of_different_panels_never_beats_them_apart(self):
        panels = boat().panels[0]
        for amps in (4.0, 8.0, 9.5):
            weak = panels.model_copy(update={"best_a": amps, "nameplate_w": 20.0 * amps, "best_v": 20.0})
            strong = panels.model_copy(update={"best_a": 9.5, "nameplate_w": 190.0, "best_v": 20.0})
            both = string_watts((weak, strong))
            self.assertLessEqual(both, weak.nameplate_w + strong.nameplate_w + 1e-9)
            self.assertGreaterEqual(both, 0.95 * max(strong.nameplate_w, 2 * weak.nameplate_w) - 20)
        self.assertAlmostEqual(string_watts((strong, strong)), 380.0, places=6)


class CellsTest(unittest.TestCase):
    """Against panels solved cell by cell, over a clear day behind a mast."""

    def test_a_day_in_series_side_by_side_and_one_by_one(self):
        mast = spar(0.3, 0.5, top=12.0, radius=0.05, name="mast")
        at = {**CATCHES, "obstacles": [mast], "plan__heading_deg": 180.0, "panels__0__count": 2,
              "panels__0__cells_across": 4, "panels__0__cells_along": 9, "plan__air_temperature_c": 20.0,
              "controllers__0__current_limit_a": None, "banks__0__nominal_v": 12.8}  # fmt: skip
        design = boat(**at)
        light, deck = clear_light(design.site, design.plan.date), deck_of(design).groups[0]
        day = light.day
        up = np.flatnonzero(day.elevation_deg > 0)
        plane = plane_light(light, 0.0, 0.0)
        sun = towards((day.azimuth_deg[up] - 180.0) % 360.0, day.elevation_deg[up])
        shares = [shares_towards(panel, (body_of(design.obstacles[0]),), sun) for panel in deck.panels]
        views = [
            sky_table(panel, bodies).sky_view for panel, bodies in zip(deck.panels, deck.bodies, strict=True)
        ]
        ids = [substring_of_cells(panel) // 2 for panel in deck.panels]
        sums = dict.fromkeys(("series", "parallel", "each", "open"), 0.0)
        for k, step in enumerate(up):
            beam = plane.beam_w_per_m2[0, step]
            rest = plane.effective_w_per_m2[0, step] - beam
            if beam + rest < 20:
                continue
            curves = [
                cells.panel_volts(np.round((rest * view + beam * (1 - share[:, :, k])) / 1000, 3), number)
                for share, view, number in zip(shares, views, ids, strict=True)
            ]
            bare = cells.panel_volts(np.full(ids[0].shape, round((rest + beam) / 1000, 3)), ids[0])
            sums["series"] += cells.series_w(curves)
            sums["parallel"] += cells.parallel_w(curves)
            sums["each"] += sum(cells.series_w([curve]) for curve in curves)
            sums["open"] += 2 * cells.series_w([bare])
        bare = day_wh(**{**at, "obstacles": []})
        one_by_one, in_series = day_wh(**at) / bare, day_wh(**at, panels__0__series=2) / bare
        self.assertLess(one_by_one, 0.97)
        self.assertAlmostEqual(one_by_one, sums["each"] / sums["open"], delta=0.02)
        self.assertAlmostEqual(one_by_one, sums["parallel"] / sums["open"], delta=0.02)
        self.assertAlmostEqual(in_series, sums["series"] / sums["open"], delta=0.02)


class HeldTest(unittest.TestCase):
    """Strings held at volts that are not their best."""

    DIODE = {"alpha_sc": 0.003, "a_ref": 1.0, "I_L_ref": 6.0, "I_o_ref": 6.157127779652971e-10,
             "R_sh_ref": 200.0, "R_s": 0.3}  # fmt: skip
    ONE = {**SHEET, "controllers__0__current_limit_a": None, "obstacles": []}

    def test_the_share_is_a_single_diodes_below_its_best_volts_and_near_it_beyond(self):
        panel = panel_volts(
            PanelModel(
                nameplate_w=102.64, open_circuit_v=22.9807, short_circuit_a=5.991, best_v=18.4209, best_a=5.5719,
                voltage_coefficient_per_k=-0.003935, current_coefficient_per_k=0.0005,
                power_coefficient_per_k=-0.004965,
            )
        )  # fmt: skip
        for cell_c in (10.0, 25.0, 45.0, 65.0, 75.0):
            for light in (1000.0, 300.0):
                diode = calcparams_desoto(light, cell_c, **self.DIODE)
                most = singlediode(*diode)["p_mp"]
                for volts in (12.5, 13.2, 14.4, 16.0, 17.0):
                    whole = max(volts * i_from_v(volts, *diode), 0.0) / most
                    found = float(share_at(panel, volts, np.array(light), np.array(cell_c)))
                    beyond = volts > float(panel.best_at(cell_c)) - 1.0
                    near = 0.013 if not beyond else 0.03 if light == 1000 else 0.08
                    self.assertAlmostEqual(found, whole, delta=near, msg=f"{cell_c} {light} {volts}")

    def test_a_36_cell_panel_behind_pwm(self):
        panel = panel_volts(PanelModel(nameplate_w=97, cells_across=4, cells_along=9, best_v=17.9, best_a=5.4,
                                       open_circuit_v=22.0, short_circuit_a=5.75,
                                       power_coefficient_per_k=-0.0048))  # fmt: skip
        for cell_c, ratio in ((10, 0.73), (25, 0.78), (45, 0.88), (65, 0.97)):
            found = float(share_at(panel, 13.2, np.array(1000.0), np.array(float(cell_c))))
            self.assertAlmostEqual(found, ratio, delta=0.01)

    @settings(max_examples=20, deadline=None)
    @given(st.floats(-5, 35), st.sampled_from([1, 2, 4]), st.floats(0.9, 1))
    def test_pwm_never_beats_mppt_and_more_volts_than_needed_change_nothing(self, air, series, efficiency):
        at = {**self.ONE, "plan__air_temperature_c": air, "controllers__0__efficiency": efficiency}
        mppt, pwm = (day_wh(**at, panels__0__series=series, controllers__0__kind=k) for k in ("mppt", "pwm"))
        self.assertLessEqual(pwm, mppt * (1 + 1e-9))
        if series > 1:
            self.assertAlmostEqual(mppt / day_wh(**at, panels__0__series=2), 1, places=9)

    def test_volts_under_the_banks_are_taken_off_and_lifted_ones_are_not(self):
        enough = day_wh(**self.ONE, panels__0__series=2)
        self.assertEqual(day_wh(**self.ONE, panels__0__series=1), 0.0)  # 20 V on a bank of 24
        near = {
            **self.ONE,
            "panels__0__series": 1,
            "panels__0__best_v": 29.0,
            "panels__0__open_circuit_v": 35.0,
        }
        warm, cold = (day_wh(**near, plan__air_temperature_c=c) for c in (35.0, -5.0))
        free = [day_wh(**near, plan__air_temperature_c=c, controllers__0__headroom_v=0,
                       banks__0__nominal_v=12.8) for c in (35.0, -5.0)]  # fmt: skip
        self.assertTrue(0.5 < warm / free[0] < cold / free[1] <= 1 + 1e-9, (warm, cold, free))
        boost = {
            **self.ONE,
            "panels__0__series": 1,
            "controllers__0__kind": "boost",
            "banks__0__nominal_v": 51.2,
        }
        self.assertAlmostEqual(day_wh(**boost) / enough, 1, places=9)

    def test_boost_keeps_under_the_bank_and_says_so(self):
        at = {
            **GOOD,
            "controllers__0__kind": "boost",
            "banks__0__nominal_v": 51.2,
            "controllers__0__most_bank_v": 48.0,
        }
        told_of = {
            n: {f.id for f in findings_of("strings", boat(**{**at, "panels__0__series": n}))} for n in (1, 2)
        }
        self.assertNotIn("over_limit", told_of[1])
        self.assertIn("over_limit", told_of[2])

    def test_a_controllers_own_draw_is_the_houses_day_and_night(self):
        idle, drawing = (
            outlook_of(boat(controllers__0__own_power_w=w, controllers__0__count=3)) for w in (0, 2)
        )
        np.testing.assert_allclose(drawing.house_w - idle.house_w, 6.0)

    def test_a_year_of_boxes_adds_up_and_clips_where_it_is_small(self):
        large, small = (boxes_through_year(boat(**{**GOOD, "controllers__0__current_limit_a": a})).boxes[0]
                        for a in (40.0, 18.0))  # fmt: skip
        design = boat(**{**GOOD, "controllers__0__current_limit_a": 18.0})
        self.assertAlmostEqual(small.year_wh / through_year(design).year_wh, 1, places=9)
        self.assertEqual((large.clipped_wh, large.worst_month), (0.0, None))
        self.assertAlmostEqual((small.year_wh + 0.96 * small.clipped_wh) / large.year_wh, 1, delta=0.002)
        self.assertIn(small.worst_month, (4, 5, 6, 7))
        self.assertAlmostEqual(small.clipped_frac, 1 - small.year_wh / large.year_wh, delta=0.002)

    @settings(max_examples=40, deadline=None)
    @given(
        st.floats(0.9, 1.0), st.one_of(st.none(), st.floats(0, 0.06)), st.one_of(st.none(), st.floats(0, 0.03)),
        st.floats(2, 60), st.integers(1, 3), st.floats(0, 5000),
    )  # fmt: skip
    def test_what_is_offered_is_passed_lost_or_turned_away(self, best, light, full, limit, boxes, offered):
        at = {0.1: light, 1.0: full}
        known = {x: best - d for x, d in at.items() if d is not None}
        box = Controller(id="c", efficiency=best, light_efficiency=known.get(0.1), full_efficiency=known.get(1.0),
                         current_limit_a=limit, count=boxes)  # fmt: skip
        watts = np.linspace(0.0, offered, 50)
        out, lost, above = passed(watts, box, 24.0)
        np.testing.assert_allclose(out + lost + above, watts, atol=1e-9)
        self.assertTrue(np.all(np.diff(out) >= -1e-9) and np.all(out <= boxes * limit * 24.0 * (1 + 1e-12)))
        self.assertTrue(np.all((out >= 0) & (lost >= 0) & (above >= 0)))
        rated = boxes * limit * 24.0
        if 1.0 in known:
            most = rated / known[1.0]
            for load, wanted in {**known, 0.5: best}.items():
                share = float(passed(np.array([load * most]), box, 24.0).out_w[0]) / (load * most)
                self.assertAlmostEqual(share, wanted, delta=1e-9)

    def test_strings_of_different_volts_on_one_input_give_what_two_single_diodes_do(self):
        """One panel beside two in series, against the best common volts of their diode curves."""
        labels = {"nameplate_w": 102.64, "open_circuit_v": 22.9807, "short_circuit_a": 5.991, "best_v": 18.4209,
                  "best_a": 5.5719, "voltage_coefficient_per_k": -0.003935, "current_coefficient_per_k": 0.0005,
                  "power_coefficient_per_k": -0.00448}  # fmt: skip
        for pair in ((1, 2), (2, 3), (3, 4)):
            diode = calcparams_desoto(1000.0, 45.0, **self.DIODE)
            best = float(singlediode(*diode)["p_mp"])
            volts = np.linspace(1, pair[1] * 23, 4000)
            amps = sum(np.maximum(i_from_v(volts / n, *diode), 0.0) for n in pair)
            truth = float((volts * amps).max()) / (sum(pair) * best)
            groups = [{"id": f"g{n}", "place_id": "canopy", "controller_id": "canopy-controller", "count": n,
                       "series": n, **labels} for n in pair]  # fmt: skip
            alone = {"banks__0__nominal_v": 4.0, "controllers__0__headroom_v": 0, "panels": groups}
            beside = volts_beside(boat(**alone), "canopy-controller")
            panel = panel_volts(PanelModel(**labels))
            found = sum(
                n * float(share_at(panel, beside[(f"g{n}",) * n] * panel.best_at(45.0), np.array(1000.0),
                                   np.array(45.0))) for n in pair
            ) / sum(pair)  # fmt: skip
            self.assertAlmostEqual(found, truth, delta=0.025, msg=str(pair))
            two = volts_beside(boat(**{**alone, "controllers__0__inputs": 2}), "canopy-controller")
            self.assertEqual(set(two.values()), {1.0})
        one, both = (day_wh(**alone, controllers__0__inputs=n) for n in (1, 2))
        self.assertLess(one, 0.99 * both)

    def test_no_heavy_run_goes_unlooked_at(self):
        """A bank, a converter or a charger whose cable cannot carry its fuse is never within the limits."""
        house = {"id": "house", "unit_v": 12.8, "unit_ah": 200}
        link = {"id": "down", "from_bank_id": "bank", "to_bank_id": "house", "limit_w": 9000}
        shore = {"id": "s", "name": "Shore", "kind": "shore", "rated_power_w": 15000}
        heavy = ({"drives__0__rated_power_w": 20_000}, {"sources": [shore]},
                 {"banks": [*WRONG["sun_by_bank"]["banks"][:1], house], "links": [link]})  # fmt: skip
        for changes in heavy:
            told_of = {f.id for f in findings_of("strings", boat(**{**GOOD, **changes}))}
            self.assertIn("thick_cable", told_of)
            self.assertNotIn("within_limits", told_of)

    def test_sun_on_the_house_bank_alone_reaches_the_motor_through_a_converter(self):
        two = {**GOOD, **WRONG["sun_by_bank"]}
        link = {"id": "up", "from_bank_id": "house", "to_bank_id": "bank", "limit_w": 200}
        found = [
            next(f for f in findings_of("strings", boat(**two, links=links)) if f.id == "sun_by_bank")
            for links in ([], [link])
        ]
        self.assertEqual([f.level for f in found], ["warn", "note"])
        self.assertIn("never charged", found[0].detail.text)
        slots = found[1].detail.slots
        self.assertTrue(0 < slots["o"].value < slots["e"].value)

    def test_the_ways_out_of_wrong_volts_are_legal_and_priced(self):
        bank = {"id": "bank", "unit_v": 12.8, "series": 4, "unit_ah": 100}
        design = boat(**{**GOOD, "banks": [bank], "panels__0__series": 1})
        found = {option.key: option for option in volts_options(design)[0].options}
        now = boxes_through_year(design).boxes[0]
        self.assertTrue({"boost", "split"} <= set(found), found)
        for option in found.values():
            self.assertGreater(option.year_wh, 0)
            self.assertAlmostEqual(option.gain_wh, option.year_wh - now.year_wh + now.own_wh, delta=1)
            if option.refit is not None:
                changed = BoatDesign.model_validate(option.refit.of(design).model_dump())
                self.assertFalse({"over_limit", "too_low"} & {f.id for f in findings_of("strings", changed)})
        self.assertIsNone(found["split"].refit)
        self.assertEqual(volts_options(boat(**GOOD)), [])


class ProposeTest(unittest.TestCase):
    def test_every_proposal_holds_the_limits_and_gives_what_it_says(self):
        design = boat(**{**CATCHES, **GOOD}, obstacles=StringsTest.MAST, plan__heading_deg=20.0)
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
