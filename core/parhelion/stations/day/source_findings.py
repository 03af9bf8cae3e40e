"""Findings about what else charges: shore, wind, generator, water and legs."""

from __future__ import annotations

import numpy as np

from parhelion.balance.flow import GENERATOR, SHORE
from parhelion.balance.ledger import others_w
from parhelion.balance.outlook import Outlook
from parhelion.balance.sources import mean_wind_w
from parhelion.design import Source, SourceKind
from parhelion.finding import Finding
from parhelion.quantities import Fact, Why, clock, energy, fraction, hours, power, sentence, speed, words

SOURCE = "Usual rules of small craft; makers' own rules and the standard in force where you are come first."
RUNS_W = 1.0  # less than this is off
LOUD_H = 4.0  # hours of a generator in a day, before a word


def _why(method: str, *facts: Fact) -> Why:
    return Why(method=method, source=SOURCE, inputs=list(facts), doc="sources")


def _of(outlook: Outlook, *kinds: SourceKind) -> list[Source]:
    return [source for source in outlook.design.sources if source.kind in kinds]


def _field(outlook: Outlook, source: Source, entry: str) -> str:
    return f"/sources/{outlook.design.sources.index(source)}/{entry}"


def sun_share(outlook: Outlook, record: np.ndarray) -> Finding | None:
    """What share of the day the sun had."""
    made = {kind: outlook.wh(w) for kind, w in others_w(outlook, record).items()}
    others = {kind: wh for kind, wh in made.items() if wh > 1}
    sun = outlook.wh(outlook.harvest.array_w[outlook.light.shown])
    if not others:
        return None
    whole = sun + sum(others.values())
    most = max(others, key=lambda kind: others[kind])
    return Finding(
        id="sun_share",
        level="note",
        title=sentence("The sun brings {x} of this day's charge", x=fraction(sun / whole)),
        detail=sentence(
            "The rest is mostly {name}, {e}. Speeds and runs called sun-only leave all of it out.",
            name=words(most.value), e=energy(others[most]),
        ),
        why=_why("The accounts of the shown day",
                 *(Fact(label=kind.value, value=energy(wh)) for kind, wh in others.items())),
    )  # fmt: skip


def turning_blades(outlook: Outlook, record: np.ndarray) -> Finding | None:
    """A wind generator: its dump load, its blades."""
    found = _of(outlook, SourceKind.WIND)
    if not found:
        return None
    wind = found[0]
    mean = outlook.design.plan.wind_mps
    return Finding(
        id="turning_blades",
        level="note" if wind.dump_load else "warn",
        title=sentence("Never unplug it while it turns")
        if wind.dump_load
        else sentence("{name} needs its dump load", name=words(wind.name)),
        detail=sentence(
            "In {v} of wind it sends {w} on the mean. "
            + (
                "What the bank refuses goes to the dump load; "
                if wind.dump_load
                else "With the bank full it would run away and burn, or the bank be overcharged. "
            )
            + "Stop it by its switch or brake before you touch a wire or come near the blades.",
            v=speed(mean), w=power(mean_wind_w(wind, mean)),
        ),
        why=_why("Watts with the cube of the wind, over a day's spread about its mean"),
        field=_field(outlook, wind, "dump_load"),
        caution=True,
    )  # fmt: skip


def generator_runs(outlook: Outlook, record: np.ndarray) -> Finding | None:
    """When the generator starts, how long it runs, and what it breathes."""
    found = _of(outlook, SourceKind.GENERATOR)
    if not found:
        return None
    on = record[:, GENERATOR] > RUNS_W
    ran_h = outlook.wh(on.astype(float))
    title = sentence("The generator stays off on this day")
    if on.any():
        first = outlook.day.at_index(float(np.flatnonzero(on)[0]))
        title = sentence(
            "The generator starts at {at}, runs {h}", at=clock(first.hour * 60 + first.minute), h=hours(ran_h)
        )
    return Finding(
        id="generator_runs",
        level="warn" if ran_h > LOUD_H else "note",
        title=title,
        detail=sentence(
            "It starts at {a} and stops at {b} of the bank, and gives way to the sun. Its exhaust kills: run "
            "it in the open, with a carbon monoxide alarm below.",
            a=fraction(found[0].start_frac), b=fraction(found[0].stop_frac),
        ),
        why=_why("Its rule, stepped through the day behind the sun"),
        field=_field(outlook, found[0], "start_frac"),
        caution=True,
    )  # fmt: skip


def shore_charges(outlook: Outlook, record: np.ndarray) -> Finding | None:
    """Shore power: what it added, or why it did not."""
    found = _of(outlook, SourceKind.SHORE)
    if not found or outlook.store is None:
        return None
    given = outlook.wh(record[:, SHORE])
    moored = outlook.backup.watts[:2].sum() > 0
    if not moored:
        return Finding(
            id="shore_charges",
            level="note",
            title=sentence("{name} waits: she is never at the dock", name=words(found[0].name)),
            detail=sentence("Say when she lies there: the state of the boat, or a stay at the dock."),
            why=_why("Shore power counts in the hours at the dock"),
            field="/plan/stays",
        )
    return Finding(
        id="shore_charges",
        level="note",
        title=sentence("The shore adds {e}", e=energy(given)),
        detail=sentence(
            "It only fills what the sun leaves. A shore lead brings mains volts aboard: an earth leakage "
            "breaker, and licensed work where the law asks."
        ),
        why=_why("Behind the sun, as far as the bank takes it"),
        caution=True,
    )


def no_bank_to_charge(outlook: Outlook, record: np.ndarray) -> Finding | None:
    """Sources that have no bank to charge."""
    idle = _of(outlook, SourceKind.SHORE, SourceKind.GENERATOR)
    if outlook.store is not None or not idle:
        return None
    return Finding(
        id="no_bank_to_charge",
        level="warn",
        title=sentence("{name} has no bank to charge", name=words(idle[0].name)),
        detail=sentence("Without a bank only sun, wind, water and legs count."),
        why=_why("Shore and generator charge a bank"),
        field="/sources",
    )


def source_findings(outlook: Outlook, record: np.ndarray) -> list[Finding | None]:
    """Everything the other sources tell of one day.

    Parameters
    ----------
    outlook : Outlook
    record : ndarray, shape (144, 14)
        Of the shown day.
    """
    rules = (sun_share, turning_blades, generator_runs, shore_charges, no_bank_to_charge)
    return [rule(outlook, record) for rule in rules]
