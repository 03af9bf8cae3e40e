"""The sun's place, the day's steps, sky words and the light on a plane."""

from __future__ import annotations

import unittest
from datetime import UTC, date, datetime, timedelta
from datetime import time as Time
from zoneinfo import ZoneInfo

import numpy as np
from parhelion.balance.spells import useful_sun
from parhelion.design import Shade, Site, Sky, Ventilation, Water
from parhelion.panels.panel import cell_temperature_c, power_per_watt
from parhelion.panels.plane import PlaneLight, plane_light
from parhelion.rail.answers import answers_for
from parhelion.sun.climate import usual_air_temperature_c, usual_water_temperature_c
from parhelion.sun.daysteps import SunTrack, day_steps
from parhelion.sun.light import Light, clear_light, light_under, split
from parhelion.sun.sky import BRIGHT_SHARE, BROKEN_SPELL_MIN, STEADY, _broken_index, clear_sky_index
from parhelion.sun.timeline import even_steps
from parhelion.sun.zone import zone_at
from scipy.interpolate import CubicSpline

from tests.cases import STEP_H, boat, cases

HESPER = Site(latitude_deg=61.4, longitude_deg=14.2, altitude_m=160)


def site_of(inputs: dict) -> Site:
    return Site(
        latitude_deg=inputs["lat"], longitude_deg=inputs.get("lon", 0), altitude_m=inputs.get("alt", 0),
        linke_turbidity=inputs.get("TL"),
    )  # fmt: skip


def one_moment(inputs: dict) -> Light:
    """A light of a single step with stated irradiances."""
    zenith = np.array([inputs["zenith"]])
    day = SunTrack(
        even_steps(datetime(2027, 6, 1, tzinfo=UTC), 600, 1, ZoneInfo("UTC")), zenith, zenith,
        np.array([inputs["sun_az"]]), np.array([inputs["dni_extra"]]), np.zeros(1), np.zeros(1), np.zeros(1), 3.0,
    )  # fmt: skip
    ghi, dhi, dni = (np.array([[inputs[key]]]) for key in ("ghi", "dhi", "dni"))
    return Light(day, ghi, dhi, dni, 0)


def direction(zenith_deg, azimuth_deg) -> np.ndarray:
    """The unit vector towards the sun: east, north, up."""
    zenith, azimuth = np.radians(zenith_deg), np.radians(azimuth_deg)
    return np.stack([np.sin(zenith) * np.sin(azimuth), np.sin(zenith) * np.cos(azimuth), np.cos(zenith)], -1)


class PositionTest(unittest.TestCase):
    def test_places_of_the_sun(self):
        for name, case in cases("sun").items():
            if not name.startswith("solpos"):
                continue
            with self.subTest(name):
                inputs, expected = case["inputs"], case["expected"]
                at = datetime.fromisoformat(inputs["time"])
                day = day_steps(site_of({**inputs, "TL": None}), self._local_date(inputs, at))
                # between ten-minute steps the sun's direction moves smoothly: a cubic through its parts
                steps = direction(day.zenith_deg, day.azimuth_deg)
                found = CubicSpline(np.arange(144), steps)(day.index_at(at) - 0.5)
                expected = direction(expected["zenith"], expected["azimuth"])
                self.assertLess(np.degrees(np.linalg.norm(found - expected)), 0.02)

    @staticmethod
    def _local_date(inputs: dict, at: datetime) -> date:
        return at.astimezone(zone_at(inputs["lat"], inputs["lon"])).date()

    def test_rise_and_set(self):
        for name, case in cases("sun").items():
            if not name.startswith("riseset"):
                continue
            with self.subTest(name):
                day = day_steps(site_of(case["inputs"]), date.fromisoformat(case["inputs"]["date"]))
                for key, found in (("sunrise", day.sunrise_at), ("sunset", day.sunset_at),
                                   ("transit", day.solar_noon_at)):  # fmt: skip
                    expected = case["expected"][key]
                    if expected is None:
                        self.assertIsNone(found)
                    else:
                        stamp = datetime.fromisoformat(expected[:26] + expected[-6:])
                        self.assertLess(abs(found - stamp), timedelta(seconds=60))

    def test_the_sun_stands_on_the_horizon_when_it_rises_and_sets(self):
        """Against the whole algorithm at those moments; near the date line too, where a day's events straddle it."""
        import pandas as pd
        from pvlib.solarposition import get_solarposition

        seen = 0
        for latitude, longitude in (
            (43, 15),
            (-28.9, 144),
            (66.7, -178.9),
            (47, 179.9),
            (60.6, -154.8),
            (-65, 78.6),
            (0, 0),
        ):
            for when in (date(2027, 1, 1), date(2027, 3, 27), date(2028, 2, 29), date(2027, 12, 31)):
                site = Site(latitude_deg=latitude, longitude_deg=longitude)
                day = day_steps(site, when)
                local = day.solar_noon_at
                self.assertEqual(local.date(), when)
                stamps = pd.DatetimeIndex([local, day.sunrise_at or local, day.sunset_at or local])
                there = get_solarposition(stamps, latitude, longitude, pressure=1e-6)
                for event, height in zip(
                    (day.sunrise_at, day.sunset_at), there["elevation"].iloc[1:], strict=True
                ):
                    if event is not None:
                        self.assertAlmostEqual(height, -0.8333, delta=0.006)
                        seen += 1
                middles = pd.DatetimeIndex([day.timeline.at_index(k + 0.5) for k in (0, 60, 143)])
                whole = get_solarposition(middles, latitude, longitude)
                for ours, theirs in ((day.zenith_deg, "zenith"), (day.azimuth_deg, "azimuth")):
                    np.testing.assert_allclose(ours[[0, 60, 143]], whole[theirs], atol=2e-4)
        self.assertGreater(seen, 48)

    def test_clear_days(self):
        for name, case in cases("sun").items():
            if not name.startswith("clear_day"):
                continue
            with self.subTest(name):
                day = day_steps(site_of(case["inputs"]), date.fromisoformat(case["inputs"]["date"]))
                light = clear_light(site_of(case["inputs"]), day.starts_at.date())
                for key, found in (("ghi", light.ghi), ("dhi", light.dhi), ("dni", light.dni)):
                    total = found.sum() * STEP_H / 1000
                    self.assertAlmostEqual(total / case["expected"][f"{key}_kwh_m2"], 1, delta=0.005)

    def test_a_day_begins_at_solar_midnight_where_the_sun_neither_rises_nor_sets(self):
        for latitude, day_of, light in ((78.0, date(2027, 12, 21), 0.0), (78.0, date(2027, 6, 21), 1000.0)):
            day = day_steps(Site(latitude_deg=latitude, longitude_deg=15), day_of)
            self.assertIsNone(day.sunset_at)
            self.assertEqual(day.dusk_index, 144)
            self.assertAlmostEqual(day.index_at(day.solar_noon_at), 72, delta=1e-6)
            self.assertGreaterEqual(day.clear_ghi_w_per_m2.sum(), light)

    def test_every_latitude_and_month_is_finite(self):
        for latitude in (-90, -66.5, -35, 0, 45, 66.6, 89.9, 90):
            for month in (1, 3, 6, 9, 12):
                light = clear_light(Site(latitude_deg=latitude, longitude_deg=179.9), date(2027, month, 21))
                for values in (light.ghi, light.dhi, light.dni):
                    self.assertTrue(np.all(np.isfinite(values)) and np.all(values >= 0), (latitude, month))

    def test_water_follows_the_season_and_never_freezes_solid(self):
        for latitude in (-65, -40, 0, 30, 61, 75):
            for water, least in ((Water.FRESH, 0.0), (Water.SALT, -1.8)):
                year = [usual_water_temperature_c(latitude, date(2027, m, 15), water) for m in range(1, 13)]
                self.assertGreaterEqual(min(year), least)
                self.assertLess(max(year), 32)
                if abs(latitude) >= 30:
                    warm = np.argmax(year) + 1
                    self.assertIn(warm, (7, 8, 9) if latitude > 0 else (1, 2, 3))
        at_50 = [[usual_water_temperature_c(50, date(2027, m, 15), w) for m in range(1, 13)] for w in Water]
        self.assertGreater(np.ptp(at_50[0]), np.ptp(at_50[1]))  # a lake's swing is wider than the sea's

    def test_air_temperature_is_seasonal_on_both_sides(self):
        self.assertGreater(usual_air_temperature_c(60, date(2027, 7, 20)), 12)
        self.assertLess(
            usual_air_temperature_c(-45, date(2027, 7, 20)), usual_air_temperature_c(-45, date(2027, 1, 20))
        )


def hours_of(day, starts, ends):
    """Hours that a daily stretch of the clock lasts on a day."""
    return float(day.timeline.over(day.timeline.clock_share(starts, ends)))


class ClockTest(unittest.TestCase):
    AMSTERDAM = Site(latitude_deg=52.3, longitude_deg=4.9)

    def test_days_of_23_and_25_hours(self):
        # 28 March 2027 skips 02-03 o'clock, 31 October repeats it; the day's 24 h run over that night
        spring = day_steps(self.AMSTERDAM, date(2027, 3, 27))
        autumn = day_steps(self.AMSTERDAM, date(2027, 10, 30))
        self.assertAlmostEqual(hours_of(spring, Time(1), Time(4)), 2, places=6)
        self.assertAlmostEqual(hours_of(autumn, Time(1), Time(4)), 4, places=6)

    def test_a_spell_past_midnight_lasts(self):
        day = day_steps(self.AMSTERDAM, date(2027, 6, 1))
        self.assertAlmostEqual(hours_of(day, Time(22), Time(2)), 4, places=6)
        # partly tomorrow morning, before the next sunrise
        self.assertAlmostEqual(hours_of(day, Time(4), Time(6)), 2, places=6)

    def test_the_useful_sun_holds_nine_tenths_of_the_clear_harvest(self):
        light = clear_light(HESPER, date(2027, 6, 13))
        (spell,) = useful_sun(light.day, light.ghi[0])
        share = light.timeline.clock_share(spell.starts_at, spell.ends_at)
        self.assertAlmostEqual(float((share * light.ghi[0]).sum() / light.ghi.sum()), 0.9, delta=0.01)
        self.assertEqual(useful_sun(light.day, np.zeros(144)), ())

    def test_now_is_found_within_the_24_hours(self):
        day = day_steps(HESPER, date(2027, 6, 13))
        self.assertEqual(day.moment(Time(1, 30)).date(), date(2027, 6, 14))  # after midnight, before sunrise
        self.assertEqual(day.moment(Time(13)).date(), date(2027, 6, 13))


class SkyTest(unittest.TestCase):
    DAY = date(2027, 6, 13)

    def test_means_and_spreads(self):
        for word, (mean, spread) in STEADY.items():
            index = clear_sky_index(word, self.DAY, 1001)
            self.assertAlmostEqual(index.mean(), mean, delta=4 * spread / np.sqrt(1001) + 1e-4)
            self.assertAlmostEqual(index.std() / spread, 1, delta=0.08)
            self.assertGreater(index.min(), 0)

    def test_broken_cloud_has_two_states_and_twelve_minute_spells(self):
        index = clear_sky_index(Sky.BROKEN, self.DAY, 801)
        self.assertAlmostEqual(index.mean(), (1.04 + 0.45) / 2, delta=0.006)
        # of ten-minute steps, those that are dull throughout: half an exponential's survival, in minutes
        dull = np.mean(np.isclose(index, 0.45))
        self.assertAlmostEqual(dull, (1 - 1 / BROKEN_SPELL_MIN) ** 9 / 2, delta=0.01)

    def test_a_cloud_beside_the_sun_lifts_it_over_a_clear_sky(self):
        """Minute by minute 1.2 beside an edge; over ten of them some hundredths; a bright spell's mean is kept."""
        uniforms = np.random.default_rng(3).random((400, 1441))
        for shade, share in BRIGHT_SHARE.items():
            minutes = _broken_index(uniforms, share)
            self.assertEqual(minutes.max(), 1.2)
            bright = minutes > 0.9
            self.assertAlmostEqual(bright.mean(), share, delta=0.01)
            self.assertAlmostEqual(minutes[bright].mean(), 1.04, delta=0.004)
            ends = bright[:, :-1] & ~bright[:, 1:]
            self.assertTrue((minutes[:, :-1][ends] == 1.2).all())
            steps = clear_sky_index(Sky.BROKEN, self.DAY, 401, shade)
            self.assertAlmostEqual(steps.mean(), share * 1.04 + (1 - share) * 0.45, delta=0.012)
            self.assertTrue(1.0 < steps.max() < 1.2, steps.max())

    def test_a_light_and_a_heavy_sky_are_told_apart(self):
        for word in (Sky.HAZY, Sky.BROKEN, Sky.OVERCAST, Sky.RAIN):
            light, usual, heavy = (clear_sky_index(word, self.DAY, 201, shade).mean() for shade in Shade)
            self.assertTrue(light > usual > heavy > 0, (word, light, usual, heavy))
        self.assertTrue(0.2 <= clear_sky_index(Sky.OVERCAST, self.DAY, 201, Shade.THIN).mean() <= 0.4)
        self.assertTrue(0.05 <= clear_sky_index(Sky.OVERCAST, self.DAY, 201, Shade.THICK).mean() <= 0.15)
        np.testing.assert_array_equal(
            *(clear_sky_index(Sky.CLEAR, self.DAY, 9, shade) for shade in (Shade.THIN, Shade.THICK))
        )
        day = boat(plan__sky="overcast", plan__sky_shade="thick")
        self.assertEqual(day.plan.sky_words, "heavily overcast")
        thin = answers_for(boat(plan__sky="overcast", plan__sky_shade="thin"))
        self.assertGreater(thin.days_run_sun.distance_m, answers_for(day).days_run_sun.distance_m or 0)

    def test_draws_are_fixed_by_member_and_day(self):
        for word in Sky:
            many, few = clear_sky_index(word, self.DAY, 60), clear_sky_index(word, self.DAY, 20)
            np.testing.assert_array_equal(many[:20], few)
        self.assertFalse(
            np.allclose(clear_sky_index(Sky.HAZY, self.DAY), clear_sky_index(Sky.HAZY, date(2027, 6, 14)))
        )

    def test_the_shown_day_is_the_median_one(self):
        light = light_under(HESPER, self.DAY, Sky.BROKEN)
        totals = light.ghi.sum(axis=1)
        self.assertEqual(np.sum(totals < totals[light.shown]), (len(totals) - 1) // 2)


class PlaneTest(unittest.TestCase):
    def test_hay_davies_over_water(self):
        for name in ("poa_20_180", "poa_35_160", "poa_60_250"):
            case = cases("sun")[name]
            found = plane_light(one_moment(case["inputs"]), case["inputs"]["tilt"], case["inputs"]["azimuth"])
            expected = case["expected"]["haydavies"]["poa_global"]
            self.assertAlmostEqual(float(found.global_w_per_m2[0, 0]), expected, delta=0.1)

    def test_diffuse_split(self):
        case = cases("sun")["erbs_driesse"]
        for index, ghi in enumerate(case["inputs"]["ghi"]):
            moment = one_moment(
                {"zenith": case["inputs"]["zenith"], "sun_az": 180.0, "dni_extra": case["inputs"]["dni_extra"],
                 "ghi": 0.0, "dhi": 0.0, "dni": 0.0}
            )  # fmt: skip
            dhi, dni = split(moment.day, np.array([[float(ghi)]]))
            self.assertAlmostEqual(float(dhi[0, 0]), case["expected"]["dhi"][index], delta=0.1)
            self.assertAlmostEqual(float(dni[0, 0]), case["expected"]["dni"][index], delta=0.1)

    def test_cells_and_their_watts(self):
        case = cases("sun")["celltemp_faiman"]
        for key, expected in case["expected"]["tcell"].items():
            light, air, wind = (float(part) for part in key.split("_"))
            cell = cell_temperature_c(np.array(light), air, wind, Ventilation.OPEN)
            self.assertAlmostEqual(float(cell), expected, delta=0.05)
            made = power_per_watt(
                PlaneLight(np.array(light), np.array(1000.0), np.array(1000.0)),
                air,
                wind,
                Ventilation.OPEN,
                -0.0035,
            )
            self.assertAlmostEqual(float(made), case["expected"]["pvwatts_factor"][key], delta=5e-4)

    def test_what_a_flat_panel_loses_to_the_best_tilt(self):
        known = {  # percent lost, and the best tilt [deg]: published with the clear-sky model's own split
            (25, 6): (0, 0), (25, 9): (9, 25), (25, 12): (39, 55), (45, 6): (1, 10), (45, 9): (28, 45),
            (45, 12): (64, 70), (60, 6): (5, 20), (60, 9): (47, 60), (60, 12): (84, 85),
        }  # fmt: skip
        for (latitude, month), (lost, tilt) in known.items():
            site = Site(latitude_deg=latitude, longitude_deg=0, linke_turbidity=3)
            light = clear_light(site, date(2025, month, 22 if month == 9 else 21))
            totals = {t: plane_light(light, t, 180).global_w_per_m2.sum() for t in range(0, 91, 5)}
            best = max(totals, key=totals.get)
            with self.subTest(latitude=latitude, month=month):
                self.assertLessEqual(abs(best - tilt), 5)
                self.assertAlmostEqual(100 * (1 - totals[0] / totals[best]), lost, delta=1)

    def test_a_side_rail_against_a_flat_panel(self):
        for name, case in cases("sun").items():
            if not name.startswith("rail_tilt"):
                continue
            inputs = case["inputs"]
            site = Site(latitude_deg=inputs["lat"], longitude_deg=0, linke_turbidity=inputs["TL"])
            light = clear_light(site, date.fromisoformat(inputs["date"]))
            flat = plane_light(light, 0, 0).global_w_per_m2.sum()
            for heading, expected in case["expected"].items():
                if heading == "mean_over_headings":
                    continue
                for side, turn in (("stbd", 90), ("port", -90)):
                    rail = plane_light(
                        light, inputs["tilt"], (int(heading) + turn) % 360
                    ).global_w_per_m2.sum()
                    with self.subTest(name, heading=heading, side=side):
                        self.assertAlmostEqual(rail / flat, expected[f"{side}_vs_flat"], delta=0.01)

    def test_the_split_follows_the_sky(self):
        """A clear sky keeps its own beam; less light is less beam; parts add up; clouds scatter it all."""
        day = day_steps(HESPER, date(2027, 6, 13))
        index = np.array([0.1, 0.3, 0.5, 0.7, 0.8, 0.9, 0.97, 1.0, 1.1, 1.3])
        ghi = index[:, None] * day.clear_ghi_w_per_m2[None, :]
        dhi, dni = split(day, ghi)
        high = day.zenith_deg < 80
        horizontal = dni * np.cos(np.radians(day.apparent_zenith_deg))
        np.testing.assert_allclose((dhi + horizontal)[:, high], ghi[:, high], rtol=2e-3)
        np.testing.assert_allclose(dni[7], day.clear_dni_w_per_m2, rtol=1e-9)
        self.assertTrue(np.all(np.diff(dni[:9, high], axis=0) >= -1e-9))
        self.assertTrue(np.all(dhi >= 0) and np.all(dni >= 0))
        self.assertLess(float(dni[0, high].max()), 1.0)
        np.testing.assert_allclose(dni[9], dni[8], rtol=1e-9)  # of cloud edges the rest is diffuse
