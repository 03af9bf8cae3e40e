"""What holds the boat back: the limits that are active, and the practical step that buys most miles.

Steps are finite differences on the shown day, each with its mass and cost counted in.
"""

from __future__ import annotations

from dataclasses import replace
from datetime import datetime, timedelta
from functools import partial
from typing import Literal

import numpy as np

from parhelion.balance.flow import REFUSED, SOC
from parhelion.balance.outlook import Outlook, remembered, shown_outlook
from parhelion.computing.together import together
from parhelion.design import BoatDesign, Controller, PanelGroup, Place, Spell
from parhelion.market.parts import Offer, bank_price, first_panel_offer, panel_offer
from parhelion.quantities import Fact, Sentence, count, distance, fraction, mass, money, power, sentence
from parhelion.rail.ground import over_ground_mps
from parhelion.rail.models import HeldBackBy, Limit, Step, StepKey
from parhelion.rail.reasons import AT_REST, SUN_SOURCE, assumes_hours, why
from parhelion.rail.speeds import Steady, fullest_soc, live_distances, solve_steady, steady_mps
from parhelion.rail.stores import range_at_speed
from parhelion.sun.timeline import HOUR_S
from parhelion.wiring.by_itself import boxes_by_itself
from parhelion.wiring.panel_volts import swelled

WORTH_FRAC = 0.02  # a step that wins less is "nothing: go slower or longer"
HOUSE_STEP_W = 50.0
MASS_STEP_FRAC = 0.10
FIRST_PANEL_W = 200.0
REFUSED_FRAC = 0.01  # of the day's harvest thrown away before "bank full" counts as a limit
CLIPPED_FRAC = 0.005
CLIPS_FROM_WH = 5.0  # of a day: less is not worth another controller
LARGER_LIMIT = 1.5  # of its amps
LONGEST_HOURS = 23  # motoring that leaves no further hour in the day
NEAR_RESERVE = 0.005  # state of charge

DRIVE_STEP_FRAC = 0.10  # more watts
STRING_FRAC = 0.05  # of a group: a step of panels is whole strings of at least about so much

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
    made_good = over_ground_mps(reach.speed_mps, outlook.design.plan.current_mps)
    return (reach.hours or 0.0) * made_good * HOUR_S


def _steady_miles_m(outlook: Outlook, steady: Steady | None) -> float:
    stream = outlook.design.plan.current_mps
    return over_ground_mps(steady_mps(outlook, steady), stream) * outlook.hours * HOUR_S


def panels_in_a_step(group: PanelGroup) -> int:
    """How many panels the next step is: one, or on a larger roof whole strings of some twentieth of it."""
    strings = max(round(STRING_FRAC * group.count / group.in_series), 1)
    return group.in_series * strings


def more_panels(design: BoatDesign) -> tuple[int, float]:
    """How many panels, of how many watts each, the step of `with_panel` is."""
    largest = design.largest_group
    return (1, FIRST_PANEL_W) if largest is None else (panels_in_a_step(largest), largest.nameplate_w)


def panel_words(design: BoatDesign) -> Sentence:
    """The step of `with_panel` in words."""
    number, watts = more_panels(design)
    if number == 1:
        return sentence("one more {w} panel", w=power(watts))
    return sentence("{n} more {w} panels", n=count(number), w=power(watts))


def with_panel(design: BoatDesign) -> BoatDesign:
    """The design with a step more of its largest panel group's panels, or a first panel flat.

    They are taken to give what those of their group give on the mean: where they would lie is not asked here.
    """
    number, watts = more_panels(design)
    largest = design.largest_group
    if largest is not None:
        more = swelled(largest, number)
        panels = tuple(more if group is largest else group for group in design.panels)
        return design.model_copy(update={"panels": panels})
    group = PanelGroup(id="first", place_id="first", controller_id="first", nameplate_w=watts)
    return boxes_by_itself(
        design.model_copy(
            update={
                "panels": (group,),
                "places": (*design.places, Place(id="first", name="First panel")),
                "controllers": (*design.controllers, Controller(id="first")),
            }
        )
    )


def one_more_panel(design: BoatDesign) -> Offer:
    """What the panels of `with_panel` cost and weigh."""
    largest = design.largest_group
    return (
        first_panel_offer(FIRST_PANEL_W) if largest is None else panel_offer(largest, more_panels(design)[0])
    )


def lighter_house(design: BoatDesign) -> tuple[BoatDesign, float]:
    """The design with 50 W less house on the mean, or none where it takes less; and the watts saved."""
    mean = sum(load.power_w * load.hours_per_day / 24 for load in design.loads)
    saved = min(HOUSE_STEP_W, mean)
    left = 1 - saved / mean if mean else 1.0
    loads = tuple(load.model_copy(update={"power_w": load.power_w * left}) for load in design.loads)
    return design.model_copy(update={"loads": loads}), saved


def with_larger_controllers(outlook: Outlook) -> BoatDesign | None:
    """The design with controllers of more amps, where they clip on the shown day."""
    if outlook.wh(outlook.harvest.clipped_w[outlook.light.shown]) < CLIPS_FROM_WH:
        return None
    boxes = tuple(
        box.model_copy(update={"current_limit_a": box.current_limit_a and box.current_limit_a * LARGER_LIMIT})
        for box in outlook.design.controllers
    )
    return outlook.design.changed(controllers=boxes)


def _candidates(design: BoatDesign) -> list[Candidate]:
    """Every step that applies to a design."""
    found: list[Candidate] = []
    price, kg = one_more_panel(design)
    found.append(("panel", panel_words(design), with_panel(design), kg, price))
    bank = design.bank
    if bank is not None:
        grown = bank.model_copy(update={"parallel": bank.parallel * 2})
        found.append(
            ("battery", sentence("a second bank like yours"),
             design.model_copy(update={"banks": (grown, *design.banks[1:])}),
             bank.mass, bank_price(bank))
        )  # fmt: skip
    lighter, saved = lighter_house(design)
    if saved > 0:
        found.append(("house", sentence("{w} less house", w=power(saved)), lighter, 0.0, 0.0))
    drop = MASS_STEP_FRAC * design.displacement_kg
    found.append(("mass", sentence("{m} less aboard", m=mass(drop)), design, -drop, 0.0))
    return found


def steps(outlook: Outlook, measure: Measure, base: float) -> list[Step]:
    """Every practical step with what it wins over `base` [m], best first."""
    design = outlook.design
    candidates = _candidates(design)
    trials = [
        shown_outlook(changed, outlook, design.displacement_kg + kg) for _, _, changed, kg, _ in candidates
    ]
    gains = [reached - base for reached in together([partial(miles_m, trial, measure) for trial in trials])]
    made = [
        Step(
            key=key,
            label=label,
            gain_m=gain,
            gain_frac=gain / base if base > 0 else None,
            mass_kg=added_kg,
            cost=cost,
        )
        for (key, label, _, added_kg, cost), gain in zip(candidates, gains, strict=True)
        if np.isfinite(gain)
    ]
    return sorted(made, key=lambda item: -item.gain_m)


def longer_day(outlook: Outlook) -> Outlook | None:
    """The same day with the last spell an hour longer; None where the day has no further hour."""
    if not outlook.spells or outlook.hours > LONGEST_HOURS:
        return None
    last = outlook.spells[-1]
    end = (datetime.combine(outlook.day.starts_at.date(), last.ends_at) + timedelta(hours=1)).time()
    longer = (*outlook.spells[:-1], Spell(starts_at=last.starts_at, ends_at=end))
    plan = outlook.design.plan.model_copy(update={"spells": longer})
    return shown_outlook(outlook.design.model_copy(update={"plan": plan}), outlook)


def with_stronger_drive(outlook: Outlook) -> Outlook:
    """The same day with a drive that takes a tenth more watts."""
    limit = outlook.curve.limit
    grown = limit._replace(power_w=limit.power_w * (1 + DRIVE_STEP_FRAC))
    return replace(outlook, curve=replace(outlook.curve, limit=grown))


def other_steps(outlook: Outlook, measure: Measure, limits: list[Limit], base: float) -> list[Step]:
    """A stronger drive where it binds, and an hour longer under way.

    An hour nearly always wins, for slower is thriftier: it is named where nothing else is worth it.
    """
    trials: list[tuple[StepKey, Sentence, Outlook | None]] = []
    if "drive" in limits:
        stronger = with_stronger_drive(outlook)
        trials.append(("drive", sentence("a drive of {w}", w=power(stronger.rated_w)), stronger))
    if measure != "range":
        trials.append(("hours", sentence("an hour longer under way"), longer_day(outlook)))
    gains = [
        (key, label, miles_m(trial, measure) - base) for key, label, trial in trials if trial is not None
    ]
    return [
        Step(
            key=key, label=label, gain_m=gain, gain_frac=gain / base if base > 0 else None, mass_kg=0, cost=0
        )
        for key, label, gain in gains
    ]


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
    held = base <= 0 and outlook.design.plan.current_mps < 0
    limits = ["stream", *limits] if held else limits
    others = other_steps(outlook, measure, limits, base)
    ranked = sorted([*steps(outlook, measure, base), *others], key=lambda item: -item.gain_m)
    best = next((step for step in sorted(ranked, key=lambda item: item.key == "hours") if _worth(step)), None)
    nothing = sentence("Nothing: go slower or longer. No step wins {x}.", x=fraction(WORTH_FRAC))
    return HeldBackBy(
        limits=limits,
        measure=measure,
        step=best,
        steps=ranked,
        reason=None if best is not None else NO_STEP_MAKES_WAY if held else nothing,
        assumes=assumes_hours(outlook, ""),
        why=why(
            "Finite differences: the same day solved again with each step taken, its mass and cost counted",
            f"{SUN_SOURCE} Prices and masses of parts are invented and typical.",
            [fact for step in ranked for fact in _step_facts(step)],
            None,
            "answers",
        ),
    )
