"""What a shunt's amp-hours say: from full to full, and when full was said too early.

References
----------
[1] From full to full what goes in, less the bank's loss, is what comes out. With an offset of the shunt both
    counts are off by it times their hours: cycles of unlike length tell the loss and the offset apart. A gain
    cancels and cannot be found this way.
[2] A bank is full when it stands at its absorption volts and takes less than 3 % of its capacity in amps.
"""

from __future__ import annotations

from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]

FULL_C = 0.03  # amps over capacity [2]
NEAR_V = 0.985  # of the absorption volts
SAID_FULL = 0.995


class Closure(NamedTuple):
    """The bank's coulomb efficiency and the shunt's offset [A], with their spreads."""

    coulomb_efficiency: float
    offset_a: float
    efficiency_spread: float
    offset_spread_a: float


def closed(charge_ah: Array, discharge_ah: Array, charge_h: Array, discharge_h: Array) -> Closure:
    """Efficiency and offset from cycles between full and full [1].

    Parameters
    ----------
    charge_ah, discharge_ah, charge_h, discharge_h : ndarray, shape (n,)
        What the shunt counted in and out, and over how many hours each.

    Raises
    ------
    ValueError
        With fewer than three cycles, or cycles that are all alike.
    """
    # (charge - offset charge_h) eta = discharge + offset discharge_h, linear in eta and eta offset
    if len(charge_ah) < 3:
        raise ValueError("three cycles at the least")
    eta, offset = 1.0, 0.0
    rows = np.stack([charge_ah, np.zeros_like(charge_ah)], axis=1)
    for _ in range(20):
        rows = np.stack([charge_ah, -(eta * charge_h + discharge_h)], axis=1)
        if np.linalg.matrix_rank(rows) < 2:
            raise ValueError("cycles of unlike length")
        found = np.linalg.lstsq(rows, discharge_ah, rcond=None)[0]
        eta, offset = float(found[0]), float(found[1])
    left = discharge_ah - rows @ found
    sd = float(np.sqrt(np.sum(left**2) / max(len(left) - 2, 1)))
    spread = np.sqrt(np.diag(np.linalg.inv(rows.T @ rows))) * sd
    return Closure(eta, offset, float(spread[0]), float(spread[1]))


class SaysFull(NamedTuple):
    """When a meter said full, what the charge was then, and when the bank really was full [min]."""

    said_full_at_minute: float | None
    true_soc_then: float | None
    truly_full_at_minute: float | None


def says_full(
    minute: Array, bank_v: Array, bank_a: Array, said_soc: Array, capacity_ah: float,
    coulomb_efficiency: float, absorption_v: float,
) -> SaysFull:  # fmt: skip
    """Whether a meter of charge says full too early: what still went in until the bank truly was [2].

    Parameters
    ----------
    minute, bank_v, bank_a, said_soc : ndarray, shape (t,)
        Charging amps positive; charge as the meter says it [-].
    capacity_ah, coulomb_efficiency, absorption_v : float
        Of the bank.
    """
    said = np.flatnonzero(said_soc >= SAID_FULL)
    full = np.flatnonzero((bank_v > absorption_v * NEAR_V) & (bank_a >= 0) & (bank_a < FULL_C * capacity_ah))
    said_at = float(minute[said[0]]) if len(said) else None
    full_at = float(minute[full[0]]) if len(full) else None
    if said_at is None or full_at is None:
        return SaysFull(said_at, None, full_at)
    step_h = np.diff(minute, append=2 * minute[-1] - minute[-2]) / 60
    first, last = sorted((int(said[0]), int(full[0])))
    amps = np.nan_to_num(bank_a[first:last])
    taken = np.where(amps > 0, amps * coulomb_efficiency, amps) * step_h[first:last]
    went_in = float(taken.sum()) / capacity_ah
    true = 1.0 - went_in if said[0] <= full[0] else 1.0
    return SaysFull(said_at, true, full_at)
