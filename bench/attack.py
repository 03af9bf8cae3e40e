"""Throws at it what nobody should: mutated designs, nonsense to every address and reader, kills during saves.

    make attack                 the long run: 3,000 designs, 10,000 calls, 100 kills
    make attack SCALE=0.02      a fiftieth of it

Prints a table of what held. An answer must be finite and not absurd, a refusal in the one shape, nothing
slower than ten seconds, and nothing acknowledged may be lost.
"""

from __future__ import annotations

import argparse
import json
import os
import random
import signal
import socket
import subprocess
import sys
import tempfile
import time
import urllib.error
import urllib.request
from concurrent.futures import ProcessPoolExecutor
from pathlib import Path
from typing import Any

ROOT = Path(__file__).resolve().parents[1]
sys.path.insert(0, str(ROOT / "core"))
SLOWEST_S = 10.0
NASTY: tuple[Any, ...] = (
    None, True, 0, -1, 1e308, -1e308, 1e-320, "", " ", "x", "\u0000", "\u202e", "9" * 4000, [], {}, [[]],
    "NaN", "../../etc/passwd", "<svg onload=1>", "=1+1", "2027-13-01", "0001-01-01", "9999-12-31", "25:61",
)  # fmt: skip
TEXTS = (
    "", "\r", "a\rb\rc", "1" * 9000 + "x", "(" * 50_000, "[" * 100_000, '"' * 9999, "a," * 50_000, "\u0000"
    * 999, "x" * 200_000, "1,900 W\n2,500 W", "speed;watts\n3,2;1.900", "\ufeff", "name,Voc\n" + "=cmd,1\n"
    * 2000, "-" * 30_000, '{"days":' * 20_000, "inf,inf,inf", "N_s,inf\n1,inf",
)  # fmt: skip


class Board:
    """What was tried, and what did not hold."""

    def __init__(self) -> None:
        self.rows: list[tuple[str, int, list[str], float]] = []

    def row(self, name: str, tried: int, wrong: list[str], slowest: float) -> None:
        self.rows.append((name, tried, wrong, slowest))
        held = "held" if not wrong else f"{len(wrong)} WRONG"
        print(f"{name:34s} {tried:7,d} tried   slowest {slowest:6.1f} s   {held}", flush=True)
        for one in wrong[:8]:
            print(f"    {one[:200]}")


def mutated(document: dict[str, Any], chance: random.Random) -> dict[str, Any]:
    """A copy with a few entries at their bounds, missing, doubled, or something else."""
    from tests.test_sound import SCHEMA, ends, numbers

    made = json.loads(json.dumps(document))
    known = list(numbers(SCHEMA, made))
    for _ in range(chance.randint(1, 4)):
        path, said = chance.choice(known)
        node = made
        for part in path[:-1]:
            node = node[part]
        limits = ends(said)
        if limits and chance.random() < 0.8:
            node[path[-1]] = (
                chance.choice(limits) if chance.random() < 0.5 else chance.uniform(min(limits), max(limits))
            )
        else:
            node[path[-1]] = chance.choice(NASTY)
    return made


def one_design(number: int) -> tuple[bool, list[str], float]:
    """Every study of a mutated design: whether its check refused it, what is wrong, the slowest."""
    from parhelion.errors import ParhelionError
    from parhelion.formats.boat_file import design_from
    from parhelion.rail.answers import answers_for
    from parhelion.stations.registry import STATIONS
    from tests.test_sound import unsound

    chance = random.Random(f"design {number}")  # each can be made again alone
    name = chance.choice(("whimbrel", "fulmar", "grebe", "sabine"))
    made = mutated(json.loads((ROOT / "demo" / f"{name}.json").read_text()), chance)
    try:
        design = design_from(made)
    except ParhelionError:
        return True, [], 0.0
    except Exception as error:
        return True, [f"check of {number}: {error!r}"], 0.0
    asked: list[tuple[str, Any]] = [("rail", lambda: answers_for(design))]
    for station in STATIONS:
        for study in station.studies:
            if all(default is not ... for _, default in study.signature.asked.values()):
                asked.append((f"{station.name}/{study.name}", lambda s=study: s.about(design)))
        asked.append((f"{station.name} told", lambda s=station: s.told(design)))
    wrong: list[str] = []
    slowest = 0.0
    for name, ask in asked:
        began = time.monotonic()
        try:
            bad = next(unsound(ask(), name), None)
            if bad:
                wrong.append(f"{number}: {bad}")
        except ParhelionError:
            pass
        except Exception as error:
            wrong.append(f"{number} {name}: {error!r}")
        took = time.monotonic() - began
        slowest = max(slowest, took)
        if took > SLOWEST_S:
            wrong.append(f"{number} {name}: {took:.0f} s")
    return False, wrong, slowest


def designs(board: Board, tries: int) -> None:
    """Every study of designs that pass the check: finite, not absurd, in time; over all processors."""
    wrong: list[str] = []
    slowest, refused, begun = 0.0, 0, time.monotonic()
    with ProcessPoolExecutor(os.cpu_count()) as workers:
        for number, (no, bad, took) in enumerate(workers.map(one_design, range(tries), chunksize=4), 1):
            refused, slowest = refused + no, max(slowest, took)
            wrong += bad
            for one in bad:
                print(f"    {one[:200]}", flush=True)
            if number % 100 == 0:
                print(f"    {number:,d} designs after {(time.monotonic() - begun) / 60:.0f} min", flush=True)
    board.row(f"mutated designs ({refused:,d} refused)", tries, wrong, slowest)


def readers(board: Board) -> None:
    """Every reader of what a person brings, with texts that are none."""
    from parhelion.errors import ParhelionError
    from parhelion.formats.boat_file import read_boat
    from parhelion.stations.registry import STATIONS

    design = read_boat((ROOT / "demo" / "whimbrel.json").read_bytes())
    wrong: list[str] = []
    slowest, tried = 0.0, 0
    for station in STATIONS:
        for reader in station.readers:
            for text in TEXTS:
                entries = reader.signature.asked.items()
                asked = {name: text if name == "text" else _some(name, d) for name, (_, d) in entries}
                began = time.monotonic()
                tried += 1
                try:
                    reader.about(design, **asked)
                except ParhelionError:
                    pass
                except Exception as error:
                    wrong.append(f"{station.name}/{reader.name} {text[:12]!r}: {error!r}")
                took = time.monotonic() - began
                slowest = max(slowest, took)
                if took > SLOWEST_S:
                    wrong.append(f"{station.name}/{reader.name} {text[:12]!r}: {took:.0f} s")
    board.row("texts to every reader", tried, wrong, slowest)


def _some(name: str, default: Any) -> Any:
    usual = {"unit": "kn", "taken_ids": [], "latitude_deg": 50.0}
    return usual.get(name, None if default is ... else default)


class Server:
    """The application on a folder of its own."""

    def __init__(self, folder: str):
        with socket.socket() as probe:
            probe.bind(("127.0.0.1", 0))
            port = probe.getsockname()[1]
        self.base = f"http://127.0.0.1:{port}"
        self.environment = {**os.environ, "PARHELION_VAR": folder}
        self.port = port
        migrate = [sys.executable, "manage.py", "migrate", "-v0"]
        subprocess.run(migrate, cwd=ROOT / "server", env=self.environment, check=True)

    def start(self) -> None:
        self.process = subprocess.Popen(
            [sys.executable, "serve.py", "--port", str(self.port)], cwd=ROOT / "server", env=self.environment,
            stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL,
        )  # fmt: skip
        for _ in range(300):
            try:
                self.call("GET", "/api/boats")
                return
            except OSError:
                time.sleep(0.1)
        raise SystemExit("the server does not start")

    def call(
        self, method: str, path: str, body: bytes | None = None, headers: dict[str, str] | None = None
    ) -> tuple[int, str, bytes]:
        said = {"Content-Type": "application/json", **(headers or {})}
        asked = urllib.request.Request(self.base + path, data=body, method=method, headers=said)
        try:
            with urllib.request.urlopen(asked, timeout=60) as reply:
                return reply.status, reply.headers.get("Content-Type", ""), reply.read()
        except urllib.error.HTTPError as error:
            return error.code, error.headers.get("Content-Type", ""), error.read()


def calls(board: Board, server: Server, tries: int) -> None:
    """Nonsense to every address: no server error, every refusal in the one shape; what fails is kept."""
    chance = random.Random(21)
    paths = json.loads(server.call("GET", "/api/openapi.json")[2])["paths"]
    design = json.loads((ROOT / "demo" / "grebe.json").read_text())
    wrong: list[str] = []
    slowest = 0.0
    for _ in range(tries):
        path, methods = chance.choice(list(paths.items()))
        method = chance.choice([*methods, "PATCH"]).upper()
        where = path
        while "{" in where:
            name = where[where.index("{") : where.index("}") + 1]
            where = where.replace(name, chance.choice(["00000000-0000-0000-0000-000000000000", "x", "%00"]))
        text, name = chance.choice(TEXTS), chance.choice(NASTY)
        body: Any = {"design": mutated(design, chance), "text": text, "name": name}
        if chance.random() < 0.3:
            body = chance.choice(NASTY)
        if chance.random() < 0.2 and isinstance(body, dict):
            body["design"] = chance.choice(NASTY)
        raw = json.dumps(body, allow_nan=True).encode() if chance.random() < 0.9 else os.urandom(200)
        began = time.monotonic()
        status, kind, content = server.call(method, where, None if method == "GET" else raw)
        took = time.monotonic() - began
        slowest = max(slowest, took)
        said = f"{method} {where} {status} {content[:90]!r}"
        if status >= 500:
            wrong.append(said)
            Path(tempfile.gettempdir(), f"attack-{len(wrong)}.json").write_bytes(raw)
        elif status >= 400 and not (kind.startswith("application/json") and b'"errors"' in content):
            wrong.append(f"shape: {said}")
        elif took > 3 * SLOWEST_S:
            wrong.append(f"{took:.0f} s: {said}")
        elif b"NaN" in content[:200_000] and kind.startswith("application/json"):
            wrong.append(f"NaN: {said}")
    board.row("calls of every address", tries, wrong, slowest)


def kills(board: Board, server: Server, tries: int) -> None:
    """The server is killed while it saves: what it acknowledged is there when it comes back."""
    chance = random.Random(22)
    wrong: list[str] = []
    content = (ROOT / "demo" / "grebe.json").read_bytes()
    row = json.loads(server.call("POST", "/api/boats/file", content)[2])
    address = f"/api/variants/{row['variants'][0]['id']}"
    saved = 0
    began = time.monotonic()
    for _ in range(tries):
        variant = json.loads(server.call("GET", address)[2])
        revision, design = variant["revision"], variant["design"]
        kept = design["plan"]["speed_mps"]
        until = time.monotonic() + chance.uniform(0.05, 0.6)
        number = 0
        while time.monotonic() < until:
            number += 1
            design["plan"]["speed_mps"] = round(1 + 0.001 * (saved + number), 4)
            body = json.dumps({"revision": revision, "design": design}).encode()
            status, _, reply = server.call("PUT", address, body)
            if status == 200:
                revision, kept, saved = json.loads(reply)["revision"], design["plan"]["speed_mps"], saved + 1
        os.kill(server.process.pid, signal.SIGKILL)
        server.process.wait()
        server.start()
        there = json.loads(server.call("GET", address)[2])["design"]["plan"]["speed_mps"]
        if there != kept:
            wrong.append(f"kept {kept}, there {there}")
    board.row(
        f"kills ({saved:,d} saves acknowledged)", tries, wrong, (time.monotonic() - began) / max(tries, 1)
    )


def main() -> int:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--scale", type=float, default=1.0)
    scale = parser.parse_args().scale
    board = Board()
    readers(board)
    with tempfile.TemporaryDirectory() as folder:
        server = Server(folder)
        server.start()
        try:
            calls(board, server, max(int(10_000 * scale), 1))
            kills(board, server, max(int(100 * scale), 1))
        finally:
            server.process.kill()
            server.process.wait()
    designs(board, max(int(3_000 * scale), 1))
    return int(any(wrong for _, _, wrong, _ in board.rows))


if __name__ == "__main__":
    sys.exit(main())
