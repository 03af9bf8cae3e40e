"""How much bank: for some hours at a speed, for a night under way, for grey days with the house alone."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import replace
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from parhelion.balance.dock import hours_to_reserve
from parhelion.balance.grey import carried
from parhelion.balance.outlook import Outlook, harvest_of, remembered
from parhelion.balance.spells import house_watts
from parhelion.bank.joint import Aboard, aboard_of
from parhelion.bank.store import Store
from parhelion.design import BoatDesign, Sky
from parhelion.design.reads import Reads, kept
from parhelion.hull.demand import DemandCurve, demand_curve
from parhelion.market.parts import battery_price
from parhelion.quantities import (
    Frozen,
    Sentence,
    hours,
    sentence,
    speed,
    words,
)
from parhelion.sun.climate import air_temperature_c, water_temperature_c
from parhelion.sun.daysteps import DaySteps
from parhelion.sun.light import light_under, some_of
from parhelion.sun.timeline import HOUR_S

Array = NDArray[np.float64]

SMALLEST, LARGEST = 0.01, 400.0  # of the present bank
STRAIGHT = 0.1  # of the displacement: a mass whose watts are taken to go in a straight line
FINE_LN = 1e-3  # how near the smallest is found
CLEAR = 1.1  # of a guess: a bank that is not drawn down to its reserve
NEAR_LN = 1e-3  # how near a good guess lies; from a worse one the steps grow
GROWS = 4  # by so many times each
GREY_MEMBERS = 30  # of the ensemble's overcast days
REFINED = 1  # times that a size is read from what a size near it is drawn down by
FOLLOWED = 3  # times that a size is read from how long one near it lasts
HARD_MEMBERS = 8  # of them, on which the size is looked for
KEPT_SHARE = 0.9  # of them that must keep the house going
LAST_STEP_H = 1 / 6  # what is asked stays this far within that
LONGEST_HOURS = 72.0
LEAST_H = 1e-3  # a bank that does not move her at all is taken to last so long, to be followed from
LONGEST_GREY_DAYS = 30


GREY_READS = Reads.all_but(
    "name", "note", "use", "hull", "loading", "tows", "runs", "fitted_set", "drives", "pushes", "claimed_w",
    "sources", "passage", "wish", "plan.trip", "plan.budget", "plan.sky", "plan.sky_shade", "plan.speed_mps",
    "plan.spells", "plan.start_charge_frac", "plan.wind_angle_deg", "plan.wave_height_m", "plan.current_mps",
)  # fmt: skip

Key = Literal["hours", "night", "grey"]


class SizingAsk(Frozen):
    """What a person wants of the bank."""

    hours: float = 3.0
    speed_mps: float | None = None  # the planned one where not given
    grey_days: int = 3


USUAL_ASK = SizingAsk()


class BankSize(Frozen):
    """A bank that does what is asked, of the present one's kind and volts."""

    key: Key
    label: Sentence
    energy_wh: float | None  # nominal; None with the reason
    capacity_ah: float | None = None
    units: int | None = None
    mass_kg: float | None = None
    cost: float | None = None
    of_present: float | None = None
    slower_mps: float | None = None  # at the planned watts, for its extra mass
    reason: Sentence | None = None


def scaled(store: Store, size: float) -> Store:
    """A bank of the same kind, larger or smaller."""
    return store._replace(
        capacity_ah=store.capacity_ah * size, resistance_ohm=store.resistance_ohm / size,
        acceptance_a=store.acceptance_a * size, label_a=store.label_a * size,
    )  # fmt: skip


def smallest_size(enough: Callable[[float], bool], guess: float) -> float | None:
    """The smallest size that is enough, by bisection on its logarithm; None where none is.

    It is looked for from a guess on, in growing steps: a good one spares most halvings.
    """
    least, most = math.log(SMALLEST), math.log(LARGEST)
    start = last = math.log(min(max(guess, SMALLEST), LARGEST))
    does = enough(math.exp(start))
    away = -NEAR_LN if does else NEAR_LN
    while True:
        if last == (least if does else most):
            return SMALLEST if does else None
        other = min(max(start + away, least), most)
        if enough(math.exp(other)) != does:
            break
        last, away = other, GROWS * away
    low, high = min(last, other), max(last, other)
    while high - low > FINE_LN:
        middle = (low + high) / 2
        low, high = (low, middle) if enough(math.exp(middle)) else (middle, high)
    return math.exp(high)


def resized(aboard: Aboard, size: float) -> Aboard:
    """What stores, with a main bank of another size; a house bank of its own stays."""
    main = scaled(aboard.main, size)
    return aboard._replace(main=main, house=aboard.house if aboard.joint.present else main)


@remembered
def _heavier(outlook: Outlook) -> tuple[float, DemandCurve]:
    """Another mass aboard that tells how the curve goes with mass, and the curve with it [kg]."""
    design = outlook.design
    assert design.bank is not None
    more = max(STRAIGHT * design.displacement_kg, design.bank.mass)
    return more, demand_curve(design, design.displacement_kg + more, outlook.curve.fit)


def _watts_by_size(outlook: Outlook, speed_mps: float) -> Callable[[float], float]:
    """Battery watts of a speed with a bank of another size aboard: its mass counts, in a straight line."""
    bank = outlook.design.bank
    assert bank is not None
    more, heavier = _heavier(outlook)
    here = float(outlook.curve.power_at(speed_mps))
    slope = (float(heavier.power_at(speed_mps)) - here) / more
    return lambda size: here + slope * (size - 1) * bank.mass


def _slower_mps(outlook: Outlook, added_kg: float) -> float:
    """What some mass more takes of the speed at the planned watts; little of it counts in a straight line."""
    here, watts = outlook.curve, outlook.plan_power_w
    if abs(added_kg) <= STRAIGHT * outlook.design.displacement_kg:
        more, heavier = _heavier(outlook)
        loaded = replace(here, power_w=here.power_w + (heavier.power_w - here.power_w) * added_kg / more)
    else:
        loaded = demand_curve(outlook.design, outlook.design.displacement_kg + added_kg, here.fit)
    return float(here.speed_at(watts) - loaded.speed_at(watts))


def _answer(
    outlook: Outlook, key: Literal["hours", "night", "grey"], label: Sentence, size: float
) -> BankSize:
    bank = outlook.design.bank
    assert bank is not None
    wh = size * bank.nominal_wh
    added = (size - 1) * bank.mass
    return BankSize(
        key=key,
        label=label,
        energy_wh=wh,
        capacity_ah=wh / bank.nominal_v,
        units=bank.series * math.ceil(size * bank.parallel - 1e-6),
        mass_kg=size * bank.mass,
        cost=battery_price(bank, wh),
        of_present=size,
        slower_mps=_slower_mps(outlook, added),
    )


def _none(key: Key, label: Sentence, why: Sentence) -> BankSize:
    return BankSize(key=key, label=label, energy_wh=None, reason=why)


def _for_hours(
    outlook: Outlook,
    key: Literal["hours", "night"],
    label: Sentence,
    wanted_h: float,
    speed_mps: float,
    start: int,
) -> BankSize:
    """A bank that lasts some hours at a speed in the dark, from full to the reserve."""
    if not np.isfinite(outlook.curve.power_at(speed_mps)):
        return _none(key, label, sentence("The hull's model ends below this speed."))
    if float(outlook.curve.power_at(speed_mps)) > outlook.rated_w:
        return _none(key, label, sentence("The drive does not give this speed."))
    watts = _watts_by_size(outlook, speed_mps)
    dark = np.zeros((outlook.day.steps, 2))
    aboard = outlook.aboard
    assert aboard is not None

    def lasts_h(size: float) -> float:
        return hours_to_reserve(
            dark, outlook.house_rows_w, outlook.motor_rows, watts(size), 1.0, start, outlook.timeline.step_h,
            resized(aboard, size),
        )[0]  # fmt: skip

    guess = 1.0
    for _ in range(FOLLOWED):
        guess = min(max(guess * wanted_h / max(lasts_h(guess), LEAST_H), SMALLEST), LARGEST)
    size = smallest_size(lambda size: lasts_h(size) >= wanted_h, guess)
    if size is None:
        return _none(key, label, sentence("No bank of this kind does: it weighs too much."))
    return _answer(outlook, key, label, size)


class _GreySpells:
    """Spells of grey days at anchor. What a size carries a larger one carries as well.

    Which spells are the hardest is seen on the largest bank; the size is looked for on those, tried on all.
    """

    def __init__(self, sun: Array, house_rows_w: Array, count: int, step_h: Array, aboard: Aboard):
        self.sun, self.house_rows_w, self.count = sun, house_rows_w, count
        self.step_h, self.aboard = step_h, aboard
        kept, lowest = self._run(LARGEST, np.arange(GREY_MEMBERS))
        self.hardest = np.lexsort((lowest, kept))
        self.lowest = lowest

    def smallest(self) -> float | None:
        """The smallest size that carries the house over nine of ten of them."""
        guess = self._needs(LARGEST, self.lowest)
        for _ in range(REFINED):
            size = min(max(CLEAR * guess, SMALLEST), LARGEST)  # the sun may never fall short
            guess = self._needs(size, self._run(size, self.hardest[:HARD_MEMBERS])[1])
        found = smallest_size(lambda size: self.enough(size, HARD_MEMBERS), guess)
        if found is not None and not self.enough(found, GREY_MEMBERS):
            found = smallest_size(lambda size: self.enough(size, GREY_MEMBERS), found)
        return found

    def _needs(self, size: float, lowest: Array) -> float:
        """The size that would come down to its reserve, if it lost what this one lost, on nine of ten."""
        spared = round((1 - KEPT_SHARE) * GREY_MEMBERS)
        if self.aboard.main.reserve >= 1:  # nothing of any size is to be used
            return LARGEST
        return float(size * (1 - np.sort(lowest)[spared]) / (1 - self.aboard.main.reserve))

    def enough(self, size: float, members: int) -> bool:
        """Whether a size carries nine of ten, the easier ones beyond so many taken as carried."""
        kept, _ = self._run(size, self.hardest[:members])
        return bool(np.sum(~kept) <= round((1 - KEPT_SHARE) * GREY_MEMBERS))

    def _run(self, size: float, spells: NDArray[np.int64]) -> tuple[NDArray[np.bool_], Array]:
        """Which of some spells it carries, and how low its charge gets in each."""
        return carried(
            self.sun, self.house_rows_w, spells, self.count, self.step_h, resized(self.aboard, size)
        )


@kept(GREY_READS, 16)
def grey_size(design: BoatDesign, count: int) -> float | None:
    """The size of the main bank, over the present one, that keeps the house going over grey days at anchor.

    Parameters
    ----------
    design : BoatDesign
        With a bank.
    count : int
        Overcast days on end.

    Returns
    -------
    float or None
        For nine of ten such spells; None where no size does.
    """
    light = some_of(light_under(design.site, design.plan.date, Sky.OVERCAST), GREY_MEMBERS)
    aboard = aboard_of(design, air_temperature_c(design), water_temperature_c(design))
    assert isinstance(light.day, DaySteps) and aboard is not None
    timeline = light.day.timeline
    sun = np.ascontiguousarray(harvest_of(design, light).by_bank_w)
    return _GreySpells(sun, house_watts(timeline, design), count, timeline.step_h, aboard).smallest()


def _for_grey_days(outlook: Outlook, count: int) -> BankSize:
    """A bank that keeps the house going over grey days at anchor, on nine of ten such spells."""
    label = sentence("{n} grey days at anchor, the house alone", n=words(str(count)))
    if not outlook.house_w.any():
        return _none("grey", label, sentence("There is no house load to keep."))
    size = grey_size(outlook.design, count)
    if size is None:
        return _none("grey", label, sentence("No bank of this kind does: what joins the banks is too small."))
    return _answer(outlook, "grey", label, size)


def sizes(outlook: Outlook, ask: SizingAsk) -> list[BankSize]:
    """The three answers; none without a bank to take the kind from.

    Parameters
    ----------
    outlook : Outlook
    ask : SizingAsk
        Hours and speed for the first, days for the third. The night runs from dusk to dawn at the speed.

    Returns
    -------
    list of BankSize
        From full to the reserve, without sun for the first two, under overcast skies for the third.
    """
    if outlook.aboard is None:
        return []
    at = ask.speed_mps or outlook.plan_speed_mps
    wanted = min(ask.hours, LONGEST_HOURS - LAST_STEP_H)
    label = sentence("{h} at {v}, no sun", h=hours(wanted), v=speed(at))
    found = [_for_hours(outlook, "hours", label, wanted, at, outlook.first_motoring_step)]
    day = outlook.day
    night_h = (day.timeline.ends_at - day.sunset_at).total_seconds() / HOUR_S if day.sunset_at else 0.0
    label = sentence("a night under way at {v}, {h} from dusk to dawn", v=speed(at), h=hours(night_h))
    if night_h > 0:
        dusk = int(day.dusk_index) % day.steps
        found.append(_for_hours(outlook, "night", label, min(night_h, LONGEST_HOURS - LAST_STEP_H), at, dusk))
    else:
        found.append(_none("night", label, sentence("The sun does not set on this day.")))
    return [*found, _for_grey_days(outlook, min(max(ask.grey_days, 1), LONGEST_GREY_DAYS))]
