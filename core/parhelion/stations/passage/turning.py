"""When to turn back at the latest, and what gets her home where the motor fails."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from parhelion.balance.ahead import GRID_S, SHARES, Ahead, blown
from parhelion.bank.store import energy_wh
from parhelion.design.passage import MarkKind
from parhelion.route.best import SLOWEST_MPS
from parhelion.route.held import GONE
from parhelion.route.home import Needs, last_turn_home, muscle_h, needs_home
from parhelion.route.way import LegAhead
from parhelion.stations.passage.plans import GRID_H, POOR, Plan
from parhelion.sun.timeline import HOUR_S

STEP_S = 300.0  # of the sums home
ROUGH_STEP_S, ROUGH_PARTS, FURTHEST_M = 600.0, 20, 400e3  # of what lies within reach, first
FINE_STEP_S, FINE_PARTS, SLOW_FRAC = 120.0, 30, 1 / 3  # then no slower than a third of the mean speed
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
    return _last_turn(plan, needs, 0.0)


def _last_turn(plan: Plan, needs: Needs | None, to_m: float) -> LastTurn | None:
    """The last turn from which she is back at a mark of the way out, so far from its start."""
    ahead = plan.ahead
    store, ahead_m = ahead.store, to_m - ahead.done_m
    begins = plan.leaves_h if ahead_m <= 0 else plan.hour_at(ahead_m)
    if needs is None or store is None or begins is None:
        return None
    start_h = round(plan.leaves_h * 3600 / GRID_S) * GRID_S / 3600
    far = plan.hour_at(ahead.out_m) or plan.ends_h
    hours = np.append(np.arange(begins, far, LOOKED_AT_H), far)
    gone = np.interp(hours, (np.arange(len(plan.rows)) + 1) * GRID_H, plan.rows[:, GONE])
    gone[0] = max(ahead_m, 0.0)
    soc = np.array([plan.soc_at(h) for h in hours])
    held = np.array([energy_wh(float(s), store) - energy_wh(0.0, store) for s in soc])
    out = np.minimum(ahead.done_m + gone, ahead.done_m + ahead.out_m)
    found = last_turn_home(hours - start_h, np.maximum(out - to_m, 0.0), held, needs)
    if found is None:
        return None
    at = found.turn_h + start_h
    everywhere = at >= far - 1e-6
    if not everywhere:
        at = max(at - KEPT_H, begins)
    charge = plan.soc_at(at)
    where = ahead.done_m + float(np.interp(at, hours, gone))
    return None if charge is None else LastTurn(at, where, charge, everywhere)


@dataclass(frozen=True)
class Refuge:
    """A refuge on the way out, and the last turn back to it; None where she never gets back to it."""

    leg_id: str
    name: str
    turn: LastTurn | None


def refuges_of(plan: Plan) -> list[Refuge]:
    """The refuges that she passes on the way out, each with the last turn back to it under the poor sky."""
    ahead, found, passed_m = plan.ahead, [], 0.0
    if ahead.bank is None or plan.soc is None or ahead.outward == 0:
        return []
    for number, leg in enumerate(ahead.passage.legs[:-1], start=1):
        passed_m += ahead.whole_out[number - 1].length_m
        if leg.mark is not MarkKind.REFUGE:
            continue
        back = ahead.laying(ahead.home_legs[: len(ahead.whole_out) - number], POOR, plan.leaves_h)
        needs = needs_home(back.over(STEP_S), ahead.demand, ahead.bank, ahead.in_by_h - back.start_h)
        found.append(Refuge(leg.id, leg.name, _last_turn(plan, needs, passed_m)))
    return found


@dataclass(frozen=True)
class Reach:
    """How far she may still go in all and be in: any way whose legs add up to it ends at its place."""

    needs: Needs
    east_m: float  # of the start: where she means to be in
    north_m: float

    def at(self, plan: Plan, hours: float) -> float | None:
        """With the charge of an hour of the plan [m]; None where she has none, or is in."""
        soc, store = plan.soc_at(hours), plan.ahead.store
        if soc is None or store is None:
            return None
        start_h = round(plan.leaves_h * 3600 / GRID_S) * GRID_S / 3600
        held = energy_wh(soc, store) - energy_wh(0.0, store)
        return self.needs.reach_m(float(held), max(hours - start_h, 0.0))


def reach_of(plan: Plan) -> Reach | None:
    """What a straight way in needs under the poor sky, without a stream, the wind ahead and no anchoring.

    Home where she comes home, else the far end. None without a bank.
    """
    ahead = plan.ahead
    bank = ahead.bank
    if bank is None or plan.soc is None:
        return None
    goes_home = ahead.passage.home_again
    course = (ahead.home_legs if goes_home else ahead.whole_out)[0].course_deg
    hours = max(ahead.in_by_h - plan.leaves_h, 0.0)
    longer = max(math.ceil(hours / 24), 1)  # times the steps, of a passage of days
    longest = ahead.demand.top_mps * hours * HOUR_S
    if longest <= 0:
        return None
    against = blown(ahead, ahead.winds.turned(course))

    def needs_over(length_m: float, step_s: float, parts: int, slowest_mps: float) -> Needs:
        laying = against.laying([LegAhead(length_m, course)], POOR, plan.leaves_h)
        by_h, way = ahead.in_by_h - laying.start_h, laying.over(longer * step_s)
        return needs_home(way, ahead.demand, bank, by_h, False, length_m / parts, slowest_mps)

    rough = needs_over(min(longest, FURTHEST_M), ROUGH_STEP_S, ROUGH_PARTS, SLOWEST_MPS)
    most = rough.reach_m(bank.full_wh, 0.0) + rough.left_m[0] / ROUGH_PARTS
    mean_mps = most / (hours * HOUR_S)
    needs = needs_over(most, FINE_STEP_S, FINE_PARTS, max(mean_mps * SLOW_FRAC, SLOWEST_MPS))
    out = [(leg.length_m, np.radians(leg.course_deg)) for leg in ahead.whole_out]
    east, north = (float(sum(m * f(c) for m, c in out)) for f in (np.sin, np.cos))
    return Reach(needs, 0.0, 0.0) if goes_home else Reach(needs, east, north)


def by_hand_h(ahead: Ahead, far_h: float) -> float | None:
    """Hours home from the far end without the motor, leaving there at an hour; None where nothing pushes her
    or the stream never lets her."""
    speed = ahead.hand_mps
    if speed is None:
        return None
    laying = ahead.laying(ahead.home_legs, POOR, far_h)
    return muscle_h(laying.over(STEP_S), speed, far_h - laying.start_h)
