"""Is it worth it? One sum by three schools, factor by factor: the formula's, the typical, the person's runs.

References
----------
[1] The sceptic's sum as people do it by hand: the speed/length formula's watts for the hours asked, losses
    added to them, over a clear day's full-sun hours and the watts of a square metre of panel.
[2] The other two: battery watts of the boat's curve, over what each link keeps, on the place's mean day.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import NamedTuple

import numpy as np

from parhelion.balance.outlook import Outlook, where_panels_give
from parhelion.design import Sky
from parhelion.design.panel import USUAL_W_PER_M2
from parhelion.hull import formula
from parhelion.hull.demand import DemandCurve, demand_curve, fit_runs
from parhelion.quantities import (
    Frozen,
    Quantity,
    Sentence,
    area,
    days,
    energy,
    fraction,
    hours,
    power,
    ratio,
    sentence,
    speed,
    words,
)
from parhelion.stations.year.climate import ClimateMonth, climate_year
from parhelion.sun.climate import is_ice
from parhelion.sun.generated import middle_day
from parhelion.sun.sky import STEADY

AGREE_FRAC = 0.1  # of each other: the formula and the model
DECK_SHARE = 0.4  # of length times beam that panels could cover at the very most, where no deck is given
NEVER_DAYS = 365.0


class WorthAsk(Frozen):
    """What is wished, and what the sceptic takes for granted."""

    hours: float = 1.0  # a day, at the planned speed
    losses_frac: float = 0.30  # added
    sun_h: float | None = None  # full-sun hours; those of a clear day at the place
    overcast_frac: float = 0.20  # of a clear day
    panel_w_per_m2: float | None = None
    deck_m2: float | None = None


class WorthLine(Frozen):
    """One factor of the sum, and its value in each column; none where a school does not have it."""

    key: str
    label: str
    values: list[Quantity | None]
    total: bool = False  # a sum of those above


class Worth(Frozen):
    """The columns, line by line, why they differ, and what each says."""

    columns: list[str]
    lines: list[WorthLine]
    differ: list[Sentence]
    says: list[Sentence]  # by column
    ask: WorthAsk  # with what was not given filled in


class _There(NamedTuple):
    """What is there to make it with."""

    w_per_m2: float
    deck_m2: float
    nameplate_w: float


class _Column:
    """One school's numbers, all of them derived from its watts, its losses and its light."""

    def __init__(
        self, watts: float, kept: dict[str, float], sun_h: dict[str, float], there: _There, house_wh: float,
        ask: WorthAsk, added: float = 0.0,
    ) -> None:  # fmt: skip
        self.watts, self.kept, self.sun_h = watts, kept, sun_h
        self.per_m2, self.deck_m2, self.nameplate_w = there
        self.house_wh, self.motor_wh = house_wh, watts * ask.hours
        self.added = added
        whole = float(np.prod(list(kept.values()))) if kept else 1.0
        self.panel_kept = whole
        self.needed_wh = self.motor_wh * (1 + added) + house_wh
        self.day_h = sun_h["day"] * whole
        self.needed_w = self.needed_wh / self.day_h if self.day_h > 0 else np.inf
        self.needed_m2 = self.needed_w / self.per_m2

    def harvest_wh(self, key: str) -> float:
        """What the panels there are bring on a day of a kind."""
        return self.nameplate_w * self.sun_h[key] * self.panel_kept

    @property
    def won_h(self) -> float:
        """Hours a day at the wished speed that the panels there are win, the house served first."""
        return max(self.harvest_wh("day") - self.house_wh, 0.0) / (self.watts * (1 + self.added))

    def days_for_an_hour(self, key: str) -> float:
        """Days to win back an hour at the wished speed; never, where the house takes it all."""
        left = self.harvest_wh(key) - self.house_wh
        hour = self.watts * (1 + self.added)
        return hour / left if left > hour / NEVER_DAYS else np.inf


def _season_h(outlook: Outlook, months: list[ClimateMonth]) -> float:
    """Full-sun hours of the mean day of the months in which the water is open."""
    site, year = outlook.design.site, outlook.design.plan.date.year
    open_ = [m for m in months if not is_ice(site.latitude_deg, middle_day(year, m.month), site.water)]
    return float(np.mean([m.sun_h for m in (open_ or months)]))


def _kept(outlook: Outlook, clear_h: float) -> dict[str, float]:
    """What each link keeps of nameplate watts, the last of them what heat, angle and shade leave."""
    design = outlook.design
    if not design.panels or clear_h <= 0:
        return {}
    mean: Callable[[str], float] = lambda name: float(  # noqa: E731 - one word for a weighted mean
        np.average([1 - getattr(g, name) for g in design.fitted_panels],
                   weights=[g.nameplate_w * g.count for g in design.fitted_panels])
    )  # fmt: skip
    boxes = float(np.mean([box.efficiency for box in design.controllers])) if design.controllers else 1.0
    found = {
        "salt and dirt": mean("salt_loss_frac"), "mismatch": mean("mismatch_loss_frac"),
        "wires": mean("wiring_loss_frac"), "controllers": boxes,
    }  # fmt: skip
    whole = outlook.wh(outlook.clear_harvest.sun_w[0]) / (design.nameplate_w * clear_h)
    found["heat, angle and shade"] = whole / float(np.prod(list(found.values())))
    store = outlook.store
    found["charging"] = 1.0 if store is None else float(store.coulomb_efficiency)
    return found


def _asked_w(curve: DemandCurve, speed_mps: float) -> float:
    """Battery watts of a speed; at the curve's end where it lies beyond."""
    return float(curve.power_at(min(speed_mps, curve.top_speed_mps)))


def worth(outlook: Outlook, ask: WorthAsk = WorthAsk()) -> Worth:  # noqa: B008 - frozen
    """The wished hours at the planned speed by each school.

    Parameters
    ----------
    outlook : Outlook
    ask : WorthAsk

    Returns
    -------
    Worth
        A column for the formula, one for the typical boat of the form, one for the runs where there are any.
    """
    design = outlook.design
    months = climate_year(design.site, design.plan.date.year).months
    month = next(m for m in months if m.month == design.plan.date.month)
    clear_h = month.clear_h
    hull = design.hull
    deck = ask.deck_m2 or DECK_SHARE * hull.waterline_length_m * hull.beam_m
    own = [g.nameplate_w / (g.width * g.length) for g in design.fitted_panels]
    per_m2 = ask.panel_w_per_m2 or (float(np.mean(own)) if own else USUAL_W_PER_M2)
    sceptic_h = ask.sun_h or clear_h
    ask = ask.model_copy(update={"deck_m2": deck, "panel_w_per_m2": per_m2, "sun_h": sceptic_h})
    asked_mps = design.plan.speed_mps  # the wish, whether the drive can or not
    house = outlook.wh(outlook.house_w)
    share = {"poor": month.poor_h / max(month.sun_h, 1e-9)}
    sun = {
        "clear": clear_h, "day": month.sun_h, "season": _season_h(outlook, months),
        "poor": share["poor"] * month.sun_h, "overcast": STEADY[Sky.OVERCAST][0] * clear_h,
        "fog": STEADY[Sky.RAIN][0] * clear_h,
    }  # fmt: skip
    his = {"clear": sceptic_h, "day": sceptic_h, "season": sceptic_h, "poor": ask.overcast_frac * sceptic_h,
           "overcast": ask.overcast_frac * sceptic_h, "fog": ask.overcast_frac * sceptic_h}  # fmt: skip
    shaft = float(formula.shaft_power_w(asked_mps, hull.waterline_length_m, design.displacement_kg))
    kept = _kept(where_panels_give(outlook), clear_h)
    form = demand_curve(design, fitted=fit_runs(design, ()))
    there = _There(per_m2, deck, design.nameplate_w)
    columns = {
        "By the formula": _Column(shaft, {}, his, there, 0.0, ask, ask.losses_frac),
        "Typical": _Column(_asked_w(form, asked_mps), kept, sun, there, house, ask),
    }
    if outlook.curve.fit.runs:
        own_w = _asked_w(outlook.curve, asked_mps)
        columns["By your runs"] = _Column(own_w, kept, sun, there, house, ask)
    return Worth(
        columns=list(columns),
        lines=_lines(outlook, list(columns.values()), ask),
        differ=_differ(outlook, columns, ask),
        says=[_says(column, ask) for column in columns.values()],
        ask=ask,
    )


def _of(kind: Callable[[float], Quantity], value: float) -> Quantity:
    return kind(value) if np.isfinite(value) else words("no end")


def _days(value: float) -> Quantity:
    return days(value) if np.isfinite(value) else words("never")


def _lines(outlook: Outlook, columns: list[_Column], ask: WorthAsk) -> list[WorthLine]:
    first = columns[0]

    def line(
        key: str, label: str, of: Callable[[_Column], Quantity | None], total: bool = False
    ) -> WorthLine:
        return WorthLine(key=key, label=label, values=[of(c) for c in columns], total=total)

    def keeps(name: str) -> Callable[[_Column], Quantity | None]:
        return lambda c: fraction(c.kept[name]) if name in c.kept else None

    links = list(dict.fromkeys(name for column in columns for name in column.kept))
    return [
        line("speed", "Speed wished", lambda c: speed(outlook.design.plan.speed_mps)),
        line("watts", "Watts at it", lambda c: power(c.watts)),
        line("hours", "Hours a day", lambda c: hours(ask.hours)),
        line("motor", "For the motor", lambda c: energy(c.motor_wh), total=True),
        line("added", "Losses, added", lambda c: fraction(c.added) if c is first else None),
        line("house", "House", lambda c: None if c is first else energy(c.house_wh)),
        line("needed", "Needed a day", lambda c: energy(c.needed_wh), total=True),
        line("sun", "Full-sun hours", lambda c: hours(c.sun_h["day"])),
        *(line(f"kept {name}", f"× {name}", keeps(name)) for name in links),
        line("panels", "Panels for it", lambda c: _of(power, c.needed_w), total=True),
        line("density", "Watts a square metre", lambda c: power(c.per_m2)),
        line("area", "Area for it", lambda c: _of(area, c.needed_m2), total=True),
        line("deck", "Deck there is", lambda c: area(c.deck_m2)),
        line("have", "Panels there are", lambda c: power(c.nameplate_w)),
        line("harvest", "They bring a day", lambda c: energy(c.harvest_wh("day"))),
        line("won", "Hours a day they win", lambda c: hours(c.won_h), total=True),
        line("hour", "Days to win back one hour", lambda c: _days(c.days_for_an_hour("day")), total=True),
        line("season", "… over the open season", lambda c: _days(c.days_for_an_hour("season"))),
        line("poor", "… in a poor week", lambda c: _days(c.days_for_an_hour("poor"))),
        line("overcast", "… under an overcast sky", lambda c: _days(c.days_for_an_hour("overcast"))),
        line("fog", "… in a spell of fog", lambda c: _days(c.days_for_an_hour("fog"))),
    ]  # fmt: skip


def _formula_against(times: float, speed_mps: float) -> Sentence:
    """The formula's watts beside those of such hulls."""
    at = speed(speed_mps)
    if abs(times - 1) <= AGREE_FRAC:
        return sentence("At {v} the formula and such hulls agree, within {x}.", v=at, x=fraction(AGREE_FRAC))
    if times < 1:
        return sentence("The formula asks {x} of what such hulls draw at {v}.", x=ratio(times), v=at)
    return sentence(
        "The formula asks {x} of what such hulls draw at {v}: made to choose engines, it overstates slow "
        "speeds.",
        x=ratio(times), v=at,
    )  # fmt: skip


def _differ(outlook: Outlook, columns: dict[str, _Column], ask: WorthAsk) -> list[Sentence]:
    """Why the columns do not say the same."""
    sceptic, typical = columns["By the formula"], columns["Typical"]
    found = [_formula_against(sceptic.watts / typical.watts, outlook.design.plan.speed_mps)]
    if typical.kept and typical.panel_kept > 0:
        found.append(
            sentence(
                "Losses added, {a}, take less than they do: {k} of the panels' watts are left, so they must "
                "be {x} of what is used.",
                a=fraction(ask.losses_frac), k=fraction(typical.panel_kept), x=ratio(1 / typical.panel_kept),
            )
        )  # fmt: skip
    found.append(
        sentence(
            "He counts {c} of full sun every day; the month's mean day has {m}, one in ten less than {p}.",
            c=hours(sceptic.sun_h["day"]), m=hours(typical.sun_h["day"]), p=hours(typical.sun_h["poor"]),
        )
    )  # fmt: skip
    if outlook.gives_at_dock_alone:
        found.append(sentence("The panels give at the dock alone: their day is counted there."))
    own = columns.get("By your runs")
    if own is not None:
        found.append(
            sentence("Your runs draw {x} of the typical watts.", x=fraction(own.watts / typical.watts))
        )
    return found


def _says(column: _Column, ask: WorthAsk) -> Sentence:
    """A school's verdict in a sentence."""
    slots = {"h": hours(ask.hours), "a": _of(area, column.needed_m2), "d": area(column.deck_m2)}
    if not np.isfinite(column.needed_m2):
        return sentence("No sun to speak of: {h} a day is not won at all.", **slots)
    if column.needed_m2 > column.deck_m2:
        return sentence("No room for it: {h} a day takes {a}, and there are {d}.", **slots)
    if column.nameplate_w and column.nameplate_w >= column.needed_w:
        return sentence("Yes: the panels there are win {h} a day.", **slots)
    return sentence("There is room: {h} a day takes {a} of {d}.", **slots)
