"""Findings that more than one station tells."""

from __future__ import annotations

import numpy as np

from parhelion.balance.outlook import Outlook
from parhelion.finding import Finding
from parhelion.quantities import power, sentence, speed
from parhelion.rail.reasons import hull_why


def beyond_drive(outlook: Outlook) -> Finding | None:
    """The planned speed asks more than the drive takes."""
    asked_mps = outlook.design.plan.speed_mps
    asked_w = float(outlook.curve.power_at(asked_mps))
    if np.isfinite(asked_w) and asked_w <= outlook.rated_w:
        return None
    top = outlook.plan_speed_mps
    need = (
        sentence("It would take {w}; the drive takes {rated} at most. The day is computed at {top}.",
                 w=power(asked_w), rated=power(outlook.rated_w), top=speed(top))
        if np.isfinite(asked_w)
        else sentence("Past {end} this hull's model says nothing. The day is computed at {top}.",
                      end=speed(outlook.curve.top_speed_mps), top=speed(top))
    )  # fmt: skip
    return Finding(
        id="beyond_drive",
        level="warn",
        title=sentence("{v} is beyond this drive", v=speed(asked_mps)),
        detail=need,
        why=hull_why(outlook, "Demand curve against the drive's rating"),
        field="/plan/speed_mps",
    )
