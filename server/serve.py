"""Serves the application on loopback, on the first free port from the one asked for, and says where."""

from __future__ import annotations

import argparse
import gc
import os
import socket
import sqlite3
import threading
import time

import uvicorn

TRIES = 20
MOST_KEPT_BYTES = 400_000_000
TRIMMED_EVERY_S = 60.0
ROUNDS = (20_000, 10, 20)  # new objects until the collector looks: an edit makes some thousands, few in rings


def free_port(first: int) -> int:
    """The first port from `first` on that nobody listens on."""
    for port in range(first, first + TRIES):
        with socket.socket() as probe:
            probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
            try:
                probe.bind(("127.0.0.1", port))
            except OSError:
                continue
            return port
    raise SystemExit(f"No free port from {first} to {first + TRIES - 1}: try make demo PORT=9000")


def settle() -> None:
    """Loads what the first answer needs beside the first page, and takes it out of the collector's rounds.

    A full round over all that stays loaded is felt as a pause of a quarter of a second in an edit.
    """
    import parhelion.begin.gazetteer
    import parhelion.rail.answers
    import parhelion.warm

    parhelion.begin.gazetteer.towns_named("a")
    gc.collect()
    gc.freeze()
    gc.set_threshold(*ROUNDS)


def keep_small() -> None:
    """What is kept of answers stays under a size, however many boats are looked at."""
    from parhelion.computing.kept import trim

    while True:
        time.sleep(TRIMMED_EVERY_S)
        trim(MOST_KEPT_BYTES)


def store() -> str:
    """Where the boats are kept."""
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "config.settings")
    from django.conf import settings

    return str(settings.DATABASES["default"]["NAME"])


def hold_open(path: str) -> sqlite3.Connection:
    """A connection that stays: on a full disk the files beside the database are there, and reads go on."""
    held = sqlite3.connect(path, check_same_thread=False)
    held.execute("SELECT count(*) FROM django_migrations").fetchone()
    return held


def old_seconds() -> None:
    """Old readings of devices become means of minutes."""
    import django

    time.sleep(TRIMMED_EVERY_S)  # not beside the first page
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "config.settings")
    django.setup()
    from outings.old_seconds import keep_minutes

    keep_minutes()


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--port", type=int, default=8031)
    port = free_port(parser.parse_args().port)
    print(f"\nParhelion is at http://127.0.0.1:{port}/   (stop it with Ctrl-C)\n", flush=True)
    threading.Thread(target=settle, name="settle", daemon=True).start()
    threading.Thread(target=keep_small, name="keep small", daemon=True).start()
    threading.Thread(target=old_seconds, name="old seconds", daemon=True).start()
    held = hold_open(store())
    uvicorn.run("config.asgi:application", host="127.0.0.1", port=port, lifespan="off", log_level="warning")
    held.close()


if __name__ == "__main__":
    main()
