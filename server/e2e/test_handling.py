"""Direct handling, keys, failures and what survives: the parts of a page that only a browser has."""

from __future__ import annotations

import io
import json
import re
import tempfile
from pathlib import Path

from parhelion.cli import main as parhelion
from parhelion.units import M_PER_NAUTICAL_MILE, MPS_PER_KNOT
from playwright.sync_api import Locator, Route

from e2e.base import BrowserTest, expect


class Handling(BrowserTest):
    def drag(self, handle: Locator, by: float) -> None:
        """Take a handle with the mouse and move it sideways, in pixels."""
        box = handle.bounding_box()
        x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
        mouse = self.page.mouse
        mouse.move(x, y)
        mouse.down()
        for share in (0.3, 0.7, 1.0):
            mouse.move(x + share * by, y)
        mouse.up()

    def test_the_planned_speed_the_hours_and_the_sun_are_dragged(self):
        self.open()
        self.drag(self.page.get_by_role("slider", name="Planned speed"), -90)
        self.page.keyboard.press("5")
        slower = float(self.page.get_by_label("Speed", exact=True).input_value())
        self.assertLess(slower, 2.8)
        ends = self.page.get_by_role("slider", name="Motoring spell 2 ends")
        self.drag(ends, -60)
        text = self.page.get_by_label("Spell 2 to", exact=True).input_value()
        self.assertTrue("16:00" < text < "17:30", text)
        sun = self.page.get_by_role("slider", name="Time of day")
        self.drag(sun, 120)
        expect(self.page).to_have_url(re.compile(r"at=1[78]"))
        now = self.page.url.rsplit("at=", 1)[1][:2]
        expect(sun).to_have_attribute("aria-valuetext", re.compile(f"^{now}"))
        self.page.get_by_role("button", name="Undo").click()
        expect(self.page.get_by_label("Spell 2 to", exact=True)).to_have_value("19:20")

    def test_a_whole_spell_is_moved(self):
        self.open()
        self.page.keyboard.press("5")
        self.settled()
        start = self.page.get_by_role("slider", name="Motoring spell 1 starts").bounding_box()
        mouse = self.page.mouse
        mouse.move(start["x"] + 50, start["y"] + 18)
        mouse.down()
        mouse.move(start["x"] + 20, start["y"] + 18, steps=6)
        mouse.up()
        begin, end = (
            self.page.get_by_label(f"Spell 1 {edge}", exact=True).input_value() for edge in ("from", "to")
        )
        self.assertLess(begin, "08:00")
        self.assertEqual(int(end[:2]) * 60 + int(end[3:]) - int(begin[:2]) * 60 - int(begin[3:]), 220)

    def test_the_curve_is_read_from_the_keyboard(self):
        self.open()
        chart = self.page.get_by_role("group", name=re.compile("Battery watts over speed"))
        chart.focus()
        chart.press("ArrowRight")
        first = self.page.get_by_text(re.compile(r"^\d\.\d\skn takes")).inner_text()
        chart.press("PageUp")
        expect(self.page.get_by_text(re.compile(r"^\d\.\d\skn takes"))).not_to_have_text(first)

    def test_keys_turn_the_boat_and_can_be_turned_off(self):
        self.open()
        self.page.keyboard.press("5")
        self.fold("Place")
        self.page.locator("main.picture").click(position={"x": 3, "y": 3})
        for _ in range(3):
            self.page.keyboard.press(".")
        expect(self.page.get_by_label("Heading; empty: any", exact=True)).to_have_value("15")
        self.page.keyboard.press(",")
        expect(self.page.get_by_label("Heading; empty: any", exact=True)).to_have_value("10")
        name = self.page.get_by_label("Called", exact=True)
        name.fill("k15u?")  # no key of the frame fires while typing
        name.press("Enter")
        expect(self.page).to_have_url(re.compile("/day/"))
        self.page.locator("main.picture").click(position={"x": 3, "y": 3})
        self.page.keyboard.press("?")
        self.page.get_by_label("Keys are on", exact=True).uncheck()
        self.page.get_by_role("button", name="Close").click()
        self.page.keyboard.press("1")
        self.page.wait_for_timeout(200)
        expect(self.page).to_have_url(re.compile("/day/"))
        self.page.get_by_role("link", name="Hull").click()
        expect(self.page).to_have_url(re.compile("/hull/"))
        self.page.go_back()
        expect(self.page).to_have_url(re.compile("/day/"))

    def test_a_decimal_comma_and_empty_fields_mean_what_people_mean(self):
        self.open()
        self.fill("Waterline length", "6,5")
        expect(self.page.get_by_label("Waterline length", exact=True)).to_have_value("6.5")
        weight = self.page.get_by_label("All-up weight", exact=True)
        expect(weight).to_have_attribute("placeholder", "1260")  # its parts added up
        self.fill("All-up weight", "1500")
        self.fill("All-up weight", "")
        expect(weight).to_have_attribute("placeholder", "1260")
        self.fill("Beam at the waterline", "")
        expect(self.page.get_by_role("alert")).to_contain_text("needs a number")
        self.page.get_by_label("Beam at the waterline", exact=True).press("Escape")
        expect(self.page.get_by_label("Beam at the waterline", exact=True)).to_have_value("1.62")
        weight.press("ArrowUp")
        expect(weight).to_have_value("1270.911")


class Failing(BrowserTest):
    def test_a_picture_that_fails_says_so_and_can_be_tried_again(self):
        broken = True

        def answer(route: Route) -> None:
            """The picture alone fails."""
            reply = route.fetch()
            failed = {
                "part": "failed",
                "of": "study",
                "index": 0,
                "errors": [{"code": "x", "message": "Down."}],
            }
            lines = reply.text().splitlines()
            if broken:
                lines = [json.dumps(failed) if '"part":"study"' in line else line for line in lines]
            route.fulfill(response=reply, body="\n".join([*lines, ""]))

        self.page.route("**/api/live", answer)
        self.open()
        expect(self.page.get_by_role("alert")).to_contain_text("could not be computed")
        self.assertGreater(self.value("days_run_sun"), 0)  # the rest of the page goes on
        broken = False
        self.page.get_by_role("button", name="Try again").click()
        expect(self.page.locator("[data-curve]")).to_be_visible()

    def test_an_edit_made_while_the_disk_is_full_or_the_server_away_is_saved_when_it_is_back(self):
        self.open()
        full, away = True, True
        problem = {"code": "disk_full", "message": "The disk is full: nothing more can be saved.", "accepted": "free some space"}  # fmt: skip

        def answer(route: Route) -> None:
            if full:
                route.fulfill(status=503, json={"errors": [problem]})
            elif away:
                route.abort()
            else:
                route.continue_()

        self.page.route("**/api/variants/*", answer)
        self.fill("Beam at the waterline", "1.7")
        header = self.page.get_by_role("button", name="Boat:")
        expect(header).to_contain_text("not saved yet: the disk is full, tried again every")
        expect(self.page.get_by_text("What helps: free some space.")).to_be_visible()
        full = False
        expect(header).not_to_contain_text("the disk is full")
        expect(header).to_contain_text("not saved yet")
        expect(self.page.get_by_label("Beam at the waterline", exact=True)).to_have_value("1.7")
        away = False
        expect(self.page.get_by_role("button", name="Boat:")).to_contain_text("saved", timeout=15_000)
        self.page.wait_for_timeout(5_500)
        self.saved()
        self.page.reload()
        self.settled()
        expect(self.page.get_by_label("Beam at the waterline", exact=True)).to_have_value("1.7")


class SameNumbers(BrowserTest):
    demo = ("sabine.json",)

    def test_the_terminal_says_what_the_rail_says(self):
        """The downloaded file through the command line, against the rail of the same boat."""
        self.open()
        self.fill("All-up weight", "4700")
        self.saved()
        self.page.wait_for_timeout(900)
        self.page.get_by_role("button", name="Boat:").click()
        with self.page.expect_download() as download:
            self.page.get_by_role("menuitem", name="Download the design").click()
        out = io.StringIO()
        with tempfile.TemporaryDirectory() as folder:
            kept = Path(folder) / "boat.json"
            download.value.save_as(kept)
            self.assertEqual(parhelion(["answers", str(kept), "--json"], out, io.StringIO()), 0)
        found = json.loads(out.getvalue())
        self.page.keyboard.press("Escape")
        self.assertAlmostEqual(
            self.value("range_at_speed"),
            found["range_at_speed"]["distance_m"] / M_PER_NAUTICAL_MILE,
            delta=0.051,
        )
        self.assertAlmostEqual(self.value("refill"), found["refill"]["from_reserve_days"], delta=0.051)
        self.assertAlmostEqual(
            self.value("bank_at_dusk"), 100 * found["bank_at_dusk"]["soc_frac"], delta=0.51
        )
        self.assertAlmostEqual(
            self.value("sun_only_steady"), found["sun_only_steady"]["speed_mps"] / MPS_PER_KNOT, delta=0.051
        )


class FailsAlone(BrowserTest):
    def test_a_station_that_does_not_arrive_says_so_and_the_others_go_on(self):
        self.open()
        tried: list[str] = []

        def gone(route: Route) -> None:
            tried.append(route.request.url)
            route.abort()

        self.page.route("**/assets/YearStation-*.js", gone)
        self.page.get_by_role("link", name="Year").click()
        for _ in range(200):  # the page says so, reloads by itself, and asks once more
            if len(tried) > 1:
                break
            self.page.wait_for_timeout(200)
        expect(self.page.get_by_role("heading", name="Year cannot be shown")).to_be_visible()
        self.settled()
        self.page.wait_for_timeout(500)
        self.assertEqual(len(tried), 2)  # once more after the one reload, and no more
        self.page.get_by_role("link", name="Day").click()
        expect(self.page.get_by_text("Motoring hours")).to_be_visible()
        self.page.unroute("**/assets/YearStation-*.js")
        self.page.get_by_role("link", name="Year").click()
        self.page.get_by_role("button", name="Try again").click()
        expect(self.page.get_by_role("tab", name="The year", exact=True)).to_be_visible()
        self.errors.clear()  # the browser's own word for the part that did not arrive
