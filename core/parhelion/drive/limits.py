"""How much a boat's drives take at most, and what sets it: the label, the amps, the volts or the bank."""

from __future__ import annotations

from enum import StrEnum
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from parhelion.design import BoatDesign
from parhelion.drive.chain import Chain, rated_battery_w, surroundings_of

Array = NDArray[np.float64]


class Limited(StrEnum):
    """What sets the most a drive takes."""

    RATING = "rating"
    THRUST = "thrust"
    CURRENT = "current"
    VOLTS = "volts"
    BANK = "bank"


class DriveLimit(NamedTuple):
    """Most battery watts of all drives together, and what sets them."""

    power_w: float
    by: Limited


def drive_limit(design: BoatDesign, chains: list[Chain], power_w: Array) -> DriveLimit:
    """The most the drives take on a boat's demand curve.

    Parameters
    ----------
    design : BoatDesign
    chains : list of Chain
        The drives at work along the curve.
    power_w : ndarray, shape (n,)
        The curve's battery watts.

    Returns
    -------
    DriveLimit
        Motors with constants are held to their controller's amps and their bank's volts, a bank to the
        discharge current its maker gives.
    """
    around = surroundings_of(design)
    rated = sum(rated_battery_w(drive, around) for drive in design.drives)
    found = [DriveLimit(rated, Limited.RATING)]
    if design.bank is not None and design.bank.discharge_limit_a is not None:
        found.append(DriveLimit(design.bank.discharge_limit_a * design.bank.nominal_v, Limited.BANK))
    for drive, made in zip(design.drives, chains, strict=True):
        if drive.motor is None or made.motor is None:
            continue
        volts = drive.motor.volts or around.bank_v
        checks = [(made.motor.volts > volts, Limited.VOLTS)]
        if drive.motor.current_limit_a is not None:
            checks.append((made.motor.current_a > drive.motor.current_limit_a, Limited.CURRENT))
        for over, by in checks:
            first = np.flatnonzero(over)
            if first.size:
                found.append(DriveLimit(float(power_w[max(first[0] - 1, 0)]), by))
    return min(found)
