"""A boat's passage laid out: legs there and home, streams, sun, house and bank, and plans of it sailed.

Plans are chosen with a bank in watt-hours (`route.charge`) and what is told of them is run with the bank's
own model (`balance.flow`). What a generator adds is left out; the shore counts where she stops at it.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from datetime import datetime
from datetime import time as Time

import numpy as np
from numpy.typing import NDArray

from parhelion.balance.flow import RAN, SOC, run_days, run_without_bank
from parhelion.balance.outlook import Outlook, net_for_motor_w, outlook_of
from parhelion.balance.push import TO_THRUST
from parhelion.balance.sources import free_by_bank_w
from parhelion.balance.spells import house_watts
from parhelion.balance.waters import Waters, clock_h, hours_between, passable_h, stream_of, waters_of
from parhelion.balance.way_sun import SkyAt, WaySun, clock_steps, rounded_deg, sun_on_way
from parhelion.balance.winds import Winds, steady, winds_of
from parhelion.bank.store import Store, drawn_a, energy_wh
from parhelion.computing.kept import once
from parhelion.constants import STEP_S
from parhelion.design import BoatDesign
from parhelion.design.passage import MOST_DAYS, Leg, Passage
from parhelion.hull.demand import DemandCurve, demand_curve
from parhelion.hull.resistance import air_area_m2
from parhelion.route import stream as streams
from parhelion.route.best import Laying
from parhelion.route.charge import Watthours
from parhelion.route.held import LEG, MOTOR, REST, SHORE
from parhelion.route.way import Demand, LegAhead, Way, there_again
from parhelion.sun.daysteps import DaySteps, day_at
from parhelion.sun.zone import zone_at

Array = NDArray[np.float64]

GRID_S = 60.0  # plans are sailed in such steps
RUN_S = 300.0  # and their banks run in such
SPEED_STEP_MPS = 0.005  # of the demand table
LEAST_EFFICIENCY = 0.05  # of a drive in the wind's sums
SKIES_H = 6  # all skies are worked out to a multiple of these hours: plans that end a little apart share them
SHARES = np.linspace(0.0, 1.0, 101)  # states of charge
AT_MARK_M = 1.0  # nearer than this she is at it
SLOW_MPS = 0.5  # over the ground: what a passage's length in days is guessed by, at least
TYPICAL_C = 0.15  # rate of charge that the bank's losses are taken at


@dataclass(frozen=True)
class Mark:
    """The end of a leg as the way comes to it: which leg of the design, out or home."""

    name: str
    leg_index: int
    homeward: bool
    passed_m: float


@dataclass(frozen=True, eq=False)
class Ahead:
    """Everything a passage is computed from; hours count from the first local midnight."""

    outlook: Outlook  # of the design, which knows nothing of the passage
    passage: Passage
    midnight: datetime
    days: int
    legs: tuple[LegAhead, ...]  # out, and home where she comes home
    outward: int  # how many of them are the way out
    whole_out: tuple[LegAhead, ...]  # the way out, gone or not
    demand: Demand
    done_m: float = 0.0  # of the whole way, where she is under way already
    skipped: int = 0  # legs behind her
    stream_factor: float = 1.0
    other_winds: Winds | None = None
    waters: Waters = field(default_factory=lambda: Waters([], []))

    @property
    def design(self) -> BoatDesign:
        return self.outlook.design

    @property
    def leaves_h(self) -> float:
        """When she leaves, or goes on from where she is."""
        now = self.passage.now
        hours = self.hour_of(self.passage.leaves_at)
        if now is None:
            return hours
        here = self.hour_of(now.at)
        return here if here >= hours else here + 24.0  # past midnight

    def hour_of(self, clock: Time, day: int = 1) -> float:
        """Hours after the first midnight of a clock time of a day, by the zone's own offsets."""
        return clock_h(self.midnight, clock, day)

    @once
    def day(self) -> DaySteps:
        """The first day's sun."""
        return day_at(self.design.site.spot, self.midnight.date())

    @property
    def sunset_h(self) -> float | None:
        return None if self.day.sunset_at is None else hours_between(self.midnight, self.day.sunset_at)

    @property
    def sunrise_h(self) -> float | None:
        return None if self.day.sunrise_at is None else hours_between(self.midnight, self.day.sunrise_at)

    @once
    def in_by_h(self) -> float:
        """By when she means to be in: as said, or by nightfall, after all her stops."""
        said = self.passage.in_by
        hours = self.hour_of(said) if said is not None else self.sunset_h
        soonest = self.leaves_h + sum(leg.stop_s for leg in self.legs[:-1]) / 3600
        if hours is None:
            return soonest + 24.0
        while hours <= soonest:
            hours += 24.0
        return hours

    @property
    def length_m(self) -> float:
        return sum(leg.length_m for leg in self.legs)

    @property
    def out_m(self) -> float:
        return sum(leg.length_m for leg in self.legs[: self.outward])

    @once
    def marks(self) -> tuple[Mark, ...]:
        """The start, then every leg's end, in the order they are come to."""
        names = [self.passage.begins_at, *(leg.name for leg in self.passage.legs)]
        out = len(self.passage.legs)
        found = [Mark(names[0] if self.passage.now is None else "here", -1, self.outward == 0, 0.0)]
        gone = 0.0
        for k, leg in enumerate(self.legs, self.skipped):
            gone += leg.length_m
            home = k >= out
            index = 2 * out - k - 2 if home else k
            found.append(Mark(names[index + 1], index, home, gone))
        return tuple(found)

    @once
    def home_legs(self) -> tuple[LegAhead, ...]:
        """The way home from the far end, whether she means to come home or not, and wherever she is."""
        return tuple(there_again(self.whole_out))

    @once
    def _skies(self) -> tuple[SkyAt, ...]:
        plan = self.design.plan
        later = sorted(
            (
                SkyAt(self.hour_of(item.from_clock, item.day), item.sky, item.sky_shade)
                for item in self.passage.skies
            ),
            key=lambda item: item.from_h,
        )
        return (SkyAt(-math.inf, plan.sky, plan.sky_shade), *later)

    @once
    def sun(self) -> WaySun:
        """Of the shown and of the poor day, n of 2."""
        courses = (leg.course_deg for leg in (*self.legs, *self.home_legs))
        headings = tuple(sorted({rounded_deg(course) for course in courses}))
        return sun_on_way(self.design, self.midnight, self.days, headings, self._skies)

    def all_skies(self, start_h: float, end_h: float) -> WaySun:
        """Of all members, between two hours."""
        headings = tuple(sorted({rounded_deg(leg.course_deg) for leg in self.legs}))
        within = (math.floor(start_h), float(SKIES_H * math.ceil(end_h / SKIES_H)))
        return sun_on_way(self.design, self.midnight, self.days, headings, self._skies, within)

    @once
    def house_rows_w(self) -> Array:
        """The house by bank and priority over ten-minute steps, shape (4, t)."""
        return house_watts(clock_steps(self.midnight, self.days, STEP_S), self.design)

    @once
    def free_w(self) -> Array:
        """Wind, water and legs by bank over ten-minute steps, shape (t, 2)."""
        return free_by_bank_w(clock_steps(self.midnight, self.days, STEP_S), self.design)

    @property
    def store(self) -> Store | None:
        return self.outlook.store

    @property
    def start_soc(self) -> float:
        now = self.passage.now
        if now is not None and now.charge_frac is not None:
            return now.charge_frac
        said = self.passage.start_charge_frac
        return self.design.plan.start_charge_frac if said is None else said

    @once
    def bank(self) -> Watthours | None:
        """The main bank in watt-hours, its losses those at the speed of the day's plan."""
        return self.bank_at(self.outlook.plan_power_w)

    def bank_at(self, power_w: float) -> Watthours | None:
        """The main bank in watt-hours, its losses those of some battery watts, Peukert's with them."""
        store = self.store
        if store is None:
            return None
        full = energy_wh(1.0, store) - energy_wh(0.0, store)
        current = power_w / store.nominal_v
        drawn = drawn_a(current, store) / current if current > 0 else 1.0
        loss = current * store.resistance_ohm / store.nominal_v
        return Watthours(
            float(full),
            float(energy_wh(store.reserve, store) - energy_wh(0.0, store)),
            float(
                store.coulomb_efficiency
                / (1 + TYPICAL_C * store.capacity_ah * store.resistance_ohm / store.nominal_v)
            ),
            float(max(1 - loss, LEAST_EFFICIENCY) / drawn),
            float(store.acceptance_a * store.nominal_v),
            float(store.taper_from),
        )

    @property
    def start_wh(self) -> float:
        store = self.store
        return 0.0 if store is None else float(energy_wh(self.start_soc, store) - energy_wh(0.0, store))

    @once
    def held_at_shares_wh(self) -> Array:
        """What the main bank holds at each of `SHARES`; nothing without a bank [Wh]."""
        store = self.store
        if store is None:
            return np.zeros_like(SHARES)
        return np.array([energy_wh(float(share), store) - energy_wh(0.0, store) for share in SHARES])

    @once
    def winds(self) -> Winds:
        """The day's wind, and others from an hour on, in their order."""
        if self.other_winds is not None:
            return self.other_winds
        plan = self.design.plan
        first = steady(self.passage.wind_from_deg, plan.wind_mps, plan.wave_height_m)
        return winds_of(
            first, [(self.hour_of(item.from_clock, item.day), item) for item in self.passage.winds]
        )

    def laying(self, legs: Sequence[LegAhead], member: int, from_h: float) -> Laying:
        """Legs with the sun of the shown (0) or the poor (1) day, from an hour on."""
        first = round(from_h * 3600 / GRID_S)

        def net(sun: Array) -> Array:
            return net_for_motor_w(sun[member] + self.free_w, self.house_rows_w, self.outlook.aboard)

        fold = round(STEP_S / GRID_S)
        house = np.repeat(self.house_rows_w.sum(axis=0), fold)[first:]
        each = {leg.course_deg: np.repeat(net(self.sun.on(leg.course_deg)), fold)[first:] for leg in legs}
        under_way = np.stack([each[leg.course_deg] for leg in legs]) + house
        rest = np.repeat(net(self.sun.rest_w), fold)[first:] + house
        start_h = first * GRID_S / 3600
        winds = self.winds.over(start_h, len(house), GRID_S)
        return Laying(self._streamed(legs), start_h, GRID_S, under_way, house, *winds, rest)

    def _streamed(self, legs: Sequence[LegAhead]) -> list[LegAhead]:
        if self.stream_factor == 1.0:
            return list(legs)
        return [
            replace(leg, stream=None if leg.stream is None else _Times(leg.stream, self.stream_factor))
            for leg in legs
        ]

    @once
    def shown_way(self) -> Way:
        """The whole way over the shown sky from the first midnight."""
        return self.laying(self.legs, 0, 0.0).over(GRID_S)

    def banked(self, rows: Array, start_h: float, end_h: float, whole: bool = False) -> Array:
        """The banks under a plan between two hours, run with their own model, shape (n, t, 14).

        Parameters
        ----------
        rows : ndarray, shape (t, 8)
            A plan over the steps of `shown_way`.
        start_h, end_h : float
        whole : bool
            All skies, or the shown and the poor.
        """
        sun = self.all_skies(start_h, end_h) if whole else self.sun
        fold = round(RUN_S / GRID_S)
        first = int(start_h * 3600 / RUN_S + 1e-9)
        last = min(max(math.ceil(end_h * 3600 / RUN_S - 1e-9), first + 1), len(rows) // fold)
        part = rows[first * fold : last * fold].reshape(last - first, fold, -1)
        motor, rest, shore = (part[:, :, column].mean(axis=1) for column in (MOTOR, REST, SHORE))
        leg = part[:, :, LEG].max(axis=1).astype(int)
        ten = np.arange(first, last) * round(RUN_S) // STEP_S
        made = sun.rest_w[:, ten] * rest[None, :, None]
        for k in np.unique(leg):
            moving = np.where(leg == k, 1 - rest, 0.0)
            made = made + sun.on(self.legs[k].course_deg)[:, ten] * moving[None, :, None]
        made = made + self.free_w[ten]
        made[:, :, 0] += shore
        house = np.ascontiguousarray(self.house_rows_w[:, ten])
        aboard = self.outlook.aboard
        if aboard is None:
            whole_w = made.sum(axis=-1)
            return run_without_bank(whole_w, house.sum(axis=0), np.broadcast_to(motor, whole_w.shape).copy())
        starts = np.full(made.shape[0], self.start_soc)
        hours = np.full(last - first, RUN_S / 3600)
        return run_days(np.ascontiguousarray(made), house, motor, starts, starts, hours, aboard)

    @once
    def hand_mps(self) -> float | None:
        """Her speed in still water by oars, pedals, paddle or sail, where there is any."""
        if self.passage.hand_mps is not None:
            return self.passage.hand_mps
        thrust_w = sum(push.power_w * TO_THRUST.get(push.kind, 0.0) for push in self.design.pushes)
        if thrust_w <= 0:
            return None
        curve = self.outlook.curve
        return float(np.interp(thrust_w, curve.thrust_power_w, curve.speed_mps))


@dataclass(frozen=True)
class _Times:
    """A stream by a factor."""

    stream: streams.Stream
    factor: float

    def at(self, hours: object) -> tuple[Array, Array]:
        east, north = self.stream.at(hours)  # type: ignore[arg-type]
        return self.factor * east, self.factor * north


def _leg_ahead(
    leg: Leg, opens: list[tuple[float, float]] | None, passage: Passage, waters: Waters, about_h: float
) -> LegAhead:
    return LegAhead(
        length_m=leg.distance_m,
        course_deg=leg.course_deg,
        stream=None if leg.stream is None else stream_of(leg.stream, passage, waters, about_h),
        limit_mps=leg.limit_mps,
        stop_s=leg.stop_h * 3600,
        shore_w=leg.shore_w or 0.0,
        passable_h=opens,
    )


def demand_of(outlook: Outlook, passage: Passage, hungry: bool = False) -> Demand:
    """Battery watts through the water in calm, and what each height of the passage's waves adds from ahead.

    Of the boat as she is, or at the hungry end of her band.
    """
    design = outlook.design

    def in_waves(height_m: float) -> DemandCurve:
        water = {"wind_angle_deg": None, "wave_height_m": height_m}
        return demand_curve(design.changed(plan=design.plan.model_copy(update=water)))

    curve = in_waves(0.0)
    top = float(curve.speed_at(curve.most_w)) if math.isfinite(curve.most_w) else curve.top_speed_mps
    speeds = np.minimum(np.arange(int(top / SPEED_STEP_MPS) + 3) * SPEED_STEP_MPS, curve.top_speed_mps)
    drawn = curve.power_at(speeds)
    heights = sorted({0.0, design.plan.wave_height_m, *(item.waves_m or 0.0 for item in passage.winds)})
    rough = np.array([np.maximum(in_waves(height).power_at(speeds) - drawn, 0.0) for height in heights])
    rough = np.maximum.accumulate(rough, axis=0)
    if hungry:
        rough = rough * curve.band_at(speeds)
        drawn = curve.idle_w + (drawn - curve.idle_w) * curve.band_at(speeds)
        top = float(speeds[np.searchsorted(drawn, curve.most_w) - 1])
    model = np.interp(speeds, curve.speed_mps, curve.model_w) - curve.idle_w
    thrust = np.interp(speeds, curve.speed_mps, curve.thrust_power_w)
    whole = np.divide(thrust, model, out=np.full_like(model, LEAST_EFFICIENCY), where=model > 0)
    return Demand(
        np.ascontiguousarray(drawn), np.maximum(whole, LEAST_EFFICIENCY), SPEED_STEP_MPS, top,
        float(design.hull.air_drag * air_area_m2(design)), 1.0, float(curve.most_w),
        np.array(heights), np.ascontiguousarray(rough),
    )  # fmt: skip


def ahead_of(design: BoatDesign, passage: Passage) -> Ahead:
    """A design's passage laid out."""
    outlook = outlook_of(design)
    zone = zone_at(design.site.latitude_deg, design.site.longitude_deg)
    midnight = datetime.combine(design.plan.date, Time(), zone)
    waters = Waters([], [])
    distance = passage.distance_m
    stops = sum(leg.stop_h for leg in passage.legs) * (2 if passage.home_again else 1) + passage.stay_h
    pace = max((passage.speed_mps or design.plan.speed_mps) / 2, SLOW_MPS)
    days = min(max(math.ceil((24 + stops + distance / pace / 3600) / 24), 2), MOST_DAYS)
    if passage.tide is not None:
        waters = waters_of(passage.tide, midnight, days)
    about = hours_between(midnight, datetime.combine(design.plan.date, passage.leaves_at, zone))
    out: list[LegAhead] = []
    opens: list[tuple[float, float]] | None = None
    for leg in passage.legs:
        out.append(_leg_ahead(leg, opens, passage, waters, about))
        opens = passable_h(leg, waters, midnight, days)
    legs = list(out)
    if passage.home_again:
        legs[-1] = replace(legs[-1], stop_s=passage.stay_h * 3600 or legs[-1].stop_s)
        legs += there_again(out)
    skipped, done = 0, 0.0
    if passage.now is not None:
        legs, skipped = _left_of(legs, passage.now.gone_m)
        done = passage.now.gone_m
    return Ahead(
        outlook, passage, midnight, days, tuple(legs), max(len(out) - skipped, 0), tuple(out),
        demand_of(outlook, passage), done, skipped, waters=waters,
    )  # fmt: skip


def _left_of(legs: list[LegAhead], gone_m: float) -> tuple[list[LegAhead], int]:
    """The legs still to go, the first of them in part, and how many are behind her."""
    skipped = 0
    while skipped < len(legs) - 1 and gone_m >= legs[skipped].length_m - AT_MARK_M:
        gone_m -= legs[skipped].length_m
        skipped += 1
    first = legs[skipped]
    begun = max(gone_m, 0.0)
    here = replace(first, length_m=max(first.length_m - begun, 1.0))
    if begun > AT_MARK_M:  # a gate behind her is no gate
        here = replace(here, passable_h=None)
    return [here, *legs[skipped + 1 :]], skipped


def blown(ahead: Ahead, winds: Winds) -> Ahead:
    """The same passage in other winds."""
    return replace(ahead, other_winds=winds)


def kept_reserve(record: Array) -> NDArray[np.bool_]:
    """Which members' motors never stopped at the reserve, shape (n,)."""
    return np.asarray((record[:, :, RAN] > 1 - 1e-9).all(axis=1))


def edges_soc(record: Array, start_soc: float) -> Array:
    """States of charge at the steps' edges, shape (n, t + 1)."""
    return np.concatenate([np.full((len(record), 1), start_soc), record[:, :, SOC]], axis=1)
