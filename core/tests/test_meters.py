"""Meters compared, factors, closures, tilts: cases with their truth, and laws."""

from __future__ import annotations

import io
import json
import tempfile
from pathlib import Path
from unittest import TestCase

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from parhelion.cli import main
from parhelion.design import Sky
from parhelion.meters.closure import closed, says_full
from parhelion.meters.compared import compared, deming
from parhelion.meters.factors import DayRatio, _robust, day_ratio, free_rows, harvest_factor, power_scale
from parhelion.meters.tilt import best_tilt

from tests.cases import cases

VERBS = {"meters": "compare-meters", "calibrate": "calibrate", "tilt": "tilt"}
INTERVALS = {"gain": "gain_interval", "factor": "factor_interval", "scale": "scale_interval",
             "ratio": "ratio_interval"}  # fmt: skip


def asked(verb: str, inputs: dict) -> tuple[int, dict, str]:
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "case.json"
        path.write_text(json.dumps(inputs))
        out, err = io.StringIO(), io.StringIO()
        status = main([verb, str(path), "--json"], out, err)
    return status, json.loads(out.getvalue() or "{}"), err.getvalue()


class RobustTest(TestCase):
    @given(
        st.lists(st.tuples(st.floats(-1, 1), st.floats(0.02, 0.5)), min_size=2, max_size=12),
        st.integers(0, 99),
    )
    def test_rows_together_are_each_rows_own_and_lie_among_their_days(self, days, seed):
        logs, spreads = np.array(days).T
        rows = np.random.default_rng(seed).integers(0, len(days), (7, len(days)))
        together = _robust(logs[rows], spreads[rows])
        for row, found in zip(rows, together, strict=True):
            self.assertAlmostEqual(float(_robust(logs[row], spreads[row])), found, places=12)
            self.assertTrue(logs[row].min() - 1e-9 <= found <= logs[row].max() + 1e-9)


class CasesTest(TestCase):
    def test_every_case_comes_within_its_tolerance(self):
        for key, case in cases("log").items():
            kind = key.split(".")[0]
            if kind not in VERBS:
                continue
            status, told, err = asked(VERBS[kind], case["inputs"])
            self.assertEqual(status, 0, err)
            for name, wanted in case["expected"].items():
                with self.subTest(f"{key} {name}"):
                    self.check(name, wanted, told, case["tolerance"].get(name, {}))

    def check(self, name: str, wanted, told: dict, tolerance: dict):
        if name in ("within_1_percent_deg", "share_of_best_by_tilt"):
            return
        if not isinstance(wanted, float | int) or isinstance(wanted, bool):
            return self.assertEqual(told[name], wanted)
        self.assertLessEqual(abs(told[name] - wanted), tolerance["abs"])
        if tolerance.get("interval_95_holds_truth"):
            low, high = told[INTERVALS[name]]
            self.assertTrue(low <= wanted <= high, (low, wanted, high))
            self.assertLessEqual(high - low, tolerance.get("interval_at_most", 9))
        return None

    def test_what_cannot_be_computed_is_refused_in_words(self):
        for verb, inputs in (
            ("compare-meters", {"seconds": 1, "a": [1, 2], "b": [1, 2]}),
            ("compare-meters", {"seconds": 1, "a": [1] * 40, "b": [1] * 41}),
            ("calibrate", {}),
            ("calibrate", {"charge_ah": [1, 2], "discharge_ah": [1, 2], "charge_h": [1, 2],
                           "discharge_h": [1, 2]}),
            ("tilt", {"seconds": [0, 1, 2], "tilt_deg": [0, 0, 0], "total_w": [1, 1, 1]}),
        ):  # fmt: skip
            with self.subTest(f"{verb} {list(inputs)}"):
                status, _, err = asked(verb, inputs)
                self.assertEqual(status, 2)
                self.assertIn("Accepted", err)


class LawsTest(TestCase):
    @settings(max_examples=25)
    @given(st.floats(0.85, 1.15), st.floats(-1, 1), st.integers(0, 4), st.integers(0, 50))
    def test_gain_offset_and_lag_are_found_and_turn_round_with_the_meters(self, gain, offset, lag, seed):
        draw = np.random.default_rng(seed)
        truth = np.cumsum(draw.normal(0, 0.35, 700)) + 14 + 5 * np.sin(np.arange(700) / 30)
        a = truth[10:610] + draw.normal(0, 0.05, 600)
        b = gain * truth[10 - lag : 610 - lag] + offset + draw.normal(0, 0.05, 600)
        found = compared(a, b, 10.0)
        assert found.gain is not None and found.lag_s is not None and found.offset is not None
        self.assertLess(abs(found.gain / gain - 1), 0.005)
        self.assertLess(abs(found.lag_s - 10 * lag), 3.0)
        back = compared(b, a, 10.0)
        assert back.gain is not None and back.lag_s is not None
        self.assertLess(abs(back.gain * found.gain - 1), 0.004)
        self.assertLess(abs(back.lag_s + found.lag_s), 1.5)

    def test_a_narrow_range_claims_no_gain(self):
        draw = np.random.default_rng(3)
        a, b = (10 + draw.normal(0, 0.05, 200) for _ in range(2))
        self.assertIsNone(compared(a, b, 1.0).gain)

    def test_deming_turns_round(self):
        draw = np.random.default_rng(4)
        x = draw.uniform(0, 10, 300)
        y = 1.3 * x + 0.4 + draw.normal(0, 0.1, 300)
        there, back = deming(x, y, 2.0), deming(y, x, 0.5)
        self.assertAlmostEqual(there[0] * back[0], 1.0, places=9)

    def test_the_harvest_factors_interval_is_honest(self):
        """The truth lies inside the 95 % interval of made-up logs about as often as is said."""
        draw, inside, runs = np.random.default_rng(11), 0, 160
        for _ in range(runs):
            days = int(draw.integers(6, 20))
            spreads = draw.choice([0.04, 0.065, 0.12, 0.28], days, p=[0.4, 0.3, 0.2, 0.1])
            ratios = 0.91 * np.exp(draw.normal(0, spreads))
            found = harvest_factor([DayRatio(r, s, 20) for r, s in zip(ratios, spreads, strict=True)])
            assert found is not None
            inside += found.low <= 0.91 <= found.high
        self.assertTrue(0.90 <= inside / runs <= 0.99, inside / runs)

    def test_a_full_bank_says_nothing_of_the_panels(self):
        model = np.full(40, 500.0)
        read = np.where(np.arange(40) < 20, 450.0, 60.0)
        bank_v = np.where(np.arange(40) < 20, 26.4, 27.0)
        pv_v = np.where(np.arange(40) < 20, 57.0, 70.5)
        free = free_rows(bank_v, pv_v, np.full(40, 57.0), np.full(40, 71.0), 27.0)
        found = day_ratio(model, read, [Sky.CLEAR] * 40, free, 1000.0)
        assert found is not None
        self.assertAlmostEqual(found.ratio, 0.9)
        blind = free_rows(bank_v, np.full(40, np.nan), np.full(40, 57.0), np.full(40, 71.0), 27.0)
        self.assertEqual(int(blind.sum()), 20)  # told by the bank's volts where the panels' were not read

    def test_closure_of_a_perfect_shunt_and_bank_is_perfect(self):
        charge = np.array([50.0, 80.0, 120.0])
        hours = np.array([5.0, 9.0, 6.0]), np.array([12.0, 40.0, 20.0])
        found = closed(charge, charge, *hours)
        self.assertAlmostEqual(found.coulomb_efficiency, 1.0, places=9)
        self.assertAlmostEqual(found.offset_a, 0.0, places=9)

    def test_a_meter_that_says_full_in_time_is_right(self):
        minute = np.arange(0, 200, 10.0)
        full = says_full(minute, np.full(20, 28.0), np.full(20, 2.0), np.ones(20), 100.0, 0.99, 28.0)
        self.assertEqual(full.true_soc_then, 1.0)

    def test_scale_of_runs_is_their_median(self):
        found = power_scale(np.array([110.0, 220.0, 330.0, 990.0]), np.array([100.0, 200.0, 300.0, 400.0]))
        assert found is not None
        self.assertAlmostEqual(found.value, 1.1)
        self.assertIsNone(power_scale(np.array([]), np.array([])))

    @settings(max_examples=20)
    @given(st.floats(10, 60), st.floats(-0.1, 0.1), st.integers(0, 30))
    def test_the_best_tilt_is_found_whatever_the_sun_does_meanwhile(self, best, drift, seed):
        draw = np.random.default_rng(seed)
        seconds = np.arange(0, 600, 5.0)
        tilt = np.interp(seconds, [0, 250, 500, 600], [0, 70, 5, 5])
        sun = 1 + drift * seconds / 600
        total = sun * (40 + 160 * np.cos(np.radians(tilt - best))) + draw.normal(0, 0.8, len(seconds))
        found = best_tilt(seconds, tilt, total)
        self.assertLess(abs(found.best_tilt_deg - best), 4.0)
        self.assertTrue(found.from_deg < found.best_tilt_deg < found.to_deg)
