"""How Debian's Chromium is started, for the browser tests and for the pictures of the docs."""

from __future__ import annotations

import asyncio
import shutil
from asyncio import events
from functools import cache

from playwright.sync_api import Browser, sync_playwright

# The package without windows takes a third less of a processor than the whole browser run headless.
CHROMIUM = shutil.which("chromium-headless-shell") or shutil.which("chromium") or "/usr/bin/chromium"
WHOLE = shutil.which("chromium") or CHROMIUM  # with the words of other languages: dates as a person sees them
FLAGS = (
    "--headless",
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
)


@cache
def _started() -> tuple[Browser, asyncio.AbstractEventLoop]:
    browser = sync_playwright().start().chromium.launch(executable_path=CHROMIUM, args=list(FLAGS))
    return browser, asyncio.get_running_loop()


def running_browser() -> Browser:
    """The one browser of this process, with its loop running in this thread; it ends with the process."""
    browser, loop = _started()
    events._set_running_loop(loop)
    return browser


def hide_its_loop() -> None:
    """For tests that are not the browser's: the loop waits, and nothing here runs in one."""
    events._set_running_loop(None)
