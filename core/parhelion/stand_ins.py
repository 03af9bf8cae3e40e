"""`parhelion devices BOAT.json`: simulated devices on loopback, so that the Log can be tried without any.

A shell beside the terminal, and like it outside the rooms: only here are sockets opened. Plain JSON lines and
NMEA 0183 over TCP, the same sentences over UDP, JSON deltas over a WebSocket; on 127.0.0.1 and nowhere else.
"""

from __future__ import annotations

import asyncio
import json
from argparse import ArgumentParser, Namespace
from collections.abc import Callable
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Any, TextIO

from websockets.asyncio.server import ServerConnection, serve

from parhelion.design import BoatDesign, Sky
from parhelion.design.logbook import VALUES, Reading
from parhelion.diagnosis.conditions import Condition
from parhelion.diagnosis.day_model import Around
from parhelion.errors import ParhelionError, Problem
from parhelion.meters.played import Fault, Played, TrueDay, played_day
from parhelion.meters.stand_ins import Lines, Ways, lines_at
from parhelion.stations.log.brought import brought_readings
from parhelion.sun.climate import usual_air_temperature_c
from parhelion.sun.zone import zone_at
from parhelion.wiring.by_itself import absorption_v
from parhelion.wiring.circuits import float_v

HOST, PORT = "127.0.0.1", 10210
Said = Callable[[int], Lines | None]  # of a second; None when all was said
MOST_WAITING = 200  # lines that a slow listener may be behind


def devices_arguments(command: ArgumentParser) -> None:
    command.add_argument("--port", type=int, default=PORT, help="JSON lines; the next are NMEA, UDP, deltas")
    command.add_argument("--speed", type=float, default=60.0, help="seconds of the day that pass in one")
    command.add_argument("--from-hour", type=float, default=9.0, help="of the day that is played")
    command.add_argument("--seconds", type=float, default=0.0, help="end after so many; 0: never")
    command.add_argument("--seed", type=int, default=1)
    command.add_argument("--sky-word", default="clear", choices=list(Sky))
    command.add_argument("--lame", default="", help="a controller whose panels give half, by its id")
    command.add_argument("--replay", default="", help="a table of readings, played again in their order")
    for name, usual in (("noise", 0.005), ("gain", 1.0), ("offset-a", 0.0), ("lag-s", 0.0), ("drops", 0.0),
                        ("nonsense", 0.0)):  # fmt: skip
        command.add_argument(f"--{name}", type=float, default=usual)


def played_for(design: BoatDesign, arguments: Namespace) -> TrueDay:
    """The day that is played.

    Raises
    ------
    ParhelionError
        Where the boat has no bank or no panels to play.
    """
    bank = design.bank
    if bank is None or not design.fitted_panels:
        problem = Problem(code="nothing_to_play", message="This boat has no bank, or no panels.",
                          accepted="a boat with both")  # fmt: skip
        raise ParhelionError([problem])
    zone = zone_at(design.site.latitude_deg, design.site.longitude_deg)
    start = datetime.combine(design.plan.date, datetime.min.time(), zone)
    high = usual_air_temperature_c(design.site.latitude_deg, design.plan.date)
    word, hour = Sky(arguments.sky_word), arguments.from_hour
    trips = tuple(
        (
            s.starts_at.hour + s.starts_at.minute / 60,
            s.ends_at.hour + s.ends_at.minute / 60,
            design.plan.speed_mps,
        )
        for s in design.plan.spells or ()
    )
    lame = ((arguments.lame, 0.5, 0.0),) if arguments.lame else ()
    play = Played(
        arguments.seed, ((hour, word),), trips or ((hour, 24.0, design.plan.speed_mps),),
        design.plan.start_charge_frac, fault=Fault(Condition.FINE), gaps=0.0, boxes=lame,
    )  # fmt: skip
    return played_day(design, start, Around(high - 8, high, absorption_v(bank), float_v(bank)), play)


def lines_of_day(day: TrueDay, asked: Namespace) -> Said:
    """What the devices of a played day say, second by second."""
    ways = Ways(asked.noise, asked.gain, asked.offset_a, asked.lag_s, asked.drops, asked.nonsense)

    def said(second: int) -> Lines:
        minute = asked.from_hour * 60 + second * asked.speed / 60
        told = (day.log.timeline.starts_at + timedelta(minutes=minute)).astimezone(UTC)
        return lines_at(day, minute, told, ways, asked.seed * 100_003 + second)

    return said


def lines_of_readings(readings: list[Reading], asked: Namespace) -> Said:
    """What was read, said again in its order as JSON lines; nothing more after the last.

    Parameters
    ----------
    readings : list of Reading
        Some, the earliest first.
    asked : Namespace
        With `speed`, seconds of the readings that pass in one.
    """
    first = readings[0].at

    def said(second: int) -> Lines | None:
        since, until = (first + timedelta(seconds=asked.speed * s) for s in (second, second + 1))
        if since > readings[-1].at:
            return None
        now = [reading for reading in readings if since <= reading.at < until]
        return Lines([_line(reading) for reading in now], [], "")

    return said


def _line(reading: Reading) -> str:
    told = {name: getattr(reading, name) for name in VALUES if getattr(reading, name) is not None}
    return json.dumps(told if reading.of is None else {"of": reading.of, **told})


class StandIns:
    """The devices of one boat, playing."""

    def __init__(self, said: Said, arguments: Namespace):
        self.said, self.asked = said, arguments
        self._listeners: dict[str, set[asyncio.Queue[str | None]]] = {
            "plain": set(),
            "nmea": set(),
            "delta": set(),
        }

    def _send(self, to: str, line: str) -> None:
        for waiting in self._listeners[to]:
            if waiting.qsize() < MOST_WAITING:
                waiting.put_nowait(line)

    async def _follow(self, to: str, give: Callable[[str], Any]) -> None:
        waiting: asyncio.Queue[str | None] = asyncio.Queue()
        self._listeners[to].add(waiting)
        try:
            while (line := await waiting.get()) is not None:
                await give(line)
        finally:
            self._listeners[to].discard(waiting)

    def _tcp(self, to: str) -> Callable[[asyncio.StreamReader, asyncio.StreamWriter], Any]:
        async def serve_one(reader: asyncio.StreamReader, writer: asyncio.StreamWriter) -> None:
            async def give(line: str) -> None:
                writer.write(line.encode() + b"\r\n")
                await writer.drain()

            try:
                await self._follow(to, give)
            except ConnectionError:
                pass
            finally:
                writer.close()

        return serve_one

    async def _socket(self, connection: ServerConnection) -> None:
        await self._follow("delta", connection.send)

    async def play(self, out: TextIO) -> None:
        """Until it is stopped, or the seconds are over."""
        port, loop = self.asked.port, asyncio.get_running_loop()
        datagrams, _ = await loop.create_datagram_endpoint(
            asyncio.DatagramProtocol, remote_addr=(HOST, port + 2)
        )
        async with (
            await asyncio.start_server(self._tcp("plain"), HOST, port),
            await asyncio.start_server(self._tcp("nmea"), HOST, port + 1),
            serve(self._socket, HOST, port + 3),
        ):
            out.write(
                f"JSON lines at {HOST}:{port}, NMEA 0183 at {HOST}:{port + 1} and by UDP to {port + 2}, "
                f"JSON deltas at ws://{HOST}:{port + 3}\n"
            )
            out.flush()
            try:
                await self._seconds(datagrams)
            finally:
                datagrams.close()
                for waiting in (one for some in self._listeners.values() for one in some):
                    waiting.put_nowait(None)  # the devices hang up

    async def _seconds(self, datagrams: asyncio.DatagramTransport) -> None:
        second = 0
        while not self.asked.seconds or second < self.asked.seconds:
            lines = self.said(second)
            if lines is None:
                return
            for line in lines.plain:
                self._send("plain", line)
            for line in lines.sentences:
                self._send("nmea", line)
                datagrams.sendto(line.encode() + b"\r\n")
            if lines.delta:
                self._send("delta", lines.delta)
            second += 1
            await asyncio.sleep(1.0)


def _replayed(design: BoatDesign, arguments: Namespace) -> Said:
    """The readings of the file that is named."""
    try:
        text = Path(arguments.replay).read_text(encoding="utf-8", errors="replace")
    except OSError as error:
        problem = Problem(code="no_file", message=f"{arguments.replay}: {error.strerror}",
                          accepted="a table of readings, a GPX track or an NMEA log")  # fmt: skip
        raise ParhelionError([problem]) from error
    found = brought_readings(design, text)
    if not found.readings:
        problem = Problem(code="nothing_to_play", message=found.lacks,
                          accepted="a table whose columns are named, such as time and PV power")  # fmt: skip
        raise ParhelionError([problem])
    return lines_of_readings(found.readings, arguments)


def devices(design: BoatDesign, arguments: Namespace, out: TextIO) -> None:
    """Plays the devices of a boat on loopback."""
    try:
        said = _replayed(design, arguments) if arguments.replay else None
        said = said or lines_of_day(played_for(design, arguments), arguments)
        asyncio.run(StandIns(said, arguments).play(out))
    except KeyboardInterrupt:
        out.write("stopped\n")
