"""Motoring hours and house loads laid over the steps of a day, by the local clock."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta
from datetime import time as Time

import numpy as np
from numpy.typing import NDArray

from parhelion.constants import STEP_H, STEPS_PER_DAY
from parhelion.design import BoatDesign, Load, Spell
from parhelion.sun.daysteps import DaySteps

Array = NDArray[np.float64]

USEFUL_FROM, USEFUL_TO = 0.05, 0.95  # of the clear day's harvest
ROUND_MIN = 10  # the default spell is rounded to this


Stretch = tuple[float, float]  # from, to, in steps after the start of the day


def share_of_steps(stretches: list[Stretch]) -> Array:
    """How much of each step lies in any of the stretches, shape (144,) [-]; overlaps count once."""
    total = np.zeros(STEPS_PER_DAY)
    edges = np.arange(STEPS_PER_DAY)
    reached = -np.inf
    for start, end in sorted(stretches):
        fresh = max(start, reached)
        total += np.clip(np.minimum(end, edges + 1) - np.maximum(fresh, edges), 0.0, 1.0)
        reached = max(reached, end)
    return np.minimum(total, 1.0)


def clock_stretches(day: DaySteps, starts: Time, ends: Time) -> list[Stretch]:
    """Where a daily stretch of local clock time lies on the day.

    An end at or before the start is on the next day. Every calendar day that the 24 h touch is laid on, each
    with its own offset from UTC, so that days of 23 and 25 hours come out right.
    """
    zone = day.starts_at.tzinfo
    found = []
    for shift in (-1, 0, 1):
        date = day.starts_at.date() + timedelta(days=shift)
        following = date if ends > starts else date + timedelta(days=1)
        first = datetime.combine(date, starts, zone).astimezone(UTC)
        last = datetime.combine(following, ends, zone).astimezone(UTC)
        found.append((day.index_at(first), day.index_at(last)))
    return found


def clock_share(day: DaySteps, starts: Time, ends: Time) -> Array:
    """How much of each step a daily stretch of local clock time covers, shape (144,) [-]."""
    return share_of_steps(clock_stretches(day, starts, ends))


def motoring_share(day: DaySteps, spells: tuple[Spell, ...]) -> Array:
    """How much of each step the motor is meant to run, shape (144,) [-]; spells that overlap count once."""
    return share_of_steps(
        [stretch for spell in spells for stretch in clock_stretches(day, spell.starts_at, spell.ends_at)]
    )


def each_spell(day: DaySteps, spells: tuple[Spell, ...]) -> list[Array]:
    """How much of each step each spell motors, shapes (144,) [-]; where two overlap the earlier one rules."""
    found, taken = [], np.zeros(STEPS_PER_DAY)
    for index in range(len(spells)):
        whole = motoring_share(day, spells[: index + 1])
        found.append(whole - taken)
        taken = whole
    return found


def useful_sun(day: DaySteps, clear_day_w: Array) -> tuple[Spell, ...]:
    """The default motoring hours: from 5 to 95 % of the clear day's harvest, to the nearest ten minutes.

    Parameters
    ----------
    day : DaySteps
    clear_day_w : ndarray, shape (144,)
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
    edges = np.arange(STEPS_PER_DAY + 1)
    clocks = [_rounded(day.at_index(float(np.interp(s, summed, edges)))) for s in (USEFUL_FROM, USEFUL_TO)]
    if clocks[0] == clocks[1]:
        return ()
    return (Spell(starts_at=clocks[0], ends_at=clocks[1]),)


def _rounded(moment: datetime) -> Time:
    half = timedelta(minutes=ROUND_MIN / 2)
    moment = moment + half
    return Time(moment.hour, moment.minute - moment.minute % ROUND_MIN)


def load_share(day: DaySteps, load: Load) -> Array:
    """How much of each step a load is on, shape (144,) [-]; spread evenly without a clock time."""
    if load.from_clock is None or load.hours_per_day >= 24:
        return np.full(STEPS_PER_DAY, load.hours_per_day / 24)
    return lasting_share(day, load.from_clock, load.hours_per_day)


def lasting_share(day: DaySteps, starts: Time, hours: float) -> Array:
    """How much of each step a daily stretch of some hours from a clock time covers, shape (144,) [-]."""
    if hours <= 0:
        return np.zeros(STEPS_PER_DAY)
    if hours >= 24:
        return np.ones(STEPS_PER_DAY)
    start = datetime.combine(day.starts_at.date(), starts)
    return clock_share(day, starts, (start + timedelta(hours=hours)).time())


def house_watts(day: DaySteps, design: BoatDesign) -> Array:
    """The house's mean watts over each step, by bank and priority.

    Returns
    -------
    ndarray, shape (4, 144)
        Essential and other loads of the main bank, then of the house's own bank; controllers' own draw is
        essential [W].
    """
    made = np.zeros((4, STEPS_PER_DAY))
    for load in design.loads:
        own = design.house_bank is not None and design.load_bank_id(load) == design.house_bank.id
        made[2 * own + (not load.essential)] += load.drawn_w * load_share(day, load)
    for controller in design.controllers:  # day and night
        own = design.house_bank is not None and controller.bank_id == design.house_bank.id
        made[2 * own] += controller.count * controller.own_power_w
    return made


def hours_of(share: Array) -> float:
    """Hours that a share of steps adds up to [h]."""
    return float(share.sum() * STEP_H)
