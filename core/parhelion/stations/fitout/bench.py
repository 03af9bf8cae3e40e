"""Bench tests of the boat's panels: what each gives beside its label, and what to make of it."""

from __future__ import annotations

from dataclasses import dataclass
from math import pi

from parhelion.bank.counted import Counted, counted
from parhelion.computing.kept import kept_by_arguments
from parhelion.design import Bank, BoatDesign, Drive, PanelGroup
from parhelion.design.records import BankTestNote, MotorTestNote, Records, TestNote
from parhelion.drive.bollard import Bollard, bollard
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


@dataclass(frozen=True)
class BankTest:
    """A count with what it comes to."""

    note: BankTestNote
    bank: Bank | None
    bank_index: int | None
    found: Counted | None


@dataclass(frozen=True)
class MotorTest:
    """A motor's test with what it comes to."""

    note: MotorTestNote
    drive: Drive | None
    drive_index: int | None
    found: Bollard | None


def bank_tests(design: BoatDesign, records: Records) -> list[BankTest]:
    """Every count of a boat's banks, newest first."""
    made = []
    for note in sorted(records.bank_tests, key=lambda note: note.at, reverse=True):
        index = next((i for i, bank in enumerate(design.banks) if bank.id == note.bank_id), None)
        bank = None if index is None else design.banks[index]
        found = None
        if bank is not None and note.counted_ah is not None:
            found = counted(bank, note.counted_ah, note.hours, note.temperature_c)
        made.append(BankTest(note, bank, index, found))
    return made


def motor_tests(design: BoatDesign, records: Records) -> list[MotorTest]:
    """Every test of a boat's motors, newest first."""
    made = []
    for note in sorted(records.motor_tests, key=lambda note: note.at, reverse=True):
        index = next((i for i, drive in enumerate(design.drives) if drive.id == note.drive_id), None)
        drive = None if index is None else design.drives[index]
        found = None
        if drive is not None:
            disc = None if drive.propeller is None else pi / 4 * drive.propeller.diameter_m**2
            found = bollard(
                note.volts, note.amps, note.pull_n, disc, design.water_density_kg_per_m3, note.no_load_rpm,
                note.no_load_v, note.air_c, note.warm_c,
            )  # fmt: skip
        made.append(MotorTest(note, drive, index, found))
    return made


def label_of(group: PanelGroup) -> Label:
    """What the label of a panel of the design says."""
    amps_per_k = group.current_coefficient_per_k
    return Label(panel_volts(group)) if amps_per_k is None else Label(panel_volts(group), amps_per_k)


def panel_tests(design: BoatDesign, records: Records) -> list[PanelTest]:
    """Every test of a boat's panels, newest first."""
    return [_test(design, note) for note in sorted(records.tests, key=lambda note: note.at, reverse=True)]


@kept_by_arguments(64)
def _tested(
    label: Label, points: tuple[tuple[float, float], ...], light_w_per_m2: float | None, cell_c: float,
    light_known_frac: float,
) -> Tested:  # fmt: skip
    volts, amps = [v for v, _ in points], [a for _, a in points]
    return tested(label, volts, amps, light_w_per_m2, cell_c, light_known_frac)


def _test(design: BoatDesign, note: TestNote) -> PanelTest:
    index = next((i for i, group in enumerate(design.panels) if group.id == note.group_id), None)
    if index is None:
        return PanelTest(
            note, None, None, None, "Say which of the design's panels it is: the label is theirs."
        )
    group = design.panels[index]
    try:
        found = _tested(
            label_of(group), note.points, note.irradiance_w_per_m2, note.cell_c, note.light_known_frac
        )
    except ValueError:
        words = "Two points at the least: amps with the leads shorted (0 V), and volts with them open (0 A)."
        return PanelTest(note, group, index, None, words)
    return PanelTest(note, group, index, found)
