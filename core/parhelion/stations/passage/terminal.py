"""The Passage's word in the terminal."""

from __future__ import annotations

from argparse import Namespace
from datetime import UTC, timedelta
from typing import TextIO

from parhelion.design import BoatDesign
from parhelion.formats.plain import miles, print_findings, print_json, shown, told
from parhelion.stations.passage.findings import passage_findings
from parhelion.stations.passage.picture import PassagePicture, passage_picture, ways_shown
from parhelion.stations.passage.voyage import sure
from parhelion.stations.passage.words import clock_of, no_passage


def moment_of(picture: PassagePicture, hours: float | None) -> str | None:
    """Hours after the first midnight as a local moment."""
    if hours is None:
        return None
    return (
        (picture.midnight.astimezone(UTC) + timedelta(hours=hours))
        .astimezone(picture.midnight.tzinfo)
        .isoformat()
    )


def passage(design: BoatDesign, arguments: Namespace, out: TextIO) -> None:
    picture, beside, certain = passage_picture(design), ways_shown(design), sure(design)
    if picture is None:
        raise no_passage()
    if arguments.json:
        document = picture.model_dump(mode="json")
        document |= {
            "arrives_at": moment_of(picture, picture.arrives_h),
            "ways": [way.model_dump(mode="json") for way in beside.ways] if beside else [],
            "share_arriving": None if certain is None else certain.share_arriving_frac,
            "sure": None if certain is None else certain.model_dump(mode="json"),
            "findings": [finding.model_dump(mode="json") for finding in passage_findings(design)],
        }
        print_json(document, out)
        return
    out.write(f"{design.name}: {told(picture.assumes)} ({picture.zone})\n\n")
    for mark in picture.marks:
        at = "   - " if mark.arrives_h is None else shown(clock_of(mark.arrives_h))
        soc = "" if mark.soc_frac is None else f"  bank {100 * mark.soc_frac:3.0f} %"
        out.write(f" {at}  {miles(mark.gone_m)}  {mark.name}{soc}\n")
    out.write("\n")
    for way in beside.ways if beside else []:
        at = "not" if way.arrives_h is None else shown(clock_of(way.arrives_h))
        soc = "" if way.arrival_soc_frac is None else f"  bank {100 * way.arrival_soc_frac:3.0f} %"
        out.write(f"{way.label:24s} {at}{soc}  {way.trouble or ''}\n")
    if certain is not None:
        out.write(f"\nHome above the reserve on {certain.arriving} of {certain.skies} such days\n")
    print_findings(passage_findings(design), out)
