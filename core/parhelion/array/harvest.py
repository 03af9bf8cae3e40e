"""What the array sends to the bank: every panel group through its controller, loss by named loss."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from parhelion.array.panel import power_per_watt
from parhelion.array.plane import PlaneLight, plane_light
from parhelion.array.shaded import facing_deg, headings_of, panel_light, shaded_panels, tilt_of
from parhelion.design import BoatDesign, PanelGroup, Place
from parhelion.memo import Memo
from parhelion.sun.climate import usual_air_temperature_c
from parhelion.sun.light import Light

Array = NDArray[np.float64]


@dataclass(frozen=True)
class Harvest:
    """Watts of members x steps, shape (n, 144): what the panels feed in and where it goes before the bank."""

    array_w: Array  # at the controllers' inputs
    conversion_w: Array  # lost in the controllers
    clipped_w: Array  # above the controllers' current limits
    sun_w: Array  # at the banks' terminals
    by_bank_w: Array  # the same by bank: the main one's, the house's own; shape (n, 144, 2)
    groups_w: dict[str, Array]  # at the bank's terminals, by panel group

    def member(self, index: int) -> Harvest:
        """One member alone, shape (1, 144)."""
        rows = slice(index, index + 1)
        return Harvest(
            self.array_w[rows],
            self.conversion_w[rows],
            self.clipped_w[rows],
            self.sun_w[rows],
            self.by_bank_w[rows],
            {key: watts[rows] for key, watts in self.groups_w.items()},
        )


_per_watt: Memo[Array] = Memo(160)


def air_temperature_c(design: BoatDesign) -> float:
    """The plan's air temperature, or a usual one for the place and date [C]."""
    given = design.plan.air_temperature_c
    return usual_air_temperature_c(design.site.latitude_deg, design.plan.date) if given is None else given


def _azimuths(design: BoatDesign, place: Place) -> tuple[float, ...]:
    """The true bearings a place faces: one, or several when the heading is not known."""
    if tilt_of(place) == 0:
        return (0.0,)
    return tuple(facing_deg(place, heading) for heading in headings_of(design))


def group_power_per_watt(design: BoatDesign, light: Light, group: PanelGroup) -> Array:
    """DC power over nameplate of one panel group, before system losses, shape (n, 144) [W/W]."""
    place = design.place(group.place_id)
    air, wind = air_temperature_c(design), design.plan.wind_mps
    tilt = tilt_of(place)
    behind = tuple(shaded_panels(design, group))
    turned = headings_of(design) if behind else _azimuths(design, place)
    key = (
        light.key, tilt, turned, place.ventilation, group.power_coefficient_per_k, air, wind, behind,
        place.faces, design.obstacles if behind else (),
    )  # fmt: skip

    def watts(lit: PlaneLight) -> Array:
        return power_per_watt(lit, air, wind, place.ventilation, group.power_coefficient_per_k)

    def compute() -> Array:
        if behind:
            lit = [one for heading in turned for one in panel_light(design, light, group, heading)]
        else:
            lit = [plane_light(light, tilt, azimuth) for azimuth in turned]
        return np.mean([watts(one) for one in lit], axis=0)

    return _per_watt.get(key, compute)


def harvest(design: BoatDesign, light: Light) -> Harvest:
    """The whole array under a light.

    Parameters
    ----------
    design : BoatDesign
    light : Light

    Returns
    -------
    Harvest
        All zero for a boat without panels. Salt, mismatch and wiring are taken off each group; conversion
        and clipping are the controllers' own.
    """
    shape = light.ghi.shape
    inputs = {controller.id: np.zeros(shape) for controller in design.controllers}
    groups: dict[str, Array] = {}
    for group in design.panels:
        kept = (1 - group.salt_loss_frac) * (1 - group.mismatch_loss_frac) * (1 - group.wiring_loss_frac)
        watts = group_power_per_watt(design, light, group) * (group.nameplate_w * group.count * kept)
        groups[group.id] = watts
        inputs[group.controller_id] += watts
    array, conversion, clipped, passed = (np.zeros(shape) for _ in range(4))
    shares: dict[str, Array] = {}
    by_bank = np.zeros((*shape, 2))
    own = design.house_bank
    for controller in design.controllers:
        on_own = own is not None and controller.bank_id == own.id
        bank = own if on_own else design.bank
        bank_v = bank.nominal_v if bank else None
        offered = inputs[controller.id]
        made = controller.efficiency * offered
        if controller.current_limit_a is not None and bank_v is not None:
            out = np.minimum(made, controller.current_limit_a * bank_v)
        else:
            out = made
        array += offered
        above = (made - out) / controller.efficiency
        clipped += above
        conversion += (offered - above) * (1 - controller.efficiency)
        passed += out
        by_bank[:, :, int(on_own)] += out
        shares[controller.id] = np.divide(out, offered, out=np.zeros(shape), where=offered > 0)
    terminals = {group.id: groups[group.id] * shares[group.controller_id] for group in design.panels}
    return Harvest(array, conversion, clipped, passed, by_bank, terminals)
