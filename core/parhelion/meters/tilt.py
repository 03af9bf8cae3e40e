"""The best tilt of a wing by the total that a meter shows while it is moved, the sun's own change taken out.

References
----------
[1] Watts = s(t) (a + b cos tilt + c sin tilt) + what does not move; the best tilt is atan2(c, b). s(t) is the
    sun's own change over the minutes: a parabola, of the fourth order where a tilt is come back to, or what a
    panel that lies still says, of the bright minutes only.
[2] A meter that lags shows the tilt of some seconds ago.
"""

from __future__ import annotations

from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray
from scipy.optimize import least_squares

Array = NDArray[np.float64]

SAME_DEG = 2.0
BRIGHT_FRAC = 0.85  # of the reference's bright level
LEAST_SAMPLES, LEAST_TILTS = 8, 3
WITHIN = 0.99
FINE_DEG = 0.5


class BestTilt(NamedTuple):
    """Where the total peaks, the span that gives all but a hundredth of it, and how well it is known "
    "[deg]."""

    best_tilt_deg: float
    from_deg: float
    to_deg: float
    spread_deg: float
    beside_w: float  # of a reading about the fitted line


def _settled(seconds: Array, tilt_deg: Array, lag_s: float) -> Array:
    """The tilt that the meter shows at each moment [2]."""
    return np.asarray(np.interp(seconds - lag_s, seconds, tilt_deg))


def _order(seconds: Array, tilt_deg: Array) -> int:
    """Of the sun's change: higher where tilts are come back to [1]."""
    span = seconds[-1] - seconds[0]
    for tilt in np.unique(np.round(tilt_deg)):
        at = seconds[np.abs(tilt_deg - tilt) < SAME_DEG]
        if len(at) > 1 and np.max(np.diff(at)) > span / 3:
            return 4
    return 2


def best_tilt(
    seconds: Array, tilt_deg: Array, total_w: Array, reference_w: Array | None = None, lag_s: float = 0.0
) -> BestTilt:
    """The tilt at which the total is largest [1].

    Parameters
    ----------
    seconds, tilt_deg, total_w : ndarray, shape (n,)
    reference_w : ndarray, shape (n,), optional
        Of a panel that lies still.
    lag_s : float
        Of the meter.

    Raises
    ------
    ValueError
        With too few readings or tilts to tell.
    """
    good = np.isfinite(total_w) & np.isfinite(tilt_deg)
    shown = _settled(seconds, tilt_deg, lag_s)
    steady = np.abs(np.gradient(shown)) < SAME_DEG
    if steady[good].sum() > len(total_w) // 2:
        good &= steady
    light = np.ones_like(total_w)
    if reference_w is not None:
        level = float(np.nanquantile(reference_w, 0.9))
        good &= np.isfinite(reference_w) & (reference_w > BRIGHT_FRAC * level)
        light = reference_w / level
    tilts = np.unique(np.round(shown[good] / SAME_DEG))
    if good.sum() < LEAST_SAMPLES or len(tilts) < LEAST_TILTS:
        raise ValueError("too few readings at too few tilts")
    t = (seconds[good] - seconds[good].mean()) / max(np.ptp(seconds[good]) / 2, 1.0)
    angle, total, sun = np.radians(shown[good]), total_w[good], light[good]
    order = 0 if reference_w is not None else _order(seconds[good], shown[good])
    powers = np.stack([t ** (k + 1) for k in range(order)], axis=1) if order else np.zeros((len(t), 0))

    def made(p: Array) -> Array:
        a, b, c = p[:3]
        return np.asarray(sun * (1 + powers @ p[3:]) * (a + b * np.cos(angle) + c * np.sin(angle)))

    start = np.concatenate([[total.mean() / 3, total.mean() / 2, total.mean() / 2], np.zeros(order)])
    scale = max(float(np.median(total)), 1.0)
    soft: Array = np.concatenate([np.full(3, 0.0), np.full(order, 0.02)])

    def wrong(p: Array) -> Array:
        return np.concatenate([(made(p) - total) / scale, soft * p])

    found = least_squares(wrong, start, loss="soft_l1", f_scale=0.01)
    a, b, c = found.x[:3]
    best = float(np.degrees(np.arctan2(c, b)))
    beside = float(np.std(made(found.x) - total))
    covariance: Array = np.linalg.pinv(found.jac.T @ found.jac) * (beside / scale) ** 2
    slope = np.zeros(len(found.x))
    slope[1], slope[2] = -c / (b * b + c * c), b / (b * b + c * c)
    spread = float(np.degrees(np.sqrt(max(float(slope @ covariance @ slope), 0.0))))
    every = np.arange(best - 60, best + 60, FINE_DEG)
    value = a + b * np.cos(np.radians(every)) + c * np.sin(np.radians(every))
    near = every[value > WITHIN * float(np.max(value))]
    return BestTilt(best, float(near[0]), float(near[-1]), spread, beside)
