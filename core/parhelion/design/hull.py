"""The hull in the water, what it carries, and what was measured of it."""

from __future__ import annotations

from math import pi, sqrt

from pydantic import model_validator

from parhelion.constants import GRAVITY_MPS2
from parhelion.design.hulltypes import (
    APPENDED,
    FAST_MARGIN,
    HULL_SPACING_TO_LENGTH,
    TYPICAL,
    HullType,
)
from parhelion.design.part import Id, Name, Part, begins, entry, out_of_reach

BOTTOMS = {  # allowance for a hull's roughness, by what it looks like (docs/methods/hull.md)
    "0.0004": "clean and fair",
    "0.001": "rough or slimy",
    "0.0015": "weed and barnacles",
}


def hull_speed_mps(length_m: float) -> float:
    """The speed whose wave is as long as the waterline: Froude number 1/sqrt(2 pi) [m/s]."""
    return sqrt(GRAVITY_MPS2 * length_m / (2 * pi))


class Hull(Part):
    """The hull in the water. Form numbers left empty are those usual for the type."""

    type: HullType = entry("Type", default=HullType.LAUNCH)
    waterline_length_m: float = entry("Waterline length", gt=0.5, le=40)
    beam_m: float = entry(
        "Beam at the waterline", "Of one hull, where there are two", gt=0.15, le=12, step=0.05
    )
    displacement_kg: float | None = entry(
        "All-up weight",
        "Displacement as weighed, all aboard; empty means boat, crew, gear, bank and panels added up",
        default=None,
        gt=20,
        le=200_000,
        step=10,
    )
    prismatic_coefficient: float | None = entry(
        "Prismatic, Cp",
        "Fullness of the ends: volume over midship section times length",
        default=None,
        gt=0.4,
        lt=0.95,
    )
    midship_coefficient: float | None = entry(
        "Midship, Cm", "Fullness of the midship section", default=None, gt=0.3, le=1
    )
    waterplane_coefficient: float | None = entry(
        "Waterplane, Cwp", "Waterline area over length times beam", default=None, gt=0.4, le=1
    )
    lcb_percent: float | None = entry(
        "LCB, forward +",
        "Centre of buoyancy from amidships, in percent of the length",
        default=None,
        ge=-12,
        le=6,
        unit="%",
        step=0.5,
    )
    correlation_allowance: float = entry("Bottom", default=0.0004, ge=0, le=0.003, labels=BOTTOMS)
    margin: float | None = entry(
        "Service margin",
        "Real resistance over the smooth model",
        default=None,
        ge=1,
        le=3,
        unit="×",
        step=0.05,
    )
    frontal_area_m2: float | None = entry(
        "Area in the wind", "Seen from ahead, canopy and crew too", default=None, ge=0, le=200, step=0.5
    )
    air_drag_coefficient: float | None = entry("Its drag, Cd", default=None, ge=0, le=3, step=0.05)
    appendage_area_m2: float | None = entry(
        "Keel, rudder, leg", "Wetted, both sides; empty means usual for the type", default=None, ge=0, le=50
    )
    spacing_m: float | None = entry("Between hulls", "Centreline to centreline", default=None, gt=0.2, le=20)
    transom_depth_m: float | None = entry("Transom, immersed", default=None, ge=0, le=2, step=0.01)
    deadrise_deg: float | None = entry("Deadrise", default=None, ge=0, le=35, step=1)
    lcg_share: float | None = entry(
        "Weight from the transom", "Centre of gravity as a share of the length", default=None, gt=0.1, lt=0.7
    )

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
    def appended_m2(self) -> float:
        """Wetted area of keel, rudder, skeg and leg, given or usual for the type [m2]."""
        if self.appendage_area_m2 is not None:
            return self.appendage_area_m2
        return APPENDED[self.type].area * self.waterline_length_m**2

    @property
    def service_margin(self) -> float:
        """Margin on the clean model, given or usual for the type, while displacing [-]."""
        return self.margin or TYPICAL[self.type].margin

    @property
    def fast_margin(self) -> float:
        """The same on the plane [-]."""
        return self.margin or FAST_MARGIN.get(self.type, TYPICAL[self.type].margin)

    @property
    def spacing(self) -> float:
        """Between the hulls' centrelines, given or usual; 0 for one hull [m]."""
        if TYPICAL[self.type].hulls == 1:
            return 0.0
        return self.spacing_m or HULL_SPACING_TO_LENGTH * self.waterline_length_m

    @property
    def breadth_m(self) -> float:
        """Over all hulls [m]."""
        return self.beam_m + self.spacing

    @property
    def air_drag(self) -> float:
        given = self.air_drag_coefficient
        return TYPICAL[self.type].air_drag_cd if given is None else given


class Loading(Part):
    """What makes up the displacement beside the bank and the panels, which weigh what they weigh."""

    model_config = begins(boat_kg=500)

    boat_kg: float = entry("Boat, empty", "With its motor, without its bank", gt=5, le=200_000, step=10)
    crew_kg: float = entry("Crew", default=0, ge=0, le=20_000, step=5)
    gear_kg: float = entry("Gear", default=0, ge=0, le=50_000, step=5)
    water_kg: float = entry("Water and fuel", "In tanks", default=0, ge=0, le=20_000, step=5)

    @property
    def total_kg(self) -> float:
        return self.boat_kg + self.crew_kg + self.gear_kg + self.water_kg


class Tow(Part):
    """A boat towed astern, by the resistance model of its own type."""

    model_config = begins(name="Dinghy", waterline_length_m=2.4, beam_m=1.1, displacement_kg=60)

    id: Id
    name: Name = entry("In tow", default="Dinghy")
    type: HullType = entry("Kind", default=HullType.INFLATABLE)
    waterline_length_m: float = entry("Tow's length", "At the waterline", gt=0.5, le=20)
    beam_m: float = entry("Tow's beam", "At the waterline", gt=0.15, le=6, step=0.05)
    displacement_kg: float = entry("Tow's weight", "All up", gt=5, le=20_000, step=5)
    count: int = entry("How many", default=1, ge=1, le=6)


class MeasuredRun(Part):
    """A steady run: speed, and battery watts or volts times amps; on flat water or in weather of its own.

    `back_speed_mps` empty means one way only. A run noted as a span gives its other end in `speed_to_mps`
    and `power_to_w`. Runs of one `set_name` were made with the same propeller and bottom.
    """

    id: Id
    speed_mps: float = entry("Speed, out", gt=0, le=30)
    back_speed_mps: float | None = entry("Speed, back", "Empty means one way", default=None, gt=0, le=30)
    power_w: float | None = entry("Battery watts", default=None, gt=0, le=1_000_000)
    volts: float | None = entry("Battery volts", default=None, gt=0, le=1_000, quantity="voltage_v")
    amps: float | None = entry("Battery amps", default=None, gt=0, le=5_000, quantity="current_a")
    speed_to_mps: float | None = entry("Speed, to", "Other end of the span", default=None, gt=0, le=30)
    power_to_w: float | None = entry("Watts, to", "Other end of the span", default=None, gt=0, le=1_000_000)
    displacement_kg: float | None = entry(
        "Weight on the run", "All up", default=None, gt=20, le=200_000, step=10
    )
    set_name: str = entry("Set", "Runs made with the same propeller and bottom", default="", max_length=40)
    wind_mps: float = entry("Wind on the run", default=0, ge=0, le=40, step=0.5)
    wind_angle_deg: float = entry(
        "Off the bow, out", "0 is on the nose on the way out, 180 from astern", default=0, ge=-180, le=180,
        step=15,
    )  # fmt: skip
    wave_height_m: float = entry("Waves on the run", "Significant height", default=0, ge=0, le=4)

    @property
    def in_weather(self) -> bool:
        """Whether it was made in wind or waves that are told."""
        return self.wind_mps > 0 or self.wave_height_m > 0

    @property
    def through_water_mps(self) -> float:
        """Speed through the water; the mean of both ways takes a steady current out [m/s]."""
        if self.back_speed_mps is not None:
            return (self.speed_mps + self.back_speed_mps) / 2
        return self.speed_mps if self.speed_to_mps is None else (self.speed_mps + self.speed_to_mps) / 2

    @property
    def battery_w(self) -> float:
        """Battery watts: given, or volts times amps; the geometric middle of a span [W]."""
        if self.power_w is None:
            assert self.volts is not None and self.amps is not None
            return self.volts * self.amps
        return self.power_w if self.power_to_w is None else float((self.power_w * self.power_to_w) ** 0.5)

    @property
    def current_mps(self) -> float | None:
        """The stream that a pair of ways shows, along the way out [m/s]; None where a wind shares in it."""
        if self.back_speed_mps is None or self.wind_mps > 0:
            return None
        return (self.speed_mps - self.back_speed_mps) / 2

    @model_validator(mode="after")
    def _measured(self) -> MeasuredRun:
        if self.power_w is None and (self.volts is None or self.amps is None):
            raise out_of_reach(
                "This run has no watts.", "power_w", "battery watts, or battery volts and amps"
            )
        return self
