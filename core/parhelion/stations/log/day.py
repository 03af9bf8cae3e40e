"""The day as it went: modelled and measured over the same hours, its gaps in words."""

from __future__ import annotations

from itertools import groupby
from math import ceil

import numpy as np
from numpy.typing import NDArray

from parhelion.diagnosis.inputs import inputs_of
from parhelion.quantities import Sentence, clock, count, energy, fraction, sentence
from parhelion.stations.log.learned import run_offered
from parhelion.stations.log.outing_day import OutingDay, ended_at, still_in
from parhelion.stations.log.shown import (
    DayShown,
    InputName,
    ReadingLine,
    ReadMark,
    Series,
    SkySpan,
    SpeedSpan,
    StretchTold,
)
from parhelion.stations.log.track import track_of

Array = NDArray[np.float64]

SHOWN_READINGS = 400
P90 = 1.2816  # spreads from the middle to 9 of 10
LOW_SHARE_SPREADS, LOW_SHARE = 2.5, 0.12  # below the model by so much is marked
STEP_MIN = 10.0
SPEED_APART_MPS = 0.12
LEAST_TOLD_MIN, GAP_TOLD_MIN = 25.0, 150.0
LEAST_THROWN_WH = 30.0
NIGHT_W = 15.0


def _series(values: Array, rows: slice) -> Series:
    return [None if not np.isfinite(v) else round(float(v), 4) for v in values[rows]]


def _window(day: OutingDay) -> slice:
    """The steps that are shown: where there was sun, or something was read or done."""
    log = day.rows.log()
    busy = np.isfinite(day.read_w) | np.isfinite(log.soc) | np.isfinite(log.motor_w) | day.out
    lit = day.modelled_w > NIGHT_W
    used = np.flatnonzero(busy | lit)
    if not len(used):
        return slice(0, day.steps.steps)
    first, last = int(used[0]), int(used[-1]) + 1
    return slice(max(first - first % 6, 0), min(6 * ceil(last / 6), day.steps.steps))


def names_of(day: OutingDay) -> dict[str, str]:
    """The controllers' names by their keys, those of what they carry."""
    return {box.key: box.name for box in inputs_of(day.design)}


def _skies(day: OutingDay, minutes: Array, rows: slice) -> list[SkySpan]:
    found, noted = [], any(word is not None for word in day.rows.words)
    at = rows.start
    for word, group in groupby(day.words[rows]):
        number = len(list(group))
        found.append(
            SkySpan(
                word=word, label=word.label, noted=noted,
                from_min=float(minutes[at] - STEP_MIN / 2),
                to_min=float(minutes[at + number - 1] + STEP_MIN / 2),
            )
        )  # fmt: skip
        at += number
    return found


def _speeds(day: OutingDay, minutes: Array, rows: slice) -> list[SpeedSpan]:
    """Stretches at about one speed."""
    found: list[SpeedSpan] = []
    for index in range(rows.start, rows.stop):
        speed = float(day.speed_mps[index])
        if speed < 0.2:
            continue
        start, end = float(minutes[index] - STEP_MIN / 2), float(minutes[index] + STEP_MIN / 2)
        last = found[-1] if found else None
        if last is not None and last.to_min == start and abs(last.speed_mps - speed) < SPEED_APART_MPS:
            found[-1] = last.model_copy(update={"to_min": end})
        else:
            found.append(SpeedSpan(from_min=start, to_min=end, speed_mps=speed))
    return found


def _marks(values: Array, minutes: Array, **more: bool) -> list[ReadMark]:
    known = np.flatnonzero(np.isfinite(values))
    return [ReadMark(minute=float(minutes[i]), value=float(values[i]), **more) for i in known]


def _shares(day: OutingDay, minutes: Array) -> list[ReadMark]:
    """What each controller, or the whole, gave of what its sky allows."""
    found = []
    parts: tuple[str | None, ...] = day.rows.parts or (None,)
    known = {box.key for box in inputs_of(day.design)}
    for part in parts:
        if part is not None and part not in known:
            continue
        model = day.modelled_w if part is None else day.box_w(part)
        read = day.rows.panel_watts(part)
        for index in np.flatnonzero(np.isfinite(read) & day.lit & (model > 1)):
            share = float(read[index] / model[index])
            throttled = bool(day.throttled[index])
            slack = max(LOW_SHARE_SPREADS * float(day.spread[index]), LOW_SHARE)
            found.append(
                ReadMark(
                    minute=float(minutes[index]), value=share, of=part, throttled=throttled,
                    low=not throttled and share < 1 - slack,
                )
            )  # fmt: skip
    return sorted(found, key=lambda mark: mark.minute)


def _runs(mask: NDArray[np.bool_]) -> list[tuple[int, int]]:
    """Stretches of steps that are so, from and past the last."""
    edges = np.flatnonzero(np.diff(np.concatenate([[0], mask.astype(int), [0]])))
    return [(int(a), int(b)) for a, b in zip(edges[::2], edges[1::2], strict=True)]


def told_of(day: OutingDay) -> list[StretchTold]:
    """What is said of the day's stretches: a bank that was full, panels that fell short, hours unread."""
    start = day.steps.starts_at
    at = np.array(day.steps.edges_s) / 60
    found: list[StretchTold] = []

    def tell(first: int, past: int, words: Sentence) -> None:
        found.append(StretchTold(from_min=float(at[first]), to_min=float(at[past]), words=words))

    for first, past in _runs(day.thrown_w > 1.0):
        wh = float(np.sum((day.thrown_w * day.steps.step_h)[first:past]))
        if at[past] - at[first] >= LEAST_TOLD_MIN and wh > LEAST_THROWN_WH:
            tell(first, past, sentence(
                "bank full, {a} to {b}: {wh} not taken", a=clock(float(at[first]) % 1440),
                b=clock(float(at[past]) % 1440), wh=energy(wh),
            ))  # fmt: skip
    names = names_of(day)
    marks = _shares(day, day.steps.middles_s / 60)
    for part in {mark.of for mark in marks}:
        mine = [mark for mark in marks if mark.of == part]
        for low, group in groupby(mine, key=lambda mark: mark.low):
            told = list(group)
            if low and len(told) >= 2:
                share = float(np.median([mark.value for mark in told]))
                name = "the panels" if part is None else names[part].lower()
                words = sentence(
                    f"{name}: {{share}} of what this sky gives, from {{a}}",
                    share=fraction(share), a=clock(told[0].minute % 1440),
                )  # fmt: skip
                found.append(StretchTold(from_min=told[0].minute, to_min=told[-1].minute, words=words))
    still = still_in(day.outing, day.steps)
    for first, past in _runs(day.out & still):
        tell(first, past, sentence(
            "paused, {a} to {b}", a=clock(float(at[first]) % 1440), b=clock(float(at[past]) % 1440)
        ))  # fmt: skip
    read = np.isfinite(day.read_w)
    for first, past in _runs(day.out & day.lit & ~read & ~still):
        gone = float(at[past] - at[first])
        if gone >= GAP_TOLD_MIN:
            tell(first, past, sentence(
                "nothing read, {a} to {b}", a=clock(float(at[first]) % 1440), b=clock(float(at[past]) % 1440)
            ))  # fmt: skip
    course = day.light.course_deg
    if course is not None:
        known = np.flatnonzero(np.isfinite(course))
        first, past = int(known[0]), int(known[-1]) + 1
        tell(first, past, sentence(
            "headed as her track says, {a} to {b}", a=clock(float(at[first]) % 1440),
            b=clock(float(at[past]) % 1440),
        ))  # fmt: skip
    assert start is not None
    return sorted(found, key=lambda told: told.from_min)


def _readings(day: OutingDay) -> tuple[list[ReadingLine], int]:
    names, start = names_of(day), day.steps.starts_at
    lines = []
    latest = day.told.readings[-SHOWN_READINGS:]
    for reading in reversed(latest):
        minute = (reading.at - start).total_seconds() / 60
        lines.append(
            ReadingLine(
                reading=reading, minute=minute, source=reading.source,
                of_name="" if reading.of is None else names.get(reading.of, "gone from the design"),
                row=int(day.steps.index_at(reading.at)),
            )
        )  # fmt: skip
    return lines, len(day.told.readings) - len(latest)


def day_shown(day: OutingDay) -> DayShown:
    """Everything the day's picture draws."""
    rows, minutes = _window(day), day.steps.middles_s / 60
    log = day.rows.log()
    spread = P90 * day.spread
    low, high = day.modelled_w * np.maximum(1 - spread, 0.0), day.modelled_w * (1 + spread)
    same = np.where(np.isfinite(day.harvested_w), day.modelled_w, 0.0)
    known = np.flatnonzero(np.isfinite(day.soc_read))
    readings, more = _readings(day)
    house_out = np.where(day.out, day.house_w, 0.0)
    motor_out = np.where(day.out, day.motor_w, 0.0)
    local = day.outing.began_at.astimezone(day.steps.zone)
    names = names_of(day)
    motor_wh, house_wh = day.wh(motor_out), day.wh(house_out)
    return DayShown(
        outing=day.outing,
        date=f"{local.day} {local:%B %Y}",
        zone=str(day.steps.zone),
        starts_at=day.steps.starts_at,
        from_min=float(day.steps.edges_s[rows.start] / 60),
        to_min=float(day.steps.edges_s[rows.stop] / 60),
        minutes=[float(v) for v in minutes[rows]],
        skies=_skies(day, minutes, rows),
        modelled_w=_series(day.modelled_w, rows),
        low_w=_series(low, rows),
        high_w=_series(high, rows),
        harvested_w=_series(day.harvested_w, rows),
        thrown_w=_series(day.thrown_w, rows),
        house_w=_series(day.house_w, rows),
        motor_w=_series(day.motor_w, rows),
        motor_model_w=_series(day.motor_model_w, rows),
        soc_model=_series(day.soc_model, rows),
        speeds=_speeds(day, minutes, rows),
        boxes=[InputName(key=part, name=names[part]) for part in day.rows.parts if part in names],
        pv=_marks(day.read_w, minutes),
        motor=_marks(log.motor_w, minutes),
        soc=_marks(day.soc_read, minutes),
        shares=_shares(day, minutes),
        told=told_of(day),
        track=track_of(day),
        run=run_offered(day),
        readings=readings,
        more_readings=more,
        way_m=day.way_m,
        planned_m=day.outing.planned_m,
        under_way_h=day.under_way_h,
        harvest_wh=day.wh(day.harvested_w),
        modelled_wh=day.wh(same),
        thrown_wh=day.wh(day.thrown_w),
        used_wh=motor_wh + house_wh,
        motor_wh=motor_wh,
        house_wh=house_wh,
        last_soc=None if not len(known) else float(day.soc_read[known[-1]]),
        last_soc_model=None if not len(known) or not np.isfinite(day.soc_model[known[-1]])
        else float(day.soc_model[known[-1]]),
        top_w=_round_up(max(float(np.max(high, initial=0.0)), float(np.nanmax(day.read_w, initial=0.0)))),
        bottom_w=_round_up(float(np.max(np.nan_to_num(day.motor_w) + day.house_w, initial=0.0))),
    )  # fmt: skip


def _round_up(watts: float) -> float:
    """A round number of watts over these, for an axis."""
    step = 10.0 ** np.floor(np.log10(max(watts, 10.0)))
    return float(np.ceil(max(watts, 10.0) / (step / 2)) * step / 2)


def span_of(day: OutingDay) -> Sentence:
    """When it was, in words."""
    local, end = day.outing.began_at.astimezone(day.steps.zone), ended_at(day.told).astimezone(day.steps.zone)
    return sentence(
        f"{local.day} {local:%B %Y}, {day.design.site.name}, {{a}} to {{b}}; {{n}} readings, the model with "
        "your sky and your speeds",
        a=clock(local.hour * 60 + local.minute), b=clock(end.hour * 60 + end.minute),
        n=count(len(day.told.readings)),
    )  # fmt: skip
