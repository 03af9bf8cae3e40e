"""The year month by month: how far and how fast on the days that a place has, and whether it is worth it.

References
----------
[1] A month is 1,000 generated days that follow each other (`sun.generated`). Power of the array at each step
    depends on that step's light alone: it is harvested at a dozen steady skies and read between them.
[2] The boat motors its hours every day at the watts that the month's mean day sustains, without foresight:
    the motor stops at the reserve, and every day carries its charge into the next.
[3] Three outlooks. The sceptic's: the watts that the poor day, one in ten, sustains, and a hull at the upper
    edge of its band. The enthusiast's: the clear day's watts and the lower edge.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from parhelion.balance.days_on_end import HOUSE_WH, LOST_WH, MOTOR_WH, RAN_H, REFUSED_WH, STOPPED, run_chain
from parhelion.balance.outlook import Outlook, outlook_under
from parhelion.balance.steady import fullest_start, motor_of, steady_power
from parhelion.computing.progress import Report, silent
from parhelion.design import BoatDesign
from parhelion.design.reads import Reads, kept
from parhelion.hull.demand import DemandCurve, demand_curve
from parhelion.quantities import Frozen, Sentence, hours, power, sentence, speed, words
from parhelion.rail.no_harvest import no_harvest
from parhelion.rail.reasons import BELOW_IDLE, HOUSE_TAKES_ALL
from parhelion.stations.year.climate import climate_told
from parhelion.sun.generated import DAYS, middle_day, month_of
from parhelion.sun.light import clear_light
from parhelion.sun.skies import SKIES, between, light_at_skies
from parhelion.sun.timeline import HOUR_S

Array = NDArray[np.float64]

POOR, GOOD = 0.1, 0.9
MONTHS = ("January", "February", "March", "April", "May", "June", "July", "August", "September", "October",
         "November", "December")  # fmt: skip
HALF_A_MINUTE_H = 0.5 / 60
BEYOND_HER = sentence("it is faster than she goes")
PANEL_STEP_W = 10.0


class SeasonMonth(Frozen):
    """One month; energies are of its mean day at the bank."""

    month: int  # 1 to 12
    sun_h: float  # full-sun hours of the mean day
    asked_sun_h: float  # as the climate says
    motoring_h: float  # what the plan asks a day
    speed_mps: float  # that the mean day sustains over those hours
    sceptic_mps: float
    enthusiast_mps: float
    poor_m: float  # distance a day: 1 day in 10 is less
    middle_m: float
    good_m: float  # 1 day in 10 is more
    kept_frac: float  # days on which the motor never stopped
    harvest_wh: float
    motor_wh: float
    house_wh: float
    refused_wh: float
    lost_wh: float
    wished_h: float  # hours a day at the plan's speed that the mean day sustains


class WholeSeason(Frozen):
    """A year on the days that the place has."""

    months: list[SeasonMonth]
    climate: Sentence
    wished_mps: float
    worst: int
    best: int
    verdict: Sentence
    answer: Literal["yes", "partly", "no"]
    turning: list[Sentence]  # what would turn a no into a yes
    days: int


@dataclass(frozen=True)
class _Days:
    """A month of one boat: what reaches the banks on every day."""

    outlook: Outlook
    by_bank_w: Array  # shape (days, 144, 2)
    clear_w: Array  # of a clear day, shape (144, 2)


def _days_of(design: BoatDesign, month: int, curve: DemandCurve, days: int) -> tuple[_Days, float, float]:
    year = design.plan.date.year
    found = month_of(design.site, year, month, days)
    date = middle_day(year, month)
    plan = design.plan.model_copy(update={"date": date, "air_temperature_c": None})
    then = design.changed(plan=plan)
    light = light_at_skies(design.site.spot, date)
    outlook = outlook_under(then, light, curve).sun_alone
    table = outlook.harvest.by_bank_w
    return _Days(outlook, between(table, found.index), table[SKIES.index(1.0)]), found.sun_h, found.asked_h


def _steady_w(outlook: Outlook, by_bank_w: Array) -> tuple[float, float]:
    """Watts that a day sustains, and the fullest start it gives back; 0 where not even the idle draw is."""
    assert outlook.aboard is not None
    day, hours = np.ascontiguousarray(by_bank_w), outlook.timeline.step_h
    watts, soc, own = steady_power(
        day, outlook.house_rows_w, outlook.motor_rows, outlook.curve.idle_w, outlook.rated_w, hours,
        outlook.aboard,
    )  # fmt: skip
    if watts <= outlook.curve.idle_w:
        return 0.0, 1.0
    start = fullest_start(
        day, outlook.house_rows_w, outlook.motor_rows, watts, soc, own, hours, outlook.aboard
    )
    return float(watts), float(start)


def _speed(outlook: Outlook, watts: float, band: float = 0.0) -> float:
    return float(outlook.curve.speed_at(watts, band)) if watts > outlook.curve.idle_w else 0.0


def _poor_day(days: _Days) -> Array:
    whole = days.by_bank_w.sum(axis=(1, 2))
    return days.by_bank_w[int(np.argsort(whole, kind="stable")[int(POOR * len(whole))])]


def _month(design: BoatDesign, month: int, curve: DemandCurve, number: int) -> SeasonMonth:
    days, sun_h, asked_h = _days_of(design, month, curve, number)
    outlook = days.outlook
    mean = days.by_bank_w.mean(axis=0)
    harvest_wh = outlook.wh(mean.sum(axis=1))
    asked = design.plan.speed_mps
    wish_w = float(curve.power_at(asked))
    if outlook.aboard is None or outlook.takes_no_charge:
        return _on_live_sun(days, month, sun_h, asked_h, harvest_wh, asked)
    watts, start = _steady_w(outlook, mean)
    poor_w, _ = _steady_w(outlook, _poor_day(days))
    clear_w, _ = _steady_w(outlook, days.clear_w)
    chain = run_chain(
        np.ascontiguousarray(days.by_bank_w), outlook.house_rows_w, motor_of(outlook.motor_rows, watts),
        np.ascontiguousarray(outlook.motoring if watts else np.zeros_like(outlook.motoring)), start, start,
        outlook.timeline.step_h, outlook.aboard,
    )  # fmt: skip
    metres = chain[:, RAN_H] * 3600.0 * _speed(outlook, watts)
    poor, middle, good = (float(v) for v in np.quantile(metres, (POOR, 0.5, GOOD)))
    mean_of = chain.mean(axis=0)
    return SeasonMonth(
        month=month, sun_h=sun_h, asked_sun_h=asked_h, motoring_h=outlook.hours,
        speed_mps=_speed(outlook, watts),
        sceptic_mps=_speed(outlook, poor_w, -1.0), enthusiast_mps=_speed(outlook, clear_w, 1.0),
        poor_m=poor, middle_m=middle, good_m=good, kept_frac=float(1 - mean_of[STOPPED]) if watts else 0.0,
        harvest_wh=harvest_wh, motor_wh=float(mean_of[MOTOR_WH]), house_wh=float(mean_of[HOUSE_WH]),
        refused_wh=float(mean_of[REFUSED_WH]), lost_wh=float(mean_of[LOST_WH]),
        wished_h=min(watts * outlook.hours / wish_w, 24.0) if wish_w > 0 else 0.0,
    )  # fmt: skip


def _on_live_sun(
    days: _Days, month: int, sun_h: float, asked_h: float, harvest_wh: float, asked: float
) -> SeasonMonth:
    """On live sun alone, without a bank or with one that takes no charge: every step has its own speed."""
    outlook = days.outlook
    left = np.minimum(np.maximum(days.by_bank_w.sum(axis=2) - outlook.house_w, 0.0), outlook.rated_w)
    turns = left > outlook.curve.idle_w

    def metres(watts: Array, band: float = 0.0) -> Array:
        speeds = np.where(watts > outlook.curve.idle_w, outlook.curve.speed_at(watts, band), 0.0)
        return outlook.timeline.over(speeds * outlook.motoring) * HOUR_S

    far = metres(left)
    over = max(outlook.hours * 3600.0, 1.0)
    poor, middle, good = (float(v) for v in np.quantile(far, (POOR, 0.5, GOOD)))
    clear = np.minimum(np.maximum(days.clear_w.sum(axis=1) - outlook.house_w, 0.0), outlook.rated_w)
    wished = (left >= float(outlook.curve.power_at(asked))) & (outlook.motoring > 0)
    motor_wh = float(outlook.timeline.over(np.where(turns, left, 0.0) * outlook.motoring).mean())
    house = np.minimum(days.by_bank_w.sum(axis=2), outlook.house_w)
    house_wh = float(outlook.timeline.over(house).mean())
    dull = left[int(np.argsort(left.sum(axis=1), kind="stable")[int(POOR * len(left))])]
    return SeasonMonth(
        month=month, sun_h=sun_h, asked_sun_h=asked_h, motoring_h=outlook.hours,
        speed_mps=float(far.mean()) / over,
        sceptic_mps=float(metres(dull, -1.0)) / over, enthusiast_mps=float(metres(clear, 1.0)) / over,
        poor_m=poor, middle_m=middle, good_m=good,
        kept_frac=float((turns | (outlook.motoring == 0)).all(axis=1).mean()),
        harvest_wh=harvest_wh, motor_wh=motor_wh, house_wh=house_wh,
        refused_wh=max(harvest_wh - motor_wh - house_wh, 0.0), lost_wh=0.0,
        wished_h=float(outlook.timeline.over(wished.astype(float)).mean()),
    )  # fmt: skip


def _turning(design: BoatDesign, month: SeasonMonth, curve: DemandCurve) -> list[Sentence]:
    """What would make the plan's hours at the plan's speed run on the sun in a month."""
    found = []
    if month.speed_mps > 0:
        found.append(
            sentence(
                "Slower: {v} for the {h} a day of the plan.",
                v=speed(month.speed_mps),
                h=hours(month.motoring_h),
            )
        )
    if month.wished_h > 0:
        found.append(
            sentence("Shorter: {h} a day at {v}.", h=hours(month.wished_h), v=speed(design.plan.speed_mps))
        )
    if design.nameplate_w > 0 and month.harvest_wh > 0:
        for label, mps in (
            ("More panel", design.plan.speed_mps),
            ("Both", (design.plan.speed_mps + month.speed_mps) / 2),
        ):
            asked_w = float(curve.power_at(mps))
            if not np.isfinite(asked_w):
                continue  # faster than she goes, whatever her panels give
            lacks_wh = (
                asked_w * month.motoring_h
                - float(curve.power_at(month.speed_mps) if month.speed_mps > 0 else 0.0) * month.motoring_h
            )
            more_w = design.nameplate_w * max(lacks_wh, 0.0) / month.harvest_wh
            more_w = float(np.ceil(more_w / PANEL_STEP_W) * PANEL_STEP_W)
            text = "{label}: some {w} more of panel like yours"
            text += " at {v}." if label == "Both" else "."
            slots = {"label": words(label), "w": power(more_w)} | (
                {"v": speed(mps)} if label == "Both" else {}
            )
            found.append(sentence(text, **slots))
    return found


def _never(design: BoatDesign, months: list[SeasonMonth], curve: DemandCurve) -> Sentence:
    """Where no month sustains the plan's speed for any of its hours: why nothing comes, or what it takes."""
    then = design.changed(plan=design.plan.model_copy(update={"air_temperature_c": None}))
    cause = no_harvest(outlook_under(then, clear_light(design.site, design.plan.date), curve))
    if cause is not None:
        return cause.reason
    fastest = max(months, key=lambda month: month.speed_mps)
    asked_w = float(curve.power_at(design.plan.speed_mps))
    takes = sentence("it takes {w}", w=power(asked_w)) if np.isfinite(asked_w) else BEYOND_HER
    start = f"No month's sun sustains {{v}} for any time: {takes.text}. "
    slots = {**takes.slots, "v": speed(design.plan.speed_mps)}
    if fastest.speed_mps <= 0:
        house = all(month.house_wh >= month.harvest_wh and month.house_wh > 0 for month in months)
        return sentence(start + (HOUSE_TAKES_ALL if house else BELOW_IDLE).text, **slots)
    return sentence(
        start + "The most over the plan's hours is {most}, in {month}.",
        **slots, most=speed(fastest.speed_mps), month=words(MONTHS[fastest.month - 1]),
    )  # fmt: skip


def _verdict(design: BoatDesign, now: SeasonMonth, worst: SeasonMonth, best: SeasonMonth) -> Sentence:
    water = " All through the water: the plan's stream is not a year's." if design.plan.current_mps else ""
    return sentence(
        "In {month} the sun sustains {h} a day at {v}, of the {asked} you plan; {worst_h} in {worst}, "
        "{best_h} in {best}. Over those hours the sceptic counts on {low} in {month2}, the enthusiast on "
        "{high}." + water,
        month=words(MONTHS[now.month - 1]),
        month2=words(MONTHS[now.month - 1]),
        h=hours(now.wished_h),
        v=speed(design.plan.speed_mps),
        asked=hours(now.motoring_h),
        worst_h=hours(worst.wished_h),
        worst=words(MONTHS[worst.month - 1]),
        best_h=hours(best.wished_h),
        best=words(MONTHS[best.month - 1]),
        low=speed(now.sceptic_mps),
        high=speed(now.enthusiast_mps),
    )


SEASON_READS = Reads.all_but(
    "name", "note", "wish", "claimed_w", "own_controllers", "plan.trip", "plan.budget", "plan.sky",
    "plan.sky_shade",    "plan.start_charge_frac", "plan.air_temperature_c", "site.name",
)  # fmt: skip


@kept(SEASON_READS, 12, aside="report")
def season(design: BoatDesign, days: int = DAYS, report: Report = silent) -> WholeSeason:
    """A year of a design on the days that its place has.

    Parameters
    ----------
    design : BoatDesign
    days : int
        Generated for each month.
    report : Report
        Told after every month.

    Returns
    -------
    WholeSeason
        The plan's hours and speed every day; the array as it stands in the plan's state.
    """
    curve = demand_curve(design)
    months = []
    for month in range(1, 13):
        months.append(_month(design, month, curve, days))
        report(month / 12)
    now = months[design.plan.date.month - 1]
    worst, best = min(months, key=lambda m: m.wished_h), max(months, key=lambda m: m.wished_h)
    enough = 0 < now.wished_h >= now.motoring_h - HALF_A_MINUTE_H  # as both are shown
    answer: Literal["yes", "partly", "no"] = "yes" if enough else "partly" if now.wished_h >= 1 else "no"
    return WholeSeason(
        months=months, climate=climate_told(design.site), 
        wished_mps=design.plan.speed_mps, worst=worst.month,
        best=best.month, answer=answer,
        verdict=_verdict(design, now, worst, best) if best.wished_h > 0 else _never(design, months, curve),
        turning=[] if enough else _turning(design, now, curve), days=days,
    )  # fmt: skip
