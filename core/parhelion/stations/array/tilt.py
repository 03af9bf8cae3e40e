"""Tilt advice: what each angle of a hinge gives by the hour, what tending it wins in watts and miles.

Angles are told for the mean of such days under the sky, ways of tending on the shown day at the bank, with
everything that stands around; the wing is also compared with not being there at all.
"""

from __future__ import annotations

from datetime import date as Date

import numpy as np
from numpy.typing import NDArray

from parhelion.balance.outlook import Outlook, shown_outlook
from parhelion.design import BoatDesign, Place, Tended
from parhelion.panels.deck import DeckGroup, at_tilt, deck_of
from parhelion.panels.harvest import kept_of
from parhelion.panels.shaded import headings_of, light_over
from parhelion.panels.tending import SETTINGS, Tilted, tilted_power
from parhelion.quantities import Frozen, Sentence, distance, energy, sentence, words
from parhelion.rail.cells import rail_kind
from parhelion.rail.held_back import measure_of, miles_m
from parhelion.sun.daysteps import day_steps
from parhelion.sun.light import Light, light_under

Array = NDArray[np.float64]

WORTH_FRAC = 0.01  # of the whole harvest, before a way of tending is worth the walk
SEASONS = (("March", 3), ("June", 6), ("September", 9), ("December", 12))
MILES_WORTH_M = 90.0  # before they are worth a word


class Way(Frozen):
    """One way of tending a place, against leaving it flat."""

    key: str
    label: str
    day_wh: float  # of the whole boat at the bank
    miles_m: float | None  # None where the sun keeps up
    gain_wh: float  # against flat
    gain_m: float | None
    chosen: bool  # as the design has it


class Setting(Frozen):
    """A tilt for a part of the day."""

    from_min: float
    to_min: float
    tilt_deg: float


class Season(Frozen):
    """What the place itself gives on the 21st of a month, by how it is tended, at the panels [Wh]."""

    label: str
    flat_wh: float
    best_wh: float
    best_tilt_deg: float
    thrice_wh: float
    followed_wh: float


class HingeAdvice(Frozen):
    """Everything told about one hinged place."""

    place_id: str
    name: str
    faces: str
    tilt_deg: float  # as it stands
    least_deg: float
    most_deg: float
    nameplate_w: float
    headings_deg: list[float]
    tilts_deg: list[float]
    clock_min: list[float]  # of the middle of each step
    power_w: list[list[float]]  # at the panels, by tilt and step, the mean of the headings
    best_deg: list[float | None]  # by step; None in the dark
    best_w: list[float]  # at that tilt
    standing_w: list[float]  # as it stands
    gain_w: list[float]  # of the best over that
    noon_step: int
    day_wh: list[float]  # of the place at the panels, by tilt left all day
    settings: list[Setting]  # of three a day; empty where the heading is not one
    ways: list[Way]
    seasons: list[Season]
    verdict: Sentence


class TiltAdvice(Frozen):
    hinges: list[HingeAdvice]
    measure: str
    fixed: list[str]  # ids of the places that have panels and no hinge


def tilt_advice(outlook: Outlook, place_id: str | None = None) -> TiltAdvice:
    """Advice on every hinged place that gives in the plan's state, or on one of them.

    Parameters
    ----------
    outlook : Outlook
    place_id : str, optional

    Returns
    -------
    TiltAdvice
        No hinges where no place with panels has one.
    """
    design = outlook.design
    measure = measure_of(outlook, rail_kind(design))
    hinges, fixed = [], []
    for place in design.places:
        groups = [g for g in deck_of(design).groups if g.place.id == place.id and g.gives]
        if not groups:
            continue
        if not place.hinged:
            fixed.append(place.id)
        elif place_id in (None, place.id):
            hinges.append(_hinge(outlook, place, groups))
    return TiltAdvice(hinges=hinges, measure=measure, fixed=fixed)


def _watts(design: BoatDesign, light: Light, groups: list[DeckGroup], heading_deg: float) -> Tilted:
    """All groups of a place at every tilt on one heading, watts at the panels in place of W/W."""
    made = [(g, tilted_power(design, light, g, heading_deg)) for g in groups]
    power = sum(t.power * (g.group.nameplate_w * g.group.count * kept_of(g.group)) for g, t in made)
    first = made[0][1]
    return Tilted(first.tilts_deg, np.asarray(power), first.blocks)


def _swept(design: BoatDesign, light: Light, groups: list[DeckGroup]) -> list[Tilted]:
    here = light_over(design, light, groups[0].place.kind)
    return [_watts(design, here, groups, heading) for heading in headings_of(design)]


def _index(tilted: Tilted, tilt_deg: float) -> int:
    return int(np.abs(tilted.tilts_deg - tilt_deg).argmin())


def _hinge(outlook: Outlook, place: Place, groups: list[DeckGroup]) -> HingeAdvice:
    design, day = outlook.design, outlook.day
    swept = _swept(design, outlook.light.mean, groups)
    mean = Tilted(swept[0].tilts_deg, np.mean([t.power for t in swept], axis=0), swept[0].blocks)
    clock = [_minutes(outlook, k + 0.5) for k in range(mean.power.shape[1])]
    best = mean.tilts_deg[mean.power.argmax(axis=0)]
    day_wh = outlook.timeline.over(mean.power)
    ways = _ways(outlook, place, float(mean.tilts_deg[int(day_wh.argmax())]))
    standing = groups[0].place
    now_w = mean.power[_index(mean, standing.tilt_deg)]
    one = len(swept) == 1
    return HingeAdvice(
        place_id=place.id,
        name=place.name,
        faces=place.faces,
        tilt_deg=standing.tilt_deg,
        least_deg=place.hinge_deg[0],
        most_deg=place.hinge_deg[1],
        nameplate_w=sum(g.group.nameplate_w * g.group.count for g in groups),
        headings_deg=list(headings_of(design)),
        tilts_deg=mean.tilts_deg.tolist(),
        clock_min=clock,
        power_w=[[round(float(w), 2) for w in row] for row in mean.power],
        best_deg=[float(b) if up else None for b, up in zip(best, day.elevation_deg > 0, strict=True)],
        best_w=mean.power.max(axis=0).round(2).tolist(),
        standing_w=now_w.round(2).tolist(),
        gain_w=(mean.power.max(axis=0) - now_w).round(2).tolist(),
        noon_step=int(day.index_at(day.solar_noon_at)),
        day_wh=day_wh.tolist(),
        settings=_settings(outlook, swept[0], standing.tilt_deg) if one else [],
        ways=ways,
        seasons=[_season(design, groups, label, month) for label, month in SEASONS],
        verdict=_verdict(outlook, place, ways),
    )


def _minutes(outlook: Outlook, index: float) -> float:
    moment = outlook.day.at_index(index)
    return moment.hour * 60 + moment.minute + moment.second / 60


def _settings(outlook: Outlook, tilted: Tilted, tilt_deg: float) -> list[Setting]:
    """The three settings of the day, one after another."""
    chosen = tilted.chosen(Tended.THRICE, _index(tilted, tilt_deg))
    blocks = [np.flatnonzero(tilted.blocks == k) for k in range(SETTINGS)]
    return [
        Setting(
            from_min=_minutes(outlook, float(block[0])), to_min=_minutes(outlook, float(block[-1] + 1)),
            tilt_deg=float(tilted.tilts_deg[chosen[block[0]]]),
        )
        for block in blocks
        if block.size
    ]  # fmt: skip


def _tended(design: BoatDesign, place: Place, way: Tended) -> BoatDesign:
    other = place.model_copy(update={"tended": way})
    return design.changed(places=tuple(other if p is place else p for p in design.places))


def _ways(outlook: Outlook, place: Place, best_deg: float) -> list[Way]:
    """Leaving it flat, as it is, at its best, tending it, and not having it."""
    design = outlook.design
    standing, _ = design.as_it_stands(place)
    least = place.hinge_deg[0]
    without = design.changed(panels=tuple(g for g in design.panels if g.place_id != place.id))
    lighter = sum(g.mass for g in design.fitted_panels if g.place_id == place.id)
    rows = [
        (
            "flat",
            "Flat all day" if least == 0 else f"At {least:.0f}° all day",
            at_tilt(design, place.id, least),
        ),
        ("set", f"Left at {standing.tilt_deg:.0f}°", at_tilt(design, place.id, standing.tilt_deg)),
        ("best", f"Left at {best_deg:.0f}°, its best", at_tilt(design, place.id, best_deg)),
        ("thrice", "Set three times a day", _tended(design, place, Tended.THRICE)),
        ("followed", "Kept facing its best", _tended(design, place, Tended.FOLLOWED)),
        ("gone", "Not there at all", without),
    ]
    if standing.tilt_deg in (least, best_deg):
        rows.pop(1)
    measure = measure_of(outlook, rail_kind(design))
    now = "set" if place.tended is Tended.LEFT else place.tended.value
    if now == "set" and standing.tilt_deg in (least, best_deg):
        now = "flat" if standing.tilt_deg == least else "best"
    found: list[Way] = []
    flat_wh, flat_m = 0.0, 0.0
    for key, label, changed in rows:
        kg = design.displacement_kg - (lighter if key == "gone" else 0.0)
        trial = shown_outlook(changed, outlook, kg)
        wh, miles = trial.wh(trial.shown_sun_w), miles_m(trial, measure)
        if key == "flat":
            flat_wh, flat_m = wh, miles
        known = bool(np.isfinite(miles) and np.isfinite(flat_m))
        found.append(
            Way(key=key, label=label, day_wh=wh, miles_m=miles if known else None, gain_wh=wh - flat_wh,
                gain_m=miles - flat_m if known else None, chosen=key == now)
        )  # fmt: skip
    return found


def _season(design: BoatDesign, groups: list[DeckGroup], label: str, month: int) -> Season:
    date = Date(design.plan.date.year, month, 21)
    dated = design.changed(plan=design.plan.model_copy(update={"date": date}))
    light = light_under(design.site, date, design.plan.sky, design.plan.sky_shade).mean
    swept, hours = _swept(dated, light, groups), day_steps(design.site, date).timeline
    mean = np.mean([hours.over(t.power) for t in swept], axis=0)
    best = int(mean.argmax())

    def day(way: Tended) -> float:
        return float(np.mean([hours.over(t.given(way, 0)) for t in swept]))

    return Season(
        label=label, flat_wh=float(mean[0]), best_wh=float(mean[best]),
        best_tilt_deg=float(swept[0].tilts_deg[best]), thrice_wh=day(Tended.THRICE),
        followed_wh=day(Tended.FOLLOWED),
    )  # fmt: skip


def _verdict(outlook: Outlook, place: Place, ways: list[Way]) -> Sentence:
    """Whether tending it is worth doing, in a sentence."""
    by = {way.key: way for way in ways}
    flat, best, thrice, followed = by["flat"], by["best"], by["thrice"], by["followed"]
    enough = WORTH_FRAC * flat.day_wh
    name = words(place.name)
    if followed.gain_wh < enough:
        return sentence(
            "Leave {name} flat: nothing you do with it wins {e} today.", name=name, e=energy(max(enough, 1.0))
        )
    if best.gain_wh > 0.8 * thrice.gain_wh and best.gain_wh >= enough:
        return sentence(
            "Set {name} once: at its best it wins {e} over flat; coming back to it adds little.",
            name=name, e=energy(best.gain_wh),
        )  # fmt: skip
    if thrice.gain_wh >= enough:
        more = followed.gain_wh - thrice.gain_wh
        said = "Set {name} three times: {e} more than flat{miles}. Following it all day adds {more}."
        won = thrice.gain_m is not None and thrice.gain_m > MILES_WORTH_M
        miles = ", {m}" if won else ""
        slots = {"name": name, "e": energy(thrice.gain_wh), "more": energy(more)}
        if won and thrice.gain_m is not None:
            slots["m"] = distance(thrice.gain_m, signed=True)
        return sentence(said.replace("{miles}", miles), **slots)
    return sentence(
        "{name} pays only for someone who keeps it facing the sun: {e} over flat.",
        name=name, e=energy(followed.gain_wh),
    )  # fmt: skip
