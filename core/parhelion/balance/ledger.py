"""Where every watt-hour of the day went: a ledger that adds up."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from parhelion.balance.flow import (
    CHARGED,
    CONVERTED,
    COULOMB,
    CURTAILED,
    DISCHARGED,
    GENERATOR,
    HEAT,
    HOUSE,
    MOTOR,
    REFUSED,
    SHORE,
)
from parhelion.balance.outlook import Outlook
from parhelion.balance.sources import FREE, free_w
from parhelion.design import SourceKind
from parhelion.quantities import Frozen

IN_TERMS = ("array_wh", "wind_wh", "hydro_wh", "pedals_wh", "shore_wh", "generator_wh", "discharged_wh")


class Ledger(Frozen):
    """One day's energy [Wh], every term zero or more; what came = all the others."""

    array_wh: float
    wind_wh: float
    hydro_wh: float
    pedals_wh: float
    shore_wh: float
    generator_wh: float
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
    def sun_share(self) -> float | None:
        """The sun's share of what came from outside the bank [-]; None where nothing did."""
        came = (
            self.array_wh + self.wind_wh + self.hydro_wh + self.pedals_wh + self.shore_wh + self.generator_wh
        )
        return self.array_wh / came if came > 0 else None

    @property
    def residual_wh(self) -> float:
        """What does not add up [Wh]; zero to rounding."""
        terms = self.model_dump()
        came = sum(terms.pop(name) for name in IN_TERMS)
        return float(came - sum(terms.values()))


def others_w(outlook: Outlook, record: NDArray[np.float64]) -> dict[SourceKind, NDArray[np.float64]]:
    """What every kind of other source sent the banks on one day, by kind, shape (144,) [W].

    Parameters
    ----------
    outlook : Outlook
    record : ndarray, shape (144, 14)
        Of that day.
    """
    made = {kind: np.zeros(len(record)) for kind in SourceKind}
    for source in outlook.design.sources:
        if source.kind in FREE:
            made[source.kind] += free_w(outlook.timeline, outlook.design, source)
    made[SourceKind.SHORE], made[SourceKind.GENERATOR] = record[:, SHORE], record[:, GENERATOR]
    return made


def ledger_of(outlook: Outlook, record: NDArray[np.float64], member: int) -> Ledger:
    """The ledger of one member's day under the plan.

    Parameters
    ----------
    outlook : Outlook
    record : ndarray, shape (n, 144, 14)
        As of `Outlook.plan_record`.
    member : int
    """
    rows = outlook.timeline.over(record[member].T)
    harvest = outlook.harvest
    others = {
        f"{kind.value}_wh": outlook.wh(watts) for kind, watts in others_w(outlook, record[member]).items()
    }

    def total(watts: NDArray[np.float64]) -> float:
        return outlook.wh(watts[member])

    return Ledger(
        array_wh=total(harvest.array_w),
        **others,
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
