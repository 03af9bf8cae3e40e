"""Banks and motors that a wish may choose from: whole units in series and parallel, motors by their watts."""

from __future__ import annotations

import numpy as np

from parhelion.begin.new_boat import BIG_BANK_V, SMALL_BANK_V, SMALL_DRIVE_W
from parhelion.data import battery_units
from parhelion.design import Bank, BoatDesign, Drive, Rating
from parhelion.design.wish import Wish
from parhelion.drive.chain import rated_battery_w, surroundings_of, thrust_shares
from parhelion.drive.match import best_match
from parhelion.hull.demand import demand_curve
from parhelion.hull.resistance import service_resistance
from parhelion.market.refits import Bought, banks_cost
from parhelion.stations.wish.ground import speed_of

VOLTS = (SMALL_BANK_V, BIG_BANK_V, 51.2)  # of banks that may be chosen where other volts are allowed
VOLTS_NEAR = 0.09  # a chemistry's volts of the same class: 12 and 12.8
MOST_UNITS = 24
MOST_SIZES = 9  # of one unit, spread evenly by their number
MOTOR_SIZES_W = (400, 700, 1_000, 1_500, 2_000, 3_000, 4_000, 6_000, 8_000, 12_000, 20_000)
SPARE = 1.1  # a new motor's watts over those of the wished speed
SAVES = 0.02  # of the watts at the wished speed: a propeller that saves less is not changed
BRISK = 0.9  # of the rating: the second point that a matched propeller must turn
LESS_PER_WH = 1e-9


def bank_choices(design: BoatDesign, wish: Wish, have: Bought, most_cost: float) -> list[Bank | None]:
    """Banks for the boat's motor, the one she has first, cheapest first after it.

    Parameters
    ----------
    design : BoatDesign
    wish : Wish
    have : Bought
    most_cost : float
        Nothing dearer is looked at [coins].
    """
    now = design.bank
    found: list[Bank | None] = [now]
    if now is not None and wish.keeps_bank:
        more = [now.model_copy(update={"parallel": now.parallel + k}) for k in (1, 2, 3, 4, 6)]
        found += [bank for bank in more if bank.parallel <= 200]
    volts = {now.nominal_v} if now is not None and not wish.other_volts else set(VOLTS)
    if now is None and not wish.other_volts:
        volts = {SMALL_BANK_V if small(design) else BIG_BANK_V}
    for unit in battery_units():
        for wanted in sorted(volts):
            series = max(round(wanted / unit["unit_v"]), 1)
            off = abs(series * unit["unit_v"] / wanted - 1)
            if unit["chemistry"] not in wish.chemistries or off > VOLTS_NEAR or series > MOST_UNITS:
                continue
            for parallel in _sizes(MOST_UNITS // series):
                made = Bank(id=now.id if now else "bank", series=series, parallel=parallel, **unit)
                if _afford(design, made, have, most_cost):
                    found.append(made)
    rest = _not_worse(found[1:], design, have)
    return [found[0], *rest]


def small(design: BoatDesign) -> bool:
    """Whether the motors are of the size that lives on a 12 V bank."""
    around = surroundings_of(design)
    return sum(rated_battery_w(drive, around) for drive in design.drives) < SMALL_DRIVE_W


def _sizes(most: int) -> list[int]:
    return sorted({int(v) for v in np.unique(np.round(np.geomspace(1, max(most, 1), MOST_SIZES)))})


def with_bank(design: BoatDesign, bank: Bank | None) -> BoatDesign:
    """The design with another bank for its motor; the house's own stays."""
    return design.changed(banks=() if bank is None else (bank, *design.banks[1:]))


def _afford(design: BoatDesign, bank: Bank, have: Bought, most_cost: float) -> bool:
    return banks_cost(with_bank(design, bank), have) <= most_cost


def _not_worse(banks: list[Bank | None], design: BoatDesign, have: Bought) -> list[Bank | None]:
    """Banks that none of the same volts and chemistry leaves behind in price and weight."""
    priced = [(banks_cost(with_bank(design, bank), have), bank) for bank in banks if bank is not None]
    kept: list[tuple[float, Bank]] = []
    for cost, bank in sorted(priced, key=lambda item: (item[0], -item[1].nominal_wh)):
        if not any(
            other.chemistry is bank.chemistry and other.nominal_v == bank.nominal_v and price <= cost
            and other.mass <= bank.mass and other.nominal_wh >= bank.nominal_wh * (1 - LESS_PER_WH)
            for price, other in kept
        ):  # fmt: skip
            kept.append((cost, bank))
    return [bank for _, bank in kept]


def drive_choices(design: BoatDesign, wish: Wish, have: Bought) -> list[tuple[Drive, ...]]:
    """Motors for the boat: hers, hers with a matched propeller, and a larger one where hers is too weak.

    Parameters
    ----------
    design : BoatDesign
    wish : Wish
    have : Bought
    """
    moving = [ask for ask in wish.asks if ask.moves]
    found = [design.drives]
    if not moving:
        return found
    fastest = max(speed_of(ask, 0.0) for ask in moving)
    matched = _matched(design, fastest)
    if matched is not None:
        found.append(matched)
    curve = demand_curve(design)
    needs = float(curve.power_at(fastest))
    if not np.isfinite(needs) or (needs <= curve.most_w and wish.keeps_motor):
        return found
    first = design.drives[0]
    for watts in MOTOR_SIZES_W:
        made = Drive(
            id=first.id, name=f"Motor, {watts:g} W", count=1, rating=Rating.BATTERY, rated_power_w=watts,
            overall_efficiency=None, idle_power_w=first.idle_power_w,
        )  # fmt: skip
        changed = design.changed(drives=(made,))
        if float(demand_curve(changed).power_at(fastest)) * SPARE <= watts:
            found.append((made,))
            break
    return found


def _matched(design: BoatDesign, speed_mps: float) -> tuple[Drive, ...] | None:
    """Her motors with the pitch and gear that take least at a speed, where that saves something."""
    first, share = design.drives[0], thrust_shares(design)[0]
    if first.propeller is None or first.motor is None or first.rating is Rating.THRUST:
        return None
    curve, around = demand_curve(design), surroundings_of(design)
    brisk = float(curve.speed_at(BRISK * curve.most_w))
    pairs = [
        (float(service_resistance(design, np.array([v])).total_n[0]) * share, v) for v in (speed_mps, brisk)
    ]
    found = best_match(first, pairs[0], pairs[1], around)
    if found is None or found.saved_frac < SAVES:
        return None
    turned = first.propeller.model_copy(update={"pitch_m": found.pitch_m})
    other = first.model_copy(update={"propeller": turned, "gear_ratio": found.gear_ratio})
    return (other, *design.drives[1:])
