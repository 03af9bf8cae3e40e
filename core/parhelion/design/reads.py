"""Which entries of a design something is computed from: the key of what is kept, and all that it is given.

What is kept by a `Reads` gets a design with nothing else in it: an entry that was not declared is not there
to be read, so that a forgotten key fails at the first call and can never serve a stale answer.
"""

from __future__ import annotations

import hashlib
import json
from collections.abc import Callable, Hashable, Sequence
from functools import wraps
from typing import Any, Concatenate, ParamSpec, TypeVar

from pydantic import BaseModel
from pydantic_core import to_jsonable_python

from parhelion.computing.kept import new_memo
from parhelion.design.boat import BoatDesign

P = ParamSpec("P")
T = TypeVar("T")
M = TypeVar("M", bound=BaseModel)


def only(model: M, names: Sequence[str]) -> M:
    """A piece of the document with some of its entries: the others are not there to be read."""
    made = type(model).__new__(type(model))
    object.__setattr__(made, "__dict__", {name: getattr(model, name) for name in names})
    object.__setattr__(made, "__pydantic_fields_set__", set(names))
    object.__setattr__(made, "__pydantic_extra__", None)
    object.__setattr__(made, "__pydantic_private__", None)
    return made


def _at(design: BoatDesign, entry: str) -> Any:
    found: Any = design
    for name in entry.split("."):
        found = getattr(found, name)
    return found


class Reads:
    """A declared slice of the design.

    Parameters
    ----------
    *entries : str
        Names of entries: whole ones such as ``hull``, or one entry of a piece such as ``plan.state``.
    """

    def __init__(self, *entries: str):
        whole = [entry for entry in entries if "." not in entry]
        parts: dict[str, list[str]] = {}
        for entry in entries:
            if "." in entry:
                piece, name = entry.split(".")
                parts.setdefault(piece, []).append(name)
        fields = BoatDesign.model_fields
        unknown = [name for name in (*whole, *parts) if name not in fields]
        for piece, names in parts.items():
            kind = fields[piece].annotation if piece in fields else None
            known = kind.model_fields if isinstance(kind, type) and issubclass(kind, BaseModel) else {}
            unknown += [f"{piece}.{name}" for name in names if name not in known]
        if unknown:
            raise ValueError(f"not entries of a design: {', '.join(unknown)}")
        self._whole = tuple(whole)
        self._parts = {piece: tuple(names) for piece, names in parts.items()}

    @classmethod
    def all_but(cls, *entries: str) -> Reads:
        """Everything but some entries, whole ones or of a piece."""
        inside = {entry.split(".")[0] for entry in entries if "." in entry}
        found = [name for name in BoatDesign.model_fields if name not in (*entries, *inside)]
        for piece in sorted(inside):
            kind = BoatDesign.model_fields[piece].annotation
            assert isinstance(kind, type) and issubclass(kind, BaseModel)
            found += [f"{piece}.{name}" for name in kind.model_fields if f"{piece}.{name}" not in entries]
        return cls(*found)

    def __or__(self, other: Reads) -> Reads:
        """What either reads."""
        return Reads(*self.entries, *other.entries)

    @property
    def entries(self) -> tuple[str, ...]:
        """All entries, as they were declared."""
        parts = (f"{piece}.{name}" for piece, names in self._parts.items() for name in names)
        return (*self._whole, *parts)

    def of(self, design: BoatDesign) -> BoatDesign:
        """The design with these entries and nothing else."""
        made = only(design, (*self._whole, *self._parts))
        for piece, names in self._parts.items():
            if piece not in self._whole:
                vars(made)[piece] = only(getattr(design, piece), names)
        return made

    def digest(self, design: BoatDesign) -> str:
        """The key as a text of 64 digits, the same in every process."""
        told = [[entry, to_jsonable_python(_at(design, entry))] for entry in self.entries]
        return hashlib.sha256(json.dumps(told).encode()).hexdigest()

    def key(self, design: BoatDesign) -> Hashable:
        """What two designs share whose answers are the same."""
        whole = tuple(getattr(design, name) for name in self._whole)
        parts = tuple(
            getattr(getattr(design, piece), n) for piece, names in self._parts.items() for n in names
        )
        return whole, parts


def kept(
    reads: Reads, size: int, aside: str = ""
) -> Callable[[Callable[Concatenate[BoatDesign, P], T]], Callable[Concatenate[BoatDesign, P], T]]:
    """Keeps what a function finds of a design, by the slice it declares and its other arguments.

    Parameters
    ----------
    reads : Reads
        All that the function is given of the design.
    size : int
        How many answers stay.
    aside : str, optional
        An argument by name that changes nothing in the answer, such as whom to report to.
    """

    def keeping(
        function: Callable[Concatenate[BoatDesign, P], T],
    ) -> Callable[Concatenate[BoatDesign, P], T]:
        memo = new_memo(size)

        @wraps(function)
        def asked(design: BoatDesign, *args: P.args, **named: P.kwargs) -> T:
            key = (reads.key(design), args, tuple(sorted((k, v) for k, v in named.items() if k != aside)))
            found: T = memo.get(key, lambda: function(reads.of(design), *args, **named))
            return found

        asked.memo = memo  # type: ignore[attr-defined]
        return asked

    return keeping
