"""A bank's capacity from readings: amp-hours counted between moments at which it tells its charge.

References
----------
[1] Such moments: full, where the charger holds its absorption volts and the amps have tailed off; empty,
    where the bank is drawn down to its cut-out; and at rest, where the volts stand on a steep part of the
    chemistry's rest curve. The flat middle of a lithium curve tells nothing, and a meter's per cent are no
    such moment: they are counted from the capacity that is looked for.
[2] Amps drawn count by Peukert about the rate of the label, amps charged by the charge efficiency; cold as
    the bank's own model has it (`bank.store`).
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from parhelion.bank.store import drawn_a, store_of
from parhelion.design import Bank
from parhelion.design.chemistries import CHEMICALS
from parhelion.meters.factors import Factor
from parhelion.wiring.by_itself import absorption_v

Array = NDArray[np.float64]

REST_C, REST_H = 0.01, 0.5  # amps over capacity that pass for rest, and for how long
TAIL_C, AT_TOP = 0.045, 0.994  # of the capacity; of the absorption volts
CELL_V_OFF = {True: 0.012, False: 0.010}  # lithium, lead: what a meter and a short rest leave uncertain
FULL_OFF, EMPTY_OFF, METER_OFF = 0.012, 0.03, 0.015
MOST_OFF = 0.08  # of the charge: volts that tell less tell nothing
LEAST_SWING = 0.25
MOST_MISSING = 0.05  # of the readings between
MOST_SURE = 1.96  # spreads: 95 of 100 lie between, as of every factor


class Moment(NamedTuple):
    """The bank tells its charge: after which step, how much, and how surely."""

    after: int
    soc: float
    spread: float


class Count(NamedTuple):
    """Amp-hours between two such moments, over the charge that went."""

    capacity_ah: float  # as rated, warm
    spread_ln: float


def moments(bank: Bank, volts: Array, amps: Array, step_h: Array) -> list[Moment]:
    """When the bank tells its charge [1].

    Parameters
    ----------
    bank : Bank
    volts, amps : ndarray, shape (t,)
        At the bank, charging positive; nan where nothing was read.
    step_h : ndarray, shape (t,)
        Lengths of the steps [h].
    """
    chemical, size = CHEMICALS[bank.chemistry], bank.capacity_ah
    charge, cell_v = np.array(chemical.rest_v).T
    slope = np.gradient(charge, cell_v)
    found, rested_h = [], 0.0
    for index in range(len(volts)):
        volt, amp = float(volts[index]), float(amps[index])
        if not np.isfinite(volt) or not np.isfinite(amp):
            rested_h = 0.0
            continue
        rested_h = rested_h + float(step_h[index]) if abs(amp) < REST_C * size else 0.0
        each = volt / bank.cells
        if volt >= AT_TOP * absorption_v(bank) and 0 <= amp < TAIL_C * size:
            found.append(Moment(index, 1.0, FULL_OFF))
        elif amp < 0 and volt <= bank.cuts_out_v:
            found.append(Moment(index, 0.0, EMPTY_OFF))
        elif rested_h >= REST_H and cell_v[0] < each < cell_v[-1]:
            off = abs(float(np.interp(each, cell_v, slope))) * CELL_V_OFF[chemical.lithium]
            if off <= MOST_OFF:
                found.append(Moment(index, float(np.interp(each, cell_v, charge)), off))
    return found


def _between(
    bank: Bank, amps: Array, step_h: Array, first: int, last: int, temperature_c: float
) -> float | None:
    """Amp-hours taken between two steps, as the bank feels them [2]; None where too little was read."""
    span = slice(first + 1, last + 1)
    read, hours = amps[span], step_h[span]
    known = np.isfinite(read)
    if not known.any() or float(hours[~known].sum()) > MOST_MISSING * float(hours.sum()):
        return None
    at = np.arange(len(read))
    whole = np.interp(at, at[known], read[known])
    store = store_of(bank.model_copy(update={"health_frac": 1.0}), temperature_c)
    felt = [drawn_a(-a, store) if a < 0 else -a * store.coulomb_efficiency for a in whole.tolist()]
    return float(np.sum(np.array(felt) * hours)) * bank.capacity_ah / store.capacity_ah


def counts(bank: Bank, volts: Array, amps: Array, step_h: Array, temperature_c: float) -> list[Count]:
    """What each stretch between two moments comes to; those over the same stretch are counted once.

    Parameters
    ----------
    bank : Bank
    volts, amps, step_h : ndarray, shape (t,)
        As of `moments`.
    temperature_c : float
        Of the bank.
    """
    told, found = moments(bank, volts, amps, step_h), []
    begin: Moment | None = None
    for moment in told:
        if begin is None or abs(moment.soc - begin.soc) < LEAST_SWING:
            same = begin is not None and abs(moment.soc - begin.soc) <= begin.spread
            begin = moment if begin is None or same else begin  # the last of a stay at one charge
            continue
        gone = _between(bank, amps, step_h, begin.after, moment.after, temperature_c)
        swing = begin.soc - moment.soc
        if gone is not None and gone * swing > 0:
            off = np.hypot(begin.spread, moment.spread) / abs(swing)
            found.append(Count(gone / swing, float(np.hypot(off, METER_OFF))))
        begin = moment
    return found


def capacity(found: Sequence[Count]) -> Factor | None:
    """The capacity that all counts agree on [Ah], with its interval; None without any."""
    if not found:
        return None
    logs, spreads = np.log([one.capacity_ah for one in found]), np.array([one.spread_ln for one in found])
    weights = 1 / spreads**2
    middle = float(np.sum(weights * logs) / weights.sum())
    apart = float(np.sqrt(np.sum(weights * (logs - middle) ** 2) / weights.sum() / len(found)))
    off = MOST_SURE * float(np.sqrt(1 / weights.sum() + apart**2 + METER_OFF**2))
    return Factor(float(np.exp(middle)), float(np.exp(middle - off)), float(np.exp(middle + off)), len(found))
