"""What a day at rest brings: when the bank is full, what it took, and how long a steady charge would take."""

from __future__ import annotations

import numpy as np

from parhelion.balance.dock import days_to_full
from parhelion.balance.flow import CHARGED, REFUSED, SOC
from parhelion.balance.outlook import Outlook
from parhelion.bank.joint import Aboard
from parhelion.finding import Finding
from parhelion.quantities import (
    Fact,
    Why,
    amps,
    capacity,
    clock,
    energy,
    fraction,
    hours,
    sentence,
)
from parhelion.rail.reasons import BANK_SOURCE, SUN_SOURCE

HOUR_MIN = 60
TAKES_FROM_WH = 1.0


def _steady_h(outlook: Outlook, watts: float, aboard: Aboard) -> float:
    """Hours from the start charge to full at constant watts, the house off; inf where never [h]."""
    steps = outlook.day.steps
    sun = np.zeros((1, steps, 2))
    sun[:, :, 0] = watts
    start = outlook.design.plan.start_charge_frac
    alone = aboard._replace(joint=aboard.joint._replace(present=0.0))
    waits = days_to_full(sun, np.zeros((4, steps)), start, start, 0, outlook.timeline.step_h, alone)
    return float(waits[0]) * 24


def charging_day(outlook: Outlook, record: np.ndarray) -> Finding | None:
    """A day without motoring: the hour the bank is full, what went in, and the same at a steady current."""
    aboard, store = outlook.aboard, outlook.store
    if aboard is None or store is None or outlook.hours or not outlook.design.panels:
        return None
    into_w = record[:, CHARGED]
    taken = outlook.wh(into_w)
    if taken < TAKES_FROM_WH:
        return None
    ah = taken / store.nominal_v
    full = np.flatnonzero(record[:, SOC] >= store.full)
    most_a = float(into_w.max()) / store.nominal_v
    slots = {"e": energy(taken), "ah": capacity(ah), "a": amps(most_a)}
    steady = _steady_h(outlook, float((into_w + record[:, REFUSED]).max()), aboard)
    more = ""
    if np.isfinite(steady) and steady > 0:
        more = " At a steady {s} from the same start it would be full in {h}."
        slots |= {"s": amps(float((into_w + record[:, REFUSED]).max()) / store.nominal_v), "h": hours(steady)}
    if full.size:
        moment = outlook.day.at_index(float(full[0]) + 1)
        title = sentence("Full by {at}", at=clock(moment.hour * HOUR_MIN + moment.minute))
    else:
        title = sentence("Not full in a day: {soc} by its end", soc=fraction(float(record[-1, SOC])))
    return Finding(
        id="charging_day",
        level="good" if full.size else "note",
        title=title,
        detail=sentence("{e} or {ah} went into the bank, {a} at the most." + more, **slots),
        why=Why(
            method="Energy balance of a day at rest; the steady charge by the same bank, the house off",
            source=f"{SUN_SOURCE} {BANK_SOURCE}",
            inputs=[Fact(label="Bank at the start", value=fraction(outlook.design.plan.start_charge_frac))],
            doc="day",
        ),
    )
