"""A walk of the year: is the boat worth it in October, what would turn the answer, what the place is said to have."""

from __future__ import annotations

from boats.models import Variant
from parhelion.formats.boat_file import design_from
from parhelion.stations.year.season import season
from tests.test_weather import epw

from e2e.base import BrowserTest, expect


class SeasonWalk(BrowserTest):
    def year(self) -> None:
        self.page.wait_for_timeout(600)
        self.page.locator("[data-season][aria-busy=false]").wait_for()

    def test_a_grey_fortnight_ready_by_saturday_and_the_accounts(self):
        self.open()
        self.page.keyboard.press("5")
        self.page.get_by_role("tab", name="Accounts").click()
        expect(self.page.locator("[data-account=array_wh]")).to_contain_text("kWh")
        with self.page.expect_download() as kept:
            self.page.get_by_role("button", name="every ten minutes as CSV").click()
        self.assertIn("motor_w", kept.value.path().read_text(encoding="utf-8").splitlines()[0])
        self.accessible()
        self.page.keyboard.press("6")
        self.page.get_by_role("tab", name="Days ahead").click()
        ahead = self.page.locator("[data-ahead]")
        expect(self.page.locator("[data-ahead-day]")).to_have_count(10)
        self.fill("Days out", "14")
        self.fill("Rounds", "1")
        self.fill("Days of fog", "14")
        self.fill("Fog from day", "1")
        expect(ahead).to_contain_text("the motor stops at the reserve on most trips")
        self.accessible()
        self.fill("Days out", "0")
        self.fill("Days of fog", "0")
        self.fill("Days at rest", "6")
        self.page.get_by_label("At rest she is").select_option("dock")
        expect(self.page.locator("[data-ahead-day]")).to_have_count(6)
        expect(ahead).to_contain_text("After 6 days at rest she is back at 80 % on")
        self.fill("Days at rest", "0")
        expect(self.page.get_by_role("alert")).to_contain_text("no days")

    def test_is_it_worth_it_in_october(self):
        self.open()
        self.page.keyboard.press("6")
        self.fill("Date", "2027-10-12")
        self.year()
        answer = self.page.locator("[data-season-answer]")
        expect(answer).not_to_have_attribute("data-season-answer", "yes")
        expect(self.page.locator("[data-season]")).to_contain_text("In October the sun sustains")
        expect(self.page.locator("[data-told=turning]")).to_contain_text("More panel: some")
        self.page.wait_for_timeout(150)
        self.saved()
        october = season(design_from(Variant.objects.get(is_working=True).document)).months[9]
        expect(self.page.locator("[data-season-month='10']")).to_contain_text(f"{october.sun_h:.1f}")
        self.fill("Speed", f"{october.speed_mps / 0.514444 * 0.97:.2f}")
        self.year()
        expect(answer).to_have_text("Yes, on the sun alone")
        self.accessible()

        self.fill("Speed", "3.6")
        self.page.get_by_role("tab", name="Upgrades").click()
        self.page.locator("[data-upgrades][aria-busy=false] [data-told=upgrades]").wait_for()
        expect(self.page.locator("[data-step]").first).to_contain_text("nm")
        self.page.get_by_role("tab", name="The year").click()
        self.year()

        expect(self.page.locator("[data-climate-strip]")).to_contain_text("usual for the place")
        self.page.get_by_label("Known by").select_option("day_counts")
        self.fill("sunny days in Oct", "30")
        expect(self.page.get_by_role("alert")).to_contain_text("no 50 days")
        self.page.get_by_label("sunny days in Oct").press("Escape")
        self.page.get_by_label("Known by").select_option("sun_hours")
        self.fill("Full-sun hours in Oct", "6")
        self.year()
        expect(self.finding("cannot be as they are said to be")).to_be_visible()
        file = {"name": "cut.epw", "mimeType": "text/plain", "buffer": epw(rows=5000, latitude=61.0).encode()}
        self.page.get_by_label("Weather file").set_input_files(file)
        expect(self.page.locator("[data-weather] [role=alert]")).to_contain_text("5,000 hours")
        file["buffer"] = epw(latitude=46.0).encode()
        self.page.get_by_label("Weather file").set_input_files(file)
        expect(self.page.locator("[data-weather] [role=status]")).to_contain_text("8,760 hours of EPW read")
        expect(self.page.get_by_label("Full-sun hours in Jul")).to_have_value("2")
        self.year()
        expect(self.page.locator("[data-season]")).to_contain_text("cut.epw, EPW")
        self.fill("Full-sun hours in Oct", "90")
        expect(self.page.get_by_role("alert").first).to_be_visible()
