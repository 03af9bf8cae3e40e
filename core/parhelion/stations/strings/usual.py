"""What the cables' empty lengths mean."""

from __future__ import annotations

from parhelion.balance.outlook import Outlook
from parhelion.stations.usual import UsualOf, by_pointer
from parhelion.wiring.circuits import USUAL_RUN_M


def strings_usual(outlook: Outlook) -> UsualOf:
    """By entry."""
    bank, motor = USUAL_RUN_M["bank"], USUAL_RUN_M["motor"]
    found = by_pointer("/wiring", {"bank_cable_m": bank, "motor_cable_m": motor})
    for index in range(len(outlook.design.places)):
        found |= by_pointer(f"/places/{index}", {"cable_m": USUAL_RUN_M["panels"]})
    for index in range(len(outlook.design.controllers)):
        found |= by_pointer(f"/controllers/{index}", {"cable_m": USUAL_RUN_M["controller"]})
    return found
