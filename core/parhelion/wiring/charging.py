"""What to set on whatever charges a bank, by its chemistry.

References
----------
[1] Usual settings of each chemistry; the bank maker's own numbers come first. Lead wants its volts lowered by
    some 4 mV a kelvin and cell over 25 C; only flooded cells are equalised.
"""

from __future__ import annotations

from dataclasses import dataclass

from parhelion.design import Bank
from parhelion.design.chemistries import CHEMICALS, Chemistry
from parhelion.wiring.by_itself import absorption_v
from parhelion.wiring.circuits import float_v

EQUALISE_V, COMPENSATION_V_PER_K = 2.58, -0.004  # a lead cell [1]
LITHIUM_ABSORPTION_H, LEAD_ABSORPTION_H = 0.5, 3.0
RESUME_LITHIUM_V, RESUME_LEAD_V = 0.15, 0.17  # over the cut-out, a cell, at rest


@dataclass(frozen=True)
class ChargeSettings:
    """Of one bank; volts are the bank's."""

    absorption_v: float
    absorption_h: float
    float_v: float
    equalise_v: float | None  # None: never
    compensation_v_per_k: float | None  # from 25 C; None: none
    no_charge_below_c: float
    no_charge_above_c: float
    cut_out_v: float  # loads come off
    resume_v: float  # and on again


def charge_settings(bank: Bank) -> ChargeSettings:
    """What to set for a bank [1].

    Parameters
    ----------
    bank : Bank
    """
    chemical, cells = CHEMICALS[bank.chemistry], bank.cells
    cut_out = bank.cuts_out_v
    lithium = chemical.lithium
    return ChargeSettings(
        absorption_v=absorption_v(bank),
        absorption_h=LITHIUM_ABSORPTION_H if lithium else LEAD_ABSORPTION_H,
        float_v=float_v(bank),
        equalise_v=cells * EQUALISE_V if bank.chemistry is Chemistry.FLOODED else None,
        compensation_v_per_k=None if lithium else cells * COMPENSATION_V_PER_K,
        no_charge_below_c=chemical.charge_c_from,
        no_charge_above_c=chemical.charge_c_to,
        cut_out_v=cut_out,
        resume_v=cut_out + cells * (RESUME_LITHIUM_V if lithium else RESUME_LEAD_V),
    )
