"""What a voltmeter shows of a bank at rest, and where it cannot tell the charge.

References
----------
[1] Typical volts of a cell at rest, 25 C, by state of charge (`chemistries.py`); a maker's own full and empty
    volts come first and stretch the curve between them.
"""

from __future__ import annotations

import numpy as np
from numpy.typing import ArrayLike, NDArray

from parhelion.bank.store import reserve_of
from parhelion.design import Bank
from parhelion.design.chemistries import CHEMICALS

METER_ERROR = 0.005  # of the volts, that an ordinary voltmeter is off
BLIND_SPAN = 0.20  # of the charge hidden in that error: there volts tell nothing


def rest_volts(bank: Bank, charge_frac: ArrayLike) -> NDArray[np.float64]:
    """Volts of the whole bank at rest at states of charge of any shape [V]."""
    table = np.array(CHEMICALS[bank.chemistry].rest_v)
    volts = np.interp(np.asarray(charge_frac, dtype=float), table[:, 0], table[:, 1]) * bank.cells
    low, high = table[0, 1] * bank.cells, table[-1, 1] * bank.cells
    own_low, own_high = bank.empty_v or low, bank.full_v or high
    return own_low + (volts - low) * (own_high - own_low) / (high - low)


def tape_volts(bank: Bank) -> list[tuple[str, float | None, float]]:
    """The marks to tape beside the voltmeter: what, state of charge, volts at rest."""
    reserve, out = reserve_of(bank), 1 - bank.depth
    marks: list[tuple[str, float | None, float]] = [
        ("full", 1.0, float(rest_volts(bank, 1.0))),
        ("half", 0.5, float(rest_volts(bank, 0.5))),
        ("reserve", reserve, float(rest_volts(bank, reserve))),
        ("usable end", out, float(rest_volts(bank, out))),
    ]
    return [*marks, ("cuts out, under load", None, bank.cuts_out_v)]


def blind_span(bank: Bank) -> tuple[float, float] | None:
    """The stretch of charge over which a voltmeter cannot tell, if it is wide; from and to [-]."""
    charges = np.linspace(0, 1, 201)
    volts = rest_volts(bank, charges)
    off = METER_ERROR * bank.nominal_v
    widths = np.interp(volts + off, volts, charges) - np.interp(volts - off, volts, charges)
    blind = charges[widths > BLIND_SPAN]
    return (float(blind[0]), float(blind[-1])) if blind.size else None
