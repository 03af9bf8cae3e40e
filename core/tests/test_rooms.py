"""The house: every module on a page, the bench's rooms look down only, the core installed alone works."""

from __future__ import annotations

import os
import re
import shutil
import subprocess
import sys
import tempfile
import tomllib
from pathlib import Path
from unittest import TestCase

ROOT = Path(__file__).resolve().parents[2]
CORE = ROOT / "core" / "parhelion"
PAGES = ROOT / "docs" / "methods"
WEB = ROOT / "web" / "src"
JOB = (
    "hull",
    "drive",
    "bank",
    "sun",
    "panels",
    "wiring",
    "route",
    "tide",
    "diagnosis",
    "meters",
    "balance",
    "market",
    "rail",
    "stations",
)
PLUMBING = {"__init__", "station", "terminal", "registry", "pack", "usual"}
BENCH = ("api", "kit", "asking", "boat", "features", "app")  # each may import those before it


class RoomsTest(TestCase):
    def test_every_module_of_the_job_is_on_a_page_and_every_page_names_modules_there_are(self):
        told = {page.name: page.read_text() for page in PAGES.glob("*.md") if page.name != "README.md"}
        named = set()
        for name, text in told.items():
            modules = re.findall(r"`([\w/]+)`", text.split("\n\n")[1])
            self.assertTrue(modules, name)
            for module in modules:
                self.assertTrue((CORE / f"{module}.py").is_file(), f"{name}: {module}")
            named.update(modules)
        files = [file for room in JOB for file in (CORE / room).rglob("*.py") if file.stem not in PLUMBING]
        modules = {file.relative_to(CORE).with_suffix("").as_posix() for file in files}
        self.assertEqual(modules - named, set())
        whys = {doc for file in CORE.rglob("*.py") for doc in re.findall(r'doc="([\w-]+)"', file.read_text())}
        self.assertEqual({f"{doc}.md" for doc in whys} - set(told), set())

    def test_the_benchs_rooms_look_down_only(self):
        for file in WEB.rglob("*.ts*"):
            room, *rest = file.relative_to(WEB).parts
            if not rest:
                continue
            for found in re.findall(r'(?:from|import\()\s*"(\.[^"]+)"', file.read_text()):
                target = (file.parent / found).resolve().relative_to(WEB).parts
                self.assertLessEqual(BENCH.index(target[0]), BENCH.index(room), f"{file}: {found}")
                if room == target[0] == "features":
                    self.assertEqual(target[1], rest[0], f"a station imports another: {file}: {found}")

    def test_versions_are_said_alike(self):
        own = tomllib.loads((ROOT / "pyproject.toml").read_text())["project"]["dependencies"]
        served = (ROOT / "requirements.in").read_text().split()
        self.assertEqual(set(own) - set(served), set())

    def test_installed_alone_in_a_place_that_cannot_be_written_it_reads_and_compiles(self):
        """A copy of the package, read-only, without the server, from another folder."""
        asked = (
            "import os, sys, numba, parhelion\n"
            "from parhelion.computing import kernels\n"
            "boat = parhelion.read_boat(open(sys.argv[1], 'rb').read())\n"
            "assert 'django' not in sys.modules and 'ninja' not in sys.modules\n"
            "try:\n    parhelion.read_boat(b'{}')\n"
            "except parhelion.ParhelionError as error:\n    assert error.problems\n"
            "os.makedirs(numba.config.CACHE_DIR, exist_ok=True)\n"
            "print(parhelion.__file__, os.access(numba.config.CACHE_DIR, os.W_OK), boat.name)\n"
        )
        with tempfile.TemporaryDirectory() as folder:
            place = Path(folder) / "site"
            shutil.copytree(CORE, place / "parhelion", ignore=shutil.ignore_patterns("__pycache__"))
            subprocess.run(["chmod", "-R", "a-w", str(place)], check=True)
            environment = {
                **os.environ,
                "PYTHONPATH": str(place),
                "HOME": folder,
                "PYTHONDONTWRITEBYTECODE": "1",
            }
            environment.pop("NUMBA_CACHE_DIR", None)
            done = subprocess.run(
                [sys.executable, "-c", asked, str(ROOT / "demo" / "whimbrel.json")],
                cwd=folder, env=environment, capture_output=True, text=True, check=False,
            )  # fmt: skip
            subprocess.run(["chmod", "-R", "u+w", str(place)], check=True)
        self.assertEqual(done.returncode, 0, done.stderr[-600:])
        self.assertIn(str(place), done.stdout)
        self.assertIn("True Whimbrel", done.stdout)
