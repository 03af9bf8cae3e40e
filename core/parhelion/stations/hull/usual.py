"""What the hull's and the motors' empty entries mean."""

from __future__ import annotations

from parhelion.balance.outlook import Outlook
from parhelion.design.drive import Rating
from parhelion.design.hulltypes import APPENDED, HULL_SPACING_TO_LENGTH, TYPICAL, Model
from parhelion.drive.trolling import USUAL_V
from parhelion.hull.calm import PLANING_DEADRISE_DEG, PLANING_LCG
from parhelion.hull.resistance import frontal_area_of
from parhelion.market.parts import motor_offer
from parhelion.stations.usual import UsualOf, by_pointer


def hull_usual(outlook: Outlook) -> UsualOf:
    """By entry; those of hulls that rise and of two hulls only where the boat is one."""
    design = outlook.design
    hull = design.hull
    typical = TYPICAL[hull.type]
    rises = typical.model is Model.PLANING
    draught = design.draught_m(design.water_density_kg_per_m3)
    found = by_pointer("/hull", {
        "prismatic_coefficient": typical.prismatic,
        "midship_coefficient": typical.midship,
        "waterplane_coefficient": typical.waterplane,
        "lcb_percent": typical.lcb_percent,
        "margin": typical.margin,
        "appendage_area_m2": APPENDED[hull.type].area * hull.waterline_length_m**2,
        "air_drag_coefficient": typical.air_drag_cd,
        "frontal_area_m2": frontal_area_of(hull),
        "displacement_kg": design.parts_kg,
        "spacing_m": HULL_SPACING_TO_LENGTH * hull.waterline_length_m if typical.hulls > 1 else None,
        "transom_depth_m": typical.transom_depth * draught if rises or typical.transom_depth else None,
        "deadrise_deg": PLANING_DEADRISE_DEG if rises else None,
        "lcg_share": PLANING_LCG if rises else None,
    })  # fmt: skip
    for index, drive in enumerate(design.drives):
        worked = outlook.curve.efficiency_at(outlook.plan_speed_mps) if index == 0 else typical.efficiency
        volts = USUAL_V if drive.rating is Rating.THRUST else None
        offer = motor_offer(drive)
        found |= by_pointer(f"/drives/{index}", {
            "overall_efficiency": worked, "full_thrust_v": volts,
            "mass_kg": offer.mass_kg, "price": offer.price,
        })  # fmt: skip
    for index, run in enumerate(design.runs):
        if run.power_w is None:
            found |= by_pointer(f"/runs/{index}", {"power_w": run.battery_w})
    return found
