"""What each cause would make of a day's panel volts and amps, and how well the readings fit that.

References
----------
[1] Log ratios of amps and ratios of volts to the model's, row by row; a common error of the day (the panels'
    own spread, the sky word's), one of each word and one with the light's strength, and a row's own. Errors
    common to rows are estimated with the rest and held to their spreads (a linear mixed model, by iterated
    weights with Huber's cut, so that no row outvotes the others).
[2] Rows with the panels held well above their best volts say what holds them, not what they could give.
"""

from __future__ import annotations

from dataclasses import dataclass
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from parhelion.computing.kept import once
from parhelion.diagnosis.day_model import Around, DayLog, DayModel, Strings

Array = NDArray[np.float64]
Mask = NDArray[np.bool_]

LIT_FRAC, LIT_DEG = 0.05, 4.0  # of the nameplate at the least, and the sun's height: rows that say something
HELD_FRAC = 0.35  # of the way from best volts to open: above it the panels are held back [2]
OPEN_FRAC = 0.80  # of that way: nearly open
STILL_FRAC = 0.03  # of the model's amps: nothing flows
NO_VOLTS_FRAC = 0.2  # of open volts
AT_TOP_FRAC = 0.006  # under float volts, of them: the bank stands at what its charger holds
ROW_CUT = 3.0  # spreads of a row
ROWS_ALONE = 3.0  # so many rows in sequence say about as much as one
COMMON_A, COMMON_V = 0.045, 0.013  # spreads of the day's own error, of amps and of volts [1]
MEAN_A, MEAN_V = 0.01, 0.008  # what panels show over the model in the mean of sound days
WORD_SHARE = 0.85  # of a word's spread that a stretch under it shares
LIGHT_V, LIGHT_V_SPREAD = 0.02, 0.02  # of volts over the model's, from full light to none, and its spread
FAINT_V = 0.012  # of volts for each e-fold of the light below full
ROW_A, ROW_V, METER_A, METER_V = 0.02, 0.006, 0.06, 0.12
LOW_SUN_DEG, LOW_SUN_A = 15.0, 0.25  # below that the horizon and the haze decide
CLOUD_V = 0.03  # of volts, per unit of the light's spread
GIVES_LESS, FULL_SOC = 0.9, 0.985
LEAST = 1e-3
PASSES = 6


@dataclass(frozen=True, eq=False)
class Shown:
    """What a cause would show of the panels through a day, shapes (t,); `told` where it explains a row by
    something that is not measured against: a bank that is full, say."""

    amps: Array
    volts: Array
    told: Mask


@dataclass(frozen=True, eq=False)
class PanelRows:
    """The rows of a day that say something of the panels."""

    log: DayLog
    model: DayModel
    strings: Strings
    around: Around

    @once
    def lit(self) -> Mask:
        """Rows read with the panels lit well enough."""
        s = self.strings
        nameplate = s.wired.panel.best_v * s.wired.panel.best_a * s.wired.series * s.wired.parallel
        bright = (s.best_w > LIT_FRAC * nameplate * np.minimum(self.model.index, 1.0)) & (
            self.model.track.elevation_deg > LIT_DEG
        )
        return bright & np.isfinite(self.log.pv_w)

    @once
    def by_volts(self) -> Mask:
        """Rows in which volts and amps were read, not watts alone."""
        return np.isfinite(self.log.pv_v) & np.isfinite(self.log.pv_a)

    @once
    def over(self) -> Array:
        """How far the volts stand from best to open [-]."""
        s = self.strings
        return np.nan_to_num((self.log.pv_v - s.best_v) / np.maximum(s.open_v - s.best_v, LEAST))

    @once
    def share(self) -> Array:
        """Amps over the model's, watts where nothing else was read; nan where nothing was."""
        s = self.strings
        amps = self.log.pv_a / np.maximum(s.best_a, LEAST)
        return np.where(self.by_volts, amps, self.log.pv_w / np.maximum(s.best_w, LEAST))

    @once
    def still(self) -> Mask:
        least = np.maximum(STILL_FRAC, METER_A / np.maximum(self.strings.best_a, LEAST))
        return np.nan_to_num(self.share) < least

    @once
    def held(self) -> Mask:
        """Lit rows with the panels held back: well above their best volts, or with a bank at its top."""
        less = self.lit & (np.nan_to_num(self.share) < GIVES_LESS)
        under = self.by_volts & (self.over < -HELD_FRAC)  # nothing that is held back stands below its best
        return less & ((self.at_top & ~under) | (self.by_volts & (self.over > HELD_FRAC)))

    @once
    def at_top(self) -> Mask:
        """Rows with the bank at its charger's volts, float or more; by its charge where no volts were "
        "read."""
        volts, soc = self.log.bank_v, self.log.soc
        by_v = np.nan_to_num(volts) > self.around.float_v * (1 - AT_TOP_FRAC)
        return np.where(np.isfinite(volts), by_v, np.nan_to_num(soc) >= FULL_SOC)

    @once
    def throttled(self) -> Mask:
        return self.held & self.at_top

    @once
    def blocked(self) -> Mask:
        """Nearly open, nothing flows, and the bank is not at its top."""
        return self.held & self.still & (self.over > OPEN_FRAC) & ~self.at_top

    @once
    def dead(self) -> Mask:
        """No volts, or the wrong way round."""
        return self.lit & self.still & (self.log.pv_v < NO_VOLTS_FRAC * self.strings.open_v)

    @once
    def no_volts(self) -> bool:
        """Whether the panels' volts were never read."""
        return not bool((self.lit & self.by_volts).any())

    @once
    def _columns(self) -> tuple[Array, Array, Array]:
        """Of lit rows: indicator columns of stretches under a word, those stretches' spreads, light."""
        turns = [a is not b for a, b in pairwise(self.model.words)]
        stretch = np.concatenate([[0], np.cumsum(turns)])[self.lit]
        every = np.unique(stretch)
        columns = (stretch[:, None] == every[None, :]).astype(float)
        spreads = np.array([self.model.spread[self.lit][stretch == k].mean() for k in every])
        light = np.minimum(self.strings.light_w_per_m2[self.lit] / 1000.0, 1.2)
        return columns, spreads, light

    @once
    def spread_a(self) -> Array:
        """Of a lit row's log amps."""
        lit, model = self.lit, self.model
        low = np.clip(1 - model.track.elevation_deg[lit] / LOW_SUN_DEG, 0.0, 1.0)
        meter = METER_A / np.maximum(self.strings.best_a[lit], METER_A)
        wander = model.spread[lit]
        return np.sqrt(ROW_A**2 + wander**2 + meter**2 + (LOW_SUN_A * low) ** 2)

    @once
    def spread_v(self) -> Array:
        lit, model = self.lit, self.model
        low = np.clip(1 - model.track.elevation_deg[lit] / LOW_SUN_DEG, 0.0, 1.0)
        meter = METER_V / self.strings.best_v[lit]
        wander = CLOUD_V * np.minimum(model.spread[lit], 0.5)
        wired = self.strings.wired
        read = self.share[lit] * self.strings.best_a[lit] / (wired.panel.short_a * wired.parallel)
        share = np.minimum(np.maximum(read, 0.01), self.strings.light_w_per_m2[lit] / 1000)
        faint = FAINT_V * np.log(1 / np.clip(share, 0.01, 1.0))
        return np.sqrt(ROW_V**2 + wander**2 + meter**2 + faint**2 + (0.03 * low) ** 2)

    def fit_amps(self, shown: Shown) -> float:
        """Log-likelihood of the amps under a cause, but for a constant."""
        lit = self.lit
        s, volts = self.strings, self.by_volts[lit]
        read = np.where(volts, self.log.pv_a[lit], self.log.pv_w[lit] / np.maximum(s.best_v[lit], 1.0))
        given = np.where(
            volts, shown.amps[lit], shown.amps[lit] * shown.volts[lit] / np.maximum(s.best_v[lit], 1.0)
        )
        floor = LEAST * np.maximum(s.best_a[lit], 1.0)
        wrong = np.log(np.maximum(read, floor) / np.maximum(given, floor)) - MEAN_A
        columns, spreads, _ = self._columns
        common = np.hstack([np.ones((len(wrong), 1)), columns])
        prior = np.concatenate([[COMMON_A], np.maximum(spreads * (WORD_SHARE + spreads), LEAST)])
        return mixed(wrong, self.spread_a, common, prior, shown.told[lit])

    def fit_volts(self, shown: Shown) -> float:
        """The same of the volts."""
        lit = self.lit
        _, _, light = self._columns
        wrong = (self.log.pv_v[lit] - shown.volts[lit]) / np.maximum(self.strings.best_v[lit], 1.0)
        wrong = wrong - MEAN_V - LIGHT_V * (1 - light)
        common = np.stack([np.ones_like(light), 1 - light], axis=1)
        unread = ~self.by_volts[lit]
        wrong, told = np.where(unread, 0.0, wrong), shown.told[lit] | unread
        return mixed(wrong, self.spread_v, common, np.array([COMMON_V, LIGHT_V_SPREAD]), told)


def mixed(wrong: Array, spread: Array, common: Array, prior: Array, told: Mask) -> float:
    """Log-likelihood of rows with errors of their own and errors they share [1], but for a constant.

    Parameters
    ----------
    wrong, spread : ndarray, shape (n,)
        Residuals and their own spreads.
    common : ndarray, shape (n, k)
        How each shared error enters each row.
    prior : ndarray, shape (k,)
        Spreads of the shared errors.
    told : ndarray of bool, shape (n,)
        Rows explained without being measured: they count as an ordinary row.
    """
    if len(wrong) == 0:
        return 0.0
    use = ~told
    scaled = wrong / spread
    shared: Array = np.zeros(common.shape[1])
    weight = np.where(use, 1.0, 0.0)
    base = common / spread[:, None]
    for _ in range(PASSES):
        weighted = base * weight[:, None]
        lhs = weighted.T @ base + np.diag(1 / prior**2) * ROWS_ALONE
        shared = np.asarray(np.linalg.solve(lhs, weighted.T @ scaled), dtype=float)
        left = np.abs(scaled - base @ shared)
        weight = np.where(use, np.minimum(1.0, ROW_CUT / np.maximum(left, LEAST)), 0.0)
    left = np.minimum(np.abs(scaled - base @ shared), ROW_CUT) ** 2
    rows = np.where(use, left, 1.0).sum() / ROWS_ALONE
    return float(-0.5 * (rows + np.sum((shared / prior) ** 2)))
