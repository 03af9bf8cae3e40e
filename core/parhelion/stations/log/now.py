"""Now, at arm's length: what comes in, what goes out, what is left, and one sentence of what to do.

References
----------
[1] Of each quantity the last reading counts, for half an hour; what was not read is the model's at that
    minute under the last word for the sky, and said so.
[2] Home: the fastest constant speed that covers what is left of the way and arrives with the reserve, on the
    sun still to come under that word.
[3] `meters.tilt`: the sun's own change over the minutes is fitted with the tilt.
"""

from __future__ import annotations

from datetime import datetime, timedelta
from typing import Annotated

import numpy as np
from numpy.typing import NDArray
from pydantic import Field

from parhelion.bank.store import energy_wh
from parhelion.design import BoatDesign
from parhelion.design.logbook import NO_LOGBOOK, Logbook, Reading
from parhelion.design.records import Moment
from parhelion.hull.demand import demand_curve
from parhelion.meters.tilt import best_tilt
from parhelion.quantities import Sentence, angle, count, fraction, power, sentence, so_many, speed
from parhelion.quantities import volts as as_volts
from parhelion.stations.log.outing_day import OutingDay, Told, book_of, outing_day
from parhelion.stations.log.shown import NowShown, TiltShown
from parhelion.sun.timeline import HOUR_S
from parhelion.wiring.charging import charge_settings

Array = NDArray[np.float64]

COUNTS_MIN = 30.0
MOST_HEARD = 400  # parts of devices
LEAST_HOME_MPS, SPEEDS = 0.4, 120
NEVER_H = 99.0
NOTHING_MPS = 0.1
TILTING_MIN = 25.0
FULL = 0.98
OVER, MOTOR_OVER = 1.03, 1.1  # of charging volts, which rise in the cold; of a motor's rating: more is told


class _Last:
    """The last readings at a moment, and what devices say that is not kept yet."""

    def __init__(self, told: Told, heard: tuple[Reading, ...], at: datetime):
        self.at = at
        self.oldest: datetime | None = None
        self._readings = [reading for reading in (*told.readings, *heard) if reading.at <= at]

    def value(self, name: str, of: str | None = None) -> float | None:
        found = next(
            (r for r in reversed(self._readings) if getattr(r, name) is not None and r.of == of), None
        )
        if found is None or self.at - found.at > timedelta(minutes=COUNTS_MIN):
            return None
        self._note(found)
        value: float = getattr(found, name)
        return value

    def _note(self, reading: Reading) -> None:
        self.oldest = reading.at if self.oldest is None else min(self.oldest, reading.at)

    def panels(self, parts: tuple[str, ...]) -> float | None:
        whole = self._watts(None)
        if whole is not None or not parts:
            return whole
        each = [self._watts(part) for part in parts]
        return None if any(one is None for one in each) else float(sum(one or 0.0 for one in each))

    def _watts(self, of: str | None) -> float | None:
        watts = self.value("pv_w", of)
        if watts is not None:
            return watts
        volts, amps = self.value("pv_v", of), self.value("pv_a", of)
        return None if volts is None or amps is None else volts * amps


def _home(day: OutingDay, index: int, soc: float, home_m: float, part: float) -> tuple[float, float] | None:
    """The fastest speed that comes home with the reserve, and how long it takes [2]; None where none does."""
    aboard = day.aboard
    if aboard is None or home_m <= 0:
        return None
    store, curve = aboard.main, demand_curve(day.design)
    spare = energy_wh(min(soc, 1.0), store) - energy_wh(store.reserve, store)
    speeds = np.linspace(LEAST_HOME_MPS, curve.speed_at(curve.most_w).item(), SPEEDS)
    hours = home_m / speeds / HOUR_S
    step_h = day.steps.step_h.copy()
    step_h[index] *= 1 - part
    step_h[:index] = 0.0
    net = day.harvest.by_bank_w[0].sum(axis=-1) - day.house_w
    edges, gained = np.cumsum(step_h), np.cumsum(net * step_h)
    came = np.interp(hours, edges, gained)
    late = hours > edges[-1]
    need = curve.power_at(speeds) * hours
    fits = np.isfinite(need) & (need <= spare + came) & ~late
    if not fits.any():
        return None
    best = int(np.flatnonzero(fits)[-1])
    return float(speeds[best]), float(hours[best])


def _words(
    pays: float | None, home: float | None, doing: float | None, home_m: float | None, reserve: float | None
) -> Sentence:
    if pays is None:
        return sentence("Read what comes from the panels, and what is in the bank.")
    text, slots = "{pays} is what the sun pays now", {"pays": speed(pays)}
    if pays < NOTHING_MPS:
        text, slots = "The sun pays for no way now", {}
    if home is not None and reserve is not None:
        return sentence(
            text + "; {home} brings you home at {r}.", **slots, home=speed(home), r=fraction(reserve)
        )
    if home_m:
        return sentence(
            text + "; home is out of reach on what is left: slower, shore power, or help.", **slots
        )
    if doing is not None and doing > pays + 0.05:
        return sentence(text + "; at {v} the bank pays the rest.", **slots, v=speed(doing))
    return sentence(text + ".", **slots)


def _alarms(
    design: BoatDesign, soc: float | None, reserve: float | None, volts: float | None, motor_w: float | None
) -> list[Sentence]:
    """What cannot wait: little left, volts that no charger gives or loads end at, a motor overfed."""
    found = []
    if soc is not None and reserve is not None and soc < reserve:
        found.append(sentence("Under the reserve: {s} left of {r}.", s=fraction(soc), r=fraction(reserve)))
    if volts is not None and design.bank is not None:
        settings = charge_settings(design.bank)
        most = settings.equalise_v or settings.absorption_v
        if volts > OVER * most:
            text = "{v} at the bank, and charging ends at {m}: cover the panels or switch the charger off."
            found.append(sentence(text, v=as_volts(volts), m=as_volts(most)))
        elif volts <= settings.cut_out_v:
            text = "{v} at the bank: it cuts out at {m}, and the motor with it."
            found.append(sentence(text, v=as_volts(volts), m=as_volts(settings.cut_out_v)))
    most_w = demand_curve(design).most_w
    if motor_w is not None and motor_w > MOTOR_OVER * most_w:
        text = "{w} into the motor, which is made for {m}: throttle back."
        found.append(sentence(text, w=power(motor_w), m=power(most_w)))
    return found


def _tilt(told: Told, at: datetime) -> TiltShown | None:
    """What the total said at each tilt in the last minutes; None where nothing was tilted [3]."""
    since = at - timedelta(minutes=TILTING_MIN)
    tilted = [
        r for r in told.readings if since <= r.at <= at and r.tilt_deg is not None and r.pv_w is not None
    ]
    if not tilted:
        return None
    first = tilted[0].at
    try:
        found = best_tilt(
            np.array([(r.at - first).total_seconds() for r in tilted]),
            np.array([float(r.tilt_deg or 0.0) for r in tilted]),
            np.array([float(r.pv_w or 0.0) for r in tilted]),
        )
    except ValueError:
        words = sentence(
            so_many(len(tilted), "reading") + ": eight at three tilts or more tell the best.",
            n=count(len(tilted)),
        )
        return TiltShown(
            readings=len(tilted), best_deg=None, from_deg=None, to_deg=None, spread_deg=None, words=words
        )
    here = float(tilted[-1].tilt_deg or 0.0)
    text = "There: {b} is best, the sun's own change taken out."
    if here < found.from_deg:
        text = "Warmer: steeper. {b} is best; you stand at {h}."
    elif here > found.to_deg:
        text = "Colder: flatter. {b} is best; you stand at {h}."
    return TiltShown(
        readings=len(tilted),
        best_deg=found.best_tilt_deg,
        from_deg=found.from_deg,
        to_deg=found.to_deg,
        spread_deg=found.spread_deg,
        words=sentence(text, b=angle(round(found.best_tilt_deg)), h=angle(here)),
    )


def log_now(
    design: BoatDesign,
    logbook: Logbook = NO_LOGBOOK,
    outing: str = "",
    at: Moment | None = None,
    heard: Annotated[tuple[Reading, ...], Field(max_length=MOST_HEARD)] = (),
) -> NowShown:
    """What the last readings of an outing say at a moment; at its last reading where none is given.

    `heard` is what devices say this moment and nobody has kept yet: of the outing that goes on.
    """
    told = book_of(logbook).outing(outing)
    curve = demand_curve(design)
    least, most = LEAST_HOME_MPS, float(curve.speed_at(curve.most_w))
    if told is None or not told.readings:
        return NowShown(
            at=None,
            heard=False,
            old_min=None,
            sun_w=None,
            sun_read=False,
            out_w=None,
            motor_w=None,
            house_w=None,
            soc=None,
            stored_wh=None,
            reserve=None,
            speed_mps=None,
            sun_pays_mps=None,
            home_mps=None,
            home_m=None,
            home_h=None,
            least_mps=least,
            most_mps=most,
            to_reserve_h=None,
            to_full_h=None,
            words=sentence("Nothing is read yet. Note what any meter says."),
            alarms=[],
            tilt=None,
            missing=[],
        )
    if told.outing.ended_at is not None or told is not book_of(logbook).told[0]:
        heard = ()
    heard = tuple(sorted(heard, key=lambda reading: reading.at))
    moment = max(one[-1].at for one in (told.readings, heard) if one) if at is None else at
    day, last = outing_day(design, told), _Last(told, heard, moment)
    where = day.steps.index_at(moment)
    index = min(max(int(where), 0), day.steps.steps - 1)
    sun_read = last.panels(day.rows.parts)
    sun = float(day.modelled_w[index]) if sun_read is None else sun_read
    motor, soc, way = last.value("motor_w"), last.value("charge_frac"), last.value("speed_mps")
    if way is None:
        way = last.value("ground_mps")
    if motor is None and way is not None:
        motor = float(np.nan_to_num(curve.power_at(max(way, 0.05)))) if way > 0.05 else 0.0
    house_read = last.value("house_w")
    house = float(day.house_w[index]) if house_read is None else house_read
    volts, amps = last.value("bank_v"), last.value("bank_a")
    if soc is None and np.isfinite(day.soc_model[index]):
        soc = float(day.soc_model[index])
    store = None if day.aboard is None else day.aboard.main
    kept = 1.0 if not day.modelled_w[index] else float(day.harvest.sun_w[0, index] / day.modelled_w[index])
    net = sun * kept - house - (motor or 0.0)
    if volts is not None and amps is not None:
        net = volts * amps
    pays = float(curve.speed_at(max(sun * kept - house, 0.0)))
    reserve = None if store is None else float(store.reserve)
    stored = to_reserve = to_full = None
    if store is not None and soc is not None:
        stored = energy_wh(min(soc, 1.0), store)
        spare = stored - energy_wh(store.reserve, store)
        to_reserve = min(spare / -net, NEVER_H) if net < -1 and spare > 0 else (0.0 if spare <= 0 else None)
        left = energy_wh(1.0, store) - stored
        to_full = min(left / net, NEVER_H) if net > 1 and soc < FULL else (0.0 if soc >= FULL else None)
    planned = told.outing.planned_m
    gone = float(np.sum((day.speed_mps * day.steps.step_h)[: index + 1]) * HOUR_S)
    home_m = None if planned is None else max(planned - gone, 0.0)
    found = None
    if home_m and soc is not None:
        found = _home(day, index, soc, home_m, where - int(where))
    missing = [
        words
        for words, value in (("panels", sun_read), ("charge", last.value("charge_frac")), ("speed", way))
        if value is None
    ]
    old = None if last.oldest is None else (moment - last.oldest).total_seconds() / 60
    home = None if found is None else found[0]
    return NowShown(
        at=moment,
        heard=bool(heard),
        old_min=old,
        sun_w=sun,
        sun_read=sun_read is not None,
        out_w=(motor or 0.0) + house,
        motor_w=motor,
        house_w=house,
        soc=soc,
        stored_wh=stored,
        reserve=reserve,
        speed_mps=way,
        sun_pays_mps=pays,
        home_mps=home,
        home_m=home_m,
        home_h=None if found is None else found[1],
        least_mps=least,
        most_mps=most,
        to_reserve_h=to_reserve,
        to_full_h=to_full,
        words=_words(pays, home, way, home_m, reserve),
        alarms=_alarms(design, soc, reserve, volts, last.value("motor_w")),
        tilt=_tilt(told, moment),
        missing=missing,
    )
