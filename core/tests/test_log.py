"""The Log: readings laid over the model, now, the season, what is made the boat's own."""

from __future__ import annotations

import csv
import io
import json
import math
from datetime import datetime, timedelta
from unittest import TestCase
from zoneinfo import ZoneInfo

import numpy as np
from hypothesis import given
from hypothesis import strategies as st
from parhelion.bank.store import energy_wh
from parhelion.cli import main
from parhelion.design import Sky, Tended
from parhelion.design.chemistries import CHEMICALS
from parhelion.design.logbook import NO_LOGBOOK, Logbook, Outing, Reading
from parhelion.errors import UnreadableFile
from parhelion.formats.logbook_file import read_logbook, written_logbook
from parhelion.hull.demand import demand_curve
from parhelion.meters.rows import Rows, steps_of
from parhelion.stations.log.compare import log_meters
from parhelion.stations.log.day import day_shown
from parhelion.stations.log.findings import log_findings
from parhelion.stations.log.learned import steady_of
from parhelion.stations.log.meaning import log_meaning
from parhelion.stations.log.now import log_now
from parhelion.stations.log.outing_day import (
    HOLDS_H,
    SETTLED_H,
    Told,
    book_of,
    ended_at,
    held_on,
    outing_day,
    outing_days,
)
from parhelion.stations.log.paper import outings_csv, readings_csv
from parhelion.stations.log.picture import log_picture
from parhelion.stations.log.season import log_season, worn
from parhelion.stations.log.season_pdf import season_pdf
from pydantic import ValidationError

from tests.test_fitout import DEMO, demo

ZONE = ZoneInfo("Europe/Stockholm")
NOON = datetime(2027, 6, 13, 12, tzinfo=ZONE)
WINGS = "wing-controller"


def season_book() -> Logbook:
    return read_logbook((DEMO / "whimbrel.logbook.json").read_bytes())


def book(*readings: dict, **outing) -> Logbook:
    """One outing from eight to six, and readings at hours of the clock."""
    rows = []
    for number, reading in enumerate(readings):
        at = NOON.replace(hour=0) + timedelta(hours=reading["h"])
        told = {name: value for name, value in reading.items() if name != "h"}
        rows.append(Reading(id=f"r{number}", at=at, outing_id="o", **told))
    began = {"began_at": NOON.replace(hour=8), "ended_at": NOON.replace(hour=18)}
    return Logbook(outings=(Outing(id="o", **{**began, **outing}),), readings=tuple(rows))


class MeansTest(TestCase):
    """Readings on even steps, against a plain loop over all of them."""

    @given(
        st.lists(
            st.tuples(
                st.integers(0, 1439), st.sampled_from([None, "port", "starboard"]), st.sampled_from(["hand", "box"]),
                st.floats(0, 500), st.booleans(), st.sampled_from([None, *Sky]),
            ),
            max_size=30,
        ),
        st.integers(-1800, 1800),
    )  # fmt: skip
    def test_means_words_and_parts_are_those_of_the_readings(self, told, ahead_s):
        begun = NOON.replace(hour=0)
        readings = [
            Reading(id=f"r{k}", at=begun + timedelta(minutes=minute), source=source, of=of, pv_w=watts,
                    left_out=out, sky=sky)
            for k, (minute, of, source, watts, out, sky) in enumerate(sorted(told, key=lambda one: one[0]))
        ]  # fmt: skip
        steps = steps_of(begun, begun + timedelta(hours=23), ZONE)
        rows = Rows(steps, readings, ahead_s)
        ours: dict[int, list[Reading]] = {}
        for one in readings:
            step = math.floor(((one.at - begun).total_seconds() - ahead_s) / 600)
            if 0 <= step < steps.steps and not one.left_out:
                ours.setdefault(step, []).append(one)
        for of in (None, "port", "starboard"):
            for source in (None, "hand"):
                for _ in range(2):  # asked again it is the same
                    mean = rows.mean("pv_w", of, source)
                    for step in range(steps.steps):
                        mine = [
                            r.pv_w for r in ours.get(step, []) if r.of == of and source in (None, r.source)
                        ]
                        if mine:
                            self.assertAlmostEqual(mean[step], sum(mine) / len(mine), places=9)
                        else:
                            self.assertTrue(np.isnan(mean[step]))
        said = [[r.sky for r in ours.get(step, []) if r.sky] for step in range(steps.steps)]
        self.assertEqual(list(rows.words), [one[-1] if one else None for one in said])
        self.assertEqual(rows.parts, tuple(sorted({r.of for rs in ours.values() for r in rs if r.of})))
        with self.assertRaises(ValueError):
            rows.mean("pv_w")[0] = 1.0  # what is kept for all cannot be changed by one


class RowsTest(TestCase):
    def rows(self, *readings: dict, **more) -> Rows:
        logbook = book(*readings)
        return Rows(steps_of(NOON, NOON, ZONE), logbook.readings, **more)

    def test_a_gap_stays_a_gap_and_controllers_add_up_only_where_each_was_read(self):
        rows = self.rows(
            {"h": 10, "of": "a", "pv_w": 100}, {"h": 10.05, "of": "b", "pv_v": 20, "pv_a": 2},
            {"h": 11, "of": "a", "pv_w": 90}, {"h": 12, "pv_w": 80}, {"h": 10.1, "of": "a", "pv_w": 120},
        )  # fmt: skip
        whole = rows.whole_watts()
        self.assertAlmostEqual(whole[60], 110 + 40)
        self.assertTrue(np.isnan(whole[66]))  # b was not read
        self.assertEqual(whole[72], 80)
        self.assertTrue(np.isnan(whole[61]))

    def test_what_is_left_out_counts_no_more_and_a_clock_is_set_right(self):
        rows = self.rows(
            {"h": 10, "pv_w": 100, "left_out": True}, {"h": 11, "pv_w": 50}, clock_ahead_s=3600.0
        )
        self.assertEqual([i for i in range(144) if np.isfinite(rows.whole_watts()[i])], [60])

    def test_a_reading_holds_until_the_next_and_no_longer_than_it_may(self):
        held = held_on(np.array([np.nan, 1.0, np.nan, 2.0] + [np.nan] * 20), np.full(24, 1 / 6))
        self.assertTrue(np.isnan(held[0]))
        self.assertEqual(list(held[1:5]), [1.0, 1.0, 2.0, 2.0])
        self.assertTrue(np.isnan(held[-1]))

    @given(
        st.lists(st.tuples(st.sampled_from([math.nan, 1.0, 2.0]), st.booleans()), min_size=1, max_size=40),
        st.sampled_from([1 / 6, 0.5, 2.0]),
    )
    def test_what_holds_is_what_a_plain_loop_says(self, rows, step_h):
        now, left, told = math.nan, 0.0, []
        for value, still in rows:
            if not math.isnan(value):
                now, left = value, HOLDS_H
            elif still:
                now = math.nan
            told.append(0.0 if still and math.isnan(value) else now if left > SETTLED_H else math.nan)
            left -= step_h
        values, still = (np.array(column) for column in zip(*rows, strict=True))
        np.testing.assert_array_equal(held_on(values, np.full(len(rows), step_h), still), told)

    def test_readings_and_outings_that_cannot_be_are_refused(self):
        for wrong in ({"pv_w": 1e9}, {"charge_frac": 2}, {"bank_v": -1}, {}):
            with self.subTest(str(wrong)), self.assertRaises(ValidationError):
                Reading(id="r", at=NOON, **wrong)
        for ends in (NOON - timedelta(minutes=1), NOON + timedelta(days=3)):
            with self.assertRaises(ValidationError):
                Outing(id="o", began_at=NOON, ended_at=ends)


class DayTest(TestCase):
    def test_energy_between_readings_is_the_models_times_their_share(self):
        plain = book({"h": 9, "sky": Sky.CLEAR}, {"h": 15, "sky": Sky.CLEAR})
        model = outing_day(demo(), book_of(plain).told[0]).modelled_w
        readings = [{"h": 9 + k + 0.02, "pv_w": 0.8 * float(model[54 + 6 * k])} for k in range(7)]
        readings[0]["sky"] = readings[-1]["sky"] = Sky.CLEAR
        day = outing_day(demo(), book_of(book(*readings)).told[0])
        inside = day.modelled_w[54:91]
        self.assertAlmostEqual(day.wh(day.harvested_w), 0.8 * inside.sum() / 6, delta=1.0)
        shown = day_shown(day)
        self.assertAlmostEqual(shown.harvest_wh / shown.modelled_wh, 0.8, places=3)

    def test_a_full_bank_is_told_as_held_back_and_not_as_less_harvest(self):
        readings = [
            {"h": h, "pv_w": w, "charge_frac": c, "sky": Sky.CLEAR}
            for h, w, c in ((10, 800, 0.9), (11, 980, 0.97), (12, 120, 1.0), (13, 110, 1.0), (14, 105, 1.0))
        ]
        found = {f.id: f for f in log_findings(demo(), book(*readings))}
        self.assertEqual(found["bank_was_full"].level, "good")
        self.assertFalse(any(f.level == "warn" for f in found.values()))
        shown = log_picture(demo(), book(*readings)).day
        assert shown is not None
        self.assertGreater(shown.thrown_wh, 800)
        self.assertTrue(any("bank full" in told.words.text for told in shown.told))
        quiet = book(*[{**r, "charge_frac": 0.6, "pv_w": 800} for r in readings])
        self.assertNotIn("bank_was_full", [f.id for f in log_findings(demo(), quiet)])

    def test_a_boat_without_bank_or_panels_is_shown_as_well(self):
        for bare in (demo(banks=[]), demo(panels=[])):
            readings = ({"h": 10, "motor_w": 300, "speed_mps": 1.6, "sky": Sky.HAZY}, {"h": 12, "pv_w": 50})
            shown = log_picture(bare, book(*readings)).day
            assert shown is not None
            self.assertAlmostEqual(shown.way_m, 1.6 * 1.5 * 3600, delta=700)
            log_findings(bare, book(*readings))
            log_now(bare, book(*readings))
            log_season(bare, book(*readings))

    def test_more_than_any_sky_gives_is_told_and_nothing_is_judged_by_it(self):
        night = book({"h": 23, "pv_w": 400}, {"h": 23.3, "pv_w": 390}, ended_at=NOON + timedelta(hours=11.5))
        self.assertEqual([f.id for f in log_findings(demo(), night) if f.level == "warn"], ["more_than_sun"])
        noon = book({"h": 12, "pv_w": 400, "sky": Sky.HAZY})
        self.assertNotIn("more_than_sun", [f.id for f in log_findings(demo(), noon)])
        lone = book({"h": 12, "charge_frac": 0.5, "sky": Sky.HAZY})
        self.assertIn("too_few", [f.id for f in log_findings(demo(), lone)])

    def test_a_clock_that_is_off_is_found_and_set_right(self):
        fine = book({"h": 9, "sky": Sky.CLEAR}, {"h": 15, "sky": Sky.CLEAR})
        model = outing_day(demo(), book_of(fine).told[0]).modelled_w
        readings = [
            {"h": 6 + k / 3 + 1.02, "pv_w": float(model[36 + 2 * k]), "sky": Sky.CLEAR} for k in range(42)
        ]
        whole = {"began_at": NOON.replace(hour=5), "ended_at": NOON.replace(hour=22)}
        first = log_meaning(demo(), book(*readings, **whole))[0].ranked[0]
        self.assertEqual((first.condition, first.clock_ahead_s), ("clock", 3600.0))
        mended = log_meaning(demo(), book(*readings, **whole, clock_ahead_s=3600.0))[0].ranked[0]
        self.assertFalse(mended.fault)

    def test_nothing_read_says_what_to_do_first(self):
        self.assertEqual([f.id for f in log_findings(demo(), NO_LOGBOOK)], ["nothing_read"])
        self.assertIsNone(log_picture(demo(), NO_LOGBOOK).day)
        self.assertIsNone(log_season(demo(), NO_LOGBOOK))
        self.assertEqual(log_meaning(demo(), NO_LOGBOOK), [])
        self.assertEqual(log_meters(demo(), NO_LOGBOOK).pairs, [])

    def test_an_outing_may_begin_with_the_passage_that_is_planned(self):
        found = log_picture(demo(), NO_LOGBOOK).passage
        self.assertEqual(found.distance_m, 2 * sum(leg.distance_m for leg in demo().passage.legs))
        self.assertIn(demo().passage.legs[-1].name, found.name)
        self.assertIsNone(log_picture(demo().changed(passage=None), NO_LOGBOOK).passage)

    def test_what_broke_is_followed_until_it_is_noted_as_mended(self):
        reading = {"h": 12, "pv_w": 300, "sky": Sky.CLEAR}

        def told(**more: str) -> list[str]:
            made = log_findings(demo(), book(reading, **more))
            return [one.title.slots["what"].value for one in made if one.id.startswith("still_open")]

        self.assertEqual(told(), [])
        self.assertEqual(told(broke="A plug of the port wing"), ["A plug of the port wing"])
        self.assertEqual(told(broke="A plug of the port wing", mended="a new one"), [])
        self.assertEqual(len(told(broke="x" * 300)[0]), 62)
        season = log_season(demo(), book(reading, broke="A plug", mended="a new one"))
        self.assertTrue(season.broke[0].endswith("A plug; mended: a new one"))

    def test_an_outing_without_an_end_ends_with_its_last_reading(self):
        told = book_of(book({"h": 11, "pv_w": 5}, ended_at=None)).told[0]
        self.assertEqual(ended_at(told), NOON - timedelta(hours=1))

    def test_in_a_pause_she_lies_still_and_what_was_read_before_it_holds_no_longer(self):
        readings = [{"h": 10.05, "speed_mps": 2.0, "motor_w": 400}, {"h": 12.05, "speed_mps": 2.0}]
        pause = {"began_at": NOON - timedelta(hours=1), "ended_at": NOON - timedelta(minutes=10)}
        on = outing_day(demo(), book_of(book(*readings)).told[0])
        lay = outing_day(demo(), book_of(book(*readings, pauses=[pause])).told[0])
        self.assertAlmostEqual(
            on.way_m - lay.way_m, 2.0 * 1800, delta=1
        )  # a reading holds to half past eleven
        self.assertAlmostEqual(on.wh(on.motor_w) - lay.wh(lay.motor_w), 200, delta=1)
        self.assertIn("paused, {a} to {b}", [told.words.text for told in day_shown(lay).told])
        open_one = outing_day(
            demo(), book_of(book(*readings[:1], pauses=[pause | {"ended_at": None}])).told[0]
        )
        self.assertAlmostEqual(open_one.way_m, 2.0 * 3600, delta=1)
        with self.assertRaises(ValidationError):
            Outing(id="o", began_at=NOON, pauses=[{"began_at": NOON, "ended_at": NOON - timedelta(1)}])


class NowTest(TestCase):
    def test_home_arrives_with_the_reserve(self):
        """By night, where no sun helps: watts times hours is what stands over the reserve."""
        readings = [
            {
                "h": 22.9,
                "pv_w": 0,
                "charge_frac": 0.62,
                "motor_w": 400,
                "speed_mps": 1.8,
                "sky": Sky.OVERCAST,
            },
        ]
        design = demo()
        late = book(
            *readings, began_at=NOON.replace(hour=22), ended_at=NOON + timedelta(hours=20), planned_m=30_000.0
        )
        now = log_now(design, late)
        day = outing_day(design, book_of(late).told[0])
        store = day.aboard.main
        spare = energy_wh(0.62, store) - energy_wh(store.reserve, store)
        assert now.home_mps is not None and now.home_h is not None and now.home_m is not None
        sun = day.harvest.by_bank_w[0].sum(axis=-1)[137 : 137 + round(now.home_h * 6)].sum() / 6
        used = (float(demand_curve(design).power_at(now.home_mps)) + 25) * now.home_h - sun
        self.assertAlmostEqual(now.home_h, now.home_m / now.home_mps / 3600, places=3)
        self.assertLess(abs(used / spare - 1), 0.12)
        self.assertAlmostEqual(now.to_reserve_h, spare / (400 + now.house_w), delta=0.3)

    def test_only_what_cannot_wait_is_an_alarm(self):
        """A 25.6 V bank of LFP: its charger ends at 28.4 V, it cuts out at 22.4 V; a motor of 3 kW."""

        def told(**values: float) -> list[str]:
            found = log_now(demo(), book({"h": 12, "sky": Sky.CLEAR, "charge_frac": 0.8, **values})).alarms
            return [alarm.text.split(" ")[-1] for alarm in found]

        self.assertEqual(told(bank_v=28.4, motor_w=3_000), [])
        self.assertEqual(told(bank_v=29.6), ["off."])
        self.assertEqual(told(bank_v=22.0), ["it."])
        self.assertEqual(told(motor_w=3_600), ["back."])
        self.assertEqual(told(charge_frac=0.2, bank_v=26.1), ["{r}."])

    def test_what_was_not_read_lately_is_the_models_and_said_so(self):
        now = log_now(demo(), book({"h": 12, "charge_frac": 0.2, "sky": Sky.CLEAR}))
        self.assertFalse(now.sun_read)
        self.assertIn("panels", now.missing)
        self.assertGreater(now.sun_w, 500)
        self.assertTrue(any("Under the reserve" in alarm.text for alarm in now.alarms))
        old = log_now(demo(), book({"h": 10, "pv_w": 300, "sky": Sky.CLEAR}, {"h": 12, "note": "lunch"}))
        self.assertFalse(old.sun_read)
        self.assertIsNone(log_now(demo(), NO_LOGBOOK).sun_w)

    def test_what_devices_say_this_moment_counts_before_it_is_kept(self):
        going = book({"h": 12, "charge_frac": 0.6, "pv_w": 300, "sky": Sky.CLEAR}, ended_at=None)
        at = going.readings[-1].at
        heard = tuple(
            Reading(id=f"d{k}", at=at + timedelta(seconds=k), source="box", pv_w=watts)
            for k, watts in ((4, 411), (2, 390))
        )
        now = log_now(demo(), going, heard=heard)
        self.assertTrue(now.heard and now.sun_read)
        self.assertEqual((now.sun_w, now.soc, now.at), (411, 0.6, heard[0].at))
        over = going.outings[0].model_copy(update={"ended_at": at})
        past = going.model_copy(update={"outings": (over,)})
        self.assertEqual(
            (log_now(demo(), past, heard=heard).sun_w, log_now(demo(), past).heard), (300, False)
        )


class SeasonTest(TestCase):
    """The demo's summer: played with 7 to 8 % more watts, a house that takes a fifth more, a wing string dead."""

    def setUp(self):
        self.design, self.book = demo(), season_book()

    def test_what_a_season_took_of_the_banks_life(self):
        bank = self.design.bank
        deep = worn(bank, [0.8] * 100)
        kind, share = CHEMICALS[bank.chemistry], deep.slots["x"].value
        life = kind.cycles[1] * (kind.cycles_depth / 0.8) ** kind.cycles_exponent
        self.assertAlmostEqual(share, 100 / life, places=9)
        self.assertTrue(deep.slots["a"].value < share < deep.slots["b"].value)
        self.assertIn("under {l}", worn(bank, [0.1] * 5).text)
        self.assertIsNone(worn(bank, [0.01, 0.0]))
        self.assertIn("{l} of its life", log_season(self.design, self.book).told[-1].text)

    def test_what_was_put_in_is_found(self):
        season = log_season(self.design, self.book)
        assert season is not None
        learned = {one.key: one for one in season.learned}
        self.assertTrue(learned["hull"].low < 1.08 < learned["hull"].high)
        self.assertTrue(
            learned["panels-canopy-controller"].low < 0.98 < learned["panels-canopy-controller"].high
        )
        self.assertTrue(learned["house"].low < 1.2 < learned["house"].high)
        self.assertLess(abs(learned[f"panels-{WINGS}"].value - 0.5), 0.05)
        self.assertIsNone(learned[f"panels-{WINGS}"].refit)
        self.assertEqual(season.whole.days, 37)
        self.assertAlmostEqual(sum(m.way_m for m in season.months), season.whole.way_m, places=3)
        self.assertEqual(len(season.scores), 37)
        self.assertEqual(len(season.broke), 2)

    def test_the_dead_string_is_told_from_its_day_on_and_not_before(self):
        before = {m.of: m for m in log_meaning(self.design, self.book, "out-3")}
        after = {m.of: m for m in log_meaning(self.design, self.book, "out-11")}
        that_day = {m.of: m for m in log_meaning(self.design, self.book, "out-8")}
        self.assertFalse(before[WINGS].ranked[0].fault)
        self.assertEqual(after[WINGS].ranked[0].condition, "string_dead")
        self.assertEqual(that_day[WINGS].ranked[0].condition, "string_dead")
        self.assertTrue(14.5 * 60 <= that_day[WINGS].from_min <= 16 * 60)
        self.assertFalse(after["canopy-controller"].ranked[0].fault)
        found = log_findings(self.design, self.book, "out-11")
        self.assertEqual([f.id for f in found if f.level == "warn"], [f"means_{WINGS}"])

    def test_the_hull_put_into_the_design_is_the_hull_and_then_no_news(self):
        season = log_season(self.design, self.book)
        hull = next(one for one in season.learned if one.key == "hull")
        own = hull.refit.of(self.design)
        at = float(demand_curve(own).power_at(1.85) / demand_curve(self.design).power_at(1.85))
        self.assertLess(abs(at / hull.value - 1), 0.03)
        again = next(one for one in log_season(own, self.book).learned if one.key == "hull")
        self.assertLess(abs(again.value - 1), 0.03)
        self.assertTrue(again.used)
        narrow = demand_curve(own).band_at(1.85), demand_curve(self.design).band_at(1.85)
        self.assertLess(*map(float, narrow))
        self.assertNotIn("learned_hull", [f.id for f in log_findings(own, self.book)])

    def test_a_season_at_once_is_its_days_one_by_one(self):
        """On headings or not, in wind or not, over midnight, with a wing that is set three times a day."""
        places = tuple(
            place.model_copy(update={"tended": Tended.THRICE}) if place.hinged else place
            for place in self.design.places
        )
        boat = self.design.changed(places=places)
        told = list(book_of(self.book).told[:9])
        changes = [
            {},
            {"heading_deg": 70.0},
            {"wind_mps": 9.0},
            {"ended_at": told[3].outing.began_at + timedelta(hours=20)},
        ]
        told = [
            Told(one.outing.model_copy(update=changes[k % len(changes)] if k != 7 else {}), one.readings)
            for k, one in enumerate(told)
        ]
        for alone, among in zip(told, outing_days(boat, told), strict=True):
            day = outing_day(boat, alone)
            np.testing.assert_allclose(among.modelled_w, day.modelled_w, rtol=1e-12, atol=1e-9)
            np.testing.assert_allclose(among.harvest.by_bank_w, day.harvest.by_bank_w, rtol=1e-12, atol=1e-9)
            np.testing.assert_allclose(among.box_w(WINGS), day.box_w(WINGS), rtol=1e-12, atol=1e-9)
            self.assertGreater(day.modelled_w.max(), 50)

    def test_papers_hold_all_of_it_and_the_file_comes_back(self):
        rows = list(csv.DictReader(io.StringIO(readings_csv(self.design, self.book))))
        self.assertEqual(len(rows), len(self.book.readings))
        outings = list(csv.DictReader(io.StringIO(outings_csv(self.design, self.book))))
        self.assertEqual(outings[0]["date"], "2027-05-22")
        self.assertEqual(season_pdf(self.design, self.book)[:5], b"%PDF-")
        self.assertEqual(read_logbook(written_logbook(self.book)), self.book)
        for wrong in (b"{", b"{}", b'{"schema_name": "parhelion.logbook", "readings": [{"id": "x"}]}'):
            with self.assertRaises(UnreadableFile):
                read_logbook(wrong)

    def test_devices_are_compared_and_the_shunt_follows_the_balance(self):
        meters = log_meters(self.design, self.book, "out-15")
        self.assertIsNotNone(meters.balance_gain)
        self.assertLess(abs(meters.balance_gain.value - 1), 0.06)
        twice = [{"h": 8 + k / 6, "bank_v": 26 + (k % 7) * 0.2, "source": "shunt"} for k in range(50)] + [
            {"h": 8 + k / 6 + 0.02, "bank_v": 1.02 * (26 + (k % 7) * 0.2), "source": "display"}
            for k in range(50)
        ]
        pair = log_meters(self.design, book(*twice)).pairs[0]
        self.assertEqual({pair.a, pair.b}, {"shunt", "display"})
        self.assertLess(abs(pair.ratio - 1 / 1.02), 0.002)

    def test_steady_minutes_make_a_run_of_the_hull_once(self):
        day = outing_day(self.design, book_of(self.book).outing("out-11"))
        steady, offered = steady_of(day), day_shown(day).run
        self.assertLess(abs(steady.power_w / steady.model_w - 1.08), 0.06)
        own = offered.refit.of(self.design)
        self.assertEqual(own.runs[-1].power_w, round(steady.power_w, 1))
        again = day_shown(outing_day(own, book_of(self.book).outing("out-11"))).run
        self.assertIsNone(again.refit)
        self.assertIn("among the Hull's runs", again.reason.text)

    def test_the_terminal_says_the_same(self):
        out, err = io.StringIO(), io.StringIO()
        files = [str(DEMO / "whimbrel.json"), "--logbook", str(DEMO / "whimbrel.logbook.json")]
        self.assertEqual(main(["log", *files, "--outing", "out-8", "--json"], out, err), 0, err.getvalue())
        told = json.loads(out.getvalue())
        self.assertEqual(told["picture"]["day"]["outing"]["id"], "out-8")
        self.assertIn(f"means_{WINGS}", [finding["id"] for finding in told["findings"]])
