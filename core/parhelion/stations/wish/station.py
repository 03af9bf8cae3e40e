"""What the Wish registers."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from parhelion.design.wish import MOST_OWN_PANELS, MOST_OWN_UNITS
from parhelion.formats.parts_list import ReadPartList, read_part_list
from parhelion.stations.station import Reader, Station, Study, Verb, Work, always
from parhelion.stations.wish.between import between
from parhelion.stations.wish.findings import wish_findings, wish_warnings
from parhelion.stations.wish.front import first_front, wish_front
from parhelion.stations.wish.held import WISH_READS
from parhelion.stations.wish.picture import wish_picture
from parhelion.stations.wish.terminal import wish, wish_arguments


def own_parts(text: Annotated[str, Field(max_length=8_000_000)]) -> ReadPartList:
    """A person's own list of panels, batteries or motors to choose from, out of a table."""
    return read_part_list(text, MOST_OWN_PANELS, MOST_OWN_UNITS)


STATION = Station(
    name="wish",
    title="Wish",
    findings=wish_findings,
    warnings=wish_warnings,
    studies=(
        Study("picture", wish_picture, at_rest=True),
        Study("between", between, at_rest=True),
    ),
    readers=(Reader("parts/read", own_parts),),
    works=(Work("firstwish", first_front, WISH_READS), Work("wish", wish_front, WISH_READS)),
    verbs=(Verb("wish", wish, wish_arguments),),
    told_at_rest=always,
)
