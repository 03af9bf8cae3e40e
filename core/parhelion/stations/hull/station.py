"""What the Hull registers."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from parhelion.balance.outlook import outlook_of
from parhelion.design import BoatDesign
from parhelion.formats.runs_table import ReadRuns, read_runs, written_runs
from parhelion.stations.hull.findings import hull_findings
from parhelion.stations.hull.helm import helm_card
from parhelion.stations.hull.helm_pdf import helm_card_pdf
from parhelion.stations.hull.match import match_picture
from parhelion.stations.hull.picture import hull_picture, range_picture
from parhelion.stations.hull.terminal import helm, helm_arguments, power, power_arguments
from parhelion.stations.hull.usual import hull_usual
from parhelion.stations.station import Paper, Reader, Station, Study, Verb
from parhelion.units import SpeedUnit


def helm_paper(design: BoatDesign, unit: SpeedUnit = "kn") -> bytes:
    """The helm card as a one-page PDF."""
    return helm_card_pdf(helm_card(outlook_of(design), unit), design.name, unit)


def runs_paper(design: BoatDesign, unit: SpeedUnit = "kn") -> str:
    """The measured runs as CSV."""
    return written_runs(design.runs, unit)


def pasted_runs(
    text: Annotated[str, Field(max_length=200_000)], unit: SpeedUnit = "kn", taken_ids: tuple[str, ...] = ()
) -> ReadRuns:
    """Runs from the text of a spreadsheet or CSV file; speeds without a unit are in `unit`."""
    return read_runs(text, unit, taken_ids)


STATION = Station(
    name="hull",
    title="Hull",
    findings=hull_findings,
    usual=hull_usual,
    studies=(
        Study("picture", hull_picture),
        Study("range", range_picture),
        Study("match", match_picture),
        Study("helm-card", helm_card),
    ),
    papers=(
        Paper("helm-card.pdf", helm_paper, "application/pdf", packed=3, title="Helm card"),
        Paper("runs.csv", runs_paper),
    ),
    readers=(Reader("runs/read", pasted_runs),),
    verbs=(Verb("power", power, power_arguments), Verb("helm", helm, helm_arguments)),
)
