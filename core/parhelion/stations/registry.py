"""The stations in the order of the work, and what is asked of all of them."""

from __future__ import annotations

from parhelion.balance.outlook import outlook_of
from parhelion.design import BoatDesign
from parhelion.stations.array.station import STATION as ARRAY
from parhelion.stations.bank.station import STATION as BANK
from parhelion.stations.day.station import STATION as DAY
from parhelion.stations.fitout.station import STATION as FITOUT
from parhelion.stations.hull.station import STATION as HULL
from parhelion.stations.log.station import STATION as LOG
from parhelion.stations.passage.station import STATION as PASSAGE
from parhelion.stations.station import ALONE, Beside, Station, Work
from parhelion.stations.strings.station import STATION as STRINGS
from parhelion.stations.usual import UsualOf
from parhelion.stations.wish.station import STATION as WISH
from parhelion.stations.year.station import STATION as YEAR

STATIONS: tuple[Station, ...] = (WISH, HULL, BANK, ARRAY, STRINGS, DAY, YEAR, PASSAGE, FITOUT, LOG)
BY_NAME: dict[str, Station] = {station.name: station for station in STATIONS}
WORKS: dict[str, Work] = {work.name: work for station in STATIONS for work in station.works}


def warning_counts(design: BoatDesign, beside: Beside = ALONE) -> dict[str, int]:
    """Open warnings of a design and of what was noted of the boat, by the station's name."""
    return {station.name: len(station.warned(design, beside)) for station in STATIONS}


def usual(design: BoatDesign) -> UsualOf:
    """What the empty entries of a design mean, by their pointers."""
    outlook = outlook_of(design)
    return {pointer: value for station in STATIONS for pointer, value in station.usual(outlook).items()}
