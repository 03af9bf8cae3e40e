"""The sun on a way: what reaches the banks on each leg's heading and at anchor, over days of clock time.

The days' own steps begin at sunrise; here they are laid end to end from the first midnight. Headings are
taken to the nearest 15 degrees: of 24 headings each leg asks for one, and legs that share one ask once.
"""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime, timedelta

import numpy as np
from numpy.typing import NDArray

from parhelion.constants import STEP_S, STEPS_PER_DAY
from parhelion.design import BoatDesign, BoatState, Plan, Shade, Sky
from parhelion.design.reads import Reads, kept
from parhelion.panels.harvest import HARVEST_READS, harvest, met_by_controllers
from parhelion.sun.daysteps import day_at
from parhelion.sun.light import light_under
from parhelion.sun.sky import MEMBERS
from parhelion.sun.timeline import Timeline, even_steps

Array = NDArray[np.float64]

WAY_SUN_READS = HARVEST_READS | Reads("site")
HEADING_DEG = 15.0  # headings are told apart by this much


@dataclass(frozen=True)
class SkyAt:
    """A sky from some hours after the first midnight on."""

    from_h: float
    sky: Sky
    shade: Shade


def rounded_deg(course_deg: float) -> float:
    """A course as one of the headings that the sun is worked out for."""
    return round(course_deg / HEADING_DEG) * HEADING_DEG % 360


@dataclass(frozen=True, eq=False)
class WaySun:
    """Sun at the banks' terminals over ten-minute steps from the first midnight, shapes (n, t, 2) [W]."""

    by_heading_w: dict[float, Array]
    rest_w: Array

    def on(self, course_deg: float) -> Array:
        return self.by_heading_w[rounded_deg(course_deg)]


def clock_steps(midnight: datetime, days: int, step_s: float) -> Timeline:
    """Even steps from a local midnight over so many days."""
    zone = midnight.tzinfo
    assert zone is not None
    steps = round(days * 86400 / step_s)
    return even_steps(midnight, step_s, steps, zone)  # type: ignore[arg-type]


def sun_on_way(
    design: BoatDesign,
    midnight: datetime,
    days: int,
    headings_deg: tuple[float, ...],
    skies: tuple[SkyAt, ...],
    within_h: tuple[float, float] | None = None,
) -> WaySun:
    """Lay the days' harvests end to end.

    Parameters
    ----------
    design : BoatDesign
        Without stays: its state is said here.
    midnight : datetime
        Local, of the first day.
    days : int
    headings_deg : tuple of float
        Of all legs, rounded, each once.
    skies : tuple of SkyAt
        In order of time; the first one rules from the beginning.
    within_h : (float, float), optional
        All members of each day, between two hours alone; the shown and the poor one over all days without it.
    """
    return _sun_on_way(met_by_controllers(design), midnight, days, headings_deg, skies, within_h)


@kept(WAY_SUN_READS, 6)
def _sun_on_way(
    design: BoatDesign,
    midnight: datetime,
    days: int,
    headings_deg: tuple[float, ...],
    skies: tuple[SkyAt, ...],
    within_h: tuple[float, float] | None,
) -> WaySun:
    """The same, whatever else is aboard than the array."""
    first = midnight.date()
    dates = [first + timedelta(days=k) for k in range(-1, days)]
    spots = [day_at(design.site.spot, date) for date in dates]
    place = _places(midnight, days, [spot.timeline for spot in spots])
    hours = (np.arange(days * STEPS_PER_DAY) + 0.5) * STEP_S / 3600
    if within_h is not None:
        place[(hours < within_h[0] - STEP_S / 3600) | (hours > within_h[1] + STEP_S / 3600)] = -1
    rule = np.searchsorted([sky.from_h for sky in skies[1:]], hours, side="right")

    members = 2 if within_h is None else MEMBERS

    def laid(heading_deg: float | None, state: BoatState) -> Array:
        plan = design.plan.model_copy(
            update={"state": state, "heading_deg": heading_deg, "stays": (), "swing_deg": 0.0}
            if state is BoatState.UNDER_WAY
            else {"state": state, "stays": ()}
        )
        found = None
        for index, sky in enumerate(skies):
            if not (rule == index).any():
                continue
            mine = place[rule == index]
            made = []
            for number, (date, spot) in enumerate(zip(dates, spots, strict=True)):
                used = mine[mine // STEPS_PER_DAY == number] % STEPS_PER_DAY
                if spot.clear_ghi_w_per_m2[used].any():
                    made.append(
                        _day_w(design, plan.model_copy(update={"date": date}), sky, within_h is not None)
                    )
                else:
                    made.append(np.zeros((members, STEPS_PER_DAY, 2)))
            joined = np.concatenate(made, axis=1)
            line = np.where((place >= 0)[None, :, None], joined[:, np.maximum(place, 0)], 0.0)
            found = line if found is None else np.where((rule == index)[None, :, None], line, found)
        assert found is not None
        return np.ascontiguousarray(found)

    by_heading = {heading: laid(heading, BoatState.UNDER_WAY) for heading in headings_deg}
    return WaySun(by_heading, laid(None, BoatState.ANCHORED))


def _day_w(design: BoatDesign, plan: Plan, sky: SkyAt, whole: bool) -> Array:
    """One date's harvest by bank, shape (n, 144, 2) [W]."""
    light = light_under(design.site, plan.date, sky.sky, sky.shade)
    return harvest(design.changed(plan=plan), light if whole else light.shown_and_poor).by_bank_w


def _places(midnight: datetime, days: int, timelines: list[Timeline]) -> NDArray[np.int64]:
    """Where each ten minutes of clock time lies among the days' steps laid end to end; -1 where in none."""
    middles = (np.arange(days * STEPS_PER_DAY) + 0.5) * STEP_S
    found = np.full(len(middles), -1, dtype=np.int64)
    for number, timeline in enumerate(timelines):
        begins = (timeline.starts_at - midnight).total_seconds()
        index = np.floor((middles - begins) / STEP_S).astype(np.int64)
        within = (index >= 0) & (index < timeline.steps)
        found[within] = number * STEPS_PER_DAY + index[within]
    return found
