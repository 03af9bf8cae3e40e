"""What Strings registers."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from parhelion.balance.outlook import outlook_of
from parhelion.data import controller_models
from parhelion.design import BoatDesign, ControllerModel
from parhelion.formats.controller_table import ReadControllers, read_controllers
from parhelion.stations.station import Listing, Paper, Reader, Station, Study, Verb, Work
from parhelion.stations.strings.boxes_year import boxes_through_year
from parhelion.stations.strings.findings import wiring_findings
from parhelion.stations.strings.parts_table import written_parts
from parhelion.stations.strings.picture import strings_picture
from parhelion.stations.strings.propose import first_legal, propose
from parhelion.stations.strings.terminal import wiring
from parhelion.stations.strings.usual import strings_usual
from parhelion.stations.strings.wiring_pdf import wiring_pdf
from parhelion.wiring.circuits import wiring_of
from parhelion.wiring.parts import parts_of


def wiring_paper(design: BoatDesign) -> bytes:
    """Diagram, cables, settings and parts as a PDF."""
    outlook = outlook_of(design)
    return wiring_pdf(strings_picture(outlook), wiring_findings(outlook), design.name)


def parts_paper(design: BoatDesign) -> str:
    """The wiring's parts as CSV."""
    return written_parts(parts_of(wiring_of(design)))


def controller_table(text: Annotated[str, Field(max_length=200_000)]) -> ReadControllers:
    """Controllers of a table, to propose from."""
    return read_controllers(text)


def controller_list() -> list[ControllerModel]:
    """Controllers to choose from."""
    return list(controller_models())


STATION = Station(
    name="strings",
    title="Strings",
    findings=wiring_findings,
    usual=strings_usual,
    studies=(
        Study("picture", strings_picture),
        Study("first", first_legal),
        Study("year", boxes_through_year, at_rest=True),
    ),
    papers=(
        Paper("wiring.pdf", wiring_paper, "application/pdf", packed=1, title="Wiring diagram"),
        Paper("parts.csv", parts_paper),
    ),
    readers=(Reader("controllers", controller_table),),
    lists=(Listing("controller-models", controller_list),),
    works=(Work("proposals", propose),),
    verbs=(Verb("wiring", wiring),),
)
