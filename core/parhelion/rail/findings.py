"""Findings that more than one station tells."""

from __future__ import annotations

import numpy as np

from parhelion.balance.outlook import Outlook
from parhelion.balance.warmth import bank_temperature_c
from parhelion.bank.store import (
    FREEZING_C,
    FULL_CHARGE_FROM_C,
    FULL_CHARGE_TO_C,
    NO_CHARGE_FROM_C,
    taken_share,
)
from parhelion.design.chemistries import CHEMICALS
from parhelion.finding import Finding
from parhelion.quantities import Fact, Why, fraction, power, sentence, speed, temperature
from parhelion.rail.reasons import hull_why


def beyond_drive(outlook: Outlook) -> Finding | None:
    """The planned speed asks more than the drive takes."""
    asked_mps = outlook.design.plan.speed_mps
    asked_w = float(outlook.curve.power_at(asked_mps))
    if np.isfinite(asked_w) and asked_w <= outlook.rated_w:
        return None
    top = outlook.plan_speed_mps
    need = (
        sentence("It would take {w}; the drive takes {rated} at most. The day is computed at {top}.",
                 w=power(asked_w), rated=power(outlook.rated_w), top=speed(top))
        if np.isfinite(asked_w)
        else sentence("Past {end} this hull's model says nothing. The day is computed at {top}.",
                      end=speed(outlook.curve.top_speed_mps), top=speed(top))
    )  # fmt: skip
    return Finding(
        id="beyond_drive",
        level="warn",
        title=sentence("{v} is beyond this drive", v=speed(asked_mps)),
        detail=need,
        why=hull_why(outlook, "Demand curve against the drive's rating"),
        field="/plan/speed_mps",
    )


def lithium_temperature(outlook: Outlook) -> Finding | None:
    """Lithium takes little or no charge in the cold, and none in the heat."""
    bank = outlook.design.bank
    if bank is None or not CHEMICALS[bank.chemistry].lithium:
        return None
    celsius = bank_temperature_c(outlook.design, bank)
    share = taken_share(celsius)
    if share >= 1:
        return None
    cold = celsius < FULL_CHARGE_FROM_C
    full, none = (FULL_CHARGE_FROM_C, FREEZING_C) if cold else (FULL_CHARGE_TO_C, NO_CHARGE_FROM_C)
    return Finding(
        id="cold_lithium" if cold else "hot_lithium",
        level="warn",
        title=sentence(
            f"A {'cold' if cold else 'hot'} lithium bank "
            + ("charges slowly" if share else "takes no charge" if cold else "is not to be charged")
        ),
        detail=sentence(
            "At {t} it takes {x} of its usual charge current. "
            + (
                "Charging it frozen ruins cells: its management system must stop it. Warm it first."
                if cold
                else "Charging it hot ages it fast and can harm it: shade it, air it, or wait for evening."
            ),
            t=temperature(celsius), x=fraction(share),
        ),
        why=Why(
            method=f"Charge acceptance falls in a line from {full:g} C to nothing at {none:g} C",
            source="Makers' charging limits come first.",
            inputs=[Fact(label="Bank", value=temperature(celsius))],
            doc="bank",
        ),
        field="/banks/0/temperature_c",
        caution=share == 0,
    )  # fmt: skip
