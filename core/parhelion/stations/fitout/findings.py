"""What the Fit-out tells: at the step that is next, of the parts, of the first sun, of the bench."""

from __future__ import annotations

from parhelion.design import BoatDesign
from parhelion.design.chemistries import CHEMICALS
from parhelion.design.records import NO_RECORDS, PartState, Records, System
from parhelion.diagnosis.reading import Means
from parhelion.finding import Finding, ordered
from parhelion.quantities import (
    Fact,
    Why,
    count,
    fraction,
    mass,
    money,
    power,
    sentence,
    so_many,
    volts,
    words,
)
from parhelion.stations.fitout.bench import panel_tests
from parhelion.stations.fitout.dock import counted_banks
from parhelion.stations.fitout.frame_findings import metals_meet, thin_frame, unframed
from parhelion.stations.fitout.now import usual_now
from parhelion.stations.fitout.parts import Line, Sums, lines_of, sums_of
from parhelion.stations.fitout.steps import GUESSED, LIVE_V, Proved, StepShown, next_step, shown_steps
from parhelion.stations.fitout.sun import Gauge, gauges_of
from parhelion.stations.fitout.words import gauge_words, meaning_words, test_words

SOURCE = "The design as it stands, and what was noted of the boat"
DEAR_SHARE = 0.4  # of the money, in one system, that is worth a word
DERATE_FROM = 0.03  # a measured panel this far from what the design counts


def _small(name: str) -> str:
    return name[:1].lower() + name[1:]


def _why(method: str, *inputs: Fact, doc: str = "connecting") -> Why:
    return Why(method=method, source=SOURCE, inputs=list(inputs), doc=doc)


def wrong_reading(steps: list[StepShown]) -> list[Finding]:
    """Every reading of a step that is not what it should be."""
    found = []
    for step in steps:
        for item in step.items:
            if (
                item.wrong
                and item.note is not None
                and item.note.reading is not None
                and item.means is not None
            ):
                found.append(_wrong(step, item))
    return found


def _wrong(step: StepShown, item: Proved) -> Finding:
    note, means = item.note, item.means
    assert note is not None and note.reading is not None and means is not None
    sound = next((zone for zone in item.item.zones if zone.means is Means.AS_EXPECTED), None)
    should = ""
    slots = {"v": volts(note.reading)}
    if sound is not None:
        should, slots = (
            ", not {low} to {high}",
            {**slots, "low": volts(sound.from_v), "high": volts(sound.to_v)},
        )
    circuit = item.item.circuit
    guess = "" if circuit is None or circuit.string.given else GUESSED
    place = step.step.title.split(":")[0]
    name = place if item.item.key == "posts" else f"{place}, {_small(item.item.name)}"
    return Finding(
        id=f"wrong_{step.step.key}_{item.item.key}",
        level="warn",
        title=sentence(f"{name}: {{v}}{should}", **slots),
        detail=sentence(f"{means.label[:1].upper()}{means.label[1:]}. {meaning_words(means)}{guess}"),
        why=_why(
            "Open volts by the single diode at the cells' temperature of that minute, with one panel fewer, "
            "a substring fewer and swapped leads beside them"
            if item.item.circuit is not None
            else "Volts at rest of the bank from nearly empty to just charged, with a unit fewer and "
            "swapped leads",
            Fact(label="Read", value=volts(note.reading)),
        ),
    )


def opened_again(steps: list[StepShown]) -> Finding | None:
    """What was proved and changed since."""
    stale = [step for step in steps if step.stale]
    if not stale:
        return None
    names = ", ".join(step.step.title.split(":")[0] for step in stale[:3])
    return Finding(
        id="opened_again",
        level="warn",
        title=sentence("{n} proved of another wiring", n=count(len(stale))),
        detail=sentence(f"The design has changed since: {names}. Prove it again before it is joined."),
        why=_why(
            "What was proved is kept with what it was; another panel, string or unit opens the step again"
        ),
    )


def proved_well(steps: list[StepShown]) -> Finding | None:
    """The last string that was as it should be."""
    last = None
    for step in steps:
        for item in step.items:
            if item.good and item.item.circuit is not None and item.note is not None:
                last = (step, item)
    if last is None:
        return None
    step, item = last
    assert item.note is not None and item.item.circuit is not None
    return Finding(
        id="proved_well",
        level="good",
        title=sentence(
            f"{step.step.title.split(':')[0]}, {_small(item.item.name)}: {{v}}, plus on plus",
            v=volts(item.note.reading or 0.0),
        ),
        detail=sentence(
            "{n} in series, right way round. On a cold bright morning it will read {cold}.",
            n=count(item.item.circuit.series),
            cold=volts(item.item.circuit.cold_v),
        ),
        why=_why("Open volts by the single diode at the cells' temperature"),
    )


def waits_for(steps: list[StepShown], lines: list[Line]) -> Finding | None:
    """Parts to buy without which the next steps stand still."""
    first = next_step(steps)
    if first is None or (first.number == 1 and not any(line.state is PartState.HAVE for line in lines)):
        return None
    needs = {
        "fuse": ("fuse/", "switch/"),
        "bank": ("bank/",),
        "box": ("controller/",),
        "strings": ("panels/", "connector/"),
        "close": ("breaker/",),
        "motor": ("drive/", "precharge"),
    }
    wanted = needs.get(first.step.kind, ())
    missing = [
        line for line in lines if line.state is not PartState.HAVE and line.part.key.startswith(wanted)
    ]
    if not wanted or not missing:
        return None
    names = ", ".join(line.part.name for line in missing[:3])
    return Finding(
        id="waits_for",
        level="note",
        title=sentence("Step {n} waits for parts", n=count(first.number)),
        detail=sentence(f"Not aboard yet: {names}."),
        why=_why("Parts of the kind that the next step joins, that are not noted as aboard", doc="parts"),
    )


def not_enough(lines: list[Line]) -> list[Finding]:
    """Bought fewer, or more, than the design has."""
    found = []
    for line in lines:
        if line.short and line.note is not None:
            more = line.short > 0
            found.append(
                Finding(
                    id=f"not_enough_{line.part.key}",
                    level="warn" if more else "note",
                    title=sentence(
                        "Bought: {b} × {name}, the design has {d}",
                        b=count(line.note.quantity),
                        name=words(line.part.name),
                        d=count(line.quantity),
                    ),
                    detail=sentence(
                        "Get the others, or change the design."
                        if more
                        else "Use the others, keep them as spares, or send them back."
                    ),
                    why=_why("What was noted as bought against what the design asks for", doc="parts"),
                )
            )
        elif line.gone and line.note is not None:
            found.append(
                Finding(
                    id=f"gone_{line.part.key}",
                    level="note",
                    title=sentence(
                        "{name} is bought, and no longer in the design", name=words(line.note.name)
                    ),
                    detail=sentence("The design has changed since. Use it, sell it, or put it back."),
                    why=_why("Notes of parts that the design asked for once", doc="parts"),
                )
            )
    return found


def over_budget(sums: Sums, records: Records) -> Finding | None:
    """The money against the budget."""
    budget = records.money.budget
    if budget is None:
        return None
    over = sums.cost - budget
    rest = f" {so_many(sums.no_price, 'line')} without a price yet: not in it." if sums.no_price else ""
    return Finding(
        id="over_budget",
        level="warn" if over > 0 else "good",
        title=sentence(
            "{m} over the budget" if over > 0 else "{m} of the budget are free", m=money(abs(over))
        ),
        detail=sentence(
            "With everything on order and to buy paid for: {c}, of it {g} at usual prices." + rest,
            c=money(sums.cost),
            g=money(sums.guessed),
            n=count(sums.no_price),
        ),
        why=_why("Price times pieces of every line", Fact(label="Budget", value=money(budget)), doc="parts"),
    )


def dearest(lines: list[Line], sums: Sums) -> Finding | None:
    """The system that takes the largest part of the money."""
    if sums.cost <= 0:
        return None
    by_system = {system: sums_of([line for line in lines if line.part.system is system]) for system in System}
    system, most = max(by_system.items(), key=lambda pair: pair[1].cost)
    if most.cost < DEAR_SHARE * sums.cost:
        return None
    return Finding(
        id="dearest",
        level="note",
        title=sentence(
            f"{system.label}: {{c}} of the money and {{m}} of what is weighed",
            c=fraction(most.cost / sums.cost),
            m=fraction(most.mass_kg / max(sums.mass_kg, 1e-9)),
        ),
        detail=sentence(
            "{c} and {m}, of {all} and {kg} in all."
            + (f" Not weighed yet: {so_many(sums.no_mass, 'line')}." if sums.no_mass else ""),
            **({"n": count(sums.no_mass)} if sums.no_mass else {}),
            c=money(most.cost),
            m=mass(most.mass_kg),
            all=money(sums.cost),
            kg=mass(sums.mass_kg),
        ),
        why=_why("Cost and mass of its lines over those of all", doc="parts"),
    )


def no_extinguisher(lines: list[Line], design: BoatDesign) -> Finding | None:
    """A lithium bank that is aboard before the extinguisher is."""
    lithium = any(CHEMICALS[bank.chemistry].lithium for bank in design.banks)
    have = {line.part.key for line in lines if line.state is PartState.HAVE}
    if not lithium or "safety/extinguisher" in have or not any(key.startswith("bank/") for key in have):
        return None
    return Finding(
        id="no_extinguisher",
        level="warn",
        caution=True,
        title=sentence("Nobody has the extinguisher yet"),
        detail=sentence(
            "A lithium bank is aboard: extinguisher and blanket before it is charged, in a shed or afloat."
        ),
        why=_why("The bank is noted as aboard, the extinguisher is not", doc="parts"),
    )


def used_panels(lines: list[Line], design: BoatDesign, records: Records) -> Finding | None:
    """Used panels that nobody has measured."""
    tested = {test.group_id for test in records.tests}
    used = [
        line
        for line in lines
        if line.note is not None
        and line.note.used
        and line.part.key.startswith("panels/")
        and line.part.key.removeprefix("panels/") not in tested
    ]
    if not used:
        return None
    return Finding(
        id="used_panels",
        level="note",
        title=sentence("Used panels: test before they go up"),
        detail=sentence(
            "{names}: open volts and short amps, one by one, under Bench tests.",
            names=words(", ".join(line.part.name for line in used)),
        ),
        why=_why("Panels noted as used, without a bench test of their kind", doc="bench-tests"),
    )


def sun_reading(gauges: list[Gauge]) -> list[Finding]:
    """What every reading under the sun means."""
    found = []
    for gauge in gauges:
        title, detail = gauge_words(gauge)
        says = gauge.meaning
        if title is None or detail is None or says is None or gauge.then is None:
            continue
        good = says.means in (Means.AS_EXPECTED, Means.BRIGHT)
        told = says.sound or says.cannot_tell or says.means in (Means.NIGHT, Means.UNCLEAR)
        found.append(
            Finding(
                id=f"sun_reading_{gauge.box.key}",
                level="good" if good else "note" if told else "warn",
                title=title,
                detail=detail,
                why=_why(
                    "The chain of the Day at one minute, drawn 400 times over sky, panels, dirt and heat; "
                    "each cause "
                    "moves volts and amps in its own way, the likeliest is named",
                    Fact(label="Middle", value=power(gauge.then.watts.middle)),
                    Fact(label="Fits best of the causes", value=fraction(says.odds)),
                    doc="first-sun",
                ),
            )
        )
    return found


def measured_panel(design: BoatDesign, records: Records) -> list[Finding]:
    """A tested panel that the design counts otherwise."""
    found = []
    seen: set[str] = set()
    for test in panel_tests(design, records):
        if test.found is None or test.group is None or test.group.id in seen:
            continue
        seen.add(test.group.id)
        share = test.found.share_of_label
        title, detail = test_words(test)
        off = (
            share is not None
            and not test.dim
            and abs(share - test.group.derate_frac) > max(DERATE_FROM, test.found.standard_spread)
        )
        if not off:
            continue
        found.append(
            Finding(
                id=f"measured_panel_{test.group.id}",
                level="note",
                title=title,
                detail=detail,
                why=_why(
                    "A single diode through the points, turned to standard conditions",
                    Fact(label="The design counts", value=fraction(test.group.derate_frac)),
                    doc="bench-tests",
                ),
                field=f"/panels/{test.group_index}/derate_frac",
            )
        )
    return found


def shock(steps: list[StepShown]) -> Finding | None:
    """Direct volts that hurt, at the steps that meet them."""
    most = max((step.step.live_v or 0.0 for step in steps), default=0.0)
    if most < LIVE_V:
        return None
    return Finding(
        id="shock",
        level="note",
        caution=True,
        title=sentence("{v} DC: shock, and arcs that do not stop", v=volts(most)),
        detail=sentence(
            "Live as soon as it is light. Open the breaker before parting a plug. Somebody with you; "
            "licensed "
            "hands where the law asks."
        ),
        why=_why(
            "The highest open volts on the coldest morning, and the banks' own",
            Fact(label="From", value=volts(LIVE_V)),
        ),
    )


def own_order(steps: list[StepShown]) -> Finding | None:
    """The maker's order, and whose work it is."""
    if len(steps) < 2:
        return None
    return Finding(
        id="own_order",
        level="note",
        caution=True,
        title=sentence("The maker's own order goes first"),
        detail=sentence(
            "Where it differs from this list. Check against the small-craft electrical standard in force "
            "where you "
            "are; fuse near the bank, tools insulated, never a plug apart under load."
        ),
        why=_why(
            "Usual order: loads off, controller to its bank, panels last; the other way round to take apart"
        ),
    )


def fitout_findings(design: BoatDesign, records: Records = NO_RECORDS) -> list[Finding]:
    """Everything that the Fit-out tells of a boat.

    Parameters
    ----------
    design : BoatDesign
    records : Records
    """
    lines = lines_of(design, records)
    sums = sums_of([line for line in lines if not line.gone])
    now = usual_now(design)
    steps = shown_steps(design, records, now)
    gauges = gauges_of(design, records, now)
    return ordered(
        [
            *wrong_reading(steps),
            opened_again(steps),
            *sun_reading(gauges),
            proved_well(steps),
            waits_for(steps, lines),
            *not_enough(lines),
            over_budget(sums, records),
            used_panels(lines, design, records),
            *measured_panel(design, records),
            *counted_banks(design, records),
            *thin_frame(design),
            unframed(design),
            metals_meet(design),
            dearest(lines, sums),
            no_extinguisher(lines, design),
            shock(steps),
            own_order(steps),
        ]
    )
