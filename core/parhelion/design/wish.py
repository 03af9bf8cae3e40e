"""What a boat is wished to do, and what binds whoever designs her for it."""

from __future__ import annotations

from datetime import date as Date
from typing import Self

from pydantic import model_validator

from parhelion.design.array import PlaceKind
from parhelion.design.bank import Bank
from parhelion.design.chemistries import Chemistry
from parhelion.design.drive import Drive
from parhelion.design.panel import Build, PanelModel
from parhelion.design.part import Choice, Clock, Id, Part, Share, begins, entry, out_of_reach
from parhelion.design.states import BoatState


class AskKind(Choice):
    """What is wished of a day, a night or a stay."""

    TRIP = "trip", "a distance at a speed"
    HOURS = "hours", "hours at a speed"
    NIGHT = "night", "hours into the night"
    STAY = "stay", "days at anchor"
    HOUSE = "house", "no more shore power"


class Weekday(Choice):
    MON = "mon", "Monday"
    TUE = "tue", "Tuesday"
    WED = "wed", "Wednesday"
    THU = "thu", "Thursday"
    FRI = "fri", "Friday"
    SAT = "sat", "Saturday"
    SUN = "sun", "Sunday"


class MonthName(Choice):
    JAN = "jan", "January"
    FEB = "feb", "February"
    MAR = "mar", "March"
    APR = "apr", "April"
    MAY = "may", "May"
    JUN = "jun", "June"
    JUL = "jul", "July"
    AUG = "aug", "August"
    SEP = "sep", "September"
    OCT = "oct", "October"
    NOV = "nov", "November"
    DEC = "dec", "December"

    @property
    def number(self) -> int:
        """1 to 12."""
        return list(MonthName).index(self) + 1


class Clear(Choice):
    """What nothing new may stand on or in front of."""

    MAST = "mast", "the mast and its boom"
    HATCH = "hatch", "the hatch and the foredeck"
    VIEW = "view", "the helm's view ahead"
    WALKWAY = "walkway", "a way along the sides"
    PORT = "port", "boarding to port"
    STARBOARD = "starboard", "boarding to starboard"


class Filled(Choice):
    """What fills the banks between outings."""

    AS_USED = "as_used", "as she is used"  # boats charged at home from the shore, others by the sun
    SUN = "sun", "by the sun alone"
    SHORE = "shore", "from the shore"


MOST_OWN_PANELS, MOST_OWN_UNITS, MOST_OWN_MOTORS = 200, 60, 60  # of one's own lists to choose from
MOVING = (AskKind.TRIP, AskKind.HOURS, AskKind.NIGHT)


class Ask(Part):
    """One thing wished."""

    model_config = begins(
        {"kind": "trip", "distance_m": 20_000, "speed_mps": 2.0},
        {"kind": "hours", "hours": 4, "speed_mps": 2.0},
        {"kind": "night", "hours": 3, "speed_mps": 1.5},
        {"kind": "stay", "days": 3},
        {"kind": "house"},
    )

    id: Id
    kind: AskKind = entry("Wished", default=AskKind.TRIP)
    distance_m: float = entry(
        "Distance", "There and back, in one day", default=20_000, gt=0, le=400_000, step=1,
        quantity="distance_m",
    )  # fmt: skip
    hours: float = entry("Hours", default=4, gt=0, le=24, step=0.5, quantity="duration_h")
    days: float = entry(
        "Days", "From a full bank, the house alone", default=3, gt=0, le=30, step=1, quantity="days"
    )
    speed_mps: float = entry("At", "Through the water", default=2.0, gt=0, le=15)
    slowest_mps: float | None = entry(
        "or slower, down to", "Empty: that speed and no less", default=None, gt=0, le=15
    )
    weekdays: tuple[Weekday, ...] = entry("On", default=(Weekday.SAT,), max_length=7)
    first_month: MonthName = entry("From", default=MonthName.MAY)
    last_month: MonthName = entry("To", default=MonthName.SEP)
    surely_frac: float = entry(
        "How surely", "Of those days, over all those months", default=0.9, ge=0.05, le=0.99, step=5
    )
    kept_frac: Share | None = entry(
        "Left in the bank", "State of charge when it is done; empty: the bank's own reserve",
        default=None, step=5,
    )  # fmt: skip
    from_clock: Clock | None = entry("Leaves at", "Empty: about the sun's noon", default=None)

    @property
    def months(self) -> tuple[int, ...]:
        """1 to 12, from the first to the last; over the turn of the year where the last comes first."""
        first, last = self.first_month.number, self.last_month.number
        return tuple((first - 1 + k) % 12 + 1 for k in range((last - first) % 12 + 1))

    @property
    def moves(self) -> bool:
        return self.kind in MOVING

    @model_validator(mode="after")
    def _possible(self) -> Self:
        if self.slowest_mps is not None and self.slowest_mps > self.speed_mps:
            raise out_of_reach(
                "Slower than wished is less than the speed wished.", "slowest_mps",
                f"{self.speed_mps:g} m/s or less", limit=self.speed_mps, relation="{0} or less",
            )  # fmt: skip
        return self


class OwnedPanels(PanelModel):
    """Panels already bought: they cost nothing, and no more of them are to be had."""

    model_config = begins(nameplate_w=100)

    id: Id
    count: int = entry("How many", default=1, ge=1, le=60)


class Wish(Part):
    """What is wished, and what binds. What is aboard already costs nothing where it is kept."""

    model_config = begins(asks=[{"id": "ask", "kind": "trip", "distance_m": 20_000, "speed_mps": 2.0}])

    asks: tuple[Ask, ...] = entry("Wish", default=(), max_length=6)
    by: Date | None = entry("Ready by", "Counts the days that are left of the first season", default=None)
    coins: float = entry("Money", default=2_000, ge=0, le=1e6, quantity="money", step=100)
    extra_kg: float = entry(
        "More people and gear", "Than the Hull's weights count, on the days wished", default=0, ge=0,
        le=20_000, step=5,
    )  # fmt: skip
    added_kg: float | None = entry(
        "Weight that may be added", "Empty: as far as it pays", default=None, ge=0, le=10_000, step=5
    )
    air_draught_m: float | None = entry(
        "Under bridges of", "Nothing new stands higher over the water", default=None, gt=0.2, le=60, step=0.1
    )
    stiffness_frac: float = entry(
        "Stiffness it may cost", "Of the hull's own, by what is high up", default=0.2, ge=0.01, le=1, step=1
    )
    most_boxes: int | None = entry(
        "Charge controllers, at most", "Empty: any number", default=None, ge=1, le=40
    )
    places: tuple[PlaceKind, ...] = entry(
        "Places for panels", "None chosen: wherever aboard she has room", default=(), max_length=9
    )
    clear: tuple[Clear, ...] = entry("Kept clear", default=(), max_length=6)
    hand_tilted: bool = entry("Wings set by hand", "Three times a day; else all lies fixed", default=False)
    builds: tuple[Build, ...] = entry("Panels of", default=(Build.GLASS, Build.FLEXIBLE), max_length=3)
    chemistries: tuple[Chemistry, ...] = entry("Banks of", default=(Chemistry.LFP,), max_length=5)
    other_volts: bool = entry("Another bank voltage", "May be chosen too", default=False)
    keeps_panels: bool = entry("Her panels are bought", default=True)
    keeps_bank: bool = entry("Her bank is bought", default=True)
    keeps_motor: bool = entry(
        "Her motor is bought", "It is kept where it gives the speed wished", default=True
    )
    owned: tuple[OwnedPanels, ...] = entry("Panels in the shed", default=(), max_length=12)
    own_panels: tuple[PanelModel, ...] = entry(
        "Own list of panels",
        "To choose from; empty: the list that ships",
        default=(),
        max_length=MOST_OWN_PANELS,
    )
    own_units: tuple[Bank, ...] = entry(
        "Own list of batteries",
        "One of each, to choose from; empty: the list that ships",
        default=(),
        max_length=MOST_OWN_UNITS,
    )
    own_motors: tuple[Drive, ...] = entry(
        "Own list of motors",
        "One of each, to choose from; empty: usual ones",
        default=(),
        max_length=MOST_OWN_MOTORS,
    )
    rest_state: BoatState = entry("Between, she lies", default=BoatState.DOCK)
    between: Filled = entry(
        "Filled between", "Before a day out that follows a day at rest", default=Filled.AS_USED
    )
