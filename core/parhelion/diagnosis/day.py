"""The likely causes behind a day's readings, in their order, with their odds and the one check.

References
----------
[1] Each cause says what every kind of evidence should show: the panels' amps and volts by hour, the balance
    at the bank, volts at rest, sag, what the meter of charge said when the bank was full, watts at speed. A
    log likelihood for each, every term cut so that one cannot outvote the rest; sizes averaged over; times
    how often a cause is met at all. Spreads are from logs whose truth is known (docs/methods/log.md).
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from parhelion.design import BoatDesign
from parhelion.diagnosis.conditions import CHECKS, NOTHING_WRONG, PRIOR, Condition
from parhelion.diagnosis.day_causes import OF_PANELS, panel_causes
from parhelion.diagnosis.day_evidence import MOST_TERM, Evidence
from parhelion.diagnosis.day_model import Around, DayLog, DayModel, day_model
from parhelion.diagnosis.day_panels import PanelRows, Shown
from parhelion.diagnosis.inputs import Input

Array = NDArray[np.float64]

EITHER = 0.25  # odds of the second over the first, from which both are named

SHORT_OFTEN = 12.0  # times, with all rows short of the bank by the design itself
UNSEEN = 0.15  # of its odds, for what only volts tell where none were read
TOLD_BY_VOLTS = (Condition.HOT, Condition.HIGH_RESISTANCE, Condition.NOT_TRACKING, Condition.REVERSED)
COLD_OFTEN = 10.0  # times its usual odds, in frost
CLEARS_C, CLEARS_SPREAD_C = 1.5, 2.5  # the air when a bank has warmed


@dataclass(frozen=True)
class Likely:
    """A cause with its odds among all that were thought of, and what speaks for or against it."""

    condition: Condition
    odds: float
    size: float
    span: tuple[int, int] | None  # the rows it lasts; None: all day
    terms: dict[str, float]  # log-likelihood by evidence, 0 where it fits best

    @property
    def fault(self) -> bool:
        return self.condition not in NOTHING_WRONG

    @property
    def check(self) -> str:
        return CHECKS[self.condition]


@dataclass(frozen=True, eq=False)
class Diagnosis:
    """What a day's readings mean."""

    model: DayModel
    rows: PanelRows | None
    ranked: tuple[Likely, ...]

    @property
    def first(self) -> Likely:
        return self.ranked[0]

    @property
    def either(self) -> tuple[Likely, ...]:
        """Those that are nearly as likely as the first."""
        return tuple(one for one in self.ranked[1:3] if one.odds > EITHER * self.first.odds)


def _prior(condition: Condition, rows: PanelRows, fit: Fitted) -> float:
    prior, model = PRIOR[condition], rows.model
    if condition is Condition.PV_BELOW_BANK:
        short = fit.shown.volts > rows.strings.best_v
        prior *= 1 + SHORT_OFTEN * float(short[rows.lit].mean())
    if rows.no_volts and condition in TOLD_BY_VOLTS:
        prior *= UNSEEN
    if condition is Condition.COLD_BLOCK and float(np.min(model.air_c)) < 0.0:
        prior *= COLD_OFTEN
    return float(np.log(prior))


def _weights(condition: Condition, causes: list[Fitted], model: DayModel) -> Array:
    """How likely each size of a cause is, adding up to 1."""
    if condition is Condition.COLD_BLOCK:
        air = np.array([model.air_c[int(cause.size)] for cause in causes])
        last = np.array([cause.size == causes[-1].size for cause in causes])
        wide = (air - CLEARS_C) / CLEARS_SPREAD_C
        weights = np.exp(-0.5 * np.where(last, np.minimum(np.abs(wide), 1.5), wide) ** 2) + 1e-6
    else:
        weights = np.ones(len(causes))
    return np.asarray(weights / weights.sum())


def diagnosed(
    design: BoatDesign, log: DayLog, around: Around, inputs: tuple[Input, ...] | None = None
) -> Diagnosis:
    """What a day's readings mean [1].

    Parameters
    ----------
    design : BoatDesign
        As she was on that day.
    log : DayLog
    around : Around
    inputs : tuple of Input, optional
        Whose panels the log's are; all of them where it is not given.

    Returns
    -------
    Diagnosis
        Its causes are in their order; the odds add up to 1.
    """
    model = day_model(design, log, around, 0.0, inputs)
    if model.strings is None:
        return Diagnosis(model, None, ())
    rows = PanelRows(log, model, model.strings, around)
    evidence = Evidence(rows, design)
    fits = _fits(rows)
    best_a = max(fit.amps for found in fits.values() for fit in found)
    best_v = max(fit.volts for found in fits.values() for fit in found)
    sound = evidence.sound()
    told: list[tuple[float, Likely]] = []
    for condition, found in fits.items():
        terms = {**sound, **evidence.moved(condition)}
        weights = np.log(_weights(condition, found, model))
        each = np.array([_cut(fit.amps - best_a) + _cut(fit.volts - best_v) for fit in found]) + weights
        fit = found[int(np.argmax(each))]
        peak = float(each.max())
        heat = fit.size if condition is Condition.HOT else 0.0
        terms["open"] = evidence.open_term(heat)
        terms = {name: _cut(value) for name, value in terms.items()}
        total = peak + float(np.log(np.sum(np.exp(each - peak)))) + sum(terms.values())
        total += _beside(condition, evidence) + _prior(condition, rows, fit)
        terms |= {"amps": _cut(fit.amps - best_a), "volts": _cut(fit.volts - best_v)}
        told.append((total, Likely(condition, 0.0, fit.size, fit.span, terms)))
    top = max(total for total, _ in told)
    odds = [float(np.exp(total - top)) for total, _ in told]
    ranked = [replace(one, odds=share / sum(odds)) for share, (_, one) in zip(odds, told, strict=True)]
    return Diagnosis(model, rows, tuple(sorted(ranked, key=lambda one: -one.odds)))


def _cut(value: float) -> float:
    return max(value, -MOST_TERM)


class Fitted(NamedTuple):
    """How well the panels' amps and volts suit a cause at one size."""

    amps: float
    volts: float
    size: float
    span: tuple[int, int] | None
    shown: Shown


def _fits(rows: PanelRows) -> dict[Condition, list[Fitted]]:
    """Every cause at all its sizes; causes that the panels do not show fit as nothing wrong does."""
    s = rows.strings
    fits: dict[Condition, list[Fitted]] = {}
    for cause in panel_causes(rows):
        fitted = Fitted(
            rows.fit_amps(cause.shown), rows.fit_volts(cause.shown), cause.size, cause.span, cause.shown
        )
        fits.setdefault(cause.condition, []).append(fitted)
    plain = Shown(s.best_a, s.best_v, rows.throttled)
    sound = Fitted(rows.fit_amps(plain), rows.fit_volts(plain), 0.0, None, plain)
    for condition in Condition:
        if condition not in fits and condition not in OF_PANELS:
            fits[condition] = [sound]
    return fits


def _beside(condition: Condition, evidence: Evidence) -> float:
    """How well the day as a whole suits a cause: how much of it was full, grey, or lost."""
    if condition is Condition.FULL and not evidence.full_share:
        return -MOST_TERM
    if condition in NOTHING_WRONG:
        return evidence.of_nothing_wrong(condition)
    extra = evidence.aside()
    if condition in (Condition.PV_FUSE, Condition.REVERSED, Condition.COLD_BLOCK):
        extra -= MOST_TERM * evidence.at_top  # a bank that is charged nothing does not stand at its top
    return extra
