"""The boat's demand curve: battery watts at each speed, with its band, and back from watts to speed.

Battery watts at V = service resistance x V / efficiency + the drive's idle draw, scaled by the fit to the
person's own runs. Never the house.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike, NDArray
from scipy.interpolate import PchipInterpolator

from parhelion.constants import GRAVITY_MPS2
from parhelion.design import BoatDesign
from parhelion.hull.resistance import service_resistance
from parhelion.hull.runs import Fit, fit, run_sd

Array = NDArray[np.float64]

CURVE_POINTS = 241
CURVE_TOP_FROUDE = 0.95  # the curve ends here; a displacement model says nothing beyond
LEAST_RUN_SHARE = 0.02  # a run's watts less the idle draw are held at this share of the run


@dataclass(frozen=True)
class DemandCurve:
    """Battery watts over speed, rising all the way; arrays of shape (CURVE_POINTS,)."""

    speed_mps: Array
    power_w: Array
    band_factor: Array  # 90 %: power / factor to power x factor
    wave_share: Array
    model_w: Array  # before the runs
    idle_w: float
    fit: Fit

    @property
    def top_speed_mps(self) -> float:
        return float(self.speed_mps[-1])

    def power_at(self, speed_mps: ArrayLike) -> Array:
        """Battery watts at a speed [W], any shape; nan beyond the curve's end."""
        return PchipInterpolator(self.speed_mps, self.power_w, extrapolate=False)(speed_mps)

    def band_at(self, speed_mps: ArrayLike) -> Array:
        """The 90 % band's factor at a speed [-], any shape."""
        return np.interp(np.asarray(speed_mps, dtype=float), self.speed_mps, self.band_factor)

    def speed_at(self, power_w: ArrayLike, band: float = 0.0) -> Array:
        """Speed that battery watts sustain [m/s], any shape: 0 below the idle draw, the curve's end above.

        Parameters
        ----------
        power_w : array_like
            Battery watts, any shape [W].
        band : float
            Where in the band to read: -1 the hungry end, 0 the curve, +1 the easy end.
        """
        drive = (self.power_w - self.idle_w) * self.band_factor**-band
        watts = np.asarray(power_w, dtype=float) - self.idle_w
        cube = np.cbrt(drive)  # nearly straight in speed, so that the interpolation is true
        return np.interp(np.cbrt(np.maximum(watts, 0.0)), cube, self.speed_mps)


def curve_speeds(design: BoatDesign) -> Array:
    """The speeds a curve is computed at [m/s], from rest to a Froude number of .95."""
    top = CURVE_TOP_FROUDE * np.sqrt(GRAVITY_MPS2 * design.hull.waterline_length_m)
    return np.linspace(0.0, top, CURVE_POINTS)


def _drive_watts(design: BoatDesign, speed: Array, displacement_kg: float | None) -> tuple[Array, Array]:
    resistance = service_resistance(design, speed, displacement_kg)
    slow, fast = design.efficiency, design.fast_efficiency
    efficiency = slow + (fast - slow) * resistance.planing_share
    return resistance.total_n * speed / efficiency, resistance.wave_share


def fit_runs(design: BoatDesign) -> Fit:
    """The model corrected by the design's measured runs, each against the model at its own load."""
    measured, model, share, sd = [], [], [], []
    for run in design.runs:
        speed = np.array([run.through_water_mps])
        watts, wave = _drive_watts(design, speed, run.displacement_kg)
        measured.append(max(run.power_w - design.idle_power_w, LEAST_RUN_SHARE * run.power_w))
        model.append(watts[0])
        share.append(wave[0])
        sd.append(run_sd(run.through_water_mps, run.back_speed_mps is not None))
    return fit(np.array(measured), np.array(model), np.array(share), np.array(sd))


def demand_curve(
    design: BoatDesign, displacement_kg: float | None = None, fitted: Fit | None = None
) -> DemandCurve:
    """The demand curve of a design.

    Parameters
    ----------
    design : BoatDesign
    displacement_kg : float, optional
        Another displacement than the design's [kg], for what-ifs.
    fitted : Fit, optional
        A fit already made; without it the design's own runs are fitted.

    Returns
    -------
    DemandCurve
    """
    fitted = fitted or fit_runs(design)
    speed = curve_speeds(design)
    model, share = _drive_watts(design, speed, displacement_kg)
    model = np.maximum.accumulate(model)
    drive = np.maximum.accumulate(model * fitted.factor(share))
    rising = drive + 1e-6 * speed  # strictly, so that it can be read backwards
    return DemandCurve(
        speed_mps=speed,
        power_w=rising + design.idle_power_w,
        band_factor=fitted.band_factor(share),
        wave_share=share,
        model_w=model + design.idle_power_w,
        idle_w=design.idle_power_w,
        fit=fitted,
    )
