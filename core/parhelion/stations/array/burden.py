"""What the array costs the boat: weight, money, stiffness, wind, view, years; and the shade it gives.

References
----------
[1] Wind on a plate: `panels.gust`.
[2] Loss of yield a season and years of service, low and high: typical of makers' and fleet experience.
"""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from parhelion.balance.outlook import Outlook, remembered
from parhelion.design import HIDDEN, BoatDesign, Build, Obstacle, PanelGroup, Place, PlaceKind
from parhelion.design.reads import Reads, kept
from parhelion.hull.air import raised_panels_m2
from parhelion.hull.demand import demand_curve
from parhelion.hull.outline import EYE_M, HELM_AFT
from parhelion.hull.stability import list_deg, stiffness_lost, trim_m
from parhelion.market.parts import panels_price
from parhelion.panels.bodies import body_of_panels
from parhelion.panels.casting import face_shares
from parhelion.panels.deck import DeckGroup, deck_of
from parhelion.panels.gust import GUST_MPS, SAFETY, fold_mps, gust_n
from parhelion.panels.harvest import COVER_KEEPS, HARVEST_READS, met_by_controllers
from parhelion.panels.layout import PanelAt
from parhelion.panels.shade import shares_towards, towards
from parhelion.quantities import Frozen
from parhelion.sun.daysteps import DaySteps
from parhelion.sun.timeline import HOUR_S

Array = NDArray[np.float64]

LIFE = {  # years of service, then loss of yield a season, low and high [2]
    (Build.GLASS, False): ((20.0, 30.0), (0.004, 0.008)),
    (Build.FLEXIBLE, False): ((2.0, 5.0), (0.02, 0.06)),
    (Build.FLEXIBLE, True): ((4.0, 9.0), (0.01, 0.03)),
    (Build.FOLDING, False): ((3.0, 7.0), (0.02, 0.05)),
}
SEASONS = (1, 3, 5, 10, 15, 20, 25)
OVERHEAD = (PlaceKind.CANOPY, PlaceKind.BIMINI, PlaceKind.ARCH)
SEATED_M = 1.2  # from the panels overhead down to those who sit below
SEAT_CELLS = 8
MIDDAY_H = 3.0  # to either side of solar noon
AHEAD_DEG = 60.0  # to either side of the bow
LIES_OUT_M = 0.05


class PlaceBurden(Frozen):
    """What one place with its panels costs."""

    place_id: str
    name: str
    mass_kg: float
    watts_per_kg: float
    price: float
    price_given: bool
    height_m: float | None
    gust_n: float  # in a gust of a strong breeze, as it stands
    holds_n: float | None
    fold_mps: float | None  # mean wind to fold it at; by rule where what they hold is not known
    overloaded: bool  # the gust pulls more than half of what its fastenings hold
    list_deg: float | None  # to starboard, with this place alone out
    trim_m: float | None  # bow down
    life_low_years: float
    life_high_years: float
    cover_wh: float | None  # what a clear cover takes a day, or would; None where it needs none
    covered: bool


class YieldAfter(Frozen):
    """What is left of the array's yield after some seasons [-]."""

    seasons: int
    low_frac: float
    high_frac: float


class Burden(Frozen):
    """What the whole array costs the boat."""

    places: list[PlaceBurden]
    mass_kg: float
    watts_per_kg: float
    price: float
    rise_m: float
    stiffness_frac: float
    list_deg: float
    trim_m: float
    raised_m2: float
    windage_w: float  # at the planned speed
    gust_mps: float
    air_draught_m: float | None
    folded_m: float | None  # with every hinged place folded, and what can be stowed
    blocked_deg: float  # of the horizon, from the helm
    blocked_ahead_deg: float
    seat_shade_frac: float | None  # of the seats below, over the middle of the day
    yields: list[YieldAfter]


def life_of(group: PanelGroup) -> tuple[tuple[float, float], tuple[float, float]]:
    """Years of service and loss of yield a season, low and high of each [2]."""
    return LIFE.get((group.build, group.covered)) or LIFE[(group.build, False)]


def _yield_after(groups: list[PanelGroup], seasons: int) -> YieldAfter:
    whole = sum(g.nameplate_w * g.count for g in groups)
    ends = [
        sum((1 - life_of(g)[1][k]) ** seasons * g.nameplate_w * g.count for g in groups) / whole
        for k in (1, 0)
    ]
    return YieldAfter(seasons=seasons, low_frac=ends[0], high_frac=ends[1])


def _area_m2(group: PanelGroup) -> float:
    return group.count * group.width * group.length


def _place(outlook: Outlook, place: Place, decks: list[DeckGroup]) -> PlaceBurden:
    design, groups = outlook.design, [deck.group for deck in decks]
    standing, how = decks[0].place, decks[0].how
    area, kg = sum(_area_m2(g) for g in groups), sum(g.mass for g in groups) + place.frame_kg
    watts = sum(g.nameplate_w * g.count for g in groups)
    holds, most = place.holds_n, max(standing.tilt_deg, place.hinge_deg[1])
    by_rule = GUST_MPS if place.hinged else None
    gust = gust_n(GUST_MPS, area, standing.tilt_deg) if how not in HIDDEN else 0.0
    lives = [life_of(g)[0] for g in groups]
    flexible = [g for g in groups if g.build is Build.FLEXIBLE]
    cover_wh = None
    if flexible:
        now = outlook.harvest.groups_w
        shown = sum(outlook.wh(now[g.id][outlook.light.shown]) for g in flexible if g.id in now)
        cover_wh = shown * (1 / COVER_KEEPS - 1 if flexible[0].covered else 1 - COVER_KEEPS)
    at = place.at
    return PlaceBurden(
        place_id=place.id,
        name=place.name,
        mass_kg=kg,
        watts_per_kg=watts / kg,
        price=sum(panels_price(g) for g in groups),
        price_given=all(g.price is not None for g in groups),
        height_m=at.z_m if at else None,
        gust_n=gust,
        holds_n=holds,
        fold_mps=by_rule if holds is None else fold_mps(holds, area, most),
        overloaded=holds is not None and gust > holds / SAFETY,
        list_deg=list_deg(design, kg * at.x_m) if at and abs(at.x_m) > LIES_OUT_M else None,
        trim_m=trim_m(design, kg * at.y_m) if at else None,
        life_low_years=min(life[0] for life in lives),
        life_high_years=min(life[1] for life in lives),
        cover_wh=cover_wh,
        covered=bool(flexible) and flexible[0].covered,
    )


def _tops(design: BoatDesign, folded: bool) -> float | None:
    """Highest point over the waterline of what stands: panels and things on deck [m]."""
    heights = []
    for deck in deck_of(design).groups:
        if deck.how in HIDDEN or (folded and deck.place.hinged):
            continue
        heights += [corner[2] for panel in deck.panels for corner in panel.corners]

    def top(thing: Obstacle) -> float:
        return max(thing.foot.z_m, thing.tip.z_m, thing.clew.z_m if thing.clew else -np.inf)

    standing = deck_of(design).obstacles
    heights += [top(o) for o in standing if not (folded and o.stands_in is not None)]
    return max(heights, default=None)


def _windage_w(outlook: Outlook) -> float:
    """What the wind on raised panels takes at the planned speed, at the battery [W]."""
    design, at = outlook.design, outlook.plan_speed_mps
    if raised_panels_m2(design) <= 0:
        return 0.0
    bare = demand_curve(design.changed(panels=()), design.displacement_kg, outlook.curve.fit)
    return float(outlook.curve.power_at(at) - bare.power_at(at))


@kept(HARVEST_READS | Reads("hull"), 32)
def _blocked(design: BoatDesign) -> tuple[float, float]:
    """Degrees of horizon that panels hide from the helm, and of them ahead [deg]."""
    panels = [p for deck in deck_of(design).groups if deck.how not in HIDDEN for p in deck.panels]
    if not panels:
        return 0.0, 0.0
    eye = np.array([[[0.0, -HELM_AFT * design.hull.waterline_length_m, EYE_M]]])
    bearings = np.arange(-180.0, 180.0)
    seen, small = towards(bearings, np.full(360, 0.5)), np.full((2, 3), 1e-4)
    hidden = face_shares(eye, body_of_panels(panels).faces, seen, small)[:, 0]
    return float(hidden.sum()), float(hidden[np.abs(bearings) <= AHEAD_DEG].sum())


@kept(HARVEST_READS, 32)
def _seat_shade(design: BoatDesign, day: DaySteps) -> float | None:
    """Share of the seats under panels overhead that lies in their shade around noon, or None."""
    noon_s = (day.solar_noon_at - day.starts_at).total_seconds()
    midday = (np.abs(day.timeline.middles_s - noon_s) <= MIDDAY_H * HOUR_S) & (day.elevation_deg > 0)
    if not midday.any():
        return None
    shares = []
    for deck in deck_of(design).groups:
        place = deck.place
        if deck.how in HIDDEN or place.kind not in OVERHEAD or not deck.panels or place.at is None:
            continue
        size = place.width_m or deck.group.width, place.length_m or deck.group.length
        middle = (place.at.x_m, place.at.y_m, place.at.z_m - SEATED_M)
        seat = PanelAt(middle, (size[0], 0, 0), (0, size[1], 0), SEAT_CELLS, SEAT_CELLS, False, True)
        heading = design.plan.heading_deg or 0.0
        sun = towards((day.azimuth_deg[midday] - heading) % 360, day.elevation_deg[midday])
        shares.append(float(shares_towards(seat, (body_of_panels(list(deck.panels)),), sun).mean()))
    return max(shares, default=None)


@remembered
def burden(outlook: Outlook) -> Burden | None:
    """What the array of a design costs the boat on its day; None without panels.

    Parameters
    ----------
    outlook : Outlook

    Returns
    -------
    Burden or None
    """
    design = outlook.design
    decks = deck_of(design).groups
    if not decks:
        return None
    by_place = [(p, [d for d in decks if d.place.id == p.id]) for p in design.places]
    places = [_place(outlook, place, mine) for place, mine in by_place if mine]
    groups = list(design.fitted_panels)
    kg = design.panels_kg + design.frames_kg
    aboard = [(d.group.mass, d.place.at) for d in decks if d.place.at and d.place.kind is not PlaceKind.SHORE]
    standing = {d.place.id: d.place for d in decks}.values()
    aboard += [(p.frame_kg, p.at) for p in standing if p.frame_kg and p.at and p.kind is not PlaceKind.SHORE]
    moments = np.array([(m, m * at.x_m, m * at.y_m, m * at.z_m) for m, at in aboard if at]).reshape(-1, 4)
    known, across, forward, up = (float(v) for v in moments.sum(axis=0))
    rise, share = stiffness_lost(design, known, up / known) if known else (0.0, 0.0)
    met = met_by_controllers(design)
    blocked, ahead = _blocked(met)
    return Burden(
        places=places,
        mass_kg=kg,
        watts_per_kg=design.nameplate_w / kg,
        price=sum(panels_price(g) for g in groups),
        rise_m=rise,
        stiffness_frac=share,
        list_deg=list_deg(design, across),
        trim_m=trim_m(design, forward),
        raised_m2=raised_panels_m2(design),
        windage_w=_windage_w(outlook),
        gust_mps=GUST_MPS,
        air_draught_m=_tops(design, False),
        folded_m=_tops(design, True),
        blocked_deg=blocked,
        blocked_ahead_deg=ahead,
        seat_shade_frac=_seat_shade(met, outlook.day),
        yields=[_yield_after(groups, n) for n in SEASONS],
    )
