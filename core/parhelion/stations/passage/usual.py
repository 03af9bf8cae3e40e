"""What the passage's empty entries mean."""

from __future__ import annotations

from parhelion.balance.outlook import Outlook
from parhelion.stations.usual import UsualOf, by_pointer


def passage_usual(outlook: Outlook) -> UsualOf:
    """By entry."""
    plan = outlook.design.plan
    return by_pointer("/passage", {"speed_mps": plan.speed_mps, "start_charge_frac": plan.start_charge_frac})
