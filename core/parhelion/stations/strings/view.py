"""A design's wiring as its findings see it."""

from __future__ import annotations

from dataclasses import dataclass

from parhelion.balance.outlook import Outlook
from parhelion.design import BoatDesign
from parhelion.quantities import Fact, Why
from parhelion.wiring.circuits import Circuit, Wiring

SOURCE = "Usual rules of small-craft wiring; the standard in force where you are comes first."


@dataclass(frozen=True)
class WiringView:
    """A design's wiring, ready for the rules."""

    outlook: Outlook
    wiring: Wiring

    @property
    def design(self) -> BoatDesign:
        return self.outlook.design

    def panel_field(self, circuit: Circuit, entry: str) -> str:
        index = next(i for i, g in enumerate(self.design.panels) if g.id == circuit.group.id)
        return f"/panels/{index}/{entry}"

    def box_field(self, circuit: Circuit, entry: str) -> str:
        index = next(i for i, c in enumerate(self.design.controllers) if c.id == circuit.controller.id)
        return f"/controllers/{index}/{entry}"


def wiring_why(method: str, *facts: Fact) -> Why:
    return Why(method=method, source=SOURCE, inputs=list(facts), doc="wiring")
