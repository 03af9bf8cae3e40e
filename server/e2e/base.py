"""One base for the browser tests: a live server, Debian's Chromium, and a page that must stay free of errors."""

from __future__ import annotations

import os
import re
from typing import Any

from axe_playwright_python.sync_playwright import Axe
from boats.actions import add_boat
from django.conf import settings
from django.test import LiveServerTestCase
from parhelion.formats.boat_file import read_boat
from playwright.sync_api import Locator, LocatorAssertions, Page
from playwright.sync_api import expect as library_expect

from e2e.chromium import hide_its_loop, running_browser
from e2e.live_server import UvicornThread

WAIT_MS = 240_000


class Expected(LocatorAssertions):
    """What is expected of a place of a page; one that is still to come is waited for without a drawing of it.

    The library describes the whole page anew at each look at what is not there yet.
    """

    def __init__(self, locator: Locator) -> None:
        super().__init__(library_expect(locator)._impl_obj)
        self._locator = locator

    def to_be_visible(self, **named: Any) -> None:
        self._locator.wait_for()
        super().to_be_visible(**named)


def expect(what: Any) -> Any:
    """What is expected of a place of a page, or of the page."""
    return Expected(what) if isinstance(what, Locator) else library_expect(what)


class BrowserTest(LiveServerTestCase):
    """Opens the demo boat in a fresh browser context for each test."""

    server_thread_class = UvicornThread
    available_apps = settings.INSTALLED_APPS  # all of them: between tests the tables are only emptied
    demo = ("whimbrel.json",)

    @classmethod
    def setUpClass(cls) -> None:
        # Playwright's sync API runs a loop in this thread, which makes Django refuse the ORM.
        os.environ["DJANGO_ALLOW_ASYNC_UNSAFE"] = "1"
        cls.addClassCleanup(os.environ.pop, "DJANGO_ALLOW_ASYNC_UNSAFE", None)
        super().setUpClass()
        cls.browser = running_browser()
        cls.addClassCleanup(hide_its_loop)
        library_expect.set_options(timeout=WAIT_MS)

    def setUp(self) -> None:
        for name in self.demo:
            add_boat(read_boat((settings.ROOT / "demo" / name).read_bytes()))
        self.errors: list[str] = []
        self.context = self.browser.new_context(viewport={"width": 1280, "height": 800}, locale="en-GB")
        self.addCleanup(self.context.close)
        self.page = self.watched(self.context.new_page())

    def watched(self, page: Page) -> Page:
        page.set_default_timeout(WAIT_MS)
        page.on("pageerror", lambda error: self.errors.append(str(error)))
        return page

    def tearDown(self) -> None:
        self.assertEqual(self.errors, [])

    def open(self, path: str = "/", page: Page | None = None) -> Page:
        page = page or self.page
        page.goto(self.live_server_url + path)
        self.settled(page)
        return page

    def settled(self, page: Page | None = None) -> None:
        """Until the rail shows an answer to the design as it stands."""
        page = page or self.page
        page.locator("[data-cell] [data-value]").first.wait_for()
        page.wait_for_timeout(250)
        page.locator("[aria-busy=false] [data-cell]").first.wait_for()

    def saved(self, page: Page | None = None) -> None:
        expect((page or self.page).get_by_role("button", name="Boat:")).to_contain_text("saved")

    def cell(self, key: str, page: Page | None = None) -> str:
        self.settled(page)
        return (page or self.page).locator(f"[data-cell={key}]").inner_text()

    def value(self, key: str, page: Page | None = None) -> float:
        self.settled(page)
        text = (page or self.page).locator(f"[data-cell={key}] [data-value]").inner_text()
        return float(text.replace(",", ""))

    def new_boat(self, kind: str | None = None, name: str | None = None) -> Locator:
        """The sheet that begins a boat; opened from the menu of the one on the screen."""
        self.page.get_by_role("button", name="Boat:").click()
        self.page.get_by_role("menuitem", name="New boat").click()
        sheet = self.page.get_by_role("dialog")
        if name is not None:
            sheet.get_by_label("Name").fill(name)
        if kind is not None:
            sheet.get_by_role("button", name=kind, exact=True).click()
        return sheet

    def fill(self, label: str, text: str, page: Page | None = None) -> None:
        field = (page or self.page).get_by_label(label, exact=True)
        field.fill(text)
        field.press("Enter")

    def fold(self, title: str) -> None:
        """Open or shut a folded heading of the bench; by key, since an answer coming in may move it."""
        heading = self.page.locator("h2 button", has_text=re.compile(rf"^\W*{re.escape(title)}")).first
        was = heading.get_attribute("aria-expanded")
        heading.press("Enter")
        expect(heading).not_to_have_attribute("aria-expanded", str(was))

    def undimmed(self, page: Page | None = None) -> None:
        """Until nothing on the page is an older answer, and stays so while it fades in."""
        page = page or self.page
        dim = page.locator(".opacity-75, .opacity-70, .opacity-60")
        for _ in range(20):
            expect(dim).to_have_count(0)
            page.wait_for_timeout(400)
            if dim.count() == 0:
                return

    def accessible(self, page: Page | None = None) -> None:
        """Nothing for an accessibility checker to find, once everything has faded in."""
        page = page or self.page
        self.undimmed(page)
        found = Axe().run(page, options={"resultTypes": ["violations"]})
        self.assertEqual(found.violations_count, 0, found.generate_report())

    def finding(self, start: str) -> Any:
        """A finding by the beginning of its title, out of the fold if it lies there."""
        self.page.evaluate(
            "document.querySelectorAll('.findings details').forEach((more) => { more.open = true; })"
        )
        return self.page.get_by_role("heading", name=start)
