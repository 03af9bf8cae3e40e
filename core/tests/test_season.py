"""The year: what the days of a climate are like, and laws of what a boat makes of them."""

from __future__ import annotations

import csv
import io
import unittest
from itertools import pairwise
from pathlib import Path

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from parhelion.balance.days_on_end import END_SOC, HOUSE_WH, MOTOR_WH, REFUSED_WH, RESIDUAL_WH, run_chain
from parhelion.balance.flow import HOUSE, MOTOR, REFUSED, SOC, run_days
from parhelion.balance.outlook import outlook_of
from parhelion.balance.steady import motor_of
from parhelion.cli import main, told
from parhelion.hull.demand import demand_curve
from parhelion.panels.harvest import harvest
from parhelion.stations.day.accounts import written_accounts
from parhelion.stations.year.ahead import days_ahead
from parhelion.stations.year.climate import climate_year
from parhelion.stations.year.season import SKIES, season
from parhelion.stations.year.worth import WorthAsk, worth
from parhelion.sun.generated import (
    CLEARNESS,
    LAG,
    mean_clearness,
    month_of,
    outside_wh_per_m2,
    ranks_of_days,
    spread_of_days,
)
from parhelion.sun.koppen import usual_word, zone_at
from parhelion.sun.light import Light, split

from tests.cases import HOURS, STEP_H, boat, findings_of, picture

YEAR = 2026
EVEN = {
    "site__climate": {"known_by": "day_counts", "day_counts": [{"sunny": 10, "mixed": 10, "grey": 10}] * 12}
}


class PlacesTest(unittest.TestCase):
    def test_a_usual_climate_is_that_of_the_place_not_of_its_latitude_alone(self):
        """An east coast of a continent is no Mediterranean; islands and bays take the nearest shore's."""
        for place, latitude, longitude, word in (
            ("Boston", 42.4, -71.1, "inland"), ("Auckland", -36.8, 174.8, "maritime"),
            ("Split", 43.5, 16.4, "mediterranean"), ("off Split", 43.2, 15.6, "mediterranean"),
            ("Vancouver", 49.3, -123.1, "maritime"), ("Mumbai", 19.0, 72.8, "monsoon"),
            ("the Leewards", 17.5, -63.0, "trade_wind"), ("Perth", -32.0, 115.8, "mediterranean"),
            ("Tromso", 69.6, 18.9, "high_latitude"), ("Chicago", 41.9, -87.5, "inland"),
        ):  # fmt: skip
            self.assertEqual(usual_word(latitude, longitude).value, word, place)
        for latitude in np.linspace(-90, 90, 37):  # every place has one, the date line and the poles too
            for longitude in np.linspace(-180, 180, 41):
                self.assertIn(usual_word(float(latitude), float(longitude)), CLEARNESS)
        self.assertIsNone(zone_at(40.0, -40.0))  # in the middle of an ocean


class DaysTest(unittest.TestCase):
    @settings(max_examples=25, deadline=None)
    @given(st.floats(0.08, 0.75))
    def test_the_spread_of_days_has_the_mean_it_was_asked_for(self, mean):
        ranks = (np.arange(4000) + 0.5) / 4000
        days = spread_of_days(mean, ranks)
        self.assertAlmostEqual(days.mean(), mean, delta=0.004)
        self.assertTrue((np.diff(days) >= 0).all())
        self.assertTrue(days.min() >= 0 and days.max() < 0.9)

    def test_published_shape_of_the_distribution(self):
        """At a mean of .5 and .3: skewed to the grey below, to the bright above."""
        ranks = (np.arange(10_000) + 0.5) / 10_000
        for mean, below in ((0.3, -1), (0.6, 1)):
            days = spread_of_days(mean, ranks)
            self.assertEqual(np.sign(np.median(days) - days.mean()), below)

    def test_days_follow_each_other_as_they_should_and_repeat(self):
        from scipy.special import ndtri

        for month in (1, 7):
            normal = ndtri(ranks_of_days(month, 1000))
            self.assertAlmostEqual(float(np.corrcoef(normal[1:], normal[:-1])[0, 1]), LAG, delta=0.07)
            np.testing.assert_array_equal(ranks_of_days(month, 1000), ranks_of_days(month, 1000))

    def test_a_month_has_the_sun_it_is_said_to_have(self):
        middles = [month_of(boat().site, YEAR, month).day for month in range(1, 13)]
        hours = [0.55 * day.clear_ghi_w_per_m2.sum() * STEP_H / 1000 for day in middles]
        site = boat(site__climate={"known_by": "sun_hours", "sun_hours": hours}).site
        for month in (1, 6, 10):
            found = month_of(site, YEAR, month)
            self.assertAlmostEqual(found.sun_h / hours[month - 1], 1, delta=0.01)
            daily = (found.index * found.day.clear_ghi_w_per_m2).sum(axis=1) * STEP_H
            self.assertAlmostEqual(daily.mean() / 1000 / found.sun_h, 1, places=9)
        counts = boat(**EVEN).site
        clear = month_of(counts, YEAR, 6).day
        share = (
            mean_clearness(counts.spot, counts.climate, YEAR, 6)
            * outside_wh_per_m2(clear)
            / (clear.clear_ghi_w_per_m2.sum() * STEP_H)
        )
        self.assertAlmostEqual(share, (0.97 + 0.65 + 0.28) / 3)

    def test_bad_months_are_refused_in_words(self):
        for climate, said in (
            ({"known_by": "day_counts", "day_counts": [{"sunny": 40}] * 12}, "31"),
            ({"known_by": "day_counts", "day_counts": [{"sunny": 20, "mixed": 20}] * 12}, "no 40 days"),
            ({"known_by": "sun_hours", "sun_hours": [4.0] * 11}, "twelve"),
            ({"known_by": "sun_hours", "sun_hours": [24.0] * 12}, "24 full-sun hours"),
        ):
            with self.assertRaisesRegex(ValueError, said):
                boat(site__climate=climate)


class ChainTest(unittest.TestCase):
    @settings(max_examples=12, deadline=None)
    @given(st.floats(0, 900), st.floats(0, 1), st.integers(0, 3))
    def test_the_energy_of_every_day_closes_and_a_chain_is_its_days(self, power, start, seed):
        outlook = outlook_of(boat())
        sun = np.ascontiguousarray(outlook.harvest.by_bank_w[seed : seed + 5])
        watts = motor_of(outlook.motor_rows, power)
        whole = run_chain(
            sun, outlook.house_rows_w, watts, outlook.motoring, start, start, HOURS, outlook.aboard
        )
        self.assertLess(whole[:, RESIDUAL_WH].max(), 1e-6)
        soc = start
        for day, row in zip(sun, whole, strict=True):
            one = run_days(day[None], outlook.house_rows_w, watts, np.array([soc]), np.array([soc]), HOURS,
                           outlook.aboard)[0]  # fmt: skip
            for column, of in ((MOTOR_WH, MOTOR), (HOUSE_WH, HOUSE), (REFUSED_WH, REFUSED)):
                self.assertAlmostEqual(row[column], one[:, of].sum() * STEP_H, places=6)
            soc = one[-1, SOC]
            self.assertAlmostEqual(row[END_SOC], soc, places=12)


class SeasonTest(unittest.TestCase):
    def test_skies_between_the_harvested_ones_are_right_within_a_hundredth(self):
        design = boat(controllers__0__current_limit_a=12.0)
        day = outlook_of(design).day
        rng = np.random.default_rng(4)
        index = rng.uniform(0.02, 1.2, (6, 144))
        ghi = index * day.clear_ghi_w_per_m2
        true = harvest(design, Light(day, ghi, *split(day, ghi), 0)).sun_w
        table_ghi = np.array(SKIES)[:, None] * day.clear_ghi_w_per_m2
        table = harvest(design, Light(day, table_ghi, *split(day, table_ghi), 9)).sun_w
        found = np.array([np.interp(index[:, t], SKIES, table[:, t]) for t in range(144)]).T
        self.assertAlmostEqual(found.sum() / true.sum(), 1, delta=0.01)

    def test_more_sun_is_never_fewer_miles_and_the_year_repeats(self):
        dull, bright = (
            season(boat(site__climate={"known_by": "sun_hours", "sun_hours": [h] * 12}), days=200)
            for h in (1.5, 2.5)
        )
        for less, more in zip(dull.months, bright.months, strict=True):
            self.assertLessEqual(less.middle_m, more.middle_m * (1 + 1e-9))
            self.assertLessEqual(less.speed_mps, more.speed_mps * (1 + 1e-9))
        again = season(boat(site__climate={"known_by": "sun_hours", "sun_hours": [1.5] * 12}), days=200)
        self.assertEqual(dull, again)

    def test_the_outlooks_stand_in_order_and_the_energies_add_up(self):
        found = season(boat(**EVEN), days=400)
        for month in found.months:
            self.assertLessEqual(month.sceptic_mps, month.speed_mps + 1e-9)
            self.assertLessEqual(month.speed_mps, month.enthusiast_mps + 1e-9)
            self.assertLessEqual(month.poor_m, month.middle_m)
            if month.speed_mps == 0:  # the bank it began with is in it
                continue
            used = month.motor_wh + month.house_wh + month.refused_wh + month.lost_wh
            self.assertAlmostEqual(
                used / month.harvest_wh, 1, delta=0.03
            )  # the rest is the bank's, end to end
        self.assertEqual(found.worst, min(found.months, key=lambda m: m.wished_h).month)

    def test_a_speed_that_no_month_sustains_is_told_by_its_watts(self):
        few = {"panels__0__nameplate_w": 3}
        for changes, asked_mps, takes in (
            ({}, 9.0, "faster than she goes. The most over the plan's hours"),
            (
                {**few, "loads": []},
                4.2,
                r"it takes [\d.,]+ kW\. The sun gives less than the drive's idle draw",
            ),
            ({**few, "loads__0__power_w": 80}, 4.2, "The house takes all the sun gives."),
        ):
            found = season(boat(plan__speed_mps=asked_mps, **changes), 40)
            text = told(found.verdict)
            self.assertIn("No month's sun sustains", text)
            self.assertRegex(text, takes)
            self.assertNotIn("0 min", text + " ".join(told(line) for line in found.turning))

    def test_a_verdict_turns_with_what_it_names(self):
        at = {**EVEN, "plan__date": "2026-08-10", "plan__speed_mps": 2.6, "loads": []}
        found = season(boat(**at), days=400)
        self.assertIn(found.answer, ("no", "partly"))
        text = " ".join(told(line) for line in found.turning)
        self.assertIn("More panel", text)
        august = found.months[7]
        slower = season(boat(**{**at, "plan__speed_mps": august.speed_mps * 0.999}), days=400)
        self.assertEqual((slower.answer, slower.turning), ("yes", []))
        more_w = next(
            t for t in found.turning if "label" in t.slots and t.slots["label"].value == "More panel"
        )
        watts = boat().panels[0].nameplate_w
        count = int(np.ceil((boat().nameplate_w + more_w.slots["w"].value) / watts))
        grown = season(boat(**at, panels__0__count=count, controllers__0__current_limit_a=None), days=400)
        self.assertGreater(grown.months[7].wished_h, 0.85 * august.motoring_h)

    def test_months_that_cannot_be_are_told(self):
        found = findings_of("year", boat(site__climate={"known_by": "sun_hours", "sun_hours": [6.0] * 12}))
        self.assertTrue(any("December: 6.0 full-sun hours" in told(item.detail) for item in found))

    def test_a_polar_winter_no_bank_and_no_panels(self):
        dark = season(boat(site__latitude_deg=78.0, **EVEN), days=60).months[11]
        self.assertEqual((dark.harvest_wh, dark.middle_m), (0.0, 0.0))
        live = season(boat(banks=[], loads=[], **EVEN), days=60)
        self.assertGreater(live.months[5].middle_m, live.months[11].middle_m)
        self.assertEqual(season(boat(panels=[]), days=60).months[5].middle_m, 0.0)
        sheet = {"open_circuit_v": 21.0, "short_circuit_a": 6.2, "best_v": 17.5, "best_a": 5.7}
        low = {
            f"panels__0__{name}": value for name, value in (sheet | {"series": 1, "nameplate_w": 100}).items()
        }
        low = season(boat(**low), days=60)  # under its bank's volts
        self.assertEqual((low.answer, low.turning), ("no", []))
        self.assertIn("cannot reach the bank's volts", low.verdict.text)

    def test_days_ahead_carry_their_charge_and_fog_is_never_better(self):
        at = {**EVEN, "plan__start_charge_frac": 0.9, "loads": []}
        trip = {"out_days": 2, "rest_days": 2, "rounds": 1}
        fair = days_ahead(boat(**at, plan__trip=trip))
        fog = days_ahead(boat(**at, plan__trip={**trip, "fog_from": 2, "fog_days": 2}))
        self.assertEqual([(day.kind, day.sky is not None) for day in fog.days],
                         [("out", False), ("out", True), ("rest", True), ("rest", False)])  # fmt: skip
        self.assertEqual(fair.days[0], fog.days[0])
        for clear, grey in zip(fair.days, fog.days, strict=True):
            for name in ("charge_low", "charge_middle", "charge_high", "metres_middle"):
                self.assertLessEqual(getattr(grey, name), getattr(clear, name) + 1e-9)
        self.assertEqual([day.metres_middle for day in fair.days[2:]], [0.0, 0.0])
        self.assertGreater(fair.days[3].charge_low, fair.days[1].charge_low)
        self.assertTrue(all(day.charge_low <= day.charge_middle <= day.charge_high for day in fog.days))
        self.assertEqual(days_ahead(boat(**at, plan__trip=trip)), fair)
        self.assertIsNone(days_ahead(boat(banks=[])))
        with self.assertRaisesRegex(ValueError, "no days"):
            boat(plan__trip={"out_days": 0, "rest_days": 0})

    def test_ready_by_saturday(self):
        """Six days idle at the dock from a low charge: the more sun, the more often ready."""
        ready = []
        for hours in (1.0, 2.5, 5.0):
            site = {"known_by": "sun_hours", "sun_hours": [hours] * 12}
            found = days_ahead(boat(site__climate=site, plan__date="2026-06-10", plan__start_charge_frac=0.35,
                                    plan__trip={"out_days": 0, "rest_days": 6, "rest_state": "dock", "rounds": 1}))  # fmt: skip
            ready.append([day.charge_middle for day in found.days])
        self.assertTrue(
            all(a <= b + 1e-9 for low, high in pairwise(ready) for a, b in zip(low, high, strict=True))
        )
        self.assertGreater(ready[2][-1], 0.9)

    def test_the_years_strip_is_the_days_that_the_season_meets(self):
        design = boat(site__climate={"known_by": "word", "word": "inland"})
        strip = climate_year(design.site, 2027)
        year = season(design, days=60)
        for month, made in zip(strip.months, year.months, strict=True):
            self.assertAlmostEqual(month.sun_h, made.sun_h, delta=0.02)
            self.assertTrue(month.poor_h <= month.sun_h <= month.good_h <= 1.12 * month.clear_h + 1e-9)
            self.assertAlmostEqual(month.sunny_frac + month.mixed_frac + month.grey_frac, 1)
        self.assertEqual(strip.rests_on, year.climate)
        polar = climate_year(boat(site__latitude_deg=80).site, 2027).months[11]
        self.assertEqual((polar.sun_h, polar.clear_h), (0, 0))

    def test_accounts_as_csv_add_up(self):
        rows = list(csv.reader(io.StringIO(written_accounts(outlook_of(boat())))))
        self.assertEqual(len(rows), 146)
        sums = [float(value) for value in rows[-1][1:-1]]
        self.assertAlmostEqual(sum(sums[:5]), sum(sums[5:]), delta=1.0)
        ledger = picture("day", boat()).ledger
        self.assertAlmostEqual(sums[0], ledger.array_wh, delta=0.1)
        self.assertAlmostEqual(sums[10], ledger.motor_wh, delta=0.1)

    def test_in_a_terminal(self):
        out = io.StringIO()
        demo = Path(__file__).parents[2] / "demo" / "whimbrel.json"
        self.assertEqual(main(["season", str(demo)], out), 0)
        self.assertIn("October", out.getvalue())
        self.assertIn("sustains", out.getvalue())


class WorthTest(unittest.TestCase):
    """The same sum by three schools."""

    def lines(self, design, **ask):
        found = worth(outlook_of(design), WorthAsk(**ask))
        value = {line.key: [v and v.value for v in line.values] for line in found.lines}
        return found, value

    def test_a_sceptics_own_sum_to_the_last_figure(self):
        """By hand: formula horsepower for two hours, a third added, over 5 h of sun at 190 W a square metre."""
        design = boat(plan__speed_mps=2.2)
        found, value = self.lines(design, hours=2.0, losses_frac=1 / 3, sun_h=5.0, overcast_frac=0.15,
                                  panel_w_per_m2=190.0, deck_m2=4.0)  # fmt: skip
        pounds = design.displacement_kg / 0.45359237
        knots, feet = 2.2 / (1852 / 3600), design.hull.waterline_length_m / 0.3048
        watts = 745.7 * pounds / (10.665 / (knots / feet**0.5)) ** 3
        need = watts * 2 * 4 / 3
        for key, expected in (
            ("watts", watts), ("motor", 2 * watts), ("needed", need), ("panels", need / 5), ("area", need / 5 / 190),
            ("deck", 4.0), ("hour", watts * 4 / 3 / (design.nameplate_w * 5)),
            ("overcast", watts * 4 / 3 / (design.nameplate_w * 5 * 0.15)),
        ):  # fmt: skip
            self.assertAlmostEqual(value[key][0] / expected, 1, places=9, msg=key)
        room = need / 5 / 190 > 4.0
        self.assertEqual("No room" in found.says[0].text, room)

    def test_the_typical_column_is_what_the_boat_harvests_factor_by_factor(self):
        design = boat(plan__sky="clear")
        outlook = outlook_of(design)
        _, value = self.lines(design)
        kept = [v[1] for key, v in value.items() if key.startswith("kept")]
        clear_wh = outlook.wh(outlook.clear_harvest.sun_w[0]) * outlook.store.coulomb_efficiency
        month = next(m for m in climate_year(design.site, 2027).months if m.month == design.plan.date.month)
        self.assertAlmostEqual(np.prod(kept) * design.nameplate_w * month.clear_h / clear_wh, 1, places=9)
        self.assertAlmostEqual(
            value["watts"][1], float(demand_curve(design).power_at(design.plan.speed_mps)), places=6
        )
        self.assertGreater(value["watts"][0], value["watts"][1])

    def test_runs_have_a_column_of_their_own_and_no_room_is_said(self):
        ran = [
            {"id": f"r{i}", "speed_mps": v, "back_speed_mps": v, "power_w": 160 * v**3}
            for i, v in enumerate((1.6, 2.4))
        ]
        found, value = self.lines(boat(runs=ran), hours=10.0, deck_m2=0.5)
        self.assertEqual(found.columns[2], "By your runs")
        self.assertNotAlmostEqual(value["watts"][2], value["watts"][1], delta=1)
        self.assertTrue(all("No room" in says.text for says in found.says))
        _, value = self.lines(boat(panels=[]), hours=1.0)
        self.assertEqual(value["hour"], ["never", "never"])


if __name__ == "__main__":
    unittest.main()
