"""The print pack: what the stations print for aboard, in one file.

Each paper stands in it as its station prints it; one that a boat has nothing for is left out.
"""

from __future__ import annotations

from io import BytesIO
from typing import Any

from parhelion.design import BoatDesign
from parhelion.errors import ParhelionError
from parhelion.stations.registry import STATIONS
from parhelion.stations.station import Paper


def packed() -> list[Paper]:
    """The papers of the pack in their order."""
    papers = [paper for station in STATIONS for paper in station.papers if paper.packed is not None]
    return sorted(papers, key=lambda paper: paper.packed or 0)


def print_pack(design: BoatDesign, **asked: Any) -> bytes:
    """All papers of the pack as the bytes of one PDF.

    Parameters
    ----------
    design : BoatDesign
    **asked
        What papers ask beside it, such as the records and the unit of speeds; each is given what it asks for.

    Raises
    ------
    ParhelionError
        Where nothing at all can be printed.
    """
    from pypdf import PdfWriter  # only where something is printed

    pack = PdfWriter()
    refused: ParhelionError | None = None
    for paper in packed():
        wanted = {name: value for name, value in asked.items() if name in paper.signature.asked}
        try:
            content = paper.about(design, **wanted)
        except ParhelionError as error:
            refused = error
            continue
        pack.append(BytesIO(content), outline_item=paper.title)
    if not len(pack.pages):
        assert refused is not None
        raise refused
    pack.add_metadata({"/Title": f"{design.name}: print pack"})
    made = BytesIO()
    pack.write(made)
    return made.getvalue()
