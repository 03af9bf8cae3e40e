"""Where every watt-hour of the day went: a ledger that adds up."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from parhelion.array.harvest import Harvest
from parhelion.constants import STEP_H
from parhelion.day.flow import CHARGED, CONVERTED, COULOMB, CURTAILED, DISCHARGED, HEAT, HOUSE, MOTOR, REFUSED
from parhelion.quantities import Frozen

IN_TERMS = ("array_wh", "discharged_wh")


class Ledger(Frozen):
    """One day's energy [Wh], every term zero or more; array + discharged = all the others."""

    array_wh: float
    discharged_wh: float
    conversion_wh: float
    clipped_wh: float
    refused_wh: float
    curtailed_wh: float
    house_wh: float
    motor_wh: float
    charged_wh: float
    coulomb_wh: float
    heat_wh: float
    converted_wh: float  # lost in converters between the banks

    @property
    def shares(self) -> dict[str, float]:
        """Each entry over all that came in [-]; all zero where nothing did."""
        terms = self.model_dump()
        came = sum(terms[name] for name in IN_TERMS)
        return {name: value / came if came > 0 else 0.0 for name, value in terms.items()}

    @property
    def residual_wh(self) -> float:
        """What does not add up [Wh]; zero to rounding."""
        terms = self.model_dump()
        came = sum(terms.pop(name) for name in IN_TERMS)
        return float(came - sum(terms.values()))


def ledger_of(harvest: Harvest, record: NDArray[np.float64], member: int) -> Ledger:
    """The ledger of one member's day.

    Parameters
    ----------
    harvest : Harvest
    record : ndarray, shape (n, 144, 12)
        As of `parhelion.day.flow.run_days`.
    member : int
    """
    rows = record[member].sum(axis=0) * STEP_H

    def total(watts: NDArray[np.float64]) -> float:
        return float(watts[member].sum() * STEP_H)

    return Ledger(
        array_wh=total(harvest.array_w),
        discharged_wh=float(rows[DISCHARGED]),
        conversion_wh=total(harvest.conversion_w),
        clipped_wh=total(harvest.clipped_w),
        refused_wh=float(rows[REFUSED]),
        curtailed_wh=float(rows[CURTAILED]),
        house_wh=float(rows[HOUSE]),
        motor_wh=float(rows[MOTOR]),
        charged_wh=float(rows[CHARGED]),
        coulomb_wh=float(rows[COULOMB]),
        heat_wh=float(rows[HEAT]),
        converted_wh=float(rows[CONVERTED]),
    )
