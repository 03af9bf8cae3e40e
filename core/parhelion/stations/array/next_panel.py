"""The next best place and panel: what each would add in miles a day, per coin and per kilogram; and enough.

Every candidate is the same day solved again with the panel on it, its mass counted in. A panel brings its
share of frame, controller and cable.
"""

from __future__ import annotations

from math import ceil

import numpy as np

from parhelion.balance.outlook import Outlook, shown_outlook
from parhelion.data import panel_models
from parhelion.design import (
    HIDDEN,
    BoatDesign,
    Build,
    Controller,
    ControllerKind,
    PanelGroup,
    PanelModel,
    PanelRef,
    PanelString,
    Place,
    PlaceKind,
    Tended,
)
from parhelion.design.refit import Refit, refit
from parhelion.market.parts import framed_offer
from parhelion.panels.deck import deck_of
from parhelion.panels.layout import most_that_fit
from parhelion.panels.proposed import NEW, proposed_places
from parhelion.quantities import Frozen, Sentence, distance, fraction, sentence, words
from parhelion.rail.cells import rail_kind
from parhelion.rail.held_back import WORTH_FRAC, measure_of, miles_m
from parhelion.wiring.by_itself import absorption_v
from parhelion.wiring.panel_volts import panel_volts

BEST_SHOWN = 8
ADDED = (PlaceKind.WING, PlaceKind.ARCH, PlaceKind.DECK)


class NextPanel(Frozen):
    """One panel that could be added, and what it would do."""

    place_id: str | None  # None: a place that is not there yet
    place: str
    panel: str
    count: int
    watts: float
    mass_kg: float
    price: float
    gain_wh: float  # a day at the bank
    gain_m: float | None  # a day; None where the sun keeps up anyway
    gain_frac: float | None
    m_per_coin: float | None
    m_per_kg: float | None
    refit: Refit  # that puts it there


class NextPanels(Frozen):
    """Candidates, best first, and the honest word on whether any is worth it."""

    candidates: list[NextPanel]
    measure: str
    base_m: float | None
    verdict: Sentence
    enough: bool


def _model_of(group: PanelGroup) -> PanelModel:
    return PanelModel.model_validate({name: getattr(group, name) for name in PanelModel.model_fields})


def _unused(taken: set[str]) -> str:
    """An id that nothing has yet."""
    return next(name for name in (f"{NEW}-{n}" for n in range(1, len(taken) + 2)) if name not in taken)


def _group(
    model: PanelModel, place_id: str, controller_id: str, count: int, turned: bool, group_id: str = NEW
) -> PanelGroup:
    return PanelGroup(
        **model.model_dump(), id=group_id, place_id=place_id, controller_id=controller_id, count=count,
        turned=turned,
    )  # fmt: skip


def _with_strings(
    design: BoatDesign, group: PanelGroup, numbers: range, series: int
) -> tuple[PanelString, ...]:
    """Strings wired by hand with those of new panels; none where groups are wired as they say."""
    if not design.strings:
        return ()
    taken = {string.id for string in design.strings}
    refs = [PanelRef(group_id=group.id, number=number) for number in numbers]
    added = []
    for start in range(0, len(refs), series):
        panels = tuple(refs[start : start + series])
        added.append(PanelString(id=_unused(taken), controller_id=group.controller_id, panels=panels))
        taken.add(added[-1].id)
    return (*design.strings, *added)


def _fits(place: Place, model: PanelModel) -> tuple[int, bool]:
    """Most panels of a model that go into an empty place, and whether turned."""
    group = _group(model, place.id, "x", 1, False)
    straight, turned = most_that_fit(place, group, False), most_that_fit(place, group, True)
    return max(straight, turned), turned > straight


def _one_more(design: BoatDesign) -> list[tuple[Place, PanelModel, int, BoatDesign]]:
    """One more of a group's own panels wherever its place takes it."""
    found = []
    for deck in deck_of(design).groups:
        group, place = deck.group, design.place(deck.group.place_id)
        alone = sum(g.place_id == place.id for g in design.fitted_panels) == 1
        if deck.how in HIDDEN or not alone or most_that_fit(place, group, group.turned) <= group.count:
            continue
        more = group.model_copy(update={"count": group.count + 1})
        changed = design.changed(
            panels=tuple(more if g.id == group.id else g for g in design.panels),
            strings=_with_strings(design, group, range(group.count, group.count + 1), 1),
        )
        found.append((place, _model_of(group), 1, changed))
    return found


def _best_fill(place: Place) -> tuple[PanelModel, int, bool] | None:
    """The panel of the list, and how many of it, that brings most watts to an empty place."""
    found = None
    for model in panel_models():
        if model.build is Build.FOLDING and place.kind is not PlaceKind.LOOSE:
            continue
        count, turned = _fits(place, model)
        watts = count * model.nameplate_w
        if count and (found is None or watts > found[1] * found[0].nameplate_w):
            found = model, count, turned
    return found


def _wired(design: BoatDesign, model: PanelModel, count: int) -> tuple[int, ControllerKind]:
    """The fewest in series whose hot volts reach the bank; a boost controller where none of them do."""
    if design.bank is None:
        return 1, ControllerKind.MPPT
    needs = absorption_v(design.bank) + Controller(id="new").headroom_v
    hot_v = panel_volts(model).best_at(design.wiring.hottest_cell_c)
    fits = [n for n in range(1, count + 1) if count % n == 0 and n * hot_v >= needs]
    return (fits[0], ControllerKind.MPPT) if fits else (1, ControllerKind.BOOST)


def _filled(design: BoatDesign, place: Place) -> tuple[Place, PanelModel, int, BoatDesign] | None:
    best = _best_fill(place)
    if best is None:
        return None
    model, count, turned = best
    taken = {group.id for group in design.panels} | {item.id for item in design.controllers}
    series, kind = _wired(design, model, count)
    controller = Controller(id=_unused(taken), name=f"{place.name} controller", kind=kind)
    group = _group(model, place.id, controller.id, count, turned, controller.id)
    others = tuple(p for p in design.places if p.id != place.id)
    changed = design.changed(
        places=tuple(place if p.id == place.id else p for p in design.places)
        if len(others) < len(design.places)
        else (*design.places, place),
        panels=(*design.panels, group.model_copy(update={"series": series})),
        strings=_with_strings(design, group, range(count), series),
        controllers=(*design.controllers, controller),
    )
    return place, model, count, changed


def _new_places(design: BoatDesign) -> list[Place]:
    """Wings set by hand, a stern arch and a foredeck, where the boat has none."""
    found = [place for place in proposed_places(design) if place.kind in ADDED]
    return [
        place.model_copy(update={"frame": None, "tended": Tended.THRICE if place.hinged else Tended.LEFT})
        for place in found
    ]


def next_panels(outlook: Outlook) -> NextPanels:
    """What one more panel would do, place by place.

    Parameters
    ----------
    outlook : Outlook

    Returns
    -------
    NextPanels
    """
    design = outlook.design
    measure = measure_of(outlook, rail_kind(design))
    if not design.panels:
        measure = "days_run_sun" if design.banks else "days_distance"
    empty = [p for p in design.places if not any(g.place_id == p.id for g in design.fitted_panels)]
    options = _one_more(design)
    options += [made for place in (*empty, *_new_places(design)) if (made := _filled(design, place))]
    base = miles_m(shown_outlook(design, outlook), measure)
    here = outlook.wh(outlook.shown_sun_w)
    found = [_weighed(outlook, measure, base, here, option) for option in options]
    found.sort(key=lambda item: -(item.gain_m if item.gain_m is not None else item.gain_wh))
    return NextPanels(
        candidates=found[:BEST_SHOWN],
        measure=measure,
        base_m=base if np.isfinite(base) else None,
        verdict=_verdict(found, "of range" if measure == "range" else "a day"),
        enough=not any(_worth(item) for item in found),
    )


def _worth(item: NextPanel) -> bool:
    return item.gain_m is not None and item.gain_m > 0 and (item.gain_frac or 1.0) >= WORTH_FRAC


def _weighed(
    outlook: Outlook, measure: str, base: float, here_wh: float,
    option: tuple[Place, PanelModel, int, BoatDesign],
) -> NextPanel:  # fmt: skip
    design = outlook.design
    place, model, count, changed = option
    watts = count * model.nameplate_w
    price, kg = framed_offer(_group(model, place.id, "x", count, False), count)
    trial = shown_outlook(changed, outlook, design.displacement_kg + kg)
    miles = miles_m(trial, measure)  # type: ignore[arg-type]
    gain = miles - base if np.isfinite(miles) and np.isfinite(base) else None
    return NextPanel(
        place_id=place.id if any(p.id == place.id for p in design.places) else None,
        place=place.name,
        panel=model.model or f"{ceil(model.nameplate_w)} W",
        count=count,
        watts=watts,
        mass_kg=kg,
        price=price,
        gain_wh=trial.wh(trial.shown_sun_w) - here_wh,
        gain_m=gain,
        gain_frac=gain / base if gain is not None and base > 0 else None,
        m_per_coin=gain / price if gain is not None and price > 0 else None,
        m_per_kg=gain / kg if gain is not None else None,
        refit=refit(design, changed),
    )


def _verdict(found: list[NextPanel], per: str) -> Sentence:
    worth = [item for item in found if _worth(item)]
    if not found:
        return sentence("Nothing more fits on the places there are.")
    if not worth:
        return sentence(
            "Enough: no panel that fits wins {x} of a day. Spend it on a cleaner hull, or go slower.",
            x=fraction(WORTH_FRAC),
        )
    best = worth[0]
    assert best.gain_m is not None
    cheap = max(worth, key=lambda item: item.m_per_coin or 0.0)
    text = f"{{place}}, {{panel}}: {{m}} {per}."
    slots = {"place": words(best.place), "panel": words(best.panel), "m": distance(best.gain_m, signed=True)}
    if cheap is not best:
        text += " Most for the money: {cheap}."
        slots["cheap"] = words(cheap.place)
    return sentence(text, **slots)
