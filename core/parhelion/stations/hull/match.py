"""Motor and propeller together: the open-water curve, where they work, and what would suit better."""

from __future__ import annotations

import numpy as np

from parhelion.balance.outlook import Outlook
from parhelion.drive.chain import screw_of
from parhelion.drive.match import constants
from parhelion.drive.propeller import open_water
from parhelion.finding import Finding, ordered
from parhelion.quantities import Frozen
from parhelion.stations.hull.drive_findings import drive_view, full_throttle, match_findings

POINTS = 61
ROWS = 7


class MatchRow(Frozen):
    """One speed: how the propeller and the motor turn."""

    speed_mps: float
    propeller_rpm: float
    shaft_w: float
    efficiency: float  # open water
    motor_a: float | None
    motor_v: float | None
    battery_w: float | None


class Better(Frozen):
    """A pitch and gear that suits better."""

    pitch_m: float
    gear_ratio: float
    battery_w: float
    saved_frac: float


class MatchPicture(Frozen):
    """The match view; `missing` says what is not known yet, and then the rest is empty."""

    missing: str | None = None
    drive_id: str | None = None
    advance: list[float] = []  # J
    thrust_coefficient: list[float] = []  # K_T
    torque_coefficient_x10: list[float] = []  # 10 K_Q
    efficiency: list[float] = []
    plan_advance: float | None = None
    plan_efficiency: float | None = None
    full_advance: float | None = None
    full_is: str | None = None  # what ends the climb at full throttle
    full_speed_mps: float | None = None
    rows: list[MatchRow] = []
    current_limit_a: float | None = None
    volts: float | None = None
    estimated: list[str] = []
    better: Better | None = None
    findings: list[Finding] = []


MISSING = (
    "Enter the propeller's diameter and pitch. With the motor's Kv, or its no-load speed, this view shows "
    "amps, volts, and the pitch and gear that would suit better."
)


def match_picture(outlook: Outlook) -> MatchPicture:
    """Everything the match view shows of a design."""
    view = drive_view(outlook)
    if view is None:
        return MatchPicture(missing=MISSING)
    curves = open_water(screw_of(view.drive))
    grid = np.linspace(0.0, curves.free_advance, POINTS)
    end = full_throttle(view)
    index = max(end[1] - 1, 0) if end else len(view.along.speed_mps) - 1
    top = min(float(view.along.speed_mps[index]), float(outlook.curve.speed_at(outlook.rated_w)))
    held = constants(view.drive, view.around)
    speeds = np.linspace(0.35, 1.0, ROWS) * top
    at = [int(np.argmin(np.abs(view.along.speed_mps - speed))) for speed in speeds]
    motor = view.along.motor
    rows = [
        MatchRow(
            speed_mps=float(view.along.speed_mps[i]),
            propeller_rpm=float(60 * view.along.turning.turns_per_s[i]),
            shaft_w=float(view.along.shaft_w[i]),
            efficiency=float(view.along.turning.efficiency[i]),
            motor_a=float(motor.current_a[i]) if motor else None,
            motor_v=float(motor.volts[i]) if motor else None,
            battery_w=float(motor.battery_w[i]) if motor and np.isfinite(motor.battery_w[i]) else None,
        )
        for i in sorted(set(at))
    ]
    found = view.suggestion
    limits = view.drive.motor
    return MatchPicture(
        drive_id=view.drive.id,
        advance=grid.tolist(),
        thrust_coefficient=curves.thrust_coefficient(grid).tolist(),
        torque_coefficient_x10=(10 * curves.torque_coefficient(grid)).tolist(),
        efficiency=curves.efficiency(grid).tolist(),
        plan_advance=float(view.plan.turning.advance[0]),
        plan_efficiency=float(view.plan.turning.efficiency[0]),
        full_advance=float(view.along.turning.advance[index]),
        full_is=end[0] if end else None,
        full_speed_mps=top,
        rows=rows,
        current_limit_a=limits.current_limit_a if limits else None,
        volts=(limits.volts or view.around.bank_v) if limits else None,
        estimated=list(held.estimated) if held else [],
        better=None if found is None else Better(
            pitch_m=found.pitch_m, gear_ratio=found.gear_ratio, battery_w=found.battery_w,
            saved_frac=found.saved_frac,
        ),
        findings=ordered(match_findings(view)),
    )  # fmt: skip
