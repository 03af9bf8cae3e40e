"""Still-air drag of what stands above the water."""

from __future__ import annotations

import numpy as np
from numpy.typing import ArrayLike, NDArray

from parhelion.constants import AIR_DENSITY_KG_PER_M3
from parhelion.design import HIDDEN, BoatDesign, Side
from parhelion.design.hulltypes import HULL_SPACING_TO_LENGTH, TYPICAL, HullType

PLATE_CD = 1.2  # of a flat plate across the wind


def frontal_area_m2(hull_type: HullType, length_m: float, beam_m: float) -> float:
    """A usual frontal area for that type and size [m2]: breadth times (0.6 m + 12 % of length)."""
    breadth = beam_m
    if TYPICAL[hull_type].hulls > 1:
        breadth += HULL_SPACING_TO_LENGTH * length_m
    return breadth * (0.6 + 0.12 * length_m)


def air_resistance_n(speed_mps: ArrayLike, area_m2: float, drag_coefficient: float) -> NDArray[np.float64]:
    """Half rho Cd A V^2 in still air [N], for speeds of any shape [m/s]."""
    speed = np.asarray(speed_mps, dtype=float)
    return 0.5 * AIR_DENSITY_KG_PER_M3 * drag_coefficient * area_m2 * speed**2


def raised_panels_m2(design: BoatDesign) -> float:
    """Area that panels tilted to bow or stern show to the wind from ahead, as they stand [m2].

    The thin edges of flat panels pass for part of the boat's own usual area.
    """
    total = 0.0
    for group in design.fitted_panels:
        place, how = design.as_it_stands(design.place(group.place_id))
        if how not in HIDDEN and place.faces in (Side.BOW, Side.STERN):
            total += group.count * group.width * group.length * float(np.sin(np.radians(place.tilt_deg)))
    return total
