"""What the Array registers."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from parhelion.data import panel_models
from parhelion.design import PanelModel
from parhelion.formats.module_table import ReadModules, read_modules
from parhelion.stations.array.burden import burden
from parhelion.stations.array.findings import array_findings, shade_unseen
from parhelion.stations.array.next_panel import next_panels
from parhelion.stations.array.picture import array_advice, array_picture, whole_picture
from parhelion.stations.array.terminal import harvest
from parhelion.stations.array.tilt import tilt_advice
from parhelion.stations.array.usual import array_usual
from parhelion.stations.array.year import through_year
from parhelion.stations.station import Listing, Reader, Station, Study, Verb


def module_table(
    text: Annotated[str, Field(max_length=20_000_000)], search: Annotated[str, Field(max_length=80)] = ""
) -> ReadModules:
    """Panels of a table, and those whose names hold the words searched for."""
    return read_modules(text, search)


def panel_list() -> list[PanelModel]:
    """Panels to choose from."""
    return list(panel_models())


STATION = Station(
    name="array",
    title="Array",
    findings=array_findings,
    usual=array_usual,
    studies=(
        Study("picture", array_picture),
        Study("whole", whole_picture, at_rest=True),
        Study("advice", array_advice, at_rest=True),
        Study("tilt", tilt_advice, at_rest=True),
        Study("burden", burden, at_rest=True),
        Study("next", next_panels, at_rest=True),
        Study("year", through_year, at_rest=True),
    ),
    readers=(Reader("modules", module_table),),
    lists=(Listing("panel-models", panel_list),),
    verbs=(Verb("harvest", harvest),),
    told_at_rest=shade_unseen,
)
