"""The day's flow: the ledger's law on any day, the reserve's rules, and a brute-force twin."""

from __future__ import annotations

import unittest

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from parhelion.balance.flow import (
    CHARGED,
    CONVERTED,
    COULOMB,
    CURTAILED,
    DISCHARGED,
    HEAT,
    HOUSE,
    MOTOR,
    RAN,
    RECORDED,
    REFUSED,
    SOC,
    run_days,
    run_without_bank,
)
from parhelion.balance.ledger import ledger_of
from parhelion.balance.outlook import outlook_of
from parhelion.bank.store import Store, store_of
from parhelion.design import Bank

from tests.cases import HOURS, STEP_H, at_banks, boat, house_rows, one_bank
from tests.twins import flow as twin

STORE = store_of(Bank(id="b", unit_v=25.6, unit_ah=100), 20.0)
T = np.arange(144)
SUN = np.maximum(0, 900 * np.sin(2 * np.pi * T / 144 - 0.2))
FLAT = np.ones(144)


def run(sun, essential, other, motor, start, store: Store = STORE) -> np.ndarray:
    return run_days(
        at_banks(np.atleast_2d(sun)), house_rows(essential, other), motor * FLAT, np.array([start]),
        np.array([start]), HOURS, one_bank(store),
    )[0]  # fmt: skip


def residual(sun, record) -> np.ndarray:
    out = record[:, [REFUSED, CURTAILED, HOUSE, MOTOR, CHARGED, COULOMB, HEAT, CONVERTED]].sum(axis=1)
    return sun + record[:, DISCHARGED] - out


class LedgerTest(unittest.TestCase):
    @settings(max_examples=60, deadline=None)
    @given(
        st.lists(st.floats(0, 4000), min_size=144, max_size=144), st.floats(0, 300), st.floats(0, 600),
        st.floats(0, 5000), st.floats(0, 1), st.sampled_from(["lfp", "nmc", "agm", "flooded", "gel"]), st.floats(-10, 35),
    )  # fmt: skip
    def test_every_day_adds_up(self, sun, essential, other, motor, start, chemistry, air):
        store = store_of(Bank(id="b", chemistry=chemistry, unit_v=24.0, unit_ah=200), air)
        record = run(np.array(sun), essential, other, motor, start, store)
        day = max(sum(sun), 144 * (essential + other + motor), 1.0)
        self.assertLess(np.abs(residual(np.array(sun), record)).sum(), 1e-9 * day)
        self.assertTrue(np.all(record >= -1e-12))
        self.assertTrue(np.all(record[:, SOC] <= 1 + 1e-12))
        self.assertTrue(np.all(record[:, SOC] >= min(start, store.cut_out) - 1e-9))

    def test_the_whole_boats_ledger_adds_up_from_the_panels_on(self):
        for changes in ({}, {"banks": []}, {"panels": []}, {"controllers__0__current_limit_a": 8.0},
                        {"plan__speed_mps": 2.9}, {"plan__start_charge_frac": 1.0}):  # fmt: skip
            outlook = outlook_of(boat(**changes))
            record = outlook.run(outlook.plan_power_w, outlook.design.plan.start_charge_frac)
            for member in (0, outlook.light.shown):
                ledger = ledger_of(outlook, record, member)
                self.assertLess(abs(ledger.residual_wh), 1e-9 * max(ledger.array_wh, 1.0) + 1e-9)
                self.assertTrue(all(value >= 0 for value in ledger.model_dump().values()))


class RulesTest(unittest.TestCase):
    def test_it_agrees_with_a_one_second_twin(self):
        for start, motor, chemistry in ((0.5, 500.0, "lfp"), (0.9, 100.0, "flooded"), (0.35, 900.0, "nmc")):
            store = store_of(Bank(id="b", chemistry=chemistry, unit_v=25.6, unit_ah=150), 20.0)
            record = run(SUN, 20.0, 40.0, motor, start, store)
            ends, total = twin.day(SUN, 20 * FLAT, 40 * FLAT, motor * FLAT, start, STEP_H, store)
            np.testing.assert_allclose(record[:, SOC], ends, atol=2e-3)
            for name, column in (("house", HOUSE), ("motor", MOTOR), ("refused", REFUSED), ("heat", HEAT)):
                self.assertAlmostEqual(
                    record[:, column].sum() * STEP_H, total[name], delta=0.004 * SUN.sum() * STEP_H
                )

    def test_the_bank_never_feeds_the_motor_below_the_reserve(self):
        record = run(np.zeros(144), 0.0, 0.0, 2000.0, 0.6)
        self.assertAlmostEqual(record[:, SOC].min(), STORE.reserve, places=9)
        used = record[:, MOTOR].sum() * STEP_H
        self.assertAlmostEqual(
            used, 25.6 * 100 * 0.3, delta=0.09 * 768
        )  # 60 to 30 %, less resistance and rate
        self.assertEqual(record[-1, RAN], 0.0)

    def test_essential_loads_outlive_the_others_to_the_cut_out(self):
        record = run(np.zeros(144), 60.0, 200.0, 0.0, 0.4)
        self.assertAlmostEqual(record[-1, SOC], STORE.cut_out, places=9)
        at_reserve = np.isclose(record[:, HOUSE], 60.0)
        self.assertTrue(at_reserve.any() and record[-1, HOUSE] < 1e-6)

    def test_at_the_reserve_live_sun_still_turns_the_motor_in_part(self):
        record = run(np.full(144, 300.0), 0.0, 50.0, 1000.0, STORE.reserve)
        np.testing.assert_allclose(record[:, RAN], 0.25)
        np.testing.assert_allclose(record[:, SOC], STORE.reserve)

    def test_more_sun_never_leaves_less_in_the_bank(self):
        for start in (0.3, 0.7, 1.0):
            less, more = (run(share * SUN, 30.0, 30.0, 400.0, start) for share in (0.9, 1.0))
            self.assertTrue(np.all(more[:, SOC] >= less[:, SOC] - 1e-12))
            self.assertTrue(np.all(more[:, RAN] >= less[:, RAN] - 1e-12))

    def test_without_a_bank_the_surplus_is_curtailed(self):
        record = run_without_bank(SUN[None], 50 * FLAT, 400 * np.ones((1, 144)))[0]
        np.testing.assert_allclose(residual(SUN, record), 0, atol=1e-9)
        noon = int(np.argmax(SUN))
        self.assertAlmostEqual(record[noon, CURTAILED], SUN[noon] - 450)
        self.assertEqual(record.shape[1], RECORDED)
