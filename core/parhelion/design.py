"""The boat design document: one JSON document, defined here once.

The database stores it, the API speaks it, the browser's types are generated from it and the file a person
downloads is it. SI units, with the unit in the name; angles in degrees clockwise, seen from above.

Boat frame: x to starboard, y forward, z up from the waterline amidships [m].
"""

from __future__ import annotations

from datetime import date as Date
from datetime import time as Time
from enum import StrEnum
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field, model_validator
from pydantic_core import PydanticCustomError

from parhelion.constants import FRESH_DENSITY_KG_PER_M3, SEA_DENSITY_KG_PER_M3
from parhelion.hulltypes import TYPICAL, HullType, draught_m

SCHEMA_NAME = "parhelion.boat"
SCHEMA_VERSION = 1

DEEPEST_BODY_TO_BEAM = 1.5  # a hull body drawing more than this many beams is a slip of the pen

Id = Annotated[str, Field(min_length=1, max_length=40, pattern=r"^[A-Za-z0-9_-]+$")]
Name = Annotated[str, Field(min_length=1, max_length=80)]
Share = Annotated[float, Field(ge=0, le=1)]


class Part(BaseModel):
    """A piece of the document; frozen, so that a changed boat is a new boat."""

    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False)


class Use(StrEnum):
    """What the boat is for; the answer rail follows it."""

    CRUISER = "cruiser"
    AUXILIARY = "auxiliary"
    HOME_CHARGED = "home_charged"


class Water(StrEnum):
    FRESH = "fresh"
    SALT = "salt"


class Hull(Part):
    """The hull in the water. Form numbers left empty are those usual for the type."""

    type: HullType = HullType.LAUNCH
    waterline_length_m: float = Field(gt=0.5, le=40, title="Waterline length")
    beam_m: float = Field(gt=0.15, le=12, title="Waterline beam of one hull")
    displacement_kg: float = Field(gt=20, le=200_000, title="Displacement, all aboard")
    prismatic_coefficient: float | None = Field(default=None, gt=0.4, lt=0.95)
    midship_coefficient: float | None = Field(default=None, gt=0.3, le=1)
    waterplane_coefficient: float | None = Field(default=None, gt=0.4, le=1)
    lcb_percent: float | None = Field(default=None, ge=-12, le=6)
    correlation_allowance: float = Field(default=0.0004, ge=0, le=0.003, title="Hull roughness allowance")
    margin: float | None = Field(default=None, ge=1, le=3, title="Service margin on resistance")
    frontal_area_m2: float | None = Field(default=None, ge=0, le=200)

    @property
    def prismatic(self) -> float:
        return self.prismatic_coefficient or TYPICAL[self.type].prismatic

    @property
    def midship(self) -> float:
        return self.midship_coefficient or TYPICAL[self.type].midship

    @property
    def waterplane(self) -> float:
        return self.waterplane_coefficient or TYPICAL[self.type].waterplane

    @property
    def lcb(self) -> float:
        return TYPICAL[self.type].lcb_percent if self.lcb_percent is None else self.lcb_percent

    @property
    def service_margin(self) -> float:
        return self.margin or TYPICAL[self.type].margin

    def draught(self, water_density_kg_per_m3: float) -> float:
        """Draught of the hull body [m]."""
        return draught_m(
            self.type, self.waterline_length_m, self.beam_m, self.displacement_kg,
            self.prismatic, self.midship, water_density_kg_per_m3,
        )  # fmt: skip

    @model_validator(mode="after")
    def _floats(self) -> Hull:
        draught = self.draught(SEA_DENSITY_KG_PER_M3)
        if draught > DEEPEST_BODY_TO_BEAM * self.beam_m:
            most = self.displacement_kg * DEEPEST_BODY_TO_BEAM * self.beam_m / draught
            raise PydanticCustomError(
                "out_of_reach",
                "A hull this long and wide would float {draught} m deep.",
                {
                    "draught": f"{draught:.3g}",
                    "accepted": f"{most:.0f} kg or less for this length and beam",
                    "limit": most,
                    "relation": "{0} or less for this length and beam",
                    "field": "displacement_kg",
                },
            )
        return self


class MeasuredRun(Part):
    """A steady run on flat water: speed and battery watts. `back_speed_mps` empty means one way only."""

    id: Id
    speed_mps: float = Field(gt=0, le=30, title="Speed, out")
    back_speed_mps: float | None = Field(default=None, gt=0, le=30, title="Speed, back")
    power_w: float = Field(gt=0, le=1_000_000, title="Battery watts")
    displacement_kg: float | None = Field(default=None, gt=20, le=200_000, title="Displacement on the run")

    @property
    def through_water_mps(self) -> float:
        """Speed through the water; the mean of both ways takes a steady current out [m/s]."""
        return self.speed_mps if self.back_speed_mps is None else (self.speed_mps + self.back_speed_mps) / 2


class Drive(Part):
    """One motor with its propeller, as one efficiency from battery to thrust."""

    id: Id
    name: Name = "Motor"
    rated_power_w: float = Field(gt=0, le=500_000, title="Most it takes from the battery")
    overall_efficiency: float | None = Field(default=None, gt=0.02, le=0.9, title="Battery to thrust")
    idle_power_w: float = Field(default=10, ge=0, le=2_000, title="Draw when on but not turning")


class Chemistry(StrEnum):
    LFP = "lfp"
    NMC = "nmc"
    AGM = "agm"
    FLOODED = "flooded"
    GEL = "gel"


class Bank(Part):
    """A battery bank. Depth and reserve left empty are the usual ones for the chemistry."""

    id: Id
    name: Name = "Bank"
    chemistry: Chemistry = Chemistry.LFP
    nominal_v: float = Field(gt=2, le=1000, title="Nominal volts of the bank")
    capacity_ah: float = Field(gt=0.5, le=20_000, title="Amp-hours at that voltage")
    usable_depth_frac: float | None = Field(default=None, gt=0.05, le=1, title="Usable depth")
    reserve_frac: Share | None = Field(default=None, title="Reserve, state of charge")
    mass_kg: float | None = Field(default=None, gt=0, le=50_000)
    temperature_c: float | None = Field(default=None, ge=-30, le=60)


class Load(Part):
    """A house load. Without `from_clock` its energy is spread evenly over the day."""

    id: Id
    name: Name
    power_w: float = Field(ge=0, le=50_000, title="Watts while on")
    hours_per_day: float = Field(ge=0, le=24, title="Hours a day")
    from_clock: Time | None = Field(default=None, title="Switched on at")
    essential: bool = False


class Ventilation(StrEnum):
    OPEN = "open"  # air on both sides
    ON_SURFACE = "on_surface"  # lying on a deck or roof


class Side(StrEnum):
    """Which way a tilted place faces, from the boat."""

    BOW = "bow"
    STARBOARD = "starboard"
    STERN = "stern"
    PORT = "port"


class Place(Part):
    """Where panels sit. Flat is the default; `faces` matters only when tilted."""

    id: Id
    name: Name
    tilt_deg: float = Field(default=0, ge=0, le=90, title="Tilt from flat")
    faces: Side = Side.STARBOARD
    ventilation: Ventilation = Ventilation.OPEN


class PanelGroup(Part):
    """Panels on one place feeding one controller."""

    id: Id
    place_id: Id
    controller_id: Id
    nameplate_w: float = Field(gt=0, le=5_000, title="Nameplate of one panel")
    count: int = Field(default=1, ge=1, le=400, title="How many")
    power_coefficient_per_k: float = Field(default=-0.0035, ge=-0.01, le=0)
    mass_kg: float | None = Field(default=None, gt=0, le=200, title="Mass of one panel")
    salt_loss_frac: float = Field(default=0.03, ge=0, le=0.5)
    mismatch_loss_frac: float = Field(default=0.02, ge=0, le=0.5)
    wiring_loss_frac: float = Field(default=0.03, ge=0, le=0.5)


class Controller(Part):
    """A charge controller; without a current limit it never clips."""

    id: Id
    name: Name = "Controller"
    efficiency: float = Field(default=0.96, gt=0.5, le=1, title="Controller efficiency")
    current_limit_a: float | None = Field(default=None, gt=0, le=2_000, title="Most it puts out")


class Link(Part):
    """A DC-DC converter from one bank to another."""

    id: Id
    from_bank_id: Id
    to_bank_id: Id
    limit_w: float = Field(gt=0, le=100_000)
    efficiency: float = Field(default=0.93, gt=0.5, le=1)


class Point(Part):
    """A point of the boat frame [m]."""

    x_m: float
    y_m: float
    z_m: float


class Obstacle(Part):
    """Something that throws shade: a spar between two points of the boat frame."""

    id: Id
    name: Name
    foot: Point
    tip: Point
    radius_m: float = Field(gt=0, le=5)


class PanelString(Part):
    """Panels in series, as wired to a controller input."""

    id: Id
    controller_id: Id
    panel_group_ids: tuple[Id, ...]


class Source(Part):
    """Another source of charge: shore, wind, generator."""

    id: Id
    name: Name
    kind: Literal["shore", "wind", "generator", "hydro", "pedals"]
    rated_power_w: float = Field(gt=0, le=100_000)


class Site(Part):
    """Where the boat is. The time zone is found from the place, never stored."""

    name: Name = "Here"
    latitude_deg: float = Field(ge=-90, le=90, title="Latitude, north positive")
    longitude_deg: float = Field(ge=-180, le=180, title="Longitude, east positive")
    altitude_m: float = Field(default=0, ge=-450, le=6_000)
    water: Water = Water.FRESH
    linke_turbidity: float | None = Field(default=None, ge=1, le=10, title="Linke turbidity")


class Sky(StrEnum):
    CLEAR = "clear"
    HAZY = "hazy"
    BROKEN = "broken"
    OVERCAST = "overcast"
    RAIN = "rain"  # or fog


class Spell(Part):
    """Motoring from one local clock time to another; an end before the start is past midnight."""

    starts_at: Time
    ends_at: Time

    @model_validator(mode="after")
    def _lasts(self) -> Spell:
        if self.starts_at == self.ends_at:
            raise PydanticCustomError(
                "out_of_reach",
                "This motoring spell has no length.",
                {"accepted": "an end other than the start", "field": "ends_at"},
            )
        return self


class Plan(Part):
    """The day in question. `spells` empty means the useful sun: 5 to 95 % of the clear day's harvest."""

    date: Date
    sky: Sky = Sky.CLEAR
    heading_deg: float | None = Field(default=None, ge=0, lt=360, title="Heading; empty is any heading")
    speed_mps: float = Field(gt=0, le=30, title="Speed through the water")
    spells: tuple[Spell, ...] | None = Field(default=None, max_length=8)
    start_charge_frac: Share = Field(default=0.8, title="Bank at the start of the day")
    air_temperature_c: float | None = Field(default=None, ge=-40, le=55)
    wind_mps: float = Field(default=3.0, ge=0, le=40, title="Wind on the panels")

    @model_validator(mode="after")
    def _dated(self) -> Plan:
        if not 1950 <= self.date.year <= 2100:
            raise PydanticCustomError(
                "out_of_reach",
                "The sun's place is not computed for that year.",
                {"accepted": "a date from 1950 to 2100", "field": "date"},
            )
        return self


class BoatDesign(Part):
    """A solar-electric boat and the day it is asked about."""

    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False, title="Parhelion boat design")

    schema_name: Literal["parhelion.boat"] = "parhelion.boat"
    schema_version: Literal[1] = 1
    name: Name
    note: str = Field(default="", max_length=2_000)
    use: Use = Use.CRUISER
    hull: Hull
    runs: tuple[MeasuredRun, ...] = Field(default=(), max_length=60)
    drives: tuple[Drive, ...] = Field(min_length=1, max_length=4)
    banks: tuple[Bank, ...] = Field(default=(), max_length=4)
    links: tuple[Link, ...] = Field(default=(), max_length=8)
    loads: tuple[Load, ...] = Field(default=(), max_length=60)
    places: tuple[Place, ...] = Field(default=(), max_length=60)
    panels: tuple[PanelGroup, ...] = Field(default=(), max_length=60)
    obstacles: tuple[Obstacle, ...] = Field(default=(), max_length=100)
    controllers: tuple[Controller, ...] = Field(default=(), max_length=60)
    strings: tuple[PanelString, ...] = Field(default=(), max_length=60)
    sources: tuple[Source, ...] = Field(default=(), max_length=10)
    site: Site
    plan: Plan

    @model_validator(mode="after")
    def _joined(self) -> BoatDesign:
        places = {place.id for place in self.places}
        controllers = {controller.id for controller in self.controllers}
        for index, group in enumerate(self.panels):
            for key, known in (("place_id", places), ("controller_id", controllers)):
                if getattr(group, key) not in known:
                    raise PydanticCustomError(
                        "out_of_reach",
                        "Nothing in this design is called {missing}.",
                        {
                            "missing": getattr(group, key),
                            "accepted": ", ".join(sorted(known)) or "add it first",
                            "field": f"panels/{index}/{key}",
                        },
                    )
        for part in ("runs", "drives", "banks", "loads", "places", "panels", "controllers"):
            ids = [item.id for item in getattr(self, part)]
            if len(set(ids)) != len(ids):
                raise PydanticCustomError(
                    "out_of_reach",
                    "Two entries share one id.",
                    {"accepted": "a different id for each entry", "field": part},
                )
        if self.plan.spells is not None and not self.plan.spells:
            raise PydanticCustomError(
                "out_of_reach",
                "There are no motoring hours.",
                {"accepted": "at least one spell, or none at all for the useful sun", "field": "plan/spells"},
            )
        return self

    @property
    def water_density_kg_per_m3(self) -> float:
        return SEA_DENSITY_KG_PER_M3 if self.site.water is Water.SALT else FRESH_DENSITY_KG_PER_M3

    @property
    def bank(self) -> Bank | None:
        """The bank that drives the boat, if there is one."""
        return self.banks[0] if self.banks else None

    @property
    def nameplate_w(self) -> float:
        """All panels added up from their parts [W]."""
        return sum(group.nameplate_w * group.count for group in self.panels)

    @property
    def rated_power_w(self) -> float:
        """Most battery power the drives take together [W]."""
        return sum(drive.rated_power_w for drive in self.drives)

    @property
    def idle_power_w(self) -> float:
        return sum(drive.idle_power_w for drive in self.drives)

    @property
    def efficiency(self) -> float:
        """Battery to thrust, the drives weighted by their rating [-]."""
        return self._weighed(TYPICAL[self.hull.type].efficiency)

    @property
    def fast_efficiency(self) -> float:
        """The same once the hull planes, where that differs for its type [-]."""
        typical = TYPICAL[self.hull.type]
        return self._weighed(typical.fast_efficiency or typical.efficiency)

    def _weighed(self, usual: float) -> float:
        weighed = sum((drive.overall_efficiency or usual) * drive.rated_power_w for drive in self.drives)
        return weighed / self.rated_power_w

    def controller(self, controller_id: str) -> Controller:
        return next(item for item in self.controllers if item.id == controller_id)

    def place(self, place_id: str) -> Place:
        return next(item for item in self.places if item.id == place_id)
