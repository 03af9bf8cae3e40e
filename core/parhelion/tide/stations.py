"""Tide stations by their place, and the high waters of one; from open constants exported at set-up.

A secondary station has no constants of its own: its high waters are those of another, so many minutes later
and by so much higher. Not for navigation.

References
----------
[1] `data.tide_stations`: constants of national services, each with its source and licence.
[2] Ranges in the mean: springs 2 (M2 + S2), neaps 2 (M2 - S2).
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import datetime, timedelta
from functools import cache

import numpy as np
from numpy.typing import NDArray

from parhelion.data import tide_stations
from parhelion.tide.harmonic import Constituent, Turning, turnings

EARTH_M = 6_371_000.0
MOST_DISTANT_HALF_DAY = timedelta(hours=26)  # either side, so that the first and last range are whole
LEAST_NEAPS_SHARE = 0.05  # of springs: where S2 is nearly M2, or the tide is diurnal


@dataclass(frozen=True)
class TideStation:
    """A station; `reference_id` and what follows it are of a secondary one."""

    id: str
    name: str
    region: str
    latitude_deg: float
    longitude_deg: float
    source: str
    datum: str
    z0_m: float
    constants: str
    reference_id: str | None = None
    later_min: tuple[float, float] = (0.0, 0.0)  # high, low
    higher: tuple[float, float] = (1.0, 1.0)
    by_ratio: bool = True


@dataclass(frozen=True)
class HighWater:
    """A high water and the range about it [m]."""

    at: datetime
    height_m: float
    range_m: float


def _source(words: list[str]) -> str:
    name, licence, url, said = words
    return f"{name}, {licence}, {url}" + (f". {said}" if "©" in said else "")


@cache
def _stations() -> dict[str, TideStation]:
    held = tide_stations()
    sources = [_source(words) for words in held["sources"]]
    found = {}
    for row in held["stations"]:
        station = TideStation(
            row[0], row[1], row[2], row[3], row[4], sources[row[5]], row[6], row[7] or 0.0, row[8] or "",
        )  # fmt: skip
        if len(row) > 9:
            reference, high, low, higher, lower, kind = row[9:15]
            station = replace(
                station, reference_id=reference, later_min=(high, low), higher=(higher, lower),
                by_ratio=kind == "ratio",
            )  # fmt: skip
        found[station.id] = station
    return found


@cache
def _places() -> tuple[NDArray[np.float64], tuple[str, ...]]:
    stations = _stations()
    places = np.radians(
        [[one.latitude_deg, one.longitude_deg] for one in stations.values()] or np.zeros((0, 2))
    )
    return places.reshape(-1, 2), tuple(stations)


def station_of(station_id: str) -> TideStation | None:
    """A station by its id."""
    return _stations().get(station_id)


def nearest(latitude_deg: float, longitude_deg: float, most: int = 6) -> list[tuple[float, TideStation]]:
    """Stations about a place, the nearest first, each with its distance [m]."""
    places, ids = _places()
    if not ids:
        return []
    lat, lon = np.radians([latitude_deg, longitude_deg])
    half = np.sin((places[:, 0] - lat) / 2) ** 2
    half = half + np.cos(lat) * np.cos(places[:, 0]) * np.sin((places[:, 1] - lon) / 2) ** 2
    away = 2 * EARTH_M * np.arcsin(np.sqrt(np.minimum(half, 1.0)))
    order = np.argsort(away, kind="stable")[:most]
    return [(float(away[k]), _stations()[ids[k]]) for k in order]


@cache
def constants_of(station: TideStation) -> tuple[Constituent, ...]:
    """Its constituents; those of its reference for a secondary one."""
    if station.reference_id is not None:
        other = _stations().get(station.reference_id)
        return () if other is None else constants_of(other)
    rows = (one.rsplit(" ", 2) for one in station.constants.split(";"))
    return tuple(Constituent(name, float(amplitude), float(phase)) for name, amplitude, phase in rows)


def ranges_m(station: TideStation) -> tuple[float, float]:
    """Range at mean springs and at mean neaps [2] [m]."""
    size = {one.name.upper(): one.amplitude_m for one in constants_of(station)}
    m2, s2 = size.get("M2", 0.0), size.get("S2", 0.0)
    by = sum(station.higher) / 2 if station.reference_id is not None and station.by_ratio else 1.0
    springs = max(2 * (m2 + s2) * by, 0.01)
    return springs, max(2 * (m2 - s2) * by, LEAST_NEAPS_SHARE * springs)


def _turnings(station: TideStation, start: datetime, end: datetime) -> list[Turning]:
    if station.reference_id is None:
        return turnings(constants_of(station), station.z0_m, start, end)
    other = _stations()[station.reference_id]
    found = []
    for one in turnings(constants_of(station), other.z0_m, start, end):
        k = 0 if one.kind == "high" else 1
        height = one.height_m * station.higher[k] if station.by_ratio else one.height_m + station.higher[k]
        found.append(Turning(one.at + timedelta(minutes=station.later_min[k]), height, one.kind))
    return found


def high_waters(station: TideStation, start: datetime, end: datetime) -> list[HighWater]:
    """Every high water between two moments, with the mean of the falls before and after it as its range.

    Parameters
    ----------
    station : TideStation
    start, end : datetime
        With their time zones.
    """
    if not constants_of(station):
        return []
    found = _turnings(station, start - MOST_DISTANT_HALF_DAY, end + MOST_DISTANT_HALF_DAY)
    made = []
    for k, one in enumerate(found):
        if one.kind != "high" or not start <= one.at < end:
            continue
        beside = [abs(one.height_m - found[n].height_m) for n in (k - 1, k + 1) if 0 <= n < len(found)]
        made.append(HighWater(one.at, one.height_m, float(np.mean(beside)) if beside else 0.0))
    return made
