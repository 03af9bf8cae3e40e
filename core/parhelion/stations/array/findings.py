"""All findings about the array."""

from __future__ import annotations

from parhelion.balance.outlook import Outlook, remembered
from parhelion.design import BoatDesign
from parhelion.finding import Finding, ordered
from parhelion.panels.deck import deck_of
from parhelion.panels.shaded import shade_is_cast
from parhelion.stations.array.burden_findings import (
    flexible_life,
    gives_shade,
    gust_load,
    lists,
    live_panels,
    top_weight,
)
from parhelion.stations.array.fit_findings import (
    adds_up,
    beyond_hinge,
    claimed,
    does_not_fit,
    doubtful_datasheet,
    outboard,
    overlaps,
    same_name,
    stowed,
)
from parhelion.stations.array.shade_findings import (
    no_position,
    obstacle_costs,
    shade_costs,
    skyline_hides,
    spar_through_panel,
    uneven_shade,
)
from parhelion.stations.array.view import ArrayView

RULES = (
    no_position, does_not_fit, overlaps, spar_through_panel, beyond_hinge, doubtful_datasheet, claimed,
    same_name, shade_costs, skyline_hides, uneven_shade, stowed, adds_up, gives_shade, flexible_life,
    outboard, lists, top_weight, gust_load, live_panels,
)  # fmt: skip


@remembered
def array_view(outlook: Outlook) -> ArrayView:
    """An array on its day, with what each obstacle costs it."""
    return ArrayView(outlook, obstacle_costs(outlook))


def shade_unseen(design: BoatDesign) -> bool:
    """Whether the shade on the panels is still to be cast: then the findings take longer than a glance."""
    return not shade_is_cast(deck_of(design).groups)


def array_findings(outlook: Outlook) -> list[Finding]:
    """Everything the array tells, warnings first."""
    view = array_view(outlook)
    return ordered([rule(view) for rule in RULES])
