"""A passage: legs with their stream and marks, when she leaves, and how fast she goes."""

from __future__ import annotations

from typing import Any, Self

from pydantic import model_validator

from parhelion.design.part import Choice, Clock, Id, Name, Part, Share, begins, entry, out_of_reach
from parhelion.design.plan import Shade, Sky

MOST_SKIES, MOST_WINDS = 8, 16  # later ones
MOST_DAYS = 10  # of a passage
LONGEST_LEG_M = 460_000.0  # a day and a night at ten knots


class StreamKind(Choice):
    STEADY = "steady", "one set and drift"
    TURNING = "turning", "to and fro with the tide"
    TABLE = "table", "a table by hours"


class StreamHour(Part):
    """A line of a tidal table."""

    after_high_water_h: float = entry(
        "After high water", "Before it is minus", ge=-7, le=7, step=1, quantity="duration_h"
    )
    set_deg: float = entry("Sets to", "True, where it goes", ge=0, le=360)
    springs_mps: float = entry("At springs", ge=0, le=8)
    neaps_mps: float = entry("At neaps", ge=0, le=8)


class Stream(Part):
    """What the water does along a leg."""

    model_config = begins(
        {"kind": "steady", "set_deg": 90, "rate_mps": 0.5},
        {"kind": "turning", "set_deg": 90, "rate_mps": 0.8, "strongest_h": -3},
        {"kind": "table", "set_deg": 90, "rate_mps": 0.8},
    )

    kind: StreamKind = entry("Stream")
    set_deg: float = entry("Sets to", "True, where it goes; a tide's flood", ge=0, le=360)
    rate_mps: float = entry("At its strongest", ge=0, le=8)
    mean_mps: float = entry(
        "River under it", "Added all the time, along the same set", default=0, ge=-8, le=8
    )
    strongest_h: float = entry(
        "Strongest after high water",
        "Of the place whose high water is given; before it is minus",
        default=-3,
        ge=-12.5,
        le=12.5,
        quantity="duration_h",
    )
    hours: tuple[StreamHour, ...] = entry("Line", "Of the table", default=(), max_length=15)

    @model_validator(mode="after")
    def _has_lines(self) -> Self:
        if self.kind is StreamKind.TABLE and len({line.after_high_water_h for line in self.hours}) < 2:
            raise out_of_reach("This table has too few lines.", "hours", "two hours or more, each once")
        return self


class MarkKind(Choice):
    """What stands at the end of a leg."""

    TURN = "turn", "a turn of the way"
    LOCK = "lock", "lock"
    BRIDGE = "bridge", "bridge"
    GATE = "gate", "tide gate"
    ANCHORAGE = "anchorage", "anchorage"
    CHARGING = "charging", "charging stop"
    REFUGE = "refuge", "refuge"
    RAMP = "ramp", "ramp"


class OpenHours(Part):
    """When a lock, bridge or ramp serves, every day by the clock there."""

    model_config = begins(opens_at="08:00:00", shuts_at="18:00:00")

    opens_at: Clock = entry("Opens at")
    shuts_at: Clock = entry("Shuts at", "Before it opens: on the day after")

    @model_validator(mode="after")
    def _last(self) -> Self:
        if self.opens_at == self.shuts_at:
            raise out_of_reach("It opens and shuts at one hour.", "shuts_at", "another hour, such as 18:00")
        return self


class Leg(Part):
    """From the mark before, or the start, to the mark at its end."""

    model_config = begins(name="Next mark", distance_m=3704, course_deg=90)

    id: Id
    name: Name = entry("To")
    distance_m: float = entry("Distance", gt=0, le=LONGEST_LEG_M, quantity="distance_m", step=0.1)
    course_deg: float = entry("Course", "True", ge=0, le=360)
    stream: Stream | None = entry("Stream", default=None, empty="none")
    limit_mps: float | None = entry("Speed limit", "Over the ground", default=None, gt=0, le=30)
    mark: MarkKind = entry("There", default=MarkKind.TURN)
    stop_h: float = entry("Stop there", default=0, ge=0, le=120, quantity="duration_h", step=0.25)
    shore_w: float | None = entry("Charges there with", default=None, gt=0, le=100_000, step=100)
    open_h: float | None = entry(
        "Passable either side of high water",
        "So many hours before and after; empty means at all hours",
        default=None,
        gt=0,
        le=6.2,
        quantity="duration_h",
        step=0.25,
    )
    hours: OpenHours | None = entry("Opening hours", default=None, empty="none")


class Tide(Part):
    """The high water that streams, gates and ramps go by."""

    model_config = begins(high_water="12:00:00")

    station_id: str | None = entry(
        "Station",
        "High waters are predicted from its constants; not for navigation",
        default=None,
        max_length=80,
    )
    high_water: Clock | None = entry(
        "High water", "One of that day, by the clock there; of a station it is predicted", default=None
    )
    range_m: float | None = entry("Range of the day", "Empty: half way from neaps to springs", default=None,
                                  gt=0, le=20, quantity="length_m")  # fmt: skip
    springs_m: float = entry("Range at springs", default=4, gt=0, le=20, quantity="length_m")
    neaps_m: float = entry("Range at neaps", default=2, gt=0, le=20, quantity="length_m")

    @model_validator(mode="after")
    def _springs_over_neaps(self) -> Self:
        if self.high_water is None and self.station_id is None:
            raise out_of_reach("No high water is given.", "high_water", "a time such as 12:30, or a station")
        if self.neaps_m >= self.springs_m:
            raise out_of_reach("Neaps are smaller than springs.", "neaps_m", "less than at springs")
        return self

    @property
    def range_there_m(self) -> float:
        return self.range_m or (self.springs_m + self.neaps_m) / 2


class Going(Choice):
    """How fast she goes."""

    SPEED = "speed", "one speed through the water"
    THROTTLE = "throttle", "one throttle"
    SUN = "sun", "as the sun pays"
    EARLIEST = "earliest", "as early as the reserve allows"
    MOST = "most", "most charge, in by an hour"


def _day() -> Any:
    return entry("Day", "1: the day she leaves", default=1, ge=1, le=MOST_DAYS, step=1)


class SkyFrom(Part):
    """Another sky from an hour on."""

    model_config = begins(from_clock="13:00:00", sky="overcast")

    id: Id
    day: int = _day()
    from_clock: Clock = entry("From")
    sky: Sky = entry("Sky")
    sky_shade: Shade = entry("How much of it", default=Shade.USUAL)


class WindFrom(Part):
    """Another wind from an hour on."""

    model_config = begins(from_clock="13:00:00", wind_from_deg=270, wind_mps=5)

    id: Id
    day: int = _day()
    from_clock: Clock = entry("From")
    wind_from_deg: float = entry("Wind from", "True, where it comes from", ge=0, le=360)
    wind_mps: float = entry("Wind", ge=0, le=40, step=0.5)
    waves_m: float | None = entry(
        "Waves", "Significant height; empty: as before", default=None, ge=0, le=4, quantity="length_m"
    )


class KeepOff(Part):
    """Something she keeps clear of: a rock, a shoal, a weir, a firing range."""

    model_config = begins(name="Rocks", bearing_deg=90, distance_m=1852, clear_m=185.2)

    id: Id
    name: Name = entry("Keep off")
    bearing_deg: float = entry("Bearing", "True, from where she leaves", ge=0, le=360)
    distance_m: float = entry("Distance", ge=0, le=LONGEST_LEG_M, quantity="distance_m", step=0.1)
    clear_m: float = entry("Keep clear by", gt=0, le=20_000, quantity="distance_m", step=0.1)


class Now(Part):
    """Where she is now, so that the rest is planned anew from here."""

    model_config = begins(at="10:00:00", gone_m=3704)

    at: Clock = entry("It is")
    gone_m: float = entry(
        "Come so far", "Along the way, out and home", ge=0, le=20 * LONGEST_LEG_M, quantity="distance_m"
    )
    charge_frac: Share | None = entry("The meter says", "Charge of the bank", default=None, step=1)


class Passage(Part):
    """A way there, and home again where she comes back."""

    model_config = begins(
        legs=[
            {
                "id": "first",
                "name": "Next mark",
                "distance_m": 3704,
                "course_deg": 90,
                "mark": "turn",
                "stop_h": 0,
            }
        ],
    )

    begins_at: Name = entry("Leaves from", default="Home")
    begins_latitude_deg: float | None = entry(
        "Begins at latitude, north +", "Empty: the boat's waters", default=None, ge=-90, le=90, step=0.01
    )
    begins_longitude_deg: float | None = entry(
        "Begins at longitude, east +", "Empty: the boat's waters", default=None, ge=-180, le=180, step=0.01
    )
    legs: tuple[Leg, ...] = entry("Leg", min_length=1, max_length=40)
    home_again: bool = entry("Home the same way", default=True)
    stay_h: float = entry("At the far end", default=0, ge=0, le=120, quantity="duration_h", step=0.5)
    leaves_at: Clock = entry("Leaves at", default="08:00:00", validate_default=True)
    in_by: Clock | None = entry("In by", "Empty: by nightfall", default=None)
    pace: Going = entry("How fast", default=Going.SPEED)
    speed_mps: float | None = entry(
        "Speed", "Through the water; empty: the plan's", default=None, gt=0, le=30
    )
    throttle_w: float | None = entry("Throttle", "Battery watts", default=None, gt=0, le=100_000, step=50)
    start_charge_frac: Share | None = entry(
        "Bank as she leaves", "Empty: as the day's plan begins", default=None, step=5
    )
    tide: Tide | None = entry("Tide", default=None)
    wind_from_deg: float | None = entry(
        "Wind from",
        "True; strength and waves are the day's. Empty: no drag, and waves from ahead on every leg",
        default=None,
        ge=0,
        le=360,
    )
    skies: tuple[SkyFrom, ...] = entry("Sky later", default=(), max_length=MOST_SKIES)
    winds: tuple[WindFrom, ...] = entry("Wind later", default=(), max_length=MOST_WINDS)
    keep_off: tuple[KeepOff, ...] = entry("Keep off", default=(), max_length=20)
    hand_mps: float | None = entry(
        "Without the motor", "By oars, pedals or sail; empty: by the legs and arms aboard, if any",
        default=None, gt=0, le=5,
    )  # fmt: skip

    now: Now | None = entry("Under way", default=None)

    @property
    def distance_m(self) -> float:
        """All of it, the way home among it where she comes back."""
        return sum(leg.distance_m for leg in self.legs) * (2 if self.home_again else 1)

    @model_validator(mode="after")
    def _whole(self) -> Self:
        if self.pace is Going.THROTTLE and self.throttle_w is None:
            raise out_of_reach("One throttle needs its watts.", "throttle_w", "battery watts, such as 400")
        for index, leg in enumerate(self.legs):
            tidal = leg.stream is not None and leg.stream.kind is not StreamKind.STEADY
            if self.tide is None and (tidal or leg.open_h is not None):
                raise out_of_reach(
                    "This goes by high water, and none is given.", "tide", "the high water of the day"
                )
            if (leg.open_h is not None or leg.hours is not None) and leg.mark is MarkKind.TURN:
                raise out_of_reach(
                    "Only a gate, lock, bridge or ramp opens and shuts.", f"legs/{index}/mark", "what it is"
                )
        return self
