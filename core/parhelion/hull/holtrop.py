"""Calm-water resistance of a displacement hull by the Holtrop & Mennen component method.

References
----------
[1] J. Holtrop, "A statistical re-analysis of resistance and propulsion data", International Shipbuilding
    Progress 31 (1984) 272-276.
[2] J. Holtrop and G.G.J. Mennen, "An approximate power prediction method", International Shipbuilding
    Progress 29 (1982) 166-170.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike, NDArray

from parhelion.constants import GRAVITY_MPS2
from parhelion.hull.friction import friction_coefficient

Array = NDArray[np.float64]

WAVE_DECAY = -0.9  # d in [1]
BLUNTEST_DEG = 85.0  # half angle of entrance that the wave terms see: at 90 they have no end
LEAST_DECAY = -0.5  # m1 is held at or below this: a hull as flat as a sheet would make waves at rest
SHORTEST_RUN = 0.05  # L_R by L and by B are held at this: full hulls with LCB far aft make it negative
FLATTEST = 60.0  # beam to draught that the wetted area sees: the regression goes on to areas below nothing
NARROWEST_BREADTH = 0.1  # L/B - 2 is held at this in c17
FULLEST_PRISMATIC = 0.94
STANDARD_ROUGHNESS_M = 150e-6  # [m] the ship allowance already holds this much


@dataclass(frozen=True)
class HoltropHull:
    """What the method needs to know of one hull; SI, LCB in percent of length, forward positive."""

    length_m: float
    beam_m: float
    draught_fore_m: float
    draught_aft_m: float
    volume_m3: float
    midship: float  # C_M
    waterplane: float  # C_WP
    lcb_percent: float
    bulb_area_m2: float = 0.0  # A_BT
    bulb_height_m: float = 0.0  # h_B
    transom_area_m2: float = 0.0  # A_T
    stern_shape: float = 0.0  # C_stern
    appendage_area_m2: float = 0.0
    appendage_form: float = 1.5  # 1 + k2
    wetted_area_m2: float | None = None
    entrance_angle_deg: float | None = None
    roughness_m: float = STANDARD_ROUGHNESS_M
    correlation_allowance: float | None = None  # C_A; None is the ship's own

    @property
    def draught_m(self) -> float:
        return (self.draught_fore_m + self.draught_aft_m) / 2

    @property
    def block(self) -> float:
        return self.volume_m3 / (self.length_m * self.beam_m * self.draught_m)

    @property
    def prismatic(self) -> float:
        return self.block / self.midship

    @property
    def run_length_m(self) -> float:
        """L_R [1], held at 5 % of the length."""
        return run_length_m(self.length_m, self.prismatic, self.lcb_percent)

    @property
    def form_factor(self) -> float:
        """1 + k1 of the bare hull [1]."""
        held = min(self.prismatic, FULLEST_PRISMATIC)
        c14 = 1 + 0.011 * self.stern_shape
        return (
            0.93
            + 0.487118
            * c14
            * (self.beam_m / self.length_m) ** 1.06806
            * (self.draught_m / self.length_m) ** 0.46106
            * (self.length_m / self.run_length_m) ** 0.121563
            * (self.length_m**3 / self.volume_m3) ** 0.36486
            * (1 - held) ** -0.604247
        )

    @property
    def wetted_m2(self) -> float:
        """Wetted area of the hull [m2]: given, or by the regression [2]."""
        if self.wetted_area_m2 is not None:
            return self.wetted_area_m2
        return (
            self.length_m
            * (2 * self.draught_m + self.beam_m)
            * np.sqrt(self.midship)
            * (
                0.453
                + 0.4425 * self.block
                - 0.2862 * self.midship
                - 0.003467 * min(self.beam_m / self.draught_m, FLATTEST)
                + 0.3696 * self.waterplane
            )
            + 2.38 * self.bulb_area_m2 / self.block
        )

    @property
    def entrance_deg(self) -> float:
        """Half angle of entrance [deg]: given, or by the regression [2]."""
        if self.entrance_angle_deg is not None:
            return self.entrance_angle_deg
        inner = 1 - self.prismatic - 0.0225 * self.lcb_percent
        return 1 + 89 * np.exp(
            -((self.length_m / self.beam_m) ** 0.80856)
            * (1 - self.waterplane) ** 0.30484
            * max(inner, 0.01) ** 0.6367
            * max(self.run_length_m / self.beam_m, SHORTEST_RUN) ** 0.34574
            * (100 * self.volume_m3 / self.length_m**3) ** 0.16302
        )

    @property
    def bulb_damping(self) -> float:
        """c2 [1]."""
        if self.bulb_area_m2 == 0:
            return 1.0
        c3 = (
            0.56
            * self.bulb_area_m2**1.5
            / (
                self.beam_m
                * self.draught_m
                * (0.31 * np.sqrt(self.bulb_area_m2) + self.draught_fore_m - self.bulb_height_m)
            )
        )
        return float(np.exp(-1.89 * np.sqrt(c3)))

    @property
    def ship_allowance(self) -> float:
        """C_A of a ship, with its roughness [1]."""
        c4 = min(self.draught_fore_m / self.length_m, 0.04)
        allowance = (
            0.006 * (self.length_m + 100) ** -0.16
            - 0.00205
            + 0.003 * np.sqrt(self.length_m / 7.5) * self.block**4 * self.bulb_damping * (0.04 - c4)
        )
        if self.roughness_m > STANDARD_ROUGHNESS_M:
            allowance += (0.105 * self.roughness_m ** (1 / 3) - 0.005579) / self.length_m ** (1 / 3)
        return float(allowance)


@dataclass(frozen=True)
class Resistance:
    """The parts of calm-water resistance [N], each an array over the speeds."""

    friction_n: Array  # with the form factor
    appendage_n: Array
    wave_n: Array
    bulb_n: Array
    transom_n: Array
    allowance_n: Array

    @property
    def total_n(self) -> Array:
        return (
            self.friction_n + self.appendage_n + self.wave_n + self.bulb_n + self.transom_n + self.allowance_n
        )


def run_length_m(length_m: float, prismatic: float, lcb_percent: float) -> float:
    """Length of the run L_R [1], held at 5 % of the length [m]."""
    return length_m * max(run_share(prismatic, lcb_percent), SHORTEST_RUN)


def run_share(prismatic: float, lcb_percent: float) -> float:
    """L_R / L as the regression has it [1], negative for full hulls with LCB far aft [-]."""
    return 1 - prismatic + 0.06 * prismatic * lcb_percent / (4 * prismatic - 1)


def wave_resistance_n(hull: HoltropHull, speed_mps: ArrayLike, density_kg_per_m3: float) -> Array:
    """Wave-making resistance [1]: two branches by Froude number, joined linearly from .40 to .55.

    Parameters
    ----------
    hull : HoltropHull
    speed_mps : array_like
        Speed through the water [m/s], any shape.
    density_kg_per_m3 : float

    Returns
    -------
    ndarray
        [N], same shape.
    """
    froude = np.asarray(speed_mps, dtype=float) / np.sqrt(GRAVITY_MPS2 * hull.length_m)
    low = _slow_branch(hull, np.minimum(froude, 0.40))
    high = _fast_branch(hull, np.maximum(froude, 0.55))
    share = np.clip((froude - 0.40) / 0.15, 0, 1)
    shape = np.where(froude <= 0.40, low, np.where(froude >= 0.55, high, low + share * (high - low)))
    c5 = 1 - 0.8 * hull.transom_area_m2 / (hull.beam_m * hull.draught_m * hull.midship)
    return shape * hull.bulb_damping * c5 * hull.volume_m3 * density_kg_per_m3 * GRAVITY_MPS2


def _hollows(hull: HoltropHull, froude: Array) -> Array:
    """m4 cos(lambda Fn^-2): the humps and hollows [1]."""
    slenderness = hull.length_m**3 / hull.volume_m3
    if slenderness < 512:
        c15 = -1.69385
    elif slenderness < 1726.91:
        c15 = -1.69385 + (slenderness ** (1 / 3) - 8) / 2.36
    else:
        c15 = 0.0
    ratio = hull.length_m / hull.beam_m
    lam = 1.446 * hull.prismatic - (0.03 * ratio if ratio < 12 else 0.36)
    return c15 * 0.4 * np.exp(-0.034 * froude**-3.29) * np.cos(lam * froude**-2)


def _slow_branch(hull: HoltropHull, froude: Array) -> Array:
    froude = np.maximum(froude, 0.02)  # exp(m1 Fn^-0.9) is zero to rounding long before
    length, beam, draught, cp = hull.length_m, hull.beam_m, hull.draught_m, hull.prismatic
    breadth = beam / length
    if breadth < 0.11:
        c7 = 0.229577 * breadth ** (1 / 3)
    elif breadth <= 0.25:
        c7 = breadth
    else:
        c7 = max(0.5 - 0.0625 * length / beam, 0.25)
    c1 = (
        2223105
        * c7**3.78613
        * (draught / beam) ** 1.07961
        * (90 - min(hull.entrance_deg, BLUNTEST_DEG)) ** -1.37565
    )
    c16 = 8.07981 * cp - 13.8673 * cp**2 + 6.984388 * cp**3 if cp < 0.8 else 1.73014 - 0.7067 * cp
    m1 = 0.0140407 * length / draught - 1.75254 * hull.volume_m3 ** (1 / 3) / length - 4.79323 * breadth - c16
    m1 = min(m1, LEAST_DECAY)
    return c1 * np.exp(m1 * froude**WAVE_DECAY + _hollows(hull, froude))


def _fast_branch(hull: HoltropHull, froude: Array) -> Array:
    length, beam = hull.length_m, hull.beam_m
    c17 = (
        6919.3
        * hull.midship**-1.3346
        * (hull.volume_m3 / length**3) ** 2.00977
        * max(length / beam - 2, NARROWEST_BREADTH) ** 1.40692
    )
    m3 = -7.2035 * (beam / length) ** 0.326869 * (hull.draught_m / beam) ** 0.605375
    return c17 * np.exp(m3 * froude**WAVE_DECAY + _hollows(hull, froude))


def _bulb_n(hull: HoltropHull, speed: Array, density: float) -> Array:
    if hull.bulb_area_m2 == 0:
        return np.zeros_like(speed)
    root = np.sqrt(hull.bulb_area_m2)
    emergence = 0.56 * root / (hull.draught_fore_m - 1.5 * hull.bulb_height_m)
    froude = speed / np.sqrt(
        GRAVITY_MPS2 * (hull.draught_fore_m - hull.bulb_height_m - 0.25 * root) + 0.15 * speed**2
    )
    return (
        0.11 * np.exp(-3 * emergence**-2) * froude**3 * hull.bulb_area_m2**1.5 * density * GRAVITY_MPS2
    ) / (1 + froude**2)


def _transom_n(hull: HoltropHull, speed: Array, density: float) -> Array:
    if hull.transom_area_m2 == 0:
        return np.zeros_like(speed)
    depth_froude = speed / np.sqrt(
        2 * GRAVITY_MPS2 * hull.transom_area_m2 / (hull.beam_m + hull.beam_m * hull.waterplane)
    )
    c6 = np.where(depth_froude < 5, 0.2 * (1 - 0.2 * depth_froude), 0.0)
    return 0.5 * density * speed**2 * hull.transom_area_m2 * c6


def calm_resistance(
    hull: HoltropHull, speed_mps: ArrayLike, density_kg_per_m3: float, viscosity_m2_per_s: float
) -> Resistance:
    """Calm-water resistance by components [1].

    Parameters
    ----------
    hull : HoltropHull
    speed_mps : array_like
        Speed through the water [m/s], any shape.
    density_kg_per_m3, viscosity_m2_per_s : float
        Of the water [kg/m3], [m2/s].

    Returns
    -------
    Resistance
        Each part [N], of the shape of `speed_mps`.
    """
    speed = np.asarray(speed_mps, dtype=float)
    pressure = 0.5 * density_kg_per_m3 * speed**2
    cf = friction_coefficient(speed * hull.length_m / viscosity_m2_per_s)
    allowance = hull.ship_allowance if hull.correlation_allowance is None else hull.correlation_allowance
    wetted, appended = hull.wetted_m2, hull.appendage_area_m2
    return Resistance(
        friction_n=pressure * cf * wetted * hull.form_factor,
        appendage_n=pressure * cf * appended * hull.appendage_form,
        wave_n=wave_resistance_n(hull, speed, density_kg_per_m3),
        bulb_n=_bulb_n(hull, speed, density_kg_per_m3),
        transom_n=_transom_n(hull, speed, density_kg_per_m3),
        allowance_n=pressure * (wetted + appended) * allowance,
    )
