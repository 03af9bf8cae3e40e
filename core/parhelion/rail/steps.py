"""The practical steps a boat can take, each a changed boat with what it costs and weighs."""

from __future__ import annotations

from datetime import datetime, timedelta
from typing import Literal, NamedTuple

from parhelion.balance.outlook import Outlook, remembered, shown_outlook
from parhelion.design import Bank, BoatDesign, Controller, Drive, PanelGroup, Place, Spell
from parhelion.design.chemistries import CHEMICALS, Chemistry
from parhelion.drive.chain import rated_battery_w, surroundings_of
from parhelion.drive.match import Suggestion
from parhelion.hull.matched import best_screw, with_screw
from parhelion.market.fittings import fitting_offer
from parhelion.market.parts import Offer, bank_price, first_panel_offer, motor_offer, motors_kg, panel_offer
from parhelion.quantities import Sentence, capacity, count, length, mass, power, sentence, words
from parhelion.wiring.by_itself import boxes_by_itself
from parhelion.wiring.panel_volts import swelled

HOUSE_STEP_W = 50.0
MASS_STEP_FRAC = 0.10  # of all aboard
FIRST_PANEL_W = 200.0
CLIPS_FROM_WH = 5.0  # of a day: less is not worth another controller
LARGER_LIMIT = 1.5  # of its amps
LONGEST_HOURS = 23  # motoring that leaves no further hour in the day
DRIVE_STEP_FRAC = 0.10  # more watts
STRING_FRAC = 0.05  # of a group: a step of panels is whole strings of at least about so much
LITHIUM_CELLS_PER_LEAD = 2 / 3  # 3.2 V cells in the place of 2 V ones: four for six


def panels_in_a_step(group: PanelGroup) -> int:
    """How many panels the next step is: one, or on a larger roof whole strings of some twentieth of it."""
    strings = max(round(STRING_FRAC * group.count / group.in_series), 1)
    return group.in_series * strings


def more_panels(design: BoatDesign) -> tuple[int, float]:
    """How many panels, of how many watts each, the step of `with_panel` is."""
    largest = design.largest_group
    return (1, FIRST_PANEL_W) if largest is None else (panels_in_a_step(largest), largest.nameplate_w)


def panel_words(design: BoatDesign) -> Sentence:
    """The step of `with_panel` in words."""
    number, watts = more_panels(design)
    if number == 1:
        return sentence("one more {w} panel", w=power(watts))
    return sentence("{n} more {w} panels", n=count(number), w=power(watts))


def with_panel(design: BoatDesign) -> BoatDesign:
    """The design with a step more of its largest panel group's panels, or a first panel flat.

    They are taken to give what those of their group give on the mean: where they would lie is not asked here.
    """
    number, watts = more_panels(design)
    largest = design.largest_group
    if largest is not None:
        more = swelled(largest, number)
        panels = tuple(more if group is largest else group for group in design.panels)
        return design.model_copy(update={"panels": panels})
    group = PanelGroup(id="first", place_id="first", controller_id="first", nameplate_w=watts)
    return boxes_by_itself(
        design.model_copy(
            update={
                "panels": (group,),
                "places": (*design.places, Place(id="first", name="First panel")),
                "controllers": (*design.controllers, Controller(id="first")),
            }
        )
    )


def one_more_panel(design: BoatDesign) -> Offer:
    """What the panels of `with_panel` cost and weigh."""
    largest = design.largest_group
    return (
        first_panel_offer(FIRST_PANEL_W) if largest is None else panel_offer(largest, more_panels(design)[0])
    )


def lighter_house(design: BoatDesign) -> tuple[BoatDesign, float]:
    """The design with 50 W less house on the mean, or none where it takes less; and the watts saved."""
    mean = sum(load.power_w * load.hours_per_day / 24 for load in design.loads)
    saved = min(HOUSE_STEP_W, mean)
    left = 1 - saved / mean if mean else 1.0
    loads = tuple(load.model_copy(update={"power_w": load.power_w * left}) for load in design.loads)
    return design.model_copy(update={"loads": loads}), saved


def with_larger_controllers(outlook: Outlook) -> BoatDesign | None:
    """The design with controllers of more amps, where they clip on the shown day."""
    if outlook.wh(outlook.harvest.clipped_w[outlook.light.shown]) < CLIPS_FROM_WH:
        return None
    boxes = tuple(
        box.model_copy(update={"current_limit_a": box.current_limit_a and box.current_limit_a * LARGER_LIMIT})
        for box in outlook.design.controllers
    )
    return outlook.design.changed(controllers=boxes)


@remembered
def longer_day(outlook: Outlook) -> Outlook | None:
    """The same day with the last spell an hour longer; None where the day has no further hour."""
    if not outlook.spells or outlook.hours > LONGEST_HOURS:
        return None
    last = outlook.spells[-1]
    end = (datetime.combine(outlook.day.starts_at.date(), last.ends_at) + timedelta(hours=1)).time()
    longer = (*outlook.spells[:-1], Spell(starts_at=last.starts_at, ends_at=end))
    plan = outlook.design.plan.model_copy(update={"spells": longer})
    return shown_outlook(outlook.design.model_copy(update={"plan": plan}), outlook)


class Changed(NamedTuple):
    """The boat after a step: its words, what it costs and adds to her weight."""

    key: Literal["panel", "house", "mass", "chemistry", "propeller", "drive"]
    label: Sentence
    design: BoatDesign
    cost: float = 0.0
    mass_kg: float = 0.0


@remembered
def better_screw(outlook: Outlook) -> Suggestion | None:
    """The pitch and gear that suit the motor best at the planned speed; None where too little is known."""
    return best_screw(outlook.design, outlook.curve, outlook.plan_speed_mps)


def gear_words(gear_ratio: float) -> str:
    """A gear as it is said."""
    return "direct" if gear_ratio == 1 else f"geared {gear_ratio:g} : 1"


def with_better_screw(outlook: Outlook) -> Changed | None:
    """The boat with the propeller that suits her motor; None where it saves too little to be changed."""
    found = better_screw(outlook)
    drives = with_screw(outlook.design, found)
    if drives is None or found is None:
        return None
    offer = fitting_offer("propeller")
    changed = sum(new.count for new, old in zip(drives, outlook.design.drives, strict=True) if new is not old)
    label = sentence(
        "a propeller of {p} pitch, {g}", p=length(found.pitch_m), g=words(gear_words(found.gear_ratio))
    )
    return Changed("propeller", label, outlook.design.changed(drives=drives), changed * offer.price)


def lithium_of(bank: Bank) -> Bank:
    """A lithium iron phosphate bank in the place of a lead one: the same class of volts and amp-hours."""
    cells = max(round(LITHIUM_CELLS_PER_LEAD * bank.cells), 1)
    return Bank(
        id=bank.id, name=bank.name, chemistry=Chemistry.LFP,
        unit_v=cells * CHEMICALS[Chemistry.LFP].cell_v, unit_ah=bank.capacity_ah / bank.parallel,
        parallel=bank.parallel, berth=bank.berth, temperature_c=bank.temperature_c, at=bank.at,
        fuse_distance_m=bank.fuse_distance_m,
    )  # fmt: skip


def with_lithium(design: BoatDesign) -> Changed | None:
    """The boat with a lithium bank of the same amp-hours for her motor; None where it is none of lead."""
    bank = design.bank
    if bank is None or CHEMICALS[bank.chemistry].lithium:
        return None
    other = lithium_of(bank)
    label = sentence("lithium instead of lead, {c}", c=capacity(other.capacity_ah))
    changed = design.changed(banks=(other, *design.banks[1:]))
    return Changed("chemistry", label, changed, bank_price(other), other.mass - bank.mass)


def _stronger(drive: Drive) -> Drive:
    """The next motor: a tenth more watts, thrust and amps; its price and weight the usual ones."""
    more = 1 + DRIVE_STEP_FRAC
    names = ("rated_power_w", "static_thrust_n", "full_thrust_current_a")
    changed = {name: getattr(drive, name) and getattr(drive, name) * more for name in names}
    motor = drive.motor
    if motor is not None:
        limits = ("current_limit_a", "continuous_power_w")
        larger = {name: getattr(motor, name) and getattr(motor, name) * more for name in limits}
        motor = motor.model_copy(update=larger)
    return drive.model_copy(update={**changed, "motor": motor, "price": None, "mass_kg": None})


def with_stronger_drive(design: BoatDesign) -> Changed:
    """The boat with motors of a tenth more watts, paid whole; heavier by what usual ones differ."""
    drives = tuple(_stronger(drive) for drive in design.drives)
    usual = (drive.model_copy(update={"price": None, "mass_kg": None}) for drive in design.drives)
    around = surroundings_of(design)
    watts = sum(rated_battery_w(drive, around) for drive in drives)
    return Changed(
        "drive",
        sentence("a drive of {w}", w=power(watts)),
        design.changed(drives=drives),
        sum(drive.count * motor_offer(drive).price for drive in drives),
        motors_kg(drives) - motors_kg(usual),
    )


def usual_steps(outlook: Outlook) -> list[Changed]:
    """More panels, a lighter house, less aboard, another chemistry, a better propeller: what applies."""
    design = outlook.design
    price, kg = one_more_panel(design)
    lighter, saved = lighter_house(design)
    less_kg = MASS_STEP_FRAC * design.displacement_kg
    found = [
        Changed("panel", panel_words(design), with_panel(design), price, kg),
        Changed("house", sentence("{w} less house", w=power(saved)), lighter) if saved > 0 else None,
        Changed("mass", sentence("{m} less aboard", m=mass(less_kg)), design, 0.0, -less_kg),
        with_lithium(design),
        with_better_screw(outlook),
    ]
    return [step for step in found if step is not None]
