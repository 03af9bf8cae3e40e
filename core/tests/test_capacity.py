"""A bank's capacity from readings: closed forms, an honest interval, and what volts cannot tell."""

from __future__ import annotations

import unittest
from datetime import UTC, datetime, timedelta

import numpy as np
from parhelion.design import Bank, BoatDesign
from parhelion.design.chemistries import CHEMICALS
from parhelion.design.logbook import Logbook, Outing, Reading
from parhelion.formats.plain import told
from parhelion.meters.capacity import capacity, counts, moments
from parhelion.stations.log.learned import bank_learned
from parhelion.stations.log.outing_day import book_of, outing_day
from parhelion.wiring.by_itself import absorption_v

from tests.cases import boat

STEP_H = 1 / 6
WARM_C = 25.0
BEGAN = datetime(2027, 6, 13, 4, 0, tzinfo=UTC)


def bank(chemistry: str, **more) -> Bank:
    return Bank(id="b", chemistry=chemistry, unit_v=12.8 if chemistry == "lfp" else 12, unit_ah=100, **more)


def rest_v(held: Bank, soc: float) -> float:
    charge, cell_v = np.array(CHEMICALS[held.chemistry].rest_v).T
    return held.cells * float(np.interp(soc, charge, cell_v))


def stretch(held: Bank, amps: float, hours: float, start_soc: float, end_soc: float, ends: str = "rest"):
    """A discharge between two states of charge with what comes before and after it: volts, amps."""
    number = round(hours / STEP_H)
    before = [absorption_v(held)] * 4 if start_soc == 1 else [rest_v(held, start_soc)] * 4
    tail = [0.02 * held.capacity_ah] * 4 if start_soc == 1 else [0.0] * 4
    under = np.linspace(rest_v(held, start_soc), rest_v(held, end_soc), number) - 0.1
    if ends == "empty":  # the flat curve, and its end
        under[:-1], under[-1] = held.nominal_v, held.cuts_out_v - 0.05
    after = [rest_v(held, end_soc)] * 4
    return np.array([*before, *under, *after]), np.array([*tail, *[-amps] * number, *[0.0] * 4])


class CountsTest(unittest.TestCase):
    def found(self, held: Bank, volts, amps, warm_c: float = WARM_C):
        return counts(held, volts, amps, np.full(len(volts), STEP_H), warm_c)

    def test_lead_at_its_label_rate_between_full_and_a_rest(self):
        """60 Ah at the twenty-hour rate from full to .4, so that nothing is lost to the rate: 100 Ah."""
        for chemistry in ("agm", "gel", "flooded"):
            held = bank(chemistry)
            [one] = self.found(held, *stretch(held, 5.0, 12.0, 1.0, 0.4))
            self.assertAlmostEqual(one.capacity_ah, 100, delta=0.5)
            self.assertLess(one.spread_ln, 0.15)
            [half] = self.found(held, *stretch(held, 2.5, 12.0, 1.0, 0.4))
            self.assertAlmostEqual(half.capacity_ah, 50, delta=0.3)

    def test_hard_use_takes_more_than_the_amps_say_and_cold_leaves_less(self):
        held = bank("agm")
        [slow] = self.found(held, *stretch(held, 5.0, 8.0, 1.0, 0.4))
        [fast] = self.found(held, *stretch(held, 20.0, 2.0, 1.0, 0.4))
        exponent = CHEMICALS[held.chemistry].peukert[1]
        self.assertAlmostEqual(fast.capacity_ah / slow.capacity_ah, 4 ** (exponent - 1), delta=0.01)
        [cold] = self.found(held, *stretch(held, 5.0, 8.0, 1.0, 0.4), warm_c=5.0)
        lost = CHEMICALS[held.chemistry].capacity_per_k * (CHEMICALS[held.chemistry].capacity_from_c - 5.0)
        self.assertAlmostEqual(slow.capacity_ah / cold.capacity_ah, 1 - lost, delta=0.001)

    def test_lithium_is_told_from_full_to_empty_and_not_by_volts_between(self):
        held = bank("lfp")
        [whole] = self.found(held, *stretch(held, 9.2, 10.0, 1.0, 0.02, "empty"))
        self.assertAlmostEqual(whole.capacity_ah, 92 * (9.2 / 5) ** 0.02, delta=1.0)
        self.assertEqual(self.found(held, *stretch(held, 5.0, 12.0, 1.0, 0.4)), [])

    def test_what_was_not_read_is_not_counted(self):
        held = bank("agm")
        volts, amps = stretch(held, 5.0, 12.0, 1.0, 0.4)
        amps[20:40] = np.nan
        self.assertEqual(self.found(held, volts, amps), [])
        few = stretch(held, 5.0, 12.0, 1.0, 0.4)[1]
        few[30] = np.nan  # one row of seventy-two
        self.assertEqual(len(self.found(held, volts, few)), 1)

    def test_the_last_of_a_long_rest_begins_the_count_and_a_small_swing_makes_none(self):
        held = bank("agm")
        volts, amps = stretch(held, 5.0, 12.0, 0.95, 0.45)
        rested = np.concatenate([np.full(30, volts[0]), volts])
        drained = np.concatenate([np.full(30, -0.3), amps])  # a clock and an alarm meanwhile
        first, second = self.found(held, volts, amps), self.found(held, rested, drained)
        self.assertAlmostEqual(first[0].capacity_ah, second[0].capacity_ah, delta=0.01)
        self.assertEqual(self.found(held, *stretch(held, 5.0, 3.0, 0.95, 0.80)), [])

    def test_the_interval_is_honest(self):
        """Meters and rests as far off as they are said to be: nineteen of twenty intervals hold the truth."""
        held, draw, inside = bank("agm"), np.random.default_rng(11), 0
        for _ in range(200):
            true = draw.uniform(50, 110)
            found = []
            for _ in range(3):
                start, end = draw.uniform(0.8, 0.98), draw.uniform(0.3, 0.5)
                gain = 1 + 0.015 * draw.standard_normal()
                volts, amps = stretch(held, (start - end) * true / 20, 20.0, start, end)
                rests = 6 * 0.010 * draw.standard_normal(2)
                volts[:4] += rests[0]
                volts[-4:] += rests[1]
                found += self.found(held, volts, gain * amps)
            holds = capacity(found)
            inside += holds is not None and holds.low <= true <= holds.high
        self.assertGreaterEqual(inside, 184)
        self.assertLessEqual(inside, 200)

    def test_moments_are_of_this_banks_volts(self):
        held = bank("agm", series=2)
        flat = np.full(6, rest_v(held, 0.5))
        self.assertEqual(
            {round(m.soc, 2) for m in moments(held, flat, np.zeros(6), np.full(6, STEP_H))}, {0.5}
        )
        self.assertEqual(moments(held, flat / 2, np.zeros(6), np.full(6, STEP_H)), [])
        self.assertIsNone(capacity([]))


class LearnedTest(unittest.TestCase):
    """What a log says of the bank, put into the design."""

    def told_of(self, design: BoatDesign, times: float):
        """Two outings of a bank that holds so much of its label."""
        held = design.bank
        outings, readings = [], []
        for number in range(2):
            amps = 0.6 * times * held.capacity_ah / 12
            volts, read = stretch(held, amps, 12.0, 1.0, 0.4)
            began = BEGAN + timedelta(days=number)
            ended = began + timedelta(hours=STEP_H * len(volts))
            outings.append(Outing(id=f"o{number}", name="Out", began_at=began, ended_at=ended))
            readings += [
                Reading(id=f"r{number}-{k}", outing_id=f"o{number}", source="shunt", bank_v=round(v, 3),
                        bank_a=round(a, 3), at=began + timedelta(hours=STEP_H * (k + 0.5)))
                for k, (v, a) in enumerate(zip(volts, read, strict=True))
            ]  # fmt: skip
        book = book_of(Logbook(outings=tuple(outings), readings=tuple(readings)))
        return bank_learned(design, [outing_day(design, told) for told in book.told])

    def test_a_tired_bank_is_told_once_and_then_no_news(self):
        design = boat(
            banks=[{"id": "b", "name": "House", "chemistry": "agm", "unit_v": 12, "unit_ah": 220,
                    "temperature_c": WARM_C}]
        )  # fmt: skip
        found = self.told_of(design, 0.75)
        self.assertAlmostEqual(found.value, 0.75, delta=0.02)
        self.assertEqual(found.number, 2)
        self.assertIn("165 Ah", told(found.words))
        mended = BoatDesign.model_validate(found.refit.of(design).model_dump())
        self.assertAlmostEqual(mended.bank.health_frac, 0.75, delta=0.02)
        again = self.told_of(mended, 0.75)
        self.assertIsNone(again.refit)
        self.assertTrue(again.used)
        self.assertAlmostEqual(again.value, 1.0, delta=0.02)
        self.assertIsNone(bank_learned(boat(banks=[]), []))


if __name__ == "__main__":
    unittest.main()
