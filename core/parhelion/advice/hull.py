"""Findings about moving the boat: one rule a function, each None where it has nothing to say."""

from __future__ import annotations

import numpy as np

from parhelion.advice.finding import Finding, ordered
from parhelion.answers.reasons import HULL_SOURCE, MODEL_REASONS, demand_method, hull_facts
from parhelion.day.outlook import Outlook
from parhelion.hull import formula
from parhelion.hull.resistance import hull_speed_mps, range_warnings
from parhelion.hull.runs import ENOUGH_RUNS
from parhelion.hulltypes import TYPICAL
from parhelion.quantities import (
    Fact,
    Why,
    count,
    fraction,
    power,
    ratio,
    sentence,
    speed,
    words,
)
from parhelion.units import MPS_PER_KNOT

HALF_KNOT_MPS = 0.5 * MPS_PER_KNOT
STEEP_FROM = 0.9  # of hull speed: from here the bow wave is climbed
FORMULA_WORTH_SAYING = 1.3
CONTRADICTION = 2.0  # scatter over what honest runs scatter
SLENDER_AT_LEAST = 3.2  # L / volume^(1/3) below which a boat is heavier than any usual one


def _why(outlook: Outlook, method: str, *facts: Fact, doc: str = "demand") -> Why:
    """A reasoning about the demand curve, with what it was computed from."""
    return Why(method=method, source=HULL_SOURCE, inputs=[*facts, *hull_facts(outlook)], doc=doc)


def _model_fact(outlook: Outlook) -> Fact:
    """Why the type's model was chosen."""
    reason = MODEL_REASONS[TYPICAL[outlook.design.hull.type].model]
    return Fact(label="Model chosen for", value=words(reason))


def curve_source(outlook: Outlook) -> Finding:
    """Whose curve it is, and how sure."""
    fitted = outlook.curve.fit
    middle = float(outlook.curve.band_at(outlook.plan_speed_mps))
    if fitted.runs >= ENOUGH_RUNS:
        return Finding(
            id="curve_source",
            level="good",
            title=sentence("Your runs set the curve"),
            detail=sentence(
                "{n} runs; at {v} the watts are known within {x}.",
                n=count(fitted.runs), v=speed(outlook.plan_speed_mps), x=fraction(middle - 1),
            ),
            why=_why(outlook, demand_method(outlook.design), _model_fact(outlook), doc="runs"),
        )  # fmt: skip
    if fitted.runs:
        return Finding(
            id="curve_source",
            level="note",
            title=sentence("{n} of your own runs so far", n=count(fitted.runs)),
            detail=sentence(
                "The band at {v} is {x} either way. Three runs or more set the curve.",
                v=speed(outlook.plan_speed_mps), x=fraction(middle - 1),
            ),
            why=_why(outlook, demand_method(outlook.design), _model_fact(outlook), doc="runs"),
        )  # fmt: skip
    return Finding(
        id="curve_source",
        level="note",
        title=sentence("No runs of your own yet"),
        detail=sentence(
            "The curve comes from the hull's form: 9 boats of 10 lie within {x} of it, up or down. "
            "Four steady runs bring that to a tenth.",
            x=ratio(middle),
        ),
        why=_why(outlook, demand_method(outlook.design), _model_fact(outlook), doc="runs"),
    )


def half_a_knot_less(outlook: Outlook) -> Finding | None:
    """What going half a knot slower saves."""
    now = outlook.plan_speed_mps
    if now <= 2 * HALF_KNOT_MPS:
        return None
    before, after = (float(outlook.curve.power_at(v)) for v in (now, now - HALF_KNOT_MPS))
    return Finding(
        id="half_a_knot_less",
        level="note",
        title=sentence("Half a knot less: {x} of the watts", x=fraction(after / before)),
        detail=sentence(
            "{slow} instead of {fast} takes {few}, not {many}.",
            slow=speed(now - HALF_KNOT_MPS), fast=speed(now), few=power(after), many=power(before),
        ),
        why=_why(outlook, "Two points of the demand curve"),
        field="/plan/speed_mps",
    )  # fmt: skip


def formula_says(outlook: Outlook) -> Finding | None:
    """How far the cautious school lies above the curve at the planned speed."""
    hull = outlook.design.hull
    v = outlook.plan_speed_mps
    asked = float(formula.shaft_power_w(v, hull.waterline_length_m, outlook.design.displacement_kg))
    asked /= formula.MOTOR_AND_CONTROLLER_EFFICIENCY
    times = asked / float(outlook.curve.power_at(v))
    if times < FORMULA_WORTH_SAYING:
        return None
    return Finding(
        id="formula_says",
        level="note",
        title=sentence("The speed/length formula says {x} as much", x=ratio(times)),
        detail=sentence(
            "{w} at {v}. It was made to choose engines and overstates slow speeds; kept as the cautious "
            "bound.",
            w=power(asked), v=speed(v),
        ),
        why=_why(
            outlook,
            "Classic speed/length formula, shaft watts over motor and controller efficiency",
            Fact(label="Motor and controller", value=fraction(formula.MOTOR_AND_CONTROLLER_EFFICIENCY)),
            doc="formula",
        ),
    )  # fmt: skip


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
        why=_why(outlook, "Demand curve against the drive's rating"),
        field="/plan/speed_mps",
    )


def near_hull_speed(outlook: Outlook) -> Finding | None:
    """The planned speed climbs the bow wave."""
    limit = hull_speed_mps(outlook.design.hull.waterline_length_m)
    v = outlook.plan_speed_mps
    if v < STEEP_FROM * limit:
        return None
    slower = STEEP_FROM * limit
    return Finding(
        id="near_hull_speed",
        level="warn",
        title=sentence("Watts run away above {v}", v=speed(slower)),
        detail=sentence(
            "You plan {x} of hull speed. Back at {slow} it takes {w}, not {now}.",
            x=fraction(v / limit), slow=speed(slower), w=power(float(outlook.curve.power_at(slower))),
            now=power(float(outlook.curve.power_at(v))),
        ),
        why=_why(outlook, "Hull speed: the wave as long as the waterline"),
        field="/plan/speed_mps",
    )  # fmt: skip


def outside_model(outlook: Outlook) -> Finding | None:
    """Said once, quietly: the hull lies outside what the model was made from."""
    warnings = range_warnings(outlook.design, outlook.plan_speed_mps)
    if not warnings:
        return None
    parts = [f"{w.quantity} {w.value:.2g} (made for {w.low:g} to {w.high:g})" for w in warnings]
    text = "; ".join(parts) + ". Most small craft lie outside somewhere: your own runs settle it."
    return Finding(
        id="outside_model",
        level="note",
        title=sentence("Outside the model's fleet"),
        detail=sentence("{t}", t=words(text[0].upper() + text[1:])),
        why=_why(outlook, f"Ranges of the model: {demand_method(outlook.design)}", doc="hull-types"),
        field="/hull/type",
    )


def runs_contradict(outlook: Outlook) -> Finding | None:
    """The runs scatter more than honest runs do."""
    fitted = outlook.curve.fit
    if fitted.disagreement < CONTRADICTION:
        return None
    worst = int(np.argmax(np.abs(fitted.residuals)))
    run = outlook.design.fitted_runs[worst]
    return Finding(
        id="runs_contradict",
        level="warn",
        title=sentence("Your runs disagree with each other"),
        detail=sentence(
            "{w} at {v} is farthest off, {x} from the rest. Check that run; the band has been widened.",
            w=power(run.battery_w), v=speed(run.through_water_mps),
            x=fraction(float(np.expm1(fitted.residuals[worst])), signed=True),
        ),
        why=_why(outlook, "Scatter of the runs about the fit", doc="runs"),
        field=f"/runs/{worst}/power_w",
    )  # fmt: skip


def one_way_runs(outlook: Outlook) -> Finding | None:
    """One-way runs cannot see the current."""
    lonely = [run for run in outlook.design.runs if run.back_speed_mps is None]
    if not lonely:
        return None
    return Finding(
        id="one_way_runs",
        level="note",
        title=sentence("{n} one-way: run it back too", n=count(len(lonely))),
        detail=sentence(
            "A stream you cannot see goes straight into the speed: 0.4 kn of it misreads the watts by half. "
            "The band is wider for these."
        ),
        why=_why(outlook, "Both ways at one throttle, speeds averaged, never powers", doc="runs"),
    )


def heavy_for_length(outlook: Outlook) -> Finding | None:
    """Implausible, not impossible: a boat this heavy for its length."""
    hull = outlook.design.hull
    volume = (
        outlook.design.displacement_kg / outlook.design.water_density_kg_per_m3 / TYPICAL[hull.type].hulls
    )
    slender = hull.waterline_length_m / volume ** (1 / 3)
    if slender >= SLENDER_AT_LEAST:
        return None
    return Finding(
        id="heavy_for_length",
        level="warn",
        title=sentence("Very heavy for this length"),
        detail=sentence(
            "Length over the cube root of volume is {x}; 4 to 9 is usual. Check metres and kilograms.",
            x=words(f"{slender:.1f}"),
        ),
        why=_why(outlook, "Slenderness of the hull", doc="hull-types"),
        field="/hull/displacement_kg",
    )


def way_home(outlook: Outlook) -> Finding:
    """A standing caution: one motor is no way home."""
    return Finding(
        id="way_home",
        level="note",
        title=sentence("Carry a second way home"),
        detail=sentence(
            "Oars, paddle, sail or pedals, a bailer, life jackets for all, lights and a call for help. Crew "
            "numbers and loading plates still rule, and so do local boating codes."
        ),
        why=Why(method="Good seamanship", source="A computed speed is never a reason to go.", doc="cautions"),
        caution=True,
    )


def hull_findings(outlook: Outlook) -> list[Finding]:
    """Everything the hull tells, warnings first."""
    return ordered(
        [
            beyond_drive(outlook),
            runs_contradict(outlook),
            heavy_for_length(outlook),
            near_hull_speed(outlook),
            curve_source(outlook),
            half_a_knot_less(outlook),
            formula_says(outlook),
            one_way_runs(outlook),
            outside_model(outlook),
            way_home(outlook),
        ]
    )
