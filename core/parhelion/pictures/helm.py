"""The helm card of a design, with the sun-only speeds on it."""

from __future__ import annotations

from parhelion.answers.helm import HelmCard, SpeedUnit, helm_card
from parhelion.answers.speeds import live_speed, solve_steady, steady_speed
from parhelion.day.outlook import outlook_of
from parhelion.design import BoatDesign


def helm_picture(design: BoatDesign, unit: SpeedUnit = "kn") -> HelmCard:
    """The card, its rows at round speeds of a unit."""
    outlook = outlook_of(design)
    steady = steady_speed(outlook, solve_steady(outlook)).speed_mps
    noon = live_speed(outlook, outlook.day.noon_step, outlook.day.solar_noon_at).speed_mps
    return helm_card(outlook, unit, steady, noon)
