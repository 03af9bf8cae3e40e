"""Work of a list shared out over the machine's processors; what comes out does not depend on it."""

from __future__ import annotations

import itertools
import os
from collections.abc import Callable, Sequence
from concurrent.futures import ThreadPoolExecutor
from typing import TypeVar

T = TypeVar("T")

HANDS = os.cpu_count() or 1
_helpers = ThreadPoolExecutor(max(HANDS - 1, 1), thread_name_prefix="parhelion")


def together(tasks: Sequence[Callable[[], T]]) -> list[T]:
    """What each task returns, in their order; the caller works too, so that nobody waits in a queue.

    Worth it for tasks that spend their time in compiled kernels, which let other threads run.
    """
    if len(tasks) < 2 or HANDS < 2:
        return [task() for task in tasks]
    found: dict[int, T] = {}
    turn = itertools.count()

    def work() -> None:
        while (number := next(turn)) < len(tasks):
            found[number] = tasks[number]()

    helping = [_helpers.submit(work) for _ in range(min(HANDS, len(tasks)) - 1)]
    work()
    for helper in helping:
        if not helper.cancel():
            helper.result()
    return [found[number] for number in range(len(tasks))]


def shares_of(number: int) -> list[slice]:
    """A number of things dealt out in a row, a share for each processor."""
    edges = [number * k // HANDS for k in range(HANDS + 1)]
    return [slice(a, b) for a, b in itertools.pairwise(edges) if b > a]
