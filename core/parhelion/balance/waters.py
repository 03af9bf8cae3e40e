"""The tide of a passage: its high waters, and each leg's stream in numbers."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from datetime import time as Time

from parhelion.design.passage import Leg, Passage, Stream, StreamKind, Tide
from parhelion.route import stream as streams
from parhelion.tide.stations import TideStation, high_waters, station_of


def hours_between(start: datetime, moment: datetime) -> float:
    """Hours from one moment to another, whatever the clock did between."""
    return (moment.astimezone(UTC) - start.astimezone(UTC)).total_seconds() / 3600


@dataclass(frozen=True)
class Waters:
    """High waters [h after the first midnight] and their ranges [m], of a station or by the one given."""

    hours: list[float]
    ranges_m: list[float]
    station: TideStation | None = None

    def nearest_h(self, hours: float) -> float:
        """The high water nearest to an hour."""
        return min(self.hours, key=lambda one: abs(one - hours), default=hours)


def clock_h(midnight: datetime, clock: Time, day: int = 1) -> float:
    """Hours after the first midnight of a clock time of a day, 1 the first, by the zone's own offsets."""
    date = midnight.date() + timedelta(days=day - 1)
    return hours_between(midnight, datetime.combine(date, clock, midnight.tzinfo))


def passable_h(leg: Leg, waters: Waters, midnight: datetime, days: int) -> list[tuple[float, float]] | None:
    """When the mark at a leg's end may be passed, by the water and by the clock; None at all hours."""
    found: list[list[tuple[float, float]]] = []
    if leg.open_h is not None:
        found.append([(h - leg.open_h, h + leg.open_h) for h in waters.hours])
    if leg.hours is not None:
        opens, shuts = leg.hours.opens_at, leg.hours.shuts_at
        found.append(
            [
                (clock_h(midnight, opens, day), clock_h(midnight, shuts, day + (shuts < opens)))
                for day in range(0, days + 2)
            ]
        )
    if not found:
        return None
    first, second = found[0], found[-1]
    both = [(max(a, c), min(b, d)) for a, b in first for c, d in second]
    return sorted({(a, b) for a, b in both if a < b})


def waters_of(tide: Tide, midnight: datetime, days: int) -> Waters:
    """The high waters of all days: predicted for a station, else half a lunar day apart."""
    station = None if tide.station_id is None else station_of(tide.station_id)
    if station is not None:
        end = (midnight.astimezone(UTC) + timedelta(days=days + 1)).astimezone(midnight.tzinfo)
        found = high_waters(station, midnight - timedelta(days=1), end)
        if found:
            hours = [hours_between(midnight, one.at) for one in found]
            return Waters(hours, [one.range_m for one in found], station)
    clock = tide.high_water or Time(12)
    first = hours_between(midnight, datetime.combine(midnight.date(), clock, midnight.tzinfo))
    hours = [first + k * streams.SEMIDIURNAL_H for k in range(-3, 2 * days + 3)]
    return Waters(hours, [tide.range_there_m] * len(hours))


def stream_of(stream: Stream, passage: Passage, waters: Waters, about_h: float) -> streams.Stream:
    """A leg's stream in numbers; one that turns goes by the high water nearest to an hour."""
    if stream.kind is StreamKind.STEADY:
        return streams.Steady(stream.set_deg, stream.rate_mps)
    if stream.kind is StreamKind.TURNING:
        strongest = waters.nearest_h(about_h) + stream.strongest_h
        return streams.Sine(stream.set_deg, stream.rate_mps, strongest, mean_mps=stream.mean_mps)
    tide = passage.tide
    assert tide is not None
    rows = [(x.after_high_water_h, x.set_deg, x.springs_mps, x.neaps_mps) for x in stream.hours]
    return streams.TidalTable(rows, waters.hours, waters.ranges_m, tide.springs_m, tide.neaps_m)
