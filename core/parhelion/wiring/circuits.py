"""The wiring of a design: strings alike on their controllers, the bank's and the motor's cables.

Only what the design says is wired; sizes and protection are worked out for what flows, never guessed safe.
"""

from __future__ import annotations

from dataclasses import dataclass

from parhelion.design import (
    Bank,
    BoatDesign,
    Controller,
    ControllerKind,
    ControllerModel,
    Drive,
    Link,
    PanelGroup,
    Place,
    Source,
)
from parhelion.design.chemistries import CHEMICALS
from parhelion.drive.chain import motor_battery_a, surroundings_of
from parhelion.wiring.by_itself import absorption_v, strung_panels
from parhelion.wiring.cables import LASTING, Cable, cable_for, fuse_a, lasting_a, string_fuses
from parhelion.wiring.panel_volts import PanelVolts, in_series, panel_volts
from parhelion.wiring.strings import by_hand, strings_of

NOON_RISE_K, NOON_AIR_C = 25.0, 20.0  # a cell over the air at a usual noon
USUAL_RUN_M = {"panels": 5.0, "controller": 2.0, "motor": 3.0, "bank": 1.0}


@dataclass(frozen=True)
class Circuit:
    """Strings alike on one controller; volts are a string's [V]."""

    key: str
    name: str  # of the places they are on
    groups: tuple[PanelGroup, ...]  # of each panel in a string
    place: Place  # of the first
    strings: int  # complete ones
    left_over: int  # panels that fill no string
    controller: Controller
    bank: Bank | None
    string: PanelVolts
    cold_v: float  # open, on the coldest morning
    noon_v: float
    hot_v: float
    needs_v: float | None  # the bank's absorption and what the controller needs over it; None behind boost
    limit_v: float | None  # the controller's, or behind boost the bank's own where that is lower
    short_a: float  # what its strings on one box can make their wire carry for hours
    box_short_a: float  # the same of everything on that box
    charge_a: float | None  # most that one box sends the bank, from everything on it
    string_fused: bool | None
    breaker_a: float | None
    cable: Cable  # panels to controller
    out: Cable | None  # controller to bank

    @property
    def group(self) -> PanelGroup:
        """Of the first panel."""
        return self.groups[0]

    @property
    def series(self) -> int:
        return len(self.groups)

    @property
    def mixed(self) -> bool:
        """Whether panels of different groups share a string."""
        return len({group.id for group in self.groups}) > 1

    @property
    def string_w(self) -> float:
        """Nameplate of one string [W]."""
        return sum(group.nameplate_w for group in self.groups)

    @property
    def nameplate_w(self) -> float:
        """Of all its panels [W]."""
        return self.strings * self.string_w + self.left_over * self.group.nameplate_w

    @property
    def run_m(self) -> float:
        """Panels to controller, one way [m]."""
        return USUAL_RUN_M["panels"] if self.place.cable_m is None else self.place.cable_m

    @property
    def out_m(self) -> float:
        """Controller to bank, one way [m]."""
        return USUAL_RUN_M["controller"] if self.controller.cable_m is None else self.controller.cable_m

    @property
    def per_box(self) -> int:
        """Strings on the box that has most of them."""
        return _per_box(self.strings, self.controller)


@dataclass(frozen=True)
class Run:
    """One heavy cable."""

    name: str
    current_a: float
    length_m: float
    length_given: bool
    cable: Cable


@dataclass(frozen=True)
class Wiring:
    """Everything that is wired."""

    circuits: tuple[Circuit, ...]
    bank_runs: tuple[Run, ...] = ()  # from each bank to its bus
    motor_runs: tuple[Run, ...] = ()
    link_runs: tuple[tuple[Run, Run], ...] = ()  # of each converter: from the giving bank, to the other
    source_runs: tuple[
        Run | None, ...
    ] = ()  # of each other source, from its charger to the bank; None: no bank


def float_v(bank: Bank) -> float:
    return bank.cells * CHEMICALS[bank.chemistry].float_v


def needs_v(controller: ControllerModel, bank: Bank | None) -> float | None:
    """Volts a string needs to charge a bank to the end; None without one, and behind boost [V]."""
    if bank is None or controller.kind is ControllerKind.BOOST:
        return None
    return absorption_v(bank) + controller.headroom_v


def limit_v(controller: ControllerModel, bank: Bank | None) -> float | None:
    """Volts a string may reach [V].

    Behind boost it stays below the bank's by the headroom: above, current runs to the bank past any control.
    """
    if bank is None or controller.kind is not ControllerKind.BOOST:
        return controller.most_pv_v
    under = bank.nominal_v - controller.headroom_v
    return under if controller.most_pv_v is None else min(under, controller.most_pv_v)


def _per_box(strings: int, controller: Controller) -> int:
    """Strings alike on the box that has most of them."""
    return -(-strings // controller.count)


@dataclass(frozen=True)
class _Alike:
    """Strings of the same panels on one controller."""

    key: str
    groups: tuple[PanelGroup, ...]
    controller: Controller
    strings: int
    left_over: int = 0

    @property
    def string(self) -> PanelVolts:
        return in_series([panel_volts(group) for group in self.groups])

    @property
    def watts(self) -> float:
        """Of the box that has most of them [W]."""
        return sum(g.nameplate_w for g in self.groups) * _per_box(self.strings, self.controller)


def _alike(design: BoatDesign) -> list[_Alike]:
    """All strings, those alike together; a group too small for one string is told with none."""
    if not by_hand(design):
        return [
            _Alike(
                group.id,
                (group,) * group.in_series,
                design.controller(group.controller_id),
                group.count // group.in_series,
                group.count % group.in_series,
            )
            for group in strung_panels(design)
        ]
    found: dict[str, _Alike] = {}
    for strung in strings_of(design):
        groups = tuple(sorted(strung.groups, key=lambda group: group.id))
        key = f"{strung.controller_id}/{'+'.join(group.id for group in groups)}"
        before = found[key].strings if key in found else 0
        found[key] = _Alike(key, groups, design.controller(strung.controller_id), before + 1)
    return list(found.values())


def _circuit(design: BoatDesign, alike: _Alike, sharing: list[_Alike]) -> Circuit:
    limits, controller, string = design.wiring, alike.controller, alike.string
    places = list(dict.fromkeys(group.place_id for group in alike.groups))
    place = design.place(places[0])
    bank = design.bank_of(controller)
    per_box = _per_box(alike.strings, controller)
    noon_v = string.best_at(NOON_AIR_C + NOON_RISE_K)
    short = lasting_a(string.short_a, per_box)
    breaker = fuse_a(LASTING * short) if alike.strings else None
    run = USUAL_RUN_M["panels"] if place.cable_m is None else place.cable_m
    cable = cable_for(
        string.best_a * max(per_box, 1),
        run,
        noon_v,
        limits.drop_frac,
        bundled=limits.bundled,
        fuse=breaker or fuse_a(LASTING),
    )
    charge, out = None, None
    if bank is not None:
        charge = sum(other.watts for other in sharing) * controller.efficiency / bank.nominal_v
        if controller.current_limit_a is not None:
            charge = min(charge, controller.current_limit_a)
        length = USUAL_RUN_M["controller"] if controller.cable_m is None else controller.cable_m
        out = cable_for(charge, length, bank.nominal_v, limits.drop_frac)
    fuses = [group.most_fuse_a for group in alike.groups]
    least_fuse = None if None in fuses else min(fuse for fuse in fuses if fuse is not None)
    return Circuit(
        key=alike.key,
        name=" + ".join(design.place(place_id).name for place_id in places),
        groups=alike.groups,
        place=place,
        strings=alike.strings,
        left_over=alike.left_over,
        controller=controller,
        bank=bank,
        string=string,
        cold_v=string.open_at(limits.coldest_c),
        noon_v=noon_v,
        hot_v=string.best_at(limits.hottest_cell_c),
        needs_v=needs_v(controller, bank),
        limit_v=limit_v(controller, bank),
        short_a=short,
        box_short_a=sum(lasting_a(a.string.short_a, _per_box(a.strings, controller)) for a in sharing),
        charge_a=charge,
        string_fused=string_fuses(string.short_a, per_box, least_fuse),
        breaker_a=breaker,
        cable=cable,
        out=out,
    )


def wiring_of(design: BoatDesign) -> Wiring:
    """The wiring of a design, sized.

    Parameters
    ----------
    design : BoatDesign

    Returns
    -------
    Wiring
        Lengths that are not given are usual ones for such a run.
    """
    every = _alike(design)
    circuits = tuple(
        _circuit(design, one, [other for other in every if other.controller.id == one.controller.id])
        for one in every
    )
    if design.bank is None:
        return Wiring(circuits)
    motors = _motor_runs(design, design.bank)
    links = tuple(_link_runs(design, link) for link in design.links)
    sources = tuple(_source_run(design, source) for source in design.sources)
    banks = tuple(_bank_run(design, bank, circuits, motors) for bank in design.banks)
    return Wiring(circuits, banks, motors, links, sources)


def _motor_runs(design: BoatDesign, bank: Bank) -> tuple[Run, ...]:
    """The cable of each drive's motor, in the order of the drives; those alike have one each."""
    limits, around = design.wiring, surroundings_of(design)
    given = limits.motor_cable_m is not None
    length = limits.motor_cable_m if limits.motor_cable_m is not None else USUAL_RUN_M["motor"]

    def run(drive: Drive) -> Run:
        amps = motor_battery_a(drive, around, bank.nominal_v)
        cable = cable_for(amps, length, bank.nominal_v, limits.drop_frac, engine_space=limits.engine_space)
        return Run(drive.name, amps, length, given, cable)

    return tuple(run(drive) for drive in design.drives)


def _at_bank(design: BoatDesign, bank: Bank, name: str, watts: float) -> Run:
    """A cable of usual length between a bank's bus and a charger or converter."""
    amps, length = watts / bank.nominal_v, USUAL_RUN_M["controller"]
    return Run(name, amps, length, False, cable_for(amps, length, bank.nominal_v, design.wiring.drop_frac))


def _link_runs(design: BoatDesign, link: Link) -> tuple[Run, Run]:
    giver, taker = (
        next(bank for bank in design.banks if bank.id == key) for key in (link.from_bank_id, link.to_bank_id)
    )
    return (
        _at_bank(design, giver, f"{giver.name} to the converter", link.limit_w / link.efficiency),
        _at_bank(design, taker, f"converter to {taker.name}", link.limit_w),
    )


def _source_run(design: BoatDesign, source: Source) -> Run | None:
    bank = design.bank_of(source)
    return (
        None if bank is None else _at_bank(design, bank, f"{source.name} to the bank", source.rated_power_w)
    )


def _bank_run(design: BoatDesign, bank: Bank, circuits: tuple[Circuit, ...], motors: tuple[Run, ...]) -> Run:
    """The cable of a bank, for the larger of all that may be drawn and all that may charge at once."""
    first = bank is design.bank
    drawn = charging = 0.0
    if first:
        drawn += sum(run.current_a * drive.count for run, drive in zip(motors, design.drives, strict=True))
    own = [load for load in design.loads if design.load_bank_id(load) == bank.id]
    drawn += 0.0 if first else sum(load.drawn_w for load in own) / bank.nominal_v
    for link in design.links:
        drawn += link.limit_w / link.efficiency / bank.nominal_v if link.from_bank_id == bank.id else 0.0
        charging += link.limit_w / bank.nominal_v if link.to_bank_id == bank.id else 0.0
    boxes = {c.controller.id: (c.charge_a or 0) * c.controller.count for c in circuits if c.bank is bank}
    charging += sum(boxes.values())
    charging += sum(s.rated_power_w / bank.nominal_v for s in design.sources if design.bank_of(s) is bank)
    most = max(drawn, charging, 1.0)
    given = design.wiring.bank_cable_m if first else None
    length = USUAL_RUN_M["bank"] if given is None else given
    return Run(
        bank.name, most, length, given is not None,
        cable_for(most, length, bank.nominal_v, design.wiring.drop_frac),
    )  # fmt: skip
