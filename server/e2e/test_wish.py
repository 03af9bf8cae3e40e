"""The Wish as it is walked: stated, weighed, opened and edited; an impossible one bent to a possible one."""

from __future__ import annotations

from boats.models import Boat, Variant

from e2e.base import BrowserTest, expect


class WishWalk(BrowserTest):
    demo = ("grebe.json",)

    def at_wish(self) -> None:
        self.open(f"/hull/{Boat.objects.get().variants.get(is_working=True).pk}")
        self.page.keyboard.press("0")
        self.page.get_by_role("button", name="state a wish").click()
        self.page.locator("[data-ask=trip]").wait_for()

    def whole(self) -> None:
        self.page.locator("[data-front=whole]").wait_for()

    def test_a_wish_is_stated_weighed_opened_as_a_boat_edited_and_held_against_another(self):
        self.at_wish()
        self.fill("Distance", "24")
        self.fill("At", "3.2 kn")
        self.page.get_by_label("From", exact=True).select_option("jun")
        self.page.get_by_label("To", exact=True).select_option("jul")
        self.page.get_by_label("Sunday", exact=True).check()
        self.fill("Money", "900")
        self.whole()
        chosen = self.page.locator("[data-chosen-point]")
        expect(chosen).to_contain_text("cheapest that does it")
        expect(self.finding("As she is: ")).to_be_visible()
        self.accessible()
        self.page.get_by_role("button", name="how surely", exact=True).click()
        expect(self.page.get_by_role("img", name="Cost against how surely")).to_contain_text("% of days")
        before = chosen.inner_text()
        slider = self.page.get_by_role("slider", name="along it")
        slider.press("End")
        self.assertNotEqual(chosen.inner_text(), before)
        self.page.get_by_role("button", name="cheapest that does it").click()
        reached = chosen.locator("dd").first.inner_text()
        self.page.get_by_role("tab", name="This or that").click()
        expect(self.page.locator("[data-between] tbody tr").last).to_contain_text("all of it")
        self.page.get_by_role("tab", name="Boats that do it").click()
        self.saved()
        self.page.get_by_role("button", name="Open as a variant").click()
        self.page.wait_for_url("**/array/**compare=**")
        self.settled()
        boat = Boat.objects.get()
        self.assertEqual(boat.variants.count(), 2)
        opened = boat.variants.get(is_working=False)
        self.assertIn(reached.split(" ")[0], opened.name)
        self.page.keyboard.press("0")
        self.page.get_by_role("tab", name="As she is").click()
        expect(self.finding("She does it as she is")).to_be_visible()
        expect(self.page.locator("[data-met=true]").first).to_contain_text("days drawn")
        self.fill("Distance", "150")
        expect(self.finding("As she is: ")).to_be_visible()
        self.page.get_by_role("button", name="Undo").click()
        expect(self.finding("She does it as she is")).to_be_visible()

    def test_a_yacht_begun_with_a_wish_lives_aboard_without_shore_power(self):
        self.open()
        dialog = self.new_boat("Fin-keel yacht", "Avocet")
        dialog.get_by_label("Where", exact=True).fill("of Lissa")
        dialog.get_by_role("button", name="Bay of Lissa", exact=True).click()
        dialog.get_by_role("button", name="Begin with a wish").click()
        self.page.get_by_role("button", name="no more shore power").click()
        self.page.locator("[data-ask=house]").wait_for()
        self.whole()
        chosen = self.page.locator("[data-chosen-point]")
        expect(chosen).to_contain_text("cheapest that does it")
        self.page.get_by_role("button", name="Panels in the shed").click()
        self.page.get_by_role("button", name="panels that cost nothing").click()
        self.fill("How many", "3")
        self.fill("Nameplate, each", "120")
        self.whole()
        expect(chosen.get_by_label("She has")).to_contain_text("120 W on")

    def test_a_school_boat_under_a_budget_from_her_own_list_of_parts(self):
        self.open()
        sheet = self.new_boat("Slim trimaran", "Dunlin")
        for label, text in (("Length overall", "5.5"), ("People aboard", "1")):
            sheet.get_by_label(label, exact=True).fill(text)
        sheet.get_by_role("button", name="Begin with a wish").click()
        self.page.get_by_role("button", name="hours at a speed").click()
        self.fill("Hours", "2")
        self.fill("At", "3.5 kn")
        self.fill("Money", "900")
        self.page.get_by_label("From", exact=True).select_option("jun")
        self.page.get_by_label("To", exact=True).select_option("jun")
        self.whole()
        chosen = self.page.locator("[data-chosen-point]")
        self.page.get_by_role("button", name="Weight and parts").click()
        for name, table, said in (
            ("batteries", "name,chemistry,volts,ah,kg,price\nClub battery,LFP,12.8,54,6.4,77\n", "batteries: 1 to"),
            ("motors", "name,watts,kg,price\nClub motor,900,9,150\nOdd,much,9,1\n", "motors: 1 to"),
        ):  # fmt: skip
            self.page.get_by_label("Own list of parts").set_input_files(
                {"name": f"{name}.csv", "mimeType": "text/csv", "buffer": table.encode()}
            )
            expect(self.page.get_by_role("status").filter(has_text=said)).to_be_visible()
        expect(self.page.get_by_text("“much” is no number")).to_be_visible()
        self.whole()
        expect(chosen.get_by_label("She has")).to_contain_text("Club motor, 900 W")
        self.saved()
        self.page.get_by_role("button", name="Open as a variant").click()
        self.page.wait_for_url("**/array/**compare=**")
        opened = Variant.objects.get(is_working=False, document__name="Dunlin").document
        self.assertEqual(opened["drives"][0]["price"], 150)
        self.assertEqual(opened["banks"][0]["unit_price"], 77)

    def test_an_impossible_wish_is_told_and_bent_and_two_at_once_are_refused(self):
        self.at_wish()
        self.fill("Distance", "150")
        self.fill("At", "3 kn")
        self.fill("Money", "0")
        expect(self.finding("For nothing, only what is there already")).to_be_visible()
        self.whole()
        near = self.page.locator("[data-near]")
        expect(near).to_contain_text("A day has")
        near.locator("[data-near-wish=shorter]").get_by_role("button", name="wish that").click()
        expect(self.finding("She does it as she is")).to_be_visible()
        self.page.get_by_role("button", name="Undo").click()
        expect(self.page.get_by_label("Distance", exact=True)).to_have_value("150")
        self.page.get_by_role("button", name="and also").click()
        expect(self.finding("Two wishes motor through the same hours of a Saturday")).to_be_visible()
        expect(self.page.get_by_role("status").filter(has_text="Two wishes motor")).to_be_visible()
        self.page.get_by_role("button", name="not this").last.click()
        self.fill("How surely", "120")
        expect(self.page.get_by_role("alert").first).to_contain_text("99")
