"""The Log's list of outings, and the one that is open."""

from __future__ import annotations

from collections.abc import Sequence
from zoneinfo import ZoneInfo

from parhelion.computing.kept import kept_by_arguments
from parhelion.design import BoatDesign
from parhelion.design.logbook import MEANS_S, NO_LOGBOOK, SECONDS_KEPT_DAYS, Logbook
from parhelion.diagnosis.inputs import inputs_of
from parhelion.quantities import Fact, Sentence, Why, count, distance, energy, fraction, hours, sentence
from parhelion.rail.models import RailCell
from parhelion.stations.log.day import day_shown, span_of
from parhelion.stations.log.outing_day import OutingDay, Told, book_of, outing_day, rows_of, way_of
from parhelion.stations.log.shown import DayShown, InputName, LogPicture, OutingLine, PassageToBegin
from parhelion.sun.zone import zone_at

SOURCE = "What was read, laid over the design as it stands"
MOST_LINES = 400


@kept_by_arguments(2_000)
def _line(told: Told, zone: ZoneInfo) -> OutingLine:
    rows = rows_of(told, zone)
    skies = list(dict.fromkeys(word.label for word in rows.words if word is not None))
    way = way_of(told.outing, rows)
    return OutingLine(outing=told.outing, readings=len(told.readings), skies=skies, way_m=way, opened=False)


def _why(method: str, *facts: Fact) -> Why:
    return Why(method=method, source=SOURCE, inputs=list(facts), doc="log")


def _run(day: OutingDay, shown: DayShown) -> RailCell:
    lines = [sentence("{h} under way", h=hours(shown.under_way_h))]
    if shown.planned_m is not None:
        lines.append(sentence("planned {d}", d=distance(shown.planned_m)))
    noted = day.outing.distance_m is not None
    return RailCell(
        key="run",
        label="Run",
        value=distance(shown.way_m),
        lines=lines,
        assumes=sentence("as noted" if noted else "speeds that were read, each until the next"),
        why=_why(
            "The distance as noted" if noted else "Speed through the water times hours, reading by reading"
        ),
    )


def _sun(shown: DayShown) -> RailCell:
    lines = [sentence("{u} were used", u=energy(shown.used_wh))]
    if shown.thrown_wh > 1:
        lines.append(sentence("{t} not taken", t=energy(shown.thrown_wh)))
    return RailCell(
        key="from_sun",
        label="From the sun",
        value=energy(shown.harvest_wh),
        lines=lines,
        assumes=sentence("from the first reading to the last; between them the model times their share"),
        why=_why(
            "The model's harvest times the share that was read, on a straight line between readings",
            Fact(label="The model, over the same hours", value=energy(shown.modelled_wh)),
        ),
    )


def _bank(shown: DayShown) -> RailCell:
    lines = []
    if shown.last_soc_model is not None:
        lines.append(sentence("modelled {m}", m=fraction(shown.last_soc_model)))
    return RailCell(
        key="left",
        label="In the bank, at the last",
        value=None if shown.last_soc is None else fraction(shown.last_soc),
        lines=lines,
        reason=sentence("charge was not read") if shown.last_soc is None else None,
        assumes=sentence("what the meter of charge said; the model begins at its first reading"),
        why=_why("The last reading of the charge, and the bank's day by the model from the first"),
    )


def _cells(day: OutingDay, shown: DayShown) -> list[RailCell]:
    return [_run(day, shown), _sun(shown), _bank(shown)]


def _boxes(design: BoatDesign) -> list[InputName]:
    return [InputName(key=box.key, name=box.name) for box in inputs_of(design)]


def lines_of(design: BoatDesign, told: Sequence[Told], opened: str | None) -> list[OutingLine]:
    """The list, newest first."""
    zone = zone_at(design.site.latitude_deg, design.site.longitude_deg)
    found = [_line(one, zone) for one in told[:MOST_LINES]]
    return [line.model_copy(update={"opened": line.outing.id == opened}) for line in found]


def log_picture(design: BoatDesign, logbook: Logbook = NO_LOGBOOK, outing: str = "") -> LogPicture:
    """All outings, and the one that is named, or the newest, as it went."""
    book = book_of(logbook)
    told = book.outing(outing)
    lines = lines_of(design, book.told, None if told is None else told.outing.id)
    way = sum(line.way_m for line in lines)
    if told is None:
        return LogPicture(
            cells=[],
            assumes=nothing_yet(),
            outings=[],
            way_m=0,
            day=None,
            inputs=_boxes(design),
            passage=_passage(design),
            kept=kept_so_long(),
        )
    day = outing_day(design, told)
    shown = day_shown(day)
    return LogPicture(
        cells=_cells(day, shown),
        assumes=span_of(day),
        outings=lines,
        way_m=way,
        day=shown,
        inputs=_boxes(design),
        passage=_passage(design),
        kept=kept_so_long(),
    )


def _passage(design: BoatDesign) -> PassageToBegin | None:
    """What is planned: its last mark before she turns home, and all of its way."""
    passage = design.passage
    if passage is None:
        return None
    return PassageToBegin(name=passage.legs[-1].name, distance_m=passage.distance_m)


def kept_so_long() -> Sentence:
    """What becomes of the seconds that devices read."""
    return sentence(
        "Read by the second it stays so for {d} days, then as means of {t}; what is noted by hand stays.",
        d=count(SECONDS_KEPT_DAYS), t=hours(MEANS_S / 3600),
    )  # fmt: skip


def nothing_yet() -> Sentence:
    return sentence("nothing is read yet")
