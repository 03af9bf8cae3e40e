"""How long work tells how far it is, and hears that nobody waits for it any more."""

from __future__ import annotations

from collections.abc import Callable

Report = Callable[[float], None]  # takes the share done; raises where the work is to end


def silent(share: float) -> None:
    """Nobody listens."""


def within(report: Report, first: float, last: float) -> Report:
    """A report of one part of the work, from one share of the whole to another."""
    return lambda share: report(first + (last - first) * share)
