"""A reading as somebody says it: "13.2 V 8 A", "270 w", "55 %", "3.4 kn hazy, lunch"."""

from __future__ import annotations

import re

from parhelion.design import Sky
from parhelion.quantities import Frozen
from parhelion.units import MPS_PER

NUMBER = r"(?<!\d)(?<!\d[.,])[-+]?\d{1,9}(?:[.,]\d{1,9})?"  # short: digits without end are no reading
SAID = re.compile(rf"({NUMBER})\s*(kwh|wh|kw|mv|kn|kts?|knots?|km/h|kmh|mph|m/s|ah|w|v|a|%)(?![a-z])", re.I)
WHERE = {  # words before a number that say what it is of
    "pv": "pv", "panel": "pv", "panels": "pv", "solar": "pv", "sun": "pv", "in": "pv",
    "bank": "bank", "battery": "bank", "batt": "bank",
    "motor": "motor", "out": "motor", "house": "house", "load": "house", "loads": "house",
}  # fmt: skip
SPEEDS = {"kn": "kn", "kt": "kn", "kts": "kn", "knot": "kn", "knots": "kn", "km/h": "km/h", "kmh": "km/h",
          "mph": "mph", "m/s": "m/s"}  # fmt: skip
SKIES = {**{word.value: word for word in Sky}, "cloudy": Sky.OVERCAST, "grey": Sky.OVERCAST, "fog": Sky.RAIN,
         "sunny": Sky.CLEAR, "haze": Sky.HAZY}  # fmt: skip
NEAR_BANK = (0.75, 1.25)  # of its nominal volts: volts of nothing named are the bank's
NAMES = {
    ("pv", "w"): "pv_w", ("pv", "v"): "pv_v", ("pv", "a"): "pv_a", ("bank", "v"): "bank_v",
    ("bank", "a"): "bank_a", ("motor", "w"): "motor_w", ("house", "w"): "house_w",
}  # fmt: skip


class SaidReading(Frozen):
    """What was understood, by the entries of a reading; what was not stays a word."""

    values: dict[str, float]
    sky: Sky | None
    note: str


def _mps(unit: str) -> float:
    return 1.0 if unit == "m/s" else float(MPS_PER[unit])  # type: ignore[index]


def said_reading(text: str, bank_nominal_v: float | None) -> SaidReading:
    """A reading from words.

    Parameters
    ----------
    text : str
    bank_nominal_v : float or None
        Volts near these are the bank's, others the panels'.
    """
    values: dict[str, float] = {}
    rest, last, volts_of = [], 0, None
    for found in SAID.finditer(text):
        before = text[last : found.start()]
        rest.append(before)
        last = found.end()
        number, unit = float(found[1].replace(",", ".")), found[2].lower()
        words = re.findall(r"[a-z]+", before.lower())
        named = next((WHERE[word] for word in reversed(words) if word in WHERE), None)
        if unit == "%":
            values["charge_frac"] = number / 100
            continue
        if unit in SPEEDS:
            values["speed_mps"] = number * _mps(SPEEDS[unit])
            continue
        if unit in ("kw", "mv"):
            number, unit = (number * 1000, "w") if unit == "kw" else (number / 1000, "v")
        if unit not in ("w", "v", "a"):
            rest.append(found[0])
            continue
        if named is None and unit == "v" and bank_nominal_v is not None:
            low, high = (share * bank_nominal_v for share in NEAR_BANK)
            named = "bank" if low <= number <= high else "pv"
        if named is None and unit == "a":
            named = volts_of or "bank"
        if unit == "v":
            volts_of = named
        name = NAMES.get((named or "pv", unit))
        if name is None:
            rest.append(found[0])
        else:
            values[name] = number
    rest.append(text[last:])
    note = re.sub(r"\s+", " ", " ".join(rest)).strip(" ,;")
    sky = next((SKIES[word] for word in re.findall(r"[a-z]+", note.lower()) if word in SKIES), None)
    words = [word for word in note.split() if word.lower().strip(",.;") not in {*WHERE, *SKIES}]
    return SaidReading(values=values, sky=sky, note=" ".join(words).strip(" ,;"))
