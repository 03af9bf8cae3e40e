"""Everything the wiring tells; never "safe", only within the limits that were checked."""

from __future__ import annotations

from parhelion.balance.outlook import Outlook
from parhelion.finding import Finding, ordered
from parhelion.quantities import (
    Why,
    sentence,
)
from parhelion.stations.strings.box_findings import (
    charge_rate,
    direct_drive,
    fuse_far,
    input_amps,
    large_array,
    shock,
    sun_by_bank,
    thick_cable,
    wrong_bank,
)
from parhelion.stations.strings.string_findings import (
    left_over,
    mixed_string,
    mixed_volts,
    over_limit,
    pwm_loss,
    string_fuse,
    too_low,
    volts_guessed,
)
from parhelion.stations.strings.view import WiringView, wiring_why
from parhelion.wiring.circuits import wiring_of

CHECKS = (
    over_limit,
    too_low,
    left_over,
    input_amps,
    wrong_bank,
    mixed_volts,
    thick_cable,
    charge_rate,
    fuse_far,
)


def within_limits(view: WiringView) -> Finding | None:
    """What was checked and held."""
    if not view.wiring.circuits:
        return None
    if any(check(view) for check in CHECKS):
        return None
    known = all(c.limit_v is not None for c in view.wiring.circuits)
    sure = all(c.string.given for c in view.wiring.circuits)
    return Finding(
        id="within_limits",
        level="good" if known and sure else "note",
        title=sentence("Within the limits checked" if sure else "Within the limits, if the volts are right")
        if known
        else sentence("Some controllers' volts limits are not known"),
        detail=sentence(
            "Cold open volts, hot volts over the bank, input amps, complete strings, the controller's "
            "bank and its charge rate, ampacity and drop. Nothing else was looked at."
        )
        if known
        else sentence(
            "Give each controller the volts on its label: until then nothing says a cold morning spares it."
        ),
        why=wiring_why("Each string against its controller and the bank"),
        field=None if known else "/controllers/0/most_pv_v",
    )


def order_of_connecting(view: WiringView) -> Finding | None:
    """The standing caution of putting it together."""
    if not view.wiring.circuits:
        return None
    return Finding(
        id="order_of_connecting",
        level="note",
        title=sentence("Connect in this order: loads off, bank, then panels"),
        detail=sentence(
            "The other way round to take apart, and the maker's own order where it differs. Check "
            "polarity with a meter before the last plug. Check against the small-craft electrical "
            "standard in force where you are."
        ),
        why=Why(
            method="Usual cautions", source="Local codes and licensed practice come first.", doc="cautions"
        ),
        caution=True,
    )


RULES = (
    *CHECKS,
    volts_guessed,
    mixed_string,
    string_fuse,
    pwm_loss,
    sun_by_bank,
    direct_drive,
    within_limits,
    large_array,
    shock,
    order_of_connecting,
)


def wiring_findings(outlook: Outlook) -> list[Finding]:
    """Everything the wiring tells, warnings first."""
    view = WiringView(outlook, wiring_of(outlook.design))
    return ordered([rule(view) for rule in RULES])
