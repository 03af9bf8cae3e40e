"""Findings about the wiring: one rule a function; never "safe", only within the limits that were checked."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from parhelion.advice.finding import Finding, ordered
from parhelion.array.strung import string_watts
from parhelion.bank.store import charge_limit_a
from parhelion.day.outlook import outlook_of
from parhelion.design import BoatDesign, ControllerKind, Sky
from parhelion.quantities import (
    Fact,
    Why,
    amps,
    count,
    fraction,
    length,
    power,
    sentence,
    speed,
    temperature,
    volts,
    words,
)
from parhelion.sun.sky import STEADY
from parhelion.wiring.cables import FUSE_WITHIN_M, LASTING
from parhelion.wiring.circuits import Circuit, Wiring, absorption_v
from parhelion.wiring.held import FULL_W_PER_M2, charging_v, share_at
from parhelion.wiring.panel_volts import most_in_series, panel_volts
from parhelion.wiring.strings import by_hand, loose_panels

SOURCE = "Usual rules of small-craft wiring; the standard in force where you are comes first."
SHOCK_V = 60.0
MIXED_WARN_FRAC = 0.03
MIXED_FRAC = 0.05  # between the volts of strings side by side
PWM_COLD_C, PWM_WARN_FRAC = 10.0, 0.35
LARGE_CHARGE = 1.25  # array watts over what the controller can pass, before a word


@dataclass(frozen=True)
class WiringView:
    """A design's wiring, ready for the rules."""

    design: BoatDesign
    wiring: Wiring

    def panel_field(self, circuit: Circuit, entry: str) -> str:
        index = next(i for i, g in enumerate(self.design.panels) if g.id == circuit.group.id)
        return f"/panels/{index}/{entry}"

    def box_field(self, circuit: Circuit, entry: str) -> str:
        index = next(i for i, c in enumerate(self.design.controllers) if c.id == circuit.controller.id)
        return f"/controllers/{index}/{entry}"


def _why(method: str, *facts: Fact) -> Why:
    return Why(method=method, source=SOURCE, inputs=list(facts), doc="wiring")


def _named(circuit: Circuit) -> str:
    return circuit.name


def over_limit(view: WiringView) -> Finding | None:
    """A string that passes its controller's volts on a cold morning."""
    for circuit in view.wiring.circuits:
        limit = circuit.limit_v
        if limit is None or circuit.cold_v <= limit:
            continue
        lifted = circuit.controller.kind is ControllerKind.BOOST and limit != circuit.controller.most_pv_v
        most = most_in_series(
            circuit.string.open_v / circuit.series,
            circuit.string.open_per_k,
            view.design.wiring.coldest_c,
            limit,
        )
        fits = (
            "{n} in series stay under it."
            if most
            else "Not even one panel stays under it: another controller."
        )
        return Finding(
            id="over_limit",
            level="warn",
            title=sentence(
                "{name}: {v} open, limit {limit}",
                name=words(_named(circuit)),
                v=volts(circuit.cold_v),
                limit=volts(limit),
            ),
            detail=sentence(
                (
                    "At {t} {s} in series stand above the bank: behind boost current then runs into it past "
                    "any control. "
                    if lifted
                    else "At {t} {s} in series pass what the controller survives. "
                )
                + fits,
                t=temperature(view.design.wiring.coldest_c),
                s=count(circuit.series),
                n=count(most),
            ),
            why=_why(
                "Voc of the string with its own coefficient at the coldest morning",
                Fact(label="Voc of one, at 25 °C", value=volts(circuit.string.open_v / circuit.series)),
                Fact(label="By its datasheet", value=words("yes" if circuit.string.given else "no, usual")),
            ),
            field=view.panel_field(circuit, "series"),
            caution=False,
        )
    return None


def too_low(view: WiringView) -> Finding | None:
    """A string whose hot volts do not reach the bank."""
    for circuit in view.wiring.circuits:
        if circuit.needs_v is None or circuit.hot_v >= circuit.needs_v:
            continue
        assert circuit.bank is not None
        return Finding(
            id="too_low",
            level="warn",
            title=sentence(
                "{name}: {v} when hot, the bank needs {n}",
                name=words(_named(circuit)),
                v=volts(circuit.hot_v),
                n=volts(circuit.needs_v),
            ),
            detail=sentence(
                (
                    "On a hot noon charging fades when it is needed; the harvest has it taken off. "
                    if circuit.string.given
                    else "On a hot noon charging stops when it is needed; without a datasheet the harvest "
                    "does not know that. "
                )
                + "Put more in series, or a boost controller where the volts stay under the bank's."
            ),
            why=_why(
                "Vmp of the string with its own coefficient at the hottest cell, against absorption and the "
                "controller's headroom",
                Fact(label="Absorption", value=volts(absorption_v(circuit.bank))),
                Fact(label="Headroom", value=volts(circuit.controller.headroom_v)),
            ),
            field=view.panel_field(circuit, "series"),
        )
    return None


def left_over(view: WiringView) -> Finding | None:
    """Panels that fill no string harvest nothing."""
    if by_hand(view.design):
        return _not_connected(view)
    for circuit in view.wiring.circuits:
        if not circuit.left_over:
            continue
        return Finding(
            id="left_over",
            level="warn",
            title=sentence(
                "{n} of {of} panels on {name} fill no string",
                n=count(circuit.left_over),
                of=count(circuit.group.count),
                name=words(_named(circuit)),
            ),
            detail=sentence(
                "They harvest nothing. {s} in series want a number of panels that {s} divides.",
                s=count(circuit.series),
            ),
            why=_why("Panels dealt out into complete strings"),
            field=view.panel_field(circuit, "series"),
        )
    return None


def _not_connected(view: WiringView) -> Finding | None:
    """Panels that are in no string of those wired by hand."""
    loose = loose_panels(view.design)
    if not loose:
        return None
    places = dict.fromkeys(view.design.place(group.place_id).name for group, _ in loose)
    return Finding(
        id="left_over",
        level="warn",
        title=sentence(
            "{n} panels are not connected" if len(loose) > 1 else "{n} panel is not connected",
            n=count(len(loose)),
        ),
        detail=sentence(
            "On {places}: {w} that harvest nothing. Put them into strings, or wire by groups again.",
            places=words(", ".join(places)),
            w=power(sum(group.nameplate_w for group, _ in loose)),
        ),
        why=_why("Panels aboard that are in no string"),
        field="/strings",
    )


def mixed_string(view: WiringView) -> Finding | None:
    """A string of different panels, and what that costs in full sun."""
    for circuit in view.wiring.circuits:
        if not circuit.mixed:
            continue
        lost = 1 - string_watts(circuit.groups) / circuit.string_w
        return Finding(
            id="mixed_string",
            level="warn" if lost > MIXED_WARN_FRAC else "note",
            title=sentence(
                "{name} in one string: {x} given up in full sun",
                name=words(circuit.name),
                x=fraction(max(lost, 0.0)),
            ),
            detail=sentence(
                "All panels of a string carry one current: {a} of {w} is left even without shade. Where they "
                "face different ways it is more; the harvest has that in it.",
                a=power(string_watts(circuit.groups)),
                w=power(circuit.string_w),
            ),
            why=_why(
                "One current through all substrings, bypassed where that pays, at standard conditions",
                *(
                    Fact(
                        label=f"Imp of one on {view.design.place(g.place_id).name}",
                        value=amps(panel_volts(g).best_a),
                    )
                    for g in dict.fromkeys(circuit.groups)
                ),
            ),
            field="/strings",
        )
    return None


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
                name=words(_named(circuit)),
                a=amps(circuit.box_short_a),
                limit=amps(limit),
            ),
            detail=sentence(
                "{f} the Isc of every string on it. Fewer in parallel, or one more controller.",
                f=words(f"{LASTING:g} times"),
            ),
            why=_why("1.25 x Isc x strings, light on the back of two-sided panels added"),
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
            why=_why("Nominal volts of the bank against the controller's label"),
            field=view.box_field(circuit, "most_bank_v" if above else "least_bank_v"),
        )
    return None


def mixed_volts(view: WiringView) -> Finding | None:
    """Strings of different volts on one controller."""
    by_box: dict[str, list[Circuit]] = {}
    for circuit in view.wiring.circuits:
        by_box.setdefault(circuit.controller.id, []).append(circuit)
    for together in by_box.values():
        noons = [circuit.noon_v for circuit in together]
        own_input = len(together) <= together[0].controller.inputs * together[0].controller.count
        if own_input or max(noons) / min(noons) < 1 + MIXED_FRAC:
            continue
        low, high = (f(together, key=lambda c: c.noon_v) for f in (min, max))
        return Finding(
            id="mixed_volts",
            level="warn",
            title=sentence(
                "{name} gets {a} and {b} at once",
                name=words(low.controller.name),
                a=volts(low.noon_v),
                b=volts(high.noon_v),
            ),
            detail=sentence(
                "{p} and {q} stand side by side on it: one runs off its best volts; the harvest does not "
                "know that. Give each its own controller.",
                p=words(low.name),
                q=words(high.name),
            ),
            why=_why("Vmp of the strings at a usual noon, more than 5 % apart"),
            field=view.panel_field(low, "series"),
        )
    return None


def string_fuse(view: WiringView) -> Finding | None:
    """Whether strings need fuses of their own."""
    for circuit in view.wiring.circuits:
        if circuit.string_fused is False:
            continue
        known = circuit.string_fused is not None
        limit = circuit.group.most_fuse_a
        facts = [Fact(label="Isc of one", value=amps(circuit.string.short_a))]
        if limit is not None:
            facts.append(Fact(label="The panel's largest fuse", value=amps(limit)))
        return Finding(
            id="string_fuse",
            level="warn" if known else "note",
            title=sentence("{name}: every string wants its own fuse", name=words(_named(circuit)))
            if known
            else sentence("{name}: a string fuse may be due", name=words(_named(circuit))),
            detail=sentence(
                "{n} strings in parallel can feed a faulty one with more than it may carry.",
                n=count(circuit.per_box),
            )
            if known
            else sentence("Say what the panel's label gives as its largest series fuse."),
            why=_why("(strings - 1) x 1.25 x Isc against the panel's largest series fuse", *facts),
            field=view.panel_field(circuit, "most_fuse_a"),
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
            why=_why("Nameplate over current limit times the bank's volts"),
            field=view.box_field(circuit, "current_limit_a"),
        )
    return None


def thick_cable(view: WiringView) -> Finding | None:
    """A run no cable of the list carries within the drop."""
    runs = [(circuit.name, circuit.cable) for circuit in view.wiring.circuits]
    runs += [(run.name, run.cable) for run in view.wiring.motor_runs]
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
                why=_why("Ampacity over the fuse, then the drop"),
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
        why=_why("Open-circuit volts on the coldest morning"),
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
            why=_why("What every controller can pass, added up, against the bank's charge limit"),
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
        why=_why("The distance against the usual rule of small-craft wiring"),
        field="/wiring/fuse_at_m",
    )


def direct_drive(view: WiringView) -> Finding | None:
    """Panels on the motor with no bank between: what a cloud does."""
    if view.design.bank is not None or not view.wiring.circuits:
        return None
    outlook = outlook_of(view.design)
    most = float(outlook.clear_harvest.sun_w.max())
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
        why=_why(
            "The clear day's best step at the motor, and the same under an overcast sky",
            Fact(label="Full sun", value=power(most)),
            Fact(label="Thick cloud", value=power(dull)),
            Fact(label="The drive's idle draw", value=power(outlook.curve.idle_w)),
        ),
        field=None,
        caution=True,
    )


def pwm_loss(view: WiringView) -> Finding | None:
    """What a PWM controller gives up, cold and hot, against MPPT."""
    for circuit in view.wiring.circuits:
        if circuit.controller.kind is not ControllerKind.PWM or circuit.bank is None:
            continue
        held_v = charging_v(circuit.bank)
        cold, hot = (
            1 - float(share_at(circuit.string, held_v, np.array(FULL_W_PER_M2), np.array(cell_c)))
            for cell_c in (PWM_COLD_C, view.design.wiring.hottest_cell_c)
        )
        watts = circuit.nameplate_w
        worst = max(cold, hot)
        return Finding(
            id="pwm_loss",
            level="warn" if worst > PWM_WARN_FRAC else "note",
            title=sentence(
                "{name} behind PWM gives up {x} cold, {y} hot",
                name=words(_named(circuit)),
                x=fraction(cold),
                y=fraction(hot),
            ),
            detail=sentence(
                "Of {w} the bank's {v} let it make {a} on a cold bright day. "
                + (
                    "The panel's volts do not suit this bank: MPPT, or panels of other volts."
                    if worst > PWM_WARN_FRAC
                    else "For a small panel it may still be the right buy: Propose compares prices."
                ),
                w=power(watts),
                v=volts(charging_v(circuit.bank)),
                a=power(watts * (1 - cold)),
            ),
            why=_why(
                "The string's curve at the bank's volts, over its best, in full sun",
                Fact(label="Cells, cold", value=temperature(PWM_COLD_C)),
                Fact(label="Cells, hot", value=temperature(view.design.wiring.hottest_cell_c)),
                Fact(label="Bank while charging", value=volts(charging_v(circuit.bank))),
            ),
            field=view.box_field(circuit, "kind"),
        )
    return None


def within_limits(view: WiringView) -> Finding | None:
    """What was checked and held."""
    if not view.wiring.circuits:
        return None
    checks = [
        over_limit,
        too_low,
        left_over,
        input_amps,
        wrong_bank,
        mixed_volts,
        thick_cable,
        charge_rate,
        fuse_far,
    ]
    if any(check(view) for check in checks):
        return None
    known = all(c.limit_v is not None for c in view.wiring.circuits)
    return Finding(
        id="within_limits",
        level="good" if known else "note",
        title=sentence("Within the limits checked")
        if known
        else sentence("Some controllers' volts limits are not known"),
        detail=sentence(
            "Cold open volts, hot volts over the bank, input amps, complete strings, the controller's "
            "bank and its charge rate, ampacity and drop. Nothing else was looked at."
        )
        if known
        else sentence(
            "Give each controller the volts on its label: until then nothing says a cold morning spares it."
        ),
        why=_why("Each string against its controller and the bank"),
        field=None if known else "/controllers/0/most_pv_v",
    )


def order_of_connecting(view: WiringView) -> Finding | None:
    """The standing caution of putting it together."""
    if not view.wiring.circuits:
        return None
    return Finding(
        id="order_of_connecting",
        level="note",
        title=sentence("Connect in this order: loads off, bank, then panels"),
        detail=sentence(
            "The other way round to take apart, and the maker's own order where it differs. Check "
            "polarity with a meter before the last plug. Check against the small-craft electrical "
            "standard in force where you are."
        ),
        why=Why(
            method="Usual cautions", source="Local codes and licensed practice come first.", doc="cautions"
        ),
        caution=True,
    )


CHECKS = (
    over_limit,
    too_low,
    left_over,
    input_amps,
    wrong_bank,
    mixed_volts,
    thick_cable,
    charge_rate,
    fuse_far,
)
RULES = (
    over_limit,
    too_low,
    left_over,
    input_amps,
    wrong_bank,
    mixed_volts,
    thick_cable,
    mixed_string,
    string_fuse,
    pwm_loss,
    charge_rate,
    fuse_far,
    direct_drive,
    within_limits,
    large_array,
    shock,
    order_of_connecting,
)


def wiring_findings(view: WiringView) -> list[Finding]:
    """Everything the wiring tells, warnings first."""
    return ordered([rule(view) for rule in RULES])
