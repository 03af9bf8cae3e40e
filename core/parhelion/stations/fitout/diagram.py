"""The one-line diagram that fills as it is proved, laid out from the steps."""

from __future__ import annotations

from typing import Literal

from parhelion.design import BoatDesign
from parhelion.diagnosis.inputs import inputs_of
from parhelion.stations.fitout.shown import CircuitBox, Diagram, DiagramBox
from parhelion.stations.fitout.steps import StepShown
from parhelion.wiring.circuits import Circuit

Kind = Literal["box", "bank", "motor", "house", "source", "link"]


def arrangement(circuit: Circuit, strings: int) -> str:
    """So many strings of a circuit in words."""
    if circuit.series > 1:
        return f"{strings} strings of {circuit.series}" if strings > 1 else f"{circuit.series} in series"
    return f"{strings} side by side" if strings > 1 else "one panel"


def diagram_of(design: BoatDesign, steps: list[StepShown]) -> Diagram:
    """Boxes in their places, each with the steps that prove it."""
    by_key = {shown.step.key: shown for shown in steps}

    def box(
        key: str, name: str, kind: Kind, bank: str | None, proofs: list[str], close: str = ""
    ) -> DiagramBox:
        mine = [by_key[proof] for proof in proofs if proof in by_key]
        shut = by_key.get(close)
        return DiagramBox(
            key=key,
            name=name,
            kind=kind,
            bank=bank,
            steps=[shown.number for shown in mine],
            done=bool(mine) and all(shown.done for shown in mine),
            wrong=any(shown.wrong for shown in mine),
            closed=shut is not None and shut.done,
            close_step=None if shut is None else shut.number,
        )

    circuits, boxes = [], []
    for given in inputs_of(design):
        for circuit in given.circuits:
            shown = by_key[f"strings/{circuit.key}"]
            circuits.append(
                CircuitBox(
                    key=circuit.key,
                    name=circuit.name,
                    arrangement=arrangement(circuit, circuit.strings),
                    box=given.key,
                    step=shown.number,
                    done=shown.done,
                    wrong=shown.wrong,
                )
            )
        controller, bank = given.circuits[0].controller, given.circuits[0].bank
        name = f"{given.boxes} × {controller.name}" if given.boxes > 1 else controller.name
        bank_id = None if bank is None else bank.id
        boxes.append(box(given.key, name, "box", bank_id, [f"box/{given.key}"], f"close/{given.key}"))
    for bank in design.banks:
        boxes.append(box(bank.id, bank.name, "bank", bank.id, [f"bank/{bank.id}", f"fuse/{bank.id}"]))
    main = design.banks[0].id if design.banks else None
    for drive in design.drives:
        boxes.append(box(drive.id, drive.name, "motor", main, [f"motor/{drive.id}"]))
    if "house" in by_key:
        house = design.house_bank or design.bank
        boxes.append(box("house", "House", "house", house.id if house else None, ["house"]))
    for source in design.sources:
        charged = design.bank_of(source)
        boxes.append(
            box(source.id, source.name, "source", charged.id if charged else None, [f"source/{source.id}"])
        )
    for link in design.links:
        boxes.append(box(link.id, "Converter", "link", link.to_bank_id, [f"link/{link.id}"]))
    return Diagram(circuits=circuits, boxes=boxes)
