"""What people know of their boat before they know any of her numbers; everything may be left out."""

from __future__ import annotations

from datetime import date as Date

from pydantic import model_validator

from parhelion.design import Chemistry, PlaceKind, Site, Water
from parhelion.design.hulltypes import HullType
from parhelion.design.part import Choice, Name, Part, entry, out_of_reach


class OutFor(Choice):
    """How the boat is used."""

    DAY = "day", "days out"
    CRUISE = "cruise", "weekends and cruises"
    SAIL = "sail", "sails, with a motor"
    RACE = "race", "races on live sun, no bank"
    HOME = "home", "charged at home, sun helps"


class Bought(Choice):
    """What is there of a bank, or of panels."""

    USUAL = "usual", "something usual"
    OWN = "own", "this one"
    NONE = "none", "none"


class Known(Part):
    """A boat in her owner's words."""

    hull_type: HullType = entry("What kind of boat", default=HullType.LAUNCH)
    name: Name = entry("Name", default="New boat")
    outing: OutFor = entry("Used for", default=OutFor.DAY)
    site: Site = entry("Where")
    water: Water | None = entry("Water", default=None, empty="as at the place")
    date: Date = entry("When")
    overall_m: float | None = entry("Length overall", default=None, gt=1, le=60, step=0.1)
    waterline_m: float | None = entry("or at the waterline", default=None, gt=1, le=60, step=0.1)
    beam_m: float | None = entry("Beam", "Widest, over all hulls", default=None, gt=0.2, le=20, step=0.1)
    weighs_kg: float | None = entry("All-up weight", "With everyone aboard", default=None, gt=20, le=200_000)
    people: int | None = entry("People aboard", default=None, ge=1, le=100)
    motors: int = entry("Motors alike", default=1, ge=1, le=4)
    motor_w: float | None = entry("Motor, watts", "Each, on its label", default=None, gt=0, le=500_000)
    thrust_n: float | None = entry("or thrust", "As trolling motors are sold", default=None, gt=1, le=5_000)
    motor_a: float | None = entry("Amps at full", default=None, gt=0, le=1_000)
    bank: Bought = entry("Battery", default=Bought.USUAL)
    bank_v: float | None = entry("Volts", "Of the whole bank", default=None, gt=1, le=1_000)
    bank_ah: float | None = entry("Amp-hours", "At those volts", default=None, gt=0.5, le=20_000)
    chemistry: Chemistry = entry("Chemistry", default=Chemistry.LFP)
    panels: Bought = entry("Panels", default=Bought.USUAL)
    panel_count: int | None = entry("How many", default=None, ge=1, le=400)
    panel_w: float | None = entry("Watts each", default=None, gt=0, le=5_000)
    panel_place: PlaceKind | None = entry("Where on board", default=None, empty="usual for her")

    @model_validator(mode="after")
    def _sized(self) -> Known:
        if self.overall_m and self.waterline_m and self.waterline_m > self.overall_m:
            raise out_of_reach(
                "A waterline is no longer than the boat.", "waterline_m", f"{self.overall_m:g} m or less"
            )
        return self
