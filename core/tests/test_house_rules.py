"""What keeps the code honest: kernels and their cache, the docs' links, no arithmetic of the job in the browser."""

from __future__ import annotations

import hashlib
import re
import unittest
from pathlib import Path

import numba
from parhelion.computing import kernels
from parhelion.data import places
from parhelion.design.hulltypes import TYPICAL, Model
from parhelion.rail.reasons import MODEL_REASONS, MODEL_WORDS

ROOT = Path(__file__).resolve().parents[2]
PACKAGE = ROOT / "core" / "parhelion"


class KernelsTest(unittest.TestCase):
    def test_the_cache_folder_is_that_of_all_kernels_as_they_stand(self):
        texts = [path.read_bytes() for path in sorted(PACKAGE.rglob("*.py"))]
        kernel_texts = [text for text in texts if b"@njit" in text or b"@vectorize" in text]
        self.assertGreater(len(kernel_texts), 8)
        state = hashlib.sha256(b"".join(kernel_texts)).hexdigest()[:12]
        self.assertTrue(numba.config.CACHE_DIR.endswith(state))

    def test_no_kernel_is_allowed_to_be_inexact(self):
        for path in PACKAGE.rglob("*.py"):
            text = path.read_text(encoding="utf-8")
            if "@njit" in text:
                self.assertNotRegex(text, r"fastmath|parallel=True")
        self.assertNotIn("fastmath", kernels.OPTIONS)


class DocsTest(unittest.TestCase):
    def test_every_link_leads_somewhere(self):
        pages = [ROOT / "README.md", *(ROOT / "docs").rglob("*.md")]
        self.assertGreater(len(pages), 15)
        for page in pages:
            for target in re.findall(r"\]\(([^)#]+)\)", page.read_text(encoding="utf-8")):
                self.assertTrue((page.parent / target).exists(), f"{page.name}: {target}")

    def test_every_method_page_is_on_the_list(self):
        folder = ROOT / "docs" / "methods"
        listed = set(re.findall(r"\((\S+\.md)\)", (folder / "README.md").read_text(encoding="utf-8")))
        self.assertEqual(listed, {page.name for page in folder.glob("*.md")} - {"README.md"})

    def test_every_picture_is_shown_in_the_readme(self):
        readme = (ROOT / "README.md").read_text(encoding="utf-8")
        for picture in (ROOT / "docs" / "screenshots").glob("*.png"):
            self.assertIn(f"docs/screenshots/{picture.name}", readme)


class TablesTest(unittest.TestCase):
    def test_every_model_has_its_name_and_reason_and_is_used(self):
        self.assertEqual(set(MODEL_WORDS), set(Model))
        self.assertEqual(set(MODEL_REASONS), set(Model))
        self.assertEqual({form.model for form in TYPICAL.values()}, set(Model))

    def test_hull_types_are_as_the_methods_page_has_them(self):
        page = (ROOT / "docs" / "methods" / "hull-types.md").read_text(encoding="utf-8")
        rows = [
            line.strip("| ").split(" | ")
            for line in page.splitlines()
            if re.match(r"\| [a-z].*\| \.\d\d \|", line)
        ]
        self.assertEqual(len(rows), len(TYPICAL))
        for row, form in zip(rows, TYPICAL.values(), strict=True):
            told = [float(cell) for cell in row[1:]]
            held = [form.length_to_beam, form.prismatic, form.midship, form.waterplane, form.lcb_percent, form.margin,
                    form.efficiency]  # fmt: skip
            self.assertEqual(told, held, row[0])

    def test_places_span_the_latitudes(self):
        latitudes = [place.latitude_deg for place in places()]
        self.assertTrue(min(latitudes) < -30 and max(latitudes) > 59)
        self.assertEqual(len({place.name for place in places()}), len(latitudes))
