"""The day's picture where clocks and skies are unusual, and its sums against its own parts."""

from __future__ import annotations

import unittest

import numpy as np

from tests.cases import STEP_H, boat, picture


def at(latitude: float, longitude: float, date: str, **changes):
    site = {"name": "x", "latitude_deg": latitude, "longitude_deg": longitude}
    return picture("day", boat(site=site, plan__date=date, **changes))


class DayPictureTest(unittest.TestCase):
    def test_ticks_stand_on_whole_even_hours_in_any_zone(self):
        for latitude, longitude, zone in ((22.6, 88.4, "Asia/Kolkata"), (-31.6, 128.9, "Australia/Eucla"),
                                          (52.3, 4.9, "Europe/Amsterdam"), (0.0, -150.0, "Etc/GMT+10")):  # fmt: skip
            drawn = at(latitude, longitude, "2027-06-13")
            self.assertEqual(drawn.zone, zone)
            self.assertEqual(len(drawn.ticks), 12)
            for tick in drawn.ticks:
                step = min(int(tick.index), 143)
                shown = drawn.clock_min[step] + (tick.index - step) * 10
                self.assertAlmostEqual((shown - tick.clock_min + 720) % 1440 - 720, 0, delta=0.02)

    def test_the_night_the_clock_changes_has_a_jump_in_its_ticks(self):
        spring = at(52.3, 4.9, "2027-03-27")
        gaps = np.diff([tick.index for tick in spring.ticks])
        self.assertAlmostEqual(
            gaps.max(), 18, delta=1e-6
        )  # two o'clock does not come: 00 to 04 in three hours
        autumn = at(52.3, 4.9, "2027-10-30")
        clocks = [tick.clock_min for tick in autumn.ticks]
        self.assertEqual(clocks.count(120), 2)  # two o'clock comes twice

    def test_polar_day_and_night(self):
        day = at(78.0, 15.0, "2027-06-21", plan__spells=None)
        self.assertIsNone(day.sunset_index)
        self.assertGreater(min(day.elevation_deg), 0)
        self.assertEqual(len(day.motoring), 1)
        night = at(78.0, 15.0, "2027-12-21", plan__spells=None)
        self.assertEqual((night.motoring, night.spells, max(night.clear_w)), ([], [], 0.0))
        self.assertEqual(night.ledger.array_wh, 0)

    def test_the_drawn_watts_add_up_to_the_ledger(self):
        for changes in ({}, {"banks": []}, {"plan__speed_mps": 2.8, "plan__start_charge_frac": 0.35}):
            drawn = picture("day", boat(plan__sky="broken", **changes))
            ledger = drawn.ledger
            self.assertAlmostEqual(sum(drawn.motor_w) * STEP_H, ledger.motor_wh, places=6)
            self.assertAlmostEqual(sum(drawn.house_w) * STEP_H, ledger.house_wh, places=6)
            thrown = ledger.refused_wh + ledger.curtailed_wh
            self.assertAlmostEqual(sum(drawn.thrown_away_w) * STEP_H, thrown, places=6)
            harvest = sum(sum(group.power_w) for group in drawn.groups) * STEP_H
            self.assertAlmostEqual(
                harvest, ledger.array_wh - ledger.conversion_wh - ledger.clipped_wh, places=6
            )

    def test_a_motor_that_stops_is_marked_where_it_stops(self):
        drawn = picture("day", boat(plan__speed_mps=2.8, plan__start_charge_frac=0.35))
        first = drawn.stopped.index(True)
        self.assertTrue(any(stretch.start <= first + 1 <= stretch.end + 1 for stretch in drawn.motoring))
        self.assertAlmostEqual(drawn.soc[first + 1], drawn.reserve_frac, places=6)
        self.assertFalse(any(picture("day", boat()).stopped))

    def test_the_band_holds_the_shown_day_and_eight_of_ten(self):
        drawn = picture("day", boat(plan__sky="overcast"))
        low, shown, high = (np.array(lane) for lane in (drawn.soc_low, drawn.soc, drawn.soc_high))
        self.assertTrue(np.all(low <= high))
        self.assertGreater(np.mean((shown >= low) & (shown <= high)), 0.9)
        self.assertEqual((low[0], high[0]), (0.8, 0.8))
