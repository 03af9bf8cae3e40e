"""Marks of a passage: hours by the clock, places by latitude and longitude, what she keeps off."""

from __future__ import annotations

from itertools import pairwise
from unittest import TestCase

import numpy as np
from parhelion.balance.ahead import ahead_of
from parhelion.errors import ParhelionError
from parhelion.formats.route_file import between
from parhelion.stations.passage.marked import aimed, clearances, places_of, spots_of, turned
from parhelion.stations.passage.picture import passage_picture
from parhelion.stations.passage.voyage import voyage_of

from tests.cases import findings_of
from tests.test_passage import FAR, NM, TIDE, leg, planned


class HoursTest(TestCase):
    def lock(self, opens, shuts, leaves="06:00:00", **said):
        hours = {"opens_at": opens, "shuts_at": shuts}
        by_clock = leg(nm=2, mark="lock", hours=hours, **said.pop("more", {}))
        return planned(by_clock, leg("b", 2), leaves_at=leaves, speed_mps=1.5, **said, **FAR)

    def begun_h(self, design):
        """When the leg beyond the lock is begun."""
        voyage = voyage_of(design)
        return voyage.plan.passes_h(2 * NM + 200)

    def test_a_lock_keeps_the_hours_of_the_clock(self):
        free = voyage_of(planned(leg(nm=2), leg("b", 2), leaves_at="06:00:00", speed_mps=1.5, **FAR))
        there = free.plan.passes_h(2 * NM)
        self.assertLess(there, 7)
        for opens, shuts, begins in (
            ("05:00:00", "22:00:00", there),
            ("09:30:00", "17:00:00", 9.5),
            ("22:00:00", "08:00:00", there),
        ):
            found = self.begun_h(self.lock(opens, shuts))
            self.assertAlmostEqual(found, begins + 200 / 1.5 / 3600, delta=0.05)
        late = self.begun_h(self.lock("08:00:00", "18:00:00", leaves="17:30:00", in_by="23:00:00"))
        self.assertGreater(late, 24 + 8)  # she waits for the morning
        told = [item.id for item in findings_of("passage", self.lock("09:30:00", "17:00:00"))]
        self.assertIn("passage_waits", told)

    def test_a_gate_of_water_and_clock_is_open_when_both_are(self):
        design = self.lock("11:00:00", "16:00:00", tide=TIDE, more={"open_h": 1})
        both = ahead_of(design, design.passage)
        windows = both.legs[1].passable_h
        first = [pair for pair in windows if 0 <= pair[0] < 24]
        np.testing.assert_allclose(first, [(11, 13)])  # high water at noon, an hour to either side

    def test_hours_want_both_ends_and_a_mark_that_opens(self):
        day = {"opens_at": "08:00:00", "shuts_at": "18:00:00"}
        for said, field in (
            (leg(mark="lock", hours={"opens_at": "08:00:00"}), "/passage/legs/0/hours/shuts_at"),
            (leg(mark="lock", hours={**day, "shuts_at": "08:00:00"}), "/passage/legs/0/hours/shuts_at"),
            (leg(hours=day), "/passage/legs/0/mark"),
        ):
            with self.assertRaises(ParhelionError) as caught:
                planned(said)
            self.assertEqual(caught.exception.problems[0].field, field)


class PlacesTest(TestCase):
    def test_a_leg_is_laid_to_a_place_and_the_next_goes_on_to_where_it_went(self):
        design = planned(leg(nm=4), leg("b", 3, course=0), **FAR)
        before = places_of(design, design.passage)
        moved = aimed(design, 0, before[1][0] + 0.02, before[1][1] - 0.01)
        self.assertEqual([one.index for one in moved], [0, 1])
        again = design.passage.model_copy(update={"legs": tuple(
            item.model_copy(update={"distance_m": new.distance_m, "course_deg": new.course_deg})
            for item, new in zip(design.passage.legs, moved, strict=True)
        )})  # fmt: skip
        after = places_of(design, again)
        self.assertLess(between(after[1], (before[1][0] + 0.02, before[1][1] - 0.01))[0], 10)
        self.assertLess(between(after[2], before[2])[0], 20)  # a tenth of a degree of the course
        picture = passage_picture(design)
        np.testing.assert_allclose(picture.places, before[1:], atol=1e-5)
        for index, place in ((0, (0.0, 0.0)), (0, before[0]), (5, before[1])):
            with self.assertRaises(ParhelionError):
                aimed(design, index, *place)

    def test_a_way_turned_round_passes_the_same_places(self):
        rock = {"id": "rock", "name": "Rock", "bearing_deg": 60, "distance_m": 3_000, "clear_m": 400}
        there = {"mark": "lock", "stop_h": 0.5, "hours": {"opens_at": "08:00:00", "shuts_at": "18:00:00"}}
        legs = (
            leg("a", 4, stream={"kind": "steady", "set_deg": 20, "rate_mps": 0.4}, **there),
            leg("b", 3, course=350, limit_mps=2),
        )
        design = planned(*legs, keep_off=[rock], begins_at="Quay", **FAR)
        back = turned(design)
        again = design.changed(passage=design.passage.model_copy(update=dict(back)))
        out, home = places_of(design, design.passage), places_of(again, again.passage)
        for one, other in zip(out, reversed(home), strict=True):
            self.assertLess(between(one, other)[0], 30)  # meridians lean towards each other
        self.assertEqual([one.name for one in back.legs], ["Mark a", "Quay"])
        self.assertEqual(
            (back.begins_at, str(back.legs[0].mark), str(back.legs[1].mark)), ("Mark b", "lock", "turn")
        )
        self.assertEqual((back.legs[0].limit_mps, back.legs[1].stream.rate_mps), (2, 0.4))
        self.assertEqual(back.legs[0].hours, design.passage.legs[0].hours)
        before, after = (clearances(one.passage)[0] for one in (design, again))
        self.assertAlmostEqual(before.nearest_m, after.nearest_m, delta=3)

    def test_what_she_keeps_off_is_as_far_as_the_nearest_point_of_the_way(self):
        rock = {"id": "rock", "name": "Rock", "bearing_deg": 60, "distance_m": 3_000, "clear_m": 400}
        design = planned(
            leg(nm=4), leg("b", 3, course=0), keep_off=[rock, {**rock, "id": "far", "distance_m": 90_000}]
        )
        near, far = clearances(design.passage)
        spots = spots_of(design.passage)
        fine = np.concatenate([np.linspace(a, b, 4001) for a, b in pairwise(spots)])
        for one in (near, far):
            self.assertAlmostEqual(one.nearest_m, np.hypot(*(fine - one.spot).T).min(), delta=0.5)
        self.assertEqual((near.leg_index, far.clear), (0, True))
        self.assertAlmostEqual(near.nearest_m, 1500, delta=1)
        shown = passage_picture(design).keep_off
        self.assertEqual([one.clear for one in shown], [True, True])
