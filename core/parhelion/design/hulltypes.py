"""Hull types by their everyday names, with the form numbers a boat of that type usually has.

L/B, Cp (prismatic), Cm (midship), Cwp (waterplane) and LCB (percent of length, forward positive) are
typical of small craft of each type, as is the margin from smooth calm-water resistance to service and the
overall efficiency from battery to thrust. docs/methods/hull-types.md gives the table and its accuracy.

References
----------
[1] Reported watts of boats of seven classes, 1.6 times the clean models in the geometric mean, x/div 1.45:
    appendages by what each type carries, the rest as a margin for fouling, roughness, trim, soft tubes,
    worn propellers and part load (docs/methods/hull-types.md).
"""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from parhelion.design.part import Choice


class HullType(Choice):
    KAYAK = "kayak", "Kayak"
    CANOE = "canoe", "Canoe"
    SIT_ON_TOP = "sit_on_top", "Sit-on-top"
    PADDLEBOARD = "paddleboard", "Paddleboard"
    ROWING_BOAT = "rowing_boat", "Rowing boat"
    INFLATABLE = "inflatable", "Inflatable"
    SKIFF = "skiff", "Skiff"
    PLANING_BOAT = "planing_boat", "Planing boat"
    LAUNCH = "launch", "Launch"
    MOTOR_CRUISER = "motor_cruiser", "Motor cruiser"
    FIN_KEEL_YACHT = "fin_keel_yacht", "Fin-keel yacht"
    LONG_KEEL_YACHT = "long_keel_yacht", "Long-keel yacht"
    CATAMARAN = "catamaran", "Catamaran"
    TRIMARAN = "trimaran", "Slim trimaran"
    PONTOON = "pontoon", "Pontoon boat"


class Model(StrEnum):
    """How the calm-water resistance of a type is computed."""

    COMPONENT = "component"
    TRANSOM = "transom"
    THIN_SHIP = "thin_ship"
    YACHT = "yacht"
    TWO_HULLS = "two_hulls"
    TUBES = "tubes"
    PLANING = "planing"


@dataclass(frozen=True)
class TypicalForm:
    """Form numbers and a believable starting boat of one hull type."""

    length_to_beam: float
    prismatic: float  # Cp
    midship: float  # Cm
    waterplane: float  # Cwp
    lcb_percent: float  # of length, forward positive
    margin: float  # what boats ask in service over the clean model with its appendages [1]
    efficiency: float  # battery to thrust
    hulls: int  # how many hulls carry the displacement
    model: Model
    length_m: float  # a typical boat to start from
    displacement_kg: float
    rated_power_w: float
    air_drag_cd: float
    fast_efficiency: float | None = None  # once planing or driven hard, where it differs
    transom_depth: float = 0.0  # immersed transom over draught

    @property
    def beam_m(self) -> float:
        return round(self.length_m / self.length_to_beam, 2)


_THIN = Model.THIN_SHIP
_SERIES = Model.YACHT
_PLANE = Model.PLANING
_TRANSOM = Model.TRANSOM

TYPICAL: dict[HullType, TypicalForm] = {
    HullType.KAYAK: TypicalForm(
        8.5, 0.55, 0.80, 0.68, 0, 1.25, 0.45, 1, _THIN, 4.6, 120, 400, 0.9),
    HullType.CANOE: TypicalForm(
        6, 0.58, 0.85, 0.70, 0, 1.25, 0.45, 1, _THIN, 4.7, 180, 500, 0.9),
    HullType.SIT_ON_TOP: TypicalForm(
        5.6, 0.60, 0.85, 0.74, 0, 1.6, 0.38, 1, _TRANSOM, 3.9, 150, 400, 0.9),
    HullType.PADDLEBOARD: TypicalForm(
        5, 0.65, 0.92, 0.80, -1, 1.6, 0.38, 1, _TRANSOM, 3.5, 110, 350, 1.1, None, 0.10),
    HullType.ROWING_BOAT: TypicalForm(
        3.6, 0.58, 0.75, 0.70, -1, 1.6, 0.38, 1, _TRANSOM, 3.8, 320, 800, 0.8, None, 0.15),
    HullType.INFLATABLE: TypicalForm(
        2.0, 0.78, 0.85, 0.85, -6, 2.0, 0.38, 1, _PLANE, 2.8, 260, 1000, 0.8, 0.50, 0.50),
    HullType.SKIFF: TypicalForm(
        2.9, 0.72, 0.85, 0.80, -5, 1.6, 0.38, 1, _PLANE, 4.2, 420, 2000, 0.8, 0.50, 0.50),
    HullType.PLANING_BOAT: TypicalForm(
        2.9, 0.72, 0.75, 0.80, -8, 1.3, 0.50, 1, _PLANE, 5.2, 900, 15000, 0.75, None, 0.50),
    HullType.LAUNCH: TypicalForm(
        4.2, 0.58, 0.75, 0.72, -2, 1.35, 0.45, 1, Model.COMPONENT, 6.7, 1200, 3000, 0.8),
    HullType.MOTOR_CRUISER: TypicalForm(
        3.2, 0.64, 0.78, 0.78, -3, 1.35, 0.45, 1, Model.COMPONENT, 8.4, 3800, 8000, 0.75),
    HullType.FIN_KEEL_YACHT: TypicalForm(
        3.0, 0.56, 0.74, 0.68, -3.5, 1.35, 0.38, 1, _SERIES, 8.0, 4200, 8000, 0.75),
    HullType.LONG_KEEL_YACHT: TypicalForm(
        2.9, 0.55, 0.60, 0.67, -2.5, 1.35, 0.38, 1, _SERIES, 7.6, 5200, 8000, 0.75),
    HullType.CATAMARAN: TypicalForm(
        10, 0.60, 0.78, 0.74, -2, 1.25, 0.48, 2, Model.TWO_HULLS, 10.5, 6200, 12000, 0.6),
    HullType.TRIMARAN: TypicalForm(
        13, 0.60, 0.80, 0.72, -1, 1.25, 0.50, 1, _THIN, 8.5, 1100, 3000, 0.6),
    HullType.PONTOON: TypicalForm(
        10.5, 0.80, 0.80, 0.88, -2, 1.8, 0.40, 2, Model.TUBES, 6.3, 1300, 4000, 1.0, 0.50),
}  # fmt: skip


@dataclass(frozen=True)
class Appended:
    """Keel, skeg, rudder, shaft, bracket or leg of a type: never nothing."""

    what: str
    area: float  # wetted, over the square of the waterline length [1]
    form: float  # 1 + k of foils, legs and brackets [1]


APPENDED: dict[HullType, Appended] = {
    HullType.KAYAK: Appended("motor's leg and rudder", 0.004, 2.5),
    HullType.CANOE: Appended("motor's leg", 0.004, 2.5),
    HullType.SIT_ON_TOP: Appended("motor's leg and skeg", 0.008, 2.5),
    HullType.PADDLEBOARD: Appended("motor's leg and fin", 0.008, 2.5),
    HullType.ROWING_BOAT: Appended("skeg and leg", 0.010, 2.0),
    HullType.INFLATABLE: Appended("motor's leg", 0.010, 2.5),
    HullType.SKIFF: Appended("skeg and leg", 0.010, 2.5),
    HullType.PLANING_BOAT: Appended("leg", 0.008, 2.5),
    HullType.LAUNCH: Appended("skeg, rudder and shaft", 0.020, 1.5),
    HullType.MOTOR_CRUISER: Appended("skeg, rudder and shaft", 0.020, 1.5),
    HullType.FIN_KEEL_YACHT: Appended("keel and rudder", 0.065, 1.4),
    HullType.LONG_KEEL_YACHT: Appended("keel and rudder", 0.100, 1.3),
    HullType.CATAMARAN: Appended("keels and rudders", 0.020, 1.4),
    HullType.TRIMARAN: Appended("board and rudder", 0.010, 1.4),
    HullType.PONTOON: Appended("brackets and leg", 0.015, 2.5),
}
FAST_MARGIN = {HullType.INFLATABLE: 1.2, HullType.SKIFF: 1.2, HullType.PLANING_BOAT: 1.0}  # on the plane [1]

# Extra breadth above the waterline that the wind sees, as a share of length, for boats of several hulls.
SECOND_MOMENT = 1 / 11.7  # of a waterplane, over Cwp^2 x length x breadth cubed either way; 1/12 for a box
HULL_SPACING_TO_LENGTH = 0.45


def draught_m(
    hull_type: HullType,
    length_m: float,
    beam_m: float,
    displacement_kg: float,
    prismatic: float,
    midship: float,
    water_density_kg_per_m3: float,
) -> float:
    """Draught of the hull body, T = volume / (L B Cp Cm) for each hull [m]."""
    volume_m3 = displacement_kg / water_density_kg_per_m3 / TYPICAL[hull_type].hulls
    return volume_m3 / (length_m * beam_m * prismatic * midship)
