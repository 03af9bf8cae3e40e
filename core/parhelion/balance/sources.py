"""What else charges: wind, water and legs as they come; shore and generator as the bank takes it.

References
----------
[1] A small wind or water turbine: watts with the cube of the speed from where it begins to where it is full,
    then level. A wind turbine furls in a gale, or is stopped, and gives nothing. Over a day the wind spreads
    about its mean as a Weibull of shape 3, typical within a day: its watts are the mean over that spread, not
    those of the mean.
[2] Shore and generator are throttled before the sun: what the bank refuses of both is taken off them first.
"""

from __future__ import annotations

from math import gamma

import numpy as np
from numpy.typing import NDArray

from parhelion.balance.backup import GENERATOR_MAIN, SHORE_MAIN, Backup, no_backup
from parhelion.balance.push import under_sail
from parhelion.design import BoatDesign, BoatState, Source, SourceKind
from parhelion.design.banks import bank_column
from parhelion.sun.timeline import Timeline

Array = NDArray[np.float64]

BEGINS_MPS = {SourceKind.WIND: 3.0, SourceKind.HYDRO: 1.5}
FURLS_MPS = 17.0  # typical of small ones: over 33 kn
FULL_MPS = {SourceKind.WIND: 12.0, SourceKind.HYDRO: 3.5}
WEIBULL_SHAPE, SPREAD_POINTS = 3.0, 60  # [1]
FREE = (SourceKind.WIND, SourceKind.HYDRO, SourceKind.PEDALS)


def turbine_w(source: Source, speed_mps: Array | float) -> Array:
    """Watts of a wind or water turbine at a speed, shape as given [1] [W]."""
    begins = source.begins_mps or BEGINS_MPS[source.kind]
    full = source.full_mps or max(FULL_MPS[source.kind], 1.01 * begins)
    speed = np.asarray(speed_mps, dtype=float)
    rise = (speed**3 - begins**3) / (full**3 - begins**3)
    turns = speed <= max(FURLS_MPS, 1.2 * full) if source.kind is SourceKind.WIND else True
    return np.asarray(source.rated_power_w * np.minimum(np.maximum(rise, 0.0), 1.0) * turns)


def mean_wind_w(source: Source, mean_mps: float) -> float:
    """Watts of a wind turbine over a day of some mean wind [1] [W]."""
    shares = (np.arange(SPREAD_POINTS) + 0.5) / SPREAD_POINTS
    scale = mean_mps / gamma(1 + 1 / WEIBULL_SHAPE)
    return float(turbine_w(source, scale * (-np.log(1 - shares)) ** (1 / WEIBULL_SHAPE)).mean())


def state_share(timeline: Timeline, design: BoatDesign, state: BoatState) -> Array:
    """How much of each step the boat is in a state, shape (t,) [-]: its stays, else the plan's own."""
    plan = design.plan
    taken, mine = np.zeros(timeline.steps), np.zeros(timeline.steps)
    for index, stay in enumerate(plan.stays):
        until = plan.stays[: index + 1]
        whole = timeline.share_of_steps(
            [x for s in until for x in timeline.clock_stretches(s.starts_at, s.ends_at)]
        )
        if stay.state is state:
            mine += whole - taken
        taken = whole
    return mine + (1 - taken) if plan.state is state else mine


def _on(timeline: Timeline, source: Source) -> Array:
    """How much of each step a source may work, by the clock, shape (t,) [-].

    Without a clock time free sources are spread over the day; the others may work at any hour.
    """
    if source.from_clock is None:
        return np.full(timeline.steps, source.hours_per_day / 24 if source.kind in FREE else 1.0)
    return timeline.lasting_share(source.from_clock, source.hours_per_day)


def free_w(timeline: Timeline, design: BoatDesign, source: Source) -> Array:
    """What wind, the boat's way under sail or legs send the bank over each step, shape (t,) [W].

    Parameters
    ----------
    timeline : Timeline
    design : BoatDesign
    source : Source
        Of the free kinds.
    """
    on = _on(timeline, source)
    if source.kind is SourceKind.WIND:
        return on * mean_wind_w(source, design.plan.wind_mps)
    if source.kind is SourceKind.HYDRO:
        way = float(turbine_w(source, design.plan.speed_mps))
        return (
            on
            * way
            * np.minimum(
                under_sail(timeline, design.pushes) + state_share(timeline, design, BoatState.SAILING), 1.0
            )
        )
    return on * source.rated_power_w


def free_by_bank_w(timeline: Timeline, design: BoatDesign) -> Array:
    """All free sources by bank, shape (t, 2) [W]."""
    made = np.zeros((timeline.steps, 2))
    for source in design.sources:
        if source.kind in FREE:
            made[:, bank_column(design, source.bank_id)] += free_w(timeline, design, source)
    return made


def backup_of(timeline: Timeline, design: BoatDesign) -> Backup:
    """Shore, where she is at the dock, and the generator [2]."""
    if all(source.kind in FREE for source in design.sources):
        return no_backup(timeline.steps)
    watts = np.zeros((4, timeline.steps))
    start = stop = -1.0
    for source in design.sources:
        column = bank_column(design, source.bank_id)
        if source.kind is SourceKind.SHORE:
            moored = state_share(timeline, design, BoatState.DOCK)
            watts[SHORE_MAIN + column] += source.rated_power_w * np.minimum(_on(timeline, source), moored)
        elif source.kind is SourceKind.GENERATOR:
            watts[GENERATOR_MAIN + column] += source.rated_power_w * _on(timeline, source)
            start, stop = source.start_frac, source.stop_frac
    return Backup(watts, start, stop)
