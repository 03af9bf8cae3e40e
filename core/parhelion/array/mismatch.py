"""What a partly shaded panel gives: its substrings carry one current, bypassed where that pays.

References
----------
[1] Substring current = diffuse + beam x (1 - worst cell's share); half-cut panels average their halves;
    sorted, P = max over k of I_k x (volts of the k running substrings - bypass drops). Never scaled by mean
    shaded area.
[2] A cell below its own best current stands higher: volts over those at its best, 1 + a ln((1-bx)/(1-b)).
"""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from parhelion.array.layout import SUBSTRINGS

Array = NDArray[np.float64]

VOLTS_RISE, BEST_TO_SHORT = 0.057, 0.94  # a = n Vt / Vmp of a cell, b = Imp / Isc [2]
CELL_V, BYPASS_V = 0.53, 0.5  # of a cell at its best, and what a bypass diode takes
LEAST_LIGHT = 1e-9


def _volts(share_of_best: Array) -> Array:
    """Volts over those at its best, of a substring that carries a share of its own best current [2]."""
    x = np.clip(share_of_best, 0.0, 1.0)
    return 1 + VOLTS_RISE * np.log((1 - BEST_TO_SHORT * x) / (1 - BEST_TO_SHORT))


def effective_light(beam: Array, diffuse: Array, worst: Array, cells: int, half_cut: bool) -> Array:
    """Light that an unshaded panel would need to give as much [W/m2], by the rule of substrings [1].

    Parameters
    ----------
    beam, diffuse : ndarray, shape (...)
        On the cells, after incidence losses and sky view [W/m2].
    worst : ndarray, shape (6, ...)
        Shaded share of the worst cell in each half of each substring [-], broadcast against the light.
    cells : int
        In the whole panel.
    half_cut : bool
    """
    halves = diffuse + beam * (1 - worst)
    currents = (halves[0::2] + halves[1::2]) / 2
    ordered = -np.sort(-currents, axis=0)
    series = cells / SUBSTRINGS / (2 if half_cut else 1)
    drop = BYPASS_V / (CELL_V * series)
    best = np.zeros(np.broadcast(beam, worst[0]).shape)
    for k in range(1, SUBSTRINGS + 1):
        carried = ordered[k - 1]
        volts = np.zeros_like(best)
        for j in range(k):
            volts = volts + _volts(carried / np.maximum(ordered[j], LEAST_LIGHT))
        best = np.maximum(best, carried * (volts - (SUBSTRINGS - k) * drop) / SUBSTRINGS)
    return best
