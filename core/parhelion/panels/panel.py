"""What a panel makes of the light on it.

References
----------
[1] D. Faiman, "Assessing the outdoor operating temperature of photovoltaic modules", Progress in
    Photovoltaics 16 (2008) 307-315.
[2] A.P. Dobos, "PVWatts version 5 manual", NREL/TP-6A20-62641 (2014).
"""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from parhelion.design import Ventilation
from parhelion.panels.plane import PlaneLight

Array = NDArray[np.float64]

# Faiman's U0 [W/m2/K] and U1 [W s/m3/K]: air on both sides [1]; lying on a deck, typical
HEAT_LOSS = {Ventilation.OPEN: (25.0, 6.84), Ventilation.ON_SURFACE: (15.0, 4.0)}
STANDARD_CELL_C = 25.0
STANDARD_LIGHT_W_PER_M2 = 1000.0


def cell_temperature_c(
    global_w_per_m2: Array, air_c: float | Array, wind_mps: float, ventilation: Ventilation
) -> Array:
    """Faiman's cell temperature [1], of the shape of the light [C]."""
    u0, u1 = HEAT_LOSS[ventilation]
    return air_c + global_w_per_m2 / (u0 + u1 * wind_mps)


def power_per_watt(
    light: PlaneLight,
    air_c: float | Array,
    wind_mps: float,
    ventilation: Ventilation,
    power_coefficient_per_k: float,
) -> Array:
    """DC power over nameplate by PVWatts [2], before system losses [W/W], of the shape of the light."""
    cell = cell_temperature_c(light.global_w_per_m2, air_c, wind_mps, ventilation)
    warm = 1 + power_coefficient_per_k * (cell - STANDARD_CELL_C)
    return np.maximum(light.effective_w_per_m2 / STANDARD_LIGHT_W_PER_M2 * warm, 0.0)
