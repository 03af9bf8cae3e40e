"""What the places' and the panels' empty entries mean."""

from __future__ import annotations

from parhelion.balance.outlook import Outlook
from parhelion.design.array import Under
from parhelion.panels.rear import USUAL_GAP_M
from parhelion.stations.usual import UsualOf, by_pointer
from parhelion.wiring.by_itself import series_by_itself


def array_usual(outlook: Outlook) -> UsualOf:
    """By entry."""
    found: UsualOf = {}
    for index, place in enumerate(outlook.design.places):
        gap = USUAL_GAP_M if place.under is not Under.WATER else None
        least = 0.0 if place.hinged else None
        found |= by_pointer(f"/places/{index}", {"gap_m": gap, "tilt_least_deg": least})
    for index, group in enumerate(outlook.design.panels):
        found |= by_pointer(f"/panels/{index}", {
            "panel_width_m": group.width, "panel_length_m": group.length, "mass_kg": group.each_kg,
            "cells_across": group.grid.across, "cells_along": group.grid.along,
            "series": series_by_itself(outlook.design, group),
        })  # fmt: skip
    return found
