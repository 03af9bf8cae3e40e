"""What holds the boat back: the limits that are active, and the practical step that buys most miles.

Steps are finite differences on the shown day, each with its mass and cost counted in.
"""

from __future__ import annotations

from functools import partial
from typing import Literal

import numpy as np

from parhelion.balance.dock import LONGEST_RANGE_H
from parhelion.balance.flow import REFUSED, SOC
from parhelion.balance.outlook import Outlook, remembered, shown_outlook
from parhelion.computing.together import together
from parhelion.design import BoatDesign
from parhelion.market.parts import Offer, bank_price
from parhelion.quantities import Fact, Sentence, distance, fraction, mass, money, sentence
from parhelion.rail.ground import over_ground_mps
from parhelion.rail.models import HeldBackBy, Limit, Step, StepKey
from parhelion.rail.reasons import (
    AT_REST,
    DRIVE_HELD,
    STARTS_EMPTY,
    SUN_SOURCE,
    assumes_hours,
    why,
    why_no_hours,
)
from parhelion.rail.speeds import Steady, fullest_soc, live_distances, no_way, solve_steady, steady_mps
from parhelion.rail.steps import longer_day, usual_steps, with_stronger_drive
from parhelion.rail.stores import range_at_speed
from parhelion.sun.timeline import HOUR_S

WORTH_FRAC = 0.02  # a step that wins less is "nothing: go slower or longer"
REFUSED_FRAC = 0.01  # of the day's harvest thrown away before "bank full" counts as a limit
CLIPPED_FRAC = 0.005
MOST_FRAC = 0.5  # of the way through the water: a stream that takes more is what holds her back
NEAR_RESERVE = 0.005  # state of charge

Candidate = tuple[StepKey, Sentence, BoatDesign, float, float]  # the changed design, added kg, cost in coins
Measure = Literal["days_run_sun", "range", "days_distance"]
MEASURES: dict[str, Measure] = {
    "cruiser": "days_run_sun",
    "auxiliary": "range",
    "home_charged": "range",
    "no_bank": "days_distance",
    "no_panels": "range",
}


def measure_of(outlook: Outlook, rail_kind: str) -> Measure:
    """The distance that counts for a use; a cruiser's is on live sun where the bank takes no charge."""
    measure = MEASURES.get(rail_kind, "days_run_sun")
    return "days_distance" if measure == "days_run_sun" and outlook.takes_no_charge else measure


def miles_m(outlook: Outlook, measure: Measure) -> float:
    """The distance over the ground that counts for this use [m]; inf where the sun keeps up."""
    if measure == "days_run_sun":
        return _steady_miles_m(outlook, solve_steady(outlook))
    if measure == "days_distance":
        return float(live_distances(outlook, over_ground=True)[outlook.light.shown])
    reach = range_at_speed(outlook)
    if reach.keeps_up:
        return np.inf
    return (reach.hours or 0.0) * _made_good_mps(outlook) * HOUR_S


def _made_good_mps(outlook: Outlook) -> float:
    return over_ground_mps(outlook.plan_speed_mps, outlook.design.plan.current_mps)


def endless_m(outlook: Outlook) -> float:
    """How far the planned speed is followed before the sun is said to keep up [m]."""
    return LONGEST_RANGE_H * HOUR_S * _made_good_mps(outlook)


def _steady_miles_m(outlook: Outlook, steady: Steady | None) -> float:
    stream = outlook.design.plan.current_mps
    return over_ground_mps(steady_mps(outlook, steady), stream) * outlook.hours * HOUR_S


def _candidates(outlook: Outlook) -> list[Candidate]:
    """Every step that applies to a design."""
    design, bank = outlook.design, outlook.design.bank
    found: list[Candidate] = [
        (step.key, step.label, step.design, step.mass_kg, step.cost) for step in usual_steps(outlook)
    ]
    if bank is not None:
        grown = bank.model_copy(update={"parallel": bank.parallel * 2})
        doubled = design.model_copy(update={"banks": (grown, *design.banks[1:])})
        label = sentence("a second bank like yours")
        found.insert(1, ("battery", label, doubled, bank.mass, bank_price(bank)))
    return found


def steps(outlook: Outlook, measure: Measure, base: float) -> list[Step]:
    """Every practical step with what it wins over `base` [m], best first."""
    candidates, whole_kg = _candidates(outlook), outlook.design.displacement_kg
    trials = [shown_outlook(changed, outlook, whole_kg + kg) for _, _, changed, kg, _ in candidates]
    if not np.isfinite(base):
        return []  # the sun keeps up as it is
    most = endless_m(outlook)
    reached = together([partial(miles_m, trial, measure) for trial in trials])
    made = [
        Step(
            key=key,
            label=label,
            gain_m=min(miles, most) - base,
            gain_frac=(min(miles, most) - base) / base if base > 0 else None,
            mass_kg=added_kg,
            cost=cost,
            keeps_up=not np.isfinite(miles),
        )
        for (key, label, _, added_kg, cost), miles in zip(candidates, reached, strict=True)
    ]
    return sorted(made, key=lambda item: -item.gain_m)


def other_steps(outlook: Outlook, measure: Measure, limits: list[Limit], base: float) -> list[Step]:
    """A stronger drive where it binds, and an hour longer under way.

    An hour nearly always wins, for slower is thriftier: it is named where nothing else is worth it.
    """
    trials: list[tuple[StepKey, Sentence, Outlook, Offer]] = []
    if "drive" in limits:
        stronger = with_stronger_drive(outlook.design)
        trial = shown_outlook(stronger.design, outlook, outlook.design.displacement_kg + stronger.mass_kg)
        trials.append(("drive", stronger.label, trial, Offer(stronger.cost, stronger.mass_kg)))
    longer = longer_day(outlook) if measure != "range" else None
    if longer is not None:
        trials.append(("hours", sentence("an hour longer under way"), longer, Offer(0.0, 0.0)))
    found = []
    for key, label, trial, offer in trials:
        gain = miles_m(trial, measure) - base
        frac = gain / base if base > 0 else None
        found.append(Step(key=key, label=label, gain_m=gain, gain_frac=frac, mass_kg=offer.mass_kg,
                          cost=offer.price))  # fmt: skip
    return found


def _drive_binds(outlook: Outlook, measure: Measure, steady: Steady | None) -> bool:
    top = outlook.rated_w * (1 - 1e-6)
    if measure == "days_distance":
        return bool((outlook.shown_net_w[outlook.motoring > 0] > top).any())
    return steady is not None and steady.power_w >= top


def active_limits(outlook: Outlook, measure: Measure, steady: Steady | None, base: float) -> list[Limit]:
    """The limits that bind on the shown day under the steady plan."""
    limits: list[Limit] = []
    shown = outlook.light.shown
    given = float(outlook.harvest.array_w[shown].sum())
    if outlook.harvest.clipped_w[shown].sum() > CLIPPED_FRAC * given > 0:
        limits.append("controller clips")
    if measure == "days_distance" and _drive_binds(outlook, measure, steady):
        limits.append("drive")
    if steady is None or steady.power_w < 0 or measure != "days_run_sun":
        if measure == "range" and outlook.store is not None:
            limits.append("bank empty")
        return limits
    record = outlook.sun_alone.run(steady.power_w, fullest_soc(outlook, steady), slice(shown, shown + 1))[0]
    if record[:, REFUSED].sum() > REFUSED_FRAC * given > 0:
        limits.append("bank full")
    assert outlook.store is not None
    if float(record[:, SOC].min()) < outlook.store.reserve + NEAR_RESERVE:
        limits.append("bank empty")
    if _drive_binds(outlook, measure, steady):
        limits.append("drive")
    longer = longer_day(outlook)
    if longer is not None and miles_m(longer, measure) > (1 + WORTH_FRAC) * base:
        limits.append("hours of light")
    return limits


_STEP_LABELS: dict[StepKey, str] = {
    "panel": "More panels",
    "battery": "A second bank like yours",
    "house": "Less house",
    "mass": "A tenth less weight",
    "chemistry": "Lithium instead of lead",
    "propeller": "A propeller that suits the motor",
    "drive": "A tenth more drive",
    "hours": "An hour longer",
}


def _step_facts(step: Step) -> list[Fact]:
    """A step's gain, and what it weighs and costs where it does."""
    facts = [Fact(label=_STEP_LABELS[step.key], value=distance(step.gain_m, signed=True))]
    if step.cost > 0:
        facts.append(Fact(label="· it weighs", value=mass(step.mass_kg)))
        facts.append(Fact(label="· it costs", value=money(step.cost)))
    return facts


def _worth(step: Step) -> bool:
    return step.gain_m > 0 and (step.gain_frac is None or step.gain_frac >= WORTH_FRAC)


def _no_way(outlook: Outlook, measure: Measure, steady: Steady | None) -> tuple[Limit, Sentence]:
    """What leaves her no way at all, where no step mends that."""
    if measure == "range":
        return ("weather", DRIVE_HELD) if outlook.plan_speed_mps <= 0 else ("charge", STARTS_EMPTY)
    if not outlook.hours:
        return "sun", why_no_hours(outlook)
    if measure == "days_run_sun" and steady is not None:
        return no_way(outlook, steady.power_w)
    return no_way(outlook, float(outlook.shown_net_w[outlook.motoring > 0].max()))


def _by_the_stream(outlook: Outlook, measure: Measure, steady: Steady | None, base: float) -> bool:
    """Whether a stream ahead takes most of what she goes through the water, or all of her range."""
    if outlook.design.plan.current_mps >= 0:
        return False
    if measure == "range":
        return base <= 0 and bool(range_at_speed(outlook).distance_m)
    through = steady_mps(outlook, steady) * outlook.hours * HOUR_S
    if measure == "days_distance":
        through = float(live_distances(outlook)[outlook.light.shown])
    return base < (1 - MOST_FRAC) * through


NO_STEP_MAKES_WAY = sentence("No step makes way against the stream.")


@remembered
def held_back_by(outlook: Outlook, rail_kind: str, steady: Steady | None) -> HeldBackBy:
    """Limits and steps of a design, for the use its rail follows."""
    measure = measure_of(outlook, rail_kind)
    if not outlook.hours and measure != "range" and outlook.design.plan.spells is not None:
        none = why("No step is tried on a day at rest", SUN_SOURCE, [], None, "answers")
        return HeldBackBy(
            limits=["rest"], measure=measure, step=None, steps=[], reason=AT_REST,
            assumes=assumes_hours(outlook, ""), why=none,
        )  # fmt: skip
    base = miles_m(outlook, measure) if measure != "days_run_sun" else _steady_miles_m(outlook, steady)
    limits = active_limits(outlook, measure, steady, base)
    held = _by_the_stream(outlook, measure, steady, base)
    limits = ["stream", *limits] if held and base <= 0 else limits
    others = other_steps(outlook, measure, limits, base)
    ranked = sorted([*steps(outlook, measure, base), *others], key=lambda item: -item.gain_m)
    best = next((step for step in sorted(ranked, key=lambda item: item.key == "hours") if _worth(step)), None)
    nothing = sentence("Nothing: go slower or longer. No step wins {x}.", x=fraction(WORTH_FRAC))
    if held and best is None:
        limits = list(dict.fromkeys(["stream", *limits]))
        nothing = NO_STEP_MAKES_WAY if base <= 0 else sentence("No step makes much way against the stream.")
    elif base <= 0 and best is None:
        cause, nothing = _no_way(outlook, measure, steady)
        limits = [cause, *limits]
    return HeldBackBy(
        limits=limits,
        measure=measure,
        step=best,
        steps=ranked,
        reason=None if best is not None else nothing,
        assumes=assumes_hours(outlook, ""),
        why=why(
            "Finite differences: the same day solved again with each step taken, its mass and cost counted",
            f"{SUN_SOURCE} Prices and masses of parts are invented and typical.",
            [fact for step in ranked for fact in _step_facts(step)],
            None,
            "answers",
        ),
    )
