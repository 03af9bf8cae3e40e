"""Standing cautions about batteries: short, where the risk is; codes and licensed work always come first."""

from __future__ import annotations

from parhelion.bank.store import resistance_of
from parhelion.bank.tape import rest_volts
from parhelion.constants import SHOCK_V
from parhelion.design import Bank, BoatDesign
from parhelion.design.chemistries import CHEMICALS, Chemistry
from parhelion.finding import Finding
from parhelion.quantities import Fact, Why, amps, length, sentence, volts

DEADLY_V = 120.0  # [V] direct volts above which the caution is stronger, typical
FUSE_WITHIN_M = 0.2  # of the bank's terminal
WHERE = (
    "Check against the small-craft electrical standard in force where you are; licensed work where the law "
    "asks."
)


def _why(*facts: Fact) -> Why:
    return Why(method="Usual cautions", source="Local codes and licensed practice come first.",
               inputs=list(facts), doc="cautions")  # fmt: skip


def short_circuit_a(bank: Bank) -> float:
    """Short-circuit current, given or from the volts over the resistance [A]."""
    return bank.short_circuit_a or float(rest_volts(bank, 1.0)) / resistance_of(bank)


def fuse_near(index: int, bank: Bank) -> Finding:
    """The main fuse: near the bank, and able to break its short-circuit current."""
    current = short_circuit_a(bank)
    far = bank.fuse_distance_m is not None and bank.fuse_distance_m > FUSE_WITHIN_M
    title = (
        sentence("The main fuse sits {d} from the bank: too far", d=length(bank.fuse_distance_m or 0))
        if far
        else sentence("Fuse close to the bank, able to break {a}", a=amps(current))
    )
    return Finding(
        id="fuse_near" if index == 0 else f"fuse_near_{index}",
        level="warn" if far else "note",
        title=title,
        detail=sentence(
            "A short circuit here drives some {a}: cables melt before a far fuse, and a fuse without that "
            "interrupting rating arcs on. Cover terminals, insulate tools. " + WHERE,
            a=amps(current),
        ),
        why=_why(Fact(label="Short-circuit current", value=amps(current)),
                 Fact(label="Fuse within", value=length(FUSE_WITHIN_M))),
        field=f"/banks/{index}/fuse_distance_m" if far else None,
        caution=True,
    )  # fmt: skip


def high_volts(index: int, bank: Bank) -> Finding | None:
    """Volts that shock, volts that kill."""
    top = float(rest_volts(bank, 1.0))
    if top <= SHOCK_V:
        return None
    deadly = top > DEADLY_V
    return Finding(
        id="high_volts" if index == 0 else f"high_volts_{index}",
        level="warn",
        title=sentence("Over {v} DC: it can kill", v=volts(DEADLY_V)) if deadly
        else sentence("Over {v} DC: a shock hazard", v=volts(SHOCK_V)),
        detail=sentence(
            "{v} when full. DC arcs do not stop by themselves, and no switch makes a bank's own terminals "
            "dead. " + ("Licensed or certified hands only. " if deadly else "") + WHERE,
            v=volts(top),
        ),
        why=_why(Fact(label="Full, at rest", value=volts(top))),
        field=f"/banks/{index}/unit_v",
        caution=True,
    )  # fmt: skip


def unprotected(index: int, bank: Bank) -> Finding | None:
    """Lithium without a management system."""
    if bank.management or not CHEMICALS[bank.chemistry].lithium:
        return None
    return Finding(
        id="unprotected" if index == 0 else f"unprotected_{index}",
        level="warn",
        title=sentence("Lithium cells without a management system"),
        detail=sentence(
            "Nothing stops one cell from being overcharged, drawn flat or charged frozen: that is how fires "
            "start. Fit one that can open the circuit, sized for the motor's current. " + WHERE
        ),
        why=_why(),
        field=f"/banks/{index}/management",
        caution=True,
    )


def unequal_volts(bank: Bank) -> Finding | None:
    """Packs joined in parallel."""
    if bank.parallel < 2:
        return None
    return Finding(
        id="unequal_volts",
        level="note",
        title=sentence("Join packs in parallel only at equal volts"),
        detail=sentence(
            "Charge each full by itself, measure, and join them when they differ by a tenth of a volt or "
            "less; a fuse in each. Else the fuller one empties into the other as fast as the cable allows."
        ),
        why=_why(),
        caution=True,
    )


def cobalt_fire(index: int, bank: Bank) -> Finding | None:
    """NMC burns."""
    if bank.chemistry is not Chemistry.NMC:
        return None
    return Finding(
        id="cobalt_fire" if index == 0 else f"cobalt_fire_{index}",
        level="warn",
        title=sentence("NMC burns hot and cannot be smothered"),
        detail=sentence(
            "Keep it out of the living space, in a vented metal or mineral box, with its own cut-off and a "
            "temperature alarm; never charge it unwatched asleep. Know how to leave the boat. " + WHERE
        ),
        why=_why(),
        caution=True,
    )


def gas(bank: Bank) -> Finding | None:
    """Lead-acid gives off explosive gas."""
    if CHEMICALS[bank.chemistry].lithium:
        return None
    return Finding(
        id="gas",
        level="note",
        title=sentence("Lead batteries give off explosive gas"),
        detail=sentence("Vent the box upward and out; no spark near it, least of all when nearly full."),
        why=_why(),
        caution=True,
    )


def stored_full(bank: Bank) -> Finding | None:
    """Lithium stored full ages."""
    if not CHEMICALS[bank.chemistry].lithium:
        return None
    return Finding(
        id="stored_full",
        level="note",
        title=sentence("Lithium left standing full all season ages"),
        detail=sentence(
            "Between trips keep it at half to two thirds, cool; set the controllers to float low or switch "
            "the panels off. Lead is the other way round: keep it full."
        ),
        why=Why(method="Usual practice", source="Calendar ageing rises with charge and heat.", doc="bank"),
    )


def bank_cautions(design: BoatDesign) -> list[Finding | None]:
    """Every caution of the banks that count; one that is the same for both is said once."""
    found: list[Finding | None] = []
    banks = design.banks[:2]
    for rule in (high_volts, unprotected, cobalt_fire, fuse_near):
        found += [rule(index, bank) for index, bank in enumerate(banks)]
    for once in (unequal_volts, gas, stored_full):
        found.append(next((item for bank in banks if (item := once(bank)) is not None), None))
    return found
