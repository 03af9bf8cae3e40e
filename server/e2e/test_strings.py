"""A walk of the Strings: a wrong wiring caught, put right, its cables read, the diagram kept."""

from __future__ import annotations

from axe_playwright_python.sync_playwright import Axe
from boats.models import Variant
from parhelion.formats.boat_file import design_from
from parhelion.pictures.strings import strings_picture
from playwright.sync_api import expect

from e2e.base import BrowserTest


class StringsWalk(BrowserTest):
    def stored(self):
        self.page.wait_for_timeout(900)
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
        rung = strings_picture(design).rungs[0]
        expect(self.page.locator("[data-rungs=canopy-panels]")).to_contain_text(f"{rung.cold_v:.0f} V")
        self.assertEqual(Axe().run(self.page).violations_count, 0)

        self.fold("A wiring for you")
        self.page.get_by_role("button", name="Propose a wiring").click()
        expect(self.page.locator("[data-proposal=best]")).to_contain_text("Canopy: 2 in series")
        self.page.get_by_role("button", name="Use it: Best for its price").click()
        expect(self.page.locator("[data-proposal=best]")).to_contain_text("as it is wired")
        self.assertEqual(self.stored().controller("canopy-panels-controller").count, 1)
        self.page.get_by_role("button", name="Undo").click()

        self.page.get_by_role("tab", name="Cables").click()
        line = strings_picture(design).lines[0]
        expect(self.page.locator("[data-cables]")).to_contain_text(f"{line.cable.size_mm2:g} mm²")
        self.assertEqual(Axe().run(self.page).violations_count, 0)
        self.page.get_by_role("tab", name="Charge settings").click()
        expect(self.page.locator("[data-settings]")).to_contain_text("28.0 V")
        self.page.get_by_role("tab", name="One-line diagram").click()
        expect(self.page.locator("[data-line]")).to_have_count(3)
        with self.page.expect_download() as kept:
            self.page.get_by_role("button", name="save as SVG").click()
        drawn = kept.value.path().read_text(encoding="utf-8")
        self.assertTrue(drawn.startswith("<svg"))
        self.assertIn("Starboard wing", drawn)
        self.assertNotIn("var(--", drawn)
        self.assertEqual(Axe().run(self.page).violations_count, 0)
