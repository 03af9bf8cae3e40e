"""Panels in strings: wired by hand, cell by cell under a mast, and held at volts that are not their best."""

from __future__ import annotations

import unittest
from unittest import mock

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from parhelion.balance.outlook import outlook_of
from parhelion.cli import told
from parhelion.computing.kept import forget_all
from parhelion.design import BoatDesign, Controller, PanelModel
from parhelion.design.part import Point
from parhelion.panels.bodies import body_of
from parhelion.panels.deck import deck_of
from parhelion.panels.harvest import harvest
from parhelion.panels.layout import substring_of_cells
from parhelion.panels.plane import plane_light
from parhelion.panels.shade import shares_towards, sky_table, towards
from parhelion.panels.strung import string_watts
from parhelion.panels.turned import MOST_AT_ONCE
from parhelion.stations.array.year import through_year
from parhelion.stations.strings.boxes_year import boxes_through_year
from parhelion.stations.strings.ways_out import volts_options
from parhelion.sun.light import clear_light
from parhelion.wiring.conversion import passed
from parhelion.wiring.held import share_at, volts_beside
from parhelion.wiring.panel_volts import panel_volts
from pvlib.pvsystem import calcparams_desoto, i_from_v, singlediode

from tests.cases import boat, findings_of, picture
from tests.test_shade import CATCHES, spar
from tests.test_wiring import GOOD, MAST, SHEET, WRONG, day_wh
from tests.twins import cells


def string(name: str, *numbers: int, group: str = "canopy-panels") -> dict:
    panels = [{"group_id": group, "number": number} for number in numbers]
    return {"id": name, "controller_id": "canopy-controller", "panels": panels}


class HandTest(unittest.TestCase):
    """Strings wired by hand."""

    HEADINGS = (20.0, 130.0, 250.0)

    def test_wired_by_hand_as_the_group_says_is_the_same_harvest(self):
        for heading in self.HEADINGS:
            at = {"plan__heading_deg": heading, "obstacles": MAST}
            for series in (1, 2, 4):
                usual = day_wh(**at, panels__0__series=series)
                strings = [string(f"s{k}", *range(k, k + series)) for k in range(0, 4, series)]
                self.assertAlmostEqual(
                    day_wh(**at, strings=strings) / usual, 1, places=6, msg=f"{heading} {series}"
                )

    def test_headings_worked_out_together_are_those_worked_out_one_by_one(self):
        """An unknown heading is eight of them, for few days in one pass."""
        pole = spar(0.3, 0.5, top=6.0, name="pole")
        tilted = {**CATCHES, "obstacles": [pole], "places__0__tilt_deg": 20.0, "places__0__faces": "port"}
        trees = [{"id": "t", "from_deg": 90, "to_deg": 200, "height_m": 12, "distance_m": 20}]
        boats = {
            "a group": {}, "strings": {"panels__0__series": 2}, "two-sided": {"panels__0__bifaciality_frac": 0.7},
            "by hand": {"strings": [string("s", 0, 1), string("t", 2, 3)]},
            "skyline": {"plan__state": "anchored", "site__skyline": trees},
        }  # fmt: skip
        for name, more in boats.items():
            with self.subTest(name):
                design = boat(**tilted, **more)
                light = clear_light(design.site, design.plan.date)
                found = []
                for most in (MOST_AT_ONCE, 0):
                    forget_all()
                    with mock.patch("parhelion.panels.turned.MOST_AT_ONCE", most):
                        found.append(harvest(design, light).sun_w)
                self.assertGreater(found[0].max(), 50)
                np.testing.assert_allclose(found[0], found[1], rtol=1e-9, atol=1e-9)

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
        at = {"plan__heading_deg": 20.0, "obstacles": MAST}
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
        base = boat(**GOOD)
        place, group, box = base.places[0], base.panels[0], base.controllers[0]
        sides = (("port", -0.9), ("starboard", 0.9))  # a panel on each side, on a controller of its own
        low = base.changed(
            places=tuple(place.model_copy(update={
                "id": side, "name": side, "width_m": 0.9, "at": Point(x_m=x, y_m=0, z_m=1.2)})
                for side, x in sides),
            panels=tuple(group.model_copy(update={
                "id": side, "place_id": side, "controller_id": f"{side}-box", "count": 1, "series": 1})
                for side, _ in sides),
            controllers=tuple(box.model_copy(update={"id": f"{side}-box"}) for side, _ in sides),
        )  # fmt: skip
        pairs = {one.group_id: {o.key: o for o in one.options} for one in volts_options(low)}
        self.assertEqual([set(options) & {"pair"} for options in pairs.values()], [{"pair"}, {"pair"}])
        pair = pairs["port"]["pair"]
        made = BoatDesign.model_validate(pair.refit.of(low).model_dump())
        self.assertEqual([len(string.panels) for string in made.strings], [2])
        self.assertEqual(len(made.controllers), 1)
        self.assertFalse({"over_limit", "too_low"} & {f.id for f in findings_of("strings", made)})
        self.assertGreater(pair.gain_wh, 0)
        self.assertEqual(volts_options(boat(**GOOD)), [])


if __name__ == "__main__":
    unittest.main()
