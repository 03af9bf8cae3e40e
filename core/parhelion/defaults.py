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
    PanelGroup,
    Place,
    Plan,
    Site,
    Use,
)
from parhelion.hull.resistance import hull_speed_mps
from parhelion.hulltypes import TYPICAL, HullType

EASY_FROUDE_SHARE = 0.6  # of hull speed: a pace that most boats make on modest watts
BANK_HOURS = 2.0  # of the drive's rating that a new boat's bank holds
BIG_BANK_V, SMALL_BANK_V = 25.6, 12.8
SMALL_DRIVE_W = 700.0
PANEL_W, SMALL_PANEL_W = 200.0, 100.0
PANEL_M2 = 1.1  # of a 200 W panel
DECK_SHARE = 0.25  # of length times beam that a new boat's panels cover

AUXILIARY_TYPES = {HullType.FIN_KEEL_YACHT, HullType.LONG_KEEL_YACHT}
HOME_CHARGED_TYPES = {HullType.INFLATABLE, HullType.SIT_ON_TOP, HullType.PADDLEBOARD, HullType.KAYAK}


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
    return BoatDesign(
        name=name,
        use=use,
        hull=Hull(
            type=hull_type,
            waterline_length_m=typical.length_m,
            beam_m=typical.beam_m,
            displacement_kg=typical.displacement_kg,
        ),
        drives=(Drive(id="drive", rated_power_w=typical.rated_power_w),),
        banks=(Bank(id="bank", chemistry=Chemistry.LFP, unit_v=volts, unit_ah=amp_hours),),
        loads=loads,
        places=(Place(id="deck", name="Deck"),),
        panels=(
            PanelGroup(
                id="panels",
                place_id="deck",
                controller_id="controller",
                nameplate_w=watts,
                count=max(int(room), 1),
            ),
        ),
        controllers=(Controller(id="controller"),),
        site=site,
        plan=Plan(date=day, speed_mps=round(EASY_FROUDE_SHARE * hull_speed_mps(typical.length_m), 2)),
    )
