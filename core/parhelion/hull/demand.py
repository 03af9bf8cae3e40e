"""The boat's demand curve: battery watts at each speed, with its band, and back from watts to speed.

Battery watts at V = what the drive takes to give the boat's resistance at V, scaled by the fit to the
person's own runs, + the drive's idle draw. Never the house.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import NamedTuple

import numpy as np
from numpy.typing import ArrayLike, NDArray
from scipy.interpolate import PchipInterpolator

from parhelion.computing.kept import once
from parhelion.constants import GRAVITY_MPS2
from parhelion.design import BoatDesign, MeasuredRun
from parhelion.design.reads import Reads, kept
from parhelion.drive.chain import Chain, available_thrust_n, chains_of, taken_w
from parhelion.drive.limits import DriveLimit, Limited, drive_limit
from parhelion.hull.resistance import ServiceResistance, service_resistance, widening
from parhelion.hull.runs import Fit, fit, run_sd, span_sd

Array = NDArray[np.float64]

CURVE_POINTS = 241
CURVE_TOP_FROUDE = 0.95  # the curve ends here; a displacement model says nothing beyond
WEATHER_SD = 0.5  # of what wind and waves change a run's watts by, in ln P: short chop is known to some half
LEAST_RUN_SHARE = 0.02  # a run's watts less the idle draw are held at this share of the run


@dataclass(frozen=True, eq=False)
class DemandCurve:
    """Battery watts over speed, rising all the way; arrays of shape (CURVE_POINTS,)."""

    speed_mps: Array
    power_w: Array
    band_factor: Array  # 90 %: power / factor to power x factor
    wave_share: Array
    model_w: Array  # before the runs
    thrust_power_w: Array  # resistance times speed
    idle_w: float
    limit: DriveLimit
    fit: Fit

    @property
    def top_speed_mps(self) -> float:
        return float(self.speed_mps[-1])

    @property
    def most_w(self) -> float:
        """Most battery watts the drives take: by label, thrust, amps or volts."""
        return self.limit.power_w

    def efficiency_at(self, speed_mps: float) -> float:
        """Battery to thrust at a speed, as the model has it, idle draw aside [-]."""
        model = float(np.interp(speed_mps, self.speed_mps, self.model_w)) - self.idle_w
        thrust = float(np.interp(speed_mps, self.speed_mps, self.thrust_power_w))
        return thrust / model if model > 0 else 0.0

    def power_at(self, speed_mps: ArrayLike) -> Array:
        """Battery watts at a speed [W], any shape; nan beyond the curve's end."""
        return self._between(speed_mps)

    @once
    def _between(self) -> PchipInterpolator:
        return PchipInterpolator(self.speed_mps, self.power_w, extrapolate=False)

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
        watts = np.asarray(power_w, dtype=float) - self.idle_w
        cube = self._cube if band == 0.0 else self._cube * self.band_factor ** (-band / 3)
        return np.interp(np.cbrt(np.maximum(watts, 0.0)), cube, self.speed_mps)

    @once
    def _cube(self) -> Array:
        """Of the drive's watts: nearly straight in speed, so that what is read between them is true."""
        return np.asarray(np.cbrt(self.power_w - self.idle_w))


def curve_speeds(design: BoatDesign) -> Array:
    """The speeds a curve is computed at [m/s], from rest to a Froude number of .95."""
    top = CURVE_TOP_FROUDE * np.sqrt(GRAVITY_MPS2 * design.hull.waterline_length_m)
    return np.linspace(0.0, top, CURVE_POINTS)


def _chains(design: BoatDesign, resistance: ServiceResistance, flat: bool = False) -> list[Chain]:
    return chains_of(design, resistance.total_n, resistance.speed_mps, resistance.planing_share, flat)


class RunModel(NamedTuple):
    """What the model says of a run's speed at its own load, in its own weather."""

    power_w: float  # drive watts; of a pair of ways the mean
    wave_share: float
    weather_share: float  # watts in its weather over those on flat water [-]


def _model_of_run(design: BoatDesign, run: MeasuredRun) -> RunModel:
    speed = np.array([run.through_water_mps])
    resistance = service_resistance(design, speed, run.displacement_kg, flat=True)
    flat = float(taken_w(_chains(design, resistance, flat=True))[0])
    share = float(resistance.wave_share[0])
    if not run.in_weather:
        return RunModel(flat, share, 1.0)
    ways = [0.0] if run.back_speed_mps is None else [0.0, 180.0]
    watts = []
    for turned in ways:
        weather = {
            "wind_mps": run.wind_mps,
            "wind_angle_deg": (run.wind_angle_deg + turned + 180) % 360 - 180,
            "wave_height_m": run.wave_height_m * max(np.cos(np.radians(run.wind_angle_deg + turned)), 0.0),
        }
        then = design.model_copy(update={"plan": design.plan.model_copy(update=weather), "tows": ()})
        watts.append(float(taken_w(_chains(then, service_resistance(then, speed, run.displacement_kg)))[0]))
    power = float(np.mean(watts))
    return RunModel(power, share, power / flat)


def fit_runs(design: BoatDesign, runs: tuple[MeasuredRun, ...] | None = None) -> Fit:
    """The model corrected by measured runs, each against the model at its own load.

    Parameters
    ----------
    design : BoatDesign
    runs : tuple of MeasuredRun, optional
        Those in use in the design where not given.
    """
    measured, model, share, sd = [], [], [], []
    for run in design.fitted_runs if runs is None else runs:
        made = _model_of_run(design, run)
        taken = run.battery_w
        measured.append(max(taken - design.idle_power_w, LEAST_RUN_SHARE * taken))
        model.append(made.power_w)
        share.append(made.wave_share)
        one = run_sd(run.through_water_mps, run.back_speed_mps is not None)
        sd.append(float(np.linalg.norm([one, span_sd(run), WEATHER_SD * np.log(made.weather_share)])))
    return fit(np.array(measured), np.array(model), np.array(share), np.array(sd), widening(design))


DEMAND_READS = Reads(
    "hull", "loading", "tows", "runs", "fitted_set", "drives", "banks", "panels", "panel_set", "strings",
    "places", "site.water", "plan.state", "plan.wind_mps", "plan.wind_angle_deg", "plan.wave_height_m",
)  # fmt: skip


@kept(DEMAND_READS, 32)
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
    resistance = service_resistance(design, speed, displacement_kg)
    thrust = resistance.total_n
    chains = _chains(design, resistance)
    model = np.maximum.accumulate(taken_w(chains))
    share = resistance.wave_share
    drive = np.maximum.accumulate(model * fitted.factor(share))
    rising = drive + 1e-6 * speed  # strictly, so that it can be read backwards
    power = rising + design.idle_power_w
    short = np.flatnonzero(thrust > available_thrust_n(design, speed))
    limit = drive_limit(design, chains, power)
    if short.size and power[max(short[0] - 1, 0)] < limit.power_w:
        limit = DriveLimit(float(power[max(short[0] - 1, 0)]), Limited.THRUST)
    return DemandCurve(
        speed_mps=speed,
        power_w=power,
        band_factor=fitted.band_factor(share),
        wave_share=share,
        model_w=model + design.idle_power_w,
        thrust_power_w=thrust * speed,
        idle_w=design.idle_power_w,
        limit=limit,
        fit=fitted,
    )
