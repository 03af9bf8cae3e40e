"""Bench tests of the boat's panels: what each gives beside its label, and what to make of it."""

from __future__ import annotations

from dataclasses import dataclass

from parhelion.design import BoatDesign, PanelGroup
from parhelion.design.records import Records, TestNote
from parhelion.panels.measured import DIM_W_PER_M2, Label, Tested, tested
from parhelion.wiring.panel_volts import panel_volts


@dataclass(frozen=True)
class PanelTest:
    """A test with what it found; `problem` says what is missing of it."""

    note: TestNote
    group: PanelGroup | None
    group_index: int | None
    found: Tested | None
    problem: str | None = None

    @property
    def dim(self) -> bool:
        light = self.note.irradiance_w_per_m2
        return light is not None and light < DIM_W_PER_M2


def label_of(group: PanelGroup) -> Label:
    """What the label of a panel of the design says."""
    amps_per_k = group.current_coefficient_per_k
    return Label(panel_volts(group)) if amps_per_k is None else Label(panel_volts(group), amps_per_k)


def panel_tests(design: BoatDesign, records: Records) -> list[PanelTest]:
    """Every test of a boat's panels, newest first."""
    return [_test(design, note) for note in sorted(records.tests, key=lambda note: note.at, reverse=True)]


def _test(design: BoatDesign, note: TestNote) -> PanelTest:
    index = next((i for i, group in enumerate(design.panels) if group.id == note.group_id), None)
    if index is None:
        return PanelTest(
            note, None, None, None, "Say which of the design's panels it is: the label is theirs."
        )
    group = design.panels[index]
    volts, amps = [v for v, _ in note.points], [a for _, a in note.points]
    try:
        found = tested(
            label_of(group), volts, amps, note.irradiance_w_per_m2, note.cell_c, note.light_known_frac
        )
    except ValueError:
        words = "Two points at the least: amps with the leads shorted (0 V), and volts with them open (0 A)."
        return PanelTest(note, group, index, None, words)
    return PanelTest(note, group, index, found)
