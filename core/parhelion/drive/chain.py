"""The chain from battery to thrust, link by link: controller, motor, gear, propeller, hull.

One of four ways, the first that applies: an efficiency the owner gives; a thrust-rated motor by its label; a
known propeller on its open-water curve, turned by the motor's constants; or what is usual for the hull type,
with the motor's losses by its load.

References
----------
[1] docs/methods/drive.md
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np
from numpy.typing import ArrayLike, NDArray

from parhelion.design import BoatDesign, Drive, Rating
from parhelion.design.hulltypes import TYPICAL
from parhelion.drive import trolling
from parhelion.drive.motor import (
    FULL_LOAD_EFFICIENCY,
    MotorPoint,
    at_work,
    constants_of,
    usual_efficiency,
    usual_input_w,
)
from parhelion.drive.propeller import Screw, Turning, turning_for
from parhelion.drive.ventilation import mean_thrust_left

Array = NDArray[np.float64]
Method = Literal["given", "label", "propeller", "usual"]

USUAL_LOAD = 0.3  # share of its rating at which a type's usual efficiency was observed [1]
GEAR_EFFICIENCY = 0.97  # of one geared stage [1]
PROPELLER_IN_SERVICE = 0.90  # of open water: leg or shaft drag, slack pitch, a season's growth [1]
USUAL_BANK_V = 24.0  # where there is no bank to name the volts


@dataclass(frozen=True)
class Surroundings:
    """What a drive works in: usual efficiency of the hull type, slow and planing, and the water."""

    slow_efficiency: float
    fast_efficiency: float
    density_kg_per_m3: float
    bank_v: float
    wave_height_m: float = 0.0


@dataclass(frozen=True)
class Chain:
    """One drive at work, all its motors together. `links` multiply to thrust power over battery watts."""

    method: Method
    battery_w: Array  # without the idle draw
    links: tuple[tuple[str, Array], ...]
    turning: Turning | None = None  # of one propeller
    motor: MotorPoint | None = None  # of one motor


def surroundings_of(design: BoatDesign) -> Surroundings:
    """What the drives of a design work in."""
    typical = TYPICAL[design.hull.type]
    return Surroundings(
        typical.efficiency,
        typical.fast_efficiency or typical.efficiency,
        design.water_density_kg_per_m3,
        design.bank.nominal_v if design.bank else USUAL_BANK_V,
        design.plan.wave_height_m,
    )


def method_of(drive: Drive) -> Method:
    """Which way a drive's efficiency is found."""
    if drive.overall_efficiency is not None:
        return "given"
    if drive.rating is Rating.THRUST:
        return "label"
    return "usual" if drive.propeller is None else "propeller"


def motor_battery_w(drive: Drive, around: Surroundings) -> float:
    """Most that one motor of a drive takes from the battery by its label, whatever the label rates [W]."""
    if drive.rating is Rating.THRUST:
        return trolling.full_power_w(drive, around.density_kg_per_m3)
    assert drive.rated_power_w is not None
    share = FULL_LOAD_EFFICIENCY if drive.rating is Rating.SHAFT else 1.0
    return drive.rated_power_w / share


def motor_battery_a(drive: Drive, around: Surroundings, bank_v: float) -> float:
    """Most that one motor of a drive draws from a bank, held to its controller's limit [A]."""
    amps = motor_battery_w(drive, around) / bank_v
    limit = drive.motor.current_limit_a if drive.motor else None
    return amps if limit is None else min(amps, limit)


def rated_battery_w(drive: Drive, around: Surroundings) -> float:
    """Most that all motors of a drive take from the battery by their label [W]."""
    return drive.count * motor_battery_w(drive, around)


def rated_shaft_w(drive: Drive, around: Surroundings) -> float:
    """Shaft watts of one motor by its label [W]."""
    return motor_battery_w(drive, around) * FULL_LOAD_EFFICIENCY


def gear_efficiency(drive: Drive) -> float:
    """Of the gear; 1 where the motor drives the propeller directly."""
    if drive.gear_efficiency is not None:
        return drive.gear_efficiency
    return 1.0 if drive.gear_ratio == 1 else GEAR_EFFICIENCY


def screw_of(drive: Drive) -> Screw:
    """The drive's propeller as the series sees it."""
    assert drive.propeller is not None
    return Screw(drive.propeller.blades, drive.propeller.area, drive.propeller.pitch_ratio)


def _share(part: Array, whole: Array) -> Array:
    """A ratio, 0 where there is nothing to divide by or no working point."""
    known = np.isfinite(part) & np.isfinite(whole) & (whole > 0)
    return np.divide(part, whole, out=np.zeros_like(part), where=known)


def _given(drive: Drive, thrust: Array, speed: Array, planing: Array, around: Surroundings) -> Chain:
    assert drive.overall_efficiency is not None
    whole = np.full(thrust.shape, drive.overall_efficiency)
    return Chain("given", thrust * speed / whole, (("battery to thrust, as given", whole),))


def _label(drive: Drive, thrust: Array, speed: Array, planing: Array, around: Surroundings) -> Chain:
    each = thrust / drive.count
    taken = drive.count * trolling.battery_w(drive, each, speed, around.density_kg_per_m3)
    return Chain("label", taken, (("motor and propeller, by the label", _share(thrust * speed, taken)),))


def _turned(drive: Drive, thrust: Array, speed: Array, planing: Array, around: Surroundings) -> Chain:
    """A known propeller: turned as fast as its thrust asks, by the motor's constants where there are any."""
    assert drive.propeller is not None
    hull = drive.hull_efficiency or 1.0
    each = thrust / hull / drive.count
    turning = turning_for(screw_of(drive), drive.propeller.diameter_m, each, speed, around.density_kg_per_m3)
    left = mean_thrust_left(drive.propeller, around.wave_height_m)
    delivered = turning.power_w / PROPELLER_IN_SERVICE / left
    geared = gear_efficiency(drive)
    shaft = delivered / geared
    rated = rated_shaft_w(drive, around)
    links: list[tuple[str, Array]]
    point = None
    if drive.motor is not None:
        radians = 2 * np.pi * turning.turns_per_s * drive.gear_ratio
        point = at_work(constants_of(drive.motor, rated, around.bank_v), _share(shaft, radians), radians)
        taken = np.where(np.isfinite(point.battery_w), point.battery_w, 1e9)
        links = [
            ("controller and cable", _share(point.efficiency, point.motor_efficiency)),
            ("motor", point.motor_efficiency),
        ]
    else:
        taken = usual_input_w(shaft, rated)
        links = [("controller and motor", _share(shaft, taken))]
    links += [("gear", np.full(thrust.shape, geared))] if geared < 1 else []
    links.append(("propeller", turning.efficiency * PROPELLER_IN_SERVICE))
    links += [("air drawn in a chop", np.full(thrust.shape, left))] if left < 1 else []
    links += [("hull", np.full(thrust.shape, hull))] if hull != 1 else []
    return Chain("propeller", drive.count * taken, tuple(links), turning, point)


def _usual(drive: Drive, thrust: Array, speed: Array, planing: Array, around: Surroundings) -> Chain:
    """What is usual for the hull type, the motor's losses by its load."""
    overall = around.slow_efficiency + (around.fast_efficiency - around.slow_efficiency) * planing
    geared = gear_efficiency(drive)
    screw = overall / usual_efficiency(USUAL_LOAD)
    shaft = thrust * speed / screw / geared
    rated = rated_shaft_w(drive, around) * drive.count
    taken = usual_input_w(shaft, rated)
    links: list[tuple[str, Array]] = [("controller and motor, by load", _share(shaft, taken))]
    links += [("gear", np.full(thrust.shape, geared))] if geared < 1 else []
    links.append(("propeller, usual for this hull", screw))
    return Chain("usual", taken, tuple(links))


_WAYS: dict[Method, Callable[[Drive, Array, Array, Array, Surroundings], Chain]] = {
    "given": _given,
    "label": _label,
    "propeller": _turned,
    "usual": _usual,
}


def chain_of(
    drive: Drive, thrust_n: ArrayLike, speed_mps: ArrayLike, planing_share: ArrayLike, around: Surroundings
) -> Chain:
    """One drive giving a thrust at a speed.

    Parameters
    ----------
    drive : Drive
    thrust_n, speed_mps, planing_share : array_like
        Thrust of all its motors [N], speed through the water [m/s], how far the hull is up on the plane [-].
    around : Surroundings

    Returns
    -------
    Chain
        Arrays of the broadcast shape.
    """
    thrust, speed, planing = np.broadcast_arrays(
        *(np.asarray(v, dtype=float) for v in (thrust_n, speed_mps, planing_share))
    )
    return _WAYS[method_of(drive)](drive, thrust, speed, planing, around)


def thrust_shares(design: BoatDesign) -> list[float]:
    """How the drives of a design share the thrust: by their ratings."""
    around = surroundings_of(design)
    ratings = [rated_battery_w(drive, around) for drive in design.drives]
    return [rating / sum(ratings) for rating in ratings]


def chains_of(
    design: BoatDesign,
    thrust_n: ArrayLike,
    speed_mps: ArrayLike,
    planing_share: ArrayLike,
    flat: bool = False,
) -> list[Chain]:
    """All drives at work, each with its share of a thrust at a speed; any one shape.

    `flat` leaves the plan's waves out: how runs are made.
    """
    around = surroundings_of(design)
    if flat:
        around = replace(around, wave_height_m=0.0)
    thrust = np.asarray(thrust_n, dtype=float)
    return [
        chain_of(drive, share * thrust, speed_mps, planing_share, around)
        for drive, share in zip(design.drives, thrust_shares(design), strict=True)
    ]


def battery_w(
    design: BoatDesign,
    thrust_n: ArrayLike,
    speed_mps: ArrayLike,
    planing_share: ArrayLike,
    flat: bool = False,
) -> Array:
    """Battery watts of all drives at a thrust and a speed, without the idle draw [W]; as of `chains_of`."""
    return taken_w(chains_of(design, thrust_n, speed_mps, planing_share, flat))


def taken_w(chains: list[Chain]) -> Array:
    """Battery watts of all drives together, without the idle draw [W]."""
    return np.sum([chain.battery_w for chain in chains], axis=0)


def available_thrust_n(design: BoatDesign, speed_mps: ArrayLike) -> Array:
    """Most thrust the drives give at a speed [N]; inf where a motor is rated by watts, not by thrust."""
    speed = np.asarray(speed_mps, dtype=float)
    total = np.zeros_like(speed)
    for drive in design.drives:
        if drive.rating is not Rating.THRUST:
            return np.full(speed.shape, np.inf)
        each = trolling.available_thrust_n(drive, speed, design.water_density_kg_per_m3)
        total = total + drive.count * each
    return total
