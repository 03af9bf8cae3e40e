"""Banks and motors that a wish may choose from: whole units in series and parallel, motors by their watts."""

from __future__ import annotations

import numpy as np

from parhelion.begin.new_boat import BIG_BANK_V, SMALL_BANK_V, SMALL_DRIVE_W
from parhelion.data import battery_units
from parhelion.design import Bank, BoatDesign, Drive, Rating
from parhelion.design.wish import Wish
from parhelion.drive.chain import rated_battery_w, surroundings_of
from parhelion.hull.demand import demand_curve
from parhelion.hull.matched import best_screw, with_screw
from parhelion.market.parts import motor_offer, motors_kg
from parhelion.market.refits import Bought, banks_cost, same_motor
from parhelion.stations.wish.ground import speed_of
from parhelion.stations.wish.held import curve_of

VOLTS = (SMALL_BANK_V, BIG_BANK_V, 51.2)  # of banks that may be chosen where other volts are allowed
VOLTS_NEAR = 0.09  # a chemistry's volts of the same class: 12 and 12.8
MOST_UNITS = 24
MOST_SIZES = 9  # of one unit, spread evenly by their number
MOTOR_SIZES_W = (400, 700, 1_000, 1_500, 2_000, 3_000, 4_000, 6_000, 8_000, 12_000, 20_000)
MOST_MOTORS = 3  # of one's own list, each lighter and dearer than the one before
LIGHTER = 0.5
SPARE = 1.1  # a new motor's watts over those of the wished speed
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
    volts = bank_volts(design, wish)
    for unit in units_for(wish):
        for wanted in sorted(volts):
            series = in_series(unit, wanted)
            for parallel in _sizes(MOST_UNITS // series) if series else ():
                size = {"id": now.id if now else "bank", "series": series, "parallel": parallel}
                made = unit.model_copy(update=size)
                if _afford(design, made, have, most_cost):
                    found.append(made)
    rest = _not_worse(found[1:], design, have)
    return [found[0], *rest]


def bank_volts(design: BoatDesign, wish: Wish) -> set[float]:
    """Volts of which a bank may be: hers, or any class where that is allowed [V]."""
    if wish.other_volts:
        return set(VOLTS)
    if design.bank is not None:
        return {design.bank.nominal_v}
    return {SMALL_BANK_V if small(design) else BIG_BANK_V}


def units_for(wish: Wish) -> list[Bank]:
    """One of every battery to choose from, of the chemistries allowed: of one's own list, or of ours."""
    listed = wish.own_units or tuple(Bank(id="unit", **unit) for unit in battery_units())
    return [unit for unit in listed if unit.chemistry in wish.chemistries]


def in_series(unit: Bank, wanted_v: float) -> int | None:
    """How many of a unit make a bank of such volts; None where no number does."""
    series = max(round(wanted_v / unit.unit_v), 1)
    near = abs(series * unit.unit_v / wanted_v - 1) <= VOLTS_NEAR
    return series if near and series <= MOST_UNITS else None


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
    matched = with_screw(design, best_screw(design, demand_curve(design), fastest))
    if matched is not None:
        found.append(matched)
    curve = curve_of(design, wish)
    needs = float(curve.power_at(fastest))
    if not np.isfinite(needs) or (needs <= curve.most_w and wish.keeps_motor):
        return found
    kept: list[Drive] = []
    for made in motors_for(design, wish):
        price, kg = motor_offer(made)
        worse = any(offer.price <= price and offer.mass_kg <= kg for offer in map(motor_offer, kept))
        if not worse and len(kept) < MOST_MOTORS and gives(design, wish, made, fastest):
            kept.append(made)
    return [*found, *((made,) for made in kept)]


def motors_for(design: BoatDesign, wish: Wish) -> list[Drive]:
    """Motors to choose from, the cheapest first: one's own list, or usual ones by their watts."""
    first = design.drives[0]
    if wish.own_motors:
        return [
            own.model_copy(update={"id": first.id, "count": 1})
            for own in sorted(wish.own_motors, key=motor_offer)
        ]
    return [
        Drive(
            id=first.id, name=f"Motor, {watts:g} W", count=1, rating=Rating.BATTERY, rated_power_w=watts,
            overall_efficiency=None, idle_power_w=first.idle_power_w,
        )
        for watts in MOTOR_SIZES_W
    ]  # fmt: skip


def gives(design: BoatDesign, wish: Wish, motor: Drive, speed_mps: float) -> bool:
    """Whether a motor has watts to spare at a speed, the boat as heavy as it makes her."""
    curve = curve_of(with_drives(design, (motor,)), wish)
    return float(curve.power_at(speed_mps)) * SPARE <= curve.most_w


def heavier_kg(design: BoatDesign, drives: tuple[Drive, ...]) -> float:
    """What other motors add to her weight; never more is taken off than half of the boat's own [kg]."""
    if len(drives) == len(design.drives) and all(map(same_motor, drives, design.drives)):
        return 0.0
    own = design.displacement_kg if design.loading is None else design.loading.boat_kg
    return max(motors_kg(drives) - motors_kg(design.drives), -LIGHTER * own)


def with_drives(design: BoatDesign, drives: tuple[Drive, ...]) -> BoatDesign:
    """The design with other motors, what they weigh more put on the scales."""
    more, hull, loading = heavier_kg(design, drives), design.hull, design.loading
    if hull.displacement_kg is not None:
        hull = hull.model_copy(update={"displacement_kg": hull.displacement_kg + more})
    if loading is not None:
        loading = loading.model_copy(update={"boat_kg": loading.boat_kg + more})
    return design.changed(drives=drives, hull=hull, loading=loading)
