"""Tide stations about the boat's waters, to go by: where, whose, and the high waters of the day."""

from __future__ import annotations

from datetime import datetime, timedelta
from datetime import time as Time

from parhelion.design import BoatDesign
from parhelion.quantities import Frozen
from parhelion.stations.passage.words import start_of
from parhelion.sun.zone import zone_at
from parhelion.tide.stations import TideStation, high_waters, nearest, ranges_m, station_of

NEARBY = 6


class WaterShown(Frozen):
    """A high water of the day."""

    clock_min: float
    height_m: float
    range_m: float


class StationShown(Frozen):
    """A tide station; heights are over its datum."""

    id: str
    name: str
    region: str
    distance_m: float
    datum: str
    source: str
    springs_m: float
    neaps_m: float
    waters: list[WaterShown]


class TidesNearby(Frozen):
    """The nearest stations, and the one in use."""

    stations: list[StationShown]
    exported: bool  # whether set-up has exported any
    used: StationShown | None


def _shown(design: BoatDesign, away_m: float, station: TideStation) -> StationShown:
    site = design.site
    zone = zone_at(site.latitude_deg, site.longitude_deg)
    start = datetime.combine(design.plan.date, Time(), zone)
    springs, neaps = ranges_m(station)
    waters = []
    for one in high_waters(station, start, start + timedelta(days=1)):
        local = one.at.astimezone(zone)
        waters.append(
            WaterShown(clock_min=local.hour * 60 + local.minute, height_m=one.height_m, range_m=one.range_m)
        )
    return StationShown(
        id=station.id, name=station.name, region=station.region, distance_m=away_m, datum=station.datum,
        source=station.source, springs_m=round(springs, 2), neaps_m=round(neaps, 2), waters=waters,
    )  # fmt: skip


def away_m(design: BoatDesign, station: TideStation) -> float:
    """How far a station is from where the passage begins [m]."""
    from parhelion.formats.route_file import between

    assert design.passage is not None
    return between(start_of(design.site, design.passage), (station.latitude_deg, station.longitude_deg))[0]


def tides_nearby(design: BoatDesign) -> TidesNearby | None:
    """The nearest tide stations with the high waters of the day; None without a passage."""
    passage = design.passage
    if passage is None:
        return None
    found = nearest(*start_of(design.site, passage), NEARBY)
    chosen = passage.tide.station_id if passage.tide else None
    station = station_of(chosen) if chosen else None
    return TidesNearby(
        stations=[_shown(design, away, one) for away, one in found],
        exported=bool(found),
        used=None if station is None else _shown(design, away_m(design, station), station),
    )
