"""The bench's logic on its own: pointers, units, undo, drafts and the live request, by their own runner."""

from __future__ import annotations

import json
import subprocess

from django.conf import settings
from django.test import SimpleTestCase

WEB = settings.ROOT / "web"


class BenchLogicTest(SimpleTestCase):
    def test_every_test_of_the_bench_passes(self):
        done = subprocess.run(
            ["npx", "--no-install", "vitest", "run", "--reporter=json"],
            cwd=WEB, capture_output=True, text=True, check=False,
        )  # fmt: skip
        found = json.loads(done.stdout[done.stdout.index("{") :])
        failed = [
            f"{test['fullName']}: {' '.join(test['failureMessages'])[:300]}"
            for file in found["testResults"]
            for test in file["assertionResults"]
            if test["status"] != "passed"
        ]
        self.assertEqual((failed, done.returncode), ([], 0), done.stderr[-800:])
        self.assertEqual(len(found["testResults"]), len(list((WEB / "tests").glob("*.test.ts"))))
        self.assertGreater(found["numPassedTests"], 50)
