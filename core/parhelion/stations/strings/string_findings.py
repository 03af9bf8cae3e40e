"""Findings about strings: their volts cold and hot, what they mix, and what they leave out."""

from __future__ import annotations

import numpy as np

from parhelion.design import ControllerKind
from parhelion.finding import Finding
from parhelion.panels.strung import string_watts
from parhelion.quantities import (
    Fact,
    Sentence,
    amps,
    count,
    fraction,
    power,
    sentence,
    temperature,
    volts,
    words,
)
from parhelion.stations.strings.view import WiringView, wiring_why
from parhelion.wiring.by_itself import absorption_v, charging_v
from parhelion.wiring.circuits import Circuit
from parhelion.wiring.held import FULL_W_PER_M2, NOON_CELL_C, share_at, volts_beside
from parhelion.wiring.panel_volts import most_in_series, panel_volts
from parhelion.wiring.strings import by_hand, loose_panels

MIXED_WARN_FRAC = 0.03
MIXED_FRAC = 0.05  # between the volts of strings side by side
PWM_COLD_C, PWM_WARN_FRAC = 10.0, 0.35


def _and_others(failing: list[Circuit]) -> Sentence:
    """The names of the strings that share a fault with the first."""
    names = ", ".join(circuit.name for circuit in failing[1:])
    return sentence("{also}", also=words(f" So do: {names}." if names else ""))


def over_limit(view: WiringView) -> Finding | None:
    """Strings that pass their controller's volts on a cold morning; the first with what it passes."""
    failing = [c for c in view.wiring.circuits if c.limit_v is not None and c.cold_v > c.limit_v]
    for circuit in failing:
        limit = circuit.limit_v
        assert limit is not None
        lifted = circuit.controller.kind is ControllerKind.BOOST and limit != circuit.controller.most_pv_v
        most = most_in_series(
            circuit.string.open_v / circuit.series,
            circuit.string.open_per_k,
            view.design.wiring.coldest_c,
            limit,
        )
        fits = (
            "A string of {n} stays under it."
            if most
            else "Not even one panel stays under it: another controller."
        )
        return Finding(
            id="over_limit",
            level="warn",
            title=sentence(
                "{name}: {v} open, limit {limit}",
                name=words(circuit.name),
                v=volts(circuit.cold_v),
                limit=volts(limit),
            ),
            detail=sentence(
                (
                    "At {t} a string of {s} stands above the bank: through a boost controller current then "
                    "runs into it past any control. "
                    if lifted
                    else "At {t} a string of {s} passes what the controller survives. "
                )
                + fits
                + "{also}",
                **_and_others(failing).slots,
                t=temperature(view.design.wiring.coldest_c),
                s=count(circuit.series),
                n=count(most),
            ),
            why=wiring_why(
                "Voc of the string with its own coefficient at the coldest morning",
                Fact(label="Voc of one, at 25 °C", value=volts(circuit.string.open_v / circuit.series)),
                Fact(label="By its datasheet", value=words("yes" if circuit.string.given else "no, usual")),
            ),
            field=view.panel_field(circuit, "series"),
            caution=False,
        )
    return None


def too_low(view: WiringView) -> Finding | None:
    """Strings whose hot volts do not reach the bank; the first with its volts."""
    failing = [c for c in view.wiring.circuits if c.needs_v is not None and c.hot_v < c.needs_v]
    for circuit in failing:
        assert circuit.bank is not None and circuit.needs_v is not None
        return Finding(
            id="too_low",
            level="warn",
            title=sentence(
                "{name}: {v} when hot, the bank needs {n}",
                name=words(circuit.name),
                v=volts(circuit.hot_v),
                n=volts(circuit.needs_v),
            ),
            detail=sentence(
                "On a hot noon charging fades when it is needed; the harvest has it taken off. "
                + (
                    ""
                    if circuit.string.given
                    else "The volts are usual for how such panels are sold: give their label. "
                )
                + "Put more in series, or a boost controller where the volts stay under the bank's.{also}",
                **_and_others(failing).slots,
            ),
            why=wiring_why(
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
                name=words(circuit.name),
            ),
            detail=sentence(
                "They harvest nothing. {s} in series want a number of panels that {s} divides.",
                s=count(circuit.series),
            ),
            why=wiring_why("Panels dealt out into complete strings"),
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
        why=wiring_why("Panels aboard that are in no string"),
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
            why=wiring_why(
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


def _given_up(view: WiringView, together: list[Circuit]) -> float:
    """Of the noon watts of strings on one controller, what their shared volts cost [-]."""
    beside = volts_beside(view.design, together[0].controller.id)
    whole = kept = 0.0
    light, warm = np.array(FULL_W_PER_M2), np.array(NOON_CELL_C)
    for circuit in together:
        ratio = beside.get(tuple(sorted(group.id for group in circuit.groups)), 1.0)
        watts = circuit.strings * circuit.string_w
        whole += watts
        kept += watts * float(
            share_at(circuit.string, ratio * circuit.string.best_at(NOON_CELL_C), light, warm)
        )
    return 1 - kept / whole if whole else 0.0


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
                "{p} and {q} stand side by side on it at the volts where they give most together: {x} of "
                "their noon watts go, and the harvest has that in it. Give each its own controller or input.",
                p=words(low.name),
                q=words(high.name),
                x=fraction(_given_up(view, together)),
            ),
            why=wiring_why(
                "Vmp of the strings at a usual noon, more than 5 % apart; power of each at shared volts"
            ),
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
            title=sentence("{name}: every string wants its own fuse", name=words(circuit.name))
            if known
            else sentence("{name}: a string fuse may be due", name=words(circuit.name)),
            detail=sentence(
                "{n} strings in parallel can feed a faulty one with more than it may carry.",
                n=count(circuit.per_box),
            )
            if known
            else sentence("Say what the panel's label gives as its largest series fuse."),
            why=wiring_why("(strings - 1) x 1.25 x Isc against the panel's largest series fuse", *facts),
            field=view.panel_field(circuit, "most_fuse_a"),
        )
    return None


def volts_guessed(view: WiringView) -> Finding | None:
    """Panels whose volts nobody gave: what is said of their wiring rests on how such are sold."""
    guessed = [circuit for circuit in view.wiring.circuits if not circuit.string.given]
    if not guessed:
        return None
    first = guessed[0]
    sold = first.group.sold_as or first.group.usual_class
    more = len(guessed) > 1
    names = ", ".join(circuit.name for circuit in guessed)
    return Finding(
        id="volts_guessed",
        level="note",
        title=sentence("{names}: volts are a guess", names=words(names)),
        detail=sentence(
            "Taken for {sold}, {v} at their best"
            + (", the first of them" if more else "")
            + ". Say how they are sold, or give Voc and Vmp from the label: the strings rest on it.",
            sold=words(sold.label), v=volts(first.string.best_v / first.series),
        ),
        why=wiring_why("Usual cells for the watts; .57 V a cell at its best, .68 V open"),
        field=view.panel_field(first, "sold_as"),
    )  # fmt: skip


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
                name=words(circuit.name),
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
            why=wiring_why(
                "The string's curve at the bank's volts, over its best, in full sun",
                Fact(label="Cells, cold", value=temperature(PWM_COLD_C)),
                Fact(label="Cells, hot", value=temperature(view.design.wiring.hottest_cell_c)),
                Fact(label="Bank while charging", value=volts(charging_v(circuit.bank))),
            ),
            field=view.box_field(circuit, "kind"),
        )
    return None
