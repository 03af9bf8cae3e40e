"""Where every panel and cell of a group lies in the boat frame.

Boat frame: x to starboard, y forward, z up from the waterline amidships [m].
"""

from __future__ import annotations

from dataclasses import dataclass
from math import ceil, sqrt

import numpy as np
from numpy.typing import NDArray

from parhelion.computing.kept import once
from parhelion.design import PanelGroup, Place, Side

Array = NDArray[np.float64]

GAP_M = 0.02  # between panels
FACING = {Side.BOW: (0.0, 1.0), Side.STARBOARD: (1.0, 0.0), Side.STERN: (0.0, -1.0), Side.PORT: (-1.0, 0.0)}


@dataclass(frozen=True)
class PanelAt:
    """One panel: its middle, its sides as vectors, and its cells in rows and columns."""

    middle: tuple[float, float, float]
    across: tuple[float, float, float]  # along the athwart side, as long as it
    along: tuple[float, float, float]  # along the fore-and-aft side
    columns: int  # of cells along `across`
    rows: int
    half_cut: bool
    strings_across: bool  # bypass substrings lie side by side along `across`

    @once
    def normal(self) -> Array:
        """Unit vector out of the front."""
        made = np.cross(self.across, self.along)
        return made / np.linalg.norm(made)

    @once
    def corners(self) -> list[tuple[float, float, float]]:
        """Four corners, anticlockwise from aft port as seen from above."""
        middle, u, v = (np.array(a) for a in (self.middle, self.across, self.along))
        made = [middle + a * u / 2 + b * v / 2 for a, b in ((-1, -1), (1, -1), (1, 1), (-1, 1))]
        return [(float(c[0]), float(c[1]), float(c[2])) for c in made]


def axes(place: Place) -> tuple[Array, Array]:
    """Unit vectors of a place: athwart and fore-and-aft, tilted the way it faces."""
    across, along = np.array([1.0, 0.0, 0.0]), np.array([0.0, 1.0, 0.0])
    tilt = np.radians(place.tilt_deg)
    if tilt == 0:
        return across, along
    east, north = FACING[place.faces]
    across = np.array([np.cos(tilt), 0.0, -east * np.sin(tilt)]) if east else across
    along = np.array([0.0, np.cos(tilt), -north * np.sin(tilt)]) if north else along
    return across, along


def columns_of(place: Place, group: PanelGroup) -> int:
    """How many panels lie side by side athwart: given, as many as the place takes, or about a square."""
    if group.columns is not None:
        return min(group.columns, group.count)
    side = group.length if group.turned else group.width
    if place.width_m is not None:
        return max(min(int((place.width_m - place.clear_m + GAP_M) / (side + GAP_M) + 1e-9), group.count), 1)
    return ceil(sqrt(group.count))


def most_that_fit(place: Place, group: PanelGroup, turned: bool) -> int:
    """The most panels a place takes in rows and columns, long side athwart or not; 0 without sizes."""
    if place.width_m is None or place.length_m is None:
        return 0
    wide, long = (group.length, group.width) if turned else (group.width, group.length)
    columns = int((place.width_m - place.clear_m + GAP_M) / (wide + GAP_M) + 1e-9)
    return max(columns, 0) * int((place.length_m + GAP_M) / (long + GAP_M) + 1e-9)


def sheet_of(place: Place, group: PanelGroup) -> tuple[float, float]:
    """Breadth and length of all panels of a group together, laid out on their place [m]."""
    columns = columns_of(place, group)
    rows = ceil(group.count / columns)
    wide, long = (group.length, group.width) if group.turned else (group.width, group.length)
    return columns * (wide + GAP_M) - GAP_M, rows * (long + GAP_M) - GAP_M


def panels_of(place: Place, group: PanelGroup) -> list[PanelAt]:
    """Every panel of a group on its place, row by row from aft port; none where the place has no position."""
    if place.at is None:
        return []
    across, along = axes(place)
    wide, long = (group.length, group.width) if group.turned else (group.width, group.length)
    columns = columns_of(place, group)
    rows = ceil(group.count / columns)
    middle = np.array([place.at.x_m, place.at.y_m, place.at.z_m])
    short, far, halved = group.grid
    cells_wide, cells_long = (far, short) if group.turned else (short, far)
    found = []
    for number in range(group.count):
        row, column = divmod(number, columns)
        offset = across * (column - (columns - 1) / 2) * (wide + GAP_M)
        offset = offset + along * (row - (rows - 1) / 2) * (long + GAP_M)
        sides = (_triple(middle + offset), _triple(across * wide), _triple(along * long))
        found.append(PanelAt(*sides, cells_wide, cells_long, halved, not group.turned))
    return found


def leaves_of(place: Place, group: PanelGroup) -> list[PanelAt]:
    """The leaves of every panel of a folding group, end to end along its long side, each at its own tilt.

    A leaf at a positive tilt faces the bow, or starboard where the long side lies athwart; the lowest edge
    lies at the place's height. None where the place has no position.
    """
    if place.at is None:
        return []
    tilts = np.radians(group.leaf_tilts_deg)
    level = place.model_copy(update={"tilt_deg": 0.0})
    leaf_m = group.length / len(tilts)
    ends = np.concatenate([[0.0], np.cumsum(np.cos(tilts))]) * leaf_m
    heights = np.concatenate([[0.0], np.cumsum(-np.sin(tilts))]) * leaf_m
    ends, heights = ends - ends[-1] / 2, heights - heights.min()
    rows_of = _shares_of(group.grid.along, len(tilts))
    found = []
    for panel in panels_of(level, group):
        sideways = np.array(panel.along if not group.turned else panel.across)
        sideways = sideways / np.linalg.norm(sideways)
        for k, tilt in enumerate(tilts):
            middle = np.array(panel.middle) + sideways * (ends[k] + ends[k + 1]) / 2
            middle[2] += (heights[k] + heights[k + 1]) / 2
            side = leaf_m * (sideways * np.cos(tilt) - np.array([0, 0, np.sin(tilt)]))
            across, along = (_triple(side), panel.along) if group.turned else (panel.across, _triple(side))
            cells = (rows_of[k], panel.rows) if group.turned else (panel.columns, rows_of[k])
            found.append(PanelAt(_triple(middle), across, along, *cells, False, not group.turned))
    return found


def _shares_of(whole: int, parts: int) -> list[int]:
    """A number of cells dealt out over parts as evenly as it goes."""
    return [whole * (k + 1) // parts - whole * k // parts for k in range(parts)]


def _triple(vector: Array) -> tuple[float, float, float]:
    return float(vector[0]), float(vector[1]), float(vector[2])


def cell_middles(panel: PanelAt) -> Array:
    """Middles of the cells, shape (rows, columns, 3) [m]; row 0 is aft, column 0 to port."""
    u = (np.arange(panel.columns) + 0.5) / panel.columns - 0.5
    v = (np.arange(panel.rows) + 0.5) / panel.rows - 0.5
    grid = np.array(panel.middle) + v[:, None, None] * np.array(panel.along)
    return grid + u[None, :, None] * np.array(panel.across)


def substring_of_cells(panel: PanelAt) -> NDArray[np.int64]:
    """Which half of which bypass substring each cell is in, 2 x substring + half, shape (rows, columns).

    Three substrings of columns along the panel's short side; a half-cut panel is halved across its length.
    Panels that are not half-cut have both halves in one.
    """
    columns, rows = np.meshgrid(np.arange(panel.columns), np.arange(panel.rows))
    short, long = (columns, rows) if panel.strings_across else (rows, columns)
    n_short, n_long = (panel.columns, panel.rows) if panel.strings_across else (panel.rows, panel.columns)
    substring = np.minimum(short * SUBSTRINGS // n_short, SUBSTRINGS - 1)
    half = (long >= n_long / 2).astype(int) if panel.half_cut else np.zeros_like(long)
    return 2 * substring + half


SUBSTRINGS = 3
