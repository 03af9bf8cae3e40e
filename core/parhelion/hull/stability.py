"""How much of a boat's first stiffness a mass high up takes: an estimate to warn by, no stability book.

References
----------
[1] Small heel: BM = I_T / volume; the waterplane's second moment by its coefficient, I_T ~ Cwp^2 L B^3 / 11.7
    (1/12 for a box), for hulls apart plus each waterplane's area times its distance from the middle squared.
"""

from __future__ import annotations

from math import atan, degrees

from parhelion.design import BoatDesign
from parhelion.design.hulltypes import SECOND_MOMENT, TYPICAL

BODY_CENTRE_M = 0.3  # a usual small boat's centre of gravity over the waterline
BODY_MIDDLE = 0.4  # of the draught: how far down the middle of the hull body lies
LEAST_STIFF_M = 0.1  # below it this estimate says nothing


def metacentric_radius_m(design: BoatDesign) -> float:
    """Metacentric radius of the waterplane, BM [m] [1]."""
    hull = design.hull
    length, beam = hull.waterline_length_m, hull.beam_m
    own = hull.waterplane**2 * length * beam**3 * SECOND_MOMENT
    apart = hull.waterplane * length * beam * (hull.spacing / 2) ** 2
    volume = design.displacement_kg / design.water_density_kg_per_m3
    return TYPICAL[hull.type].hulls * (own + apart) / volume


def stiffness_lost(design: BoatDesign, mass_kg: float, height_m: float) -> tuple[float, float]:
    """What a mass aboard at a height over the waterline costs.

    Parameters
    ----------
    design : BoatDesign
    mass_kg, height_m : float

    Returns
    -------
    tuple of float
        Rise of the centre of gravity [m], and its share of the metacentric radius [-].
    """
    rise = mass_kg * (height_m - BODY_CENTRE_M) / design.displacement_kg
    return rise, rise / metacentric_radius_m(design)


def metacentric_height_m(design: BoatDesign) -> float:
    """A usual stiffness: BM less how far the centre of gravity lies over the middle of the hull body [m]."""
    draught = design.draught_m(design.water_density_kg_per_m3)
    return metacentric_radius_m(design) - BODY_CENTRE_M - BODY_MIDDLE * draught


def list_deg(design: BoatDesign, moment_kg_m: float) -> float:
    """How far a mass off the centreline lists the boat, to the side of its sign [deg].

    Parameters
    ----------
    design : BoatDesign
    moment_kg_m : float
        Mass times distance to starboard.
    """
    stiff = max(metacentric_height_m(design), LEAST_STIFF_M)
    return degrees(atan(moment_kg_m / (design.displacement_kg * stiff)))


def trim_m(design: BoatDesign, moment_kg_m: float) -> float:
    """How much deeper a mass forward of amidships puts the bow than the stern [m].

    Parameters
    ----------
    design : BoatDesign
    moment_kg_m : float
        Mass times distance forward; BM lengthwise by the waterplane's second moment [1].
    """
    hull = design.hull
    length = hull.waterline_length_m
    moment = TYPICAL[hull.type].hulls * hull.waterplane**2 * hull.beam_m * length**3 * SECOND_MOMENT
    volume = design.displacement_kg / design.water_density_kg_per_m3
    return length * moment_kg_m / (design.displacement_kg * moment / volume)
