"""Which bank a thing belongs to, decided here alone."""

from __future__ import annotations

from parhelion.design.bank import Bank
from parhelion.design.boat import BoatDesign

MAIN, OWN = 0, 1  # columns of what comes to the banks: the one that drives the boat, and the house's own


def bank_column(design: BoatDesign, bank_id: str | None) -> int:
    """The column of a bank by its id; of the main one where nothing or another is named."""
    own = design.house_bank
    return OWN if own is not None and bank_id == own.id else MAIN


def bank_in(design: BoatDesign, column: int) -> Bank | None:
    """The bank of a column, if there is one."""
    return design.house_bank if column == OWN else design.bank
