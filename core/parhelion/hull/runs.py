"""Measured runs against the model: one Bayesian fit, its band narrowing with every honest run.

The model's watts are scaled by exp(level + wave x wave_share), both unknowns with a prior as wide as the
model is wrong out of the box: the true power lies within x 1.5 of it for nine boats of ten. The prior's
correlation keeps that band nearly even from slow (all friction) to fast (nearly all waves).

References
----------
[1] A. Gelman et al., "Bayesian Data Analysis", 3rd ed., ch. 14: regression with a normal prior.
"""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import ArrayLike, NDArray
from scipy.special import stdtrit

from parhelion.design import MeasuredRun

Array = NDArray[np.float64]

Z_90 = 1.6449  # two-sided 90 % of a normal
LEVEL_SD = np.log(1.5) / Z_90  # the prior band: P/1.5 to 1.5 P for 9 boats of 10
WAVE_SD = 0.25  # how wrong the wave share may be, in ln; with RUN_SD gives 23 / 10 / 7 % for 1 / 3 / 6 runs
RUN_SD = 0.07  # of ln P for a steady both-way run: meter, speed reading, steadiness
RUN_SD_WORTH = 1  # that guess counts as much as this many runs: the band is Student's t of n + 1
UNKNOWN_CURRENT_MPS = 0.10  # [m/s] one sigma of the stream a one-way run cannot see (0.2 kn)
POWER_EXPONENT = 3.0  # watts go with about the cube of speed
ENOUGH_RUNS = 3
OUTLIER_SD = 2.5  # of a run's own sigma


@dataclass(frozen=True, eq=False)
class Fit:
    """The fitted correction to the model's ln P, with its covariance, shape (2,) and (2, 2)."""

    mean: Array
    covariance: Array
    runs: int
    residuals: Array  # ln(measured / fitted), shape (runs,)
    disagreement: float  # scatter of the runs over what honest runs scatter; above 2 they contradict
    sd: Array  # one sigma of ln P of each run by itself, shape (runs,)

    @property
    def outliers(self) -> NDArray[np.bool_]:
        """Runs farther off than honest ones go; with fewer than three nobody can tell, shape (runs,)."""
        far = np.abs(self.residuals) > OUTLIER_SD * self.sd
        return far if self.runs >= ENOUGH_RUNS else np.zeros(self.runs, dtype=bool)

    def factor(self, wave_share: ArrayLike) -> Array:
        """What the model's watts are multiplied by, for wave shares of any shape [-]."""
        return np.exp(self._rows(wave_share) @ self.mean)

    def band_factor(self, wave_share: ArrayLike) -> Array:
        """Half width of the 90 % band as a factor above 1, for wave shares of any shape [-]."""
        rows = self._rows(wave_share)
        widths = np.sqrt(np.einsum("...i,ij,...j->...", rows, self.covariance, rows))
        return np.exp(self._quantile * widths)

    @property
    def _quantile(self) -> float:
        """Of the two-sided 90 %: normal for the prior, Student's t once it leans on few runs."""
        return float(stdtrit(self.runs + RUN_SD_WORTH, 0.95)) if self.runs else Z_90

    @staticmethod
    def _rows(wave_share: ArrayLike) -> Array:
        share = np.asarray(wave_share, dtype=float)
        return np.stack([np.ones_like(share), share], axis=-1)


def prior(widened: float = 1.0) -> tuple[Array, Array]:
    """Mean and covariance before any run, shapes (2,) and (2, 2).

    Parameters
    ----------
    widened : float
        How many times as wide in ln P, for a hull far outside what its model was made from [-].
    """
    covariance = -0.5 * WAVE_SD**2
    spread = np.array([[LEVEL_SD**2, covariance], [covariance, WAVE_SD**2]])
    return np.zeros(2), widened**2 * spread


def run_sd(speed_mps: ArrayLike, both_ways: ArrayLike) -> Array:
    """One sigma of ln P of a run: a one-way run adds what an unseen stream does to its speed [-]."""
    stream = POWER_EXPONENT * UNKNOWN_CURRENT_MPS / np.asarray(speed_mps, dtype=float)
    return np.hypot(RUN_SD, np.where(both_ways, 0.0, stream))


def span_sd(run: MeasuredRun) -> float:
    """One sigma of ln P that a run noted as a span of speeds and watts adds [-]: even over the span."""
    watts = speed = 0.0
    if run.power_w is not None and run.power_to_w is not None:
        watts = np.log(run.power_to_w / run.power_w)
    if run.speed_to_mps is not None and run.back_speed_mps is None:
        speed = POWER_EXPONENT * np.log(run.speed_to_mps / run.speed_mps)
    return float(np.hypot(watts, speed) / np.sqrt(12))


def fit(
    measured_w: ArrayLike, model_w: ArrayLike, wave_share: ArrayLike, sd: ArrayLike, widened: float = 1.0
) -> Fit:
    """Weighted least squares of ln(measured/model) with the prior's covariance [1].

    Parameters
    ----------
    measured_w, model_w : array_like, shape (n,)
        Battery watts of the runs, and of the model at the same speeds and loads, less the idle draw [W].
    wave_share, sd : array_like, shape (n,)
        Share that waves make of the model's resistance there [-]; one sigma of ln P of each run [-].
    widened : float
        Of the prior, as in `prior`.

    Returns
    -------
    Fit
        With n = 0 the prior itself.
    """
    mean, covariance = prior(widened)
    measured = np.asarray(measured_w, dtype=float)
    if measured.size == 0:
        return Fit(mean, covariance, 0, np.empty(0), 0.0, np.empty(0))
    target = np.log(measured / np.asarray(model_w, dtype=float))
    rows = Fit._rows(wave_share)
    sigma = np.asarray(sd, dtype=float)

    def posterior(scale: float) -> tuple[Array, Array]:
        weighted: Array = rows / (scale * sigma[:, None]) ** 2
        precision = np.linalg.inv(covariance) + rows.T @ weighted
        spread: Array = np.asarray(np.linalg.inv(precision), dtype=np.float64)
        return spread @ (weighted.T @ target), spread

    centre, _ = posterior(1.0)
    scatter = (target - rows @ centre) / sigma
    freedom = max(measured.size - 1, 1)
    disagreement = float(np.sqrt(np.sum(scatter**2) / freedom)) if measured.size > 1 else 0.0
    centre, spread = posterior(max(1.0, disagreement))
    return Fit(centre, spread, measured.size, target - rows @ centre, disagreement, sigma)


def with_one_more(fitted: Fit, wave_share: float, sd: float) -> Fit:
    """The fit's band with one more run of that wave share and sigma; its centre stays."""
    scale = max(1.0, fitted.disagreement)
    row = np.array([1.0, wave_share])
    precision = np.linalg.inv(fitted.covariance) + np.outer(row, row) / (scale * sd) ** 2
    spread: Array = np.asarray(np.linalg.inv(precision), dtype=np.float64)
    return replace(fitted, covariance=spread, runs=fitted.runs + 1)
