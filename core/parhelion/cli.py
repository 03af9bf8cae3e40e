"""The same answers in a terminal.

parhelion answers FILE.json [--date D] [--sky WORD] [--at HH:MM] [--json]
parhelion power FILE.json [--speeds V,V,...] [--json]
parhelion day FILE.json [--date D] [--sky WORD] [--json]
parhelion bank FILE.json [--hours H] [--speed V] [--grey-days N] [--json]
parhelion helm FILE.json [--unit kn|km/h|mph] [--pdf OUT.pdf] [--json]
parhelion harvest FILE.json [--date D] [--sky WORD] [--json]
parhelion schema
"""

from __future__ import annotations

import argparse
import json
import sys
from datetime import UTC, datetime
from datetime import time as Time
from pathlib import Path
from typing import Any, TextIO

import numpy as np
from pydantic import ValidationError

from parhelion.design import BoatDesign, Sky
from parhelion.errors import InvalidDesign, ParhelionError, problems_of
from parhelion.finding import Finding
from parhelion.formats.boat_file import json_schema, read_boat
from parhelion.formats.plain import shown, told
from parhelion.quantities import Quantity
from parhelion.units import M_PER_NAUTICAL_MILE, MPS_PER_KNOT


def _changed(design: BoatDesign, arguments: argparse.Namespace) -> BoatDesign:
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


def _print_json(value: Any, out: TextIO) -> None:
    json.dump(value, out, indent=2, ensure_ascii=False)
    out.write("\n")


def _answers(design: BoatDesign, arguments: argparse.Namespace, out: TextIO) -> None:
    from parhelion.rail.answers import answers_for
    from parhelion.sun.daysteps import day_steps

    at = datetime.now(UTC)
    if arguments.at:
        at = day_steps(design.site, design.plan.date).moment(arguments.at)
    found = answers_for(design, at)
    if arguments.json:
        _print_json(found.model_dump(mode="json", exclude={"rail"}), out)
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


def _power(design: BoatDesign, arguments: argparse.Namespace, out: TextIO) -> None:
    from parhelion.design.hull import hull_speed_mps
    from parhelion.hull import formula
    from parhelion.hull.demand import demand_curve

    curve = demand_curve(design)
    top = hull_speed_mps(design.hull.waterline_length_m)
    speeds = np.array(arguments.speeds) if arguments.speeds else np.linspace(0.2, 1.1, 10) * top
    beyond = speeds > curve.top_speed_mps
    power = curve.power_at(np.where(beyond, np.nan, speeds))
    factor = curve.band_at(speeds)
    asked = formula.shaft_power_w(speeds, design.hull.waterline_length_m, design.displacement_kg)
    asked = asked / formula.MOTOR_AND_CONTROLLER_EFFICIENCY
    forms = np.interp(speeds, curve.speed_mps, curve.model_w)
    rows = [
        {
            "speed_mps": float(v),
            "power_w": None if past else float(p),
            "low_w": None if past else float(curve.idle_w + (p - curve.idle_w) / f),
            "high_w": None if past else float(curve.idle_w + (p - curve.idle_w) * f),
            "form_w": None if past else float(form),
            "formula_w": float(w),
            "reason": f"beyond the model: it ends at {curve.top_speed_mps:.2f} m/s" if past else None,
        }
        for v, p, f, w, form, past in zip(speeds, power, factor, asked, forms, beyond, strict=True)
    ]
    if arguments.json:
        document = {
            "runs": curve.fit.runs, "idle_w": curve.idle_w, "most_w": curve.most_w,
            "limited_by": curve.limit.by, "displacement_kg": design.displacement_kg, "points": rows,
        }  # fmt: skip
        _print_json(document, out)
        return
    out.write(f"{'speed':>8s} {'battery':>9s} {'9 in 10 boats':>19s} {'formula':>9s}\n")
    for row in rows:
        v = row["speed_mps"]
        assert isinstance(v, float)
        if row["power_w"] is None:
            out.write(f"{v / MPS_PER_KNOT:5.1f} kn {row['reason']}\n")
        else:
            out.write(
                f"{v / MPS_PER_KNOT:5.1f} kn {row['power_w']:7.0f} W {row['low_w']:7.0f} to "
                f"{row['high_w']:6.0f} W {row['formula_w']:7.0f} W\n"
            )


def _day(design: BoatDesign, arguments: argparse.Namespace, out: TextIO) -> None:
    from parhelion.stations.day.picture import day_picture

    picture = day_picture(design)
    if arguments.json:
        document = picture.model_dump(mode="json")
        document["ledger"]["residual_wh"] = picture.ledger.residual_wh
        _print_json(document, out)
        return
    out.write(f"{design.name}, {design.plan.date:%d %B %Y}, {picture.zone}\n\n")
    out.write(f"{'clock':>6s} {'sun':>8s} {'house':>8s} {'motor':>8s} {'bank':>7s}\n")
    for index in range(0, 144, 6):
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
    _print_findings(picture.findings, out)


def _bank(design: BoatDesign, arguments: argparse.Namespace, out: TextIO) -> None:
    from parhelion.stations.bank.picture import bank_picture
    from parhelion.stations.bank.sizing import SizingAsk

    ask = SizingAsk(hours=arguments.hours, speed_mps=arguments.speed, grey_days=arguments.grey_days)
    picture = bank_picture(design, ask)
    if arguments.json:
        _print_json(picture.model_dump(mode="json"), out)
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
    _print_findings(picture.findings, out)


def _helm(design: BoatDesign, arguments: argparse.Namespace, out: TextIO) -> None:
    from parhelion.balance.outlook import outlook_of
    from parhelion.stations.hull.helm import helm_card
    from parhelion.stations.hull.helm_pdf import helm_card_pdf

    card = helm_card(outlook_of(design), arguments.unit)
    if arguments.pdf is not None:
        arguments.pdf.write_bytes(helm_card_pdf(card, arguments.unit))
    if arguments.json:
        _print_json(card.model_dump(mode="json"), out)
        return
    out.write(f"{card.boat}: {told(card.assumes)}\n\n")
    for row in card.rows:
        bank = "" if row.bank_hours is None else shown(Quantity(quantity="duration_h", value=row.bank_hours))
        speed = shown(Quantity(quantity="speed_mps", value=row.speed_mps))
        out.write(f"{speed:>8s} {row.power_w:7.0f} W {bank}\n")


def _harvest(design: BoatDesign, arguments: argparse.Namespace, out: TextIO) -> None:
    from parhelion.stations.array.picture import array_advice, array_picture

    picture = array_picture(design)
    if arguments.json:
        told_json = {**picture.model_dump(mode="json"), **array_advice(design).model_dump(mode="json")}
        _print_json(told_json, out)
        return
    out.write(f"{picture.nameplate_w:.0f} W of nameplate, {picture.day_wh:.0f} Wh at the bank\n")
    for place in picture.places:
        shade = place.missing or f"{100 * place.lost_frac:.1f} % lost to shade"
        out.write(f"{place.name:22s} {place.nameplate_w:6.0f} W {place.day_wh:8.0f} Wh  {shade}\n")
    for panel in picture.panels:
        out.write(f"  {panel.group_id} {panel.number + 1:3d} {panel.day_wh:8.0f} Wh\n")
    advice = array_advice(design)
    names = {thing.id: thing.name for thing in picture.things}
    for cost in advice.costs:
        out.write(f"{names[cost.id]:22s} costs {cost.cost_wh:8.0f} Wh\n")
    for row in advice.states:
        out.write(f"{row.state.replace('_', ' '):22s} gives {row.day_wh:8.0f} Wh\n")
    _print_findings(advice.findings, out)


def _wiring(design: BoatDesign, arguments: argparse.Namespace, out: TextIO) -> None:
    from parhelion.stations.strings.picture import strings_picture

    picture = strings_picture(design)
    if arguments.json:
        _print_json(picture.model_dump(mode="json"), out)
        return
    for rung, line in zip(picture.rungs, picture.lines, strict=True):
        limit = f"limit {rung.limit_v:.0f}" if rung.limit_v is not None else "limit not known"
        needs = f", needs {rung.needs_v:.1f}" if rung.needs_v is not None else ""
        out.write(
            f"{rung.name:22s} {line.arrangement:24s} cold {rung.cold_v:6.1f} V ({limit})  noon "
            f"{rung.noon_v:6.1f}  hot {rung.hot_v:6.1f}{needs}\n"
        )
        wire = line.cable
        out.write(
            f"{'':22s} {wire.size_mm2:g} mm2 (AWG {wire.gauge}), {100 * wire.drop_frac:.1f} % over "
            f"{wire.length_m:g} m, breaker {line.breaker_a or 0:g} A\n"
        )
    _print_findings(picture.findings, out)


def _season(design: BoatDesign, arguments: argparse.Namespace, out: TextIO) -> None:
    from parhelion.stations.year.season import NAMES, season

    found = season(design)
    if arguments.json:
        _print_json(found.model_dump(mode="json"), out)
        return
    out.write(f"{told(found.climate)}\n\n")
    for month in found.months:
        far = "  ".join(
            f"{metres / M_PER_NAUTICAL_MILE:5.1f}" for metres in (month.poor_m, month.middle_m, month.good_m)
        )
        knots = month.speed_mps / MPS_PER_KNOT
        out.write(
            f"{NAMES[month.month - 1]:10s} {month.sun_h:4.1f} full-sun h  {knots:4.1f} kn  {far} nm  harvest "
            f"{month.harvest_wh:7.0f} Wh, thrown away {month.refused_wh:6.0f}\n"
        )
    out.write(f"\n{told(found.verdict)}\n")
    for line in (*found.turning, *found.cautions):
        out.write(f"- {told(line)}\n")


def _miles(metres: float) -> str:
    return f"{metres / M_PER_NAUTICAL_MILE:6.1f} nm"


def _pace(design: BoatDesign, arguments: argparse.Namespace, out: TextIO) -> None:
    from parhelion.balance.outlook import outlook_of
    from parhelion.rail.furthest import ways_of
    from parhelion.rail.speeds import solve_steady, steady_mps
    from parhelion.stations.day.worths import prices_of

    outlook = outlook_of(design)
    steady_m = steady_mps(outlook, solve_steady(outlook)) * outlook.hours * 3600
    ways, prices = ways_of(outlook), prices_of(outlook, steady_m)
    if arguments.json:
        both = {"ways": ways, "prices": prices}
        _print_json({k: None if v is None else v.model_dump(mode="json") for k, v in both.items()}, out)
        return
    for way in ways.ways if ways else []:
        out.write(f"{way.label:18s} {_miles(way.distance_m)}  bank at the end {100 * way.end_frac:3.0f} %\n")
    for step in prices.steps if prices else []:
        priced = "" if step.by_price_m is None else f"  by the prices {_miles(step.by_price_m)}"
        out.write(f"{told(step.label):34s} {_miles(step.gain_m)}{priced}\n")
    for line in [*(ways.told if ways else []), *(prices.told if prices else [])]:
        out.write(f"- {told(line)}\n")


def _ahead(design: BoatDesign, arguments: argparse.Namespace, out: TextIO) -> None:
    from parhelion.stations.year.ahead import days_ahead

    found = days_ahead(design)
    if arguments.json:
        _print_json(None if found is None else found.model_dump(mode="json"), out)
        return
    for day in found.days if found else []:
        sky = day.sky or "as it comes"
        out.write(
            f"{day.number:3d} {day.kind:5s} {sky:12s} bank {100 * day.charge_middle:3.0f} % "
            f"({100 * day.charge_low:3.0f} to {100 * day.charge_high:3.0f}) {_miles(day.metres_middle)}\n"
        )
    for line in found.told if found else []:
        out.write(f"- {told(line)}\n")


def _upgrades(design: BoatDesign, arguments: argparse.Namespace, out: TextIO) -> None:
    from parhelion.balance.outlook import outlook_of
    from parhelion.stations.year.upgrades import upgrade_ladder

    found = upgrade_ladder(outlook_of(design))
    if arguments.json:
        _print_json(found.model_dump(mode="json"), out)
        return
    out.write(f"{'now':34s} {_miles(found.start_m)}\n")
    for rung in found.rungs:
        out.write(
            f"{told(rung.label):34s} {_miles(rung.total_m)}  {rung.cost:6.0f} coins {rung.mass_kg:+5.0f} kg\n"
        )
    for line in found.told:
        out.write(f"- {told(line)}\n")


def _print_findings(findings: list[Finding], out: TextIO) -> None:
    out.write("\n")
    for finding in findings:
        mark = {"warn": "!", "note": "-", "good": "+"}[finding.level]
        out.write(f"{mark} {told(finding.title)}. {told(finding.detail)}\n")


def _speeds(text: str) -> list[float]:
    values = [float(part) for part in text.split(",")]
    if not values or any(not 0 <= value <= 40 for value in values):
        raise argparse.ArgumentTypeError("speeds in m/s from 0 to 40, with commas between")
    return values


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog="parhelion", description="How fast and how far on the sun alone.")
    commands = parser.add_subparsers(dest="command", required=True)
    ways = {
        "answers": _answers, "power": _power, "day": _day, "bank": _bank, "helm": _helm, "harvest": _harvest,
        "wiring": _wiring, "season": _season, "pace": _pace, "ahead": _ahead, "upgrades": _upgrades,
    }  # fmt: skip
    for name, run in ways.items():
        command = commands.add_parser(name)
        command.add_argument("file", type=Path, help="a boat design, JSON")
        command.add_argument("--json", action="store_true", help="print JSON in SI units")
        command.add_argument("--date", help="another day, e.g. 2027-06-13")
        command.add_argument("--sky", help=", ".join(Sky))
        command.set_defaults(run=run)
        if name == "answers":
            command.add_argument(
                "--at",
                type=Time.fromisoformat,
                help="the local clock that 'now' means; this minute if not given",
            )
        if name == "power":
            command.add_argument("--speeds", type=_speeds, help="m/s, with commas between")
        if name == "bank":
            command.add_argument("--hours", type=float, default=3.0, help="hours under way without sun")
            command.add_argument("--speed", type=float, help="m/s; the planned one if not given")
            command.add_argument("--grey-days", type=int, default=3, help="grey days at anchor")
        if name == "helm":
            command.add_argument("--unit", choices=("kn", "km/h", "mph"), default="kn")
            command.add_argument("--pdf", type=Path, help="write the card as a PDF")
    commands.add_parser("schema", help="print the JSON Schema of a boat design")
    return parser


def main(argv: list[str] | None = None, out: TextIO = sys.stdout, err: TextIO = sys.stderr) -> int:
    """Run the command line; returns the exit status: 0, or 2 where the input was refused."""
    arguments = _parser().parse_args(argv)
    if arguments.command == "schema":
        _print_json(json_schema(), out)
        return 0
    try:
        design = read_boat(arguments.file.read_bytes())
        arguments.run(_changed(design, arguments), arguments, out)
    except OSError as error:
        err.write(f"parhelion: {arguments.file}: {error.strerror}\n")
        return 2
    except ParhelionError as error:
        for problem in error.problems:
            accepted = f" Accepted: {problem.accepted}." if problem.accepted else ""
            err.write(f"parhelion: {problem.field or '/'}: {problem.message}{accepted}\n")
        return 2
    return 0


if __name__ == "__main__":
    sys.exit(main())
