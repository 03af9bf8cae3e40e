"""Banks that were counted and motors that were tried, in words, with the entry of the design they can set."""

from __future__ import annotations

from parhelion.bank.age import health_of
from parhelion.design import BoatDesign
from parhelion.design.records import Records
from parhelion.drive.bollard import USUAL_MERIT
from parhelion.finding import Finding
from parhelion.quantities import (
    Fact,
    Quantity,
    Sentence,
    Why,
    capacity,
    force,
    fraction,
    power,
    sentence,
    words,
)
from parhelion.stations.fitout.bench import BankTest, MotorTest, bank_tests, motor_tests
from parhelion.stations.fitout.shown import OtherTest

SOUND_SHARE = 0.9  # of the label, what a bank may lose before it is a word worth
OFF_BY = 0.03  # of the label, from which the design counts something else


def other_tests(design: BoatDesign, records: Records) -> list[OtherTest]:
    """Counts of banks, then trials of motors, newest first."""
    return [
        *(_bank(test) for test in bank_tests(design, records)),
        *(_motor(test) for test in motor_tests(design, records)),
    ]


def _bank(test: BankTest) -> OtherTest:
    note, bank, found = test.note, test.bank, test.found
    name = bank.name if bank else "A bank that is gone"
    if bank is None or found is None:
        return OtherTest(
            id=note.id,
            kind="bank_test",
            name=name,
            done=False,
            title=sentence("{name}: not yet a test", name=words(name)),
            lines=[sentence("Charge it full, count the amp-hours until it cuts out, and write them here.")],
            share=None,
            at=None,
            value=None,
            counts=None,
        )
    return OtherTest(
        id=note.id,
        kind="bank_test",
        name=name,
        done=True,
        title=sentence(
            "{name}: {f} of {l}",
            name=words(name),
            f=capacity(found.capacity_ah),
            l=capacity(bank.capacity_ah),
        ),
        lines=[
            sentence(
                "{share} of its label, between {low} and {high}, as it is rated: warm, over twenty hours "
                "for lead.",
                share=fraction(found.share),
                low=capacity(found.low_ah),
                high=capacity(found.high_ah),
            ),
            sentence(
                "Sound."
                if found.share >= SOUND_SHARE
                else "Read the volts of each cell or unit under load: a bank is as good as its weakest."
            ),
        ],
        share=found.share,
        at=f"/banks/{test.bank_index}/health_frac",
        value=round(min(max(found.share, 0.06), 1.2), 3),
        counts=health_of(bank),
    )


def _motor(test: MotorTest) -> OtherTest:
    note, drive, found = test.note, test.drive, test.found
    name = f"{drive.name}, {note.name}" if drive else note.name
    lines: list[Sentence] = []
    at = value = None
    if found is not None and found.power_w is not None:
        lines.append(sentence("{w} from the bank under that load.", w=power(found.power_w)))
    if found is not None and found.pull_per_w is not None and note.pull_n is not None:
        pull = sentence(
            "{f} of pull: {x} newtons for each 100 W.",
            f=force(note.pull_n),
            x=Quantity(quantity="count", value=100 * found.pull_per_w),
        )
        lines.append(pull)
    if found is not None and found.merit is not None:
        low, high = USUAL_MERIT
        said = (
            "as small craft do"
            if low <= found.merit <= high
            else (
                "little: a propeller of other pitch, or larger, would pull more"
                if found.merit < low
                else "more than can be: read the scale and the meter again"
            )
        )
        lines.append(
            sentence(
                "{m} of what an ideal propeller of that size pulls: " + said + ".", m=fraction(found.merit)
            )
        )
    if found is not None and found.kv_rpm_per_v is not None:
        lines.append(
            sentence(
                "It turns free at {k} rpm a volt.", k=Quantity(quantity="count", value=found.kv_rpm_per_v)
            )
        )
    if found is not None and found.lasting_w is not None and test.drive_index is not None:
        low, high = found.lasting_w
        lines.append(
            sentence(
                "For hours it bears {a} to {b}, by how its housing warmed: an estimate.",
                a=power(low),
                b=power(high),
            )
        )
        if drive is not None and drive.motor is not None:
            at, value = f"/drives/{test.drive_index}/motor/continuous_power_w", round(low)
    if not lines:
        lines.append(
            sentence(
                "Volts and amps under load at the least; the pull of a line at the dock tells the propeller."
            )
        )
    counts = drive.motor.continuous_power_w if drive is not None and drive.motor is not None else None
    return OtherTest(
        id=note.id,
        kind="motor_test",
        name=name,
        done=found is not None and found.power_w is not None,
        title=sentence("{name}", name=words(name)),
        lines=lines,
        share=None,
        at=at,
        value=value,
        counts=counts if at else None,
    )


def counted_banks(design: BoatDesign, records: Records) -> list[Finding]:
    """Banks that hold less, or more, than the design counts."""
    found = []
    seen: set[str] = set()
    for test in bank_tests(design, records):
        if test.bank is None or test.found is None or test.bank.id in seen:
            continue
        seen.add(test.bank.id)
        counts = health_of(test.bank)
        if abs(test.found.share - counts) < OFF_BY:
            continue
        shown = _bank(test)
        found.append(
            Finding(
                id=f"counted_{test.bank.id}",
                level="warn" if test.found.share < SOUND_SHARE * counts else "note",
                title=shown.title,
                detail=sentence(
                    shown.lines[0].text + " The design counts {c}.",
                    **shown.lines[0].slots,
                    c=fraction(counts),
                ),
                why=Why(
                    method="Counted amp-hours from full to cut-out, by Peukert and temperature to the rating",
                    source="A test noted on this boat",
                    inputs=[Fact(label="Counted", value=capacity(test.note.counted_ah or 0.0))],
                    doc="bench-tests",
                ),
                field=f"/banks/{test.bank_index}/health_frac",
            )
        )
    return found
