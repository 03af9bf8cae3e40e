"""Where the boat is, and the day it is asked about."""

from __future__ import annotations

from datetime import date as Date
from enum import StrEnum
from math import atan2, degrees
from typing import NamedTuple

from pydantic import Field, model_validator

from parhelion.design.climate import Climate
from parhelion.design.part import Clock, Id, Name, Part, Share, out_of_reach
from parhelion.design.states import BoatState


class Water(StrEnum):
    FRESH = "fresh"
    SALT = "salt"


class SourceKind(StrEnum):
    """What else charges the bank."""

    SHORE = "shore"  # a charger on shore power
    WIND = "wind"
    GENERATOR = "generator"
    HYDRO = "hydro"  # the propeller, or one towed, turned by the boat's way under sail
    PEDALS = "pedals"


class Source(Part):
    """Another source of charge; its watts are what reaches the bank.

    Wind and hydro rise with the cube of the speed from where they begin to where they are full. Shore and
    generator give way to the sun: they only add what the bank still takes.
    """

    id: Id
    name: Name
    kind: SourceKind
    rated_power_w: float = Field(gt=0, le=100_000, title="Most it sends the bank")
    bank_id: Id | None = Field(default=None, title="The bank it charges; empty: the first")
    from_clock: Clock | None = Field(default=None, title="Works from; empty: at any hour")
    hours_per_day: float = Field(default=24, ge=0, le=24, title="For so long")
    begins_mps: float | None = Field(default=None, gt=0, le=15, title="Begins at; empty: usual")
    full_mps: float | None = Field(default=None, gt=0, le=30, title="Full at; empty: usual")
    start_frac: Share = Field(default=0.35, title="Starts when the bank is down to")
    stop_frac: Share = Field(default=0.8, title="Stops when it is up to")
    dump_load: bool = Field(default=True, title="Has its dump load")

    @model_validator(mode="after")
    def _stops(self) -> Source:
        if self.kind is SourceKind.GENERATOR and self.stop_frac <= self.start_frac:
            raise out_of_reach(
                "This generator would never stop.", "stop_frac",
                f"more than the {self.start_frac:.0%} at which it starts",
            )  # fmt: skip
        if self.begins_mps and self.full_mps and self.full_mps <= self.begins_mps:
            raise out_of_reach("It would be full before it begins.", "full_mps", "more than where it begins")
        return self


class Skyline(Part):
    """Trees, hills or buildings ashore, between two true bearings, as high and as far as they are."""

    id: Id
    name: Name = "Trees"
    from_deg: float = Field(ge=0, le=360, title="From bearing")
    to_deg: float = Field(ge=0, le=360, title="To bearing, clockwise")
    height_m: float = Field(gt=0, le=5_000, title="Height above the panels")
    distance_m: float = Field(gt=0, le=100_000, title="Distance")

    @property
    def up_deg(self) -> float:
        """How high it stands [deg]."""
        return degrees(atan2(self.height_m, self.distance_m))


class Spot(NamedTuple):
    """A place as the sun sees it: all that its path and a clear sky depend on."""

    latitude_deg: float
    longitude_deg: float
    altitude_m: float
    linke_turbidity: float | None


class Site(Part):
    """Where the boat is. The time zone is found from the place, never stored."""

    name: Name = "Here"
    latitude_deg: float = Field(ge=-90, le=90, title="Latitude, north positive")
    longitude_deg: float = Field(ge=-180, le=180, title="Longitude, east positive")
    altitude_m: float = Field(default=0, ge=-450, le=6_000)
    water: Water = Water.FRESH
    linke_turbidity: float | None = Field(default=None, ge=1, le=10, title="Linke turbidity")
    skyline: tuple[Skyline, ...] = Field(default=(), max_length=24)
    climate: Climate = Climate()

    @property
    def spot(self) -> Spot:
        return Spot(self.latitude_deg, self.longitude_deg, self.altitude_m, self.linke_turbidity)


class Sky(StrEnum):
    CLEAR = "clear"
    HAZY = "hazy"
    BROKEN = "broken"
    OVERCAST = "overcast"
    RAIN = "rain"  # or fog


class Spell(Part):
    """Motoring from one local clock time to another; an end before the start is past midnight."""

    starts_at: Clock
    ends_at: Clock
    speed_mps: float | None = Field(default=None, gt=0, le=30, title="At; empty: the plan's speed")

    @model_validator(mode="after")
    def _lasts(self) -> Spell:
        if self.starts_at == self.ends_at:
            raise out_of_reach("This motoring spell has no length.", "ends_at", "an end other than the start")
        return self


class Stay(Part):
    """From one local clock time to another the boat is in another state than the plan's."""

    starts_at: Clock
    ends_at: Clock
    state: BoatState = BoatState.ANCHORED

    @model_validator(mode="after")
    def _lasts(self) -> Stay:
        if self.starts_at == self.ends_at:
            raise out_of_reach("This stay has no length.", "ends_at", "an end other than the start")
        return self


class TripDay(Part):
    """One day ahead, where the days are planned one by one."""

    out: bool = Field(default=True, title="Out, or at rest")
    sky: Sky | None = Field(default=None, title="Sky; empty: as the climate has it")
    speed_mps: float | None = Field(default=None, gt=0, le=30, title="At; empty: the plan's speed")


class Budget(Part):
    """What an upgrade may cost, and what already lies in the shed."""

    coins: float = Field(default=1_000, ge=0, le=1e6, title="Money")
    mass_kg: float | None = Field(default=None, ge=0, le=10_000, title="Weight; empty: any")
    owned_panels: int = Field(default=0, ge=0, le=50, title="Panels already owned")
    owned_units: int = Field(default=0, ge=0, le=50, title="Battery units already owned")


class Trip(Part):
    """Days ahead: out, then at rest, so many rounds, a spell of fog from some day on; or day by day."""

    out_days: int = Field(default=3, ge=0, le=14, title="Days out")
    rest_days: int = Field(default=2, ge=0, le=14, title="Days at rest")
    rounds: int = Field(default=2, ge=1, le=6, title="Rounds")
    rest_state: BoatState = Field(default=BoatState.ANCHORED, title="At rest she is")
    days: tuple[TripDay, ...] = Field(default=(), max_length=21, title="Day by day; empty: by rounds")
    fog_from: int = Field(default=3, ge=1, le=168, title="Fog from day")
    fog_days: int = Field(default=0, ge=0, le=30, title="Days of fog")

    @model_validator(mode="after")
    def _has_days(self) -> Trip:
        if self.out_days + self.rest_days == 0:
            raise out_of_reach("This trip has no days.", "out_days", "one day out or at rest")
        return self


class Plan(Part):
    """The day in question. `spells` empty means the useful sun: 5 to 95 % of the clear day's harvest."""

    date: Date
    sky: Sky = Sky.CLEAR
    state: BoatState = Field(default=BoatState.UNDER_WAY, title="The boat is")
    heading_deg: float | None = Field(default=None, ge=0, lt=360, title="Heading; empty is any heading")
    trip: Trip = Trip()
    budget: Budget = Budget()
    swing_deg: float = Field(default=0, ge=0, le=180, title="Swings to either side of it")
    speed_mps: float = Field(gt=0, le=30, title="Speed through the water")
    spells: tuple[Spell, ...] | None = Field(default=None, max_length=8)
    stays: tuple[Stay, ...] = Field(default=(), max_length=6, title="At other hours she is")
    start_charge_frac: Share = Field(default=0.8, title="Bank at the start of the day")
    air_temperature_c: float | None = Field(default=None, ge=-40, le=55)
    wind_mps: float = Field(default=3.0, ge=0, le=40, title="Wind")
    wind_angle_deg: float | None = Field(
        default=None, ge=-180, le=180, title="Wind off the bow; empty: from anywhere, not counted as drag"
    )
    wave_height_m: float = Field(default=0, ge=0, le=4, title="Waves from ahead, significant height")
    current_mps: float = Field(default=0, ge=-5, le=5, title="Stream along the course, with you positive")

    @model_validator(mode="after")
    def _dated(self) -> Plan:
        if not 1950 <= self.date.year <= 2100:
            raise out_of_reach(
                "The sun's place is not computed for that year.", "date", "a date from 1950 to 2100"
            )
        return self
