"""Walks through the job in a browser: what a person does, and what the answer does."""

from __future__ import annotations

import contextlib
import json
import re
import tempfile
from pathlib import Path

from boats.models import Variant
from django.conf import settings
from parhelion.formats.boat_file import read_boat
from parhelion.rail.answers import answers_for
from parhelion.units import M_PER_NAUTICAL_MILE, MPS_PER_KNOT
from playwright.sync_api import TimeoutError

from e2e.base import BrowserTest, expect


class HullWalk(BrowserTest):
    def test_the_demo_boat_shows_the_cores_answer_and_a_heavier_boat_a_slower_one(self):
        self.open()
        expect(self.page).to_have_title("Whimbrel · Parhelion")
        found = answers_for(read_boat((settings.ROOT / "demo" / "whimbrel.json").read_bytes()))
        self.assertAlmostEqual(
            self.value("sun_only_steady"), found.sun_only_steady.speed_mps / MPS_PER_KNOT, delta=0.051
        )
        self.assertAlmostEqual(
            self.value("days_run_sun"), found.days_run_sun.distance_m / M_PER_NAUTICAL_MILE, delta=0.051
        )
        before = self.value("days_run_sun")
        self.fill("All-up weight", "2400")
        self.saved()
        self.assertLess(self.value("days_run_sun"), before - 0.5)
        self.page.get_by_role("button", name="Undo").click()
        expect(self.page.get_by_label("All-up weight", exact=True)).to_have_value("")
        self.saved()
        self.assertEqual(self.value("days_run_sun"), before)
        self.page.keyboard.press("Shift+U")
        expect(self.page.get_by_label("All-up weight", exact=True)).to_have_value("2400")
        self.page.reload()
        self.settled()
        expect(self.page.get_by_label("All-up weight", exact=True)).to_have_value("2400")
        self.page.keyboard.press("u")  # undo survives the reload
        expect(self.page.get_by_label("All-up weight", exact=True)).to_have_value("")

    def test_four_runs_narrow_the_band_and_the_formula_stays(self):
        self.open()

        def band_thickness() -> int:
            """How many pixels of the band stand over one speed."""
            return self.page.locator("[data-band]").evaluate(
                """path => {
                    const box = path.getBBox(), point = path.ownerSVGElement.createSVGPoint();
                    point.x = box.x + 0.45 * box.width;
                    let inside = 0;
                    for (point.y = box.y; point.y < box.y + box.height; point.y++) inside += path.isPointInFill(point);
                    return inside;
                }"""
            )

        self.settled()
        wide = band_thickness()
        self.page.get_by_role("button", name="add a run").click()
        for out, back, watts in (
            ("2.8", "2.4", "150"),
            ("3,6", "3.2", "290"),
            ("4.3", "3.9", "510"),
            ("5.1", "4.7", "1010"),
        ):
            form = self.page.get_by_role("form", name="New run")
            form.get_by_label("Speed, out", exact=True).fill(out)
            form.get_by_label("Speed, back", exact=True).fill(back)
            form.get_by_label("Battery watts", exact=True).fill(watts)
            form.get_by_label("Battery watts", exact=True).press("Enter")
            expect(form.get_by_label("Battery watts", exact=True)).to_have_value("")
        expect(self.page.locator("[data-run]")).to_have_count(4)
        expect(self.finding("Your runs set the curve")).to_be_visible()
        self.settled()
        self.assertLess(band_thickness(), 0.4 * wide)
        expect(self.page.locator("[data-formula]")).to_have_count(1)
        self.page.get_by_label("Run 2, battery watts", exact=True).fill("five")
        expect(self.page.get_by_role("alert")).to_contain_text("not a number")
        self.page.get_by_label("Run 2, battery watts", exact=True).press("Escape")
        self.page.get_by_role("button", name="Remove run 4").click()
        expect(self.page.locator("[data-run]")).to_have_count(3)

    def test_a_broken_field_keeps_its_text_and_says_what_is_accepted(self):
        self.open()
        before = self.value("days_run_sun")
        self.fold("Inboard")
        table = (
            ("All-up weight", "90000", "kg or less for this length and beam"),
            ("All-up weight", "1,240", "Write it without the comma"),
            ("Waterline length", "six", "is not a number"),
            ("Beam at the waterline", "-2", "more than 0.15 m"),
            ("Watts on its label", "0", "more than 0 W"),
            ("Battery to thrust", "120", "0.9"),
        )
        for label, text, message in table[:5]:
            self.fill(label, text)
            field = self.page.get_by_label(label, exact=True)
            expect(field).to_have_attribute("aria-invalid", "true")
            alert = self.page.locator(f"[id='{field.get_attribute('aria-describedby')}']")
            expect(alert).to_contain_text(message)
            expect(field).to_have_value(text)
        self.assertEqual(self.value("days_run_sun"), before)
        self.page.reload()
        self.settled()
        expect(self.page.get_by_label("Waterline length", exact=True)).to_have_value("six")
        expect(self.page.get_by_label("Waterline length", exact=True)).to_have_attribute(
            "aria-invalid", "true"
        )
        self.page.get_by_label("Waterline length", exact=True).press("Escape")
        expect(self.page.get_by_label("Waterline length", exact=True)).to_have_value("6.7")

    def test_the_planned_speed_is_dragged_by_keyboard_and_a_speed_beyond_the_drive_is_said(self):
        self.open()
        slider = self.page.get_by_role("slider", name="Planned speed")
        slider.focus()
        for _ in range(3):
            slider.press("ArrowRight")
        expect(slider).to_have_attribute("aria-valuenow", "3.9")
        self.page.keyboard.press("5")
        self.fill("Speed", "7")
        expect(self.finding("7.0 kn is beyond this drive")).to_be_visible()
        expect(self.page.get_by_label("Speed", exact=True)).to_have_value("7")


class DayWalk(BrowserTest):
    def test_motoring_hours_dragged_by_keyboard_change_the_bank_at_dusk(self):
        self.open()
        self.page.keyboard.press("5")
        self.settled()
        before = self.value("bank_at_dusk")
        edge = self.page.get_by_role("slider", name="Motoring spell 2 ends")
        for _ in range(6):
            edge.focus()
            edge.press("ArrowLeft")
        expect(self.page.get_by_label("Spell 2 to", exact=True)).to_have_value("18:20")
        self.saved()
        self.assertGreater(self.value("bank_at_dusk"), before)
        self.fill("Spell 2 to", "25:00")
        expect(self.page.get_by_role("alert")).to_contain_text("not a time of day")
        self.page.get_by_label("Spell 2 to", exact=True).press("Escape")
        self.page.get_by_role("button", name="use the useful sun").click()
        expect(self.page.get_by_text("The useful sun, ")).to_be_visible()
        self.page.keyboard.press("]")
        expect(self.page).to_have_url(re.compile("at="))

    def test_sky_place_bank_panels_and_house_change_the_day(self):
        self.open()
        self.page.keyboard.press("5")
        start = self.value("days_run_sun")
        self.page.get_by_role("button", name="overcast", exact=True).click()
        self.saved()
        self.assertLess(self.value("days_run_sun"), start)
        self.fold("Panels")
        many = self.page.get_by_label("How many", exact=True).first
        many.fill("8")
        many.press("Enter")
        self.saved()
        more = self.value("days_run_sun")
        for _ in range(3):
            self.page.get_by_role("button", name="remove these").first.click()
        expect(self.page.locator("[data-cell=first_panel]")).to_be_visible()
        for _ in range(3):
            self.page.get_by_role("button", name="Undo").click()
        expect(self.page.locator("[data-cell=days_run_sun]")).to_be_visible()
        self.fold("House")
        self.page.get_by_role("button", name="add a load").click()
        self.fill("Load 4, watts", "100")
        self.saved()
        self.assertLess(self.value("days_run_sun"), more)
        self.fold("Place")
        self.page.get_by_label("Known place", exact=True).select_option(label="Tamarin Cays")
        expect(self.page.get_by_text("Clock: America/")).to_be_visible()
        self.fill("Latitude, north +", "95")
        expect(self.page.get_by_role("alert")).to_contain_text("90° or less".replace("°", " °"))
        self.fold("Bank")
        self.page.get_by_role("button", name="no bank").click()
        expect(self.page.locator("[data-cell=days_distance]")).to_be_visible()

    def test_polar_night_is_drawn(self):
        self.open()
        self.page.keyboard.press("5")
        self.fold("Place")
        self.fill("Latitude, north +", "78")
        self.page.get_by_label("Date", exact=True).fill("2027-12-21")
        expect(self.finding("The sun does not rise on this day")).to_be_visible()
        self.assertIn("0.0", self.cell("sun_only_steady"))


class BoatsWalk(BrowserTest):
    demo = ("whimbrel.json", "grebe.json")

    def menu(self, item: str) -> None:
        self.page.get_by_role("button", name="Boat:").click()
        self.page.get_by_role("menuitem", name=item).click()

    def test_keep_a_variant_and_compare(self):
        self.open()
        self.page.keyboard.press("k")
        self.page.get_by_label("Call it", exact=True).fill("light")
        self.page.get_by_role("button", name="Keep and compare").click()
        expect(self.page.get_by_role("button", name="compared with: light")).to_be_visible()
        self.fill("All-up weight", "2600")
        expect(self.page.locator("[data-cell=days_run_sun]")).to_contain_text("−")
        self.page.get_by_role("button", name="compared with: light").click()
        self.page.get_by_role("menuitem", name="Work on light").click()
        self.settled()
        expect(self.page.get_by_label("All-up weight", exact=True)).to_have_value("")

    def test_start_switch_rename_duplicate_delete_and_bring_back(self):
        self.open()
        self.menu("Little Grebe")
        expect(self.page.locator("[data-cell=range_at_speed]")).to_be_visible()
        self.menu("New boat …")
        self.page.get_by_role("dialog").get_by_label("Name").fill("Dunlin")
        self.page.get_by_role("button", name="Fin-keel yacht", exact=True).click()
        self.page.get_by_role("button", name="Start", exact=True).click()
        expect(self.page).to_have_title("Dunlin · Parhelion")
        self.fill("Name", "Sanderling")
        expect(self.page).to_have_title("Sanderling · Parhelion")
        self.saved()
        self.menu("Duplicate")
        expect(self.page).to_have_title("Sanderling, copy · Parhelion")
        self.menu("Delete")
        expect(self.page.get_by_text("Sanderling, copy is deleted.")).to_be_visible()
        self.page.get_by_role("button", name="Undo", exact=True).last.click()
        expect(self.page).to_have_title("Sanderling, copy · Parhelion")

    def test_download_and_open_again_and_refuse_what_is_no_boat(self):
        self.open()
        self.page.get_by_role("button", name="Boat:").click()
        with self.page.expect_download() as download:
            self.page.get_by_role("menuitem", name="Download the design").click()
        with tempfile.TemporaryDirectory() as folder:
            kept = Path(folder) / "whimbrel.parhelion.json"
            download.value.save_as(kept)
            document = json.loads(kept.read_text())
            self.assertEqual(read_boat(kept.read_bytes()).name, "Whimbrel")
            kept.write_text(json.dumps({**document, "name": "Whimbrel again"}))
            self.page.get_by_label("Design file", exact=True).set_input_files(kept)
            expect(self.page).to_have_title("Whimbrel again · Parhelion")
            for content, message in (("{ nope", "line 1, column 3"), ("{}", "not a boat design"),
                                     (json.dumps({**document, "schema_version": 99}), "version 99")):  # fmt: skip
                kept.write_text(content)
                self.page.get_by_label("Design file", exact=True).set_input_files(kept)
                expect(self.page.get_by_text(message)).to_be_visible()
        expect(self.page).to_have_title("Whimbrel again · Parhelion")

    def test_two_tabs_never_overwrite_each_other(self):
        self.open()
        other = self.open(
            self.page.url.removeprefix(self.live_server_url), self.watched(self.context.new_page())
        )
        self.fill("Beam at the waterline", "1.8")
        self.saved()
        expect(self.page.get_by_label("Beam at the waterline", exact=True)).to_have_value("1.8")
        self.page.wait_for_timeout(900)
        self.fill("All-up weight", "1500", other)
        dialog = other.get_by_role("alertdialog")
        expect(dialog).to_contain_text("Changed in another window")
        expect(dialog).to_contain_text("Hull, beam at the waterline")
        stored = Variant.objects.get(is_working=True, document__name="Whimbrel")
        self.assertEqual(
            (stored.document["hull"]["beam_m"], stored.document["hull"]["displacement_kg"]), (1.8, None)
        )
        other.get_by_role("button", name="Take the other").click()
        expect(other.get_by_label("Beam at the waterline", exact=True)).to_have_value("1.8")
        other.get_by_role("button", name="Undo").click()  # what was typed here is one undo away
        expect(other.get_by_label("All-up weight", exact=True)).to_have_value("1500")

    def test_keeping_mine_saves_over_the_other(self):
        self.open()
        path = self.page.url.removeprefix(self.live_server_url)
        other = self.open(path, self.watched(self.context.new_page()))
        self.fill("Beam at the waterline", "1.8")
        self.page.wait_for_timeout(900)
        self.saved()
        self.fill("All-up weight", "1500", other)
        other.get_by_role("button", name="Keep mine").click()
        expect(other.get_by_role("button", name="Boat:")).to_contain_text("· saved")
        other.wait_for_timeout(900)
        stored = Variant.objects.get(is_working=True, document__name="Whimbrel").document["hull"]
        self.assertEqual((stored["beam_m"], stored["displacement_kg"]), (1.62, 1500))

    def test_units_are_remembered_and_turn_every_number(self):
        self.open()
        metres = self.value("days_run_sun")
        self.page.get_by_role("button", name="Boat:").click()
        for unit in ("km/h", "lb", "ft"):
            self.page.get_by_role("menuitemradio", name=unit).click()
        self.page.keyboard.press("Escape")
        self.assertAlmostEqual(self.value("days_run_sun"), metres * 1.852, delta=0.15)
        expect(self.page.get_by_label("Waterline length", exact=True)).to_have_value("21.98")
        self.page.reload()
        self.settled()
        expect(self.page.get_by_label("Waterline length", exact=True)).to_have_value("21.98")
        self.fill("Waterline length", "22")
        self.saved()
        self.page.wait_for_timeout(900)
        self.saved()
        stored = Variant.objects.get(is_working=True, document__name="Whimbrel")
        self.assertAlmostEqual(stored.document["hull"]["waterline_length_m"], 22 * 0.3048)


class EveryView(BrowserTest):
    def test_views_fit_their_screens_and_pass_the_accessibility_rules(self):
        self.open()
        work = self.page.url.rsplit("/", 1)[1]
        for station in ("hull", "day"):
            self.page.set_viewport_size({"width": 1280, "height": 800})
            self.open(f"/{station}/{work}")
            for theme in ("dusk", "night", "daylight"):
                self.page.evaluate("theme => document.documentElement.dataset.theme = theme", theme)
                with self.subTest(theme=theme, station=station):
                    self.accessible()
            for width, height in ((1280, 800), (1024, 768), (390, 844)):
                self.page.set_viewport_size({"width": width, "height": height})
                self.page.wait_for_timeout(200)
                with contextlib.suppress(
                    TimeoutError
                ):  # pictures follow the width a little later; judged below
                    fits = f"document.documentElement.scrollWidth <= {width}"
                    self.page.wait_for_function(fits, timeout=20_000)
                size = self.page.evaluate(
                    "[document.documentElement.scrollWidth, document.documentElement.scrollHeight]"
                )
                self.assertLessEqual(size[0], width)
                if width == 1280:
                    self.assertLessEqual(size[1], height)
        self.page.set_viewport_size({"width": 390, "height": 844})
        expect(self.page.locator("[data-cell=held_back_by]")).to_be_hidden()
        self.page.get_by_role("button", name="Show all answers").click()
        expect(self.page.locator("[data-cell=held_back_by]")).to_be_visible()

    def test_every_answer_opens_its_why(self):
        self.open()
        for key in ("sun_only_steady", "days_run_sun", "bank_at_dusk", "refill", "held_back_by"):
            self.page.locator(f"[data-cell={key}]").click()
            sheet = self.page.get_by_role("dialog")
            expect(sheet).to_contain_text("Method")
            expect(sheet).to_contain_text("Assumes")
            self.page.keyboard.press("Escape")

    def test_without_a_boat_there_is_one_next_step(self):
        Variant.objects.all().delete()
        from boats.models import Boat

        Boat.objects.all().delete()
        self.page.goto(self.live_server_url)
        expect(self.page.get_by_role("button", name="Start a boat")).to_be_visible()
        self.page.goto(f"{self.live_server_url}/hull/00000000-0000-0000-0000-000000000000")
        expect(self.page.get_by_role("alert")).to_contain_text("could not be opened")
