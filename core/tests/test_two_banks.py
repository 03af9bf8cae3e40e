"""Two banks and the converters between them: the ledger on any day, order independence, and closed forms."""

from __future__ import annotations

import unittest

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from parhelion.balance.flow import (
    CHARGED,
    CONVERTED,
    COULOMB,
    DISCHARGED,
    HEAT,
    HOUSE,
    HOUSE_SOC,
    MOTOR,
    REFUSED,
    SOC,
    run_days,
)
from parhelion.balance.ledger import ledger_of
from parhelion.balance.outlook import outlook_of
from parhelion.balance.steady import steady_power
from parhelion.bank.joint import Aboard, Joint
from parhelion.bank.store import Store, store_of
from parhelion.design import Bank
from parhelion.rail.answers import answers_for

from tests.cases import HOURS, STEP_H, at_banks, boat, house_rows, motor_rows

T = np.arange(144)
SUN = np.maximum(0, np.sin(2 * np.pi * T / 144 - 0.2))
LOSSLESS = Store(400.0, 25.6, 0.0, 1e-9, 1.0, 1e5, 0.9999, 0.3, 0.1, 0.99)
HOUSE_BANK = {"id": "house", "unit_v": 12.8, "unit_ah": 100}
DOWN = {"id": "down", "from_bank_id": "bank", "to_bank_id": "house", "limit_w": 300, "efficiency": 0.9}
UP = {"id": "up", "from_bank_id": "house", "to_bank_id": "bank", "limit_w": 300, "efficiency": 0.9}


def two(joint: Joint, main: Store = LOSSLESS, own: Store = LOSSLESS) -> Aboard:
    return Aboard(main, own, joint)


def run(aboard, sun, own_sun, house, motor=0.0, start=0.8, own_start=0.8) -> np.ndarray:
    return run_days(
        at_banks(np.atleast_2d(sun), own_sun), house, motor * np.ones(144), np.array([start]), np.array([own_start]),
        HOURS, aboard,
    )[0]  # fmt: skip


class FlowTest(unittest.TestCase):
    @settings(max_examples=80, deadline=None)
    @given(
        st.floats(0, 3000), st.floats(0, 1500), st.floats(0, 300), st.floats(0, 500), st.floats(0, 200),
        st.floats(0, 600), st.floats(0, 3000), st.floats(0, 1), st.floats(0, 1), st.floats(0, 800), st.floats(0, 800),
        st.booleans(), st.booleans(), st.sampled_from(["lfp", "agm", "flooded"]),
    )  # fmt: skip
    def test_every_day_adds_up(self, sun, own_sun, e, o, he, ho, motor, start, own_start, out, back, needs, lends, chem):  # fmt: skip
        main = store_of(Bank(id="m", chemistry=chem, unit_v=48, unit_ah=120), 15.0)
        own = store_of(Bank(id="h", chemistry="agm", unit_v=12, unit_ah=150), 15.0)
        joint = Joint(1.0, out, 0.93 if out else 1.0, float(needs), back, 0.9 if back else 1.0, float(lends))
        record = run(
            two(joint, main, own), sun * SUN, own_sun * SUN, house_rows(e, o, he, ho), motor, start, own_start
        )
        came = (sun + own_sun) * SUN + record[:, DISCHARGED]
        went = record[:, [REFUSED, HOUSE, MOTOR, CHARGED, COULOMB, HEAT, CONVERTED]].sum(axis=1)
        day = max((sun + own_sun) * 144, 144 * (e + o + he + ho + motor), 1.0)
        self.assertLess(np.abs(came - went).sum(), 1e-9 * day)
        self.assertTrue(np.all(record >= -1e-9 * day))
        self.assertTrue(np.all(record[:, [SOC, HOUSE_SOC]] <= 1 + 1e-12))

    def test_a_converter_carries_what_the_house_lacks_and_no_more(self):
        record = run(two(Joint(1.0, 200.0, 0.8, 1.0)), 0 * SUN, 0.0, house_rows(own_other=150))
        np.testing.assert_allclose(record[:, HOUSE_SOC], 0.8)  # the house bank rests
        np.testing.assert_allclose(record[:, DISCHARGED], 150 / 0.8, rtol=1e-6)
        np.testing.assert_allclose(record[:, CONVERTED], 150 / 0.8 * 0.2, rtol=1e-6)
        limited = run(two(Joint(1.0, 100.0, 0.8, 1.0)), 0 * SUN, 0.0, house_rows(own_other=150), start=0.95)
        self.assertAlmostEqual((0.8 - limited[-1, HOUSE_SOC]) * 400 * 25.6, 50 * 24, delta=1e-3)

    def test_it_gives_nothing_below_the_givers_reserve(self):
        record = run(two(Joint(1.0, 200.0, 0.9, 1.0)), 0 * SUN, 0.0, house_rows(own_other=150), start=0.3)
        np.testing.assert_allclose(record[:, SOC], 0.3)
        self.assertLess(record[-1, HOUSE_SOC], 0.5)

    def test_spare_sun_goes_over_when_its_own_bank_is_full(self):
        up = Joint(1.0, 0.0, 1.0, 0.0, 300.0, 0.9, 0.0)
        record = run(two(up), 0 * SUN, 400 * SUN, house_rows(), start=0.5, own_start=1.0)
        brought = np.minimum(400 * SUN * 0.9, 300.0).sum() * STEP_H
        self.assertAlmostEqual((record[-1, SOC] - 0.5) * 400 * 25.6, brought, delta=0.1)
        down = Joint(1.0, 300.0, 0.9, 0.0)
        record = run(two(down), 400 * SUN, 0.0, house_rows(), start=1.0, own_start=0.5)
        self.assertAlmostEqual((record[-1, HOUSE_SOC] - 0.5) * 400 * 25.6, brought, delta=0.1)

    def test_a_converter_without_losses_makes_two_banks_one(self):
        joint = Joint(1.0, 1e6, 1.0, 1.0, 1e6, 1.0, 1.0)
        apart = steady_power(at_banks(500 * SUN, 300 * SUN), house_rows(20, 30, 0, 40), motor_rows(), 0.0, 5000.0,
                             HOURS, two(joint))  # fmt: skip
        self.assertAlmostEqual(apart[0], 800 * SUN.mean() - 90, delta=0.5)


class BoatTest(unittest.TestCase):
    def test_the_whole_boats_ledger_adds_up(self):
        for links in ([], [DOWN], [DOWN, UP], [{**UP, "carries": "surplus"}]):
            for where in (None, "house"):
                bank = boat().model_dump(mode="json")["banks"][0]
                design = boat(banks=[bank, HOUSE_BANK], links=links, controllers__0__bank_id=where)
                outlook = outlook_of(design)
                record = outlook.run(outlook.plan_power_w, 0.7)
                for member in (0, outlook.light.shown):
                    ledger = ledger_of(outlook, record, member)
                    self.assertLess(abs(ledger.residual_wh), 1e-9 * max(ledger.array_wh, 1.0) + 1e-8)

    def test_sun_on_the_house_bank_alone_never_turns_the_motor_without_a_converter(self):
        bank = boat().model_dump(mode="json")["banks"][0]
        base = {"banks": [bank, HOUSE_BANK], "controllers__0__bank_id": "house"}
        stuck = answers_for(boat(**base))
        self.assertEqual(stuck.sun_only_noon.speed_mps, 0.0)
        self.assertEqual(stuck.sun_only_steady.speed_mps, 0.0)
        joined = answers_for(boat(**base, links=[{**UP, "limit_w": 2000}]))
        self.assertGreater(joined.sun_only_noon.speed_mps, 1.0)
        self.assertGreater(joined.sun_only_steady.speed_mps, 1.0)
        self.assertIsNotNone(joined.bank_at_dusk.house_soc_frac)
