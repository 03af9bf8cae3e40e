"""Motors, gears and propellers, and whatever else pushes the boat."""

from __future__ import annotations

from datetime import time as Time

from pydantic import model_validator

from parhelion.design.part import Choice, Clock, Id, Name, Part, begins, entry, out_of_reach

USUAL_AREA_RATIO = {2: 0.30, 3: 0.45, 4: 0.55, 5: 0.60, 6: 0.65, 7: 0.70}  # blade area over disc, by blades
PITCH_TO_DIAMETER = (0.3, 2.2)  # beyond this it is a slip of the pen


class Rating(Choice):
    """What the number on a motor's label means."""

    BATTERY = "battery", "watts it takes"  # watts taken from the battery
    SHAFT = "shaft", "watts at the shaft"  # watts at the propeller shaft
    THRUST = "thrust", "thrust"  # static thrust, as trolling motors are sold


class Propeller(Part):
    """A propeller; blade area left empty is usual for the number of blades."""

    model_config = begins(diameter_m=0.28, pitch_m=0.2)

    diameter_m: float = entry("Diameter", gt=0.05, le=2, step=0.01)
    pitch_m: float = entry("Pitch", "How far it would screw forward in a turn", gt=0.01, le=4, step=0.01)
    blades: int = entry("Blades", default=3, ge=2, le=7)
    area_ratio: float | None = entry("Blade area over disc", default=None, ge=0.2, le=1.1)
    depth_m: float | None = entry(
        "Shaft below surface",
        "To the middle of the propeller; in a chop a shallow one draws air",
        default=None,
        gt=0,
        le=4,
        step=0.05,
    )
    clearance_m: float | None = entry("Tips to the hull", default=None, ge=0, le=2, step=0.01)

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

    model_config = begins(kv_rpm_per_v=60)

    volts: float | None = entry(
        "Its volts", "Empty means the bank's", default=None, gt=1, le=1_000, quantity="voltage_v", step=12
    )
    kv_rpm_per_v: float | None = entry(
        "Kv",
        "Revolutions a minute per volt; or give the no-load speed",
        default=None,
        gt=0.5,
        le=5_000,
        unit="/V",
        step=1,
    )
    resistance_ohm: float | None = entry("Winding", default=None, gt=0, le=20, unit="Ω", step=0.001)
    no_load_rpm: float | None = entry("No-load speed", default=None, gt=5, le=60_000)
    no_load_current_a: float | None = entry("No-load amps", default=None, gt=0, le=500, step=0.5)
    current_limit_a: float | None = entry(
        "Current limit", "Of its controller", default=None, gt=0, le=5_000, step=5
    )
    continuous_power_w: float | None = entry(
        "All day it gives", "Continuous rating, at the shaft", default=None, gt=0, le=500_000, step=100
    )

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

    model_config = begins(name="Second motor", rated_power_w=1000)

    id: Id
    name: Name = entry("Called", default="Motor")
    count: int = entry("How many alike", default=1, ge=1, le=4)
    rating: Rating = entry("Its label gives", default=Rating.BATTERY)
    rated_power_w: float | None = entry(
        "Watts on its label",
        "What it takes from the bank at full throttle, or gives at the shaft, as chosen above",
        default=None,
        examples=[1000],
        gt=0,
        le=500_000,
        step=50,
    )
    static_thrust_n: float | None = entry(
        "Thrust", "Static, as trolling motors are sold", default=None, examples=[240], gt=1, le=5_000
    )
    full_thrust_current_a: float | None = entry(
        "Amps at full thrust",
        "From the label, where it has them; empty means usual for such motors",
        default=None,
        gt=0,
        le=1_000,
    )
    full_thrust_v: float | None = entry("Rated at", default=None, gt=2, le=1_000, step=12)
    stepped: bool = entry("Fixed speeds, by resistor", default=False)
    overall_efficiency: float | None = entry(
        "Battery to thrust",
        "Share of battery watts that becomes thrust times speed; empty: link by link, or usual",
        default=None,
        gt=0.02,
        le=0.9,
    )
    idle_power_w: float = entry("Draw when idling", "On, but not turning", default=10, ge=0, le=2_000, step=1)
    mass_kg: float | None = entry(
        "Mass of one motor",
        "With its propeller, part of the boat's own weight; empty: usual for its watts",
        default=None,
        gt=0,
        le=5_000,
    )
    price: float | None = entry(
        "Price of one motor", "Empty: usual for its watts", default=None, ge=0, le=1_000_000,
        quantity="money", step=50,
    )  # fmt: skip
    gear_ratio: float = entry(
        "Gear, motor to 1",
        "Motor turns for one turn of the propeller; 1 is direct",
        default=1,
        ge=0.2,
        le=60,
        unit=": 1",
        step=0.25,
    )
    gear_efficiency: float | None = entry("Gear's efficiency", default=None, gt=0.5, le=1)
    hull_efficiency: float | None = entry(
        "Hull efficiency", "(1 - t) / (1 - w)", default=None, gt=0.5, le=1.5, quantity="ratio"
    )
    motor: Motor | None = entry("Motor constants", default=None)
    propeller: Propeller | None = entry("Propeller", default=None)

    @model_validator(mode="after")
    def _rated(self) -> Drive:
        if self.rating is Rating.THRUST and self.static_thrust_n is None:
            raise out_of_reach(
                "A thrust-rated motor needs its thrust.", "static_thrust_n", "thrust in newtons"
            )
        if self.rating is not Rating.THRUST and self.rated_power_w is None:
            raise out_of_reach("This motor has no power.", "rated_power_w", "watts on its label, more than 0")
        return self


class PushKind(Choice):
    PEDALS = "pedals", "Pedals"
    PADDLE = "paddle", "Paddle"
    OARS = "oars", "Oars"
    SAIL = "sail", "Sail"


class Push(Part):
    """Something else that pushes: legs and arms help the motor, under sail it is off."""

    model_config = begins({"kind": "pedals", "hours_per_day": 1}, {"kind": "sail", "hours_per_day": 4})

    id: Id
    kind: PushKind = entry("Kind")
    power_w: float = entry(
        "Watts a person holds", "Some 75 for hours, 150 for half an hour", default=75, ge=0, le=2_000, step=5
    )
    hours_per_day: float = entry("Hours a day", "Of a sail: with the motor off", gt=0, le=24)
    from_clock: Clock = entry("From", default=Time(10))
