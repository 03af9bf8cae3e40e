"""Motors sold by their static thrust: battery watts at a thrust and a speed, and the thrust left at speed.

References
----------
[1] Momentum theory of the actuator disc: P = T (V + sqrt(V^2 + 2 T / (rho A))) / 2; at rest
    T^1.5 / sqrt(2 rho A).
[2] Labels of such motors imply .39 (small) to .64 (optimistic, large) of that ideal (docs/methods/drive.md).
"""

from __future__ import annotations

import numpy as np
from numpy.typing import ArrayLike, NDArray

from parhelion.design import Drive

Array = NDArray[np.float64]

FIGURE_OF_MERIT = 0.42  # ideal over electrical watts [2]
MERIT_LIMITS = (0.2, 0.8)  # outside this a label contradicts itself
STANDING_W = 25.0  # [W] what the motor takes beside
PITCH_SPEED_MPS = 3.0  # where the thrust of the lower bound is gone
USUAL_DIAMETER_M = 0.25
USUAL_V = 12.0
WATTS_PER_NEWTON = 2.3  # at full, as sold: some 55 lb at 12 V and 45 to 50 A


def disc_area_m2(drive: Drive) -> float:
    """Of the propeller, or of a usual one for such motors [m2]."""
    diameter = drive.propeller.diameter_m if drive.propeller else USUAL_DIAMETER_M
    return np.pi * diameter**2 / 4


def disc_power_w(
    thrust_n: ArrayLike, speed_mps: ArrayLike, area_m2: float, density_kg_per_m3: float
) -> Array:
    """Ideal watts of a disc that gives a thrust at a speed [1]; one shape."""
    thrust, speed = (np.asarray(v, dtype=float) for v in (thrust_n, speed_mps))
    return thrust * (speed + np.sqrt(speed**2 + 2 * thrust / (density_kg_per_m3 * area_m2))) / 2


def thrust_at_power_n(
    power_w: float, speed_mps: ArrayLike, area_m2: float, density_kg_per_m3: float
) -> Array:
    """Thrust of a disc at constant ideal watts [N], the upper bound; by bisection, any shape of speeds."""
    speed = np.asarray(speed_mps, dtype=float)
    high = np.full(speed.shape, (power_w * np.sqrt(2 * density_kg_per_m3 * area_m2)) ** (2 / 3))
    low = np.zeros_like(high)
    for _ in range(60):
        middle = (low + high) / 2
        over = disc_power_w(middle, speed, area_m2, density_kg_per_m3) > power_w
        high, low = np.where(over, middle, high), np.where(over, low, middle)
    return (low + high) / 2


def available_thrust_n(drive: Drive, speed_mps: ArrayLike, density_kg_per_m3: float) -> Array:
    """Most thrust of one such motor at a speed [N]: the mean of constant disc power and T0 (1 - V/3 m/s)."""
    assert drive.static_thrust_n is not None
    speed, still = np.asarray(speed_mps, dtype=float), drive.static_thrust_n
    area = disc_area_m2(drive)
    ideal = float(disc_power_w(still, 0.0, area, density_kg_per_m3))
    upper = thrust_at_power_n(ideal, speed, area, density_kg_per_m3)
    lower = still * np.maximum(1 - speed / PITCH_SPEED_MPS, 0.0)
    return (upper + lower) / 2


def full_power_w(drive: Drive, density_kg_per_m3: float) -> float:
    """Battery watts of one such motor at full thrust: the label's amps and volts, or the usual merit [W]."""
    assert drive.static_thrust_n is not None
    if drive.full_thrust_current_a is not None:
        return drive.full_thrust_current_a * (drive.full_thrust_v or USUAL_V)
    ideal = float(disc_power_w(drive.static_thrust_n, 0.0, disc_area_m2(drive), density_kg_per_m3))
    return ideal / FIGURE_OF_MERIT + STANDING_W


def merit(drive: Drive, density_kg_per_m3: float) -> float:
    """Ideal over electrical watts at full thrust: from the label's amps, or the usual [-]."""
    assert drive.static_thrust_n is not None
    ideal = float(disc_power_w(drive.static_thrust_n, 0.0, disc_area_m2(drive), density_kg_per_m3))
    spent = full_power_w(drive, density_kg_per_m3) - STANDING_W
    return float(np.clip(ideal / max(spent, 1.0), *MERIT_LIMITS))


def battery_w(drive: Drive, thrust_n: ArrayLike, speed_mps: ArrayLike, density_kg_per_m3: float) -> Array:
    """Battery watts of one such motor at a thrust and a speed [1].

    A motor with fixed speeds by resistor draws its full watts in proportion to the thrust: what the disc
    does not use is heat in the resistor.
    """
    thrust, speed = np.broadcast_arrays(np.asarray(thrust_n, dtype=float), np.asarray(speed_mps, dtype=float))
    ideal = disc_power_w(thrust, speed, disc_area_m2(drive), density_kg_per_m3)
    taken = ideal / merit(drive, density_kg_per_m3) + STANDING_W * np.minimum(thrust, 1.0)
    if drive.stepped:
        most = np.maximum(available_thrust_n(drive, speed, density_kg_per_m3), 1e-6)
        taken = np.maximum(taken, full_power_w(drive, density_kg_per_m3) * thrust / most)
    return taken
