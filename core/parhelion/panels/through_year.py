"""What the array gives on every day of a year."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from parhelion.constants import STEP_H
from parhelion.design import BoatDesign, Shade, Sky
from parhelion.panels.harvest import harvest
from parhelion.sun.year import year_light, year_steps

Array = NDArray[np.float64]


def by_day(design: BoatDesign, watts: Array) -> Array:
    """Energy of each day of the plan's year from watts by step, shape (days,) [Wh]."""
    steps = year_steps(design.site, design.plan.date.year)
    days = len(steps.month_of_day)
    return np.asarray(np.bincount(steps.day_of_step, weights=watts, minlength=days) * STEP_H, dtype=float)


def daily_wh(design: BoatDesign, sky: Sky, shade: Shade = Shade.USUAL) -> Array:
    """What the banks get on each day of the plan's year under a sky word, shape (days,) [Wh]."""
    lights = year_light(design.site, design.plan.date.year, sky, shade)
    return np.sum(
        [share * by_day(design, harvest(design, light).sun_w[0]) for share, light in lights], axis=0
    )
