"""Walks of the Hull and the Bank: a yacht from its papers to its helm card, battery boxes to a night passage."""

from __future__ import annotations

import json
import tempfile
from pathlib import Path

from boats.models import Variant
from parhelion.balance.outlook import outlook_of
from parhelion.formats.boat_file import design_from
from parhelion.stations.bank.sizing import SizingAsk, sizes
from parhelion.stations.hull.helm import helm_card

from e2e.base import BrowserTest, expect

AFTERNOON = "speed out (kn);back;watts\n2,5;2,1;290\n3,4;3,0;600\n4,3;3,9;1 kW\n5,0;4,6;2050\nfast;4;100"


class YachtWalk(BrowserTest):
    demo = ("sabine.json",)

    def stored(self, name: str):
        self.page.wait_for_timeout(900)
        self.saved()
        return design_from(Variant.objects.get(is_working=True, document__name=name).document)

    def test_from_the_papers_through_this_afternoons_runs_to_the_helm_card(self):
        self.open()
        dialog = self.new_boat("Long-keel yacht", "Petrel")
        dialog.get_by_role("button", name="Start", exact=True).click()
        expect(self.page).to_have_title("Petrel · Parhelion")
        self.fill("Waterline length", "7.4")
        self.fill("Beam at the waterline", "2.5")
        self.fold("Load")
        self.fill("Boat, empty", "4300")
        self.fill("Crew", "160")
        self.fold("Motor")
        self.page.get_by_label("Its label gives", exact=True).select_option(label="watts at the shaft")
        self.fill("Watts on its label", "8000")
        self.page.get_by_role("button", name="enter the propeller").click()
        self.fill("Diameter", "0.42")
        self.fill("Pitch", "1.4")
        alert = self.page.get_by_role("alert")
        expect(alert).to_contain_text("for this diameter")
        self.fill("Pitch", "0.3")
        expect(self.page.locator("[data-chain]")).to_contain_text("propeller")

        self.page.get_by_role("button", name="paste").click()
        paste = self.page.get_by_role("dialog")
        paste.get_by_label("Runs to paste").fill(AFTERNOON)
        expect(paste.get_by_role("alert")).to_contain_text("Line 6: “fast” is not a number")
        paste.get_by_role("button", name="Add 4 runs").click()
        expect(self.page.locator("[data-run]")).to_have_count(4)
        expect(self.finding("Your runs set the curve")).to_be_visible()
        expect(self.page.locator("[data-form]")).to_have_count(1)
        expect(self.page.get_by_text("Stream taken out: up to 0.2")).to_be_visible()
        with self.page.expect_download() as table:
            self.page.get_by_role("button", name="save as CSV").click()
        self.assertIn("3.4,3,600", Path(table.value.path()).read_text())

        self.page.get_by_role("tab", name="Range").click()
        expect(self.page.locator("[data-reach=dark]")).to_be_visible()
        chart = self.page.get_by_role("group", name="Range over speed")
        chart.press("ArrowRight")
        expect(chart).to_contain_text("the bank alone:")
        self.page.get_by_role("tab", name="Helm card").click()
        design = self.stored("Petrel")
        self.assertEqual((design.displacement_kg > 4460, design.hull.displacement_kg), (True, None))
        card = helm_card(outlook_of(design))
        rows = self.page.get_by_role("article", name="Helm card").locator("tbody tr")
        expect(rows).to_have_count(len(card.rows))
        for row, expected in zip(rows.all_inner_texts(), card.rows, strict=True):
            self.assertIn(f"{expected.power_w:,.0f}" if expected.power_w < 9999.5 else "kW", row)
        self.page.emulate_media(media="print")
        expect(self.page.locator(".course")).to_be_hidden()
        expect(self.page.locator(".bench")).to_be_hidden()
        expect(rows.first).to_be_visible()
        self.page.emulate_media(media="screen")
        with self.page.expect_download() as paper:
            self.page.get_by_role("button", name="Save as PDF").click()
        self.assertTrue(Path(paper.value.path()).read_bytes().startswith(b"%PDF"))
        self.assertEqual(paper.value.suggested_filename, "petrel-helm-card.pdf")
        self.page.reload()
        expect(self.page.get_by_role("article", name="Helm card")).to_be_visible()

    def test_wind_a_tow_and_another_push(self):
        self.open()
        self.fold("Wind, waves, tow")
        self.fill("Wind", "14")
        self.fill("Off the bow", "0")
        self.fill("Waves", "0.3")
        self.page.get_by_role("button", name="take something in tow").click()
        costs = self.page.locator("[data-costs]")
        for name in ("wind", "waves ahead", "the tow"):
            expect(costs).to_contain_text(name)
        self.page.get_by_role("button", name="cast off").click()
        expect(costs).not_to_contain_text("the tow")
        self.fold("Other push")
        self.page.get_by_role("button", name="remove").click()
        expect(self.finding("One motor, no other push")).to_be_visible()
        self.page.get_by_role("button", name="add oars").click()
        expect(self.finding("If the motor fails, the oars makes")).to_be_visible()


class MatchWalk(BrowserTest):
    def test_the_better_pitch_is_tried_and_taken_back(self):
        self.open()
        self.page.get_by_role("tab", name="Match").click()
        expect(self.page.locator("[data-open-water=efficiency]")).to_be_visible()
        before = self.value("days_run_sun")
        self.page.get_by_role("button", name="try it").click()
        expect(self.page.get_by_text("That is what you have")).to_be_visible()
        self.assertGreater(self.value("days_run_sun"), before)
        self.page.get_by_role("button", name="Undo").click()
        expect(self.page.get_by_role("button", name="try it")).to_be_visible()
        self.fold("Inboard")
        self.fill("Current limit", "40")
        expect(self.finding("The motor labours: 40")).to_be_visible()
        self.page.get_by_role("button", name="propeller not known").click()
        self.page.get_by_role("button", name="Start from a usual propeller").click()
        expect(self.page.locator("[data-open-water=kt]")).to_be_visible()


class BankWalk(BrowserTest):
    demo = ("sabine.json",)

    def test_from_the_battery_boxes_to_the_size_for_a_night(self):
        self.open()
        self.page.keyboard.press("2")
        expect(self.page.locator("[data-tank]")).to_have_count(2)
        self.fill("Volts of one unit", "12.8")
        self.fill("Amp-hours of one", "150")
        self.fill("In series", "4")
        self.fill("In parallel", "0")
        expect(self.page.get_by_role("alert")).to_contain_text("1 or more")
        self.fill("In parallel", "2")
        expect(self.page.locator("[data-sum]")).to_contain_text("51.2")
        expect(self.page.locator("[data-sum]")).to_contain_text("300")
        self.fill("Usable depth", "600")
        expect(self.page.get_by_role("alert")).to_contain_text("100 % or less")
        self.fill("Usable depth", "85")
        self.fold("Age, mass, place")
        self.fill("Sold as, amp-hours", "1200")
        expect(self.finding("1,200 Ah adds the amp-hours up in series")).to_be_visible()
        self.fill("Sold as, amp-hours", "")
        self.fold("Sizing")
        self.fill("At a speed of", "3.5")
        night = self.page.locator("[data-size=night]")
        expect(night).to_contain_text("a night under way at 3.5")
        self.page.wait_for_timeout(900)
        self.saved()
        design = design_from(Variant.objects.get(is_working=True).document)
        ask = SizingAsk(hours=3, speed_mps=3.5 * 1852 / 3600, grey_days=3)
        size = next(s for s in sizes(outlook_of(design), ask) if s.key == "night")
        expect(night).to_contain_text(f"{size.energy_wh / 1000:.1f}\u00a0kWh")
        self.fill("Hours under way", "900")
        expect(self.page.get_by_role("alert")).to_contain_text("0.1 to 71")

    def test_loads_converters_and_a_bank_that_is_taken_out(self):
        self.open()
        self.page.keyboard.press("2")
        self.page.get_by_label("Add a usual load").select_option(label="Induction plate, 1400 W")
        expect(self.page.get_by_label("Load 4, through an inverter")).to_be_checked()
        expect(self.page.locator("[data-tank=house] [data-take]")).to_have_count(4)
        self.page.get_by_label("Load 4, bank").select_option(label="Traction bank")
        expect(self.page.locator("[data-tank=house] [data-take]")).to_have_count(3)
        expect(self.page.locator("[data-tank=bank] [data-take]")).to_have_count(2)
        self.fold("Between the banks")
        self.page.get_by_role("button", name="remove this converter").click()
        expect(self.page.get_by_role("button", name="converter back")).to_be_visible()
        self.fold("House bank")
        self.page.get_by_role("button", name="remove this bank").click()
        expect(self.page.locator("[data-tank]")).to_have_count(1)
        self.fold("Age, mass, place")
        self.page.get_by_role("button", name="remove this bank").click()
        expect(self.page.get_by_text("No bank aboard")).to_be_visible()
        self.page.get_by_role("button", name="Add a bank").click()
        expect(self.page.locator("[data-tank]")).to_have_count(1)

    def test_the_new_views_are_accessible_and_their_pictures_fail_well(self):
        self.open()
        for path in ("2", "1"):
            self.page.keyboard.press(path)
            self.settled()
            self.undimmed()
            self.accessible()
        for view in ("Range", "Match", "Helm card"):
            self.page.get_by_role("tab", name=view).click()
            self.page.wait_for_timeout(500)
            self.accessible()
        self.page.route("**/api/live", lambda route: route.fulfill(status=500, body="{}"))
        self.page.keyboard.press("2")
        self.page.get_by_label("In parallel", exact=True).first.fill("3")
        expect(self.page.get_by_role("alert").first).to_be_visible()
        self.page.unroute("**/api/live")


class FileOfAnOlderVersion(BrowserTest):
    def test_it_opens_as_the_boat_it_was(self):
        old = Path(__file__).resolve().parents[2] / "core" / "tests" / "references" / "boat-v1.json"
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "old.json"
            document = json.loads(old.read_text())
            path.write_text(json.dumps({**document, "name": "Old Whimbrel"}))
            self.open()
            self.page.get_by_role("button", name="Boat:").click()
            self.page.get_by_label("Design file", exact=True).set_input_files(str(path))
            expect(self.page).to_have_title("Old Whimbrel · Parhelion")
        self.page.keyboard.press("2")
        expect(self.page.locator("[data-sum]")).to_contain_text("25.6")
