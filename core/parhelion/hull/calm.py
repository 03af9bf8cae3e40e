"""Calm-water resistance of the whole boat by the model that suits its type, as viscous and wave parts.

Each model is one function of the same signature; `calm_water` chooses by the hull type and says why.

References
----------
[1] docs/methods/hull-types.md: which model for which type, and how well it does.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from parhelion.computing.kept import kept_by_arguments
from parhelion.constants import (
    FRESH_DENSITY_KG_PER_M3,
    FRESH_VISCOSITY_M2_PER_S,
    GRAVITY_MPS2,
    SEA_DENSITY_KG_PER_M3,
    SEA_VISCOSITY_M2_PER_S,
)
from parhelion.design import Hull, Water
from parhelion.design.hulltypes import APPENDED, TYPICAL, Model, draught_m
from parhelion.hull import delft, planing, thinship
from parhelion.hull.friction import friction_coefficient
from parhelion.hull.holtrop import HoltropHull, calm_resistance
from parhelion.hull.thinship import ThinHull
from parhelion.hull.transom import BASE_DRAG, transom_n

Array = NDArray[np.float64]

THIN_FORM_FACTOR = 1.10  # 1 + k of a slender hull [1]
YACHT_BLEND = (0.30, 0.40)  # Froude numbers over which the component method hands over to the series [1]
YACHT_FRICTION_LENGTH = 0.7  # of the waterline, for the series' own friction line
LCF_AFT_OF_LCB = 2.5  # percent of length, typical of yachts
PLANING_BLEND = (1.0, 2.0)  # volume Froude numbers over which a hull rises onto the plane [1]
PLANING_LCG = 0.40  # of the length, from the transom [1]
PLANING_DEADRISE_DEG = 10.0
SHALLOW = 7.0  # breadth over draught from which the component method runs away [1]
SHALLOW_STEP = 1.15  # from one load to the next heavier one that is tried
SHALLOW_MODELS = (Model.COMPONENT, Model.TRANSOM, Model.PLANING)
RISING_SLACK = 2.0  # how far over the displacing hull's the planing drag may lie once nearly up
TRANSOM_BREADTH = 0.85  # of the beam
TUBE_BASE = 0.5  # of the midship section: the blunt end of a pontoon
THIN_SPEEDS = 72  # the thin-ship integral is computed at this many and read between
FASTEST_THIN_FROUDE = 1.0


@dataclass(frozen=True)
class CalmWater:
    """Resistance of the whole boat in calm water [N], and how far it is up on the plane [-]."""

    viscous_n: Array
    wave_n: Array
    planing_share: Array


@dataclass(frozen=True)
class Hulls:
    """What the models are given: one hull in component form, how many there are, and the water."""

    one: HoltropHull
    count: int
    density: float
    viscosity: float
    transom_depth_m: float
    spacing_m: float
    lcg_share: float
    deadrise_deg: float

    @property
    def thin(self) -> thinship.ThinHull:
        """The same hull as a thin ship of the same displacement."""
        return thinship.thin_hull(
            self.one.length_m, self.one.beam_m, self.one.draught_m, self.one.prismatic, self.one.midship
        )


LEAST_AFLOAT_KG = 1.0


def hulls_of(hull: Hull, displacement_kg: float, water: Water) -> Hulls:
    """One hull of a boat and its water.

    Parameters
    ----------
    hull : Hull
    displacement_kg : float
        Of the whole boat; a trial that takes off more than there is floats like a feather.
    water : Water
    """
    typical, displacement_kg = TYPICAL[hull.type], max(displacement_kg, LEAST_AFLOAT_KG)
    fresh = water is Water.FRESH
    density = FRESH_DENSITY_KG_PER_M3 if fresh else SEA_DENSITY_KG_PER_M3
    draught = draught_m(
        hull.type,
        hull.waterline_length_m,
        hull.beam_m,
        displacement_kg,
        hull.prismatic,
        hull.midship,
        density,
    )
    one = HoltropHull(
        length_m=hull.waterline_length_m,
        beam_m=hull.beam_m,
        draught_fore_m=draught,
        draught_aft_m=draught,
        volume_m3=displacement_kg / density / typical.hulls,
        midship=hull.midship,
        waterplane=hull.waterplane,
        lcb_percent=hull.lcb,
        correlation_allowance=hull.correlation_allowance,
    )
    transom = typical.transom_depth * draught if hull.transom_depth_m is None else hull.transom_depth_m
    return Hulls(
        one=one,
        count=typical.hulls,
        density=density,
        viscosity=FRESH_VISCOSITY_M2_PER_S if fresh else SEA_VISCOSITY_M2_PER_S,
        transom_depth_m=min(transom, draught),
        spacing_m=hull.spacing,
        lcg_share=hull.lcg_share or PLANING_LCG,
        deadrise_deg=PLANING_DEADRISE_DEG if hull.deadrise_deg is None else hull.deadrise_deg,
    )


def _component(hulls: Hulls, speed: Array) -> CalmWater:
    """Holtrop & Mennen for every hull."""
    made = calm_resistance(hulls.one, speed, hulls.density, hulls.viscosity)
    wave = hulls.count * made.wave_n
    return CalmWater(hulls.count * made.total_n - wave, wave, np.zeros_like(speed))


def _with_transom(hulls: Hulls, speed: Array) -> CalmWater:
    """The component method and the drag of an immersed transom."""
    base = _component(hulls, speed)
    breadth = TRANSOM_BREADTH * hulls.one.beam_m
    drag = transom_n(speed, breadth, hulls.transom_depth_m, hulls.density, hulls.viscosity)
    return CalmWater(base.viscous_n + hulls.count * drag, base.wave_n, base.planing_share)


def _smooth_step(value: Array, between: tuple[float, float]) -> Array:
    share = np.clip((value - between[0]) / (between[1] - between[0]), 0, 1)
    return share * share * (3 - 2 * share)


@kept_by_arguments(64)
def _thin_table(hull: ThinHull, density: float, spacing_m: float | None) -> Array:
    """Thin-ship waves at speeds spread evenly in Froude number."""
    speeds = _thin_froude() * np.sqrt(GRAVITY_MPS2 * hull.length_m)
    return thinship.wave_resistance_n(hull, speeds, density, spacing_m)


def _thin_froude() -> Array:
    return np.linspace(thinship.SLOWEST_FROUDE, FASTEST_THIN_FROUDE, THIN_SPEEDS)


def _thin_wave(hulls: Hulls, speed: Array, spacing_m: float | None) -> Array:
    """Thin-ship waves of one hull, or of two abreast."""
    unit, froude = np.sqrt(GRAVITY_MPS2 * hulls.thin.length_m), _thin_froude()
    table = _thin_table(hulls.thin, hulls.density, spacing_m)
    return np.interp(speed / unit, froude, table / froude**2, left=0.0) * (speed / unit) ** 2


def _thin_friction(hulls: Hulls, speed: Array) -> Array:
    """ITTC-57 with the slender form factor and the roughness allowance, one hull."""
    coefficient = friction_coefficient(speed * hulls.one.length_m / hulls.viscosity)
    roughness = hulls.one.correlation_allowance or 0.0
    return (
        0.5 * hulls.density * speed**2 * hulls.thin.wetted_m2 * (THIN_FORM_FACTOR * coefficient + roughness)
    )


def _thin_ship(hulls: Hulls, speed: Array) -> CalmWater:
    """Michell's integral on ITTC-57."""
    return CalmWater(
        hulls.count * _thin_friction(hulls, speed),
        hulls.count * _thin_wave(hulls, speed, None),
        np.zeros_like(speed),
    )


def _tubes(hulls: Hulls, speed: Array) -> CalmWater:
    """Thin ships with blunt ends."""
    slender = _thin_ship(hulls, speed)
    base = TUBE_BASE * hulls.one.midship * hulls.one.beam_m * hulls.one.draught_m
    drag = 0.5 * hulls.density * speed**2 * BASE_DRAG * base * hulls.count
    return CalmWater(slender.viscous_n + drag, slender.wave_n, slender.planing_share)


def _two_hulls(hulls: Hulls, speed: Array) -> CalmWater:
    """Geometric mean of both wave models, times the interference of two hulls abreast."""
    base = _component(hulls, speed)
    alone = 2 * _thin_wave(hulls, speed, None)
    together = _thin_wave(hulls, speed, hulls.spacing_m)
    factor = np.divide(together, alone, out=np.ones_like(speed), where=alone > 0)
    return CalmWater(base.viscous_n, np.sqrt(base.wave_n * alone) * factor, base.planing_share)


def _yacht(hulls: Hulls, speed: Array) -> CalmWater:
    """The component method slow, the yacht series fast; past its end the series' last ratio holds."""
    one = hulls.one
    base = _component(hulls, speed)
    body = delft.CanoeBody(
        one.length_m, one.beam_m, one.draught_m, one.volume_m3, one.prismatic, one.midship, one.waterplane,
        one.lcb_percent, one.lcb_percent - LCF_AFT_OF_LCB,
    )  # fmt: skip
    unit = np.sqrt(GRAVITY_MPS2 * one.length_m)

    def series(at: Array) -> Array:
        friction = friction_coefficient(at * YACHT_FRICTION_LENGTH * one.length_m / hulls.viscosity)
        rough = one.correlation_allowance or 0.0
        skin = 0.5 * hulls.density * at**2 * body.wetted_m2 * (friction + rough)
        return skin + delft.residuary_n(body, at, hulls.density)

    held = np.minimum(speed, delft.FASTEST_FROUDE * unit)
    at_end = np.array([delft.FASTEST_FROUDE * unit])
    end = _component(hulls, at_end)
    ratio = series(at_end) / (end.viscous_n + end.wave_n)
    total = base.viscous_n + base.wave_n
    fast = np.where(speed > held, ratio * total, series(held))
    share = _smooth_step(speed / unit, YACHT_BLEND)
    blended = (1 - share) * total + share * fast
    return CalmWater(base.viscous_n, np.maximum(blended - base.viscous_n, 0.0), base.planing_share)


def planing_hull(hulls: Hulls) -> planing.PlaningHull:
    """The hull as the planing method wants it."""
    one = hulls.one
    return planing.PlaningHull(
        one.volume_m3 * hulls.density, hulls.lcg_share * one.length_m, one.beam_m, hulls.deadrise_deg,
        one.correlation_allowance or 0.0,
    )  # fmt: skip


def planing_share(hulls: Hulls, speed: Array) -> Array:
    """How far up on the plane the hull is at each speed, 0 to 1."""
    volume_froude = speed / np.sqrt(GRAVITY_MPS2 * hulls.one.volume_m3 ** (1 / 3))
    return _smooth_step(volume_froude, PLANING_BLEND)


def _planing(hulls: Hulls, speed: Array) -> CalmWater:
    """A displacement hull with its transom, blended to the planing method as it rises."""
    base = _with_transom(hulls, speed)
    flat = planing_hull(hulls)
    share = planing_share(hulls, speed)
    drag = np.zeros_like(speed)
    rising = share > 0
    if rising.any():
        drag[rising] = planing.drag_n(flat, speed[rising], hulls.density, hulls.viscosity)
    known = np.isfinite(drag)
    share = np.where(known, share, 0.0)
    drag = np.where(known, drag, 0.0)
    # while it rises a hull that the planing method makes heavier going simply does not plane yet [1]
    most = (base.viscous_n + base.wave_n) * (1 + RISING_SLACK * share**2)
    drag = np.where(share < 1, np.minimum(drag, most), drag)
    return CalmWater(
        (1 - share) * base.viscous_n,
        (1 - share) * base.wave_n + share * drag,
        share,
    )


MODELS: dict[Model, Callable[[Hulls, Array], CalmWater]] = {
    Model.COMPONENT: _component,
    Model.TRANSOM: _with_transom,
    Model.THIN_SHIP: _thin_ship,
    Model.YACHT: _yacht,
    Model.TWO_HULLS: _two_hulls,
    Model.TUBES: _tubes,
    Model.PLANING: _planing,
}


def _bare(hull: Hull, displacement_kg: float, water: Water, speed: Array) -> CalmWater:
    """The model of the type; a body too shallow for it asks no more than a deeper one [1].

    Far beyond the breadths over draught that the component method was made from it finds a light boat slower
    than a heavy one. Of this load and those heavier, until the body is deep enough, the least counts.
    """
    model = MODELS[TYPICAL[hull.type].model]
    hulls = hulls_of(hull, displacement_kg, water)
    found = model(hulls, speed)
    load = displacement_kg
    while hulls.one.beam_m / hulls.one.draught_aft_m > SHALLOW and TYPICAL[hull.type].model in SHALLOW_MODELS:
        load *= SHALLOW_STEP
        hulls = hulls_of(hull, load, water)
        deeper = model(hulls, speed)
        less = deeper.viscous_n + deeper.wave_n < found.viscous_n + found.wave_n
        found = CalmWater(
            np.where(less, deeper.viscous_n, found.viscous_n), np.where(less, deeper.wave_n, found.wave_n),
            found.planing_share,
        )  # fmt: skip
    return found


def calm_water(hull: Hull, displacement_kg: float, water: Water, speed: Array) -> CalmWater:
    """A whole boat in calm water by the model of its type, over a one-dimensional array of speeds [m/s].

    What hangs below it is added to any model: friction on its wetted area, times the form of foils and legs.
    """
    hulls = hulls_of(hull, displacement_kg, water)
    bare = _bare(hull, displacement_kg, water, speed)
    friction = friction_coefficient(speed * hull.waterline_length_m / hulls.viscosity)
    drag = APPENDED[hull.type].form * friction + hull.correlation_allowance
    appended = 0.5 * hulls.density * speed**2 * hull.appended_m2 * drag
    return CalmWater(bare.viscous_n + appended, bare.wave_n, bare.planing_share)
