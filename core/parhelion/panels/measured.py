"""A panel under a load: the curve through measured points, turned to standard conditions, against its label.

References
----------
[1] Single diode with series and shunt resistance, fitted by least squares with weak priors: ideality and
    series resistance about those that the label's own three points imply, shunt about a sound panel's. Open
    volts and short amps of a panel hardly need priors; the knee, of few noisy points, does.
[2] To 1000 W/m2 and 25 C by the diode: light amps with the light, open volts by their coefficient and the
    diode's logarithm of the light, resistances kept. What the light is known to is what standard watts and
    amps are known to; fill factor and open volts hardly ask, and judge first.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray
from scipy.optimize import least_squares

from parhelion.design.part import Choice
from parhelion.wiring.held import diode_of
from parhelion.wiring.panel_volts import STANDARD_C, PanelVolts

Array = NDArray[np.float64]

FULL_W_PER_M2 = 1000.0
AMPS_NOISE, AMPS_FLOOR, VOLTS_NOISE = 0.007, 0.002, 0.003  # of the amps, of the short amps, of the open volts
SHUNT_A_FRAC = 0.004  # of the short amps, lost over the shunt at the best volts of a sound panel
PRIOR_STEEP, PRIOR_SERIES, PRIOR_SHUNT = 0.08, 0.35, 0.8  # spreads of their logarithms
CURVE_POINTS = 81
NEWTONS = 9
LIGHT_KNOWN_FRAC = 0.05  # where nothing is said of how well the light is known
SUBSTRINGS = 3
SUBSTRING_WITHIN = 0.055  # open volts this near two thirds, or one, of the label's
FILL_LOW, SHUNT_HIGH, SERIES_HIGH = 0.93, 4.0, 2.0
WEAK_UNDER, STRONG_OVER = 0.90, 1.10  # of the label, past what the light is known to
OUT_OF_ORDER = 0.03  # of the short amps: a rise in amps with the volts that no panel makes
KNEE_STEP = 0.06  # of the short amps: points this far off one smooth curve show a step in it
MOST_FEW = 4  # points: no curve can be told from so few
DIM_W_PER_M2 = 200.0  # below it a curve says little of standard watts


class Verdict(Choice):
    """What a test says of a panel."""

    AS_LABELLED = "as_labelled", "as its label says"
    SUBSTRING_SHORTED = "substring_shorted", "a third of it is out"
    RESISTANCE = "high_resistance", "too much resistance"
    LEAK = "low_shunt", "it leaks"
    STEP = "shaded", "a step in its curve"
    LOW_CURRENT = "low_current", "too few amps"
    WEAK = "weak", "weaker than its label"
    STRONG = "above_label", "more than its label"
    CLOUD = "light_changed", "the light changed"


class Label(NamedTuple):
    """What the label says, at standard conditions."""

    panel: PanelVolts
    current_per_k: float = 0.0005

    @property
    def watts(self) -> float:
        return self.panel.best_v * self.panel.best_a

    @property
    def fill(self) -> float:
        return self.watts / (self.panel.open_v * self.panel.short_a)


@dataclass(frozen=True)
class Curve:
    """A single diode at one light and heat."""

    light_a: float
    open_v: float
    steep_v: float
    series_ohm: float
    shunt_s: float  # conductance [S]

    @property
    def dark_a(self) -> float:
        return (self.light_a - self.open_v * self.shunt_s) / np.expm1(self.open_v / self.steep_v)

    def amps(self, volts: Array | float) -> Array:
        """Amps at terminal volts, by Newton's method on the volts inside the series resistance [A]."""
        outer = np.asarray(volts, dtype=float)
        inner = np.minimum(outer + self.light_a * self.series_ohm, self.open_v)
        dark, top = self.dark_a, self.open_v * 1.05
        for _ in range(NEWTONS):
            blown = np.exp(np.minimum(inner / self.steep_v, 200.0))
            flows = self.light_a - dark * (blown - 1) - inner * self.shunt_s
            slope = 1 + self.series_ohm * (dark / self.steep_v * blown + self.shunt_s)
            step = (inner - flows * self.series_ohm - outer) / slope
            inner = np.minimum(inner - step, top)
        blown = np.exp(np.minimum(inner / self.steep_v, 200.0))
        return np.asarray(self.light_a - dark * (blown - 1) - inner * self.shunt_s)

    @property
    def short_a(self) -> float:
        return float(self.amps(0.0))

    def best(self) -> tuple[float, float]:
        """Volts and amps of most power."""
        volts = np.linspace(0.0, self.open_v, 400)
        watts = volts * self.amps(volts)
        at = int(np.argmax(watts))
        near = np.linspace(volts[max(at - 1, 0)], volts[min(at + 1, 399)], 60)
        amps = self.amps(near)
        best = int(np.argmax(near * amps))
        return float(near[best]), float(amps[best])

    def points(self) -> list[tuple[float, float]]:
        """Volts and amps to draw it by."""
        volts = np.linspace(0.0, self.open_v, CURVE_POINTS)
        return [(float(v), float(max(a, 0.0))) for v, a in zip(volts, self.amps(volts), strict=True)]


@dataclass(frozen=True)
class Tested:
    """What a bench test found."""

    curve: Curve  # as measured
    labelled: Curve  # what the label would give in the same light and heat
    test_best: tuple[float, float]
    short_a: float
    test_w: float
    fill: float
    standard_w: float | None  # None where the light is not known
    standard_open_v: float
    standard_short_a: float | None
    standard_spread: float  # of the standard watts, one spread [-]
    verdict: Verdict
    off: tuple[int, ...]  # points that fit no curve

    @property
    def share_of_label(self) -> float | None:
        """Standard watts over the label's [-]; None where the light is not known."""
        return None if self.standard_w is None else self.standard_w / self._label_w

    _label_w: float = 1.0


def _label_curve(label: Label, light: float, cell_c: float) -> Curve:
    """The label's own single diode at a light and heat, without a shunt."""
    diode = diode_of(label.panel, np.array(light), np.array(cell_c))
    light_a = float(diode.light_a) * (1 + label.current_per_k * (cell_c - STANDARD_C))
    return Curve(light_a, float(diode.open_v), float(diode.steep_v), diode.series_ohm, 0.0)


def _shorted(label: Label, open_v: float, light: float | None, cell_c: float) -> int:
    """Substrings that are out, as the open volts say."""
    full = _label_curve(label, light or FULL_W_PER_M2, cell_c).open_v
    share = open_v / full
    for out in range(1, SUBSTRINGS):
        if abs(share - (1 - out / SUBSTRINGS)) < SUBSTRING_WITHIN:
            return out
    return 0


def _fitted(volts: Array, amps: Array, prior: Curve, weights: Array) -> Curve:
    """The diode nearest the points, about a prior [1]."""
    short = max(float(amps.max()), 1e-6)
    opened = float(volts.max())

    def curve(x: Array) -> Curve:
        return Curve(
            float(x[0]) * short, float(x[1]) * opened, prior.steep_v * float(np.exp(x[2])),
            prior.series_ohm * float(np.exp(x[3])), prior.shunt_s * float(np.exp(x[4])),
        )  # fmt: skip

    def off(x: Array) -> Array:
        made = curve(x)
        step = 1e-3 * opened
        shown, after, before = made.amps(np.stack([volts, volts + step, volts - step]))
        slope = np.abs(after - before) / (2 * step)
        noise = np.hypot(AMPS_NOISE * np.abs(amps) + AMPS_FLOOR * short, slope * VOLTS_NOISE * opened)
        told = weights * (shown - amps) / noise
        priors = x[2:] / np.array([PRIOR_STEEP, PRIOR_SERIES, PRIOR_SHUNT])
        return np.concatenate([told, priors])

    start = np.array([1.005, 1.0, 0.0, 0.0, 0.0])
    low, high = [0.5, 0.8, -0.5, -3.0, -4.0], [2.0, 1.3, 0.5, 3.5, 5.0]
    return curve(np.asarray(least_squares(off, start, bounds=(low, high), loss="soft_l1").x))


def tested(
    label: Label, volts: Sequence[float], amps: Sequence[float], light_w_per_m2: float | None,
    cell_c: float, light_known_frac: float = LIGHT_KNOWN_FRAC,
) -> Tested:  # fmt: skip
    """A panel's curve from pairs of volts and amps, and what they say of it.

    Parameters
    ----------
    label : Label
    volts, amps : sequence of float, shapes alike
        Short amps (at no volts) and open volts (at no amps) at the least.
    light_w_per_m2 : float or None
        On the panel; None where it was not measured or estimated.
    cell_c : float
        Of the cells, or of the panel's back [C].
    light_known_frac : float
        One spread of the light [-].

    Raises
    ------
    ValueError
        Without a point near no volts and one near no amps.
    """
    v, a = np.asarray(volts, dtype=float), np.asarray(amps, dtype=float)
    order = np.argsort(v)
    v, a = v[order], a[order]
    opened, short = float(v.max()), float(a.max())
    if len(v) < 2 or not (v.min() < 0.5 * opened and a.min() < 0.5 * short):
        raise ValueError("a point near no volts and one near no amps at the least")
    out = _shorted(label, opened, light_w_per_m2, cell_c)
    alive = 1 - out / SUBSTRINGS
    light = light_w_per_m2 or FULL_W_PER_M2 * short / label.panel.short_a
    labelled = _label_curve(label, light, cell_c)
    prior = Curve(
        labelled.light_a, labelled.open_v * alive, labelled.steep_v * alive,
        max(labelled.series_ohm * alive, 1e-4), SHUNT_A_FRAC * short / max(0.8 * opened, 1e-6),
    )  # fmt: skip
    curve = _fitted(v, a, prior, np.ones(len(v)))
    best_v, best_a = curve.best()
    short_a = curve.short_a
    watts = best_v * best_a
    fill = watts / (curve.open_v * short_a)
    standard_open = _standard_open(label, curve, light, cell_c)
    warm = 1 + label.current_per_k * (cell_c - STANDARD_C)
    per_light = FULL_W_PER_M2 / light
    kelvin = (STANDARD_C + 273.15) / (cell_c + 273.15)
    standard = Curve(
        curve.light_a * per_light / warm, standard_open, curve.steep_v * kelvin, curve.series_ohm,
        curve.shunt_s,
    )  # fmt: skip
    at_v, at_a = standard.best()
    known = light_w_per_m2 is not None
    # how the fill of the label stands in the same light and heat, without what was measured
    whole_v, whole_a = labelled.best()
    usual_fill = whole_v * whole_a / (labelled.open_v * labelled.short_a)
    off = tuple(int(order[i]) for i in np.flatnonzero(np.abs(curve.amps(v) - a) > KNEE_STEP * short_a))
    spread = float(np.hypot(light_known_frac, 0.015 if len(v) > 4 else 0.03))
    return Tested(
        curve=curve, labelled=labelled, test_best=(best_v, best_a), short_a=short_a, test_w=watts, fill=fill,
        standard_w=at_v * at_a if known else None,
        standard_open_v=standard_open,
        standard_short_a=standard.short_a if known else None,
        standard_spread=spread,
        verdict=_verdict(label, v, a, curve, prior, out, fill / usual_fill, standard if known else None,
                         at_v * at_a, spread, off),
        off=off, _label_w=label.watts,
    )  # fmt: skip


def _standard_open(label: Label, curve: Curve, light: float, cell_c: float) -> float:
    """Open volts at standard conditions [2]: the label's own move from there to here, taken back."""
    here = _label_curve(label, light, cell_c).open_v
    return curve.open_v * label.panel.open_v / here


def _verdict(
    label: Label, volts: Array, amps: Array, curve: Curve, prior: Curve, out: int, fill_share: float,
    standard: Curve | None, standard_w: float, spread: float, off: tuple[int, ...],
) -> Verdict:  # fmt: skip
    short, many = curve.short_a, len(volts) > MOST_FEW
    leans = many and fill_share < FILL_LOW
    leaks = np.log(curve.shunt_s / prior.shunt_s / SHUNT_HIGH)
    holds = np.log(curve.series_ohm / prior.series_ohm / SERIES_HIGH)
    known = standard is not None
    told = (
        (Verdict.CLOUD, bool((np.diff(amps) > OUT_OF_ORDER * short).any())),
        (Verdict.SUBSTRING_SHORTED, out > 0),
        (Verdict.STEP, many and bool(off)),
        (Verdict.LEAK, leans and leaks > holds),
        (Verdict.RESISTANCE, leans),
        (
            Verdict.LOW_CURRENT,
            standard is not None and standard.short_a < label.panel.short_a * (WEAK_UNDER - spread),
        ),
        (Verdict.WEAK, known and standard_w < label.watts * (WEAK_UNDER - spread)),
        (Verdict.STRONG, known and standard_w > label.watts * (STRONG_OVER + spread)),
    )
    return next((verdict for verdict, so in told if so), Verdict.AS_LABELLED)
