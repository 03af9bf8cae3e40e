"""What the Wish registers."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from parhelion.design.wish import MOST_OWN_PANELS
from parhelion.formats.module_table import ReadPanelList, read_panel_list
from parhelion.stations.station import Reader, Station, Study, Verb, Work
from parhelion.stations.wish.between import between
from parhelion.stations.wish.findings import wish_findings
from parhelion.stations.wish.front import WISH_READS, first_front, wish_front
from parhelion.stations.wish.picture import wish_picture
from parhelion.stations.wish.terminal import wish, wish_arguments


def own_panels(text: Annotated[str, Field(max_length=8_000_000)]) -> ReadPanelList:
    """A person's own list of panels to choose from, out of a table."""
    return read_panel_list(text, MOST_OWN_PANELS)


STATION = Station(
    name="wish",
    title="Wish",
    findings=wish_findings,
    studies=(
        Study("picture", wish_picture, at_rest=True),
        Study("between", between, at_rest=True),
    ),
    readers=(Reader("panels/read", own_panels),),
    works=(Work("firstwish", first_front, WISH_READS), Work("wish", wish_front, WISH_READS)),
    verbs=(Verb("wish", wish, wish_arguments),),
    told_at_rest=True,
)
