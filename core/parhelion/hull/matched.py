"""The pitch and gear that would suit a boat's motor better, along her own resistance."""

from __future__ import annotations

import numpy as np

from parhelion.design import BoatDesign, Drive, Rating
from parhelion.drive.chain import rated_shaft_w, surroundings_of, thrust_shares
from parhelion.drive.match import BRISK_SHARE, WORTH_CHANGING, Suggestion, best_match, working
from parhelion.hull.demand import DemandCurve
from parhelion.hull.resistance import service_resistance


def propelled(design: BoatDesign) -> tuple[int, float] | None:
    """The first motor whose propeller is known, by its place in the list, and its share of the thrust."""
    shares = thrust_shares(design)
    for index, (drive, share) in enumerate(zip(design.drives, shares, strict=True)):
        if drive.propeller is not None and drive.rating is not Rating.THRUST:
            return index, share
    return None


def best_screw(design: BoatDesign, curve: DemandCurve, speed_mps: float) -> Suggestion | None:
    """The pitch and gear that take least at a speed, and that the motor still turns near its rating.

    Parameters
    ----------
    design : BoatDesign
    curve : DemandCurve
        Of the design: where the present propeller takes nearly the rated watts is read from it.
    speed_mps : float
        Through the water [m/s].

    Returns
    -------
    Suggestion or None
        None where no motor's constants and propeller are known.
    """
    found = propelled(design)
    if found is None or design.drives[found[0]].motor is None:
        return None
    drive, share, around = design.drives[found[0]], found[1], surroundings_of(design)
    speeds = curve.speed_mps[1:]
    thrust = curve.thrust_power_w[1:] / speeds * share
    shaft = working(drive, thrust, speeds, around).shaft_w
    brisk = int(np.argmin(np.abs(shaft - BRISK_SHARE * rated_shaft_w(drive, around))))
    asked = float(service_resistance(design, np.array([speed_mps])).total_n[0]) * share
    return best_match(drive, (asked, speed_mps), (float(thrust[brisk]), float(speeds[brisk])), around)


def with_screw(design: BoatDesign, found: Suggestion | None) -> tuple[Drive, ...] | None:
    """The motors with another pitch and gear; None where that is not worth a change."""
    at = propelled(design)
    if at is None or found is None or found.saved_frac < WORTH_CHANGING:
        return None
    drive = design.drives[at[0]]
    assert drive.propeller is not None
    turned = drive.propeller.model_copy(update={"pitch_m": found.pitch_m})
    other = drive.model_copy(update={"propeller": turned, "gear_ratio": found.gear_ratio})
    return (*design.drives[: at[0]], other, *design.drives[at[0] + 1 :])
