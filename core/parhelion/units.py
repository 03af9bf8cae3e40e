"""Conversion factors between the units people use and the SI units inside."""

MPS_PER_KNOT = 1852.0 / 3600.0
M_PER_NAUTICAL_MILE = 1852.0
KG_PER_POUND = 0.45359237
M_PER_FOOT = 0.3048
W_PER_HORSEPOWER = 745.69987158227022  # mechanical, 550 ft·lbf/s
