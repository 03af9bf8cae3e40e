"""The best plan by a plain loop over places, hours and durations: no sums kept, no corridor, nothing compiled."""

from __future__ import annotations

import math

import numpy as np


def taken(bank, held, net, hours):
    """One step of the bank, in the shortest sub-steps that matter."""
    if net < 0:
        return held + net / bank.discharge_efficiency * hours
    parts = 50 if held + net * hours > bank.knee * bank.full_wh else 1
    for _ in range(parts):
        soc = held / bank.full_wh
        offer = min(net, bank.accept_w)
        if soc > bank.knee:
            offer = min(offer, bank.accept_w * (1 - soc) / (1 - bank.knee))
        held = min(held + offer * bank.charge_efficiency * hours / parts, bank.full_wh)
    return held


def trade(way, demand, bank, stretch_m, leg_of, start_wh, slowest_mps, may_wait=True):  # noqa: PLR0912 - plain on purpose
    """The most charge at the way's end for every step of arrival, shape (t + 1,)."""
    steps, hours = way.along.shape[1], way.step_s / 3600
    here = {0: float(start_wh)}
    for j in range(len(stretch_m) + 1):
        last = j == len(stretch_m)
        if may_wait or last:
            for t in range(steps):
                if t in here:
                    held = taken(bank, here[t], way.rest_w[t] - way.house_w[t], hours)
                    if held >= bank.reserve_wh:
                        here[t + 1] = max(here.get(t + 1, -math.inf), held)
        if last:
            return np.array([here.get(t, -math.inf) for t in range(steps + 1)])
        leg, there = int(leg_of[j]), {}
        begins = j == 0 or leg_of[j - 1] != leg
        ends = j + 1 < len(leg_of) and leg_of[j + 1] != leg
        stop = math.ceil(way.stop_s[leg] / way.step_s - 1e-9) if ends else 0
        for t, charge in here.items():
            if t >= steps or (begins and not way.passable[leg, t]):
                continue
            for k in range(1, steps - t - stop + 1):
                ground = stretch_m[j] / (k * way.step_s)
                if ground > way.limit_mps[leg]:
                    continue
                if ground < slowest_mps:
                    break
                held = charge
                for s in range(t, t + k):
                    speed = math.hypot(ground - way.along[leg, s], way.across[leg, s])
                    if speed > demand.top_mps:
                        held = -math.inf
                        break
                    place = speed / demand.speed_step
                    watts = float(
                        np.interp(
                            place, (int(place), int(place) + 1), demand.power_w[int(place) : int(place) + 2]
                        )
                    )
                    held = taken(bank, held, way.sun_w[leg, s] - way.house_w[s] - watts, hours)
                    if held < bank.reserve_wh:
                        held = -math.inf
                        break
                for s in range(t + k, t + k + stop):
                    held = taken(bank, held, way.rest_w[s] + way.shore_w[leg] - way.house_w[s], hours)
                if held >= bank.reserve_wh:
                    there[t + k + stop] = max(there.get(t + k + stop, -math.inf), held)
        here = there
    return None
