"""The Bank's word in the terminal."""

from __future__ import annotations

from argparse import ArgumentParser, Namespace
from typing import TextIO

from parhelion.balance.outlook import outlook_of
from parhelion.design import BoatDesign
from parhelion.formats.plain import print_findings, print_json, told, with_findings
from parhelion.stations.bank.findings import bank_findings
from parhelion.stations.bank.picture import bank_picture
from parhelion.stations.bank.sizing import SizingAsk


def bank(design: BoatDesign, arguments: Namespace, out: TextIO) -> None:
    ask = SizingAsk(hours=arguments.hours, speed_mps=arguments.speed, grey_days=arguments.grey_days)
    outlook = outlook_of(design)
    picture, findings = bank_picture(outlook, ask), bank_findings(outlook)
    if arguments.json:
        print_json(with_findings(picture, findings), out)
        return
    for tank in picture.tanks:
        out.write(f"{tank.name}: {tank.chemistry} {tank.nominal_v:.1f} V {tank.capacity_ah:.0f} Ah\n")
        for label, value in (("on the label", tank.nominal_wh), ("holds", tank.held_wh),
                             ("usable", tank.usable_wh), ("above the reserve", tank.working_wh)):  # fmt: skip
            out.write(f"  {label:22s} {value:8.0f} Wh\n")
        for mark in tank.marks:
            out.write(f"  {mark.label:22s} {mark.volts:8.2f} V\n")
    for size in picture.sizes:
        found = f"{size.energy_wh:.0f} Wh" if size.energy_wh is not None else told(size.reason or size.label)
        out.write(f"{told(size.label)}: {found}\n")
    print_findings(findings, out)


def bank_arguments(command: ArgumentParser) -> None:
    command.add_argument("--hours", type=float, default=3.0, help="hours under way without sun")
    command.add_argument("--speed", type=float, help="m/s; the planned one if not given")
    command.add_argument("--grey-days", type=int, default=3, help="grey days at anchor")
