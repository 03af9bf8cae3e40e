"""What strings alike on one controller should show in a light: volts, amps, watts, open volts, as bands.

References
----------
[1] The single diode through a datasheet's points (`wiring.held`), at the cell's own temperature.
[2] Panels alike differ by some 3 % in watts; dirt takes up to 5.5 %; the cell is known within 4 K.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray
from scipy.special import ndtri

from parhelion.wiring.held import diode_of
from parhelion.wiring.panel_volts import PanelVolts

Array = NDArray[np.float64]

PANEL_SPREAD, MOST_DIRT, CELL_SPREAD_K = 0.03, 0.055, 4.0  # [2]
HELD_OVER_BANK_V = 1.0  # what a controller leaves between bank and panels that stand below their best
SHARES = (0.10, 0.50, 0.90)
COLUMNS = 4  # of what is drawn evenly: sky, panel, dirt, heat
USUAL_KEPT, USUAL_DROP = 0.97 * 0.98, 0.03  # salt and mismatch; the cable's, as in the design's own entries
LEAST_LIGHT_W_PER_M2 = 5.0  # below it a single diode's volts say nothing


class Band(NamedTuple):
    """What 1, 5 and 9 of 10 such minutes stay under."""

    low: float
    middle: float
    high: float


def band_of(values: Array) -> Band:
    """The band of draws."""
    return Band(*(float(v) for v in np.quantile(values, SHARES)))


@dataclass(frozen=True)
class Wired:
    """Strings alike side by side on one input."""

    panel: PanelVolts  # one of them, or a whole string of unlike ones as one
    series: int
    parallel: int
    kept: float = USUAL_KEPT  # of the light: salt, mismatch, a cover, what was measured [-]
    drop: float = USUAL_DROP  # of the best volts at full sun, in the cable from the panels to the meter [-]
    substrings: int = 3  # of one panel, a bypass diode each
    most_dirt: float = MOST_DIRT  # that may lie on it since [-]


@dataclass(frozen=True)
class Expected:
    """At the best point, panels clean and sound; bands over the draws."""

    wired: Wired
    pv_v: float
    pv_a: float
    open_v: float
    cell_c: float
    light_w_per_m2: float  # that gets into the cells
    volts: Band
    amps: Band
    watts: Band
    open_volts: Band
    held_v: float | None  # where the bank stands higher than the strings' best volts
    held_a: float | None

    @property
    def pv_w(self) -> float:
        return self.pv_v * self.pv_a

    @property
    def dark(self) -> bool:
        return self.light_w_per_m2 < LEAST_LIGHT_W_PER_M2


def expected(
    wired: Wired, light_w_per_m2: Array, cell_c: Array, uniforms: Array, bank_v: float | None
) -> Expected:
    """What a meter should show.

    Parameters
    ----------
    wired : Wired
    light_w_per_m2, cell_c : ndarray, shape (1 + n,)
        Effective light and the cells' temperature: the middle one first, then one for each draw of the sky.
    uniforms : ndarray, shape (n, 4)
        Numbers in (0, 1) that the sky (the first column), panels, dirt and heat are drawn with [2].
    bank_v : float or None
        Volts of the bank now; None without one.
    """
    spread = np.concatenate([[0.0], PANEL_SPREAD * ndtri(uniforms[:, 1])])
    dirt = np.concatenate([[0.0], wired.most_dirt * uniforms[:, 2]])
    heat = np.concatenate([[0.0], CELL_SPREAD_K * ndtri(uniforms[:, 3])])
    light = np.maximum(light_w_per_m2 * wired.kept * (1 - dirt), 0.0)
    diode = diode_of(wired.panel, light, cell_c + heat)
    volts, amps = diode.best()
    volts = (volts - wired.drop * wired.panel.best_v * amps / wired.panel.best_a) * wired.series
    open_v = diode.open_v * wired.series
    amps = amps * wired.parallel * (1 + spread)
    held_v = held_a = None
    if bank_v is not None and volts[0] < bank_v + HELD_OVER_BANK_V:
        held_v = bank_v + HELD_OVER_BANK_V
        watts = diode.held_w(np.full(len(volts), held_v / wired.series))
        held_a = float(watts[0] / (held_v / wired.series) * wired.parallel)
    return Expected(
        wired=wired,
        pv_v=float(volts[0]), pv_a=float(amps[0]), open_v=float(open_v[0]), cell_c=float(cell_c[0]),
        light_w_per_m2=float(light[0]),
        volts=band_of(volts[1:]), amps=band_of(amps[1:]), watts=band_of((volts * amps)[1:]),
        open_volts=band_of(open_v[1:]),
        held_v=held_v, held_a=held_a,
    )  # fmt: skip


def together(parts: list[Expected]) -> Expected:
    """Strings of several kinds on one input as one: amps and watts add up, volts are those of the largest.

    They stand under one sky, so their bands add up too.
    """
    if len(parts) == 1:
        return parts[0]
    main = max(parts, key=lambda part: part.pv_w)

    def added(bands: list[Band]) -> Band:
        return Band(*(float(sum(values)) for values in zip(*bands, strict=True)))

    held = [part.held_a for part in parts if part.held_a is not None]
    strings = sum(part.wired.parallel for part in parts)
    return replace(
        main,
        wired=replace(main.wired, parallel=strings),
        pv_a=sum(part.pv_a for part in parts),
        amps=added([part.amps for part in parts]),
        watts=added([part.watts for part in parts]),
        held_a=sum(held) if held else None,
    )
