"""What to do where volts do not suit the bank: in series, another controller, boost, a split bank.

References
----------
[1] Each way is harvested over the year of the plan's sky, shade and all, and priced from the list.
[2] A split bank: half the panels charge each half, each through its own controller; what a balancer between
    the halves loses and costs is typical and invented.
[3] Amps that differ by more than a twelfth waste the stronger panel.
"""

from __future__ import annotations

from parhelion.constants import SHOCK_V
from parhelion.design import Bank, BoatDesign, Controller, ControllerKind, PanelGroup
from parhelion.design.array import PanelRef, PanelString
from parhelion.design.refit import Refit, refit
from parhelion.market.parts import BALANCER_PRICE
from parhelion.quantities import Frozen, Sentence, sentence, volts
from parhelion.stations.strings.boxes_year import boxes_through_year
from parhelion.wiring.arrangements import Arrangement, arrangements, divisors, wired
from parhelion.wiring.circuits import limit_v, needs_v, wiring_of
from parhelion.wiring.panel_volts import panel_volts

BALANCER_LOSS_FRAC = 0.03  # [2]
ALIKE_A = 1 / 12  # [3]


class VoltsOption(Frozen):
    """One way out, with what it gives and what it risks."""

    key: str
    label: str
    year_wh: float  # at the bank from these panels
    gain_wh: float  # over the wiring as it is
    price: float  # of what is bought
    risk: Sentence
    refit: Refit | None  # that makes it; None where the design cannot draw it


class VoltsOptions(Frozen):
    """Panels of the wrong volts, and the ways out, most energy first."""

    group_id: str
    place: str
    told: Sentence
    options: list[VoltsOption]


def _year_wh(design: BoatDesign, controller_id: str) -> float:
    box = next((b for b in boxes_through_year(design).boxes if b.controller_id == controller_id), None)
    return box.year_wh - box.own_wh if box else 0.0


def _with(design: BoatDesign, group: PanelGroup, series: int, controller: Controller) -> BoatDesign:
    """The boat with a group in strings of its own on a controller of its own."""
    mine = group.model_copy(update={"series": series, "controller_id": controller.id})
    others = tuple(c for c in design.controllers if c.id != controller.id)
    panels = tuple(mine if g.id == group.id else g for g in design.panels)
    used = {g.controller_id for g in panels}
    return design.changed(
        strings=(), panels=panels, controllers=(*(c for c in others if c.id in used), controller)
    )


def _series(design: BoatDesign, group: PanelGroup, bank: Bank) -> tuple[int, BoatDesign, str] | None:
    """The fewest in series that suit the controller aboard."""
    controller, panel = design.controller(group.controller_id), panel_volts(group)
    least, most = needs_v(controller, bank), limit_v(controller, bank)
    for series in divisors(group.count):
        cold = panel.open_at(design.wiring.coldest_c, series)
        hot = panel.best_at(design.wiring.hottest_cell_c, series)
        suits = (least is None or hot >= least) and (most is None or cold <= most)
        if suits and series != group.series:
            own = controller.model_copy(update={"id": f"{group.id}-controller"[:40]})
            shared = sum(g.controller_id == controller.id for g in design.fitted_panels) > 1
            chosen = own if shared else controller
            return series, _with(design, group, series, chosen), chosen.id
    return None


def _partner(design: BoatDesign, group: PanelGroup, bank: Bank) -> PanelGroup | None:
    """Panels on another place, as many and of such amps, that make volts for the bank with these [3]."""
    controller, mine = design.controller(group.controller_id), panel_volts(group)
    least, most = needs_v(controller, bank), limit_v(controller, bank)
    wiring = design.wiring
    for other in design.fitted_panels:
        theirs, fed = panel_volts(other), design.bank_of(design.controller(other.controller_id))
        if other.place_id == group.place_id or other.count != group.count or fed != bank:
            continue
        if abs(theirs.short_a / mine.short_a - 1) > ALIKE_A:
            continue
        cold = mine.open_at(wiring.coldest_c, 1) + theirs.open_at(wiring.coldest_c, 1)
        hot = mine.best_at(wiring.hottest_cell_c, 1) + theirs.best_at(wiring.hottest_cell_c, 1)
        if (least is None or hot >= least) and (most is None or cold <= most):
            return other
    return None


def _paired(design: BoatDesign, group: PanelGroup, other: PanelGroup) -> BoatDesign:
    """The boat wired by hand: the two places pair by pair, all other panels as they are."""
    strings = [
        PanelString(
            id=f"across-{n + 1}", controller_id=group.controller_id,
            panels=(PanelRef(group_id=group.id, number=n), PanelRef(group_id=other.id, number=n)),
        )
        for n in range(group.count)
    ]  # fmt: skip
    for one in design.fitted_panels:
        series = one.in_series
        for n in range(0 if one.id in (group.id, other.id) else one.count // series):
            refs = tuple(PanelRef(group_id=one.id, number=n * series + k) for k in range(series))
            strings.append(
                PanelString(id=f"{one.id}-{n + 1}"[-40:], controller_id=one.controller_id, panels=refs)
            )
    used = {string.controller_id for string in strings}
    panels = tuple(
        one.model_copy(update={"controller_id": group.controller_id}) if one.id == other.id else one
        for one in design.panels
    )
    boxes = tuple(box for box in design.controllers if box.id in used)
    return design.changed(strings=tuple(strings), panels=panels, controllers=boxes)


def _cheapest(found: list[Arrangement]) -> Arrangement | None:
    return min(found, key=lambda a: (a.price, a.boxes), default=None)


def _halved(design: BoatDesign, bank: Bank) -> BoatDesign:
    half = bank.model_copy(update={"series": bank.series // 2, "parallel": bank.parallel * 2})
    return design.changed(banks=tuple(half if b.id == bank.id else b for b in design.banks))


def _options(design: BoatDesign, group: PanelGroup, bank: Bank) -> list[VoltsOption]:
    now_wh = _year_wh(design, group.controller_id)
    found: list[VoltsOption] = []

    def add(
        key: str,
        label: str,
        risk: Sentence,
        price: float,
        changed: BoatDesign,
        box: str,
        keep: float = 1.0,
        others_wh: float = 0.0,
    ) -> None:
        year = keep * _year_wh(changed, box) - others_wh
        drawn = changed if changed.banks == design.banks else None
        found.append(
            VoltsOption(
                key=key,
                label=label,
                year_wh=year,
                gain_wh=year - now_wh,
                price=price,
                risk=risk,
                refit=None if drawn is None else refit(design, drawn),
            )
        )

    in_series = _series(design, group, bank)
    if in_series is not None:
        series, changed, box = in_series
        cold = panel_volts(group).open_at(design.wiring.coldest_c, series)
        text = "Nothing to buy; shade on one panel takes its string down, and cold mornings bring {v}"
        risk = sentence(text + (": shock and arc." if cold > SHOCK_V else "."), v=volts(cold))
        label = f"{series} in series on this controller" if series > 1 else "All side by side"
        add("series", label, risk, 0.0, changed, box)
    _, legal = arrangements(design, group, bank)
    kinds = (
        ("another", "Another controller", (ControllerKind.MPPT, ControllerKind.PWM),
         "One more thing to buy; the panels stay as they are strung."),
        ("boost", "A boost controller", (ControllerKind.BOOST,),
         "The panels must stay under the bank's volts on the coldest morning; fewer to choose from."),
    )  # fmt: skip
    for key, label, wanted, text in kinds:
        suits = [a for a in legal if a.model.kind in wanted and (key == "boost" or a.series == group.series)]
        chosen = _cheapest(suits)
        if chosen is not None:
            controller = wired(design, group, chosen.boxes, chosen.model)
            add(key, f"{label}: {chosen.boxes} × {chosen.model.name}", sentence(text), chosen.price,
                _with(design, group, chosen.series, controller), controller.id)  # fmt: skip
    other = _partner(design, group, bank)
    if other is not None:
        apart = other.controller_id != group.controller_id
        add(
            "pair",
            f"Each in series with one of {design.place(other.place_id).name}",
            sentence(
                "A cable across the boat. Both carry the same amps: the one in less sun holds the other "
                "back, or is passed by and the volts fall short."
            ),
            0.0,
            _paired(design, group, other),
            group.controller_id,
            others_wh=_year_wh(design, other.controller_id) if apart else 0.0,
        )
    if bank.series % 2 == 0 and group.count % 2 == 0:
        halved = _halved(design, bank)
        half = next(b for b in halved.banks if b.id == bank.id)
        _, legal = arrangements(halved, group, half)
        chosen = _cheapest([a for a in legal if a.boxes % 2 == 0])
        if chosen is not None:
            controller = wired(halved, group, chosen.boxes, chosen.model)
            add(
                "split",
                f"Charge the bank in two halves: {chosen.boxes} × {chosen.model.name}, a balancer",
                sentence(
                    "Halves that see different sun drift apart: the bank is as full as its emptier half. "
                    "Never draw from one half; controllers and panels of the halves must not share a wire."
                ),
                chosen.price + BALANCER_PRICE,
                _with(halved, group, chosen.series, controller),
                controller.id,
                1 - BALANCER_LOSS_FRAC,
            )
    return sorted(found, key=lambda option: -option.year_wh)


def volts_options(design: BoatDesign) -> list[VoltsOptions]:
    """Every group whose volts do not suit its controller and bank, with the ways out.

    Parameters
    ----------
    design : BoatDesign
        Wired by groups; strings wired by hand are left to the hand.
    """
    found = []
    for circuit in wiring_of(design).circuits:
        low = circuit.needs_v is not None and circuit.hot_v < circuit.needs_v
        over = circuit.limit_v is not None and circuit.cold_v > circuit.limit_v
        if circuit.mixed or circuit.bank is None or design.strings or not (low or over):
            continue
        told = (
            sentence(
                "{v} when hot, the bank needs {n}.", v=volts(circuit.hot_v), n=volts(circuit.needs_v or 0.0)
            )
            if low
            else sentence(
                "{v} open in the cold, the limit is {n}.",
                v=volts(circuit.cold_v),
                n=volts(circuit.limit_v or 0),
            )
        )
        found.append(
            VoltsOptions(
                group_id=circuit.group.id, place=circuit.name, told=told,
                options=_options(design, circuit.group, circuit.bank),
            )
        )  # fmt: skip
    return found
