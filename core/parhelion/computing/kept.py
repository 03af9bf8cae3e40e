"""What is computed once and kept, even when several threads ask at once: by arguments, by the numbers a
kernel is given, or by object."""

from __future__ import annotations

import sys
import threading
from collections import OrderedDict
from collections.abc import Callable, Hashable
from functools import wraps
from typing import Any, Generic, ParamSpec, TypeVar, cast, overload

import numpy as np

P = ParamSpec("P")
T = TypeVar("T")


_TELLING = threading.Lock()


class Made(Generic[T]):
    """A result that is there or is being made: a future that is light where nobody waits for it."""

    __slots__ = ("_error", "_there", "_value", "_waited_for")

    def __init__(self) -> None:
        self._there = False
        self._error: BaseException | None = None
        self._waited_for: threading.Event | None = None

    def tell(self, value: T | None, error: BaseException | None = None) -> None:
        """The result, or why there is none."""
        self._value, self._error = value, error
        with _TELLING:
            self._there = True
            waited_for = self._waited_for
        if waited_for is not None:
            waited_for.set()

    def done(self) -> bool:
        """Whether there is a result."""
        return self._there and self._error is None

    def result(self) -> T:
        """The result, waited for; raises what its making raised."""
        if not self._there:
            with _TELLING:
                event = None if self._there else self._waited_for or threading.Event()
                self._waited_for = event
            if event is not None:
                event.wait()
        if self._error is not None:
            raise self._error
        return cast(T, self._value)


class Memo(Generic[T]):
    """Keeps the last `size` results by key; a failed computation is not kept.

    Parameters
    ----------
    size : int
        How many results stay.
    """

    def __init__(self, size: int):
        self._size = size
        self._entries: OrderedDict[Hashable, Made[T]] = OrderedDict()
        self._lock = threading.Lock()

    def get(self, key: Hashable, compute: Callable[[], T]) -> T:
        """The result for `key`, computed at most once."""
        with self._lock:
            entry = self._entries.get(key)
            mine = entry is None
            if entry is None:
                entry = self._entries[key] = Made()
                while len(self._entries) > self._size:
                    self._entries.popitem(last=False)
            else:
                self._entries.move_to_end(key)
        if mine:
            try:
                entry.tell(compute())
            except BaseException as error:
                with self._lock:
                    self._entries.pop(key, None)
                entry.tell(None, error)
        return entry.result()

    def has(self, key: Hashable) -> bool:
        """Whether a result is there; one that is being computed is not."""
        with self._lock:
            entry = self._entries.get(key)
        return entry is not None and entry.done()

    def held(self) -> list[tuple[Hashable, T]]:
        """What is kept, the longest unused first."""
        with self._lock:
            entries = list(self._entries.items())
        return [(key, entry.result()) for key, entry in entries if entry.done()]

    def drop(self, key: Hashable) -> None:
        """One result goes."""
        with self._lock:
            self._entries.pop(key, None)

    def forget(self) -> None:
        """Empties it."""
        with self._lock:
            self._entries.clear()


_MEMOS: list[Memo[Any]] = []


def new_memo(size: int) -> Memo[Any]:
    """A memo of the program's own, emptied by `forget_all`."""
    _MEMOS.append(Memo(size))
    return _MEMOS[-1]


def _parts(value: object) -> list[object]:
    """What a kept thing is made of."""
    if isinstance(value, Made):
        return [value.result()] if value.done() else []
    if isinstance(value, dict):
        return [*value.keys(), *value.values()]
    if isinstance(value, (list, tuple, set, frozenset)):
        return list(value)
    return list(vars(value).values()) if hasattr(value, "__dict__") and not isinstance(value, type) else []


def bytes_of(value: object, seen: set[int]) -> int:
    """Bytes that a thing and its parts hold, those in `seen` counted before; arrays count whole."""
    total, left = 0, [value]
    while left:
        one = left.pop()
        if id(one) in seen or callable(one):
            continue
        seen.add(id(one))
        if isinstance(one, np.ndarray):
            base = one if one.base is None else one.base
            if one.base is None or id(base) not in seen:
                seen.add(id(base))
                total += int(getattr(base, "nbytes", one.nbytes))
            continue
        total += sys.getsizeof(one)
        left.extend(_parts(one))
    return total


def trim(most_bytes: int) -> int:
    """Lets go of what was longest unused, of whatever holds most, until all that is kept is under a size.

    Parameters
    ----------
    most_bytes : int

    Returns
    -------
    int
        What is kept then [bytes].
    """
    seen: set[int] = set()
    sizes = [[(key, bytes_of(value, seen)) for key, value in memo.held()] for memo in _MEMOS]
    sums = [sum(size for _, size in entries) for entries in sizes]
    while sum(sums) > most_bytes:
        largest = max(range(len(sums)), key=sums.__getitem__)
        if not sizes[largest]:
            break
        key, size = sizes[largest].pop(0)
        _MEMOS[largest].drop(key)
        sums[largest] -= size
    return sum(sums)


def forget_all() -> None:
    """Everything that is kept goes, as in a fresh process: for tests and benches."""
    for memo in _MEMOS:
        memo.forget()


def _kept_by(size: int, told: Callable[[object], Hashable]) -> Callable[[Callable[P, T]], Callable[P, T]]:
    """Keeps what a function returns, by what its arguments are told as."""

    def keeping(function: Callable[P, T]) -> Callable[P, T]:
        memo = new_memo(size)

        @wraps(function)
        def asked(*args: P.args, **named: P.kwargs) -> T:
            key = (tuple(map(told, args)), tuple((name, told(named[name])) for name in sorted(named)))
            found: T = memo.get(key, lambda: function(*args, **named))
            return found

        asked.memo = memo  # type: ignore[attr-defined]
        return asked

    return keeping


def _itself(value: object) -> Hashable:
    assert isinstance(value, Hashable)
    return value


def _by_numbers(value: object) -> Hashable:
    """An array by what stands in it, anything else as itself."""
    return (value.shape, value.tobytes()) if isinstance(value, np.ndarray) else _itself(value)


def kept_by_arguments(size: int) -> Callable[[Callable[P, T]], Callable[P, T]]:
    """Keeps what a function returns, by all of its arguments; it must depend on nothing else.

    Parameters
    ----------
    size : int
        How many results stay.
    """
    return _kept_by(size, _itself)


def kept_by_content(size: int) -> Callable[[Callable[P, T]], Callable[P, T]]:
    """Keeps what a slow kernel returns, by the numbers it is given and nothing else.

    An edit changes some of what an answer rests on: what is solved from the rest is solved already.

    Parameters
    ----------
    size : int
        How many results stay.
    """
    return _kept_by(size, _by_numbers)


def is_there(function: Callable[..., object], *args: Hashable) -> bool:
    """Whether what a function of `kept_by_arguments` returns of these is kept already."""
    memo: Memo[object] = function.memo  # type: ignore[attr-defined]
    return memo.has((args, ()))


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
            under_way: Made[T] | None = kept.get(pending)
            if under_way is None:
                making: Made[T] = Made()
                kept[pending] = making
        if under_way is not None:
            return under_way.result()
        try:
            value = self._make(instance)
        except BaseException as error:
            with _MAKING:
                del kept[pending]
            making.tell(None, error)
            raise
        with _MAKING:
            kept[self._name] = value
            del kept[pending]
        making.tell(value)
        return value
