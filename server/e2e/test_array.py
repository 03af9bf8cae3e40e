"""A walk of the Array: fill the canopy, add a wing, turn the boat, drag the sun, follow a finding, move a spar."""

from __future__ import annotations

import re

from boats.models import Variant
from parhelion.balance.outlook import outlook_of
from parhelion.formats.boat_file import design_from
from parhelion.stations.array.picture import array_advice, array_picture

from e2e.base import BrowserTest, expect


class ArrayTest(BrowserTest):
    def stored(self):
        self.page.wait_for_timeout(150)
        self.saved()
        return design_from(Variant.objects.get(is_working=True).document)

    def station(self) -> None:
        self.open()
        self.page.keyboard.press("3")
        self.page.locator("[data-deck]").wait_for()
        self.fill("Heading in degrees", "0")  # one heading to work out, not eight


class ArrayWalk(ArrayTest):
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
        expect(self.page.locator("[data-panel]")).to_have_count(10)
        self.settled()
        self.assertGreater(self.value("days_run_sun"), before + 3)

        self.page.get_by_role("button", name="add a place").click()
        self.page.locator("[data-place]").last.click()
        self.fold("Where it is")
        self.fill("To starboard", "500")
        expect(self.page.get_by_role("alert")).to_contain_text("100 m or less")
        self.fill("To starboard", "1.9")
        expect(self.finding("Place 4 reaches")).to_be_visible()
        self.fold("How it stands")
        self.fill("Tilt; flat is 0", "120")
        expect(self.page.get_by_role("alert")).to_contain_text("90")
        self.fill("Tilt; flat is 0", "20")

        ring = self.page.get_by_role("slider", name="Heading")
        for _ in range(18):
            ring.press("ArrowRight")
        expect(ring).to_have_attribute("aria-valuetext", "90 degrees")
        sun = self.page.get_by_role("slider", name="Time of day")
        for _ in range(24):
            sun.press("ArrowRight")
        expect(self.page.get_by_label("Clock time")).to_have_value(re.compile("1[67]:"))
        design = self.stored()
        self.assertEqual(design.plan.heading_deg, 90)
        self.assertEqual(design.places[3].tilt_deg, 20)

        pole = self.page.locator("[data-deck-thing=light-mast]")
        costs = {cost.id: cost.cost_wh for cost in array_advice(outlook_of(design)).costs}
        pole.focus()
        pole.evaluate(
            """pole => { for (let i = 0; i < 8; i++)
                pole.dispatchEvent(new KeyboardEvent("keydown", {key: "ArrowUp", bubbles: true})) }"""
        )  # as fast as a held key
        self.settled()
        moved = self.stored()
        self.assertAlmostEqual(moved.obstacles[1].foot.y_m, 2.55)
        self.assertAlmostEqual(moved.obstacles[1].tip.y_m, 2.55)
        again = {cost.id: cost.cost_wh for cost in array_advice(outlook_of(moved)).costs}
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
        picture = array_picture(outlook_of(self.stored()))
        expect(row).to_contain_text(f"{picture.places[0].day_wh / 1000:.1f}")
        self.accessible()
        self.page.get_by_role("tab", name="Sky from a panel").click()
        self.page.get_by_label("Seen from").select_option(index=3)
        expect(self.page.locator("[data-dome]")).to_be_visible()
        expect(self.page.locator("[data-view] .opacity-75")).to_have_count(0)
        self.page.wait_for_timeout(300)  # it fades back in
        self.accessible()
        for view, part in (("Tilt", "[data-ways]"), ("What it costs", "[data-burden-whole]"), ("One more", "[data-next]"),
                           ("Deck in the sun", "[data-deck]")):  # fmt: skip
            self.page.get_by_role("tab", name=view).click()
            self.page.locator(part).wait_for()
            expect(self.page.locator("[data-view] .opacity-75")).to_have_count(0)
            self.page.wait_for_timeout(300)
            self.accessible()

    def test_wings_by_state_tilt_and_what_they_cost(self):
        self.station()
        advice = array_advice(outlook_of(self.stored()))
        wh = {row.state.value: row.day_wh for row in advice.states}
        self.assertLess(wh["dock"], wh["under_way"])
        before = self.value("days_run_sun")
        self.page.locator("[data-state-choice=dock]").click()
        expect(self.page.locator("[data-state-choice=dock]")).to_have_attribute("aria-pressed", "true")
        expect(self.finding("420 W give nothing at the dock")).to_be_visible()
        expect(self.finding("The shore hides the sun for")).to_be_visible()
        self.assertLess(self.value("days_run_sun"), before)
        self.page.locator("[data-state-choice=under_way]").click()

        self.page.locator("[data-place=starboard-wing]").click()
        self.fill("Heading in degrees", "90")
        self.page.get_by_role("tab", name="Tilt").click()
        tilt = self.page.locator("[data-tilt=starboard-wing]")
        expect(tilt.locator("[data-way=thrice]")).to_contain_text("Set three times a day")
        hour = self.page.get_by_role("slider", name="Hour looked at")
        for _ in range(12):
            hour.press("ArrowRight")
        readout = self.page.locator("[data-tilt-readout]")
        expect(readout).to_contain_text("to win")
        readout.get_by_role("button", name=re.compile("set it to")).click()
        design = self.stored()
        self.assertGreater(design.place("starboard-wing").tilt_deg, 0)
        self.assertEqual(design.plan.heading_deg, 90)

        self.fold("How it stands")
        self.fill("Hinge, to", "10")
        expect(self.finding("Starboard wing stands at")).to_be_visible()
        self.page.get_by_label("Through the day").select_option("thrice")
        self.page.get_by_label("How it stands at anchor").select_option("covered")
        self.fold("Under and around it")
        self.fill("They take", "40")
        expect(self.finding("Fold Starboard wing above")).to_be_visible()
        self.fill("They take", "-3")
        expect(self.page.get_by_role("alert")).to_be_visible()
        self.page.get_by_label("They take", exact=True).press("Escape")
        design = self.stored()
        self.assertEqual(design.place("starboard-wing").tended, "thrice")
        self.assertEqual(design.place("starboard-wing").stands.anchored.how, "covered")
        self.page.get_by_role("tab", name="What it costs").click()
        expect(self.page.locator("[data-burden-place=starboard-wing]")).to_contain_text("they take 40 N")
        self.page.get_by_role("tab", name="One more").click()
        expect(self.page.locator("[data-next-verdict]")).to_contain_text("a day")
        gained = self.value("days_run_sun")
        self.page.get_by_role("button", name=re.compile("Try it:")).first.click()
        self.settled()
        self.page.wait_for_timeout(600)
        self.assertGreater(self.value("days_run_sun"), gained)
        self.page.get_by_role("button", name="Undo").click()
        self.assertEqual(len(self.stored().places), 3)


class PanelsAndThingsWalk(ArrayTest):
    def test_a_panel_from_the_list_and_one_from_a_table(self):
        self.station()
        self.page.get_by_role("button", name="choose a panel").click()
        dialog = self.page.get_by_role("dialog")
        dialog.get_by_label("Search panels").fill("two-sided glass 240")
        dialog.locator("[data-model]").first.click()
        expect(dialog).to_have_count(0)
        group = self.stored().panels[0]
        self.assertEqual((group.nameplate_w, group.bifaciality_frac, group.count), (240, 0.78, 4))
        self.page.get_by_text("its datasheet").click()
        self.fill("Voc", "20")
        expect(self.finding("Two-sided glass 240: this datasheet cannot be true")).to_be_visible()
        self.page.get_by_role("button", name="choose a panel").click()
        rows = ["Name,STC,Length,Width,N_s,I_sc_ref,V_oc_ref,I_mp_ref,V_mp_ref,gamma_pmp"]
        rows += [
            f"Even {w},{w},1.76,1.13,108,{w / 29:.3f},37.1,{w / 31:.3f},31.0,-0.34" for w in range(300, 420)
        ]
        rows.append("Odd,400,1.72,1.13,108,13.9,30.1,13.0,30.8,-0.34")
        file = {"name": "modules.csv", "mimeType": "text/csv", "buffer": "\n".join(rows * 80).encode()}
        dialog.get_by_label("Table of modules").set_input_files(file)
        expect(dialog.get_by_role("status")).to_contain_text("9,600 of 9,759 modules read")
        dialog.get_by_text("what was wrong").click()
        expect(dialog.get_by_text("Voc 30.1 V is not above Vmp 30.8 V.").first).to_be_visible()
        dialog.get_by_label("Search panels").fill("even 400")
        dialog.locator("[data-model='Even 400']").first.click()
        group = self.stored().panels[0]
        self.assertEqual((group.nameplate_w, group.half_cut, group.cells_across), (400, True, 6))
        self.page.get_by_role("button", name="choose a panel").click()
        file = {"name": "wrong.csv", "mimeType": "text/csv", "buffer": b"Name,STC,Voc\nA,100,20"}
        dialog.get_by_label("Table of modules").set_input_files(file)
        expect(dialog.get_by_text("Columns are missing: Isc, Vmp, Imp, N_s.")).to_be_visible()

    def test_things_the_shore_and_a_place_that_is_sized(self):
        self.station()
        self.fold("Standing in the sun")
        self.page.get_by_role("button", name="a box").click()
        self.page.wait_for_timeout(200)
        last = self.page.locator(".bench fieldset").filter(has=self.page.locator("legend", has_text="Box"))
        last.get_by_label("Top, up").fill("4.5")
        last.get_by_label("Top, up").press("Enter")
        last.get_by_label("sailing").uncheck()
        self.page.get_by_role("button", name="a sail").click()
        expect(self.page.locator("[data-deck-thing]")).to_have_count(4)
        design = self.stored()
        self.assertEqual([o.shape for o in design.obstacles], ["spar", "spar", "box", "sail"])
        self.assertNotIn("sailing", design.obstacles[2].stands_in)
        self.page.get_by_label("It is").last.select_option("spar")
        self.fold("The shore about her")
        self.page.get_by_role("button", name="add trees, a hill or a building").click()
        last = self.page.get_by_label("To bearing").last
        last.fill("400")
        last.press("Enter")
        expect(self.page.get_by_role("alert")).to_contain_text("360")
        last.fill("350")
        last.press("Enter")
        self.assertEqual(len(self.stored().site.skyline), 3)
        box = self.page.locator("[data-size=canopy] rect").bounding_box()
        at = box["x"] + 5, box["y"] + 5
        self.page.mouse.move(*at)
        self.page.mouse.down()
        self.page.mouse.move(at[0], at[1] - 40, steps=4)
        self.page.mouse.up()
        grown = self.stored()
        self.assertGreater(grown.places[0].length_m, design.places[0].length_m)
        aft = [d.places[0].at.y_m - d.places[0].length_m / 2 for d in (design, grown)]
        self.assertAlmostEqual(aft[0], aft[1], delta=0.002)
        clock = self.page.get_by_label("Clock time")
        clock.fill("25:00")
        expect(self.page.get_by_role("alert")).to_contain_text("a time such as 17:00")
        clock.fill("17:00")
        clock.press("Enter")
        expect(clock).to_have_value(re.compile("^(16:5|17:0)"))

    def test_a_boat_without_panels_is_told_what_to_do(self):
        self.station()
        self.fold("Where it is")
        for left in (2, 1, 0):
            self.page.get_by_role("button", name="remove it with its panels").click()
            expect(self.page.locator("[data-place]")).to_have_count(left)
        expect(self.finding("No panels yet")).to_be_visible()
        self.page.get_by_role("tab", name="What it costs").click()
        expect(self.page.get_by_text("No panels, no burden.")).to_be_visible()
        self.page.get_by_role("tab", name="Deck in the sun").click()
        self.page.get_by_role("button", name="add a place").click()
        expect(self.page.locator("[data-panel]")).to_have_count(1)
