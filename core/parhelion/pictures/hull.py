"""The crossing chart: battery watts over speed, against what the sun pays."""

from __future__ import annotations

from dataclasses import replace
from typing import Literal

import numpy as np

from parhelion.advice.finding import Finding
from parhelion.advice.hull import hull_findings
from parhelion.answers.reasons import SKY_WORDS
from parhelion.answers.speeds import live_speed, solve_steady, steady_speed
from parhelion.day.outlook import Outlook, outlook_of
from parhelion.design import BoatDesign, Sky
from parhelion.hull import formula
from parhelion.hull.resistance import hull_speed_mps
from parhelion.quantities import Frozen, Sentence, sentence, words
from parhelion.sun.light import light_under

CHART_POINTS = 81


class RunPoint(Frozen):
    """A measured run on the chart."""

    id: str
    speed_mps: float
    power_w: float
    both_ways: bool
    off_frac: float  # measured over fitted, less one


class SunLine(Frozen):
    """What the sun pays, as watts, and the speed where the curve crosses it."""

    key: Literal["noon", "day", "overcast"]
    label: Sentence
    power_w: float
    speed_mps: float


class HullPicture(Frozen):
    """The crossing chart; the curve's lists are of equal length."""

    speed_mps: list[float]
    power_w: list[float]
    low_w: list[float]
    high_w: list[float]
    formula_w: list[float]
    runs: list[RunPoint]
    lines: list[SunLine]
    hull_speed_mps: float
    rated_power_w: float
    rated_speed_mps: float
    plan_speed_mps: float
    plan_power_w: float
    draught_m: float
    efficiency: float
    findings: list[Finding]


def hull_picture(design: BoatDesign) -> HullPicture:
    """Everything the crossing chart shows of a design."""
    return hull_picture_from(outlook_of(design))


def hull_picture_from(outlook: Outlook) -> HullPicture:
    """The crossing chart of a design already gathered."""
    design, curve = outlook.design, outlook.curve
    hull = design.hull
    top = min(curve.top_speed_mps, 1.25 * hull_speed_mps(hull.waterline_length_m))
    speeds = np.linspace(0, top, CHART_POINTS)
    power, band = curve.power_at(speeds), curve.band_at(speeds)
    drive = power - curve.idle_w
    asked = formula.shaft_power_w(speeds, hull.waterline_length_m, design.displacement_kg)
    points = [
        RunPoint(
            id=run.id,
            speed_mps=run.through_water_mps,
            power_w=run.battery_w,
            both_ways=run.back_speed_mps is not None,
            off_frac=float(np.expm1(residual)),
        )
        for run, residual in zip(design.fitted_runs, curve.fit.residuals, strict=True)
    ]
    return HullPicture(
        speed_mps=speeds.tolist(),
        power_w=power.tolist(),
        low_w=(curve.idle_w + drive / band).tolist(),
        high_w=(curve.idle_w + drive * band).tolist(),
        formula_w=(asked / formula.MOTOR_AND_CONTROLLER_EFFICIENCY).tolist(),
        runs=points,
        lines=sun_lines(outlook),
        hull_speed_mps=hull_speed_mps(hull.waterline_length_m),
        rated_power_w=outlook.rated_w,
        rated_speed_mps=float(curve.speed_at(outlook.rated_w)),
        plan_speed_mps=outlook.plan_speed_mps,
        plan_power_w=outlook.plan_power_w,
        draught_m=design.draught_m(design.water_density_kg_per_m3),
        efficiency=curve.efficiency_at(outlook.plan_speed_mps),
        findings=hull_findings(outlook),
    )


def sun_lines(outlook: Outlook) -> list[SunLine]:
    """Harvest lines at noon, over the day, and over an overcast day; those that exist."""
    design = outlook.design
    if not design.panels:
        return []
    sky = words(SKY_WORDS[design.plan.sky])
    found = []
    noon = live_speed(outlook, outlook.day.noon_step, outlook.day.solar_noon_at)
    if noon.speed_mps and noon.power_w:
        found.append(
            SunLine(key="noon", label=sentence("noon, {sky}", sky=sky), power_w=noon.power_w,
                    speed_mps=noon.speed_mps)
        )  # fmt: skip
    steady = steady_speed(outlook, solve_steady(outlook))
    if steady.speed_mps and steady.power_w:
        found.append(
            SunLine(key="day", label=sentence("all day, {sky}", sky=sky), power_w=steady.power_w,
                    speed_mps=steady.speed_mps)
        )  # fmt: skip
    if design.plan.sky not in (Sky.OVERCAST, Sky.RAIN):
        grey = replace(outlook, light=light_under(design.site, design.plan.date, Sky.OVERCAST))
        dull = steady_speed(grey, solve_steady(grey))
        if dull.speed_mps and dull.power_w:
            found.append(
                SunLine(key="overcast", label=sentence("all day, overcast"), power_w=dull.power_w,
                        speed_mps=dull.speed_mps)
            )  # fmt: skip
    return found
