"""The Log's words in the terminal: a logged day, two meters, a calibration, a tilt."""

from __future__ import annotations

from argparse import ArgumentParser, Namespace
from pathlib import Path
from typing import TextIO

from parhelion.design import BoatDesign
from parhelion.formats.boat_file import read_boat
from parhelion.formats.case_file import read_case
from parhelion.formats.logbook_file import read_logbook
from parhelion.formats.plain import print_findings, print_json, shown
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
from parhelion.stations.log.findings import log_findings
from parhelion.stations.log.picture import log_picture
from parhelion.stations.log.season import log_season


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


def log_arguments(command: ArgumentParser) -> None:
    command.add_argument("--logbook", type=Path, required=True, help="outings and readings, JSON")
    command.add_argument("--outing", default="", help="the id of one; the newest where none is named")


def log(design: BoatDesign, arguments: Namespace, out: TextIO) -> None:
    logbook = read_logbook(arguments.logbook.read_bytes())
    picture, season = log_picture(design, logbook, arguments.outing), log_season(design, logbook)
    found = log_findings(design, logbook, arguments.outing)
    if arguments.json:
        print_json(
            {
                "picture": picture.model_dump(mode="json"),
                "season": None if season is None else season.model_dump(mode="json"),
                "findings": [finding.model_dump(mode="json") for finding in found],
            },
            out,
        )
        return
    for line in picture.outings:
        date = line.outing.began_at.date()
        out.write(f"{date}  {line.outing.name:28s} {line.readings:4d} readings\n")
    for cell in picture.cells:
        out.write(f"{cell.label:28s} {'none' if cell.value is None else shown(cell.value)}\n")
    print_findings(found, out)
