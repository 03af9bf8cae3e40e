"""Findings about motor, gear and propeller: one rule a function, each None where it has nothing to say."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from parhelion.balance.outlook import Outlook, remembered
from parhelion.design import Drive
from parhelion.drive.chain import Surroundings, rated_shaft_w, surroundings_of
from parhelion.drive.match import WORTH_CHANGING, Suggestion, Working, constants, working
from parhelion.drive.propeller import PITCH_RATIO
from parhelion.drive.ventilation import mean_thrust_left, tip_depth_m
from parhelion.finding import Finding
from parhelion.hull.matched import propelled
from parhelion.hull.resistance import service_resistance
from parhelion.quantities import (
    Why,
    amps,
    fraction,
    length,
    power,
    rpm,
    sentence,
    speed,
    volts,
    words,
)
from parhelion.rail.reasons import hull_why
from parhelion.rail.steps import better_screw, gear_words
from parhelion.stations.hull.motor_findings import (
    held_below_label,
    idling_along,
    motor_volts,
    optimistic_label,
)

Array = NDArray[np.float64]

LEAST_CLEARANCE = 0.15  # of the diameter, tips to hull
LEAST_TIP_DEPTH = 0.0  # [m] in the trough


@dataclass(frozen=True)
class DriveView:
    """The first drive with a propeller at the planned speed and along the curve, ready for the rules."""

    outlook: Outlook
    drive: Drive
    around: Surroundings
    along: Working  # over the curve's speeds
    plan: Working  # one value, at the planned speed
    thrust_n: float  # of this drive at the planned speed
    suggestion: Suggestion | None


@remembered
def drive_view(outlook: Outlook) -> DriveView | None:
    """The propelled drive of a design at work; None where no propeller is known."""
    design = outlook.design
    found = propelled(design)
    if found is None:
        return None
    drive, share = design.drives[found[0]], found[1]
    around = surroundings_of(design)
    speeds = outlook.curve.speed_mps[1:]
    thrust = outlook.curve.thrust_power_w[1:] / speeds * share
    at = np.array([outlook.plan_speed_mps])
    asked = service_resistance(design, at).total_n * share
    return DriveView(
        outlook, drive, around, working(drive, thrust, speeds, around), working(drive, asked, at, around),
        float(asked[0]), better_screw(outlook),
    )  # fmt: skip


def _why(view: DriveView, method: str) -> Why:
    return hull_why(view.outlook, method, doc="drive")


def _index(view: DriveView) -> int:
    return view.outlook.design.drives.index(view.drive)


def full_throttle(view: DriveView) -> tuple[str, int] | None:
    """What ends the motor's climb along the boat's curve first, and where on it.

    `labours` where the amps are reached before the volts, `overspeeds` where the volts run out before the
    rated watts. None without constants.
    """
    made, motor = view.along.motor, view.drive.motor
    held = constants(view.drive, view.around)
    if made is None or motor is None or held is None:
        return None
    rated = rated_shaft_w(view.drive, view.around)
    limits = {
        "labours": made.current_a > (motor.current_limit_a or np.inf),
        "overspeeds": made.volts > (motor.volts or held.battery_v),
        "rated": view.along.shaft_w > rated,
    }
    first = {name: int(np.argmax(over)) for name, over in limits.items() if over.any()}
    if not first:
        return None
    name = min(first, key=lambda key: first[key])
    return name, first[name]


def labours(view: DriveView) -> Finding | None:
    """The propeller is too much for the motor: amps before volts."""
    found = full_throttle(view)
    if found is None or found[0] != "labours" or view.drive.motor is None:
        return None
    at = max(found[1] - 1, 0)
    assert view.along.motor is not None
    limit = view.drive.motor.current_limit_a or 0.0
    return Finding(
        id="labours",
        level="warn",
        title=sentence(
            "The motor labours: {a} at {v}", a=amps(limit), v=speed(float(view.along.speed_mps[at]))
        ),
        detail=sentence(
            "It comes to its current limit at {u} of {full}: too much propeller. Less pitch or a lower gear "
            "lets it turn up.",
            u=volts(float(view.along.motor.volts[at])),
            full=volts(view.drive.motor.volts or view.around.bank_v),
        ),
        why=_why(view, "Torque of the propeller along the boat's curve over the motor's torque constant"),
        field=f"/drives/{_index(view)}/propeller/pitch_m",
    )  # fmt: skip


def overspeeds(view: DriveView) -> Finding | None:
    """The propeller is too little: the volts run out before the watts."""
    found = full_throttle(view)
    if found is None or found[0] != "overspeeds":
        return None
    at = max(found[1] - 1, 0)
    rated = rated_shaft_w(view.drive, view.around)
    return Finding(
        id="overspeeds",
        level="warn",
        title=sentence("The propeller lets it run away at {n}",
                       n=rpm(60 * float(view.along.turning.turns_per_s[at]))),
        detail=sentence(
            "The volts end at {v} with {w} of {rated} on the shaft: too little propeller. More pitch, or a "
            "gear nearer to direct.",
            v=speed(float(view.along.speed_mps[at])), w=power(float(view.along.shaft_w[at])),
            rated=power(rated),
        ),
        why=_why(view, "Volts that the propeller's revolutions ask, against the bank's"),
        field=f"/drives/{_index(view)}/propeller/pitch_m",
    )  # fmt: skip


def over_current(view: DriveView) -> Finding | None:
    """The speed that is asked takes more amps than the controller gives."""
    made, motor = view.along.motor, view.drive.motor
    asked_mps = view.outlook.design.plan.speed_mps
    if made is None or motor is None or motor.current_limit_a is None:
        return None
    asked = float(np.interp(asked_mps, view.along.speed_mps, made.current_a))
    if asked <= motor.current_limit_a:
        return None
    return Finding(
        id="over_current",
        level="warn",
        title=sentence("{a} asked, {limit} at most", a=amps(asked), limit=amps(motor.current_limit_a)),
        detail=sentence(
            "The planned {v} is beyond this motor's current limit with this propeller.", v=speed(asked_mps)
        ),
        why=_why(view, "Motor current: propeller torque over the torque constant"),
        field="/plan/speed_mps",
    )


def runs_hot(view: DriveView) -> Finding | None:
    """The planned speed is beyond what the motor may give all day."""
    motor = view.drive.motor
    if motor is None or motor.continuous_power_w is None:
        return None
    shaft = float(view.plan.shaft_w[0])
    if shaft <= motor.continuous_power_w:
        return None
    return Finding(
        id="runs_hot",
        level="warn",
        title=sentence("Hot: {w} of a {c} motor", w=power(shaft), c=power(motor.continuous_power_w)),
        detail=sentence("It may give that for minutes, not for hours. Go slower, or watch its temperature."),
        why=_why(view, "Shaft watts at the planned speed against the continuous rating"),
        field=f"/drives/{_index(view)}/motor/continuous_power_w",
    )


def ventilates(view: DriveView) -> Finding | None:
    """The blades come near the air in the trough of the waves."""
    propeller = view.drive.propeller
    assert propeller is not None
    waves = view.outlook.design.plan.wave_height_m
    depth = tip_depth_m(propeller, waves)
    left = mean_thrust_left(propeller, waves)
    if depth is None or (depth >= LEAST_TIP_DEPTH and left > 0.97):
        return None
    where = sentence(
        "Tips {d} under in the trough of {h} waves: it draws air and costs {x} more.",
        d=length(depth), h=length(waves), x=fraction(1 / left - 1),
    )  # fmt: skip
    return Finding(
        id="ventilates",
        level="warn" if left < 0.9 else "note",
        title=sentence("A shallow propeller draws air"),
        detail=where if depth >= 0 else sentence(
            "Tips come {d} out of the water in {h} waves: it draws air, races, and costs {x} more. Set it "
            "deeper, or smaller.",
            d=length(-depth), h=length(waves), x=fraction(1 / left - 1),
        ),
        why=_why(view, "Thrust left by immersion of the shaft over the radius, over a wave"),
        field=f"/drives/{_index(view)}/propeller/depth_m",
    )  # fmt: skip


def close_to_hull(view: DriveView) -> Finding | None:
    """Blade tips too near the hull."""
    propeller = view.drive.propeller
    assert propeller is not None
    if propeller.clearance_m is None or propeller.clearance_m >= LEAST_CLEARANCE * propeller.diameter_m:
        return None
    return Finding(
        id="close_to_hull",
        level="note",
        title=sentence("Blade tips {d} from the hull", d=length(propeller.clearance_m)),
        detail=sentence(
            "Under {x} of the diameter it drums and loses thrust: {least} is the usual least.",
            x=fraction(LEAST_CLEARANCE), least=length(LEAST_CLEARANCE * propeller.diameter_m),
        ),
        why=_why(view, "Usual tip clearance"),
        field=f"/drives/{_index(view)}/propeller/clearance_m",
    )  # fmt: skip


def better_match(view: DriveView) -> Finding | None:
    """A pitch and gear that takes less."""
    found = view.suggestion
    propeller = view.drive.propeller
    assert propeller is not None
    if found is None or found.saved_frac < WORTH_CHANGING:
        return None
    return Finding(
        id="better_match",
        level="note",
        title=sentence("Pitch {p}, {g}: {x} fewer watts", p=length(found.pitch_m),
                       g=words(gear_words(found.gear_ratio)), x=fraction(found.saved_frac)),
        detail=sentence(
            "At {v} the same {d} propeller would take {w} with that, within its amps and volts.",
            v=speed(view.outlook.plan_speed_mps), d=length(propeller.diameter_m), w=power(found.battery_w),
        ),
        why=_why(view, "Every pitch of the series and every usual gear, turned by this motor"),
        field=f"/drives/{_index(view)}/propeller/pitch_m",
    )  # fmt: skip


def outside_series(view: DriveView) -> Finding | None:
    """A pitch outside what the propeller series holds."""
    propeller = view.drive.propeller
    assert propeller is not None
    low, high = PITCH_RATIO
    if low <= propeller.pitch_ratio <= high:
        return None
    return Finding(
        id="outside_series",
        level="note",
        title=sentence("Outside the propeller series"),
        detail=sentence(
            "Pitch over diameter is {x} (made for {a} to {b}): the curve is carried on beyond what was "
            "measured.",
            x=words(f"{propeller.pitch_ratio:.2f}"), a=words(f"{low:g}"), b=words(f"{high:g}"),
        ),
        why=_why(view, "Range of the B-series"),
        field=f"/drives/{_index(view)}/propeller/pitch_m",
    )  # fmt: skip


def estimated_motor(view: DriveView) -> Finding | None:
    """Constants that were estimated."""
    held = constants(view.drive, view.around)
    if held is None or not held.estimated:
        return None
    return Finding(
        id="estimated_motor",
        level="note",
        title=sentence("Motor constants estimated: {what}", what=words(", ".join(held.estimated))),
        detail=sentence(
            "From volts, no-load speed and amps, and its rating: good to a tenth or so. Published constants "
            "come first."
        ),
        why=_why(view, "Usual losses of such motors at full load"),
        field=f"/drives/{_index(view)}/motor/kv_rpm_per_v",
    )


def match_findings(view: DriveView | None) -> list[Finding | None]:
    """Everything that motor and propeller tell."""
    if view is None:
        return []
    return [
        labours(view), overspeeds(view), over_current(view), runs_hot(view), ventilates(view),
        close_to_hull(view), better_match(view), outside_series(view), estimated_motor(view),
    ]  # fmt: skip


def drive_findings(outlook: Outlook, view: DriveView | None) -> list[Finding | None]:
    """What the Hull station says of the drive."""
    return [
        motor_volts(outlook), held_below_label(outlook), optimistic_label(outlook), idling_along(outlook),
        *match_findings(view),
    ]  # fmt: skip
