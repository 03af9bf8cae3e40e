"""What a passage tells: whether she is home, when to leave and to turn, what waits on the way."""

from __future__ import annotations

from bisect import bisect_left
from collections.abc import Callable, Iterable
from typing import cast

from parhelion.balance.ahead import blown
from parhelion.balance.winds import steady
from parhelion.design import BoatDesign, PushKind, Use
from parhelion.design.passage import Going
from parhelion.finding import Finding, Level, ordered
from parhelion.formats.route_file import between
from parhelion.quantities import (
    Fact,
    Quantity,
    Why,
    angle,
    count,
    distance,
    fraction,
    hours,
    power,
    sentence,
    speed,
    words,
)
from parhelion.route.held import LEG
from parhelion.stations.passage.cells import DARK_H, TURN_METHOD, no_arrival
from parhelion.stations.passage.departures import dark_h, trouble_of
from parhelion.stations.passage.hour_findings import (
    against_stream,
    in_time,
    leaving,
    no_window,
    ramp,
    tomorrow,
    waiting,
)
from parhelion.stations.passage.mark_findings import too_near
from parhelion.stations.passage.plans import GRID_H, held, speed_of, speed_that_keeps
from parhelion.stations.passage.voyage import Voyage, voyage_of
from parhelion.stations.passage.words import SOURCE, clock_of, day_words, passage_finding, start_of, why

FAR_STATION_M = 50_000.0
MOSTLY = 0.9  # of the skies: what is called home
WINDS_MPS = (3.0, 4.0, 5.0, 6.0, 7.0, 8.0, 9.0, 10.0, 12.0)  # tried on the nose
BREEZE_MPS = 4.0  # a wind that is worth entering with its direction


def arrival(voyage: Voyage) -> Finding | None:
    """Whether she gets there, on the shown day and on a poor one."""
    plan = voyage.plan
    ahead = plan.ahead
    trouble = trouble_of(plan, ahead.in_by_h)
    if trouble == "stands":
        return passage_finding(
            "stands",
            "warn",
            sentence("She does not arrive"),
            no_arrival(plan),
            why(plan),
            "/passage/leaves_at",
        )
    if ahead.store is None:
        return None
    end = words(ahead.marks[-1].name)
    if plan.stops_h is not None:
        at = plan.stops_h
        mark = ahead.marks[int(plan.rows[min(int(at / GRID_H), len(plan.rows) - 1), LEG]) + 1].name
        return passage_finding(
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
    certain = voyage.sure
    assert certain is not None  # she arrives, with a bank
    days = {"n": count(certain.arriving), "m": count(certain.skies)}
    low, middle, high = (fraction(one) for one in certain.arrival_soc)
    if certain.share_arriving_frac < MOSTLY:
        return passage_finding(
            "poor_day",
            "warn",
            sentence("Above the reserve at {end} on {n} of {m} such days", end=end, **days),
            sentence(
                "On the others the motor stops, mostly on the way to {mark}. "
                "On the middle day {soc} is left.",
                mark=words(certain.deciding_leg or ahead.marks[-1].name),
                soc=middle,
            ),
            why(plan),
            "/passage/pace",
        )
    return passage_finding(
        "home",
        "good",
        sentence("Above the reserve at {end} on {n} of {m} such days", end=end, **days),
        sentence(
            "{middle} is left on the middle day, {low} or more on 9 of 10" + day_words(plan.arrives_h) + ".",
            middle=middle,
            low=low,
        ),
        why(plan, band=sentence("{low} to {high} on 8 of 10", low=low, high=high)),
    )


def whole_m(voyage: Voyage) -> float:
    """Length of the whole way as it is planned [m]."""
    return (voyage.begun or voyage.ahead).length_m


def under_way(voyage: Voyage) -> Finding | None:
    """How she stands against the plan, and the speed that brings her in from here."""
    now, plan = voyage.ahead.passage.now, voyage.plan
    if now is None:
        return None
    if now.gone_m >= whole_m(voyage):
        return passage_finding(
            "there",
            "good",
            sentence("She has come the whole way"),
            sentence("Go back to the plan from the start, or say where she is."),
            why(plan),
            "/passage/now/gone_m",
        )
    planned, hour = voyage.planned_soc, voyage.planned_h
    if hour is None:
        return None
    late = voyage.ahead.leaves_h - hour
    slots: dict[str, Quantity] = {"late": hours(abs(late))}
    text = "{late} " + ("behind" if late > 0 else "ahead of") + " the plan"
    if planned is not None and now.charge_frac is not None:
        off = now.charge_frac - planned
        slots["off"] = fraction(abs(off))
        text = "{off} " + ("under" if off < 0 else "over") + " the plan, and " + text
    detail = sentence("The rest is planned anew from here, with what the meter says.")
    if not plan.good and voyage.ahead.bank is not None:
        slower = speed_that_keeps(voyage.ahead)
        if slower is None:
            detail = sentence("From here no speed brings her in with the reserve kept: make for a refuge.")
        else:
            detail = sentence(
                "{v} instead of {was} brings her in with the reserve kept.",
                v=speed(slower),
                was=speed(plan.value if plan.pace is Going.SPEED and plan.value else speed_of(voyage.ahead)),
            )
    level: Level = "note" if plan.good else "warn"
    return passage_finding(
        "under_way", level, sentence(text, **slots), detail, why(plan), "/passage/now/charge_frac"
    )


def turn_back(voyage: Voyage) -> Finding | None:
    """The last turn."""
    turn, plan = voyage.turn, voyage.plan
    if plan.ahead.store is None or plan.ahead.outward == 0:
        return None
    if turn is None:
        return passage_finding(
            "no_turn",
            "warn",
            sentence("Even turned at once she is not home above the reserve"),
            sentence("Under a poor sky, by {by}.", by=clock_of(plan.ahead.in_by_h)),
            why(plan, method=TURN_METHOD),
            "/passage/in_by",
        )
    if turn.everywhere:
        return None
    return passage_finding(
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


def back_to_refuges(voyage: Voyage) -> list[Finding | None]:
    """Where home is not within reach all the way out: the last turn back to each refuge that is passed."""
    if voyage.turn is not None and voyage.turn.everywhere:
        return []
    found: list[Finding | None] = []
    for refuge in voyage.refuges:
        turn, name = refuge.turn, words(refuge.name)
        detail = sentence("Above the reserve by {by} under a poor sky.", by=clock_of(voyage.ahead.in_by_h))
        if turn is None:
            level, title = "warn", sentence("{name}: once past it she does not get back to it", name=name)
        elif turn.everywhere:
            level, title = "good", sentence("{name} is within reach from all the way beyond it", name=name)
        else:
            level = "note"
            title = sentence("Back to {name} by {at}", name=name, at=clock_of(turn.hours))
        found.append(
            passage_finding(
                f"refuge/{refuge.leg_id}", cast(Level, level), title, detail,
                why(voyage.plan, method=TURN_METHOD),
            )
        )  # fmt: skip
    return found


def faster_than_drive(voyage: Voyage) -> Finding | None:
    """A speed or a throttle that the drive does not have."""
    plan, ahead = voyage.plan, voyage.ahead
    asked = ahead.passage.speed_mps or ahead.design.plan.speed_mps
    if plan.pace is Going.SPEED and asked > ahead.demand.top_mps * 1.001:
        return passage_finding(
            "too_fast",
            "warn",
            sentence("The motor does not give {v}", v=speed(asked)),
            sentence("Its most is {top}: the passage is planned at that.", top=speed(ahead.demand.top_mps)),
            why(plan),
            "/passage/speed_mps",
        )
    watts = ahead.passage.throttle_w
    if plan.pace is Going.THROTTLE and watts is not None and watts > ahead.outlook.rated_w * 1.001:
        return passage_finding(
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
    dark = dark_h(plan) if plan.arrives else 0.0
    if dark < DARK_H:
        return None
    return passage_finding(
        "dark",
        "warn",
        sentence("Lights: {h} under way in the dark", h=hours(dark)),
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
        sails = any(push.kind is PushKind.SAIL for push in ahead.design.pushes)
        if sails or ahead.design.use is Use.AUXILIARY:
            return passage_finding(
                "by_sail",
                "note",
                sentence("Without the motor: home under sail, if there is wind"),
                sentence("Her speed by hand or sail, where it is given, says in how many hours."),
                why(plan),
                "/passage/hand_mps",
            )
        if motors > 1:
            return None
        return passage_finding(
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
        return passage_finding(
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
    return passage_finding(
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
    setting_out = voyage.ahead.winds.at(voyage.plan.leaves_h)
    wind = setting_out.mps
    if setting_out.from_deg is not None or wind < BREEZE_MPS:
        return None
    return passage_finding(
        "wind",
        "warn",
        sentence("A wind of {w}, and no word from where", w=speed(wind)),
        sentence("On the nose it costs a slow boat a good part of her bank. Say where it comes from."),
        why(voyage.plan),
        "/passage/wind_from_deg",
    )


def wind_that_ends_it(voyage: Voyage) -> Finding | None:
    """The least head wind on the longest leg home with which the plan no longer holds."""
    plan, ahead = voyage.plan, voyage.ahead
    if not plan.good or plan.pace is not Going.SPEED or ahead.store is None:
        return None
    legs = ahead.legs[ahead.outward :] or ahead.legs
    longest = max(legs, key=lambda leg: leg.length_m)
    stronger = [wind for wind in WINDS_MPS if wind > ahead.winds.strongest_mps]

    def ends(wind: float) -> bool:
        against = blown(ahead, steady(longest.course_deg, wind, ahead.winds.highest_waves_m))
        return not held(against, Going.SPEED, plan.leaves_h, plan.value).good

    first = bisect_left(stronger, True, key=ends)  # what ends it in one wind does so in a stronger one
    if first == len(stronger):
        return None
    return passage_finding(
        "wind_ends_it",
        "note",
        sentence(
            "A wind of {w} from {deg} ends it",
            w=speed(stronger[first]),
            deg=angle(longest.course_deg % 360),
        ),
        sentence("On the nose of the longest leg home, at the same speed, it takes the reserve or the hour."),
        why(plan),
        "/passage/wind_from_deg",
    )


def far_station(voyage: Voyage) -> Finding | None:
    """A tide that is another place's, or of a station that is not known here."""
    tide, ahead = voyage.ahead.passage.tide, voyage.ahead
    if tide is None or tide.station_id is None:
        return None
    station = ahead.waters.station
    if station is None:
        return passage_finding(
            "no_station",
            "warn",
            sentence("The tide station is not known here"),
            sentence("High waters go by the hour that is given, or noon: choose a station, or type it."),
            why(voyage.plan),
            "/passage/tide/station_id",
        )
    start = start_of(ahead.design.site, ahead.passage)
    away = between(start, (station.latitude_deg, station.longitude_deg))[0]
    if away < FAR_STATION_M:
        return None
    return passage_finding(
        "far_station",
        "warn",
        sentence("The tide is that of {name}, {d} away", name=words(station.name), d=distance(away)),
        sentence("High water moves by an hour within some tens of miles of a coast: look for a nearer one."),
        why(voyage.plan),
        "/passage/tide/station_id",
    )


def no_reason_to_go(voyage: Voyage) -> Finding | None:
    """The standing caution."""
    tidal = voyage.ahead.passage.tide is not None or any(leg.stream is not None for leg in voyage.ahead.legs)
    more = (
        " Streams and tides here are sums, not for navigation: the official tables and charts rule."
        if tidal
        else ""
    )
    return passage_finding(
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


Rule = Callable[[Voyage], Finding | None]
RULES: tuple[Rule, ...] = (
    under_way,
    arrival,
    in_time,
    turn_back,
    no_window,
    leaving,
    tomorrow,
    waiting,
    ramp,
    faster_than_drive,
    against_stream,
    wind_uncounted,
    wind_that_ends_it,
    far_station,
    in_the_dark,
    without_motor,
    no_reason_to_go,
)

ADVICE = {leaving, tomorrow, against_stream, wind_that_ends_it, no_reason_to_go}  # none of them ever warns


def _told(design: BoatDesign, rules: Iterable[Rule]) -> list[Finding]:
    voyage = voyage_of(design)
    if voyage is None:
        return []
    return ordered([*too_near(voyage), *(rule(voyage) for rule in rules), *back_to_refuges(voyage)])


def passage_findings(design: BoatDesign) -> list[Finding]:
    """What the passage tells; nothing for a design without one."""
    return _told(design, RULES)


def passage_warnings(design: BoatDesign) -> list[Finding]:
    """All its warnings, without the advice that takes as long again."""
    return _told(design, (rule for rule in RULES if rule not in ADVICE))
