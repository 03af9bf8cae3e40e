"""Where the boat is, and the day it is asked about."""

from __future__ import annotations

from datetime import date as Date
from math import atan2, degrees
from typing import NamedTuple

from pydantic import model_validator

from parhelion.design.climate import Climate
from parhelion.design.part import Choice, Clock, Id, Name, Part, Share, begins, entry, out_of_reach
from parhelion.design.states import BoatState


class Water(Choice):
    FRESH = "fresh", "fresh"
    SALT = "salt", "salt"


class SourceKind(Choice):
    """What else charges the bank."""

    SHORE = "shore", "Shore charger"  # a charger on shore power
    WIND = "wind", "Wind generator"
    GENERATOR = "generator", "Generator"
    HYDRO = "hydro", "Towed generator"  # the propeller, or one towed, turned by the boat's way under sail
    PEDALS = "pedals", "Pedals"


class Source(Part):
    """Another source of charge; its watts are what reaches the bank.

    Wind and hydro rise with the cube of the speed from where they begin to where they are full. Shore and
    generator give way to the sun: they only add what the bank still takes.
    """

    model_config = begins(
        {"kind": "shore", "name": "Shore charger", "rated_power_w": 600},
        {"kind": "wind", "name": "Wind generator", "rated_power_w": 400},
        {"kind": "generator", "name": "Generator", "rated_power_w": 900},
        {"kind": "hydro", "name": "Towed generator", "rated_power_w": 250},
        {
            "kind": "pedals",
            "name": "Pedals",
            "rated_power_w": 70,
            "from_clock": "10:00:00",
            "hours_per_day": 1,
        },
    )

    id: Id
    name: Name = entry("Called")
    kind: SourceKind = entry("Kind")
    rated_power_w: float = entry("Most it sends", "What reaches the bank", gt=0, le=100_000, step=50)
    bank_id: Id | None = entry("Charges", default=None, of="banks", empty="the first")
    from_clock: Clock | None = entry(
        "Works from", "Empty: at any hour; a shore charger while she is at the dock", default=None
    )
    hours_per_day: float = entry("For", default=24, ge=0, le=24)
    begins_mps: float | None = entry("Begins at", default=None, gt=0, le=15, step=0.5)
    full_mps: float | None = entry("Full at", default=None, gt=0, le=30, step=0.5)
    start_frac: Share = entry("Starts at", "State of charge of the bank", default=0.35, step=5)
    stop_frac: Share = entry("Stops at", "State of charge of the bank", default=0.8, step=5)
    dump_load: bool = entry("Has its dump load", default=True)

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

    model_config = begins(from_deg=240, to_deg=300, height_m=12, distance_m=40)

    id: Id
    name: Name = entry("Name", default="Trees")
    from_deg: float = entry(
        "From bearing", "True, clockwise to the next: from 300 to 20 goes through north", ge=0, le=360
    )
    to_deg: float = entry("To bearing", ge=0, le=360)
    height_m: float = entry("Height", "Above the panels", gt=0, le=5_000, step=1)
    distance_m: float = entry("Distance", gt=0, le=100_000, step=5)

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

    name: Name = entry("Called", default="Here")
    latitude_deg: float = entry("Latitude, north +", ge=-90, le=90, step=0.5)
    longitude_deg: float = entry("Longitude, east +", ge=-180, le=180, step=0.5)
    altitude_m: float = entry("Altitude", default=0, ge=-450, le=6_000, step=10)
    water: Water = entry("Water", default=Water.FRESH)
    linke_turbidity: float | None = entry("Haze, Linke turbidity", default=None, ge=1, le=10)
    skyline: tuple[Skyline, ...] = entry("Skyline", default=(), max_length=24)
    climate: Climate = entry("Climate", default=Climate())

    @property
    def spot(self) -> Spot:
        return Spot(self.latitude_deg, self.longitude_deg, self.altitude_m, self.linke_turbidity)


class Sky(Choice):
    CLEAR = "clear", "clear"
    HAZY = "hazy", "hazy"
    BROKEN = "broken", "broken"
    OVERCAST = "overcast", "overcast"
    RAIN = "rain", "rain or fog"  # or fog


class Shade(Choice):
    """How much of it there is: a light overcast and a heavy one differ by a factor of three."""

    THIN = "thin", "light"
    USUAL = "usual", "usual"
    THICK = "thick", "heavy"


_SHADED = {
    Sky.HAZY: ("slightly hazy", "very hazy"),
    Sky.BROKEN: ("lightly broken", "heavily broken"),
    Sky.OVERCAST: ("thinly overcast", "heavily overcast"),
    Sky.RAIN: ("light rain or fog", "heavy rain or fog"),
}


class Spell(Part):
    """Motoring from one local clock time to another; an end before the start is past midnight."""

    model_config = begins(
        {"starts_at": "10:00:00", "ends_at": "16:00:00"}, {"starts_at": "20:00:00", "ends_at": "21:00:00"}
    )

    starts_at: Clock = entry("From")
    ends_at: Clock = entry("To")
    speed_mps: float | None = entry("Speed", "Empty: the plan's", default=None, gt=0, le=30)

    @model_validator(mode="after")
    def _lasts(self) -> Spell:
        if self.starts_at == self.ends_at:
            raise out_of_reach("This motoring spell has no length.", "ends_at", "an end other than the start")
        return self


class Stay(Part):
    """From one local clock time to another the boat is in another state than the plan's."""

    model_config = begins(starts_at="18:00:00", ends_at="09:00:00")

    starts_at: Clock = entry("From")
    ends_at: Clock = entry("To")
    state: BoatState = entry("She is", default=BoatState.ANCHORED)

    @model_validator(mode="after")
    def _lasts(self) -> Stay:
        if self.starts_at == self.ends_at:
            raise out_of_reach("This stay has no length.", "ends_at", "an end other than the start")
        return self


class TripDay(Part):
    """One day ahead, where the days are planned one by one."""

    out: bool = entry("Out", default=True)
    sky: Sky | None = entry("Sky", default=None, empty="as it comes")
    speed_mps: float | None = entry("Speed", "Empty: the plan's", default=None, gt=0, le=30)


class Budget(Part):
    """What an upgrade may cost, and what already lies in the shed."""

    coins: float = entry("Money", default=1_000, ge=0, le=1e6, quantity="money", step=100)
    mass_kg: float | None = entry(
        "Weight that may be added",
        "Empty: any weight, as far as it pays",
        default=None,
        ge=0,
        le=10_000,
        step=5,
    )
    owned_panels: int = entry(
        "Panels already owned", "They cost nothing; their weight counts", default=0, ge=0, le=50
    )
    owned_units: int = entry(
        "Battery units already owned", "They cost nothing; their weight counts", default=0, ge=0, le=50
    )


class Trip(Part):
    """Days ahead: out, then at rest, so many rounds, a spell of fog from some day on; or day by day."""

    out_days: int = entry("Days out", default=3, ge=0, le=14)
    rest_days: int = entry("Days at rest", default=2, ge=0, le=14)
    rounds: int = entry("Rounds", "How often out and rest follow each other", default=2, ge=1, le=6)
    rest_state: BoatState = entry("At rest she is", default=BoatState.ANCHORED)
    days: tuple[TripDay, ...] = entry("Day", "One by one; without any, by rounds", default=(), max_length=21)
    fog_from: int = entry("Fog from day", default=3, ge=1, le=168)
    fog_days: int = entry(
        "Days of fog", "One after the other: the worst that a week can do", default=0, ge=0, le=30
    )

    @model_validator(mode="after")
    def _has_days(self) -> Trip:
        if self.out_days + self.rest_days == 0:
            raise out_of_reach("This trip has no days.", "out_days", "one day out or at rest")
        return self


class Plan(Part):
    """The day in question. `spells` empty means the useful sun: 5 to 95 % of the clear day's harvest."""

    date: Date = entry("Date")
    sky: Sky = entry("Sky", default=Sky.CLEAR)
    sky_shade: Shade = entry("How much of it", "A clear sky has none", default=Shade.USUAL)
    state: BoatState = entry("She is", default=BoatState.UNDER_WAY)
    heading_deg: float | None = entry("Heading; empty: any", default=None, ge=0, lt=360)
    trip: Trip = entry("Days ahead", default=Trip())
    budget: Budget = entry("Budget", default=Budget())
    swing_deg: float = entry("Swing to either side", "Of the heading", default=0, ge=0, le=180)
    speed_mps: float = entry("Speed", "Through the water", gt=0, le=30)
    spells: tuple[Spell, ...] | None = entry(
        "Spell", "Left out: the useful sun; an empty list is a day at rest", default=None, max_length=8
    )
    stays: tuple[Stay, ...] = entry("Stay", default=(), max_length=6)
    start_charge_frac: Share = entry(
        "Bank at the start", "At sunrise, when the drawn day begins", default=0.8, step=5
    )
    air_temperature_c: float | None = entry("Air by day", default=None, ge=-40, le=55)
    water_temperature_c: float | None = entry(
        "Water", "How warm it is; empty means usual for the place and the season", default=None, ge=-2, le=40
    )
    wind_mps: float = entry(
        "Wind",
        "The mean of the day; gusts and lulls about it are counted, and it cools the panels",
        default=3.0,
        ge=0,
        le=40,
        step=0.5,
    )
    wind_angle_deg: float | None = entry(
        "Off the bow",
        "0 is on the nose, 180 from astern; empty means from anywhere, not counted as drag",
        default=None,
        ge=-180,
        le=180,
        step=15,
    )
    wave_height_m: float = entry(
        "Waves", "Significant height; from ahead, on a passage with its wind", default=0, ge=0, le=4
    )
    current_mps: float = entry(
        "Stream, with you +",
        "Along the course, minus against her; the answers then speak over the ground",
        default=0,
        ge=-5,
        le=5,
    )

    @property
    def sky_words(self) -> str:
        """The sky with how much of it."""
        if self.sky is Sky.CLEAR or self.sky_shade is Shade.USUAL:
            return self.sky.label
        return _SHADED[self.sky][self.sky_shade is Shade.THICK]

    @model_validator(mode="after")
    def _dated(self) -> Plan:
        if not 1950 <= self.date.year <= 2100:
            raise out_of_reach(
                "The sun's place is not computed for that year.", "date", "a date from 1950 to 2100"
            )
        return self
