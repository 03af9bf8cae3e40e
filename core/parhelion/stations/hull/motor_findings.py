"""Findings about the motor on its label: one rule a function, each None where it has nothing to say."""

from __future__ import annotations

from parhelion.balance.outlook import Outlook
from parhelion.design import Rating
from parhelion.drive import trolling
from parhelion.drive.limits import Limited
from parhelion.finding import Finding
from parhelion.quantities import Fact, fraction, power, ratio, sentence, speed, words
from parhelion.rail.reasons import hull_why

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
