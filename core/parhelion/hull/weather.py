"""What wind and waves from ahead add to a boat's resistance.

References
----------
[1] Drag of what stands above the water in the apparent wind, 1/2 rho Cd A |Va| Va,x.
[2] STAwave-1, ITTC 7.5-04-01-01.1: 1/16 rho g H^2 B sqrt(B / L_bow), waves from ahead, no pitching.
[3] Kreitner, as quoted by the ITTC: .64 H^2 B^2 C_B rho g / L, up to some 2 m.
[4] What small craft under motor are seen to lose: 10 to 30 % of their speed in 0.3 m at 8 m of length. They
    ride waves much longer than themselves; short chop slows them and lets the propeller draw air.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike, NDArray

from parhelion.constants import AIR_DENSITY_KG_PER_M3, GRAVITY_MPS2

Array = NDArray[np.float64]

BOW_SHARE = 0.35  # of the length, from the stem to nearly full breadth [2]
LOST_PER_STEEPNESS = (2.7, 8.0)  # of the speed, over wave height by length: 10 to 30 % in 0.3 m at 8 m [4]
MOST_LOST = 0.6
STEEPEST = 2.25  # [2] holds to H = 2.25 sqrt(L / 100)


def wind_resistance_n(
    speed_mps: ArrayLike, wind_mps: ArrayLike, angle_deg: float, area_m2: float, drag_coefficient: float
) -> Array:
    """What a wind adds to the drag in still air [N]; below zero where it pushes [1].

    Parameters
    ----------
    speed_mps : array_like
        Through the water, any shape.
    wind_mps : array_like
        True wind.
    angle_deg : float
        Where it comes from off the bow [deg].
    area_m2, drag_coefficient : float
        Of what stands above the water, seen from ahead.
    """
    speed, wind = np.asarray(speed_mps, dtype=float), np.asarray(wind_mps, dtype=float)
    ahead = speed + wind * np.cos(np.radians(angle_deg))
    across = wind * np.sin(np.radians(angle_deg))
    felt = np.hypot(ahead, across) * ahead
    return 0.5 * AIR_DENSITY_KG_PER_M3 * drag_coefficient * area_m2 * (felt - speed * np.abs(speed))


@dataclass(frozen=True)
class WaveDrag:
    """Added resistance in waves from ahead, low and high, over speeds [N]."""

    low_n: Array
    high_n: Array

    @property
    def middle_n(self) -> Array:
        """Geometric mean of both."""
        return np.sqrt(self.low_n * self.high_n)


def kreitner_n(height_m: Array, length_m: float, beam_m: float, block: float, density: float) -> Array:
    """Added resistance of one hull [3] [N]."""
    return 0.64 * height_m**2 * beam_m**2 * block * density * GRAVITY_MPS2 / length_m


def stawave_n(height_m: Array, length_m: float, beam_m: float, density: float) -> Array:
    """Added resistance of one hull [2] [N]."""
    bow = BOW_SHARE * length_m
    return density * GRAVITY_MPS2 * height_m**2 * beam_m * float(np.sqrt(beam_m / bow)) / 16


def ship_waves_n(
    height_m: ArrayLike, length_m: float, beam_m: float, block: float, hulls: int, density: float
) -> tuple[Array, Array]:
    """Added resistance of the whole boat by two methods for ships that differ by up to 1.7, low and high [N].

    Parameters
    ----------
    height_m : array_like
        Significant height, any shape.
    length_m, beam_m, block : float
        Of one hull.
    hulls : int
    density : float
        Of the water [kg/m3].

    Returns
    -------
    low_n, high_n : ndarray
        Of the shape of `height_m`.
    """
    height = np.asarray(height_m, dtype=float)
    one = hulls * kreitner_n(height, length_m, beam_m, block, density)
    other = hulls * stawave_n(height, length_m, beam_m, density)
    return np.minimum(one, other), np.maximum(one, other)


def lost_speed_shares(height_m: ArrayLike, length_m: float) -> tuple[Array, Array]:
    """Share of its speed that a small boat under way loses in waves from ahead, low and high [-] [4]."""
    steep = np.asarray(height_m, dtype=float) / length_m
    low, high = LOST_PER_STEEPNESS
    return np.minimum(low * steep, MOST_LOST), np.minimum(high * steep, MOST_LOST)


def highest_wave_m(length_m: float) -> float:
    """Height beyond which a boat of that length pitches, and the method says too little [2] [m]."""
    return STEEPEST * float(np.sqrt(length_m / 100))
