"""The season: what it came to by month, what it taught, and how the boat is laid up."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import groupby

import numpy as np

from parhelion.balance.outlook import OUTLOOK_READS
from parhelion.bank.age import END_OF_LIFE_LOSS, cycles_at
from parhelion.bank.store import reserve_of
from parhelion.design import Bank, BoatDesign
from parhelion.design.chemistries import CHEMICALS
from parhelion.design.logbook import NO_LOGBOOK, Logbook
from parhelion.design.reads import kept
from parhelion.quantities import Sentence, count, distance, energy, fraction, sentence
from parhelion.stations.log.learned import learned_of, steady_of
from parhelion.stations.log.outing_day import Book, OutingDay, Told, book_of, outing_days
from parhelion.stations.log.shown import LogMonth, OutingScore, SeasonShown

LITHIUM_STORE, LEAD_STORE = (0.4, 0.6), (1.0, 1.0)  # charge to leave a bank at
LEAST_DEPTH = 0.02  # less is the meter
LITTLE = 0.01  # of a life: less is not counted out


def _month(label: str, days: Sequence[OutingDay]) -> LogMonth:
    harvest = sum(day.wh(day.harvested_w) for day in days)
    out = [np.where(day.out, 1.0, 0.0) for day in days]
    used = sum(day.wh((day.motor_w + day.house_w) * mask) for day, mask in zip(days, out, strict=True))
    shore = sum(day.outing.shore_wh for day in days)
    return LogMonth(
        label=label, days=len({day.outing.began_at.astimezone(day.steps.zone).date() for day in days}),
        way_m=sum(day.way_m for day in days),
        planned_m=sum(day.way_m if day.outing.planned_m is None else day.outing.planned_m for day in days),
        harvest_wh=harvest,
        modelled_wh=sum(day.wh(np.where(np.isfinite(day.harvested_w), day.modelled_w, 0.0)) for day in days),
        thrown_wh=sum(day.wh(day.thrown_w) for day in days),
        used_wh=used, shore_wh=shore, sun_share=None if used <= 0 else max(1 - shore / used, 0.0),
    )  # fmt: skip


def _name(told: Told, day: OutingDay) -> str:
    local = told.outing.began_at.astimezone(day.steps.zone)
    return f"{local.day} {local:%B}"


def _score(day: OutingDay) -> OutingScore:
    free = ~day.throttled & np.isfinite(day.read_w) & day.lit
    model = day.wh(np.where(free, day.modelled_w, 0.0))
    steady = steady_of(day)
    planned = day.outing.planned_m
    return OutingScore(
        outing_id=day.outing.id, name=day.outing.name, date=_name(day.told, day),
        harvest=day.wh(np.where(free, day.read_w, 0.0)) / model if model > 100 else None,
        hull=None if steady is None else steady.power_w / steady.model_w,
        planned=None if not planned else day.way_m / planned,
    )  # fmt: skip


def _told(whole: LogMonth, lowest: float | None, reserve: float | None) -> list[Sentence]:
    found = []
    if whole.sun_share is not None:
        found.append(sentence(
            "The sun carried {s} of what she used: {h} came in, {u} were used on the water.",
            s=fraction(whole.sun_share), h=energy(whole.harvest_wh), u=energy(whole.used_wh),
        ))  # fmt: skip
    if whole.planned_m > 0 and abs(whole.way_m - whole.planned_m) > 0.01 * whole.planned_m:
        more = "more" if whole.way_m > whole.planned_m else "less"
        found.append(sentence(
            f"You planned {{p}} and did {{d}}, {{x}} {more}.", p=distance(whole.planned_m),
            d=distance(whole.way_m), x=distance(abs(whole.way_m - whole.planned_m)),
        ))  # fmt: skip
    if whole.thrown_wh > 0.01 * max(whole.harvest_wh, 1.0):
        found.append(sentence(
            "{t} could not be taken because the bank was full: longer days, or more speed, would have used "
            "it.", t=energy(whole.thrown_wh),
        ))  # fmt: skip
    if lowest is not None and reserve is not None:
        under = lowest < reserve
        found.append(
            sentence("Under the reserve: {l} at the lowest.", l=fraction(lowest))
            if under
            else sentence("Never under the reserve: {l} at the lowest.", l=fraction(lowest))
        )
    return found


def worn(bank: Bank, depths: Sequence[float]) -> Sentence | None:
    """What outings of such depths took of a bank's life, by its chemistry; None where nothing is known.

    Parameters
    ----------
    bank : Bank
    depths : sequence of float
        How far each drew it down, by the readings of its charge [-].
    """
    known = [depth for depth in depths if depth > LEAST_DEPTH]
    if not known:
        return None
    chemical = CHEMICALS[bank.chemistry]
    long, middle, short = (sum(1 / cycles_at(bank, depth, which) for depth in known) for which in (2, 1, 0))
    life = "{x} of its life in cycles ({a} to {b})" if short >= LITTLE else "under {l} of its life in cycles"
    return sentence(
        "The bank was drawn down {n} times, {d} deep on average: " + life + "; age alone takes {c} a year.",
        n=count(len(known)), d=fraction(float(np.mean(known))), x=fraction(middle), a=fraction(long),
        b=fraction(short), l=fraction(LITTLE), c=fraction(chemical.calendar_per_year / END_OF_LIFE_LOSS),
    )  # fmt: skip


def _depth(day: OutingDay) -> float:
    """How far an outing drew the bank down: from its highest reading to the lowest after it."""
    read = day.soc_read[np.isfinite(day.soc_read)]
    return float(np.max(np.maximum.accumulate(read) - read)) if len(read) > 1 else 0.0


def laying_up(design: BoatDesign) -> list[Sentence]:
    """What to do before the boat is left for the winter."""
    found = []
    for bank in design.banks:
        lithium = CHEMICALS[bank.chemistry].lithium
        low, high = LITHIUM_STORE if lithium else LEAD_STORE
        if lithium:
            found.append(sentence(
                f"{bank.name}: leave it at {{a}} to {{b}}, disconnected; lithium that stands full ages, "
                "frozen it must not be charged.", a=fraction(low), b=fraction(high),
            ))  # fmt: skip
        else:
            found.append(sentence(
                f"{bank.name}: fill it, then a small charger or the sun keeps it; lead that stands empty is "
                "lost."
            ))  # fmt: skip
    if design.panels:
        found.append(sentence(
            "Panels: cover them, open the breaker first; the plugs last, and never under load. They are live "
            "whenever there is light."
        ))  # fmt: skip
    found.append(sentence(
        "Controllers and house: every draw off; a management system alone empties a bank in a winter."
    ))  # fmt: skip
    return found


@kept(OUTLOOK_READS, 8)
def _season(design: BoatDesign, told: tuple[Told, ...], reserve: float | None) -> SeasonShown:
    days = outing_days(design, told[::-1])
    months = [
        _month(label, list(group))
        for label, group in groupby(
            days, key=lambda day: f"{day.outing.began_at.astimezone(day.steps.zone):%B}"
        )
    ]
    whole = _month("All of it", days)
    lows = [
        (float(np.nanmin(day.soc_read)), _name(day.told, day))
        for day in days
        if np.isfinite(day.soc_read).any()
    ]
    lowest = min(lows, default=None)
    aged = None if design.bank is None else worn(design.bank, [_depth(day) for day in days])
    by_way = sorted(days, key=lambda day: day.way_m)
    first = days[0]
    return SeasonShown(
        title=f"{first.outing.began_at.astimezone(first.steps.zone):%Y}",
        months=months, whole=whole,
        learned=learned_of(design, days),
        scores=[_score(day) for day in days],
        best=None if len(days) < 2 else f"{_name(by_way[-1].told, by_way[-1])}, {by_way[-1].outing.name}",
        worst=None if len(days) < 2 else f"{_name(by_way[0].told, by_way[0])}, {by_way[0].outing.name}",
        lowest_soc=None if lowest is None else lowest[0], lowest_on=None if lowest is None else lowest[1],
        broke=[_broke(day) for day in days if day.outing.broke],
        told=[*_told(whole, None if lowest is None else lowest[0], reserve), *([aged] if aged else [])],
        laying_up=laying_up(design),
        left_out=0, readings=sum(len(day.told.readings) for day in days),
    )  # fmt: skip


def _broke(day: OutingDay) -> str:
    """What broke, and whether it is mended."""
    mended = f"mended: {day.outing.mended}" if day.outing.mended else "still open"
    return f"{_name(day.told, day)}: {day.outing.broke}; {mended}"


def season_of(design: BoatDesign, book: Book) -> SeasonShown | None:
    """What all outings come to; None without any."""
    told = tuple(one for one in book.told if one.readings or one.outing.distance_m)
    if not told:
        return None
    bank = design.bank
    return _season(design, told, None if bank is None else reserve_of(bank))


def log_season(design: BoatDesign, logbook: Logbook = NO_LOGBOOK) -> SeasonShown | None:
    """The season: by month, what it taught, what broke, laying up; None without outings."""
    return season_of(design, book_of(logbook))
