"""Panels solved cell by cell: every cell its own single diode with reverse breakdown, bypass diodes, strings.

A slow twin of the rule of substrings, from the library's cell model; nothing of the rule is in it.
"""

from __future__ import annotations

import numpy as np
from pvlib.singlediode import bishop88

AMPS = np.linspace(0.0, 8.0, 321)
FULL_A, DARK_A, SERIES_OHM, SHUNT_OHM, THERMAL_V = 6.95, 2.2e-9, 0.0045, 40.0, 1.1 * 0.02741
BREAKDOWN = {"breakdown_factor": 2e-3, "breakdown_voltage": -15.0, "breakdown_exp": 3.28}
BYPASS_V = -0.5


def cell_volts(suns: float) -> np.ndarray:
    """Volts of a cell at each of AMPS."""
    diode = np.concatenate([np.linspace(-14.95, 0, 400), np.linspace(0.002, 0.72, 400)])
    amps, volts, _ = bishop88(diode, FULL_A * suns, DARK_A, SERIES_OHM, SHUNT_OHM, THERMAL_V, **BREAKDOWN)
    return np.interp(AMPS, amps[::-1], volts[::-1])


def panel_volts(suns: np.ndarray, substring: np.ndarray) -> np.ndarray:
    """Volts of a panel at each of AMPS, from the light on its cells and the substring each is in."""
    known = {value: cell_volts(value) for value in np.unique(suns)}
    whole = np.zeros(len(AMPS))
    for number in np.unique(substring):
        volts = sum(known[value] for value in suns[substring == number])
        whole += np.maximum(volts, BYPASS_V)
    return whole


def series_w(panels: list[np.ndarray]) -> float:
    """Most power of panels in series."""
    return float((AMPS * sum(panels)).max())


def parallel_w(panels: list[np.ndarray]) -> float:
    """Most power of panels side by side at one volts."""
    volts = np.linspace(0, max(panel.max() for panel in panels), 800)
    amps = sum(np.interp(volts, panel[::-1], AMPS[::-1], left=AMPS[-1], right=0.0) for panel in panels)
    return float((volts * amps).max())
