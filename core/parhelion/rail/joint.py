"""One band for the day's run on sun, of hull, sky and panels together, and what would narrow it.

The boat (how much she draws), the day (which of the word's days it is) and the panels (how much of their
label they bring) are independent of each other; every answer uses the same draws of all three.

References
----------
[1] Panels: one sigma of 6 %: 3 % each for the label's tolerance with ageing, dirt, heat and mounting, and
    the chain from cell to bank, in quadrature. A clear noon's reading at the bank, with a meter good to 2 %,
    leaves 3 %.
[2] Draws: a Halton sequence, even over the three and the same each time, so that the same boat gives the same
    band. Hulls stand at the middles of equal shares of the normal.
"""

from __future__ import annotations

from collections.abc import Callable
from functools import cache, partial
from typing import Literal, NamedTuple

import numpy as np
from numpy.typing import NDArray
from scipy.special import ndtri
from scipy.stats import qmc

from parhelion.balance.dock import LONGEST_RANGE_H
from parhelion.balance.outlook import Outlook, remembered
from parhelion.balance.steady import steady_power
from parhelion.computing.together import together
from parhelion.hull.runs import RUN_SD, Z_90, with_one_more
from parhelion.quantities import distance, speed
from parhelion.rail.models import Distance, Range, SteadySpeed
from parhelion.rail.reasons import joint_words
from parhelion.rail.speeds import Steady, to_reserve_w
from parhelion.rail.stores import hours_at
from parhelion.sun.timeline import HOUR_S

Array = NDArray[np.float64]
Learn = Literal["runs", "panels"]

PANELS_SD, PANELS_READ_SD = 0.06, 0.03  # [1]
RUNS = (0.5, 0.75, 1.0, 1.15)  # of the steady speed: where four runs are taken
DRAWS, HULLS = 2000, 16  # [2]
SCALES = 3  # of the shown day's light, at which the steady solve is made
LOW, HIGH = 10.0, 90.0


class Band(NamedTuple):
    """What 9 of 10 such boats and days reach at least, and what 1 of 10 does [m/s]."""

    low_mps: float
    high_mps: float

    def width(self, middle_mps: float) -> float:
        """Half of it over the middle, which is some way [-]."""
        return (self.high_mps - self.low_mps) / 2 / middle_mps


@cache
def draws(number: int = DRAWS) -> Array:
    """Shares of the days, the panels and the hulls, each even between 0 and 1, shape (3, number) [2]."""
    return np.asarray(qmc.Halton(3, scramble=False).fast_forward(1).random(number).T)


def _scales(outlook: Outlook) -> Array:
    """Each day's light over the shown day's, by energy, shape (n,) [-]."""
    sun = outlook.timeline.over(outlook.harvest.by_bank_w.sum(axis=-1))
    shown = float(sun[outlook.light.shown])
    return np.asarray(sun / shown) if shown > 0 else np.ones_like(sun)


def _between(scales: Array, under: Callable[[float], float], known: float) -> Array:
    """What days of so much light give, read between a few solves; `known` of the shown day, any shape."""
    at = np.linspace(max(float(scales.min()), 0.0), float(scales.max()), SCALES)
    found = np.append(together([partial(under, float(scale)) for scale in at]), known)
    light = np.append(at, 1.0)
    order = np.argsort(light, kind="stable")
    return np.asarray(np.interp(scales, light[order], found[order]))


def _steady_w(outlook: Outlook, steady: Steady, scales: Array) -> Array:
    """Watts that days of so much light sustain, any shape [W]."""
    aboard = outlook.aboard
    assert aboard is not None

    def under(scale: float) -> float:
        found = steady_power(
            scale * outlook.shown_by_bank_w, outlook.house_rows_w, outlook.sun_alone.motor_rows,
            outlook.curve.idle_w, outlook.rated_w, outlook.timeline.step_h, aboard,
        )  # fmt: skip
        return float(found[0])

    return _between(scales, under, steady.power_w)


def _narrowing(outlook: Outlook, speed_mps: float) -> float:
    """How wide four more runs would leave the hull's band, over how wide it is, in ln P [-]."""
    curve = outlook.curve
    shares = np.interp(speed_mps * np.array(RUNS), curve.speed_mps, curve.wave_share)
    fit = curve.fit
    for share in shares:
        fit = with_one_more(fit, float(share), RUN_SD)
    here = float(np.interp(speed_mps, curve.speed_mps, curve.wave_share))
    return float(np.log(fit.band_factor(here)) / np.log(curve.fit.band_factor(here)))


@remembered
def _light(outlook: Outlook) -> tuple[Array, Array]:
    """Each draw's day over the shown one [-], and its panels in sigmas, shape (DRAWS,)."""
    day, panels, _ = draws()
    scales = np.sort(_scales(outlook))
    return scales[(day * len(scales)).astype(int)], np.asarray(ndtri(panels))


@cache
def _hulls() -> tuple[NDArray[np.int_], Array]:
    """Which hull each draw has, shape (DRAWS,), and where each stands in the band, shape (HULLS,)."""
    return (draws()[2] * HULLS).astype(int), np.asarray(ndtri((np.arange(HULLS) + 0.5) / HULLS) / Z_90)


def _speeds(outlook: Outlook, watts: Array, hull_share: float = 1.0) -> Band:
    """The band of speeds, each draw's hull at the watts of its day and panels."""
    curve = outlook.curve
    which, stands = _hulls()
    found = np.zeros(len(watts))
    for index, z in enumerate(stands):
        mine = which == index
        found[mine] = curve.speed_at(watts[mine], hull_share * z)
    low, high = np.percentile(np.where(watts > curve.idle_w, found, 0.0), [LOW, HIGH])
    return Band(float(low), float(high))


@remembered
def _sustained_w(outlook: Outlook, steady: Steady, panels_sd: float) -> Array:
    """Watts that each draw's day and panels sustain, shape (DRAWS,) [W]."""
    light, arrays = _light(outlook)
    return _steady_w(outlook, steady, light * np.exp(panels_sd * arrays))


def _band(outlook: Outlook, steady: Steady, panels_sd: float, hull_share: float) -> Band:
    """The band with panels known to so much, and so much of the hull's band left."""
    return _speeds(outlook, _sustained_w(outlook, steady, panels_sd), hull_share)


@remembered
def joint_band(outlook: Outlook, steady: Steady | None) -> Band | None:
    """The sun-only speed over boats, days and panels at once.

    Parameters
    ----------
    outlook : Outlook
    steady : Steady or None
        The steady solve of the shown day.

    Returns
    -------
    Band or None
        None where the shown day sustains no speed.
    """
    if steady is None or steady.power_w <= outlook.curve.idle_w:
        return None
    return _band(outlook, steady, PANELS_SD, 1.0)


@remembered
def what_would_tell(outlook: Outlook, steady: Steady) -> dict[Learn, Band]:
    """The band after each thing that can be measured, the most telling first; the day sustains a speed."""
    middle = float(outlook.curve.speed_at(steady.power_w))
    found: dict[Learn, Band] = {
        "runs": _band(outlook, steady, PANELS_SD, _narrowing(outlook, middle)),
        "panels": _band(outlook, steady, PANELS_READ_SD, 1.0),
    }
    return dict(sorted(found.items(), key=lambda item: item[1].high_mps - item[1].low_mps))


def joined(outlook: Outlook, solved: Steady | None, steady: SteadySpeed) -> SteadySpeed:
    """The sun-only speed with the joint band in the place of the hull's alone."""
    band = joint_band(outlook, solved)
    if band is None or not steady.speed_mps:
        return steady
    told = joint_words(speed(band.low_mps), speed(band.high_mps))
    why = steady.why.model_copy(update={"band": told})
    return steady.model_copy(update={"low_mps": band.low_mps, "high_mps": band.high_mps, "why": why})


def joined_run(outlook: Outlook, watts: float | None, run: Distance) -> Distance:
    """The run with the bank at one constant speed, with the joint band in the place of the hull's alone."""
    if watts is None or not run.distance_m or outlook.aboard is None:
        return run
    light, arrays = _light(outlook)
    band = _speeds(
        outlook,
        _between(light * np.exp(PANELS_SD * arrays), lambda scale: to_reserve_w(outlook, scale), watts),
    )
    seconds = outlook.hours * HOUR_S
    low, high = band.low_mps * seconds, band.high_mps * seconds
    why = run.why.model_copy(update={"band": joint_words(distance(low), distance(high))})
    return run.model_copy(update={"low_m": low, "high_m": high, "why": why})


def joined_range(outlook: Outlook, reach: Range) -> Range:
    """The range at a speed with the joint band; the low end too where the sun keeps up in the middle."""
    if outlook.aboard is None or not (reach.distance_m or reach.keeps_up):
        return reach
    day, arrays = _light(outlook)
    scales = day * np.exp(PANELS_SD * arrays)
    which, stands = _hulls()
    idle, spread = outlook.curve.idle_w, float(outlook.curve.band_at(reach.speed_mps))
    start = outlook.design.plan.start_charge_frac
    hours = np.zeros(len(scales))
    for index, z in enumerate(stands):
        watts = idle + (outlook.plan_power_w - idle) * spread**-z
        mine = which == index

        def under(scale: float, watts: float = watts) -> float:
            return min(hours_at(outlook, watts, scale * outlook.shown_by_bank_w, start), LONGEST_RANGE_H)

        hours[mine] = _between(scales[mine], under, under(1.0))
    low, high = (float(h) * HOUR_S * reach.speed_mps for h in np.percentile(hours, [LOW, HIGH]))
    why = reach.why.model_copy(update={"band": joint_words(distance(low), distance(high))})
    return reach.model_copy(update={"low_m": low, "high_m": high, "why": why})
