"""The hull in the water, what it carries, and what was measured of it."""

from __future__ import annotations

from math import pi, sqrt

from pydantic import Field, model_validator

from parhelion.constants import GRAVITY_MPS2
from parhelion.design.hulltypes import HULL_SPACING_TO_LENGTH, TYPICAL, HullType
from parhelion.design.part import Id, Name, Part, out_of_reach


def hull_speed_mps(length_m: float) -> float:
    """The speed whose wave is as long as the waterline: Froude number 1/sqrt(2 pi) [m/s]."""
    return sqrt(GRAVITY_MPS2 * length_m / (2 * pi))


class Hull(Part):
    """The hull in the water. Form numbers left empty are those usual for the type."""

    type: HullType = HullType.LAUNCH
    waterline_length_m: float = Field(gt=0.5, le=40, title="Waterline length")
    beam_m: float = Field(gt=0.15, le=12, title="Waterline beam of one hull")
    displacement_kg: float | None = Field(
        default=None,
        gt=20,
        le=200_000,
        title="Displacement as weighed, all aboard; empty: added up from parts",
    )
    prismatic_coefficient: float | None = Field(default=None, gt=0.4, lt=0.95)
    midship_coefficient: float | None = Field(default=None, gt=0.3, le=1)
    waterplane_coefficient: float | None = Field(default=None, gt=0.4, le=1)
    lcb_percent: float | None = Field(default=None, ge=-12, le=6)
    correlation_allowance: float = Field(default=0.0004, ge=0, le=0.003, title="Hull roughness allowance")
    margin: float | None = Field(default=None, ge=1, le=3, title="Service margin on resistance")
    frontal_area_m2: float | None = Field(default=None, ge=0, le=200)
    air_drag_coefficient: float | None = Field(default=None, ge=0, le=3)
    appendage_area_m2: float = Field(default=0, ge=0, le=50, title="Keel and rudder, wetted")
    spacing_m: float | None = Field(default=None, gt=0.2, le=20, title="Between the hulls' centrelines")
    transom_depth_m: float | None = Field(default=None, ge=0, le=2, title="Immersed depth of the transom")
    deadrise_deg: float | None = Field(default=None, ge=0, le=35)
    lcg_share: float | None = Field(default=None, gt=0.1, lt=0.7, title="Centre of gravity from the transom")

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

    boat_kg: float = Field(gt=5, le=200_000, title="Boat, empty, with its motor")
    crew_kg: float = Field(default=0, ge=0, le=20_000)
    gear_kg: float = Field(default=0, ge=0, le=50_000)
    water_kg: float = Field(default=0, ge=0, le=20_000, title="Water and fuel in tanks")

    @property
    def total_kg(self) -> float:
        return self.boat_kg + self.crew_kg + self.gear_kg + self.water_kg


class Tow(Part):
    """A boat towed astern, by the resistance model of its own type."""

    id: Id
    name: Name = "Dinghy"
    type: HullType = HullType.INFLATABLE
    waterline_length_m: float = Field(gt=0.5, le=20)
    beam_m: float = Field(gt=0.15, le=6)
    displacement_kg: float = Field(gt=5, le=20_000, title="All up")
    count: int = Field(default=1, ge=1, le=6)


class MeasuredRun(Part):
    """A steady run on flat water: speed, and battery watts or volts times amps.

    `back_speed_mps` empty means one way only. A run noted as a span gives its other end in `speed_to_mps`
    and `power_to_w`. Runs of one `set_name` were made with the same propeller and bottom.
    """

    id: Id
    speed_mps: float = Field(gt=0, le=30, title="Speed, out")
    back_speed_mps: float | None = Field(default=None, gt=0, le=30, title="Speed, back")
    power_w: float | None = Field(default=None, gt=0, le=1_000_000, title="Battery watts")
    volts: float | None = Field(default=None, gt=0, le=1_000, title="Battery volts")
    amps: float | None = Field(default=None, gt=0, le=5_000, title="Battery amps")
    speed_to_mps: float | None = Field(default=None, gt=0, le=30, title="Speed, other end of the span")
    power_to_w: float | None = Field(default=None, gt=0, le=1_000_000, title="Watts, other end of the span")
    displacement_kg: float | None = Field(default=None, gt=20, le=200_000, title="Displacement on the run")
    set_name: str = Field(default="", max_length=40, title="Which set of runs it belongs to")

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
        """The stream that a pair of ways shows, along the way out [m/s]."""
        return None if self.back_speed_mps is None else (self.speed_mps - self.back_speed_mps) / 2

    @model_validator(mode="after")
    def _measured(self) -> MeasuredRun:
        if self.power_w is None and (self.volts is None or self.amps is None):
            raise out_of_reach(
                "This run has no watts.", "power_w", "battery watts, or battery volts and amps"
            )
        return self
