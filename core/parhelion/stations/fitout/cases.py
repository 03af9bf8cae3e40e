"""A bench test or a first sun by numbers alone, without a boat: a file of inputs, and what it comes to."""

from __future__ import annotations

import re
from datetime import datetime

import numpy as np
from pydantic import AwareDatetime, Field

from parhelion.design import Sky, Spot, Ventilation
from parhelion.design.part import Part
from parhelion.diagnosis.expected import COLUMNS, Expected, Wired, expected
from parhelion.diagnosis.reading import Meaning, Means, Read, meaning
from parhelion.errors import Problem, UnreadableFile
from parhelion.panels.measured import LIGHT_KNOWN_FRAC, Label, Verdict, tested
from parhelion.panels.panel import cell_temperature_c
from parhelion.panels.plane import plane_light
from parhelion.quantities import Frozen
from parhelion.sun.minute import evenly_drawn, index_draws, minute_light
from parhelion.wiring.panel_volts import PanelVolts


class _Case(Part):
    """What a file says; names beside these are let be."""

    model_config = {**Part.model_config, "extra": "ignore"}


class LabelCase(_Case):
    pmp_w: float = Field(gt=0, le=2_000)
    voc_v: float = Field(gt=0, le=1_500)
    isc_a: float = Field(gt=0, le=200)
    vmp_v: float = Field(gt=0, le=1_500)
    imp_a: float = Field(gt=0, le=200)
    power_coefficient_per_k: float = Field(default=-0.0037, ge=-0.02, le=0.0)
    voltage_coefficient_per_k: float = Field(default=-0.003, ge=-0.02, le=0.0)
    current_coefficient_per_k: float = Field(default=0.0005, ge=-0.01, le=0.01)


class BenchCase(_Case):
    """Pairs of volts and amps of a panel, at a light and heat, with its label."""

    points_v: tuple[float, ...] = Field(min_length=2, max_length=2_000)
    points_a: tuple[float, ...] = Field(min_length=2, max_length=2_000)
    irradiance_w_m2: float | None = Field(default=None, gt=0, le=1_600)
    irradiance_known: str = Field(default="", max_length=200)
    cell_c: float = Field(ge=-40, le=110)
    label: LabelCase


class BenchAnswer(Frozen):
    test_isc_a: float
    test_voc_v: float
    test_pmp_w: float
    test_vmp_v: float
    test_imp_a: float
    test_fill: float
    standard_pmp_w: float | None
    standard_voc_v: float
    standard_isc_a: float | None
    standard_spread: float
    verdict: Verdict


def _known(words: str) -> float:
    """How well the light is known, from words such as "measured, 5 %" [-]."""
    found = re.search(r"(\d{1,3}(?:[.,]\d{1,3})?)\s*%", words)
    return float(found[1].replace(",", ".")) / 100 if found else LIGHT_KNOWN_FRAC


def bench_answer(case: BenchCase) -> BenchAnswer:
    """What a bench test comes to.

    Raises
    ------
    UnreadableFile
        Where volts and amps do not pair, or neither end of the curve was measured.
    """
    label = case.label
    if len(case.points_v) != len(case.points_a):
        raise _unlike(
            "Every point needs its volts and its amps.", "/points_a", f"{len(case.points_v)} numbers"
        )
    panel = PanelVolts(
        label.voc_v,
        label.isc_a,
        label.vmp_v,
        label.imp_a,
        label.voltage_coefficient_per_k,
        label.power_coefficient_per_k,
        given=True,
    )
    try:
        found = tested(
            Label(panel, label.current_coefficient_per_k),
            case.points_v,
            case.points_a,
            case.irradiance_w_m2,
            case.cell_c,
            _known(case.irradiance_known),
        )
    except ValueError as error:
        raise _unlike("These points have no end.", "/points_v", str(error)) from None
    return BenchAnswer(
        test_isc_a=found.short_a,
        test_voc_v=found.curve.open_v,
        test_pmp_w=found.test_w,
        test_vmp_v=found.test_best[0],
        test_imp_a=found.test_best[1],
        test_fill=found.fill,
        standard_pmp_w=found.standard_w,
        standard_voc_v=found.standard_open_v,
        standard_isc_a=found.standard_short_a,
        standard_spread=found.standard_spread,
        verdict=found.verdict,
    )


def _unlike(message: str, field: str, accepted: str) -> UnreadableFile:
    return UnreadableFile([Problem(code="unlike", message=message, field=field, accepted=accepted)])


class PanelCase(_Case):
    voc: float = Field(gt=0, le=1_500)
    isc: float = Field(gt=0, le=200)
    vmp: float = Field(gt=0, le=1_500)
    imp: float = Field(gt=0, le=200)
    gamma: float = Field(default=-0.0037, ge=-0.02, le=0)
    beta: float = Field(default=-0.003, ge=-0.02, le=0)


class ReadingCase(_Case):
    pv_v: float | None = None
    pv_a: float | None = None
    pv_w: float | None = None
    bank_v: float | None = None
    bank_full: bool = False


class SunCase(_Case):
    """Strings alike under a sky at a moment, and what was read."""

    latitude_deg: float = Field(ge=-90, le=90)
    longitude_deg: float = Field(ge=-180, le=180)
    altitude_m: float = Field(default=0, ge=-450, le=6_000)
    linke: float | None = Field(default=None, ge=1, le=10)
    time: AwareDatetime
    sky: Sky
    tilt_deg: float = Field(default=0, ge=0, le=90)
    azimuth_deg: float = Field(default=0, ge=-360, le=360)
    air_c: float = Field(ge=-50, le=60)
    wind_mps: float = Field(default=2, ge=0, le=60)
    ventilation: Ventilation = Ventilation.OPEN
    panel: PanelCase
    series: int = Field(default=1, ge=1, le=60)
    parallel: int = Field(default=1, ge=1, le=60)
    bank_v: float | None = Field(default=None, gt=0, le=1_000)
    readings: tuple[ReadingCase, ...] = Field(default=(), max_length=500)


class MeaningAnswer(Frozen):
    means: Means
    or_else: tuple[Means, ...]
    check: str
    cannot_tell_under_this_sky: bool


class SunAnswer(Frozen):
    pv_v: float
    pv_a: float
    pv_w: float
    open_v: float
    cell_c: float
    plane_w_m2: float
    effective_w_m2: float
    held_v: float | None
    held_a: float | None
    held_w: float | None
    sun_elevation_deg: float
    pv_w_10_50_90: tuple[float, float, float]
    pv_a_10_50_90: tuple[float, float, float]
    pv_v_10_50_90: tuple[float, float, float]
    open_v_10_50_90: tuple[float, float, float]
    meanings: list[MeaningAnswer]


def _told(says: Meaning) -> MeaningAnswer:
    return MeaningAnswer(
        means=says.means, or_else=says.or_else, check=says.check, cannot_tell_under_this_sky=says.cannot_tell
    )


def _expected(case: SunCase, at: datetime) -> tuple[Expected, float, float]:
    """What is expected, the light on the plane, and the sun's height."""
    spot = Spot(case.latitude_deg, case.longitude_deg, case.altitude_m, case.linke)
    uniforms = evenly_drawn(COLUMNS)
    light = minute_light(spot, at, index_draws(case.sky, uniforms[:, 0]))
    lit = plane_light(light, case.tilt_deg, case.azimuth_deg)
    cell = cell_temperature_c(lit.global_w_per_m2[:, 0], case.air_c, case.wind_mps, case.ventilation)
    panel = case.panel
    volts = PanelVolts(panel.voc, panel.isc, panel.vmp, panel.imp, panel.beta, panel.gamma, given=True)
    wired = Wired(volts, case.series, case.parallel)
    found = expected(wired, lit.effective_w_per_m2[:, 0], np.asarray(cell), uniforms, case.bank_v)
    return found, float(lit.global_w_per_m2[0, 0]), float(light.day.elevation_deg[0])


def sun_answer(case: SunCase) -> SunAnswer:
    """What a first sun comes to."""
    if not case.panel.vmp < case.panel.voc or not case.panel.imp < case.panel.isc:
        raise _unlike(
            "A panel's best lies below its open volts and short amps.", "/panel", "vmp < voc, imp < isc"
        )
    found, plane, height = _expected(case, case.time)
    held = None if found.held_v is None or found.held_a is None else found.held_v * found.held_a
    return SunAnswer(
        pv_v=found.pv_v,
        pv_a=found.pv_a,
        pv_w=found.pv_w,
        open_v=found.open_v,
        cell_c=found.cell_c,
        plane_w_m2=plane,
        effective_w_m2=found.light_w_per_m2,
        held_v=found.held_v,
        held_a=found.held_a,
        held_w=held,
        sun_elevation_deg=height,
        pv_w_10_50_90=tuple(found.watts),
        pv_a_10_50_90=tuple(found.amps),
        pv_v_10_50_90=tuple(found.volts),
        open_v_10_50_90=tuple(found.open_volts),
        meanings=[
            _told(
                meaning(
                    found,
                    Read(
                        r.pv_v, r.pv_a, r.pv_w, r.bank_v if r.bank_v is not None else case.bank_v, r.bank_full
                    ),
                )
            )
            for r in case.readings
        ],
    )
