"""Why panels under a sun that shines bring nothing to the bank: the true cause, and where it is mended."""

from __future__ import annotations

from typing import Literal, NamedTuple

from parhelion.balance.outlook import Outlook, remembered
from parhelion.panels.deck import deck_of
from parhelion.quantities import Sentence, power, sentence, words
from parhelion.rail.models import Answers
from parhelion.wiring.by_itself import strung_panels, suits
from parhelion.wiring.strings import by_hand, strings_of

DARK_W = 1e-6


class Cause(NamedTuple):
    """Of a harvest of nothing, and the station where it is mended."""

    reason: Sentence
    station: Literal["strings", "array"]


@remembered
def no_harvest(outlook: Outlook) -> Cause | None:
    """The cause; None where something is harvested, where there are no panels, or where no sun shines."""
    design, light = outlook.design, outlook.light
    lit = float(light.ghi[light.shown].sum()) > DARK_W
    if not design.panels or not lit or float(outlook.shown_sun_w.max()) > DARK_W:
        return None
    if not any(held.gives for held in deck_of(design).groups):
        state = words(design.plan.state.label)
        text = "All panels are stowed or covered: she is {state}."
        if outlook.gives_at_dock_alone:
            text = "All panels are ashore, stowed or covered {state}: they give at the dock alone."
        return Cause(sentence(text, state=state), "array")
    if by_hand(design) and not strings_of(design):
        return Cause(sentence("No panel is connected to a controller."), "strings")
    failing = []
    for group in strung_panels(design):
        controller = design.controller(group.controller_id)
        bank = design.bank_of(controller)
        if group.count < group.in_series:
            number = words(str(group.in_series))
            return Cause(sentence("The panels fill no string of {n} in series.", n=number), "strings")
        if bank is not None and not suits(design, group, controller, bank, group.in_series):
            failing.append(group)
    if failing:
        watts = sum(group.nameplate_w * group.count for group in failing)
        told = sentence("{w} of panels cannot reach the bank's volts as they are wired.", w=power(watts))
        return Cause(told, "strings")
    return Cause(sentence("Shade takes all of the sun."), "array")


def with_cause(outlook: Outlook, found: Answers) -> Answers:
    """The answers with the true cause beside every zero of a boat whose panels bring nothing."""
    cause = no_harvest(outlook)
    if cause is None:
        return found
    told = {"reason": cause.reason, "mend": cause.station}
    update = {
        name: getattr(found, name).model_copy(update=told)
        for name in (
            "sun_only_now",
            "sun_only_noon",
            "sun_only_steady",
            "days_run_sun",
            "refill",
            "sun_share",
        )
        if not _value(getattr(found, name))
    }
    if outlook.gives_at_dock_alone and found.held_back_by.measure == "range":
        return found.model_copy(update=update)  # a charge goes as far as it goes: that has its own steps
    none = {**told, "limits": [cause.station], "step": None}
    update["held_back_by"] = found.held_back_by.model_copy(update=none)
    return found.model_copy(update=update)


def _value(answer: object) -> float | None:
    names = ("share_frac", "speed_mps", "distance_m", "days")
    return next((getattr(answer, name) for name in names if hasattr(answer, name)), None)
