"""How panels are wired where nobody has said: as few in series as charge their bank, hot and cold.

References
----------
[1] A string must stand over the bank's charging volts and the controller's headroom when hot, and under the
    controller's limit when cold; a PWM controller holds it at the bank's own; a boost controller needs it
    under the bank.
"""

from __future__ import annotations

from parhelion.design import Bank, BoatDesign, Controller, ControllerKind, PanelGroup
from parhelion.design.chemistries import CHEMICALS
from parhelion.wiring.panel_volts import most_in_series, panel_volts

STRUNG_READS = ("controllers", "banks", "wiring.coldest_c", "wiring.hottest_cell_c")  # beside the panels


def charging_v(bank: Bank) -> float:
    """A bank's volts while it charges: midway from nominal to absorption [V]."""
    return (bank.nominal_v + bank.cells * CHEMICALS[bank.chemistry].absorption_v) / 2


def absorption_v(bank: Bank) -> float:
    """Charging volts of a bank at their highest, by its chemistry and cells [V]."""
    return bank.cells * CHEMICALS[bank.chemistry].absorption_v


def suits(design: BoatDesign, group: PanelGroup, controller: Controller, bank: Bank, series: int) -> bool:
    """Whether strings of so many panels charge a bank through a controller, hot and cold [1]."""
    panel, limits = panel_volts(group), design.wiring
    limit = controller.most_pv_v
    if limit and series > most_in_series(panel.open_v, panel.open_per_k, limits.coldest_c, limit):
        return False
    if controller.kind is ControllerKind.BOOST:
        return panel.best_at(limits.coldest_c, series) <= charging_v(bank) - controller.headroom_v
    needs, hot = absorption_v(bank), panel.best_at(limits.hottest_cell_c, series)
    return hot >= needs + (0.0 if controller.kind is ControllerKind.PWM else controller.headroom_v)


def series_by_itself(design: BoatDesign, group: PanelGroup) -> int:
    """The fewest in series that suit, whole strings before ones that leave a panel over; 1 where none do."""
    controller = design.controller(group.controller_id)
    bank = design.bank_of(controller)
    if bank is None:
        return 1
    fit = [n for n in range(1, group.count + 1) if suits(design, group, controller, bank, n)]
    whole = [n for n in fit if group.count % n == 0]
    return (whole or fit or [1])[0]


def boxes_by_itself(design: BoatDesign) -> BoatDesign:
    """The design with a boost controller where no string reaches a bank and single panels lie under it.

    One 12 V class panel on a 24 V bank, say. Panels that no controller suits stay as they are, and are told.
    """
    boxes = list(design.controllers)
    for index, box in enumerate(boxes):
        bank = design.bank_of(box)
        fed = [group for group in design.fitted_panels if group.controller_id == box.id]
        if bank is None or not fed:
            continue
        lifts = box.model_copy(update={"kind": ControllerKind.BOOST, "name": "Boost controller"})
        reached = all(any(suits(design, g, box, bank, n) for n in range(1, g.count + 1)) for g in fed)
        if not reached and all(suits(design, g, lifts, bank, 1) for g in fed):
            boxes[index] = lifts
    return design.changed(controllers=tuple(boxes))


def strung_panels(design: BoatDesign) -> tuple[PanelGroup, ...]:
    """The panels of the set in use, each group with the strings it has, said or by itself."""
    return tuple(
        group if group.series else group.model_copy(update={"series": series_by_itself(design, group)})
        for group in design.fitted_panels
    )
