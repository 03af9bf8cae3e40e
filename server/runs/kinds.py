"""The kinds of long work, each a function of the core on one or more named designs."""

from __future__ import annotations

from collections.abc import Callable
from enum import StrEnum

from parhelion.balance.outlook import outlook_of
from parhelion.computing.progress import Report
from parhelion.design import BoatDesign
from parhelion.stations.strings.propose import Proposals, propose
from parhelion.stations.year.compare import Comparison, compare
from parhelion.stations.year.season import WholeSeason, season
from parhelion.stations.year.upgrades import UpgradeLadder, upgrade_ladder
from pydantic import BaseModel

Named = list[tuple[str, BoatDesign]]


class Kind(StrEnum):
    SEASON = "season"
    PROPOSALS = "proposals"
    LADDER = "ladder"
    COMPARISON = "comparison"


def _season(named: Named, report: Report) -> BaseModel:
    return season(named[0][1], report=report)


def _proposals(named: Named, report: Report) -> BaseModel:
    return propose(outlook_of(named[0][1]), report)


def _ladder(named: Named, report: Report) -> BaseModel:
    return upgrade_ladder(outlook_of(named[0][1]), report)


WORK: dict[Kind, Callable[[Named, Report], BaseModel]] = {
    Kind.SEASON: _season,
    Kind.PROPOSALS: _proposals,
    Kind.LADDER: _ladder,
    Kind.COMPARISON: compare,
}
RESULTS: dict[Kind, type[BaseModel]] = {
    Kind.SEASON: WholeSeason,
    Kind.PROPOSALS: Proposals,
    Kind.LADDER: UpgradeLadder,
    Kind.COMPARISON: Comparison,
}
