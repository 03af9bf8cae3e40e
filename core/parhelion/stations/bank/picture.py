"""The tank: what the bank holds, what each load and the motor takes of it, and what the voltmeter shows."""

from __future__ import annotations

import numpy as np

from parhelion.balance.flow import MOTOR
from parhelion.balance.outlook import Outlook
from parhelion.bank.age import health_of, years_of
from parhelion.bank.store import (
    energy_wh,
    reserve_of,
)
from parhelion.bank.tape import blind_span, rest_volts, tape_volts
from parhelion.design import Bank
from parhelion.quantities import Frozen
from parhelion.rail.reach import reach_at, round_speeds
from parhelion.stations.bank.sizing import USUAL_ASK, BankSize, SizingAsk, sizes
from parhelion.stations.bank.view import bank_view

HABIT_DEPTHS = (0.3, 0.5, 0.8, 0.95)
GAUGE_POINTS = 41
CYCLES_PER_YEAR = 120.0  # a boat used a good season: every third day


class Mark(Frozen):
    """What the voltmeter shows at a state of charge, at rest."""

    label: str
    soc_frac: float | None
    volts: float


class Tank(Frozen):
    """One bank."""

    id: str
    name: str
    chemistry: str
    nominal_v: float
    capacity_ah: float
    nominal_wh: float  # as sold, when new
    held_wh: float  # full, as cold and old as it is
    usable_wh: float  # from full to the usable end
    working_wh: float  # from full to the reserve
    reserve_frac: float
    cut_out_frac: float
    full_frac: float
    cells: int
    health_frac: float
    mass_kg: float
    cut_out_v: float
    full_v: float
    marks: list[Mark]
    gauge: list[Gauge]
    blind_from_frac: float | None  # where volts cannot tell the charge
    blind_to_frac: float | None


class Gauge(Frozen):
    """The bank at a state of charge: rest volts and what is left above the reserve."""

    soc_frac: float
    volts: float
    above_reserve_wh: float


class Take(Frozen):
    """What one load, or the motor, takes of a day."""

    id: str
    name: str
    kind: str  # essential, other, motor
    bank_id: str
    power_w: float
    energy_wh: float
    share_frac: float | None  # of the working energy of its bank


class HoursAt(Frozen):
    """How long the bank alone lasts at a speed, from full to the reserve."""

    speed_mps: float
    power_w: float
    hours: float | None


class Habit(Frozen):
    """Years to the end of life at a depth of every cycle; low, middle, high of what is typical."""

    depth_frac: float
    low_years: float
    years: float
    high_years: float
    is_todays: bool


class BankPicture(Frozen):
    """Everything the Bank station shows; lists are empty without a bank."""

    tanks: list[Tank]
    takes: list[Take]
    house_wh: float
    motor_wh: float
    harvest_wh: float
    speeds: list[HoursAt]
    habits: list[Habit]
    best_hour_w: float
    plan_power_w: float
    rated_power_w: float
    start_charge_frac: float
    sizes: list[BankSize]


def tank_of(bank: Bank, outlook: Outlook, own: bool) -> Tank:
    """One bank as it stands, `own` the house's."""
    assert outlook.aboard is not None
    store = outlook.aboard.house if own else outlook.aboard.main
    held = energy_wh(1.0, store)
    blind = blind_span(bank)
    marks = [Mark(label=label, soc_frac=soc, volts=volts) for label, soc, volts in tape_volts(bank)]
    charges = np.linspace(0, 1, GAUGE_POINTS)
    at_reserve = energy_wh(store.reserve, store)
    return Tank(
        id=bank.id,
        name=bank.name,
        chemistry=bank.chemistry.label,
        nominal_v=bank.nominal_v,
        capacity_ah=bank.capacity_ah,
        nominal_wh=bank.nominal_wh,
        held_wh=held,
        usable_wh=held - energy_wh(store.cut_out, store),
        working_wh=held - at_reserve,
        reserve_frac=reserve_of(bank),
        cut_out_frac=store.cut_out,
        full_frac=store.full,
        cells=bank.cells,
        health_frac=health_of(bank),
        mass_kg=bank.mass,
        cut_out_v=bank.cuts_out_v,
        full_v=marks[0].volts,
        marks=marks,
        gauge=[
            Gauge(
                soc_frac=soc,
                volts=volts,
                above_reserve_wh=energy_wh(soc, store) - at_reserve,
            )
            for soc, volts in zip(charges.tolist(), rest_volts(bank, charges).tolist(), strict=True)
        ],
        blind_from_frac=blind[0] if blind else None,
        blind_to_frac=blind[1] if blind else None,
    )


def _takes(outlook: Outlook, tanks: list[Tank], motor_wh: float) -> list[Take]:
    working = {tank.id: tank.working_wh for tank in tanks}
    found = []
    for load in outlook.design.loads:
        bank_id = outlook.design.load_bank_id(load) or ""
        energy = load.drawn_w * load.hours_per_day
        share = energy / working[bank_id] if working.get(bank_id) else None
        kind = "essential" if load.essential else "other"
        found.append(
            Take(id=load.id, name=load.name, kind=kind, bank_id=bank_id, power_w=load.drawn_w,
                 energy_wh=energy, share_frac=share)
        )  # fmt: skip
    if tanks and motor_wh > 0:
        main = tanks[0]
        found.append(
            Take(id="motor", name="Motor", kind="motor", bank_id=main.id,
                 power_w=outlook.plan_power_w, energy_wh=motor_wh,
                 share_frac=motor_wh / main.working_wh if main.working_wh else None)
        )  # fmt: skip
    return found


def _habits(bank: Bank, todays: float) -> list[Habit]:
    depths = {depth: False for depth in HABIT_DEPTHS if depth <= max(bank.depth, 0.5) + 1e-9 or depth < 0.9}
    if todays > 0.02:
        depths[round(todays, 3)] = True
    return [
        Habit(
            depth_frac=depth, low_years=years_of(bank, depth, CYCLES_PER_YEAR, 0),
            years=years_of(bank, depth, CYCLES_PER_YEAR), is_todays=is_todays,
            high_years=years_of(bank, depth, CYCLES_PER_YEAR, 2),
        )
        for depth, is_todays in sorted(depths.items())
    ]  # fmt: skip


def bank_picture(outlook: Outlook, ask: SizingAsk = USUAL_ASK) -> BankPicture:
    """Everything the Bank station shows of a design."""
    design = outlook.design
    view = bank_view(outlook)
    motor_wh = outlook.wh(view.record[:, MOTOR])
    tanks = []
    if design.bank is not None:
        tanks.append(tank_of(design.bank, outlook, own=False))
    if design.house_bank is not None:
        tanks.append(tank_of(design.house_bank, outlook, own=True))
    dark = np.zeros((outlook.day.steps, 2))
    speeds = []
    if design.bank is not None:
        full = outlook.from_full
        for speed in round_speeds(outlook, "kn"):
            hours, _ = reach_at(full, dark, speed)
            power = float(outlook.curve.power_at(speed))
            speeds.append(HoursAt(speed_mps=speed, power_w=power, hours=hours))
    return BankPicture(
        tanks=tanks,
        takes=_takes(outlook, tanks, motor_wh),
        house_wh=outlook.wh(outlook.house_w),
        motor_wh=motor_wh,
        harvest_wh=outlook.wh(outlook.shown_sun_w),
        speeds=speeds,
        habits=_habits(design.bank, view.swing_frac) if design.bank else [],
        best_hour_w=view.best_hour_w,
        plan_power_w=outlook.plan_power_w,
        rated_power_w=outlook.rated_w,
        start_charge_frac=design.plan.start_charge_frac,
        sizes=sizes(outlook, ask),
    )
