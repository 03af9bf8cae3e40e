"""The voltage ladder of every controller and the one-line diagram, drawn from the design."""

from __future__ import annotations

from dataclasses import asdict

from parhelion.balance.outlook import Outlook
from parhelion.bank.store import resistance_of
from parhelion.design import BoatDesign, ControllerKind, SourceKind
from parhelion.quantities import Frozen
from parhelion.wiring.cables import Cable, gauge
from parhelion.wiring.charging import charge_settings
from parhelion.wiring.circuits import Circuit, Run, wiring_of
from parhelion.wiring.parts import parts_of
from parhelion.wiring.strings import Numbered, by_hand, loose_panels, strings_of


class Rungs(Frozen):
    """One string between its controller and the bank [V]."""

    key: str
    group_id: str
    controller_id: str
    name: str
    controller: str
    series: int
    strings: int
    boxes: int
    left_over: int
    nameplate_w: float
    cold_v: float
    noon_v: float
    hot_v: float
    limit_v: float | None
    needs_v: float | None
    given: bool  # whether the volts are the datasheet's
    over: bool
    low: bool


class Wire(Frozen):
    """A cable on the diagram."""

    size_mm2: float
    gauge: str
    length_m: float
    length_given: bool
    current_a: float
    drop_v: float
    drop_frac: float
    loss_w: float
    fuse_a: float | None
    reason: str


class Line(Frozen):
    """Panels, their controller and the bank they feed: one line of the diagram."""

    key: str
    group_id: str
    panels: str
    arrangement: str
    breaker_a: float | None
    string_fuse: bool | None
    cable: Wire
    controller_id: str
    controller: str
    kind: ControllerKind
    boxes: int
    out: Wire | None
    bank_id: str | None
    alarm: bool


class BankBox(Frozen):
    id: str
    name: str
    nominal_v: float
    capacity_ah: float
    chemistry: str
    absorption_v: float
    absorption_h: float
    float_v: float
    equalise_v: float | None
    compensation_v_per_k: float | None
    no_charge_below_c: float
    no_charge_above_c: float
    cut_out_v: float
    resume_v: float
    wire: Wire  # from the bank to its bus
    short_a: float  # of a dead short: its fuse must be able to break that


class Converter(Frozen):
    """What joins two banks, with its cables."""

    id: str
    from_bank_id: str
    to_bank_id: str
    watts: float
    in_wire: Wire
    out_wire: Wire


class Charger(Frozen):
    """Another source of charge at its bank."""

    id: str
    name: str
    kind: SourceKind
    watts: float
    bank_id: str
    wire: Wire


class Consumer(Frozen):
    """A motor or the house."""

    name: str
    kind: str
    watts: float
    bank_id: str | None
    cable: Wire | None


class PartRow(Frozen):
    """One row of the parts list."""

    kind: str
    item: str
    quantity: float
    unit: str
    where: str


class BoardPanel(Frozen):
    """One panel on the wiring board."""

    group_id: str
    number: int
    label: str
    nameplate_w: float


class BoardString(Frozen):
    """Panels in series on a controller."""

    id: str
    controller_id: str
    panels: list[BoardPanel]


class Board(Frozen):
    """Every panel in its string, and those in none."""

    by_hand: bool
    strings: list[BoardString]
    loose: list[BoardPanel]


class StringsPicture(Frozen):
    """Everything the Strings station shows."""

    board: Board

    rungs: list[Rungs]
    lines: list[Line]
    banks: list[BankBox]
    consumers: list[Consumer]
    converters: list[Converter]
    chargers: list[Charger]
    parts: list[PartRow]


def _wire(cable: Cable, length_m: float, given: bool, current_a: float) -> Wire:
    return Wire(
        size_mm2=cable.size_mm2,
        gauge=gauge(cable.size_mm2),
        length_m=length_m,
        length_given=given,
        current_a=current_a,
        drop_v=cable.drop_v,
        drop_frac=cable.drop_frac,
        loss_w=cable.drop_v * current_a,
        fuse_a=cable.fuse_a,
        reason=cable.reason,
    )


def _rungs(circuit: Circuit) -> Rungs:
    limit, needs = circuit.limit_v, circuit.needs_v
    return Rungs(
        key=circuit.key,
        group_id=circuit.group.id,
        controller_id=circuit.controller.id,
        name=circuit.name,
        controller=circuit.controller.name,
        series=circuit.series,
        strings=circuit.strings,
        boxes=circuit.controller.count,
        left_over=circuit.left_over,
        nameplate_w=circuit.nameplate_w,
        cold_v=circuit.cold_v,
        noon_v=circuit.noon_v,
        hot_v=circuit.hot_v,
        limit_v=limit,
        needs_v=needs,
        given=circuit.string.given,
        over=limit is not None and circuit.cold_v > limit,
        low=needs is not None and circuit.hot_v < needs,
    )


def _arrangement(circuit: Circuit) -> str:
    if circuit.series == 1:
        return f"{circuit.strings} side by side" if circuit.strings > 1 else "one panel"
    return f"{circuit.series} in series" + (f", {circuit.strings} strings" if circuit.strings > 1 else "")


def _line(circuit: Circuit) -> Line:
    place, box = circuit.place, circuit.controller
    amps = circuit.string.best_a * max(circuit.per_box, 1)
    run = circuit.run_m
    out = None
    if circuit.out is not None and circuit.charge_a is not None:
        out = _wire(circuit.out, circuit.out_m, box.cable_m is not None, circuit.charge_a)
    rungs = _rungs(circuit)
    return Line(
        key=circuit.key,
        group_id=circuit.group.id,
        panels=circuit.name,
        arrangement=_arrangement(circuit),
        breaker_a=circuit.breaker_a,
        string_fuse=circuit.string_fused,
        cable=_wire(circuit.cable, run, place.cable_m is not None, amps),
        controller_id=box.id,
        controller=box.name,
        kind=box.kind,
        boxes=box.count,
        out=out,
        bank_id=circuit.bank.id if circuit.bank else None,
        alarm=rungs.over or rungs.low or bool(circuit.left_over),
    )


def _run_wire(run: Run) -> Wire:
    return _wire(run.cable, run.length_m, run.length_given, run.current_a)


def _consumers(design: BoatDesign, motors: tuple[Run, ...]) -> list[Consumer]:
    bank = design.bank
    found = []
    for run, drive in zip(motors, design.drives, strict=True) if bank is not None else ():
        assert bank is not None
        name = f"{drive.count} × {drive.name}" if drive.count > 1 else drive.name
        found.append(
            Consumer(
                name=name,
                kind="motor",
                watts=run.current_a * bank.nominal_v * drive.count,
                bank_id=bank.id,
                cable=_run_wire(run),
            )
        )
    by_bank: dict[str | None, float] = {}
    for load in design.loads:
        key = design.load_bank_id(load)
        by_bank[key] = by_bank.get(key, 0.0) + load.drawn_w
    for key, watts in by_bank.items():
        found.append(Consumer(name="House", kind="house", watts=watts, bank_id=key, cable=None))
    return found


def _board(design: BoatDesign) -> Board:
    def panel(numbered: Numbered) -> BoardPanel:
        group, number = numbered
        label = f"{design.place(group.place_id).name} {number + 1}"
        return BoardPanel(group_id=group.id, number=number, label=label, nameplate_w=group.nameplate_w)

    return Board(
        by_hand=by_hand(design),
        strings=[
            BoardString(id=s.id, controller_id=s.controller_id, panels=[panel(item) for item in s.panels])
            for s in strings_of(design)
        ],
        loose=[panel(item) for item in loose_panels(design)],
    )


def strings_picture(outlook: Outlook) -> StringsPicture:
    """Everything the Strings station shows of a design.

    Parameters
    ----------
    outlook : Outlook

    Returns
    -------
    StringsPicture
    """
    design = outlook.design
    wiring = wiring_of(design)
    boxes = []
    for bank, run in zip(design.banks, wiring.bank_runs, strict=True):
        boxes.append(
            BankBox(
                id=bank.id,
                name=bank.name,
                nominal_v=bank.nominal_v,
                capacity_ah=bank.capacity_ah,
                chemistry=bank.chemistry.label,
                **asdict(charge_settings(bank)),
                wire=_run_wire(run),
                short_a=bank.short_circuit_a or bank.nominal_v / resistance_of(bank),
            )
        )
    converters = [
        Converter(
            id=link.id, from_bank_id=link.from_bank_id, to_bank_id=link.to_bank_id, watts=link.limit_w,
            in_wire=_run_wire(into), out_wire=_run_wire(out),
        )
        for link, (into, out) in zip(design.links, wiring.link_runs, strict=False)
    ]  # fmt: skip
    chargers = [
        Charger(
            id=source.id, name=source.name, kind=source.kind, watts=source.rated_power_w,
            bank_id=charged.id, wire=_run_wire(wire),
        )
        for source, wire in zip(design.sources, wiring.source_runs, strict=False)
        if wire is not None and (charged := design.bank_of(source)) is not None
    ]  # fmt: skip
    return StringsPicture(
        board=_board(design),
        rungs=[_rungs(circuit) for circuit in wiring.circuits],
        lines=[_line(circuit) for circuit in wiring.circuits],
        banks=boxes,
        consumers=_consumers(design, wiring.motor_runs),
        converters=converters,
        chargers=chargers,
        parts=[PartRow(**asdict(part)) for part in parts_of(wiring)],
    )
