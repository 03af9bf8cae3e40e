"""Proposed wirings: what is legal for these panels, this bank and a list of controllers, and the best.

Volts and amps prune first; what is left is harvested on the mean day of the plan, shade and all. Every group
gets controllers of its own.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

from parhelion.balance.outlook import Outlook, where_panels_give
from parhelion.computing.progress import Report, silent
from parhelion.design import Bank, BoatDesign, Controller, PanelGroup
from parhelion.design.refit import Refit, refit
from parhelion.panels.harvest import harvest
from parhelion.quantities import Frozen, Sentence, count, energy, fraction, money, sentence, so_many
from parhelion.stations.strings.boxes_year import boxes_through_year
from parhelion.stations.strings.ways_out import VoltsOptions, volts_options
from parhelion.wiring.arrangements import Arrangement, arrangements, wired

SAME_WH = 0.5
NEAR_FRAC = 0.02  # of the energy, given up for a lower price


class Choice(Frozen):
    """How one group is wired."""

    group_id: str
    place: str
    series: int
    strings: int
    boxes: int
    controller: str
    cold_v: float
    hot_v: float


class Proposal(Frozen):
    """One wiring of the whole boat."""

    key: str
    label: str
    day_wh: float  # at the bank on the mean day, the controllers' own draw taken off
    year_wh: float  # the same over the year of the plan's sky
    price: float  # of all controllers [coins]
    boxes: int
    wires: int  # pairs from the panels down
    reason: Sentence
    choices: list[Choice]
    current: bool
    refit: Refit


class Proposals(Frozen):
    """The best few, and how many arrangements were looked at."""

    tried: int
    legal: int
    now_wh: float
    now_year_wh: float
    proposals: list[Proposal]
    volts: list[VoltsOptions]  # panels whose volts do not suit the bank as they are wired
    unwired: list[str]  # places whose panels no controller of the list can take


def _options(
    design: BoatDesign, outlook: Outlook, group: PanelGroup, bank: Bank
) -> tuple[int, list[Arrangement]]:
    """How many arrangements of a group were looked at, and those that are legal, harvested."""
    tried, legal = arrangements(design, group, bank)
    found = []
    made: dict[tuple[object, ...], float] = {}
    for option in legal:
        model, boxes = option.model, option.boxes
        controller = wired(design, group, boxes, model)
        limit = boxes * (model.current_limit_a or 0)
        key = option.series, model.kind, model.headroom_v, model.efficiency, limit
        if key not in made:
            alone = group.model_copy(update={"series": option.series, "controller_id": controller.id})
            made[key] = _day_wh(design, outlook, alone, controller)
        found.append(replace(option, wh=made[key] - 24.0 * boxes * model.own_power_w))
    return tried, found


def first_legal(design: BoatDesign) -> list[Choice]:
    """The cheapest legal wiring of every group, by volts and amps alone: what can be said at once.

    Parameters
    ----------
    design : BoatDesign

    Returns
    -------
    list of Choice
        Without the groups that no controller of the list suits.
    """
    found = []
    for group in design.fitted_panels:
        bank = _bank_of(design, group)
        options = arrangements(design, group, bank)[1] if bank is not None else []
        if options:
            found.append(_choice(design, min(options, key=lambda o: (o.price, o.boxes))))
    return found


def _bank_of(design: BoatDesign, group: PanelGroup) -> Bank | None:
    controller = design.controller(group.controller_id)
    return design.bank_of(controller)


def _choice(design: BoatDesign, option: Arrangement) -> Choice:
    return Choice(
        group_id=option.group.id,
        place=design.place(option.group.place_id).name,
        series=option.series,
        strings=option.group.count // option.series,
        boxes=option.boxes,
        controller=option.model.name,
        cold_v=option.cold_v,
        hot_v=option.hot_v,
    )


def _day_wh(design: BoatDesign, outlook: Outlook, group: PanelGroup, controller: Controller) -> float:
    """The mean day of one group on a controller of its own, among the shade of all the others [Wh]."""
    panels = tuple(group if g.id == group.id else g for g in design.panels)
    others = tuple(c for c in design.controllers if c.id != controller.id)
    whole = design.changed(panels=panels, controllers=(*others, controller))
    return outlook.wh(harvest(whole, outlook.light.mean).groups_w[group.id][0])


def _proposal(
    key: str, label: str, reason: Sentence, picked: list[Arrangement], original: BoatDesign
) -> Proposal:
    design = original.changed(strings=())
    panels, controllers = list(design.panels), []
    for option in picked:
        controller = wired(design, option.group, option.boxes, option.model)
        controllers.append(controller)
        index = next(i for i, g in enumerate(panels) if g.id == option.group.id)
        panels[index] = panels[index].model_copy(
            update={"series": option.series, "controller_id": controller.id}
        )
    used = {group.controller_id for group in panels}
    kept = [c for c in design.controllers if c.id in used and c.id not in {n.id for n in controllers}]
    changed = design.changed(panels=tuple(panels), controllers=(*kept, *controllers))
    same = all(
        option.series == option.group.series
        and design.controller(option.group.controller_id).name == option.model.name
        and design.controller(option.group.controller_id).count == option.boxes
        for option in picked
    )
    return Proposal(
        key=key,
        label=label,
        day_wh=sum(option.wh for option in picked),
        year_wh=_year_wh(changed),
        price=sum(option.price for option in picked),
        boxes=sum(option.boxes for option in picked),
        wires=sum(option.group.count // option.series for option in picked),
        reason=reason,
        choices=[_choice(design, option) for option in picked],
        current=same,
        refit=refit(original, changed),
    )  # fmt: skip


def _year_wh(design: BoatDesign) -> float:
    """At the banks over the year of the plan's sky, the controllers' own draw taken off [Wh]."""
    return sum(box.year_wh - box.own_wh for box in boxes_through_year(design).boxes)


def _best_for_its_price(options: list[Arrangement]) -> Arrangement:
    """The cheapest that gives nearly as much as any, a controller's own draw counted."""
    most = max(option.wh for option in options)
    enough = most - NEAR_FRAC * abs(most)
    return min((o for o in options if o.wh >= enough), key=lambda o: (o.price, -o.wh))


def propose(outlook: Outlook, report: Report = silent) -> Proposals:
    """The best few wirings of a design.

    Parameters
    ----------
    outlook : Outlook
    report : Report
        Told after every group of panels and every proposal.

    Returns
    -------
    Proposals
        None where there is no bank, or no controller of the list suits any group.
    """
    outlook = where_panels_give(outlook)
    now = outlook.wh(harvest(outlook.design, outlook.light.mean).sun_w[0])
    now -= sum(24.0 * c.count * c.own_power_w for c in outlook.design.controllers)
    year = _year_wh(outlook.design)
    design = outlook.design.changed(strings=())
    tried, legal = 0, 0
    by_group: list[list[Arrangement]] = []
    unwired = []
    for index, group in enumerate(design.fitted_panels):
        bank = _bank_of(design, group)
        report(0.6 * index / len(design.fitted_panels))
        if bank is None:
            continue
        number, options = _options(design, outlook, group, bank)
        tried += number
        legal += len(options)
        if options:
            by_group.append(options)
        else:
            unwired.append(design.place(group.place_id).name)
    if not by_group:
        return Proposals(
            tried=tried,
            legal=0,
            now_wh=now,
            now_year_wh=year,
            proposals=[],
            unwired=unwired,
            volts=volts_options(outlook.design),
        )

    def pick(rank: Callable[[Arrangement], tuple[float, ...]]) -> list[Arrangement]:
        return [min(options, key=rank) for options in by_group]

    best = [_best_for_its_price(options) for options in by_group]
    most = pick(lambda o: (-round(o.wh / SAME_WH), o.boxes, o.price))
    cheap = pick(lambda o: (o.price, -o.wh))
    few = pick(lambda o: (o.boxes, o.price, -o.wh))
    each = [
        min((o for o in options if o.boxes == o.group.count), key=lambda o: o.price, default=None)
        for options in by_group
    ]
    best_wh = sum(o.wh for o in most)
    fewest = sum(o.boxes for o in few)
    rows = [
        ("best", "Best for its price", best, "Within {near} of the most, {spared} less to pay."),
        ("most", "Most energy", most, "Nothing on the list gives more in this boat's shade."),
        ("cheap", "Cheapest", cheap, "{lost} a day less than the most, {spared} spared."),
        (
            "few",
            "Fewest boxes",
            few,
            so_many(fewest, "box", "boxes") + ", {lost} a day less than the most.",
        ),
    ]
    if all(each):
        whole = [option for option in each if option is not None]
        rows.append(
            (
                "each",
                "One for each panel",
                whole,
                "Shade on one leaves the others alone: {lost} less than the most.",
            )
        )
    top_price = sum(o.price for o in most)
    found: list[Proposal] = []
    for index, (key, label, picked, text) in enumerate(rows):
        report(0.6 + 0.4 * index / len(rows))
        slots = {
            "lost": energy(max(best_wh - sum(o.wh for o in picked), 0.0)),
            "spared": money(max(top_price - sum(o.price for o in picked), 0.0)),
            "near": fraction(NEAR_FRAC),
            "boxes": count(sum(o.boxes for o in picked)),
        }
        reason = sentence(text, **{name: slot for name, slot in slots.items() if "{" + name + "}" in text})
        made = _proposal(key, label, reason, picked, outlook.design)
        if not any(other.choices == made.choices for other in found):
            found.append(made)
    return Proposals(
        tried=tried,
        legal=legal,
        now_wh=now,
        now_year_wh=year,
        proposals=found,
        unwired=unwired,
        volts=volts_options(outlook.design),
    )
