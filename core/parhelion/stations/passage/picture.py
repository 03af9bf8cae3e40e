"""The passage as it is drawn: the way straightened, marks, speeds, the bank, ways beside it, departures."""

from __future__ import annotations

from datetime import datetime
from typing import Literal

import numpy as np

from parhelion.bank.store import reserve_of
from parhelion.data import sketched_waters
from parhelion.design import BoatDesign
from parhelion.design.passage import Going, MarkKind
from parhelion.quantities import Frozen, Sentence
from parhelion.rail.models import RailCell
from parhelion.route.held import GONE, GROUND, LEG, MOTOR, REST, SPEED
from parhelion.route.way import rough_w
from parhelion.stations.passage.cells import passage_cells
from parhelion.stations.passage.departures import Departure, Trouble, Window, trouble_of, windows
from parhelion.stations.passage.marked import clearances, places_of, spots_of
from parhelion.stations.passage.plans import GRID_H, POOR, SHOWN, Plan
from parhelion.stations.passage.turning import LastTurn, needed_soc
from parhelion.stations.passage.voyage import Voyage, voyage_of
from parhelion.stations.passage.words import assumed, start_of

NEAR_DEG = 0.005  # a start so near a sketched water's place is on it
TIDE_H = 6.5  # a high water so long before or after still rules
POINTS = 150  # of the ribbon, at most
WIDEST_STOPS = 1.0  # all together, over the way
TOLD = {
    Going.SPEED: "one speed", Going.THROTTLE: "one throttle", Going.SUN: "as the sun pays",
    Going.EARLIEST: "earliest", Going.MOST: "most charge",
}  # fmt: skip


class LegShown(Frozen):
    """A leg as it is gone; means over the time under way."""

    name: str
    homeward: bool
    course_deg: float
    distance_m: float
    speed_mps: float | None
    ground_mps: float | None
    stream_mps: float | None  # along the course
    head_wind_mps: float | None  # from ahead; below nothing from astern; None where no wind is counted
    waves_m: float | None  # their height; None where there are none
    waves_w: float | None  # what they add to the watts, by where they come from
    power_w: float | None
    hours: float | None
    from_frac: float  # of the ribbon's width
    to_frac: float


class MarkShown(Frozen):
    """A mark as it is passed; times are hours from the first midnight."""

    name: str
    kind: MarkKind | Literal["start"]
    homeward: bool
    gone_m: float
    arrives_h: float | None
    leaves_h: float | None
    soc_frac: float | None
    poor_frac: float | None
    from_frac: float
    to_frac: float
    east_m: float  # of the start
    north_m: float


class Ribbon(Frozen):
    """Lists over points of the way; a stop is as wide as the way she would have gone in it, or shorter."""

    place_frac: list[float]
    hours: list[float]
    gone_m: list[float]
    speed_mps: list[float]
    ground_mps: list[float]
    stream_mps: list[float]
    motor_w: list[float]
    soc: list[float] | None
    soc_poor: list[float] | None
    soc_needed: list[float | None]  # on the way out: what brings her home from there under a poor sky
    reach_m: list[float | None]  # what she may still go in all, straight, and be in on a poor day
    dark: list[bool]
    east_m: list[float]  # of the start
    north_m: list[float]


class WayShown(Frozen):
    """One way to go, beside the others."""

    pace: Going
    label: str
    chosen: bool
    arrives_h: float | None
    arrival_soc_frac: float | None
    lowest_soc_frac: float | None
    speed_mps: float | None  # where one is held
    trouble: Trouble | None


class RefugeShown(Frozen):
    """A refuge, and when she turns for it at the latest; None where she never gets back to it."""

    name: str
    hours: float | None
    everywhere: bool


class TurnShown(Frozen):
    """The last turn, with the mark it is nearest to."""

    hours: float
    out_m: float
    place_frac: float
    near: str
    soc_frac: float
    everywhere: bool


class Sheet(Frozen):
    """Invented shores about the start: areas of the other kind than the ground, and islets of land."""

    name: str
    ground: Literal["land", "water"]
    areas: list[list[tuple[float, float]]]
    islets: list[list[tuple[float, float]]]


class KeptOff(Frozen):
    """Something she keeps off, as it lies beside the way."""

    id: str
    name: str
    east_m: float  # of the start
    north_m: float
    clear_m: float
    nearest_m: float
    clear: bool


class PassagePicture(Frozen):
    """Everything the passage's pictures show; hours count from local midnight of the plan's date."""

    midnight: datetime
    zone: str
    has_bank: bool
    over_days: bool  # she is not in on the day she leaves
    legs: list[LegShown]
    marks: list[MarkShown]
    ribbon: Ribbon
    stops_shortened: bool  # on the ribbon: where they would leave little room for the way
    distance_m: float
    done_m: float  # behind her already
    leaves_h: float
    arrives_h: float | None
    in_by_h: float
    in_east_m: float  # of the start: home where she comes home, else the far end
    in_north_m: float
    arrival_soc_frac: float | None
    arrival_poor_frac: float | None
    lowest_soc_frac: float | None
    reserve_frac: float | None
    trouble: Trouble | None
    stops_h: float | None  # when the motor is stopped at the reserve
    waited: bool
    sunrise_h: float | None
    sunset_h: float | None
    departures: list[Departure]
    windows: list[Window]
    turn_back: TurnShown | None
    refuges: list[RefugeShown]  # passed on the way out
    high_waters: list[float]  # from leaving to arrival, hours
    by_hand_h: float | None
    by_hand_mps: float | None
    cells: list[RailCell]
    begins_latitude_deg: float
    begins_longitude_deg: float
    places: list[tuple[float, float]]  # latitude and longitude of every leg's end on the way out
    keep_off: list[KeptOff]
    sheet: Sheet | None  # of invented waters, where the passage begins on them
    assumes: Sentence


def passage_picture(design: BoatDesign) -> PassagePicture | None:
    """Everything the passage's pictures show; None for a design without one."""
    voyage = voyage_of(design)
    if voyage is None:
        return None
    plan, turn, scanned = voyage.plan, voyage.turn, voyage.departures
    found, bank = plan.ahead, design.bank
    place = _Places(plan)
    ended = plan.arrives_h if plan.arrives else None
    places = places_of(design, found.passage)
    return PassagePicture(
        midnight=found.midnight,
        zone=str(found.midnight.tzinfo),
        has_bank=bank is not None,
        over_days=plan.arrives_h >= 24,
        legs=_legs(plan, place),
        marks=_marks(plan, place),
        ribbon=_ribbon(voyage, place),
        stops_shortened=place.shortened,
        distance_m=found.length_m,
        done_m=found.done_m,
        leaves_h=plan.leaves_h,
        arrives_h=ended,
        in_by_h=found.in_by_h,
        in_east_m=voyage.reach.east_m if voyage.reach is not None else 0.0,
        in_north_m=voyage.reach.north_m if voyage.reach is not None else 0.0,
        arrival_soc_frac=plan.arrival_soc,
        arrival_poor_frac=plan.soc_at(plan.arrives_h, POOR) if plan.arrives else None,
        lowest_soc_frac=plan.lowest_soc,
        reserve_frac=reserve_of(bank) if bank else None,
        trouble=trouble_of(plan, found.in_by_h),
        stops_h=plan.stops_h,
        waited=plan.waited,
        sunrise_h=found.sunrise_h,
        sunset_h=found.sunset_h,
        departures=scanned,
        windows=windows(scanned),
        high_waters=[
            hour for hour in found.waters.hours if plan.leaves_h - TIDE_H <= hour <= plan.ends_h + TIDE_H
        ],
        turn_back=None if turn is None else _turn(plan, turn, place),
        refuges=[
            RefugeShown(
                name=one.name,
                hours=None if one.turn is None else one.turn.hours,
                everywhere=one.turn is not None and one.turn.everywhere,
            )
            for one in voyage.refuges
        ],
        by_hand_h=voyage.by_hand_h,
        by_hand_mps=found.hand_mps,
        cells=passage_cells(voyage),
        begins_latitude_deg=places[0][0],
        begins_longitude_deg=places[0][1],
        places=[(round(latitude, 5), round(longitude, 5)) for latitude, longitude in places[1:]],
        keep_off=[
            KeptOff(
                id=one.item.id,
                name=one.item.name,
                east_m=one.spot[0],
                north_m=one.spot[1],
                clear_m=one.item.clear_m,
                nearest_m=one.nearest_m,
                clear=one.clear,
            )
            for one in clearances(found.passage)
        ],
        sheet=_sheet(design),
        assumes=assumed(plan),
    )


def _sheet(design: BoatDesign) -> Sheet | None:
    """The sketched waters that a passage begins on."""
    assert design.passage is not None
    latitude, longitude = start_of(design.site, design.passage)
    for one in sketched_waters():
        if (
            abs(one["latitude_deg"] - latitude) < NEAR_DEG
            and abs(one["longitude_deg"] - longitude) < NEAR_DEG
        ):
            return Sheet(
                name=one["name"], ground=one["ground"], areas=one["areas"], islets=one.get("islets", [])
            )
    return None


class _Places:
    """Where an hour of the plan lies along the ribbon, from 0 to 1."""

    def __init__(self, plan: Plan):
        rows, first = plan.rows, round(plan.leaves_h / GRID_H)
        ends = plan.ends_h if plan.stops_h is None else plan.stops_h
        last = min(int(np.ceil(ends / GRID_H)), len(rows))
        self.first, self.last = first, max(last, first + 1)
        moving = rows[self.first : self.last, GROUND]
        under_way = moving[moving > 0]
        pace = float(under_way.mean()) if under_way.size else 1.0
        rest = rows[self.first : self.last, REST] * pace * GRID_H * 3600
        gone = np.diff(np.concatenate([[0.0], rows[self.first : self.last, GONE]]))
        room = WIDEST_STOPS * float(gone.sum())
        self.shortened = bool(rest.sum() > room > 0)
        if self.shortened:
            rest *= room / rest.sum()
        width = np.concatenate([[0.0], np.cumsum(gone + rest)])
        self.edges = width / max(float(width[-1]), 1e-9)
        self.hours = (self.first + np.arange(len(self.edges))) * GRID_H

    def at(self, hours: float) -> float:
        return float(np.interp(hours, self.hours, self.edges))


def _spot(plan: Plan, gone_m: float) -> tuple[float, float]:
    """East and north of the start after so much of the way still to go is gone [m]; on a plane."""
    ahead = plan.ahead
    left = ahead.done_m + gone_m
    spots = spots_of(ahead.passage)
    gone = np.concatenate([[0.0], np.cumsum([leg.distance_m for leg in ahead.passage.legs])])
    if left > gone[-1]:  # on the way home
        left = max(2 * float(gone[-1]) - left, 0.0)
    east, north = (float(np.interp(left, gone, [spot[k] for spot in spots])) for k in (0, 1))
    return east, north


def _marks(plan: Plan, place: _Places) -> list[MarkShown]:
    found = []
    kinds = [leg.mark for leg in plan.ahead.passage.legs]
    for k, mark in enumerate(plan.ahead.marks):
        arrives = plan.passes_h(mark.passed_m)
        leaves = None if arrives is None else _leaves(plan, k, mark.passed_m, arrives)
        found.append(
            MarkShown(
                name=mark.name,
                kind="start" if mark.leg_index < 0 else kinds[mark.leg_index],
                homeward=mark.homeward,
                gone_m=mark.passed_m,
                arrives_h=arrives,
                leaves_h=leaves,
                soc_frac=None if arrives is None else plan.soc_at(arrives, SHOWN),
                poor_frac=None if arrives is None else plan.soc_at(arrives, POOR),
                from_frac=1.0 if arrives is None else place.at(arrives),
                to_frac=1.0 if leaves is None else place.at(leaves),
                east_m=_spot(plan, mark.passed_m)[0],
                north_m=_spot(plan, mark.passed_m)[1],
            )
        )
    return found


def _leaves(plan: Plan, k: int, gone_m: float, arrives: float) -> float | None:
    """When she goes on from a mark; None at the end."""
    if k == len(plan.ahead.marks) - 1:
        return None
    gone = plan.rows[:, GONE]
    after = int(np.searchsorted(gone, gone_m + 0.5))
    return arrives if after >= len(gone) else max(after * GRID_H, arrives)


def _waves_w(plan: Plan, leg: int, under_way: np.ndarray) -> np.ndarray:
    """Watts that the waves add in each step of a leg, shape (t,)."""
    way, demand = plan.ahead.shown_way, plan.ahead.demand
    found = np.zeros(len(plan.rows))
    for t in np.flatnonzero(under_way):
        found[t] = way.felt[leg, t] * rough_w(demand, way.waves_m[t], plan.rows[t, SPEED])
    return found


def _legs(plan: Plan, place: _Places) -> list[LegShown]:
    found = []
    marks = plan.ahead.marks
    way = plan.ahead.shown_way
    for k, leg in enumerate(plan.ahead.legs):
        rows = plan.rows
        mine = (rows[:, LEG] == k) & (rows[:, GROUND] > 0)
        mine[: place.first] = mine[place.last :] = False
        there, end = plan.passes_h(marks[k].passed_m), plan.passes_h(marks[k + 1].passed_m)
        start = None if there is None else _leaves(plan, k, marks[k].passed_m, there)
        some = bool(mine.any())
        rough = plan.ahead.winds.highest_waves_m > 0

        def mean(values: np.ndarray, mine: np.ndarray = mine, some: bool = some) -> float | None:
            return float(values[mine].mean()) if some else None

        found.append(
            LegShown(
                name=marks[k + 1].name,
                homeward=marks[k + 1].homeward,
                course_deg=leg.course_deg,
                distance_m=leg.length_m,
                speed_mps=mean(rows[:, SPEED]),
                ground_mps=mean(rows[:, GROUND]),
                stream_mps=mean(way.along[k]) if leg.stream is not None else None,
                head_wind_mps=mean(way.wind_ahead[k]) if plan.ahead.winds.strongest_mps > 0 else None,
                waves_m=mean(way.waves_m) if rough else None,
                waves_w=mean(_waves_w(plan, k, mine)) if rough else None,
                power_w=mean(rows[:, MOTOR]),
                hours=float(mine.sum()) * GRID_H if some else None,
                from_frac=place.at(start) if start is not None else 1.0,
                to_frac=place.at(end) if end is not None else 1.0,
            )
        )
    return found


def _ribbon(voyage: Voyage, place: _Places) -> Ribbon:
    plan, needs, reach = voyage.plan, voyage.needs, voyage.reach
    rows, ahead_ = plan.rows, plan.ahead
    every = max((place.last - place.first) // POINTS, 1)
    steps = list(range(place.first, place.last, every))
    way = ahead_.shown_way
    leg = rows[steps, LEG].astype(int)
    ends = plan.ends_h if plan.stops_h is None else plan.stops_h
    hours = [max(step * GRID_H, plan.leaves_h) for step in steps] + [ends]
    rise, sunset = ahead_.sunrise_h, ahead_.sunset_h

    def lane(values: np.ndarray) -> list[float]:
        return [*values.tolist(), float(values[-1])]

    def charge(member: int) -> list[float] | None:
        if plan.soc is None:
            return None
        return [float(plan.soc_at(hour, member) or 0.0) for hour in hours]

    moving = rows[steps, GROUND] > 0
    return Ribbon(
        place_frac=[place.at(hour) for hour in hours],
        hours=hours,
        gone_m=lane(rows[steps, GONE]),
        speed_mps=lane(rows[steps, SPEED]),
        ground_mps=lane(rows[steps, GROUND]),
        stream_mps=lane(np.where(moving, way.along[leg, steps], 0.0)),
        motor_w=lane(rows[steps, MOTOR]),
        soc=charge(SHOWN),
        soc_poor=charge(POOR),
        soc_needed=[
            needed_soc(plan, needs, hour, gone) if needs is not None and gone <= ahead_.out_m else None
            for hour, gone in zip(hours, lane(rows[steps, GONE]), strict=True)
        ],
        reach_m=[None if reach is None else reach.at(plan, hour) for hour in hours],
        east_m=[_spot(plan, gone)[0] for gone in lane(rows[steps, GONE])],
        north_m=[_spot(plan, gone)[1] for gone in lane(rows[steps, GONE])],
        dark=[
            bool(rise is not None and sunset is not None and not rise <= hour % 24 <= sunset)
            for hour in hours
        ],
    )


class WaysShown(Frozen):
    """The ways to go side by side, the one that is set first."""

    ways: list[WayShown]


def ways_shown(design: BoatDesign) -> WaysShown | None:
    """One speed, the earliest, the most charge and the sun's own pace, each with what it costs."""
    voyage = voyage_of(design)
    if voyage is None:
        return None
    return WaysShown(ways=[_way(one, one is voyage.plan) for one in voyage.ways])


def _way(plan: Plan, first: bool) -> WayShown:
    return WayShown(
        pace=plan.pace,
        label=TOLD[plan.pace],
        chosen=first,
        arrives_h=plan.arrives_h if plan.arrives else None,
        arrival_soc_frac=plan.arrival_soc,
        lowest_soc_frac=plan.lowest_soc,
        speed_mps=plan.value if plan.pace is Going.SPEED else None,
        trouble=trouble_of(plan, plan.ahead.in_by_h),
    )


def _turn(plan: Plan, turn: LastTurn, place: _Places) -> TurnShown:
    out = [mark for mark in plan.ahead.marks if not mark.homeward]
    near = min(out, key=lambda mark: abs(plan.ahead.done_m + mark.passed_m - turn.out_m))
    return TurnShown(
        hours=turn.hours,
        out_m=turn.out_m,
        place_frac=place.at(turn.hours),
        near=near.name,
        soc_frac=turn.soc,
        everywhere=turn.everywhere,
    )
