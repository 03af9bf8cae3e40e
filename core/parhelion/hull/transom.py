"""Drag of an immersed transom: the water it leaves behind it, and the eddy while it is still wet.

References
----------
[1] L.J. Doctors, transom-ventilation regression, recalled with low to medium confidence.
"""

from __future__ import annotations

import numpy as np
from numpy.typing import ArrayLike, NDArray

from parhelion.constants import GRAVITY_MPS2

BASE_DRAG = 0.15  # [-] of the wet part


def dry_share(
    speed_mps: ArrayLike, breadth_m: float, depth_m: float, viscosity_m2_per_s: float
) -> NDArray[np.float64]:
    """How much of a transom runs dry [1], 0 to 1, over speeds of any shape [m/s]."""
    froude = np.asarray(speed_mps, dtype=float) / np.sqrt(GRAVITY_MPS2 * depth_m)
    reynolds = np.sqrt(GRAVITY_MPS2 * depth_m**3) / viscosity_m2_per_s
    dry = 0.06296 * froude**2.834 * (breadth_m / depth_m) ** 0.1352 * reynolds**0.01338
    return np.minimum(dry, 1.0)


def transom_n(
    speed_mps: ArrayLike,
    breadth_m: float,
    depth_m: float,
    density_kg_per_m3: float,
    viscosity_m2_per_s: float,
) -> NDArray[np.float64]:
    """Half rho g b t^2 (1 - (1-dry)^2) of lost pressure, and base drag on the wet part [N].

    Parameters
    ----------
    speed_mps : array_like
        [m/s], any shape.
    breadth_m, depth_m : float
        Of the immersed transom [m]; a depth of zero is no transom.
    density_kg_per_m3, viscosity_m2_per_s : float
        Of the water.
    """
    speed = np.asarray(speed_mps, dtype=float)
    if depth_m <= 0 or breadth_m <= 0:
        return np.zeros_like(speed)
    wet = 1 - dry_share(speed, breadth_m, depth_m, viscosity_m2_per_s)
    pressure = 0.5 * density_kg_per_m3 * GRAVITY_MPS2 * breadth_m * depth_m**2 * (1 - wet**2)
    return pressure + 0.5 * density_kg_per_m3 * speed**2 * BASE_DRAG * breadth_m * depth_m * wet
