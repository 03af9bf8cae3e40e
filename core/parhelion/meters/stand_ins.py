"""What the devices of a played boat say in a second: controllers, shunt, motor, log, receiver, wind.

Each may be noisy, read too much, read beside zero, lag, drop out or send nonsense, by the seed that is given.
"""

from __future__ import annotations

import json
from dataclasses import dataclass
from datetime import datetime
from typing import NamedTuple

import numpy as np

from parhelion.meters.played import TrueDay
from parhelion.units import MPS_PER

KNOT = MPS_PER["kn"]


@dataclass(frozen=True)
class Ways:
    """How the devices misbehave."""

    noise: float = 0.005
    gain: float = 1.0  # of the shunt
    offset_a: float = 0.0
    lag_s: float = 0.0  # of the controllers
    drops: float = 0.0  # share of lines that are lost
    nonsense: float = 0.0  # share of lines that are no line


class Lines(NamedTuple):
    """The lines of a second, by how they are sent."""

    plain: list[str]  # JSON
    sentences: list[str]  # NMEA 0183
    delta: str


def sentence(body: str) -> str:
    """A sentence with its sum."""
    total = 0
    for letter in body:
        total ^= ord(letter)
    return f"${body}*{total:02X}"


def lines_at(day: TrueDay, minute: float, at: datetime, ways: Ways, seed: int) -> Lines:
    """What all devices say at a moment of the day.

    Parameters
    ----------
    day : TrueDay
    minute : float
        Of the day that is played.
    at : datetime
        The moment that the receiver tells.
    ways : Ways
    seed : int
        Of this second's noise.
    """
    draw = np.random.default_rng(seed)
    now = int(minute) % len(day.soc)
    late = max(int(minute - ways.lag_s / 60), 0) % len(day.soc)
    row = min(now // 10, len(day.log.bank_v) - 1)

    def noisy(value: float) -> float:
        return float(value * (1 + ways.noise * draw.standard_normal()))

    volts = float(np.nan_to_num(day.log.bank_v[row], nan=0.0))
    plain: list[dict[str, object]] = [
        {"of": key, "pv_w": round(noisy(float(watts[late])), 1)} for key, watts in day.boxes_w.items()
    ]
    net = 0.96 * float(day.harvest_w[now]) - float(day.motor_w[now]) - float(day.house_w[now])
    amps = ways.gain * (net / max(volts, 1.0)) + ways.offset_a
    plain.append(
        {
            "bank_v": round(noisy(volts), 2),
            "bank_a": round(noisy(amps), 2),
            "charge_frac": round(float(day.soc[now]), 3),
        }
    )
    plain.append({"motor_w": round(noisy(float(day.motor_w[now])), 1)})
    knots = noisy(float(day.way_mps[now])) / KNOT
    clock, date = f"{at:%H%M%S}", f"{at:%d%m%y}"
    sentences = [
        sentence(f"GPRMC,{clock},A,6124.00,N,01412.00,E,{knots:.2f},90.0,{date},,"),
        sentence(f"VWVHW,,T,,M,{knots:.2f},N,{knots * 1.852:.2f},K"),
        sentence(f"WIMWD,200.0,T,,M,{noisy(6.0):.1f},N,{noisy(3.1):.1f},M"),
    ]
    values = [
        {"path": f"electrical.solar.{key}.panelPower", "value": float(w[late])}
        for key, w in day.boxes_w.items()
    ]
    values += [
        {"path": "electrical.batteries.bank.voltage", "value": volts},
        {"path": "electrical.batteries.bank.current", "value": round(amps, 2)},
        {"path": "navigation.speedThroughWater", "value": round(knots * KNOT, 3)},
    ]
    delta = json.dumps({"updates": [{"timestamp": at.isoformat(), "values": values}]})
    sent = [json.dumps(one) for one in plain]
    return Lines(_sent(sent, ways, draw), _sent(sentences, ways, draw), delta)


def _sent(lines: list[str], ways: Ways, draw: np.random.Generator) -> list[str]:
    """Lines as they come: some lost, some cut."""
    found = []
    for line in lines:
        if draw.random() < ways.drops:
            continue
        found.append(line[: len(line) // 2] if draw.random() < ways.nonsense else line)
    return found
