"""The shade on a panel's cells towards any part of the sky, and the sky table that keeps it."""

from __future__ import annotations

from dataclasses import dataclass
from functools import partial

import numpy as np
from numpy.typing import NDArray

from parhelion.computing.kept import Memo, kept_by_arguments, once
from parhelion.panels.bodies import Body
from parhelion.panels.casting import (
    LOW_FINER,
    LOW_ROWS,
    cell_shares,
    face_shares,
    looked_up,
    reached,
    worst_and_mean,
)
from parhelion.panels.layout import SUBSTRINGS, PanelAt, cell_middles, substring_of_cells
from parhelion.sun.light import Sunned

Array = NDArray[np.float64]

STEP_DEG = 3.0  # of the sky table
COARSE_DEG = 5.0  # where one what-if is weighed against another
SUB_CELLS = 2  # along each side of a cell
KEPT_LOOKS, KEPT_STEPS = 9, 1200  # of a table: eight headings one by one and all at once, of days, not years


def towards(azimuth_deg: Array, elevation_deg: Array) -> Array:
    """Unit vectors towards bearings off the bow and heights, shape (d, 3)."""
    a, e = np.radians(azimuth_deg), np.radians(elevation_deg)
    return np.ascontiguousarray(np.stack([np.sin(a) * np.cos(e), np.cos(a) * np.cos(e), np.sin(e)], axis=-1))


@dataclass(frozen=True)
class _Shadow:
    """Shaded shares of a panel's cells by one body, in the directions where there are any."""

    where: NDArray[np.int64]  # of the directions, shape (k,)
    shares: NDArray[np.float32]  # of each cell, shape (k, cells)


def _shadow(panel: PanelAt, body: Body, directions: Array) -> _Shadow:
    u = np.array(panel.across) / panel.columns
    v = np.array(panel.along) / panel.rows
    steps = (np.arange(SUB_CELLS) + 0.5) / SUB_CELLS - 0.5
    offsets = (steps[:, None, None] * u + steps[None, :, None] * v).reshape(-1, 3)
    cells = np.ascontiguousarray(cell_middles(panel).reshape(-1, 1, 3) + offsets)
    halves = np.ascontiguousarray(np.stack([u, v])) / (2 * SUB_CELLS)
    half2 = float(np.sum(halves * halves))
    may = reached(cells, body.spars, body.faces, directions, half2) & (directions @ panel.normal > 0)
    where = np.flatnonzero(may)
    seen = np.ascontiguousarray(directions[where])
    clear = np.ones((len(where), len(cells)))
    if len(where) and len(body.spars):
        clear *= 1 - cell_shares(cells, body.spars, seen, halves)
    if len(where) and len(body.faces):
        clear *= 1 - face_shares(cells, body.faces, seen, halves)
    return _Shadow(where, (1 - clear).astype(np.float32))


def _clear(
    panel: PanelAt, shadows: list[_Shadow], directions: int
) -> tuple[NDArray[np.int64], NDArray[np.float32]]:
    """Where anything is shaded, and what several bodies leave clear there, which multiplies.

    Shapes (k,) and (k, cells).
    """
    touched = np.zeros(directions, dtype=bool)
    for shadow in shadows:
        touched[shadow.where] = True
    where = np.flatnonzero(touched)
    row_of = np.cumsum(touched) - 1
    clear = np.ones((len(where), panel.rows * panel.columns), dtype=np.float32)
    for shadow in shadows:
        clear[row_of[shadow.where]] *= 1 - shadow.shares
    return where, clear


def shares_towards(panel: PanelAt, bodies: tuple[Body, ...], directions: Array) -> Array:
    """Shaded share of each cell of a panel, shape (rows, columns, d)."""
    made = np.zeros((panel.rows * panel.columns, len(directions)))
    shadows = [_shadow(panel, body, directions) for body in bodies]
    where, clear = _clear(panel, shadows, len(directions))
    made[:, where] = 1 - clear.T
    return made.reshape(panel.rows, panel.columns, -1)


@dataclass(frozen=True)
class SkyTable:
    """Shade of one panel over the sky: bearing off the bow x height."""

    worst: Array  # of the worst cell of each half substring, shape (6, a, e)
    mean: Array  # over all cells, shape (a, e)
    sky_view: float  # share of the sky's diffuse light that is left

    def at(self, azimuth_deg: Array, elevation_deg: Array) -> Array:
        """Worst-cell shares towards the sun, bilinear, shape (6, n); bearings off the bow."""
        bearings = np.ascontiguousarray(azimuth_deg, dtype=float)
        return looked_up(self.worst, bearings, np.ascontiguousarray(elevation_deg, dtype=float))

    def through(self, day: Sunned, heading_deg: float) -> Array:
        """The same through a day on one heading, shape (6, s); once for all the skies of that day."""
        look = partial(self.at, (day.azimuth_deg - heading_deg) % 360.0, day.elevation_deg)
        if len(day.azimuth_deg) > KEPT_STEPS:
            return look()
        return self._days.get((day, heading_deg), look)

    @once
    def _days(self) -> Memo[Array]:
        return Memo(KEPT_LOOKS)


def sky_directions(step_deg: float = STEP_DEG) -> tuple[Array, Array]:
    """Bearings off the bow and heights of the table's entries, shapes (a,) and (e,) [deg].

    Heights stand closer near the horizon, where a shadow on a flat panel runs fastest.
    """
    low = np.arange(0, LOW_ROWS * LOW_FINER) * (step_deg / LOW_FINER)
    return np.arange(0, 360, step_deg), np.append(low, np.arange(LOW_ROWS * step_deg, 90.1, step_deg))


@kept_by_arguments(4)
def _directions(step_deg: float) -> tuple[Array, Array]:
    """Unit vectors towards the table's entries, shape (d, 3), and their heights, shape (d,) [deg]."""
    bearings, heights = sky_directions(step_deg)
    a, e = np.meshgrid(bearings, heights, indexing="ij")
    return towards(a.ravel(), e.ravel()), e.ravel()


@kept_by_arguments(600)  # some 100 kilobytes each
def _cast(panel: PanelAt, body: Body, step_deg: float) -> _Shadow:
    """The shadow of one body alone."""
    return _shadow(panel, body, _directions(step_deg)[0])


@kept_by_arguments(400)
def sky_table(panel: PanelAt, bodies: tuple[Body, ...], step_deg: float = STEP_DEG) -> SkyTable:
    """The sky table of a panel behind bodies, kept by what it is made of: a moved one is cast alone.

    Parameters
    ----------
    panel : PanelAt
    bodies : tuple of Body
    step_deg : float
        Between entries, a divisor of 90: 5 where speed counts, 3 by default, 2 for final figures [deg].
    """
    bearings, heights = sky_directions(step_deg)
    directions, height = _directions(step_deg)
    where, clear = _clear(panel, [_cast(panel, body, step_deg) for body in bodies], len(directions))
    parts = np.ascontiguousarray(substring_of_cells(panel).ravel(), dtype=np.int64)
    worst, mean = np.zeros((2 * SUBSTRINGS, len(directions))), np.zeros(len(directions))
    worst[:, where], (mean[where],) = worst_and_mean(clear, parts, 2 * SUBSTRINGS)
    if not panel.half_cut:
        worst[1::2] = worst[::2]
    apart = np.tile(np.gradient(heights), len(bearings))
    weight = np.maximum(directions @ panel.normal, 0) * np.cos(np.radians(height)) * apart
    view = 1 - float((mean * weight).sum() / weight.sum())
    shape = (len(bearings), len(heights))
    return SkyTable(worst.reshape(-1, *shape), mean.reshape(shape), view)
