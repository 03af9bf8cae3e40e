"""Nothing typed is lost: whatever is clicked next, over a reload, and with the server away."""

from __future__ import annotations

from boats.models import Boat, Variant
from django.utils import timezone
from playwright.sync_api import Route

from e2e.base import BrowserTest, expect

KNOT_MPS = 0.514444


class TypedAndGone(BrowserTest):
    def stored(self) -> dict:
        return Variant.objects.get(is_working=True).document

    def type(self, label: str, text: str) -> None:
        """As fingers do: the field is clicked, its text replaced key by key, and nothing pressed after."""
        field = self.page.get_by_label(label, exact=True)
        field.click()
        field.press("ControlOrMeta+a")
        self.page.keyboard.type(text)

    def kept(self, of, wanted) -> None:
        for _ in range(300):
            self.page.wait_for_timeout(100)
            if of(self.stored()) == wanted:
                return
        self.assertEqual(of(self.stored()), wanted)

    def test_a_click_to_another_fold_view_or_station_keeps_what_was_typed(self):
        page = self.page
        self.open()
        self.type("Waterline length", "6.9")
        page.get_by_role("tab", name="Range").click()
        self.kept(lambda d: d["hull"]["waterline_length_m"], 6.9)
        self.type("Waterline length", "7.1")
        page.get_by_role("link", name="Day").click()
        self.kept(lambda d: d["hull"]["waterline_length_m"], 7.1)
        self.type("Speed", "3")
        page.get_by_role("link", name="Bank").click()
        self.kept(lambda d: round(d["plan"]["speed_mps"] / KNOT_MPS, 3), 3.0)
        self.type("Load 1, watts", "51")
        page.get_by_role("button", name="Sizing").or_(
            page.get_by_role("button", name="How large")
        ).first.click()
        self.kept(lambda d: d["loads"][0]["power_w"], 51)
        page.get_by_role("button", name="House loads").click()
        self.type("Load 1, watts", "52")
        page.keyboard.press("Tab")
        page.get_by_role("link", name="Hull").click()
        self.kept(lambda d: d["loads"][0]["power_w"], 52)

    def test_a_reload_in_the_middle_keeps_it_even_where_its_field_is_folded_away(self):
        page = self.page
        self.open()
        page.keyboard.press("2")
        self.settled()
        self.type("Load 2, watts", "17")
        page.reload()
        self.settled()
        self.kept(lambda d: d["loads"][1]["power_w"], 17)
        self.type("Load 2, watts", "18")
        page.goto(page.url.replace("/bank/", "/day/"))
        self.settled()
        self.kept(lambda d: d["loads"][1]["power_w"], 18)
        self.assertEqual(
            page.evaluate("Object.keys(localStorage).filter(k => k.includes('draft')).length"), 0
        )

    def test_with_the_server_away_it_waits_and_is_saved_on_return(self):
        page = self.page
        self.open()
        self.saved()
        away = True

        def answer(route: Route) -> None:
            if away:
                route.abort()
            else:
                route.continue_()

        page.route("**/api/**", answer)
        self.type("Waterline length", "7.3")
        expect(page.get_by_role("alert").first).to_contain_text("did not answer")
        page.get_by_role("tab", name="Range").click()
        page.keyboard.press("5")
        page.wait_for_timeout(400)
        self.assertEqual(self.stored()["hull"]["waterline_length_m"], 6.7)
        away = False
        self.kept(lambda d: d["hull"]["waterline_length_m"], 7.3)
        self.saved()
        self.settled()
        expect(page.get_by_role("alert")).to_have_count(0)

    def test_a_wrong_text_stays_in_its_own_row_when_a_row_above_goes(self):
        page = self.page
        self.open()
        page.keyboard.press("2")
        self.settled()
        self.type("Load 2, watts", "a few")
        expect(page.get_by_role("alert")).to_contain_text("“a few” is not a number")
        page.get_by_role("button", name="Remove Fridge").click()
        expect(page.get_by_label("Load 1, watts", exact=True)).to_have_value("a few")
        expect(page.get_by_label("Load 2, watts", exact=True)).to_have_value("350")
        page.get_by_role("button", name="Undo").click()
        expect(page.get_by_label("Load 1, watts", exact=True)).to_have_value("45")
        expect(page.get_by_label("Load 2, watts", exact=True)).to_have_value("a few")
        page.reload()
        self.settled()
        expect(page.get_by_label("Load 2, watts", exact=True)).to_have_value("a few")
        expect(page.get_by_role("alert")).to_contain_text("“a few” is not a number")
        page.get_by_label("Load 2, watts", exact=True).press("Escape")
        expect(page.get_by_label("Load 2, watts", exact=True)).to_have_value("12")

    def test_a_closed_tab_loses_nothing_and_a_boat_removed_elsewhere_is_kept(self):
        page = self.page
        self.open()
        self.saved()
        address = page.url
        page.route(
            "**/api/variants/**",
            lambda route: route.abort() if route.request.method == "PUT" else route.continue_(),
        )
        self.type("Waterline length", "7.4")
        expect(page.get_by_role("button", name="Boat:")).to_contain_text("not saved yet, tried again every")
        page.close()
        again = self.page = self.watched(self.context.new_page())
        again.goto(address)
        self.settled(again)
        self.kept(lambda d: d["hull"]["waterline_length_m"], 7.4)
        Boat.objects.update(deleted_at=timezone.now())
        self.fill("Waterline length", "7.5", again)
        again.get_by_role("button", name="Keep as a new boat").click()
        expect(again).not_to_have_url(address)
        self.settled(again)
        expect(again.get_by_label("Waterline length", exact=True)).to_have_value("7.5")
