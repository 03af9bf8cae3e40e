"""The steady solve, refill and range against closed forms, a scan over start charges, and laws."""

from __future__ import annotations

import unittest

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from parhelion.balance.dock import days_to_full, hours_to_reserve
from parhelion.balance.flow import RAN, SOC, run_days
from parhelion.balance.steady import power_to_reserve, steady_power
from parhelion.bank.store import Store, store_of
from parhelion.design import Bank

from tests.cases import HOURS, at_banks, house_rows, motor_rows, one_bank

FLAT = np.ones(144)
LOSSLESS = Store(400.0, 25.6, 0.0, 1e-9, 1.0, 1e5, 0.9999, 0.3, 0.1, 0.99)
HALF = np.where(np.arange(144) < 72, 1.0, 0.0)


def steady(sun, motoring=FLAT, house=0.0, store=LOSSLESS, rated=5000.0, least=0.0) -> tuple[float, float]:
    found = steady_power(
        at_banks(sun), house_rows(house), motor_rows(motoring), least, rated, HOURS, one_bank(store)
    )
    return float(found[0]), float(found[1])


class SteadyTest(unittest.TestCase):
    def test_without_losses_the_day_is_shared_out(self):
        sun = np.maximum(0, 800 * np.sin(2 * np.pi * np.arange(144) / 144))
        self.assertAlmostEqual(steady(sun, house=50.0)[0], sun.mean() - 50, delta=1e-3)
        self.assertAlmostEqual(steady(sun, HALF, 50.0)[0], 2 * (sun.mean() - 50), delta=1e-3)

    def test_constant_sun_is_used_as_it_comes(self):
        store = store_of(Bank(id="b", chemistry="flooded", unit_v=12, unit_ah=50), 20.0)
        self.assertAlmostEqual(steady(300 * FLAT, house=40.0, store=store)[0], 260.0, delta=0.05)

    def test_the_drive_and_the_idle_draw_bound_it(self):
        self.assertEqual(steady(3000 * FLAT, rated=900.0)[0], 900.0)
        self.assertEqual(steady(100 * FLAT, house=95.0, least=20.0), (-1.0, -1.0))

    def test_a_small_bank_is_the_bound_and_a_scan_of_start_charges_agrees(self):
        """The oracle runs whole days from many start charges and looks."""
        sun = np.maximum(0, 1500 * np.sin(2 * np.pi * np.arange(144) / 144))
        for capacity, chemistry in ((30, "lfp"), (60, "agm"), (400, "flooded")):
            store = store_of(Bank(id="b", chemistry=chemistry, unit_v=24, unit_ah=capacity), 20.0)
            found, _ = steady(sun, house=30.0, store=store)
            for power, possible in ((found * 0.995, True), (found * 1.005, False)):
                starts, kept = np.linspace(store.reserve, 1, 161), False
                for _ in range(4):  # the grid, then the charges its days end with, and so on
                    sky = at_banks(np.repeat(sun[None], 161, 0))
                    record = run_days(
                        sky, house_rows(30.0), power * FLAT, starts, starts, HOURS, one_bank(store)
                    )
                    ends, never_stopped = record[:, -1, SOC].copy(), record[:, :, RAN].min(axis=1) > 1 - 1e-9
                    kept = kept or bool(np.any(never_stopped & (ends >= starts - 1e-8)))
                    starts = np.clip(ends, store.reserve, 1)
                self.assertEqual(kept, possible, (chemistry, power))

    @settings(max_examples=25, deadline=None)
    @given(st.floats(0.3, 1.5), st.floats(20, 600), st.floats(0, 80))
    def test_more_sun_and_less_house_never_slow_the_boat(self, share, capacity, house):
        store = store_of(Bank(id="b", unit_v=24, unit_ah=capacity), 20.0)
        sun = share * np.maximum(0, 900 * np.sin(2 * np.pi * np.arange(144) / 144))
        here = steady(sun, HALF, house, store)[0]
        self.assertGreaterEqual(steady(1.1 * sun, HALF, house, store)[0], here - 1e-3)
        self.assertLessEqual(steady(sun, HALF, house + 10, store)[0], here + 1e-3)

    def test_from_a_charge_to_the_reserve(self):
        watts = power_to_reserve(
            at_banks(0 * FLAT),
            house_rows(),
            motor_rows(HALF),
            0.8,
            0.0,
            5000.0,
            72,
            HOURS,
            one_bank(LOSSLESS),
        )
        self.assertAlmostEqual(watts, 0.5 * 400 * 25.6 / 12, delta=0.01)


class DockTest(unittest.TestCase):
    def test_days_to_full(self):
        sun, alone = at_banks(np.full((3, 144), 100.0)), one_bank(LOSSLESS)
        waits = days_to_full(sun, house_rows(20), 0.5, 0.5, 30, HOURS, alone)
        np.testing.assert_allclose(waits, 0.49 * 400 * 25.6 / 80 / 24, rtol=1e-6)
        self.assertTrue(np.all(np.isinf(days_to_full(sun, house_rows(101), 0.5, 0.5, 0, HOURS, alone))))
        self.assertEqual(days_to_full(sun, house_rows(), 0.995, 0.5, 0, HOURS, alone).max(), 0.0)

    def test_hours_to_the_reserve(self):
        alone, motor = one_bank(LOSSLESS), motor_rows()
        hours, _ = hours_to_reserve(at_banks(0 * FLAT), house_rows(10), motor, 500.0, 0.8, 5, HOURS, alone)
        self.assertAlmostEqual(hours, 0.5 * 400 * 25.6 / 510, delta=0.005)  # the last step's house is whole
        hours, _ = hours_to_reserve(at_banks(600 * FLAT), house_rows(), motor, 500.0, 0.8, 5, HOURS, alone)
        self.assertTrue(np.isinf(hours))
