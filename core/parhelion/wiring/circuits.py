"""The wiring of a design: every panel group as strings on its controllers, the bank's and the motor's cables.

Only what the design says is wired; sizes and protection are worked out for what flows, never guessed safe.
"""

from __future__ import annotations

from dataclasses import dataclass

from parhelion.chemistries import CHEMICALS
from parhelion.design import (
    Bank,
    BoatDesign,
    Controller,
    ControllerKind,
    ControllerModel,
    Drive,
    PanelGroup,
    Place,
)
from parhelion.wiring.cables import LASTING, Cable, cable_for, fuse_a, lasting_a, string_fuses
from parhelion.wiring.panel_volts import PanelVolts, panel_volts

NOON_RISE_K, NOON_AIR_C = 25.0, 20.0  # a cell over the air at a usual noon
USUAL_RUN_M = {"panels": 5.0, "controller": 2.0, "motor": 3.0, "bank": 1.0}


@dataclass(frozen=True)
class Circuit:
    """One panel group on its controllers; volts of a string [V]."""

    group: PanelGroup
    place: Place
    controller: Controller
    bank: Bank | None
    panel: PanelVolts
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
    def run_m(self) -> float:
        """Panels to controller, one way [m]."""
        return USUAL_RUN_M["panels"] if self.place.cable_m is None else self.place.cable_m

    @property
    def out_m(self) -> float:
        """Controller to bank, one way [m]."""
        return USUAL_RUN_M["controller"] if self.controller.cable_m is None else self.controller.cable_m

    @property
    def series(self) -> int:
        return self.group.series

    @property
    def strings(self) -> int:
        """Complete strings."""
        return self.group.count // self.group.series

    @property
    def left_over(self) -> int:
        """Panels that fill no string."""
        return self.group.count - self.strings * self.series

    @property
    def per_box(self) -> int:
        """Strings on the box that has most of them."""
        return _per_box(self.group, self.controller)


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
    bank_run: Run | None  # from the main bank to its bus
    motor_runs: tuple[Run, ...]


def absorption_v(bank: Bank) -> float:
    """Charging volts of a bank, by its chemistry and cells [V]."""
    return bank.cells * CHEMICALS[bank.chemistry].absorption_v


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


def _per_box(group: PanelGroup, controller: Controller) -> int:
    """Strings of a group on the box that has most of them."""
    return -(-(group.count // group.series) // controller.count)


def _circuit(design: BoatDesign, group: PanelGroup) -> Circuit:
    limits, place = design.wiring, design.place(group.place_id)
    controller = design.controller(group.controller_id)
    bank = next((b for b in design.banks if b.id == controller.bank_id), design.bank)
    panel, series = panel_volts(group), group.series
    strings, per_box = group.count // series, _per_box(group, controller)
    sharing = [g for g in design.fitted_panels if g.controller_id == controller.id]
    coldest = limits.coldest_c
    noon_v = panel.best_at(NOON_AIR_C + NOON_RISE_K, series)
    short = lasting_a(panel.short_a, per_box)
    breaker = fuse_a(LASTING * short) if strings else None
    run = USUAL_RUN_M["panels"] if place.cable_m is None else place.cable_m
    cable = cable_for(
        panel.best_a * max(per_box, 1), run, noon_v, limits.drop_frac, fuse=breaker or fuse_a(LASTING)
    )
    charge, out = None, None
    if bank is not None:
        watts = sum(g.nameplate_w * g.series * _per_box(g, controller) for g in sharing)
        charge = watts * controller.efficiency / bank.nominal_v
        if controller.current_limit_a is not None:
            charge = min(charge, controller.current_limit_a)
        length = USUAL_RUN_M["controller"] if controller.cable_m is None else controller.cable_m
        out = cable_for(charge, length, bank.nominal_v, limits.drop_frac)
    return Circuit(
        group=group,
        place=place,
        controller=controller,
        bank=bank,
        panel=panel,
        cold_v=panel.open_at(coldest, series),
        noon_v=noon_v,
        hot_v=panel.best_at(limits.hottest_cell_c, series),
        needs_v=needs_v(controller, bank),
        limit_v=limit_v(controller, bank),
        short_a=short,
        box_short_a=sum(lasting_a(panel_volts(g).short_a, _per_box(g, controller)) for g in sharing),
        charge_a=charge,
        string_fused=string_fuses(panel.short_a, per_box, group.most_fuse_a),
        breaker_a=breaker,
        cable=cable,
        out=out,
    )


def _motor_a(drive: Drive, bank: Bank) -> float:
    """Amps that one motor can take from a bank [A]."""
    watts = drive.rated_power_w or (drive.full_thrust_current_a or 0) * (
        drive.full_thrust_v or bank.nominal_v
    )
    amps = watts / bank.nominal_v
    limit = drive.motor.current_limit_a if drive.motor else None
    return amps if limit is None else min(amps, limit)


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
    circuits = tuple(_circuit(design, group) for group in design.fitted_panels)
    bank = design.bank
    if bank is None:
        return Wiring(circuits, None, ())
    limits = design.wiring
    given = limits.motor_cable_m is not None
    length = limits.motor_cable_m if limits.motor_cable_m is not None else USUAL_RUN_M["motor"]
    motors = tuple(
        Run(
            drive.name,
            _motor_a(drive, bank),
            length,
            given,
            cable_for(
                _motor_a(drive, bank),
                length,
                bank.nominal_v,
                limits.drop_frac,
                engine_space=limits.engine_space,
            ),
        )
        for drive in design.drives
        if _motor_a(drive, bank) > 0
    )
    drawn = sum(run.current_a * drive.count for run, drive in zip(motors, design.drives, strict=False))
    charging = sum((c.charge_a or 0) * c.controller.count for c in circuits if c.bank is bank)
    most = max(drawn, charging, 1.0)
    length_b = USUAL_RUN_M["bank"] if limits.bank_cable_m is None else limits.bank_cable_m
    bank_run = Run(
        bank.name,
        most,
        length_b,
        limits.bank_cable_m is not None,
        cable_for(most, length_b, bank.nominal_v, limits.drop_frac),
    )
    return Wiring(circuits, bank_run, motors)
