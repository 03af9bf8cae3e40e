"""Everything the design implies, by system: how many, what it costs and weighs, and whether it is there."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from parhelion.design import BoatDesign
from parhelion.design.chemistries import CHEMICALS
from parhelion.design.records import PartNote, PartState, Records, System
from parhelion.market.fittings import STOCK_PRICE_PER_KG, cable_offer, fitting_offer
from parhelion.market.parts import (
    CONTROLLER_KG,
    battery_price,
    controller_price,
    motor_offer,
    panel_price,
)
from parhelion.panels.frame import frame_of
from parhelion.wiring.circuits import Wiring, wiring_of
from parhelion.wiring.parts import parts_of


@dataclass(frozen=True)
class Implied:
    """A part that the design asks for."""

    key: str
    name: str
    system: System
    quantity: float
    unit: str = ""  # pieces where it is empty
    price: float | None = None  # each; None where nobody can say
    mass_kg: float | None = None
    price_at: str | None = None  # the entry of the design where its price stands
    mass_at: str | None = None
    given: bool = False  # whether price and mass are the person's own
    why: str = ""


@dataclass(frozen=True)
class Line:
    """A part as it stands on the list: what is implied, with what somebody noted of it."""

    part: Implied
    note: PartNote | None
    own: bool = False  # a line of one's own
    gone: bool = False  # bought, but not in the design any more

    @property
    def state(self) -> PartState:
        return PartState.TO_BUY if self.note is None else self.note.state

    @property
    def quantity(self) -> float:
        return self.part.quantity

    @property
    def price(self) -> float | None:
        """Each: as noted, else as the design or the usual price has it; what lay in the shed is noted as "
        "0."""
        noted = None if self.note is None else self.note.price
        return self.part.price if noted is None else noted

    @property
    def guessed(self) -> bool:
        """Whether its price is a usual one."""
        return not self.part.given and (self.note is None or self.note.price is None)

    @property
    def mass_kg(self) -> float | None:
        noted = None if self.note is None else self.note.mass_kg
        return self.part.mass_kg if noted is None else noted

    @property
    def cost(self) -> float | None:
        return None if self.price is None else self.price * self.quantity

    @property
    def mass(self) -> float | None:
        return None if self.mass_kg is None else self.mass_kg * self.quantity

    @property
    def short(self) -> float:
        """How many more the design asks for than are bought or on order."""
        if self.note is None or self.state is PartState.TO_BUY or self.own or self.gone:
            return 0.0
        return self.quantity - self.note.quantity


def _bought(design: BoatDesign) -> Iterator[Implied]:
    """The large things: hull, motors, banks, panels, controllers."""
    yield Implied("hull", f"Hull, {design.hull.type.label.lower()}", System.HULL, 1, why="as bought")
    for index, drive in enumerate(design.drives):
        watts = drive.rated_power_w
        size = f"{watts:g} W" if watts else f"{drive.static_thrust_n or 0:.0f} N"
        offer = motor_offer(drive)
        yield Implied(
            f"drive/{drive.id}",
            f"{drive.name}, {size}",
            System.DRIVE,
            drive.count,
            "",
            *offer,
            price_at=f"/drives/{index}/price",
            mass_at=f"/drives/{index}/mass_kg",
            given=drive.price is not None,
        )
        if drive.propeller is not None:
            wheel = f"Propeller {drive.propeller.diameter_m:g} × {drive.propeller.pitch_m or 0:g} m"
            offer = fitting_offer("propeller")
            yield Implied(f"propeller/{drive.id}", wheel, System.DRIVE, drive.count, "", *offer)
    for index, bank in enumerate(design.banks):
        each_kg = bank.mass / bank.units
        price = battery_price(bank, bank.unit_v * bank.unit_ah)
        yield Implied(
            f"bank/{bank.id}",
            f"{bank.chemistry.label} {bank.unit_v:g} V {bank.unit_ah:g} Ah",
            System.BANK,
            bank.units,
            "",
            price,
            each_kg,
            price_at=f"/banks/{index}/unit_price",
            mass_at=f"/banks/{index}/unit_mass_kg",
            given=bank.unit_price is not None,
            why=bank.name,
        )
    for index, group in enumerate(design.panels):
        name = group.model or f"Panel {group.nameplate_w:g} W"
        yield Implied(
            f"panels/{group.id}",
            name,
            System.PANELS,
            group.count,
            "",
            panel_price(group),
            group.each_kg,
            price_at=f"/panels/{index}/price",
            mass_at=f"/panels/{index}/mass_kg",
            given=group.price is not None,
            why=design.place(group.place_id).name,
        )
    for place in design.places:
        found = frame_of(place, [group for group in design.fitted_panels if group.place_id == place.id])
        if found is None:
            continue
        stock = found.frame
        each_kg = stock.kg_per_m * stock.stock_m
        wide = f"{1000 * stock.size_m:g} × {1000 * stock.wall_m:g} mm"
        yield Implied(
            f"frame/{place.id}",
            f"{stock.metal.label.capitalize()} {stock.stock.label} {wide}, {stock.stock_m:g} m",
            System.PANELS,
            len(found.bars),
            "",
            each_kg * STOCK_PRICE_PER_KG[stock.metal],
            found.mass_kg / len(found.bars),
            why=f"{place.name}: frame",
        )
        yield Implied(
            f"feet/{place.id}",
            "Feet, clamps and screws for a frame",
            System.PANELS,
            stock.feet,
            "",
            *fitting_offer("foot"),
            why=f"{place.name}: frame",
        )
        if found.hinges:
            yield Implied(
                f"hinges/{place.id}",
                "Hinges with pins and stays",
                System.PANELS,
                found.hinges,
                "",
                *fitting_offer("hinge"),
                why=f"{place.name}: frame, along {found.hinge_m:g} m",
            )
    for index, box in enumerate(design.controllers):
        limit = f", {box.current_limit_a:g} A" if box.current_limit_a else ""
        yield Implied(
            f"controller/{box.id}",
            f"{box.name}{limit}",
            System.CONTROLLERS,
            box.count,
            "",
            controller_price(box),
            CONTROLLER_KG,
            price_at=f"/controllers/{index}/price",
            given=box.price is not None,
        )


KINDS = {  # of the wiring's parts: the fitting that it is priced as
    "breaker": "breaker",
    "fuse": "fuse",
    "switch": "switch",
    "connector": "connector",
    "lug": "lug",
}


def _number(text: str) -> float:
    """The first number of a part's name: its amps or square millimetres."""
    for word in text.split():
        try:
            return float(word)
        except ValueError:
            continue
    return 0.0


def _wiring(wiring: Wiring) -> Iterator[Implied]:
    """Cables by size, guards, plugs and lugs, those alike on one line."""
    summed: dict[tuple[str, str], float] = {}
    where: dict[tuple[str, str], list[str]] = {}
    for part in parts_of(wiring):
        if part.kind in ("panel", "controller"):
            continue
        key = (part.kind, part.item)
        summed[key] = summed.get(key, 0.0) + part.quantity
        where.setdefault(key, []).append(part.where)
    for (kind, item), quantity in summed.items():
        size = _number(item)
        if kind == "cable":
            offer = cable_offer(size)
        else:
            offer = fitting_offer("string_fuse" if item.startswith("string fuse") else KINDS[kind], size)
        named = item[:1].upper() + item[1:]
        yield Implied(
            f"{kind}/{item}",
            named,
            System.WIRING,
            quantity,
            "m" if kind == "cable" else "",
            *offer,
            why=", ".join(dict.fromkeys(where[kind, item])),
        )


def _beside(design: BoatDesign, wiring: Wiring) -> Iterator[Implied]:
    """What no entry of the design asks for, and no boat of its kind is without."""

    def fitting(key: str, kind: str, name: str, system: System, count: float = 1, why: str = "") -> Implied:
        return Implied(key, name, system, count, "", *fitting_offer(kind), why=why)

    for bank in design.banks:
        yield fitting(f"box/{bank.id}", "box", "Battery box and straps", System.BANK, 1, bank.name)
        if CHEMICALS[bank.chemistry].lithium and bank.management:
            yield fitting(
                f"guard/{bank.id}",
                "guard",
                "Management system, if the units have none",
                System.BANK,
                1,
                bank.name,
            )
    for link in design.links:
        yield fitting(
            f"link/{link.id}", "converter", f"DC-DC converter, {link.limit_w:g} W", System.CONTROLLERS
        )
    for source in design.sources:
        yield Implied(
            f"source/{source.id}", source.name, System.CONTROLLERS, 1, "", *fitting_offer("charger")
        )
    if design.banks:
        yield fitting("shunt", "shunt", "Shunt and meter", System.WIRING)
        if len(wiring.circuits) > 1:
            yield fitting("bus", "bus", "Bus bars and covers", System.WIRING, 2)
        if any(run.current_a > PRECHARGE_OVER_A for run in wiring.motor_runs):
            yield fitting("precharge", "precharge", "Precharge resistor and switch", System.WIRING)
    if wiring.circuits or design.banks:
        yield fitting("shrink", "shrink", "Heat-shrink and labels", System.WIRING)
    by_hand = any(push.kind.value in ("oars", "paddle", "pedals") for push in design.pushes)
    if not by_hand:
        yield fitting("safety/oars", "oars", "Oars or paddles", System.SAFETY, 1, "a second way home")
    yield fitting("safety/lights", "lights", "Navigation lights", System.SAFETY)
    yield fitting("safety/bailer", "bailer", "Bailer or pump", System.SAFETY)
    yield fitting("safety/extinguisher", "extinguisher", "Extinguisher, blanket", System.SAFETY)
    aboard = max(round((design.loading.crew_kg if design.loading else 80.0) / PERSON_KG), 1)
    yield fitting("safety/life_jackets", "life_jackets", "Life jackets", System.SAFETY, aboard)
    yield fitting("safety/anchor", "anchor", "Anchor and line", System.SAFETY)
    yield fitting("safety/horn", "horn", "Whistle or horn", System.SAFETY)


PRECHARGE_OVER_A = 60.0  # a motor controller that large draws an arc as it is connected
PERSON_KG = 75.0


def implied(design: BoatDesign) -> list[Implied]:
    """Every part that a design asks for, by system in their order."""
    wiring = wiring_of(design)
    found = [*_bought(design), *_wiring(wiring), *_beside(design, wiring)]
    order = list(System)
    return sorted(found, key=lambda part: order.index(part.system))


def lines_of(design: BoatDesign, records: Records) -> list[Line]:
    """The list with what was noted: implied parts, lines of one's own, and what is bought but not asked "
    "for."""
    notes = records.parts
    parts = implied(design)
    found = [Line(part, notes.get(part.key)) for part in parts]
    known = {part.key for part in parts}
    for key, note in notes.items():
        if key in known:
            continue
        own = note.system is not None
        if not own and note.state is PartState.TO_BUY:
            continue  # neither asked for nor bought
        part = Implied(
            key,
            note.name,
            note.system or System.SAFETY,
            note.quantity,
            "",
            note.price,
            note.mass_kg,
            given=True,
        )
        found.append(Line(part, note, own=own, gone=not own))
    return found


@dataclass(frozen=True)
class Sums:
    """Of some lines: money and mass, and how many have neither."""

    cost: float
    paid: float
    ordered: float
    to_buy: float
    mass_kg: float
    no_price: int
    no_mass: int
    have: int
    on_order: int
    missing: int
    guessed: float  # of the cost, at usual prices


def sums_of(lines: list[Line]) -> Sums:
    """Money and mass of lines; what has no price is counted, never taken as nothing."""
    by_state = {state: sum(line.cost or 0.0 for line in lines if line.state is state) for state in PartState}
    return Sums(
        cost=sum(by_state.values()),
        paid=by_state[PartState.HAVE],
        ordered=by_state[PartState.ORDERED],
        to_buy=by_state[PartState.TO_BUY],
        mass_kg=sum(line.mass or 0.0 for line in lines),
        no_price=sum(line.price is None for line in lines),
        no_mass=sum(line.mass is None for line in lines),
        have=sum(line.state is PartState.HAVE for line in lines),
        on_order=sum(line.state is PartState.ORDERED for line in lines),
        missing=sum(line.state is PartState.TO_BUY for line in lines),
        guessed=sum(line.cost or 0.0 for line in lines if line.guessed),
    )
