"""What readings mean: bench tests, the first sun, banks counted, motors tried."""

from __future__ import annotations

import io
import json
import tempfile
from pathlib import Path
from unittest import TestCase

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from parhelion.bank.counted import counted
from parhelion.bank.store import drawn_a, store_of
from parhelion.cli import main
from parhelion.design import Bank
from parhelion.diagnosis.expected import COLUMNS, Wired, expected
from parhelion.diagnosis.reading import Means, Read, meaning, open_meaning
from parhelion.drive.bollard import bollard
from parhelion.panels.measured import Verdict, tested
from parhelion.stations.fitout.findings import fitout_findings
from parhelion.stations.fitout.picture import fitout_picture
from parhelion.sun.minute import evenly_drawn

from tests.cases import cases
from tests.test_fitout import AT, demo, records
from tests.twins.panel import TwinPanel, usual


def answered(verb: str, case: dict) -> dict:
    """What the terminal answers to the inputs of a case."""
    with tempfile.TemporaryDirectory() as folder:
        file = Path(folder) / "case.json"
        file.write_text(json.dumps(case))
        out, err = io.StringIO(), io.StringIO()
        status = main([verb, str(file), "--json"], out, err)
        assert status == 0, err.getvalue()
        return json.loads(out.getvalue())


class CasesTest(TestCase):
    """Shared cases within their tolerances, through the terminal."""

    def held(self, got: dict, case: dict) -> None:
        for key, wanted in case["expected"].items():
            limit = case["tolerance"].get(key)
            if not isinstance(limit, dict):
                continue
            for one, other in zip(np.atleast_1d(got[key]), np.atleast_1d(wanted), strict=True):
                room = limit["abs"] if "abs" in limit else limit["rel"] * abs(other)
                self.assertLessEqual(abs(one - other), room, f"{case['id']} {key}: {one} against {other}")

    def test_bench_tests(self):
        for key, case in cases("fitout").items():
            if key.startswith("bench."):
                got = answered("bench-test", case["inputs"])
                self.held(got, case)
                self.assertEqual(got["verdict"], case["expected"]["verdict"], key)

    def test_first_suns(self):
        for key, case in cases("fitout").items():
            if not key.startswith("first_sun."):
                continue
            got = answered("first-sun", case["inputs"])
            self.held(got, case)
            for said, wanted in zip(got["meanings"], case["expected"]["meanings"], strict=True):
                self.assertIn(said["means"], [wanted["means"], *wanted["or_else"]], key)
                if wanted["cannot_tell_under_this_sky"]:
                    self.assertTrue(said["cannot_tell_under_this_sky"], f"{key} {wanted['means']}")
                elif wanted["means"] == "as_expected":
                    self.assertFalse(said["cannot_tell_under_this_sky"], key)

    def test_what_is_no_case_is_refused(self):
        with tempfile.TemporaryDirectory() as folder:
            for text in (
                "",
                "[]",
                '{"points_v": [1, 2], "points_a": [1]}',
                '{"cell_c": "warm"}',
                "{" * 90_000,
            ):
                file = Path(folder) / "case.json"
                file.write_text(text)
                for verb in ("bench-test", "first-sun"):
                    err = io.StringIO()
                    self.assertEqual(main([verb, str(file)], io.StringIO(), err), 2)
                    self.assertIn("parhelion:", err.getvalue())


class BenchTest(TestCase):
    """Panels made up by another single diode, with noise, measured."""

    @staticmethod
    def panel(draw: np.random.Generator) -> TwinPanel:
        cells = int(draw.choice([36, 60, 72]))
        return TwinPanel(
            cells, cells * draw.uniform(0.61, 0.68), draw.uniform(4, 11), draw.uniform(0.74, 0.785)
        )

    @staticmethod
    def read(twin: TwinPanel, light: float, cell_c: float, draw: np.random.Generator, **faults):
        """Eight noisy points."""
        opened = twin.open_v(light, cell_c, **faults)
        volts = np.concatenate([[0.0], np.sort(draw.uniform(0.3, 0.97, 6)) * opened, [opened]])
        amps = np.maximum(twin.amps(volts, light, cell_c, **faults), 0.0)
        amps[-1] = 0.0
        volts[1:] *= 1 + 0.003 * draw.standard_normal(7)
        return volts, amps * (1 + 0.006 * draw.standard_normal(8))

    def test_the_best_point_of_eight_noisy_points_is_within_three_per_cent(self):
        draw, off = np.random.default_rng(7), []
        for _ in range(24):
            twin = self.panel(draw)
            light, cell = draw.uniform(400, 1050), draw.uniform(25, 60)
            found = tested(twin.label(), *self.read(twin, light, cell, draw), light, cell)
            off.append(found.test_w / twin.most_w(light, cell) - 1)
            self.assertIn(found.verdict, (Verdict.AS_LABELLED, Verdict.STRONG))
        self.assertGreaterEqual(np.mean(np.abs(off) < 0.03), 0.95, np.round(off, 3))
        self.assertLess(abs(np.mean(off)), 0.01)

    def test_what_is_wrong_with_a_panel_is_told(self):
        faults = {
            Verdict.SUBSTRING_SHORTED: {"alive": 2 / 3},
            Verdict.RESISTANCE: {"more_ohm": 0.9},
            Verdict.LOW_CURRENT: {"lit": 0.6},
            Verdict.LEAK: {"leak_s": 0.06},
        }
        for verdict, fault in faults.items():
            draw, right = np.random.default_rng(3), 0
            for _ in range(10):
                twin = usual()
                found = tested(twin.label(), *self.read(twin, 850, 45, draw, **fault), 850, 45)
                right += found.verdict is verdict
            self.assertGreaterEqual(right, 9, verdict)

    def test_the_light_changes_and_it_is_told(self):
        twin = usual()
        volts = np.array([0, 12, 20, 26, 29, 33, 38.0])
        amps = twin.amps(volts, 800, 45)
        amps[2:4] *= 0.6
        self.assertEqual(tested(twin.label(), volts, amps, 800, 45).verdict, Verdict.CLOUD)

    def test_without_the_light_fill_and_volts_are_judged_and_watts_are_not_said(self):
        twin = usual()
        found = tested(twin.label(), *self.read(twin, 700, 40, np.random.default_rng(1)), None, 40)
        self.assertIsNone(found.standard_w)
        self.assertIsNone(found.share_of_label)
        self.assertEqual(found.verdict, Verdict.AS_LABELLED)
        with self.assertRaises(ValueError):
            tested(twin.label(), [20, 22], [5, 4], 800, 40)


class ReadingTest(TestCase):
    """What readings mean, on strings of every kind."""

    @staticmethod
    def expected(series=2, parallel=2, light=800.0, cell=45.0, bank=12.8, spread=0.0):
        twin = usual()
        uniforms = evenly_drawn(COLUMNS)
        lights = np.concatenate([[light], light * (1 + spread * (2 * uniforms[:, 0] - 1))])
        wired = Wired(twin.label().panel, series, parallel)
        return expected(wired, lights, np.full(len(lights), cell), uniforms, bank), twin

    def test_the_right_cause_first_in_nine_of_ten_clear_wrong_readings(self):
        draw, right, tried = np.random.default_rng(11), 0, 0
        for _ in range(40):
            series, parallel = int(draw.integers(1, 4)), int(draw.integers(1, 5))
            light, cell = draw.uniform(500, 1000), draw.uniform(25, 60)
            e, twin = self.expected(series, parallel, light, cell)
            volts, amps = twin.best(light * 0.951 * 0.975, cell)
            volts, amps = volts * series * 0.98, amps * parallel
            noise = 1 + 0.008 * draw.standard_normal(2)
            shown = [(Means.AS_EXPECTED, volts, amps)]
            if parallel > 1:
                shown.append((Means.STRING_MISSING, volts, amps * (parallel - 1) / parallel))
            if series > 1:
                shown.append((Means.PANEL_MISSING, volts * (series - 1) / series, amps))
            shown.append((Means.SHADED, volts * (1 - 1 / (3 * series)), amps))
            for means, v, a in shown:
                said = meaning(e, Read(v * noise[0], a * noise[1], None, 12.8))
                right += said.means is means
                tried += 1
        self.assertGreaterEqual(right / tried, 0.9, f"{right} of {tried}")

    def test_a_wide_sky_cannot_tell_a_string_and_says_so(self):
        e, _ = self.expected(1, 4, 250, 20, spread=0.9)
        said = meaning(e, Read(e.volts.middle, e.amps.middle * 0.75))
        self.assertEqual((said.means, said.cannot_tell), (Means.STRING_MISSING, True))
        narrow, _ = self.expected(1, 4, 900, 40)
        self.assertFalse(meaning(narrow, Read(narrow.volts.middle, narrow.amps.middle * 0.75)).cannot_tell)

    def test_readings_minutes_apart_tell_together_what_one_cannot(self):
        """Skies that differ from minute to minute wash out; what lasts, panels and dirt, does not."""
        found = []
        for light in (250, 330, 290):
            e, _ = self.expected(1, 4, light, 20, spread=0.28)
            found.append((e, Read(e.volts.middle, e.amps.middle * 0.75)))
        last, earlier = found[-1], found[:-1]
        alone, said = meaning(*last), meaning(*last, earlier)
        self.assertEqual((alone.means, alone.cannot_tell, alone.readings), (Means.STRING_MISSING, True, 1))
        self.assertEqual((said.means, said.cannot_tell, said.readings), (Means.STRING_MISSING, False, 3))
        self.assertGreater(said.odds, alone.odds)
        shares = zip(found, (0.8, 1.15, 1.05), strict=True)
        sound = [(e, Read(read.pv_v, e.amps.middle * share)) for (e, read), share in shares]
        self.assertIs(meaning(*sound[-1], sound[:-1]).means, Means.AS_EXPECTED)
        full = (last[0], Read(last[0].open_v * 0.97, 0.4, None, 14.4, True))
        self.assertEqual(meaning(*last, [full]), alone)  # a full bank says nothing of the panels
        clear, _ = self.expected(1, 4, 900, 40, spread=0.0)
        low = (clear, Read(clear.volts.middle, clear.amps.middle * 0.93))
        once, thrice = meaning(*low), meaning(*low, [low, low])
        self.assertEqual(once.means, thrice.means)
        self.assertLess(abs(once.odds - thrice.odds), 0.05)  # the same three times is hardly news

    def test_watts_alone_name_every_cause_that_fits(self):
        e, _ = self.expected(2, 2)
        half = meaning(e, Read(pv_w=e.watts.middle / 2))
        self.assertEqual({half.means, *half.or_else} & {Means.STRING_MISSING, Means.PANEL_MISSING},
                         {Means.STRING_MISSING, Means.PANEL_MISSING})  # fmt: skip
        self.assertIs(meaning(e, Read(pv_w=e.watts.middle / 9, bank_full=True)).means, Means.FULL_BANK)
        self.assertIs(meaning(e, Read(pv_w=0.5)).means, Means.NO_CURRENT)
        volts, amps = e.volts.middle, e.amps.middle
        self.assertIs(meaning(e, Read(volts, amps, volts * amps * 0.7)).means, Means.METER)
        self.assertIs(meaning(e, Read(volts, amps, volts * amps * 1.04)).means, Means.AS_EXPECTED)
        self.assertIs(meaning(e, Read(pv_w=e.watts.high * 1.35)).means, Means.BRIGHT)

    def test_at_night_nothing_is_blamed(self):
        e, _ = self.expected(light=0.0)
        for read in (Read(0.0, 0.0), Read(pv_w=0.0), Read(5.0, 0.0)):
            self.assertIs(meaning(e, read).means, Means.NIGHT)
        self.assertIs(open_meaning(e, 1.0), Means.NIGHT)

    @settings(max_examples=25, deadline=None)
    @given(st.integers(1, 5), st.integers(1, 6), st.floats(100, 1050), st.floats(-10, 70))
    def test_colder_is_more_volts_and_twice_the_strings_twice_the_amps(self, series, parallel, light, cell):
        one, _ = self.expected(series, parallel, light, cell)
        colder, _ = self.expected(series, parallel, light, cell - 10)
        twice, _ = self.expected(series, 2 * parallel, light, cell)
        self.assertGreater(colder.open_v, one.open_v)
        self.assertAlmostEqual(twice.pv_a, 2 * one.pv_a, delta=1e-9 * twice.pv_a)
        self.assertLess(one.pv_v, one.open_v)
        self.assertIs(open_meaning(one, one.open_v), Means.AS_EXPECTED)
        self.assertIs(open_meaning(one, -one.open_v), Means.REVERSED)
        if series > 1:
            self.assertIs(open_meaning(one, one.open_v * (series - 1) / series), Means.PANEL_MISSING)

    def test_open_and_best_volts_are_those_of_another_single_diode(self):
        """Held against one with a shunt, at every light and heat of a day, within 2.5 %."""
        for light in (200, 500, 1000):
            for cell in (5, 25, 45, 65):
                e, twin = self.expected(1, 1, light, cell)
                volts, amps = twin.best(light * e.wired.kept, cell)
                self.assertAlmostEqual(e.open_v / twin.open_v(light * e.wired.kept, cell), 1, delta=0.02)
                loss = e.wired.drop * twin.best(1000, 25)[0] * light / 1000
                self.assertAlmostEqual(e.pv_v / (volts - loss), 1, delta=0.025)
                self.assertAlmostEqual(e.pv_a / amps, 1, delta=0.04)


class DockTest(TestCase):
    """Banks counted, motors tried."""

    def test_what_the_banks_own_model_gives_is_counted_back(self):
        """Drawn down steadily from full by the bank's own model, the count comes to its capacity."""
        for chemistry, hours in (("lfp", 6), ("agm", 5), ("flooded", 10), ("agm", 40)):
            bank = Bank(
                id="b",
                chemistry=chemistry,
                unit_v=12.8 if chemistry == "lfp" else 12,
                unit_ah=100,
                health_frac=0.8,
            )
            for warm in (25, 5):
                store = store_of(bank, warm)
                amps = store.capacity_ah / hours
                taken = drawn_a(amps, store)  # at the label's rate and slower, what is drawn is what leaves
                given = store.capacity_ah * amps / taken
                found = counted(bank, given, given / amps, warm)
                self.assertAlmostEqual(found.capacity_ah, 80, delta=80 * 0.01, msg=(chemistry, hours, warm))
                self.assertTrue(found.low_ah < 80 < found.high_ah)

    def test_a_count_is_told_where_the_design_counts_otherwise(self):
        design = demo()
        label = design.banks[0].capacity_ah
        row = {"kind": "bank_test", "at": AT, "bank_id": "bank", "hours": 10, "temperature_c": 22}
        told = {f.id: f.level for f in fitout_findings(design, records({**row, "counted_ah": 0.75 * label}))}
        self.assertEqual(told["counted_bank"], "warn")
        quiet = fitout_findings(design, records({**row, "counted_ah": 1.0 * label}))
        self.assertNotIn("counted_bank", {f.id for f in quiet})
        picture = fitout_picture(
            design, records({**row, "counted_ah": 0.75 * label}, {**row, "bank_id": "gone"})
        )
        self.assertEqual([o.at for o in picture.others], ["/banks/0/health_frac", None])
        self.assertAlmostEqual(picture.others[0].value, 0.75, delta=0.01)

    def test_a_motor_at_the_dock(self):
        disc, pull = 0.0855, 300.0
        ideal = pull**1.5 / (2 * 1000 * disc) ** 0.5
        found = bollard(25.0, ideal / 0.42 / 25, pull, disc, 1000.0, 2400, 25.0, 18.0, 48.0)
        self.assertAlmostEqual(found.merit, 0.42, places=6)
        self.assertAlmostEqual(found.kv_rpm_per_v, 96)
        low, high = found.lasting_w
        self.assertTrue(0 < low <= high <= found.power_w)
        cooler = bollard(25.0, 40, None, disc, 1000.0, air_c=18.0, warm_c=30.0)
        self.assertGreater(cooler.lasting_w[0] / cooler.power_w, low / found.power_w)
        self.assertIsNone(bollard(None, None, pull, disc, 1000.0).pull_per_w)
        row = {"kind": "motor_test", "at": AT, "drive_id": "drive", "volts": 25, "amps": 60, "pull_n": 300, "no_load_rpm": 2300,
               "no_load_v": 26, "air_c": 18, "warm_c": 60}  # fmt: skip
        other = fitout_picture(demo(), records(row)).others[0]
        self.assertEqual(other.at, "/drives/0/motor/continuous_power_w")
        self.assertGreaterEqual(len(other.lines), 4)
