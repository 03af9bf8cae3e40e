"""Walks of the Day: the pace and what a step is worth, an upgrade within a budget, three variants side by side,
a week by its forecast, other sources, and a way back through the history."""

from __future__ import annotations

import json

from boats.models import Variant

from e2e.base import BrowserTest, expect


class WorthWalk(BrowserTest):
    """From what holds the boat back to an upgrade, and the upgrade beside the boat as she was."""

    def test_pace_upgrade_and_three_variants(self):
        page = self.page
        self.open()
        page.keyboard.press("5")
        page.get_by_role("tab", name="Pace").click()
        expect(page.locator("[data-way-row]")).to_have_count(4)
        expect(page.locator("[data-told=pace]")).to_contain_text("An hour on, an hour off")
        expect(page.locator("[data-worth=panel]")).to_contain_text("+")
        expect(page.locator("[data-worths]")).to_contain_text("Most for its price")
        self.accessible()

        for name in ("as she was", "thrifty"):
            page.get_by_role("button", name="Keep as variant").click()
            page.get_by_label("Call it").fill(name)
            page.get_by_role("button", name="Keep and compare").click()
            expect(page.get_by_text(f"compared with: {name}")).to_be_visible()
        self.settled()
        run = self.value("days_run_sun")
        page.keyboard.press("6")
        page.get_by_role("tab", name="Upgrades").click()
        self.fill("Money", "600")
        self.settled()
        page.locator("[data-upgrades][aria-busy=false] [data-step]").first.wait_for()
        self.accessible()
        self.fill("Panels already owned", "1")
        expect(page.locator("[data-step=panel]").first).to_contain_text("owned")
        page.locator("[data-upgrades][aria-busy=false]").wait_for()
        page.get_by_role("button", name="Put all of it on this boat").click()
        page.wait_for_timeout(400)
        self.saved()
        self.assertGreater(self.value("days_run_sun"), run)
        self.fill("Money", "-5")
        expect(page.get_by_role("alert")).to_contain_text("0 coins or more")
        page.get_by_label("Money").press("Escape")

        page.get_by_role("tab", name="Compare").click()
        page.locator("[data-compare][aria-busy=false] [data-compare-line=year]").wait_for()
        expect(page.locator("[data-year]")).to_have_count(3)
        expect(page.locator("[data-compare-line=run]")).to_contain_text("best")
        expect(page.locator("[data-differences]").first).to_contain_text("how many")
        self.accessible()
        page.get_by_role("checkbox", name="thrifty").uncheck()
        expect(page.locator("[data-year]")).to_have_count(2)
        page.get_by_role("button", name="work on it").click()
        expect(page.get_by_role("button", name="Boat:")).to_contain_text("as she was")
        self.settled()
        self.assertAlmostEqual(self.value("days_run_sun"), run, delta=0.11)

    def test_a_week_by_its_forecast_and_other_sources(self):
        page = self.page
        self.open()
        page.keyboard.press("6")
        page.get_by_role("tab", name="Days ahead").click()
        page.get_by_role("button", name="skies from the forecast").click()
        expect(page.locator("[data-trip-day]")).to_have_count(7)
        expect(page.locator("[data-day-by-day]")).to_contain_text("it foresees nothing")
        expect(page.locator("[data-ahead-day]")).to_have_count(7)
        day = page.locator("[data-trip-day='3']")
        day.get_by_role("button").click()
        expect(page.locator("[data-ahead-day='3']")).to_contain_text("at rest")
        day.get_by_role("combobox").select_option("rain")
        expect(page.locator("[data-ahead-day='3']")).to_contain_text("rain or fog")
        self.accessible()
        told = {"days": [{"date": "2027-06-13", "sky": "nice"}]}
        file = {"name": "week.json", "mimeType": "application/json", "buffer": json.dumps(told).encode()}
        page.get_by_label("Forecast file").set_input_files(file)
        expect(page.get_by_role("alert")).to_contain_text("This sky is not known.")
        expect(page.locator("[data-trip-day]")).to_have_count(7)
        told["days"][0]["sky"] = "overcast"
        page.get_by_label("Forecast file").set_input_files({**file, "buffer": json.dumps(told).encode()})
        expect(page.locator("[data-trip-day]")).to_have_count(1)
        page.get_by_role("button", name="back to rounds").click()
        expect(page.locator("[data-trip-day]")).to_have_count(0)

        page.keyboard.press("5")
        expect(page.locator("[data-motor]")).to_be_visible()
        page.go_back()
        expect(page.locator("[data-ahead]")).to_be_visible()
        page.go_forward()
        expect(page.locator("[data-motor]")).to_be_visible()
        self.fold("Other sources")
        page.get_by_label("Add another source of charge").select_option("generator")
        source = page.locator("[data-source=generator]")
        source.get_by_label("Stops at", exact=True).fill("20")
        source.get_by_label("Stops at", exact=True).press("Enter")
        expect(source.get_by_role("alert")).to_contain_text("never stop")
        source.get_by_label("Stops at", exact=True).fill("75")
        source.get_by_label("Stops at", exact=True).press("Enter")
        page.get_by_label("Add another source of charge").select_option("wind")
        expect(self.finding("Never unplug it while it turns")).to_be_visible()
        expect(self.finding("The generator")).to_be_visible()
        expect(page.locator("[data-other=wind]")).to_have_count(1)
        page.locator("[data-source=wind]").get_by_label("Has its dump load").uncheck()
        expect(self.finding("Wind generator needs its dump load")).to_be_visible()
        page.get_by_role("tab", name="Accounts").click()
        expect(page.locator("[data-account=wind_wh]")).to_contain_text("Wh")
        page.wait_for_timeout(300)
        self.saved()

        page.get_by_role("button", name="Boat: Whimbrel").click()
        page.get_by_text("History …").click()
        expect(page.locator("[data-revision]").first).to_contain_text("Source")
        self.accessible()
        page.get_by_role("button", name="Restore the state").last.click()
        expect(page.locator("[data-account=wind_wh]")).to_have_count(0)
        self.saved()
        self.assertEqual(Variant.objects.get(is_working=True).document["sources"], [])
        page.keyboard.press("u")
        expect(page.locator("[data-account=wind_wh]")).to_have_count(1)
