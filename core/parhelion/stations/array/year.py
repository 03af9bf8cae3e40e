"""What the array gives through the year, month by month, as it stands in the plan's state."""

from __future__ import annotations

from parhelion.design import BoatDesign, Sky
from parhelion.panels.through_year import daily_wh
from parhelion.quantities import Frozen
from parhelion.sun.year import year_steps


class Month(Frozen):
    """The mean day of a month, at the bank [Wh]."""

    month: int  # 1 to 12
    day_wh: float  # under the plan's sky
    clear_wh: float


class ThroughYear(Frozen):
    """Every day of the year under one sky; air as usual for the latitude and season."""

    months: list[Month]
    year_wh: float
    clear_year_wh: float
    nameplate_w: float
    sky: str


def through_year(design: BoatDesign) -> ThroughYear:
    """The array month by month.

    Parameters
    ----------
    design : BoatDesign

    Returns
    -------
    ThroughYear
        Steps of ten minutes; broken sky as its bright and its dull state.
    """
    under = daily_wh(design, design.plan.sky, design.plan.sky_shade)
    clear = daily_wh(design, Sky.CLEAR)
    month_of_day = year_steps(design.site, design.plan.date.year).month_of_day
    months = [
        Month(
            month=month, day_wh=float(under[month_of_day == month].mean()),
            clear_wh=float(clear[month_of_day == month].mean()),
        )
        for month in range(1, 13)
    ]  # fmt: skip
    return ThroughYear(
        months=months, year_wh=float(under.sum()), clear_year_wh=float(clear.sum()),
        nameplate_w=design.nameplate_w, sky=design.plan.sky_words,
    )  # fmt: skip
