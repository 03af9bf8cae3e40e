"""The database as it is served: files that stand beside it while the program runs, so that reads go on."""

from __future__ import annotations

import socket
import sqlite3
import tempfile
from pathlib import Path

from django.test import SimpleTestCase
from serve import free_port, hold_open


class ServingTest(SimpleTestCase):
    def test_the_held_connection_keeps_the_files_that_a_reader_needs(self):
        """Without it they go with the last connection, and a full disk leaves no room to make them anew."""
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "boats.sqlite3"
            made = sqlite3.connect(path)
            made.execute("PRAGMA journal_mode=WAL")
            made.execute("CREATE TABLE django_migrations (id INTEGER)")
            made.commit()
            made.close()
            self.assertEqual([file.name for file in Path(folder).iterdir()], [path.name])
            held = hold_open(str(path))
            try:
                reader = sqlite3.connect(path)
                reader.execute("SELECT * FROM django_migrations").fetchall()
                reader.close()
                self.assertTrue(path.with_name(path.name + "-shm").exists())
                writer = sqlite3.connect(path, timeout=0.1)  # and it locks nobody out
                writer.execute("INSERT INTO django_migrations VALUES (1)")
                writer.commit()
                writer.close()
            finally:
                held.close()
            self.assertFalse(path.with_name(path.name + "-shm").exists())

    def test_a_port_that_is_taken_is_passed_over(self):
        with socket.socket() as taken:
            taken.bind(("127.0.0.1", 0))
            taken.listen()
            port = taken.getsockname()[1]
            self.assertGreater(free_port(port), port)
