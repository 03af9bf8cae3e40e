"""Meters, calibrations, tilts and logged days by numbers alone: a file of inputs, and what it comes to."""

from __future__ import annotations

from datetime import date as Date
from datetime import datetime, timedelta, timezone
from datetime import time as Time

import numpy as np
from numpy.typing import NDArray
from pydantic import Field

from parhelion.design import BoatDesign, Sky
from parhelion.design.part import Part
from parhelion.diagnosis.conditions import Condition
from parhelion.diagnosis.day import Diagnosis, diagnosed
from parhelion.diagnosis.day_model import Around, WaterNote
from parhelion.errors import Problem, UnreadableFile
from parhelion.formats.day_log import read_day
from parhelion.meters.closure import closed, says_full
from parhelion.meters.compared import compared
from parhelion.meters.factors import day_ratio, free_rows, harvest_factor, power_scale
from parhelion.meters.tilt import best_tilt
from parhelion.quantities import Frozen
from parhelion.units import MPS_PER

Array = NDArray[np.float64]
Numbers = tuple[float | None, ...]
MOST = 200_000
SHOWN = 3


class _Case(Part):
    """What a file says; names beside these are let be."""

    model_config = {**Part.model_config, "extra": "ignore"}


def _unlike(message: str, field: str, accepted: str) -> UnreadableFile:
    return UnreadableFile([Problem(code="unlike", message=message, field=field, accepted=accepted)])


def _array(values: Numbers) -> Array:
    return np.array([np.nan if value is None else value for value in values], dtype=float)


def _alike(**columns: Array) -> None:
    sizes = {name: len(values) for name, values in columns.items()}
    if len(set(sizes.values())) > 1:
        told = ", ".join(f"{name} {size}" for name, size in sizes.items())
        raise _unlike(f"These lists are of unlike length: {told}.", f"/{next(iter(sizes))}", "lists alike")


class MetersCase(_Case):
    """Two meters of one quantity, read at the same times."""

    seconds: float = Field(gt=0, le=86_400)
    a: Numbers = Field(max_length=MOST)
    b: Numbers = Field(max_length=MOST)


class MetersAnswer(Frozen):
    """b = gain a + offset, b later than a by the lag; intervals hold 95 of 100."""

    gain: float | None
    gain_interval: tuple[float, float] | None
    offset_a: float | None
    offset_interval: tuple[float, float] | None
    lag_s: float | None
    ratio: float
    ratio_interval: tuple[float, float]
    gain_known: bool
    chopped_meter: str | None
    samples: int


def meters_answer(case: MetersCase) -> MetersAnswer:
    """How meter b reads against meter a."""
    a, b = _array(case.a), _array(case.b)
    _alike(a=a, b=b)
    try:
        found = compared(a, b, case.seconds)
    except ValueError as error:
        raise _unlike("These are too few to compare.", "/a", f"thirty or more, not {error}") from None
    return MetersAnswer(
        gain=found.gain, gain_interval=found.gain_interval, offset_a=found.offset,
        offset_interval=found.offset_interval, lag_s=found.lag_s, ratio=found.ratio,
        ratio_interval=found.ratio_interval, gain_known=found.gain is not None, chopped_meter=found.chopped,
        samples=found.samples,
    )  # fmt: skip


class CalibrateCase(_Case):
    """A harvest factor, watts at speed, a closure, or a meter that says full too early: by what is given."""

    day: tuple[int, ...] = Field(default=(), max_length=MOST)
    word: tuple[Sky, ...] = Field(default=(), max_length=MOST)
    modelled_w: Numbers = ()
    logged_w: Numbers = ()
    bank_v: Numbers = ()
    pv_v: Numbers = ()
    nameplate_w: float = 0
    absorption_v: float = 0
    float_v: float = 0
    pv_best_v: float = 0
    pv_open_v: float = 0
    dark_w: float = 0
    sog_out_mps: Numbers = ()
    sog_back_mps: Numbers = ()
    watts_out: Numbers = ()
    watts_back: Numbers = ()
    model_speed_mps: tuple[float, ...] = ()
    model_watts: tuple[float, ...] = ()
    charge_ah: Numbers = ()
    discharge_ah: Numbers = ()
    charge_h: Numbers = ()
    discharge_h: Numbers = ()
    minute: tuple[float, ...] = ()
    bank_a: Numbers = ()
    soc_said_pct: Numbers = ()
    capacity_ah: float = 0
    coulomb_efficiency: float = 1


class CalibrateAnswer(Frozen):
    """What it comes to; the entries that were not asked for are left out. Intervals hold 95 of 100."""

    factor: float | None = None
    factor_interval: tuple[float, float] | None = None
    days: int | None = None
    scale: float | None = None
    scale_interval: tuple[float, float] | None = None
    runs: int | None = None
    coulomb_efficiency: float | None = None
    offset_a: float | None = None
    gain_known: bool | None = None
    said_full_at_minute: float | None = None
    true_soc_then: float | None = None
    truly_full_at_minute: float | None = None


def _factor(case: CalibrateCase) -> CalibrateAnswer:
    modelled, logged = _array(case.modelled_w), _array(case.logged_w)
    bank_v, pv_v, day = _array(case.bank_v), _array(case.pv_v), np.array(case.day)
    _alike(day=day, modelled_w=modelled, logged_w=logged, bank_v=bank_v, pv_v=pv_v)
    best, open_v = np.full(len(day), case.pv_best_v), np.full(len(day), case.pv_open_v)
    free = free_rows(bank_v, pv_v, best, open_v, case.float_v)
    words = np.array(case.word, dtype=object)
    ratios = []
    for one in np.unique(day):
        rows = day == one
        told = [Sky(word) for word in words[rows]]
        ratios.append(
            day_ratio(modelled[rows], logged[rows], told, free[rows], case.nameplate_w, case.dark_w)
        )
    found = harvest_factor([ratio for ratio in ratios if ratio is not None])
    if found is None:
        raise _unlike("No day says enough.", "/logged_w", "days with six bright rows, the bank not full")
    return CalibrateAnswer(factor=found.value, factor_interval=(found.low, found.high), days=found.number)


def _scale(case: CalibrateCase) -> CalibrateAnswer:
    out, back = _array(case.sog_out_mps), _array(case.sog_back_mps)
    watts_out, watts_back = _array(case.watts_out), _array(case.watts_back)
    _alike(sog_out_mps=out, sog_back_mps=back, watts_out=watts_out, watts_back=watts_back)
    speed, watts = (out + back) / 2, (watts_out + watts_back) / 2
    model = np.exp(np.interp(speed, case.model_speed_mps, np.log(case.model_watts)))
    found = power_scale(watts, model)
    if found is None:
        raise _unlike("No run says enough.", "/watts_out", "runs both ways with watts and speeds")
    return CalibrateAnswer(scale=found.value, scale_interval=(found.low, found.high), runs=found.number)


def calibrate_answer(case: CalibrateCase) -> CalibrateAnswer:
    """What a calibration comes to."""
    if case.logged_w:
        return _factor(case)
    if case.watts_out:
        return _scale(case)
    if case.charge_ah:
        columns = [_array(v) for v in (case.charge_ah, case.discharge_ah, case.charge_h, case.discharge_h)]
        _alike(charge_ah=columns[0], discharge_ah=columns[1], charge_h=columns[2], discharge_h=columns[3])
        try:
            found = closed(*columns)
        except ValueError as error:
            raise _unlike("These cycles do not tell.", "/charge_ah", str(error)) from None
        return CalibrateAnswer(
            coulomb_efficiency=found.coulomb_efficiency, offset_a=found.offset_a, gain_known=False
        )
    if case.soc_said_pct:
        columns = [_array(v) for v in (case.minute, case.bank_v, case.bank_a, case.soc_said_pct)]
        _alike(minute=columns[0], bank_v=columns[1], bank_a=columns[2], soc_said_pct=columns[3])
        said = says_full(
            columns[0], columns[1], columns[2], columns[3] / 100, case.capacity_ah, case.coulomb_efficiency,
            case.absorption_v,
        )  # fmt: skip
        return CalibrateAnswer(**said._asdict())
    raise _unlike(
        "Nothing to calibrate.", "", "logged_w, watts_out, charge_ah or soc_said_pct with what belongs to it"
    )


class TiltCase(_Case):
    """A wing that is moved while its total is read."""

    seconds: tuple[float, ...] = Field(min_length=3, max_length=MOST)
    tilt_deg: tuple[float, ...] = Field(min_length=3, max_length=MOST)
    total_w: Numbers = Field(max_length=MOST)
    reference_w: Numbers | None = None
    meter_lag_s: float = Field(default=0, ge=0, le=600)


class TiltAnswer(Frozen):
    best_tilt_deg: float
    within_1_percent_deg: tuple[float, float]
    spread_deg: float


def tilt_answer(case: TiltCase) -> TiltAnswer:
    """The tilt at which the total is largest."""
    seconds, tilt, total = np.array(case.seconds), np.array(case.tilt_deg), _array(case.total_w)
    still = None if case.reference_w is None else _array(case.reference_w)
    _alike(seconds=seconds, tilt_deg=tilt, total_w=total, **({} if still is None else {"reference_w": still}))
    try:
        found = best_tilt(seconds, tilt, total, still, case.meter_lag_s)
    except ValueError as error:
        raise _unlike("These do not tell a best tilt.", "/tilt_deg", f"more of them, not {error}") from None
    return TiltAnswer(
        best_tilt_deg=found.best_tilt_deg, within_1_percent_deg=(found.from_deg, found.to_deg),
        spread_deg=found.spread_deg,
    )  # fmt: skip


class AirCase(_Case):
    lowest: float = Field(ge=-60, le=60)
    highest: float = Field(ge=-60, le=60)


class WaterCase(_Case):
    time: Time
    wind_kn: float = Field(default=0, ge=0, le=150)
    waves_m: float = Field(default=0, ge=0, le=20)


class DayFacts(_Case):
    """What is known of a logged day beside its readings."""

    date: Date
    utc_offset_h: float = Field(ge=-14, le=14)
    latitude_deg: float | None = Field(default=None, ge=-90, le=90)
    longitude_deg: float | None = Field(default=None, ge=-180, le=180)
    air_c: AirCase
    wind_mps: float = Field(default=2, ge=0, le=60)
    noted_water: tuple[WaterCase, ...] = Field(default=(), max_length=200)
    absorption_v: float = Field(gt=0, le=1_200)
    float_v: float = Field(gt=0, le=1_200)


class RankedOut(Frozen):
    condition: Condition
    odds: float
    check: str


class DiagnoseAnswer(Frozen):
    """The likely causes in their order; `harvest_wh` and `expected_wh` are what was read and modelled."""

    ranked: list[RankedOut]
    check: str
    fault: bool
    either: list[Condition]
    expected_wh: float | None


def day_diagnosis(design: BoatDesign, table: bytes, facts: DayFacts) -> Diagnosis:
    """The diagnosis of a table of a day's readings."""
    zone = timezone(timedelta(hours=facts.utc_offset_h))
    water = tuple(
        WaterNote(datetime.combine(facts.date, note.time, zone), note.wind_kn * MPS_PER["kn"], note.waves_m)
        for note in facts.noted_water
    )
    around = Around(facts.air_c.lowest, facts.air_c.highest, facts.absorption_v, facts.float_v, water)
    site = design.site
    if facts.latitude_deg is not None and facts.longitude_deg is not None:
        site = site.model_copy(
            update={"latitude_deg": facts.latitude_deg, "longitude_deg": facts.longitude_deg}
        )
    plan = design.plan.model_copy(update={"date": facts.date, "wind_mps": facts.wind_mps})
    log = read_day(table, facts.date, facts.utc_offset_h)
    return diagnosed(design.changed(site=site, plan=plan), log, around)


def diagnose_answer(found: Diagnosis) -> DiagnoseAnswer:
    """A diagnosis as it is told."""
    if not found.ranked:
        raise _unlike("No panel of this boat stands in the sun.", "", "a design with panels")
    strings = found.model.strings
    assert strings is not None
    return DiagnoseAnswer(
        ranked=[RankedOut(condition=one.condition, odds=one.odds, check=one.check) for one in found.ranked],
        check=found.first.check,
        fault=found.first.fault,
        either=[one.condition for one in found.either],
        expected_wh=float(found.model.timeline.over(strings.best_w)),
    )
