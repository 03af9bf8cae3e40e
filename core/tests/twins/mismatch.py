"""The rule of substrings written out over whole arrays, to check the compiled one against."""

from __future__ import annotations

import numpy as np
from parhelion.panels.layout import SUBSTRINGS
from parhelion.panels.mismatch import BYPASS_V, CELL_V, LEAST_LIGHT, _volts


def effective_light(beam, diffuse, worst, cells, half_cut):
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
