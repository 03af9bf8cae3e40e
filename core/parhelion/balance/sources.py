"""What else charges: wind, water and legs as they come; shore and generator as the bank takes it.

References
----------
[1] A small wind or water turbine: watts with the cube of the speed from where it begins to where it is full,
    then level. Over a day the wind spreads about its mean as a Weibull of shape 3, typical within a day: its
    watts are the mean over that spread, not those of the mean.
[2] Shore and generator are throttled before the sun: what the bank refuses of both is taken off them first.
"""

from __future__ import annotations

from math import gamma
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from parhelion.balance.push import under_sail
from parhelion.balance.spells import clock_stretches, lasting_share, share_of_steps
from parhelion.constants import STEPS_PER_DAY
from parhelion.design import BoatDesign, BoatState, Source, SourceKind
from parhelion.sun.daysteps import DaySteps

Array = NDArray[np.float64]

BEGINS_MPS = {SourceKind.WIND: 3.0, SourceKind.HYDRO: 1.5}
FULL_MPS = {SourceKind.WIND: 12.0, SourceKind.HYDRO: 3.5}
WEIBULL_SHAPE, SPREAD_POINTS = 3.0, 60  # [1]
FREE = (SourceKind.WIND, SourceKind.HYDRO, SourceKind.PEDALS)


class Backup(NamedTuple):
    """Shore and generator over a day, and the generator's rule."""

    watts: Array  # shape (4, 144): shore at the main bank and at the house's own, then the generator
    start_soc: float = -1.0
    stop_soc: float = -1.0


NO_BACKUP = Backup(np.zeros((4, STEPS_PER_DAY)))


def turbine_w(source: Source, speed_mps: Array | float) -> Array:
    """Watts of a wind or water turbine at a speed, shape as given [1] [W]."""
    begins = source.begins_mps or BEGINS_MPS[source.kind]
    full = source.full_mps or max(FULL_MPS[source.kind], 1.01 * begins)
    rise = (np.asarray(speed_mps, dtype=float) ** 3 - begins**3) / (full**3 - begins**3)
    return np.asarray(source.rated_power_w * np.minimum(np.maximum(rise, 0.0), 1.0))


def mean_wind_w(source: Source, mean_mps: float) -> float:
    """Watts of a wind turbine over a day of some mean wind [1] [W]."""
    shares = (np.arange(SPREAD_POINTS) + 0.5) / SPREAD_POINTS
    scale = mean_mps / gamma(1 + 1 / WEIBULL_SHAPE)
    return float(turbine_w(source, scale * (-np.log(1 - shares)) ** (1 / WEIBULL_SHAPE)).mean())


def state_share(day: DaySteps, design: BoatDesign, state: BoatState) -> Array:
    """How much of each step the boat is in a state, shape (144,) [-]: its stays, else the plan's own."""
    plan = design.plan
    taken, mine = np.zeros(STEPS_PER_DAY), np.zeros(STEPS_PER_DAY)
    for index, stay in enumerate(plan.stays):
        until = plan.stays[: index + 1]
        whole = share_of_steps([x for s in until for x in clock_stretches(day, s.starts_at, s.ends_at)])
        if stay.state is state:
            mine += whole - taken
        taken = whole
    return mine + (1 - taken) if plan.state is state else mine


def _on(day: DaySteps, source: Source) -> Array:
    """How much of each step a source may work, by the clock, shape (144,) [-].

    Without a clock time free sources are spread over the day; the others may work at any hour.
    """
    if source.from_clock is None:
        return np.full(STEPS_PER_DAY, source.hours_per_day / 24 if source.kind in FREE else 1.0)
    return lasting_share(day, source.from_clock, source.hours_per_day)


def free_w(day: DaySteps, design: BoatDesign, source: Source) -> Array:
    """What wind, the boat's way under sail or legs send the bank over each step, shape (144,) [W].

    Parameters
    ----------
    day : DaySteps
    design : BoatDesign
    source : Source
        Of the free kinds.
    """
    on = _on(day, source)
    if source.kind is SourceKind.WIND:
        return on * mean_wind_w(source, design.plan.wind_mps)
    if source.kind is SourceKind.HYDRO:
        way = float(turbine_w(source, design.plan.speed_mps))
        return (
            on
            * way
            * np.minimum(under_sail(day, design.pushes) + state_share(day, design, BoatState.SAILING), 1.0)
        )
    return on * source.rated_power_w


def _column(design: BoatDesign, source: Source) -> int:
    own = design.house_bank
    return int(own is not None and source.bank_id == own.id)


def free_by_bank_w(day: DaySteps, design: BoatDesign) -> Array:
    """All free sources by bank, shape (144, 2) [W]."""
    made = np.zeros((STEPS_PER_DAY, 2))
    for source in design.sources:
        if source.kind in FREE:
            made[:, _column(design, source)] += free_w(day, design, source)
    return made


def backup_of(day: DaySteps, design: BoatDesign) -> Backup:
    """Shore, where she is at the dock, and the generator [2]."""
    if all(source.kind in FREE for source in design.sources):
        return NO_BACKUP
    watts = np.zeros((4, STEPS_PER_DAY))
    start = stop = -1.0
    for source in design.sources:
        column = _column(design, source)
        if source.kind is SourceKind.SHORE:
            moored = state_share(day, design, BoatState.DOCK)
            watts[column] += source.rated_power_w * np.minimum(_on(day, source), moored)
        elif source.kind is SourceKind.GENERATOR:
            watts[2 + column] += source.rated_power_w * _on(day, source)
            start, stop = source.start_frac, source.stop_frac
    return Backup(watts, start, stop)
