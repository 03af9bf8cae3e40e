"""Sky words as a random clear-sky index: what share of the clear-sky light comes through, step by step.

Draws are fixed by (member, day, step) and know nothing of the boat, so that variants and finite
differences meet the same weather.

References
----------
[1] Clear-sky index by sky word with its spread; broken cloud as two states with 12-minute spells
    (docs/methods/sky-words.md).
[2] A light overcast lets 20 to 40 % of a clear sky through, a heavy one 5 to 15 %.
[3] Beside a bright cloud's edge more than a clear sky's light arrives, 1.1 to 1.2 of it for minutes.
"""

from __future__ import annotations

from datetime import date as Date

import numpy as np
from numba import boolean, float64, njit
from numpy.typing import NDArray
from scipy.signal import lfilter
from scipy.special import ndtri

from parhelion.computing.kernels import OPTIONS
from parhelion.constants import STEP_S, STEPS_PER_DAY
from parhelion.design import Shade, Sky

Array = NDArray[np.float64]

MEMBERS = 201  # odd, so that one member is the median
MINUTES_PER_STEP = STEP_S // 60
MINUTES_PER_DAY = STEPS_PER_DAY * MINUTES_PER_STEP

STEADY = {  # mean and spread of the clear-sky index [1]
    Sky.CLEAR: (1.00, 0.015),
    Sky.HAZY: (0.85, 0.04),
    Sky.OVERCAST: (0.30, 0.08),
    Sky.RAIN: (0.13, 0.04),
}
THIN = {Sky.HAZY: (0.92, 0.03), Sky.OVERCAST: (0.38, 0.07), Sky.RAIN: (0.20, 0.05)}  # [2]
THICK = {Sky.HAZY: (0.72, 0.05), Sky.OVERCAST: (0.10, 0.03), Sky.RAIN: (0.06, 0.02)}
BROKEN_BRIGHT, BROKEN_DULL = 1.04, 0.45  # means of the two states [1]
BROKEN_SPELL_MIN = 12.0  # mean length of a spell [min] [1]
BRIGHT_SHARE = {Shade.THIN: 0.7, Shade.USUAL: 0.5, Shade.THICK: 0.3}  # of the time, under a broken sky
CLOUD_EDGE = 1.20  # the first and the last minute of a bright spell: the cloud beside it mirrors [3]

DAY_SHARE = 0.5  # of the variance lies between days, the rest within the day
MEMORY_H = 1.0  # e-folding time of the wander within the day


def _uniforms(date: Date, members: int) -> Array:
    """Numbers in (0, 1), shape (members, 1 + minutes of the day), the same for the same member and day."""
    stream = np.random.Generator(np.random.Philox(key=date.toordinal()))
    return stream.random((members, 1 + MINUTES_PER_DAY))


def steady_index(word: Sky, shade: Shade = Shade.USUAL) -> tuple[float, float]:
    """Mean and spread of the clear-sky index of a word that is no broken sky [-]."""
    return {Shade.THIN: THIN, Shade.USUAL: STEADY, Shade.THICK: THICK}[shade].get(word, STEADY[word])


@njit(boolean[:, ::1](float64[:, ::1], float64), **OPTIONS)
def bright_minutes(uniforms: Array, share: float) -> NDArray[np.bool_]:
    """Whether the sun is out, minute by minute: spells end by chance, bright ones take `share` of them."""
    leaves_bright = 1.0 / (2 * share * BROKEN_SPELL_MIN)
    leaves_dull = 1.0 / (2 * (1 - share) * BROKEN_SPELL_MIN)
    members, minutes = uniforms.shape[0], uniforms.shape[1] - 1
    bright = np.empty((members, minutes), dtype=np.bool_)
    for m in range(members):
        now = uniforms[m, 0] < share
        for minute in range(minutes):
            if uniforms[m, minute + 1] < (leaves_bright if now else leaves_dull):
                now = not now
            bright[m, minute] = now
    return bright


def _broken_index(uniforms: Array, share: float) -> Array:
    """Of every minute: dull, bright, or beside a cloud's edge; the bright ones keep their mean."""
    bright = bright_minutes(uniforms, share)
    beside = np.zeros_like(bright)
    beside[:, 1:] |= ~bright[:, :-1]
    beside[:, :-1] |= ~bright[:, 1:]
    mean_min = 2 * share * BROKEN_SPELL_MIN
    edges = 2 - 1 / mean_min  # of a spell, on the mean
    between = (BROKEN_BRIGHT * mean_min - CLOUD_EDGE * edges) / (mean_min - edges)
    return np.where(bright, np.where(beside, CLOUD_EDGE, between), BROKEN_DULL)


def clear_sky_index(word: Sky, date: Date, members: int = MEMBERS, shade: Shade = Shade.USUAL) -> Array:
    """Clear-sky index of each member and step under a sky word [1].

    Parameters
    ----------
    word : Sky
    date : datetime.date
        Picks the draws.
    members : int
        How many days to draw; the first ones are the same whatever the number.
    shade : Shade
        How much of it.

    Returns
    -------
    ndarray, shape (members, 144)
        [-], above zero.
    """
    uniforms = _uniforms(date, members)
    if word is Sky.BROKEN:
        minutes = _broken_index(uniforms, BRIGHT_SHARE[shade])
        return minutes.reshape(members, STEPS_PER_DAY, MINUTES_PER_STEP).mean(axis=2)
    mean, spread = steady_index(word, shade)
    normal = ndtri(np.clip(uniforms[:, : 1 + STEPS_PER_DAY], 1e-12, 1 - 1e-12))
    keep = np.exp(-STEP_S / 3600.0 / MEMORY_H)
    within = normal[:, 1:] * np.sqrt(1 - keep**2)
    within[:, 0] = normal[:, 1]
    wander = lfilter([1.0], [1.0, -keep], within, axis=1)
    standard = np.sqrt(DAY_SHARE) * normal[:, :1] + np.sqrt(1 - DAY_SHARE) * wander
    log_sd = np.sqrt(np.log1p((spread / mean) ** 2))  # lognormal of the same mean and spread: never dark
    return mean * np.exp(log_sd * standard - log_sd**2 / 2)
