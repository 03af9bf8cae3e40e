"""The time that work takes."""

from __future__ import annotations

import time
from collections.abc import Callable


def seconds(work: Callable[[], object], times: int = 3) -> float:
    """The best of a few runs [s]."""
    best = float("inf")
    for _ in range(times):
        began = time.perf_counter()
        work()
        best = min(best, time.perf_counter() - began)
    return best
