"""A believable new boat of each hull type, to start from."""

from __future__ import annotations

from datetime import date as Date

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
    Plan,
    Site,
    Use,
)
from parhelion.design.hull import hull_speed_mps
from parhelion.design.hulltypes import TYPICAL, HullType
from parhelion.quantities import Frozen

EASY_FROUDE_SHARE = 0.6  # of hull speed: a pace that most boats make on modest watts
BANK_HOURS = 2.0  # of the drive's rating that a new boat's bank holds
BIG_BANK_V, SMALL_BANK_V = 25.6, 12.8
SMALL_DRIVE_W = 700.0
PANEL_W, SMALL_PANEL_W = 200.0, 100.0
PANEL_M2 = 1.1  # of a 200 W panel
PERSON_KG = 75.0
ONE_ABOARD_KG = 200.0  # lighter boats carry one
GEAR_SHARE = 0.04
LEAST_BOAT_SHARE = 0.15
DECK_SHARE = 0.25  # of length times beam that a new boat's panels cover

AUXILIARY_TYPES = {HullType.FIN_KEEL_YACHT, HullType.LONG_KEEL_YACHT}
HOME_CHARGED_TYPES = {HullType.INFLATABLE, HullType.SIT_ON_TOP, HullType.PADDLEBOARD, HullType.KAYAK}


def _loading(whole_kg: float, equipment_kg: float) -> Loading:
    """What a usual boat of that weight all aboard is made of, beside its bank and panels."""
    crew = PERSON_KG * (1 if whole_kg < ONE_ABOARD_KG else 2)
    gear = GEAR_SHARE * whole_kg
    boat = max(whole_kg - equipment_kg - crew - gear, LEAST_BOAT_SHARE * whole_kg)
    return Loading(boat_kg=round(boat), crew_kg=crew, gear_kg=round(gear))


def new_boat(hull_type: HullType, name: str, site: Site, day: Date) -> BoatDesign:
    """A new boat with what is usual for its type, on a day at a place.

    Parameters
    ----------
    hull_type : HullType
    name : str
    site : Site
    day : datetime.date
    """
    typical = TYPICAL[hull_type]
    small = typical.rated_power_w < SMALL_DRIVE_W
    volts = SMALL_BANK_V if small else BIG_BANK_V
    amp_hours = round(BANK_HOURS * typical.rated_power_w / volts / 10) * 10 or 50
    breadth = typical.beam_m * typical.hulls
    watts = SMALL_PANEL_W if small else PANEL_W
    room = DECK_SHARE * typical.length_m * breadth / (PANEL_M2 * watts / PANEL_W)
    use = Use.CRUISER
    if hull_type in AUXILIARY_TYPES:
        use = Use.AUXILIARY
    elif hull_type in HOME_CHARGED_TYPES:
        use = Use.HOME_CHARGED
    loads = () if small else (Load(id="lights", name="Lights and radio", power_w=15, hours_per_day=6),)
    bank = Bank(id="bank", chemistry=Chemistry.LFP, unit_v=volts, unit_ah=amp_hours)
    panels = PanelGroup(
        id="panels", place_id="deck", controller_id="controller", nameplate_w=watts, count=max(int(room), 1)
    )
    return BoatDesign(
        name=name,
        use=use,
        hull=Hull(
            type=hull_type,
            waterline_length_m=typical.length_m,
            beam_m=typical.beam_m,
        ),
        loading=_loading(typical.displacement_kg, bank.mass + panels.mass),
        drives=(Drive(id="drive", rated_power_w=typical.rated_power_w),),
        banks=(bank,),
        loads=loads,
        places=(Place(id="deck", name="Deck"),),
        panels=(panels,),
        controllers=(Controller(id="controller"),),
        site=site,
        plan=Plan(date=day, speed_mps=round(EASY_FROUDE_SHARE * hull_speed_mps(typical.length_m), 2)),
    )


class LoadPreset(Frozen):
    """A usual house load, to start from."""

    name: str
    power_w: float
    hours_per_day: float
    essential: bool = False
    inverter_efficiency: float | None = None


INVERTER = 0.88
LOAD_PRESETS: tuple[LoadPreset, ...] = (  # docs/methods/house.md
    LoadPreset(name="Navigation lights", power_w=8, hours_per_day=4, essential=True),
    LoadPreset(name="Anchor light", power_w=3, hours_per_day=9, essential=True),
    LoadPreset(name="Radio, listening", power_w=6, hours_per_day=8, essential=True),
    LoadPreset(name="Instruments and plotter", power_w=14, hours_per_day=8, essential=True),
    LoadPreset(name="Autopilot", power_w=30, hours_per_day=6, essential=True),
    LoadPreset(name="Bilge pump", power_w=45, hours_per_day=0.1, essential=True),
    LoadPreset(name="Cabin lights", power_w=12, hours_per_day=4),
    LoadPreset(name="Fridge, small", power_w=45, hours_per_day=9),
    LoadPreset(name="Fridge, large, or a freezer", power_w=70, hours_per_day=11),
    LoadPreset(name="Water pump", power_w=60, hours_per_day=0.3),
    LoadPreset(name="Phones and tablets", power_w=15, hours_per_day=4),
    LoadPreset(name="Laptop", power_w=45, hours_per_day=3),
    LoadPreset(name="Fan", power_w=12, hours_per_day=8),
    LoadPreset(name="Heater fan and pump", power_w=35, hours_per_day=6),
    LoadPreset(name="Kettle, low-watt", power_w=600, hours_per_day=0.3, inverter_efficiency=INVERTER),
    LoadPreset(name="Induction plate", power_w=1400, hours_per_day=0.7, inverter_efficiency=INVERTER),
    LoadPreset(name="Microwave", power_w=1100, hours_per_day=0.2, inverter_efficiency=INVERTER),
    LoadPreset(name="Water maker", power_w=350, hours_per_day=1),
)
