"""The helm card: what to tape beside the throttle."""

from __future__ import annotations

from parhelion.balance.outlook import Outlook
from parhelion.bank.store import reserve_of
from parhelion.bank.tape import tape_volts
from parhelion.quantities import Frozen, Sentence, fraction, mass, sentence, words
from parhelion.rail.reach import reach_at, round_speeds, skies_of
from parhelion.rail.reasons import demand_method
from parhelion.rail.speeds import live_speed, solve_steady, steady_speed
from parhelion.units import SpeedUnit


class HelmSky(Frozen):
    """One sky's column."""

    key: str
    label: str


class HelmRow(Frozen):
    """One speed: throttle watts, hours on the bank, and range under each sky (None: the sun keeps up)."""

    speed_mps: float
    power_w: float
    low_w: float
    high_w: float
    bank_hours: float | None
    reserve_hours: float | None  # under the plan's own sky
    range_m: list[float | None]


class TapeMark(Frozen):
    """Volts to tape beside the voltmeter."""

    label: str
    volts: float


class HelmCard(Frozen):
    """Everything on the card."""

    assumes: Sentence
    method: str
    skies: list[HelmSky]
    rows: list[HelmRow]
    sun_only_mps: float | None
    noon_mps: float | None
    plan_sky: str
    reserve_frac: float | None
    tape: list[TapeMark]  # what the voltmeter shows, at rest
    cautions: list[str]


def helm_card(outlook: Outlook, unit: SpeedUnit = "kn") -> HelmCard:
    """The helm card of a design, its rows at round speeds of a unit."""
    design, curve = outlook.design, outlook.curve
    skies = skies_of(outlook)
    lit, dark = skies[:-1], skies[-1][2]
    own = next(sun for key, _, sun in lit if key == design.plan.sky)
    rows = []
    for speed in round_speeds(outlook, unit):
        power, band = float(curve.power_at(speed)), float(curve.band_at(speed))
        drive = power - curve.idle_w
        stored = outlook.aboard is not None
        rows.append(
            HelmRow(
                speed_mps=speed,
                power_w=power,
                low_w=curve.idle_w + drive / band,
                high_w=curve.idle_w + drive * band,
                bank_hours=reach_at(outlook, dark, speed)[0] if stored else None,
                reserve_hours=reach_at(outlook, own, speed)[0] if stored else None,
                range_m=[reach_at(outlook, sun, speed)[1] for _, _, sun in lit] if stored else [],
            )
        )
    bank = design.bank
    plan = design.plan
    return HelmCard(
        assumes=sentence(
            "{date} at {place}, {kg} all aboard, bank {start} at the start, through the water",
            date=words(f"{plan.date.day} {plan.date:%B}"), place=words(design.site.name),
            kg=mass(design.displacement_kg), start=fraction(plan.start_charge_frac),
        ) if bank else sentence(
            "{date} at {place}, {kg} all aboard, no bank", date=words(f"{plan.date.day} {plan.date:%B}"),
            place=words(design.site.name), kg=mass(design.displacement_kg),
        ),
        method=demand_method(design),
        skies=[HelmSky(key=key, label=label) for key, label, _ in lit] if bank else [],
        rows=rows,
        sun_only_mps=steady_speed(outlook, solve_steady(outlook)).speed_mps,
        noon_mps=live_speed(outlook, outlook.day.noon_step, outlook.day.solar_noon_at).speed_mps,
        plan_sky=next(label for key, label, _ in lit if key == plan.sky),
        reserve_frac=reserve_of(bank) if bank else None,
        tape=[TapeMark(label=label, volts=volts) for label, _, volts in tape_volts(bank)] if bank else [],
        cautions=[
            "A computed range is never a reason to go: wind, waves and a stream cost more. Watch the meters.",
            "Life jackets, a second way home, a bailer, lights, a call for help. Local codes come first.",
        ],
    )  # fmt: skip
