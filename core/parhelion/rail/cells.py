"""The answer rail: five cells that follow what the boat is for."""

from __future__ import annotations

from parhelion.design import BoatDesign, Use
from parhelion.quantities import (
    Quantity,
    Sentence,
    days,
    distance,
    energy,
    fraction,
    hours,
    power,
    sentence,
    speed,
    words,
)
from parhelion.rail.models import (
    Answer,
    Distance,
    DockDay,
    Dusk,
    HeldBackBy,
    LiveSpeed,
    Rail,
    RailCell,
    Range,
    Refill,
    SteadySpeed,
    SunShare,
)
from parhelion.rail.steps import FIRST_PANEL_W

LIMIT_WORDS = {
    "bank full": "bank full by day",
    "bank empty": "bank at its reserve",
    "controller clips": "a controller clips",
    "drive": "the drive's rating",
    "hours of light": "hours of light",
    "stream": "the stream",
    "rest": "a day at rest",
    "strings": "the wiring",
    "array": "the panels",
    "house": "the house",
    "weather": "wind and waves",
    "sun": "too little sun",
    "charge": "the bank's charge",
}
ALONE = ("rest", "strings", "array", "house", "weather", "sun", "charge")  # limits that nothing stands beside


def rail_kind(design: BoatDesign) -> Rail:
    """Which rail a design gets: what it lacks comes before what it is for."""
    if not design.banks and not design.panels:
        return "nothing_yet"
    if not design.banks:
        return "no_bank"
    if not design.panels:
        return "no_panels"
    kinds: dict[Use, Rail] = {
        Use.CRUISER: "cruiser",
        Use.AUXILIARY: "auxiliary",
        Use.HOME_CHARGED: "home_charged",
    }
    return kinds[design.use]


Ends = tuple[Quantity, Quantity]


def _cell(
    key: str,
    label: str,
    answer: Answer,
    value: Quantity | None,
    lines: list[Sentence],
    band: Ends | None = None,
) -> RailCell:
    return RailCell(
        key=key,
        label=label,
        value=value,
        lines=lines,
        reason=answer.reason,
        mend=answer.mend,
        assumes=answer.assumes,
        why=answer.why,
        band=band,
    )


def _speed_ends(found: SteadySpeed) -> Ends | None:
    """The band as it is shown beside a speed; none about a boat that stands still."""
    if not found.speed_mps or found.low_mps is None or found.high_mps is None or found.ground_mps == 0:
        return None
    carried = 0.0 if found.ground_mps is None else found.ground_mps - found.speed_mps
    return speed(max(found.low_mps + carried, 0.0)), speed(found.high_mps + carried)


def _distance_ends(found: Distance) -> Ends | None:
    """The same about a distance."""
    if not found.distance_m or found.low_m is None or found.high_m is None or found.ground_m == 0:
        return None
    carried = 0.0 if found.ground_m is None else found.ground_m - found.distance_m
    return distance(max(found.low_m + carried, 0.0)), distance(found.high_m + carried)


def _range_ends(found: Range) -> Ends | None:
    """The same about hours at one speed: a stream makes more, or less, of each of them."""
    if not found.distance_m or found.low_m is None or found.high_m is None or found.ground_m == 0:
        return None
    made_good = 1.0 if found.ground_m is None else found.ground_m / found.distance_m
    return distance(made_good * found.low_m), distance(made_good * found.high_m)


OVER_GROUND = ", over ground"


def _spoken(found: LiveSpeed | SteadySpeed) -> tuple[Quantity | None, str, list[Sentence]]:
    """A speed as it is shown, its label's end, and the one through the water where there is a stream."""
    if found.speed_mps is None:
        return None, "", []
    if found.ground_mps is None:
        return speed(found.speed_mps), "", []
    water = sentence("through the water {v}", v=speed(found.speed_mps))
    return speed(found.ground_mps), OVER_GROUND, [water]


def _gone(found: Distance | Range) -> tuple[Quantity | None, str, list[Sentence]]:
    """A distance as it is shown, the same way."""
    if found.distance_m is None:
        return None, "", []
    if found.ground_m is None:
        return distance(found.distance_m), "", []
    water = sentence("through the water {d}", d=distance(found.distance_m))
    return distance(found.ground_m), OVER_GROUND, [water]


def steady_cell(steady: SteadySpeed, noon: LiveSpeed, now: LiveSpeed) -> RailCell:
    value, ground, lines = _spoken(steady)
    lines += [sentence("over {h} a day", h=hours(steady.hours))] if steady.hours else []
    at_noon, at_once = _spoken(noon)[0], _spoken(now)[0]
    if at_noon is not None and at_once is not None:
        lines.append(sentence("noon {noon} · now {now}", noon=at_noon, now=at_once))
    return _cell("sun_only_steady", f"Sun-only speed{ground}", steady, value, lines, _speed_ends(steady))


def push_line(name: str, speed_mps: float) -> Sentence:
    """What people's own work beside the sun makes of a speed."""
    return sentence("with {name} {v}", name=words(name.lower()), v=speed(speed_mps))


def with_line(cell: RailCell, line: Sentence) -> RailCell:
    """The cell with another line before its own."""
    return cell.model_copy(update={"lines": [line, *cell.lines]})


def _ninth_line(ninth: Distance) -> Sentence:
    """The tenth percentile, named after the days it stands for."""
    reached = _gone(ninth)[0]
    assert reached is not None
    sky = ninth.assumes.slots["sky"]
    return sentence("9 of 10 {sky} days: ≥ {d}", d=reached, sky=sky)


def run_cell(sun: Distance, bank: Distance, ninth: Distance) -> RailCell:
    value, ground, water = _gone(sun)
    lines = []
    with_bank = _gone(bank)[0]
    if with_bank is not None:
        lines.append(sentence("with the bank {d}", d=with_bank))
    if ninth.distance_m is not None:
        lines.append(_ninth_line(ninth))
    return _cell("days_run_sun", f"Day's run on sun{ground}", sun, value, lines + water, _distance_ends(sun))


def dusk_cell(dusk: Dusk, reserve: float | None) -> RailCell:
    lines = []
    if dusk.low_frac is not None and dusk.high_frac is not None:
        lines.append(
            sentence("{low} to {high} on 8 of 10 days", low=fraction(dusk.low_frac),
                     high=fraction(dusk.high_frac))
        )  # fmt: skip
    if reserve is not None:
        lines.append(sentence("reserve {r}", r=fraction(reserve)))
    value = None if dusk.soc_frac is None else fraction(dusk.soc_frac)
    return _cell("bank_at_dusk", "Bank at dusk", dusk, value, lines)


def refill_cell(refill: Refill) -> RailCell:
    lines = []
    if refill.nine_in_ten_days:
        lines.append(sentence("{d} or less 9 times in 10", d=days(refill.nine_in_ten_days)))
    if refill.from_reserve_days is not None:
        lines.append(sentence("from the reserve {d}", d=days(refill.from_reserve_days)))
    value = None if refill.days is None else days(refill.days)
    return _cell("refill", "Refill at the dock", refill, value, lines)


def win_back_cell(refill: Refill) -> RailCell:
    value = None if refill.from_reserve_days is None else days(refill.from_reserve_days)
    lines = []
    if refill.days is not None:
        lines.append(sentence("from this plan's dusk {d}", d=days(refill.days)))
    return _cell("refill", "Won back by the sun", refill, value, lines)


def held_cell(held: HeldBackBy) -> RailCell:
    lines = []
    if held.step is not None:
        value = words(held.step.key)
        label = held.step.label
        gain = words("no end") if held.step.keeps_up else distance(held.step.gain_m, signed=True)
        lines.append(Sentence(text=f"{label.text}: {{gain}}", slots={**label.slots, "gain": gain}))
        names = {
            "panel": "array area",
            "battery": "bank size",
            "house": "house loads",
            "mass": "mass aboard",
            "chemistry": "the bank's chemistry",
            "propeller": "the propeller",
            "drive": "the drive",
            "hours": "hours under way",
        }
        value = words(names[held.step.key])
    elif held.limits and held.limits[0] in ALONE:
        return _cell("held_back_by", "Held back by", held, words(LIMIT_WORDS[held.limits[0]]), lines)
    elif "stream" in held.limits:
        value = words("the stream")
        lines.append(sentence("wait for the turn"))
    else:
        value = words("nothing")
        lines.append(sentence("go slower or longer"))
    if held.limits:
        lines.append(sentence("{limits}", limits=words(", ".join(LIMIT_WORDS[item] for item in held.limits))))
    return _cell("held_back_by", "Held back by", held, value, lines)


def range_cell(reach: Range) -> RailCell:
    value, ground, through = _gone(reach)
    lines = [sentence("at {v}", v=speed(reach.speed_mps))]
    if reach.hours is not None:
        lines = [sentence("{h} at {v}", h=hours(reach.hours), v=speed(reach.speed_mps))]
    if reach.keeps_up:
        value = words("no end")
        if reach.low_m is not None:
            lines.append(sentence("9 of 10 such boats and days: ≥ {d}", d=distance(reach.low_m)))
    ends = _range_ends(reach)
    return _cell("range_at_speed", f"Range to the reserve{ground}", reach, value, through + lines, ends)


def share_cell(share: SunShare) -> RailCell:
    value = None if share.share_frac is None else fraction(share.share_frac)
    lines = []
    if share.minutes_won is not None and share.distance_won_m is not None:
        lines.append(
            sentence("{h} and {d} more", h=hours(share.minutes_won / 60), d=distance(share.distance_won_m))
        )
    return _cell("sun_share", "Won from the sun", share, value, lines)


def dock_cell(found: DockDay) -> RailCell:
    """What a day at the dock gives, where the panels give there alone."""
    lines = [
        sentence(
            "{e} of sun, from the reserve to {x}", e=energy(found.harvest_wh), x=fraction(found.soc_frac)
        )
    ]
    return _cell("dock_day", "A day at the dock gives", found, distance(found.distance_m), lines)


def live_cell(noon: LiveSpeed, now: LiveSpeed) -> RailCell:
    value, ground, lines = _spoken(noon)
    at_once = _spoken(now)[0]
    if at_once is not None:
        lines.append(sentence("now {v}", v=at_once))
    return _cell("sun_only_noon", f"Speed at noon, live sun{ground}", noon, value, lines)


def live_distance_cell(run: Distance, ninth: Distance) -> RailCell:
    value, ground, lines = _gone(run)
    if ninth.distance_m is not None:
        lines.append(_ninth_line(ninth))
    return _cell("days_distance", f"Day's distance{ground}", run, value, lines)


def first_panel_cell(answer: SteadySpeed, run: Distance) -> RailCell:
    """What a first panel would give a boat that has none."""
    lines = [sentence("a first {w} panel, flat", w=power(FIRST_PANEL_W))]
    if run.distance_m:
        lines.append(sentence("{d} a day on sun", d=distance(run.distance_m)))
    value = None if answer.speed_mps is None else speed(answer.speed_mps)
    return _cell("first_panel", "A panel would give", answer, value, lines)
