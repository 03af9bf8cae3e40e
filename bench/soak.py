"""Five devices say fifty lines a second for an hour to a boat whose page stands open.

    python bench/soak.py                 an hour
    python bench/soak.py --minutes 2     a taste of it

Prints what was said and heard, what was kept, the share of a processor, the memory at the beginning and the
end, and how far behind "now" was at worst.
"""

from __future__ import annotations

import argparse
import asyncio
import json
import os
import sys
import tempfile
import threading
import time
from pathlib import Path

from attack import ROOT, Server
from websockets.asyncio.server import serve

sys.path.insert(0, str(ROOT / "core"))
A_SECOND = 10  # lines of each device
KEPT_EVERY_S = 5.0
LOOKED_EVERY_S = 1.0  # as the page does


class Devices:
    """Three that speak JSON lines, one NMEA 0183, one deltas; each says how many seconds it has been on."""

    def __init__(self) -> None:
        self.began = time.monotonic()
        self.said = [0] * 5
        self.ports: list[int] = []
        self.ready = threading.Event()
        threading.Thread(target=lambda: asyncio.run(self._run()), daemon=True).start()
        self.ready.wait(10)

    def on_s(self) -> float:
        return round(time.monotonic() - self.began, 2)

    def line(self, number: int) -> str:
        from parhelion.meters.stand_ins import sentence

        if number < 3:
            return json.dumps({"of": f"box-{number}", "pv_w": self.on_s()})
        if number == 3:
            return sentence(f"VWVHW,,T,,M,{5 + self.on_s() % 5:.2f},N,,K")
        value = {"path": "electrical.batteries.bank.current", "value": self.on_s() % 100}
        return json.dumps({"updates": [{"values": [value]}]})

    async def _run(self) -> None:
        async def lines(number: int, writer: asyncio.StreamWriter) -> None:
            begun = time.monotonic() - self.said[number] / A_SECOND
            while True:
                writer.write(self.line(number).encode() + b"\n")
                await writer.drain()
                self.said[number] += 1
                await asyncio.sleep(max(begun + self.said[number] / A_SECOND - time.monotonic(), 0))

        async def deltas(talk) -> None:  # type: ignore[no-untyped-def]
            begun = time.monotonic() - self.said[4] / A_SECOND
            while True:
                await talk.send(self.line(4))
                self.said[4] += 1
                await asyncio.sleep(max(begun + self.said[4] / A_SECOND - time.monotonic(), 0))

        for number in range(4):
            server = await asyncio.start_server(
                lambda _, writer, number=number: lines(number, writer), "127.0.0.1", 0
            )
            self.ports.append(server.sockets[0].getsockname()[1])
        last = await serve(deltas, "127.0.0.1", 0)
        self.ports.append(next(iter(last.sockets)).getsockname()[1])
        self.ready.set()
        await asyncio.Event().wait()


def used(pid: int) -> tuple[float, float]:
    """Seconds of processor that a process has used, and its memory [MB]."""
    parts = Path(f"/proc/{pid}/stat").read_text().rsplit(")", 1)[1].split()
    seconds = (int(parts[11]) + int(parts[12])) / os.sysconf("SC_CLK_TCK")
    return seconds, int(parts[21]) * os.sysconf("SC_PAGE_SIZE") / 1e6


def main() -> int:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--minutes", type=float, default=60.0)
    minutes = parser.parse_args().minutes
    with tempfile.TemporaryDirectory() as folder:
        server = Server(folder)
        server.start()
        try:
            return soak(server, minutes)
        finally:
            server.process.kill()
            server.process.wait()


def soak(server: Server, minutes: float) -> int:
    content = (ROOT / "demo" / "grebe.json").read_bytes()
    boat = json.loads(server.call("POST", "/api/boats/file", content)[2])["id"]
    devices = Devices()
    forms = ["json_lines"] * 3 + ["nmea_tcp", "deltas"]
    for number, (form, port) in enumerate(zip(forms, devices.ports, strict=True)):
        body = {"id": f"d{number}", "name": f"Device {number}", "form": form, "port": port}
        status, _, said = server.call("PUT", f"/api/boats/{boat}/devices", json.dumps(body).encode())
        if status != 204:
            raise SystemExit(said.decode())
    server.call("GET", f"/api/boats/{boat}/devices")
    time.sleep(20)  # connected, and everything that is loaded once is loaded
    began, (cpu, first_mb) = time.monotonic(), used(server.process.pid)
    behind, most_mb = 0.0, first_mb
    while time.monotonic() - began < minutes * 60:
        time.sleep(LOOKED_EVERY_S)
        told = json.loads(server.call("GET", f"/api/boats/{boat}/devices")[2])
        on_s = devices.on_s()
        behind = max(behind, *(on_s - one["values"].get("pv_w", 0.0) for one in told[:3]))
        most_mb = max(most_mb, used(server.process.pid)[1])
    lasted = time.monotonic() - began
    cpu_after, last_mb = used(server.process.pid)
    time.sleep(KEPT_EVERY_S + 1)
    said = list(devices.said)
    told = json.loads(server.call("GET", f"/api/boats/{boat}/devices")[2])
    logbook = json.loads(server.call("GET", f"/api/boats/{boat}/logbook/file")[2])
    heard = [one["lines"] for one in told]
    rows = [
        ("lines said", sum(said)), ("lines heard", sum(heard)),
        ("not understood or let go", sum(one["wrong"] + one["let_go"] for one in told)),
        ("readings kept, by device", [one["kept"] for one in told]),
        ("outings", len(logbook["outings"])),
        ("share of a processor", f"{(cpu_after - cpu) / lasted:.3f}"),
        ("memory, MB: first, most, last", f"{first_mb:.0f}, {most_mb:.0f}, {last_mb:.0f}"),
        ("now was behind by, s", f"{behind:.1f}"),
    ]  # fmt: skip
    for name, value in rows:
        print(f"{name:32s} {value}")
    windows = int(lasted / KEPT_EVERY_S)
    lost = sum(said) - sum(heard) > 5 * A_SECOND or any(one["kept"] < windows for one in told)
    return int(lost or any(one["wrong"] or one["let_go"] for one in told))


if __name__ == "__main__":
    sys.exit(main())
