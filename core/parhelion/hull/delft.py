"""Residuary resistance of a yacht's canoe body by the Delft series.

The coefficients are recalled, not copied from a printed table: they meet the laws they must obey and lie
within 8 % of the component method from Fn .20 to .40, and no answer rests on them alone (see `calm.py`).

References
----------
[1] J.A. Keuning and U.B. Sonnenberg, "Approximation of the hydrodynamic forces on a sailing yacht based on
    the Delft Systematic Yacht Hull Series", HISWA 1998.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike, NDArray
from scipy.interpolate import PchipInterpolator

from parhelion.constants import GRAVITY_MPS2

FROUDE = np.array([0.10, 0.15, 0.20, 0.25, 0.30, 0.35, 0.40, 0.45, 0.50, 0.55, 0.60])
FASTEST_FROUDE = 0.60  # the series ends here [1]
# a0 to a8 for each Froude number [1], recalled
COEFFICIENTS = np.array([
    [-0.0014, 0.0403, 0.0470, -0.0227, -0.0119, 0.0061, -0.0086, -0.0307, -0.0553],
    [0.0004, -0.1808, 0.1793, -0.0004, 0.0097, 0.0118, -0.0055, 0.1721, -0.1728],
    [0.0014, -0.1071, 0.0637, 0.0090, 0.0153, 0.0011, 0.0012, 0.1021, -0.0648],
    [0.0027, 0.0463, -0.1263, 0.0150, 0.0274, -0.0299, 0.0110, -0.0595, 0.1220],
    [0.0056, -0.8005, 0.4891, 0.0269, 0.0519, -0.0313, 0.0292, 0.7314, -0.3619],
    [0.0032, -0.1011, -0.0813, -0.0382, 0.0320, -0.1481, 0.0837, 0.0223, 0.1587],
    [-0.0064, 2.3095, -1.5152, 0.0751, -0.0858, -0.5349, 0.1715, -2.4550, 1.1865],
    [-0.0171, 3.4017, -1.9862, 0.3242, -0.1450, -0.8043, 0.2952, -3.5284, 1.3575],
    [-0.0201, 7.1576, -6.3304, 0.5829, 0.1630, -0.3966, 0.5023, -7.1579, 5.2534],
    [0.0495, 1.5618, -6.0661, 0.8641, 1.1702, 1.7610, 0.9176, -2.1191, 5.4281],
    [0.0808, -5.3233, -1.1513, 0.9663, 1.6084, 2.7459, 0.8491, 4.7129, 1.1089],
])  # fmt: skip


@dataclass(frozen=True)
class CanoeBody:
    """A yacht's body without its keel; SI, LCB and LCF in percent of length, forward positive."""

    length_m: float
    beam_m: float
    draught_m: float
    volume_m3: float
    prismatic: float
    midship: float
    waterplane: float
    lcb_percent: float
    lcf_percent: float

    @property
    def wetted_m2(self) -> float:
        """Wetted area of the body [1]."""
        ratio = self.beam_m / self.draught_m
        area = (1.97 + 0.171 * ratio) * (0.65 / self.midship) ** (1 / 3)
        return area * np.sqrt(self.volume_m3 * self.length_m)


def residuary_share(body: CanoeBody) -> NDArray[np.float64]:
    """Residuary resistance over the weight of the displaced water at each Froude number of the series [-]."""
    length, third = body.length_m, body.volume_m3 ** (1 / 3)
    lcb = (0.5 - body.lcb_percent / 100) * length  # from the forward perpendicular
    lcf = (0.5 - body.lcf_percent / 100) * length
    plane = body.waterplane * length * body.beam_m
    slender = third / length
    terms = np.array([
        1.0,
        lcb / length * slender,
        body.prismatic * slender,
        body.volume_m3 ** (2 / 3) / plane * slender,
        body.beam_m / length * slender,
        body.volume_m3 ** (2 / 3) / body.wetted_m2 * slender,
        lcb / lcf * slender,
        (lcb / length) ** 2 * slender,
        body.prismatic**2 * slender,
    ])  # fmt: skip
    return COEFFICIENTS @ terms


def residuary_n(body: CanoeBody, speed_mps: ArrayLike, density_kg_per_m3: float) -> NDArray[np.float64]:
    """Residuary resistance [1], never below zero, over speeds of any shape; nan beyond Fn .60.

    Parameters
    ----------
    body : CanoeBody
    speed_mps : array_like
        [m/s]. Below Fn .10 it falls with the fourth power of speed.
    density_kg_per_m3 : float

    Returns
    -------
    ndarray
        [N], same shape.
    """
    froude = np.asarray(speed_mps, dtype=float) / np.sqrt(GRAVITY_MPS2 * body.length_m)
    share = np.maximum(residuary_share(body), 0.0)
    inside = PchipInterpolator(FROUDE, share, extrapolate=False)(np.maximum(froude, FROUDE[0]))
    slow = np.minimum(froude / FROUDE[0], 1.0) ** 4
    return inside * slow * body.volume_m3 * density_kg_per_m3 * GRAVITY_MPS2
