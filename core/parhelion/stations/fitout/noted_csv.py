"""All that was noted as one table: when, what, what was read, and what it means."""

from __future__ import annotations

from collections.abc import Iterator

from parhelion.design import BoatDesign
from parhelion.design.records import NO_RECORDS, Records, SunNote
from parhelion.diagnosis.inputs import inputs_of
from parhelion.formats.table import written_table
from parhelion.stations.fitout.bench import bank_tests, motor_tests, panel_tests
from parhelion.stations.fitout.now import usual_now
from parhelion.stations.fitout.parts import lines_of
from parhelion.stations.fitout.steps import shown_steps
from parhelion.stations.fitout.sun import gauges_of, watts_of

COLUMNS = ("kind", "at", "what", "reading", "unit", "means", "by", "note")
Row = tuple[object, ...]


def _steps(design: BoatDesign, records: Records) -> Iterator[Row]:
    for shown in shown_steps(design, records, usual_now(design)):
        for item in shown.items:
            note = item.note
            if note is None:
                continue
            means = "changed since" if item.stale else item.means.label if item.means else "done"
            reading = "" if note.reading is None else f"{note.reading:g}"
            what = f"{shown.number}. {shown.step.title}: {item.item.name}"
            yield "step", note.at.isoformat(), what, reading, item.item.unit or "", means, note.by, note.note


def _sun(design: BoatDesign, records: Records) -> Iterator[Row]:
    names = {box.key: box.name for box in inputs_of(design)}
    last = {
        gauge.note.id: gauge.meaning for gauge in gauges_of(design, records, usual_now(design)) if gauge.note
    }
    for key, notes in records.sun.items():
        for note in notes:
            says = last.get(note.id)
            means = "" if says is None else says.means.label
            yield (
                "sun",
                note.at.isoformat(),
                names.get(key, key),
                _shown(note),
                "W",
                means,
                "",
                note.shadow.label,
            )


def _shown(note: SunNote) -> str:
    watts = watts_of(note)
    return "" if watts is None else f"{watts:g}"


def _tests(design: BoatDesign, records: Records) -> Iterator[Row]:
    for test in panel_tests(design, records):
        found = test.found
        watts = "" if found is None or found.standard_w is None else f"{found.standard_w:.1f}"
        means = test.problem or "" if found is None else found.verdict.label
        yield (
            "panel test",
            test.note.at.isoformat(),
            test.note.name,
            watts,
            "W at standard",
            means,
            "",
            test.note.note,
        )
    for count in bank_tests(design, records):
        capacity = "" if count.found is None else f"{count.found.capacity_ah:.1f}"
        name = count.bank.name if count.bank else count.note.bank_id
        yield "bank test", count.note.at.isoformat(), name, capacity, "Ah", "", "", count.note.note
    for trial in motor_tests(design, records):
        power = "" if trial.found is None or trial.found.power_w is None else f"{trial.found.power_w:.0f}"
        yield "motor test", trial.note.at.isoformat(), trial.note.name, power, "W", "", "", trial.note.note


def records_csv(design: BoatDesign, records: Records = NO_RECORDS) -> str:
    """Parts' states, steps, readings, tests and ticks, a note a row."""
    rows: list[Row] = [COLUMNS]
    for line in lines_of(design, records):
        if line.note is not None:
            price = "" if line.price is None else f"{line.price:g}"
            rows.append(
                (
                    "part",
                    "",
                    line.note.name,
                    price,
                    records.money.currency,
                    line.state.label,
                    "",
                    line.note.note,
                )
            )
    rows += [*_steps(design, records), *_sun(design, records), *_tests(design, records)]
    rows += [
        ("tick", tick.at.isoformat(), tick.item, "", "", "looked at", "", tick.note)
        for tick in records.ticks.values()
    ]
    return written_table(rows)
