"""The headline answers: their definitions, the five uses, their agreement with the pictures."""

from __future__ import annotations

import unittest
from datetime import UTC, datetime

import numpy as np
from parhelion.balance.flow import SOC
from parhelion.balance.outlook import outlook_of
from parhelion.balance.steady import power_to_reserve, steady_power
from parhelion.formats.plain import told
from parhelion.hull.demand import demand_curve
from parhelion.rail.answers import answers_for
from parhelion.rail.ground import thriftiest_mps
from parhelion.rail.held_back import active_limits, miles_m
from parhelion.rail.joint import joint_band, what_would_tell
from parhelion.rail.speeds import (
    Steady,
    bank_power_w,
    days_run_bank,
    live_distances,
    solve_steady,
    steady_mps,
)
from parhelion.rail.steps import with_panel
from parhelion.rail.stores import hours_at
from parhelion.stations.year.season import season
from parhelion.wiring.by_itself import strung_panels

from tests.cases import boat, picture
from tests.test_runs import runs

NOON = datetime(2027, 6, 13, 11, 3, tzinfo=UTC)

NORTH = {"site__latitude_deg": 56.0, "loads": []}
COLD = {**NORTH, "plan__date": "2027-02-20", "banks__0__temperature_c": -3.0}
USES = {  # what the table test changes, the rail it gets, and its cells
    "cruiser": ({}, ["sun_only_steady", "days_run_sun", "bank_at_dusk", "refill", "held_back_by"]),
    "auxiliary": (
        {"use": "auxiliary"},
        ["range_at_speed", "refill", "bank_at_dusk", "sun_only_steady", "held_back_by"],
    ),
    "home_charged": (
        {"use": "home_charged"},
        ["range_at_speed", "sun_share", "bank_at_dusk", "refill", "held_back_by"],
    ),
    "no_bank": ({"banks": []}, ["sun_only_noon", "days_distance", "held_back_by"]),
    "no_panels": (
        {"panels": [], "places": [], "controllers": []},
        ["range_at_speed", "first_panel", "bank_at_dusk", "held_back_by"],
    ),
}


class UsesTest(unittest.TestCase):
    def test_each_use_gets_its_rail_and_every_missing_number_its_reason(self):
        for kind, (changes, cells) in USES.items():
            with self.subTest(kind):
                # fast enough that the motor takes more than the sun gives: a range that ends
                found = answers_for(boat(**changes, plan__speed_mps=2.6), NOON)
                self.assertEqual(found.rail_kind, kind)
                self.assertEqual([cell.key for cell in found.rail], cells)
                for cell in found.rail:
                    self.assertTrue(cell.value is not None or cell.reason is not None, cell.key)
                    self.assertTrue(cell.why.method and cell.why.source and cell.assumes.text)
                for answer, number in (
                    (found.sun_only_now, "speed_mps"), (found.sun_only_noon, "speed_mps"),
                    (found.sun_only_steady, "speed_mps"), (found.days_run_sun, "distance_m"),
                    (found.days_run_bank, "distance_m"), (found.nine_in_ten, "distance_m"),
                    (found.bank_at_dusk, "soc_frac"), (found.refill, "days"), (found.sun_share, "share_frac"),
                ):  # fmt: skip
                    value = getattr(answer, number)
                    self.assertTrue(value is not None or answer.reason is not None, (kind, number))
                    self.assertTrue(value is None or np.isfinite(value))

    def test_what_each_use_says(self):
        found = {
            kind: answers_for(boat(**changes, plan__speed_mps=2.6), NOON)
            for kind, (changes, _) in USES.items()
        }
        self.assertIsNone(found["no_bank"].sun_only_steady.speed_mps)
        self.assertGreater(found["no_bank"].sun_only_noon.speed_mps, 1.5)
        self.assertGreater(found["no_bank"].days_run_sun.distance_m, 0)
        self.assertIsNone(found["no_bank"].bank_at_dusk.soc_frac)
        self.assertIsNone(found["no_panels"].refill.days)
        self.assertGreater(found["no_panels"].range_at_speed.distance_m, 0)
        self.assertGreater(found["no_panels"].rail[1].value.value, 0.3)
        home = found["home_charged"]
        dark = answers_for(
            boat(use="home_charged", panels=[], places=[], controllers=[], plan__speed_mps=2.6), NOON
        )
        start = outlook_of(boat(plan__speed_mps=2.6)).first_motoring_step
        self.assertEqual(start, outlook_of(boat(panels=[], places=[], controllers=[])).first_motoring_step)
        self.assertAlmostEqual(
            home.sun_share.minutes_won, 60 * (home.range_at_speed.hours - dark.range_at_speed.hours), places=6
        )

    def test_nothing_at_all_is_said_plainly(self):
        found = answers_for(boat(banks=[], panels=[], places=[], controllers=[]), NOON)
        self.assertEqual(found.rail_kind, "nothing_yet")
        self.assertTrue(all(cell.value is None or cell.key == "held_back_by" for cell in found.rail[:4]))


class DefinitionsTest(unittest.TestCase):
    def test_live_speed_spends_just_the_sun_of_the_step(self):
        design = boat()
        found = answers_for(design, NOON).sun_only_noon
        outlook = outlook_of(design)
        net = outlook.shown_sun_w[outlook.day.noon_step] - outlook.house_w[outlook.day.noon_step]
        self.assertAlmostEqual(found.power_w, net)
        self.assertAlmostEqual(float(demand_curve(design).power_at(found.speed_mps)) / net, 1, delta=2e-3)

    def test_below_the_idle_draw_the_boat_stands(self):
        found = answers_for(boat(drives__0__idle_power_w=1500), NOON)
        self.assertEqual(found.sun_only_noon.speed_mps, 0)
        self.assertEqual(found.sun_only_steady.speed_mps, 0)
        self.assertIsNotNone(found.sun_only_steady.reason)

    def test_steady_speed_comes_back_after_a_day(self):
        outlook = outlook_of(boat())
        steady = solve_steady(outlook)
        shown = slice(outlook.light.shown, outlook.light.shown + 1)
        record = outlook.run(steady.power_w, steady.start_soc, shown)[0]
        self.assertGreaterEqual(record[-1, SOC], steady.start_soc - 1e-7)
        harder = outlook.run(1.01 * steady.power_w, steady.start_soc, shown)[0]
        self.assertLess(harder[-1, SOC], steady.start_soc)

    def test_days_run_is_speed_times_hours_and_shorter_hours_are_faster(self):
        long = answers_for(boat(), NOON)
        self.assertAlmostEqual(
            long.days_run_sun.distance_m, long.sun_only_steady.speed_mps * long.sun_only_steady.hours * 3600
        )
        short = answers_for(boat(plan__spells=[{"starts_at": "10:00", "ends_at": "13:00"}]), NOON)
        self.assertAlmostEqual(short.sun_only_steady.hours, 3)
        self.assertGreater(short.sun_only_steady.speed_mps, long.sun_only_steady.speed_mps)
        self.assertLess(short.days_run_sun.distance_m, long.days_run_sun.distance_m)

    def test_with_the_bank_ends_at_the_reserve(self):
        design = boat(plan__spells=[{"starts_at": "10:00", "ends_at": "16:00"}])
        outlook = outlook_of(design)
        shown = slice(outlook.light.shown, outlook.light.shown + 1)
        record = outlook.run(bank_power_w(outlook), 0.8, shown)[0]
        self.assertAlmostEqual(record[: outlook.last_motoring_step, SOC].min(), 0.3, delta=1e-4)

    def test_nine_in_ten_is_reached_on_nine_days_of_ten(self):
        design = boat(plan__sky="overcast")
        found = answers_for(design, NOON)
        outlook = outlook_of(design)
        record = outlook.run(bank_power_w(outlook), 0.8)
        reached = outlook.distance_m(record, found.days_run_bank.speed_mps)
        self.assertAlmostEqual(np.mean(reached >= found.nine_in_ten.distance_m - 1e-6), 0.9, delta=0.01)
        self.assertLess(found.nine_in_ten.distance_m, found.days_run_bank.distance_m)

    def test_a_spell_past_midnight_and_the_polar_night_are_computed(self):
        night = answers_for(boat(plan__spells=[{"starts_at": "22:00", "ends_at": "02:00"}]), NOON)
        self.assertAlmostEqual(night.sun_only_steady.hours, 4)
        self.assertGreater(night.sun_only_steady.speed_mps, 1)
        dark = answers_for(boat(site__latitude_deg=75.0, plan__date="2027-12-21", plan__spells=None), NOON)
        self.assertEqual((dark.sun_only_noon.speed_mps, dark.sun_only_steady.speed_mps), (0, 0))
        self.assertIsNone(dark.refill.days)

    def test_the_house_that_takes_all_never_refills(self):
        found = answers_for(boat(loads__0__power_w=2000, loads__0__hours_per_day=24), NOON)
        self.assertIsNone(found.refill.days)
        self.assertIn("Never", found.refill.reason.text)
        self.assertEqual(found.sun_only_steady.speed_mps, 0)

    def test_panels_that_bring_nothing_say_why_in_every_cell_and_where_it_is_mended(self):
        """In July under a clear sky: neither "the sun does not rise" nor "the house takes it all"."""
        low = {"panels__0__nameplate_w": 100.0, "panels__0__cells_across": 4, "panels__0__cells_along": 9}
        stowed = {"places__0__stands": {"under_way": {"how": "covered"}}}
        for changes, words, station in (
            ({**low, "panels__0__series": 1}, "cannot reach the bank's volts", "strings"),
            ({"panels__0__series": 40, "panels__0__count": 4}, "fill no string", "strings"),
            ({"strings": [{"id": "s", "controller_id": "mppt", "panels": [{"group_id": "gone", "number": 0}]}]},
             "connected to a controller", "strings"),
            (stowed, "stowed", "array"),
        ):  # fmt: skip
            found = answers_for(boat(loads=[], **changes), NOON)
            self.assertEqual(found.sun_only_steady.speed_mps, 0, changes)
            at_dock = [] if found.refill.days is not None else [found.refill]  # uncovered there
            self.assertEqual(bool(at_dock), station == "strings")
            for answer in (found.sun_only_steady, found.sun_only_noon, found.held_back_by, *at_dock):
                self.assertIn(words, told(answer.reason), changes)
                self.assertEqual(answer.mend, station)
            self.assertEqual([found.rail[i].mend for i in (0, 1, 4)], [station] * 3)
        home = answers_for(boat(use="home_charged", loads=[], **low, panels__0__series=1), NOON)
        self.assertIn("cannot reach", told(next(c for c in home.rail if c.key == "sun_share").reason))
        sound = answers_for(boat(), NOON)
        self.assertTrue(all(cell.mend is None for cell in sound.rail))

    def test_a_day_at_rest_is_a_day(self):
        rest = boat(plan__spells=[], plan__state="dock", plan__start_charge_frac=0.4)
        found = answers_for(rest, NOON)
        self.assertEqual(told(found.sun_only_steady.reason), "A day at rest: no motoring hours are set.")
        self.assertGreater(found.bank_at_dusk.soc_frac, 0.4)
        self.assertEqual(found.refill.days, 0)  # full by dusk
        self.assertIn("at rest all day", told(found.assumes))

    def test_the_same_inputs_give_the_same_answer(self):
        self.assertEqual(
            answers_for(boat(plan__sky="broken"), NOON), answers_for(boat(plan__sky="broken"), NOON)
        )


class MorePanelsTest(unittest.TestCase):
    def test_more_panels_of_a_guess_keep_its_cells_volts_and_strings(self):
        """Four of 200 W are sold for 12 V; with a fifth's watts spread over them they are no house-roof panels."""
        sold = {"panels__0__nameplate_w": 200, "panels__0__count": 4}
        guess = {
            **sold,
            "panels__0__cells_across": None,
            "panels__0__cells_along": None,
            "panels__0__series": None,
        }
        design = boat(**guess)
        more = with_panel(design)
        self.assertEqual(more.panels[0].grid, design.panels[0].grid)
        before, after = (outlook_of(d).shown_sun_w.sum() for d in (design, more))
        self.assertAlmostEqual(
            after / before, 5 / 4 if strung_panels(design)[0].series == 2 else 0, delta=0.05
        )


class JointTest(unittest.TestCase):
    """One band of hull, days and panels."""

    def test_the_band_is_that_of_boats_and_days_solved_one_by_one(self):
        for changes in ({"plan__sky": "broken"}, {"plan__sky": "overcast", "loads": []}):
            outlook = outlook_of(boat(**changes))
            band = joint_band(outlook, solve_steady(outlook))
            random = np.random.default_rng(7)
            found = []
            for day, panels, hull in zip(
                random.integers(0, 201, 500), random.normal(0, 0.06, 500), random.normal(0, 1 / 1.6449, 500),
                strict=True,
            ):  # fmt: skip
                watts, _, _ = steady_power(
                    outlook.harvest.by_bank_w[day] * np.exp(panels), outlook.house_rows_w, outlook.motor_rows,
                    outlook.curve.idle_w, outlook.rated_w, outlook.timeline.step_h, outlook.aboard,
                )  # fmt: skip
                found.append(steady_mps(outlook, Steady(watts, 0, 0), hull))
            low, high = np.percentile(found, [10, 90])
            self.assertAlmostEqual(band.low_mps / low, 1, delta=0.05)
            self.assertAlmostEqual(band.high_mps / high, 1, delta=0.05)

    def test_the_same_with_the_bank_and_at_a_speed(self):
        """A hundred and fifty boats and days, each run to the reserve by itself."""
        design = boat(plan__sky="broken", use="auxiliary")
        outlook, found = outlook_of(design), answers_for(design)
        random = np.random.default_rng(11)
        reached, ranged = [], []
        for day, panels, hull in zip(
            random.integers(0, 201, 150), random.normal(0, 0.06, 150), random.normal(0, 1 / 1.6449, 150),
            strict=True,
        ):  # fmt: skip
            sun = outlook.harvest.by_bank_w[day] * np.exp(panels)
            watts = power_to_reserve(
                sun, outlook.house_rows_w, outlook.motor_rows, design.plan.start_charge_frac,
                outlook.curve.idle_w, outlook.rated_w, outlook.last_motoring_step, outlook.timeline.step_h,
                outlook.aboard,
            )  # fmt: skip
            reached.append(float(outlook.curve.speed_at(watts, hull)) * outlook.hours * 3600)
            idle, spread = outlook.curve.idle_w, float(outlook.curve.band_at(outlook.plan_speed_mps))
            asked = idle + (outlook.plan_power_w - idle) * spread**-hull
            hours = hours_at(outlook, asked, sun, design.plan.start_charge_frac)
            ranged.append(min(hours, 72.0) * 3600 * outlook.plan_speed_mps)
        scale = found.days_run_bank.distance_m / days_run_bank(outlook, bank_power_w(outlook)).distance_m
        for ends, own in ((found.days_run_bank, np.array(reached) * scale), (found.range_at_speed, ranged)):
            low, high = np.percentile(own, [10, 90])
            self.assertAlmostEqual(ends.low_m / low, 1, delta=0.07)
            self.assertAlmostEqual(ends.high_m / high, 1, delta=0.07)
            self.assertTrue(ends.low_m < ends.distance_m < ends.high_m)
        self.assertEqual(found.rail[0].band[0].value, found.range_at_speed.low_m)

    def test_knowing_more_never_widens_it_and_runs_tell_most_of_an_unmeasured_boat(self):
        for runs_made, first in ((0, "runs"), (4, "panels")):
            outlook = outlook_of(boat(runs=runs(runs_made)))
            solved = solve_steady(outlook)
            now = joint_band(outlook, solved)
            after = what_would_tell(outlook, solved)
            self.assertEqual(next(iter(after)), first)
            for band in after.values():
                self.assertLess(band.high_mps - band.low_mps, now.high_mps - now.low_mps)

    def test_the_rail_carries_it_over_the_ground_too(self):
        for stream in (0, -0.5):
            cell = answers_for(boat(plan__current_mps=stream)).rail[1]
            low, high = (end.value for end in cell.band)
            self.assertTrue(low < cell.value.value < high)


class ColdTest(unittest.TestCase):
    def test_where_the_bank_takes_no_charge_the_live_sun_still_drives(self):
        cold = boat(**COLD)
        found, outlook = answers_for(cold), outlook_of(cold)
        self.assertTrue(outlook.takes_no_charge)
        self.assertEqual(found.days_run_sun.distance_m, live_distances(outlook)[outlook.light.shown])
        self.assertGreater(found.days_run_sun.distance_m, 0)
        self.assertEqual([cell.key for cell in found.rail][:2], ["sun_only_noon", "days_run_sun"])
        for told_why in (found.sun_only_steady.reason, found.refill.reason):
            self.assertIn("takes no charge", told(told_why))
        self.assertEqual(found.held_back_by.measure, "days_distance")
        night = {"plan__spells": [{"starts_at": "22:00", "ends_at": "02:00"}]}
        dark = answers_for(boat(**COLD | night)).days_run_sun
        self.assertEqual((dark.distance_m, "never turns" in told(dark.reason)), (0, True))
        warm = answers_for(boat(**COLD | {"banks__0__temperature_c": 12.0}))
        self.assertEqual(warm.rail[0].key, "sun_only_steady")
        self.assertGreater(warm.days_run_sun.distance_m, 0)

    def test_a_northern_year_has_no_month_at_nothing_but_for_want_of_sun(self):
        for berth in ("below", "deck"):
            year = season(boat(**NORTH, banks__0__berth=berth), 60)
            for month in year.months:
                self.assertGreater(month.speed_mps, 0.1, (berth, month.month))


class StreamTest(unittest.TestCase):
    def test_a_stream_adds_itself_for_as_long_as_the_motor_runs(self):
        for changes in ({}, {"banks": []}, {"use": "home_charged", "plan__speed_mps": 3.0}):
            still = answers_for(boat(**changes))
            self.assertIsNone(still.days_run_sun.ground_m)
            for stream in (-0.6, 0.4):
                found = answers_for(boat(**changes, plan__current_mps=stream))
                self.assertEqual(found.days_run_sun.distance_m, still.days_run_sun.distance_m)
                run, reach = found.days_run_sun, found.range_at_speed
                if run.speed_mps:
                    seconds = found.sun_only_steady.hours * 3600
                    self.assertAlmostEqual(run.ground_m, run.distance_m + stream * seconds, places=3)
                else:  # on live sun she anchors rather than be carried back
                    hours = found.sun_only_steady.hours
                    self.assertTrue(
                        0 < abs(run.ground_m - run.distance_m) <= abs(stream) * hours * 3600 + 1e-6
                    )
                    self.assertEqual(run.ground_m < run.distance_m, stream < 0)
                if reach.hours:
                    self.assertAlmostEqual(reach.ground_m, reach.hours * 3600 * (reach.speed_mps + stream))
                shown = next(cell for cell in found.rail if cell.label.endswith("over ground"))
                self.assertIn("through the water", told(shown.lines[0]))

    def test_a_stream_as_strong_as_the_boat_is_fast_leaves_her_standing_and_says_so(self):
        changes = {"use": "home_charged", "plan__speed_mps": 3.0, "plan__current_mps": -3.0}
        found = answers_for(boat(**changes))
        cell = next(cell for cell in found.rail if cell.key == "range_at_speed")
        self.assertEqual(cell.value.value, 0)
        self.assertIn("Stands still", told(cell.reason))

    def test_steps_win_what_they_win_over_the_ground(self):
        for changes in ({}, {"banks": []}, {"use": "home_charged"}):
            for stream in (-0.6, -5.0):
                design = boat(**changes, plan__current_mps=stream)
                found = answers_for(design)
                more = outlook_of(with_panel(design))
                step = next(step for step in found.held_back_by.steps if step.key == "panel")
                run = found.range_at_speed if found.rail_kind == "home_charged" else found.days_run_sun
                gain = miles_m(more, found.held_back_by.measure) - run.ground_m
                if stream < -4:
                    self.assertEqual((run.ground_m, step.gain_m), (0, 0))
                    self.assertIn("stream", found.held_back_by.limits)
                    self.assertIn("No step makes way", told(found.held_back_by.reason))
                    self.assertIn("Stands still", told(run.reason))
                else:
                    self.assertAlmostEqual(step.gain_m / gain, 1, delta=0.1)  # its mass counted

    def test_the_thriftiest_speed_is_faster_against_a_stream_and_never_below_it(self):
        speeds = [thriftiest_mps(outlook_of(boat(plan__current_mps=c))) for c in (0.5, -0.5, -1.0, -1.5)]
        self.assertEqual(speeds, sorted(speeds))
        outlook = outlook_of(boat(plan__current_mps=-1.0))
        house = outlook.house_w.mean()

        def per_metre(v):
            return (float(outlook.curve.power_at(v)) + house) / (v - 1.0)

        for other in (0.9, 1.1):
            self.assertLess(per_metre(speeds[2]), per_metre(speeds[2] * other))
        self.assertIsNone(thriftiest_mps(outlook_of(boat(plan__current_mps=-5))))


class HeldBackTest(unittest.TestCase):
    def test_a_panel_wins_what_adding_it_wins(self):
        design = boat()
        step = next(s for s in answers_for(design, NOON).held_back_by.steps if s.key == "panel")
        grown = with_panel(design)
        self.assertEqual(grown.nameplate_w, design.nameplate_w + 215)
        before, after = (
            outlook_of(design),
            outlook_of(
                grown.model_copy(update={"hull": grown.hull.model_copy(update={"displacement_kg": 1252.5})})
            ),
        )
        runs = [steady_mps(o, solve_steady(o)) * o.hours * 3600 for o in (before, after)]
        self.assertAlmostEqual(step.gain_m, runs[1] - runs[0], delta=0.02 * step.gain_m)
        self.assertEqual(step.mass_kg, 12.5)

    def test_more_bank_gives_nothing_when_no_bound_binds(self):
        found = answers_for(boat(banks__0__mass_kg=0.001), NOON).held_back_by
        battery = next(s for s in found.steps if s.key == "battery")
        self.assertLess(abs(battery.gain_frac), 0.005)

    def test_limits_show_where_they_bind(self):
        cases = {
            "drive": boat(drives__0__rated_power_w=150),
            "bank full": boat(banks__0__capacity_ah=15, plan__spells=[{"starts_at": "16:00", "ends_at": "18:00"}]),
            "controller clips": boat(controllers__0__current_limit_a=8),
            "bank empty": boat(banks__0__capacity_ah=10, plan__spells=[{"starts_at": "22:00", "ends_at": "02:00"}]),
            "hours of light": boat(),
        }  # fmt: skip
        for limit, design in cases.items():
            found = answers_for(design, NOON).held_back_by
            self.assertIn(limit, found.limits)
        outlook = outlook_of(boat(plan__spells=[{"starts_at": "00:00", "ends_at": "23:59"}]))
        self.assertNotIn("hours of light", active_limits(outlook, "days_run_sun", solve_steady(outlook), 1.0))

    def test_a_step_of_panels_is_one_or_whole_strings_of_a_twentieth(self):
        for number, series, added in ((4, 1, 1), (12, 3, 3), (60, 1, 3), (64, 8, 8), (100, 4, 4)):
            design = boat(panels__0__count=number, panels__0__series=series)
            more = with_panel(design).nameplate_w - design.nameplate_w
            self.assertAlmostEqual(more, added * 215)
            step = next(s for s in answers_for(design, NOON).held_back_by.steps if s.key == "panel")
            self.assertEqual("panels" in step.label.text, added > 1)
            self.assertAlmostEqual(step.mass_kg, added * 12.5)

    def test_a_drive_that_binds_and_hours_that_win_are_named_before_nothing_is(self):
        roof = {"panels__0__count": 60, "loads": [], "banks__0__capacity_ah": 9000}
        weak = answers_for(boat(**roof, drives__0__rated_power_w=600), NOON).held_back_by
        self.assertEqual((weak.step.key, "drive" in weak.limits), ("drive", True))
        self.assertGreater(weak.step.gain_frac, 0.02)
        all_day = {"plan__spells": [{"starts_at": "00:00", "ends_at": "23:55"}]}
        found = answers_for(boat(**roof, **all_day, drives__0__rated_power_w=90000), NOON).held_back_by
        self.assertIsNone(found.step)
        self.assertIn("go slower or longer", found.reason.text)
        short = {"plan__spells": [{"starts_at": "10:00", "ends_at": "14:00"}]}
        longer = answers_for(boat(**roof, **short, drives__0__rated_power_w=90000), NOON).held_back_by
        self.assertEqual(longer.step.key, "hours")


class PicturesTest(unittest.TestCase):
    def test_crossing_and_rail_agree(self):
        design = boat(plan__sky="broken")
        found, drawn = answers_for(design, NOON), picture("hull", design)
        lines = {line.key: line for line in drawn.lines}
        self.assertEqual(lines["day"].speed_mps, found.sun_only_steady.speed_mps)
        self.assertEqual(lines["day"].power_w, found.sun_only_steady.power_w)
        self.assertEqual(lines["noon"].speed_mps, found.sun_only_noon.speed_mps)
        curve = demand_curve(design)
        for line in drawn.lines:
            self.assertAlmostEqual(float(curve.power_at(line.speed_mps)) / line.power_w, 1, delta=3e-3)
        self.assertTrue(
            all(
                low <= mid <= high
                for low, mid, high in zip(drawn.low_w, drawn.power_w, drawn.high_w, strict=True)
            )
        )

    def test_day_and_rail_agree(self):
        design = boat(plan__sky="broken")
        found, drawn = answers_for(design, NOON), picture("day", design)
        at = drawn.sunset_index
        low = int(at)
        dusk = drawn.soc[low] + (drawn.soc[low + 1] - drawn.soc[low]) * (at - low)
        self.assertAlmostEqual(dusk, found.bank_at_dusk.soc_frac)
        self.assertEqual(len(drawn.soc), 145)
        self.assertAlmostEqual(
            sum(m.end - m.start for m in drawn.motoring) / 6, found.sun_only_steady.hours, places=6
        )
        self.assertEqual([tick.clock_min for tick in drawn.ticks][:2], [240, 360])

    def test_compared_with_a_variant_the_cells_carry_the_change(self):
        kept, now = boat(), boat(panels__0__count=5)
        found = answers_for(now, NOON, kept)
        old = {cell.key: cell.value.value for cell in answers_for(kept, NOON).rail}
        for cell in found.rail[:4]:
            self.assertAlmostEqual(cell.change.value, cell.value.value - old[cell.key])
            self.assertTrue(cell.change.signed)
        self.assertIsNone(found.rail[4].change)
