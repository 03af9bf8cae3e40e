"""What the Log tells: of the open outing, and of all of them."""

from __future__ import annotations

import numpy as np

from parhelion.design import BoatDesign
from parhelion.design.logbook import NO_LOGBOOK, Logbook
from parhelion.diagnosis.conditions import Condition
from parhelion.finding import Finding, ordered
from parhelion.quantities import (
    Fact,
    Sentence,
    Why,
    clock,
    count,
    distance,
    energy,
    fraction,
    power,
    ratio,
    sentence,
    so_many,
    words,
)
from parhelion.stations.log.day import day_shown
from parhelion.stations.log.learned import LAME, times_of
from parhelion.stations.log.meaning import BOAT, meanings_of
from parhelion.stations.log.outing_day import Book, OutingDay, book_of, outing_day
from parhelion.stations.log.season import season_of
from parhelion.stations.log.shown import DayMeaning, DayShown, Learned, SeasonShown

SOURCE = "What was read, laid over the design as it stands"
TOLD_ODDS, TOLD_THROWN_WH = 0.5, 100.0
SHORT_FRAC, HULL_NEWS, LEAST_NUMBER = 0.95, 0.03, 3
APART_SOC = 0.05
MOST_OPEN, SHOWN_LETTERS = 3, 60  # things that broke, and of each
MORE_THAN_SUN, LEAST_FRAC = 1.3, 0.06  # of a clear sky, and of the nameplate over it


def _why(method: str, *inputs: Fact, band: Sentence | None = None) -> Why:
    return Why(method=method, source=SOURCE, inputs=list(inputs), band=band, doc="log")


def nothing_read() -> Finding:
    return Finding(
        id="nothing_read",
        level="note",
        title=sentence("Nothing is read yet"),
        detail=sentence(
            "Note what any meter says, with a word for the sky; a handful of readings says a lot."
        ),
        why=_why("Readings of an outing are laid over the model of its hours"),
    )


def more_than_sun(day: OutingDay) -> Finding | None:
    """Watts that no sky gives at the hour they were read: a clock, a place, or a unit."""
    above = MORE_THAN_SUN * day.clear_w + LEAST_FRAC * day.design.nameplate_w
    rows = np.flatnonzero(np.nan_to_num(day.read_w) > above)
    if len(rows) == 0:
        return None
    at = float(day.steps.middles_s[rows[0]] / 60) % 1440
    return Finding(
        id="more_than_sun",
        level="warn",
        title=sentence("{w} at {a}: more than any sky gives", w=power(day.read_w[rows[0]]), a=clock(at)),
        detail=sentence(
            "{n} such rows. The clock of the readings, the place of the boat, or the unit is another than "
            "thought: nothing is judged by them until it is set right.",
            n=count(len(rows)),
        ),
        why=_why(
            "Read watts against those of a clear sky at that hour, cloud edges allowed",
            Fact(label="Clear sky", value=power(day.clear_w[rows[0]])),
        ),
    )


def too_few() -> Finding:
    return Finding(
        id="too_few",
        level="note",
        title=sentence("Too few readings by daylight to judge"),
        detail=sentence("Three or more of the panels' watts with a word for the sky say what is right."),
        why=_why("Rows with the sun up in which the panels, or the motor, were read"),
    )


def of_meaning(meaning: DayMeaning) -> Finding | None:
    """What a controller's panels, or the boat, show: a fault with its check, or that nothing is wrong."""
    first = meaning.ranked[0]
    if first.odds < TOLD_ODDS and first.fault:
        return None
    facts = [Fact(label=f"{one.label}", value=fraction(one.odds)) for one in meaning.ranked]
    speaks = f" For it: {', '.join(first.speaks)}." if first.speaks else ""
    slots = {}
    since = ""
    if meaning.from_min is not None:
        since, slots = " from {a}", {"a": clock(meaning.from_min % 1440)}
    other = f" Or: {meaning.ranked[1].label}." if meaning.either else ""
    name = "" if meaning.name == BOAT else f"{meaning.name}: "
    label = first.label if name else first.label[:1].upper() + first.label[1:]
    check = f" Check: {first.check}." if first.check != "none" else ""
    return Finding(
        id=f"means_{meaning.of or 'boat'}",
        level="warn" if first.fault else "good",
        title=sentence(f"{name}{label}{since}", **slots),
        detail=sentence(f"{{odds}} likely.{speaks}{other}{check}", odds=fraction(first.odds)),
        why=_why(
            "Each cause's likelihood over the day's volts, watts, balance, charge and motor; every kind of "
            "evidence is cut, so that no single one decides",
            *facts,
            band=sentence("what cannot be told apart from one day's readings is named beside it"),
        ),
    )


def bank_was_full(day: OutingDay, shown: DayShown) -> Finding | None:
    """Watts that were held back because the bank was full: right, and a chance for miles."""
    if shown.thrown_wh < TOLD_THROWN_WH:
        return None
    spans = [told for told in shown.told if told.words.text.startswith("bank full")]
    first = spans[0].from_min % 1440 if spans else None
    slots = {"wh": energy(shown.thrown_wh)}
    text = "The controllers held {wh} back: that is right, and not a fault. More speed would have used it."
    if first is not None:
        text = "From {a} " + text[:1].lower() + text[1:]
        slots["a"] = clock(first)
    return Finding(
        id="bank_was_full",
        level="good",
        title=sentence("The bank was full: throttled, nothing is wrong"),
        detail=sentence(text, **slots),
        why=_why(
            "Rows with the bank at its charger's volts, or its charge at 98.5 % or more, and less from the "
            "panels than their sky gives",
            Fact(label="Not taken", value=energy(shown.thrown_wh)),
        ),
    )


def done_against_planned(shown: DayShown) -> Finding | None:
    planned = shown.planned_m
    if not planned or shown.way_m <= 0 or abs(shown.way_m / planned - 1) < 1 - SHORT_FRAC:
        return None
    more = "more" if shown.way_m > planned else "less"
    return Finding(
        id="done_against_planned",
        level="note",
        title=sentence("Planned {p}, did {d}", p=distance(planned), d=distance(shown.way_m)),
        detail=sentence(f"{{x}} {more} than planned.", x=distance(abs(shown.way_m - planned))),
        why=_why("Speed read through the water times hours, against the outing's plan"),
    )


def bank_apart(shown: DayShown) -> Finding | None:
    """Charge read far from the model's by the day's end."""
    read, model = shown.last_soc, shown.last_soc_model
    if read is None or model is None or abs(read - model) < APART_SOC:
        return None
    less = "less" if read < model else "more"
    return Finding(
        id="bank_apart",
        level="note",
        title=sentence(f"{{r}} in the bank, {less} than modelled", r=fraction(read)),
        detail=sentence(
            "{m} by the model with what was read of sun and motor. What is left is the house, the meter of "
            "charge, or panels that gave less between readings.",
            m=fraction(model),
        ),
        why=_why(
            "The bank's day by the model from the first reading of its charge",
            Fact(label="Read", value=fraction(read)),
            Fact(label="Modelled", value=fraction(model)),
        ),
    )


def of_learned(one: Learned) -> Finding | None:
    """A factor that differs from the design's by more than it is known to."""
    told = one.low > 1 or one.high < 1
    if one.number < LEAST_NUMBER or not told or one.key == "sky" or abs(one.value - 1) < HULL_NEWS:
        return None
    ways = {"hull": "The hull takes", "house": "The house takes"}
    more = one.value > 1
    size = abs(one.value - 1)
    begin = ways.get(one.key, f"{one.label} gives" if " + " not in one.label else f"{one.label} give")
    lame = one.reason is not None and one.key.startswith("panels")
    use = " One button in The season puts it into the design." if one.refit is not None else ""
    reason = "" if one.reason is None else f" {one.reason.text[:1].upper()}{one.reason.text[1:]}."
    return Finding(
        id=f"learned_{one.key}",
        level="warn" if lame else "note",
        title=sentence(f"{begin} {{s}} {'more' if more else 'less'} than designed", s=fraction(size)),
        detail=sentence(
            f"{{l}} to {{h}} of the design's, over {{n}} {one.of}.{use}{reason}",
            l=times_of(one.low), h=times_of(one.high), n=count(one.number),
        ),
        why=_why(
            "A robust mean over outings of what was read over what the model says, full banks aside",
            Fact(label="Read over modelled", value=ratio(one.value)),
            Fact(label="From", value=words(f"{one.number} {one.of}")),
            band=sentence(
                "95 of 100 such logs would find it between {l} and {h}",
                l=times_of(one.low),
                h=times_of(one.high),
            ),
        ),
    )  # fmt: skip


def carried_by_sun(season: SeasonShown) -> Finding | None:
    whole = season.whole
    if whole.sun_share is None or whole.days < LEAST_NUMBER:
        return None
    return Finding(
        id="carried_by_sun",
        level="good",
        title=sentence("The sun carried {s} of what she used", s=fraction(whole.sun_share)),
        detail=sentence(
            "{h} from the panels, {x} from the shore, over " + so_many(whole.days, "day") + " and {d}.",
            h=energy(whole.harvest_wh),
            x=energy(whole.shore_wh),
            n=count(whole.days),
            d=distance(whole.way_m),
        ),
        why=_why("What was used on the water, less what was charged from the shore"),
    )


def still_open(book: Book) -> list[Finding]:
    """What broke and was not noted as mended, the newest first."""
    broken = [told.outing for told in book.told if told.outing.broke and not told.outing.mended]
    return [
        Finding(
            id=f"still_open/{outing.id}",
            level="note",
            title=sentence(
                "Still open since {day}: {what}",
                day=words(f"{outing.began_at.day} {outing.began_at:%B}"),
                what=words(
                    outing.broke
                    if len(outing.broke) <= SHOWN_LETTERS
                    else outing.broke[:SHOWN_LETTERS] + " …"
                ),
            ),
            detail=sentence("How it was mended, noted beside that outing, closes it."),
            why=_why(
                "What broke is open until it is noted as mended", Fact(label="Open", value=count(len(broken)))
            ),
        )
        for outing in broken[:MOST_OPEN]
    ]


def log_findings(design: BoatDesign, logbook: Logbook = NO_LOGBOOK, outing: str = "") -> list[Finding]:
    """What the readings tell: of an outing, the newest where none is named, and of all of them."""
    book = book_of(logbook)
    told = book.outing(outing)
    if told is None or not told.readings:
        return [nothing_read()]
    day = outing_day(design, told)
    shown = day_shown(day)
    found: list[Finding | None] = []
    strange = more_than_sun(day)
    found.append(strange)
    for meaning in [] if strange is not None else meanings_of(design, told):
        if meaning.ranked and (meaning.ranked[0].fault or meaning.of is None):
            found.append(of_meaning(meaning))
    found += [bank_was_full(day, shown), bank_apart(shown), done_against_planned(shown)]
    season = season_of(design, book)
    if season is not None:
        told_of = {one.id.removeprefix("means_") for one in found if one is not None and one.level == "warn"}
        learned = [one for one in season.learned if one.key.removeprefix("panels-") not in told_of]
        lame = {one.key.removeprefix("panels-"): one for one in season.learned if one.value < LAME}
        found = [_with_season(one, lame) for one in found]
        found += [*(of_learned(one) for one in learned), carried_by_sun(season)]
    found += still_open(book)
    full = next((one for one in found if one is not None and one.id == "bank_was_full"), None)
    if full is not None:  # "nothing is wrong" is said once
        found = [one for one in found if one is None or not _says_full(one)]
    return ordered(found if any(found) else [too_few()])


def _with_season(one: Finding | None, lame: dict[str, Learned]) -> Finding | None:
    """A fault of one day with what all days say of the same panels."""
    known = None if one is None else lame.get(one.id.removeprefix("means_"))
    if one is None or known is None or one.level != "warn":
        return one
    slots = {**one.detail.slots, "f": times_of(known.value), "n": count(known.number)}
    text = f"Over {{n}} {known.of} these panels gave {{f}} of the model's. {one.detail.text}"
    return one.model_copy(update={"detail": sentence(text, **slots)})


def _says_full(one: Finding) -> bool:
    return one.id == "means_boat" and one.level == "good" and Condition.FULL.label[4:12] in one.title.text
