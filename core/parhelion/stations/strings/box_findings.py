"""Findings about controllers, cables, fuses and what they feed."""

from __future__ import annotations

import numpy as np

from parhelion.bank.store import charge_limit_a
from parhelion.constants import SHOCK_V
from parhelion.design import Sky
from parhelion.finding import Finding
from parhelion.quantities import (
    Fact,
    amps,
    energy,
    fraction,
    length,
    power,
    sentence,
    speed,
    volts,
    words,
)
from parhelion.stations.strings.view import WiringView, wiring_why
from parhelion.sun.sky import STEADY
from parhelion.wiring.cables import FUSE_WITHIN_M, LASTING

LARGE_CHARGE = 1.25  # array watts over what the controller can pass, before a word


def input_amps(view: WiringView) -> Finding | None:
    """More short-circuit current than the controller's input takes."""
    for circuit in view.wiring.circuits:
        limit = circuit.controller.most_pv_a
        if limit is None or circuit.box_short_a <= limit:
            continue
        return Finding(
            id="input_amps",
            level="warn",
            title=sentence(
                "{name}: {a} into an input of {limit}",
                name=words(circuit.name),
                a=amps(circuit.box_short_a),
                limit=amps(limit),
            ),
            detail=sentence(
                "{f} the Isc of every string on it. Fewer in parallel, or one more controller.",
                f=words(f"{LASTING:g} times"),
            ),
            why=wiring_why("1.25 x Isc x strings, light on the back of two-sided panels added"),
            field=view.box_field(circuit, "most_pv_a"),
        )
    return None


def wrong_bank(view: WiringView) -> Finding | None:
    """A controller made for another bank."""
    for circuit in view.wiring.circuits:
        least, most, bank = circuit.controller.least_bank_v, circuit.controller.most_bank_v, circuit.bank
        if bank is None:
            continue
        above = most is not None and bank.nominal_v > most * 1.1
        below = least is not None and bank.nominal_v < least * 0.9
        if not above and not below:
            continue
        return Finding(
            id="wrong_bank",
            level="warn",
            title=sentence(
                f"{{name}} charges {'up to' if above else 'from'} {{v}}, the bank is {{b}}",
                name=words(circuit.controller.name),
                v=volts((most if above else least) or 0.0),
                b=volts(bank.nominal_v),
            ),
            detail=sentence(
                "It will not charge this bank, and may not survive it. Choose one for these volts."
            ),
            why=wiring_why("Nominal volts of the bank against the controller's label"),
            field=view.box_field(circuit, "most_bank_v" if above else "least_bank_v"),
        )
    return None


def large_array(view: WiringView) -> Finding | None:
    """How far the array is over what the controller passes."""
    for circuit in view.wiring.circuits:
        limit, bank = circuit.controller.current_limit_a, circuit.bank
        if limit is None or bank is None:
            continue
        watts = circuit.string_w * circuit.per_box
        over = watts / (limit * bank.nominal_v)
        if over < LARGE_CHARGE:
            continue
        return Finding(
            id="large_array",
            level="note",
            title=sentence("{w} on a controller of {a}", w=power(watts), a=amps(limit)),
            detail=sentence(
                "{x} of what it passes into {v}. It clips the best hours and loses little of the "
                "year; the Day shows how much.",
                x=fraction(over),
                v=volts(bank.nominal_v),
            ),
            why=wiring_why("Nameplate over current limit times the bank's volts"),
            field=view.box_field(circuit, "current_limit_a"),
        )
    return None


def thick_cable(view: WiringView) -> Finding | None:
    """A run no cable of the list carries within the drop."""
    wiring = view.wiring
    runs = [(circuit.name, circuit.cable) for circuit in wiring.circuits]
    runs += [(f"{c.controller.name} to the bank", c.out) for c in wiring.circuits if c.out is not None]
    heavy = [*wiring.motor_runs, *wiring.bank_runs, *(run for pair in wiring.link_runs for run in pair)]
    heavy += [run for run in wiring.source_runs if run is not None]
    runs += [(run.name, run.cable) for run in heavy]
    for name, cable in runs:
        if cable.reason == "none is thick enough":
            return Finding(
                id="thick_cable",
                level="warn",
                title=sentence("{name}: no cable here is thick enough", name=words(name)),
                detail=sentence(
                    "The thickest, {s} mm², loses {x}. Shorten the run, raise the volts, or lay two.",
                    s=words(f"{cable.size_mm2:g}"),
                    x=fraction(cable.drop_frac),
                ),
                why=wiring_why("Ampacity over the fuse, then the drop"),
            )
    return None


def shock(view: WiringView) -> Finding | None:
    """Volts that hurt."""
    worst = max((c.cold_v for c in view.wiring.circuits), default=0.0)
    if worst <= SHOCK_V:
        return None
    return Finding(
        id="shock",
        level="note",
        title=sentence("Up to {v} DC: shock and arc", v=volts(worst)),
        detail=sentence(
            "Over 60 V a touch can kill and an arc does not stop by itself. Open the breaker before "
            "parting any connector; licensed work where the law asks."
        ),
        why=wiring_why("Open-circuit volts on the coldest morning"),
        caution=True,
    )


def charge_rate(view: WiringView) -> Finding | None:
    """More charging current than a bank may take."""
    for bank in view.design.banks:
        boxes = {
            c.controller.id: c for c in view.wiring.circuits if c.bank is not None and c.bank.id == bank.id
        }
        whole = sum((c.charge_a or 0.0) * c.controller.count for c in boxes.values())
        limit = charge_limit_a(bank)
        if whole <= limit:
            continue
        given = bank.charge_limit_a is not None
        return Finding(
            id="charge_rate",
            level="warn",
            title=sentence(
                "{name} may be charged with {b}, its controllers pass {a}",
                name=words(bank.name),
                a=amps(whole),
                b=amps(limit),
            ),
            detail=sentence(
                "Set the controllers lower: together they may not pass what the bank may take."
                if given
                else "Usual for the chemistry; the bank maker's own limit comes first. Set them to it."
            ),
            why=wiring_why("What every controller can pass, added up, against the bank's charge limit"),
            field=f"/banks/{next(i for i, b in enumerate(view.design.banks) if b is bank)}/charge_limit_a",
        )
    return None


def fuse_far(view: WiringView) -> Finding | None:
    """A first fuse farther from the bank than it should be."""
    far = view.design.wiring.fuse_at_m
    if far is None or far <= FUSE_WITHIN_M or view.design.bank is None:
        return None
    return Finding(
        id="fuse_far",
        level="warn",
        title=sentence("The first fuse stands {m} from the bank", m=length(far)),
        detail=sentence(
            "Nothing protects the cable before it: a chafe there burns with all the bank can give. Within "
            "{w} of the terminal is the usual rule.",
            w=length(FUSE_WITHIN_M),
        ),
        why=wiring_why("The distance against the usual rule of small-craft wiring"),
        field="/wiring/fuse_at_m",
    )


def sun_by_bank(view: WiringView) -> Finding | None:
    """Which bank gets how much of the sun, and what a converter lets over to the one that drives the boat."""
    design = view.design
    if design.bank is None or design.house_bank is None or not view.wiring.circuits:
        return None
    outlook = view.outlook
    by_bank_w = outlook.clear_harvest.by_bank_w[0]
    whole = outlook.timeline.over(by_bank_w.T)
    if whole.sum() <= 0:
        return None
    share = float(whole[0] / whole.sum())
    back_w = sum(link.limit_w for link in design.links_between(design.house_bank, design.bank))
    spare_w = np.maximum(by_bank_w[:, 1] - outlook.house_rows_w[2:].sum(axis=0), 0.0)
    spare, over = (outlook.wh(watts) for watts in (spare_w, np.minimum(spare_w, back_w)))
    starved = share == 0 and back_w == 0
    main, house = words(design.bank.name), words(design.house_bank.name)
    alone = sentence(
        "Nothing carries the sun over to {main}: it drives the boat and is never charged by it. A converter "
        "back, or a controller moved to it.",
        main=main,
    )
    kept = sentence(
        "On a clear day {house} has {e} to spare, and nothing carries it over: it waits for room in its own "
        "bank.",
        house=house, e=energy(spare),
    )  # fmt: skip
    shared = sentence(
        "On a clear day {house} has {e} to spare, and converters carry up to {w} over: {o} of it. What is "
        "left waits for room in its own bank.",
        house=house, e=energy(spare), w=power(back_w), o=energy(over),
    )  # fmt: skip
    return Finding(
        id="sun_by_bank",
        level="warn" if starved else "note",
        title=sentence(
            "{main} gets {x} of the sun, {house} {y}",
            main=main, x=fraction(share), house=house, y=fraction(1 - share),
        ),
        detail=alone if starved else shared if back_w else kept,
        why=wiring_why(
            "The clear day's harvest by bank, the house's own loads off, against the converters' limit",
            Fact(label=design.bank.name, value=energy(float(whole[0]))),
            Fact(label=design.house_bank.name, value=energy(float(whole[1]))),
        ),
        field="/links",
    )  # fmt: skip


def direct_drive(view: WiringView) -> Finding | None:
    """Panels on the motor with no bank between: what a cloud does."""
    if view.design.bank is not None or not view.wiring.circuits:
        return None
    outlook = view.outlook
    most = float(outlook.clear_harvest.sun_w.max())
    if most <= 0:  # in the polar night
        return None
    dull = most * STEADY[Sky.OVERCAST][0]
    fast, slow = (float(outlook.curve.speed_at(watts)) for watts in (most, dull))
    stops = dull <= outlook.curve.idle_w
    return Finding(
        id="direct_drive",
        level="note",
        title=sentence("No bank: {v} in full sun, {s} under a thick cloud", v=speed(fast), s=speed(slow)),
        detail=sentence(
            (
                "The motor stops under it, and may start again by itself when the cloud has passed: "
                if stops
                else "The motor follows every cloud and shadow within seconds: "
            )
            + "keep clear of the propeller, have oars or an anchor ready, and keep off where you must be "
            "able to stop or turn. The converter between holds the panels at their best volts; its label "
            "must take their cold volts.",
        ),
        why=wiring_why(
            "The clear day's best step at the motor, and the same under an overcast sky",
            Fact(label="Full sun", value=power(most)),
            Fact(label="Thick cloud", value=power(dull)),
            Fact(label="The drive's idle draw", value=power(outlook.curve.idle_w)),
        ),
        field=None,
        caution=True,
    )
