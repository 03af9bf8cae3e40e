"""When to turn back at the latest, and what gets her home where the motor fails."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from parhelion.balance.ahead import GRID_S, SHARES, Ahead
from parhelion.bank.store import energy_wh
from parhelion.route.held import GONE
from parhelion.route.home import Needs, last_turn_home, muscle_h, needs_home
from parhelion.stations.passage.plans import GRID_H, POOR, Plan

STEP_S = 300.0  # of the sums home
LOOKED_AT_H = 5 / 60  # moments of the way out
KEPT_H = 20 / 60  # in hand: the turn is told so much earlier than the sums allow


@dataclass(frozen=True)
class LastTurn:
    """The last moment to turn; `everywhere` where she may turn at any place of the way out."""

    hours: float
    out_m: float
    soc: float
    everywhere: bool


def needs_of(plan: Plan) -> Needs | None:
    """What the way home needs from every place and hour under the poor sky; None where nothing is asked."""
    ahead = plan.ahead
    if ahead.bank is None or plan.soc is None or ahead.outward == 0:
        return None
    laying = ahead.laying(ahead.home_legs, POOR, plan.leaves_h)
    return needs_home(laying.over(STEP_S), ahead.demand, ahead.bank, ahead.in_by_h - laying.start_h)


def needed_soc(plan: Plan, needs: Needs, hours: float, gone_m: float) -> float | None:
    """The state of charge that brings her home from a place at an hour; None where none does."""
    begins = round(plan.leaves_h * 3600 / GRID_S) * GRID_S / 3600
    need = needs.at(
        min(plan.ahead.done_m + gone_m, plan.ahead.done_m + plan.ahead.out_m), max(hours - begins, 0.0)
    )
    if not np.isfinite(need):
        return None
    return float(np.interp(need, plan.ahead.held_at_shares_wh, SHARES))


def last_turn(plan: Plan, needs: Needs | None) -> LastTurn | None:
    """The last turn on the way out from which she is home in time, above the reserve, under the poor sky.

    None where even turning at once does not do, or there is no bank to come home with.
    """
    ahead = plan.ahead
    store = ahead.store
    if needs is None or store is None:
        return None
    laying = ahead.laying(ahead.home_legs, POOR, plan.leaves_h)
    far = plan.hour_at(ahead.out_m) or plan.ends_h
    hours = np.append(np.arange(plan.leaves_h, far, LOOKED_AT_H), far)
    gone = np.interp(hours, (np.arange(len(plan.rows)) + 1) * GRID_H, plan.rows[:, GONE])
    gone[0] = 0.0
    soc = np.array([plan.soc_at(h) for h in hours])
    held = np.array([energy_wh(float(s), store) - energy_wh(0.0, store) for s in soc])
    found = last_turn_home(
        hours - laying.start_h, np.minimum(ahead.done_m + gone, ahead.done_m + ahead.out_m), held, needs
    )
    if found is None:
        return None
    at = found.turn_h + laying.start_h
    everywhere = at >= far - 1e-6
    if not everywhere:
        at = max(at - KEPT_H, plan.leaves_h)
    out = ahead.done_m + float(np.interp(at, hours, gone))
    charge = plan.soc_at(at)
    return None if charge is None else LastTurn(at, out, charge, everywhere)


def by_hand_h(ahead: Ahead, far_h: float) -> float | None:
    """Hours home from the far end without the motor, leaving there at an hour; None where nothing pushes her
    or the stream never lets her."""
    speed = ahead.hand_mps
    if speed is None:
        return None
    laying = ahead.laying(ahead.home_legs, POOR, far_h)
    return muscle_h(laying.over(STEP_S), speed, far_h - laying.start_h)
