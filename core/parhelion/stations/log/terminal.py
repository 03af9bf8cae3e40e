"""The Log's words in the terminal: a logged day, two meters, a calibration, a tilt."""

from __future__ import annotations

from argparse import ArgumentParser, Namespace
from pathlib import Path
from typing import TextIO

from parhelion.formats.boat_file import read_boat
from parhelion.formats.case_file import read_case
from parhelion.formats.plain import print_json
from parhelion.stations.log.cases import (
    SHOWN,
    CalibrateCase,
    DayFacts,
    MetersCase,
    TiltCase,
    calibrate_answer,
    day_diagnosis,
    diagnose_answer,
    meters_answer,
    tilt_answer,
)


def diagnose_arguments(command: ArgumentParser) -> None:
    command.add_argument("--design", type=Path, required=True, help="the boat, JSON")
    command.add_argument("--facts", type=Path, required=True, help="date, offset, air, charging volts, JSON")


def diagnose(table: bytes, arguments: Namespace, out: TextIO) -> None:
    design = read_boat(arguments.design.read_bytes())
    facts = read_case(arguments.facts.read_bytes(), DayFacts)
    answer = diagnose_answer(day_diagnosis(design, table, facts))
    if arguments.json:
        print_json(answer.model_dump(mode="json"), out)
        return
    for one in answer.ranked[:SHOWN]:
        out.write(f"{one.odds:6.1%}  {one.condition.label}\n")
    if answer.either:
        out.write("either may be it; ")
    out.write(f"check: {answer.check}\n")


def compare_meters(case: MetersCase, arguments: Namespace, out: TextIO) -> None:
    answer = meters_answer(case)
    if arguments.json:
        print_json(answer.model_dump(mode="json"), out)
        return
    if answer.gain is None:
        out.write(f"means: b is {answer.ratio:.3f} of a; no gain can be told\n")
        return
    low, high = answer.gain_interval or (answer.gain, answer.gain)
    out.write(f"gain   {answer.gain:.4f} ({low:.4f} to {high:.4f})\n")
    out.write(f"offset {answer.offset_a:+.3f}\nlag    {answer.lag_s:.1f} s\n")


def calibrate(case: CalibrateCase, arguments: Namespace, out: TextIO) -> None:
    told = calibrate_answer(case).model_dump(mode="json", exclude_none=True)
    if arguments.json:
        print_json(told, out)
        return
    for name, value in told.items():
        out.write(f"{name:24s} {value}\n")


def tilt(case: TiltCase, arguments: Namespace, out: TextIO) -> None:
    answer = tilt_answer(case)
    if arguments.json:
        print_json(answer.model_dump(mode="json"), out)
        return
    low, high = answer.within_1_percent_deg
    out.write(f"best at {answer.best_tilt_deg:.0f} deg; {low:.0f} to {high:.0f} give all but a hundredth\n")
