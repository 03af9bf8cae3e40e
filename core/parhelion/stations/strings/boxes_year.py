"""What every controller passes and clips in a year."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from parhelion.design import BoatDesign
from parhelion.panels.harvest import harvest
from parhelion.panels.through_year import by_day
from parhelion.quantities import Frozen
from parhelion.sun.year import year_light, year_steps
from parhelion.wiring.conversion import rated_w

Array = NDArray[np.float64]


class BoxYear(Frozen):
    """One controller through the year, under the plan's sky."""

    controller_id: str
    name: str
    boxes: int
    array_w: float  # nameplate of what feeds it
    passes_w: float | None  # most that it lets through; None without a limit or a bank
    year_wh: float  # at the bank
    clipped_wh: float  # at its input
    clipped_frac: float  # of all that could have come to its input
    worst_month: int | None  # with most clipped, 1 to 12; None where it never clips
    own_wh: float  # its own draw, day and night


class BoxesThroughYear(Frozen):
    """What every controller passes and clips in a year."""

    boxes: list[BoxYear]
    sky: str


def boxes_through_year(design: BoatDesign) -> BoxesThroughYear:
    """What every controller passes and clips in a year of the plan's sky, at steps of ten minutes.

    Parameters
    ----------
    design : BoatDesign
    """
    month_of_day = year_steps(design.site, design.plan.date.year).month_of_day
    made: dict[str, Array] = {}
    for share, light in year_light(
        design.site, design.plan.date.year, design.plan.sky, design.plan.sky_shade
    ):
        for key, parts in harvest(design, light).boxes_w.items():
            days = np.array([share * by_day(design, watts[0]) for watts in parts])
            made[key] = made.get(key, 0.0) + days
    found = []
    for controller in design.controllers:
        fed = [group for group in design.fitted_panels if group.controller_id == controller.id]
        if not fed:
            continue
        bank = design.bank_of(controller)
        out, lost, clipped = made[controller.id]
        offered = out.sum() + lost.sum() + clipped.sum()
        monthly = np.bincount(month_of_day, weights=clipped, minlength=13)
        found.append(
            BoxYear(
                controller_id=controller.id,
                name=controller.name,
                boxes=controller.count,
                array_w=sum(group.nameplate_w * group.count for group in fed),
                passes_w=rated_w(controller, bank.nominal_v if bank else None),
                year_wh=float(out.sum()),
                clipped_wh=float(clipped.sum()),
                clipped_frac=float(clipped.sum() / offered) if offered > 0 else 0.0,
                worst_month=int(monthly.argmax()) if clipped.sum() > 1 else None,
                own_wh=controller.count * controller.own_power_w * 24.0 * len(month_of_day),
            )
        )
    return BoxesThroughYear(boxes=found, sky=design.plan.sky_words)
