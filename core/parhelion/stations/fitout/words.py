"""The Fit-out's verdicts in words, each with the one check that tells two causes apart."""

from __future__ import annotations

from typing import NamedTuple

from parhelion.diagnosis.reading import CHECKS, Means
from parhelion.panels.measured import Verdict
from parhelion.quantities import Quantity, Sentence, amps, fraction, power, sentence, volts, words
from parhelion.stations.fitout.bench import PanelTest
from parhelion.stations.fitout.sun import Gauge

OPEN_WORDS = {  # of open volts, where it differs from a reading under load
    Means.REVERSED: "Do not plug it in: red on plus reads minus. Swap the leads at the panel, read again.",
    Means.NO_VOLTS: "A plug is open, a fuse has gone, or the panel is covered. Read at each panel in turn.",
    Means.PANEL_MISSING: "Stop here: look at the plug between the panels, and read each panel alone.",
    Means.SUBSTRING: "A third of a panel is out: a bypass diode, or shade on it. Read each panel alone.",
    Means.OTHER_KIND: "More than its panels can give: count them, and read their labels.",
    Means.UNIT_MISSING: "Read each unit, and the links between them.",
    Means.NIGHT: "Too dark for volts that say anything. Read again by day.",
    Means.UNCLEAR: "It fits nothing that is known: right range, right leads, right string? Read again.",
    Means.BELOW_BANK: "Right way round, and too few to wake its controller on this bank: a longer string.",
    Means.AS_EXPECTED: "",
}
NINE_OF_TEN = 1.64  # spreads of a normal band
CAUSES = {
    Means.STRING_MISSING: "one string is missing",
    Means.PANEL_MISSING: "a panel of a string is missing",
    Means.SHADED: "shade or dirt",
    Means.SUBSTRING: "a substring is out",
    Means.NOT_TRACKING: "it does not track",
    Means.BELOW_BANK: "too few volts for this bank",
    Means.PV_FUSE: "an open fuse or breaker",
    Means.NOT_CHARGING: "charging that is blocked",
    Means.DISCONNECTED: "an open plug",
    Means.REVERSED: "swapped leads",
    Means.HOT: "heat",
}


def meaning_words(means: Means) -> str:
    """What to do after a reading at a step."""
    return OPEN_WORDS.get(means, CHECKS.get(means, ""))


def _capital(text: str) -> str:
    return text[:1].upper() + text[1:]


def _either(gauge: Gauge) -> str:
    says = gauge.meaning
    assert says is not None
    causes = [CAUSES[cause] for cause in (says.means, *says.or_else) if cause in CAUSES]
    return listed(list(dict.fromkeys(causes)))


def listed(causes: list[str]) -> str:
    """One, another, or a third."""
    return ", ".join(causes[:-1]) + " or " + causes[-1] if len(causes) > 1 else "".join(causes)


class _Read(NamedTuple):
    """What is told of a reading: its typed numbers, and the check."""

    slots: dict[str, Quantity]  # name, got, low, high, share, more
    check: str
    causes: str


def _read(gauge: Gauge) -> _Read:
    says, then, note, read = gauge.meaning, gauge.then, gauge.note, gauge.read_w
    assert says is not None and then is not None and note is not None
    middle = then.watts.middle
    slots = {
        "name": words(gauge.box.name),
        "got": volts(note.pv_v or 0.0) if read is None or says.means is Means.REVERSED else power(read),
        "low": power(then.watts.low),
        "high": power(then.watts.high),
        "share": fraction((middle if read is None else read) / middle),
        "more": power(max(middle - (read or 0.0), 0.0)),
    }
    check = says.check if not says.check or says.check.endswith("?") else says.check + "."
    return _Read(slots, check, _either(gauge))


GAUGE_TITLES = {
    Means.AS_EXPECTED: "{name}: {got}, as it should",
    Means.FULL_BANK: "{name}: the bank is full, nothing is wrong",
    Means.BRIGHT: "{name}: {got}, more than a clear sky",
    Means.NIGHT: "{name}: too dark to tell",
    Means.REVERSED: "{name}: {got}, plus and minus are swapped",
    Means.NO_VOLTS: "{name}: no volts at all",
    Means.NO_CURRENT: "{name}: volts, and nothing flows",
    Means.UNCLEAR: "{name}: {got} fits nothing that is known",
    Means.METER: "{name}: watts are not volts times amps",
}
GAUGE_DETAILS = {
    Means.AS_EXPECTED: "{share} of the middle of what this light gives. Nothing to look for.",
    Means.FULL_BANK: "{got} says nothing of the panels: the controller holds {more} back. Switch a load "
    "on and "
    "read again.",
    Means.BRIGHT: "The edge of a cloud mirrors the sun for a minute or two: more than the label is "
    "possible, and "
    "sound. Expected {low} to {high}.",
    Means.REVERSED: "Open the breaker now. ",
    Means.UNCLEAR: "Expected {low} to {high}. ",
    Means.METER: "One of the meters is wrong, or they were read at different moments. ",
}
EITHER_DETAIL = (
    "{got} may be as it should, or %s. Expected {low} to {high}. Read again under a sharp shadow, or some "
    "minutes on: readings count together; or %s"
)


def gauge_words(gauge: Gauge) -> tuple[Sentence | None, Sentence | None]:
    """What a reading under the sun means: a title, and what to do."""
    says = gauge.meaning
    if says is None or gauge.then is None:
        return None, None
    read, means = _read(gauge), says.means
    if says.cannot_tell:
        title, detail = "{name}: this sky cannot tell", EITHER_DETAIL % (read.causes, read.check)
    else:
        title = GAUGE_TITLES.get(means, "{name}: {got}, not {low} to {high}")
        detail = GAUGE_DETAILS.get(means, _capital(read.causes) + ". " if read.causes else "")
        if not says.sound:
            detail += ("Check: " if read.causes else "") + (
                read.check if read.causes else _capital(read.check)
            )
    if says.readings > 1:
        detail = detail.rstrip() + f" {says.readings} readings, minutes apart, say so together."
    return sentence(title, **read.slots), sentence(detail, **read.slots)


VERDICTS = {
    Verdict.AS_LABELLED: "Sound: within what the light is known to.",
    Verdict.SUBSTRING_SHORTED: "Open volts are two thirds of the label's, or one: a bypass diode has "
    "failed shut, "
    "or a third of the cells. It works as a smaller panel; beside sound ones in a string it costs its volts.",
    Verdict.RESISTANCE: "The curve leans at its end: a bad joint, a burnt plug or corroded ribbons. Feel "
    "the plugs; "
    "measure again at the panel's own box.",
    Verdict.LEAK: "The curve leans from its beginning: cells that leak, or one in shade. Measure again, "
    "every cell "
    "in the sun.",
    Verdict.STEP: "There is a step in it: part of the panel was in shade, or a cell is broken. Look along "
    "the sun, "
    "and measure again.",
    Verdict.LOW_CURRENT: "Volts are right, amps are few: dirt, a milky cover, an angle to the sun, or "
    "light that "
    "was less than said. Wash it and measure again.",
    Verdict.WEAK: "It has aged, or its label promised too much.",
    Verdict.STRONG: "More than its label: the light was brighter than said, or the label is modest.",
    Verdict.CLOUD: "Amps rise where they must fall: the light changed while it was measured. Take all "
    "points within "
    "a minute, under a steady sky.",
}


def test_words(test: PanelTest) -> tuple[Sentence, Sentence]:
    """What a bench test found: a title, and what to make of it."""
    found, group, name = test.found, test.group, words(test.note.name)
    if found is None or group is None:
        return sentence("{name}: not yet a test", name=name), sentence(test.problem or "")
    share = found.share_of_label
    dim = " The light was dim: standard watts say little." if test.dim else ""
    if share is None:
        return (
            sentence(
                "{name}: {v} open, {a} short", name=name, v=volts(found.curve.open_v), a=amps(found.short_a)
            ),
            sentence(
                VERDICTS[found.verdict]
                + " Without the light nobody can say how many watts that is in full sun.",
            ),
        )
    return (
        sentence("{name}: {share} of its label", name=name, share=fraction(share)),
        sentence(
            "{w} at standard conditions, give or take {b}, of {l}. " + VERDICTS[found.verdict] + dim,
            w=power(found.standard_w or 0.0),
            b=power((found.standard_w or 0.0) * found.standard_spread * NINE_OF_TEN),
            l=power(group.nameplate_w),
        ),
    )
