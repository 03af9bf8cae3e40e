"""A panel as another single diode, with a shunt, made by hand and solved by bisection."""

from __future__ import annotations

from functools import cache

import numpy as np
from parhelion.panels.measured import Label
from parhelion.wiring.panel_volts import PanelVolts

K_PER_Q = 8.617333e-5
SHUNT_A = 0.005  # of the short amps, at the open volts


@cache
def usual() -> TwinPanel:
    """Sixty cells."""
    return TwinPanel(60, 39.0, 9.3, 0.77)


class TwinPanel:
    """Of so many cells; series resistance is what its fill factor asks for."""

    def __init__(self, cells: int, open_v: float, short_a: float, fill: float) -> None:
        self.cells, self.open, self.short, self.steep = cells, open_v, short_a, 1.12
        self.shunt = SHUNT_A * short_a / open_v
        low, high = 0.0, 0.4 * open_v / short_a
        for _ in range(30):
            self.ohm = (low + high) / 2
            if self.most_w(1000, 25) > fill * open_v * short_a:
                low = self.ohm
            else:
                high = self.ohm
        self.volts, self.best_amps = self.best(1000, 25)

    def label(self) -> Label:
        warm = (self.most_w(1000, 45) / self.most_w(1000, 25) - 1) / 20
        return Label(
            PanelVolts(self.open, self.short, self.volts, self.best_amps, -0.0029, warm, given=True), 0.0005
        )

    def amps(self, volts, light, cell_c, alive=1.0, more_ohm=0.0, lit=1.0, leak_s=0.0):
        """Amps at terminal volts, by bisection."""
        kelvin = cell_c + 273.15
        steep = self.steep * self.cells * alive * K_PER_Q * kelvin
        made = self.short * light * lit / 1000 * (1 + 0.0005 * (cell_c - 25))
        opened = self.open * alive * (1 - 0.0029 * (cell_c - 25))
        dark = self.short / np.expm1(opened / steep)
        shunt, ohm = self.shunt / alive + leak_s, self.ohm * alive + more_ohm
        v = np.atleast_1d(np.asarray(volts, dtype=float))
        low, high = np.full(len(v), -2.0 * self.short), np.full(len(v), 1.2 * made + 1e-6)
        for _ in range(48):
            a = (low + high) / 2
            inner = v + a * ohm
            more = made - dark * np.expm1(np.minimum(inner / steep, 300.0)) - inner * shunt > a
            low, high = np.where(more, a, low), np.where(more, high, a)
        return (low + high) / 2

    def open_v(self, light, cell_c, **faults):
        low, high = 0.0, 1.4 * self.open
        for _ in range(36):
            volts = (low + high) / 2
            if self.amps(volts, light, cell_c, **faults)[0] > 0:
                low = volts
            else:
                high = volts
        return (low + high) / 2

    def best(self, light, cell_c, **faults):
        """Volts and amps of most power, on a fine grid."""
        low, high = 0.3 * self.open, 1.05 * self.open
        for _ in range(3):
            volts = np.linspace(low, high, 25)
            amps = self.amps(volts, light, cell_c, **faults)
            at = int(np.argmax(volts * amps))
            low, high = volts[max(at - 1, 0)], volts[min(at + 1, 24)]
        return float(volts[at]), float(amps[at])

    def most_w(self, light, cell_c, **faults):
        volts, amps = self.best(light, cell_c, **faults)
        return volts * amps
