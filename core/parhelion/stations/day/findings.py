"""Findings about the day's balance: one rule a function, each None where it has nothing to say."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from parhelion.balance.flow import CURTAILED, RAN, REFUSED, SOC, STOPPED_BELOW
from parhelion.balance.outlook import Outlook
from parhelion.constants import SHOCK_V
from parhelion.design import Sky
from parhelion.finding import Finding, ordered
from parhelion.panels.harvest import harvest
from parhelion.quantities import (
    Fact,
    Why,
    clock,
    distance,
    energy,
    fraction,
    power,
    sentence,
    speed,
    words,
)
from parhelion.rail.findings import beyond_drive, lithium_temperature
from parhelion.rail.ground import over_ground_mps, thriftiest_mps
from parhelion.rail.joint import Learn, joint_band, what_would_tell
from parhelion.rail.models import Dusk
from parhelion.rail.no_harvest import no_harvest
from parhelion.rail.reasons import BANK_SOURCE, SUN_SOURCE, hull_why, sun_facts
from parhelion.rail.speeds import live_distances, solve_steady, steady_mps
from parhelion.rail.stores import bank_at_dusk
from parhelion.stations.day.charging_findings import charging_day
from parhelion.stations.day.source_findings import source_findings
from parhelion.sun.climate import usually_frozen
from parhelion.sun.light import cloud_edge_light, light_under

WASTE_FRAC = 0.03  # of the day's harvest thrown away before it is worth saying
WASTE_BEGINS_FRAC = 0.05  # of the largest refusal: before it only the taper nibbles
HOUSE_HEAVY_FRAC = 0.30
CLIP_FRAC = 0.01
FASTER_BY = 1.05
RUNS_ON_FRAC = 0.01
WORTH_KNOWING = 0.8  # of the band: what a measurement must leave at most to be worth a title
WORTH_PER_CENT = 2  # and so much less of it, as it is shown
MEASURED: dict[Learn, str] = {
    "runs": "Four more runs, out and back",
    "panels": "A clear noon's watts read at the bank",
}


@dataclass(frozen=True)
class DayView:
    """A day under its plan, ready for the rules: every member's record, and dusk."""

    outlook: Outlook
    record: NDArray[np.float64]  # (n, t, 14)
    dusk: Dusk

    @property
    def shown(self) -> NDArray[np.float64]:
        return self.record[self.outlook.light.shown]

    @property
    def harvest_wh(self) -> float:
        return self.outlook.wh(self.outlook.shown_sun_w)


def _why(view: DayView, method: str, *facts: Fact, doc: str = "day") -> Why:
    source = f"{SUN_SOURCE} {BANK_SOURCE}"
    return Why(method=method, source=source, inputs=[*facts, *sun_facts(view.outlook)], doc=doc)


def home_with(view: DayView) -> Finding | None:
    """The plan comes home above the reserve: on how many days of ten."""
    store = view.outlook.store
    if store is None or view.dusk.soc_frac is None or view.dusk.at is None:
        return None
    meant = view.outlook.motoring > 0
    kept = ~np.any((view.record[:, :, RAN] < STOPPED_BELOW) & meant, axis=1)
    if not meant.any() or not kept[view.outlook.light.shown]:
        return None
    share = float(kept.mean())
    at = view.dusk.at
    return Finding(
        id="home_with",
        level="good" if share >= 0.9 else "note",
        title=sentence("Home with {soc} in the bank", soc=fraction(view.dusk.soc_frac)),
        detail=sentence(
            "Dusk at {at}. The motor never stops for the reserve on {x} of such days.",
            at=clock(at.hour * 60 + at.minute), x=fraction(share),
        ),
        why=_why(view, "Energy balance of the plan over generated days"),
    )  # fmt: skip


def stops_at_reserve(view: DayView) -> Finding | None:
    """The plan runs into the reserve on the shown day."""
    stopped = np.flatnonzero((view.shown[:, RAN] < STOPPED_BELOW) & (view.outlook.motoring > 0))
    if view.outlook.store is None or not stopped.size:
        return None
    moment = view.outlook.day.at_index(float(stopped[0]))
    steady = steady_mps(view.outlook, solve_steady(view.outlook))
    after = (view.outlook.motoring > 0) & (np.arange(len(view.shown)) >= stopped[0])
    runs_on = float(view.shown[after, RAN].mean())
    on = {"on": fraction(runs_on)} if runs_on > RUNS_ON_FRAC else {}
    return Finding(
        id="stops_at_reserve",
        level="warn",
        title=sentence("The motor stops at {at}", at=clock(moment.hour * 60 + moment.minute)),
        detail=sentence(
            "The bank is at its reserve of {r}. "
            + ("From then on it turns while the live sun gives enough, {on} of the time. " if on else "")
            + ("{v} would go on through these hours." if steady else "No speed lasts on this sun."),
            r=fraction(view.outlook.store.reserve), **on,
            **({"v": speed(steady)} if steady else {}),
        ),
        why=_why(view, "Energy balance of the plan as set"),
        field="/plan/speed_mps",
    )  # fmt: skip


def stream_runs(outlook: Outlook) -> Finding | None:
    """A stream along the course: what is left over the ground, and the speed that goes furthest in it."""
    stream, asked = outlook.design.plan.current_mps, outlook.plan_speed_mps
    if not stream:
        return None
    ground, best = over_ground_mps(asked, stream), thriftiest_mps(outlook)
    still = ground == 0
    slots = {"c": speed(abs(stream)), "v": speed(asked), "g": speed(ground)}
    return Finding(
        id="stream_runs",
        level="warn" if still else "note",
        title=sentence("Stands still against {c} of stream", **slots)
        if still
        else sentence("{g} over the ground in {c} of stream", **slots),
        detail=sentence("{v} through the water. No speed of this drive makes way: wait.", **slots)
        if best is None
        else sentence(
            "{v} through the water. {b} takes the least for each mile over the ground, the house counted.",
            **slots, b=speed(best),
        ),
        why=hull_why(outlook, "Watts of motor and house over the speed made good, least over all speeds",
                     doc="weather"),
        field="/plan/speed_mps" if still else "/plan/current_mps",
    )  # fmt: skip


def goes_to_waste(view: DayView) -> Finding | None:
    """Harvest that the bank would not take."""
    refused = view.shown[:, REFUSED] + view.shown[:, CURTAILED]
    lost = view.outlook.wh(refused)
    given = view.outlook.wh(view.outlook.harvest.array_w[view.outlook.light.shown])
    if given <= 0 or lost < WASTE_FRAC * given:
        return None
    earnest = refused > WASTE_BEGINS_FRAC * refused.max()
    first = view.outlook.day.at_index(float(np.flatnonzero(earnest)[0]))
    cause, action = (
        "the bank fills",
        "Go faster or start emptier" if view.outlook.hours else "Start emptier",
    )
    if view.outlook.store is None:
        cause, action = "the motor cannot use it all", "A bank would keep it, or go faster"
    return Finding(
        id="goes_to_waste",
        level="note",
        title=sentence("{e} goes to waste", e=energy(lost)),
        detail=sentence(
            "From {at} {cause}. {action}: it is {x} of the harvest.",
            at=clock(first.hour * 60 + first.minute), cause=words(cause),
            action=words(action),
            x=fraction(lost / given),
        ),
        why=_why(view, "Refused at the bank's acceptance, booked apart in the ledger"),
    )  # fmt: skip


def could_go_faster(view: DayView) -> Finding | None:
    """The sun pays for more than is planned."""
    steady = steady_mps(view.outlook, solve_steady(view.outlook))
    if steady <= 0 or steady < FASTER_BY * view.outlook.plan_speed_mps:
        return None
    return Finding(
        id="could_go_faster",
        level="note",
        title=sentence("The sun pays for {v}", v=speed(steady)),
        detail=sentence(
            "You plan {p}. At {v} the bank is as full a day later.",
            v=speed(steady), p=speed(view.outlook.plan_speed_mps),
        ),
        why=_why(view, "Steady sun-only speed", doc="answers"),
        field="/plan/speed_mps",
    )  # fmt: skip


def what_to_measure(view: DayView) -> Finding | None:
    """How well the day's run is known, and what measuring would make of it."""
    solved = solve_steady(view.outlook)
    band = joint_band(view.outlook, solved)
    if solved is None or band is None:
        return None
    middle = steady_mps(view.outlook, solved)
    if middle <= 0:
        return None
    now = band.width(middle)
    ranked = [(key, after.width(middle)) for key, after in what_would_tell(view.outlook, solved).items()]
    telling, least = ranked[0]
    worth = least < WORTH_KNOWING * now and round(100 * now) - round(100 * least) >= WORTH_PER_CENT
    return Finding(
        id="what_would_tell",
        level="note",
        title=sentence("{what}: the run from ±{now} to ±{then}", what=words(MEASURED[telling]),
                       now=fraction(now), then=fraction(least))
        if worth
        else sentence("The run on sun is known to ±{now}: most of it is the sky's", now=fraction(now)),
        detail=sentence(
            " ".join(f"{MEASURED[key]} would leave ±{{{key}}}." for key, _ in ranked[worth:]),
            **{key: fraction(after) for key, after in ranked},
        ),
        why=_why(view, "Boats, panels and days drawn together, again with each thing known better",
                 *[Fact(label=MEASURED[key], value=fraction(after)) for key, after in ranked], doc="answers"),
        field="/runs" if worth and telling == "runs" else None,
    )  # fmt: skip


def grey_day(view: DayView) -> Finding | None:
    """What the same boat makes of an overcast day."""
    design = view.outlook.design
    if design.plan.sky in (Sky.OVERCAST, Sky.RAIN) or view.harvest_wh <= 0 or not design.panels:
        return None
    grey = replace(view.outlook, light=light_under(design.site, design.plan.date, Sky.OVERCAST).shown_alone)
    if grey.store is None or grey.takes_no_charge:
        here, there = (float(live_distances(o)[o.light.shown]) for o in (view.outlook, grey))
    else:
        here, there = (
            steady_mps(o, solve_steady(o)) * o.hours * 3600 for o in (view.outlook, grey)
        )  # fmt: skip
    if here <= 0:
        return None  # the rail says why
    share = float(grey.shown_sun_w.sum() / view.outlook.shown_sun_w.sum())
    return Finding(
        id="grey_day",
        level="note",
        title=sentence("Grey day: {there} on sun, not {here}", there=distance(there), here=distance(here)),
        detail=sentence(
            "Overcast harvest is {x} of this {sky} day's.", x=fraction(share),
            sky=words(design.plan.sky_words),
        ),
        why=_why(view, "The same hours under an overcast sky", doc="sky-words"),
    )  # fmt: skip


def house_heavy(view: DayView) -> Finding | None:
    """The house takes a large share of the sun."""
    house = view.outlook.wh(view.outlook.house_w)
    if view.harvest_wh <= 0 or house < HOUSE_HEAVY_FRAC * view.harvest_wh:
        return None
    biggest = max(view.outlook.design.loads, key=lambda load: load.drawn_w * load.hours_per_day)
    return Finding(
        id="house_heavy",
        level="warn" if house >= view.harvest_wh else "note",
        title=sentence("The house takes {x} of the sun", x=fraction(house / view.harvest_wh)),
        detail=sentence(
            "{e} a day; most of it {name}, {b}.",
            e=energy(house), name=words(biggest.name), b=energy(biggest.drawn_w * biggest.hours_per_day),
        ),
        why=_why(view, "House loads against the shown day's harvest"),
        field="/loads",
    )  # fmt: skip


def controller_clips(view: DayView) -> Finding | None:
    """A controller's current limit cuts the harvest."""
    clipped = view.outlook.wh(view.outlook.harvest.clipped_w[view.outlook.light.shown])
    given = view.outlook.wh(view.outlook.harvest.array_w[view.outlook.light.shown])
    if clipped < CLIP_FRAC * given or given == 0:
        return None
    return Finding(
        id="controller_clips",
        level="note",
        title=sentence("A controller clips {e}", e=energy(clipped)),
        detail=sentence("{x} of this day's harvest is above its current limit.", x=fraction(clipped / given)),
        why=_why(view, "Controller output held at its current limit times bank volts"),
    )


def ice(view: DayView) -> Finding | None:
    """Nobody boats where the water is usually ice."""
    design = view.outlook.design
    if not usually_frozen(design):
        return None
    return Finding(
        id="ice",
        level="warn",
        title=sentence("The water here is usually ice on this day"),
        detail=sentence("What follows holds for open water. If it is open, say how warm it is."),
        why=Why(
            method="Usual surface temperature by latitude and season, against freezing",
            source="A fit good to some 4 K; the water of the place comes first.",
            doc="bank",
        ),
        field="/plan/water_temperature_c",
    )


def no_sun(view: DayView) -> Finding | None:
    """Polar night."""
    if view.outlook.day.clear_ghi_w_per_m2.sum() > 0:
        return None
    return Finding(
        id="no_sun",
        level="warn",
        title=sentence("The sun does not rise on this day"),
        detail=sentence("No harvest at all: the bank and the shore carry the boat."),
        why=_why(view, "Solar position", doc="sun"),
        field="/plan/date",
    )


def kept_not_counted(view: DayView) -> Finding | None:
    """Parts that the document keeps but this version does not compute."""
    design = view.outlook.design
    kept = {
        "further bank": max(len(design.banks) - 2, 0),
    }
    named = ", ".join(f"{n} {name}{'s' if n > 1 else ''}" for name, n in kept.items() if n)
    if not named:
        return None
    return Finding(
        id="kept_not_counted",
        level="warn",
        title=sentence("Kept, but not counted yet"),
        detail=sentence("This design has {what}. They stay in the file; no answer uses them.",
                        what=words(named)),
        why=_why(view, "Only what has a model enters an answer"),
    )  # fmt: skip


MENDED_AT = {"strings": "/panels/0/series", "array": "/places"}


def nothing_harvested(view: DayView) -> Finding | None:
    """Panels under a sun that shines bring nothing."""
    cause = no_harvest(view.outlook)
    if cause is None:
        return None
    if view.outlook.gives_at_dock_alone:
        return _at_dock_alone(view)
    return Finding(
        id="no_harvest",
        level="warn",
        title=sentence("The panels bring nothing"),
        detail=cause.reason,
        why=_why(
            view, "What stands, what is connected, and each string's volts against its bank", doc="wiring"
        ),
        field=MENDED_AT[cause.station],
    )


def _at_dock_alone(view: DayView) -> Finding:
    """Panels ashore, or folded under way: the bank is filled at the dock."""
    found = view.outlook.dock_by_bank_w[view.outlook.light.shown].sum(axis=-1)
    return Finding(
        id="dock_alone",
        level="note",
        title=sentence("The panels give at the dock alone"),
        detail=sentence(
            "{e} on such a day there; under way she lives on the bank.", e=energy(view.outlook.wh(found))
        ),
        why=_why(view, "The day's harvest with every place as it stands at the dock"),
        field="/places",
    )


def unshaded(view: DayView) -> Finding | None:
    """What the array gives at best, and whether shade is in it."""
    if not view.outlook.design.panels:
        return None
    design = view.outlook.design
    best = float(view.outlook.clear_harvest.sun_w.max())
    if best <= 0:
        return None  # no_harvest says why
    edge = float(harvest(design, cloud_edge_light(design.site, design.plan.date)).sun_w.max())
    nameplate = design.nameplate_w
    counted = design.obstacles and all(design.place(group.place_id).at for group in design.panels)
    return Finding(
        id="unshaded",
        level="note",
        title=sentence("At best {w} from {n} of nameplate", w=power(best), n=power(nameplate)),
        detail=sentence(
            "{x} at the clear peak, "
            + ("shade and all." if counted else
               "with nothing in the way of the sun: masts, aerials and crew cost more.")
            + " Beside the edge of a cloud a meter may show {edge} for some minutes: that is no fault.",
            x=fraction(best / nameplate), edge=power(edge),
        ),
        why=_why(view, "Salt, mismatch, wiring, heat and conversion taken off one by one", doc="array"),
    )  # fmt: skip


def live_wires(view: DayView) -> Finding | None:
    """Standing caution about panels and banks."""
    design = view.outlook.design
    if not design.panels and not design.banks:
        return None
    high = design.bank is not None and design.bank.nominal_v > SHOCK_V
    volts = " This bank is over 60 V: a shock hazard, and DC arcs do not stop." if high else ""
    return Finding(
        id="live_wires",
        level="warn" if high else "note",
        title=sentence("Panels are live whenever there is light"),
        detail=sentence(
            "{t}",
            t=words(
                "Open the breaker before parting a connector; fuse close to the battery; controller to the "
                "battery first, panels last." + volts + " Check against the small-craft electrical standard "
                "in force where you are; licensed work where the law asks."
            ),
        ),
        why=Why(method="Usual cautions", source="Local codes and licensed practice come first.",
                doc="cautions"),
        caution=True,
    )  # fmt: skip


def reserve_homeward(view: DayView) -> Finding | None:
    """Says how little is left when the lowest charge of the day comes near the reserve."""
    store = view.outlook.store
    if store is None or not view.outlook.motoring.any():
        return None
    lowest = float(view.shown[:, SOC].min())
    margin = lowest - store.reserve
    if margin > 0.05 or margin <= 1e-6:
        return None
    return Finding(
        id="reserve_homeward",
        level="note",
        title=sentence("Only {x} above the reserve at the lowest", x=fraction(margin)),
        detail=sentence(
            "One hour at {w} is {t} of this bank: a head wind eats that.",
            w=power(view.outlook.plan_power_w),
            t=fraction(view.outlook.plan_power_w / (store.capacity_ah * store.nominal_v)),
        ),
        why=_why(view, "Lowest state of charge of the plan as set"),
    )  # fmt: skip


def day_findings(outlook: Outlook) -> list[Finding]:
    """Everything the day tells, warnings first."""
    view = DayView(outlook, outlook.plan_record, bank_at_dusk(outlook))
    return ordered(
        [
            no_sun(view),
            nothing_harvested(view),
            stops_at_reserve(view),
            beyond_drive(view.outlook),
            stream_runs(view.outlook),
            lithium_temperature(view.outlook),
            ice(view),
            home_with(view),
            reserve_homeward(view),
            goes_to_waste(view),
            could_go_faster(view),
            house_heavy(view),
            grey_day(view),
            what_to_measure(view),
            controller_clips(view),
            kept_not_counted(view),
            charging_day(view.outlook, view.shown),
            *source_findings(view.outlook, view.shown),
            unshaded(view),
            live_wires(view),
        ]
    )
