"""The passage in the browser: to the island and home, through a lock, a stream that turns, another hour to leave."""

from __future__ import annotations

import re
import tempfile
from pathlib import Path

from e2e.base import BrowserTest, expect


class PassageTest(BrowserTest):
    demo = ("sabine.json", "fulmar.json", "whimbrel.json")

    def boat(self, name: str) -> None:
        page = self.page
        self.open()
        page.get_by_role("button", name="Boat:").click()
        page.get_by_role("menuitem", name=name).click()
        expect(page.get_by_role("button", name=f"Boat: {name}")).to_be_visible()
        expect(page.get_by_role("menu")).to_have_count(0)
        page.keyboard.press("7")
        page.locator("[data-ribbon] svg").wait_for()
        self.settled()

    def test_to_the_island_and_home_by_four_under_broken_cloud(self) -> None:
        page = self.page
        self.boat("Fulmar")
        expect(page.locator("[data-cell=arrives] [data-value]")).to_have_text(re.compile(r"\d\d:\d\d"))
        page.get_by_label("In by", exact=True).fill("16:00")
        page.get_by_label("In by", exact=True).press("Enter")
        page.get_by_label("Leaves at", exact=True).fill("11:00")
        page.get_by_label("Leaves at", exact=True).press("Enter")
        expect(self.finding("In at")).to_be_visible()
        page.locator("[data-leave] [role=button]").nth(17).click()  # half past eight
        expect(page.get_by_label("Leaves at", exact=True)).to_have_value("08:30")
        expect(self.finding("Above the reserve at Kelp Quay on")).to_be_visible()
        page.get_by_role("tab", name="Ways to go").click()
        expect(page.locator("[data-sure]")).to_contain_text("of 201 such days")
        page.get_by_role("button", name="earliest").click()
        expect(page.locator("[data-way=earliest]")).to_contain_text("as set")
        page.keyboard.press("u")
        expect(page.locator("[data-way=speed]")).to_contain_text("as set")
        self.accessible()

    def test_up_the_sound_with_the_tide(self) -> None:
        page = self.page
        self.boat("Sabine")
        expect(page.locator("[data-mark=gate]")).to_have_count(2)
        page.get_by_role("button", name="Tide").click()
        page.get_by_label("High water", exact=True).fill("18:00")
        page.get_by_label("High water", exact=True).press("Enter")
        expect(self.finding("She waits")).to_be_visible()
        page.get_by_role("button", name=re.compile("2 Holm Reach")).click()
        page.get_by_label("At its strongest", exact=True).fill("9")
        page.get_by_label("At its strongest", exact=True).press("Enter")
        expect(page.get_by_label("At its strongest", exact=True)).to_have_value("9")
        page.get_by_role("tab", name="Mark by mark").click()
        expect(page.locator("[data-marks] tbody tr")).to_have_count(7)
        self.accessible()

    def test_a_passage_is_begun_leg_by_leg_and_a_lock_is_waited_at(self) -> None:
        page = self.page
        self.open()
        page.get_by_role("button", name="Boat:").click()
        page.get_by_role("menuitem", name="New boat").click()
        dialog = page.get_by_role("dialog")
        dialog.get_by_role("button", name="Launch", exact=True).click()
        dialog.get_by_role("button", name="Start", exact=True).click()
        expect(dialog).to_have_count(0)
        self.settled()
        page.keyboard.press("7")
        page.get_by_role("button", name="plan a passage").click()
        page.locator("[data-ribbon] svg").wait_for()
        page.get_by_role("button", name="add a leg").click()
        rows = page.locator("[data-leg]")
        expect(rows).to_have_count(2)
        rows.nth(0).get_by_role("button").first.click()
        page.get_by_label("There", exact=True).select_option("lock")
        page.get_by_label("Stop there", exact=True).fill("0.5")
        page.get_by_label("Stop there", exact=True).press("Enter")
        page.get_by_label("Course", exact=True).fill("400")
        page.get_by_label("Course", exact=True).press("Enter")
        expect(page.get_by_role("alert").first).to_contain_text("360")
        page.get_by_label("Course", exact=True).press("Escape")
        expect(page.locator("[data-mark=lock]").first).to_be_visible()
        expect(self.finding("A computed arrival is no reason to go")).to_be_visible()
        page.get_by_role("tab", name="Chart").click()
        page.locator("[data-chart] svg").dblclick(position={"x": 70, "y": 160})
        expect(rows).to_have_count(3)
        expect(page.locator("[data-spot]")).to_have_count(4)

    def test_a_route_comes_from_a_file_and_goes_out_and_the_plan_is_remade_half_way(self) -> None:
        page = self.page
        self.boat("Fulmar")
        page.get_by_role("tab", name="Mark by mark").click()
        with page.expect_download() as download:
            page.get_by_role("button", name="save the way").click()
        with tempfile.TemporaryDirectory() as folder:
            kept = Path(folder) / "way.gpx"
            download.value.save_as(kept)
            kept.write_text(kept.read_text().replace("Ardo Island", "Ardo Light"))
            page.get_by_label("Route file, GPX").set_input_files(kept)
            expect(page.locator("[data-leg]").nth(1)).to_contain_text("Ardo Light")
            kept.write_text("<gpx")
            page.get_by_label("Route file, GPX").set_input_files(kept)
            expect(page.get_by_role("alert").first).to_contain_text("no GPX that can be read")
        with page.expect_download() as card:
            page.get_by_role("button", name="save the card").click()
        self.assertTrue(Path(card.value.path()).read_bytes().startswith(b"%PDF"))
        page.get_by_role("button", name="Under way").click()
        page.get_by_role("button", name="say where she is now").click()
        page.get_by_label("The meter says", exact=True).fill("40")
        page.get_by_label("The meter says", exact=True).press("Enter")
        expect(self.finding(re.compile("under the plan"))).to_be_visible()
        expect(page.locator("[data-marks] tbody tr").first).to_contain_text("here")
        page.get_by_role("tab", name="Chart").click()
        slider = page.get_by_label("Hour of the passage")
        before = page.locator("[data-at-hour]").inner_text()
        slider.press("ArrowRight")
        expect(page.locator("[data-at-hour]")).not_to_have_text(before)
        expect(page.locator("[data-reach]")).to_contain_text("more in all and she is in by")
        page.get_by_role("button", name="back to the plan from the start").click()
        expect(page.locator("[data-spot='0']")).to_contain_text("Kelp Quay")
        self.settled()
        mark = page.locator("[data-spot='1'] rect")
        held = mark.bounding_box()
        assert held is not None
        page.mouse.move(held["x"] + 6, held["y"] + 6)
        page.mouse.down()
        page.mouse.move(held["x"] + 46, held["y"] + 30, steps=4)
        page.mouse.up()
        expect(page.locator("[data-leg]").nth(0)).not_to_contain_text("225°")
