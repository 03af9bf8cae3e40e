"""What the rules about a bank are given, and the reasoning that goes with them."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from parhelion.balance.flow import SOC
from parhelion.balance.outlook import Outlook, remembered
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


@remembered
def bank_view(outlook: Outlook) -> BankView:
    """The bank on the shown day, under the plan as set."""
    record = outlook.plan_record[outlook.light.shown]
    clear = outlook.clear_harvest.sun_w[0]
    best_hour = float(np.convolve(clear, np.ones(6) / 6, mode="valid").max())
    swing = float(np.max(record[:, SOC]) - np.min(record[:, SOC])) if outlook.design.bank else 0.0
    return BankView(outlook, record, best_hour, swing)


def bank_why(view: BankView, method: str, *facts: Fact, doc: str = "bank") -> Why:
    """A reasoning about the bank, with what it was computed from."""
    return Why(method=method, source=BANK_SOURCE, inputs=[*facts, *bank_facts(view.outlook)], doc=doc)
