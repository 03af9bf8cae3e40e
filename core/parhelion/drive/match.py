"""Motor and propeller together: where they meet, and the pitch and gear that would suit better.

References
----------
[1] Open-water curves of the B-series (`propeller.py`) and the motor's constants (`motor.py`).
"""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from parhelion.design import Drive
from parhelion.drive.chain import (
    PROPELLER_IN_SERVICE,
    Surroundings,
    gear_efficiency,
    rated_shaft_w,
    screw_of,
)
from parhelion.drive.motor import MotorConstants, MotorPoint, at_work, constants_of
from parhelion.drive.propeller import PITCH_RATIO, Turning, turning_for, turnings_for

Array = NDArray[np.float64]

PITCHES = 19
GEARS = (1.0, 1.25, 1.5, 1.75, 2.0, 2.5, 3.0, 3.5, 4.0)
WORTH_CHANGING = 0.02  # of the watts
BRISK_SHARE = 0.9  # of the rated shaft watts: the best match must reach that within its amps and volts


@dataclass(frozen=True)
class Working:
    """A propeller and its motor over a boat's speeds, one of each; arrays of shape (n,)."""

    speed_mps: Array
    turning: Turning
    shaft_w: Array  # at the motor
    motor: MotorPoint | None


@dataclass(frozen=True)
class Suggestion:
    """A pitch and gear, and what they take at the planned speed."""

    pitch_m: float
    gear_ratio: float
    battery_w: float
    saved_frac: float


def constants(drive: Drive, around: Surroundings) -> MotorConstants | None:
    """The motor's constants, where it has any."""
    if drive.motor is None:
        return None
    return constants_of(drive.motor, rated_shaft_w(drive, around), around.bank_v)


def working(drive: Drive, thrust_n: Array, speed_mps: Array, around: Surroundings) -> Working:
    """Revolutions, torque and motor of one propeller along a boat's speeds.

    Parameters
    ----------
    drive : Drive
        With a propeller.
    thrust_n, speed_mps : ndarray, shape (n,)
        Thrust of all motors of this drive [N], and the speeds.
    around : Surroundings
    """
    assert drive.propeller is not None
    each = thrust_n / drive.count / (drive.hull_efficiency or 1.0)
    turning = turning_for(
        screw_of(drive), drive.propeller.diameter_m, each, speed_mps, around.density_kg_per_m3
    )
    shaft = turning.power_w / PROPELLER_IN_SERVICE / gear_efficiency(drive)
    held = constants(drive, around)
    point = None
    if held is not None:
        radians = 2 * np.pi * turning.turns_per_s * drive.gear_ratio
        torque = np.divide(shaft, radians, out=np.zeros_like(shaft), where=radians > 0)
        point = at_work(held, torque, radians)
    return Working(speed_mps, turning, shaft, point)


def _by_pitch_and_gear(
    drive: Drive, ratios: Array, thrust_n: Array, speed_mps: Array, around: Surroundings, held: MotorConstants
) -> Array:
    """Battery watts at the first point for every pitch ratio and gear; inf beyond the amps or volts."""
    assert drive.motor is not None and drive.propeller is not None
    limit, volts = drive.motor.current_limit_a or np.inf, drive.motor.volts or held.battery_v
    each = thrust_n / drive.count / (drive.hull_efficiency or 1.0)
    screw, diameter = screw_of(drive), drive.propeller.diameter_m
    screws = [replace(screw, pitch_ratio=float(r)) for r in ratios]
    made = turnings_for(screws, diameter, each, speed_mps, around.density_kg_per_m3)
    turns, watts = made.turns_per_s[:, None, :], made.power_w[:, None, :]
    gears = np.array(GEARS)[None, :, None]
    lost = np.array([gear_efficiency(drive.model_copy(update={"gear_ratio": g})) for g in GEARS])
    radians = 2 * np.pi * turns * gears
    shaft = watts / PROPELLER_IN_SERVICE / lost[None, :, None]
    point = at_work(held, shaft / np.maximum(radians, 1e-9), radians)
    fits = np.all((point.current_a <= limit) & (point.volts <= volts), axis=-1)
    first = point.battery_w[..., 0]
    return np.where(fits & np.isfinite(first), first, np.inf)


def best_match(
    drive: Drive, plan: tuple[float, float], brisk: tuple[float, float], around: Surroundings
) -> Suggestion | None:
    """The pitch, and gear where there is one, that takes least at the planned speed; None without constants.

    Parameters
    ----------
    drive : Drive
        With a propeller and a motor.
    plan, brisk : tuple of float
        Thrust [N] and speed [m/s] as planned, and near the rated watts: the motor must turn both.
    around : Surroundings

    Returns
    -------
    Suggestion or None
        Of the same diameter and blades. None where nothing within the amps and volts gives both.
    """
    held = constants(drive, around)
    if held is None or drive.propeller is None:
        return None
    thrust, speed = (np.array(pair) for pair in zip(plan, brisk, strict=True))
    here = working(drive, thrust, speed, around)
    assert here.motor is not None
    now = float(here.motor.battery_w[0])
    ratios = np.linspace(*PITCH_RATIO, PITCHES)
    taken = _by_pitch_and_gear(drive, ratios, thrust, speed, around, held)
    pitch, gear = np.unravel_index(int(np.argmin(taken)), taken.shape)
    least = float(taken[pitch, gear])
    if not np.isfinite(least):
        return None
    saved = 1 - least / now if np.isfinite(now) and now > 0 else 0.0
    return Suggestion(float(ratios[pitch] * drive.propeller.diameter_m), GEARS[gear], least, saved)
