"""Variants side by side: their answers, their year, their weight and cost, and how they differ in words."""

from __future__ import annotations

from parhelion.balance.outlook import outlook_of
from parhelion.computing.progress import Report, silent, within
from parhelion.design import BoatDesign
from parhelion.design.changes import Change, changes
from parhelion.market.parts import bank_price, controllers_price, motor_offer, panels_price
from parhelion.quantities import (
    Frozen,
    Quantity,
    Sentence,
    distance,
    energy,
    mass,
    money,
    power,
    sentence,
    speed,
    words,
)
from parhelion.rail.answers import answers_from
from parhelion.rail.models import Distance, Range
from parhelion.stations.year.season import MONTHS, SeasonMonth, season

MOST_SIDES = 4
SAME_FRAC = 0.01  # of a number: nearer than this two sides say the same


class ComparedLine(Frozen):
    """One answer of every side; None where a boat has none."""

    key: str
    label: str
    values: list[Quantity | None]
    better: int | None  # the side that is clearly ahead


class ComparedSide(Frozen):
    """One variant."""

    name: str
    months: list[SeasonMonth]
    year_m: float  # usual miles, every day of the year motored
    differences: list[Change]  # against the first side


class Comparison(Frozen):
    """Two to four variants."""

    sides: list[ComparedSide]
    lines: list[ComparedLine]
    told: list[Sentence]


def _price(design: BoatDesign) -> float:
    """What panels, controllers, banks and motors cost, by their own prices or usual ones [coins]."""
    panels = sum(panels_price(group) for group in design.fitted_panels)
    boxes = sum(controllers_price(controller) for controller in design.controllers)
    motors = sum(drive.count * motor_offer(drive).price for drive in design.drives)
    return panels + boxes + motors + sum(bank_price(bank) for bank in design.banks)


def _in_stream(designs: list[BoatDesign]) -> bool:
    """Whether a plan of theirs has a stream: their answers are then over the ground, a year's are not."""
    return any(design.plan.current_mps for design in designs)


def _ahead(values: list[Quantity | None], most: bool) -> int | None:
    """The side whose number is best by more than rounding."""
    numbers = [float(v.value) if v is not None and not isinstance(v.value, str) else None for v in values]
    known = sorted(((n, i) for i, n in enumerate(numbers) if n is not None), reverse=most)
    if len(known) < 2 or abs(known[0][0] - known[1][0]) <= SAME_FRAC * max(abs(known[0][0]), 1e-9):
        return None
    return known[0][1]


def _line(key: str, label: str, values: list[Quantity | None], most: bool | None) -> ComparedLine:
    return ComparedLine(
        key=key, label=label, values=values, better=None if most is None else _ahead(values, most)
    )


def compare(named: list[tuple[str, BoatDesign]], report: Report = silent) -> Comparison:
    """Variants side by side.

    Parameters
    ----------
    named : list of (str, BoatDesign)
        Two to four, the first the one the others are told against.
    report : Report

    Raises
    ------
    ValueError
        Where there are fewer or more.
    """
    if not 2 <= len(named) <= MOST_SIDES:
        raise ValueError(f"{len(named)} variants: two to {MOST_SIDES} can be compared")
    designs = [design for _, design in named]
    found = [answers_from(outlook_of(design)) for design in designs]
    over, through = (", over ground", ", through the water") if _in_stream(designs) else ("", "")
    years = [
        season(design, report=within(report, k / len(designs), (k + 1) / len(designs)))
        for k, design in enumerate(designs)
    ]
    sides = [
        ComparedSide(
            name=name,
            months=year.months,
            year_m=sum(m.middle_m for m in year.months) * 365.25 / 12,
            differences=[c for c in changes(designs[0], design) if c.field not in ("/name", "/note")],
        )
        for (name, design), year in zip(named, years, strict=True)
    ]
    worst = [min(year.months, key=lambda m: m.middle_m) for year in years]

    def distances(values: list[float | None]) -> list[Quantity | None]:
        return [None if v is None else distance(v) for v in values]

    def gone(answers: list[Distance] | list[Range]) -> list[Quantity | None]:
        return distances([a.distance_m if a.ground_m is None else a.ground_m for a in answers])

    steady = [a.sun_only_steady for a in found]
    speeds = [s.speed_mps if s.ground_mps is None else s.ground_mps for s in steady]
    lines = [
        _line("steady", f"Sun-only speed{over}", [None if v is None else speed(v) for v in speeds], True),
        _line("run", f"Day's run on sun{over}", gone([a.days_run_sun for a in found]), True),
        _line("bank", f"With the bank{over}", gone([a.days_run_bank for a in found]), True),
        _line("range", f"Range at the plan's speed{over}", gone([a.range_at_speed for a in found]), True),
        _line("year", f"A usual day, mean of the year{through}",
              distances([side.year_m / 365.25 for side in sides]), True),
        _line("worst", f"A usual day in the worst month{through}",
              distances([m.middle_m for m in worst]), True),
        _line("nameplate", "Panels", [power(d.nameplate_w) for d in designs], None),
        _line("stored", "Bank", [energy(sum(b.nominal_wh for b in d.banks)) for d in designs], None),
        _line("mass", "All aboard", [mass(d.displacement_kg) for d in designs], False),
        _line("price", "Panels, controllers, bank, motors", [money(_price(d)) for d in designs], False),
    ]  # fmt: skip
    return Comparison(sides=sides, lines=lines, told=_told(designs, sides))


def _told(designs: list[BoatDesign], sides: list[ComparedSide]) -> list[Sentence]:
    first = sides[0]
    told = []
    for design, side in zip(designs[1:], sides[1:], strict=True):
        gain = side.year_m - first.year_m
        if abs(gain) <= SAME_FRAC * max(first.year_m, 1.0):
            told.append(sentence("“{name}” goes as far as “{first}” over the year.", name=words(side.name),
                                 first=words(first.name)))  # fmt: skip
            continue
        paid = _price(design) - _price(designs[0])
        apart = [abs(a.middle_m - b.middle_m) for a, b in zip(side.months, first.months, strict=True)]
        best = apart.index(max(apart))
        told.append(
            sentence(
                "“{name}” goes {gain} a usual day against “{first}”, most in {month}, for {paid}.",
                name=words(side.name), first=words(first.name), gain=distance(gain / 365.25, signed=True),
                month=words(MONTHS[best]), paid=Quantity(quantity="money", value=paid, signed=True),
            )
        )  # fmt: skip
    return told
