"""What a day's readings say beside the panels' own volts and amps, as log-likelihoods: with nothing wrong,
and under each cause that moves them.

References
----------
[1] Spreads are from logs whose truth is known (docs/methods/log.md). A fault's size is averaged over what it
    may be.
"""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
from numpy.typing import NDArray

from parhelion.computing.kept import once
from parhelion.design import BoatDesign, Sky
from parhelion.diagnosis.conditions import Condition
from parhelion.diagnosis.day_bank import BankRows, MotorRows
from parhelion.diagnosis.day_panels import OPEN_FRAC, PanelRows

Array = NDArray[np.float64]
Terms = dict[str, float]

MOST_TERM = 12.0
ASIDE = 3.0  # what noise in the readings costs a cause that does not speak of it

# spreads of sound boats and meters [1]
GAIN, OFFSET_A, OFFSET_C = 0.012, 0.10, 0.0008
OFF_MEAN, OFF = -0.02, 0.05
SAG_LN, MOTOR_LN, CHOP_LN, TOP_LN, SAID_FULL = 0.30, 0.055, 0.10, 0.004, 0.025
# sizes of faults
GAINS = tuple(s * g for g in (0.04, 0.05, 0.06, 0.08, 0.10, 0.13) for s in (1, -1))
OFFSETS_C = tuple(s * a for a in (0.0015, 0.0025, 0.004, 0.0065, 0.010, 0.015) for s in (1, -1))
DRIFTS = tuple(s * d for d in (0.12, 0.16, 0.20, 0.25, 0.30, 0.40) for s in (1, -1))
SAGS_LN, TIRED = (0.35, 0.5, 0.7, 0.9, 1.1, 1.4), (0.04, 0.08, 0.14, 0.2, 0.3)
FOULED_LN = (0.10, 0.13, 0.17, 0.21, 0.26, 0.32, 0.4, 0.5)
AIRY_LN = (0.2, 0.3, 0.4, 0.5, 0.7, 0.9)
TOPS_LN = tuple(s * t for t in (0.012, 0.018, 0.025, 0.035, 0.05, 0.065) for s in (-1, 1))
OPEN_MEAN, OPEN_V, HEAT_OPEN = 1.003, 0.010, 0.85  # of open volts; what of the heat's loss they show
MUCH_FULL, MUCH_CLOUD, MUCH_NOISE = 0.30, 0.60, 0.16  # of the lit rows
STEEP = 25.0  # how sharply those divide


def _normal(off: float, spread: float) -> float:
    return -0.5 * (off / spread) ** 2


def _averaged(offs: Array, spread: float) -> float:
    """Log of the mean likelihood over sizes that a fault may have."""
    z = -0.5 * (offs / spread) ** 2
    top = float(z.max())
    return top + float(np.log(np.mean(np.exp(z - top))))


def _over(value: float, sizes: tuple[float, ...], spread: float) -> float:
    return _averaged(value - np.array(sizes), spread)


class Evidence:
    """The terms of a day that do not concern the panels' own amps and volts."""

    def __init__(self, rows: PanelRows, design: BoatDesign):
        self.rows = rows
        self.motor = MotorRows(rows)
        bank = design.bank
        self.bank = BankRows(rows, bank) if bank is not None else None
        lit = rows.lit
        words = rows.model.words
        self.full_share = float(rows.throttled[lit].mean()) if lit.any() else 0.0
        grey = np.array([word in (Sky.OVERCAST, Sky.RAIN) for word in words])
        self.grey_share = float(grey[lit].mean()) if lit.any() else 0.0
        self.noise = _noise(rows)
        self.at_top = float(rows.at_top[lit].mean()) if lit.any() else 0.0

    def sound(self) -> Terms:
        """With nothing wrong."""
        found: Terms = {}
        if self.bank is not None:
            line, capacity = self.bank.line, self.bank.bank.capacity_ah
            if line is not None:
                found["gain"] = _normal(line.gain - 1, float(np.hypot(GAIN, line.spread_gain)))
                found["offset"] = _normal(line.offset_a, self._offset_spread(capacity))
            first, last = self.bank.off_at_first, self.bank.off_at_last
            if first is not None:
                found["charge"] = _normal(first - OFF_MEAN, self._off(1.0))
            if first is not None and last is not None:
                found["turn"] = _normal(min(abs(last - first), 0.5), self._off(1.0))
            sag = self.bank.sag
            if sag is not None:
                found["sag"] = _normal(max(sag[0], 0.0), float(np.hypot(SAG_LN, sag[1])))
            said = self.bank.said_when_full
            if said is not None:
                found["said_full"] = _normal(min(said - 0.99, 0.0), SAID_FULL)
            top = self.bank.top_v
            if top is not None:
                found["top"] = _normal(float(np.log(top)), TOP_LN)
        calm, n = self.motor.median(~self.motor.chop)
        if n:
            found["motor"] = _normal(calm, float(np.hypot(MOTOR_LN, 0.06 / np.sqrt(n))))
        rough, n_rough = self.motor.median(self.motor.chop)
        if n_rough:
            off = rough - (calm if n else 0.0) - 0.03
            found["chop"] = _normal(off, float(np.hypot(CHOP_LN, 0.0 if n else MOTOR_LN)))
        return found

    @once
    def open_volts(self) -> tuple[float, float] | None:
        """Volts of panels that are held open, over the model's, and the light then; None where none were."""
        rows, s = self.rows, self.rows.strings
        open_now = rows.throttled & rows.still & (rows.over > OPEN_FRAC) & (s.light_w_per_m2 > 150)
        if open_now.sum() < 3:
            return None
        ratio = rows.log.pv_v[open_now] / s.open_v[open_now]
        return float(np.median(ratio)) - OPEN_MEAN, float(np.median(s.light_w_per_m2[open_now])) / 1000

    def open_term(self, drop: float) -> float:
        """How well open volts suit panels that lose so much of their volts to heat at full sun."""
        told = self.open_volts
        return 0.0 if told is None else _normal(told[0] + HEAT_OPEN * drop * told[1], OPEN_V)

    def _off(self, times: float) -> float:
        """Spread of what the meter of charge is off at rest."""
        assert self.bank is not None
        return float(np.hypot(OFF * times, 1.5 * self.bank.off_spread))

    def _offset_spread(self, capacity_ah: float) -> float:
        assert self.bank is not None and self.bank.line is not None
        return float(np.hypot(np.hypot(OFFSET_A, OFFSET_C * capacity_ah), self.bank.line.spread_a))

    def moved(self, condition: Condition) -> Terms:
        """The terms that a cause moves, in the place of the sound ones."""
        make: dict[Condition, Callable[[], Terms]] = {
            Condition.METER_GAIN: self._gain,
            Condition.METER_OFFSET: self._offset,
            Condition.SOC_DRIFT: self._drift,
            Condition.WEAK_CELL: self._weak,
            Condition.FOULING: self._fouled,
            Condition.VENTILATION: self._airy,
            Condition.CHARGE_PROFILE: self._profile,
        }
        return make[condition]() if condition in make else {}

    def _gain(self) -> Terms:
        line = None if self.bank is None else self.bank.line
        if line is None:
            return {"gain": -MOST_TERM}
        return {
            "gain": _over(line.gain - 1, GAINS, float(np.hypot(GAIN / 2, line.spread_gain))),
            "turn": -0.5,
        }

    def _offset(self) -> Terms:
        if self.bank is None or self.bank.line is None:
            return {"offset": -MOST_TERM}
        capacity = self.bank.bank.capacity_ah
        sizes = tuple(c * capacity for c in OFFSETS_C)
        spread = float(np.hypot(self.bank.line.spread_a, 0.1 * abs(self.bank.line.offset_a) + 0.02))
        return {
            "offset": _over(self.bank.line.offset_a, sizes, spread), "turn": -0.5, "charge": -0.5,
            "said_full": -0.5,
        }  # fmt: skip

    def _drift(self) -> Terms:
        if self.bank is None:
            return {"charge": -MOST_TERM}
        found: Terms = {}
        first = self.bank.off_at_first
        if first is not None:
            found["charge"] = _over(first - OFF_MEAN, DRIFTS, self._off(1.0))
            last = self.bank.off_at_last
            if last is not None:
                found["turn"] = _normal(min(abs(last - first), 0.5), self._off(2.5))
        said = self.bank.said_when_full
        if said is not None:
            found["said_full"] = _over(said - 0.99, tuple(d for d in DRIFTS if d < 0), 0.04)
        return found or {"charge": -MOST_TERM}

    def _weak(self) -> Terms:
        if self.bank is None:
            return {"sag": -MOST_TERM}
        found: Terms = {}
        sag = self.bank.sag
        if sag is not None:
            found["sag"] = _over(sag[0], SAGS_LN, float(np.hypot(SAG_LN, sag[1])))
        first, last = self.bank.off_at_first, self.bank.off_at_last
        if first is not None and last is not None:
            found["turn"] = _over(abs(last - first), TIRED, self._off(1.0))
        said = self.bank.said_when_full
        if said is not None and first is not None:
            found["said_full"] = _over(said - 0.99, tuple(-t for t in TIRED), 0.04)
        return found or {"sag": -MOST_TERM}

    def _fouled(self) -> Terms:
        calm, n = self.motor.median(~self.motor.chop)
        rough, n_rough = self.motor.median(self.motor.chop)
        if not n and not n_rough:
            return {"motor": -MOST_TERM}
        spread = float(np.hypot(MOTOR_LN, 0.06 / np.sqrt(max(n, n_rough))))
        found = {"motor": _over(calm if n else rough - 0.03, FOULED_LN, spread)}
        if n_rough and n:
            found["chop"] = _normal(rough - calm - 0.03, CHOP_LN)
        elif n_rough:
            found["chop"] = 0.0
        return found

    def _airy(self) -> Terms:
        calm, n = self.motor.median(~self.motor.chop)
        rough, n_rough = self.motor.median(self.motor.chop)
        if not n_rough:
            return {"chop": -MOST_TERM}
        return {"chop": _over(rough - (calm if n else 0.0), AIRY_LN, 1.5 * CHOP_LN)}

    def _profile(self) -> Terms:
        top = None if self.bank is None else self.bank.top_v
        if top is None:
            return {"top": -MOST_TERM}
        return {"top": _over(float(np.log(top)), TOPS_LN, 1.5 * TOP_LN), "said_full": -0.5}

    def of_nothing_wrong(self, condition: Condition) -> float:
        """How well the day suits one of the words for a sound boat."""
        full, grey = STEEP * (self.full_share - MUCH_FULL), STEEP * (self.grey_share - MUCH_CLOUD)
        noise = 2 * STEEP * (self.noise - MUCH_NOISE)
        wants_full = condition is Condition.FULL
        wants_grey = condition is Condition.OVERCAST
        wants_noise = condition is Condition.NOISY
        told = min(full if wants_full else -full, 0.0)
        if condition is not Condition.NOISY:
            told += min(grey if wants_grey else -grey, 0.0) if not wants_full else 0.0
        told += max(min(noise if wants_noise else -noise, 0.0), -MOST_TERM if wants_noise else -ASIDE)
        return max(told, -MOST_TERM)

    def aside(self) -> float:
        """What noise costs a fault."""
        return max(min(-2 * STEEP * (self.noise - MUCH_NOISE), 0.0), -ASIDE)


def _noise(rows: PanelRows) -> float:
    """Share of the rows that a device should have read in the light, and did not, or read wildly [-]."""
    log, model = rows.log, rows.model
    up = (model.track.elevation_deg > 5) & (rows.strings.best_w > 0)
    there = np.isfinite(log.pv_v) & up
    index = np.flatnonzero(there)
    if len(index) < 4 or np.median(np.diff(index)) > 1:
        return 0.0  # read by hand
    gaps = 1 - there.sum() / max(up.sum(), 1)
    dark = (model.track.elevation_deg < -6) & np.isfinite(log.pv_a)
    wild = float(np.mean(np.abs(log.pv_a[dark]) > 0.5)) if dark.any() else 0.0
    return float(gaps + wild)
