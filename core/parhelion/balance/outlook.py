"""Everything a design's day is computed from, gathered once: light, harvest, house, hours, bank, demand."""

from __future__ import annotations

from collections.abc import Callable, Hashable
from dataclasses import dataclass, replace
from functools import wraps
from typing import Any, Concatenate, ParamSpec, TypeVar

import numpy as np
from numpy.typing import NDArray

from parhelion.balance.flow import HOUSE_SOC, MOTOR, RAN, SOC, hours_run, run_days, run_without_bank
from parhelion.balance.push import relief_w, under_sail
from parhelion.balance.sources import Backup, backup_of, free_by_bank_w, state_share
from parhelion.balance.spells import each_spell, house_watts, motoring_share, useful_sun
from parhelion.balance.steady import motor_of
from parhelion.bank.joint import Aboard, aboard_of
from parhelion.bank.store import Store, charge_limit_a
from parhelion.computing.kept import Memo, once
from parhelion.design import BoatDesign, BoatState, Spell
from parhelion.design.reads import Reads, kept
from parhelion.drive.chain import chain_of, rated_battery_w, surroundings_of, thrust_shares
from parhelion.hull.demand import DemandCurve, demand_curve
from parhelion.hull.resistance import service_resistance
from parhelion.hull.runs import Fit
from parhelion.panels.deck import deck_of
from parhelion.panels.harvest import Harvest, blended, harvest
from parhelion.sun.climate import air_temperature_c, water_temperature_c
from parhelion.sun.daysteps import DaySteps
from parhelion.sun.light import Light, clear_light, light_under
from parhelion.sun.timeline import HOUR_S, Timeline

Array = NDArray[np.float64]
P = ParamSpec("P")
T = TypeVar("T")

REMEMBERED = 200  # answers about one outlook
HARDLY = 0.05  # of its charge current: what a bank that takes less is said not to take


def net_for_motor_w(by_bank_w: Array, house_rows_w: Array, aboard: Aboard | None) -> Array:
    """What sun by bank, shape (..., t, 2), leaves the motor after the house, shape (4, t) [W].

    With two banks only what a converter brings over counts, and only with its losses.
    """
    if aboard is None or aboard.joint.present == 0:
        return np.asarray(by_bank_w.sum(axis=-1) - house_rows_w.sum(axis=0))
    joint = aboard.joint
    net = by_bank_w[..., 0] - house_rows_w[:2].sum(axis=0)
    own = by_bank_w[..., 1] - house_rows_w[2:].sum(axis=0)
    brought = np.minimum(np.maximum(own, 0) * joint.back_efficiency, joint.back_w)
    lent = joint.out_needs * np.minimum(np.maximum(-own, 0), joint.out_w) / joint.out_efficiency
    return np.asarray(net + brought - lent)


def harvest_of(design: BoatDesign, light: Light) -> Harvest:
    """The array under a light, in the plan's state and in those of its stays."""
    plan = design.plan
    if not plan.stays:
        return harvest(design, light)
    assert isinstance(light.day, DaySteps)
    timeline, parts = light.day.timeline, []
    for state in dict.fromkeys((plan.state, *(stay.state for stay in plan.stays))):
        share = state_share(timeline, design, state)
        if share.any():
            then = plan.model_copy(update={"state": state, "stays": ()})
            parts.append((share, harvest(design.changed(plan=then), light)))
    return blended(parts)


@dataclass(frozen=True, eq=False)
class Outlook:
    """One design on its day. Arrays over steps have shape (t,), over members (n, t) [W]."""

    design: BoatDesign
    light: Light
    curve: DemandCurve
    spells: tuple[Spell, ...]
    motoring: Array  # share of each step that the motor is meant to run
    house_rows_w: Array  # essential and other loads of the main bank, then of the house's own; shape (4, t)
    relief_w: Array  # battery watts that legs and arms spare the motor
    aboard: Aboard | None

    @once
    def _answers(self) -> Memo[Any]:
        return Memo(REMEMBERED)

    def remember(self, key: Hashable, make: Callable[[], T]) -> T:
        """An answer about this outlook, made once for all who ask."""
        found: T = self._answers.get(key, make)
        return found

    @property
    def timeline(self) -> Timeline:
        return self.day.timeline

    def wh(self, watts: Array) -> float:
        """Watt-hours of watts by step, shape (t,); of a share of each step, its hours."""
        return float(self.timeline.over(watts))

    @property
    def day(self) -> DaySteps:
        assert isinstance(self.light.day, DaySteps)
        return self.light.day

    @once
    def harvest(self) -> Harvest:
        """Of every member, as she lies hour by hour."""
        return harvest_of(self.design, self.light)

    @once
    def clear_harvest(self) -> Harvest:
        """Of the day with a clear-sky index of 1, shape (1, t)."""
        return harvest_of(self.design, clear_light(self.design.site, self.design.plan.date))

    @property
    def store(self) -> Store | None:
        """The main bank."""
        return None if self.aboard is None else self.aboard.main

    @property
    def takes_no_charge(self) -> bool:
        """Whether the main bank is too cold, or too hot, to take any charge worth counting."""
        store, bank = self.store, self.design.bank
        return store is not None and bank is not None and store.acceptance_a < HARDLY * charge_limit_a(bank)

    @property
    def two_banks(self) -> bool:
        return self.aboard is not None and self.aboard.joint.present > 0

    @once
    def shown_sun_w(self) -> Array:
        """At the banks' terminals on the shown day, shape (t,)."""
        return np.ascontiguousarray(self.harvest.sun_w[self.light.shown])

    @once
    def shown_by_bank_w(self) -> Array:
        """The same by bank, shape (t, 2)."""
        return np.ascontiguousarray(self.harvest.by_bank_w[self.light.shown])

    @once
    def dock_by_bank_w(self) -> Array:
        """What the banks get with every place as it stands at the dock, shape (n, t, 2)."""
        plan = self.design.plan
        if plan.state is BoatState.DOCK and not plan.stays:
            return self.harvest.by_bank_w
        moored = plan.model_copy(update={"state": BoatState.DOCK, "swing_deg": 0.0, "stays": ()})
        at_rest = self.design.changed(plan=moored)
        as_now = not plan.stays and not plan.swing_deg and not self.design.site.skyline
        if as_now and deck_of(at_rest) == deck_of(self.design):
            return self.harvest.by_bank_w
        return harvest(at_rest, self.light).by_bank_w

    @once
    def gives_at_dock_alone(self) -> bool:
        """Whether the panels stand ashore, or are folded under way, and give at the dock alone."""
        under_way = self.harvest.by_bank_w[self.light.shown]
        return not under_way.any() and bool(self.dock_by_bank_w[self.light.shown].any())

    @once
    def house_w(self) -> Array:
        """All house loads, shape (t,)."""
        return self.house_rows_w.sum(axis=0)

    @once
    def motor_rows(self) -> Array:
        """What the kernels know of the motor: its share of each step, relief, idle draw; shape (3, t)."""
        idle = np.full_like(self.motoring, self.curve.idle_w)
        return np.stack([self.motoring, self.relief_w, idle])

    def live_net_w(self, by_bank_w: Array) -> Array:
        """What the live sun leaves the motor after the house [W], over shapes (..., t, 2) of sun by bank."""
        return net_for_motor_w(by_bank_w, self.house_rows_w, self.aboard)

    @property
    def shown_net_w(self) -> Array:
        """What the live sun of the shown day leaves the motor, shape (t,)."""
        return self.live_net_w(self.shown_by_bank_w)

    @property
    def hours(self) -> float:
        return self.wh(self.motoring)

    @property
    def rated_w(self) -> float:
        return self.curve.most_w

    @once
    def label_w(self) -> float:
        """Most that the motors take by their labels alone [W]."""
        around = surroundings_of(self.design)
        return sum(rated_battery_w(drive, around) for drive in self.design.drives)

    def drive_links(self, index: int = 0) -> list[tuple[str, float]]:
        """The chain of efficiencies of one drive at the planned speed, link by link [-]."""
        design = self.design
        at = np.array([self.plan_speed_mps])
        made = service_resistance(design, at)
        thrust = made.total_n * thrust_shares(design)[index]
        chain = chain_of(design.drives[index], thrust, at, made.planing_share, surroundings_of(design))
        return [(name, float(value[0])) for name, value in chain.links]

    @once
    def sun_alone(self) -> Outlook:
        """The same without what legs and arms spare the motor: what "on the sun alone" means."""
        return self if not self.relief_w.any() else replace(self, relief_w=np.zeros_like(self.relief_w))

    @property
    def from_full(self) -> Outlook:
        """The same day begun with the bank full."""
        plan = self.design.plan.model_copy(update={"start_charge_frac": 1.0})
        return replace(self, design=self.design.changed(plan=plan))

    @once
    def plan_power_w(self) -> float:
        """Battery watts of the planned speed, or the rating where the drive cannot give that."""
        asked = float(self.curve.power_at(self.design.plan.speed_mps))
        return min(asked, self.rated_w) if np.isfinite(asked) else self.rated_w

    @once
    def plan_speed_mps(self) -> float:
        """The speed those watts give: the planned one unless the drive cannot give it."""
        return min(self.design.plan.speed_mps, float(self.curve.speed_at(self.plan_power_w)))

    @once
    def _spells_at(self) -> list[tuple[Array, float, float]]:
        """Of each spell: its share of each step, its speed and watts as the drive can give them."""
        sailed = 1 - under_sail(self.timeline, self.design.pushes)
        found = []
        for spell, share in zip(self.spells, each_spell(self.timeline, self.spells), strict=True):
            if spell.speed_mps is None:
                found.append((share * sailed, self.plan_speed_mps, self.plan_power_w))
                continue
            asked = float(self.curve.power_at(spell.speed_mps))
            watts = min(asked, self.rated_w) if np.isfinite(asked) else self.rated_w
            found.append((share * sailed, min(spell.speed_mps, float(self.curve.speed_at(watts))), watts))
        return found

    @once
    def plan_motor_w(self) -> Array:
        """The motor's mean watts over each step under the plan as set, shape (t,)."""
        made = np.zeros_like(self.motoring)
        for share, _, watts in self._spells_at:
            made += motor_of(np.stack([share, self.relief_w, self.motor_rows[2]]), watts)
        return made

    @once
    def plan_way_mps(self) -> Array:
        """Speed through the water times the motoring share of each step, shape (t,): its way made good."""
        return np.asarray(
            sum((share * mps for share, mps, _ in self._spells_at), np.zeros_like(self.motoring))
        )

    @once
    def free_w(self) -> Array:
        """Wind, water and legs by bank, shape (t, 2)."""
        return free_by_bank_w(self.timeline, self.design)

    @once
    def backup(self) -> Backup:
        """Shore and generator."""
        return backup_of(self.timeline, self.design)

    @once
    def plan_record(self) -> Array:
        """The days' record under the plan as set, every source aboard counted, shape (n, t, 14)."""
        sun = np.ascontiguousarray(self.harvest.by_bank_w + self.free_w)
        if self.aboard is None:
            return self._without_bank(sun.sum(axis=-1), self.plan_power_w)
        starts = np.full(sun.shape[0], self.design.plan.start_charge_frac)
        return run_days(
            sun,
            self.house_rows_w,
            self.plan_motor_w,
            starts,
            starts,
            self.timeline.step_h,
            self.aboard,
            self.backup,
        )

    def plan_distance_m(self, record: Array) -> Array:
        """Distance through the water of each member under the plan as set, shape (n,) [m]."""
        if self.store is None:
            return self.distance_m(record, self.plan_speed_mps)
        return self.timeline.over(record[:, :, RAN] * self.plan_way_mps) * HOUR_S

    @once
    def last_motoring_step(self) -> int:
        """One past the last step with motoring in it; 0 where there is none."""
        used = np.flatnonzero(self.motoring > 0)
        return int(used[-1]) + 1 if used.size else 0

    @once
    def first_motoring_step(self) -> int:
        used = np.flatnonzero(self.motoring > 0)
        return int(used[0]) if used.size else 0

    def run(self, power_w: float, start_soc: float, members: slice | None = None) -> Array:
        """The days' record on sun and bank alone at constant motor watts, shape (n, t, 14)."""
        rows = slice(None) if members is None else members
        sun = np.ascontiguousarray(self.harvest.by_bank_w[rows])
        if self.aboard is None:
            return self._without_bank(sun.sum(axis=-1), power_w)
        starts = np.full(sun.shape[0], start_soc)
        watts = motor_of(self.motor_rows, power_w)
        return run_days(sun, self.house_rows_w, watts, starts, starts, self.timeline.step_h, self.aboard)

    def reached_m(self, power_w: float, start_soc: float, speed_mps: float) -> Array:
        """Distance of each member's day of `run` at a constant speed, shape (n,) [m]."""
        if self.aboard is None:
            return self.distance_m(self.run(power_w, start_soc), speed_mps)
        sun, watts = np.ascontiguousarray(self.harvest.by_bank_w), motor_of(self.motor_rows, power_w)
        hours = hours_run(
            sun, self.house_rows_w, watts, self.motoring, start_soc, self.timeline.step_h, self.aboard
        )
        return hours * HOUR_S * speed_mps

    def _without_bank(self, whole: Array, power_w: float) -> Array:
        available = np.maximum(whole - self.house_w, 0.0)
        asked = max(power_w, self.curve.idle_w) - self.relief_w
        capped = np.minimum(np.minimum(available, np.maximum(asked, self.curve.idle_w)), self.rated_w)
        turning = np.where(capped > self.curve.idle_w, capped, 0.0)
        return run_without_bank(whole, self.house_w, turning * self.motoring)

    def distance_m(self, record: Array, speed_mps: float) -> Array:
        """Distance through the water of each member at a constant speed, shape (n,) [m]."""
        if self.store is None:
            share = np.where(self.motoring > 0, self.motoring, 1.0)
            speeds = np.minimum(self.curve.speed_at(record[:, :, MOTOR] / share + self.relief_w), speed_mps)
            return self.timeline.over(speeds * self.motoring) * HOUR_S
        return self.timeline.over(record[:, :, RAN] * self.motoring) * HOUR_S * speed_mps

    def soc_at(self, record: Array, index: float, start_soc: float, own: bool = False) -> Array:
        """State of charge some steps after the start, between steps in a straight line, shape (n,)."""
        lane = record[:, :, HOUSE_SOC if own else SOC]
        low = min(int(index), record.shape[1] - 1)
        before = lane[:, low - 1] if low else np.full(record.shape[0], start_soc)
        return np.asarray(before + (lane[:, low] - before) * (index - low))


def remembered(function: Callable[Concatenate[Outlook, P], T]) -> Callable[Concatenate[Outlook, P], T]:
    """A question about an outlook that is answered once, however many ask."""

    @wraps(function)
    def asked(outlook: Outlook, *args: P.args, **named: P.kwargs) -> T:
        key = (function.__module__, function.__qualname__, args, tuple(sorted(named.items())))
        return outlook.remember(key, lambda: function(outlook, *args, **named))

    return asked


OUTLOOK_READS = Reads.all_but("name", "note", "passage", "wish")


@kept(OUTLOOK_READS, 12)
def outlook_of(design: BoatDesign) -> Outlook:
    """Gather what the answers of a design are computed from; once for all who ask about the same design."""
    light = light_under(design.site, design.plan.date, design.plan.sky, design.plan.sky_shade)
    return outlook_under(design, light, demand_curve(design))


def where_panels_give(outlook: Outlook) -> Outlook:
    """The boat where her panels give to the bank: moored, where they give at the dock alone."""
    if not outlook.gives_at_dock_alone:
        return outlook
    plan = outlook.design.plan.model_copy(update={"state": BoatState.DOCK})
    return outlook_of(outlook.design.changed(plan=plan))


def shown_outlook(
    design: BoatDesign, base: Outlook, displacement_kg: float | None = None, fitted: Fit | None = None
) -> Outlook:
    """A changed design on the base's shown day alone, shape (1, t), its demand by the base's runs."""
    light = base.light.shown_alone
    curve = demand_curve(design, displacement_kg, fitted or base.curve.fit)
    # the default hours stay the base's: a step changes one thing
    return outlook_under(design, light, curve, base.spells if design.plan.spells is None else None)


def outlook_under(
    design: BoatDesign, light: Light, curve: DemandCurve, spells: tuple[Spell, ...] | None = None
) -> Outlook:
    """What the answers are computed from, under a light of one's own; `spells` in the place of the usual."""
    day = light.day
    assert isinstance(day, DaySteps)
    timeline = day.timeline
    if design.plan.spells is not None:
        spells = design.plan.spells
    elif spells is None:
        clear = clear_light(design.site, design.plan.date)
        made = harvest(design, clear).sun_w[0] if design.panels else clear.ghi[0]
        spells = useful_sun(day, made)
    return Outlook(
        design=design,
        light=light,
        curve=curve,
        spells=spells,
        motoring=motoring_share(timeline, spells) * (1 - under_sail(timeline, design.pushes)),
        house_rows_w=house_watts(timeline, design),
        relief_w=relief_w(timeline, design.pushes, curve.efficiency_at(design.plan.speed_mps)),
        aboard=aboard_of(design, air_temperature_c(design), water_temperature_c(design)),
    )
