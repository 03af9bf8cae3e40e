"""How Debian's Chromium is started, for the browser tests and for the pictures of the docs."""

from __future__ import annotations

import shutil

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
