"""Two meters of one quantity: gain, offset and lag of the one against the other, with intervals.

References
----------
[1] W.E. Deming's regression for errors in both variables, the ratio of their noise taken from second
    differences of each.
[2] Lag from the cross-correlation of first differences, its peak read between samples by a parabola.
[3] Moving-block bootstrap for intervals; the draws are always the same.
"""

from __future__ import annotations

from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]
Mask = NDArray[np.bool_]

MOST_LAG = 12  # samples
FROZEN = 6  # samples alike in a row are a frozen display
BOOTSTRAPS, BLOCK = 300, 20
NARROW = 6.0  # spread of the quantity over its noise, below which no gain is claimed
CHOPPED = 5.0  # noise of one meter over the other's, from which it samples a chopped current
INTERVAL = (0.025, 0.975)
LEAST_SAMPLES = 30
LEAST_NOISE = 1e-4
SEED = 7_301


class Comparison(NamedTuple):
    """b = gain a + offset, b later than a by the lag; intervals hold 95 of 100."""

    gain: float | None  # None where it cannot be told
    gain_interval: tuple[float, float] | None
    offset: float | None
    offset_interval: tuple[float, float] | None
    lag_s: float | None
    ratio: float  # of their means
    ratio_interval: tuple[float, float]
    chopped: str | None  # "a" or "b": the meter that samples a chopped current
    samples: int


def whole(values: Array) -> Mask:
    """Samples that were read: no gaps, no single zeros, nothing of a frozen display, shape (n,)."""
    good = np.isfinite(values)
    before, after = np.roll(values, 1), np.roll(values, -1)
    middle = np.nanmedian(np.abs(values))
    lone = (values == 0) & (np.abs(before) > middle / 4) & (np.abs(after) > middle / 4)
    good &= ~lone
    start = 0
    for end in range(1, len(values) + 1):
        if end == len(values) or values[end] != values[start]:
            if end - start >= FROZEN and values[start] != 0:
                good[start:end] = False
            start = end
    return good


def noise_of(values: Array, good: Mask) -> float:
    """Spread of a meter's own noise, from its second differences."""
    second = values[2:] - 2 * values[1:-1] + values[:-2]
    second = second[good[2:] & good[1:-1] & good[:-2]]
    if len(second) < 3:
        return LEAST_NOISE
    return max(float(1.4826 * np.median(np.abs(second)) / np.sqrt(6)), LEAST_NOISE)


def _matched(a: Array, b: Array, later: int) -> float:
    """How far two series go together, b read so many samples later."""
    n = len(a)
    return float(np.dot(a[max(0, -later) : n - max(0, later)], b[max(0, later) : n - max(0, -later)]))


def lag_of(a: Array, b: Array, good: Mask) -> float:
    """How many samples b is later than a [2]."""
    da, db = np.diff(a), np.diff(b)
    both = good[1:] & good[:-1]
    da, db = np.where(both, da, 0.0), np.where(both, db, 0.0)
    lags = np.arange(-MOST_LAG, MOST_LAG + 1)
    match = np.array([_matched(da, db, int(k)) for k in lags])
    peak = int(np.argmax(match))
    if not 0 < peak < len(lags) - 1:
        return float(lags[peak])
    left, here, right = match[peak - 1 : peak + 2]
    bend = left - 2 * here + right
    return float(lags[peak] + (0.5 * (left - right) / bend if bend < 0 else 0.0))


def deming(a: Array, b: Array, ratio: float) -> tuple[float, float]:
    """Gain and offset of a line with errors in both, `ratio` the variance of b's over a's [1]."""
    am, bm = a.mean(), b.mean()
    saa, sbb, sab = np.mean((a - am) ** 2), np.mean((b - bm) ** 2), np.mean((a - am) * (b - bm))
    if abs(sab) < LEAST_NOISE**2:
        return 1.0, float(bm - am)
    over = sbb - ratio * saa
    gain = (over + np.sqrt(over**2 + 4 * ratio * sab**2)) / (2 * sab)
    return float(gain), float(bm - gain * am)


def _blocks(n: int) -> Array:
    """Rows of sample numbers, a bootstrap each [3]."""
    draw = np.random.Generator(np.random.Philox(key=SEED))
    size = min(BLOCK, max(n // 4, 1))
    starts = draw.integers(0, n - size + 1, size=(BOOTSTRAPS, -(-n // size)))
    rows = (starts[:, :, None] + np.arange(size)[None, None, :]).reshape(BOOTSTRAPS, -1)
    return np.asarray(rows[:, :n])


def _interval(values: Array) -> tuple[float, float]:
    low, high = np.quantile(values, INTERVAL)
    return float(low), float(high)


def compared(a: Array, b: Array, seconds: float) -> Comparison:
    """How meter b reads against meter a.

    Parameters
    ----------
    a, b : ndarray, shape (n,)
        At the same times; nan where nothing was read.
    seconds : float
        Between samples.

    Raises
    ------
    ValueError
        Where there are fewer than thirty samples of both.
    """
    good_a, good_b = whole(a), whole(b)
    both = good_a & good_b
    if both.sum() < LEAST_SAMPLES:
        raise ValueError(f"{int(both.sum())} samples of both meters")
    noise_a, noise_b = noise_of(a, good_a), noise_of(b, good_b)
    rows = _blocks(int(both.sum()))
    x, y = a[both], b[both]
    ratio = float(y.mean() / x.mean())
    ratio_interval = _interval(y[rows].mean(axis=1) / x[rows].mean(axis=1))
    chopped = "b" if noise_b > CHOPPED * noise_a else "a" if noise_a > CHOPPED * noise_b else None
    spread = float(np.quantile(x, 0.95) - np.quantile(x, 0.05))
    if chopped or spread < NARROW * max(noise_a, noise_b):
        return Comparison(None, None, None, None, None, ratio, ratio_interval, chopped, int(both.sum()))
    lag = lag_of(a, b, both)
    at = np.arange(len(b), dtype=float)
    here = at[good_b]
    moved = np.interp(at + lag, here, b[good_b])
    near = np.interp(at + lag, at, good_b.astype(float)) > 0.99
    use = good_a & near & (at + lag >= 0) & (at + lag <= len(b) - 1)
    x, y = a[use], moved[use]
    share = lag % 1.0
    smoothed = noise_b * float(np.sqrt(share**2 + (1 - share) ** 2))
    noise = (smoothed / noise_a) ** 2
    x, y = _without_strays(x, y, noise)
    gain, offset = deming(x, y, noise)
    rows = _blocks(len(x))
    drawn = np.array([deming(x[row], y[row], noise) for row in rows])
    return Comparison(
        gain, _interval(drawn[:, 0]), offset, _interval(drawn[:, 1]), lag * seconds, ratio, ratio_interval,
        None, len(x),
    )  # fmt: skip


def _without_strays(x: Array, y: Array, noise: float) -> tuple[Array, Array]:
    """Pairs near the line: single readings far off it are dropped."""
    for _ in range(3):
        gain, offset = deming(x, y, noise)
        off = np.abs(y - gain * x - offset)
        keep = off < 5 * 1.4826 * np.median(off) + LEAST_NOISE
        if keep.all():
            break
        x, y = x[keep], y[keep]
    return x, y
