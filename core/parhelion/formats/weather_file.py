"""A year of weather from a file in an open format: EPW, TMY3, PVGIS CSV or JSON, read with pvlib.

Only the light on the level is taken, as full-sun hours a day by month; stamps, zones and units are those of
the format.
"""

from __future__ import annotations

import io
import warnings
from typing import Any, Literal

import numpy as np

from parhelion.formats.runs_table import LineProblem
from parhelion.quantities import Frozen

Kind = Literal["EPW", "TMY3", "PVGIS CSV", "PVGIS JSON"]
ACCEPTED = "EPW, TMY3, or a typical year of PVGIS as CSV or JSON"
HEADER_LINES: dict[Kind, int] = {"EPW": 8, "TMY3": 2, "PVGIS CSV": 17, "PVGIS JSON": 0}
HOURS = (8760, 8784)
BRIGHTEST_W_PER_M2 = 1500.0
MOST_MISSING = 0.1  # of a month's hours
NEAR_DEG = 2.0
NIGHT_DEG, MOST_AT_NIGHT = -6.0, 0.05  # the sun below it, and the share of the light that may fall then
CLEAREST, DULLEST = 0.85, 0.08  # a month's light over what reaches the air: no place has more, or less
DARK_W_PER_M2 = 20.0  # mean outside the air, below which a month says nothing
MONTHS = ("January", "February", "March", "April", "May", "June", "July", "August", "September", "October",
          "November", "December")  # fmt: skip


class ReadWeather(Frozen):
    """What a weather file says; no hours by month where it cannot be used."""

    kind: str
    latitude_deg: float | None
    longitude_deg: float | None
    hours: int
    missing: int
    sun_hours: list[float]
    problems: list[LineProblem]


def _kind(text: str) -> Kind | None:
    start = text.lstrip("\ufeff \r\n")[:400]
    if start.startswith("LOCATION,"):
        return "EPW"
    if start.startswith("{"):
        return "PVGIS JSON"
    if start.lower().startswith("latitude (decimal degrees)"):
        return "PVGIS CSV"
    first = start.partition("\n")[0].split(",")
    return "TMY3" if len(first) == 7 and first[0].strip().isdigit() else None


def _read(kind: Kind, text: str) -> tuple[Any, float, float]:
    """A table with `ghi` by hour, and where it is from."""
    from pvlib import iotools

    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        if kind == "EPW":
            table, meta = iotools.read_epw(io.StringIO(text), coerce_year=2001)
        elif kind == "TMY3":
            table, meta = iotools.read_tmy3(io.StringIO(text), coerce_year=2001)
        else:
            source: Any = io.StringIO(text) if kind == "PVGIS JSON" else io.BytesIO(text.encode())
            table, meta = iotools.read_pvgis_tmy(source, pvgis_format=kind[6:].lower())
            meta = meta["inputs"]
            meta = meta.get("location", meta)
    return table, float(meta["latitude"]), float(meta["longitude"])


def _problem(line: int, message: str, accepted: str) -> LineProblem:
    return LineProblem(line=line, text="", message=message, accepted=accepted)


def _where(latitude_deg: float, site_latitude_deg: float) -> LineProblem | None:
    """Whether the file is from somewhere else than the boat."""
    said = f"The file is from {abs(latitude_deg):.1f}° {'N' if latitude_deg >= 0 else 'S'}"
    if latitude_deg * site_latitude_deg < 0:
        return _problem(
            1, f"{said}, the other half of the world from your place.", "a file from near the place"
        )
    if abs(latitude_deg - site_latitude_deg) > NEAR_DEG:
        away = abs(latitude_deg - site_latitude_deg)
        return _problem(1, f"{said}, {away:.0f}° from your place.", f"a file from within {NEAR_DEG:.0f}°")
    return None


def _sun(index: Any, latitude_deg: float, longitude_deg: float) -> tuple[Any, Any]:
    """The sun's height in each hour of a file [deg], and what reaches the top of the air on the level "
    "[W/m2]."""
    from pvlib import irradiance, solarposition

    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        where = solarposition.get_solarposition(index, latitude_deg, longitude_deg, method="ephemeris")
        extra = np.asarray(irradiance.get_extra_radiation(index))
    height = where["elevation"].to_numpy()
    return height, extra * np.maximum(np.sin(np.radians(height)), 0.0)


def _unlikely(ghi: Any, months: Any, height: Any, outside: Any, first: int) -> list[LineProblem]:
    """What is well formed and cannot be: light from no sun, more than reaches the air, next to none."""
    found = []
    whole = float(np.nansum(ghi))
    night = float(np.nansum(ghi[height < NIGHT_DEG]))
    if whole > 0 and night > MOST_AT_NIGHT * whole:
        message = (
            f"{100 * night / whole:.0f} % of its light falls at night: its clock, or its place, is another."
        )
        found.append(_problem(first, message, "hours stamped as the format has them"))
    for month in range(1, 13):
        mine = months == month
        above = float(outside[mine].mean()) if mine.any() else 0.0
        if above < DARK_W_PER_M2:
            continue  # a polar night says nothing
        light = ghi[mine][np.isfinite(ghi[mine])]
        if len(light) == 0:
            continue
        share = float(light.mean()) / above
        if share > CLEAREST:
            message = (
                f"{MONTHS[month - 1]} has {100 * share:.0f} % of what reaches the air: none is that clear."
            )
            found.append(_problem(first, message, "light on the level, in W/m2 or Wh/m2 by the hour"))
        elif share < DULLEST:
            message = (
                f"{MONTHS[month - 1]} has {100 * share:.1f} % of what reaches the air: none is that dark."
            )
            found.append(
                _problem(first, message, "watts, not kilowatts, and the column of light on the level")
            )
        if found and found[-1].message.startswith(MONTHS[month - 1]):
            break  # one month says it
    return found


def read_weather(text: str, site_latitude_deg: float) -> ReadWeather:
    """The full-sun hours of a weather file's months.

    Parameters
    ----------
    text : str
        Of the whole file.
    site_latitude_deg : float
        Of the boat's place, to tell a file from elsewhere.

    Returns
    -------
    ReadWeather
        Problems name the line of the file. A file from elsewhere, or with few hours missing, is told and
        used; one that is cut off is not.
    """
    kind = _kind(text)
    if kind is None:
        told = _problem(1, "This is no weather file that can be read here.", ACCEPTED)
        return ReadWeather(kind="", latitude_deg=None, longitude_deg=None, hours=0, missing=0, sun_hours=[],
                           problems=[told])  # fmt: skip
    try:
        table, latitude, longitude = _read(kind, text)
        ghi = np.asarray(table["ghi"], dtype=float)
        months = np.asarray(table.index.month)
    except Exception as error:  # whatever the reader of that format trips over
        lines = text.count("\n") + 1
        message = f"Read as {kind}, it breaks off or is malformed: {type(error).__name__}."
        return ReadWeather(kind=kind, latitude_deg=None, longitude_deg=None, hours=0, missing=0, sun_hours=[],
                           problems=[_problem(lines, message, ACCEPTED)])  # fmt: skip
    problems = [problem] if (problem := _where(latitude, site_latitude_deg)) else []
    bad = ~np.isfinite(ghi) | (ghi < 0) | (ghi > BRIGHTEST_W_PER_M2)
    first = HEADER_LINES[kind] + 1
    usable = True
    if len(ghi) not in HOURS:
        usable = False
        problems.append(
            _problem(first + len(ghi), f"It has {len(ghi):,} hours.", "a whole year of 8,760 hours")
        )
    if bad.any():
        line = first + int(np.flatnonzero(bad)[0])
        value = ghi[bad][0]
        problems.append(
            _problem(line, f"{int(bad.sum())} hours are missing, the first as {value:g}.", "0 to 1,500 W/m2")
        )
    if len(ghi) in HOURS:
        height, outside = _sun(table.index, latitude, longitude)
        unlikely = _unlikely(np.where(bad, np.nan, ghi), months, height, outside, first)
        usable = usable and not unlikely
        problems += unlikely
    sun_hours = []
    for month in range(1, 13):
        mine = months == month
        share = bad[mine].mean() if mine.any() else 1.0
        if share > MOST_MISSING:
            usable = False
            problems.append(
                _problem(first, f"{MONTHS[month - 1]} lacks {100 * share:.0f} % of its hours.", "nine in ten")
            )
            continue
        sun_hours.append(round(float(ghi[mine & ~bad].mean() * 24 / 1000), 3))
    return ReadWeather(
        kind=kind, latitude_deg=latitude, longitude_deg=longitude, hours=len(ghi), missing=int(bad.sum()),
        sun_hours=sun_hours if usable else [], problems=problems,
    )  # fmt: skip
