"""Takes the pictures of docs/screenshots from the demo data: one command, always the same pictures."""

from __future__ import annotations

import json
import os
import socket
import subprocess
import sys
import tempfile
import time
import urllib.request
from collections.abc import Callable
from pathlib import Path

from playwright.sync_api import Page, sync_playwright

ROOT = Path(__file__).resolve().parents[1]
sys.path.insert(0, str(ROOT / "server"))

from e2e.chromium import FLAGS, WHOLE  # noqa: E402

SHOTS = ROOT / "docs" / "screenshots"
RUNS = ((2.6, 2.3, 128), (3.4, 3.1, 262), (4.1, 3.8, 455), (5.0, 4.6, 905))


def free_port() -> int:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])


def settled(page: Page) -> None:
    page.locator("[aria-busy=false] [data-cell]").first.wait_for()
    page.get_by_text("Working it out").wait_for(state="detached")
    page.wait_for_timeout(900)


def keep(base: str, variant_id: str, name: str, change: Callable[[dict], None]) -> None:
    """Keep a changed design as a variant of its boat."""
    variant = json.load(urllib.request.urlopen(f"{base}/api/variants/{variant_id}"))
    change(variant["design"])
    body = json.dumps({"name": name, "design": variant["design"]}).encode()
    asked = urllib.request.Request(
        f"{base}/api/boats/{variant['boat_id']}/variants", body, {"Content-Type": "application/json"}
    )
    urllib.request.urlopen(asked).close()


def without_wings(design: dict) -> None:
    design["panels"], design["places"] = design["panels"][:1], design["places"][:1]


def lighter_bank(design: dict) -> None:
    design["banks"][0]["parallel"] = 1
    design["plan"]["speed_mps"] = 1.7


def take_log(page: Page, base: str, work: str) -> None:
    """The Log of the demo's summer, before the boat is edited."""
    for view, name in (("day", "log"), ("season", "review")):
        page.goto(f"{base}/log/{work}?outing=out-8&view={view}")
        page.locator("[data-harvest], [data-learned]").first.wait_for(timeout=120_000)
        page.get_by_role("heading", name="Port wing").wait_for(timeout=120_000)
        settled(page)
        page.screenshot(path=SHOTS / f"{name}.png")
    page.set_viewport_size({"width": 390, "height": 844})
    page.goto(f"{base}/log/{work}?outing=out-11&view=now")
    page.locator("[data-sentence]").wait_for(timeout=120_000)
    settled(page)
    page.screenshot(path=SHOTS / "log-now.png")
    page.set_viewport_size({"width": 1280, "height": 800})


def take(page: Page, base: str, boats: dict[str, str]) -> None:
    """The main views, each at its usual size."""
    at = "at=14:20"
    page.goto(f"{base}/wish/{boats['Whimbrel']}?{at}")
    page.locator("[data-front=whole]").wait_for(timeout=120_000)
    settled(page)
    page.screenshot(path=SHOTS / "wish.png")
    page.goto(f"{base}/hull/{boats['Whimbrel']}?{at}")
    settled(page)
    page.get_by_role("button", name="add a run").click()
    form = page.get_by_role("form", name="New run")
    for out, back, watts in RUNS:
        form.get_by_label("Speed, out").fill(str(out))
        form.get_by_label("Speed, back").fill(str(back))
        form.get_by_label("Battery watts").fill(str(watts))
        form.get_by_label("Battery watts").press("Enter")
        page.wait_for_timeout(250)
    form.get_by_role("button", name="done").click()
    page.locator(".bench").evaluate("bench => bench.scrollTo(0, 0)")
    settled(page)
    page.screenshot(path=SHOTS / "hull.png")
    page.goto(f"{base}/hull/{boats['Sabine']}?{at}&view=helm")
    settled(page)
    page.screenshot(path=SHOTS / "helm-card.png")
    page.goto(f"{base}/bank/{boats['Fulmar']}?{at}")
    settled(page)
    page.screenshot(path=SHOTS / "bank.png")
    page.goto(f"{base}/array/{boats['Fulmar']}?{at}")
    settled(page)
    ring = page.get_by_role("slider", name="Heading")
    for _ in range(7):
        ring.press("ArrowRight")
    sun = page.get_by_role("slider", name="Time of day")
    for _ in range(2):
        sun.press("PageUp")
    ring.blur(), sun.blur()
    settled(page)
    page.screenshot(path=SHOTS / "array.png")
    page.goto(f"{base}/strings/{boats['Sabine']}?{at}")
    settled(page)
    page.screenshot(path=SHOTS / "strings.png")
    page.goto(f"{base}/day/{boats['Whimbrel']}?{at}")
    settled(page)
    page.screenshot(path=SHOTS / "day.png")
    for boat, view, name in (("Sabine", "", "passage"), ("Fulmar", "&view=chart", "passage-chart")):
        page.goto(f"{base}/passage/{boats[boat]}?{at}{view}")
        page.locator("[data-ribbon] svg, [data-chart] svg").first.wait_for()
        settled(page)
        page.screenshot(path=SHOTS / f"{name}.png")
    for boat, view, name in (("Whimbrel", "connecting", "fitout"), ("Fulmar", "sun", "firstsun")):
        page.goto(f"{base}/fitout/{boats[boat]}?{at}&view={view}")
        page.locator("[data-steps], [data-gauge]").first.wait_for()
        settled(page)
        page.screenshot(path=SHOTS / f"{name}.png")
    keep(base, boats["Whimbrel"], "no wings", without_wings)
    keep(base, boats["Whimbrel"], "half the bank, slower", lighter_bank)
    page.goto(f"{base}/year/{boats['Whimbrel']}?{at}&view=compare")
    page.locator("[data-compare][aria-busy=false] [data-compare-line]").first.wait_for(timeout=120_000)
    settled(page)
    page.screenshot(path=SHOTS / "compare.png")
    page.goto(f"{base}/year/{boats['Whimbrel']}?{at}")
    page.locator("[data-season][aria-busy=false]").wait_for(timeout=120_000)
    settled(page)
    page.screenshot(path=SHOTS / "season.png")
    page.goto(f"{base}/year/{boats['Sabine']}?{at}&view=ahead")
    page.locator("[data-ahead][aria-busy=false]").wait_for(timeout=120_000)
    settled(page)
    page.screenshot(path=SHOTS / "ahead.png")
    page.get_by_role("button", name="Boat:").click()
    page.get_by_role("menuitem", name="New boat").click()
    sheet = page.get_by_role("dialog")
    sheet.get_by_role("button", name="Skiff", exact=True).click()
    for label, text in (("Length overall", "16ft"), ("People aboard", "2"), ("or thrust", "55 lb")):
        sheet.get_by_label(label, exact=True).fill(text)
    sheet.locator("[aria-busy=false] b").first.wait_for()
    page.wait_for_timeout(1_500)
    page.screenshot(path=SHOTS / "new-boat.png")
    page.keyboard.press("Escape")
    page.set_viewport_size({"width": 390, "height": 844})
    page.goto(f"{base}/day/{boats['Whimbrel']}?{at}")
    settled(page)
    page.screenshot(path=SHOTS / "phone.png")


def main() -> int:
    SHOTS.mkdir(parents=True, exist_ok=True)
    port = free_port()
    base = f"http://127.0.0.1:{port}"
    with tempfile.TemporaryDirectory() as var:
        environment = {**os.environ, "PARHELION_VAR": var}
        for command in ("migrate", "load_demo"):
            subprocess.run(
                [sys.executable, "server/manage.py", command, "-v0"], cwd=ROOT, env=environment, check=True
            )
        server = subprocess.Popen(
            [sys.executable, "-m", "uvicorn", "config.asgi:application", "--host", "127.0.0.1",
             "--port", str(port), "--lifespan", "off", "--log-level", "warning"],
            cwd=ROOT / "server", env=environment,
        )  # fmt: skip
        try:
            for _ in range(100):
                try:
                    rows = json.load(urllib.request.urlopen(f"{base}/api/boats"))
                    break
                except OSError:
                    time.sleep(0.1)
            boats = {row["name"]: row["variants"][0]["id"] for row in rows}
            with sync_playwright() as playwright:
                browser = playwright.chromium.launch(executable_path=WHOLE, args=list(FLAGS))
                page = browser.new_page(viewport={"width": 1280, "height": 800}, locale="en-GB")
                take_log(page, base, boats["Whimbrel"])
                take(page, base, boats)
                browser.close()
        finally:
            server.terminate()
            server.wait()
    print(f"{len(list(SHOTS.glob('*.png')))} pictures in {SHOTS.relative_to(ROOT)}")
    return 0


if __name__ == "__main__":
    sys.exit(main())
