"""The cache of light and geometry: bounded, computed once however many ask, and honest about failure."""

from __future__ import annotations

import threading
import unittest
from concurrent.futures import ThreadPoolExecutor

from parhelion.memo import Memo


class MemoTest(unittest.TestCase):
    def test_many_threads_share_one_computation(self):
        memo: Memo[int] = Memo(4)
        made, ready = [], threading.Barrier(8)

        def compute() -> int:
            made.append(1)
            threading.Event().wait(0.05)
            return 42

        def ask(_: int) -> int:
            ready.wait()
            return memo.get("key", compute)

        with ThreadPoolExecutor(8) as pool:
            self.assertEqual(list(pool.map(ask, range(8))), [42] * 8)
        self.assertEqual(len(made), 1)

    def test_the_least_recently_asked_goes_first(self):
        memo: Memo[int] = Memo(2)
        for key in (1, 2, 1, 3):
            memo.get(key, lambda key=key: key)
        self.assertEqual(memo.get(1, lambda: -1), 1)  # asked again before 3 came: still there
        self.assertEqual(memo.get(2, lambda: -2), -2)

    def test_a_failure_is_told_and_not_kept(self):
        memo: Memo[int] = Memo(2)
        with self.assertRaises(ZeroDivisionError):
            memo.get("x", lambda: 1 // 0)
        self.assertEqual(memo.get("x", lambda: 7), 7)
