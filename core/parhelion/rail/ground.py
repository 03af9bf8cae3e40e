"""Speeds and distances over the ground, wherever the plan has a stream.

Every answer is computed through the water. With a stream c along the course the speed over the ground is
v + c for as long as the motor runs; where the motor rests the boat lies at anchor. A stream as strong as the
boat is fast leaves her standing still: she anchors, and is not counted as carried back.
"""

from __future__ import annotations

from typing import TypeVar

import numpy as np

from parhelion.balance.outlook import Outlook, remembered
from parhelion.quantities import Sentence, sentence, speed
from parhelion.rail.models import Answers, Distance, LiveSpeed, Range, SteadySpeed
from parhelion.rail.speeds import live_distances

STREAM_STRONGER = sentence("Stands still: the stream is stronger than the live sun drives her at any hour.")
GRID = 200  # speeds looked at for the best one

Spoken = TypeVar("Spoken", LiveSpeed, SteadySpeed)
Gone = TypeVar("Gone", Distance, Range)


def over_ground_mps(speed_mps: float, stream_mps: float) -> float:
    """What a speed through the water makes good along the course [m/s]; 0 where she anchors."""
    return max(speed_mps + stream_mps, 0.0) if speed_mps > 0 else 0.0


def stands_still(speed_mps: float, stream_mps: float) -> Sentence:
    """Why there is no way over the ground."""
    return sentence(
        "Stands still: {v} through the water against a stream of {c}.",
        v=speed(speed_mps),
        c=speed(-stream_mps),
    )


def _speed(answer: Spoken, stream_mps: float) -> Spoken:
    if answer.speed_mps is None:
        return answer
    ground = over_ground_mps(answer.speed_mps, stream_mps)
    still = answer.speed_mps > 0 and ground == 0
    reason = stands_still(answer.speed_mps, stream_mps) if still else answer.reason
    return answer.model_copy(update={"ground_mps": ground, "reason": reason})


def _distance(answer: Gone, stream_mps: float) -> Gone:
    """The same motoring time at the speed over the ground."""
    if answer.distance_m is None or answer.speed_mps is None:
        return answer
    ground = over_ground_mps(answer.speed_mps, stream_mps)
    still = answer.speed_mps > 0 and ground == 0
    return answer.model_copy(
        update={
            "ground_m": answer.distance_m * ground / answer.speed_mps if answer.speed_mps else 0.0,
            "reason": stands_still(answer.speed_mps, stream_mps) if still else answer.reason,
        }
    )


def _live(outlook: Outlook, answer: Distance, share: float | None) -> Distance:
    """A day on live sun: each step at its own speed."""
    members = live_distances(outlook, over_ground=True)
    value = float(members[outlook.light.shown] if share is None else np.percentile(members, share))
    still = value == 0 and bool(answer.distance_m)
    return answer.model_copy(
        update={"ground_m": value, "reason": STREAM_STRONGER if still else answer.reason}
    )


def with_stream(outlook: Outlook, found: Answers) -> Answers:
    """Answers with their speeds and distances over the ground; as they are where there is no stream."""
    stream = outlook.design.plan.current_mps
    if not stream:
        return found
    sun = (
        _live(outlook, found.days_run_sun, None)
        if found.days_run_sun.speed_mps is None and found.days_run_sun.distance_m is not None
        else _distance(found.days_run_sun, stream)
    )
    ninth = (
        _live(outlook, found.nine_in_ten, 10)
        if found.nine_in_ten.speed_mps is None and outlook.design.panels
        else _distance(found.nine_in_ten, stream)
    )
    return found.model_copy(
        update={
            "sun_only_now": _speed(found.sun_only_now, stream),
            "sun_only_noon": _speed(found.sun_only_noon, stream),
            "sun_only_steady": _speed(found.sun_only_steady, stream),
            "days_run_sun": sun,
            "days_run_bank": _distance(found.days_run_bank, stream),
            "nine_in_ten": ninth,
            "range_at_speed": _distance(found.range_at_speed, stream),
        }
    )


@remembered
def thriftiest_mps(outlook: Outlook) -> float | None:
    """The speed through the water with the fewest watt-hours, house and all, to a mile over the ground.

    Returns
    -------
    float or None
        Metres a second; None where the stream is stronger than the boat is fast.
    """
    stream = outlook.design.plan.current_mps
    top = float(outlook.curve.speed_at(outlook.rated_w))
    slow = max(-stream, 0.0)
    if top <= slow:
        return None
    speeds = np.linspace(slow, top, GRID + 1)[1:]
    watts = np.asarray(outlook.curve.power_at(speeds)) + float(outlook.house_w.mean())
    with np.errstate(invalid="ignore"):
        per_metre = np.where(np.isfinite(watts), watts, np.inf) / (speeds + stream)
    return float(speeds[int(np.argmin(per_metre))])
