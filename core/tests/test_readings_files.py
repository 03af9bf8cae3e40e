"""Readings brought in: said in words, tables of any layout, tracks, NMEA logs; and what is none of them."""

from __future__ import annotations

from datetime import UTC, date, datetime
from unittest import TestCase
from zoneinfo import ZoneInfo

from hypothesis import given, settings
from hypothesis import strategies as st
from parhelion.design import Sky
from parhelion.errors import UnreadableFile
from parhelion.formats.nmea_log import read_nmea
from parhelion.formats.readings_table import Column, read_table
from parhelion.formats.said_reading import said_reading
from parhelion.formats.track_file import read_track
from parhelion.stations.log.brought import brought_readings, said

from tests.test_fitout import demo

ZONE, DAY = ZoneInfo("Europe/Stockholm"), date(2027, 6, 13)
KN = 1852 / 3600


class SaidTest(TestCase):
    def test_any_form_is_understood_and_the_rest_stays_a_word(self):
        for text, values, sky, note in (
            ("13.2 V 8 A", {"bank_v": 13.2, "bank_a": 8}, None, ""),
            ("270 w", {"pv_w": 270}, None, ""), ("55 %", {"charge_frac": 0.55}, None, ""),
            ("18,6 V 5,1 A", {"pv_v": 18.6, "pv_a": 5.1}, None, ""),
            ("motor 0.4 kW, 3.4 kn hazy", {"motor_w": 400, "speed_mps": 3.4 * KN}, Sky.HAZY, ""),
            ("house 35W 12.9v lunch at the lock", {"house_w": 35, "bank_v": 12.9}, None, "lunch at the lock"),
            ("-4.2 A", {"bank_a": -4.2}, None, ""), ("the fridge hums", {}, None, "the fridge hums"),
        ):  # fmt: skip
            with self.subTest(text):
                found = said_reading(text, 12.8)
                self.assertEqual({k: round(v, 6) for k, v in found.values.items()},
                                 {k: round(v, 6) for k, v in values.items()})  # fmt: skip
                self.assertEqual((found.sky, found.note), (sky, note))
        self.assertIn("pv_v", said(demo(banks=[]), "13.2 V").values)

    @settings(max_examples=60)
    @given(st.text(max_size=80))
    def test_whatever_is_said_is_answered(self, text):
        found = said_reading(text, 25.6)
        self.assertTrue(all(abs(value) < 1e90 for value in found.values.values()))


class TableTest(TestCase):
    def read(self, text: str, **more):
        return read_table(text, ZONE, DAY, "display", **more)

    def test_layouts_are_guessed_units_and_commas_with_them(self):
        found = self.read(
            "Date;Time;PV power (kW);Battery voltage [V];SOC %;Speed (km/h);Sky;Shoe size\n"
            "13.06.2027;08:30;0,41;26,2;64;6,5;hazy;43\n13.06.2027;09:00;0,5;26,3;66;;;43\n"
        )
        first = found.readings[0]
        self.assertEqual(first.at, datetime(2027, 6, 13, 8, 30, tzinfo=ZONE))
        self.assertEqual(
            (first.pv_w, first.bank_v, first.charge_frac, first.sky), (410, 26.2, 0.64, Sky.HAZY)
        )
        self.assertAlmostEqual(first.speed_mps, 6.5 / 3.6)
        self.assertIsNone(found.readings[1].speed_mps)
        self.assertEqual([c.field for c in found.columns][-1], "")

    def test_times_come_in_every_form(self):
        noon = datetime(2027, 6, 13, 12, 0, tzinfo=ZONE)
        for text in ("2027-06-13T12:00:00+02:00", "2027-06-13 12:00", "12:00", "13/06/2027 12:00:00",
                     str(int(noon.timestamp())), str(int(noon.timestamp() * 1000)), "2027-06-13T10:00:00Z"):  # fmt: skip
            with self.subTest(text):
                self.assertEqual(self.read(f"time,watts\n{text},5\n").readings[0].at, noon)
        month_first = self.read("time,watts\n06/13/2027 12:00,5\n06/04/2027 12:00,5\n")
        self.assertEqual({r.at.month for r in month_first.readings}, {6})

    def test_a_recipe_reads_the_next_file_and_the_same_file_twice_is_the_same(self):
        recipe = [Column(heading="wann", field="time"), Column(heading="rein", field="pv_w", factor=1000)]
        text = "wann,rein,rest\n08:00,0.2,x\n09:00,0.3,y\n"
        one, two = (self.read(text, recipe=recipe) for _ in range(2))
        self.assertEqual([r.pv_w for r in one.readings], [200, 300])
        self.assertEqual([r.id for r in one.readings], [r.id for r in two.readings])

    def test_what_is_wrong_is_told_by_its_line_and_the_rest_is_read(self):
        found = self.read(
            "time,watts\n08:00,10\n07:00,20\n08:00,30\nnoon,5\n09:00,many\n10:00,900000000\n11:00,1\n"
        )
        self.assertEqual([r.pv_w for r in found.readings], [20, 30, 1])
        told = {one.line: one.message for one in found.problems}
        self.assertIn("earlier", told[3])
        self.assertIn("twice", told[4])
        self.assertIn("no time", told[5])
        self.assertIn("no number", told[6])
        self.assertIn(7, told)
        self.assertEqual(found.left, 3)
        for wrong in ("", "time,watts\n"):
            with self.subTest(wrong), self.assertRaises(UnreadableFile):
                self.read(wrong)
        with self.assertRaises(UnreadableFile):
            self.read("time,watts\n08:00,1\n", recipe=[Column(heading="time", field="song")])

    def test_headings_that_say_nothing_come_back_to_be_matched(self):
        """A meter in another tongue: any layout is read once somebody says which column is what."""
        text = "wann;sonne;akku\n08:00;210;26,1\n09:00;230;26,3\n"
        for asked, lacks in ((None, "says when"), ([Column(heading="wann", field="time")], "what was read"),
                             ([Column(heading="sonne", field="time"), Column(heading="akku", field="pv_w")],
                              "Line 2: “210” is no time.")):  # fmt: skip
            found = self.read(text, recipe=asked)
            self.assertEqual([column.heading for column in found.columns], ["wann", "sonne", "akku"])
            self.assertEqual((found.readings, found.left), ([], 2))
            self.assertIn(lacks, found.lacks)
        matched = [Column(heading="wann", field="time"), Column(heading="akku", field="bank_v")]
        found = self.read(text, recipe=matched)
        self.assertEqual(([r.bank_v for r in found.readings], found.lacks), ([26.1, 26.3], ""))
        self.assertEqual(brought_readings(demo(), text).from_at, None)


class TracksTest(TestCase):
    GPX = (
        '<gpx version="1.1" creator="x"><trk><trkseg>'
        + "".join(
            f'<trkpt lat="{61.4 + k * 0.0001}" lon="14.2"><time>2027-06-13T08:{k // 6:02d}:{k % 6 * 10:02d}Z</time></trkpt>'
            for k in range(61)
        )
        + "</trkseg></trk></gpx>"
    )

    def test_a_track_gives_speed_over_the_ground(self):
        found = read_track(self.GPX, "plotter")
        self.assertEqual(len(found.readings), 20)
        for reading in found.readings:
            self.assertAlmostEqual(reading.ground_mps, 0.0001 * 111_400 / 10, delta=0.02)
        for wrong in ("<gpx", "<gpx></gpx>", "<!DOCTYPE x><gpx/>"):
            with self.assertRaises(UnreadableFile):
                read_track(wrong, "plotter")

    def test_sentences_are_thinned_and_wrong_ones_told(self):
        def summed(body: str) -> str:
            total = 0
            for letter in body:
                total ^= ord(letter)
            return f"${body}*{total:02X}"

        lines = []
        for k in range(120):
            clock = f"08{k // 60:02d}{k % 60:02d}"
            lines.append(summed(f"GPRMC,{clock},A,6124.0,N,01412.0,E,4.0,90.0,130627,,"))
            lines.append(summed("VWVHW,90.0,T,85.0,M,3.6,N,6.7,K"))
        lines[10] = lines[10][:-1] + "0"
        lines.append("noise")
        found = read_nmea("\n".join(lines), DAY, "gps")
        self.assertTrue(3 <= len(found.readings) <= 5)
        self.assertAlmostEqual(found.readings[0].ground_mps, 4 * KN, places=6)
        self.assertAlmostEqual(found.readings[0].speed_mps, 3.6 * KN, places=6)
        self.assertEqual(found.readings[0].at.astimezone(UTC).date(), DAY)
        self.assertIn(found.left, (1, 2))
        void = summed("GPRMC,080000,V,6124.0,N,01412.0,E,4.0,90.0,130627,,")
        with self.assertRaises(UnreadableFile):
            read_nmea(void, DAY, "gps")

    def test_a_file_is_dealt_to_outings_by_its_local_days(self):
        text = "time,watts\n2027-06-13 23:30,5\n2027-06-14 08:00,6\n2027-06-14 09:00,7\n"
        found = brought_readings(demo(), text, "display.csv", DAY, "mine")
        self.assertEqual([o.id for o in found.outings], ["day-2027-06-14"])
        self.assertEqual([r.outing_id for r in found.readings], ["mine", "day-2027-06-14", "day-2027-06-14"])
        self.assertEqual(found.outings[0].name, "display")
        self.assertEqual(brought_readings(demo(), self.GPX, "t.gpx").readings[0].source, "t")
