"""Batteries, what joins them, and the house that lives on them."""

from __future__ import annotations

from typing import Literal

from pydantic import Field, model_validator

from parhelion.design.chemistries import CHEMICALS, Chemistry
from parhelion.design.part import Clock, Id, Name, Part, Point, Share, out_of_reach


class Bank(Part):
    """A battery bank as it was bought: units in series and parallel.

    Depth, reserve, limits and volts left empty are the usual ones for the chemistry.
    """

    id: Id
    name: Name = "Bank"
    chemistry: Chemistry = Chemistry.LFP
    unit_v: float = Field(gt=1, le=1000, title="Nominal volts of one unit")
    unit_ah: float = Field(gt=0.5, le=20_000, title="Amp-hours of one unit")
    series: int = Field(default=1, ge=1, le=300, title="In series")
    parallel: int = Field(default=1, ge=1, le=200, title="In parallel")
    smallest_unit_ah: float | None = Field(default=None, gt=0, le=20_000, title="Smallest unit, if not alike")
    unit_mass_kg: float | None = Field(default=None, gt=0, le=5_000, title="Mass of one unit")
    claimed_wh: float | None = Field(default=None, gt=0, le=5e6, title="Watt-hours as sold")
    claimed_ah: float | None = Field(default=None, gt=0, le=1e5, title="Amp-hours as sold")
    usable_depth_frac: float | None = Field(default=None, gt=0.05, le=1, title="Usable depth")
    reserve_frac: Share | None = Field(default=None, title="Reserve, state of charge")
    coulomb_efficiency: float | None = Field(default=None, gt=0.5, le=1, title="Amp-hours out over in")
    resistance_ohm: float | None = Field(default=None, gt=0, le=10, title="Resistance of the whole bank")
    charge_limit_a: float | None = Field(default=None, gt=0, le=10_000, title="Most it may be charged with")
    discharge_limit_a: float | None = Field(default=None, gt=0, le=10_000, title="Most it may be drawn at")
    full_v: float | None = Field(default=None, gt=1, le=1_200, title="Maker's volts when full, at rest")
    empty_v: float | None = Field(default=None, gt=1, le=1_200, title="Maker's volts when empty, at rest")
    cut_out_v: float | None = Field(default=None, gt=1, le=1_200, title="Volts at which it cuts out")
    management: bool = Field(default=True, title="Has a management system (lithium)")
    fuse_distance_m: float | None = Field(
        default=None, ge=0, le=20, title="Main fuse, distance from the bank"
    )
    short_circuit_a: float | None = Field(
        default=None, gt=0, le=200_000, title="Short-circuit current as given"
    )
    age_years: float = Field(default=0, ge=0, le=40)
    cycles_used: float = Field(default=0, ge=0, le=50_000)
    health_frac: float | None = Field(default=None, gt=0.05, le=1.2, title="Capacity found by a test")
    temperature_c: float | None = Field(default=None, ge=-30, le=60)
    at: Point | None = Field(default=None, title="Where it sits")

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

    id: Id
    from_bank_id: Id
    to_bank_id: Id
    limit_w: float = Field(gt=0, le=100_000, title="Most it delivers")
    efficiency: float = Field(default=0.93, gt=0.5, le=1)
    carries: Literal["needs", "surplus"] = "needs"


class Load(Part):
    """A house load. Without `from_clock` its energy is spread evenly over the day."""

    id: Id
    name: Name
    power_w: float = Field(ge=0, le=50_000, title="Watts while on")
    hours_per_day: float = Field(ge=0, le=24, title="Hours a day")
    from_clock: Clock | None = Field(default=None, title="Switched on at")
    essential: bool = False
    bank_id: Id | None = Field(default=None, title="The bank it lives on; empty: the house's")
    inverter_efficiency: float | None = Field(
        default=None, gt=0.3, le=1, title="Through an inverter of this efficiency"
    )

    @property
    def drawn_w(self) -> float:
        """Watts it takes from the bank while on, the inverter's loss included [W]."""
        return self.power_w / (self.inverter_efficiency or 1)
