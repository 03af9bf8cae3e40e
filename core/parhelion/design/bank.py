"""Batteries, what joins them, and the house that lives on them."""

from __future__ import annotations

from typing import Literal

from pydantic import model_validator

from parhelion.design.chemistries import CHEMICALS, Chemistry
from parhelion.design.part import Choice, Clock, Id, Name, Part, Point, Share, begins, entry, out_of_reach


class Berth(Choice):
    """Where a bank stands, which decides how warm it is."""

    BELOW = "below", "below decks"  # by the water around the hull
    DECK = "deck", "on deck, in a box"  # in the air
    HEATED = "heated", "kept warm"  # by a heater of its own


class Bank(Part):
    """A battery bank as it was bought: units in series and parallel.

    Depth, reserve, limits and volts left empty are the usual ones for the chemistry.
    """

    model_config = begins(unit_v=12.8, unit_ah=100)

    id: Id
    name: Name = entry("Called", default="Bank")
    chemistry: Chemistry = entry("Chemistry", default=Chemistry.LFP)
    unit_v: float = entry(
        "Volts of one unit", "On the label of one battery or cell: nominal volts", gt=1, le=1000, step=0.4
    )
    unit_ah: float = entry(
        "Amp-hours of one", "At those volts; for lead over twenty hours", gt=0.5, le=20_000
    )
    series: int = entry("In series", "Series adds volts, never amp-hours", default=1, ge=1, le=300)
    parallel: int = entry("In parallel", "Parallel adds amp-hours, never volts", default=1, ge=1, le=200)
    smallest_unit_ah: float | None = entry(
        "Smallest, if not alike", "Amp-hours of the smallest unit", default=None, gt=0, le=20_000
    )
    unit_mass_kg: float | None = entry("Mass of one unit", default=None, gt=0, le=5_000)
    unit_price: float | None = entry(
        "Price of one unit", "Empty: usual for its chemistry", default=None, ge=0, le=1_000_000,
        quantity="money", step=10,
    )  # fmt: skip
    claimed_wh: float | None = entry("Sold as, watt-hours", default=None, gt=0, le=5e6)
    claimed_ah: float | None = entry(
        "Sold as, amp-hours",
        "What the seller, or your own sum, says of the whole bank",
        default=None,
        gt=0,
        le=1e5,
    )
    usable_depth_frac: float | None = entry(
        "Usable depth", "How much of it may be drawn; empty means usual", default=None, gt=0.05, le=1, step=5
    )
    reserve_frac: Share | None = entry(
        "Reserve", "State of charge kept back; empty means usual for the chemistry", default=None, step=5
    )
    coulomb_efficiency: float | None = entry(
        "Charge efficiency", "Amp-hours out over amp-hours in", default=None, gt=0.5, le=1
    )
    resistance_ohm: float | None = entry(
        "Resistance", "Of the whole bank", default=None, gt=0, le=10, unit="Ω", step=0.001
    )
    charge_limit_a: float | None = entry(
        "Charge limit", "Above it the panels are refused", default=None, gt=0, le=10_000, step=5
    )
    discharge_limit_a: float | None = entry(
        "Discharge limit", "Lasting; given, it holds the motor back", default=None, gt=0, le=10_000, step=5
    )
    full_v: float | None = entry(
        "Full, at rest", "The maker's volts, for the whole bank", default=None, gt=1, le=1_200
    )
    empty_v: float | None = entry(
        "Empty, at rest", "The maker's volts, for the whole bank", default=None, gt=1, le=1_200
    )
    cut_out_v: float | None = entry("Cuts out at", default=None, gt=1, le=1_200)
    management: bool = entry("Management system", default=True)
    fuse_distance_m: float | None = entry("Main fuse, from it", "Along the cable", default=None, ge=0, le=20)
    short_circuit_a: float | None = entry(
        "Short circuit",
        "As the maker gives it; empty means volts over resistance",
        default=None,
        gt=0,
        le=200_000,
        step=100,
    )
    age_years: float = entry("Age", default=0, ge=0, le=40, unit="y")
    cycles_used: float = entry("Cycles used", default=0, ge=0, le=50_000, quantity="count", step=50)
    health_frac: float | None = entry(
        "Found by a test", "Capacity left over capacity when new", default=None, gt=0.05, le=1.2
    )
    berth: Berth = entry("It stands", default=Berth.BELOW)
    temperature_c: float | None = entry(
        "How warm it is",
        "Empty: as the water about the hull, or the air on deck",
        default=None,
        ge=-30,
        le=60,
    )
    at: Point | None = entry("Where it sits", default=None, examples=[{"x_m": 0, "y_m": 0, "z_m": 0}])

    @property
    def nominal_v(self) -> float:
        """Volts of the whole bank: units in series add theirs [V]."""
        return self.unit_v * self.series

    @property
    def capacity_ah(self) -> float:
        """Amp-hours of the whole bank when new: only units in parallel add theirs [Ah]."""
        weakest = self.unit_ah if self.smallest_unit_ah is None else min(self.smallest_unit_ah, self.unit_ah)
        if self.series == 1 and self.smallest_unit_ah is not None:
            return self.unit_ah * (self.parallel - 1) + weakest
        return weakest * self.parallel

    @property
    def cuts_out_v(self) -> float:
        """Volts at which it cuts out, given or usual for its chemistry [V]."""
        return self.cut_out_v or CHEMICALS[self.chemistry].cut_out_v * self.cells

    @property
    def nominal_wh(self) -> float:
        return self.nominal_v * self.capacity_ah

    @property
    def units(self) -> int:
        return self.series * self.parallel

    @property
    def cells(self) -> int:
        """Cells in series."""
        return max(round(self.nominal_v / CHEMICALS[self.chemistry].cell_v), 1)

    @property
    def depth(self) -> float:
        """Usable depth, given or usual for the chemistry [-]."""
        return self.usable_depth_frac or CHEMICALS[self.chemistry].usable_depth

    @property
    def mass(self) -> float:
        """Mass of all units, given or estimated from the energy [kg]."""
        if self.unit_mass_kg is not None:
            return self.unit_mass_kg * self.units
        return self.unit_v * self.unit_ah * self.units / CHEMICALS[self.chemistry].wh_per_kg

    @model_validator(mode="after")
    def _joined(self) -> Bank:
        if self.nominal_v > 1000:
            raise out_of_reach(
                "{n} in series reach {v} V.", "series", f"{int(1000 // self.unit_v)} or fewer of these",
                n=self.series, v=f"{self.nominal_v:.0f}",
            )  # fmt: skip
        if self.full_v is not None and self.empty_v is not None and self.empty_v >= self.full_v:
            raise out_of_reach(
                "An empty bank cannot stand higher than a full one.",
                "empty_v",
                f"less than {self.full_v:g} V",
            )
        return self


class Link(Part):
    """A DC-DC converter from one bank to another.

    `needs`: what the receiving bank's loads lack, as far as the giving bank is above its reserve, and sun
    that the giving bank refuses. `surplus`: only the latter.
    """

    model_config = begins(limit_w=360)

    id: Id
    from_bank_id: Id = entry("From", of="banks")
    to_bank_id: Id = entry("To", of="banks")
    limit_w: float = entry("Most it delivers", gt=0, le=100_000, step=20)
    efficiency: float = entry("Its efficiency", default=0.93, gt=0.5, le=1)
    carries: Literal["needs", "surplus"] = entry(
        "Carries", default="needs", labels={"needs": "what the other lacks", "surplus": "only spare sun"}
    )


class Load(Part):
    """A house load. Without `from_clock` its energy is spread evenly over the day."""

    model_config = begins(name="Load", power_w=20, hours_per_day=4)

    id: Id
    name: Name = entry("Name")
    power_w: float = entry("Watts", "While on", ge=0, le=50_000, step=1)
    hours_per_day: float = entry("Hours a day", ge=0, le=24)
    from_clock: Clock | None = entry("Switched on at", "Empty is spread over the day", default=None)
    essential: bool = entry("Essential", "Kept on when the reserve is reached", default=False)
    bank_id: Id | None = entry("Bank", "The one it lives on", default=None, of="banks", empty="the house's")
    inverter_efficiency: float | None = entry(
        "Inverter's efficiency", "Empty means no inverter", default=None, examples=[0.88], gt=0.3, le=1
    )

    @property
    def drawn_w(self) -> float:
        """Watts it takes from the bank while on, the inverter's loss included [W]."""
        return self.power_w / (self.inverter_efficiency or 1)
