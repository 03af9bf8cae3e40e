"""Motoring hours and house loads laid over the steps of a day, by the local clock."""

from __future__ import annotations

from datetime import datetime, timedelta
from datetime import time as Time

import numpy as np
from numpy.typing import NDArray

from parhelion.computing.kept import kept_by_arguments
from parhelion.design import BoatDesign, Load, Spell
from parhelion.design.banks import bank_column
from parhelion.sun.daysteps import DaySteps
from parhelion.sun.timeline import Timeline

Array = NDArray[np.float64]

USEFUL_FROM, USEFUL_TO = 0.05, 0.95  # of the clear day's harvest
ROUND_MIN = 10  # the default spell is rounded to this


@kept_by_arguments(64)
def motoring_share(timeline: Timeline, spells: tuple[Spell, ...]) -> Array:
    """How much of each step the motor is meant to run, shape (t,) [-]; spells that overlap count once."""
    return timeline.share_of_steps(
        [at for spell in spells for at in timeline.clock_stretches(spell.starts_at, spell.ends_at)]
    )


def each_spell(timeline: Timeline, spells: tuple[Spell, ...]) -> list[Array]:
    """How much of each step each spell motors, shapes (t,) [-]; where two overlap the earlier one rules."""
    found, taken = [], np.zeros(timeline.steps)
    for index in range(len(spells)):
        whole = motoring_share(timeline, spells[: index + 1])
        found.append(whole - taken)
        taken = whole
    return found


def useful_sun(day: DaySteps, clear_day_w: Array) -> tuple[Spell, ...]:
    """The default motoring hours: from 5 to 95 % of the clear day's harvest, to the nearest ten minutes.

    Parameters
    ----------
    day : DaySteps
    clear_day_w : ndarray, shape (t,)
        The clear day's harvest, or light where there are no panels.

    Returns
    -------
    tuple of Spell
        One spell; none in the polar night.
    """
    total = float(clear_day_w.sum())
    if total <= 0:
        return ()
    summed = np.concatenate([[0.0], np.cumsum(clear_day_w)]) / total
    edges = np.arange(day.steps + 1)
    clocks = [_rounded(day.at_index(float(np.interp(s, summed, edges)))) for s in (USEFUL_FROM, USEFUL_TO)]
    if clocks[0] == clocks[1]:
        return ()
    return (Spell(starts_at=clocks[0], ends_at=clocks[1]),)


def _rounded(moment: datetime) -> Time:
    half = timedelta(minutes=ROUND_MIN / 2)
    moment = moment + half
    return Time(moment.hour, moment.minute - moment.minute % ROUND_MIN)


@kept_by_arguments(256)
def load_share(timeline: Timeline, load: Load) -> Array:
    """How much of each step a load is on, shape (t,) [-]; spread evenly without a clock time."""
    if load.from_clock is None or load.hours_per_day >= 24:
        return np.full(timeline.steps, load.hours_per_day / 24)
    return timeline.lasting_share(load.from_clock, load.hours_per_day)


def house_watts(timeline: Timeline, design: BoatDesign) -> Array:
    """The house's mean watts over each step, by bank and priority.

    Returns
    -------
    ndarray, shape (4, t)
        Essential and other loads of the main bank, then of the house's own bank; controllers' own draw is
        essential [W].
    """
    made = np.zeros((4, timeline.steps))
    for load in design.loads:
        column = bank_column(design, design.load_bank_id(load))
        made[2 * column + (not load.essential)] += load.drawn_w * load_share(timeline, load)
    for controller in design.controllers:  # day and night
        made[2 * bank_column(design, controller.bank_id)] += controller.count * controller.own_power_w
    return made
