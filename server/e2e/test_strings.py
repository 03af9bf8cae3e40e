"""Walks of the Strings: a wrong wiring caught, one proposed, one made by hand, everything kept on paper."""

from __future__ import annotations

from boats.models import Variant
from parhelion.balance.outlook import outlook_of
from parhelion.formats.boat_file import design_from
from parhelion.stations.strings.picture import strings_picture

from e2e.base import BrowserTest, expect


class StringsWalk(BrowserTest):
    def stored(self):
        self.page.wait_for_timeout(150)
        self.saved()
        return design_from(Variant.objects.get(is_working=True).document)

    def test_from_a_string_too_long_to_a_diagram_to_keep(self):
        self.open()
        self.page.keyboard.press("4")
        self.page.locator("[data-ladder]").wait_for()
        expect(self.finding("Within the limits checked")).to_be_visible()
        before = self.value("days_run_sun")
        self.fill("In series", "4")
        expect(self.finding("Canopy: 193.4 V open, limit 100.0 V")).to_be_visible()
        expect(self.page.locator("[data-rungs=canopy-panels]")).to_contain_text("▲ cold, open 193 V")
        self.fill("In series", "0")
        expect(self.page.get_by_role("alert")).to_contain_text("1 or more")
        self.fill("In series", "3")
        expect(self.finding("1 of 4 panels on Canopy fill no string")).to_be_visible()
        self.assertLess(self.value("days_run_sun"), before)
        self.fill("In series", "1")
        expect(self.finding("Canopy: every string wants its own fuse")).to_be_visible()
        self.fill("In series", "2")
        self.fold("Its controller")
        self.fill("Panel volts, at most", "75")
        expect(self.finding("Canopy: 96.7 V open, limit 75.0 V")).to_be_visible()
        self.fill("Panel volts, at most", "-5")
        expect(self.page.get_by_role("alert")).to_be_visible()
        self.fill("Panel volts, at most", "150")
        self.fold("Limits to hold")
        self.fill("Coldest morning", "-20")
        design = self.stored()
        self.assertEqual((design.controllers[0].most_pv_v, design.wiring.coldest_c), (150, -20))
        rung = strings_picture(outlook_of(design)).rungs[0]
        expect(self.page.locator("[data-rungs=canopy-panels]")).to_contain_text(f"{rung.cold_v:.0f} V")
        self.accessible()

        self.fold("A wiring for you")
        self.page.get_by_role("button", name="Propose a wiring").click()
        expect(self.page.locator("[data-proposal=best]")).to_contain_text("Canopy: side by side")
        self.page.get_by_role("button", name="Use it: Best for its price").click()
        expect(self.page.locator("[data-proposal=best]")).to_contain_text("as it is wired")
        self.assertEqual(self.stored().controller("canopy-panels-controller").count, 1)
        self.page.get_by_role("button", name="Undo").click()
        self.fold("Its controller")
        self.fill("Panel volts, at most", "75")
        self.fold("A wiring for you")
        self.page.get_by_role("button", name="Propose a wiring").click()
        ways = self.page.locator("[data-volts=canopy-panels]")
        expect(ways).to_contain_text("V open in the cold, the limit is 75.0 V")
        expect(ways.locator("[data-volts-option]").first).to_contain_text("a year")
        self.accessible()
        self.page.get_by_role("button", name="Undo").click()

        self.page.get_by_role("tab", name="Cables").click()
        line = strings_picture(outlook_of(design)).lines[0]
        expect(self.page.locator("[data-cables]")).to_contain_text(f"{line.cable.size_mm2:g} mm²")
        self.accessible()
        self.page.get_by_role("tab", name="Charge settings").click()
        expect(self.page.locator("[data-settings]")).to_contain_text("28.0 V for 0.5 h")
        with self.page.expect_download() as paper:
            self.page.get_by_role("button", name="all of the wiring as PDF").click()
        self.assertTrue(paper.value.path().read_bytes().startswith(b"%PDF"))
        self.page.get_by_role("tab", name="One-line diagram").click()
        expect(self.page.locator("[data-line]")).to_have_count(3)
        with self.page.expect_download() as kept:
            self.page.get_by_role("button", name="save as SVG").click()
        drawn = kept.value.path().read_text(encoding="utf-8")
        self.assertTrue(drawn.startswith("<svg"))
        self.assertIn("Starboard wing", drawn)
        self.assertNotIn("var(--", drawn)
        self.accessible()

    def test_by_hand_other_kinds_and_a_list_of_ones_own(self):
        self.open()
        self.page.keyboard.press("4")
        self.page.get_by_role("tab", name="Strings", exact=True).click()
        strings = self.page.locator("[data-board-string]")
        expect(strings).to_have_count(4)
        before = self.value("days_run_sun")
        self.page.locator("[data-chip='canopy-panels/3']").drag_to(strings.nth(0))
        expect(strings.nth(0).locator("[data-chip]")).to_have_count(3)
        expect(self.finding("Canopy: 145.1 V open, limit 100.0 V")).to_be_visible()
        self.page.locator("[data-chip='canopy-panels/2']").click()
        self.page.get_by_label("Move Canopy 3 to").select_option(label="not connected")
        expect(self.finding("1 panel is not connected")).to_be_visible()
        self.accessible()
        self.assertLess(self.value("days_run_sun"), before)
        self.page.get_by_label("Move Canopy 3 to").select_option(
            label="the string of Port wing 1, Port wing 2"
        )
        expect(self.finding("Canopy + Port wing in one string")).to_be_visible()
        design = self.stored()
        self.assertEqual(sum(len(string.panels) for string in design.strings), 8)
        self.page.get_by_role("button", name="wire by groups again").click()
        expect(self.finding("Within the limits checked")).to_be_visible()
        self.assertEqual(self.value("days_run_sun"), before)

        self.page.get_by_role("tab", name="Year").click()
        expect(self.page.locator("[data-box-year=canopy-controller]")).to_contain_text("kWh")
        self.fold("Its controller")
        self.page.get_by_label("From the list").select_option(label="PWM 20")
        expect(self.finding("Canopy behind PWM gives up")).to_be_visible()
        self.assertEqual(self.stored().controllers[0].kind, "pwm")
        self.page.get_by_role("button", name="Undo").click()
        self.fold("A wiring for you")
        rows = "Name,PV volts [V],PV amps,Charge amps,Bank volts,Price\nGull 120,120,60,60,24,9\nTern,90,-4,10,24,5"
        for text, told in (
            (rows.replace("[V]", "[A]"), "PV volts [A] is in A."),
            (rows, "outside what this can be"),
        ):
            file = {"name": "own.csv", "mimeType": "text/csv", "buffer": text.encode()}
            self.page.get_by_label("Table of controllers").set_input_files(file)
            expect(self.page.locator("[data-own-controllers] [role=alert]")).to_contain_text(told)
        expect(self.page.locator("[data-own-controllers]")).to_contain_text("1 of your own")
        self.page.get_by_role("button", name="Propose a wiring").click()
        expect(self.page.locator("[data-proposal=best]")).to_contain_text("Gull 120")
        expect(self.page.locator("[data-proposal=best]")).to_contain_text("a year")
        self.page.get_by_role("tab", name="Parts").click()
        with self.page.expect_download() as kept:
            self.page.get_by_role("button", name="save as CSV").click()
        table = kept.value.path().read_text(encoding="utf-8")
        self.assertTrue(table.startswith("kind,item,quantity,unit,where"))
        self.assertIn("Port wing", table)
