"""What a boat's own log makes of the model: the harvest factor, the watts at speed.

References
----------
[1] A day's ratio of sums, over rows picked by what the model says and by volts, never by what was logged:
    rows with a bank that is full say nothing of the panels. Days are weighed by what their sky words are
    worth and met with a robust mean of logs; days are drawn anew for the interval, with a floor from those
    spreads.
[2] Watts over the model's at the mean of both ways' speeds: a median of logs over the runs.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from parhelion.design import Sky

Array = NDArray[np.float64]
Mask = NDArray[np.bool_]

WORTH = {  # spread of a day's ratio under a word, in ln [1]
    Sky.CLEAR: 0.035, Sky.HAZY: 0.06, Sky.BROKEN: 0.12, Sky.OVERCAST: 0.28, Sky.RAIN: 0.35,
}  # fmt: skip
HELD_FRAC = 0.2  # of the way from best volts to open
BRIGHT_FRAC = 0.08  # of the nameplate, of modelled watts: rows that say something
LEAST_ROWS = 6
ROW_SPREAD = 0.03  # of a row beside the word
DAY_SPREAD = 0.02  # of a day beside its sky: the panels' heat, what lay on them
HUBER = 1.5
DRAWS, SEED = 2_000, 4_401
INTERVAL = (0.025, 0.975)
MOST_RUN_LN = 0.7


class Factor(NamedTuple):
    """Measured over modelled, and where 95 of 100 such logs would find it."""

    value: float
    low: float
    high: float
    number: int  # of days, or runs

    @property
    def spread_ln(self) -> float:
        """Of its logarithm."""
        return float(np.log(self.high / self.low) / (2 * 1.96))


class DayRatio(NamedTuple):
    """What one day says of the harvest."""

    ratio: float
    spread_ln: float
    rows: int


def day_ratio(
    modelled_w: Array,
    logged_w: Array,
    words: Sequence[Sky],
    free: Mask,
    nameplate_w: float,
    dark_w: float = 0.0,
    least_rows: int = LEAST_ROWS,
) -> DayRatio | None:
    """A day's measured harvest over the model's [1]; None where it says too little.

    Parameters
    ----------
    modelled_w, logged_w : ndarray, shape (t,)
        Nan where nothing was read.
    words : sequence of Sky
        That held in each row.
    free : ndarray of bool, shape (t,)
        Rows in which nothing held the panels back.
    nameplate_w : float
        Of all panels.
    dark_w : float
        What the meter shows in the dark.
    least_rows : int
        Rows that a day needs to say anything.
    """
    use = free & np.isfinite(logged_w) & (modelled_w > BRIGHT_FRAC * nameplate_w)
    if use.sum() < least_rows:
        return None
    ratio = float((logged_w[use] - dark_w).sum() / modelled_w[use].sum())
    if ratio <= 0:
        return None
    worth = np.array([WORTH[word] for word in words])
    share = modelled_w[use] / modelled_w[use].sum()
    return DayRatio(
        ratio,
        float(np.hypot((worth[use] * share).sum(), DAY_SPREAD + ROW_SPREAD / np.sqrt(use.sum()))),
        int(use.sum()),
    )


def _robust(logs: Array, spreads: Array) -> Array:
    """Huber's mean of logs, each by its spread, over the last axis."""
    weight = 1 / spreads**2
    middle = np.sum(weight * logs, axis=-1) / weight.sum(axis=-1)
    for _ in range(20):
        off = np.abs(logs - middle[..., None]) / spreads
        now = weight * np.minimum(1.0, HUBER / np.maximum(off, 1e-9))
        middle = np.sum(now * logs, axis=-1) / now.sum(axis=-1)
    return np.asarray(middle)


def harvest_factor(days: Sequence[DayRatio]) -> Factor | None:
    """The harvest's factor over days [1]; None without any.

    Parameters
    ----------
    days : sequence of DayRatio
    """
    if not days:
        return None
    logs, spreads = np.log([day.ratio for day in days]), np.array([day.spread_ln for day in days])
    middle = float(_robust(logs, spreads))
    floor = float(1 / np.sqrt(np.sum(1 / spreads**2)))
    spread = floor
    if len(days) > 2:
        draw = np.random.Generator(np.random.Philox(key=SEED))
        rows = draw.integers(0, len(days), size=(DRAWS // 10, len(days)))
        spread = max(floor, float(np.std(_robust(logs[rows], spreads[rows]))))
    low, high = np.exp(middle - 1.96 * spread), np.exp(middle + 1.96 * spread)
    return Factor(float(np.exp(middle)), float(low), float(high), len(days))


def free_rows(bank_v: Array, pv_v: Array, best_v: Array, open_v: Array, float_v: float) -> Mask:
    """Rows in which the panels stand at their best: neither held well above it nor with the bank at its top.

    Parameters
    ----------
    bank_v, pv_v, best_v, open_v : ndarray, shape (t,)
        Volts read and modelled; nan where nothing was read.
    float_v : float
        The charger's.
    """
    over = (pv_v - best_v) / np.maximum(open_v - best_v, 1e-6)
    held = np.where(np.isfinite(over), over > HELD_FRAC, False)
    top = np.where(np.isfinite(bank_v), bank_v > float_v * 0.997, False)
    known = np.isfinite(pv_v)
    return np.where(known, ~held, ~top)


def power_scale(watts: Array, modelled_w: Array) -> Factor | None:
    """Measured watts over the model's at the same speeds [2]; None without runs.

    Parameters
    ----------
    watts, modelled_w : ndarray, shape (n,)
        Of runs both ways, or with the stream taken out.
    """
    good = np.isfinite(watts) & np.isfinite(modelled_w) & (watts > 0) & (modelled_w > 0)
    logs = np.log(watts[good] / modelled_w[good])
    logs = logs[np.abs(logs) < MOST_RUN_LN]
    if not len(logs):
        return None
    middle = float(np.median(logs))
    wide = 1.4826 * float(np.median(np.abs(logs - middle))) if len(logs) > 2 else 0.08
    spread = max(1.2533 * wide, 0.03) / np.sqrt(len(logs))
    low, high = np.exp(middle - 1.96 * spread), np.exp(middle + 1.96 * spread)
    return Factor(float(np.exp(middle)), float(low), float(high), len(logs))
