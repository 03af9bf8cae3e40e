"""The time zone of a place, found from its coordinates."""

from __future__ import annotations

from functools import cache
from typing import Any
from zoneinfo import ZoneInfo


@cache
def _finder() -> Any:
    from timezonefinder import TimezoneFinder

    return TimezoneFinder(in_memory=True)


@cache
def _zone_name(latitude_deg: float, longitude_deg: float) -> str:
    return _finder().timezone_at(lat=latitude_deg, lng=longitude_deg) or "UTC"


def zone_at(latitude_deg: float, longitude_deg: float) -> ZoneInfo:
    """The time zone people keep at a place; nautical zones at sea.

    Parameters
    ----------
    latitude_deg, longitude_deg : float
        North and east positive [deg].
    """
    return ZoneInfo(_zone_name(round(latitude_deg, 3), round(longitude_deg, 3)))
