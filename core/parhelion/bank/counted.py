"""A bank's capacity from the amp-hours that were counted between full and its cut-out.

References
----------
[1] What leaves a bank at an amp, by Peukert about the rate of its label, and [2] what cold leaves of it, as
    the bank's own model has both (`bank.store`).
"""

from __future__ import annotations

from dataclasses import dataclass

from parhelion.bank.store import drawn_a, store_of
from parhelion.design import Bank

NINE_OF_TEN = 1.64  # spreads of a normal band
METER_FRAC, FULL_FRAC = 0.02, 0.02  # what a shunt, and "full", are known to


@dataclass(frozen=True)
class Counted:
    """What a count comes to."""

    capacity_ah: float  # as it is rated, warm
    low_ah: float
    high_ah: float
    share: float  # of the label's [-]


def counted(bank: Bank, counted_ah: float, hours: float, temperature_c: float) -> Counted:
    """Capacity as rated, from a count between full and cut-out.

    Parameters
    ----------
    bank : Bank
    counted_ah, hours : float
        Drawn, and in how long.
    temperature_c : float
        Of the bank.
    """
    store = store_of(bank.model_copy(update={"health_frac": 1.0, "temperature_c": None}), temperature_c)
    amps = counted_ah / hours
    leaves = drawn_a(amps, store) / amps  # [1]
    found = counted_ah * leaves * bank.capacity_ah / store.capacity_ah  # [2]
    off = NINE_OF_TEN * (METER_FRAC**2 + FULL_FRAC**2) ** 0.5
    return Counted(found, found * (1 - off), found * (1 + off), found / bank.capacity_ah)
