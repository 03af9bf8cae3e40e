"""What the plan's empty entries mean."""

from __future__ import annotations

from parhelion.balance.outlook import Outlook
from parhelion.stations.usual import UsualOf, by_pointer
from parhelion.sun.climate import usual_air_temperature_c, usual_water_temperature_c


def day_usual(outlook: Outlook) -> UsualOf:
    """By entry."""
    plan, site = outlook.design.plan, outlook.design.site
    air = usual_air_temperature_c(site.latitude_deg, plan.date)
    water = usual_water_temperature_c(site.latitude_deg, plan.date, site.water)
    found = by_pointer("/plan", {"air_temperature_c": air, "water_temperature_c": water})
    for index in range(len(plan.spells or ())):
        found |= by_pointer(f"/plan/spells/{index}", {"speed_mps": plan.speed_mps})
    for index in range(len(plan.trip.days)):
        found |= by_pointer(f"/plan/trip/days/{index}", {"speed_mps": plan.speed_mps})
    return found
