"""Compiles and keeps the kernels, so that the first answer does not wait for it."""

from __future__ import annotations

import parhelion.balance.asked_days
import parhelion.balance.days_on_end
import parhelion.balance.dock
import parhelion.balance.flow
import parhelion.balance.grey
import parhelion.balance.pace
import parhelion.balance.steady
import parhelion.panels.casting
import parhelion.panels.mismatch
import parhelion.panels.strung
import parhelion.route.best
import parhelion.route.charge
import parhelion.route.held
import parhelion.route.home
import parhelion.sun.place
import parhelion.sun.sky
import parhelion.wiring.held

KERNELS = (
    parhelion.panels.casting.cell_shares,
    parhelion.panels.casting.face_shares,
    parhelion.panels.casting.looked_up,
    parhelion.panels.casting.reached,
    parhelion.panels.casting.worst_and_mean,
    parhelion.panels.mismatch.effective_light,
    parhelion.panels.mismatch.string_light,
    parhelion.panels.strung.mixed_string_w,
    parhelion.balance.asked_days.run_asked,
    parhelion.balance.asked_days.run_stays,
    parhelion.balance.days_on_end.run_chain,
    parhelion.balance.flow.run_days_behind,
    parhelion.balance.flow.some_hours_run,
    parhelion.balance.grey.carried,
    parhelion.balance.pace.taut_string,
    parhelion.balance.steady.steady_power,
    parhelion.balance.dock.some_days_to_full,
    parhelion.sun.place._sky_place,
    parhelion.sun.sky.bright_minutes,
    parhelion.wiring.held._best_inner_v,
    parhelion.wiring.held._held_w,
    parhelion.route.charge._held,
    parhelion.route.held._sail,
    parhelion.route.best._sweep,
    parhelion.route.home._needs,
)

if __name__ == "__main__":
    print(f"{len(KERNELS)} kernels and what they call are compiled")
