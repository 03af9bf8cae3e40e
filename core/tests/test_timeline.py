"""Steps of time: a passage of 31 hours across midnight, uneven minutes and a day through the same flow."""

from __future__ import annotations

import unittest
from datetime import UTC, datetime, timedelta
from datetime import date as Date
from datetime import time as Time
from zoneinfo import ZoneInfo

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from parhelion.balance.flow import HOUSE, MOTOR, SOC, run_days
from parhelion.balance.outlook import outlook_of
from parhelion.sun.daysteps import day_steps, track_over
from parhelion.sun.timeline import Timeline, between_moments, even_steps

from tests.cases import boat

ZONE = ZoneInfo("Europe/Stockholm")
PASSAGE_H = 31.0
DEPARTS = datetime(2027, 6, 13, 16, 0, tzinfo=ZONE)
LEDGER_IN = 1e-6  # of the whole


def sun_w(timeline: Timeline, design) -> np.ndarray:
    """A kilowatt of level panels in a clear sky, at the main bank."""
    watts = track_over(design.site.spot, timeline, DEPARTS).clear_ghi_w_per_m2
    return np.ascontiguousarray(np.stack([watts, np.zeros_like(watts)], axis=1)[None])


def passage(timeline: Timeline, design, motor_w: float, start: float = 0.6) -> np.ndarray:
    """The record of a passage at constant watts with the house spread evenly."""
    aboard = outlook_of(design).aboard
    house = np.zeros((4, timeline.steps))
    house[0] = 40.0
    at = np.array([start])
    return run_days(
        sun_w(timeline, design), house, np.full(timeline.steps, motor_w), at, at, timeline.step_h, aboard
    )[0]


class PassageTest(unittest.TestCase):
    def test_31_hours_across_midnight_are_the_same_in_tens_in_fives_and_in_uneven_minutes(self):
        design = boat()
        random = np.random.default_rng(3)
        gaps = random.integers(2, 13, 400).cumsum()
        gaps = [0, *gaps[gaps < PASSAGE_H * 60], int(PASSAGE_H * 60)]
        timelines = (
            even_steps(DEPARTS, 600.0, int(PASSAGE_H * 6), ZONE),
            even_steps(DEPARTS, 60.0, int(PASSAGE_H * 60), ZONE),
            between_moments([DEPARTS + timedelta(minutes=int(minute)) for minute in gaps], ZONE),
        )
        ends = []
        for timeline in timelines:
            self.assertAlmostEqual(timeline.hours, PASSAGE_H, places=9)
            record = passage(timeline, design, 150.0)
            self.assertTrue((record[:, SOC] > 0.3).all())
            ends.append(
                (
                    record[-1, SOC],
                    float(timeline.over(record[:, MOTOR])),
                    float(timeline.over(record[:, HOUSE])),
                )
            )
        for end in ends:
            np.testing.assert_allclose(end, ends[1], rtol=2e-3)
        self.assertAlmostEqual(ends[0][1], 150.0 * PASSAGE_H, delta=LEDGER_IN)
        self.assertAlmostEqual(ends[0][2], 40.0 * PASSAGE_H, delta=LEDGER_IN)

    def test_a_passage_is_its_two_halves_one_after_the_other(self):
        design = boat()
        whole = passage(even_steps(DEPARTS, 600.0, 186, ZONE), design, 220.0)
        first = passage(even_steps(DEPARTS, 600.0, 60, ZONE), design, 220.0)
        later = DEPARTS + timedelta(hours=10)
        second = passage(even_steps(later, 600.0, 126, ZONE), design, 220.0, float(first[-1, SOC]))
        np.testing.assert_allclose(np.concatenate([first, second]), whole, rtol=1e-9, atol=1e-9)

    def test_a_day_is_one_of_them(self):
        design = boat()
        day = day_steps(design.site, Date(2027, 6, 13))
        again = track_over(design.site.spot, day.timeline, day.solar_noon_at)
        np.testing.assert_allclose(again.clear_ghi_w_per_m2, day.clear_ghi_w_per_m2, rtol=1e-9)
        self.assertAlmostEqual(day.timeline.hours, 24.0)


class ClockTest(unittest.TestCase):
    def test_clock_hours_on_the_days_that_have_23_and_25(self):
        for date, hours in (
            (datetime(2027, 3, 28, tzinfo=ZONE), 23),
            (datetime(2027, 10, 31, tzinfo=ZONE), 25),
        ):
            timeline = even_steps(date, 600.0, hours * 6, ZONE)
            self.assertEqual(timeline.ends_at.time(), Time(0))
            self.assertEqual(timeline.ends_at.date(), date.date() + timedelta(days=1))
            share = timeline.clock_share(Time(1), Time(5))
            self.assertAlmostEqual(float(timeline.over(share)), 4 + hours - 24)
            self.assertAlmostEqual(float(timeline.over(timeline.clock_share(Time(9), Time(17)))), 8)

    def test_a_stretch_past_midnight_comes_on_both_evenings_of_a_passage(self):
        timeline = even_steps(DEPARTS, 600.0, 186, ZONE)  # 16:00 to 23:00 of the next day
        share = timeline.clock_share(Time(21, 5), Time(2))
        self.assertAlmostEqual(float(timeline.over(share)), 4 + 55 / 60 + 1 + 55 / 60)

    @settings(max_examples=60, deadline=None)
    @given(st.lists(st.integers(1, 4000), min_size=1, max_size=60), st.floats(-3, 70))
    def test_index_and_moment_are_each_others_way_back(self, seconds, index):
        moments = [DEPARTS + timedelta(seconds=int(s)) for s in np.cumsum([0, *seconds])]
        timeline = between_moments(moments, ZONE)
        index = min(max(index, 0.0), float(timeline.steps))
        self.assertAlmostEqual(timeline.index_at(timeline.at_index(index).astimezone(UTC)), index, places=3)

    def test_moments_that_do_not_follow_each_other_are_refused(self):
        for moments in ([DEPARTS], [DEPARTS, DEPARTS], [DEPARTS, DEPARTS - timedelta(minutes=1)]):
            with self.assertRaises(ValueError):
                between_moments(moments, ZONE)
