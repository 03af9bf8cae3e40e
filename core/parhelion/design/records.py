"""What was done and measured on the real boat: the records beside the design.

The design says what she shall be; a record says what somebody bought, proved, read or ticked, when and by
whom. Records are rows beside the design, each an entry of its own, never part of its history.
"""

from __future__ import annotations

from datetime import date as Date
from typing import Annotated, Literal

from pydantic import AfterValidator, AwareDatetime, Field, model_validator

from parhelion.design.part import Choice, Id, Name, Part, entry, out_of_reach

MOST_RECORDS = 4_000
MOST_POINTS = 200
EARLIEST_YEAR, LATEST_YEAR = 1950, 2100


def _within(moment: AwareDatetime) -> AwareDatetime:
    if not EARLIEST_YEAR <= moment.year <= LATEST_YEAR:
        raise out_of_reach("That was in the year {year}.", "", "a year from 1950 to 2100", year=moment.year)
    return moment


Key = Annotated[str, Field(min_length=1, max_length=160)]
Moment = Annotated[AwareDatetime, AfterValidator(_within)]


class HandShadow(Choice):
    """The shadow of a hand: the quickest honest light meter that anyone has."""

    SHARP = "sharp", "sharp"
    SOFT = "soft", "soft"
    FAINT = "faint", "faint"
    NONE = "none", "none"


class PartState(Choice):
    TO_BUY = "to_buy", "to buy"
    ORDERED = "ordered", "on order"
    HAVE = "have", "aboard"


class System(Choice):
    """What a part belongs to."""

    HULL = "hull", "Hull"
    DRIVE = "drive", "Drive"
    BANK = "bank", "Bank"
    PANELS = "panels", "Panels and frames"
    CONTROLLERS = "controllers", "Controllers"
    WIRING = "wiring", "Wiring and protection"
    SAFETY = "safety", "House and safety"


class MoneyNote(Part):
    """In which coins, and how many there are."""

    kind: Literal["money"] = "money"
    id: Id
    currency: str = entry("Currency", "Its sign or its three letters", default="coins", max_length=8)
    budget: float | None = entry("Budget", default=None, ge=0, le=100_000_000, quantity="money", step=100)


class PartNote(Part):
    """A part of the list: whether it is there, what it cost and weighs; of a system its own, it is a line of
    one's own."""

    kind: Literal["part"] = "part"
    id: Id
    part: Key
    name: Name = entry("Called")
    system: System | None = entry("Belongs to", default=None)
    state: PartState = entry("It is", default=PartState.TO_BUY)
    quantity: float = entry("How many", default=1, ge=0, le=100_000, quantity="ratio", step=1)
    price: float | None = entry("Price, each", default=None, ge=0, le=10_000_000)
    mass_kg: float | None = entry("Mass, each", default=None, ge=0, le=100_000, step=0.1)
    used: bool = entry("Used", default=False)
    due: Date | None = entry("Due", default=None)
    note: str = entry("Note", default="", max_length=400)
    link: str = entry("Link", "An address of your own", default="", max_length=400)


class Seen(Part):
    """The sky and the panels as they were when a meter was read."""

    shadow: HandShadow = entry("The shadow of your hand", default=HandShadow.SHARP)
    heading_deg: float = entry("Heading", default=0, ge=0, le=360)
    air_c: float | None = entry("Air", "Empty: usual for place and day", default=None, ge=-50, le=60)
    wiped: bool = entry("Panels wiped", default=True)


class StepNote(Part):
    """One thing of a step that was proved, with what the meter said."""

    kind: Literal["step"] = "step"
    id: Id
    step: Key
    item: Key
    of: str = Field(max_length=400)  # what it was when it was proved; another one opens the step again
    at: Moment
    by: str = entry("By", default="", max_length=80)
    reading: float | None = entry("Reading", default=None, ge=-5_000, le=1_000_000, quantity="ratio")
    seen: Seen | None = None  # nobody said: judged as the minute that is shown
    note: str = entry("Note", default="", max_length=400)


class SunNote(Seen):
    """What the panels on one controller showed at a minute."""

    kind: Literal["sun"] = "sun"
    id: Id
    at: Moment
    input: Key
    pv_w: float | None = entry("Watts", default=None, ge=-1_000, le=500_000)
    pv_v: float | None = entry("Panel volts", default=None, ge=-2_000, le=2_000)
    pv_a: float | None = entry("Panel amps", default=None, ge=-1_000, le=5_000, step=0.1)
    bank_v: float | None = entry("Bank volts", default=None, ge=0, le=1_200)
    bank_full: bool = entry("The bank is full", default=False)


class TestNote(Part):
    """A panel on the bench: pairs of volts and amps."""

    kind: Literal["test"] = "test"
    id: Id
    at: Moment
    name: Name = entry("Which panel")
    group_id: Id | None = entry("Its label", default=None, of="panels")
    points: tuple[tuple[float, float], ...] = Field(default=(), max_length=MOST_POINTS)  # volts, amps
    irradiance_w_per_m2: float | None = entry(
        "Light on it",
        "Measured, or empty",
        default=None,
        gt=0,
        le=1_600,
        quantity="ratio",
        unit="W/m²",
        step=10,
    )
    light_known_frac: float = entry("Light known within", default=0.05, ge=0.005, le=0.5, step=1)
    cell_c: float = entry("Its back", "A thermometer on the back of the panel", default=40, ge=-40, le=110)
    note: str = entry("Note", default="", max_length=400)

    @model_validator(mode="after")
    def _points(self) -> TestNote:
        for index, (volts, amps) in enumerate(self.points):
            if not (-5 <= volts <= 1_500 and -5 <= amps <= 500):
                raise out_of_reach(
                    "{v} V and {a} A is no point of a panel.",
                    f"points/{index}",
                    "0 to 1500 V and 0 to 500 A",
                    v=f"{volts:g}",
                    a=f"{amps:g}",
                )
        return self


class BankTestNote(Part):
    """Amp-hours counted from full to the cut-out."""

    kind: Literal["bank_test"] = "bank_test"
    id: Id
    at: Moment
    bank_id: Id
    counted_ah: float | None = entry(
        "Counted", "From full to where it cuts out", default=None, gt=0, le=100_000
    )
    hours: float = entry("In", "From full to there", default=10, ge=0.1, le=400, quantity="duration_h")
    temperature_c: float = entry("How warm it was", default=20, ge=-20, le=60)
    note: str = entry("Note", default="", max_length=400)


class MotorTestNote(Part):
    """A motor on the bench, or pulling at the dock."""

    kind: Literal["motor_test"] = "motor_test"
    id: Id
    at: Moment
    drive_id: Id
    name: Name = entry("What is tried", "Such as the old propeller", default="As she is")
    volts: float | None = entry("Volts", default=None, gt=0, le=1_200)
    amps: float | None = entry("Amps", default=None, gt=0, le=5_000)
    pull_n: float | None = entry("Pull at the dock", "On a scale in the line", default=None, gt=0, le=100_000)
    no_load_rpm: float | None = entry("Turning free", default=None, gt=0, le=100_000)
    no_load_v: float | None = entry("At", "Volts while turning free", default=None, gt=0, le=1_200)
    air_c: float | None = entry("Air, or water", "What cools it", default=None, ge=-40, le=60)
    warm_c: float | None = entry(
        "Its housing", "After ten minutes under that load", default=None, ge=-40, le=250
    )
    note: str = entry("Note", default="", max_length=400)


class TickNote(Part):
    """Something of a list that was looked at."""

    kind: Literal["tick"] = "tick"
    id: Id
    item: Key
    at: Moment
    note: str = entry("Note", default="", max_length=400)


Record = Annotated[
    MoneyNote | PartNote | StepNote | SunNote | TestNote | BankTestNote | MotorTestNote | TickNote,
    Field(discriminator="kind"),
]


class Records(Part):
    """All records of a boat, oldest first."""

    schema_name: Literal["parhelion.records"] = "parhelion.records"
    schema_version: Literal[1] = 1
    records: tuple[Record, ...] = Field(default=(), max_length=MOST_RECORDS)

    @property
    def money(self) -> MoneyNote:
        found = [note for note in self.records if isinstance(note, MoneyNote)]
        return found[-1] if found else MoneyNote(id="money")

    @property
    def parts(self) -> dict[str, PartNote]:
        """The last word on each part, by its key."""
        return {note.part: note for note in self.records if isinstance(note, PartNote)}

    @property
    def steps(self) -> dict[tuple[str, str], StepNote]:
        """The last proof of each thing of each step."""
        return {(note.step, note.item): note for note in self.records if isinstance(note, StepNote)}

    @property
    def sun(self) -> dict[str, list[SunNote]]:
        """The readings of each input, oldest first."""
        found: dict[str, list[SunNote]] = {}
        for note in self.records:
            if isinstance(note, SunNote):
                found.setdefault(note.input, []).append(note)
        return {key: sorted(notes, key=lambda note: note.at) for key, notes in found.items()}

    @property
    def tests(self) -> list[TestNote]:
        return [note for note in self.records if isinstance(note, TestNote)]

    @property
    def bank_tests(self) -> list[BankTestNote]:
        return [note for note in self.records if isinstance(note, BankTestNote)]

    @property
    def motor_tests(self) -> list[MotorTestNote]:
        return [note for note in self.records if isinstance(note, MotorTestNote)]

    @property
    def ticks(self) -> dict[str, TickNote]:
        return {note.item: note for note in self.records if isinstance(note, TickNote)}


NO_RECORDS = Records()
