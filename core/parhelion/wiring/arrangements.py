"""What is legal for a group of panels, its bank and a list of controllers, by volts and amps alone."""

from __future__ import annotations

from dataclasses import dataclass

from parhelion.data import controller_models
from parhelion.design import Bank, BoatDesign, Controller, ControllerModel, PanelGroup
from parhelion.wiring.cables import lasting_a
from parhelion.wiring.circuits import limit_v, needs_v
from parhelion.wiring.panel_volts import panel_volts

LARGEST_ARRAY = 1.35  # nameplate over what the controllers pass: beyond it clipping costs
COLD_MARGIN = 0.97  # of a limit that a cold morning may reach


@dataclass(frozen=True)
class Arrangement:
    """One legal arrangement of one group."""

    group: PanelGroup
    series: int
    boxes: int
    model: ControllerModel
    wh: float  # on the mean day, its own draw taken off; 0 before it is harvested
    cold_v: float
    hot_v: float

    @property
    def price(self) -> float:
        return self.boxes * (self.model.price or 0.0)


def divisors(number: int) -> list[int]:
    return [n for n in range(1, number + 1) if number % n == 0]


def wired(design: BoatDesign, group: PanelGroup, boxes: int, model: ControllerModel) -> Controller:
    """Boxes of a model for one group, on the bank and the cable it has now."""
    old = design.controller(group.controller_id)
    own = f"{group.id}-controller"[:40]
    return Controller(**model.model_dump(), id=own, bank_id=old.bank_id, count=boxes, cable_m=old.cable_m)


def _legal(model: ControllerModel, bank: Bank, cold_v: float, hot_v: float, short_a: float) -> bool:
    """Whether a string suits a controller and a bank: volts cold and hot, input amps, the bank's volts."""
    most, least = limit_v(model, bank), needs_v(model, bank)
    return (
        most is not None
        and model.most_pv_a is not None
        and model.most_bank_v is not None
        and cold_v <= COLD_MARGIN * most
        and (least is None or hot_v >= least)
        and short_a <= model.most_pv_a
        and (model.least_bank_v or 0) * 0.9 <= bank.nominal_v <= model.most_bank_v * 1.1
    )


def arrangements(design: BoatDesign, group: PanelGroup, bank: Bank) -> tuple[int, list[Arrangement]]:
    """How many arrangements of a group were looked at, and those that are legal, not yet harvested."""
    limits, panel = design.wiring, panel_volts(group)
    tried, found = 0, []
    for series in divisors(group.count):
        cold = panel.open_at(limits.coldest_c, series)
        hot = panel.best_at(limits.hottest_cell_c, series)
        for boxes in divisors(group.count // series):
            strings = group.count // series // boxes
            watts, short = group.nameplate_w * series * strings, lasting_a(panel.short_a, strings)
            for model in (*controller_models(), *design.own_controllers):
                tried += 1
                passes = None if model.current_limit_a is None else model.current_limit_a * bank.nominal_v
                if _legal(model, bank, cold, hot, short) and (
                    passes is None or watts <= LARGEST_ARRAY * passes
                ):
                    found.append(Arrangement(group, series, boxes, model, 0.0, cold, hot))
    return tried, found
