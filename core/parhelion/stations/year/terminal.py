"""The Year's words in the terminal."""

from __future__ import annotations

from argparse import Namespace
from typing import TextIO

from parhelion.balance.outlook import outlook_of
from parhelion.design import BoatDesign
from parhelion.formats.plain import miles, print_findings, print_json, print_told, told
from parhelion.stations.year.ahead import days_ahead
from parhelion.stations.year.findings import year_findings
from parhelion.stations.year.season import MONTHS, season
from parhelion.stations.year.upgrades import upgrade_steps
from parhelion.units import M_PER_NAUTICAL_MILE, MPS_PER_KNOT


def season_table(design: BoatDesign, arguments: Namespace, out: TextIO) -> None:
    found = season(design)
    if arguments.json:
        print_json(found, out)
        return
    out.write(f"{told(found.climate)}\n\n")
    for month in found.months:
        far = "  ".join(
            f"{metres / M_PER_NAUTICAL_MILE:5.1f}" for metres in (month.poor_m, month.middle_m, month.good_m)
        )
        knots = month.speed_mps / MPS_PER_KNOT
        out.write(
            f"{MONTHS[month.month - 1]:10s} {month.sun_h:4.1f} full-sun h  {knots:4.1f} kn  {far} nm  "
            f"harvest {month.harvest_wh:7.0f} Wh, thrown away {month.refused_wh:6.0f}\n"
        )
    out.write(f"\n{told(found.verdict)}\n")
    print_told(found.turning, out)
    print_findings(year_findings(outlook_of(design)), out)


def ahead(design: BoatDesign, arguments: Namespace, out: TextIO) -> None:
    found = days_ahead(design)
    if arguments.json:
        print_json(found, out)
        return
    if found is None:
        out.write("No days ahead: without a bank none hands anything on to the next.\n")
        return
    for day in found.days:
        sky = day.sky or "as it comes"
        out.write(
            f"{day.number:3d} {day.kind:5s} {sky:12s} bank {100 * day.charge_middle:3.0f} % "
            f"({100 * day.charge_low:3.0f} to {100 * day.charge_high:3.0f}) {miles(day.metres_middle)}\n"
        )
    print_told(found.told, out)


def upgrades(design: BoatDesign, arguments: Namespace, out: TextIO) -> None:
    found = upgrade_steps(outlook_of(design))
    if arguments.json:
        print_json(found, out)
        return
    out.write(f"{'now':34s} {miles(found.start_m)}\n")
    for step in found.steps:
        out.write(
            f"{told(step.label):34s} {miles(step.total_m)}  {step.cost:6.0f} coins {step.mass_kg:+5.0f} kg\n"
        )
    print_told(found.told, out)
