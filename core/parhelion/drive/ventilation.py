"""What a shallow propeller loses when waves uncover it.

References
----------
[1] K. Minsaas, O. Faltinsen and B. Persson, "On the importance of added resistance, propeller immersion and
    propeller ventilation for large ships", PRADS 1983: thrust left by immersion of the shaft over radius.
"""

from __future__ import annotations

import numpy as np

from parhelion.computing.kept import kept_by_arguments
from parhelion.design import Propeller

DEEP_ENOUGH = 1.3  # shaft immersion over radius from which nothing is lost [1]
PHASES = 48  # of a wave that the mean is taken over
LEAST_LEFT = 0.05


def thrust_left(immersion_to_radius: float) -> float:
    """Share of the thrust left at an immersion of the shaft over the propeller's radius [1], 0 to 1."""
    if immersion_to_radius >= DEEP_ENOUGH:
        return 1.0
    base = max(1 - 0.769 * immersion_to_radius, 0.0)
    return max(1 - 0.675 * base**1.258, 0.0) if immersion_to_radius > -1 else 0.0


@kept_by_arguments(32)
def mean_thrust_left(propeller: Propeller, wave_height_m: float) -> float:
    """The same over a regular wave of that height [m]; 1 where the shaft's depth is not known."""
    if propeller.depth_m is None:
        return 1.0
    radius = propeller.diameter_m / 2
    phases = (np.arange(PHASES) + 0.5) / PHASES * 2 * np.pi
    depths = propeller.depth_m + wave_height_m / 2 * np.sin(phases)
    return max(float(np.mean([thrust_left(depth / radius) for depth in depths])), LEAST_LEFT)


def tip_depth_m(propeller: Propeller, wave_height_m: float) -> float | None:
    """Water over the blade tips in the trough of a wave [m]; below zero they are out of it."""
    if propeller.depth_m is None:
        return None
    return propeller.depth_m - propeller.diameter_m / 2 - wave_height_m / 2
