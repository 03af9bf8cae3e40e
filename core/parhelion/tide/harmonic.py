"""Heights of the tide from harmonic constants: height = z0 + sum of H f cos(V + u - g).

References
----------
[1] P. Schureman, Manual of Harmonic Analysis and Prediction of Tides, US Coast and Geodetic Survey Special
    Publication 98 (1940, revised 1958): arguments V, and node factors f and u from the inclination of the
    moon's orbit.
[2] J. Meeus, Astronomical Algorithms, 2nd ed. (1998), chapters 22, 25 and 47: mean longitudes of moon, sun,
lunar
    perigee, node and solar perigee.

Programs differ in the arguments of M1, S1 and a few more: those are left out and named.
"""

from __future__ import annotations

from collections.abc import Iterable
from datetime import UTC, datetime, timedelta
from typing import Literal, NamedTuple

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]

J2000 = datetime(2000, 1, 1, 12, tzinfo=UTC)
CENTURY_D = 36525.0
SAMPLED_S = 360.0  # heights between which turning points are looked for
NEWTON = 6  # steps from there to the turning point

# T (hour angle of the mean sun), s, h, p, p1 times so much, and degrees: the argument V [1, table 2]
_ARGUMENTS: dict[str, tuple[float, ...]] = {
    "M2": (2, -2, 2, 0, 0, 0), "S2": (2, 0, 0, 0, 0, 0), "N2": (2, -3, 2, 1, 0, 0),
    "K2": (2, 0, 2, 0, 0, 0), "NU2": (2, -3, 4, -1, 0, 0), "MU2": (2, -4, 4, 0, 0, 0),
    "2N2": (2, -4, 2, 2, 0, 0), "LAM2": (2, -1, 0, 1, 0, 180), "L2": (2, -1, 2, -1, 0, 180),
    "T2": (2, 0, -1, 0, 1, 0), "R2": (2, 0, 1, 0, -1, 180), "EPS2": (2, -5, 4, 1, 0, 0),
    "K1": (1, 0, 1, 0, 0, -90), "O1": (1, -2, 1, 0, 0, 90), "P1": (1, 0, -1, 0, 0, 90),
    "Q1": (1, -3, 1, 1, 0, 90), "2Q1": (1, -4, 1, 2, 0, 90), "RHO": (1, -3, 3, -1, 0, 90),
    "SIG1": (1, -4, 3, 0, 0, 90), "J1": (1, 1, 1, -1, 0, -90), "OO1": (1, 2, 1, 0, 0, -90),
    "PI1": (1, 0, -2, 0, 1, 90), "PHI1": (1, 0, 3, 0, 0, -90), "CHI1": (1, -1, 3, -1, 0, -90),
    "THE1": (1, 1, -1, 1, 0, -90), "MM": (0, 1, 0, -1, 0, 0), "MF": (0, 2, 0, 0, 0, 0),
    "MSF": (0, 2, -2, 0, 0, 0), "SA": (0, 0, 1, 0, 0, 0), "SSA": (0, 0, 2, 0, 0, 0),
    "M3": (3, -3, 3, 0, 0, 0), "S4": (4, 0, 0, 0, 0, 0), "S6": (6, 0, 0, 0, 0, 0),
}  # fmt: skip
# Shallow water: so many times each
_COMPOUND: dict[str, dict[str, int]] = {
    "M4": {"M2": 2}, "M6": {"M2": 3}, "M8": {"M2": 4}, "MS4": {"M2": 1, "S2": 1}, "MN4": {"M2": 1, "N2": 1},
    "MK3": {"M2": 1, "K1": 1}, "2MK3": {"M2": 2, "K1": -1}, "2SM2": {"S2": 2, "M2": -1},
    "2MS6": {"M2": 2, "S2": 1}, "2MN6": {"M2": 2, "N2": 1}, "MK4": {"M2": 1, "K2": 1},
    "SK4": {"S2": 1, "K2": 1}, "SN4": {"S2": 1, "N2": 1}, "2SM6": {"S2": 2, "M2": 1}, "SO3": {"S2": 1, "O1":
    1}, "MO3": {"M2": 1, "O1": 1}, "SK3": {"S2": 1, "K1": 1}, "MSN6": {"M2": 1, "S2": 1, "N2": 1}, "MSN2":
    {"M2": 1, "S2": 1, "N2": -1}, "2MS2": {"M2": 2, "S2": -1}, "2MN2": {"M2": 2, "N2": -1},
}  # fmt: skip
_OTHER_NAMES = {
    "RHO1": "RHO",
    "LAMBDA2": "LAM2",
    "LDA2": "LAM2",
    "SIGMA1": "SIG1",
    "THETA1": "THE1",
    "MO3": "MO3",
}
_LIKE = {  # whose node factors a constituent has
    "N2": "M2", "NU2": "M2", "MU2": "M2", "2N2": "M2", "LAM2": "M2", "EPS2": "M2", "Q1": "O1", "2Q1": "O1",
    "RHO": "O1", "SIG1": "O1", "CHI1": "J1", "THE1": "J1", "MSF": "M2",
}  # fmt: skip


class Constituent(NamedTuple):
    """One of a station's constants: half the range [m], and its lag behind Greenwich [deg]."""

    name: str
    amplitude_m: float
    phase_deg: float


class Turning(NamedTuple):
    """A high or a low water."""

    at: datetime
    height_m: float
    kind: Literal["high", "low"]


def _known(name: str) -> str | None:
    plain = _OTHER_NAMES.get(name.upper(), name.upper())
    return plain if plain in _ARGUMENTS or plain in _COMPOUND else None


def left_out(constituents: Iterable[Constituent]) -> list[str]:
    """Constituents that are not summed, since programs disagree about them or they are not known here."""
    return [one.name for one in constituents if _known(one.name) is None]


def _longitudes(days: Array) -> dict[str, Array]:
    """Mean longitudes at days after J2000, in degrees [2]."""
    t = days / CENTURY_D
    return {
        "T": (days % 1.0) * 360.0 + 360.0,  # J2000 is noon: the mean sun's hour angle is nothing there
        "s": 218.3164477 + 481267.88123421 * t,
        "h": 280.46646 + 36000.76983 * t,
        "p": 83.3532465 + 4069.0137287 * t,
        "N": 125.04452 - 1934.136261 * t,
        "p1": 282.93735 + 1.71946 * t,
    }


def _nodes(at: dict[str, Array]) -> dict[str, tuple[Array, Array]]:
    """Node factors f [-] and u [deg] by constituent [1, tables 6 to 14]."""
    n = np.radians(at["N"])
    inclination = np.arccos(0.91370 - 0.03569 * np.cos(n))
    half = np.tan(n / 2)
    one, other = np.arctan(1.01883 * half), np.arctan(0.64412 * half)
    whole = np.round(n / (2 * np.pi)) * np.pi  # the arctangents follow N around
    one, other = one + whole, other + whole
    nu = one - other
    xi = n - one - other
    sine, twice = np.sin(inclination), np.sin(2 * inclination)
    nu1 = np.arctan2(twice * np.sin(nu), twice * np.cos(nu) + 0.3347)
    nu2 = np.arctan2(sine**2 * np.sin(2 * nu), sine**2 * np.cos(2 * nu) + 0.0727)
    half_i = np.tan(inclination / 2)
    p = np.radians(at["p"]) - xi
    m2 = np.cos(inclination / 2) ** 4 / 0.9154
    fit = np.sqrt(1 - 12 * half_i**2 * np.cos(2 * p) + 36 * half_i**4)
    turned = np.arctan2(np.sin(2 * p), 1 / (6 * half_i**2) - np.cos(2 * p))
    still = np.zeros_like(n)
    factors = {
        "M2": (m2, 2 * xi - 2 * nu),
        "M3": (m2**1.5, 3 * xi - 3 * nu),
        "L2": (m2 * fit, 2 * xi - 2 * nu - turned),
        "O1": (sine * np.cos(inclination / 2) ** 2 / 0.3800, 2 * xi - nu),
        "J1": (twice / 0.7214, -nu),
        "OO1": (sine * np.sin(inclination / 2) ** 2 / 0.0164, -2 * xi - nu),
        "K1": (np.sqrt(0.8965 * twice**2 + 0.6001 * twice * np.cos(nu) + 0.1006), -nu1),
        "K2": (np.sqrt(19.0444 * sine**4 + 2.7702 * sine**2 * np.cos(2 * nu) + 0.0981), -nu2),
        "MM": ((2 / 3 - sine**2) / 0.5021, still),
        "MF": (sine**2 / 0.1578, -2 * xi),
    }
    return {name: (f, np.degrees(u)) for name, (f, u) in factors.items()}


def heights_m(constituents: Iterable[Constituent], z0_m: float, seconds: Array) -> Array:
    """Heights over the station's datum.

    Parameters
    ----------
    constituents : iterable of Constituent
        Those in `left_out` are passed over.
    z0_m : float
        Mean level over the datum.
    seconds : ndarray, any shape
        Of universal time after J2000.

    Returns
    -------
    ndarray
        [m], of the shape of `seconds`.
    """
    at = _longitudes(np.asarray(seconds, dtype=float) / 86400.0)
    nodes = _nodes(at)
    one = np.ones_like(at["T"])

    def turned(name: str) -> tuple[Array, Array]:
        """f and V + u of a constituent."""
        if name in _COMPOUND:
            f, angle = one, 0 * one
            for part, times in _COMPOUND[name].items():
                part_f, part_angle = turned(part)
                f, angle = f * part_f ** abs(times), angle + times * part_angle
            return f, angle
        hour, s, h, p, p1, more = _ARGUMENTS[name]
        angle = hour * at["T"] + s * at["s"] + h * at["h"] + p * at["p"] + p1 * at["p1"] + more
        f, u = nodes.get(_LIKE.get(name, name), (one, 0 * one))
        return f, angle + u

    total = np.full_like(at["T"], z0_m)
    for item in constituents:
        name = _known(item.name)
        if name is not None:
            f, angle = turned(name)
            total += item.amplitude_m * f * np.cos(np.radians(angle - item.phase_deg))
    return total


def turnings(
    constituents: Iterable[Constituent], z0_m: float, start: datetime, end: datetime
) -> list[Turning]:
    """Every high and low water between two moments, small second ones too.

    Parameters
    ----------
    constituents : iterable of Constituent
    z0_m : float
    start, end : datetime
        With their time zones.

    Returns
    -------
    list of Turning
        In order; moments in universal time.
    """
    known = list(constituents)
    first, last = ((moment - J2000).total_seconds() for moment in (start, end))
    grid = np.arange(first - SAMPLED_S, last + 2 * SAMPLED_S, SAMPLED_S)
    height = heights_m(known, z0_m, grid)
    rise = np.diff(height)
    turns = np.flatnonzero(rise[:-1] * rise[1:] <= 0) + 1
    moments = grid[turns]
    reach = SAMPLED_S / 2
    for _ in range(NEWTON):  # a parabola through three heights, ever closer
        low, middle, high = (heights_m(known, z0_m, moments + d) for d in (-reach, 0.0, reach))
        bend = low - 2 * middle + high
        bend = np.where(bend == 0, -1e-12, bend)
        moments = moments + np.clip((low - high) / (2 * bend), -1, 1) * reach
        reach = max(reach / 2, 5.0)
    found = []
    for moment, k in zip(moments, turns, strict=True):
        if first <= moment < last:
            level = float(heights_m(known, z0_m, np.array([moment]))[0])
            at = J2000 + timedelta(seconds=float(moment))
            found.append(Turning(at, level, "high" if rise[k - 1] > 0 else "low"))
    return found
