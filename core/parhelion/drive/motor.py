"""A motor by its constants: what current, volts and battery watts a torque at a speed takes.

References
----------
[1] Equivalent circuit of a permanent-magnet motor: I = (Q + hysteresis + eddy w) / kt, U = kt w + I R.
[2] Typical losses of such motors with their controllers at full load (docs/methods/drive.md).
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike, NDArray

from parhelion.design import Motor
from parhelion.units import RAD_PER_S_PER_RPM

Array = NDArray[np.float64]

# Losses at full load over the shaft watts [2]: turning (iron, bearings, seals), controller, copper
TURNING_LOSS, CONTROLLER_LOSS, COPPER_LOSS = 0.035, 0.03, 0.06
TURNING_EXPONENT = 1 / 3  # the turning loss falls with the revolutions, about the cube root of the watts
CONTROLLER_FIXED_W = 5.0  # [W] its own electronics
CABLE_DROP = 0.01  # of the volts at full current, motor cable both ways


@dataclass(frozen=True)
class MotorConstants:
    """SI constants of one motor, its controller and its cable."""

    torque_constant_nm_per_a: float  # kt = 60 / (2 pi Kv)
    resistance_ohm: float
    hysteresis_nm: float
    eddy_nm_s: float
    fixed_w: float
    controller_ohm: float
    cable_ohm: float
    battery_v: float
    estimated: tuple[str, ...] = ()  # the constants that were not given


@dataclass(frozen=True)
class MotorPoint:
    """A motor at work; arrays of one shape. Battery values are nan where the cable cannot carry the power."""

    current_a: Array
    volts: Array
    battery_a: Array
    battery_w: Array
    motor_efficiency: Array
    efficiency: Array  # battery to shaft


def at_work(motor: MotorConstants, torque_nm: ArrayLike, speed_rad_per_s: ArrayLike) -> MotorPoint:
    """Current, volts and battery watts of a motor [1].

    Parameters
    ----------
    motor : MotorConstants
    torque_nm, speed_rad_per_s : array_like
        At the motor's own shaft; one shape.
    """
    torque, turning = (np.asarray(v, dtype=float) for v in (torque_nm, speed_rad_per_s))
    spins = turning > 0
    drag = np.where(spins, motor.hysteresis_nm + motor.eddy_nm_s * turning, 0.0)
    current = (torque + drag) / motor.torque_constant_nm_per_a
    volts = motor.torque_constant_nm_per_a * turning + current * motor.resistance_ohm
    electric = volts * current
    taken = electric + current**2 * motor.controller_ohm + np.where(spins, motor.fixed_w, 0.0)
    root = motor.battery_v**2 - 4 * motor.cable_ohm * taken
    with np.errstate(invalid="ignore"):
        battery = 2 * taken / (motor.battery_v + np.sqrt(root))  # V I - I^2 r = P, without cancellation
    shaft = torque * turning
    return MotorPoint(
        current, volts, battery, motor.battery_v * battery,
        np.divide(shaft, electric, out=np.zeros_like(shaft), where=electric > 0),
        np.divide(shaft, motor.battery_v * battery, out=np.zeros_like(shaft), where=battery > 0),
    )  # fmt: skip


def constants_of(motor: Motor, rated_shaft_w: float, bank_v: float) -> MotorConstants:
    """A motor's constants: published, or estimated from volts, no-load speed and current, and its rating.

    Parameters
    ----------
    motor : Motor
    rated_shaft_w : float
        [W]; sets the scale of what is not given.
    bank_v : float
        Nominal volts of the bank, where the motor does not name its own.
    """
    volts = motor.volts or bank_v
    full_a = rated_shaft_w * (1 + TURNING_LOSS + COPPER_LOSS) / volts
    guessed = []
    resistance = motor.resistance_ohm
    if resistance is None:
        guessed.append("winding resistance")
        resistance = COPPER_LOSS * rated_shaft_w / full_a**2
    idle_a = motor.no_load_current_a
    if idle_a is None:
        guessed.append("no-load amps")
        idle_a = TURNING_LOSS * rated_shaft_w / volts
    if motor.kv_rpm_per_v is not None:
        kv = motor.kv_rpm_per_v
        free_rpm = kv * (volts - idle_a * resistance)
    else:
        assert motor.no_load_rpm is not None
        guessed.append("Kv")
        free_rpm = motor.no_load_rpm
        kv = free_rpm / max(volts - idle_a * resistance, 0.2 * volts)
    constant = 1 / (kv * RAD_PER_S_PER_RPM)
    drag = constant * idle_a  # half of it with the speed, half not
    free = max(free_rpm, 1.0) * RAD_PER_S_PER_RPM
    return MotorConstants(
        torque_constant_nm_per_a=constant,
        resistance_ohm=resistance,
        hysteresis_nm=drag / 2,
        eddy_nm_s=drag / 2 / free,
        fixed_w=CONTROLLER_FIXED_W,
        controller_ohm=(CONTROLLER_LOSS - CABLE_DROP) * rated_shaft_w / full_a**2,
        cable_ohm=CABLE_DROP * volts / full_a,
        battery_v=bank_v,
        estimated=tuple(guessed),
    )


def usual_input_w(shaft_w: ArrayLike, rated_shaft_w: float) -> Array:
    """Battery watts of a motor known only by its rating [2]: losses that stay, grow, and grow faster.

    Parameters
    ----------
    shaft_w : array_like
        [W], any shape.
    rated_shaft_w : float
    """
    shaft = np.asarray(shaft_w, dtype=float)
    load = np.maximum(shaft, 0.0) / rated_shaft_w
    lost = TURNING_LOSS * load**TURNING_EXPONENT + CONTROLLER_LOSS * load + COPPER_LOSS * load**2
    return shaft + rated_shaft_w * lost


def usual_efficiency(load: float) -> float:
    """Battery to shaft of a motor known only by its rating, at a share of that rating [2]."""
    return float(load / usual_input_w(load, 1.0))


FULL_LOAD_EFFICIENCY = 1 / (1 + TURNING_LOSS + CONTROLLER_LOSS + COPPER_LOSS)
