"""What a passage tells of its hours: late, a better hour to leave, the stream, what is shut."""

from __future__ import annotations

from datetime import timedelta

from parhelion.balance.ahead import ahead_of
from parhelion.balance.waters import passable_h
from parhelion.design.passage import Going, MarkKind, StreamKind
from parhelion.finding import Finding
from parhelion.quantities import fraction, hours, sentence, words
from parhelion.route.held import GROUND, LEG, SPEED
from parhelion.stations.passage.cells import DARK_H
from parhelion.stations.passage.departures import dark_h, trouble_of, windows
from parhelion.stations.passage.plans import GRID_H, chosen
from parhelion.stations.passage.voyage import Voyage
from parhelion.stations.passage.words import clock_of, passage_finding, why

SLOWED = 1.3  # times as long as in slack water: told
WAITS_H = 0.1
BETTER_SOC = 0.04  # more on arrival is worth another hour of leaving
KINDER = "Another hour of leaving may meet a kinder stream."
RIVER = "It runs at all hours: slower there costs less in the bank than it saves in time."


def in_time(voyage: Voyage) -> Finding | None:
    """Whether she is in by the hour she wants."""
    plan = voyage.plan
    if trouble_of(plan, plan.ahead.in_by_h) != "late":
        return None
    said = plan.ahead.passage.in_by is not None
    by = clock_of(plan.ahead.in_by_h)
    return passage_finding(
        "late",
        "warn",
        sentence(
            "In at {at}, {late} after " + ("the hour you set" if said else "sunset"),
            at=clock_of(plan.arrives_h),
            late=hours(plan.arrives_h - plan.ahead.in_by_h),
        ),
        sentence("In by {by} was asked. Leave earlier, or go faster.", by=by),
        why(plan),
        "/passage/in_by",
    )


def no_window(voyage: Voyage) -> Finding | None:
    """No hour of the day that will do, hers no more than another."""
    plan = voyage.plan
    if plan.good or windows(voyage.departures):
        return None
    return passage_finding(
        "no_window",
        "warn",
        sentence("No half hour of this day will do"),
        sentence(
            "Of 48 departures none is in by {by} with the reserve kept. Another day, another speed, "
            "or another way.",
            by=clock_of(plan.ahead.in_by_h),
        ),
        why(plan),
        "/passage/leaves_at",
    )


def leaving(voyage: Voyage) -> Finding | None:
    """A better hour to leave."""
    plan = voyage.plan
    found = windows(voyage.departures)
    if not found:
        return None
    if not plan.good:
        longest = max(found, key=lambda one: one.to_h - one.from_h)
        return passage_finding(
            "window",
            "note",
            sentence("Leave between {a} and {b}", a=clock_of(longest.from_h), b=clock_of(longest.to_h)),
            sentence(
                "Every half hour between keeps the reserve and is in by {by}.",
                by=clock_of(plan.ahead.in_by_h),
            ),
            why(plan),
            "/passage/leaves_at",
        )
    soc = plan.arrival_soc
    dark = dark_h(plan) + DARK_H
    done = [one for one in voyage.departures if one.trouble is None and one.dark_h <= dark]
    if soc is None or not done:
        return None
    top = max(done, key=lambda one: one.arrival_soc_frac or 0.0)
    gain = (top.arrival_soc_frac or 0.0) - soc
    if gain < BETTER_SOC:
        return None
    later = top.leaves_h - plan.leaves_h
    side = "later" if later > 0 else "earlier"
    return passage_finding(
        "better_hour",
        "note",
        sentence(
            "Leave {h} " + side + ": {gain} on arrival", h=hours(abs(later)), gain=fraction(gain, signed=True)
        ),
        sentence(
            "At {at} she is in at {in_at}.", at=clock_of(top.leaves_h), in_at=clock_of(top.arrives_h or 0.0)
        ),
        why(plan),
        "/passage/leaves_at",
    )


def tomorrow(voyage: Voyage) -> Finding | None:
    """The same passage a day later, where this day does not do; with a typed high water that is not known."""
    plan, ahead = voyage.plan, voyage.ahead
    tide = ahead.passage.tide
    if plan.good or ahead.store is None or ahead.passage.now is not None:
        return None
    if tide is not None and tide.station_id is None:
        return None
    design = ahead.design
    later = design.plan.model_copy(update={"date": design.plan.date + timedelta(days=1)})
    next_day = chosen(ahead_of(design.changed(plan=later), ahead.passage))
    if not next_day.good or next_day.arrival_soc is None:
        return None
    return passage_finding(
        "tomorrow",
        "note",
        sentence("Tomorrow at the same hour she is in at {at}", at=clock_of(next_day.arrives_h)),
        sentence(
            "With {soc}, under the same sky and the tide of that day.", soc=fraction(next_day.arrival_soc)
        ),
        why(next_day),
        "/plan/date",
    )


def against_stream(voyage: Voyage) -> Finding | None:
    """The leg that the stream lengthens most."""
    plan = voyage.plan
    worst, times = None, SLOWED
    for k, leg in enumerate(plan.ahead.legs):
        mine = (plan.rows[:, LEG] == k) & (plan.rows[:, GROUND] > 0)
        if leg.stream is None or not mine.any():
            continue
        through = float(plan.rows[mine, SPEED].mean())
        taken, slack = float(mine.sum()) * GRID_H, leg.length_m / max(through, 1e-6) / 3600
        if slack > 0 and taken / slack > times:
            worst, times = (k, taken, slack), taken / slack
    if worst is None:
        return None
    k, taken, slack = worst
    entered = plan.ahead.passage.legs[
        plan.ahead.marks[k + 1].leg_index if k < plan.ahead.outward else 2 * plan.ahead.outward - k - 1
    ]
    turns = entered.stream is not None and entered.stream.kind is not StreamKind.STEADY
    return passage_finding(
        "against",
        "note",
        sentence(
            "Against the stream the leg to {mark} takes {h}",
            mark=words(plan.ahead.marks[k + 1].name),
            h=hours(taken),
        ),
        sentence("In slack water {s}. " + (KINDER if turns else RIVER), s=hours(slack)),
        why(plan),
        "/passage/leaves_at",
    )


def waiting(voyage: Voyage) -> Finding | None:
    """A gate that is shut when she comes, or a stream that she has to wait out."""
    plan = voyage.plan
    if plan.ahead.passage.pace in (Going.EARLIEST, Going.MOST) or not plan.arrives:
        return None
    found = []
    for k, mark in enumerate(plan.ahead.marks[1:-1]):
        arrives, onward = plan.hour_at(mark.passed_m), plan.hour_at(mark.passed_m + 2.0)
        if arrives is None or onward is None:
            continue
        found.append((onward - arrives - plan.ahead.legs[k].stop_s / 3600, mark.name, arrives))
    longest = max(found, default=(0.0, "", 0.0))
    if longest[0] < WAITS_H:
        return None
    return passage_finding(
        "waits",
        "warn",
        sentence("She waits {h} at {mark}", h=hours(longest[0]), mark=words(longest[1])),
        sentence(
            "She is there at {at}, and it is shut or the stream is the stronger. Hurry, or leave later.",
            at=clock_of(longest[2]),
        ),
        why(plan),
        "/passage/leaves_at",
    )


def ramp(voyage: Voyage) -> Finding | None:
    """Whether the ramp at the end floats her when she comes."""
    plan = voyage.plan
    ahead = plan.ahead
    index = ahead.marks[-1].leg_index
    if index < 0 or not plan.arrives:
        return None
    leg = ahead.passage.legs[index]
    open_at = passable_h(leg, ahead.waters, ahead.midnight, ahead.days)
    if leg.mark is not MarkKind.RAMP or not open_at:
        return None
    if any(a <= plan.arrives_h <= b for a, b in open_at):
        return None
    opens, shuts = min((x for x in open_at if x[0] > plan.arrives_h), default=open_at[-1])
    does = "floats her" if leg.open_h is not None else "is open"
    return passage_finding(
        "ramp",
        "warn",
        sentence(
            f"The ramp {does} {{a}} to {{b}}; she is there {{at}}",
            a=clock_of(opens),
            b=clock_of(shuts),
            at=clock_of(plan.arrives_h),
        ),
        sentence("Slow down, leave later, or wait {h} off it.", h=hours(opens - plan.arrives_h)),
        why(plan),
        f"/passage/legs/{index}/{'hours/opens_at' if leg.open_h is None else 'open_h'}",
    )
