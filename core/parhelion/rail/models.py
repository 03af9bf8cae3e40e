"""What an answer looks like: a number or the reason there is none, what it assumes, and why."""

from __future__ import annotations

from datetime import datetime
from typing import Literal

from parhelion.quantities import Frozen, Quantity, Sentence, Why

Rail = Literal["cruiser", "auxiliary", "home_charged", "no_bank", "no_panels", "nothing_yet"]
Limit = Literal[
    "bank full", "bank empty", "controller clips", "drive", "hours of light", "stream", "rest", "strings",
    "array", "house", "weather", "sun", "charge",
]  # fmt: skip


class Answer(Frozen):
    """Common to all answers. `reason` says why a number is missing or zero."""

    reason: Sentence | None = None
    mend: str | None = None  # the station where the reason is mended
    assumes: Sentence
    why: Why


class LiveSpeed(Answer):
    """The speed whose battery watts equal the sun of one ten-minute step."""

    speed_mps: float | None
    ground_mps: float | None = None  # over the ground; only where the plan has a stream
    power_w: float | None
    at: datetime


class SteadySpeed(Answer):
    """The largest constant speed that the day gives back; its band joins boats, days and panels."""

    speed_mps: float | None
    ground_mps: float | None = None
    low_mps: float | None = None
    high_mps: float | None = None
    hours: float
    power_w: float | None = None
    start_charge_frac: float | None = None


class Distance(Answer):
    distance_m: float | None
    ground_m: float | None = None
    low_m: float | None = None
    high_m: float | None = None
    speed_mps: float | None = None


class Dusk(Answer):
    soc_frac: float | None
    low_frac: float | None = None
    high_frac: float | None = None
    house_soc_frac: float | None = None  # of a house bank of its own
    at: datetime | None = None


class Refill(Answer):
    days: float | None
    nine_in_ten_days: float | None = None
    from_reserve_days: float | None = None


class Range(Answer):
    """Motoring without a pause from the stated start to the reserve."""

    distance_m: float | None
    ground_m: float | None = None
    low_m: float | None = None
    high_m: float | None = None
    hours: float | None = None
    speed_mps: float
    keeps_up: bool = False


class SunShare(Answer):
    """What the sun adds to a boat charged at home."""

    share_frac: float | None
    minutes_won: float | None = None
    distance_won_m: float | None = None


class DockDay(Answer):
    """What a day at the dock gives a boat whose panels stand there alone, from the reserve on."""

    harvest_wh: float
    soc_frac: float  # a day later
    distance_m: float  # at the planned speed, on what the day gave


StepKey = Literal["panel", "battery", "house", "mass", "chemistry", "propeller", "drive", "hours"]


class Step(Frozen):
    """A practical step, with what it costs counted in."""

    key: StepKey
    label: Sentence
    gain_m: float
    gain_frac: float | None  # None where there was nothing to gain on
    mass_kg: float
    cost: float
    keeps_up: bool = False  # with it the sun keeps up: no end


class HeldBackBy(Answer):
    """The limits that are active, and the step that buys most miles."""

    limits: list[Limit]
    measure: Literal["days_run_sun", "range", "days_distance"]
    step: Step | None
    steps: list[Step]


class RailCell(Frozen):
    """One cell of the answer rail, ready to show."""

    key: str
    label: str
    value: Quantity | None
    lines: list[Sentence]
    reason: Sentence | None = None
    mend: str | None = None
    assumes: Sentence
    why: Why
    band: tuple[Quantity, Quantity] | None = None  # what 9 of 10 and 1 of 10 such boats and days reach
    change: Quantity | None = None  # against the design compared with


class Answers(Frozen):
    """Everything the rail can say of one design."""

    rail_kind: Rail
    rail: list[RailCell]
    assumes: Sentence  # what all cells assume, in one line
    sun_only_now: LiveSpeed
    sun_only_noon: LiveSpeed
    sun_only_steady: SteadySpeed
    days_run_sun: Distance
    days_run_bank: Distance
    nine_in_ten: Distance
    bank_at_dusk: Dusk
    refill: Refill
    range_at_speed: Range
    sun_share: SunShare
    dock_day: DockDay | None  # only where the panels give at the dock alone
    held_back_by: HeldBackBy
    zone: str
    starts_at: datetime
    spells_default: bool
