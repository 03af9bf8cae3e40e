"""The speed/length formula: the cautious school.

It was made to choose engines. Below a speed/length ratio of 1 it overstates what a boat needs by two to
four times, and it knows nothing of hull form; it is drawn beside the answer, never used for it.

References
----------
[1] The classic displacement-boat rule SL = 10.665 / (lb/shp)^(1/3), with SL = V[kn] / sqrt(LWL[ft]).
"""

from __future__ import annotations

import numpy as np
from numpy.typing import ArrayLike, NDArray

from parhelion.units import KG_PER_POUND, M_PER_FOOT, MPS_PER_KNOT

CONSTANT = 10.665  # [1]
WATTS_PER_SHAFT_HORSEPOWER = 745.7  # [1]
TRUSTED_FROM, TRUSTED_TO = 1.0, 1.5  # speed/length ratios it was made for

# Shaft watts to battery watts: motor and controller, so that both schools stand on one chart [-]
MOTOR_AND_CONTROLLER_EFFICIENCY = 0.85


def speed_length_ratio(speed_mps: ArrayLike, length_m: float) -> NDArray[np.float64]:
    """V[kn] / sqrt(LWL[ft]) [kn/ft^0.5]."""
    return np.asarray(speed_mps, dtype=float) / MPS_PER_KNOT / np.sqrt(length_m / M_PER_FOOT)


def shaft_power_w(speed_mps: ArrayLike, length_m: float, displacement_kg: float) -> NDArray[np.float64]:
    """Shaft power the formula asks for [W].

    Parameters
    ----------
    speed_mps : array_like
        [m/s], any shape.
    length_m, displacement_kg : float
        Waterline length [m] and displacement [kg].

    Returns
    -------
    ndarray
        [W], same shape.
    """
    ratio = speed_length_ratio(speed_mps, length_m)
    return displacement_kg / KG_PER_POUND * (ratio / CONSTANT) ** 3 * WATTS_PER_SHAFT_HORSEPOWER


def speed_mps(shaft_w: ArrayLike, length_m: float, displacement_kg: float) -> NDArray[np.float64]:
    """Speed the formula gives for a shaft power [m/s], the inverse of `shaft_power_w`."""
    pounds_per_horsepower = (
        displacement_kg / KG_PER_POUND / (np.asarray(shaft_w, dtype=float) / WATTS_PER_SHAFT_HORSEPOWER)
    )
    return CONSTANT / np.cbrt(pounds_per_horsepower) * np.sqrt(length_m / M_PER_FOOT) * MPS_PER_KNOT
