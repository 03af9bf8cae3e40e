"""What an outing's readings mean: causes in their order, of the boat and of each controller's panels."""

from __future__ import annotations

from parhelion.design import BoatDesign
from parhelion.design.logbook import NO_LOGBOOK, Logbook
from parhelion.diagnosis.conditions import Condition
from parhelion.diagnosis.day import Diagnosis, Likely
from parhelion.diagnosis.day_causes import OF_PANELS
from parhelion.stations.log.day import names_of
from parhelion.stations.log.outing_day import OutingDay, Told, book_of, outing_day, outing_diagnosis
from parhelion.stations.log.shown import DayMeaning, LikelyShown

SHOWN = 4
LEAST_ODDS, SUREST = 0.01, 0.99  # nothing is said to be surer than this
BOAT, BESIDE_PANELS = "The boat", "Bank, meters and motor"
SPEAKS, AGAINST = -0.7, -3.0  # log-likelihoods from which evidence speaks for a cause, or against it
WORDS = {
    "amps": "watts through the day",
    "volts": "panel volts",
    "gain": "the shunt's slope against the balance",
    "offset": "the shunt at rest",
    "charge": "charge against volts at rest",
    "turn": "charge from morning to evening",
    "sag": "volts under load",
    "said_full": "what the meter said when the bank was full",
    "top": "the volts at which charging stopped",
    "motor": "watts at speed",
    "chop": "watts in the waves",
    "open": "open volts of panels held back",
}


def likely_shown(one: Likely, best: dict[str, float], ahead_s: float = 0.0) -> LikelyShown:
    """A cause with the evidence that speaks for it, where it fits better than others, and against it."""
    speaks = [WORDS[k] for k, v in one.terms.items() if v > SPEAKS and best.get(k, 0.0) < AGAINST]
    against = [WORDS[k] for k, v in one.terms.items() if v < AGAINST]
    return LikelyShown(
        clock_ahead_s=ahead_s + one.size * 3600 if one.condition is Condition.CLOCK else None,
        condition=one.condition, label=one.condition.label, odds=one.odds, fault=one.fault, check=one.check,
        speaks=speaks, against=against,
    )  # fmt: skip


def _meaning(
    day: OutingDay, found: Diagnosis, of: str | None, drop: tuple[Condition, ...] = ()
) -> DayMeaning | None:
    kept = [one for one in found.ranked if one.condition not in drop]
    whole = sum(one.odds for one in kept)
    if not kept or whole <= 0:
        return None
    worst = {k: min(one.terms.get(k, 0.0) for one in kept[:SHOWN]) for k in WORDS}
    first, at = kept[0], day.steps.edges_s / 60
    shown = [
        likely_shown(one, worst, day.outing.clock_ahead_s)
        for one in kept[:SHOWN]
        if one.odds / whole > LEAST_ODDS
    ]
    shown = [one.model_copy(update={"odds": min(one.odds / whole, SUREST)}) for one in shown]
    return DayMeaning(
        of=of, name=names_of(day)[of] if of is not None else BESIDE_PANELS if drop else BOAT, ranked=shown,
        either=len(shown) > 1 and shown[1].odds > 0.25 * shown[0].odds,
        from_min=None if first.span is None else float(at[first.span[0]]),
        to_min=None if first.span is None else float(at[min(first.span[1], day.steps.steps)]),
    )  # fmt: skip


def meanings_of(design: BoatDesign, told: Told) -> list[DayMeaning]:
    """The boat's, then each controller's where they were read on their own."""
    day = outing_day(design, told)
    names = names_of(day)
    parts = [part for part in day.rows.parts if part in names]
    found = []
    whole = outing_diagnosis(design, told)
    if whole is not None:
        drop = OF_PANELS if len(parts) > 1 else ()  # what panels show is told by controller
        meaning = _meaning(day, whole, None, drop)
        if meaning is not None:
            found.append(meaning)
    for part in parts if len(parts) > 1 else []:
        own = outing_diagnosis(design, told, part)
        meaning = None if own is None else _meaning(day, own, part)
        if meaning is not None:
            found.append(meaning)
    return found


def log_meaning(design: BoatDesign, logbook: Logbook = NO_LOGBOOK, outing: str = "") -> list[DayMeaning]:
    """What the readings of an outing mean, the newest where none is named."""
    told = book_of(logbook).outing(outing)
    return [] if told is None or not told.readings else meanings_of(design, told)
