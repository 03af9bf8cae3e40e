"""What the meters should say at a minute: every controller's inputs under the sky as somebody sees it."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime

from parhelion.computing.kept import kept_by_arguments
from parhelion.design import BoatDesign, Spot
from parhelion.design.records import HandShadow, Seen
from parhelion.diagnosis.expected import COLUMNS, Expected, expected, together
from parhelion.diagnosis.inputs import Input, lit_strings
from parhelion.sun.climate import usual_air_temperature_c
from parhelion.sun.daysteps import day_steps
from parhelion.sun.light import Light
from parhelion.sun.minute import evenly_drawn, index_draws, minute_light
from parhelion.wiring.by_itself import absorption_v
from parhelion.wiring.circuits import Circuit


@dataclass(frozen=True)
class Now:
    """The minute, and what is seen and felt in it."""

    at: datetime
    shadow: HandShadow = HandShadow.SHARP
    heading_deg: float = 0.0
    air_c: float | None = None  # usual for the place and day where nobody has said
    wiped: bool = True


def then_of(at: datetime, seen: Seen) -> Now:
    """The minute of a reading, as it was seen then."""
    return Now(at, seen.shadow, seen.heading_deg, seen.air_c, seen.wiped)


def usual_now(design: BoatDesign) -> Now:
    """The plan's day at solar noon, on its heading."""
    noon = day_steps(design.site, design.plan.date).solar_noon_at
    return Now(noon.replace(second=0, microsecond=0), heading_deg=design.plan.heading_deg or 0.0)


def air_at(design: BoatDesign, now: Now) -> float:
    """The air of the minute: as felt, or usual [C]."""
    if now.air_c is not None:
        return now.air_c
    given = design.plan.air_temperature_c
    return usual_air_temperature_c(design.site.latitude_deg, now.at.date()) if given is None else given


@kept_by_arguments(40)
def _light(spot: Spot, at: datetime, shadow: HandShadow) -> Light:
    return minute_light(spot, at, index_draws(shadow, evenly_drawn(COLUMNS)[:, 0]))


def light_of(design: BoatDesign, now: Now) -> Light:
    """The light of the minute: its middle, and as it may be."""
    return _light(design.site.spot, now.at, now.shadow)


def expected_of(design: BoatDesign, circuit: Circuit, now: Now, strings: int) -> Expected | None:
    """What so many strings of a circuit should show; None where their panels are put away."""
    light = light_of(design, now)
    lit = lit_strings(design, circuit, strings, light, (now.heading_deg,), air_at(design, now), now.wiped)
    if lit is None:
        return None
    bank_v = None if circuit.bank is None else circuit.bank.nominal_v
    effective, cell = lit.effective_w_per_m2[:, 0], lit.cell_c[:, 0]
    return expected(lit.wired, effective, cell, evenly_drawn(COLUMNS), bank_v)


def expected_in(design: BoatDesign, box: Input, now: Now) -> Expected | None:
    """What a controller should show; None where all of its panels are put away."""
    found = [expected_of(design, circuit, now, circuit.per_box) for circuit in box.circuits]
    here = [one for one in found if one is not None]
    return together(here) if here else None


def full_at_v(circuit: Circuit) -> float | None:
    """Volts at which its bank is being filled to the end."""
    return None if circuit.bank is None else absorption_v(circuit.bank)
