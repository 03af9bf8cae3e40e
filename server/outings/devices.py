"""Listens to devices: connects, reads lines, thins them to readings, and connects again by itself.

One thread with a loop of its own for all boats. What a device says is gathered for some seconds and kept as
one reading of each part; a flood is thinned, nonsense counted, silence told. Readings go to the outing that
is going on; where none is, one begins.
"""

from __future__ import annotations

import asyncio
import atexit
import contextlib
import threading
import time
import uuid
from collections.abc import AsyncIterator
from dataclasses import dataclass, field, replace
from datetime import UTC, datetime, timedelta
from uuid import UUID

from asgiref.sync import sync_to_async
from boats.models import Boat
from django.db import close_old_connections
from parhelion.design.logbook import LONGEST_OUTING_H, Reading
from parhelion.design.logbook import Outing as OutingDocument
from parhelion.formats.device_line import LONGEST_LINE, Form, NoLine, line_values
from pydantic import ValidationError
from websockets.asyncio.client import connect

from outings.actions import put_outing, put_readings
from outings.models import Device, Outing

EVERY_S = 5.0  # a reading of each part
MOST_LINES_S = 400  # of a device in a second; more are let go
SILENT_S = 20.0
FRESH_S = 10.0  # so long a value is what a device says this moment
MOST_PARTS = 20  # of a device that are told this moment
MOST_WAITING = 20_000  # readings of a boat held while the database cannot take them: the oldest go first
FIRST_PAUSE_S, LONGEST_PAUSE_S = 1.0, 30.0


@dataclass
class State:
    """What is known of a device at the moment."""

    state: str = "connecting"  # connecting, reading, silent, away
    lines: int = 0
    wrong: int = 0
    let_go: int = 0
    kept: int = 0
    last_at: datetime | None = None
    told: str = ""  # what went wrong last
    values: dict[str, float] = field(default_factory=dict)
    heard: list[Reading] = field(default_factory=list)  # what each part says this moment, not kept yet


class _Gathering:
    """What a device has said since the last reading, by part; and what it says this moment."""

    def __init__(self) -> None:
        self._sums: dict[str | None, dict[str, tuple[float, int]]] = {}
        self._last: dict[str | None, dict[str, tuple[datetime, float]]] = {}

    def add(self, of: str | None, values: dict[str, float], at: datetime) -> None:
        self._last[of] = {**self._last.get(of, {}), **{name: (at, value) for name, value in values.items()}}
        mine = self._sums.setdefault(of, {})
        for name, value in values.items():
            whole, number = mine.get(name, (0.0, 0))
            mine[name] = (whole + value, number + 1)

    def fresh(self) -> dict[str | None, tuple[datetime, dict[str, float]]]:
        """By part: when it last said anything, and what it said in the last seconds."""
        since, found = datetime.now(UTC) - timedelta(seconds=FRESH_S), {}
        for of, said in self._last.items():
            values = {name: value for name, (at, value) in said.items() if at >= since}
            if values:
                found[of] = max(at for at, _ in said.values()), values
        return found

    def taken(self) -> dict[str | None, dict[str, float]]:
        found = {
            of: {name: whole / number for name, (whole, number) in mine.items()}
            for of, mine in self._sums.items()
        }
        self._sums = {}
        said_lately = self.fresh()
        self._last = {of: said for of, said in self._last.items() if of in said_lately}
        return found


async def _lines(form: Form, host: str, port: int) -> AsyncIterator[str]:
    """Lines of a device until it goes away."""
    if form is Form.DELTAS:
        async with connect(f"ws://{host}:{port}", max_size=LONGEST_LINE * 4, open_timeout=5) as talk:
            async for message in talk:
                yield message if isinstance(message, str) else message.decode(errors="replace")
        return
    if form is Form.NMEA_UDP:
        waiting: asyncio.Queue[bytes] = asyncio.Queue(MOST_LINES_S * 2)

        class Heard(asyncio.DatagramProtocol):
            def datagram_received(self, data: bytes, addr: object) -> None:
                if not waiting.full():
                    waiting.put_nowait(data)

        transport, _ = await asyncio.get_running_loop().create_datagram_endpoint(
            Heard, local_addr=(host, port)
        )
        try:
            while True:
                for told in (await waiting.get()).decode(errors="replace").splitlines():
                    yield told
        finally:
            transport.close()
    reader, writer = await asyncio.wait_for(asyncio.open_connection(host, port, limit=LONGEST_LINE * 4), 5)
    try:
        while True:
            try:
                line = await reader.readuntil(b"\n")
            except asyncio.LimitOverrunError as error:
                await reader.readexactly(error.consumed)
                yield "x" * (LONGEST_LINE + 1)
                continue
            except asyncio.IncompleteReadError:
                return
            yield line.decode(errors="replace").strip()
    finally:
        writer.close()


class _Listening:
    """One device, listened to."""

    def __init__(self, device: Device):
        self.boat_id: UUID = device.boat_id
        self.key, self.name, self.of = device.key, device.name, device.of
        self.form, self.host, self.port = Form(device.form), device.host, device.port
        self.state = State()
        self._gathering = _Gathering()
        self._second, self._in_second = 0, 0

    def same(self, device: Device) -> bool:
        mine = (self.name, self.of, str(self.form), self.host, self.port)
        return mine == (device.name, device.of, device.form, device.host, device.port)

    def hear(self, line: str) -> None:
        """A line has come."""
        if not line:
            return
        now = int(time.monotonic())
        self._in_second = self._in_second + 1 if now == self._second else 1
        self._second = now
        self.state.lines += 1
        if self._in_second > MOST_LINES_S:
            self.state.let_go += 1
            self.state.told = f"more than {MOST_LINES_S} lines a second: the rest is let go"
            return
        try:
            said = line_values(line, self.form)
        except NoLine as error:
            self.state.wrong += 1
            self.state.told = str(error)
            return
        if said.values:
            self.state.state, self.state.last_at = "reading", datetime.now(UTC)
            self.state.values = {**self.state.values, **said.values}
            self._gathering.add(said.of or self._part(said.values), said.values, self.state.last_at)

    def _part(self, values: dict[str, float]) -> str | None:
        return self.of if any(name.startswith("pv_") for name in values) else None

    def readings(self) -> list[Reading]:
        """What was gathered, as readings; what cannot be is counted as wrong."""
        at, found = datetime.now(UTC) - timedelta(seconds=EVERY_S / 2), []
        for of, values in self._gathering.taken().items():
            try:
                found.append(self._reading(uuid.uuid4().hex, at, of, values))
            except ValidationError as error:
                self.state.wrong += 1
                self.state.told = error.errors()[0]["msg"]
        return found

    def _reading(self, key: str, at: datetime, of: str | None, values: dict[str, float]) -> Reading:
        return Reading.model_validate({"id": key, "at": at, "source": self.name, "of": of, **values})

    def now(self) -> State:
        """Its state, with what it says this moment."""
        heard = []
        latest = sorted(self._gathering.fresh().items(), key=lambda item: item[1][0])[-MOST_PARTS:]
        for number, (of, (at, values)) in enumerate(latest):
            with contextlib.suppress(ValidationError):  # counted where it is kept
                heard.append(self._reading(f"{self.key}-{number}"[-40:], at, of, values))
        return replace(self.state, heard=heard)

    async def run(self) -> None:
        """Until it is stopped: connect, listen, and again."""
        pause = FIRST_PAUSE_S
        while True:
            try:
                async for line in _lines(self.form, self.host, self.port):
                    self.hear(line)
                    pause = FIRST_PAUSE_S
                self.state.told = "the device hung up"
            except asyncio.CancelledError:
                raise
            except Exception as error:  # whatever a network may do: said, and tried again
                self.state.told = str(error) or type(error).__name__
            self.state.state = "away"
            await asyncio.sleep(pause)
            pause = min(pause * 2, LONGEST_PAUSE_S)


def _outing_now(boat: Boat, at: datetime) -> str:
    """The outing that is going on; one begins where none is."""
    latest = Outing.objects.filter(boat=boat, withdrawn_at=None, began_at__lte=at).last()
    if latest is not None:
        document = OutingDocument.model_validate(latest.content)
        fresh = at - document.began_at < timedelta(hours=LONGEST_OUTING_H)
        if document.ended_at is None and fresh:
            return latest.key
    begun = OutingDocument(id=uuid.uuid4().hex, name="From devices", began_at=at)
    put_outing(boat, begun)
    return begun.id


def _keep(boat_id: UUID, readings: list[Reading]) -> None:
    close_old_connections()
    boat = Boat.objects.get(pk=boat_id)
    outing = _outing_now(boat, min(reading.at for reading in readings))
    put_readings(boat, [reading.model_copy(update={"outing_id": outing}) for reading in readings])


class Listeners:
    """All devices that are listened to."""

    def __init__(self) -> None:
        self._heard: dict[tuple[UUID, str], tuple[_Listening, asyncio.Task[None]]] = {}
        self._loop: asyncio.AbstractEventLoop | None = None
        self._thread: threading.Thread | None = None
        self._lock = threading.Lock()
        self._waiting: dict[UUID, list[Reading]] = {}

    def _running(self) -> asyncio.AbstractEventLoop:
        with self._lock:
            if self._loop is None:
                atexit.register(self.end)
                self._loop = asyncio.new_event_loop()
                self._thread = threading.Thread(target=self._loop.run_forever, name="devices", daemon=True)
                self._thread.start()
                asyncio.run_coroutine_threadsafe(self._flush(), self._loop)
            return self._loop

    def match(self, boat_id: UUID, devices: list[Device]) -> dict[str, State]:
        """Listen to these devices of a boat and to no others of hers; what is known of each."""
        wanted = {device.key: device for device in devices if device.is_on}
        if not wanted and self._loop is None:
            return {}
        done = asyncio.run_coroutine_threadsafe(self._matched(boat_id, wanted), self._running())
        return done.result(timeout=10)

    async def _matched(self, boat_id: UUID, wanted: dict[str, Device]) -> dict[str, State]:
        for (boat, key), (listening, task) in list(self._heard.items()):
            if boat == boat_id and (key not in wanted or not listening.same(wanted[key])):
                task.cancel()
                self._waiting.setdefault(boat, []).extend(listening.readings())
                del self._heard[boat, key]
        for key, device in wanted.items():
            if (boat_id, key) not in self._heard:
                listening = _Listening(device)
                self._heard[boat_id, key] = (listening, asyncio.ensure_future(listening.run()))
        return {
            key: listening.now() for (boat, key), (listening, _) in self._heard.items() if boat == boat_id
        }

    async def _flush(self) -> None:
        """Every few seconds what was gathered becomes readings."""
        while True:
            await asyncio.sleep(EVERY_S)
            for (boat, _), (listening, _) in self._heard.items():
                state, last = listening.state, listening.state.last_at
                if (
                    state.state == "reading"
                    and last
                    and datetime.now(UTC) - last > timedelta(seconds=SILENT_S)
                ):
                    state.state = "silent"
                self._waiting.setdefault(boat, []).extend(listening.readings())
            for boat, readings in list(self._waiting.items()):
                if readings:
                    await self._put(boat, readings)

    async def _put(self, boat: UUID, readings: list[Reading]) -> None:
        """Keep what waits; held for the next time where the database cannot take it now."""
        try:
            await sync_to_async(_keep, thread_sensitive=False)(boat, readings)
        except Boat.DoesNotExist:
            self._waiting.pop(boat, None)
        except Exception as error:  # a lock, a full disk: nothing is lost, and said at each of her devices
            self._waiting[boat] = readings[-MOST_WAITING:]
            for (of, _), (listening, _) in self._heard.items():
                if of == boat:
                    listening.state.told = f"{len(readings)} readings wait to be kept: {error}"
        else:
            self._waiting[boat] = []
            for (of, _), (listening, _) in self._heard.items():
                if of == boat:
                    listening.state.kept += sum(one.source == listening.name for one in readings)

    def stop(self) -> None:
        """Hang up everywhere."""
        loop, self._loop = self._loop, None
        if loop is None:
            return
        with contextlib.suppress(TimeoutError):
            asyncio.run_coroutine_threadsafe(self._hung_up(), loop).result(timeout=10)
        self._close(loop)

    def end(self) -> None:
        """As the program ends: what was gathered is kept, without the helpers that are gone by then."""
        loop, self._loop = self._loop, None
        if loop is None:
            return
        with contextlib.suppress(TimeoutError):
            asyncio.run_coroutine_threadsafe(self._let_go(), loop).result(timeout=5)
        for boat, readings in self._waiting.items():
            if readings:
                with contextlib.suppress(Exception):  # there is nobody left to tell
                    _keep(boat, readings)
        self._waiting.clear()
        self._close(loop)

    def _close(self, loop: asyncio.AbstractEventLoop) -> None:
        loop.call_soon_threadsafe(loop.stop)
        if self._thread is not None:
            self._thread.join(10)
        loop.close()

    async def _let_go(self) -> None:
        """Hang up; what was gathered waits to be kept."""
        for (boat, _), (listening, _) in self._heard.items():
            self._waiting.setdefault(boat, []).extend(listening.readings())
        others = [task for task in asyncio.all_tasks() if task is not asyncio.current_task()]
        for task in others:
            task.cancel()
        await asyncio.gather(*others, return_exceptions=True)
        self._heard.clear()

    async def _hung_up(self) -> None:
        await self._let_go()
        for boat, readings in list(self._waiting.items()):
            if readings:
                await self._put(boat, readings)
        self._waiting.clear()


listeners = Listeners()
