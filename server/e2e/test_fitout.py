"""The Fit-out as it is walked: connecting, a reading under the sun, used panels on the bench, the shopping list."""

from __future__ import annotations

import json
from datetime import date

from boats.actions import add_boat
from boats.models import Boat, Noted
from boats.noted import take_in
from django.conf import settings
from parhelion.begin.known import Known
from parhelion.begin.new_boat import new_boat
from parhelion.data import places
from parhelion.diagnosis.inputs import inputs_of
from parhelion.stations.fitout.now import expected_in, usual_now
from parhelion.wiring.panel_volts import panel_volts

from e2e.base import BrowserTest, expect


class FitoutWalk(BrowserTest):
    demo = ()

    def yacht(self, **said):
        """A 48 V yacht with two strings of two on her arch."""
        known = {
            "hull_type": "long_keel_yacht", "overall_m": 7.6, "weighs_kg": 3200, "motor_w": 4000, "bank_v": 51.2,
            "bank": "own", "panels": "own", "bank_ah": 200, "panel_count": 4, "panel_w": 400, "panel_place": "arch",
        }  # fmt: skip
        design = new_boat(Known(site=places()[3], date=date(2027, 7, 15), name="Merle", **{**known, **said}))
        group = design.panels[0].model_copy(update={"series": 2})
        design = design.changed(panels=(group,))
        boat = add_boat(design)
        return design, boat

    def at(self, boat: Boat, view: str = "") -> None:
        work = boat.variants.get(is_working=True).pk
        self.open(f"/fitout/{work}" + (f"?view={view}" if view else ""))
        self.page.locator("[data-view]").wait_for()

    def test_connect_a_48_volt_yacht_with_two_strings_one_reversed(self):
        design, boat = self.yacht()
        self.at(boat, "connecting")
        card = self.page.locator("[data-step]")
        expect(self.page.get_by_role("heading", name="Connecting, step 1 of")).to_be_visible()
        card.get_by_label("all open, panels covered").check()
        expect(card).to_have_attribute("data-step", "bank/bank")
        bank = design.banks[0]
        self.fill(f"{bank.name}: volts and polarity: at the posts", "53,1 V")
        expect(card.get_by_text("as it should be")).to_be_hidden()  # proved: the next step is shown
        expect(card).to_have_attribute("data-step", "fuse/bank")
        card.get_by_role("checkbox").check()
        expect(card).to_have_attribute("data-step", f"box/{design.controllers[0].id}")
        card.get_by_role("textbox").fill("53.0")
        card.get_by_role("textbox").press("Enter")
        card.get_by_role("checkbox").check()
        for used in (f"motor/{design.drives[0].id}", *(["house"] if design.loads else [])):
            expect(card).to_have_attribute("data-step", used)  # all that takes, then what gives
            card.get_by_role("checkbox").check()
        step = f"strings/{design.panels[0].id}"
        expect(card).to_have_attribute("data-step", step)
        box = inputs_of(design)[0]
        opened = expected_in(design, box, usual_now(design)).open_v
        first, second = card.get_by_role("textbox").all()
        first.fill(f"{opened:.1f}")
        first.press("Enter")
        expect(card.get_by_text("✓ as it should be")).to_be_visible()
        second.fill(f"-{opened:.1f}")
        second.press("Enter")
        expect(card.get_by_text("▲ plus and minus are swapped")).to_be_visible()
        expect(card).to_have_attribute("data-step", step)  # it goes no further
        expect(self.finding("Stern arch, string B")).to_be_visible()
        expect(self.page.locator("[data-cell=next_step]")).to_contain_text("String B")
        self.accessible()
        self.page.reload()
        self.settled()
        expect(card.get_by_text("▲ plus and minus are swapped")).to_be_visible()
        second = card.get_by_role("textbox").nth(1)
        second.fill(f"{opened:.1f}")
        second.press("Enter")
        expect(card).to_have_attribute("data-step", f"close/{design.controllers[0].id}")
        proved = 8 + bool(design.loads)
        self.assertEqual(Noted.objects.filter(kind="step", withdrawn_at=None).count(), proved)
        self.page.keyboard.press("4")  # another string: what was proved of it is open again
        self.settled()
        self.fill("In series", "4")
        self.page.wait_for_timeout(900)
        self.saved()
        self.page.keyboard.press("Escape")
        self.at(boat, "connecting")
        expect(card).to_have_attribute("data-step", step)
        expect(card.get_by_text("another wiring then").first).to_be_visible()

    def test_is_this_reading_right(self):
        design, boat = self.yacht(panel_w=300)
        self.open(f"/day/{boat.variants.get(is_working=True).pk}")
        self.page.get_by_role("button", name="Boat:").click()
        self.page.get_by_role("menuitem", name="Is this reading right?").click()
        self.page.locator("[data-view=sun]").wait_for()
        box = inputs_of(design)[0]
        watts = expected_in(design, box, usual_now(design)).watts.middle
        gauge = self.page.locator(f"[data-gauge={box.key}]")
        field = gauge.get_by_label("Watts", exact=True)
        field.fill(f"{watts:.0f} W")
        field.press("Enter")
        expect(gauge.locator("[data-verdict]")).to_contain_text("as it should")
        field.fill(f"{watts / 2:.0f}")
        field.press("Enter")
        expect(gauge.locator("[data-verdict]")).to_contain_text("string is missing")
        gauge.get_by_text("volts and amps tell more").click()
        gauge.get_by_label("The bank is full").check()
        expect(gauge.locator("[data-verdict]")).to_contain_text("nothing is wrong")
        gauge.get_by_label("The bank is full").uncheck()
        field.fill("many")
        field.press("Enter")
        expect(gauge.get_by_role("alert")).to_contain_text("not a number")
        field.press("Escape")
        self.page.get_by_role("radio", name="none").click()
        expect(gauge.locator("svg").first).to_be_visible()
        self.page.locator("[role=slider]").press("ArrowRight")
        expect(gauge.get_by_text("one reading")).to_be_visible()
        expect(field).to_have_value("")  # another minute, not yet read
        self.accessible()

    def test_readings_are_kept_while_the_server_is_away(self):
        _, boat = self.yacht()
        self.at(boat, "before")
        self.context.route("**/api/boats/*/records", lambda route: route.abort())
        self.page.get_by_label("Somebody ashore knows").check()
        expect(self.page.get_by_label("Somebody ashore knows")).to_be_checked()
        self.assertEqual(Noted.objects.count(), 0)
        self.context.unroute("**/api/boats/*/records")
        self.page.reload()
        self.settled()
        expect(self.page.get_by_label("Somebody ashore knows")).to_be_checked()
        self.page.wait_for_timeout(500)
        self.assertEqual(Noted.objects.filter(kind="tick").count(), 1)

    def test_four_used_panels_on_the_bench(self):
        design, boat = self.yacht()
        self.at(boat, "tests")
        group = design.panels[0]
        opened = panel_volts(group).open_v
        for number, share in enumerate((1.0, 1.0, 2 / 3, 0.0)):
            name = "test a panel" if number == 0 else "test another panel"
            self.page.get_by_role("button", name=name, exact=True).click()
            points = self.page.get_by_label("Volts and amps, a pair a line")
            expect(self.page.get_by_label("Which panel", exact=True)).to_have_value(f"Panel {number + 1}")
            if share == 0.0:
                points.fill("0 9,1\nmany volts")
                points.blur()
                expect(self.page.get_by_role("alert")).to_contain_text("Line 2")
                points.fill("0 9,1\n48,2 0")
            else:
                points.fill(f"0 8.9\n{opened * 0.95 * share:.1f}\t0")
            points.blur()
            self.page.get_by_label("Light on it", exact=True).fill("820")
            self.page.get_by_label("Light on it", exact=True).press("Enter")
            expect(self.page.locator("[data-found]")).to_contain_text("in full sun")
        expect(self.page.locator("[data-test]")).to_be_visible()
        self.page.get_by_role("button", name="Panel 3").click()
        expect(self.page.locator("[data-view]")).to_contain_text("two thirds")
        self.page.get_by_role("button", name="for all 4 of them").click()
        self.page.wait_for_timeout(900)
        self.saved()
        stored = boat.variants.get(is_working=True).document["panels"][0]["derate_frac"]
        self.assertLess(stored, 0.8)
        self.page.get_by_role("button", name="Undo").click()
        self.page.wait_for_timeout(900)
        self.saved()
        self.assertEqual(boat.variants.get(is_working=True).document["panels"][0]["derate_frac"], 1.0)
        self.assertEqual(Noted.objects.filter(kind="test").count(), 4)
        self.page.get_by_role("button", name="count a bank").click()
        self.fill("Counted", "150 Ah")
        expect(self.page.locator("[data-found]")).to_contain_text("of its label")
        self.page.get_by_role("button", name="try a motor").click()
        self.fill("Volts", "51")
        self.fill("Amps", "40")
        expect(self.page.locator("[data-found]")).to_contain_text("2,040 W")
        self.accessible()

    def test_what_does_it_cost_what_have_i_got_print_it(self):
        _, boat = self.yacht()
        take_in(boat, json.dumps({"schema_name": "parhelion.records", "records": []}).encode())
        self.at(boat)
        parts = self.page.locator("[data-parts]")
        left = self.value("left_to_pay")
        parts.get_by_role("button", name="Oars or paddles").click()
        bench = self.page.locator("[data-part]")
        bench.get_by_role("radio", name="aboard").click()
        bench.get_by_label("Price, each", exact=True).fill("0")
        bench.get_by_label("Price, each", exact=True).press("Enter")
        expect(self.page.locator("[data-cell=aboard]")).to_contain_text("1 of")
        self.assertLess(self.value("left_to_pay"), left)
        self.page.get_by_role("button", name="add a part").click()
        bench.get_by_label("Called", exact=True).fill("Bell")
        bench.get_by_label("Called", exact=True).press("Enter")
        bench.get_by_label("Price, each", exact=True).fill("1,900")
        bench.get_by_label("Price, each", exact=True).press("Enter")
        expect(bench.get_by_role("alert")).to_contain_text("1900 or 1.900")
        bench.get_by_label("Price, each", exact=True).fill("€ 12,50")
        bench.get_by_label("Price, each", exact=True).press("Enter")
        expect(parts.get_by_role("button", name="Bell")).to_contain_text("13")
        self.fold("Money")
        self.fill("Currency", "€")
        self.fill("Budget", "900")
        expect(
            self.finding("€ over the budget").or_(self.page.get_by_text("over the budget").first).first
        ).to_be_visible()
        expect(self.page.locator("[data-sum]")).to_contain_text("€")
        table = "name;price\nWhistle or horn;9,50\nA piano;4000\n"
        self.page.get_by_label("A price list as CSV").set_input_files(
            {"name": "prices.csv", "mimeType": "text/csv", "buffer": table.encode()}
        )
        expect(self.page.get_by_text("1 of 2 rows name a part")).to_be_visible()
        self.page.get_by_role("button", name="take these prices").click()
        expect(parts.get_by_role("button", name="Whistle or horn")).to_contain_text("10")
        for name, start in (("save as CSV", b"system,"), ("save as PDF", b"%PDF-")):
            with self.page.expect_download() as kept:
                self.page.get_by_role("button", name=name).click()
            with open(kept.value.path(), "rb") as file:
                self.assertEqual(file.read(len(start)), start)
        self.accessible()
        for width in (1024, 390):
            self.page.set_viewport_size({"width": width, "height": 800})
            self.page.wait_for_timeout(400)
            self.assertLessEqual(self.page.evaluate("document.documentElement.scrollWidth"), width)

    def test_the_demo_yacht_half_built(self):
        boat = add_boat(self.read("whimbrel"))
        take_in(boat, (settings.ROOT / "demo" / "whimbrel.records.json").read_bytes())
        self.at(boat, "connecting")
        expect(self.page.locator("[data-step]")).to_have_attribute("data-step", "strings/canopy-panels")
        expect(self.page.locator("nav").get_by_text("Fit-out").first).to_be_visible()
        expect(self.finding("Canopy, string B: 41.8")).to_be_visible()
        for theme in ("daylight", "dusk", "night"):
            self.page.evaluate("theme => document.documentElement.dataset.theme = theme", theme)
            self.accessible()

    def read(self, name: str):
        from parhelion.formats.boat_file import read_boat

        return read_boat((settings.ROOT / "demo" / f"{name}.json").read_bytes())
