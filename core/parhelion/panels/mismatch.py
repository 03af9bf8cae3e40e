"""What a partly shaded panel gives: its substrings carry one current, bypassed where that pays.

References
----------
[1] Substring current = diffuse + beam x (1 - worst cell's share); half-cut panels average their halves;
    sorted, P = max over k of I_k x (volts of the k running substrings - bypass drops). Never scaled by mean
    shaded area.
[2] A cell below its own best current stands higher: volts over those at its best, 1 + a ln((1-bx)/(1-b)).
"""

from __future__ import annotations

import math

import numpy as np
from numba import boolean, float64, int64, njit
from numpy.typing import NDArray

from parhelion.computing.kernels import OPTIONS

Array = NDArray[np.float64]

VOLTS_RISE, BEST_TO_SHORT = 0.057, 0.94  # a = n Vt / Vmp of a cell, b = Imp / Isc [2]
CELL_V, BYPASS_V = 0.53, 0.5  # of a cell at its best, and what a bypass diode takes
HIGHEST_VOLTS = 1 - VOLTS_RISE * math.log(1 - BEST_TO_SHORT)  # of an open substring, over those at its best
LEAST_LIGHT = 1e-9
LARGE = 1e200  # of a product of numbers of up to some 17


def _volts(share_of_best: Array) -> Array:
    """Volts over those at its best, of a substring that carries a share of its own best current [2]."""
    x = np.clip(share_of_best, 0.0, 1.0)
    return 1 + VOLTS_RISE * np.log((1 - BEST_TO_SHORT * x) / (1 - BEST_TO_SHORT))


@njit(float64(float64), **OPTIONS)
def _idle(share_of_best: float) -> float:
    """Current that a substring does not carry, over that at its best: what its volts rise with [2]."""
    return (1 - BEST_TO_SHORT * share_of_best) / (1 - BEST_TO_SHORT)


@njit(float64(float64), **OPTIONS)
def raised(share_of_best: float) -> float:
    """Volts over those at its best, of a substring that carries a share of its best current [2]."""
    return 1 + VOLTS_RISE * math.log(_idle(min(max(share_of_best, 0.0), 1.0)))


@njit(float64(float64, float64, float64, float64), **OPTIONS)
def _rule(one: float, two: float, three: float, drop: float) -> float:
    """The best of three substrings in series [1], their currents in any order."""
    high, low = max(one, two, three), min(one, two, three)
    middle = one + two + three - high - low
    best = high * (1 - 2 * drop)  # one at its best has its own volts
    best = max(best, middle * (1 + raised(middle / max(high, LEAST_LIGHT)) - drop))
    volts = 1 + raised(low / max(high, LEAST_LIGHT)) + raised(low / max(middle, LEAST_LIGHT))
    return max(best, low * volts, 0.0) / 3


@njit(float64[:, ::1](float64[:, ::1], float64[:, ::1], float64[:, ::1], int64, boolean), **OPTIONS)
def effective_light(beam: Array, diffuse: Array, worst: Array, cells: int, half_cut: bool) -> Array:
    """Light that an unshaded panel would need to give as much [W/m2], by the rule of substrings [1].

    Parameters
    ----------
    beam, diffuse : ndarray, shape (n, s)
        On the cells, after incidence losses and sky view [W/m2].
    worst : ndarray, shape (6, s)
        Shaded share of the worst cell in each half of each substring [-].
    cells : int
        In the whole panel.
    half_cut : bool

    Returns
    -------
    ndarray, shape (n, s)
    """
    drop = BYPASS_V / (CELL_V * cells / 3 / (2 if half_cut else 1))
    made = beam + diffuse
    kept = np.empty(3)
    for s in range(beam.shape[1]):
        for k in range(3):
            kept[k] = 1 - (worst[2 * k, s] + worst[2 * k + 1, s]) / 2
        if kept.min() == 1:
            continue
        for n in range(beam.shape[0]):
            b, d = beam[n, s], diffuse[n, s]
            made[n, s] = _rule(d + b * kept[0], d + b * kept[1], d + b * kept[2], drop)
    return made


@njit(float64(float64[::1], float64), **OPTIONS)
def _best_of(row: Array, drop: float) -> float:
    """The best of substrings in series [1], their currents from the highest down, over their number."""
    parts = len(row)
    best = 0.0
    for k in range(parts, 0, -1):
        current = row[k - 1]
        if k < parts and row[k] == current:  # one more that carries as much loses nothing
            continue
        bypassed = (parts - k) * drop
        if current * (k * HIGHEST_VOLTS - bypassed) <= best:
            continue
        rise, product, each, last = 0.0, 1.0, 1.0, -1.0  # the logarithms as that of one product [2]
        for j in range(k):
            if row[j] <= current:  # and so all after it: they stand at their best
                break
            if row[j] != last:
                last, each = row[j], _idle(current / row[j])
            product *= each
            if product > LARGE:
                rise, product = rise + math.log(product), 1.0
        rise += math.log(product)
        best = max(best, current * (k + VOLTS_RISE * rise - bypassed))
    return best / parts


@njit(float64[:, ::1](float64[:, ::1], float64[:, ::1], float64[:, ::1], float64[::1], float64), **OPTIONS)
def string_light(beam: Array, diffuse: Array, kept: Array, views: Array, drop: float) -> Array:
    """Light that an even string would need to give as much, by the rule over all its substrings [1].

    Parameters
    ----------
    beam, diffuse : ndarray, shape (n, s)
        On every panel of the string, after incidence losses [W/m2].
    kept : ndarray, shape (m, s)
        Share of the beam that each substring keeps [-].
    views : ndarray, shape (m,)
        Share of the diffuse light that each keeps [-].
    drop : float
        What a bypass takes, over the volts of a substring [-].

    Returns
    -------
    ndarray, shape (n, s)
    """
    members, steps = beam.shape
    parts = len(views)
    made = np.empty((members, steps))
    row = np.empty(parts)
    order = np.arange(parts)
    for s in range(steps):
        for n in range(members):
            b, d = beam[n, s], diffuse[n, s]
            if b <= 0 and d <= 0:
                made[n, s] = 0.0
                continue
            for i in range(parts):  # in the order of the last one, which is nearly right
                part = order[i]
                current = d * views[part] + b * kept[part, s]
                j = i
                while j > 0 and row[j - 1] < current:
                    row[j], order[j] = row[j - 1], order[j - 1]
                    j -= 1
                row[j], order[j] = current, part
            if row[0] - row[parts - 1] <= 1e-9 * row[0]:
                made[n, s] = row[0]
            else:
                made[n, s] = _best_of(row, drop)
    return made


def series_light(effective: Array, cells: int) -> Array:
    """Light that one even panel would need to give as much as parts in series, by the same rule [1].

    Parameters
    ----------
    effective : ndarray, shape (k, ...)
        On each part [W/m2].
    cells : int
        In one part, which has its own bypass.
    """
    parts = len(effective)
    ordered = -np.sort(-effective, axis=0)
    drop = BYPASS_V / (CELL_V * max(cells, 1))
    best = np.zeros(effective.shape[1:])
    for k in range(1, parts + 1):
        carried = ordered[k - 1]
        volts = sum(_volts(carried / np.maximum(ordered[j], LEAST_LIGHT)) for j in range(k))
        best = np.maximum(best, carried * (volts - (parts - k) * drop) / parts)
    return best
