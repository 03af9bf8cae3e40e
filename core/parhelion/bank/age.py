"""What age and use have left of a bank, and how many cycles a habit leaves it.

References
----------
[1] Cycle life N(d) = N(d0) (d0 / d)^m, to 80 % of the capacity when new; m and N by chemistry.
[2] Typical calendar fade by chemistry (docs/methods/bank.md).
"""

from __future__ import annotations

from parhelion.design import Bank
from parhelion.design.chemistries import CHEMICALS

END_OF_LIFE_LOSS = 0.20  # of the capacity, where a cycle count ends [1]
LEAST_HEALTH = 0.3


def cycles_at(bank: Bank, depth_frac: float, which: int = 1) -> float:
    """Full life in cycles of one depth [1].

    Parameters
    ----------
    bank : Bank
    depth_frac : float
        Of each cycle, over 0 to 1 [-].
    which : int
        0 the low end of what is typical, 1 the middle, 2 the high end.
    """
    typical = CHEMICALS[bank.chemistry]
    return typical.cycles[which] * (typical.cycles_depth / depth_frac) ** typical.cycles_exponent


def health_of(bank: Bank) -> float:
    """Capacity left over capacity when new: as tested, or by cycles used and years [1] [2]."""
    if bank.health_frac is not None:
        return bank.health_frac
    typical = CHEMICALS[bank.chemistry]
    worn = END_OF_LIFE_LOSS * bank.cycles_used / typical.cycles[1]
    aged = typical.calendar_per_year * bank.age_years
    return max(1 - worn - aged, LEAST_HEALTH)


def years_of(bank: Bank, depth_frac: float, cycles_per_year: float, which: int = 1) -> float:
    """Years to the end of life at a habit: cycles of a depth, and the calendar beside them [years]."""
    typical = CHEMICALS[bank.chemistry]
    per_year = END_OF_LIFE_LOSS * cycles_per_year / cycles_at(bank, depth_frac, which)
    return END_OF_LIFE_LOSS / (per_year + typical.calendar_per_year)
