"""A walk of the Array: fill the canopy, add a wing, turn the boat, drag the sun, follow a finding, move a spar."""

from __future__ import annotations

import re

from axe_playwright_python.sync_playwright import Axe
from boats.models import Variant
from parhelion.formats.boat_file import design_from
from parhelion.pictures.array import array_picture
from playwright.sync_api import expect

from e2e.base import BrowserTest


class ArrayWalk(BrowserTest):
    def stored(self):
        self.page.wait_for_timeout(900)
        self.saved()
        return design_from(Variant.objects.get(is_working=True).document)

    def station(self) -> None:
        self.open()
        self.page.keyboard.press("3")
        self.page.locator("[data-deck]").wait_for()

    def test_from_a_full_canopy_to_a_spar_that_moved(self):
        self.station()
        self.fill("Short side", "0.62")
        fits = self.page.locator("[data-fits] button").last
        expect(fits).to_have_text(re.compile("athwart"))
        before = self.value("days_run_sun")
        expect(self.page.locator("[data-fits] button").first).to_have_text("4 lengthwise")
        self.fill("Long side", "0.98")
        expect(self.page.locator("[data-fits] button").first).to_have_text("6 lengthwise")
        self.page.locator("[data-fits] button").first.click()
        expect(self.page.locator("[data-panel]")).to_have_count(6)
        self.settled()
        self.assertGreater(self.value("days_run_sun"), before + 3)

        self.page.get_by_role("button", name="add a place").click()
        self.page.locator("[data-place]").last.click()
        self.fold("Where it is")
        self.fill("To starboard", "500")
        expect(self.page.get_by_role("alert")).to_contain_text("100 m or less")
        self.fill("To starboard", "1.6")
        expect(self.finding("Place 2 reaches")).to_be_visible()
        self.fill("Tilt; flat is 0", "120")
        expect(self.page.get_by_role("alert")).to_contain_text("90")
        self.fill("Tilt; flat is 0", "20")
        expect(self.finding("A gust of 22.0 kn pulls")).to_be_visible()

        ring = self.page.get_by_role("slider", name="Heading")
        for _ in range(18):
            ring.press("ArrowRight")
        expect(ring).to_have_attribute("aria-valuetext", "90 degrees")
        sun = self.page.get_by_role("slider", name="Time of day")
        for _ in range(24):
            sun.press("ArrowRight")
        expect(self.page.locator("[data-readout]")).to_contain_text(re.compile("1[67]:"))
        design = self.stored()
        self.assertEqual(design.plan.heading_deg, 90)
        self.assertEqual(design.places[1].tilt_deg, 20)

        pole = self.page.locator("[data-deck-spar=light-mast]")
        costs = {spar.id: spar.cost_wh for spar in array_picture(design).spars}
        pole.focus()
        for _ in range(8):
            pole.press("ArrowUp")
        self.settled()
        moved = self.stored()
        self.assertAlmostEqual(moved.obstacles[1].foot.y_m, 2.55)
        self.assertAlmostEqual(moved.obstacles[1].tip.y_m, 2.55)
        again = {spar.id: spar.cost_wh for spar in array_picture(moved).spars}
        self.assertLess(again["light-mast"], costs["light-mast"])

        box = self.page.locator("[data-deck-place=canopy]").bounding_box()
        at = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
        self.page.mouse.move(*at)
        self.page.mouse.down()
        self.page.mouse.move(at[0], at[1] + 30, steps=4)
        self.page.mouse.up()
        self.assertLess(self.stored().places[0].at.y_m, moved.places[0].at.y_m)
        self.page.get_by_role("button", name="Undo").click()
        self.assertEqual(self.stored().places[0].at, moved.places[0].at)

    def test_the_list_and_the_sky_say_the_same_and_are_accessible(self):
        self.station()
        self.page.get_by_role("tab", name="List").click()
        row = self.page.locator("[data-place-row=canopy]")
        expect(row).to_contain_text("860 W")
        picture = array_picture(self.stored())
        expect(row).to_contain_text(f"{picture.places[0].day_wh / 1000:.1f}")
        self.assertEqual(Axe().run(self.page).violations_count, 0)
        self.page.get_by_role("tab", name="Sky from a panel").click()
        self.page.get_by_label("Seen from").select_option(index=3)
        expect(self.page.locator("[data-dome]")).to_be_visible()
        expect(self.page.locator("[data-view] .opacity-75")).to_have_count(0)
        self.page.wait_for_timeout(300)  # it fades back in
        self.assertEqual(Axe().run(self.page).violations_count, 0)
        self.page.get_by_role("tab", name="Deck in the sun").click()
        self.page.locator("[data-deck]").wait_for()
        self.assertEqual(Axe().run(self.page).violations_count, 0)

    def test_a_boat_without_panels_is_told_what_to_do(self):
        self.station()
        self.fold("Where it is")
        self.page.get_by_role("button", name="remove it with its panels").click()
        expect(self.finding("No panels yet")).to_be_visible()
        self.page.get_by_role("button", name="add a place").click()
        expect(self.page.locator("[data-panel]")).to_have_count(1)
