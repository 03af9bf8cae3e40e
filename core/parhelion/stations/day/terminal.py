"""The Day's words in the terminal."""

from __future__ import annotations

from argparse import Namespace
from typing import TextIO

from parhelion.balance.outlook import outlook_of
from parhelion.design import BoatDesign
from parhelion.formats.plain import miles, print_findings, print_json, print_told, told
from parhelion.stations.day.findings import day_findings
from parhelion.stations.day.picture import day_picture
from parhelion.stations.day.ways import pace_of


def day(design: BoatDesign, arguments: Namespace, out: TextIO) -> None:
    outlook = outlook_of(design)
    picture, findings = day_picture(outlook), day_findings(outlook)
    if arguments.json:
        document = picture.model_dump(mode="json")
        document["ledger"]["residual_wh"] = picture.ledger.residual_wh
        document["findings"] = [finding.model_dump(mode="json") for finding in findings]
        print_json(document, out)
        return
    out.write(f"{design.name}, {design.plan.date:%d %B %Y}, {picture.zone}\n\n")
    out.write(f"{'clock':>6s} {'sun':>8s} {'house':>8s} {'motor':>8s} {'bank':>7s}\n")
    for index in range(0, len(picture.clock_min), 6):
        clock = round(picture.clock_min[index])
        sun = sum(group.power_w[index] for group in picture.groups)
        bank = f"{100 * picture.soc[index]:5.0f} %" if picture.soc else "      -"
        out.write(
            f" {clock // 60:02d}:{clock % 60:02d} {sun:6.0f} W {picture.house_w[index]:6.0f} W "
            f"{picture.motor_w[index]:6.0f} W {bank}\n"
        )
    out.write("\n")
    for name, value in picture.ledger.model_dump().items():
        out.write(f"{name.removesuffix('_wh'):12s} {value:8.0f} Wh\n")
    print_findings(findings, out)


def pace(design: BoatDesign, arguments: Namespace, out: TextIO) -> None:
    found = pace_of(outlook_of(design))
    if arguments.json:
        print_json(found, out)
        return
    ways, worths = found.ways, found.worths
    if ways is None:
        out.write("No pace to choose: it takes a bank to hold back for later, and hours to motor in.\n")
    for way in ways.ways if ways else []:
        out.write(f"{way.label:18s} {miles(way.distance_m)}  bank at the end {100 * way.end_frac:3.0f} %\n")
    for step in worths.steps if worths else []:
        worth = "" if step.by_worth_m is None else f"  by its worth {miles(step.by_worth_m)}"
        out.write(f"{told(step.label):34s} {miles(step.gain_m)}{worth}\n")
    print_told([*(ways.told if ways else []), *(worths.told if worths else [])], out)
