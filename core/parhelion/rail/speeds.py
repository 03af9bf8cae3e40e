"""Sun-only speeds and the distances they make."""

from __future__ import annotations

from datetime import datetime
from typing import NamedTuple

import numpy as np

from parhelion.balance.outlook import Outlook, remembered
from parhelion.balance.push import TO_THRUST
from parhelion.balance.steady import fullest_start, power_to_reserve, steady_power
from parhelion.quantities import Fact, Sentence, clock, distance, fraction, power, sentence, speed, words
from parhelion.rail.models import Distance, Limit, LiveSpeed, SteadySpeed
from parhelion.rail.reasons import (
    BANK_SOURCE,
    BELOW_IDLE,
    DRIVE_HELD,
    HELD_BY_WEATHER,
    HOUSE_TAKES_ALL,
    HULL_SOURCE,
    NEVER_TURNS,
    NO_BANK,
    NO_CHARGE,
    NO_PANELS,
    NO_SUN,
    NO_SUN_TODAY,
    STARTS_EMPTY,
    SUN_SOURCE,
    assumes_hours,
    demand_method,
    hull_facts,
    joint_words,
    minutes,
    sun_facts,
    why,
    why_no_hours,
)
from parhelion.sun.timeline import HOUR_S


class Steady(NamedTuple):
    """The steady solve: watts, below zero where not even the idle draw is sustained; charges it gets back."""

    power_w: float
    start_soc: float
    own_soc: float


@remembered
def solve_steady(outlook: Outlook) -> Steady | None:
    """The largest constant motor watts of the shown day on the sun alone; None without a bank or hours."""
    return _solved(outlook.sun_alone)


def _solved(outlook: Outlook) -> Steady | None:
    if outlook.store is None or not outlook.hours:
        return None
    assert outlook.aboard is not None
    found = steady_power(
        outlook.shown_by_bank_w, outlook.house_rows_w, outlook.motor_rows,
        outlook.curve.idle_w, outlook.rated_w, outlook.timeline.step_h, outlook.aboard,
    )  # fmt: skip
    return Steady(*(float(value) for value in found))


@remembered
def fullest_soc(outlook: Outlook, steady: Steady) -> float:
    """The largest start charge that a steady day gives back."""
    assert outlook.aboard is not None
    soc = fullest_start(
        outlook.shown_by_bank_w, outlook.house_rows_w, outlook.sun_alone.motor_rows, steady.power_w,
        steady.start_soc,
        steady.own_soc, outlook.timeline.step_h, outlook.aboard,
    )  # fmt: skip
    return float(soc)


def steady_mps(outlook: Outlook, steady: Steady | None, band: float = 0.0) -> float:
    """The speed of a steady solve [m/s], anywhere in the demand curve's band; 0 where there is none."""
    if steady is None or steady.power_w <= outlook.curve.idle_w:
        return 0.0
    return float(outlook.curve.speed_at(steady.power_w, band))


def with_push(outlook: Outlook) -> tuple[str, float] | None:
    """What else pushes, in words, and the speed that it and the sun give together; None without it."""
    kinds = dict.fromkeys(push.kind.label for push in outlook.design.pushes if push.kind in TO_THRUST)
    if not outlook.relief_w.any() or not outlook.design.panels:
        return None
    if outlook.store is not None and not outlook.takes_no_charge:
        return " and ".join(kinds), steady_mps(outlook, _solved(outlook))
    net = min(float(outlook.shown_net_w[outlook.day.noon_step]), outlook.rated_w)
    own = max(net, outlook.curve.idle_w)  # without sun enough they push alone
    return " and ".join(kinds), float(outlook.curve.speed_at(own + float(outlook.relief_w.max())))


def no_way(outlook: Outlook, most_w: float) -> tuple[Limit, Sentence]:
    """What leaves the boat no way on the day's sun, where the motor gets `most_w` of it at the very most."""
    if not outlook.shown_sun_w.any():
        return "sun", NO_SUN_TODAY
    if outlook.shown_sun_w.sum() <= outlook.house_w.sum():
        return "house", HOUSE_TAKES_ALL
    return _too_little(outlook, most_w)


def _too_little(outlook: Outlook, most_w: float) -> tuple[Limit, Sentence]:
    """The same where the house leaves some of it."""
    return ("weather", HELD_BY_WEATHER) if most_w > outlook.curve.idle_w else ("sun", BELOW_IDLE)


def live_speed(outlook: Outlook, step: int, at: datetime) -> LiveSpeed:
    """The sun-only speed of one ten-minute step of the shown day."""
    net = float(outlook.shown_net_w[step])
    usable = min(net, outlook.rated_w)
    value = float(outlook.curve.speed_at(usable)) if usable > outlook.curve.idle_w else 0.0
    reason = None
    if not outlook.design.panels:
        reason = NO_PANELS
    elif value == 0:
        short = HOUSE_TAKES_ALL if outlook.shown_sun_w[step] > 0 else NO_SUN
        reason = _too_little(outlook, usable)[1] if net > 0 else short
    local = at.astimezone(outlook.day.starts_at.tzinfo)
    return LiveSpeed(
        speed_mps=value if outlook.design.panels else None,
        power_w=net,
        at=local,
        reason=reason,
        assumes=sentence(
            "{sky} sky at {at}, nothing from the bank",
            sky=words(outlook.design.plan.sky_words),
            at=clock(minutes(local.time())),
        ),
        why=why(
            f"Battery watts equal to the sun of this step less the house; {demand_method(outlook.design)}",
            f"{SUN_SOURCE} {HULL_SOURCE}",
            [
                Fact(label="Sun at the bank", value=power(float(outlook.shown_sun_w[step]))),
                Fact(label="House", value=power(float(outlook.house_w[step]))),
                *sun_facts(outlook),
                *hull_facts(outlook),
            ],
            _speed_band(outlook, usable),
            "answers",
        ),
    )


def _speed_band(outlook: Outlook, power_w: float) -> Sentence | None:
    if power_w <= outlook.curve.idle_w:
        return None
    low, high = (float(outlook.curve.speed_at(power_w, band)) for band in (-1.0, 1.0))
    return sentence("{low} to {high} for 9 boats of 10 like this", low=speed(low), high=speed(high))


def steady_speed(outlook: Outlook, steady: Steady | None) -> SteadySpeed:
    """The sun-only speed, steady, with its band and its reason where there is none."""
    value: float | None = steady_mps(outlook, steady)
    reason = None
    if outlook.store is None:
        value, reason = None, NO_BANK
    elif not outlook.design.panels:
        value, reason = None, NO_PANELS
    elif steady is None:
        value, reason = 0.0, why_no_hours(outlook)
    elif value == 0:
        reason = no_way(outlook, steady.power_w)[1]
        if outlook.takes_no_charge and reason in (BELOW_IDLE, HELD_BY_WEATHER):
            reason = NO_CHARGE
    watts = steady.power_w if steady and value else None
    return SteadySpeed(
        speed_mps=value,
        hours=outlook.hours,
        power_w=watts,
        start_charge_frac=fullest_soc(outlook, steady) if steady and value else None,
        reason=reason,
        assumes=assumes_hours(outlook, ", the bank as full a day later"),
        why=why(
            "Largest constant battery watts that some start charge gets back after 24 h, by bisection; "
            f"then {demand_method(outlook.design)}",
            f"{SUN_SOURCE} {BANK_SOURCE} {HULL_SOURCE}",
            [
                *([Fact(label="Battery watts at this speed", value=power(watts))] if watts else []),
                *sun_facts(outlook),
                *hull_facts(outlook),
            ],
            _speed_band(outlook, watts) if watts else None,
            "answers",
        ),
    )


def days_run_sun(outlook: Outlook, steady: SteadySpeed) -> Distance:
    """Steady speed times the hours."""
    seconds = outlook.hours * 3600

    def run(value: float | None) -> float | None:
        return None if value is None else value * seconds

    return Distance(
        distance_m=run(steady.speed_mps),
        low_m=run(steady.low_mps),
        high_m=run(steady.high_mps),
        speed_mps=steady.speed_mps,
        reason=steady.reason,
        assumes=steady.assumes,
        why=steady.why.model_copy(
            update={
                "method": "Steady sun-only speed times the motoring hours",
                "band": _joint_distance(run(steady.low_mps), run(steady.high_mps)),
            }
        ),
    )


def _joint_distance(low_m: float | None, high_m: float | None) -> Sentence | None:
    return None if low_m is None or high_m is None else joint_words(distance(low_m), distance(high_m))


def bank_power_w(outlook: Outlook) -> float | None:
    """Largest constant motor watts from the stated start charge to the reserve; None if not even idle."""
    if outlook.store is None or not outlook.hours:
        return None
    watts = to_reserve_w(outlook)
    return watts if watts > outlook.curve.idle_w else None


def to_reserve_w(outlook: Outlook, scale: float = 1.0) -> float:
    """The same on so much of the shown day's light, below zero where not even the idle draw lasts [W]."""
    assert outlook.aboard is not None
    return float(
        power_to_reserve(
            scale * outlook.shown_by_bank_w, outlook.house_rows_w, outlook.motor_rows,
            outlook.design.plan.start_charge_frac, outlook.curve.idle_w, outlook.rated_w,
            outlook.last_motoring_step, outlook.timeline.step_h, outlook.aboard,
        )
    )  # fmt: skip


def days_run_bank(outlook: Outlook, watts: float | None) -> Distance:
    """The furthest at one constant speed in the motoring hours, drawing the bank to its reserve."""
    start = outlook.design.plan.start_charge_frac
    seconds = outlook.hours * 3600
    value = reason = None
    if outlook.store is None:
        reason = NO_BANK
    elif not outlook.hours:
        value, reason = 0.0, why_no_hours(outlook)
    elif watts is None:
        value = 0.0
        reason = DRIVE_HELD if outlook.plan_speed_mps <= 0 else STARTS_EMPTY
    else:
        value = float(outlook.curve.speed_at(watts))
    return Distance(
        distance_m=None if value is None else value * seconds,
        speed_mps=value,
        reason=reason,
        assumes=assumes_hours(outlook, ", from {start} to the reserve", start=fraction(start)),
        why=why(
            "Best constant speed from the start charge to the reserve, by bisection",
            f"{SUN_SOURCE} {BANK_SOURCE} {HULL_SOURCE}",
            [*sun_facts(outlook), *hull_facts(outlook)],
            None,
            "answers",
        ),
    )


def nine_in_ten(
    outlook: Outlook, plan: Distance, watts: float | None, paced_m: np.ndarray | None = None
) -> Distance:
    """What nine of ten such days reach with the same plan, stopping at the reserve and foreseeing nothing.

    `paced_m`: the distance of each member where the plan is not one constant speed.
    """
    sky = words(outlook.design.plan.sky_words)
    value, reason, speed_used = None, plan.reason, plan.speed_mps
    if paced_m is not None:
        value = float(np.percentile(paced_m, 10))
    elif watts is not None and plan.speed_mps:
        reached = outlook.reached_m(watts, outlook.design.plan.start_charge_frac, plan.speed_mps)
        value = float(np.percentile(reached, 10))
    elif outlook.store is None and outlook.design.panels:
        value, speed_used, reason = float(np.percentile(live_distances(outlook), 10)), None, None
    elif plan.distance_m is not None:
        value = 0.0
    return Distance(
        distance_m=value,
        speed_mps=speed_used,
        reason=reason,
        assumes=sentence("{n} such {sky} days, no foresight", n=words(str(len(outlook.light.ghi))), sky=sky),
        why=why(
            "The tenth percentile of the same plan over generated days of this sky word",
            f"{SUN_SOURCE} {BANK_SOURCE}",
            [*sun_facts(outlook)],
            None,
            "sky-words",
        ),
    )


def live_distances(outlook: Outlook, over_ground: bool = False) -> np.ndarray:
    """Distance of each member on live sun alone over the motoring hours, shape (n,) [m]; at anchor where
    no motor turns or the stream is the stronger, if over the ground."""
    net = np.minimum(outlook.live_net_w(outlook.harvest.by_bank_w), outlook.rated_w)
    speeds = np.where(net > outlook.curve.idle_w, outlook.curve.speed_at(net), 0.0)
    if over_ground:
        speeds = np.where(speeds > 0, np.maximum(speeds + outlook.design.plan.current_mps, 0.0), 0.0)
    return outlook.timeline.over(speeds * outlook.motoring) * HOUR_S


def live_distance(outlook: Outlook) -> Distance:
    """The day's distance of a boat without a bank, or whose bank takes no charge."""
    value = float(live_distances(outlook)[outlook.light.shown]) if outlook.design.panels else None
    reason = NO_PANELS if value is None else NEVER_TURNS if value == 0 else None
    return Distance(
        distance_m=value,
        reason=reason,
        assumes=assumes_hours(outlook, ", no bank" if outlook.store is None else ", nothing from the bank"),
        why=why(
            "The live sun-only speed of every step, added up",
            f"{SUN_SOURCE} {HULL_SOURCE}",
            [*sun_facts(outlook), *hull_facts(outlook)],
            None,
            "answers",
        ),
    )
