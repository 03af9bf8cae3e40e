"""When to leave: every half hour of the day, what each departure meets."""

from __future__ import annotations

import math
from typing import Literal

import numpy as np

from parhelion.balance.ahead import Ahead
from parhelion.design.passage import Going
from parhelion.quantities import Frozen
from parhelion.route.held import GROUND
from parhelion.stations.passage.plans import GRID_H, HOLDINGS, Plan, held

EVERY_H = 0.5
DEPARTURES = 48

Trouble = Literal["reserve", "late", "stands"]


class Departure(Frozen):
    """Leaving at a half hour: hours from midnight; `trouble` is why it cannot be done."""

    leaves_h: float
    arrives_h: float | None
    arrival_soc_frac: float | None
    dark_h: float  # under way after sunset or before sunrise
    trouble: Trouble | None


class Window(Frozen):
    """Departures one after the other that can all be done."""

    from_h: float
    to_h: float


def trouble_of(plan: Plan, in_by_h: float) -> Trouble | None:
    """Why a plan cannot be done."""
    if not plan.has_way:
        return "stands"
    if not plan.keeps_reserve:
        return "reserve"
    return "late" if plan.arrives_h > in_by_h + 1e-6 else None


def dark_h(plan: Plan) -> float:
    """How long a plan is under way between sunset and sunrise [h]; 0 where the sun does not set."""
    ahead = plan.ahead
    first, last = round(plan.leaves_h / GRID_H), math.ceil(plan.ends_h / GRID_H)
    going = np.flatnonzero(plan.rows[first:last, GROUND] > 0) + first
    rise, sunset = ahead.sunrise_h, ahead.sunset_h
    if rise is None or sunset is None:
        return 0.0 if float(ahead.day.elevation_deg.max()) > 0 else len(going) * GRID_H
    after_rise = ((going + 0.5) * GRID_H - rise) % 24
    return float((after_rise > sunset - rise).sum() * GRID_H)


def departures(ahead: Ahead) -> list[Departure]:
    """Every half hour of the day, at what is held; a best plan's day is scanned at one speed."""
    pace = ahead.passage.pace if ahead.passage.pace in HOLDINGS else Going.SPEED
    if ahead.bank is None:
        pace = Going.SUN
    found = []
    for k in range(DEPARTURES):
        leaves = k * EVERY_H
        plan = held(ahead, pace, leaves)
        found.append(
            Departure(
                leaves_h=leaves,
                arrives_h=plan.arrives_h if plan.arrives else None,
                arrival_soc_frac=plan.arrival_soc,
                dark_h=dark_h(plan) if plan.arrives else 0.0,
                trouble=trouble_of(plan, ahead.in_by_h),
            )
        )
    return found


def windows(found: list[Departure]) -> list[Window]:
    """Stretches of departures that can be done."""
    made: list[Window] = []
    start: float | None = None
    for one in found:
        if one.trouble is None and start is None:
            start = one.leaves_h
        if one.trouble is not None and start is not None:
            made.append(Window(from_h=start, to_h=one.leaves_h - EVERY_H))
            start = None
    if start is not None:
        made.append(Window(from_h=start, to_h=found[-1].leaves_h))
    return made
