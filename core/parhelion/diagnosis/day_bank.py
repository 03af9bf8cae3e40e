"""What a day's readings say of the bank, its meters and the motor: balance, rest volts, sag, watts at speed.

References
----------
[1] What goes into the bank is what the panels send less what motor and house take: a line through the rows,
    whose slope is the shunt's gain and whose height is its offset. Scheduled loads come off first.
[2] Volts at rest tell the charge of a bank within some .04 to .08; amps are taken off by the bank's usual
    resistance over minutes, which is more than its ohms at once: about 1.8 of them for lithium, 5 for lead.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from parhelion.bank.store import resistance_of
from parhelion.computing.kept import once
from parhelion.design import Bank
from parhelion.design.chemistries import CHEMICALS
from parhelion.diagnosis.day_model import DayModel
from parhelion.diagnosis.day_panels import PanelRows

Array = NDArray[np.float64]
Mask = NDArray[np.bool_]

MINUTES_LITHIUM, MINUTES_LEAD = 1.8, 5.2  # of a bank's ohms, over ten minutes [2]
REST_C = 0.02  # of the capacity in amps: a bank that hardly works
STEP_C = 0.03  # amps over capacity between rows: a step of load
LEAST_ROWS, FIRST_LAST = 8, 6
UNDER_WAY = 0.6  # of the day's usual top speed: rows wholly under way
CHOP_BEFORE_S, CHOP_AFTER_S, CHOP_M = 600.0, 6_600.0, 0.15  # about a note of waves
LEAST_STEADY, LEAST_STEPS = 3, 2
PLATEAU_ROWS, PLATEAU_FRAC, SETTLED_FRAC = 4, 0.003, 0.005


class Line(NamedTuple):
    """The shunt's amps against what the other readings make of them."""

    gain: float
    offset_a: float
    spread_gain: float
    spread_a: float


@dataclass(frozen=True, eq=False)
class BankRows:
    """The bank's rows of a day."""

    panels: PanelRows
    bank: Bank

    @property
    def model(self) -> DayModel:
        return self.panels.model

    @once
    def _efficiency(self) -> float:
        boxes = [circuit.controller.efficiency for box in self.model.inputs for circuit in box.circuits]
        return float(np.mean(boxes)) if boxes else 1.0

    @once
    def line(self) -> Line | None:
        """The balance [1]; None with too few rows."""
        log = self.panels.log
        pv = np.maximum(np.nan_to_num(log.pv_w), 0.0) * self._efficiency
        asked = (pv - np.nan_to_num(log.motor_w) - self.model.house_w) / log.bank_v
        good = np.isfinite(log.bank_a) & np.isfinite(asked) & np.isfinite(log.pv_w) & np.isfinite(log.motor_w)
        if good.sum() < LEAST_ROWS:
            return None
        x, y = asked[good], log.bank_a[good]
        keep = np.ones(len(x), dtype=bool)
        for _ in range(4):
            a = np.stack([x[keep], np.ones(keep.sum())], axis=1)
            fit = np.linalg.lstsq(a, y[keep], rcond=None)[0]
            left = y - fit[0] * x - fit[1]
            wide = 1.4826 * np.median(np.abs(left[keep])) + 0.02
            keep = np.abs(left) < 4 * wide
        left = left[keep]
        sd = float(np.sqrt(np.sum(left**2) / max(len(left) - 2, 1)))
        cov = np.linalg.inv(a.T @ a) * sd**2 if keep.sum() == len(a) else np.linalg.pinv(a.T @ a) * sd**2
        return Line(float(fit[0]), float(fit[1]), float(np.sqrt(cov[0, 0])), float(np.sqrt(cov[1, 1])))

    @once
    def rest_soc(self) -> Array:
        """Charge told by volts, amps taken off, shape (t,); nan where the bank works hard [2]."""
        log, bank = self.panels.log, self.bank
        chemical = CHEMICALS[bank.chemistry]
        ohm = resistance_of(bank) * (MINUTES_LITHIUM if chemical.lithium else MINUTES_LEAD)
        cell_v = (log.bank_v - log.bank_a * ohm) / bank.cells
        told = np.interp(cell_v, [v for _, v in chemical.rest_v], [s for s, _ in chemical.rest_v])
        rests = np.abs(log.bank_a) < REST_C * bank.capacity_ah
        return np.where(rests & np.isfinite(cell_v), told, np.nan)

    @once
    def counted_off(self) -> Array:
        """What the meter of charge says over what the volts at rest do, of the rows that tell."""
        off = self.panels.log.soc - self.rest_soc
        return np.asarray(off[np.isfinite(off)])

    @once
    def off_spread(self) -> float:
        """Scatter of a median of those, from row to row."""
        steps = np.diff(self.counted_off)
        if len(steps) < FIRST_LAST:
            return 0.0
        return float(1.4826 * np.median(np.abs(steps)) / np.sqrt(2) * 1.25 / np.sqrt(FIRST_LAST))

    @property
    def off_at_first(self) -> float | None:
        found = self.counted_off[:FIRST_LAST]
        return None if len(found) < 2 else float(np.median(found))

    @property
    def off_at_last(self) -> float | None:
        found = self.counted_off[-FIRST_LAST:]
        return None if len(found) < 2 else float(np.median(found))

    @once
    def sag(self) -> tuple[float, float] | None:
        """Volts a step of amps takes over the usual for the bank, as a log, and its spread; None without."""
        log = self.panels.log
        rows = np.flatnonzero(np.isfinite(log.bank_v) & np.isfinite(log.bank_a) & ~self.panels.at_top)
        dv, da, apart = np.diff(log.bank_v[rows]), np.diff(log.bank_a[rows]), np.diff(rows)
        cadence = int(np.median(apart)) if len(apart) else 1
        steps = (apart <= max(cadence, 1)) & (np.abs(da) > STEP_C * self.bank.capacity_ah)
        if steps.sum() < LEAST_STEPS:
            return None
        lithium = CHEMICALS[self.bank.chemistry].lithium
        usual = resistance_of(self.bank) * (MINUTES_LITHIUM if lithium else MINUTES_LEAD)
        ratios = dv[steps] / da[steps] / usual
        middle = float(np.median(ratios))
        wide = 1.4826 * float(np.median(np.abs(ratios - middle))) * 1.25 / np.sqrt(len(ratios))
        share = max(wide / max(middle, 0.2), 0.4 / np.sqrt(len(ratios)))
        return float(np.log(max(middle, 0.05))), float(share)

    @once
    def said_when_full(self) -> float | None:
        """What the meter of charge said when the bank first stood at its absorption volts, held back."""
        log, top = self.panels.log, self.panels.around.absorption_v * (1 - 0.006)
        full = np.flatnonzero((np.nan_to_num(log.bank_v) > top) & self.panels.held & np.isfinite(log.soc))
        return float(log.soc[full[0]]) if len(full) else None

    @once
    def top_v(self) -> float | None:
        """The volts at which the charger held the bank, over those it is set to; None where it never did."""
        log, around = self.panels.log, self.panels.around
        held = self.panels.held & np.isfinite(log.bank_v) & ~self.panels.still
        if held.sum() < 3:
            return None
        volts = log.bank_v[held]
        top = volts[volts > volts.max() * (1 - PLATEAU_FRAC)]
        if len(top) < PLATEAU_ROWS:
            return None
        plateau = float(np.median(top))
        if plateau < around.float_v * (1 + SETTLED_FRAC):
            return min(plateau / around.float_v, 1.0)
        lit = np.flatnonzero(self.panels.lit)
        close = len(lit) > 1 and float(np.median(np.diff(lit))) <= 1  # rows far apart miss the top
        return plateau / around.absorption_v if close else max(plateau / around.absorption_v, 1.0)


@dataclass(frozen=True, eq=False)
class MotorRows:
    """The rows under way."""

    panels: PanelRows

    @once
    def ratio(self) -> Array:
        """Log of battery watts over the model's at the logged speed, steady rows; nan elsewhere."""
        log = self.panels.log
        speed = np.nan_to_num(log.speed_mps)
        if not (speed > 0.3).any():
            return np.full(len(speed), np.nan)
        usual = np.quantile(speed[speed > 0.3], 0.75)
        model = self.panels.model.motor_w(np.maximum(speed, 0.05))
        asked = speed > UNDER_WAY * usual
        before, after = np.roll(speed, 1), np.roll(speed, -1)
        known = np.isfinite(log.speed_mps) & np.isfinite(log.motor_w)
        rests = (before < 0.2) & np.roll(known, 1) | (after < 0.2) & np.roll(known, -1)
        steady = asked & ~(rests & (speed < 0.9 * usual)) & np.isfinite(log.motor_w) & (log.motor_w > 0)
        with np.errstate(invalid="ignore", divide="ignore"):
            return np.where(steady, np.log(log.motor_w / model), np.nan)

    @once
    def chop(self) -> Mask:
        """Rows about a note of waves."""
        steps = self.panels.model.timeline
        at = steps.middles_s
        found = np.zeros(len(at), dtype=bool)
        for note in self.panels.around.water:
            if note.waves_m >= CHOP_M:
                since = at - (note.at - self.panels.log.timeline.starts_at).total_seconds()
                found |= (since > -CHOP_BEFORE_S) & (since < CHOP_AFTER_S)
        return found

    def median(self, rows: Mask) -> tuple[float, int]:
        """Median log ratio over some rows, and how many."""
        found = self.ratio[rows & np.isfinite(self.ratio)]
        return (float(np.median(found)), len(found)) if len(found) >= LEAST_STEADY else (0.0, 0)
