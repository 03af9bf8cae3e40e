"""The day's energy accounts as CSV: every ten minutes, and their sum."""

from __future__ import annotations

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
    SOC,
)
from parhelion.balance.outlook import Outlook
from parhelion.formats.table import written_table

COLUMNS = (
    "clock", "array_w", "free_sources_w", "shore_w", "generator_w", "discharged_w",
    "conversion_w", "clipped_w", "refused_w", "curtailed_w", "house_w",
    "motor_w", "charged_w", "coulomb_w", "heat_w", "converted_w", "charge_frac",
)  # fmt: skip
BOOKED = (REFUSED, CURTAILED, HOUSE, MOTOR, CHARGED, COULOMB, HEAT, CONVERTED)


def written_accounts(outlook: Outlook) -> str:
    """The shown day step by step [W], then its sum [Wh]; up to `discharged_w` came = all that follow.

    Parameters
    ----------
    outlook : Outlook
    """
    shown = outlook.light.shown
    record = outlook.plan_record[shown]
    made = outlook.harvest
    rows: list[list[str]] = [list(COLUMNS)]
    sums = [0.0] * (len(COLUMNS) - 2)
    for step, row in enumerate(record):
        watts = [
            made.array_w[shown, step], outlook.free_w[step].sum(), row[SHORE], row[GENERATOR],
            row[DISCHARGED], made.conversion_w[shown, step],
            made.clipped_w[shown, step], *(row[column] for column in BOOKED),
        ]  # fmt: skip
        hours = outlook.timeline.step_h[step]
        sums = [total + float(value) * hours for total, value in zip(sums, watts, strict=True)]
        clock = outlook.day.at_index(float(step)).strftime("%H:%M")
        rows.append([clock, *(f"{value:.2f}" for value in watts), f"{row[SOC]:.4f}"])
    rows.append(["sum, Wh", *(f"{value:.1f}" for value in sums), ""])
    return written_table(rows)
