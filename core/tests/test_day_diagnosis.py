"""What a day's readings mean: logged days whose truth is known, days played with a fault, tables that are none."""

from __future__ import annotations

import io
import json
import tempfile
from datetime import date, datetime, timedelta, timezone
from pathlib import Path
from unittest import TestCase

import numpy as np
from parhelion.cli import main
from parhelion.design import Sky
from parhelion.diagnosis.conditions import CHECKS, NOTHING_WRONG, PRIOR, Condition
from parhelion.diagnosis.day import diagnosed
from parhelion.diagnosis.day_model import Around, WaterNote, held_words
from parhelion.errors import UnreadableFile
from parhelion.formats.boat_file import design_from
from parhelion.formats.day_log import COLUMNS, read_day
from parhelion.meters.played import Fault, Played, every, played_day

from tests.cases import REFERENCES, cases

LOG = json.loads((REFERENCES / "log.json").read_text())
FIRST_OF_24, THREE_OF_24 = 23, 24  # what these days are told with; an independent baseline tells 23 of them
CET = timezone(timedelta(hours=2))
KEEPS = (8, 14, 17)  # hours of words


def boat(name: str, **plan):
    document = json.loads(json.dumps(LOG["designs"][name]))
    document["plan"] |= plan
    return design_from(document)


class LoggedDaysTest(TestCase):
    """Days simulated apart from this project, their truth by construction."""

    def test_the_truth_comes_first_and_the_model_has_the_suns_energy(self):
        first = three = 0
        with tempfile.TemporaryDirectory() as folder:
            for key, case in cases("log").items():
                if not key.startswith("day."):
                    continue
                inputs, truth = case["inputs"], case["expected"]
                design, facts = Path(folder) / "design.json", Path(folder) / "facts.json"
                design.write_text(json.dumps(LOG["designs"][inputs["design"]]))
                facts.write_text(json.dumps(inputs))
                out, err = io.StringIO(), io.StringIO()
                day = str(REFERENCES / inputs["log_csv"])
                words = ["diagnose", day, "--design", str(design), "--facts", str(facts), "--json"]
                with self.subTest(key):
                    self.assertEqual(main(words, out, err), 0, err.getvalue())
                    told = json.loads(out.getvalue())
                    names = [one["condition"] for one in told["ranked"]]
                    fair = {truth["condition"], *truth["also_fair"]}
                    first += names[0] in fair
                    three += bool(fair & set(names[:3]))
                    self.assertEqual(told["fault"], truth["fault"])
                    self.assertAlmostEqual(sum(one["odds"] for one in told["ranked"]), 1.0, places=6)
                    self.assertAlmostEqual(told["expected_wh"] / truth["expected_wh"], 1.0, delta=0.05)
        self.assertGreaterEqual(first, FIRST_OF_24)
        self.assertGreaterEqual(three, THREE_OF_24)

    def test_every_cause_has_its_words_its_check_and_its_odds(self):
        self.assertEqual({condition.value for condition in Condition}, {c["expected"]["condition"] for k, c in
                         cases("log").items() if k.startswith("day.")} | {"fine"})  # fmt: skip
        self.assertEqual(set(CHECKS), set(Condition))
        self.assertEqual(set(PRIOR), set(Condition))
        self.assertLess(sum(PRIOR[c] for c in Condition if c not in NOTHING_WRONG), 1.0)


class PlayedDaysTest(TestCase):
    """Each fault fires on its day, and sound days are left in peace, whatever the draws."""

    def told(self, name: str, start: datetime, around: Around, play: Played, rows: int = 1):
        design = boat(name, date=start.date().isoformat(), wind_mps=3.0)
        log = every(played_day(design, start, around, play).log, rows)
        return diagnosed(design, log, around)

    def play(self, seed: int, fault: Fault, word: Sky = Sky.CLEAR, soc: float = 0.45, **more) -> Played:
        trips = ((9.7, 11.8, 1.9), (14.2, 16.4, 1.9))
        words = tuple((hour, word) for hour in KEEPS)
        return Played(seed, words, trips, soc, fault=fault, **more)

    def test_each_fault_is_told_on_its_day(self):
        june, lake = datetime(2027, 6, 20, tzinfo=CET), Around(13, 22, 28.0, 27.0)
        south = datetime(2027, 1, 16, tzinfo=timezone(timedelta(hours=13)))
        reach = Around(14, 23, 28.8, 27.24)
        chop = Around(13, 22, 28.0, 27.0, (WaterNote(june + timedelta(hours=14.2), 6.5, 0.35),))
        faults = (
            ("dabchick", june, lake, Fault(Condition.STRING_DEAD, 0.5), {}),
            ("dabchick", june, lake, Fault(Condition.SOILING, 0.16), {}),
            ("dabchick", june, lake, Fault(Condition.NOT_TRACKING), {}),
            ("dabchick", june, lake, Fault(Condition.PV_FUSE), {}),
            ("dabchick", june, lake, Fault(Condition.REVERSED), {}),
            ("dabchick", june, lake, Fault(Condition.SUBSTRING_SHADE, 1, 13), {"soc": 0.2}),
            ("dabchick", june, lake, Fault(Condition.METER_GAIN, 0.93), {}),
            ("dabchick", june, lake, Fault(Condition.METER_OFFSET, 1.4), {}),
            ("dabchick", june, lake, Fault(Condition.SOC_DRIFT, -0.3), {"soc": 0.8}),
            ("dabchick", june, lake, Fault(Condition.FOULING, 1.3), {}),
            ("dabchick", june, chop, Fault(Condition.VENTILATION, 1, 14.2, 16.4), {}),
            ("dabchick", june, lake, Fault(Condition.CLOCK, 1.0), {}),
            ("turnstone", south, reach, Fault(Condition.ASPECT, 90), {}),
            ("sanderling", datetime(2027, 3, 9, tzinfo=CET), Around(-8, 6, 14.0, 13.5),
             Fault(Condition.COLD_BLOCK), {}),
        )  # fmt: skip
        for number, (name, start, around, fault, more) in enumerate(faults):
            with self.subTest(fault.condition):
                found = self.told(name, start, around, self.play(100 + number, fault, **more))
                self.assertEqual(found.first.condition, fault.condition, found.ranked[:3])
                self.assertTrue(found.first.fault)

    def test_sound_days_are_left_in_peace(self):
        boats = (
            ("dabchick", Around(12, 23, 28.0, 27.0), 2), ("sanderling", Around(12, 22, 14.0, 13.5), 2),
            ("turnstone", Around(14, 23, 28.8, 27.24), 13),
        )  # fmt: skip
        for number, (name, around, zone) in enumerate(boats):
            month = 1 if zone == 13 else 6
            start = datetime(2027, month, 12, tzinfo=timezone(timedelta(hours=zone)))
            for seed, word in enumerate((Sky.CLEAR, Sky.HAZY, Sky.BROKEN, Sky.OVERCAST)):
                rows = (1, 3)[(seed + number) % 2]  # every step, or a reading each half hour
                with self.subTest(f"{name} {word} {rows}"):
                    found = self.told(name, start, around, self.play(seed, Fault(), word), rows)
                    self.assertFalse(found.first.fault, found.ranked[:3])

    def test_the_word_nearest_in_time_holds(self):
        june = datetime(2027, 6, 20, tzinfo=CET)
        day = played_day(boat("dabchick"), june, Around(13, 22, 28, 27), self.play(1, Fault()))
        noted = [None] * 144
        noted[30], noted[60] = Sky.HAZY, Sky.RAIN
        held = held_words(day.log.timeline, noted)
        self.assertEqual((held[0], held[44], held[46], held[143]), (Sky.HAZY, Sky.HAZY, Sky.RAIN, Sky.RAIN))

    def test_the_same_seed_plays_the_same_day_and_energy_is_kept(self):
        june, around = datetime(2027, 6, 20, tzinfo=CET), Around(13, 22, 28.0, 27.0)
        design = boat("dabchick")
        day, again = (played_day(design, june, around, self.play(5, Fault())) for _ in range(2))
        np.testing.assert_array_equal(day.log.pv_w, again.log.pv_w)
        self.assertAlmostEqual(
            sum(w.sum() for w in day.boxes_w.values()) / day.harvest_w.sum(), 1.0, places=9
        )
        stored = (day.soc[-1] - 0.45) * 200 * 26.4
        lost = 0.96 * day.harvest_wh - day.motor_w.sum() / 60 - day.house_w.sum() / 60 - stored
        self.assertLess(abs(lost), 0.04 * day.harvest_wh)  # coulomb loss, heat, volts about 26.4


class TableTest(TestCase):
    """A table of a day that is none."""

    HEAD = ",".join(("time", "sky", *COLUMNS))

    def read(self, *rows: str):
        return read_day("\n".join((self.HEAD, *rows)).encode(), date(2027, 6, 1), 2.0)

    def test_what_is_wrong_is_said(self):
        row = ",,,,,,,,"
        good = [f"{hour:02d}:00{row}" for hour in range(24)]
        for bad, told in (
            (["25:00" + row, *good[1:]], "no time of day"),
            ([good[1], good[0], *good[2:]], "no later"),
            (["00:00,,x,,,,,,", *good[1:]], "no number"),
            (["00:00,sunny,,,,,,,", *good[1:]], "no word for the sky"),
            (good[:2], "2 rows"),
        ):
            with self.subTest(told), self.assertRaises(UnreadableFile) as refused:
                self.read(*bad)
            self.assertIn(told, refused.exception.problems[0].message)
        with self.assertRaises(UnreadableFile) as refused:
            read_day(b"time,pv_v\n00:00,1\n", date(2027, 6, 1), 2.0)
        self.assertIn("pv_a", refused.exception.problems[0].message)

    def test_gaps_stay_gaps_and_numbers_come_through(self):
        log = self.read(
            "08:00,clear,36.5,4,26.1,3.2,55,3.0,400", "08:30,,,,,,,,", "09:30,,37,5,26.2,4,56,0,0"
        )
        self.assertEqual(log.timeline.steps, 48)
        self.assertTrue(np.isnan(log.pv_v[17]))
        self.assertTrue(np.isnan(log.pv_v[18]))  # no row at all
        self.assertAlmostEqual(log.speed_mps[16], 3 * 1852 / 3600)
        self.assertAlmostEqual(log.soc[19], 0.56)
        self.assertEqual(log.words[16], Sky.CLEAR)
