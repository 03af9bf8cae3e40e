"""Devices: played on loopback and listened to; floods, nonsense, one that goes away and comes again."""

from __future__ import annotations

import asyncio
import io
import json
import socket
import threading
import time
from argparse import ArgumentParser, Namespace
from collections.abc import Callable
from datetime import UTC, datetime, timedelta
from typing import Any
from unittest import mock

from django.conf import settings
from django.db import OperationalError
from django.test import SimpleTestCase, TransactionTestCase
from parhelion.formats.boat_file import read_boat
from parhelion.formats.device_line import Form, NoLine, line_values
from parhelion.meters.stand_ins import sentence
from parhelion.stand_ins import StandIns, devices_arguments, lines_of_day, lines_of_readings, played_for
from parhelion.stations.log.brought import brought_readings

from outings import devices
from outings.devices import MOST_LINES_S, listeners
from outings.models import Reading

DEMO = (settings.ROOT / "demo" / "whimbrel.json").read_bytes()
WAIT_S = 60.0
KN = 1852 / 3600


def free_ports() -> int:
    """The first of four ports next to each other that nobody listens on."""
    for port in range(20_400, 30_000, 7):
        try:
            for one in range(port, port + 4):
                with socket.socket() as probe:
                    probe.bind(("127.0.0.1", one))
        except OSError:
            continue
        return port
    raise OSError("no free ports")


class Played:
    """A boat that plays in a thread until it is told to stop."""

    def __init__(self, port: int, *more: str):
        parser = ArgumentParser()
        devices_arguments(parser)
        asked: Namespace = parser.parse_args(["--port", str(port), "--from-hour", "11", *more])
        self._playing = StandIns(lines_of_day(played_for(read_boat(DEMO), asked), asked), asked)
        self._stopped = threading.Event()
        self._thread = threading.Thread(target=lambda: asyncio.run(self._until_stopped()), daemon=True)
        self._thread.start()

    async def _until_stopped(self) -> None:
        playing = asyncio.ensure_future(self._playing.play(io.StringIO()))
        while not self._stopped.is_set():
            await asyncio.sleep(0.1)
        playing.cancel()
        await asyncio.gather(playing, return_exceptions=True)

    def stop(self) -> None:
        self._stopped.set()
        self._thread.join(10)


class ReplayTest(SimpleTestCase):
    def test_what_was_read_is_said_again_in_its_order(self) -> None:
        table = "time,PV W,Bank V,STW kn\n10:00,300,26.2,\n10:01,310,26.3,3.1\n10:30,290,26.1,3.0\n"
        readings = brought_readings(read_boat(DEMO), table).readings
        said = lines_of_readings(readings, Namespace(speed=60.0))
        seconds = [said(second) for second in range(32)]
        self.assertEqual([len(lines.plain) for lines in seconds[:31] if lines], [1, 1, *[0] * 28, 1])
        self.assertIsNone(seconds[31])
        heard = [line_values(line, Form.JSON_LINES) for lines in seconds if lines for line in lines.plain]
        for one, reading in zip(heard, readings, strict=True):
            self.assertEqual(one.values, {n: getattr(reading, n) for n in one.values})
        self.assertEqual([sorted(one.values) for one in heard[:2]],
                         [["bank_v", "pv_w"], ["bank_v", "pv_w", "speed_mps"]])  # fmt: skip


class DevicesTest(TransactionTestCase):
    def setUp(self) -> None:
        self.boat = self.client.post("/api/boats/file", DEMO, content_type="application/json").json()
        self.at = f"/api/boats/{self.boat['id']}/devices"
        self.addCleanup(listeners.stop)

    def put(self, name: str, form: Form, port: int, **more: Any) -> Any:
        body = {"id": name, "name": name, "form": form, "port": port, **more}
        return self.client.put(self.at, body, content_type="application/json")

    def until(self, so: Callable[[dict[str, Any]], bool]) -> dict[str, Any]:
        ends = time.monotonic() + WAIT_S
        while True:
            found = {one["id"]: one for one in self.client.get(self.at).json()}
            if so(found):
                return found
            self.assertLess(time.monotonic(), ends, found)
            time.sleep(0.3)

    def test_four_devices_are_played_listened_to_and_kept_and_one_comes_again(self) -> None:
        port = free_ports()
        self.put("boxes", Form.JSON_LINES, port)
        self.put("log", Form.NMEA_TCP, port + 1)
        self.put("radio", Form.NMEA_UDP, port + 2)
        self.put("hub", Form.DELTAS, port + 3)
        self.until(lambda found: all(one["state"] == "away" for i, one in found.items() if i != "radio"))
        playing = Played(port, "--nonsense", "0.1")
        self.addCleanup(playing.stop)
        found = self.until(lambda found: all(one["kept"] > 0 for one in found.values()))
        self.assertTrue(all(one["state"] == "reading" for one in found.values()))
        self.assertGreater(found["boxes"]["values"]["pv_w"], 0)
        heard = [one for device in found.values() for one in device["heard"]]
        self.assertEqual({one["source"] for one in heard}, set(found))
        latest = max(datetime.fromisoformat(one["at"]) for one in heard)
        self.assertLess(datetime.now(UTC) - latest, timedelta(seconds=2))
        self.assertAlmostEqual(found["log"]["values"]["speed_mps"], 3.6 * KN, delta=0.3)
        self.until(lambda found: found["boxes"]["wrong"] + found["log"]["wrong"] > 0)
        rows = list(Reading.objects.filter(source="boxes"))
        self.assertEqual({row.of for row in rows}, {"canopy-controller", "wing-controller", None})
        self.assertEqual(len({row.outing_key for row in Reading.objects.all()}), 1)
        playing.stop()
        self.until(lambda found: found["boxes"]["state"] == "away")
        again = Played(port)
        self.addCleanup(again.stop)
        self.until(lambda found: found["boxes"]["state"] == "reading")
        self.assertEqual(self.client.delete(f"{self.at}/boxes").status_code, 204)
        self.assertEqual(self.client.delete(f"{self.at}/boxes").status_code, 404)
        self.assertNotIn("boxes", {one["id"] for one in self.client.get(self.at).json()})
        heard = self.until(lambda found: bool(found["log"]["values"]) and found["log"]["state"] == "reading")
        kept = Reading.objects.filter(source="log").count()
        time.sleep(1.2)  # less than until the next are kept
        listeners.end()
        self.assertGreater(Reading.objects.filter(source="log").count(), kept)
        self.assertGreater(heard["log"]["kept"], 0)

    def test_a_flood_is_thinned_and_half_lines_are_counted(self) -> None:
        port = free_ports()
        lines = (
            b'{"bank_v": 26.4}\n' * 4_000 + b'{"bank_v": 26.4, \n' + b"x" * 30_000 + b'\n{"bank_v": 1e9}\n'
        )

        def flood() -> None:
            with socket.create_server(("127.0.0.1", port)) as server:
                talk, _ = server.accept()
                with talk:
                    talk.sendall(lines)
                    time.sleep(3)
                    talk.sendall(b'{"bank_v": 26.2}\nnonsense\n')
                    time.sleep(20)

        threading.Thread(target=flood, daemon=True).start()
        self.put("shunt", Form.JSON_LINES, port)
        found = self.until(lambda found: found["shunt"]["kept"] > 0 and found["shunt"]["wrong"] > 0)["shunt"]
        self.assertGreater(found["let_go"], 4_000 - 8 * MOST_LINES_S)
        self.assertLessEqual(Reading.objects.count(), 6)

    def test_what_the_database_cannot_take_is_held_and_kept_later(self) -> None:
        port = free_ports()
        tries: list[int] = []

        def locked_at_first(boat_id: Any, readings: Any) -> None:
            tries.append(len(readings))
            if len(tries) < 3:
                raise OperationalError("database is locked")
            keep(boat_id, readings)

        keep = devices._keep
        playing = Played(port)
        self.addCleanup(playing.stop)
        with mock.patch.object(devices, "_keep", locked_at_first):
            self.put("boxes", Form.JSON_LINES, port)
            self.until(lambda found: len(tries) >= 3 and Reading.objects.exists())
        self.assertGreater(tries[1], tries[0])
        self.assertGreaterEqual(Reading.objects.count(), tries[2])

    def test_a_name_twice_and_a_place_that_is_none_are_refused(self) -> None:
        self.assertEqual(self.put("shunt", Form.JSON_LINES, 1, is_on=False).status_code, 204)
        body = {"id": "b", "name": "shunt", "form": "json_lines", "port": 2}
        reply = self.client.put(self.at, body, content_type="application/json")
        self.assertIn("name", reply.json()["errors"][0]["field"])
        for wrong in ({"port": 0}, {"host": "a b"}, {"form": "song"}, {"name": ""}):
            reply = self.client.put(self.at, {**body, "name": "c", **wrong}, content_type="application/json")
            self.assertEqual(reply.status_code, 422, wrong)
        self.assertEqual(self.client.get(self.at).json()[0]["state"], "off")


class LinesTest(TransactionTestCase):
    def test_each_form_says_its_values_and_nonsense_is_none(self) -> None:
        plain = line_values('{"of": "a", "pv_w": 310, "song": 1, "pv_v": true}', Form.JSON_LINES)
        self.assertEqual((plain.values, plain.of), ({"pv_w": 310.0}, "a"))
        delta = json.dumps({"updates": [{"values": [
            {"path": "electrical.batteries.1.voltage", "value": 26.1}, {"path": "navigation.speedOverGround", "value": 2},
            {"path": "steering.rudderAngle", "value": 1}, {"path": "electrical.solar.1.panelPower", "value": None},
        ]}]})  # fmt: skip
        self.assertEqual(line_values(delta, Form.DELTAS).values, {"bank_v": 26.1, "ground_mps": 2.0})
        told = line_values(sentence("VWVHW,,T,,M,3.60,N,6.67,K"), Form.NMEA_TCP).values
        self.assertAlmostEqual(told["speed_mps"], 3.6 * KN)
        self.assertEqual(line_values(sentence("GPGSV,1,1,00"), Form.NMEA_TCP).values, {})
        for line, form in (("{", Form.JSON_LINES), ("[]", Form.DELTAS), ('{"song": 1}', Form.JSON_LINES),
                           ("$GPRMC,1*00", Form.NMEA_TCP), ("x" * 5000, Form.JSON_LINES)):  # fmt: skip
            with self.assertRaises(NoLine):
                line_values(line, form)
