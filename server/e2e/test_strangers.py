"""Strangers with boats of their own: from "New boat" to an answer, and how little they had to say for it."""

from __future__ import annotations

import re

from boats.actions import design_from
from boats.models import Variant
from parhelion.design import ControllerKind, Rating, Use
from parhelion.rail.answers import answers_for
from playwright.sync_api import Locator

from e2e.base import BrowserTest, expect

FEW = 20  # entries at most, to a first trustworthy answer


class Strangers(BrowserTest):
    demo = ("whimbrel.json", "grebe.json")

    def begin(self) -> Locator:
        self.open()
        self.said = 0
        return self.new_boat()

    def say(self, sheet: Locator, **said: str) -> None:
        """Fills entries by their labels, underscores for spaces; chooses where an entry is a list."""
        for name, text in said.items():
            label = name.replace("_", " ")
            field = sheet.get_by_label(label, exact=True)
            if field.evaluate("node => node.tagName") == "SELECT":
                field.select_option(label=text)
            else:
                field.fill(text)
            self.said += 1

    def start(self, sheet: Locator, name: str):
        sheet.get_by_role("button", name="Start", exact=True).click()
        expect(self.page).to_have_title(f"{name} · Parhelion")
        self.settled()
        self.assertLess(self.said, FEW)
        return design_from(Variant.objects.get(is_working=True, document__name=name).document)

    def test_a_kayaks_owner_in_pounds_and_feet(self):
        sheet = self.begin()
        sheet.get_by_role("button", name="Kayak", exact=True).click()
        self.say(sheet, Name="Teal", Length_overall="15ft 2", People_aboard="1", or_thrust="30 lb", Panels="this one",
                 How_many="1", Watts_each="100", Where_on_board="Loose panel", Battery="this one", Volts="12.8")  # fmt: skip
        self.say(sheet, **{"Amp-hours": "50"})
        answer = sheet.locator("[aria-live=polite]")
        expect(answer).to_contain_text("nm")
        expect(answer).not_to_contain_text("cannot be")
        sheet.get_by_label("Where", exact=True).fill("cambridge, united k")
        sheet.get_by_role("button", name="Cambridge, United Kingdom", exact=True).click()
        design = self.start(sheet, "Teal")
        self.assertIs(design.drives[0].rating, Rating.THRUST)
        self.assertAlmostEqual(design.drives[0].static_thrust_n, 30 * 4.448, delta=0.1)
        self.assertAlmostEqual(design.hull.waterline_length_m, 0.92 * 4.623, delta=0.02)
        self.assertAlmostEqual(design.site.longitude_deg, 0.12, delta=0.1)
        self.assertEqual(design.plan.date.month, 6)
        found = answers_for(design)
        self.assertAlmostEqual(
            self.value("range_at_speed"), found.range_at_speed.distance_m / 1852, delta=0.06
        )
        self.page.get_by_role("link", name="Array").click()
        expect(self.page.locator("[data-panel]").first).to_be_visible()

    def test_what_cannot_be_is_said_beside_its_field_and_kept_while_the_sheet_is_closed(self):
        sheet = self.begin()
        self.say(sheet, Length_overall="5", or_at_the_waterline="6", People_aboard="two")
        expect(sheet.get_by_text("A waterline is no longer than the boat.").first).to_be_visible()
        expect(sheet.get_by_text("is not a number")).to_be_visible()
        expect(sheet.get_by_role("button", name="Start", exact=True)).to_be_disabled()
        sheet.get_by_role("button", name="Cancel").click()
        self.new_boat()
        expect(self.page.get_by_label("or at the waterline", exact=True)).to_have_value("6")
        expect(self.page.get_by_label("People aboard", exact=True)).to_have_value("two")

    def test_a_number_that_cannot_be_read_keeps_the_boat_from_starting_until_it_is_mended(self):
        sheet = self.begin()
        start = sheet.get_by_role("button", name="Start", exact=True)
        sheet.get_by_label("People aboard", exact=True).fill("3")
        expect(start).to_be_enabled()
        sheet.get_by_label("People aboard", exact=True).fill("three")
        expect(start).to_be_disabled()
        expect(sheet.get_by_text("A number above cannot be read.")).to_be_visible()
        sheet.get_by_label("People aboard", exact=True).fill("")
        expect(start).to_be_enabled()
        sheet.get_by_label("All-up weight", exact=True).fill("90000")
        expect(sheet.get_by_text("Accepted: less weight, or a longer or wider boat.")).to_be_visible()
        expect(start).to_be_disabled()

    def test_a_racer_without_a_bank_and_a_yacht_at_48_volts(self):
        sheet = self.begin()
        sheet.get_by_role("button", name="Slim trimaran", exact=True).click()
        self.say(sheet, Name="Dart", Used_for="races on live sun, no bank")
        expect(sheet.get_by_text("Speed at noon, live sun")).to_be_visible()
        self.assertEqual(self.start(sheet, "Dart").banks, ())
        expect(self.page.locator("[data-cell=days_distance]")).to_be_visible()
        sheet = self.begin()
        sheet.get_by_role("button", name="Long-keel yacht", exact=True).click()
        self.say(sheet, Name="Skua", Used_for="sails, with a motor", Battery="this one", Volts="48", Panels="this one",
                 How_many="1", Watts_each="120")  # fmt: skip
        self.say(sheet, **{"Amp-hours": "100"})
        yacht = self.start(sheet, "Skua")
        self.assertIs(yacht.use, Use.AUXILIARY)
        self.assertIs(yacht.controllers[0].kind, ControllerKind.BOOST)  # one 12 V panel under a 48 V bank
        self.assertGreater(self.value("range_at_speed"), 0)

    def test_a_sceptics_sum_beside_what_boats_really_draw(self):
        self.open(f"/year/{Variant.objects.get(document__name='Whimbrel').pk}?view=worth")
        row = self.page.locator("[data-worth-line=watts] td")
        expect(row.nth(1)).to_contain_text("W")
        self.page.get_by_label("He adds for losses", exact=True).fill("0")
        self.page.keyboard.press("Enter")
        self.page.get_by_label("Hours a day at the planned speed", exact=True).fill("2")
        self.page.keyboard.press("Enter")
        needed = self.page.locator("[data-worth-line=needed] td").nth(1)
        motor = self.page.locator("[data-worth-line=motor] td").nth(1)
        expect(motor).to_contain_text("kWh")
        expect(needed).to_have_text(motor.inner_text())
        self.page.get_by_label("Deck for panels", exact=True).fill("0.1")
        self.page.keyboard.press("Enter")
        expect(self.page.get_by_text("No room for it").first).to_be_visible()

    def test_a_zero_leads_to_where_it_is_mended(self):
        """A panel for 12 V under a bank of 48: not "the sun does not rise", and not "nothing" either."""
        self.open(f"/bank/{Variant.objects.get(document__name='Little Grebe').pk}")
        self.fill("Volts of one unit", "48")
        held = self.page.locator("[data-cell=held_back_by]")
        expect(held).to_contain_text("the wiring")
        held.click()
        expect(self.page.get_by_text("cannot reach the bank's volts").first).to_be_visible()
        self.page.get_by_role("link", name="mend it at Strings").click()
        expect(self.finding("Folding panel, foredeck")).to_be_visible()

    def test_a_rack_ashore_gives_a_days_stretch_and_is_judged_by_it(self):
        sheet = self.begin()
        sheet.get_by_role("button", name="Planing boat", exact=True).click()
        self.say(sheet, Name="Skimmer", Used_for="charged at home, sun helps", Length_overall="16ft 5", Panels="this one",
                 How_many="4", Watts_each="400", Where_on_board="Dock or shore rack", Battery="this one",
                 Volts="51.2")  # fmt: skip
        self.say(sheet, **{"Amp-hours": "150"})
        design = self.start(sheet, "Skimmer")
        given = answers_for(design).dock_day
        self.assertAlmostEqual(self.value("dock_day"), given.distance_m / 1852, delta=0.06)
        expect(self.page.locator("[data-cell=held_back_by]")).not_to_contain_text("the panels")
        self.page.get_by_role("link", name="Day", exact=True).click()
        expect(self.finding("The panels give at the dock alone")).to_be_attached()
        skimmer = Variant.objects.get(is_working=True, document__name="Skimmer")
        self.open(f"/year/{skimmer.pk}?view=worth")
        expect(self.page.get_by_text("their day is counted there")).to_be_visible()

    def test_a_catamarans_owner_finds_her_water_on_the_map(self):
        sheet = self.begin()
        sheet.get_by_role("button", name="Catamaran", exact=True).click()
        self.say(sheet, Name="Gannet", Length_overall="39ft 4", Used_for="weekends and cruises", Panels="this one",
                 How_many="12", Watts_each="400", Where_on_board="Cabin top", Battery="this one",
                 Volts="51.2")  # fmt: skip
        self.say(sheet, **{"Amp-hours": "600", "All-up weight": "9000 kg"})
        sheet.get_by_role("button", name="on a map").click()
        globe = sheet.get_by_role("button", name="The globe")
        sheet.get_by_label("Longitude", exact=True).fill("170")
        sheet.get_by_label("Latitude", exact=True).fill("-40")  # the globe turns to what is typed
        globe.click(position={"x": 98 + 6.4, "y": 98 - 5.2})
        expect(sheet.get_by_label("Where", exact=True)).to_have_value(re.compile(r"3[678].*S, 17[3-7].*E"))
        globe.drag_to(globe, source_position={"x": 98, "y": 98}, target_position={"x": 60, "y": 98})
        expect(sheet.get_by_label("Where", exact=True)).to_have_value(re.compile(r"3[678].*S, 17[3-7].*E"))
        globe.press("ArrowLeft")
        globe.press("Enter")  # what lies in the middle: farther east than before the drag
        expect(sheet.get_by_label("Where", exact=True)).to_have_value(re.compile(r"40.*S, 16[3-6].*W"))
        sheet.get_by_label("Longitude", exact=True).fill("174,8")
        sheet.get_by_label("Latitude", exact=True).fill("-91")
        expect(sheet.get_by_text("-90 to 90 north")).to_be_visible()
        sheet.get_by_label("Latitude", exact=True).fill("-36,8")
        expect(sheet.get_by_text("-90 to 90 north")).to_be_hidden()
        sheet.get_by_label("When", exact=True).select_option(label="January")
        design = self.start(sheet, "Gannet")
        self.assertAlmostEqual(design.site.latitude_deg, -36.8)
        self.assertAlmostEqual(design.site.longitude_deg, 174.8, delta=2.0)
        self.assertEqual(design.plan.date.month, 1)
        self.assertGreater(self.value("sun_only_steady"), 1)  # a summer's day of the south
