"""What a person brings to the Log: a reading in words, a file of readings by days."""

from __future__ import annotations

from datetime import date as Date
from datetime import datetime
from typing import Annotated

from pydantic import Field

from parhelion.design import BoatDesign
from parhelion.design.logbook import Outing, Reading
from parhelion.formats.nmea_log import read_nmea
from parhelion.formats.readings_table import Column, LineTold, ReadReadings, read_table
from parhelion.formats.said_reading import SaidReading, said_reading
from parhelion.formats.track_file import read_track
from parhelion.quantities import Frozen
from parhelion.sun.zone import zone_at

LONGEST_TEXT = 8_000_000


class BroughtReadings(Frozen):
    """The readings of a file, dealt to outings by local days: `outings` are those that are new."""

    columns: list[Column]
    outings: list[Outing]
    readings: list[Reading]
    problems: list[LineTold]
    left: int
    lacks: str  # what the columns still want before anything is read
    from_at: datetime | None
    to_at: datetime | None


def _kind(text: str) -> str:
    head = text.lstrip("\ufeff \r\n\t")[:2000]
    if head.startswith("<"):
        return "track"
    lines = [line for line in head.splitlines() if line.strip()]
    sentences = sum("$" in line and "," in line and "*" in line for line in lines)
    return "nmea" if lines and sentences > len(lines) / 2 else "table"


def said(design: BoatDesign, text: Annotated[str, Field(max_length=400)]) -> SaidReading:
    """A reading in any form: "13.2 V 8 A", "270 w", "55 % hazy"."""
    return said_reading(text, None if design.bank is None else design.bank.nominal_v)


def brought_readings(
    design: BoatDesign,
    text: Annotated[str, Field(max_length=LONGEST_TEXT)],
    name: Annotated[str, Field(max_length=80)] = "a file",
    on: Date | None = None,
    outing: Annotated[str, Field(max_length=40)] = "",
    of: Annotated[str | None, Field(max_length=160)] = None,
    recipe: list[Column] | None = None,
) -> BroughtReadings:
    """The readings of a table, a GPX track or an NMEA log; `outing` takes those of the day `on`."""
    zone = zone_at(design.site.latitude_deg, design.site.longitude_deg)
    day, source = on or design.plan.date, name.rsplit(".", 1)[0][:40] or "a file"
    kind = _kind(text)
    found: ReadReadings
    if kind == "track":
        found = read_track(text, source)
    elif kind == "nmea":
        found = read_nmea(text, day, source)
    else:
        found = read_table(text, zone, day, source, of, recipe)
    days: dict[Date, list[Reading]] = {}
    for reading in found.readings:
        days.setdefault(reading.at.astimezone(zone).date(), []).append(reading)
    outings, readings = [], []
    for date, told in days.items():
        mine = outing if outing and date == day else f"day-{date.isoformat()}"
        if mine != outing:
            outings.append(Outing(id=mine, name=source, began_at=told[0].at, ended_at=told[-1].at))
        readings += [reading.model_copy(update={"outing_id": mine}) for reading in told]
    return BroughtReadings(
        columns=found.columns, outings=outings, readings=readings, problems=found.problems, left=found.left,
        lacks=found.lacks,
        from_at=found.readings[0].at if found.readings else None,
        to_at=found.readings[-1].at if found.readings else None,
    )  # fmt: skip
