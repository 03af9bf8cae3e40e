"""How far a mass off amidships sinks one end of the boat.

References
----------
[1] Small trim: moment over displacement times the longitudinal metacentric height, GM_L = I_L / volume; the
    waterplane's second moment by its coefficient, I_L ~ Cwp^2 L^3 B / 11.7 (1/12 for a box).
"""

from __future__ import annotations

from parhelion.design import BoatDesign
from parhelion.design.hulltypes import SECOND_MOMENT, TYPICAL


def stern_sinks_m(design: BoatDesign, mass_kg: float, forward_m: float) -> float:
    """How far the stern sinks against its level with the mass amidships [m]; below zero the bow does.

    Parameters
    ----------
    design : BoatDesign
    mass_kg, forward_m : float
        A mass aboard, and how far forward of amidships it sits.
    """
    hull = design.hull
    length = hull.waterline_length_m
    moment = hull.waterplane**2 * length**3 * hull.beam_m * SECOND_MOMENT * TYPICAL[hull.type].hulls
    volume = design.displacement_kg / design.water_density_kg_per_m3
    slope = -mass_kg * forward_m / (design.displacement_kg * moment / volume)
    return slope * length / 2
