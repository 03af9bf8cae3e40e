"""From what an owner knows to a boat: what is said stands, the rest is usual, and she is wired and moves."""

from __future__ import annotations

import json
import unittest
from datetime import date
from pathlib import Path

from hypothesis import given, settings
from hypothesis import strategies as st
from parhelion.balance.outlook import outlook_of
from parhelion.begin.gazetteer import towns_named
from parhelion.begin.known import Bought, Known, OutFor
from parhelion.begin.new_boat import new_boat
from parhelion.data import places
from parhelion.design import BoatDesign, ControllerKind, PlaceKind, Rating, Site, Use, Water
from parhelion.design.hulltypes import HullType
from parhelion.design.panel import PanelModel, SoldAs
from parhelion.errors import InvalidDesign
from parhelion.panels.deck import deck_of
from parhelion.rail.answers import answers_for
from parhelion.stations.registry import BY_NAME, STATIONS
from parhelion.sun.koppen import sea_is_near
from parhelion.wiring.by_itself import series_by_itself, suits
from pydantic import ValidationError

from tests.cases import boat, picture
from tests.test_wiring import day_wh

LISSA, JUNE = places()[3], date(2027, 6, 15)


def known(**said) -> Known:
    return Known(site=LISSA, date=JUNE, **said)


def charges(design: BoatDesign) -> bool:
    return bool(outlook_of(design).dock_by_bank_w.sum() > 0)


class NewBoatTest(unittest.TestCase):
    def test_every_type_with_nothing_said_moves_on_the_sun(self):
        for hull_type in HullType:
            design = new_boat(known(hull_type=hull_type))
            self.assertGreater(answers_for(design).sun_only_steady.speed_mps, 0.3, hull_type)
            drawn = picture("hull", design)
            self.assertLess(drawn.plan_power_w, drawn.rated_power_w, hull_type)
            self.assertTrue(deck_of(design).groups[0].panels, hull_type)  # they are seen on her deck

    def test_what_is_said_stands(self):
        design = new_boat(
            known(
                hull_type="kayak", name="Teal", waterline_m=4.1, weighs_kg=130, people=1, thrust_n=180, motor_a=36,
                bank="own", bank_v=12, bank_ah=60, chemistry="agm", panels="own", panel_count=1, panel_w=100,
                panel_place="loose",
            )
        )  # fmt: skip
        drive, bank, group = design.drives[0], design.bank, design.panels[0]
        self.assertEqual((design.name, design.hull.waterline_length_m), ("Teal", 4.1))
        self.assertAlmostEqual(design.displacement_kg, 130, delta=1)
        self.assertEqual(
            (drive.rating, drive.static_thrust_n, drive.full_thrust_current_a), (Rating.THRUST, 180, 36)
        )
        self.assertEqual((bank.nominal_v, bank.capacity_ah, bank.chemistry), (12, 60, "agm"))
        self.assertEqual((group.count, group.nameplate_w, design.places[0].kind), (1, 100, PlaceKind.LOOSE))
        self.assertTrue(charges(design))

    def test_uses_and_what_is_not_there(self):
        race = new_boat(known(hull_type="trimaran", outing=OutFor.RACE))
        self.assertEqual(race.banks, ())
        self.assertGreater(answers_for(race).days_run_sun.distance_m, 0)
        bare = new_boat(known(panels=Bought.NONE))
        self.assertEqual((bare.panels, bare.places), ((), ()))
        self.assertIs(new_boat(known(hull_type="fin_keel_yacht")).use, Use.AUXILIARY)
        self.assertIs(new_boat(known(hull_type="fin_keel_yacht", outing=OutFor.CRUISE)).use, Use.CRUISER)

    @settings(max_examples=40, deadline=None)
    @given(
        st.sampled_from(list(HullType)), st.floats(2.5, 16), st.integers(1, 8), st.sampled_from([40, 100, 180, 250, 400]),
        st.sampled_from([12.0, 12.8, 24, 25.6, 51.2, 96]), st.sampled_from(list(PlaceKind)),
    )  # fmt: skip
    def test_panels_of_any_size_charge_any_bank_or_it_is_said(
        self, hull_type, length, count, watts, volts, where
    ):
        said = known(hull_type=hull_type, overall_m=length, bank="own", bank_v=volts, bank_ah=100, panels="own",
                     panel_count=count, panel_w=watts, panel_place=where)  # fmt: skip
        try:
            design = new_boat(said)
        except InvalidDesign as refused:  # a bank that would sink so small a boat
            self.assertEqual(
                ([problem.field for problem in refused.problems], length < 4), (["/bank_ah"], True)
            )
            return
        group, box = design.panels[0], design.controllers[0]
        wired = suits(design, group, box, design.bank, series_by_itself(design, group))
        if wired:
            self.assertTrue(charges(design))
        else:
            told = {finding.id for finding in BY_NAME["strings"].told(design) if finding.level == "warn"}
            self.assertTrue(told & {"too_low", "over_limit", "above_bank", "wrong_bank"}, told)
        place = design.places[0]
        self.assertGreaterEqual(place.width_m * place.length_m, count * group.width * group.length)

    def test_what_cannot_be_is_said_beside_its_entry(self):
        for said in ({"overall_m": 5, "waterline_m": 6}, {"weighs_kg": -1}, {"panel_count": 0}):
            with self.assertRaises(ValidationError):
                known(**said)
        own = {"bank": "own", "panels": "own"}
        for said, field in (
            ({"hull_type": "kayak", "weighs_kg": 5000}, "weighs_kg"), ({"overall_m": 60}, "overall_m"),
            ({"hull_type": "kayak", "overall_m": 1.1}, "overall_m"), ({**own, "panel_w": 0.01}, "panel_w"),
            ({**own, "bank_v": 1000, "bank_ah": 20_000}, "bank_ah"), ({"beam_m": 20}, "beam_m"),
            ({"motor_w": 500_000, "motors": 4}, "motor_w"), ({"date": date(1, 1, 15)}, "date"),
        ):  # fmt: skip
            with self.assertRaises(InvalidDesign) as refused:
                new_boat(Known(**{"site": LISSA, "date": JUNE, **said}))
            problem = refused.exception.problems[0]
            self.assertEqual(
                (problem.field, bool(problem.message and problem.accepted)), (f"/{field}", True), said
            )

    @settings(max_examples=60, deadline=None)
    @given(st.data())
    def test_any_entries_at_their_bounds_make_a_boat_or_are_refused_beside_one_of_them(self, data):
        schema = Known.model_json_schema()
        numbers = [
            name for name, entry in schema["properties"].items() if "number" in str(entry.get("anyOf"))
        ]
        said = {"bank": "own", "panels": "own", "hull_type": data.draw(st.sampled_from(list(HullType)))}
        for name in data.draw(st.sets(st.sampled_from(numbers), max_size=3)):
            entry = schema["properties"][name]["anyOf"][0]
            said[name] = data.draw(
                st.sampled_from([1.001 * entry["exclusiveMinimum"] + 0.001, entry["maximum"]])
            )
        try:
            design = new_boat(known(**said))
        except InvalidDesign as error:
            self.assertIn(error.problems[0].field[1:], Known.model_fields)
        except ValidationError:
            pass  # a waterline longer than the boat
        else:
            self.assertEqual(design.hull.type, said["hull_type"])

    def test_what_is_hidden_on_the_sheet_is_not_said(self):
        """A bank typed, then "something usual" chosen again."""
        usual = new_boat(known(hull_type="skiff"))
        again = new_boat(
            known(hull_type="skiff", bank_v=96, bank_ah=7, panel_count=9, panel_w=55, chemistry="agm")
        )
        self.assertEqual(again, usual)


class StrangersTest(unittest.TestCase):
    """Seventeen boats as their owners describe them; what each is told stands in docs/strangers.md."""

    KINDS = json.loads((Path(__file__).parents[2] / "demo" / "strangers.json").read_text())

    def test_each_gets_a_first_answer_without_a_false_zero_or_alarm(self):
        self.assertEqual(len(self.KINDS), 17)
        for kind, said in self.KINDS.items():
            design = new_boat(known(name=kind, **said))
            self.assertLess(len(said), 20)
            found = answers_for(design)
            first = found.rail[0]
            self.assertIsNone(first.reason, kind)
            self.assertGreater(first.value.value, 0, kind)
            if first.band:
                low, high = (end.value for end in first.band)
                self.assertTrue(0 < low < first.value.value < high, kind)
            warned = [
                f for station in STATIONS for f in station.told(design) if f.level == "warn" and not f.caution
            ]
            self.assertLessEqual(len({f.id for f in warned}), 2, (kind, [f.id for f in warned]))
            self.assertNotIn("stops_at_reserve", {f.id for f in warned}, kind)


class VoltsTest(unittest.TestCase):
    """Volts that nobody gave, by how panels are sold."""

    def test_cells_by_watts_by_class_and_by_volts(self):
        for said, cells in (
            ({"nameplate_w": 40}, 36), ({"nameplate_w": 200}, 36), ({"nameplate_w": 280}, 60),
            ({"nameplate_w": 420}, 54), ({"nameplate_w": 200, "sold_as": SoldAs.V24}, 72),
            ({"nameplate_w": 200, "best_v": 41.0}, 72), ({"nameplate_w": 200, "open_circuit_v": 24.0}, 36),
            ({"nameplate_w": 200, "cells_across": 6, "cells_along": 8}, 48),
        ):  # fmt: skip
            self.assertEqual(PanelModel(**said).grid.in_series, cells, said)

    def test_a_wiring_that_cannot_charge_gives_nothing_with_and_without_a_datasheet(self):
        small = {"panels__0__nameplate_w": 100.0, "panels__0__cells_across": 4, "panels__0__cells_along": 9}
        sheet = {"panels__0__best_v": 20.5, "panels__0__best_a": 4.88, "panels__0__open_circuit_v": 24.5,
                 "panels__0__short_circuit_a": 5.2}  # fmt: skip
        for more in ({}, sheet):
            self.assertEqual(day_wh(**small, **more, panels__0__series=1), 0)
            self.assertGreater(day_wh(**small, **more, panels__0__series=2), 500)
            self.assertEqual(
                day_wh(**small, **more, panels__0__series=None), day_wh(**small, **more, panels__0__series=2)
            )

    def test_one_small_panel_on_a_larger_bank_gets_a_boost_controller(self):
        one = known(
            hull_type="rowing_boat",
            bank="own",
            bank_v=25.6,
            bank_ah=50,
            panels="own",
            panel_count=1,
            panel_w=120,
        )
        design = new_boat(one)
        self.assertIs(design.controllers[0].kind, ControllerKind.BOOST)
        self.assertTrue(charges(design))
        self.assertEqual(boat().controllers[0].kind, ControllerKind.MPPT)


class TownsTest(unittest.TestCase):
    def test_by_the_beginning_without_accents_and_by_country(self):
        found = towns_named("zuri")
        self.assertEqual((found[0].name, found[0].country), ("Zürich", "Switzerland"))
        self.assertAlmostEqual(found[0].latitude_deg, 47.37, delta=0.05)
        self.assertTrue(all(town.country == "Canada" for town in towns_named("london, can")))
        self.assertEqual(towns_named("   "), [])
        self.assertEqual(towns_named("qqqqq"), [])
        self.assertLessEqual(len(towns_named("san")), 8)

    def test_the_water_is_salt_where_the_sea_is_near_and_what_is_said_goes_first(self):
        def water_at(name: str, **said) -> Water:
            town = towns_named(name)[0]
            place = Site(name=name, latitude_deg=town.latitude_deg, longitude_deg=town.longitude_deg)
            return new_boat(Known(site=place, date=JUNE, **said)).site.water

        salt = ("Boston", "Split", "Auckland", "Stockholm", "Sydney", "Plymouth", "Istanbul", "Nassau")
        fresh = ("Chicago", "Geneva", "Berlin", "Toronto", "Amsterdam", "Entebbe", "Duluth", "Bordeaux")
        self.assertEqual({name: water_at(name) for name in salt}, dict.fromkeys(salt, Water.SALT))
        self.assertEqual({name: water_at(name) for name in fresh}, dict.fromkeys(fresh, Water.FRESH))
        self.assertIs(water_at("Boston", water=Water.FRESH), Water.FRESH)
        self.assertIs(water_at("Geneva", water=Water.SALT), Water.SALT)
        for place in places():  # the waters that come with the product are what they are
            self.assertIs(new_boat(Known(site=place, date=JUNE)).site.water, place.water)
        self.assertTrue(sea_is_near(-16.5, 179.99) and sea_is_near(-16.5, -179.99))  # across the date line
        self.assertTrue(sea_is_near(90, 0))
        self.assertFalse(sea_is_near(-90, 0))
