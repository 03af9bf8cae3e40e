"""Wave resistance of a slender hull by thin-ship theory, alone or beside a second hull.

The hull is y = B/2 f(xi) g(zeta), with f = 1 - |xi|^n along the length (xi from -1 to 1) and g = 1 - zeta^m
down to the draught (zeta from 0 to 1). n and m follow from the prismatic and midship coefficients.

References
----------
[1] J.H. Michell, "The wave resistance of a ship", Philosophical Magazine (5) 45 (1898) 106-123.
[2] E.O. Tuck and L. Lazauskas, "Optimum hull spacing of a family of multihulls", Ship Technology Research 45
    (1998) 180-195: the interference factor of two hulls abreast.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache

import numpy as np
from numpy.typing import ArrayLike, NDArray

from parhelion.computing.kept import kept_by_arguments
from parhelion.constants import GRAVITY_MPS2

Array = NDArray[np.float64]

SLOWEST_FROUDE = 0.10  # below it the wave part is next to nothing, and its integrand too quick to follow
ANGLES = 280  # quadrature points over the wave angle
STATIONS = 160  # panels over half the length
WAVENUMBER_STEP = 0.06  # of the table over k L/2; the tabled function turns over 2 pi
STEEPEST_RAD = 1.51  # 86.5 deg: beyond it the waves are too short to carry anything


@cache  # found as eigenvalues, which takes longer than all that is summed with them
def _gauss(points: int) -> tuple[Array, Array]:
    """Points and weights of Gauss quadrature from 0 to 1."""
    node, weight = np.polynomial.legendre.leggauss(points)
    return (node + 1) / 2, weight / 2


@dataclass(frozen=True)
class ThinHull:
    """One slender hull [m]; the exponents shape its waterlines and its sections."""

    length_m: float
    beam_m: float
    draught_m: float
    waterline_exponent: float  # n
    section_exponent: float  # m

    @property
    def block(self) -> float:
        """C_B = n/(n+1) m/(m+1) [-]."""
        n, m = self.waterline_exponent, self.section_exponent
        return n / (n + 1) * m / (m + 1)

    @property
    def volume_m3(self) -> float:
        return self.block * self.length_m * self.beam_m * self.draught_m

    @property
    def wetted_m2(self) -> float:
        """Wetted area of both sides [m2], by quadrature of the surface."""
        xi, weight = _gauss(120)
        x, z = np.meshgrid(xi, xi, indexing="ij")
        n, m = self.waterline_exponent, self.section_exponent
        along = self.beam_m / self.length_m * n * x ** (n - 1) * (1 - z**m)
        down = self.beam_m / 2 / self.draught_m * m * z ** (m - 1) * (1 - x**n)
        area = np.sqrt(1 + along**2 + down**2)
        return float(2 * self.length_m * self.draught_m * np.einsum("i,j,ij", weight, weight, area))


FULLEST = 0.995  # form coefficient: a box has no exponent


def thin_hull(length_m: float, beam_m: float, draught_m: float, prismatic: float, midship: float) -> ThinHull:
    """A thin hull of the given form coefficients: n = Cp/(1-Cp), m = Cm/(1-Cm)."""
    along, down = min(prismatic, FULLEST), min(midship, FULLEST)
    return ThinHull(length_m, beam_m, draught_m, along / (1 - along), down / (1 - down))


def wave_resistance_n(
    hull: ThinHull, speed_mps: ArrayLike, density_kg_per_m3: float, spacing_m: float | None = None
) -> Array:
    """Michell's integral [1], over speeds of any shape.

    Parameters
    ----------
    hull : ThinHull
    speed_mps : array_like
        [m/s]; zero below a Froude number of .10.
    density_kg_per_m3 : float
    spacing_m : float, optional
        Distance between the centre planes of two such hulls; the result is then for both [2].

    Returns
    -------
    ndarray
        [N], of the shape of `speed_mps`.
    """
    speed = np.asarray(speed_mps, dtype=float)
    flat = speed.ravel()
    froude = flat / np.sqrt(GRAVITY_MPS2 * hull.length_m)
    fast = froude >= SLOWEST_FROUDE
    found = np.zeros_like(flat)
    if fast.any():
        found[fast] = _michell(hull, flat[fast], density_kg_per_m3, spacing_m)
    return found.reshape(speed.shape)


def _michell(hull: ThinHull, speed: Array, density: float, spacing: float | None) -> Array:
    angle, weight = _gauss(ANGLES)
    angle, weight = angle * STEEPEST_RAD, weight * STEEPEST_RAD
    secant = 1 / np.cos(angle)
    wave = GRAVITY_MPS2 / speed**2  # k0 [1/m], shape (v,)
    down = np.outer(wave, secant**2)  # shape (v, a)
    lengths, lengthwise = _lengthwise(hull.waterline_exponent)
    depths, depthwise = _depthwise(hull.section_exponent)
    amplitude = (
        hull.beam_m
        * np.interp(np.outer(wave, secant) * (hull.length_m / 2), lengths, lengthwise)
        * hull.draught_m
        * np.interp(np.log(down * hull.draught_m), depths, depthwise)
    )
    # R = 4 rho g^2 / (pi V^2) int (I^2 + J^2) sec^3 dtheta, J = 0 for a hull alike fore and aft
    integrand = amplitude**2 * secant**3
    if spacing is not None:
        integrand = integrand * 4 * np.cos(0.5 * spacing * down * np.sin(angle)) ** 2
    factor = 4 * density * GRAVITY_MPS2**2 / (np.pi * speed**2)
    return factor * (integrand @ weight)


@kept_by_arguments(16)
def _lengthwise(exponent: float) -> tuple[Array, Array]:
    """Table over q = k L/2 of int f'(xi) sin(q xi) dxi, 0 to 1; straight panels of f, sin exact in each."""
    q = np.arange(0.25, 0.5 / SLOWEST_FROUDE**2 / np.cos(STEEPEST_RAD) + 0.1, WAVENUMBER_STEP)
    edges = np.sin(np.linspace(0, np.pi / 2, STATIONS + 1))  # finer towards the ends
    slope = np.diff(1 - edges**exponent) / np.diff(edges)
    kinks = np.diff(slope, prepend=0.0, append=0.0)  # the sum by parts: one cosine an edge
    table = np.empty_like(q)
    for part in range(0, q.size, 4096):
        rows = slice(part, part + 4096)
        table[rows] = np.cos(np.outer(q[rows], edges)) @ kinks / q[rows]
    return q, table


@kept_by_arguments(16)
def _depthwise(exponent: float) -> tuple[Array, Array]:
    """Table over ln p, p = kappa T, of int g(zeta) exp(-p zeta) dzeta from 0 to 1, by Gauss quadrature."""
    logs = np.linspace(np.log(1e-3), np.log(1e5), 1500)
    edges = np.concatenate([[0.0], np.geomspace(1e-6, 1.0, 40)])
    node, weight = _gauss(8)
    width = np.diff(edges)
    zeta = (edges[:-1, None] + width[:, None] * node).ravel()
    weights = (width[:, None] * weight).ravel()
    return logs, np.exp(-np.outer(np.exp(logs), zeta)) @ (weights * (1 - zeta**exponent))
