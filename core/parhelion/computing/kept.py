"""What is computed once and kept, even when several threads ask at once: by key, or by object."""

from __future__ import annotations

import threading
from collections import OrderedDict
from collections.abc import Callable, Hashable
from concurrent.futures import Future
from typing import Any, Generic, TypeVar, overload

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


_MAKING = threading.Lock()


class once(Generic[T]):  # noqa: N801 - used as a decorator
    """A property computed at most once for each object, and kept on it.

    The standard library's (before Python 3.12) holds one lock for all objects of a class while it computes.
    So one thread may hold it for a first object while it waits for a kept result, which another thread is
    computing and for which that one needs the property of a second object: both then wait for ever.
    """

    def __init__(self, make: Callable[[Any], T]):
        self._make = make
        self.__doc__ = make.__doc__

    def __set_name__(self, owner: type, name: str) -> None:
        self._name = name

    @overload
    def __get__(self, instance: None, owner: type) -> once[T]: ...
    @overload
    def __get__(self, instance: object, owner: type) -> T: ...
    def __get__(self, instance: object | None, owner: type) -> once[T] | T:
        if instance is None:
            return self
        kept, pending = vars(instance), f"{self._name} is being made"
        with _MAKING:
            if self._name in kept:
                return kept[self._name]
            under_way: Future[T] | None = kept.get(pending)
            if under_way is None:
                making: Future[T] = Future()
                kept[pending] = making
        if under_way is not None:
            return under_way.result()
        try:
            value = self._make(instance)
        except BaseException as error:
            with _MAKING:
                del kept[pending]
            making.set_exception(error)
            raise
        with _MAKING:
            kept[self._name] = value
            del kept[pending]
        making.set_result(value)
        return value
