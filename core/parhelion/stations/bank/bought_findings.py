"""Findings about a bank as it was bought: sums people get wrong, units that differ, odd volts."""

from __future__ import annotations

from parhelion.design.chemistries import CHEMICALS
from parhelion.finding import Finding
from parhelion.quantities import capacity, energy, sentence, volts, words
from parhelion.stations.bank.view import BankView, bank_why

SAME = 0.06  # a claim this near a sum is that sum
CLAIM_OFF = 0.05
CELL_OFF = 0.12  # of a cell's volts


def claims_disagree(view: BankView) -> Finding | None:
    """What was claimed against what the units add up to."""
    bank = view.outlook.design.bank
    if bank is None or (bank.claimed_wh is None and bank.claimed_ah is None):
        return None
    truth = sentence(
        "{n} of {v} and {a} make {bv}, {ba}, {wh}: series adds volts, parallel adds amp-hours.",
        n=words(f"{bank.series} in series × {bank.parallel} in parallel"), v=volts(bank.unit_v),
        a=capacity(bank.unit_ah), bv=volts(bank.nominal_v), ba=capacity(bank.capacity_ah),
        wh=energy(bank.nominal_wh),
    )  # fmt: skip
    why = bank_why(view, "Units in series add volts, units in parallel add amp-hours")
    ah, wh = bank.claimed_ah, bank.claimed_wh
    if ah is not None and abs(ah / bank.capacity_ah - 1) > CLAIM_OFF:
        series = abs(ah / (bank.capacity_ah * bank.series) - 1) < SAME and bank.series > 1
        title = (
            sentence("{a} adds the amp-hours up in series", a=capacity(ah))
            if series
            else sentence("{a} is not what the units make", a=capacity(ah))
        )
        return Finding(id="claims_disagree", level="warn", title=title, detail=truth, why=why,
                       field="/banks/0/claimed_ah")  # fmt: skip
    if wh is not None and abs(wh / bank.nominal_wh - 1) > CLAIM_OFF:
        title = sentence("{w} is not what the units make", w=energy(wh))
        if abs(wh / (bank.nominal_wh * bank.depth) - 1) < SAME:
            title = sentence("{w} is what is usable, not what it holds", w=energy(wh))
        elif bank.series > 1 and abs(wh / (bank.nominal_wh * bank.series) - 1) < SAME:
            title = sentence("{w} counts the series twice", w=energy(wh))
        return Finding(id="claims_disagree", level="warn", title=title, detail=truth, why=why,
                       field="/banks/0/claimed_wh")  # fmt: skip
    return None


def mixed_units(view: BankView) -> Finding | None:
    """Units that are not alike."""
    bank = view.outlook.design.bank
    if bank is None or bank.smallest_unit_ah is None or bank.smallest_unit_ah >= bank.unit_ah:
        return None
    lost = bank.nominal_v * bank.unit_ah * bank.parallel - bank.nominal_wh
    in_series = bank.series > 1
    return Finding(
        id="mixed_units",
        level="warn",
        title=sentence("A series of mixed batteries") if in_series else sentence("Batteries that differ"),
        detail=sentence(
            "The smallest sets all it stands in series with: {lost} of the labels is lost, and it is the one "
            "that is overcharged and drawn flat. Units of one kind, size and age."
            if in_series
            else "In parallel they add up, but the older one takes the charge of the newer: {lost} less than "
            "the larger would make. Never join them at unequal volts.",
            lost=energy(lost),
        ),
        why=bank_why(view, "A series carries one current: its weakest unit ends it"),
        field="/banks/0/smallest_unit_ah",
        caution=in_series,
    )  # fmt: skip


def odd_cells(view: BankView) -> Finding | None:
    """Volts that no whole number of cells makes."""
    bank = view.outlook.design.bank
    if bank is None:
        return None
    typical = CHEMICALS[bank.chemistry]
    off = abs(bank.nominal_v - bank.cells * typical.cell_v) / typical.cell_v
    if off <= CELL_OFF * max(bank.cells, 1) ** 0.5 and off < 0.5:
        return None
    return Finding(
        id="odd_cells",
        level="warn",
        title=sentence(
            "No whole number of {c} cells makes {v}", c=words(bank.chemistry.label), v=volts(bank.nominal_v)
        ),
        detail=sentence(
            "{n} cells of {cell} make {near}. Check the volts on the label and the chemistry.",
            n=words(str(bank.cells)), cell=volts(typical.cell_v), near=volts(bank.cells * typical.cell_v),
        ),
        why=bank_why(view, "Nominal volts of one cell"),
        field="/banks/0/unit_v",
    )  # fmt: skip
