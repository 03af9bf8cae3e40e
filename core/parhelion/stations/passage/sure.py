"""How sure a passage is: the plan held through every sky; a hungrier motor, a stronger stream."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from parhelion.balance.ahead import RUN_S, Ahead, demand_of, edges_soc, kept_reserve
from parhelion.quantities import Frozen
from parhelion.route.held import GONE
from parhelion.stations.passage.plans import HOLDINGS, Plan, held

STREAM_OFF = 0.1  # of itself: what a table is off by on a usual day
BAND = (10, 50, 90)


class Sure(Frozen):
    """Over all skies of such a day. Lists are 10, 50 and 90 of 100 days; soc lanes over `hours`."""

    skies: int
    arriving: int  # of them with the reserve kept all the way
    share_arriving_frac: float
    arrival_soc: list[float]
    hours: list[float]
    soc_low: list[float]
    soc_middle: list[float]
    soc_high: list[float]
    deciding_leg: str | None  # where the first of them stop
    hungry_share_frac: float | None  # with the motor at the hungry end of its band
    stream_share_frac: float | None  # with streams a tenth stronger where they hinder


def _share(plan: Plan) -> float:
    if not plan.has_way:
        return 0.0
    return float(kept_reserve(plan.ahead.banked(plan.rows, plan.leaves_h, plan.ends_h, whole=True)).mean())


def _again(plan: Plan, ahead: Ahead) -> Plan:
    """The same held plan by another boat or in another stream; one that is best is held at its mean speed."""
    if plan.pace in HOLDINGS:
        return held(ahead, plan.pace, plan.leaves_h, plan.value)
    return replace(plan, ahead=ahead)


def sure_of(plan: Plan) -> Sure | None:
    """How many of the skies bring her in; None without a bank or an arrival."""
    ahead = plan.ahead
    if ahead.bank is None or not plan.has_way:
        return None
    record = ahead.banked(plan.rows, plan.leaves_h, plan.ends_h, whole=True)
    kept = kept_reserve(record)
    soc = edges_soc(record, ahead.start_soc)
    place = (plan.arrives_h - plan.first_h) * 3600 / RUN_S
    at_end = np.array([float(np.interp(place, np.arange(soc.shape[1]), one)) for one in soc])
    low, middle, high = np.percentile(soc, BAND, axis=0)
    hungry = None
    if plan.pace in HOLDINGS:
        hungry = _share(
            _again(plan, replace(ahead, demand=demand_of(ahead.outlook, ahead.passage, hungry=True)))
        )
    streamed = None
    if any(leg.stream is not None for leg in ahead.legs) and plan.pace in HOLDINGS:
        streamed = min(_share(_again(plan, replace(ahead, stream_factor=1 + STREAM_OFF))), float(kept.mean()))
    return Sure(
        skies=len(kept),
        arriving=int(kept.sum()),
        share_arriving_frac=float(kept.mean()),
        arrival_soc=np.percentile(at_end, BAND).tolist(),
        hours=(plan.first_h + np.arange(soc.shape[1]) * RUN_S / 3600).tolist(),
        soc_low=low.tolist(),
        soc_middle=middle.tolist(),
        soc_high=high.tolist(),
        deciding_leg=_deciding(plan, soc, kept),
        hungry_share_frac=hungry,
        stream_share_frac=streamed,
    )


def _deciding(plan: Plan, soc: np.ndarray, kept: np.ndarray) -> str | None:
    """The mark that she makes for where most of the skies are lowest."""
    rows = soc if kept.all() else soc[~kept]
    lowest = int(np.median(np.argmin(rows, axis=1)))
    hour = plan.first_h + lowest * RUN_S / 3600
    gone = float(np.interp(hour * 60, np.arange(len(plan.rows)) + 1, plan.rows[:, GONE]))
    ahead_of_her = [mark for mark in plan.ahead.marks if mark.passed_m > gone + 1]
    return ahead_of_her[0].name if ahead_of_her else plan.ahead.marks[-1].name
