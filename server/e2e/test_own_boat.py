"""A stranger enters their own boat from its papers, and the answer is the core's for that boat."""

from __future__ import annotations

from boats.models import Variant
from parhelion.design.hulltypes import HullType
from parhelion.formats.boat_file import design_from
from parhelion.rail.answers import answers_for
from parhelion.units import M_PER_NAUTICAL_MILE, MPS_PER_KNOT

from e2e.base import BrowserTest, expect


class OwnBoat(BrowserTest):
    def stored(self, name: str) -> dict:
        self.page.wait_for_timeout(900)
        self.saved()
        return Variant.objects.get(is_working=True, document__name=name).document

    def test_from_the_papers_to_the_answer(self):
        self.open()
        dialog = self.new_boat("Motor cruiser", "Avocet")
        dialog.get_by_label("Where", exact=True).fill("of Lissa")
        dialog.get_by_role("button", name="Bay of Lissa", exact=True).click()
        dialog.get_by_role("button", name="Start", exact=True).click()
        expect(self.page).to_have_title("Avocet · Parhelion")
        for label, text in (
            ("Waterline length", "7.8"), ("Beam at the waterline", "2.4"), ("All-up weight", "3100"),
            ("Watts on its label", "6000"), ("Battery to thrust", "44"), ("Draw when idling", "18"),
        ):  # fmt: skip
            if label == "Watts on its label":
                self.fold("Motor")
            self.fill(label, text)
            expect(self.page.get_by_label(label, exact=True)).to_have_value(text)
        self.page.keyboard.press("Escape")
        self.page.get_by_role("link", name="Day").click()
        self.page.get_by_label("Date", exact=True).fill("2027-05-09")
        self.page.get_by_role("button", name="hazy", exact=True).click()
        self.fill("Speed", "3.5")
        self.fill("Bank at the start", "90")
        self.page.get_by_role("button", name="set my own").click()
        self.fill("Spell 1 from", "9")
        expect(self.page.get_by_label("Spell 1 from", exact=True)).to_have_value("09:00")
        self.fill("Spell 1 to", "1630")
        self.fold("Bank")
        self.page.get_by_label("Chemistry", exact=True).select_option(label="AGM")
        self.fill("Volts of one unit", "12")
        self.fill("In series", "4")
        self.fill("Amp-hours of one", "220")
        self.fold("Panels")
        self.fill("Nameplate, each", "310")
        self.fill("How many", "5")
        self.fill("Tilt; flat is 0", "12")
        self.page.get_by_label("Tilted", exact=True).select_option(label="to the stern")
        self.fill("Controller efficiency", "97")
        self.fold("House")
        self.fill("Load 1, name", "Cool box")
        self.fill("Load 1, watts", "42")
        self.fill("Load 1, hours a day", "8")
        for _ in range(10):  # a loaded machine checks the last field late
            document = self.stored("Avocet")
            if document["loads"][0]["hours_per_day"] == 8:
                break
        self.assertEqual(document["loads"][0]["hours_per_day"], 8)
        self.assertEqual(document["hull"]["displacement_kg"], 3100)
        spell = {"starts_at": "09:00:00", "ends_at": "16:30:00", "speed_mps": None}
        self.assertEqual(document["plan"]["spells"], [spell])
        self.assertAlmostEqual(document["plan"]["speed_mps"], 3.5 * MPS_PER_KNOT, places=6)
        self.assertEqual((document["banks"][0]["chemistry"], document["banks"][0]["series"]), ("agm", 4))
        self.assertEqual((document["places"][0]["tilt_deg"], document["places"][0]["faces"]), (12, "stern"))
        self.assertEqual(document["loads"][0]["name"], "Cool box")
        found = answers_for(design_from(document))
        self.assertAlmostEqual(
            self.value("days_run_sun"), found.days_run_sun.distance_m / M_PER_NAUTICAL_MILE, delta=0.051
        )
        self.assertAlmostEqual(self.value("bank_at_dusk"), 100 * found.bank_at_dusk.soc_frac, delta=0.51)
        expect(self.page.locator(".rail-assumes")).to_contain_text(
            "9 May 2027, Bay of Lissa, hazy sky, motoring 7 h 30"
        )

    def test_every_kind_of_boat_starts_with_an_answer(self):
        self.open()
        for form in list(HullType)[::3]:
            dialog = self.new_boat(form.label)
            dialog.get_by_role("button", name="Start", exact=True).click()
            expect(self.page).to_have_title(f"New {form.label.lower()} · Parhelion")
            self.settled()
            expect(self.page.locator("[data-curve]")).to_be_visible()
            self.assertNotIn("NaN", self.page.locator("svg[role=group]").inner_html())

    def test_use_and_parts_turn_the_rail(self):
        self.open()
        use = self.page.get_by_label("Use", exact=True)
        use.select_option(label="sails, motor helps")
        expect(self.page.locator("[data-cell=range_at_speed]")).to_be_visible()
        use.select_option(label="charged at home")
        expect(self.page.locator("[data-cell=sun_share]")).to_be_visible()
        self.page.get_by_role("link", name="Day").click()
        self.fold("Panels")
        for _ in range(3):
            self.page.get_by_role("button", name="remove these").first.click()
        expect(self.page.locator("[data-cell=first_panel]")).to_contain_text("a first 200 W panel")
        expect(self.page.get_by_text("no panels yet")).to_be_visible()
        self.fold("Bank")
        self.page.get_by_role("button", name="no bank").click()
        expect(self.page.locator("[data-cell=held_back_by]")).to_be_visible()
        expect(self.page.get_by_text("no bank aboard")).to_be_visible()
        self.page.get_by_role("button", name="add a bank").click()
        self.fill("Reserve", "150")
        expect(self.page.get_by_role("alert")).to_contain_text("100 % or less")

    def test_a_station_prints_without_its_bench(self):
        self.open()
        self.page.emulate_media(media="print")
        expect(self.page.locator(".bench")).to_be_hidden()
        expect(self.page.locator("[data-curve]")).to_be_visible()
        expect(self.page.locator("[data-cell=days_run_sun]")).to_be_visible()
