"""A bank in watt-hours, as a plan looks ahead with it: quick enough to try ten thousands of speeds.

What is promised of a boat is run afterwards with the bank's own model (`bank.store`); this one chooses.

References
----------
[1] Acceptance: the offer, at most A up to the knee, then A (1 - s)/(1 - knee); what is taken is stored with
the
    charge efficiency. Above the knee ds/dt = e A (1 - s)/((1 - knee) E), stepped in closed form.
"""

from __future__ import annotations

import math
from typing import NamedTuple

import numpy as np
from numba import float64, njit, types
from numpy.typing import NDArray

from parhelion.computing.kernels import OPTIONS

Array = NDArray[np.float64]


class Watthours(NamedTuple):
    """A bank by its watt-hours; all floats."""

    full_wh: float
    reserve_wh: float
    charge_efficiency: float = 1.0
    discharge_efficiency: float = 1.0
    accept_w: float = math.inf  # most it takes at the terminals below the knee
    knee: float = 1.0  # state of charge from where it takes less


def watthours(full_wh: float, reserve_wh: float, **more: float) -> Watthours:
    """A bank of numbers of any kind; see `Watthours`."""
    return Watthours(
        float(full_wh), float(reserve_wh), **{name: float(value) for name, value in more.items()}
    )


WATTHOURS = types.NamedUniTuple(float64, len(Watthours._fields), Watthours)


@njit(float64(float64, float64, float64, WATTHOURS), **OPTIONS)
def after(held_wh: float, net_w: float, hours: float, bank: Watthours) -> float:
    """What the bank holds after a net power at its terminals over some hours [Wh] [1].

    Below nothing it goes on counting, so that a plan that fails says by how much.
    """
    if net_w < 0:
        return held_wh + net_w / bank.discharge_efficiency * hours
    room = bank.full_wh - held_wh
    if room <= 0 or net_w == 0:
        return held_wh
    offered = min(net_w, bank.accept_w)
    if bank.knee >= 1.0 or math.isinf(bank.accept_w):
        return min(held_wh + offered * bank.charge_efficiency * hours, bank.full_wh)
    soc = held_wh / bank.full_wh
    bites = 1 - offered / bank.accept_w * (1 - bank.knee)
    if soc < bites:
        rise_per_h = offered * bank.charge_efficiency / bank.full_wh
        needed = (bites - soc) / rise_per_h
        if needed >= hours:
            return held_wh + rise_per_h * hours * bank.full_wh
        soc, hours = bites, hours - needed
    fall = bank.charge_efficiency * bank.accept_w * hours / ((1 - bank.knee) * bank.full_wh)
    return bank.full_wh * (1 - (1 - soc) * math.exp(-fall))


def stored_after(held_wh: float, net_w: float, hours: float, bank: Watthours) -> float:
    """The same for numbers of any kind [Wh]."""
    return float(after(float(held_wh), float(net_w), float(hours), bank))


@njit(float64(float64, float64, float64, WATTHOURS), **OPTIONS)
def before(held_wh: float, net_w: float, hours: float, bank: Watthours) -> float:
    """The least charge from which the same power ends with at least this much [Wh].

    Where the bank nears full the acceptance at the end counts, which asks for a little too much.
    """
    if net_w < 0:
        return held_wh - net_w / bank.discharge_efficiency * hours
    taken = min(net_w, bank.accept_w)
    soc = held_wh / bank.full_wh
    if soc > bank.knee and not math.isinf(bank.accept_w):
        taken = min(taken, bank.accept_w * (1 - soc) / (1 - bank.knee))
    return held_wh - taken * bank.charge_efficiency * hours


@njit(
    types.void(float64[::1], float64[:, ::1], float64[::1], float64, float64, WATTHOURS, float64[:, ::1]),
    **OPTIONS,
)
def _held(
    motor_w: Array, sun_w: Array, house_w: Array, start_wh: float, hours: float, bank: Watthours, out: Array
) -> None:
    for m in range(sun_w.shape[0]):
        out[m, 0] = start_wh
        for t in range(motor_w.shape[0]):
            out[m, t + 1] = after(out[m, t], sun_w[m, t] - house_w[t] - motor_w[t], hours, bank)


def held_wh(
    motor_w: Array, sun_w: Array, house_w: Array, start_wh: float, step_h: float, bank: Watthours
) -> Array:
    """What the bank holds at the steps' edges under a plan that is held through, whatever the sky.

    Parameters
    ----------
    motor_w, house_w : ndarray, shape (t,)
    sun_w : ndarray, shape (n, t)
        Of each sky, other sources with it.
    start_wh : float
    step_h : float
    bank : Watthours

    Returns
    -------
    ndarray, shape (n, t + 1)
        [Wh]; below nothing where the plan asks for more than there is.
    """
    out = np.empty((sun_w.shape[0], len(motor_w) + 1))
    flat = [np.ascontiguousarray(x, dtype=float) for x in (motor_w, sun_w, house_w)]
    _held(*flat, float(start_wh), float(step_h), bank, out)
    return out
