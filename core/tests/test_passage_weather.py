"""Sky and wind on a passage: by the hour, from a forecast, on the nose."""

from __future__ import annotations

import json
from unittest import TestCase

import numpy as np
from parhelion.balance.winds import WindAt, Winds, steady
from parhelion.errors import ParhelionError
from parhelion.formats.forecast_file import read_forecast
from parhelion.route.held import GROUND, MOTOR, SPEED
from parhelion.stations.passage.forecast import by_forecast
from parhelion.stations.passage.picture import passage_picture
from parhelion.stations.passage.voyage import voyage_of
from parhelion.sun.forecast import simulated_forecast

from tests.cases import boat, findings_of
from tests.test_passage import FAR, leg, planned


class WeatherTest(TestCase):
    def test_a_cloud_from_an_hour_on_is_worse_than_none(self):
        clear = passage_picture(planned(leg(nm=8)))
        cloud = passage_picture(
            planned(leg(nm=8), skies=[{"id": "c", "from_clock": "10:00:00", "sky": "rain"}])
        )
        self.assertLess(cloud.arrival_soc_frac, clear.arrival_soc_frac - 0.02)

    def test_the_wind_that_ends_it_does(self):
        said = {"start_charge_frac": 0.42, "speed_mps": 1.9}
        found = {item.id: item for item in findings_of("passage", planned(leg(nm=8), **said))}
        slots = found["passage_wind_ends_it"].title.slots
        for factor, good in ((1.2, False), (0.6, True)):  # a wind that is set cools the panels too
            changes = {"plan__wind_mps": factor * slots["w"].value}
            blown = planned(leg(nm=8), wind_from_deg=slots["deg"].value, boat_changes=changes, **said)
            self.assertEqual(voyage_of(blown).plan.good, good)

    def test_a_head_wind_costs_and_a_following_one_does_not(self):
        blown = {"plan__wind_mps": 7}
        nose, stern = (
            passage_picture(
                planned(leg(nm=8), wind_from_deg=from_deg, boat_changes=blown, **FAR)
            ).arrival_soc_frac
            for from_deg in (90, 270)
        )
        self.assertLess(nose, stern - 0.03)

    def test_a_wind_from_an_hour_on_is_that_wind_from_then_on(self):
        plan = {"plan__wind_mps": 6}

        def blown(*winds, first=None):
            later = [
                {"id": f"w{k}", "from_clock": clock, "wind_from_deg": deg, "wind_mps": mps}
                for k, (clock, deg, mps) in enumerate(winds)
            ]
            said = {} if first is None else {"wind_from_deg": first}
            legs = (leg("a", 4), leg("b", 4))
            found = planned(*legs, winds=later, leaves_at="09:00:00", boat_changes=plan, **said, **FAR)
            return passage_picture(found)

        astern, nose = blown(first=270), blown(first=90)
        self.assertEqual(blown(("23:30:00", 90, 12), first=270).arrival_soc_frac, astern.arrival_soc_frac)
        same = blown(("05:00:00", 90, 6), first=270)
        self.assertEqual([one.power_w for one in same.legs], [one.power_w for one in nose.legs])
        turn = astern.marks[1].arrives_h
        clock = f"{int(turn):02d}:{int(turn % 1 * 60):02d}:00"
        turned = blown((clock, 90, 6), first=350)  # an angle that was averaged with 90 would show
        there = nose.legs[1].power_w
        self.assertAlmostEqual(turned.legs[1].power_w, there, delta=0.02 * there)
        self.assertAlmostEqual(turned.legs[0].power_w, blown(first=350).legs[0].power_w, places=6)
        self.assertAlmostEqual(turned.legs[1].head_wind_mps, 6, delta=0.2)
        self.assertIsNone(blown().legs[0].head_wind_mps)

    def test_waves_come_with_the_wind_and_hold_her_back_from_ahead(self):
        def watts(from_deg=None, height=0.3, *later):
            said = {} if from_deg is None else {"wind_from_deg": from_deg}
            sea = {"plan__wave_height_m": height, "plan__wind_mps": 0}
            found = planned(
                leg("a", 4), leg("b", 4), boat_changes=sea, winds=later, leaves_at="09:00:00", **said, **FAR
            )
            return [one.power_w for one in passage_picture(found).legs]

        flat, ahead = watts(height=0.0), watts()
        self.assertGreater(ahead[0], 1.05 * flat[0])
        head, bow, beam, astern = (watts(90 + off)[0] for off in (0, 45, 105, 180))
        self.assertAlmostEqual(head, ahead[0], places=6)
        for share, met in ((0.85, bow), (0.33, beam), (0.0, astern)):
            self.assertAlmostEqual(met, flat[0] + share * (head - flat[0]), delta=1e-6 * head)
        lower = watts(90, 0.15)[0]
        self.assertTrue(flat[0] < lower < head)
        gale = {"id": "g", "from_clock": "04:00:00", "wind_from_deg": 90, "wind_mps": 0, "waves_m": 0.3}
        self.assertEqual(watts(270, 0.0, gale), watts(90))
        self.assertEqual(watts(90, 0.3, {**gale, "waves_m": None}), watts(90))  # as before
        self.assertEqual(watts(90, 0.0, {**gale, "day": 2}), flat)  # tomorrow's is not today's

    def test_a_sea_never_takes_more_than_the_drive_gives(self):
        sea = {"plan__wave_height_m": 0.5, "plan__wind_mps": 16}
        found = planned(leg(nm=4), wind_from_deg=90, boat_changes=sea, speed_mps=3.2, **FAR)
        voyage = voyage_of(found)
        demand, rows = voyage.ahead.demand, voyage.plan.rows
        moving = rows[:, GROUND] > 0
        self.assertGreater(int(moving.sum()), 30)
        self.assertLess(rows[moving, SPEED].max(), 0.9 * 3.2)
        self.assertAlmostEqual(rows[moving, MOTOR][5], demand.most_w, delta=1e-3 * demand.most_w)

    def test_a_forecast_gives_sky_and_wind_by_the_hour(self):
        hours = [
            {"from_clock": "06:00", "sky": "clear", "wind_mps": 2, "wind_from_deg": 200},
            {"from_clock": "10:00", "sky": "clear", "wind_mps": 2, "wind_from_deg": 200},
            {"from_clock": "12:00", "cloud_oktas": 8, "wind_mps": 5, "wind_from_deg": 250},
            {"from_clock": "17:00", "sky": "rain"},
        ]
        day = {"date": "2027-06-13", "sky": "broken", "wind_mps": 3.5, "wind_from_deg": 230, "hours": hours}
        design = planned(leaves_at="09:00:00", boat_changes={"plan__date": "2027-06-13"})
        found = by_forecast(design, read_forecast(json.dumps({"days": [day]})))
        self.assertEqual((found.sky, found.wind_mps, found.wind_from_deg), ("clear", 3.5, 230))
        skies = [(f"{one.from_clock:%H}", str(one.sky)) for one in found.skies]
        self.assertEqual(skies, [("12", "overcast"), ("17", "rain")])
        winds = [(f"{one.from_clock:%H}", one.wind_from_deg) for one in found.winds]
        self.assertEqual(winds, [("06", 200), ("12", 250)])
        tomorrow = {"date": "2027-06-14", "sky": "hazy", "wind_mps": 7, "wind_from_deg": 300, "waves_m": 0.4}
        late = {"leaves_at": "20:00:00", "speed_mps": 0.8, "boat_changes": {"plan__date": "2027-06-13"}}
        night = planned(leg(nm=8), **late)
        found = by_forecast(night, read_forecast(json.dumps({"days": [day, tomorrow]})))
        self.assertEqual([(one.day, str(one.sky)) for one in found.skies], [(2, "hazy")])
        last = found.winds[-1]
        self.assertEqual((last.day, last.from_clock.hour, last.waves_m), (2, 0, 0.4))
        self.assertIn(
            "knows nothing", by_forecast(night, read_forecast(json.dumps({"days": [day]}))).told.text
        )
        other = read_forecast(json.dumps({"days": [{**day, "date": "2027-06-20"}]}))
        for refused, forecast in ((design, other), (boat(), other)):
            with self.assertRaises(ParhelionError):
                by_forecast(refused, forecast)
        stand_in = by_forecast(design, simulated_forecast(design.site, design.plan.date, 1))
        self.assertEqual(len(stand_in.winds), 4)


class WindsTest(TestCase):
    def test_each_holds_from_its_hour_on_and_only_one_with_a_direction_drags(self):
        winds = Winds((*steady(None, 7.0).each, WindAt(9.0, 350.0, 4.0), WindAt(15.0, 20.0, 6.0)))
        self.assertEqual([winds.at(hour).mps for hour in (-30, 8.99, 9, 14.99, 15, 200)], [7, 7, 4, 4, 6, 6])
        self.assertEqual((winds.strongest_mps, steady(None, 7.0).strongest_mps), (6.0, 0.0))
        from_deg, mps, _ = winds.over(8.0, 96, 300.0)
        self.assertEqual((mps[:12].tolist(), set(mps[12:84]), set(mps[84:])), ([0.0] * 12, {4.0}, {6.0}))
        self.assertEqual((set(from_deg[12:84]), set(from_deg[84:])), ({350.0}, {20.0}))
        self.assertTrue(np.isnan(from_deg[:12]).all())
        ahead = winds.turned(90.0)
        self.assertEqual(
            [(one.from_deg, one.mps) for one in ahead.each], [(90.0, 0.0), (90.0, 4.0), (90.0, 6.0)]
        )
