"""A season of a boat, played: outings on days of many skies, read now and then by hand or by devices.

It is the demo's logbook, and shows what a summer's readings come to; every draw comes from the seed.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date as Date
from datetime import datetime, timedelta

import numpy as np

from parhelion.design import BoatDesign, Sky
from parhelion.design.logbook import BY_HAND, Logbook, Outing, Reading
from parhelion.diagnosis.day_model import Around
from parhelion.diagnosis.inputs import inputs_of
from parhelion.meters.played import Played, TrueDay, played_day
from parhelion.sun.climate import usual_air_temperature_c
from parhelion.sun.zone import zone_at
from parhelion.wiring.by_itself import absorption_v
from parhelion.wiring.circuits import float_v

SKIES = {  # how often a day begins under each word, and what the afternoon turns to
    Sky.CLEAR: (0.34, (Sky.CLEAR, Sky.CLEAR, Sky.BROKEN, Sky.HAZY)),
    Sky.HAZY: (0.20, (Sky.HAZY, Sky.CLEAR, Sky.BROKEN)),
    Sky.BROKEN: (0.26, (Sky.BROKEN, Sky.CLEAR, Sky.OVERCAST)),
    Sky.OVERCAST: (0.15, (Sky.OVERCAST, Sky.BROKEN, Sky.RAIN)),
    Sky.RAIN: (0.05, (Sky.RAIN, Sky.OVERCAST)),
}
EVERY_H = (0.75, 1.0, 1.25)  # between readings by hand; one more as she gets under way, or stops
TURN_MIN = 2
HAD_AT_LEAST, HAD_AT_MOST = 0.5, 0.8  # as an outing begins
SHUNT, TRACKER = "shunt", "controllers"


@dataclass(frozen=True)
class PlayedSeason:
    """Which days she is out, what is wrong from when, and what differs from the design."""

    seed: int
    days: Sequence[Date]
    by_device: Sequence[Date] = ()
    lame: tuple[tuple[str, float, datetime], ...] = ()  # a controller, what its panels keep, since when
    house_times: float = 1.0
    motor_times: float = 1.0
    panels_times: float = 1.0
    notes: tuple[tuple[Date, str, str], ...] = ()  # what broke, and a word
    # of some days: the charge, the hour of the end, the words
    given: tuple[tuple[Date, float, float, tuple[tuple[float, Sky], ...]], ...] = ()


def _around(design: BoatDesign, day: Date, draw: np.random.Generator) -> Around:
    bank = design.bank
    assert bank is not None
    high = usual_air_temperature_c(design.site.latitude_deg, day) + 3 * float(draw.standard_normal())
    return Around(round(high - 8, 0), round(high, 0), absorption_v(bank), float_v(bank))


def played_season(design: BoatDesign, season: PlayedSeason) -> Logbook:
    """The logbook of a season.

    Parameters
    ----------
    design : BoatDesign
        With one bank and panels.
    season : PlayedSeason
    """
    draw = np.random.default_rng(season.seed)
    zone = zone_at(design.site.latitude_deg, design.site.longitude_deg)
    outings: list[Outing] = []
    readings: list[Reading] = []
    broke = {day: (what, word) for day, what, word in season.notes}
    charge = 0.75
    for number, day in enumerate(season.days):
        start = datetime.combine(day, datetime.min.time(), zone)
        around = _around(design, day, draw)
        first = list(SKIES)[int(draw.choice(len(SKIES), p=[share for share, _ in SKIES.values()]))]
        turns = SKIES[first][1]
        later = turns[int(draw.integers(len(turns)))]
        begins, ends = 8.0 + float(draw.random()), 15.5 + 4 * float(draw.random())
        given = next((one for one in season.given if one[0] == day), None)
        if given is not None:
            _, charge, ends, _ = given
            begins = given[3][0][0]
        begins, ends = round(12 * begins) / 12, round(12 * ends) / 12
        turn = float(draw.uniform(11, 14.5))
        words: tuple[tuple[float, Sky], ...] = ((begins, first), (turn, later), (ends - 0.5, later))
        if given is not None:
            words, first, later = given[3], given[3][0][1], given[3][-1][1]
        speed = design.plan.speed_mps * float(draw.uniform(0.86, 1.06))
        noon = float(draw.uniform(11.6, 12.6))
        trips = ((begins + 0.3, noon, speed), (noon + float(draw.uniform(0.8, 1.7)), ends - 0.2, speed))
        boxes = tuple(
            (key, keeps, max((since - start).total_seconds() / 3600, 0.0))
            for key, keeps, since in season.lame
            if since < start + timedelta(days=1)
        )
        true = played_day(design, start, around, Played(
            seed=int(draw.integers(1 << 30)), words=words, trips=trips, start_soc=charge, boxes=boxes,
            house_times=season.house_times, motor_times=season.motor_times, panels_times=season.panels_times,
        ))  # fmt: skip
        outing = Outing(
            id=f"out-{number + 1}", name=_name(number, first, later),
            began_at=start + timedelta(hours=begins), ended_at=start + timedelta(hours=ends),
            planned_m=round(speed * (noon - begins + ends - noon - 1.4) * 3600, -2),
            shore_wh=0.0 if charge > 0.55 or number % 3 else 1500.0,
            lowest_c=around.lowest_c, highest_c=around.highest_c,
            broke=broke.get(day, ("", ""))[0], note=broke.get(day, ("", ""))[1],
        )  # fmt: skip
        outings.append(outing)
        if day in season.by_device:
            readings += _by_device(outing, true, design, words)
        else:
            readings += _by_hand(outing, true, design, words, draw)
        charge = min(max(float(true.soc[-1]) + (0.1 if outing.shore_wh else 0.0), 0.3), HAD_AT_MOST)
        if charge < HAD_AT_LEAST:
            charge += 0.3  # days at the berth between
    return Logbook(outings=tuple(outings), readings=tuple(readings))


def _name(number: int, first: Sky, later: Sky) -> str:
    if number == 0:
        return "First trial"
    return first.label.capitalize() if first is later else f"{first.label.capitalize()}, {later.label}"


def _number(value: float, digits: int) -> float | None:
    """As a meter shows it; nothing in a gap."""
    return None if np.isnan(value) else round(float(value), digits)


def _by_hand(
    outing: Outing, true: TrueDay, design: BoatDesign, words: Sequence[tuple[float, Sky]],
    draw: np.random.Generator,
) -> list[Reading]:  # fmt: skip
    """What somebody writes down now and then."""
    start = outing.began_at.replace(hour=0, minute=0, second=0, microsecond=0)
    found: list[Reading] = []
    assert outing.ended_at is not None
    first = (outing.began_at - start).total_seconds() / 60
    last = (outing.ended_at - start).total_seconds() / 60
    said: Sky | None = None
    turns = np.flatnonzero(np.diff((true.way_mps > 0.2).astype(int)) != 0) + 1 + TURN_MIN
    at_will = [first + 5.0]
    while at_will[-1] < last:
        at_will.append(at_will[-1] + 60 * float(draw.choice(EVERY_H)))
    for at in sorted({int(m) for m in (*at_will, *turns) if first < m < min(last, len(true.way_mps) - 1)}):
        near = slice(max(at - 1, 0), at + 2)
        word = min(words, key=lambda pair: abs(pair[0] * 60 - at))[1]
        moment = start + timedelta(minutes=at)
        stem = f"{outing.id}-{at}"
        for box in inputs_of(design):
            watts = float(true.boxes_w[box.key][near].mean()) * (1 + 0.01 * float(draw.standard_normal()))
            found.append(Reading(
                id=f"{stem}-{box.key[:12]}", at=moment, outing_id=outing.id, source=BY_HAND, of=box.key,
                pv_w=round(watts),
            ))  # fmt: skip
        way, motor = float(true.way_mps[near].mean()), float(true.motor_w[near].mean())
        found.append(Reading(
            id=stem, at=moment, outing_id=outing.id, source=BY_HAND, sky=word if word is not said else None,
            charge_frac=round(float(true.soc[at]), 2), speed_mps=round(way, 2), motor_w=round(motor),
            bank_v=_number(true.log.bank_v[at // 10], 1),
        ))  # fmt: skip
        said = word
    return found


def _by_device(
    outing: Outing, true: TrueDay, design: BoatDesign, words: Sequence[tuple[float, Sky]]
) -> list[Reading]:
    """What a shunt and the controllers send every ten minutes."""
    start = outing.began_at.replace(hour=0, minute=0, second=0, microsecond=0)
    log, found = true.log, []
    noted = {int(hour * 6): word for hour, word in words}

    for row in range(24, 138):
        moment = start + timedelta(minutes=10 * row + 5)
        step = slice(10 * row, 10 * row + 10)
        found.append(Reading(
            id=f"{outing.id}-s{row}", at=moment, outing_id=outing.id, source=SHUNT,
            bank_v=_number(log.bank_v[row], 2), bank_a=_number(log.bank_a[row], 1),
            charge_frac=_number(log.soc[row], 2), motor_w=_number(log.motor_w[row], 0),
            speed_mps=_number(log.speed_mps[row], 2), note="no signal" if np.isnan(log.bank_v[row]) else "",
        ))  # fmt: skip
        for box in inputs_of(design):
            found.append(Reading(
                id=f"{outing.id}-c{row}-{box.key[:12]}", at=moment, outing_id=outing.id, source=TRACKER,
                of=box.key, pv_w=round(float(true.boxes_w[box.key][step].mean()), 0),
            ))  # fmt: skip
        if row in noted:
            found.append(Reading(id=f"{outing.id}-w{row}", at=moment, outing_id=outing.id, sky=noted[row]))
    return found
