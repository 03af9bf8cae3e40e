"""What the Passage registers."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from parhelion.design import BoatDesign
from parhelion.formats.route_file import RouteRead, read_route, written_route
from parhelion.stations.passage.card_pdf import passage_card
from parhelion.stations.passage.findings import passage_findings, passage_warnings
from parhelion.stations.passage.forecast import by_forecast
from parhelion.stations.passage.marked import aimed, turned
from parhelion.stations.passage.picture import passage_picture, ways_shown
from parhelion.stations.passage.terminal import passage
from parhelion.stations.passage.tides import tides_nearby
from parhelion.stations.passage.usual import passage_usual
from parhelion.stations.passage.voyage import sure
from parhelion.stations.passage.words import no_passage, start_of
from parhelion.stations.station import Paper, Reader, Station, Study, Verb, always


def route_text(text: Annotated[str, Field(max_length=8_000_000)]) -> RouteRead:
    """The legs of a GPX file."""
    return read_route(text)


def route_gpx(design: BoatDesign) -> str:
    """The passage's marks as a GPX route."""
    passage = design.passage
    if passage is None:
        raise no_passage()
    start = start_of(design.site, passage)
    return written_route(design.name, start, passage.begins_at, passage.legs)


STATION = Station(
    name="passage",
    title="Passage",
    findings=passage_findings,
    warnings=passage_warnings,
    told_at_rest=always,
    usual=passage_usual,
    studies=(
        Study("picture", passage_picture),
        Study("ways", ways_shown, at_rest=True),
        Study("sure", sure, at_rest=True),
        Study("tides", tides_nearby, at_rest=True),
        Study("forecast", by_forecast, at_rest=True),
        Study("aimed", aimed, at_rest=True),
        Study("turned", turned, at_rest=True),
    ),
    papers=(
        Paper("route.gpx", route_gpx, "application/gpx+xml"),
        Paper("card.pdf", passage_card, "application/pdf", packed=4, title="Passage card"),
    ),
    readers=(Reader("route", route_text),),
    verbs=(Verb("passage", passage),),
)
