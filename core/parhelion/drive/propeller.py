"""Open-water thrust and torque of a screw by the Wageningen B-series polynomials.

References
----------
[1] M.W.C. Oosterveld and P. van Oossanen, "Further computer-analyzed data of the Wageningen B-screw series",
    International Shipbuilding Progress 22 (1975) 251-262.
[2] J. Holtrop and G.G.J. Mennen, "An approximate power prediction method", International Shipbuilding
    Progress 29 (1982) 166-170: correction for blade drag, and Keller's blade area.
[3] Momentum theory of the actuator disc: no screw exceeds 2 / (1 + sqrt(1 + C_T)).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import ArrayLike, NDArray

from parhelion.data import b_series

Array = NDArray[np.float64]

PITCH_RATIO = (0.5, 1.4)  # of the series [1]
BLADE_CHORD = 2.073  # c(.75R) Z / D over the blade area ratio [2]
# Blades reach this share of the disc's own limit, and this at most: cuts the false peaks of two thin blades
IDEAL_SHARE, BEST_EFFICIENCY = 0.92, 0.78
ADVANCE_POINTS = 400
SLOWEST_ADVANCE = 1e-3


@dataclass(frozen=True)
class Screw:
    """A propeller as the series sees it."""

    blades: int
    area_ratio: float
    pitch_ratio: float


@dataclass(frozen=True)
class OpenWater:
    """A screw's thrust and torque over the advance ratio J = V_A / (n D), as cubics in J.

    Or those of several screws, of one blade area: coefficients of shape (4, k, 1), for advances (k, n).
    """

    thrust: Array  # coefficients of J^0 to J^3
    torque: Array
    drag_change: float = 0.0  # change of the blades' drag coefficient against the series' [2]
    screw: Screw = Screw(3, 0.5, 1.0)

    def thrust_coefficient(self, advance: ArrayLike) -> Array:
        """K_T [-] at advance ratios of any shape."""
        made = np.polynomial.polynomial.polyval(np.asarray(advance, dtype=float), self.thrust, tensor=False)
        return made - self.drag_change * 0.3 * self.screw.pitch_ratio * BLADE_CHORD * self.screw.area_ratio

    def torque_coefficient(self, advance: ArrayLike) -> Array:
        """K_Q [-] at advance ratios of any shape, never less than the disc's own limit allows [3]."""
        advance = np.asarray(advance, dtype=float)
        made = np.polynomial.polynomial.polyval(advance, self.torque, tensor=False)
        made = made + self.drag_change * 0.25 * BLADE_CHORD * self.screw.area_ratio
        thrust = np.maximum(self.thrust_coefficient(advance), 0.0)
        loading = np.divide(8 * thrust, np.pi * advance**2, out=np.zeros_like(made), where=advance > 0)
        ideal = np.where(advance > 0, 2 / (1 + np.sqrt(1 + loading)), 1.0)
        return np.maximum(
            made, advance * thrust / (2 * np.pi) / np.minimum(IDEAL_SHARE * ideal, BEST_EFFICIENCY)
        )

    def efficiency(self, advance: ArrayLike) -> Array:
        """Open-water efficiency J K_T / (2 pi K_Q) [-]; 0 where there is no thrust."""
        advance = np.asarray(advance, dtype=float)
        thrust = np.maximum(self.thrust_coefficient(advance), 0.0)
        return advance * thrust / (2 * np.pi * self.torque_coefficient(advance))

    @property
    def free_advance(self) -> float:
        """The advance ratio at which the thrust is gone."""
        grid = np.linspace(SLOWEST_ADVANCE, 2.5, 2500)
        gone = np.flatnonzero(self.thrust_coefficient(grid) <= 0)
        return float(grid[gone[0]]) if gone.size else float(grid[-1])


def _collapsed(terms: Array, screw: Screw) -> Array:
    """A polynomial in J alone, for one screw."""
    weight = terms[:, 0] * screw.pitch_ratio ** terms[:, 2] * screw.area_ratio ** terms[:, 3]
    weight = weight * float(screw.blades) ** terms[:, 4]
    return np.array([weight[terms[:, 1] == power].sum() for power in range(4)])


@lru_cache(maxsize=512)
def open_water(screw: Screw, drag_change: float = 0.0) -> OpenWater:
    """The open-water curves of a screw [1].

    Parameters
    ----------
    screw : Screw
    drag_change : float
        Change of the blades' drag coefficient against the series' own Reynolds number of 2e6 [2].
    """
    thrust, torque = b_series()
    return OpenWater(_collapsed(thrust, screw), _collapsed(torque, screw), drag_change, screw)


@dataclass(frozen=True)
class Turning:
    """A screw at work; arrays of one shape."""

    turns_per_s: Array
    advance: Array  # J
    torque_nm: Array
    power_w: Array  # at the shaft
    efficiency: Array  # open water


@lru_cache(maxsize=512)
def _by_loading(screw: Screw) -> tuple[Array, Array]:
    curves = open_water(screw)
    half = ADVANCE_POINTS // 2  # close together at rest and again where the thrust runs out
    low, high = np.geomspace(SLOWEST_ADVANCE, 0.5, half), 1 - np.geomspace(0.5, 1e-5, half)[1:]
    grid = curves.free_advance * np.concatenate([low, high])
    grid = grid[curves.thrust_coefficient(grid) > 0]
    loading = np.log(curves.thrust_coefficient(grid) / grid**2)
    return loading[::-1], grid[::-1]


def turning_for(
    screw: Screw, diameter_m: float, thrust_n: ArrayLike, advance_mps: ArrayLike, density_kg_per_m3: float
) -> Turning:
    """How a screw turns to give a thrust at a speed of advance, from K_T / J^2.

    Parameters
    ----------
    screw : Screw
    diameter_m : float
    thrust_n, advance_mps : array_like
        Thrust of one screw [N] and the speed of the water into it [m/s]; one shape.
    density_kg_per_m3 : float

    Returns
    -------
    Turning
        Of the same shape; at rest where no thrust is asked.
    """
    return _turning(open_water(screw), (screw,), diameter_m, thrust_n, advance_mps, density_kg_per_m3)


def turnings_for(
    screws: Sequence[Screw], diameter_m: float, thrust_n: Array, advance_mps: Array, density_kg_per_m3: float
) -> Turning:
    """The same of several screws that differ in pitch alone; shapes (k, n) of thrusts and speeds (n,)."""
    every = [open_water(screw) for screw in screws]
    thrust, torque = (
        np.stack([getattr(one, name) for one in every], axis=1) for name in ("thrust", "torque")
    )
    curves = OpenWater(thrust[:, :, None], torque[:, :, None], screw=screws[0])
    return _turning(curves, screws, diameter_m, thrust_n, advance_mps, density_kg_per_m3)


def _turning(
    curves: OpenWater, screws: Sequence[Screw], diameter_m: float, thrust_n: ArrayLike,
    advance_mps: ArrayLike, density_kg_per_m3: float,
) -> Turning:  # fmt: skip
    thrust, speed = np.broadcast_arrays(
        np.maximum(np.asarray(thrust_n, dtype=float), 0.0), np.asarray(advance_mps, dtype=float)
    )
    pressure = density_kg_per_m3 * diameter_m**2 * speed**2
    asked = np.divide(thrust, pressure, out=np.full(thrust.shape, np.inf), where=pressure > 1e-12)
    with np.errstate(divide="ignore"):
        loads = np.log(np.maximum(asked, 1e-12))
    found = [np.interp(loads, *_by_loading(screw)) for screw in screws]
    advance = np.asarray(found[0] if len(screws) == 1 else found)
    pull = curves.thrust_coefficient(advance)
    turns = np.sqrt(thrust / (density_kg_per_m3 * diameter_m**4 * pull))
    torque = curves.torque_coefficient(advance) * density_kg_per_m3 * turns**2 * diameter_m**5
    power = 2 * np.pi * turns * torque
    useful = np.divide(thrust * speed, power, out=np.zeros_like(power), where=power > 0)
    return Turning(turns, advance, torque, power, useful)


def least_area_ratio(
    thrust_n: float, diameter_m: float, blades: int, pressure_margin_pa: float, singles: float = 0.2
) -> float:
    """Keller's blade area over disc that keeps cavitation away [2].

    Parameters
    ----------
    thrust_n, diameter_m : float
    blades : int
    pressure_margin_pa : float
        Static pressure at the shaft less the vapour pressure [Pa].
    singles : float
        K: .2 for one screw, 0 to .1 for two.
    """
    return (1.3 + 0.3 * blades) * thrust_n / (diameter_m**2 * pressure_margin_pa) + singles
