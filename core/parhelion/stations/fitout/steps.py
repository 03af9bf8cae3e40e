"""The order of connecting: everything open, the bank first, each controller on its bank, the panels last.

A controller is never shown panels before it has its bank. Every step says what to check, with what on the
meter, what it should say now, and what a wrong reading means. A step is proved by notes of what was proved;
where the design has changed since, it is open again.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field, replace

from parhelion.bank.store import open_circuit_v, store_of
from parhelion.design import Bank, BoatDesign, ControllerKind, SourceKind
from parhelion.design.records import Records, StepNote
from parhelion.diagnosis.expected import Expected
from parhelion.diagnosis.inputs import Input, inputs_of
from parhelion.diagnosis.reading import Means, Zone, open_meaning, open_zones
from parhelion.quantities import so_many
from parhelion.stations.fitout.now import Now, expected_of, then_of
from parhelion.stations.fitout.parts import PRECHARGE_OVER_A
from parhelion.wiring.by_itself import absorption_v
from parhelion.wiring.charging import charge_settings
from parhelion.wiring.circuits import Circuit, wiring_of

LIVE_V = 60.0  # from which direct current is a shock hazard, and its arcs do not stop
BANK_C = 20.0
EMPTY_SOC, FULL_SOC = 0.05, 1.0
METER_OFF_V = 0.15  # what a controller's display may differ from the meter at the bank
BLANK_FRAC = 0.1
GUESSED = (
    " The volts of these panels are guessed from their watts: read the label first, write it in the Array."
)


@dataclass(frozen=True)
class Item:
    """One thing of a step: a reading where `zones` says what it may be, else a tick."""

    key: str
    name: str
    of: str  # what it is; a note of another one proves nothing any more
    unit: str | None = None
    zones: tuple[Zone, ...] = ()
    expected: Expected | None = None
    circuit: Circuit | None = None


@dataclass(frozen=True)
class Step:
    """One step, in its place in the order."""

    key: str
    kind: str
    title: str
    what: str
    meter: str = ""
    items: tuple[Item, ...] = ()
    live_v: float | None = None  # direct volts that a hand may meet
    on: str | None = None  # what of the diagram it proves: a bank, a box, a circuit, a motor
    back: str = ""  # the same step in the order of taking apart


@dataclass(frozen=True)
class Proved:
    """An item with its note and what the reading means."""

    item: Item
    note: StepNote | None
    means: Means | None  # None for a tick, or where nothing was read
    stale: bool = False  # proved, but it was something else then

    @property
    def good(self) -> bool:
        return self.note is not None and not self.stale and self.means in (None, Means.AS_EXPECTED)

    @property
    def wrong(self) -> bool:
        return self.note is not None and not self.stale and not self.good


@dataclass(frozen=True)
class StepShown:
    """A step with what was proved of it."""

    step: Step
    number: int
    items: tuple[Proved, ...] = field(default=())

    @property
    def done(self) -> bool:
        return all(item.good for item in self.items)

    @property
    def wrong(self) -> bool:
        return any(item.wrong for item in self.items)

    @property
    def stale(self) -> bool:
        return any(item.stale for item in self.items)


def bank_window(bank: Bank) -> tuple[float, float]:
    """Volts at rest that a bank in order may show: nearly empty to just charged [V]."""
    store = store_of(bank, BANK_C)
    low = bank.empty_v or open_circuit_v(EMPTY_SOC, store)
    high = bank.full_v or open_circuit_v(FULL_SOC, store)
    return low, max(high, absorption_v(bank))


def bank_zones(bank: Bank) -> tuple[Zone, ...]:
    """What a meter at the posts of a bank may show."""
    low, high = bank_window(bank)
    blank = BLANK_FRAC * bank.nominal_v
    found = [
        Zone(-high, -low, Means.REVERSED),
        Zone(-blank, blank, Means.NO_VOLTS),
        Zone(low, high, Means.AS_EXPECTED),
    ]
    for missing in range(1, bank.series):
        share = 1 - missing / bank.series
        found.append(Zone(low * share, high * share, Means.UNIT_MISSING))
    return tuple(sorted(found))


def start_v(circuit: Circuit) -> float | None:
    """Volts that a tracking controller wants before it begins: the bank's and its headroom over them."""
    if circuit.bank is None or circuit.controller.kind is not ControllerKind.MPPT:
        return None
    return bank_window(circuit.bank)[0] + circuit.controller.headroom_v


def _tick(key: str, name: str, of: str = "") -> Item:
    return Item(key, name, of or name)


def _bank_of(bank: Bank) -> str:
    return f"{bank.series} x {bank.parallel} x {bank.unit_v:g} V {bank.unit_ah:g} Ah {bank.chemistry.value}"


def _banks(design: BoatDesign) -> Iterator[Step]:
    wiring = wiring_of(design)
    for bank, run in zip(design.banks, wiring.bank_runs, strict=True):
        of = _bank_of(bank)
        alike = ""
        if bank.parallel > 1:
            alike = " Units that are joined in parallel stand within 0.1 V of each other first."
        yield Step(
            key=f"bank/{bank.id}",
            kind="bank",
            title=f"{bank.name}: volts and polarity",
            on=bank.id,
            what=f"Fuse out, then read the posts of the bank.{alike}",
            meter="Meter on DC volts, red on plus, black on minus.",
            items=(Item("posts", "at the posts", of, "V", bank_zones(bank)),),
            live_v=bank.nominal_v,
            back=f"{bank.name}: fuse out, posts covered",
        )
        amps = run.cable.fuse_a
        yield Step(
            key=f"fuse/{bank.id}",
            kind="fuse",
            title=f"{bank.name}: main fuse",
            on=bank.id,
            what="Fuse close to the post, then the disconnect. Nothing may spark: all that follows is still "
            "off.",
            items=(
                _tick(
                    "fuse",
                    f"fuse of {amps:g} A in its holder" if amps else "no fuse this large: two runs",
                    f"fuse {amps} A",
                ),
            ),
            live_v=bank.nominal_v,
            back=f"{bank.name}: disconnect off, then its fuse out",
        )


def _boxes(inputs: list[Input]) -> Iterator[Step]:
    for box in inputs:
        first = box.circuits[0]
        bank = first.bank
        if bank is None:
            continue
        settings = charge_settings(bank)
        profile = f"{settings.absorption_v:.1f} V absorption, {settings.float_v:.1f} V float"
        low, high = bank_window(bank)
        zones = (
            Zone(-METER_OFF_V, BLANK_FRAC * bank.nominal_v, Means.NO_VOLTS),
            Zone(low - METER_OFF_V, high + METER_OFF_V, Means.AS_EXPECTED),
        )
        of = f"{first.controller.name} on {_bank_of(bank)}"
        items: list[Item] = []
        for number in range(1, box.boxes + 1):
            each = f" {number}" if box.boxes > 1 else ""
            items += [
                Item(f"sees{number}", f"box{each} sees the bank", of, "V", zones),
                _tick(f"set{number}", f"box{each} set: {profile}", f"{of}: {profile}"),
            ]
        yield Step(
            key=f"box/{box.key}",
            kind="box",
            title=f"{first.controller.name}: awake, on its bank",
            on=box.key,
            what=f"Its bank side only. It wakes, shows the bank's volts, and is set for "
            f"{bank.chemistry.label}.",
            meter="Its own display, beside the volts that were read at the posts.",
            items=tuple(items),
            live_v=bank.nominal_v,
            back=f"{first.controller.name}: off its bank, after its panels",
        )


def _joined(design: BoatDesign) -> Iterator[Step]:
    names = {bank.id: bank.name for bank in design.banks}
    for link in design.links:
        between = f"{names[link.from_bank_id]} to {names[link.to_bank_id]}"
        yield Step(
            key=f"link/{link.id}",
            kind="link",
            title=f"Converter: {between}",
            on=link.id,
            what="Both banks are proved and fused. Input side first, then output; then its switch.",
            items=(_tick("on", "both sides right, it delivers", f"{between} {link.limit_w:g} W"),),
            back=f"Converter, {between}: switch off, output, input",
        )
    for source in design.sources:
        wind = source.kind is SourceKind.WIND
        yield Step(
            key=f"source/{source.id}",
            kind="source",
            title=source.name,
            on=source.id,
            what="Braked or lashed, never turning. Its dump load first, then the bank, then let it turn."
            if wind
            else "Bank side first, profile set as on the controllers; then plug it in, and see amps flow.",
            items=(
                _tick(
                    "on",
                    "dump load joined, brake tried" if wind else "profile set, charging seen",
                    f"{source.kind.value} {source.rated_power_w:g} W",
                ),
            ),
            back=f"{source.name}: "
            + ("braked first, then off the bank" if wind else "unplugged, then off the bank"),
        )


def _wired(circuit: Circuit) -> str:
    panel = circuit.string
    return f"{circuit.strings} x {circuit.series} in series, {panel.open_v:.1f} V {panel.short_a:.1f} A"


def _strings(design: BoatDesign, inputs: list[Input], now: Now) -> Iterator[Step]:
    for box in inputs:
        for circuit in box.circuits:
            one = expected_of(design, circuit, now, 1)
            zones = () if one is None or one.dark else tuple(open_zones(one))
            names = [
                f"String {chr(65 + i)}" if circuit.strings <= 26 else f"String {i + 1}"
                for i in range(circuit.strings)
            ]
            items = tuple(
                Item(f"string{i + 1}", name, _wired(circuit), "V", zones, one, circuit)
                for i, name in enumerate(names)
            )
            yield Step(
                key=f"strings/{circuit.key}",
                kind="strings",
                on=circuit.key,
                title=f"{circuit.name}: volts and polarity",
                what="The breaker stays open. String by string, at the plugs, before they are joined."
                + ("" if circuit.string.given else GUESSED),
                meter=f"Meter on DC volts, a range above {circuit.cold_v:.0f} V. Red on plus, black on "
                f"minus.",
                items=items,
                live_v=circuit.cold_v,
                back=f"{circuit.name}: plugs apart, one string after the other, breaker open",
            )
        breaker = box.circuits[0].breaker_a
        guard = f"breaker of {breaker:g} A" if breaker else "breaker"
        yield Step(
            key=f"close/{box.key}",
            kind="close",
            title=f"{box.name}: close the breaker",
            on=box.key,
            what="Every string of it is proved. Close, and watch the controller: watts appear within a "
            "minute.",
            items=(_tick("closed", f"{guard} closed, watts appear", f"{guard} {box.key}"),),
            live_v=max(circuit.cold_v for circuit in box.circuits),
            back=f"{box.name}: open the breaker first of all",
        )


def _users(design: BoatDesign) -> Iterator[Step]:
    wiring = wiring_of(design)
    for drive, run in zip(design.drives, wiring.motor_runs, strict=False):
        fuse = run.cable.fuse_a
        of = f"{drive.count} x {drive.name}, fuse {fuse}"
        large = run.current_a > PRECHARGE_OVER_A
        yield Step(
            key=f"motor/{drive.id}",
            kind="motor",
            title=f"{drive.name}: precharge, then its switch" if large else f"{drive.name}: its switch",
            on=drive.id,
            what="Propeller clear, nobody near it, lever at stop. "
            + ("Precharge, main switch, then" if large else "Its switch, then")
            + " slowly ahead and astern: does it turn the right way?",
            items=(_tick("turns", "turns the right way, stops at once", of),),
            live_v=design.banks[0].nominal_v,
            back=f"{drive.name}: lever at stop, main switch off",
        )
    if design.loads and design.banks:
        names = ", ".join(load.name for load in design.loads[:4])
        count = len(design.loads)
        yield Step(
            key="house",
            kind="house",
            title="House loads, one by one",
            on="house",
            what=f"One switch after the other, watching the meter: {names}.",
            items=(_tick("on", "each draws what it should", so_many(count, "load").format(n=count)),),
            back="House loads off, one by one",
        )


def steps_of(design: BoatDesign, now: Now) -> list[Step]:
    """The order of connecting a boat, first to last.

    Parameters
    ----------
    design : BoatDesign
    now : Now
        The minute whose volts are expected.
    """
    inputs = inputs_of(design)
    first = Step(
        key="open",
        kind="open",
        title="Loads off, every breaker and switch open",
        what="Nothing is joined that is not meant to be. Panels covered, or their breakers locked open. "
        "Rings off, "
        "tools insulated, somebody with you.",
        items=(_tick("open", "all open, panels covered", "open"),),
        back="Cover the panels",
    )
    without = [] if design.banks else list(_direct(design, inputs, now))
    found = [first, *_banks(design)]
    if design.banks:
        found += [*_boxes(inputs), *_joined(design), *_users(design), *_strings(design, inputs, now)]
    return [*found, *without]


def _direct(design: BoatDesign, inputs: list[Input], now: Now) -> Iterator[Step]:
    """Panels on the motor with no bank between."""
    for drive in design.drives:
        yield Step(
            key=f"motor/{drive.id}",
            kind="motor",
            title=f"{drive.name}: its converter's motor side",
            on=drive.id,
            what="Lever at stop. The converter's motor side first; its panel side stays open.",
            items=(_tick("joined", "motor side joined, lever at stop", drive.name),),
            back=f"{drive.name}: lever at stop, motor side off last",
        )
    yield from _strings(design, inputs, now)


def _means(design: BoatDesign, item: Item, note: StepNote, reading: float, now: Now) -> Means:
    if item.circuit is not None:
        minute = replace(now, at=note.at) if note.seen is None else then_of(note.at, note.seen)
        then = expected_of(design, item.circuit, minute, 1)
        if then is None:
            return Means.UNCLEAR
        said = open_meaning(then, reading)
        starts = start_v(item.circuit)
        low = said is Means.AS_EXPECTED and starts is not None and reading < starts
        return Means.BELOW_BANK if low else said
    inside = [zone for zone in item.zones if zone.from_v <= reading <= zone.to_v]
    if not inside:
        return Means.UNCLEAR
    sound = [zone for zone in inside if zone.means is Means.AS_EXPECTED]
    return (sound or inside)[0].means


def _proved(design: BoatDesign, step: Step, item: Item, records: Records, now: Now) -> Proved:
    note = records.steps.get((step.key, item.key))
    if note is None:
        return Proved(item, None, None)
    stale = note.of != item.of
    if item.unit is None:
        return Proved(item, note, None, stale)
    if note.reading is None:
        return Proved(item, None, None)
    return Proved(item, note, _means(design, item, note, note.reading, now), stale)


def shown_steps(design: BoatDesign, records: Records, now: Now) -> list[StepShown]:
    """The steps with what was proved of each.

    A string's volts are judged at the minute and under the sky they were read in; the band that is drawn
    is that of `now`.
    """
    return [
        StepShown(step, number, tuple(_proved(design, step, item, records, now) for item in step.items))
        for number, step in enumerate(steps_of(design, now), start=1)
    ]


def next_step(steps: list[StepShown]) -> StepShown | None:
    """The first that is not proved; None once all are."""
    return next((step for step in steps if not step.done), None)
