"""Compiles and keeps the kernels, so that the first answer does not wait for it."""

from __future__ import annotations

import parhelion.array.casting
import parhelion.array.mismatch
import parhelion.array.strung
import parhelion.day.chain
import parhelion.day.dock
import parhelion.day.flow
import parhelion.day.pace
import parhelion.day.steady
import parhelion.sun.year

KERNELS = (
    parhelion.array.casting.cell_shares,
    parhelion.array.casting.face_shares,
    parhelion.array.casting.looked_up,
    parhelion.array.casting.reached,
    parhelion.array.casting.worst_and_mean,
    parhelion.array.mismatch.effective_light,
    parhelion.array.mismatch.string_light,
    parhelion.array.strung.mixed_string_w,
    parhelion.day.chain.run_chain,
    parhelion.day.flow.run_days_behind,
    parhelion.day.pace.taut_string,
    parhelion.day.steady.steady_power,
    parhelion.day.dock.days_to_full,
    parhelion.sun.year._sky_place,
)

if __name__ == "__main__":
    print(f"{len(KERNELS)} kernels and what they call are compiled")
