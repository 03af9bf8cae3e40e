"""The most a boat's drives pull at a speed: what holds her against a wind.

References
----------
[1] Momentum theory of the actuator disc at constant ideal power; usual diameters and merit of small screws
    at low speed (docs/methods/drive.md).
"""

from __future__ import annotations

import numpy as np

from parhelion.design import BoatDesign, Drive, Rating
from parhelion.drive import trolling
from parhelion.drive.chain import (
    PROPELLER_IN_SERVICE,
    Surroundings,
    gear_efficiency,
    rated_shaft_w,
    screw_of,
    surroundings_of,
)
from parhelion.drive.propeller import turning_for

SLOW_MERIT = 0.55  # ideal over shaft watts of small screws near rest [1]
USUAL_DIAMETER_M = 0.25  # of a 1 kW drive; grows with the fourth root of the watts [1]
GRID = 600  # thrusts, from almost nothing to more than any screw gives


def usual_diameter_m(shaft_w: float) -> float:
    """A usual propeller for a motor's shaft watts [m]."""
    return USUAL_DIAMETER_M * (shaft_w / 1000.0) ** 0.25


def _one(drive: Drive, speed_mps: float, around: Surroundings, share: float) -> float:
    density = around.density_kg_per_m3
    if drive.rating is Rating.THRUST:
        return float(trolling.available_thrust_n(drive, speed_mps, density))
    shaft = rated_shaft_w(drive, around) * gear_efficiency(drive) * share
    if drive.propeller is None:
        diameter = usual_diameter_m(rated_shaft_w(drive, around))
        area = np.pi * diameter**2 / 4
        return float(trolling.thrust_at_power_n(SLOW_MERIT * shaft, speed_mps, area, density))
    thrust = np.geomspace(1e-3, 1.0, GRID) * 20 * shaft / max(speed_mps, 0.5)
    turning = turning_for(
        screw_of(drive), drive.propeller.diameter_m, thrust, np.full(GRID, speed_mps), density
    )
    return float(
        np.exp(np.interp(np.log(shaft * PROPELLER_IN_SERVICE), np.log(turning.power_w), np.log(thrust)))
    )


def most_pull_n(design: BoatDesign, speed_mps: float, share: float = 1.0) -> float:
    """Thrust of all drives at full power and a speed [N].

    Parameters
    ----------
    design : BoatDesign
    speed_mps : float
    share : float
        Of the rating that may be used, where something else limits it [-].
    """
    around = surroundings_of(design)
    return sum(drive.count * _one(drive, speed_mps, around, share) for drive in design.drives)
