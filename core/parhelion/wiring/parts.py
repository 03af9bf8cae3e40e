"""What a wiring is made of: the seed of a shopping list, counted from the same circuits that are drawn."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable
from dataclasses import dataclass
from math import ceil

from parhelion.wiring.cables import Cable, gauge
from parhelion.wiring.circuits import Circuit, Run, Wiring

SLACK = 1.1  # of cable over the run
LUGS_A_RUN = 4  # both ends of both conductors


@dataclass(frozen=True)
class Part:
    """One row of the list."""

    kind: str
    item: str
    quantity: float
    unit: str
    where: str


def _metres(cable: Cable, length_m: float, runs: int, where: str) -> Part:
    size = f"cable {cable.size_mm2:g} mm² (AWG {gauge(cable.size_mm2)})"
    return Part("cable", size, ceil(2 * length_m * runs * SLACK), "m", where)


def _of_circuit(circuit: Circuit) -> Iterable[Part]:
    box, where = circuit.controller, circuit.name
    panels = Counter(group.model or f"panel of {group.nameplate_w:g} W" for group in circuit.groups)
    for name, in_each in panels.items():
        yield Part("panel", name, in_each * circuit.strings + circuit.left_over, "pieces", where)
    yield _metres(circuit.cable, circuit.run_m, box.count, where)
    if circuit.strings:
        yield Part("connector", "panel connectors, pairs", circuit.strings + box.count, "pieces", where)
    if circuit.string_fused:
        yield Part(
            "fuse", f"string fuse {circuit.group.most_fuse_a or 15:g} A", circuit.strings, "pieces", where
        )
    if circuit.breaker_a is not None:
        yield Part(
            "breaker", f"breaker {circuit.breaker_a:g} A, both poles, for DC", box.count, "pieces", where
        )


def _of_box(circuit: Circuit) -> Iterable[Part]:
    box = circuit.controller
    yield Part("controller", box.name, box.count, "pieces", circuit.name)
    if circuit.out is None:
        return
    where = f"{box.name} to the bank"
    yield _metres(circuit.out, circuit.out_m, box.count, where)
    if circuit.out.fuse_a is not None:
        yield Part("fuse", f"fuse {circuit.out.fuse_a:g} A with holder", box.count, "pieces", where)
    yield Part("lug", f"cable lug for {circuit.out.size_mm2:g} mm²", LUGS_A_RUN * box.count, "pieces", where)


def _of_run(run: Run, count: int, where: str) -> Iterable[Part]:
    yield _metres(run.cable, run.length_m, count, where)
    if run.cable.fuse_a is not None:
        yield Part("fuse", f"fuse {run.cable.fuse_a:g} A with holder", count, "pieces", where)
    yield Part("lug", f"cable lug for {run.cable.size_mm2:g} mm²", LUGS_A_RUN * count, "pieces", where)


def parts_of(wiring: Wiring) -> list[Part]:
    """Every part of a wiring, panels first; cable with a tenth to spare, in whole metres for both conductors.

    Parameters
    ----------
    wiring : Wiring
    """
    found: list[Part] = []
    boxes: set[str] = set()
    for circuit in wiring.circuits:
        found += _of_circuit(circuit)
        if circuit.controller.id not in boxes:
            boxes.add(circuit.controller.id)
            found += _of_box(circuit)
    for run in wiring.bank_runs:
        found += _of_run(run, 1, f"{run.name} to its bus")
        found.append(Part("switch", "battery disconnect", 1, "pieces", run.name))
    for run in wiring.motor_runs:
        found += _of_run(run, 1, f"bus to {run.name}")
    for pair in wiring.link_runs:
        for run in pair:
            found += _of_run(run, 1, run.name)
    for source in wiring.source_runs:
        found += _of_run(source, 1, source.name) if source is not None else []
    order = ("panel", "controller", "breaker", "fuse", "switch", "cable", "connector", "lug")
    return sorted(found, key=lambda part: order.index(part.kind))
