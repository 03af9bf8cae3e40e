"""Every check and every test, with one closing line: N passed, N failed."""

from __future__ import annotations

import os
import re
import subprocess
import sys
import time
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
BIN = ROOT / ".venv" / "bin"
WEB = ROOT / "web"
NPX = ["npx", "--no-install"]

CHECKS: list[tuple[str, list[str], Path]] = [
    ("ruff", [f"{BIN}/ruff", "check", "core", "server", "bench", ".ci"], ROOT),
    ("ruff format", [f"{BIN}/ruff", "format", "--check", "core", "server", "bench", ".ci"], ROOT),
    ("import contracts", [f"{BIN}/lint-imports"], ROOT),
    (
        "biome",
        [*NPX, "biome", "check", "--error-on-warnings", "src", "tests", "vite.config.ts", "vitest.config.ts"],
        WEB,
    ),
    ("tsc", [*NPX, "tsc", "--noEmit"], WEB),
]
SLOWEST = ("mypy", [f"{BIN}/mypy", "core/parhelion", "server"], ROOT)
TESTS = [
    str(BIN / "python"), "server/manage.py", "test", "tests", "boats", "outings", "work", "stations", "e2e",
    "--noinput", "--parallel", "4",  # more than processors: a walk waits for its page
]  # fmt: skip
MOST_STALLED = 3
CONTRACT = ("docs/boat-design.schema.json", "web/src/api/schema.d.ts")


def run(name: str, command: list[str], where: Path, **environment: str) -> tuple[bool, str]:
    """Run one command quietly; what it printed is shown only where it failed."""
    began = time.monotonic()
    done = subprocess.run(
        command, cwd=where, env={**os.environ, **environment}, capture_output=True, text=True, check=False
    )
    good = done.returncode == 0
    print(f"{'ok  ' if good else 'FAIL'} {name} ({time.monotonic() - began:.0f} s)", flush=True)
    if not good:
        print(done.stdout + done.stderr, flush=True)
    return good, done.stdout + done.stderr


def contract_is_current() -> bool:
    """The generated types and the published schema are those of the code as it stands."""
    before = [(ROOT / name).read_bytes() for name in CONTRACT]
    exported, _ = run(
        "export the contract", [str(BIN / "python"), "server/manage.py", "export_contract"], ROOT
    )
    typed, _ = run("generate the types", ["npm", "run", "--silent", "types"], WEB)
    after = [(ROOT / name).read_bytes() for name in CONTRACT]
    if before != after:
        print(f"FAIL the contract: run `make contract` and commit {' and '.join(CONTRACT)}")
    return exported and typed and before == after


def stalled(printed: str) -> list[str]:
    """Browser walks that failed, where those are all that failed and they are few."""
    failed = re.findall(r"^(?:ERROR|FAIL): \w+ \(([\w.]+)\)", printed, re.M)
    walks = [name for name in failed if name.startswith("e2e.")]
    return walks if walks == failed and len(walks) <= MOST_STALLED else []


def main() -> int:
    with ThreadPoolExecutor() as beside:  # the slowest reads nothing that the others write
        slowest = beside.submit(run, *SLOWEST)
        results = [run(name, command, where)[0] for name, command, where in CHECKS]
        results.append(contract_is_current())
        results.append(slowest.result()[0])
    good, printed = run("tests", TESTS, ROOT, PYTHONWARNINGS="error")
    ran = int(match[1]) if (match := re.search(r"^Ran (\d+) tests?", printed, re.M)) else 0
    bad = sum(int(n) for n in re.findall(r"(?:failures|errors)=(\d+)", printed))
    walks = stalled(printed)
    if walks:  # a browser that stopped answering on a busy machine: told, and walked once more by itself
        alone = [*TESTS[:3], *walks, "--noinput"]
        good, _ = run(f"once more, alone: {', '.join(walks)}", alone, ROOT, PYTHONWARNINGS="error")
        bad = bad if not good else 0
    if not good and bad == 0:
        bad = 1
    passed = sum(results) + max(ran - bad, 0)
    failed = len(results) - sum(results) + bad
    if ran == 0:
        failed += 1
    print(f"{passed} passed, {failed} failed")
    return 1 if failed else 0


if __name__ == "__main__":
    sys.exit(main())
