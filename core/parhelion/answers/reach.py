"""Range against speed, by sky, from the start charge to the reserve."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
from numpy.typing import NDArray

from parhelion.answers.reasons import SKY_WORDS
from parhelion.answers.stores import hours_at
from parhelion.constants import STEPS_PER_DAY
from parhelion.day.outlook import Outlook
from parhelion.design import Sky
from parhelion.quantities import Frozen
from parhelion.sun.light import light_under

POINTS = 24
SLOWEST_SHARE = 0.25  # of the fastest


class Reach(Frozen):
    """Under one sky, over the speeds: hours and distance to the reserve; None where the sun keeps up."""

    key: str
    label: str
    hours: list[float | None]
    distance_m: list[float | None]
    keeps_up_mps: float | None  # the fastest speed at which it does


def skies_of(outlook: Outlook) -> list[tuple[str, str, NDArray[np.float64]]]:
    """Three skies, clear, the plan's own or broken, overcast, and no sun at all: key, words, sun (144, 2)."""
    design = outlook.design
    found = []
    skies = dict.fromkeys((Sky.CLEAR, design.plan.sky, Sky.OVERCAST))
    if len(skies) < 3:
        skies = dict.fromkeys((Sky.CLEAR, Sky.BROKEN, Sky.OVERCAST))
    for sky in skies:
        light = light_under(design.site, design.plan.date, sky)
        lit = outlook if sky is design.plan.sky else replace(outlook, light=light)
        found.append((sky.value, SKY_WORDS[sky], lit.shown_by_bank_w))
    found.append(("dark", "the bank alone", np.zeros((STEPS_PER_DAY, 2))))
    return found


def reach_at(
    outlook: Outlook, by_bank_w: NDArray[np.float64], speed_mps: float
) -> tuple[float | None, float | None]:
    """Hours and distance at a speed under a sun, from the start charge to the reserve; None: no end."""
    power = float(outlook.curve.power_at(speed_mps))
    hours = hours_at(outlook, power, by_bank_w, outlook.design.plan.start_charge_frac)
    if not np.isfinite(hours):
        return None, None
    return hours, hours * 3600 * speed_mps


def reaches(outlook: Outlook) -> tuple[list[float], list[Reach]]:
    """Range at speeds up to what the drive gives, under each sky; nothing without a bank."""
    top = min(float(outlook.curve.speed_at(outlook.rated_w)), outlook.curve.top_speed_mps)
    speeds = np.linspace(SLOWEST_SHARE * top, top, POINTS)
    if outlook.aboard is None:
        return speeds.tolist(), []
    found = []
    for key, label, sun in skies_of(outlook):
        made = [reach_at(outlook, sun, float(speed)) for speed in speeds]
        kept = [float(speed) for speed, (hours, _) in zip(speeds, made, strict=True) if hours is None]
        found.append(
            Reach(key=key, label=label, hours=[m[0] for m in made], distance_m=[m[1] for m in made],
                  keeps_up_mps=max(kept) if kept else None)
        )  # fmt: skip
    return speeds.tolist(), found
