"""What a passage tells: whether she is home, when to leave and to turn, what waits on the way."""

from __future__ import annotations

from collections.abc import Callable

from parhelion.balance.ahead import RUN_S, high_waters_h
from parhelion.balance.flow import RAN
from parhelion.design import BoatDesign, PushKind
from parhelion.design.passage import Going, MarkKind, StreamKind
from parhelion.finding import Finding, Level, ordered
from parhelion.quantities import (
    Fact,
    Sentence,
    Why,
    distance,
    fraction,
    hours,
    power,
    sentence,
    speed,
    words,
)
from parhelion.route.held import GROUND, LEG, SPEED
from parhelion.stations.passage.cells import DARK_H, TURN_METHOD, no_arrival
from parhelion.stations.passage.departures import dark_h, trouble_of, windows
from parhelion.stations.passage.plans import GRID_H, POOR, Plan
from parhelion.stations.passage.voyage import Voyage, voyage_of
from parhelion.stations.passage.words import SOURCE, clock_of, day_words, why

SLOWED = 1.3  # times as long as in slack water: told
WAITS_H = 0.1
BREEZE_MPS = 4.0  # a wind that is worth entering with its direction
BETTER_SOC = 0.04  # more on arrival is worth another hour of leaving
KINDER = "Another hour of leaving may meet a kinder stream."
RIVER = "It runs at all hours: slower there costs less in the bank than it saves in time."


def _finding(
    key: str,
    level: Level,
    title: Sentence,
    detail: Sentence,
    reason: Why,
    field: str | None = None,
    caution: bool = False,
) -> Finding:
    return Finding(
        id=f"passage_{key}", level=level, title=title, detail=detail, why=reason, field=field, caution=caution
    )


def arrival(voyage: Voyage) -> Finding | None:
    """Whether she gets there, on the shown day and on a poor one."""
    plan = voyage.plan
    ahead, soc = plan.ahead, plan.arrival_soc
    trouble = trouble_of(plan, ahead.in_by_h)
    if trouble == "stands":
        return _finding(
            "stands",
            "warn",
            sentence("She does not arrive"),
            no_arrival(plan),
            why(plan),
            "/passage/leaves_at",
        )
    if ahead.store is None or soc is None:
        return None
    end = words(ahead.marks[-1].name)
    if trouble == "reserve":
        at, mark = _stopped(plan)
        return _finding(
            "reserve",
            "warn",
            sentence("The motor stops at the reserve at {at}", at=clock_of(at)),
            sentence(
                "That is on the way to {mark}. Slower, later, or with more in the bank she may do it.",
                mark=words(mark),
            ),
            why(plan, Fact(label="Reserve", value=fraction(ahead.store.reserve))),
            "/passage/pace",
        )
    poor = plan.soc_at(plan.arrives_h, POOR)
    if not plan.keeps_reserve_poor:
        at, mark = _stopped(plan, POOR)
        return _finding(
            "poor_day",
            "warn",
            sentence("On a poor day the motor stops off {mark}", mark=words(mark)),
            sentence(
                "One such day in ten gives less than that day: at {at} the reserve is reached. "
                "On the middle day she is at {end} with {soc}.",
                at=clock_of(at),
                end=end,
                soc=fraction(soc),
            ),
            why(plan),
            "/passage/pace",
        )
    return _finding(
        "home",
        "good",
        sentence("At {end} with {soc}", end=end, soc=fraction(soc)),
        sentence(
            "On a poor day {poor}, the reserve kept all the way." + day_words(plan.arrives_h),
            poor=fraction(poor or 0.0),
        ),
        why(plan),
    )


def _stopped(plan: Plan, member: int = 0) -> tuple[float, str]:
    """When the motor is stopped, and the mark she makes for then."""
    ran = plan.record[member, :, RAN]
    first = next((k for k, share in enumerate(ran) if share < 1 - 1e-9), len(ran) - 1)
    at = plan.first_h + first * RUN_S / 3600
    leg = int(plan.rows[min(int(at / GRID_H), len(plan.rows) - 1), LEG])
    return at, plan.ahead.marks[leg + 1].name


def in_time(voyage: Voyage) -> Finding | None:
    """Whether she is in by the hour she wants."""
    plan = voyage.plan
    if trouble_of(plan, plan.ahead.in_by_h) != "late":
        return None
    said = plan.ahead.passage.in_by is not None
    by = clock_of(plan.ahead.in_by_h)
    return _finding(
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


def turn_back(voyage: Voyage) -> Finding | None:
    """The last turn."""
    turn, plan = voyage.turn, voyage.plan
    if plan.ahead.store is None:
        return None
    if turn is None:
        return _finding(
            "no_turn",
            "warn",
            sentence("Even turned at once she is not home above the reserve"),
            sentence("Under a poor sky, by {by}.", by=clock_of(plan.ahead.in_by_h)),
            why(plan, method=TURN_METHOD),
            "/passage/in_by",
        )
    if turn.everywhere:
        return None
    return _finding(
        "turn_back",
        "warn",
        sentence("Turn back by {at}, {d} out", at=clock_of(turn.hours), d=distance(turn.out_m)),
        sentence(
            "Later than that she is not home above the reserve by {by} under a poor sky. 20 minutes are "
            "kept in hand.",
            by=clock_of(plan.ahead.in_by_h),
        ),
        why(plan, method=TURN_METHOD),
    )


def leaving(voyage: Voyage) -> Finding | None:
    """A better hour to leave."""
    plan = voyage.plan
    found = windows(voyage.departures)
    if not found:
        return _finding(
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
    if not plan.good:
        longest = max(found, key=lambda one: one.to_h - one.from_h)
        return _finding(
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
    dark = dark_h(plan.ahead, plan.leaves_h, plan.arrives_h) + DARK_H
    done = [one for one in voyage.departures if one.trouble is None and one.dark_h <= dark]
    if soc is None or not done:
        return None
    top = max(done, key=lambda one: one.arrival_soc_frac or 0.0)
    gain = (top.arrival_soc_frac or 0.0) - soc
    if gain < BETTER_SOC:
        return None
    later = top.leaves_h - plan.leaves_h
    side = "later" if later > 0 else "earlier"
    return _finding(
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
    return _finding(
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
    return _finding(
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
    if index < 0 or not plan.arrives or ahead.passage.tide is None:
        return None
    leg = ahead.passage.legs[index]
    if leg.mark is not MarkKind.RAMP or leg.open_h is None:
        return None
    first = ahead.hour_of(ahead.passage.tide.high_water)
    floats = [(h - leg.open_h, h + leg.open_h) for h in high_waters_h(ahead.passage, ahead.days, first)]
    if any(a <= plan.arrives_h <= b for a, b in floats):
        return None
    opens, shuts = min((x for x in floats if x[0] > plan.arrives_h), default=floats[-1])
    return _finding(
        "ramp",
        "warn",
        sentence(
            "The ramp floats her {a} to {b}; she is there {at}",
            a=clock_of(opens),
            b=clock_of(shuts),
            at=clock_of(plan.arrives_h),
        ),
        sentence("Slow down, leave later, or wait {h} off it.", h=hours(opens - plan.arrives_h)),
        why(plan),
        f"/passage/legs/{index}/open_h",
    )


def faster_than_drive(voyage: Voyage) -> Finding | None:
    """A speed or a throttle that the drive does not have."""
    plan, ahead = voyage.plan, voyage.ahead
    asked = ahead.passage.speed_mps or ahead.design.plan.speed_mps
    if plan.pace is Going.SPEED and asked > ahead.demand.top_mps * 1.001:
        return _finding(
            "too_fast",
            "warn",
            sentence("The motor does not give {v}", v=speed(asked)),
            sentence("Its most is {top}: the passage is planned at that.", top=speed(ahead.demand.top_mps)),
            why(plan),
            "/passage/speed_mps",
        )
    watts = ahead.passage.throttle_w
    if plan.pace is Going.THROTTLE and watts is not None and watts > ahead.outlook.rated_w * 1.001:
        return _finding(
            "too_much",
            "warn",
            sentence("The motor does not take {w}", w=power(watts)),
            sentence("Its most is {top}: the passage is planned at that.", top=power(ahead.outlook.rated_w)),
            why(plan),
            "/passage/throttle_w",
        )
    return None


def in_the_dark(voyage: Voyage) -> Finding | None:
    """Lights for the hours without sun."""
    plan = voyage.plan
    dark = dark_h(plan.ahead, plan.leaves_h, plan.ends_h) if plan.arrives else 0.0
    if dark < DARK_H:
        return None
    return _finding(
        "dark",
        "warn",
        sentence("Lights: {h} in the dark", h=hours(dark)),
        sentence(
            "Steaming lights, a torch, and someone who keeps a lookout. Local rules say what she must show."
        ),
        why(plan),
        caution=True,
    )


def without_motor(voyage: Voyage) -> Finding | None:
    """What gets her home where the motor fails."""
    plan, ahead = voyage.plan, voyage.ahead
    motors = sum(drive.count for drive in ahead.design.drives)
    if ahead.hand_mps is None:
        if any(push.kind is PushKind.SAIL for push in ahead.design.pushes):
            return _finding(
                "by_sail",
                "note",
                sentence("Without the motor: home under sail, if there is wind"),
                sentence("Her speed by hand or sail, where it is given, says in how many hours."),
                why(plan),
                "/passage/hand_mps",
            )
        if motors > 1:
            return None
        return _finding(
            "one_motor",
            "warn",
            sentence("One motor, and nothing else that moves her"),
            sentence(
                "Name your way home: oars, paddle, sail, pedals, a tow; and an anchor that holds her "
                "until it comes."
            ),
            why(plan),
            "/passage/hand_mps",
            caution=True,
        )
    taken = voyage.by_hand_h
    facts = Fact(label="In still water", value=speed(ahead.hand_mps))
    if taken is None:
        return _finding(
            "by_hand_never",
            "warn",
            sentence("Without the motor the stream does not let her home"),
            sentence(
                "At {v} from the far end. An anchor and a call for a tow are the way home.",
                v=speed(ahead.hand_mps),
            ),
            why(plan, facts),
            "/passage/hand_mps",
            caution=True,
        )
    return _finding(
        "by_hand",
        "note",
        sentence("Without the motor: {h} home from the far end", h=hours(taken)),
        sentence(
            "{d} at {v} through the water, anchored while the stream is the stronger.",
            d=distance(ahead.out_m),
            v=speed(ahead.hand_mps),
        ),
        why(plan, facts),
    )


def wind_uncounted(voyage: Voyage) -> Finding | None:
    """A breeze whose direction is not given."""
    ahead = voyage.ahead
    wind = ahead.design.plan.wind_mps
    if ahead.passage.wind_from_deg is not None or wind < BREEZE_MPS:
        return None
    return _finding(
        "wind",
        "warn",
        sentence("A wind of {w}, and no word from where", w=speed(wind)),
        sentence("On the nose it costs a slow boat a good part of her bank. Say where it comes from."),
        why(voyage.plan),
        "/passage/wind_from_deg",
    )


def no_reason_to_go(voyage: Voyage) -> Finding | None:
    """The standing caution."""
    tidal = voyage.ahead.passage.tide is not None or any(leg.stream is not None for leg in voyage.ahead.legs)
    more = (
        " Streams and tides here are sums, not for navigation: the official tables and charts rule."
        if tidal
        else ""
    )
    return _finding(
        "go",
        "note",
        sentence("A computed arrival is no reason to go"),
        sentence(
            "Look at wind, sea and crew; the forecast and local rules come first. Life jackets, "
            "something to bail with, "
            ""
            "a second way home, and somebody ashore who knows when to call." + more
        ),
        Why(method="The usual cautions", source=SOURCE, doc="passage"),
        caution=True,
    )


RULES: tuple[Callable[[Voyage], Finding | None], ...] = (
    arrival,
    in_time,
    turn_back,
    leaving,
    waiting,
    ramp,
    faster_than_drive,
    against_stream,
    wind_uncounted,
    in_the_dark,
    without_motor,
    no_reason_to_go,
)


def passage_findings(design: BoatDesign) -> list[Finding]:
    """What the passage tells; nothing for a design without one."""
    voyage = voyage_of(design)
    return [] if voyage is None else ordered([rule(voyage) for rule in RULES])
