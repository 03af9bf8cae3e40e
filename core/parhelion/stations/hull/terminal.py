"""The Hull's words in the terminal."""

from __future__ import annotations

from argparse import ArgumentParser, ArgumentTypeError, Namespace
from pathlib import Path
from typing import TextIO, get_args

import numpy as np

from parhelion.balance.outlook import outlook_of
from parhelion.design import BoatDesign
from parhelion.design.hull import hull_speed_mps
from parhelion.formats.plain import print_json, shown, told
from parhelion.hull import formula
from parhelion.hull.demand import demand_curve
from parhelion.quantities import Quantity
from parhelion.stations.hull.helm import helm_card
from parhelion.stations.hull.helm_pdf import helm_card_pdf
from parhelion.units import MPS_PER_KNOT, SpeedUnit


def power(design: BoatDesign, arguments: Namespace, out: TextIO) -> None:
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
        print_json(document, out)
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


def _speeds(text: str) -> list[float]:
    values = [float(part) for part in text.split(",")]
    if not values or any(not 0 <= value <= 40 for value in values):
        raise ArgumentTypeError("speeds in m/s from 0 to 40, with commas between")
    return values


def power_arguments(command: ArgumentParser) -> None:
    command.add_argument("--speeds", type=_speeds, help="m/s, with commas between")


def helm(design: BoatDesign, arguments: Namespace, out: TextIO) -> None:
    card = helm_card(outlook_of(design), arguments.unit)
    if arguments.pdf is not None:
        arguments.pdf.write_bytes(helm_card_pdf(card, design.name, arguments.unit))
    if arguments.json:
        print_json(card, out)
        return
    out.write(f"{design.name}: {told(card.assumes)}\n\n")
    for row in card.rows:
        bank = "" if row.bank_hours is None else shown(Quantity(quantity="duration_h", value=row.bank_hours))
        speed = shown(Quantity(quantity="speed_mps", value=row.speed_mps))
        out.write(f"{speed:>8s} {row.power_w:7.0f} W {bank}\n")


def helm_arguments(command: ArgumentParser) -> None:
    command.add_argument("--unit", choices=get_args(SpeedUnit), default="kn")
    command.add_argument("--pdf", type=Path, help="write the card as a PDF")
