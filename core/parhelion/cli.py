"""The same answers in a terminal: `parhelion VERB FILE.json [--date D] [--sky WORD] [--json]`.

The rail's word is here, those of the stations are registered by them; `parhelion --help` lists all.
"""

from __future__ import annotations

import argparse
import sys
from argparse import Namespace
from datetime import UTC, datetime
from datetime import time as Time
from pathlib import Path
from typing import TextIO

from pydantic import ValidationError

from parhelion.design import BoatDesign, Sky
from parhelion.errors import InvalidDesign, ParhelionError, problems_of
from parhelion.formats.boat_file import json_schema, read_boat
from parhelion.formats.case_file import read_case
from parhelion.formats.plain import print_json, shown, told
from parhelion.rail.answers import answers_for
from parhelion.stations.registry import STATIONS
from parhelion.stations.station import Verb
from parhelion.sun.daysteps import day_steps


def _changed(design: BoatDesign, arguments: Namespace) -> BoatDesign:
    """The design with the plan's date and sky from the command line, checked like any other."""
    document = design.model_dump(mode="json")
    if arguments.date:
        document["plan"]["date"] = arguments.date
    if arguments.sky:
        document["plan"]["sky"] = arguments.sky
    try:
        return BoatDesign.model_validate(document)
    except ValidationError as error:
        raise InvalidDesign(problems_of(error)) from None


def _answers(design: BoatDesign, arguments: Namespace, out: TextIO) -> None:
    at = datetime.now(UTC)
    if arguments.at:
        at = day_steps(design.site, design.plan.date).moment(arguments.at)
    found = answers_for(design, at)
    if arguments.json:
        print_json(found.model_dump(mode="json", exclude={"rail"}), out)
        return
    out.write(f"{design.name}: {told(found.assumes)} ({found.zone})\n\n")
    for cell in found.rail:
        value = shown(cell.value) if cell.value is not None else "none"
        out.write(f"{cell.label:24s} {value}\n")
        if cell.reason is not None:
            out.write(f"{'':24s} {told(cell.reason)}\n")
        for line in cell.lines:
            out.write(f"{'':24s} {told(line)}\n")
        out.write(f"{'':24s} assumes {told(cell.assumes)}\n")


def _answers_arguments(command: argparse.ArgumentParser) -> None:
    command.add_argument(
        "--at", type=Time.fromisoformat, help="the local clock that 'now' means; this minute if not given"
    )


def _devices(design: BoatDesign, arguments: Namespace, out: TextIO) -> None:
    from parhelion.stand_ins import devices  # sockets only where they are asked for

    devices(design, arguments, out)


def _devices_arguments(command: argparse.ArgumentParser) -> None:
    from parhelion.stand_ins import devices_arguments

    devices_arguments(command)


RAIL = Verb("answers", _answers, _answers_arguments)
DEVICES = Verb("devices", _devices, _devices_arguments)


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog="parhelion", description="How fast and how far on the sun alone.")
    commands = parser.add_subparsers(dest="command", required=True)
    for verb in (RAIL, DEVICES, *(verb for station in STATIONS for verb in station.verbs)):
        command = commands.add_parser(verb.name)
        command.add_argument("file", type=Path, help=verb.file)
        command.add_argument("--json", action="store_true", help="print JSON in SI units")
        if verb.of_boat:
            command.add_argument("--date", help="another day, e.g. 2027-06-13")
            command.add_argument("--sky", help=", ".join(Sky))
        command.set_defaults(run=verb.run, case=verb.case, table=verb.table)
        if verb.arguments is not None:
            verb.arguments(command)
    commands.add_parser("schema", help="print the JSON Schema of a boat design")
    return parser


def main(argv: list[str] | None = None, out: TextIO = sys.stdout, err: TextIO = sys.stderr) -> int:
    """Run the command line; returns the exit status: 0, or 2 where the input was refused."""
    arguments = _parser().parse_args(argv)
    if arguments.command == "schema":
        print_json(json_schema(), out)
        return 0
    try:
        content = arguments.file.read_bytes()
        if arguments.table is not None:
            arguments.run(content, arguments, out)
            return 0
        if arguments.case is not None:
            arguments.run(read_case(content, arguments.case), arguments, out)
            return 0
        arguments.run(_changed(read_boat(content), arguments), arguments, out)
    except OSError as error:
        err.write(f"parhelion: {error.filename or arguments.file}: {error.strerror}\n")
        return 2
    except ParhelionError as error:
        for problem in error.problems:
            accepted = f" Accepted: {problem.accepted}." if problem.accepted else ""
            err.write(f"parhelion: {problem.field or '/'}: {problem.message}{accepted}\n")
        return 2
    return 0


if __name__ == "__main__":
    sys.exit(main())
