"""Everything a design's day is computed from, gathered once: light, harvest, house, hours, bank, demand."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from parhelion.array.harvest import Harvest, air_temperature_c, harvest
from parhelion.bank.store import Store, store_of
from parhelion.constants import STEP_H
from parhelion.day.flow import MOTOR, RAN, SOC, run_days, run_without_bank
from parhelion.day.spells import hours_of, house_watts, motoring_share, useful_sun
from parhelion.design import BoatDesign, Spell
from parhelion.hull.demand import DemandCurve, demand_curve
from parhelion.hull.runs import Fit
from parhelion.sun.daysteps import DaySteps
from parhelion.sun.light import Light, clear_light, light_under

Array = NDArray[np.float64]


@dataclass(frozen=True)
class Outlook:
    """One design on its day. Arrays over steps have shape (144,), over members (n, 144) [W]."""

    design: BoatDesign
    light: Light
    curve: DemandCurve
    spells: tuple[Spell, ...]
    motoring: Array  # share of each step that the motor is meant to run
    essential_w: Array
    other_w: Array
    store: Store | None

    @property
    def day(self) -> DaySteps:
        return self.light.day

    @cached_property
    def harvest(self) -> Harvest:
        """Of every member."""
        return harvest(self.design, self.light)

    @cached_property
    def clear_harvest(self) -> Harvest:
        """Of the day with a clear-sky index of 1, shape (1, 144)."""
        return harvest(self.design, clear_light(self.design.site, self.design.plan.date))

    @property
    def shown_sun_w(self) -> Array:
        """At the bank's terminals on the shown day, shape (144,)."""
        return np.ascontiguousarray(self.harvest.sun_w[self.light.shown])

    @property
    def house_w(self) -> Array:
        return self.essential_w + self.other_w

    @property
    def shown_net_w(self) -> Array:
        """The sun of the shown day less the house, shape (144,)."""
        return self.shown_sun_w - self.house_w

    @property
    def hours(self) -> float:
        return hours_of(self.motoring)

    @property
    def rated_w(self) -> float:
        return self.design.rated_power_w

    @property
    def plan_power_w(self) -> float:
        """Battery watts of the planned speed, or the rating where the drive cannot give that."""
        asked = float(self.curve.power_at(self.design.plan.speed_mps))
        return min(asked, self.rated_w) if np.isfinite(asked) else self.rated_w

    @property
    def plan_speed_mps(self) -> float:
        """The speed those watts give: the planned one unless the drive cannot give it."""
        return min(self.design.plan.speed_mps, float(self.curve.speed_at(self.plan_power_w)))

    @property
    def last_motoring_step(self) -> int:
        """One past the last step with motoring in it; 0 where there is none."""
        used = np.flatnonzero(self.motoring > 0)
        return int(used[-1]) + 1 if used.size else 0

    @property
    def first_motoring_step(self) -> int:
        used = np.flatnonzero(self.motoring > 0)
        return int(used[0]) if used.size else 0

    def run(self, power_w: float, start_soc: float, members: slice | None = None) -> Array:
        """The days' record at constant motor watts from a start charge, shape (n, 144, 10)."""
        sun = self.harvest.sun_w if members is None else self.harvest.sun_w[members]
        sun = np.ascontiguousarray(sun)
        if self.store is None:
            available = np.maximum(sun - self.house_w, 0.0)
            capped = np.minimum(np.minimum(available, power_w), self.rated_w)
            return run_without_bank(sun, self.house_w, np.where(capped > self.curve.idle_w, capped, 0.0)
                                    * self.motoring)  # fmt: skip
        starts = np.full(sun.shape[0], start_soc)
        return run_days(
            sun, self.essential_w, self.other_w, self.motoring * power_w, starts, STEP_H, self.store
        )

    def distance_m(self, record: Array, speed_mps: float) -> Array:
        """Distance through the water of each member at a constant speed, shape (n,) [m]."""
        if self.store is None:
            share = np.where(self.motoring > 0, self.motoring, 1.0)
            speeds = np.minimum(self.curve.speed_at(record[:, :, MOTOR] / share), speed_mps)
            return (speeds * self.motoring).sum(axis=1) * STEP_H * 3600
        return (record[:, :, RAN] * self.motoring).sum(axis=1) * STEP_H * 3600 * speed_mps

    def soc_at(self, record: Array, index: float, start_soc: float) -> Array:
        """State of charge some steps after the start, between steps in a straight line, shape (n,)."""
        lanes = np.concatenate([np.full((record.shape[0], 1), start_soc), record[:, :, SOC]], axis=1)
        low = min(int(index), record.shape[1] - 1)
        return lanes[:, low] + (lanes[:, low + 1] - lanes[:, low]) * (index - low)


def outlook_of(design: BoatDesign) -> Outlook:
    """Gather what the answers of a design are computed from."""
    light = light_under(design.site, design.plan.date, design.plan.sky)
    return _gather(design, light, demand_curve(design))


def shown_outlook(
    design: BoatDesign, base: Outlook, displacement_kg: float | None = None, fitted: Fit | None = None
) -> Outlook:
    """A changed design on the base's shown day alone, shape (1, 144), its demand by the base's runs."""
    shown = base.light.shown
    rows = slice(shown, shown + 1)
    light = Light(
        base.day, base.light.ghi[rows], base.light.dhi[rows], base.light.dni[rows], 0,
        (*base.light.key, "shown"),
    )  # fmt: skip
    curve = demand_curve(design, displacement_kg, fitted or base.curve.fit)
    changed = _gather(design, light, curve)
    if design.plan.spells is None:  # the default hours stay the base's: a step changes one thing
        changed = replace(changed, spells=base.spells, motoring=base.motoring)
    return changed


def _gather(design: BoatDesign, light: Light, curve: DemandCurve) -> Outlook:
    day = light.day
    if design.plan.spells is not None:
        spells = design.plan.spells
    else:
        clear = clear_light(design.site, design.plan.date)
        made = harvest(design, clear).sun_w[0] if design.panels else clear.ghi[0]
        spells = useful_sun(day, made)
    essential, other = house_watts(day, design.loads)
    bank = design.bank
    return Outlook(
        design=design,
        light=light,
        curve=curve,
        spells=spells,
        motoring=motoring_share(day, spells),
        essential_w=essential,
        other_w=other,
        store=store_of(bank, air_temperature_c(design)) if bank else None,
    )
