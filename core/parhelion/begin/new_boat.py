"""A whole boat from what her owner knows; what is not known is usual for the type and the size.

References
----------
[1] Boats of a type grow in beam and draught with the two-thirds power of length, so in weight with the
    seven-thirds; typical of small craft, within some third.
[2] Waterline over length overall by type: plumb stems of canal and work boats, overhangs of older yachts.
[3] Heights over the water, places along the boat, shares, hours and people's weight: typical of such boats.
    They stand in the design, where each is seen and can be changed.
"""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from datetime import time as Clock
from math import ceil, floor
from typing import Any

from pydantic import ValidationError

from parhelion.balance.outlook import outlook_of
from parhelion.begin.known import Bought, Known, OutFor
from parhelion.design import (
    Bank,
    BoatDesign,
    Chemistry,
    Controller,
    Drive,
    Hull,
    Load,
    Loading,
    PanelGroup,
    Place,
    PlaceKind,
    Plan,
    Point,
    Rating,
    Site,
    Spell,
    Stands,
    Use,
    Water,
)
from parhelion.design.hull import hull_speed_mps
from parhelion.design.hulltypes import TYPICAL, HullType
from parhelion.design.wish import Wish
from parhelion.drive.trolling import WATTS_PER_NEWTON
from parhelion.errors import InvalidDesign, problems_of
from parhelion.panels.layout import GAP_M
from parhelion.panels.proposed import ASHORE, HEIGHTS_M
from parhelion.rail.speeds import bank_power_w
from parhelion.sun.climate import coldest_morning_c
from parhelion.sun.koppen import sea_is_near
from parhelion.wiring.by_itself import boxes_by_itself

# typical [3], where nothing else is said
EASY_FROUDE_SHARE = 0.6  # of hull speed: a pace that most boats make on modest watts
BANK_HOURS = 2.0  # of the drive's rating that a usual bank holds
BIG_BANK_V, SMALL_BANK_V = 25.6, 12.8
SMALL_DRIVE_W = 700.0
PANEL_W, SMALL_PANEL_W = 200.0, 100.0
PANEL_M2 = 1.1  # of a 200 W panel
PERSON_KG = 75.0
ONE_ABOARD_KG = 200.0  # lighter boats carry one
GEAR_SHARE = 0.04
LEAST_BOAT_SHARE, LEAST_BOAT_KG = 0.15, 8.0
DECK_SHARE = 0.25  # of length times beam that a usual array covers
BEAM_POWER, WEIGHT_POWER = 2 / 3, 7 / 3  # of length [1]
WATERLINE_SHARE = {HullType.LONG_KEEL_YACHT: 0.80, HullType.FIN_KEEL_YACHT: 0.86, HullType.KAYAK: 0.92,
                   HullType.CANOE: 0.94, HullType.INFLATABLE: 0.85}  # fmt: skip  # [2]
USUAL_WATERLINE_SHARE = 0.95
TWO_HULL_SPREAD = {
    HullType.CATAMARAN: 5.5,
    HullType.PONTOON: 4.0,
    HullType.TRIMARAN: 6.0,
}  # beam over all / hull

AUXILIARY_TYPES = {HullType.FIN_KEEL_YACHT, HullType.LONG_KEEL_YACHT}
HOME_CHARGED_TYPES = {HullType.INFLATABLE, HullType.SIT_ON_TOP, HullType.PADDLEBOARD, HullType.KAYAK}
USES = {OutFor.CRUISE: Use.CRUISER, OutFor.SAIL: Use.AUXILIARY, OutFor.RACE: Use.CRUISER,
        OutFor.HOME: Use.HOME_CHARGED}  # fmt: skip
DECK_HEIGHT_M, LOW_DECK_M, LOW_BOAT_M = 0.6, 0.25, 0.9  # over the water; of boats with less beam, the lower
STERN_KINDS = {PlaceKind.ARCH: -0.42, PlaceKind.BIMINI: -0.28, PlaceKind.LOOSE: 0.25, PlaceKind.DECK: 0.15}
SPARED, SLOWEST_MPS = 0.95, 0.3  # of the speed that just lasts
HOURS = {  # under way, by use; others motor through the useful sun
    Use.AUXILIARY: (Spell(starts_at=Clock(9), ends_at=Clock(9, 45)),
                    Spell(starts_at=Clock(17), ends_at=Clock(17, 45))),
    Use.HOME_CHARGED: (Spell(starts_at=Clock(10), ends_at=Clock(12)),
                       Spell(starts_at=Clock(13), ends_at=Clock(15))),
}  # fmt: skip
HIGH_TYPES = {HullType.LAUNCH, HullType.MOTOR_CRUISER, HullType.PONTOON}


@contextmanager
def _beside(known: Known, *names: str) -> Iterator[None]:
    """What cannot be of a part is told beside the first of these entries that was said."""
    try:
        yield
    except ValidationError as error:
        said = next((name for name in names if name in known.model_fields_set), names[0])
        problem = problems_of(error)[0]
        part = {kind.__name__: kind for kind in (Hull, Drive, Bank, PanelGroup, Place, Loading)}.get(
            error.title
        )
        entry = part.model_fields.get(problem.field.split("/")[1]) if part else None
        message = (
            f"{entry.title}: {problem.message}" if entry is not None and entry.title else problem.message
        )
        sinks = (
            problem.code == "out_of_reach" and problem.relation is not None
        )  # its kilograms are one part's
        update = {
            "field": f"/{said}",
            "message": message,
            "value": getattr(known, said),
            "accepted": "less weight, or a longer or wider boat" if sinks else problem.accepted,
            "limit": None,
        }
        told = problem.model_copy(update=update)
        raise InvalidDesign([told]) from None


def _use(known: Known) -> Use:
    if known.outing is not OutFor.DAY:
        return USES[known.outing]
    if known.hull_type in AUXILIARY_TYPES:
        return Use.AUXILIARY
    return Use.HOME_CHARGED if known.hull_type in HOME_CHARGED_TYPES else Use.CRUISER


def _hull(known: Known) -> Hull:
    typical = TYPICAL[known.hull_type]
    share = WATERLINE_SHARE.get(known.hull_type, USUAL_WATERLINE_SHARE)
    length = known.waterline_m or (known.overall_m * share if known.overall_m else typical.length_m)
    beam = typical.beam_m * (length / typical.length_m) ** BEAM_POWER
    if known.beam_m:
        beam = known.beam_m / TWO_HULL_SPREAD.get(known.hull_type, 1.0)
    return Hull(type=known.hull_type, waterline_length_m=round(length, 2), beam_m=round(beam, 2))


def _drive(known: Known, whole_kg: float) -> Drive:
    typical = TYPICAL[known.hull_type]
    alike = {"id": "drive", "count": known.motors}
    if known.thrust_n and not known.motor_w:
        volts = known.bank_v if known.motor_a else None
        return Drive(**alike, name="Trolling motor", rating=Rating.THRUST, static_thrust_n=known.thrust_n,
                     full_thrust_current_a=known.motor_a, full_thrust_v=volts)  # fmt: skip
    usual = typical.rated_power_w * whole_kg / typical.displacement_kg / known.motors
    return Drive(**alike, rated_power_w=known.motor_w or max(round(usual / 50) * 50, 50))


def _bank(known: Known, drive_w: float) -> tuple[Bank, ...]:
    if known.bank is Bought.NONE or known.outing is OutFor.RACE:
        return ()
    own = known.bank is Bought.OWN
    volts = (own and known.bank_v) or (SMALL_BANK_V if drive_w < SMALL_DRIVE_W else BIG_BANK_V)
    hours = (own and known.bank_ah) or round(BANK_HOURS * drive_w / volts / 10) * 10 or 50
    chemistry = known.chemistry if own else Chemistry.LFP
    return (Bank(id="bank", chemistry=chemistry, unit_v=volts, unit_ah=hours),)


def usual_place(known: Known) -> PlaceKind:
    """Where boats of a type carry panels first."""
    return known.panel_place or (PlaceKind.CANOPY if known.hull_type in HIGH_TYPES else PlaceKind.DECK)


def _breadth_m(known: Known, hull: Hull) -> float:
    """Beam over all hulls [m]."""
    return known.beam_m or hull.beam_m * TWO_HULL_SPREAD.get(known.hull_type, 1.0)


def _array(known: Known, hull: Hull, small: bool) -> dict[str, Any]:
    """Panels on a place that holds them, with a controller; nothing where there are none."""
    if known.panels is Bought.NONE:
        return {}
    kind, breadth = usual_place(known), _breadth_m(known, hull)
    own = known.panels is Bought.OWN
    watts = (own and known.panel_w) or (SMALL_PANEL_W if small else PANEL_W)
    room = DECK_SHARE * hull.waterline_length_m * breadth / (PANEL_M2 * watts / PANEL_W)
    count = (own and known.panel_count) or max(int(room), 1)
    group = PanelGroup(id="panels", place_id="place", controller_id="box", nameplate_w=watts, count=count)
    columns = min(max(int((breadth + GAP_M) / (group.width + GAP_M)), 1), count)
    rows = ceil(count / columns)
    low = LOW_DECK_M if breadth < LOW_BOAT_M else DECK_HEIGHT_M
    at = Point(x_m=0, y_m=round(STERN_KINDS.get(kind, 0.0) * hull.waterline_length_m, 2),
               z_m=HEIGHTS_M.get(kind, low))  # fmt: skip
    place = Place(
        id="place", name=kind.label, kind=kind, at=at, stands=ASHORE if kind is PlaceKind.SHORE else Stands(),
        width_m=round(columns * (group.width + GAP_M) + GAP_M, 2),
        length_m=round(rows * (group.length + GAP_M) + GAP_M, 2),
    )  # fmt: skip
    return {"places": (place,), "panels": (group,), "controllers": (Controller(id="box"),)}


def _loading(known: Known, whole_kg: float, equipment_kg: float) -> Loading:
    """What a boat of that weight all aboard is made of, beside its bank and panels."""
    crew = PERSON_KG * (known.people or (1 if whole_kg < ONE_ABOARD_KG else 2))
    gear = GEAR_SHARE * whole_kg
    boat = max(whole_kg - equipment_kg - crew - gear, LEAST_BOAT_SHARE * whole_kg, LEAST_BOAT_KG)
    return Loading(boat_kg=round(boat), crew_kg=crew, gear_kg=round(gear))


def _bought(known: Known) -> Wish:
    """Nothing wished yet; only what she said she has counts as bought."""
    return Wish(
        keeps_panels=known.panels is Bought.OWN, keeps_bank=known.bank is Bought.OWN,
        keeps_motor=bool(known.motor_w or known.thrust_n),
    )  # fmt: skip


def new_boat(known: Known) -> BoatDesign:
    """A boat of which so much is known; she floats, is wired, and lies where panels are seen on her deck.

    Parameters
    ----------
    known : Known

    Returns
    -------
    BoatDesign
        What was said stands in it as said; the rest is usual.

    Raises
    ------
    InvalidDesign
        Where what was said makes no boat; the field is that of `known`.
    """
    typical = TYPICAL[known.hull_type]
    with _beside(known, "beam_m", "waterline_m", "overall_m", "hull_type"):
        hull = _hull(known)
    usual_kg = typical.displacement_kg * (hull.waterline_length_m / typical.length_m) ** WEIGHT_POWER
    whole = known.weighs_kg or usual_kg
    with _beside(known, "motor_w", "thrust_n", "motors"):
        drive = _drive(known, whole)
    drive_w = known.motors * (drive.rated_power_w or (known.thrust_n or 0) * WATTS_PER_NEWTON)
    small = drive_w < SMALL_DRIVE_W
    with _beside(known, "bank_ah", "bank_v", "motor_w", "thrust_n"):
        banks = _bank(known, drive_w)
    with _beside(known, "panel_w", "panel_count", "overall_m", "waterline_m", "panels"):
        array = _array(known, hull, small)
    aboard = sum(bank.mass for bank in banks) + sum(group.mass for group in array.get("panels", ()))
    loads = (Load(id="lights", name="Lights and radio", power_w=15, hours_per_day=6),)
    speed = EASY_FROUDE_SHARE * hull_speed_mps(hull.waterline_length_m)
    use = _use(known)
    with _beside(known, "date"):
        plan = Plan(date=known.date, speed_mps=round(speed, 2), spells=HOURS.get(use) if banks else None)
    with _beside(known, "weighs_kg", "people"):
        loading = _loading(known, whole, aboard)
    parts = {"hull": hull, "drives": (drive,), "banks": banks, "loading": loading, "plan": plan, **array}
    with _beside(
        known, "weighs_kg", "bank_ah", "panel_count", "beam_m", "overall_m", "waterline_m", "hull_type"
    ):
        design = BoatDesign(
            name=known.name,
            use=use,
            site=_site(known),
            loads=() if small or not banks else loads,
            wish=_bought(known),
            **parts,
        )
    limits = design.wiring.model_copy(update={"coldest_c": coldest_morning_c(known.site.latitude_deg)})
    return lasting(boxes_by_itself(design.changed(wiring=limits)))


def _site(known: Known) -> Site:
    """The place with its water: as said, as the place has it, or salt where the sea is near."""
    site = known.site
    if known.water is not None:
        return site.model_copy(update={"water": known.water})
    if "water" in site.model_fields_set:
        return site
    salt = sea_is_near(site.latitude_deg, site.longitude_deg)
    return site.model_copy(update={"water": Water.SALT if salt else Water.FRESH})


def lasting(design: BoatDesign) -> BoatDesign:
    """The design at a speed that bank and sun keep up through its hours, where the easy one does not last."""
    outlook = outlook_of(design)
    watts = bank_power_w(outlook) if outlook.hours else None
    if watts is None:
        return design
    lasts = float(outlook.curve.speed_at(watts))
    if lasts >= design.plan.speed_mps:
        return design
    speed = max(floor(SPARED * lasts * 10) / 10, SLOWEST_MPS)
    return design.changed(plan=design.plan.model_copy(update={"speed_mps": speed}))
