"""What the bank holds at dusk, how long it takes to refill, and how far a charge goes."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from parhelion.balance.dock import LONGEST_RANGE_H, LONGEST_WAIT_DAYS, days_to_full, hours_to_reserve
from parhelion.balance.flow import SOC, run_days
from parhelion.balance.outlook import Outlook, remembered
from parhelion.bank.store import reserve_of
from parhelion.quantities import Fact, Sentence, energy, fraction, power, sentence, speed, words
from parhelion.rail.models import DockDay, Dusk, Range, Refill, SunShare
from parhelion.rail.reasons import (
    BANK_SOURCE,
    DRIVE_HELD,
    FULL_AT_DUSK,
    HOUSE_TAKES_ALL,
    HULL_SOURCE,
    NO_BANK,
    NO_CHARGE,
    NO_PANELS,
    NO_SUN_TODAY,
    STARTS_EMPTY,
    SUN_SOURCE,
    assumes_hours,
    demand_method,
    hull_facts,
    sun_facts,
    why,
)
from parhelion.sun.timeline import HOUR_S


def bank_facts(outlook: Outlook) -> list[Fact]:
    """What the bank's part was computed from."""
    bank = outlook.design.bank
    if bank is None:
        return []
    return [
        Fact(label="Bank", value=energy(bank.nominal_wh)),
        Fact(label="Usable depth", value=fraction(bank.depth)),
        Fact(label="Reserve", value=fraction(reserve_of(bank))),
    ]


@remembered
def bank_at_dusk(outlook: Outlook) -> Dusk:
    """State of charge at sunset under the plan as set, with the 10-90 % band over such days."""
    plan = outlook.design.plan
    assumes = assumes_hours(
        outlook, ", {speed}, from {start}",
        speed=speed(outlook.plan_speed_mps), start=fraction(plan.start_charge_frac),
    )  # fmt: skip
    reasoning = why(
        "Energy balance of the plan as set, stepped through the day",
        f"{SUN_SOURCE} {BANK_SOURCE}",
        [
            Fact(label="Motor at the planned speed", value=power(outlook.plan_power_w)),
            *bank_facts(outlook),
            *sun_facts(outlook),
        ],
        None,
        "day",
    )
    if outlook.store is None:
        return Dusk(soc_frac=None, reason=NO_BANK, assumes=assumes, why=reasoning)
    at = outlook.day.dusk_index
    lanes = outlook.soc_at(outlook.plan_record, at, plan.start_charge_frac)
    low, high = np.percentile(lanes, [10, 90])
    own = (
        outlook.soc_at(outlook.plan_record, at, plan.start_charge_frac, own=True)
        if outlook.two_banks
        else None
    )
    band = sentence(
        "{low} to {high} on 8 of 10 such days", low=fraction(float(low)), high=fraction(float(high))
    )
    return Dusk(
        soc_frac=float(lanes[outlook.light.shown]),
        low_frac=float(low),
        high_frac=float(high),
        house_soc_frac=float(own[outlook.light.shown]) if own is not None else None,
        at=outlook.day.at_index(at),
        assumes=assumes,
        why=reasoning.model_copy(update={"band": band}),
    )


def refill(outlook: Outlook, dusk: Dusk) -> Refill:
    """Clock days at the dock from this plan's dusk to full; second, from the reserve."""
    sky = words(outlook.design.plan.sky_words)
    assumes = sentence("as she stands at the dock, {sky} skies, motor off, house as set", sky=sky)
    reasoning = why(
        "Energy balance at the dock over generated days, to the charge that counts as full",
        f"{SUN_SOURCE} {BANK_SOURCE}",
        [*bank_facts(outlook), *sun_facts(outlook)],
        None,
        "day",
    )

    def missing(reason: Sentence) -> Refill:
        return Refill(days=None, reason=reason, assumes=assumes, why=reasoning)

    if outlook.store is None or dusk.soc_frac is None:
        return missing(NO_BANK)
    if not outlook.design.panels:
        return missing(NO_PANELS)
    assert outlook.aboard is not None
    aboard = outlook.aboard
    sun = np.ascontiguousarray(outlook.dock_by_bank_w)
    if dusk.soc_frac < outlook.store.full and sun.sum(axis=-1).mean() <= outlook.house_w.mean():
        cause = HOUSE_TAKES_ALL if sun.any() else NO_SUN_TODAY
        return missing(sentence("Never: {why}", why=words(cause.text)))
    at = int(outlook.day.dusk_index) % outlook.day.steps

    def waits(soc: float, own: float) -> NDArray[np.float64]:
        return days_to_full(sun, outlook.house_rows_w, soc, own, at, outlook.timeline.step_h, aboard)

    def percentile(values: NDArray[np.float64], share: float) -> float | None:
        value = float(np.percentile(values, share, method="higher"))
        return value if np.isfinite(value) else None

    own = dusk.house_soc_frac or 0.0
    from_dusk = waits(dusk.soc_frac, own)
    from_reserve = waits(aboard.main.reserve, aboard.house.reserve)
    median = percentile(from_dusk, 50)
    ninth = percentile(from_dusk, 90)
    late = sentence("Not within {n} days.", n=words(str(LONGEST_WAIT_DAYS)))
    if outlook.takes_no_charge:
        late = NO_CHARGE
    return Refill(
        days=median,
        nine_in_ten_days=ninth,
        from_reserve_days=percentile(from_reserve, 50),
        reason=late if median is None else FULL_AT_DUSK if median == 0 else None,
        assumes=assumes,
        why=reasoning,
    )


def hours_at(outlook: Outlook, power_w: float, by_bank_w: NDArray[np.float64], start_soc: float) -> float:
    """Hours of motoring without a pause at constant watts to the reserve [h]; inf where the sun keeps up."""
    assert outlook.aboard is not None
    hours, _ = hours_to_reserve(
        by_bank_w, outlook.house_rows_w, outlook.motor_rows, power_w, start_soc,
        outlook.first_motoring_step, outlook.timeline.step_h, outlook.aboard,
    )  # fmt: skip
    return float(hours)


def _hours(outlook: Outlook, by_bank_w: NDArray[np.float64]) -> float:
    return hours_at(outlook, outlook.plan_power_w, by_bank_w, outlook.design.plan.start_charge_frac)


def range_at_speed(outlook: Outlook) -> Range:
    """Motoring without a pause at the planned speed, from the first motoring hour, the shown day repeated."""
    plan = outlook.design.plan
    value = outlook.plan_speed_mps
    assumes = sentence(
        "without a pause at {speed}, from {start} to the reserve, {sky} sky",
        speed=speed(value), start=fraction(plan.start_charge_frac), sky=words(plan.sky_words),
    )  # fmt: skip
    reasoning = why(
        f"Energy balance at constant watts until the reserve; {demand_method(outlook.design)}",
        f"{SUN_SOURCE} {BANK_SOURCE} {HULL_SOURCE}",
        [
            Fact(label="Motor", value=power(outlook.plan_power_w)),
            *bank_facts(outlook),
            *sun_facts(outlook),
            *hull_facts(outlook),
        ],
        None,
        "answers",
    )
    if outlook.store is None:
        return Range(distance_m=None, speed_mps=value, reason=NO_BANK, assumes=assumes, why=reasoning)
    hours = _hours(outlook, outlook.shown_by_bank_w)
    if not np.isfinite(hours):
        reason = sentence("The sun keeps up: no end after {h} hours.", h=words(f"{LONGEST_RANGE_H:.0f}"))
        return Range(
            distance_m=None, speed_mps=value, keeps_up=True, reason=reason, assumes=assumes, why=reasoning
        )
    none = DRIVE_HELD if value <= 0 else STARTS_EMPTY if hours <= 0 else None
    return Range(
        distance_m=hours * HOUR_S * value, hours=hours, speed_mps=value, reason=none, assumes=assumes,
        why=reasoning,
    )  # fmt: skip


def sun_share(outlook: Outlook, reach: Range) -> SunShare:
    """How much of today's range the sun adds, against the same boat with its panels covered."""
    missing: Sentence | None = None
    if outlook.store is None:
        missing = NO_BANK
    elif not outlook.design.panels:
        missing = NO_PANELS
    elif reach.hours is None:
        missing = reach.reason
    if missing or reach.hours is None or reach.distance_m is None:
        return SunShare(share_frac=None, reason=missing, assumes=reach.assumes, why=reach.why)
    dark = _hours(outlook, np.zeros((outlook.day.steps, 2)))
    won = max(reach.hours - dark, 0.0)
    return SunShare(
        reason=None if outlook.shown_sun_w.any() else NO_SUN_TODAY,
        share_frac=won / reach.hours if reach.hours else 0.0,
        minutes_won=won * 60,
        distance_won_m=won * 3600 * reach.speed_mps,
        assumes=reach.assumes,
        why=reach.why.model_copy(
            update={"method": "Range with the sun less the range with the panels covered"}
        ),
    )


def dock_day(outlook: Outlook) -> DockDay | None:
    """The shown day at the dock from the reserve, and how far its charge goes.

    None where panels give under way, or not even there.
    """
    if outlook.aboard is None or not outlook.gives_at_dock_alone:
        return None
    shown, aboard = outlook.light.shown, outlook.aboard
    sun = np.ascontiguousarray(outlook.dock_by_bank_w[shown : shown + 1])
    begins = np.array([aboard.main.reserve])
    record = run_days(
        sun, outlook.house_rows_w, np.zeros(outlook.day.steps), begins, np.array([aboard.house.reserve]),
        outlook.timeline.step_h, aboard,
    )  # fmt: skip
    ends = float(record[0, -1, SOC])
    hours = hours_at(outlook, outlook.plan_power_w, np.zeros_like(sun[0]), ends)
    value = outlook.plan_speed_mps
    return DockDay(
        harvest_wh=outlook.wh(sun[0].sum(axis=-1)),
        soc_frac=ends,
        distance_m=hours * HOUR_S * value,
        assumes=sentence(
            "a {sky} day at the dock from the reserve, then without a pause at {speed}",
            sky=words(outlook.design.plan.sky_words), speed=speed(value),
        ),
        why=why(
            "Energy balance of a day at the dock, then at constant watts until the reserve",
            f"{SUN_SOURCE} {BANK_SOURCE} {HULL_SOURCE}",
            [
                Fact(label="Motor", value=power(outlook.plan_power_w)),
                *bank_facts(outlook), *sun_facts(outlook),
            ],
            None,
            "answers",
        ),
    )  # fmt: skip
