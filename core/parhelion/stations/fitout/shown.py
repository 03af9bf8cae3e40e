"""What the Fit-out shows, as plain data: parts, steps, the minute, gauges, bench tests, the last list."""

from __future__ import annotations

from datetime import date as Date
from datetime import datetime
from typing import Literal

from parhelion.design.records import HandShadow, PartState, SunNote, System, TestNote
from parhelion.diagnosis.reading import Means
from parhelion.panels.measured import Verdict
from parhelion.quantities import Frozen, Sentence
from parhelion.rail.models import RailCell


class PartLine(Frozen):
    """A line of the parts list."""

    key: str
    name: str
    system: System
    quantity: float
    unit: str
    price: float | None
    cost: float | None
    mass_kg: float | None  # of all of it
    each_kg: float | None
    state: PartState
    used: bool
    due: Date | None
    note: str
    link: str
    note_id: str | None
    bought: float | None  # how many, where a note says
    price_at: str | None
    mass_at: str | None
    guessed: bool
    own: bool
    gone: bool
    short: float
    why: str


class SystemSum(Frozen):
    """One system's lines and sums."""

    system: System
    label: str
    lines: list[PartLine]
    cost: float
    paid: float
    ordered: float
    to_buy: float
    mass_kg: float
    no_price: int
    no_mass: int  # lines nobody has weighed


class Money(Frozen):
    currency: str
    budget: float | None
    cost: float
    paid: float
    ordered: float
    to_buy: float
    guessed: float
    mass_kg: float
    no_price: int
    no_mass: int  # lines nobody has weighed
    have: int
    on_order: int
    missing: int


class ZoneShown(Frozen):
    from_v: float
    to_v: float
    means: Means
    label: str


class ItemShown(Frozen):
    """One thing of a step."""

    key: str
    name: str
    of: str
    unit: str | None
    note_id: str | None
    at: datetime | None
    by: str
    note: str
    reading: float | None
    means: Means | None
    verdict: str  # in words; empty for a tick, or where nothing was read
    check: str
    good: bool
    wrong: bool
    stale: bool
    zones: list[ZoneShown]
    expected_v: tuple[float, float] | None
    limit_v: float | None
    cold_v: float | None


class StepOut(Frozen):
    key: str
    kind: str
    number: int
    title: str
    what: str
    meter: str
    on: str | None
    live_v: float | None  # only where they are a shock hazard
    back: str
    done: bool
    wrong: bool
    stale: bool
    items: list[ItemShown]


class CircuitBox(Frozen):
    """Strings alike on the diagram."""

    key: str
    name: str
    arrangement: str
    box: str
    step: int
    done: bool
    wrong: bool


class DiagramBox(Frozen):
    """A controller, a bank, a motor or the house on the diagram, with the steps that prove it."""

    key: str
    name: str
    kind: Literal["box", "bank", "motor", "house", "source", "link"]
    bank: str | None
    steps: list[int]
    done: bool
    wrong: bool
    closed: bool = False  # of a controller: its breaker is closed
    close_step: int | None = None


class Diagram(Frozen):
    """The one-line diagram that fills as it is proved."""

    circuits: list[CircuitBox]
    boxes: list[DiagramBox]


class GaugeShown(Frozen):
    """One controller at the minute."""

    key: str
    name: str
    controller: str
    nameplate_w: float
    arrangement: str
    boxes: int
    away: bool  # its panels are folded, covered or gone
    dark: bool
    watts: tuple[float, float, float] | None
    volts: tuple[float, float, float] | None
    amps: tuple[float, float, float] | None
    open_v: tuple[float, float, float] | None
    top_w: float
    marks: list[tuple[str, float, float]]
    last: SunNote | None
    readings: list[SunNote]
    read_w: float | None
    then_w: tuple[float, float, float] | None  # expected at the minute of the reading
    means: Means | None
    cannot_tell: bool
    title: Sentence | None
    detail: Sentence | None
    proven: bool
    here: bool  # whether the last reading is of the minute that is shown


class SunArcPoint(Frozen):
    hour: float
    elevation_deg: float


class Minute(Frozen):
    """The minute that is shown."""

    at: datetime
    zone: str
    shadow: HandShadow
    heading_deg: float
    air_c: float
    air_given: bool
    wiped: bool
    elevation_deg: float
    hour: float
    arc: list[SunArcPoint]
    good_from_h: float | None
    good_to_h: float | None


class TestShown(Frozen):
    """A bench test with what it found."""

    note: TestNote
    label: str | None
    group_index: int | None
    label_w: float | None
    points: list[tuple[float, float]]
    curve: list[tuple[float, float]]
    label_curve: list[tuple[float, float]]
    best_v: float | None
    best_a: float | None
    test_w: float | None
    fill: float | None
    open_v: float | None
    short_a: float | None
    standard_w: float | None
    standard_spread: float | None
    share: float | None
    off: list[int]
    verdict: Verdict | None
    title: Sentence
    detail: Sentence
    problem: str | None


class OtherTest(Frozen):
    """A count of a bank or a trial of a motor, with what it comes to."""

    id: str
    kind: Literal["bank_test", "motor_test"]
    name: str
    done: bool
    title: Sentence
    lines: list[Sentence]
    share: float | None  # of a bank's label
    at: str | None  # the entry of the design that it can set
    value: float | None
    counts: float | None  # what the design counts now


class CutShown(Frozen):
    name: str
    length_m: float
    pieces: int


class FrameShown(Frozen):
    """One place with panels, and its frame where it has one."""

    place_id: str
    place_index: int
    name: str
    framed: bool
    lies: bool  # on a surface: it needs none
    no_size: bool  # a frame without the place's size cannot be counted
    width_m: float | None
    length_m: float | None
    cuts: list[CutShown]
    bars: list[list[float]]
    stock_m: float
    left_m: float
    mass_kg: float
    panels_kg: float
    watts_per_kg: float  # with its frame
    span_m: float
    sag_m: float
    gust_mps: float
    gust_pull_n: float
    gust_sag_m: float
    holds: float | None
    too_long: bool
    hinges: int
    hinge_m: float
    cable_mm2: float | None  # the largest that feeds this place
    inside_m: float | None
    needs_m: float | None
    crossbars: int
    feet: int


class CheckShown(Frozen):
    key: str
    words: str
    harm: bool
    note_id: str | None
    at: datetime | None


class Progress(Frozen):
    """How far a part of the fit-out is."""

    key: Literal["parts", "frames", "connecting", "sun", "tests", "before"]
    done: int
    of: int


class FitoutPicture(Frozen):
    """Everything the Fit-out shows."""

    cells: list[RailCell]
    assumes: Sentence
    progress: list[Progress]
    money: Money
    systems: list[SystemSum]
    gone: list[PartLine]
    steps: list[StepOut]
    next_step: str | None
    diagram: Diagram
    minute: Minute
    frames: list[FrameShown]
    gauges: list[GaugeShown]
    tests: list[TestShown]
    others: list[OtherTest]
    checks: list[CheckShown]
