"""The bench's logic on its own: pointers, units, undo, drafts and the live request, by their own runner."""

from __future__ import annotations

import json
import subprocess

from django.conf import settings
from django.test import SimpleTestCase

WEB = settings.ROOT / "web"


def ran_well(case: SimpleTestCase, project: str, environment: dict[str, str] | None = None) -> int:
    """Runs a project of the web's tests by their own runner; how many passed. Those that did not are named."""
    done = subprocess.run(
        ["npx", "--no-install", "vitest", "run", "--reporter=json", "--project", project],
        cwd=WEB, capture_output=True, text=True, check=False, env=environment,
    )  # fmt: skip
    found = json.loads(done.stdout[done.stdout.index('{"num') :])
    failed = [
        f"{test['fullName']}: {' '.join(test['failureMessages'])[:900]}"
        for file in found["testResults"]
        for test in file["assertionResults"]
        if test["status"] != "passed"
    ]
    case.assertEqual((failed, done.returncode), ([], 0), done.stderr[-800:])
    return int(found["numPassedTests"])


class BenchLogicTest(SimpleTestCase):
    def test_every_test_of_the_bench_passes(self):
        self.assertGreater(ran_well(self, "logic"), 50)
