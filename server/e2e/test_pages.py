"""Boats of many kinds at every station, in pages without a window: what each page says and draws."""

from __future__ import annotations

import json
import os
from datetime import date

from boats.actions import add_boat
from django.conf import settings
from django.test import LiveServerTestCase
from parhelion.begin.known import Known
from parhelion.begin.new_boat import new_boat
from parhelion.design import Site

from e2e.live_server import UvicornThread
from e2e.test_bench_logic import ran_well

KINDS = json.loads((settings.ROOT / "demo" / "strangers.json").read_text())
WHERE = Site(name="Lake Hesper", latitude_deg=47.0, longitude_deg=9.0, altitude_m=400)
JULY = date(2027, 7, 15)
LOOKED_AT = ("kayak, loose panel", "school racer, no bank")


class PagesTest(LiveServerTestCase):
    server_thread_class = UvicornThread

    def test_every_view_of_every_station_holds_the_laws_of_a_page(self):
        boats = []
        for kind in LOOKED_AT:
            boat = add_boat(new_boat(Known(name=kind, site=WHERE, date=JULY, **KINDS[kind])))
            boats.append({"name": kind, "variant": str(boat.variants.get().id)})
        there = {"url": self.live_server_url, "boats": boats}
        passed = ran_well(
            self, "pages",
            {**os.environ, "NODE_ENV": "production", "VITE_PAGES": json.dumps(there)},
        )  # fmt: skip
        self.assertGreater(passed, 60)
