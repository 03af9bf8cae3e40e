"""Conversion factors between the units people use and the SI units inside."""

from typing import Literal

SpeedUnit = Literal["kn", "km/h", "mph"]

MPS_PER_KNOT = 1852.0 / 3600.0
M_PER_NAUTICAL_MILE = 1852.0
KG_PER_POUND = 0.45359237
M_PER_FOOT = 0.3048
RAD_PER_S_PER_RPM = 0.10471975511965977  # 2 pi / 60
N_PER_POUND_FORCE = 4.4482216152605
M_PER_STATUTE_MILE = 1609.344
MPS_PER: dict[SpeedUnit, float] = {"kn": MPS_PER_KNOT, "km/h": 1 / 3.6, "mph": M_PER_STATUTE_MILE / 3600.0}
