"""Findings about what the boat stores: one rule a function, each None where it has nothing to say."""

from __future__ import annotations

from parhelion.balance.flow import HOUSE
from parhelion.balance.outlook import Outlook
from parhelion.bank.age import health_of, years_of
from parhelion.bank.store import (
    charge_limit_a,
    discharge_limit_a,
    energy_wh,
    reserve_of,
)
from parhelion.bank.tape import blind_span, rest_volts
from parhelion.bank.trim import stern_sinks_m
from parhelion.design.chemistries import CHEMICALS
from parhelion.finding import Finding, ordered
from parhelion.quantities import (
    Fact,
    Why,
    amps,
    energy,
    fraction,
    length,
    mass,
    power,
    sentence,
    volts,
    words,
    years,
)
from parhelion.rail.findings import lithium_temperature
from parhelion.rail.reasons import BANK_SOURCE
from parhelion.stations.bank.bought_findings import claims_disagree, mixed_units, odd_cells
from parhelion.stations.bank.cautions import bank_cautions
from parhelion.stations.bank.view import BankView, bank_view, bank_why

LASTING_SHARE = 1.0  # of the discharge limit
DEEP_SHARE = 0.6  # of the typical life that is left by a too-deep habit, before it is said
TRIM_WORTH_M = 0.03
CYCLES_PER_YEAR = 120.0  # a boat used a good season: every third day
OLD_HEALTH = 0.8


def no_bank(view: BankView) -> Finding | None:
    """A boat without a bank is a boat."""
    if view.outlook.design.bank is not None:
        return None
    return Finding(
        id="no_bank",
        level="note",
        title=sentence("No bank: the panels drive the motor"),
        detail=sentence("A cloud stops the boat, and nothing is kept for the way home. A bank keeps some."),
        why=Why(method="Live sun only", source=BANK_SOURCE, doc="day"),
    )


def usable_is_less(view: BankView) -> Finding | None:
    """What the label says and what can be had of it."""
    bank, aboard = view.outlook.design.bank, view.outlook.aboard
    if bank is None or aboard is None:
        return None
    store = aboard.main
    whole = energy_wh(1.0, store)
    usable = whole - energy_wh(store.cut_out, store)
    working = whole - energy_wh(store.reserve, store)
    lead = not CHEMICALS[bank.chemistry].lithium
    title = (
        sentence("Usable: {x} of its label", x=fraction(usable / bank.nominal_wh))
        if not lead
        else sentence("A lead bank's usable energy is {x} of its label", x=fraction(usable / bank.nominal_wh))
    )
    return Finding(
        id="usable_is_less",
        level="note",
        title=title,
        detail=sentence(
            "{whole} on the label, {usable} down to the usable end, {working} above the reserve of {r}.",
            whole=energy(bank.nominal_wh), usable=energy(usable), working=energy(working),
            r=fraction(store.reserve),
        ),
        why=bank_why(view, "Energy between two states of charge: the integral of the volts"),
        field="/banks/0/usable_depth_frac",
    )  # fmt: skip


def feeds_the_motor(view: BankView) -> Finding | None:
    """Can the bank feed the motor?"""
    bank, outlook = view.outlook.design.bank, view.outlook
    if bank is None:
        return None
    limit, given = discharge_limit_a(bank), bank.discharge_limit_a is not None
    full = outlook.label_w / bank.nominal_v
    planned = outlook.plan_power_w / bank.nominal_v
    facts = (
        Fact(label="Motor at full power", value=amps(full)),
        Fact(label="Motor at the planned speed", value=amps(planned)),
        Fact(label="Limit, " + ("as given" if given else "usual for its kind"), value=amps(limit)),
    )
    if full <= LASTING_SHARE * limit:
        return Finding(
            id="feeds_the_motor",
            level="good",
            title=sentence(
                "It can feed the motor: {c}C at full power", c=words(f"{full / bank.capacity_ah:.2g}")
            ),
            detail=sentence(
                "{a} at full power, {p} at the planned speed; {limit} lasting is {how} for this bank.",
                a=amps(full), p=amps(planned), limit=amps(limit),
                how=words("the maker's limit" if given else "usual"),
            ),
            why=bank_why(view, "Motor watts over the bank's volts, against its discharge limit", *facts),
        )  # fmt: skip
    return Finding(
        id="feeds_the_motor",
        level="warn",
        title=sentence("{f}C asked of a {c}C bank", f=words(f"{full / bank.capacity_ah:.2g}"),
                       c=words(f"{limit / bank.capacity_ah:.2g}")),
        detail=sentence(
            "Full power takes {a}; {limit} lasting is {how}. A larger bank, or hold the motor to {w}.",
            a=amps(full), limit=amps(limit), how=words("the maker's limit" if given else "usual for such"),
            w=power(limit * bank.nominal_v),
        ),
        why=bank_why(view, "Motor watts over the bank's volts, against its discharge limit", *facts),
        field="/banks/0/discharge_limit_a",
    )  # fmt: skip


def takes_the_panels(view: BankView) -> Finding | None:
    """Can the bank take the panels' best hour?"""
    bank = view.outlook.design.bank
    if bank is None or view.best_hour_w <= 0:
        return None
    asked = view.best_hour_w / bank.nominal_v
    limit = charge_limit_a(bank)
    method = "The clear day's best hour at the bank's terminals over its volts, against its charge limit"
    facts = (
        Fact(label="Panels' best hour", value=power(view.best_hour_w)),
        Fact(label="Charge limit", value=amps(limit)),
    )
    if asked <= limit:
        return Finding(
            id="takes_the_panels",
            level="good",
            title=sentence("It takes the panels' best hour"),
            detail=sentence(
                "{a} of the {limit} it may be charged with, until the last {x} of the charge.",
                a=amps(asked), limit=amps(limit), x=fraction(1 - CHEMICALS[bank.chemistry].taper[1]),
            ),
            why=bank_why(view, method, *facts),
        )  # fmt: skip
    return Finding(
        id="takes_the_panels",
        level="warn",
        title=sentence("The panels give more than it may take"),
        detail=sentence(
            "{a} in the best hour, {limit} at most: {w} is refused unless the motor runs. More bank, or use "
            "the noon sun.",
            a=amps(asked), limit=amps(limit), w=power((asked - limit) * bank.nominal_v),
        ),
        why=bank_why(view, method, *facts),
        field="/banks/0/charge_limit_a",
    )  # fmt: skip


def volts_are_blind(view: BankView) -> Finding | None:
    """Where a voltmeter cannot tell the charge."""
    bank = view.outlook.design.bank
    span = blind_span(bank) if bank is not None else None
    if bank is None or span is None:
        return None
    low, high = (float(v) for v in rest_volts(bank, span))
    return Finding(
        id="volts_are_blind",
        level="note",
        title=sentence(
            "Volts cannot tell the charge from {a} to {b}", a=fraction(span[0]), b=fraction(span[1])
        ),
        detail=sentence(
            "It rests at {low} to {high} over all of that: less than a meter's error. Count amp-hours with a "
            "shunt, and set 100 % only when it is truly full.",
            low=volts(low), high=volts(high),
        ),
        why=bank_why(view, "Rest volts by charge against an ordinary voltmeter's half percent"),
    )  # fmt: skip


def too_deep(view: BankView) -> Finding | None:
    """What a deep habit costs in years."""
    bank = view.outlook.design.bank
    typical = CHEMICALS[bank.chemistry] if bank else None
    if bank is None or typical is None or view.swing_frac < typical.cycles_depth * 0.9:
        return None
    here = years_of(bank, view.swing_frac, CYCLES_PER_YEAR)
    half = years_of(bank, view.swing_frac / 2, CYCLES_PER_YEAR)
    return Finding(
        id="too_deep",
        level="warn" if here < DEEP_SHARE * half else "note",
        title=sentence("{x} deep each time: {y}", x=fraction(view.swing_frac), y=years(here)),
        detail=sentence(
            "At half that depth it would last {more}, at {n} cycles a year.",
            more=years(half), n=words(f"{CYCLES_PER_YEAR:.0f}"),
        ),
        why=bank_why(view, "Cycle life falls with depth; the calendar wears beside it"),
    )  # fmt: skip


def worn(view: BankView) -> Finding | None:
    """What age and use have left."""
    bank = view.outlook.design.bank
    if bank is None or health_of(bank) >= OLD_HEALTH:
        return None
    return Finding(
        id="worn",
        level="warn",
        title=sentence("This bank holds {x} of what it did", x=fraction(health_of(bank))),
        detail=sentence("Below 80 % it counts as worn out. A capacity test settles it: enter what it found."),
        why=bank_why(view, "Cycles used against typical life, and the calendar"),
        field="/banks/0/health_frac",
    )


def trims_by_the_stern(view: BankView) -> Finding | None:
    """Where the bank sits."""
    design = view.outlook.design
    bank = design.bank
    if bank is None or bank.at is None:
        return None
    sinks = stern_sinks_m(design, bank.mass, bank.at.y_m)
    if abs(sinks) < TRIM_WORTH_M:
        return None
    end, other = ("stern", "forward") if sinks > 0 else ("bow", "aft")
    return Finding(
        id="trims_by_the_stern",
        level="note",
        title=sentence("The bank sinks the {end} by {d}", end=words(end), d=length(abs(sinks))),
        detail=sentence(
            "{m} sits {y} from amidships. Farther {other} the hull runs level and easier.",
            m=mass(bank.mass), y=length(abs(bank.at.y_m)), other=words(other),
        ),
        why=bank_why(view, "Moment over the longitudinal metacentric height of the waterplane", doc="bank"),
    )  # fmt: skip


def house_goes_dark(view: BankView) -> Finding | None:
    """The house is not served all day."""
    asked = view.outlook.wh(view.outlook.house_w)
    served = view.outlook.wh(view.record[:, HOUSE])
    if asked <= 0 or served > 0.995 * asked or view.outlook.aboard is None:
        return None
    two = view.outlook.two_banks
    return Finding(
        id="house_goes_dark",
        level="warn",
        title=sentence("The house goes short of {e}", e=energy(asked - served)),
        detail=sentence(
            "Its bank comes to the reserve; what is not essential is shed. A larger converter, panels on it, "
            "or fewer hours." if two else
            "The bank comes to the reserve and what is not essential is shed. Start fuller, or go slower."
        ),
        why=bank_why(view, "House loads asked and served on the shown day", doc="day"),
        field="/loads",
    )  # fmt: skip


def unjoined_banks(view: BankView) -> Finding | None:
    """Two banks and nothing between them."""
    design = view.outlook.design
    if design.bank is None or design.house_bank is None or design.links:
        return None
    fed = [c.bank_id == design.house_bank.id for c in design.controllers]
    return Finding(
        id="unjoined_banks",
        level="warn" if all(fed) or not any(fed) else "note",
        title=sentence("Nothing joins the two banks"),
        detail=sentence(
            "All the sun goes to {name}: the other bank is never charged by it. A DC-DC converter carries it "
            "over.",
            name=words(design.house_bank.name if all(fed) else design.bank.name),
        ) if all(fed) or not any(fed) else sentence(
            "Each lives on its own panels. A DC-DC converter would let one help the other."
        ),
        why=bank_why(view, "Which controller charges which bank", doc="bank"),
        field="/links",
    )  # fmt: skip


def reserve_kept(view: BankView) -> Finding | None:
    """A reserve below the usual."""
    bank = view.outlook.design.bank
    if bank is None or bank.reserve_frac is None or reserve_of(bank) >= 0.2:
        return None
    return Finding(
        id="reserve_kept",
        level="warn",
        title=sentence("Only {r} kept back", r=fraction(reserve_of(bank))),
        detail=sentence("A head wind or a foul stream eats that in minutes. 30 % is usual."),
        why=bank_why(view, "Reserve as a state of charge"),
        field="/banks/0/reserve_frac",
    )


def bank_findings(outlook: Outlook) -> list[Finding]:
    """Everything the bank tells, warnings first."""
    view = bank_view(outlook)
    return ordered(
        [
            no_bank(view),
            claims_disagree(view),
            mixed_units(view),
            odd_cells(view),
            lithium_temperature(view.outlook),
            house_goes_dark(view),
            unjoined_banks(view),
            feeds_the_motor(view),
            takes_the_panels(view),
            reserve_kept(view),
            worn(view),
            too_deep(view),
            usable_is_less(view),
            volts_are_blind(view),
            trims_by_the_stern(view),
            *bank_cautions(view.outlook.design),
        ]
    )
