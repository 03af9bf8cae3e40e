"""What the rules about a bank are given, and the reasoning that goes with them."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from parhelion.balance.outlook import Outlook
from parhelion.quantities import Fact, Why
from parhelion.rail.reasons import BANK_SOURCE
from parhelion.rail.stores import bank_facts


@dataclass(frozen=True)
class BankView:
    """A bank on its day, ready for the rules."""

    outlook: Outlook
    record: NDArray[np.float64]  # of the shown day, shape (144, 12)
    best_hour_w: float  # of the panels on a clear day, at the bank's terminals
    swing_frac: float  # highest less lowest charge of the shown day


def bank_why(view: BankView, method: str, *facts: Fact, doc: str = "bank") -> Why:
    """A reasoning about the bank, with what it was computed from."""
    return Why(method=method, source=BANK_SOURCE, inputs=[*facts, *bank_facts(view.outlook)], doc=doc)
