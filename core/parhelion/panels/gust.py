"""What a gust does to panels that stand up in it.

References
----------
[1] Wind on a plate: 1/2 rho V^2 A C, normal to it; C = 1.3 sin(tilt), and not below the 0.9 by which gusts
    lift an open canopy roof. A gust is 1.4 times the mean wind.
"""

from __future__ import annotations

import numpy as np

from parhelion.constants import AIR_DENSITY_KG_PER_M3
from parhelion.units import MPS_PER_KNOT

GUST_MPS = 22 * MPS_PER_KNOT  # where a strong breeze begins
GUST_FACTOR = 1.4  # of a gust over the mean wind [1]
PLATE_C, LIFT_C = 1.3, 0.9  # [1]
SAFETY = 2.0  # on what fastenings hold


def gust_n(wind_mps: float, area_m2: float, tilt_deg: float) -> float:
    """Pull of a wind on panels [1] [N]."""
    normal = max(PLATE_C * float(np.sin(np.radians(tilt_deg))), LIFT_C)
    return 0.5 * AIR_DENSITY_KG_PER_M3 * wind_mps**2 * area_m2 * normal


def fold_mps(holds_n: float, area_m2: float, tilt_deg: float) -> float:
    """Mean wind whose gusts pull half of what the fastenings hold [m/s]."""
    return float(np.sqrt(holds_n / SAFETY / gust_n(1.0, area_m2, tilt_deg))) / GUST_FACTOR
