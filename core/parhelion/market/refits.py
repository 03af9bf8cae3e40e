"""What it costs to make one boat of another: what is there already costs nothing. Invented coins."""

from __future__ import annotations

from collections import Counter
from collections.abc import Hashable
from typing import NamedTuple

from parhelion.computing.kept import kept_by_arguments
from parhelion.design import Bank, BoatDesign, Controller, Drive, PanelGroup, PanelModel, Place
from parhelion.design.wish import OwnedPanels
from parhelion.market.fittings import FITTINGS, STOCK_PRICE_PER_KG, fitting_offer
from parhelion.market.parts import (
    CABLED_PRICE_PER_W,
    battery_price,
    controller_price,
    motor_offer,
    panel_price,
)

DATASHEET = tuple(name for name in PanelModel.model_fields if name not in ("price", "leaf_tilts_deg"))
SAME_BOX = ("name", "kind", "current_limit_a", "most_pv_v", "most_pv_a")
SAME_UNIT = ("chemistry", "unit_v", "unit_ah")


class Bought(NamedTuple):
    """What is there already: panels and controllers by what they are; battery units; the motors."""

    panels: Counter[Hashable]
    boxes: Counter[Hashable]
    units: Counter[Hashable]
    drives: tuple[Drive, ...]
    places: tuple[Place, ...]
    cabled: Counter[Hashable]  # panels that lie on their place already, cable and all


@kept_by_arguments(400)
def panel_key(panel: PanelModel) -> Hashable:
    """What makes two panels alike: everything on their datasheets."""
    return tuple(getattr(panel, name) for name in DATASHEET)


def _box_key(box: Controller) -> Hashable:
    return tuple(getattr(box, name) for name in SAME_BOX)


def _unit_key(bank: Bank) -> Hashable:
    return tuple(getattr(bank, name) for name in SAME_UNIT)


def bought(
    design: BoatDesign, panels: bool, bank: bool, motor: bool, shed: tuple[OwnedPanels, ...] = ()
) -> Bought:
    """What of a boat is paid for.

    Parameters
    ----------
    design : BoatDesign
    panels, bank, motor : bool
        Whether her panels with their controllers, her banks, her motors are.
    shed : tuple of OwnedPanels
        Panels that lie ashore.
    """
    found: Counter[Hashable] = Counter()
    cabled: Counter[Hashable] = Counter()
    boxes: Counter[Hashable] = Counter()
    if panels:
        for group in design.fitted_panels:
            found[panel_key(group)] += group.count
            cabled[group.place_id, panel_key(group)] += group.count
        for box in design.controllers:
            boxes[_box_key(box)] += box.count
    for own in shed:
        found[panel_key(own)] += own.count
    units: Counter[Hashable] = Counter()
    for one in design.banks if bank else ():
        units[_unit_key(one)] += one.units
    return Bought(found, boxes, units, design.drives if motor else (), design.places, cabled)


def uses_of(
    groups: tuple[PanelGroup, ...], controllers: tuple[Controller, ...], have: Bought
) -> tuple[tuple[Hashable, int], ...]:
    """How many of the panels and controllers that are there already an array asks for, by what they are."""
    found: Counter[Hashable] = Counter()
    for group in groups:
        if have.panels[panel_key(group)]:
            found[panel_key(group)] += group.count
    for box in controllers:
        if have.boxes[_box_key(box)]:
            found[_box_key(box)] += box.count
    return tuple(found.items())


def frame_price(place: Place) -> float:
    """Stock and feet of a place's frame [coins]."""
    if place.frame is None:
        return 0.0
    stock = STOCK_PRICE_PER_KG[place.frame.metal] * place.frame_kg
    return stock + place.frame.feet * FITTINGS["foot"].price


def panels_cost(design: BoatDesign, have: Bought) -> float:
    """Panels with their cable, controllers and frames that are not there yet [coins]."""
    left, cabled, boxes = have.panels.copy(), have.cabled.copy(), have.boxes.copy()
    total = 0.0
    for group in design.fitted_panels:
        key = panel_key(group)
        free = min(left[key], group.count)
        left[key] -= free
        total += (group.count - free) * panel_price(group)
        lying = min(cabled[group.place_id, key], group.count)
        cabled[group.place_id, key] -= lying
        total += (group.count - lying) * group.nameplate_w * CABLED_PRICE_PER_W
    for box in design.controllers:
        free = min(boxes[_box_key(box)], box.count)
        boxes[_box_key(box)] -= free
        total += (box.count - free) * controller_price(box)
    there = {place.id for place in have.places}
    filled = {group.place_id for group in design.fitted_panels}
    return total + sum(
        frame_price(place) for place in design.places if place.id in filled and place.id not in there
    )


def banks_cost(design: BoatDesign, have: Bought) -> float:
    """Battery units that are not there yet [coins]."""
    left, total = have.units.copy(), 0.0
    for bank in design.banks:
        free = min(left[_unit_key(bank)], bank.units)
        left[_unit_key(bank)] -= free
        total += battery_price(bank, (bank.units - free) * bank.unit_v * bank.unit_ah)
    return total


def same_motor(one: Drive, other: Drive) -> bool:
    """Whether two motors are the same by their labels, whatever turns on their shafts."""
    return (one.rated_power_w, one.static_thrust_n) == (other.rated_power_w, other.static_thrust_n)


def drives_cost(design: BoatDesign, have: Bought) -> float:
    """Motors and propellers that are not there yet [coins]."""
    there = {drive.id: drive for drive in have.drives}
    total = 0.0
    for drive in design.drives:
        old = there.get(drive.id)
        if old is None or not same_motor(old, drive):
            total += drive.count * motor_offer(drive).price
        elif old.propeller != drive.propeller:
            total += drive.count * fitting_offer("propeller").price
    return total


def refit_cost(design: BoatDesign, have: Bought) -> float:
    """Everything of a boat that is not there yet [coins]."""
    return panels_cost(design, have) + banks_cost(design, have) + drives_cost(design, have)
