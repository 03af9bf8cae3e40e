"""Motors, gears and propellers, and whatever else pushes the boat."""

from __future__ import annotations

from datetime import time as Time
from enum import StrEnum

from pydantic import Field, model_validator

from parhelion.design.part import Clock, Id, Name, Part, out_of_reach

USUAL_AREA_RATIO = {2: 0.30, 3: 0.45, 4: 0.55, 5: 0.60, 6: 0.65, 7: 0.70}  # blade area over disc, by blades
PITCH_TO_DIAMETER = (0.3, 2.2)  # beyond this it is a slip of the pen


class Rating(StrEnum):
    """What the number on a motor's label means."""

    BATTERY = "battery"  # watts taken from the battery
    SHAFT = "shaft"  # watts at the propeller shaft
    THRUST = "thrust"  # static thrust, as trolling motors are sold


class Propeller(Part):
    """A propeller; blade area left empty is usual for the number of blades."""

    diameter_m: float = Field(gt=0.05, le=2, title="Diameter")
    pitch_m: float = Field(gt=0.01, le=4, title="Pitch")
    blades: int = Field(default=3, ge=2, le=7, title="Blades")
    area_ratio: float | None = Field(default=None, ge=0.2, le=1.1, title="Blade area over disc")
    depth_m: float | None = Field(default=None, gt=0, le=4, title="Shaft below the surface")
    clearance_m: float | None = Field(default=None, ge=0, le=2, title="Blade tips to the hull")

    @property
    def area(self) -> float:
        return self.area_ratio or USUAL_AREA_RATIO[self.blades]

    @property
    def pitch_ratio(self) -> float:
        return self.pitch_m / self.diameter_m

    @model_validator(mode="after")
    def _sane(self) -> Propeller:
        low, high = (share * self.diameter_m for share in PITCH_TO_DIAMETER)
        if not low <= self.pitch_m <= high:
            raise out_of_reach(
                "This pitch does not belong to a propeller {wide} m wide.",
                "pitch_m",
                f"{low:.2g} to {high:.2g} m for this diameter",
                wide=f"{self.diameter_m:g}",
                limit=high if self.pitch_m > high else low,
                relation="{0} or " + ("less" if self.pitch_m > high else "more") + " for this diameter",
            )
        return self


class Motor(Part):
    """A motor's constants; what is not published is estimated from no-load speed and current."""

    volts: float | None = Field(default=None, gt=1, le=1_000, title="Volts it runs on; empty: the bank's")
    kv_rpm_per_v: float | None = Field(default=None, gt=0.5, le=5_000, title="Revolutions per volt, Kv")
    resistance_ohm: float | None = Field(default=None, gt=0, le=20, title="Winding resistance")
    no_load_rpm: float | None = Field(default=None, gt=5, le=60_000, title="Speed with no load")
    no_load_current_a: float | None = Field(default=None, gt=0, le=500, title="Amps with no load")
    current_limit_a: float | None = Field(default=None, gt=0, le=5_000, title="Controller's current limit")
    continuous_power_w: float | None = Field(default=None, gt=0, le=500_000, title="It may give this all day")

    @model_validator(mode="after")
    def _known(self) -> Motor:
        if self.kv_rpm_per_v is None and self.no_load_rpm is None:
            raise out_of_reach(
                "Nothing says how fast this motor turns.",
                "kv_rpm_per_v",
                "its Kv, or its no-load speed and the volts it was read at",
            )
        return self


class Drive(Part):
    """A motor with its propeller; one or several alike. Efficiency left empty is worked out link by link."""

    id: Id
    name: Name = "Motor"
    count: int = Field(default=1, ge=1, le=4, title="How many alike")
    rating: Rating = Rating.BATTERY
    rated_power_w: float | None = Field(default=None, gt=0, le=500_000, title="Watts on its label")
    static_thrust_n: float | None = Field(default=None, gt=1, le=5_000, title="Thrust on its label")
    full_thrust_current_a: float | None = Field(default=None, gt=0, le=1_000, title="Amps at full thrust")
    full_thrust_v: float | None = Field(default=None, gt=2, le=1_000, title="Volts it is rated at")
    stepped: bool = Field(default=False, title="Fixed speeds by resistor")
    overall_efficiency: float | None = Field(default=None, gt=0.02, le=0.9, title="Battery to thrust")
    idle_power_w: float = Field(default=10, ge=0, le=2_000, title="Draw when on but not turning")
    gear_ratio: float = Field(default=1, ge=0.2, le=60, title="Motor turns per propeller turn")
    gear_efficiency: float | None = Field(default=None, gt=0.5, le=1)
    hull_efficiency: float | None = Field(default=None, gt=0.5, le=1.5, title="(1 - t) / (1 - w)")
    motor: Motor | None = None
    propeller: Propeller | None = None

    @model_validator(mode="after")
    def _rated(self) -> Drive:
        if self.rating is Rating.THRUST and self.static_thrust_n is None:
            raise out_of_reach(
                "A thrust-rated motor needs its thrust.", "static_thrust_n", "thrust in newtons"
            )
        if self.rating is not Rating.THRUST and self.rated_power_w is None:
            raise out_of_reach("This motor has no power.", "rated_power_w", "watts on its label, more than 0")
        return self


class PushKind(StrEnum):
    PEDALS = "pedals"
    PADDLE = "paddle"
    OARS = "oars"
    SAIL = "sail"


class Push(Part):
    """Something else that pushes: legs and arms help the motor, under sail it is off."""

    id: Id
    kind: PushKind
    power_w: float = Field(default=75, ge=0, le=2_000, title="Watts a person holds")
    hours_per_day: float = Field(gt=0, le=24, title="Hours a day")
    from_clock: Clock = Field(default=Time(10), title="From")
