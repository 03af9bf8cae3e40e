"""Findings about the person's own runs: one rule a function, each None where it has nothing to say."""

from __future__ import annotations

import numpy as np

from parhelion.balance.outlook import Outlook, remembered
from parhelion.design.hull import hull_speed_mps
from parhelion.finding import Finding
from parhelion.hull import formula
from parhelion.hull.next_run import NextRun, next_run
from parhelion.hull.runs import ENOUGH_RUNS
from parhelion.quantities import count, fraction, power, ratio, sentence, speed
from parhelion.rail.reasons import demand_method, hull_why, model_fact

CONTRADICTION = 2.0  # scatter over what honest runs scatter
FORMULA_WORTH_SAYING = 1.3
ABSURD_OFF = 4.0  # a run this many times off the model is a slip of the pen


def curve_source(outlook: Outlook) -> Finding:
    """Whose curve it is, and how sure."""
    fitted = outlook.curve.fit
    middle = float(outlook.curve.band_at(outlook.plan_speed_mps))
    why = hull_why(outlook, demand_method(outlook.design), model_fact(outlook), doc="runs")
    if fitted.runs >= ENOUGH_RUNS:
        return Finding(
            id="curve_source",
            level="good",
            title=sentence("Your runs set the curve"),
            detail=sentence(
                "{n} runs; at {v} the watts are known within {x}.",
                n=count(fitted.runs), v=speed(outlook.plan_speed_mps), x=fraction(middle - 1),
            ),
            why=why,
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
            why=why,
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
        why=why,
    )


@remembered
def most_telling_run(outlook: Outlook) -> NextRun:
    """The run that would narrow the band most, up to what hull and drive make."""
    hull_speed = hull_speed_mps(outlook.design.hull.waterline_length_m)
    return next_run(outlook.curve, min(hull_speed, float(outlook.curve.speed_at(outlook.rated_w))))


def one_more_run(outlook: Outlook) -> Finding | None:
    """What one more run would tell, and at which speed; none where wind and waves hold her."""
    found = most_telling_run(outlook)
    if found.speed_mps <= 0:
        return None
    return Finding(
        id="one_more_run",
        level="note",
        title=sentence("A run at {v} would tell most", v=speed(found.speed_mps)),
        detail=sentence(
            "Out and back at one throttle, it brings the band from {now} to {then} on the whole.",
            now=fraction(found.band_now_frac), then=fraction(found.band_then_frac),
        ),
        why=hull_why(outlook, "The fit's covariance with a run added at each speed in turn", doc="runs"),
        field="/runs",
    )  # fmt: skip


def formula_says(outlook: Outlook) -> Finding | None:
    """How far the cautious school lies above the curve at the planned speed."""
    design = outlook.design
    v = outlook.plan_speed_mps
    asked = float(formula.shaft_power_w(v, design.hull.waterline_length_m, design.displacement_kg))
    asked /= formula.MOTOR_AND_CONTROLLER_EFFICIENCY
    own = float(outlook.curve.power_at(v))
    if asked / own < FORMULA_WORTH_SAYING:
        return None
    measured = outlook.curve.fit.runs >= ENOUGH_RUNS
    title = (
        sentence("The formula says {f}, your runs {w}: trust the runs", f=power(asked), w=power(own))
        if measured
        else sentence("The speed/length formula says {x} as much", x=ratio(asked / own))
    )
    return Finding(
        id="formula_says",
        level="note",
        title=title,
        detail=sentence(
            "{w} at {v}. It was made to choose engines and overstates slow speeds; kept as the cautious "
            "bound.",
            w=power(asked), v=speed(v),
        ),
        why=hull_why(
            outlook, "Classic speed/length formula, shaft watts over motor and controller efficiency",
            doc="formula",
        ),
    )  # fmt: skip


def runs_contradict(outlook: Outlook) -> Finding | None:
    """The runs scatter more than honest runs do."""
    fitted = outlook.curve.fit
    if fitted.disagreement < CONTRADICTION:
        return None
    worst = int(np.argmax(np.abs(fitted.residuals)))
    run = outlook.design.fitted_runs[worst]
    index = outlook.design.runs.index(run)
    return Finding(
        id="runs_contradict",
        level="warn",
        title=sentence("Your runs disagree with each other"),
        detail=sentence(
            "{w} at {v} is farthest off, {x} from the rest. Check that run; the band has been widened.",
            w=power(run.battery_w), v=speed(run.through_water_mps),
            x=fraction(float(np.expm1(fitted.residuals[worst])), signed=True),
        ),
        why=hull_why(outlook, "Scatter of the runs about the fit", doc="runs"),
        field=f"/runs/{index}/power_w",
    )  # fmt: skip


def implausible_run(outlook: Outlook) -> Finding | None:
    """A run that no such boat makes."""
    curve = outlook.curve
    for run in outlook.design.fitted_runs:
        model = float(np.interp(run.through_water_mps, curve.speed_mps, curve.model_w))
        times = run.battery_w / model
        if 1 / ABSURD_OFF < times < ABSURD_OFF:
            continue
        index = outlook.design.runs.index(run)
        return Finding(
            id="implausible_run",
            level="warn",
            title=sentence(
                "{w} at {v}: check this run", w=power(run.battery_w), v=speed(run.through_water_mps)
            ),
            detail=sentence(
                "Such a hull takes some {m} there. A slip in knots and km/h, watts and kilowatts, or the "
                "decimal point?",
                m=power(model),
            ),
            why=hull_why(outlook, "The run against the hull's model", doc="runs"),
            field=f"/runs/{index}/power_w",
        )  # fmt: skip
    return None


def one_way_runs(outlook: Outlook) -> Finding | None:
    """One-way runs cannot see the current."""
    lonely = [run for run in outlook.design.fitted_runs if run.back_speed_mps is None]
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
        why=hull_why(outlook, "Both ways at one throttle, speeds averaged, never powers", doc="runs"),
    )
