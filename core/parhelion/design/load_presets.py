"""Usual house loads, to start from."""

from __future__ import annotations

from parhelion.quantities import Frozen


class LoadPreset(Frozen):
    """A usual house load, to start from."""

    name: str
    power_w: float
    hours_per_day: float
    essential: bool = False
    inverter_efficiency: float | None = None


INVERTER = 0.88
LOAD_PRESETS: tuple[LoadPreset, ...] = (  # docs/methods/house.md
    LoadPreset(name="Navigation lights", power_w=8, hours_per_day=4, essential=True),
    LoadPreset(name="Anchor light", power_w=3, hours_per_day=9, essential=True),
    LoadPreset(name="Radio, listening", power_w=6, hours_per_day=8, essential=True),
    LoadPreset(name="Instruments and plotter", power_w=14, hours_per_day=8, essential=True),
    LoadPreset(name="Autopilot", power_w=30, hours_per_day=6, essential=True),
    LoadPreset(name="Bilge pump", power_w=45, hours_per_day=0.1, essential=True),
    LoadPreset(name="Cabin lights", power_w=12, hours_per_day=4),
    LoadPreset(name="Fridge, small", power_w=45, hours_per_day=9),
    LoadPreset(name="Fridge, large, or a freezer", power_w=70, hours_per_day=11),
    LoadPreset(name="Water pump", power_w=60, hours_per_day=0.3),
    LoadPreset(name="Phones and tablets", power_w=15, hours_per_day=4),
    LoadPreset(name="Laptop", power_w=45, hours_per_day=3),
    LoadPreset(name="Fan", power_w=12, hours_per_day=8),
    LoadPreset(name="Heater fan and pump", power_w=35, hours_per_day=6),
    LoadPreset(name="Kettle, low-watt", power_w=600, hours_per_day=0.3, inverter_efficiency=INVERTER),
    LoadPreset(name="Induction plate", power_w=1400, hours_per_day=0.7, inverter_efficiency=INVERTER),
    LoadPreset(name="Microwave", power_w=1100, hours_per_day=0.2, inverter_efficiency=INVERTER),
    LoadPreset(name="Water maker", power_w=350, hours_per_day=1),
)
