"""Findings about the motor on its label: one rule a function, each None where it has nothing to say."""

from __future__ import annotations

from parhelion.balance.outlook import Outlook
from parhelion.design import Bank, Drive, Rating
from parhelion.drive import trolling
from parhelion.drive.chain import motor_battery_w, surroundings_of
from parhelion.drive.limits import Limited
from parhelion.finding import Finding
from parhelion.quantities import Fact, Quantity, count, fraction, power, ratio, sentence, speed, volts, words
from parhelion.rail.reasons import hull_why

VOLTS_FROM, VOLTS_TO = 0.8, 1.3  # the bank's nominal volts over those a motor is made for
SAME_VOLTS = 0.12  # 12 and 12.8 are one class
IDLING_LOAD = 0.10  # of a motor's rating below which it is poorly used
IDLING_EFFICIENCY = 0.80  # of controller and motor, below which it is said
BEST_MERIT = 0.66  # ideal over electrical that a label may promise


def idling_along(outlook: Outlook) -> Finding | None:
    """A large motor at a small share of its rating is inefficient."""
    for index, drive in enumerate(outlook.design.drives):
        if drive.overall_efficiency is not None or drive.rating is Rating.THRUST:
            continue
        load = outlook.plan_power_w / outlook.label_w
        links = outlook.drive_links(index)
        first = links[0][1] if links else 1.0
        if drive.motor is not None and len(links) > 1:
            first *= links[1][1]
        if load >= IDLING_LOAD or first >= IDLING_EFFICIENCY:
            return None
        return Finding(
            id="idling_along",
            level="note",
            title=sentence("A large motor idling along: {x} efficient", x=fraction(first)),
            detail=sentence(
                "The planned speed uses {l} of its rating. A smaller motor or a lower gear wastes less.",
                l=fraction(load),
            ),
            why=hull_why(outlook, "Losses of motor and controller by load", doc="drive"),
            field=f"/drives/{index}/rated_power_w",
        )  # fmt: skip
    return None


LIMIT_DETAILS = {
    Limited.THRUST: "the thrust left at that speed",
    Limited.CURRENT: "the motor's current limit",
    Limited.VOLTS: "the volts of the bank",
    Limited.BANK: "the bank's discharge limit",
}


def held_below_label(outlook: Outlook) -> Finding | None:
    """Something other than the label sets the most the drive takes."""
    limit = outlook.curve.limit
    if limit.by is Limited.RATING:
        return None
    return Finding(
        id="held_below_label",
        level="note",
        title=sentence("Held to {w} by {what}", w=power(limit.power_w), what=words(LIMIT_DETAILS[limit.by])),
        detail=sentence(
            "The label says {l}; with this boat and propeller {v} is the most.",
            l=power(outlook.label_w), v=speed(float(outlook.curve.speed_at(limit.power_w))),
        ),
        why=hull_why(outlook, "The motor along the boat's curve", doc="drive"),
    )  # fmt: skip


def optimistic_label(outlook: Outlook) -> Finding | None:
    """Thrust and amps of a label that do not go together."""
    for index, drive in enumerate(outlook.design.drives):
        if drive.rating is not Rating.THRUST or drive.full_thrust_current_a is None:
            continue
        density = outlook.design.water_density_kg_per_m3
        ideal = float(
            trolling.disc_power_w(drive.static_thrust_n or 0, 0.0, trolling.disc_area_m2(drive), density)
        )
        implied = ideal / max(trolling.full_power_w(drive, density) - trolling.STANDING_W, 1.0)
        if implied <= BEST_MERIT:
            continue
        return Finding(
            id="optimistic_label",
            level="warn",
            title=sentence("This label promises {x} of the ideal", x=fraction(implied)),
            detail=sentence(
                "Such motors reach .4 to .64: the thrust is stated high, or the amps low. Measure a run."
            ),
            why=hull_why(
                outlook,
                "Momentum theory of the disc against the label's watts",
                Fact(label="Ideal over electrical", value=ratio(implied)),
                doc="drive",
            ),
            field=f"/drives/{index}/static_thrust_n",
        )  # fmt: skip
    return None


def motor_volts(outlook: Outlook) -> Finding | None:
    """A motor that is made for other volts than the bank has, and the ways out."""
    bank = outlook.design.bank
    for index, drive in enumerate(outlook.design.drives if bank else ()):
        assert bank is not None
        entry, made_for = _made_for(drive)
        guessed = made_for is None
        if made_for is None and drive.rating is Rating.THRUST:
            made_for = trolling.USUAL_V
        if made_for is None or VOLTS_FROM <= bank.nominal_v / made_for <= VOLTS_TO:
            continue
        over = bank.nominal_v > made_for
        text = "More volts than a motor is made for burn it or its controller. What helps: " if over else (
            "On fewer volts it turns slower and gives less than is counted here. What helps: "
        )  # fmt: skip
        if guessed:
            text = "Sold by its thrust, it is most likely one of {m}: its label says. If so, "
        told, slots = _ways(bank, drive, made_for, motor_battery_w(drive, surroundings_of(outlook.design)))
        return Finding(
            id="motor_volts",
            level="note" if guessed else "warn",
            title=sentence(
                "{name}: is it made for {b}?" if guessed else "{name} is made for {m}, the bank has {b}",
                name=words(drive.name), m=volts(made_for), b=volts(bank.nominal_v),
            ),
            detail=sentence(text + told, m=volts(made_for), **slots),
            why=hull_why(
                outlook,
                "The motor's volts beside the bank's",
                Fact(label="Bank over motor", value=ratio(bank.nominal_v / made_for)),
                doc="drive",
            ),
            field=f"/drives/{index}/{entry}",
        )  # fmt: skip
    return None


def _made_for(drive: Drive) -> tuple[str, float | None]:
    """Where a motor's own volts are entered, and what they are."""
    if drive.rating is Rating.THRUST:
        return "full_thrust_v", drive.full_thrust_v
    return "motor/volts", drive.motor.volts if drive.motor else None


def _ways(bank: Bank, drive: Drive, made_for: float, watts: float) -> tuple[str, dict[str, Quantity]]:
    """What can be done about it, in words and their slots."""
    times = bank.nominal_v / made_for
    more = max(round(times), 1)
    ways, slots = [], {}
    if more > 1 and drive.count % more == 0 and drive.rating is Rating.THRUST:
        ways.append("its {n} in series, each on its share")
        slots["n"] = count(drive.count)
    units = max(round(made_for / bank.unit_v), 1)
    if units != bank.series and abs(units * bank.unit_v / made_for - 1) < SAME_VOLTS:
        ways.append("the bank's units {s} in series" if units > 1 else "the bank's units all in parallel")
        slots["s"] = count(units)
    if times > 1:
        ways.append("a converter of {w} from the bank")
        slots["w"] = power(watts * drive.count)
    ways.append("a motor for the bank's volts")
    return ", or ".join(ways) + ".", slots
