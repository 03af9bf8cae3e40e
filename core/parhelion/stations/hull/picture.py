"""The crossing chart: battery watts over speed, against what the sun pays."""

from __future__ import annotations

from dataclasses import replace
from typing import Literal

import numpy as np

from parhelion.balance.outlook import Outlook
from parhelion.design import BoatDesign, Sky
from parhelion.design.hull import hull_speed_mps
from parhelion.design.hulltypes import TYPICAL
from parhelion.drive.chain import method_of
from parhelion.hull import formula
from parhelion.hull.air import raised_panels_m2
from parhelion.hull.demand import fit_runs
from parhelion.quantities import Frozen, Sentence, hours, sentence, words
from parhelion.rail.reach import Reach, reaches
from parhelion.rail.reasons import MODEL_REASONS, MODEL_WORDS
from parhelion.rail.speeds import live_speed, solve_steady, steady_speed
from parhelion.stations.hull.run_findings import most_telling_run
from parhelion.stations.hull.seaway import Cost, HeadWind, WayHome, head_wind, seaway_costs, way_home
from parhelion.sun.light import light_under

CHART_POINTS = 81


class RunPoint(Frozen):
    """A measured run on the chart."""

    id: str
    speed_mps: float
    power_w: float
    both_ways: bool
    current_mps: float | None  # the stream a pair of ways shows
    off_frac: float | None  # measured over fitted, less one; None where its set is not in use
    outlier: bool


class RunSet(Frozen):
    """Runs of one set by themselves, at the planned speed."""

    name: str
    runs: int
    power_w: float
    low_w: float
    high_w: float
    in_use: bool


class ChainLink(Frozen):
    """One link from battery to thrust."""

    name: str
    efficiency: float
    left_w: float  # of the battery's watts, after it


class Weight(Frozen):
    """One part of the displacement."""

    name: str
    mass_kg: float


class SunLine(Frozen):
    """What the sun pays, as watts, and the speed where the curve crosses it."""

    key: Literal["noon", "day", "overcast"]
    label: Sentence
    power_w: float
    speed_mps: float


class NextRunOut(Frozen):
    """What one more run would tell."""

    speed_mps: float
    band_now_frac: float
    band_then_frac: float


class HullPicture(Frozen):
    """The crossing chart; the curve's lists are of equal length."""

    speed_mps: list[float]
    power_w: list[float]
    low_w: list[float]
    high_w: list[float]
    form_w: list[float]  # by the hull's form alone, before the runs
    formula_w: list[float]
    runs: list[RunPoint]
    lines: list[SunLine]
    hull_speed_mps: float
    rated_power_w: float
    rated_speed_mps: float
    plan_speed_mps: float
    plan_power_w: float
    draught_m: float
    drive_method: str
    chain: list[ChainLink]
    weights: list[Weight]
    displacement_kg: float
    costs: list[Cost]
    wind: HeadWind
    home: WayHome
    sets: list[RunSet]
    next_run: NextRunOut
    model: str
    model_reason: str
    raised_panels_m2: float  # that stand up to bow or stern, beside the frontal area


def hull_picture(outlook: Outlook) -> HullPicture:
    """Everything the crossing chart shows of a design."""
    design, curve = outlook.design, outlook.curve
    hull = design.hull
    top = min(curve.top_speed_mps, 1.25 * hull_speed_mps(hull.waterline_length_m))
    speeds = np.linspace(0, top, CHART_POINTS)
    power, band = curve.power_at(speeds), curve.band_at(speeds)
    drive = power - curve.idle_w
    asked = formula.shaft_power_w(speeds, hull.waterline_length_m, design.displacement_kg)
    used = {run.id: i for i, run in enumerate(design.fitted_runs)}
    points = []
    for run in design.runs:
        i = used.get(run.id)
        points.append(
            RunPoint(
                id=run.id,
                speed_mps=run.through_water_mps,
                power_w=run.battery_w,
                both_ways=run.back_speed_mps is not None,
                current_mps=run.current_mps,
                off_frac=None if i is None else float(np.expm1(curve.fit.residuals[i])),
                outlier=i is not None and bool(curve.fit.outliers[i]),
            )
        )
    more = most_telling_run(outlook)
    typical = TYPICAL[hull.type]
    draught = design.draught_m(design.water_density_kg_per_m3)
    return HullPicture(
        speed_mps=speeds.tolist(),
        power_w=power.tolist(),
        low_w=(curve.idle_w + drive / band).tolist(),
        high_w=(curve.idle_w + drive * band).tolist(),
        form_w=np.interp(speeds, curve.speed_mps, curve.model_w).tolist(),
        formula_w=(asked / formula.MOTOR_AND_CONTROLLER_EFFICIENCY).tolist(),
        runs=points,
        lines=sun_lines(outlook),
        hull_speed_mps=hull_speed_mps(hull.waterline_length_m),
        rated_power_w=outlook.rated_w,
        rated_speed_mps=float(curve.speed_at(outlook.rated_w)),
        plan_speed_mps=outlook.plan_speed_mps,
        plan_power_w=outlook.plan_power_w,
        draught_m=draught,
        drive_method=method_of(design.drives[0]),
        chain=_chain(outlook),
        weights=_weights(design),
        displacement_kg=design.displacement_kg,
        costs=seaway_costs(outlook),
        wind=head_wind(outlook),
        home=way_home(outlook),
        sets=_sets(outlook),
        next_run=NextRunOut(
            speed_mps=more.speed_mps, band_now_frac=more.band_now_frac, band_then_frac=more.band_then_frac
        ),
        model=MODEL_WORDS[typical.model],
        model_reason=MODEL_REASONS[typical.model],
        raised_panels_m2=raised_panels_m2(design),
    )


def _chain(outlook: Outlook) -> list[ChainLink]:
    """The first drive's links at the planned speed, and the watts left after each."""
    left, found = outlook.plan_power_w, []
    idle = outlook.curve.idle_w
    if idle > 0:
        left -= idle
        found.append(ChainLink(name="standing draw", efficiency=left / outlook.plan_power_w, left_w=left))
    for name, efficiency in outlook.drive_links():
        left *= efficiency
        found.append(ChainLink(name=name, efficiency=efficiency, left_w=left))
    return found


def _weights(design: BoatDesign) -> list[Weight]:
    """What the displacement is made of; nothing where the boat's own weight is not known."""
    if design.loading is None:
        return []
    load = design.loading
    parts = (
        ("boat", load.boat_kg), ("crew", load.crew_kg), ("gear", load.gear_kg), ("water", load.water_kg),
        ("bank", design.banks_kg), ("panels", design.panels_kg + design.frames_kg),
    )  # fmt: skip
    return [Weight(name=name, mass_kg=kg) for name, kg in parts if kg > 0]


def _sets(outlook: Outlook) -> list[RunSet]:
    """Every set of runs fitted by itself, where there is more than one."""
    design, curve = outlook.design, outlook.curve
    names = list(dict.fromkeys(run.set_name for run in design.runs))
    if len(names) < 2:
        return []
    speed = outlook.plan_speed_mps
    share = np.interp(speed, curve.speed_mps, curve.wave_share)
    model = float(np.interp(speed, curve.speed_mps, curve.model_w)) - curve.idle_w
    found = []
    for name in names:
        runs = tuple(run for run in design.runs if run.set_name == name)
        fitted = fit_runs(design, runs)
        drive = model * float(fitted.factor(share))
        band = float(fitted.band_factor(share))
        found.append(
            RunSet(
                name=name,
                runs=len(runs),
                power_w=curve.idle_w + drive,
                low_w=curve.idle_w + drive / band,
                high_w=curve.idle_w + drive * band,
                in_use=design.fitted_set in (None, name),
            )
        )
    return found


def sun_lines(outlook: Outlook) -> list[SunLine]:
    """Harvest lines at noon, over the day, and over an overcast day; those that exist."""
    design = outlook.design
    if not design.panels:
        return []
    sky = words(design.plan.sky_words)
    found = []
    long, h = "all day" if design.plan.spells is None else "for {h}", hours(outlook.hours)
    noon = live_speed(outlook, outlook.day.noon_step, outlook.day.solar_noon_at)
    if noon.speed_mps and noon.power_w:
        found.append(
            SunLine(key="noon", label=sentence("noon, {sky}", sky=sky), power_w=noon.power_w,
                    speed_mps=noon.speed_mps)
        )  # fmt: skip
    steady = steady_speed(outlook, solve_steady(outlook))
    if steady.speed_mps and steady.power_w:
        found.append(
            SunLine(key="day", label=sentence(f"{long}, {{sky}}", sky=sky, h=h), power_w=steady.power_w,
                    speed_mps=steady.speed_mps)
        )  # fmt: skip
    if design.plan.sky not in (Sky.OVERCAST, Sky.RAIN):
        dull_day = light_under(design.site, design.plan.date, Sky.OVERCAST).shown_alone
        grey = replace(outlook, light=dull_day)
        dull = steady_speed(grey, solve_steady(grey))
        if dull.speed_mps and dull.power_w:
            found.append(
                SunLine(key="overcast", label=sentence(f"{long}, overcast", h=h), power_w=dull.power_w,
                        speed_mps=dull.speed_mps)
            )  # fmt: skip
    return found


class RangePicture(Frozen):
    """Range against speed, by sky; empty without a bank."""

    speed_mps: list[float]
    reaches: list[Reach]
    plan_speed_mps: float
    start_charge_frac: float
    reserve_frac: float | None
    current_mps: float


def range_picture(outlook: Outlook) -> RangePicture:
    """Everything the range view shows of a design."""
    design = outlook.design
    speeds, found = reaches(outlook)
    return RangePicture(
        speed_mps=speeds,
        reaches=found,
        plan_speed_mps=outlook.plan_speed_mps,
        start_charge_frac=design.plan.start_charge_frac,
        reserve_frac=outlook.store.reserve if outlook.store else None,
        current_mps=design.plan.current_mps,
    )
