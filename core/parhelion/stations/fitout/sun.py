"""First sun: what every controller should show at a minute, what was read, and what that means."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import timedelta

from parhelion.design import BoatDesign
from parhelion.design.records import Records, SunNote
from parhelion.diagnosis.expected import Expected
from parhelion.diagnosis.inputs import Input, inputs_of
from parhelion.diagnosis.reading import Meaning, Means, Read, meaning
from parhelion.stations.fitout.now import Now, expected_in, full_at_v, then_of

FULL_WITHIN_V = 0.02  # of the absorption volts: from there the controller may be holding back
JOINED_WITHIN, MOST_JOINED = timedelta(minutes=45), 3  # readings before the last that say it with it
MARKS_APART = 0.06  # of the middle: marks nearer than this to the band are not drawn


@dataclass(frozen=True)
class Gauge:
    """One controller's input at the minute that is shown, and its last reading at its own."""

    box: Input
    expected: Expected | None
    note: SunNote | None
    then: Expected | None  # at the minute of the reading
    meaning: Meaning | None

    @property
    def proven(self) -> bool:
        return self.meaning is not None and self.meaning.means in (Means.AS_EXPECTED, Means.BRIGHT)

    @property
    def read_w(self) -> float | None:
        return None if self.note is None else watts_of(self.note)

    @property
    def marks(self) -> list[tuple[str, float, float]]:
        """Where a lost string, or a lost panel, would read: words, from, to [W]."""
        e = self.expected
        if e is None or e.dark:
            return []
        found = []
        if e.wired.parallel > 1:
            found.append(("a string missing", 1 - 1 / e.wired.parallel))
        elif e.wired.series > 1:
            found.append(("a panel missing", 1 - 1 / e.wired.series))
        return [
            (words, e.watts.low * share, e.watts.high * share)
            for words, share in found
            if share < 1 - MARKS_APART
        ]


def watts_of(note: SunNote) -> float | None:
    """Watts that were read, or volts times amps."""
    if note.pv_w is not None:
        return note.pv_w
    return None if note.pv_v is None or note.pv_a is None else note.pv_v * note.pv_a


def read_of(box: Input, note: SunNote) -> Read:
    """What a note says of the meters; a bank that stands at its absorption volts is full or nearly."""
    at_v = full_at_v(box.circuits[0])
    full = note.bank_full or (
        at_v is not None and note.bank_v is not None and note.bank_v > at_v * (1 - FULL_WITHIN_V)
    )
    return Read(note.pv_v, note.pv_a, note.pv_w, note.bank_v, full)


def _earlier(design: BoatDesign, box: Input, told: list[SunNote]) -> Iterator[tuple[Expected, Read]]:
    """Readings shortly before the last one, with what each should have shown."""
    last = told[-1]
    near = [one for one in told[:-1] if last.at - one.at <= JOINED_WITHIN and one.wiped == last.wiped]
    for note in near[-MOST_JOINED:]:
        then = expected_in(design, box, then_of(note.at, note))
        if then is not None and (note.pv_v is not None or watts_of(note) is not None):
            yield then, read_of(box, note)


def gauges_of(design: BoatDesign, records: Records, now: Now) -> list[Gauge]:
    """Every controller's input, in the design's order."""
    notes = records.sun
    found = []
    for box in inputs_of(design):
        told = notes.get(box.key, [])
        note = told[-1] if told else None
        then = None if note is None else expected_in(design, box, then_of(note.at, note))
        says = None
        if note is not None and then is not None and (note.pv_v is not None or watts_of(note) is not None):
            says = meaning(then, read_of(box, note), list(_earlier(design, box, told)))
        found.append(Gauge(box, expected_in(design, box, now), note, then, says))
    return found
