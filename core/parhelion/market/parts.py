"""What a part costs and weighs: its own price and mass first, else usual ones. Prices are invented coins."""

from __future__ import annotations

from collections.abc import Iterable
from typing import NamedTuple

from parhelion.design.array import Controller
from parhelion.design.bank import Bank
from parhelion.design.chemistries import CHEMICALS
from parhelion.design.drive import Drive
from parhelion.design.panel import PANEL_KG_PER_W, Build, PanelGroup, PanelModel
from parhelion.drive.trolling import WATTS_PER_NEWTON

PANEL_PRICE_PER_W = {Build.GLASS: 0.6, Build.FLEXIBLE: 1.3, Build.FOLDING: 1.9}  # the panel alone
FITTING_PRICE_PER_W = 0.45  # frame, cable and its share of a controller
CABLED_PRICE_PER_W = 0.2  # cable, clamps and plugs of a panel, where frame and controller are counted apart
FRAME_KG_PER_W = 0.02
MOTOR_PRICE, MOTOR_PRICE_PER_W = 220.0, 0.55  # of a motor with its controller, by the watts it takes
MOTOR_KG, MOTOR_KG_PER_KW, MOTOR_KG_POWER = 6.0, 9.0, 0.75  # with propeller and controller; ours
CONTROLLER_PRICE = 120.0  # one of more amps
CONTROLLER_KG = 1.2  # a usual box of 20 to 40 A
BALANCER_PRICE = 95.0


class Offer(NamedTuple):
    """What one more part costs and adds to the weight."""

    price: float
    mass_kg: float


def panel_price(panel: PanelModel) -> float:
    """One panel: its own price, or usual for its build and watts [coins]."""
    return PANEL_PRICE_PER_W[panel.build] * panel.nameplate_w if panel.price is None else panel.price


def panels_price(group: PanelGroup) -> float:
    """All panels of a group [coins]."""
    return panel_price(group) * group.count


def panel_offer(group: PanelGroup, count: int = 1) -> Offer:
    """More panels of a kind beside it: cable and controller in the price, as heavy as the design has them."""
    price = count * panel_price(group) + FITTING_PRICE_PER_W * count * group.nameplate_w
    return Offer(price, count * group.each_kg)


def framed_offer(group: PanelGroup, count: int) -> Offer:
    """Panels on a place of their own: a usual mass has its share of the frame, a label's has none."""
    price, mass_kg = panel_offer(group, count)
    frame_kg = FRAME_KG_PER_W * count * group.nameplate_w if group.mass_kg is not None else 0.0
    return Offer(price, mass_kg + frame_kg)


def first_panel_offer(watts: float) -> Offer:
    """A first glass panel of so many watts."""
    price = (PANEL_PRICE_PER_W[Build.GLASS] + FITTING_PRICE_PER_W) * watts
    return Offer(price, PANEL_KG_PER_W * watts)


def battery_price(bank: Bank, energy_wh: float) -> float:
    """So much of a bank's kind: by its own price of a unit, or usual for its chemistry [coins]."""
    if bank.unit_price is not None:
        return energy_wh / (bank.unit_v * bank.unit_ah) * bank.unit_price
    return energy_wh * CHEMICALS[bank.chemistry].price_per_wh


def bank_price(bank: Bank) -> float:
    """A whole bank [coins]."""
    return battery_price(bank, bank.nominal_wh)


def controller_price(controller: Controller) -> float:
    """One box: its own price, or a usual one [coins]."""
    return CONTROLLER_PRICE if controller.price is None else controller.price


def controllers_price(controller: Controller) -> float:
    """All boxes of a controller [coins]."""
    return controller.count * controller_price(controller)


def motor_watts(drive: Drive) -> float:
    """What one motor takes by its label; one sold by thrust, as such motors do [W]."""
    return drive.rated_power_w or (drive.static_thrust_n or 0.0) * WATTS_PER_NEWTON


def motor_offer(drive: Drive) -> Offer:
    """One motor with its controller and propeller: its own price and mass, or usual for its watts."""
    watts = motor_watts(drive)
    usual_kg = MOTOR_KG + MOTOR_KG_PER_KW * (watts / 1000) ** MOTOR_KG_POWER
    return Offer(
        MOTOR_PRICE + MOTOR_PRICE_PER_W * watts if drive.price is None else drive.price,
        usual_kg if drive.mass_kg is None else drive.mass_kg,
    )


def motors_kg(drives: Iterable[Drive]) -> float:
    """All motors of a boat [kg]."""
    return sum(drive.count * motor_offer(drive).mass_kg for drive in drives)
