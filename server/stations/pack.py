"""The print pack: one file of what several stations print."""

from __future__ import annotations

from typing import Any

from config.replies import of_type, or_refused
from django.http import HttpRequest, HttpResponse
from ninja import Router, Schema
from parhelion.design import BoatDesign
from parhelion.design.records import NO_RECORDS, Records
from parhelion.stations.pack import print_pack
from parhelion.units import SpeedUnit

PDF = "application/pdf"

router = Router(tags=["Fit-out"])


class PrintPackAsked(Schema):
    """A design, what was noted beside it, and the unit of speeds on its cards."""

    design: BoatDesign
    records: Records = NO_RECORDS
    unit: SpeedUnit = "kn"


@router.post("/pack.pdf", response=or_refused(None), operation_id="fitoutPackPdf", openapi_extra=of_type(PDF))
def pack(request: HttpRequest, body: PrintPackAsked) -> Any:
    """The diagram, the steps, settings and labels, the helm card and the passage's, as one PDF."""
    made = print_pack(body.design, records=body.records, unit=body.unit)
    return HttpResponse(made, content_type=PDF)
