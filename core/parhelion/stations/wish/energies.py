"""Watt-hours of what may lie on a place, read from its tables: sums over the days that a wish is asked of."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from parhelion.stations.wish.arrays import Option
from parhelion.stations.wish.ground import ends_at
from parhelion.stations.wish.held import Question
from parhelion.sun.skies import SKIES

Array = NDArray[np.float64]

HOURS = 24  # of a day: an ask's energy is summed until it ends, by the hours it lasts
MARKED = [SKIES.index(0.12), SKIES.index(0.42), SKIES.index(1.0)]  # skies by which arrays are told apart
MARK_HOURS = 8  # and parts of a day


class Energies(NamedTuple):
    """Of a mean day; of each moving ask's days, until it ends after so many hours, shape (days, HOURS); of
    all the days there are [Wh]."""

    mean_wh: float
    day_wh: tuple[Array, ...]
    whole_wh: float
    marks_w: Array  # watts at a few skies and hours of every month, out and at rest, one after the other

    def and_(self, other: Energies) -> Energies:
        days = tuple(a + b for a, b in zip(self.day_wh, other.day_wh, strict=True))
        return Energies(
            self.mean_wh + other.mean_wh, days, self.whole_wh + other.whole_wh, self.marks_w + other.marks_w
        )


class Energy:
    """Watt-hours of a day from an array's tables: sums with weights that the days give, the same for all."""

    def __init__(self, question: Question):
        self.mean: list[Array] = []  # by month, shape (12, 48)
        self.asks: list[list[Array]] = []  # by moving ask and month, shape (days, 12 x 48)
        self.days = [len(month.below) for month in question.months]
        moving = [n for n in question.runs if question.asks[n].moves]
        self.asks = [[] for _ in moving]
        self.ends: list[list[NDArray[np.int64]]] = [[] for _ in moving]
        for asked, month in zip(question.asked, question.months, strict=True):
            weights = _weights(month.below, month.share) * (24.0 / month.below.shape[1])
            self.mean.append(weights.mean(axis=0).reshape(len(SKIES), -1))
            for row, n in enumerate(moving):
                column = asked[:, question.runs.index(n)].copy()
                column[: month.warm] = False
                self.asks[row].append(weights[column])
                hours = np.arange(1, HOURS + 1)
                last = [min(ends_at(question.asks[n], month.day, float(h)), 24.0) for h in hours]
                step_h = 24.0 / month.below.shape[1]
                self.ends[row].append(np.ceil(np.array(last) / step_h).astype(int))

    def of(self, option: Option) -> Energies:
        """Of one option; those of several add up."""
        whole = [table.sum(axis=-1) for table in option.sun]  # (2, 12, 48)
        best = [np.maximum(table[0], table[1]) for table in whole]
        means = [float((weights * table).sum()) for weights, table in zip(self.mean, best, strict=True)]
        days = tuple(
            np.concatenate([
                _until(w, table[0], ends) for w, table, ends in zip(rows, whole, edges, strict=True)
            ])
            for rows, edges in zip(self.asks, self.ends, strict=True)
        )  # fmt: skip
        total = sum(mean * number for mean, number in zip(means, self.days, strict=True))
        marks = [table[:, MARKED].reshape(2, len(MARKED), MARK_HOURS, -1).mean(axis=-1) for table in whole]
        return Energies(float(np.mean(means)) if means else 0.0, days, total, np.ravel(marks))


def _until(weights: Array, table: Array, ends: NDArray[np.int64]) -> Array:
    """Of each day, the sun until each of so many ends, shape (days, HOURS) [Wh]; rounded up."""
    days, steps = len(weights), table.shape[1]
    by_step = (weights.reshape(days, len(SKIES), steps) * table).sum(axis=1)
    summed = np.concatenate([np.zeros((days, 1)), np.cumsum(by_step, axis=1)], axis=1)
    return np.asarray(summed[:, ends])


def _weights(below: NDArray[np.int64], share: Array) -> Array:
    """How much each entry of a table of skies by steps counts in each day's sum, shape (days, 12 x 48)."""
    days, steps = below.shape
    found = np.zeros((days, len(SKIES), steps))
    rows, columns = np.indices(below.shape)
    np.add.at(found, (rows, below, columns), 1 - share)
    np.add.at(found, (rows, below + 1, columns), share)
    return found.reshape(days, -1)
