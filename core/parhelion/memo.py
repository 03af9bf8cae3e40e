"""A small bounded cache: one computation per key, even when several threads ask at once."""

from __future__ import annotations

import threading
from collections import OrderedDict
from collections.abc import Callable, Hashable
from concurrent.futures import Future
from typing import Generic, TypeVar

T = TypeVar("T")


class Memo(Generic[T]):
    """Keeps the last `size` results by key; a failed computation is not kept.

    Parameters
    ----------
    size : int
        How many results stay.
    """

    def __init__(self, size: int):
        self._size = size
        self._entries: OrderedDict[Hashable, Future[T]] = OrderedDict()
        self._lock = threading.Lock()

    def get(self, key: Hashable, compute: Callable[[], T]) -> T:
        """The result for `key`, computed at most once."""
        with self._lock:
            entry = self._entries.get(key)
            mine = entry is None
            if entry is None:
                entry = self._entries[key] = Future()
                while len(self._entries) > self._size:
                    self._entries.popitem(last=False)
            else:
                self._entries.move_to_end(key)
        if mine:
            try:
                entry.set_result(compute())
            except BaseException as error:
                with self._lock:
                    self._entries.pop(key, None)
                entry.set_exception(error)
        return entry.result()
