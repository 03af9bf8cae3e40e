"""Meters compared: two sources of one quantity over an outing, and the shunt against the balance."""

from __future__ import annotations

from itertools import combinations

import numpy as np
from numpy.typing import NDArray

from parhelion.design import BoatDesign
from parhelion.design.logbook import NO_LOGBOOK, Logbook
from parhelion.diagnosis.day_bank import BankRows
from parhelion.meters.compared import compared
from parhelion.quantities import Sentence, ratio, sentence, words
from parhelion.stations.log.learned import times_of
from parhelion.stations.log.outing_day import OutingDay, book_of, outing_day, outing_diagnosis
from parhelion.stations.log.shown import MetersPicture, MetersShown

Array = NDArray[np.float64]

COMPARED = {
    "pv_w": "from the panels, W",
    "bank_v": "bank, V",
    "bank_a": "bank, A",
    "charge_frac": "charge",
    "motor_w": "motor, W",
    "speed_mps": "speed",
    "ground_mps": "over the ground",
}
LEAST_PAIRS, SHOWN_POINTS = 8, 200
AGREE = 0.01


def _words(
    gain: float | None, low: float, high: float, offset: float | None, ratio_of: float, a: str, b: str
) -> Sentence:
    if gain is None:
        return sentence(
            f"{b} reads {{r}} of {a} on the mean; these readings tell no more.", r=times_of(ratio_of)
        )
    if low <= 1 <= high:
        return sentence(
            f"{a} and {b} agree: {{g}} ({{l}} to {{h}}).", g=times_of(gain), l=times_of(low), h=times_of(high)
        )
    more = "more" if gain > 1 else "less"
    return sentence(
        f"{b} reads {{g}} of {a} ({{l}} to {{h}}), {more}. The balance from full to full tells which is "
        "right.",
        g=times_of(gain),
        l=times_of(low),
        h=times_of(high),
    )


def _pairs(day: OutingDay) -> list[MetersShown]:
    found = []
    seconds = float(day.steps.step_s[0])
    for quantity, label in COMPARED.items():
        for a, b in combinations(day.rows.sources, 2):
            for part in (None, *day.rows.parts) if quantity == "pv_w" else (None,):
                x, y = day.rows.mean(quantity, part, a), day.rows.mean(quantity, part, b)
                both = np.isfinite(x) & np.isfinite(y)
                if both.sum() < LEAST_PAIRS:
                    continue
                found.append(_pair(quantity, label, a, b, x, y, seconds))
    return found


def _pair(quantity: str, label: str, a: str, b: str, x: Array, y: Array, seconds: float) -> MetersShown:
    both = np.isfinite(x) & np.isfinite(y)
    points = [(float(p), float(q)) for p, q in zip(x[both], y[both], strict=True)][:SHOWN_POINTS]
    means = float(np.mean(y[both])), float(np.mean(x[both]))
    simple = means[0] / means[1] if means[1] else 1.0
    try:
        told = compared(x, y, seconds)
    except ValueError:
        return MetersShown(
            quantity=quantity,
            label=label,
            a=a,
            b=b,
            gain=None,
            gain_low=None,
            gain_high=None,
            offset=None,
            lag_s=None,
            ratio=simple,
            ratio_low=simple,
            ratio_high=simple,
            samples=int(both.sum()),
            words=_words(None, 1, 1, None, simple, a, b),
            points=points,
        )
    low, high = told.gain_interval or (1.0, 1.0)
    return MetersShown(
        quantity=quantity,
        label=label,
        a=a,
        b=b,
        gain=told.gain,
        gain_low=None if told.gain is None else low,
        gain_high=None if told.gain is None else high,
        offset=told.offset,
        lag_s=told.lag_s,
        ratio=told.ratio,
        ratio_low=told.ratio_interval[0],
        ratio_high=told.ratio_interval[1],
        samples=told.samples,
        words=_words(told.gain, low, high, told.offset, told.ratio, a, b),
        points=points,
    )


def log_meters(design: BoatDesign, logbook: Logbook = NO_LOGBOOK, outing: str = "") -> MetersPicture:
    """Two sources of one quantity over an outing, and the shunt against the balance."""
    told = book_of(logbook).outing(outing)
    if told is None or not told.readings:
        return MetersPicture(
            pairs=[], balance_gain=None, balance_offset_a=None, words=sentence("Nothing is read.")
        )
    day, found = outing_day(design, told), outing_diagnosis(design, told)
    line = None
    if found is not None and found.rows is not None and day.design.bank is not None:
        line = BankRows(found.rows, day.design.bank).line
    if line is None:
        none = sentence("No shunt was read beside panels and motor: the balance cannot be drawn.")
        return MetersPicture(pairs=_pairs(day), balance_gain=None, balance_offset_a=None, words=none)
    low, high = line.gain - 1.96 * line.spread_gain, line.gain + 1.96 * line.spread_gain
    agrees = low - AGREE <= 1 <= high + AGREE
    text = (
        "The shunt follows the balance: {g} ({l} to {h}), {o} at rest."
        if agrees
        else "The shunt reads {g} of the balance ({l} to {h}), {o} at rest: one steady current through both "
        "meters, or a clamp, tells which is off."
    )
    return MetersPicture(
        pairs=_pairs(day),
        balance_gain=ratio(line.gain),
        balance_offset_a=line.offset_a,
        words=sentence(
            text, g=times_of(line.gain), l=times_of(low), h=times_of(high), o=words(f"{line.offset_a:+.1f} A")
        ),
    )
