"""Drag of a planing hull by Savitsky's short form: all forces pass through the centre of gravity.

References
----------
[1] D. Savitsky, "Hydrodynamic design of planing hulls", Marine Technology 1 (1964) 71-95.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike, NDArray
from scipy.optimize import brentq

from parhelion.constants import GRAVITY_MPS2
from parhelion.hull.friction import friction_coefficient

SLOWEST_CV = 0.6  # speed coefficient below which the method was not made [1]
TRIM_DEG = (2.0, 15.0)
WETTED_TO_BEAM = (0.0, 4.0)
LAMBDA_SEARCH = (0.02, 60.0)


@dataclass(frozen=True)
class PlaningHull:
    """A prismatic hull; SI, the centre of gravity measured from the transom."""

    mass_kg: float
    lcg_m: float
    beam_m: float  # over the chines
    deadrise_deg: float
    correlation_allowance: float = 0.0004


@dataclass(frozen=True)
class Planing:
    """The running state at one speed; nan throughout where there is no equilibrium."""

    speed_coefficient: float
    lift_coefficient: float  # C_Lb
    flat_lift_coefficient: float  # C_L0
    wetted_ratio: float  # lambda
    trim_deg: float
    drag_n: float


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


def flat_lift(lift_coefficient: float, deadrise_deg: float) -> float:
    """Lift coefficient of the flat plate that carries as much: C_Lb = C_L0 - .0065 beta C_L0^.6 [1]."""
    top = 10 * lift_coefficient + 1.0
    return float(
        brentq(lambda c: c - 0.0065 * deadrise_deg * c**0.6 - lift_coefficient, lift_coefficient, top)
    )


def running_state(
    hull: PlaningHull, speed_mps: float, density_kg_per_m3: float, viscosity_m2_per_s: float
) -> Planing:
    """Wetted length, trim and drag of a planing hull at one speed [1].

    Parameters
    ----------
    hull : PlaningHull
    speed_mps : float
    density_kg_per_m3, viscosity_m2_per_s : float
        Of the water.
    """
    beam = hull.beam_m
    cv = speed_mps / np.sqrt(GRAVITY_MPS2 * beam)
    weight = hull.mass_kg * GRAVITY_MPS2
    lift = weight / (0.5 * density_kg_per_m3 * speed_mps**2 * beam**2)

    def lever(ratio: float) -> float:
        return ratio * beam * pressure_centre_share(ratio, cv) - hull.lcg_m

    low, high = LAMBDA_SEARCH
    if lever(low) * lever(high) > 0:
        nothing = float("nan")
        return Planing(float(cv), float(lift), nothing, nothing, nothing, nothing)
    ratio = brentq(lever, low, high)
    flat = flat_lift(float(lift), hull.deadrise_deg)
    trim = (flat / (0.012 * np.sqrt(ratio) + 0.0055 * ratio**2.5 / cv**2)) ** (1 / 1.1)
    slope, deadrise = np.radians(min(trim, 45.0)), np.radians(hull.deadrise_deg)
    dynamic = 0.012 * np.sqrt(ratio) * trim**1.1
    dynamic -= 0.0065 * hull.deadrise_deg * dynamic**0.6
    bottom = speed_mps * np.sqrt(max(1 - dynamic / (ratio * np.cos(slope)), 0.05))
    reynolds = bottom * ratio * beam / viscosity_m2_per_s
    friction = float(friction_coefficient(reynolds)) + hull.correlation_allowance
    area = ratio * beam**2 / np.cos(deadrise)
    skin = 0.5 * density_kg_per_m3 * bottom**2 * area * friction / np.cos(slope)
    return Planing(
        float(cv), float(lift), float(flat), float(ratio), float(trim), float(weight * np.tan(slope) + skin)
    )


def drag_n(
    hull: PlaningHull, speed_mps: ArrayLike, density_kg_per_m3: float, viscosity_m2_per_s: float
) -> NDArray[np.float64]:
    """Drag over speeds of any shape [N]; nan where there is no equilibrium or below a Cv of .6."""
    speed = np.asarray(speed_mps, dtype=float)
    slowest = SLOWEST_CV * np.sqrt(GRAVITY_MPS2 * hull.beam_m)
    found = [
        running_state(hull, v, density_kg_per_m3, viscosity_m2_per_s).drag_n if v >= slowest else np.nan
        for v in speed.ravel()
    ]
    return np.array(found).reshape(speed.shape)
