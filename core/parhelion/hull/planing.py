"""Drag of a planing hull by Savitsky's short form: all forces pass through the centre of gravity.

References
----------
[1] D. Savitsky, "Hydrodynamic design of planing hulls", Marine Technology 1 (1964) 71-95.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numba import float64, njit, vectorize
from numpy.typing import ArrayLike, NDArray
from scipy.optimize import brentq

from parhelion.computing.kernels import OPTIONS, WHOLE
from parhelion.constants import GRAVITY_MPS2
from parhelion.hull.friction import friction_coefficient

Array = NDArray[np.float64]

SLOWEST_CV = 0.6  # speed coefficient below which the method was not made [1]
TRIM_DEG = (2.0, 15.0)
WETTED_TO_BEAM = (0.0, 4.0)
LAMBDA_SEARCH = (0.02, 60.0)
HALVINGS = 60  # of what a root is looked for in: to the last digit


@dataclass(frozen=True)
class PlaningHull:
    """A prismatic hull; SI, the centre of gravity measured from the transom."""

    mass_kg: float
    lcg_m: float
    beam_m: float  # over the chines
    deadrise_deg: float
    correlation_allowance: float = 0.0004


@dataclass(frozen=True, eq=False)
class Planing:
    """The running state over speeds of any shape; nan throughout where there is no equilibrium."""

    speed_coefficient: Array
    lift_coefficient: Array  # C_Lb
    flat_lift_coefficient: Array  # C_L0
    wetted_ratio: Array  # lambda
    trim_deg: Array
    drag_n: Array


@njit(float64(float64, float64), **OPTIONS)
def pressure_centre_share(wetted_ratio: float, speed_coefficient: float) -> float:
    """Centre of pressure ahead of the transom over wetted length: .75 - 1/(5.21 Cv²/lambda² + 2.39) [1]."""
    return 0.75 - 1 / (5.21 * speed_coefficient**2 / wetted_ratio**2 + 2.39)


def wetted_ratio_at_trim(
    hull: PlaningHull, speed_mps: float, trim_deg: float, density_kg_per_m3: float
) -> float:
    """Wetted length over beam that carries the weight at a trim, from the lift alone [1] [-]."""
    cv = speed_mps / np.sqrt(GRAVITY_MPS2 * hull.beam_m)
    lift = hull.mass_kg * GRAVITY_MPS2 / (0.5 * density_kg_per_m3 * speed_mps**2 * hull.beam_m**2)
    flat = flat_lift(lift, hull.deadrise_deg)
    return float(
        brentq(
            lambda r: trim_deg**1.1 * (0.012 * np.sqrt(r) + 0.0055 * r**2.5 / cv**2) - flat, *LAMBDA_SEARCH
        )
    )


@vectorize([float64(float64, float64)], **WHOLE)
def flat_lift(lift_coefficient: float, deadrise_deg: float) -> float:
    """Lift coefficient of the flat plate that carries as much: C_Lb = C_L0 - .0065 beta C_L0^.6 [1]."""
    low, high = lift_coefficient, 10 * lift_coefficient + 1.0
    for _ in range(HALVINGS):
        middle = (low + high) / 2
        if middle - 0.0065 * deadrise_deg * middle**0.6 < lift_coefficient:
            low = middle
        else:
            high = middle
    return (low + high) / 2


@vectorize([float64(float64, float64)], **WHOLE)
def _wetted_ratio(arm: float, speed_coefficient: float) -> float:
    """Wetted length over beam whose pressure acts so many beams ahead of the transom; nan where none does."""
    low, high = LAMBDA_SEARCH
    ahead_low = low * pressure_centre_share(low, speed_coefficient) - arm
    ahead_high = high * pressure_centre_share(high, speed_coefficient) - arm
    if not ahead_low * ahead_high <= 0:
        return np.nan
    for _ in range(HALVINGS):
        middle = (low + high) / 2
        if middle * pressure_centre_share(middle, speed_coefficient) < arm:
            low = middle
        else:
            high = middle
    return (low + high) / 2


def running_state(
    hull: PlaningHull, speed_mps: ArrayLike, density_kg_per_m3: float, viscosity_m2_per_s: float
) -> Planing:
    """Wetted length, trim and drag of a planing hull [1].

    Parameters
    ----------
    hull : PlaningHull
    speed_mps : float or ndarray
    density_kg_per_m3, viscosity_m2_per_s : float
        Of the water.
    """
    beam, speed = hull.beam_m, np.asarray(speed_mps, dtype=float)
    cv = speed / np.sqrt(GRAVITY_MPS2 * beam)
    weight = hull.mass_kg * GRAVITY_MPS2
    lift = weight / (0.5 * density_kg_per_m3 * speed**2 * beam**2)
    ratio = _wetted_ratio(hull.lcg_m / beam, cv)
    flat = np.where(np.isfinite(ratio), flat_lift(lift, hull.deadrise_deg), np.nan)
    trim = (flat / (0.012 * np.sqrt(ratio) + 0.0055 * ratio**2.5 / cv**2)) ** (1 / 1.1)
    slope, deadrise = np.radians(np.minimum(trim, 45.0)), np.radians(hull.deadrise_deg)
    dynamic = 0.012 * np.sqrt(ratio) * trim**1.1
    dynamic = dynamic - 0.0065 * hull.deadrise_deg * dynamic**0.6
    bottom = speed * np.sqrt(np.maximum(1 - dynamic / (ratio * np.cos(slope)), 0.05))
    reynolds = bottom * ratio * beam / viscosity_m2_per_s
    friction = friction_coefficient(reynolds) + hull.correlation_allowance
    area = ratio * beam**2 / np.cos(deadrise)
    skin = 0.5 * density_kg_per_m3 * bottom**2 * area * friction / np.cos(slope)
    return Planing(cv, lift, flat, ratio, trim, np.asarray(weight * np.tan(slope) + skin))


def drag_n(
    hull: PlaningHull, speed_mps: ArrayLike, density_kg_per_m3: float, viscosity_m2_per_s: float
) -> Array:
    """Drag over speeds of any shape [N]; nan where there is no equilibrium or below a Cv of .6."""
    speed = np.asarray(speed_mps, dtype=float)
    slowest = SLOWEST_CV * np.sqrt(GRAVITY_MPS2 * hull.beam_m)
    known = np.where(speed >= slowest, speed, np.nan)
    return running_state(hull, known, density_kg_per_m3, viscosity_m2_per_s).drag_n
