"""The Fit-out's words in the terminal: the boat's parts and steps, a bench test, a first sun."""

from __future__ import annotations

from argparse import ArgumentParser, Namespace
from pathlib import Path
from typing import TextIO

from parhelion.design import BoatDesign
from parhelion.design.records import NO_RECORDS
from parhelion.formats.plain import print_findings, print_json
from parhelion.formats.records_file import read_records
from parhelion.stations.fitout.cases import BenchCase, SunCase, bench_answer, sun_answer
from parhelion.stations.fitout.findings import fitout_findings
from parhelion.stations.fitout.picture import fitout_picture


def fitout_arguments(command: ArgumentParser) -> None:
    command.add_argument(
        "--records", type=Path, help="what was bought, proved and read: a records file, JSON"
    )


def fitout(design: BoatDesign, arguments: Namespace, out: TextIO) -> None:
    records = NO_RECORDS if arguments.records is None else read_records(arguments.records.read_bytes())
    picture, found = fitout_picture(design, records), fitout_findings(design, records)
    if arguments.json:
        document = picture.model_dump(mode="json")
        document["findings"] = [finding.model_dump(mode="json") for finding in found]
        print_json(document, out)
        return
    money = picture.money
    for system in picture.systems:
        out.write(f"{system.label:24s} {system.cost:9,.0f} {money.currency}  {system.mass_kg:7.1f} kg\n")
    out.write(f"{'All of it':24s} {money.cost:9,.0f} {money.currency}  {money.mass_kg:7.1f} kg\n\n")
    for step in picture.steps:
        mark = "x" if step.done else "!" if step.wrong else " "
        out.write(f"[{mark}] {step.number:2d} {step.title}\n")
    out.write("\n")
    for gauge in picture.gauges:
        band = "put away" if gauge.watts is None else f"{gauge.watts[0]:,.0f} to {gauge.watts[2]:,.0f} W"
        out.write(f"{gauge.name:24s} {band}\n")
    print_findings(found, out)


def bench_test(case: BenchCase, arguments: Namespace, out: TextIO) -> None:
    answer = bench_answer(case)
    if arguments.json:
        print_json(answer.model_dump(mode="json"), out)
        return
    out.write(
        f"at the test   {answer.test_pmp_w:7.1f} W, {answer.test_voc_v:.2f} V open, "
        f"{answer.test_isc_a:.2f} A short\n"
    )
    if answer.standard_pmp_w is not None:
        out.write(f"at standard   {answer.standard_pmp_w:7.1f} W of {case.label.pmp_w:g}\n")
    out.write(f"{answer.verdict.label}\n")


def first_sun(case: SunCase, arguments: Namespace, out: TextIO) -> None:
    answer = sun_answer(case)
    if arguments.json:
        print_json(answer.model_dump(mode="json"), out)
        return
    low, _, high = answer.pv_w_10_50_90
    out.write(f"expected {low:,.0f} to {high:,.0f} W at {answer.pv_v:.1f} V; open {answer.open_v:.1f} V\n")
    for read, says in zip(case.readings, answer.meanings, strict=True):
        told = " (this sky cannot tell)" if says.cannot_tell_under_this_sky else ""
        out.write(f"{read.pv_v} V {read.pv_a} A: {says.means.label}{told}. {says.check}\n")
