"""Compiles and keeps the kernels, so that the first answer does not wait for it."""

from __future__ import annotations

import parhelion.array.shade
import parhelion.day.dock
import parhelion.day.flow
import parhelion.day.steady

KERNELS = (
    parhelion.array.shade.cell_shares,
    parhelion.day.flow.run_days,
    parhelion.day.steady.steady_power,
    parhelion.day.dock.days_to_full,
)

if __name__ == "__main__":
    print(f"{len(KERNELS)} kernels and what they call are compiled")
