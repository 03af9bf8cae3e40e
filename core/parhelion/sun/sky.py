"""Sky words as a random clear-sky index: what share of the clear-sky light comes through, step by step.

Draws are fixed by (member, day, step) and know nothing of the boat, so that variants and finite
differences meet the same weather.

References
----------
[1] Clear-sky index by sky word with its spread; broken cloud as two states with 12-minute spells
    (docs/methods/sky-words.md).
"""

from __future__ import annotations

from datetime import date as Date

import numpy as np
from numpy.typing import NDArray
from scipy.signal import lfilter
from scipy.special import ndtri

from parhelion.constants import STEP_S, STEPS_PER_DAY
from parhelion.design import Sky

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
BROKEN_BRIGHT, BROKEN_DULL = 1.04, 0.45  # the two states [1]
BROKEN_SPELL_MIN = 12.0  # mean length of a spell [min] [1]

DAY_SHARE = 0.5  # of the variance lies between days, the rest within the day
MEMORY_H = 1.0  # e-folding time of the wander within the day


def _uniforms(date: Date, members: int) -> Array:
    """Numbers in (0, 1), shape (members, 1 + minutes of the day), the same for the same member and day."""
    stream = np.random.Generator(np.random.Philox(key=date.toordinal()))
    return stream.random((members, 1 + MINUTES_PER_DAY))


def clear_sky_index(word: Sky, date: Date, members: int = MEMBERS) -> Array:
    """Clear-sky index of each member and step under a sky word [1].

    Parameters
    ----------
    word : Sky
    date : datetime.date
        Picks the draws.
    members : int
        How many days to draw; the first ones are the same whatever the number.

    Returns
    -------
    ndarray, shape (members, 144)
        [-], above zero.
    """
    uniforms = _uniforms(date, members)
    if word is Sky.BROKEN:
        bright_first = uniforms[:, :1] < 0.5
        turns = np.cumsum(uniforms[:, 1:] < 1.0 / BROKEN_SPELL_MIN, axis=1)
        bright = (turns % 2 == 0) == bright_first
        minutes = np.where(bright, BROKEN_BRIGHT, BROKEN_DULL)
        return minutes.reshape(members, STEPS_PER_DAY, MINUTES_PER_STEP).mean(axis=2)
    mean, spread = STEADY[word]
    normal = ndtri(np.clip(uniforms[:, : 1 + STEPS_PER_DAY], 1e-12, 1 - 1e-12))
    keep = np.exp(-STEP_S / 3600.0 / MEMORY_H)
    within = normal[:, 1:] * np.sqrt(1 - keep**2)
    within[:, 0] = normal[:, 1]
    wander = lfilter([1.0], [1.0, -keep], within, axis=1)
    standard = np.sqrt(DAY_SHARE) * normal[:, :1] + np.sqrt(1 - DAY_SHARE) * wander
    log_sd = np.sqrt(np.log1p((spread / mean) ** 2))  # lognormal of the same mean and spread: never dark
    return mean * np.exp(log_sd * standard - log_sd**2 / 2)
