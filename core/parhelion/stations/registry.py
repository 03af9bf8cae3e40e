"""How many open warnings each station has."""

from __future__ import annotations

from parhelion.balance.outlook import outlook_of
from parhelion.design import BoatDesign
from parhelion.finding import Finding
from parhelion.quantities import Frozen
from parhelion.stations.array.findings import array_findings, array_view
from parhelion.stations.bank.picture import bank_findings_of
from parhelion.stations.day.picture import day_picture_from
from parhelion.stations.hull.findings import hull_findings
from parhelion.stations.strings.picture import strings_picture


class WarningCounts(Frozen):
    """Open warnings by station."""

    hull: int
    bank: int
    array: int
    strings: int
    day: int


def _open(findings: list[Finding]) -> int:
    return sum(finding.level == "warn" for finding in findings)


def warning_counts(design: BoatDesign) -> WarningCounts:
    """Open warnings of a design, station by station."""
    outlook = outlook_of(design)
    return WarningCounts(
        hull=_open(hull_findings(outlook)),
        bank=_open(bank_findings_of(outlook)),
        array=_open(array_findings(array_view(outlook))),
        strings=_open(strings_picture(design).findings),
        day=_open(day_picture_from(outlook).findings),
    )
