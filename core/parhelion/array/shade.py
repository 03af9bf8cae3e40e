"""The shade of spars on cells: penumbra of a strip before the sun's disc, and the sky table of a panel.

References
----------
[1] A strip of half breadth r whose middle lies x off the ray hides C((r-x)/q) - C((-r-x)/q) of the sun's
    disc, with C(t) = 1/2 + (t sqrt(1-t^2) + asin t)/pi; q^2 = (.004653 distance)^2 + 4/3 (hu^2 + hv^2)
    spreads it over a sub-cell of half sizes hu, hv.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numba import float64, njit
from numpy.typing import NDArray

from parhelion.array.layout import SUBSTRINGS, PanelAt, cell_middles, substring_of_cells
from parhelion.design import Obstacle
from parhelion.kernels import OPTIONS
from parhelion.memo import Memo

Array = NDArray[np.float64]

SUN_RADIUS_RAD = 0.004653  # half the sun's apparent breadth [1]
STEP_DEG = 3.0  # of the sky table
SUB_CELLS = 2  # along each side of a cell


@njit(float64(float64), **OPTIONS)
def _disc(t: float) -> float:
    """C(t): share of a disc of radius 1 below a line t off its middle [1]."""
    if t <= -1:
        return 0.0
    if t >= 1:
        return 1.0
    return 0.5 + (t * math.sqrt(1 - t * t) + math.asin(t)) / math.pi


@njit(float64(float64, float64, float64), **OPTIONS)
def strip_share(offset_m: float, radius_m: float, spread_m: float) -> float:
    """Share of the sun's disc behind a strip [1]: its middle off the ray, half breadth, spread [m]."""
    return _disc((radius_m - offset_m) / spread_m) - _disc((-radius_m - offset_m) / spread_m)


@njit(float64[:, ::1](float64[:, :, ::1], float64[:, ::1], float64[:, ::1], float64), **OPTIONS)
def cell_shares(points: Array, spars: Array, directions: Array, half2: float) -> Array:
    """Shaded share of each cell towards each direction.

    Parameters
    ----------
    points : ndarray, shape (c, s, 3)
        Sub-cells of each cell [m].
    spars : ndarray, shape (k, 7)
        Foot, tip and radius of each [m].
    directions : ndarray, shape (d, 3)
        Unit vectors towards the sun, boat frame.
    half2 : float
        hu^2 + hv^2 of a sub-cell [m2].

    Returns
    -------
    ndarray, shape (c, d)
    """
    cells, subs, _ = points.shape
    found = np.zeros((cells, len(directions)))
    for d in range(len(directions)):
        sx, sy, sz = directions[d, 0], directions[d, 1], directions[d, 2]
        for k in range(len(spars)):
            ax, ay, az = spars[k, 0], spars[k, 1], spars[k, 2]
            bx, by, bz = spars[k, 3] - ax, spars[k, 4] - ay, spars[k, 5] - az
            radius = spars[k, 6]
            along = bx * sx + by * sy + bz * sz
            px, py, pz = bx - along * sx, by - along * sy, bz - along * sz
            length2 = px * px + py * py + pz * pz
            for c in range(cells):
                total = 0.0
                for s in range(subs):
                    ux, uy, uz = points[c, s, 0] - ax, points[c, s, 1] - ay, points[c, s, 2] - az
                    w = 0.0
                    if length2 > 1e-12:
                        w = min(max((ux * px + uy * py + uz * pz) / length2, 0.0), 1.0)
                    rx, ry, rz = w * bx - ux, w * by - uy, w * bz - uz
                    distance = rx * sx + ry * sy + rz * sz
                    if distance <= 0:
                        continue
                    off2 = rx * rx + ry * ry + rz * rz - distance * distance
                    spread = math.sqrt((SUN_RADIUS_RAD * distance) ** 2 + 4.0 / 3.0 * half2)
                    reach = radius + spread
                    if off2 >= reach * reach:
                        continue
                    total += strip_share(math.sqrt(max(off2, 0.0)), radius, spread)
                if total > 0:
                    found[c, d] = 1 - (1 - found[c, d]) * (1 - total / subs)
    return found


def towards(azimuth_deg: Array, elevation_deg: Array) -> Array:
    """Unit vectors towards bearings off the bow and heights, shape (d, 3)."""
    a, e = np.radians(azimuth_deg), np.radians(elevation_deg)
    return np.ascontiguousarray(np.stack([np.sin(a) * np.cos(e), np.cos(a) * np.cos(e), np.sin(e)], axis=-1))


def spars_of(obstacles: tuple[Obstacle, ...]) -> Array:
    """Foot, tip and radius of every spar, shape (k, 7) [m]."""
    rows = [
        (o.foot.x_m, o.foot.y_m, o.foot.z_m, o.tip.x_m, o.tip.y_m, o.tip.z_m, o.radius_m) for o in obstacles
    ]
    return np.array(rows, dtype=float).reshape(len(rows), 7)


def shares_towards(panel: PanelAt, spars: Array, directions: Array) -> Array:
    """Shaded share of each cell of a panel, shape (rows, columns, d)."""
    u = np.array(panel.across) / panel.columns
    v = np.array(panel.along) / panel.rows
    steps = (np.arange(SUB_CELLS) + 0.5) / SUB_CELLS - 0.5
    offsets = (steps[:, None, None] * u + steps[None, :, None] * v).reshape(-1, 3)
    cells = cell_middles(panel).reshape(-1, 1, 3) + offsets
    half2 = float(u @ u + v @ v) / (2 * SUB_CELLS) ** 2
    made = cell_shares(np.ascontiguousarray(cells), np.ascontiguousarray(spars), directions, half2)
    made[:, directions @ panel.normal <= 0] = 0.0
    return made.reshape(panel.rows, panel.columns, -1)


@dataclass(frozen=True)
class SkyTable:
    """Shade of one panel over the sky: bearing off the bow x height, every STEP_DEG."""

    worst: Array  # of the worst cell of each half substring, shape (6, a, e)
    mean: Array  # over all cells, shape (a, e)
    sky_view: float  # share of the sky's diffuse light that is left

    def at(self, azimuth_deg: Array, elevation_deg: Array) -> Array:
        """Worst-cell shares towards the sun, bilinear, shape (6, n); bearings off the bow."""
        _, a, e = self.worst.shape
        left = (np.asarray(azimuth_deg) / STEP_DEG) % a
        up = np.clip(np.asarray(elevation_deg) / STEP_DEG, 0, e - 1.000001)
        i, j = np.floor(left).astype(int), np.floor(up).astype(int)
        u, v = left - i, up - j
        i, k = i % a, (i + 1) % a
        t = self.worst
        low = t[:, i, j] * (1 - u) + t[:, k, j] * u
        return low * (1 - v) + (t[:, i, j + 1] * (1 - u) + t[:, k, j + 1] * u) * v


_tables: Memo[SkyTable] = Memo(200)
_one_spar: Memo[NDArray[np.float32]] = Memo(96)  # about a megabyte each


def sky_directions() -> tuple[Array, Array]:
    """Bearings off the bow and heights of the table's entries, shapes (a,) and (e,) [deg]."""
    return np.arange(0, 360, STEP_DEG), np.arange(0, 90 + STEP_DEG / 2, STEP_DEG)


def sky_table(panel: PanelAt, obstacles: tuple[Obstacle, ...]) -> SkyTable:
    """The sky table of a panel behind spars, kept by what it is made of: a moved spar is cast alone."""
    spars = spars_of(obstacles)
    return _tables.get((panel, spars.tobytes()), lambda: _made(panel, spars))


def _made(panel: PanelAt, spars: Array) -> SkyTable:
    bearings, heights = sky_directions()
    a, e = np.meshgrid(bearings, heights, indexing="ij")
    directions = towards(a.ravel(), e.ravel())

    def alone(spar: Array) -> NDArray[np.float32]:
        return _one_spar.get(
            (panel, spar.tobytes()),
            lambda: shares_towards(panel, spar[None, :], directions).astype(np.float32),
        )

    clear = np.ones((panel.rows, panel.columns, len(directions)), dtype=np.float32)
    for spar in spars:
        clear *= 1 - alone(spar)
    shares = 1 - clear
    ids = substring_of_cells(panel)
    worst = np.zeros((2 * SUBSTRINGS, len(directions)))
    for number in range(2 * SUBSTRINGS):
        mine = shares[ids == number]
        if len(mine):
            worst[number] = mine.max(axis=0)
    if not panel.half_cut:
        worst[1::2] = worst[::2]
    mean = shares.mean(axis=(0, 1), dtype=float)
    weight = np.maximum(directions @ panel.normal, 0) * np.cos(np.radians(e.ravel()))
    view = 1 - float((mean * weight).sum() / weight.sum())
    shape = (len(bearings), len(heights))
    return SkyTable(worst.reshape(-1, *shape), mean.reshape(shape), view)
