"""Range against speed, by sky, from the start charge to the reserve."""

from __future__ import annotations

from dataclasses import replace
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from parhelion.balance.outlook import Outlook
from parhelion.design import Sky
from parhelion.hull import formula
from parhelion.quantities import Frozen
from parhelion.rail.stores import hours_at
from parhelion.sun.light import light_under
from parhelion.units import MPS_PER, SpeedUnit

POINTS = 24
SLOWEST_SHARE = 0.25  # of the fastest
ROUND_STEPS: dict[SpeedUnit, float] = {"kn": 0.5, "km/h": 1.0, "mph": 0.5}  # between the rows of a table
MOST_ROWS = 12
LEAST_SPEED_SHARE = 0.3  # of the fastest


class Reach(Frozen):
    """Under one sky, over the speeds: hours and distance to the reserve; None where the sun keeps up.

    `school` is whose watts it takes: the fitted curve's, or by the hull's form or the formula alone.
    """

    key: str
    school: Literal["curve", "form", "formula"] = "curve"
    label: str
    hours: list[float | None]
    distance_m: list[float | None]
    keeps_up_mps: float | None  # the fastest speed at which it does


def skies_of(outlook: Outlook) -> list[tuple[str, str, NDArray[np.float64]]]:
    """Three skies, clear, the plan's own or broken, overcast, and no sun at all: key, words, sun (t, 2)."""
    design = outlook.design
    found = []
    skies = dict.fromkeys((Sky.CLEAR, design.plan.sky, Sky.OVERCAST))
    if len(skies) < 3:
        skies = dict.fromkeys((Sky.CLEAR, Sky.BROKEN, Sky.OVERCAST))
    for sky in skies:
        light = light_under(design.site, design.plan.date, sky)
        lit = outlook if sky is design.plan.sky else replace(outlook, light=light)
        label = design.plan.sky_words if sky is design.plan.sky else sky.label
        found.append((sky.value, label, lit.shown_by_bank_w))
    found.append(("dark", "the bank alone", np.zeros((outlook.day.steps, 2))))
    return found


def _reach(
    outlook: Outlook, by_bank_w: NDArray[np.float64], power_w: float, speed_mps: float
) -> tuple[float | None, float | None]:
    start = outlook.design.plan.start_charge_frac
    hours = hours_at(outlook, power_w, by_bank_w, start) if np.isfinite(power_w) else 0.0
    if not np.isfinite(hours):
        return None, None
    return hours, hours * 3600 * speed_mps


def reach_at(
    outlook: Outlook, by_bank_w: NDArray[np.float64], speed_mps: float
) -> tuple[float | None, float | None]:
    """Hours and distance at a speed under a sun, from the start charge to the reserve; None: no end."""
    return _reach(outlook, by_bank_w, float(outlook.curve.power_at(speed_mps)), speed_mps)


def _along(
    outlook: Outlook, sun: NDArray[np.float64], speeds: NDArray[np.float64], watts: NDArray[np.float64]
) -> tuple[list[float | None], list[float | None], float | None]:
    """Hours, distances, and the fastest speed at which the sun keeps up."""
    made = [_reach(outlook, sun, float(w), float(v)) for v, w in zip(speeds, watts, strict=True)]
    kept = [float(v) for v, (hours, _) in zip(speeds, made, strict=True) if hours is None]
    return [m[0] for m in made], [m[1] for m in made], max(kept) if kept else None


def reaches(outlook: Outlook) -> tuple[list[float], list[Reach]]:
    """Range at speeds up to what the drive gives: under each sky; by other schools under the plan's.

    Nothing without a bank.
    """
    curve, design = outlook.curve, outlook.design
    top = min(float(curve.speed_at(outlook.rated_w)), curve.top_speed_mps)
    speeds = np.linspace(SLOWEST_SHARE * top, top, POINTS)
    if outlook.aboard is None:
        return speeds.tolist(), []
    found = []
    skies = skies_of(outlook)
    for key, label, sun in skies:
        hours, distance, kept = _along(outlook, sun, speeds, curve.power_at(speeds))
        found.append(Reach(key=key, label=label, hours=hours, distance_m=distance, keeps_up_mps=kept))
    own = next(sun for key, _, sun in skies if key == design.plan.sky)
    asked = formula.shaft_power_w(speeds, design.hull.waterline_length_m, design.displacement_kg)
    asked = asked / formula.MOTOR_AND_CONTROLLER_EFFICIENCY
    form = np.interp(speeds, curve.speed_mps, curve.model_w)
    schools: list[tuple[Literal["form", "formula"], str, NDArray[np.float64]]] = [
        ("formula", "by the formula", asked)
    ]
    if curve.fit.runs:
        schools.append(("form", "by form alone", form))
    for school, label, watts in schools:
        hours, distance, kept = _along(outlook, own, speeds, watts)
        found.append(
            Reach(key=school, school=school, label=label, hours=hours, distance_m=distance, keeps_up_mps=kept)
        )
    return speeds.tolist(), found


def round_speeds(outlook: Outlook, unit: SpeedUnit) -> list[float]:
    """Round speeds in the reader's unit, from an easy pace to what the drive gives [m/s]."""
    size, step = MPS_PER[unit], ROUND_STEPS[unit]
    top = min(float(outlook.curve.speed_at(outlook.rated_w)), outlook.curve.top_speed_mps) / size
    while True:
        first = max(np.ceil(LEAST_SPEED_SHARE * top / step) * step, step)
        count = int(np.floor((top - first) / step)) + 1
        if count <= MOST_ROWS:
            return [float((first + i * step) * size) for i in range(max(count, 1))]
        step *= 2
