"""What a person or a device brings, read or told what is wrong: controllers by table, lines of devices, papers."""

from __future__ import annotations

import json
from datetime import date, datetime, timedelta
from math import isfinite
from pathlib import Path
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st
from parhelion.design import ControllerKind
from parhelion.design.load_presets import LOAD_PRESETS
from parhelion.design.logbook import VALUES
from parhelion.formats.boat_file import read_boat
from parhelion.formats.controller_table import MOST_ROWS, read_controllers
from parhelion.formats.device_line import LONGEST_LINE, Form, NoLine, line_values
from parhelion.meters.season import PlayedSeason, played_season
from parhelion.stations.strings.wiring_pdf import wiring_pdf

from tests.cases import boat, findings_of, picture

DEMO = Path(__file__).resolve().parents[2] / "demo"
HEAD = "Name,PV volts,PV amps,Charge amps,Bank volts"


class ControllersTest(TestCase):
    def test_units_commas_kinds_and_efficiencies(self):
        text = (
            "Model;Kind;PV volts [kV];PV amps [mA];Charge current;Bank volts;Efficiency;Own draw [mW];Inputs;Price\n"
            "Finch 20;MPPT;0,1;25000;20;24;97;900;2;140\n"
            "Wren;pwm;0,05;12000;10;24;;;;\n"
        )
        found = read_controllers(text)
        self.assertEqual((found.rows, found.problems), (2, []))
        finch, wren = found.controllers
        self.assertEqual((finch.name, finch.kind, finch.inputs), ("Finch 20", ControllerKind.MPPT, 2))
        for value, wanted in ((finch.most_pv_v, 100), (finch.most_pv_a, 25), (finch.efficiency, 0.97),
                              (finch.own_power_w, 0.9), (finch.price, 140), (wren.most_pv_v, 50)):  # fmt: skip
            self.assertAlmostEqual(value, wanted)
        self.assertIs(wren.kind, ControllerKind.PWM)
        self.assertIsNone(wren.price)

    def test_wrong_lines_are_told_and_the_others_kept(self):
        found = read_controllers(
            f"{HEAD}\nGood,100,20,20,24\nNo number,high,20,20,24\n\nNegative,-5,20,20,24\n,100,20,20,24\n"
        )
        self.assertEqual([one.name for one in found.controllers], ["Good"])
        self.assertEqual([one.line for one in found.problems], [3, 5, 6])
        self.assertIn("Empty in this row: Name", found.problems[-1].message)
        self.assertTrue(all(one.message and one.accepted for one in found.problems))

    def test_columns_that_miss_or_cannot_be_are_told_by_name(self):
        for text, said in (("", "empty"), ("Name,Colour\nx,red\n", "Columns are missing: PV volts, PV amps"),
                           (f"{HEAD.replace('PV volts', 'PV volts [W]')}\nx,1,1,1,1\n", "is in W")):  # fmt: skip
            found = read_controllers(text)
            self.assertEqual(found.controllers, [])
            self.assertIn(said, " ".join(one.message for one in found.problems))

    def test_more_rows_than_are_read_are_said(self):
        found = read_controllers("\n".join([HEAD, *["Same,100,20,20,24"] * (MOST_ROWS + 5)]))
        self.assertEqual(len(found.controllers), MOST_ROWS)
        self.assertIn("left", found.problems[-1].message)

    @given(st.text(max_size=300))
    def test_any_text_is_answered(self, text):
        for one in read_controllers(f"{HEAD}\n{text}").controllers:
            self.assertTrue(isfinite(one.most_pv_v) and one.most_pv_v > 0)


class DeviceLinesTest(TestCase):
    def test_each_form_says_the_same_of_the_same(self):
        plain = line_values(
            '{"of": "canopy", "pv_w": 310, "pv_v": 57.2, "colour": "red", "pv_a": true}', Form.JSON_LINES
        )
        self.assertEqual((plain.of, plain.values), ("canopy", {"pv_w": 310.0, "pv_v": 57.2}))
        delta = {"updates": [{"values": [
            {"path": "electrical.solar.canopy.panelPower", "value": 310},
            {"path": "electrical.batteries.house.capacity.stateOfCharge", "value": 0.81},
            {"path": "electrical.batteries.house.voltage", "value": 25.9},
            {"path": "navigation.speedThroughWater", "value": 1.7},
            {"path": "environment.moon.phase", "value": 0.5}, "no value", {"path": 7},
        ]}, None]}  # fmt: skip
        said = line_values(json.dumps(delta), Form.DELTAS).values
        self.assertEqual(said, {"pv_w": 310.0, "charge_frac": 0.81, "bank_v": 25.9, "speed_mps": 1.7})
        body = "VWVHW,,T,,M,3.3,N,6.1,K"
        total = 0
        for letter in body:
            total ^= ord(letter)
        for form in (Form.NMEA_TCP, Form.NMEA_UDP):
            found = line_values(f"noise${body}*{total:02X}", form).values
            self.assertAlmostEqual(found["speed_mps"], 3.3 * 1852 / 3600, delta=1e-3)

    def test_what_says_nothing_is_no_line(self):
        for line, form in (("{}", Form.JSON_LINES), ("[1]", Form.JSON_LINES), ('{"pv_w": "many"}', Form.JSON_LINES),
                           ('{"pv_w": 1e999}', Form.JSON_LINES), ("pv 310", Form.DELTAS), ("3", Form.DELTAS),
                           ("$VWVHW,,T,,M,3.3,N,6.1,K*00", Form.NMEA_TCP), ("hello", Form.NMEA_UDP),
                           ("x" * (LONGEST_LINE + 1), Form.JSON_LINES), ("[" * 3000, Form.DELTAS)):  # fmt: skip
            with self.subTest(line[:30]), self.assertRaises(NoLine):
                line_values(line, form)

    @given(st.text(max_size=200), st.sampled_from(list(Form)))
    def test_any_line_is_values_that_are_numbers_or_none_at_all(self, line, form):
        try:
            said = line_values(line, form)
        except NoLine:
            return
        self.assertTrue(set(said.values) <= set(VALUES))
        self.assertTrue(all(isfinite(value) for value in said.values.values()))


class PlayedSeasonTest(TestCase):
    """A summer that is played: the demo's logbook, and what the season's sums are tried on."""

    DAYS = tuple(date(2027, 6, 1) + timedelta(days=4 * k) for k in range(5))

    def test_it_repeats_itself_and_its_readings_lie_in_their_outings(self):
        design = boat(plan__spells=None)
        played = PlayedSeason(
            5, self.DAYS, by_device=self.DAYS[2:3], notes=((self.DAYS[1], "a clamp", "tightened"),)
        )
        book = played_season(design, played)
        self.assertEqual(book, played_season(design, played))
        self.assertNotEqual(book, played_season(design, PlayedSeason(6, self.DAYS)))
        self.assertEqual([one.broke for one in book.outings], ["", "a clamp", "", "", ""])
        outings = {one.id: one for one in book.outings}
        number = dict.fromkeys(outings, 0)
        for reading in book.readings:
            outing = outings[reading.outing_id]
            number[outing.id] += 1
            if reading.source == "hand":
                self.assertTrue(outing.began_at <= reading.at <= outing.ended_at)
        self.assertTrue(all(n > 5 for n in number.values()))
        self.assertGreater(number["out-3"], 3 * number["out-1"])  # by its devices, every ten minutes

    def test_a_dead_string_is_lame_from_its_day_on(self):
        design = boat()
        key = design.controllers[0].id
        since = datetime.fromisoformat("2027-06-09T00:00:00+00:00")

        def most(lame, day: int) -> float:
            book = played_season(design, PlayedSeason(5, self.DAYS, lame=lame))
            watts = [r.pv_w for r in book.readings if r.outing_id == f"out-{day}" and r.pv_w is not None]
            return max(watts)

        lame = ((key, 0.5, since),)
        self.assertEqual(most(lame, 1), most((), 1))
        for day in (4, 5):
            self.assertAlmostEqual(most(lame, day) / most((), day), 0.5, delta=0.02)


class PapersTest(TestCase):
    def test_the_wiring_of_any_boat_goes_on_paper(self):
        designs = [
            read_boat((DEMO / f"{name}.json").read_bytes()) for name in ("whimbrel", "sabine", "fulmar")
        ]
        for design in [*designs, boat(banks=[]), boat(panels=[], places=[], controllers=[])]:
            made = wiring_pdf(picture("strings", design), findings_of("strings", design), design.name)
            self.assertTrue(made.startswith(b"%PDF"), design.name)
            self.assertGreater(made.count(b"/Type /Page\n"), 1)
        many = boat(panels__0__count=40, panels__0__series=2)
        long = wiring_pdf(picture("strings", many), findings_of("strings", many), "A very long name " * 9)
        self.assertTrue(long.startswith(b"%PDF"))

    def test_usual_loads_are_usual(self):
        for preset in LOAD_PRESETS:
            load = {"id": "l", "name": preset.name, "power_w": preset.power_w, "hours_per_day": preset.hours_per_day,
                    "essential": preset.essential, "inverter_efficiency": preset.inverter_efficiency}  # fmt: skip
            made = boat(loads=[load]).loads[0]
            self.assertLess(made.drawn_w * made.hours_per_day, 1_500)  # Wh a day of any one of them
        self.assertEqual(len({preset.name for preset in LOAD_PRESETS}), len(LOAD_PRESETS))


if __name__ == "__main__":
    from unittest import main

    main()
