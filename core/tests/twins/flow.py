"""A day's energy by brute force: one-second steps, ordinary arithmetic, no closed forms.

It shares with the kernel only the description of the bank. Charge acceptance, current and state of charge are
stepped explicitly, so that agreement shows the closed forms and the step's mean volts to be right.
"""

from __future__ import annotations

import math

SUBSTEPS = 600


def day(sun_w, essential_w, other_w, motor_w, soc, step_h, store):
    """States of charge at the steps' ends, and the energies [Wh] of the day."""
    dt = step_h / SUBSTEPS
    ends = []
    total = dict.fromkeys(("house", "motor", "refused", "heat"), 0.0)
    for sun, essential, other, motor in zip(sun_w, essential_w, other_w, motor_w, strict=True):
        for _ in range(SUBSTEPS):
            house, drive = essential + other, motor
            net = sun - house - drive
            if net < 0 and soc <= store.reserve:
                drive = max(min(motor, sun - house), 0.0)
                if sun - house < 0:
                    spared = max(min(other, sun - essential), 0.0)
                    house = essential + spared
                    if soc <= store.cut_out:
                        house = min(house, max(sun, 0.0))
                net = sun - house - drive
            volts = store.nominal_v * (1 + store.swing * (soc - 0.5))
            r = store.resistance_ohm
            if net < 0:
                current = (volts - math.sqrt(volts**2 + 4 * r * net)) / (2 * r)
                rate = abs(current)
                drawn = rate * max(rate / store.label_a, 1.0) ** (store.peukert - 1)
                soc -= drawn * dt / store.capacity_ah
            else:
                current = (-volts + math.sqrt(volts**2 + 4 * r * net)) / (2 * r)
                room = store.acceptance_a * min(1.0, max(1 - soc, 0) / (1 - store.taper_from))
                taken = min(current, room)
                total["refused"] += (net - (volts + taken * r) * taken) * dt
                soc += store.coulomb_efficiency * taken * dt / store.capacity_ah
                current = taken
            total["heat"] += current**2 * r * dt
            total["house"] += house * dt
            total["motor"] += drive * dt
        ends.append(soc)
    return ends, total
