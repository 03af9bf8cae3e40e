"""Volts and amps of a panel from its datasheet, or usual for its cells; hot, cold and in strings.

References
----------
[1] Linear coefficients: Voc (1 + beta (T - 25)); Vmp by the power's, since the best amps hardly change with
    heat (a single diode: -.006 %/K). Within .3 % of a single diode from -10 to 70 C. Where Voc's own is not
    known: as many volts a kelvin as Vmp loses, for heat moves the whole curve.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import TypeVar

import numpy as np
from numpy.typing import NDArray

from parhelion.design import PanelGroup, PanelModel
from parhelion.design.panel import CELL_VMP, CELL_VOC

Heat = TypeVar("Heat", float, NDArray[np.float64])

STANDARD_C = 25.0
LEAST_OVER = 1.01  # Voc over Vmp and Isc over Imp at the least, while a datasheet is typed or cannot be true
MOST_ONE_PANEL_W = 700.0  # no panel that a boat carries has more: a label beyond is a whole array's
SHORT_TO_BEST = 1.06  # Isc over Imp
REAR_LIGHT = 0.2  # of full sun on the back of a two-sided panel, for what a wire must carry


@dataclass(frozen=True)
class PanelVolts:
    """One panel at standard conditions, and how heat changes it."""

    open_v: float
    short_a: float
    best_v: float
    best_a: float
    open_per_k: float  # of the value itself [1/K]
    best_per_k: float
    given: bool  # whether the datasheet says so
    unknown: bool = False  # a whole array under one label: nothing is known of its volts

    def open_at(self, cell_c: Heat, series: int = 1) -> Heat:
        """Open-circuit volts of panels in series at a cell temperature [1] [V]."""
        return series * self.open_v * (1 + self.open_per_k * (cell_c - STANDARD_C))

    def best_at(self, cell_c: Heat, series: int = 1) -> Heat:
        """Volts of most power of panels in series at a cell temperature [1] [V]."""
        return series * self.best_v * (1 + self.best_per_k * (cell_c - STANDARD_C))


def panel_volts(panel: PanelModel) -> PanelVolts:
    """Volts and amps of a panel; what its datasheet does not say is usual for its cells and watts.

    Parameters
    ----------
    panel : PanelModel

    Returns
    -------
    PanelVolts
    """
    cells = panel.grid.in_series
    best_v = panel.best_v or cells * CELL_VMP
    best_a = panel.best_a or panel.nameplate_w / best_v
    beta = panel.voltage_coefficient_per_k
    short = max(panel.short_circuit_a or best_a * SHORT_TO_BEST, LEAST_OVER * best_a) * (
        1 + REAR_LIGHT * panel.bifaciality_frac
    )
    open_v = max(panel.open_circuit_v or best_v * CELL_VOC / CELL_VMP, LEAST_OVER * best_v)
    return PanelVolts(
        open_v=open_v,
        short_a=short,
        best_v=best_v,
        best_a=best_a,
        open_per_k=panel.power_coefficient_per_k * best_v / open_v if beta is None else beta,
        best_per_k=panel.power_coefficient_per_k,
        given=None not in (panel.open_circuit_v, panel.short_circuit_a, panel.best_v, panel.best_a),
        unknown=panel.nameplate_w > MOST_ONE_PANEL_W
        and not (panel.cells_across or panel.best_v or panel.open_circuit_v),
    )


def in_series(panels: Sequence[PanelVolts]) -> PanelVolts:
    """A string as one panel: volts add up, the weakest sets its best amps, the strongest what can flow.

    Parameters
    ----------
    panels : sequence of PanelVolts
    """
    open_v, best_v = (sum(getattr(p, name) for p in panels) for name in ("open_v", "best_v"))
    return PanelVolts(
        open_v=open_v,
        short_a=max(p.short_a for p in panels),
        best_v=best_v,
        best_a=min(p.best_a for p in panels),
        open_per_k=sum(p.open_v * p.open_per_k for p in panels) / open_v,
        best_per_k=sum(p.best_v * p.best_per_k for p in panels) / best_v,
        given=all(p.given for p in panels),
        unknown=any(p.unknown for p in panels),
    )


def most_in_series(open_v: float, open_per_k: float, coldest_c: float, limit_v: float) -> int:
    """Panels that may stand in series without passing a volts limit on the coldest morning.

    Parameters
    ----------
    open_v, open_per_k : float
        Open-circuit volts at 25 C and their coefficient [1/K].
    coldest_c, limit_v : float
    """
    return int(limit_v / (open_v * (1 + open_per_k * (coldest_c - STANDARD_C))) + 1e-9)


def swelled(group: PanelGroup, number: int) -> PanelGroup:
    """A group with the watts of so many more panels spread over those it has; cells and volts stay."""
    grid = group.grid
    update = {
        "nameplate_w": group.nameplate_w * (group.count + number) / group.count,
        "panel_width_m": group.width,
        "panel_length_m": group.length,
    }
    if group.nameplate_w <= MOST_ONE_PANEL_W:
        update |= {"cells_across": grid.across, "cells_along": grid.along, "half_cut": grid.halved}
    return group.model_copy(update=update)
