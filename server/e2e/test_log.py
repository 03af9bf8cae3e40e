"""The Log as it is walked: a reading noted, the server away, a dead string found, the hull taken over and undone."""

from __future__ import annotations

import re
import tempfile
from math import cos, radians
from pathlib import Path

from boats.models import Boat
from django.conf import settings
from outings.actions import take_in
from outings.devices import listeners
from outings.models import Outing, Reading
from outings.tests.test_devices import Played, free_ports

from e2e.base import BrowserTest, expect

LOGBOOK = (settings.ROOT / "demo" / "whimbrel.logbook.json").read_bytes()


class LogWalk(BrowserTest):
    def at(self, query: str = "", filled: bool = False) -> None:
        boat = Boat.objects.get()
        if filled:
            take_in(boat, LOGBOOK)
        self.open(f"/log/{boat.variants.get(is_working=True).pk}{query}")
        self.page.locator("[data-view]").wait_for()

    def note(self, **texts: str) -> None:
        line = self.page.get_by_role("form", name="Note a reading")
        for label, text in texts.items():
            line.get_by_label(label.replace("_", ", ")).fill(text)
        line.get_by_role("button", name="note it").click()

    def test_readings_are_noted_kept_while_the_server_is_away_and_sent_later(self):
        self.at()
        expect(self.page.get_by_role("heading", name="Nothing is read yet").first).to_be_visible()
        self.note(bank_V="much")
        expect(self.page.get_by_role("alert")).to_contain_text("number")
        self.assertEqual(Reading.objects.count(), 0)
        line = self.page.get_by_role("form", name="Note a reading")
        line.get_by_label("bank, V").fill("")
        line.get_by_label("sky").select_option("hazy")
        self.note(Canopy_W="310", speed_kn="3,6", motor_W="402")
        expect(self.page.get_by_role("heading", name="The day as it went").first).to_be_visible()
        expect(self.page.locator("[data-view] svg circle").first).to_be_visible()
        one = Reading.objects.get(of=None)
        self.assertAlmostEqual(one.speed_mps or 0, 3.6 * 1852 / 3600, places=3)
        self.assertEqual((one.sky, one.motor_w, Outing.objects.count()), ("hazy", 402.0, 1))
        self.page.route("**/logbook/readings", lambda route: route.abort())
        line.get_by_label("in words").fill("rain soon")
        self.page.get_by_role("button", name="note it").click()
        expect(self.page.get_by_text("1 change kept here")).to_be_visible()
        self.page.reload()
        expect(self.page.get_by_text("1 change kept here")).to_be_visible()
        self.page.unroute("**/logbook/readings")
        expect(self.page.get_by_text("1 change kept here")).to_be_hidden()
        self.assertEqual(Reading.objects.filter(note="rain soon").count(), 1)

    def test_an_outing_begins_with_the_passage_that_is_planned_and_is_paused(self):
        self.at()
        self.page.get_by_role("button", name="begin the passage").click()
        self.page.get_by_role("tab", name="Now").click()
        self.page.get_by_role("button", name="pause", exact=True).click()
        self.page.get_by_role("button", name="go on", exact=True).click()
        expect(self.page.get_by_role("button", name="pause", exact=True)).to_be_visible()
        expect(self.page.get_by_role("button", name="no pause at")).to_be_visible()
        self.page.wait_for_timeout(500)
        content = Outing.objects.get().content
        passage = Boat.objects.get().variants.get(is_working=True).document["passage"]
        self.assertEqual(content["planned_m"], 2 * sum(leg["distance_m"] for leg in passage["legs"]))
        (pause,) = content["pauses"]
        self.assertGreaterEqual(pause["ended_at"], pause["began_at"])
        self.page.get_by_role("tab", name="The day as it went").click()
        self.page.get_by_role("button", name="This outing").click()
        for label, text in (("From the shore", "120"), ("Wind", "9"), ("What broke", "A plug")):
            self.fill(label, text)  # one after the other, before the first is shown
        self.fill("Mended", "A new one")
        self.page.get_by_label("A picture of what broke").set_input_files(
            {"name": "plug.txt", "mimeType": "image/png", "buffer": b"no picture"}
        )
        expect(self.page.get_by_role("alert").filter(has_text="This is no picture")).to_be_visible()
        self.page.wait_for_timeout(1500)
        content = Outing.objects.get().content
        told = (content["shore_wh"], content["broke"], content["mended"], len(content["pauses"]))
        self.assertEqual(told, (120, "A plug", "A new one", 1))
        self.assertAlmostEqual(content["wind_mps"], 9 * 1852 / 3600, places=6)

    def test_a_dead_string_is_found_and_the_season_put_into_the_design_and_undone(self):
        self.at("?outing=out-8", filled=True)
        expect(self.finding("Port wing + Starboard wing: a string gives nothing")).to_be_visible()
        wings = self.page.locator("[data-meaning=wing-controller]")
        wings.locator("summary").click()
        expect(wings).to_contain_text("clamp the amps of each string")
        self.accessible()
        run = self.page.locator("[data-run]")
        run.get_by_role("button", name="put it among the Hull's runs").click()
        expect(run).to_contain_text("is among the Hull's runs")
        self.page.get_by_role("button", name="Undo").click()
        expect(run.get_by_role("button")).to_be_visible()
        self.page.get_by_role("tab", name="Readings").click()
        row = self.page.locator("[data-reading]").first
        key = row.get_attribute("data-reading")
        row.get_by_role("button", name="leave out").click()
        expect(self.page.locator(f"[data-reading='{key}']")).to_have_count(0)
        self.assertTrue(Reading.objects.get(key=key).left_out)
        self.page.get_by_role("tab", name="Now").click()
        expect(self.page.locator("[data-sentence]")).to_contain_text("sun pays")
        self.accessible()
        self.page.get_by_role("tab", name="The season").click()
        hull = self.page.locator("[data-learned=hull]")
        hull.get_by_role("button", name="put it into the design").click()
        expect(hull.get_by_text("1.00", exact=True)).to_be_visible()
        self.saved()
        design = Boat.objects.get().variants.get(is_working=True).document
        self.assertGreater(len(design["runs"]), 3)
        self.page.get_by_role("button", name="Undo").click()
        expect(hull.get_by_text("1.07", exact=True)).to_be_visible()
        self.saved()
        self.assertEqual(Boat.objects.get().variants.get(is_working=True).document["runs"], [])
        self.accessible()

    def test_a_boat_played_on_loopback_is_listened_to_and_read_at_arms_length(self):
        port = free_ports()
        playing = Played(port)
        self.addCleanup(listeners.stop)
        self.addCleanup(playing.stop)
        self.at()
        self.page.get_by_role("button", name="Devices").click()
        new = self.page.get_by_role("form", name="A new device")
        new.get_by_role("button", name="add a device").click()
        expect(new).to_contain_text("A name, such as shunt.")
        new.get_by_label("name").fill("boxes")
        new.get_by_label("address").fill(f"127.0.0.1:{port}")
        new.get_by_role("button", name="add a device").click()
        device = self.page.locator("[data-device=boxes]")
        expect(device).to_contain_text("reading")
        expect(self.page.get_by_text("From devices")).to_be_visible()
        self.page.get_by_role("tab", name="Now").click()
        expect(self.page.locator("[data-sentence]")).to_be_visible()
        self.accessible()
        device.get_by_role("button", name="switch off").click()
        expect(device).to_contain_text("off")
        self.assertGreater(Reading.objects.filter(source="boxes", pv_w__gt=0).count(), 0)

    def test_a_table_of_any_layout_is_matched_once_and_a_wing_is_tilted_by_the_total(self):
        self.at()
        rows = [f"2027-06-13 1{k}:30;{200 + 20 * k};26,{k}" for k in range(5)]
        rows += ["2027-06-13 16:30;much;26,5", rows[0]]
        with tempfile.TemporaryDirectory() as folder:
            kept = Path(folder) / "meter.csv"
            kept.write_text("\n".join(["Wann;Sonne;Akku", *rows]))
            page = self.page
            self.fold("Files in and out")
            page.get_by_label("readings", exact=True).set_input_files(kept)
            expect(page.get_by_text("No column says when")).to_be_visible()
            page.get_by_label("Wann").select_option(label="time")
            page.get_by_label("Sonne").select_option(label="panels, watts")
            page.get_by_label("Akku").select_option(label="bank, volts")
            expect(page.get_by_role("status").filter(has_text="readings, 2027-06-13")).to_be_visible()
            expect(page.get_by_text("is no number")).to_be_visible()
            expect(page.get_by_text("is there twice")).to_be_visible()
            page.get_by_role("button", name="bring them in").click()
            expect(page.get_by_text("brought in.")).to_be_visible()
            expect(page.get_by_role("heading", name="The day as it went").first).to_be_visible()
            one = Reading.objects.get(pv_w=240)
            self.assertEqual((one.bank_v, Outing.objects.count()), (26.2, 1))
            page.get_by_label("readings", exact=True).set_input_files(kept)  # matched as before
            expect(page.get_by_label("Sonne")).to_have_value("pv_w")
            page.get_by_role("button", name="bring them in").click()
            expect(page.get_by_text("brought in.")).to_be_visible()
        self.assertEqual(Reading.objects.filter(pv_w=240).count(), 1)  # the same reading is not there twice
        page.get_by_role("tab", name="Now").click()
        page.get_by_text("tilt by the total").click()
        form = page.get_by_role("form", name="Tilt by the total")
        form.get_by_label("tilt, °").fill("ninety")
        form.get_by_role("button", name="note").click()
        expect(page.get_by_role("alert")).to_contain_text("A tilt from -90 to 90")
        for tilt in (0, 12, 24, 36, 48, 36, 24, 12, 0):
            form.get_by_label("tilt, °").fill(str(tilt))
            form.get_by_label("total, W").fill(f"{60 + 240 * cos(radians(tilt - 28)):.0f}")
            form.get_by_role("button", name="note").click()
            expect(form.get_by_label("total, W")).to_have_value("")
        told = page.locator("[data-tilt]")
        expect(told).to_contain_text("is best")
        best = int(re.search(r"(-?\d+)\s*°", told.inner_text())[1])
        self.assertLessEqual(abs(best - 28), 3)
        expect(page.get_by_text("kept here")).to_have_count(0)
        self.assertEqual(Outing.objects.count(), 2)  # the nine are of one outing, begun with the first
        page.get_by_role("tab", name="Her track").click()
        expect(page.get_by_text("No places were read on this outing")).to_be_visible()
        points = "".join(
            f'<trkpt lat="{47 + k / 300:.4f}" lon="9.0"><time>2027-06-14T{8 + k // 12:02}:{k % 12 * 5:02}:00Z</time>'
            "</trkpt>" for k in range(30)
        )  # fmt: skip
        with tempfile.TemporaryDirectory() as folder:
            kept = Path(folder) / "round.gpx"
            kept.write_text(f'<gpx version="1.1" creator="a boat"><trk><trkseg>{points}</trkseg></trk></gpx>')
            page.get_by_label("readings", exact=True).set_input_files(kept)
            page.get_by_role("button", name="bring them in").click()
            expect(page.get_by_text("brought in.")).to_be_visible()
        expect(page.get_by_role("img", name="Her track, north up, from 10:0")).to_be_visible()
        self.assertEqual(
            page.locator("[data-track] [data-hour] text").all_text_contents(), ["11:00", "12:00"]
        )
