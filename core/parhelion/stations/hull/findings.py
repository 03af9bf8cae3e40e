"""Findings about moving the boat: one rule a function, each None where it has nothing to say."""

from __future__ import annotations

from parhelion.balance.outlook import Outlook
from parhelion.design.hull import hull_speed_mps
from parhelion.design.hulltypes import TYPICAL
from parhelion.finding import Finding, ordered
from parhelion.hull.resistance import range_warnings, widening
from parhelion.hull.weather import highest_wave_m
from parhelion.quantities import (
    Why,
    distance,
    fraction,
    hours,
    length,
    mass,
    power,
    sentence,
    speed,
    words,
)
from parhelion.rail.findings import beyond_drive
from parhelion.rail.reach import reach_at
from parhelion.rail.reasons import demand_method, hull_why
from parhelion.stations.hull.drive_findings import drive_findings, drive_view
from parhelion.stations.hull.run_findings import (
    curve_source,
    formula_says,
    implausible_run,
    one_more_run,
    one_way_runs,
    runs_contradict,
)
from parhelion.stations.hull.seaway import HeadWind, WayHome, head_wind, way_home
from parhelion.units import MPS_PER_KNOT

HALF_KNOT_MPS = 0.5 * MPS_PER_KNOT
STEEP_FROM = 0.9  # of hull speed: from here the bow wave is climbed
SLENDER_AT_LEAST = 3.2  # L / volume^(1/3) below which a boat is heavier than any usual one


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
        why=hull_why(outlook, "Hull speed: the wave as long as the waterline"),
        field="/plan/speed_mps",
    )  # fmt: skip


def outside_model(outlook: Outlook) -> Finding | None:
    """Said once, quietly: the hull lies outside what the model was made from."""
    warnings = range_warnings(outlook.design, outlook.plan_speed_mps)
    if not warnings:
        return None
    parts = [f"{w.quantity} {w.value:.2g} (made for {w.low:g} to {w.high:g})" for w in warnings]
    times = widening(outlook.design)
    tail = (
        "Most small craft lie outside somewhere: your own runs settle it."
        if times == 1
        else f"That is far outside: the band is {times:.1f} times as wide. Only your own runs settle it."
    )
    text = "; ".join(parts) + ". " + tail
    return Finding(
        id="outside_model",
        level="note",
        title=sentence("Outside the model's fleet"),
        detail=sentence("{t}", t=words(text[0].upper() + text[1:])),
        why=hull_why(outlook, f"Ranges of the model: {demand_method(outlook.design)}", doc="hull-types"),
        field="/hull/type",
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
        why=hull_why(outlook, "Slenderness of the hull", doc="hull-types"),
        field="/hull/displacement_kg" if outlook.design.hull.displacement_kg else "/loading/boat_kg",
    )


LITTLE_M = 100.0  # farther: less is none on the water
CALM_MPS = 0.3  # of wind


def half_a_knot_less(outlook: Outlook) -> Finding | None:
    """What going half a knot slower saves, and how much farther it goes."""
    now = outlook.plan_speed_mps
    if now <= 2 * HALF_KNOT_MPS:
        return None
    slower = now - HALF_KNOT_MPS
    before, after = (float(outlook.curve.power_at(v)) for v in (now, slower))
    title = sentence("Half a knot less: {x} of the watts", x=fraction(after / before))
    if outlook.aboard is not None:
        here, there = (reach_at(outlook, outlook.shown_by_bank_w, v)[1] for v in (now, slower))
        if here is not None and there is not None and there > here + LITTLE_M:
            title = sentence("Half a knot less: {d} farther", d=distance(there - here, signed=True))
        elif here is not None and there is None:
            title = sentence("Half a knot less, and the sun keeps up")
    return Finding(
        id="half_a_knot_less",
        level="note",
        title=title,
        detail=sentence(
            "{slow} instead of {fast} takes {few}, not {many}.",
            slow=speed(slower), fast=speed(now), few=power(after), many=power(before),
        ),
        why=hull_why(outlook, "Two points of the demand curve; range from the start charge to the reserve"),
        field="/plan/speed_mps",
    )  # fmt: skip


def last_knot(outlook: Outlook) -> Finding | None:
    """What the last knot costs against all before it."""
    limit = hull_speed_mps(outlook.design.hull.waterline_length_m)
    v = outlook.plan_speed_mps
    if not 0.8 * limit <= v < STEEP_FROM * limit or v <= 2 * MPS_PER_KNOT:
        return None
    whole, before = (float(outlook.curve.power_at(x)) for x in (v, v - MPS_PER_KNOT))
    times = (whole - before) / before
    return Finding(
        id="last_knot",
        level="note",
        title=sentence("At {x} of hull speed the last knot costs {t} the rest", x=fraction(v / limit),
                       t=words(f"{times:.1f}×")),
        detail=sentence("{b} up to {s}, {w} more to {v}.", b=power(before), s=speed(v - MPS_PER_KNOT),
                        w=power(whole - before), v=speed(v)),
        why=hull_why(outlook, "Demand curve near hull speed"),
        field="/plan/speed_mps",
    )  # fmt: skip


def parts_disagree(outlook: Outlook) -> Finding | None:
    """The weight as weighed against its parts."""
    design = outlook.design
    parts, whole = design.parts_kg, design.hull.displacement_kg
    if whole is None:
        return None
    if parts is None:
        return None
    if abs(parts / whole - 1) < 0.05:
        return None
    return Finding(
        id="parts_disagree",
        level="note",
        title=sentence("The parts add up to {p}, you say {w}", p=mass(parts), w=mass(whole)),
        detail=sentence(
            "What you gave counts. Empty it to use the parts: then a heavier bank costs speed by itself."
        ),
        why=hull_why(outlook, "Boat, crew, gear, water, bank and panels added up"),
        field="/hull/displacement_kg",
    )


def steep_waves(outlook: Outlook) -> Finding | None:
    """Waves beyond what the method holds for."""
    high, waves = highest_wave_m(outlook.design.hull.waterline_length_m), outlook.design.plan.wave_height_m
    if waves <= high:
        return None
    return Finding(
        id="steep_waves",
        level="warn",
        title=sentence("Waves of {h}: it will cost more than this", h=length(waves)),
        detail=sentence(
            "The method holds to {m} for this length (value {h}): beyond it the boat pitches. Would you go?",
            m=length(high), h=length(waves),
        ),
        why=hull_why(outlook, "Range of the added-resistance method", doc="weather"),
        field="/plan/wave_height_m",
        caution=True,
    )  # fmt: skip


def strongest_head_wind(outlook: Outlook, found: HeadWind) -> Finding:
    """The wind against which the boat still makes way."""
    lasts = ", {t} on the bank" if found.hours is not None else ""
    slots = {} if found.hours is None else {"t": hours(found.hours)}
    title = sentence("A head wind of {w} leaves one knot", w=speed(found.wind_mps))
    if found.wind_mps < CALM_MPS:
        title = sentence("Even a calm leaves less than one knot over the ground")
    return Finding(
        id="strongest_head_wind",
        level="note",
        title=title,
        detail=sentence(
            f"Full power, {{h}} waves of a two-kilometre fetch{lasts}. Steering goes before thrust does, "
            "and gusts and steeper waves take from it: turn back long before.",
            h=length(found.wave_height_m), **slots,
        ),
        why=hull_why(outlook, "Wind and wave drag at one knot over the ground against the drive's pull",
                     doc="weather"),
        caution=True,
    )  # fmt: skip


def name_your_way_home(outlook: Outlook, found: WayHome) -> Finding:
    """What is left when the motor fails; a standing caution."""
    carry = (
        "Life jackets for all, a bailer, lights and a call for help. Crew numbers and loading plates still "
        "rule, and so do local boating codes."
    )
    why = Why(method="Good seamanship", source="A computed speed is never a reason to go.", doc="cautions")
    if found.means == "none":
        return Finding(
            id="way_home",
            level="warn",
            title=sentence("One motor, no other push: name your way home"),
            detail=sentence("Oars, paddle, sail, pedals or a second motor. " + carry),
            why=why,
            field="/pushes",
            caution=True,
        )
    title = (
        sentence("If the motor fails, {m} makes {v}", m=words(f"the {found.means}"), v=speed(found.speed_mps))
        if found.speed_mps is not None
        else sentence("If the motor fails there is the sail")
    )
    return Finding(id="way_home", level="note", title=title, detail=sentence(carry), why=why, caution=True)


def hull_findings(outlook: Outlook) -> list[Finding]:
    """Everything the hull and its drive tell, warnings first."""
    return ordered(
        [
            beyond_drive(outlook),
            implausible_run(outlook),
            runs_contradict(outlook),
            heavy_for_length(outlook),
            near_hull_speed(outlook),
            *drive_findings(outlook, drive_view(outlook)),
            curve_source(outlook),
            half_a_knot_less(outlook),
            last_knot(outlook),
            formula_says(outlook),
            one_more_run(outlook),
            one_way_runs(outlook),
            parts_disagree(outlook),
            outside_model(outlook),
            steep_waves(outlook),
            name_your_way_home(outlook, way_home(outlook)),
            strongest_head_wind(outlook, head_wind(outlook)),
        ]
    )
