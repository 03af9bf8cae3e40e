"""Several people at one server: how long each waits for what the screen shows of an edit.

Each edits a boat of their own at the station they stand at: a number of the boat, and every fourth time a
panel's place or the date, so that shade and sun are worked out anew. They pause as someone who types.
"""

from __future__ import annotations

import json
import random
import tempfile
import threading
import time
from pathlib import Path

import numpy as np
from attack import Server

ROOT = Path(__file__).resolve().parents[1]
BOATS = ("whimbrel", "sabine", "fulmar", "grebe")
STATIONS = ("hull", "array", "day", "strings", "bank", "year")
EDITS, PAUSE_S = 14, 0.6


def edited(document: dict, chance: random.Random, number: int) -> dict:
    """A document after another edit."""
    made = json.loads(json.dumps(document))
    made["plan"]["speed_mps"] = 1.2 + 0.8 * chance.random()
    made["panels"][0]["nameplate_w"] = 100 + 100 * chance.random()
    if number % 4 == 3:
        made["plan"]["date"] = f"2027-{chance.randint(4, 9):02d}-{chance.randint(1, 28):02d}"
        at = made["places"][0].get("at")
        if at:
            at["x_m"] += 0.1 * chance.random()
    return made


def waits(server: Server, people: int) -> list[float]:
    """Seconds until rail, picture and findings are in, of everybody's edits."""
    found: list[float] = []

    def edits(who: int) -> None:
        chance = random.Random(who)
        document = json.loads((ROOT / "demo" / f"{BOATS[who % len(BOATS)]}.json").read_text())
        station = STATIONS[who % len(STATIONS)]
        for number in range(EDITS):
            body = {
                "page": f"p{people}-{who}", "turn": number, "design": edited(document, chance, number),
                "station": station, "studies": [{"study": f"{station}/picture"}], "counts": False,
            }  # fmt: skip
            if station == "year":
                body["studies"] = []
            began = time.perf_counter()
            status, _, text = server.call("POST", "/api/live", json.dumps(body).encode())
            assert status == 200 and b'"failed"' not in text, text[:300]
            if number:  # the first of all has a boat's tables to make
                found.append(time.perf_counter() - began)
            time.sleep(PAUSE_S * (0.5 + chance.random()))

    threads = [threading.Thread(target=edits, args=(who,)) for who in range(people)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    return found


def all_ratios() -> None:
    with tempfile.TemporaryDirectory() as folder:
        server = Server(folder)
        server.start()
        try:
            alone = None
            for people, budget in ((1, "-"), (3, "1.5 s"), (8, "6 s")):
                took = waits(server, people)
                ninth = float(np.percentile(took, 95))
                alone = alone or ninth
                print(
                    f"{people} editing at once        median {np.median(took):5.2f} s, 95th percentile "
                    f"{ninth:5.2f} s, {ninth / alone:4.1f} times one alone  (budget {budget})"
                )
        finally:
            server.process.terminate()
            server.process.wait()


if __name__ == "__main__":
    all_ratios()
