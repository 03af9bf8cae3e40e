"""The Log by her track: where she headed, and what that asks of the model beside her readings."""

from __future__ import annotations

import math
from unittest import TestCase

import numpy as np
from parhelion.design import Sky
from parhelion.design.logbook import Logbook
from parhelion.meters.course import EARTH_M, course_deg
from parhelion.meters.rows import Rows, steps_of
from parhelion.stations.log.day import day_shown
from parhelion.stations.log.meaning import log_meaning
from parhelion.stations.log.outing_day import book_of, outing_day

from tests.cases import boat
from tests.test_fitout import demo
from tests.test_log import NOON, ZONE, book


class TrackTest(TestCase):
    """Where she headed by the places of her track, and what that asks of the model."""

    def track(self, course: float, knots: float = 4.0, **outing) -> Logbook:
        """From 61.4 N 14.2 E at nine, on one course by a receiver that is read every two minutes until four."""
        readings = []
        for k in range(210):
            way_deg = knots * k / 30 / 60
            readings.append({
                "h": 9 + k / 30, "latitude_deg": 61.4 + way_deg * math.cos(math.radians(course)),
                "longitude_deg": 14.2
                + way_deg * math.sin(math.radians(course)) / math.cos(math.radians(61.4)),
                "sky": Sky.CLEAR,
            })  # fmt: skip
        return book(*readings, **outing)

    def boat(self):
        """A boat whose wings stand at 50 degrees, so that her heading matters."""
        design = demo()
        places = tuple(
            place.model_copy(update={"tilt_deg": 50.0, "faces": "port"}) if place.hinged else place
            for place in design.places
        )
        return design.changed(places=places, plan=design.plan.model_copy(update={"heading_deg": None}))

    def test_a_straight_track_is_its_course_and_a_boat_at_anchor_has_none(self):
        for course in (0.0, 70.0, 185.0, 359.0):
            row = Rows(steps_of(NOON, NOON, ZONE), self.track(course).readings).course_deg
            known = row[np.isfinite(row)]
            self.assertEqual(len(known), 42)
            self.assertLess(np.abs((known - course + 180) % 360 - 180).max(), 0.3)
        self.assertIsNone(Rows(steps_of(NOON, NOON, ZONE), self.track(70.0, knots=0.3).readings).course_deg)
        self.assertIsNone(Rows(steps_of(NOON, NOON, ZONE), ()).course_deg)
        over = course_deg(np.array([0.0, 0.0, np.nan]), np.array([179.99, -179.99, 0.0]), 600.0)
        np.testing.assert_allclose(over, [90.0, 90.0, np.nan])  # across the date line
        jumps = course_deg(np.array([0.0, 50.0]), np.array([0.0, 10.0]), 600.0)
        self.assertTrue(np.isnan(jumps).all())

    def test_places_noted_now_and_then_tell_the_rows_between_them(self):
        """Half an hour apart they do, farther apart none does; a turn is seen where it was taken."""
        found = {}
        for apart in (1, 3, 4):
            lat, lon = np.full(24, np.nan), np.full(24, np.nan)
            for row in range(0, 24, apart):
                lat[row], lon[row] = 50 + 0.01 * min(row, 12), 0.02 * max(row - 12, 0)
            found[apart] = course_deg(lat, lon, 600.0)
        np.testing.assert_allclose(found[1][:12], 0.0, atol=1e-9)
        np.testing.assert_allclose(found[1][14:], 90.0, atol=0.1)
        np.testing.assert_allclose(found[3][:11], 0.0, atol=1e-9)
        self.assertTrue(np.isfinite(found[3][:22]).all())
        self.assertTrue(np.isnan(found[3][22:]).all())  # after the last place nobody knows
        self.assertTrue(np.isnan(found[4]).all())

    def test_her_track_heads_the_model_as_her_heading_noted_would(self):
        boat = self.boat()
        plain, tracked, noted, both = (
            outing_day(boat, book_of(one).told[0])
            for one in (
                self.track(200.0, knots=0.0), self.track(200.0), self.track(0.0, knots=0.0, heading_deg=200.0),
                self.track(20.0, heading_deg=200.0),
            )
        )  # fmt: skip
        under_way = np.isfinite(tracked.light.course_deg)
        self.assertEqual(under_way.sum(), 42)
        np.testing.assert_allclose(tracked.modelled_w[under_way], noted.modelled_w[under_way], rtol=1e-2)
        np.testing.assert_allclose(tracked.clear_w[under_way], noted.clear_w[under_way], rtol=1e-2)
        np.testing.assert_allclose(tracked.modelled_w[~under_way], plain.modelled_w[~under_way], rtol=1e-9)
        self.assertGreater(np.abs(tracked.modelled_w - plain.modelled_w).max(), 30)
        np.testing.assert_array_equal(both.modelled_w, noted.modelled_w)  # what was noted rules
        self.assertIn("headed as her track says, {a} to {b}", [t.words.text for t in day_shown(tracked).told])
        self.assertNotIn("headed as her track says, {a} to {b}", [t.words.text for t in day_shown(both).told])

    def test_what_the_readings_mean_is_weighed_on_the_same_course(self):
        boat, book_ = self.boat(), self.track(200.0)
        model = outing_day(boat, book_of(book_).told[0])
        readings = [
            reading.model_copy(update={"pv_w": float(model.modelled_w[k // 5 + 54])})
            for k, reading in enumerate(book_.readings)
        ]
        found = log_meaning(boat, book_.model_copy(update={"readings": tuple(readings)}))
        self.assertFalse(found[0].ranked[0].fault)

    def test_her_track_is_drawn_by_who_paid_and_a_place_that_cannot_be_is_left_out(self):
        came = [(9.0, 0.0, 20.0, 400.0), (10.0, 1.0, 900.0, 400.0), (11.0, 40.0, 900.0, 400.0),
                (11.3, 2.0, 900.0, 0.0), (12.0, 3.0, 20.0, 0.0)]  # fmt: skip
        told = book(*(
            {"h": h, "latitude_deg": 60.0, "longitude_deg": 10 + 0.1 * far, "pv_w": pv, "motor_w": motor,
             "speed_mps": 1.5 if motor else 0.0}
            for h, far, pv, motor in came
        ))  # fmt: skip
        track = day_shown(outing_day(demo(), book_of(told).told[0])).track
        degree_m = math.pi / 180 * EARTH_M * math.cos(math.radians(60))
        np.testing.assert_allclose(
            [p.east_m for p in track.places], [0, 0.1 * degree_m, 0.2 * degree_m, 0.3 * degree_m]
        )
        np.testing.assert_allclose([p.north_m for p in track.places], 0.0, atol=1e-6)
        self.assertEqual([p.sun_pays for p in track.places], [False, True, None, None])
        self.assertEqual([hour.minute for hour in track.hours], [540, 600, 660, 720])
        self.assertAlmostEqual(track.hours[1].east_m, 0.1 * degree_m)
        self.assertEqual(track.else_paid, "the bank gave")
        bare = boat(banks=[])
        self.assertEqual(
            day_shown(outing_day(bare, book_of(told).told[0])).track.else_paid, "more than the sun gave"
        )
        lost = book({"h": 8.5, "latitude_deg": 0.0, "longitude_deg": 0.0}).readings  # a receiver's first word
        after = told.model_copy(
            update={"readings": tuple(r.model_copy(update={"id": f"a{r.id}"}) for r in lost) + told.readings}
        )
        again = day_shown(outing_day(demo(), book_of(after).told[0])).track
        self.assertEqual([p.east_m for p in again.places], [p.east_m for p in track.places])
        self.assertIsNone(day_shown(outing_day(demo(), book_of(book({"h": 9, "pv_w": 1.0})).told[0])).track)

    def test_a_speed_holds_no_longer_than_the_outing(self):
        """Read at 17:48 it counts for the rows until six; where no end was noted, for an hour and a half."""
        for end, rows in ((NOON.replace(hour=18), 2), (None, 9)):
            day = outing_day(demo(), book_of(book({"h": 17.8, "speed_mps": 2.0}, ended_at=end)).told[0])
            self.assertAlmostEqual(day.way_m, 2.0 * 600 * rows, delta=1)

    def test_wind_that_was_read_cools_her_panels(self):
        calm, read, noted = (
            outing_day(demo(), book_of(one).told[0])
            for one in (
                book({"h": 12, "pv_w": 1.0, "wind_mps": 0.5}), book({"h": 12, "pv_w": 1.0, "wind_mps": 9.0}),
                book({"h": 12, "pv_w": 1.0, "wind_mps": 2.0}, wind_mps=9.0),
            )
        )  # fmt: skip
        self.assertGreater(read.modelled_w.max(), 1.02 * calm.modelled_w.max())
        np.testing.assert_array_equal(read.modelled_w, noted.modelled_w)
