"""Where panels sit, what shades them, and what charges from them."""

from __future__ import annotations

import math

from pydantic import model_validator

from parhelion.design.frame import Frame
from parhelion.design.part import Choice, Id, Name, Part, Point, begins, entry, out_of_reach
from parhelion.design.states import BoatState, Stands


class Ventilation(Choice):
    OPEN = "open", "air behind"  # air on both sides
    ON_SURFACE = "on_surface", "lying on it"  # lying on a deck or roof


class Side(Choice):
    """Which way a tilted place faces, from the boat."""

    BOW = "bow", "to the bow"
    STARBOARD = "starboard", "to starboard"
    STERN = "stern", "to the stern"
    PORT = "port", "to port"


class PlaceKind(Choice):
    """What a place is, in the words of the boat."""

    CANOPY = "canopy", "Canopy"
    BIMINI = "bimini", "Bimini"
    ARCH = "arch", "Stern arch"
    CABIN_TOP = "cabin_top", "Cabin top"
    DECK = "deck", "Deck"
    RAIL = "rail", "Rail panels"
    WING = "wing", "Hinged wing"
    LOOSE = "loose", "Loose panel"
    SHORE = "shore", "Dock or shore rack"


class Under(Choice):
    """What lies under a place, for panels that also take light from behind."""

    WATER = "water", "open water"
    WHITE = "white", "a white roof"  # a white roof or sail cloth
    DECK = "deck", "a light deck"  # light deck
    DARK = "dark", "something dark"


class Tended(Choice):
    """What is done with a hinged place through the day."""

    LEFT = "left", "left as it is"
    THRICE = "thrice", "set three times"  # set morning, noon and afternoon
    FOLLOWED = "followed", "kept at its best"  # kept at its best


class Fastening(Choice):
    CLAMPS = "clamps", "clamps"
    BOLTS = "bolts", "bolts"
    HINGES = "hinges", "hinges"
    TIES = "ties", "ties"


class Place(Part):
    """Where panels sit. Flat is the default; `faces` matters only when tilted.

    `at` is the middle of the place; without it nothing is known of what shades it. A place with a hinge turns
    about its inboard or far edge; its middle stays where it is, which is near enough for shade.
    """

    model_config = begins(at={"x_m": 0, "y_m": 0, "z_m": 1}, width_m=1.2, length_m=1.6)

    id: Id
    name: Name = entry("Name")
    kind: PlaceKind = entry("It is", default=PlaceKind.DECK)
    at: Point | None = entry("Its middle", default=None, examples=[{"x_m": 0, "y_m": 0, "z_m": 1}])
    width_m: float | None = entry("Athwart", default=None, gt=0.1, le=20, step=0.05)
    length_m: float | None = entry("Fore and aft", default=None, gt=0.1, le=40, step=0.05)
    tilt_deg: float = entry("Tilt; flat is 0", default=0, ge=0, le=90)
    faces: Side = entry("Tilted", default=Side.STARBOARD)
    ventilation: Ventilation = entry("Cooling", default=Ventilation.OPEN)
    tilt_least_deg: float | None = entry("Hinge, from", default=None, examples=[0], ge=0, le=90)
    tilt_most_deg: float | None = entry("Hinge, to", default=None, examples=[60], ge=0, le=90)
    tended: Tended = entry("Through the day", default=Tended.LEFT)
    stands: Stands = entry("In each state", default=Stands())
    under: Under = entry("Under it", default=Under.WATER)
    gap_m: float | None = entry(
        "Gap to that",
        "Two-sided panels see what is under them through it; the closer, the less",
        default=None,
        gt=0,
        le=10,
        step=0.05,
    )
    clear_m: float = entry(
        "Kept clear",
        "Athwart, for people and gear to pass; Fit leaves it free",
        default=0,
        ge=0,
        le=5,
        step=0.05,
    )
    fastening: Fastening = entry("Held by", default=Fastening.BOLTS)
    holds_n: float | None = entry(
        "They take",
        "Pull that all its fastenings take together before anything gives, by test or by the builder",
        default=None,
        gt=0,
        le=200_000,
        step=50,
    )
    cable_m: float | None = entry("Cable to the controller", "One way", default=None, gt=0, le=100, step=0.5)
    frame: Frame | None = entry("Frame", default=None)

    @property
    def frame_kg(self) -> float:
        """Of its frame; nothing without one, or where the place has no size [kg]."""
        if self.frame is None or self.width_m is None or self.length_m is None:
            return 0.0
        return self.frame.mass_kg(self.width_m, self.length_m)

    @property
    def hinged(self) -> bool:
        return self.tilt_most_deg is not None

    @property
    def hinge_deg(self) -> tuple[float, float]:
        """Least and most tilt; the tilt itself where there is no hinge [deg]."""
        if self.tilt_most_deg is None:
            return self.tilt_deg, self.tilt_deg
        return min(self.tilt_least_deg or 0.0, self.tilt_most_deg), self.tilt_most_deg


class ControllerKind(Choice):
    """What a charge controller does with the panels' volts."""

    MPPT = "mppt", "MPPT, tracks"  # finds their best and brings it down to the bank's
    PWM = "pwm", "PWM, at bank volts"  # connects them to the bank in pulses: they stand at its volts
    BOOST = "boost", "boost, lifts volts"  # finds their best and lifts it to the bank's


class ControllerModel(Part):
    """A charge controller by its label; without a current limit it never clips."""

    name: Name = entry("Name", default="Controller")
    kind: ControllerKind = entry("Kind", default=ControllerKind.MPPT)
    efficiency: float = entry("Efficiency", "At half its rating", default=0.96, gt=0.5, le=1, step=0.5)
    light_efficiency: float | None = entry(
        "At a tenth of its amps", "Empty: the same at any load", default=None, gt=0.3, le=1, step=0.5
    )
    full_efficiency: float | None = entry(
        "At all its amps", "Empty: the same at any load", default=None, gt=0.5, le=1, step=0.5
    )
    current_limit_a: float | None = entry(
        "Puts out, at most", "Empty: it never clips", default=None, gt=0, le=2_000, step=5
    )
    most_pv_v: float | None = entry(
        "Panel volts, at most",
        "What its label says it survives; more destroys it",
        default=None,
        gt=1,
        le=1_500,
        step=10,
    )
    most_pv_a: float | None = entry(
        "Short-circuit amps", "Most its input takes", default=None, gt=0, le=1_000, step=5
    )
    headroom_v: float = entry(
        "Needs over the bank",
        "How far the panels must stand over the bank before it charges",
        default=2,
        ge=0,
        le=100,
        step=0.5,
    )
    least_bank_v: float | None = entry("Bank volts, at least", default=None, gt=1, le=1_000, step=12)
    most_bank_v: float | None = entry("Bank volts, at most", default=None, gt=1, le=1_000, step=12)
    own_power_w: float = entry(
        "Its own draw",
        "Day and night, each box; it comes off the bank as a load of the house",
        default=0,
        ge=0,
        le=100,
        step=0.5,
    )
    inputs: int = entry(
        "Inputs",
        "Each with volts of its own: strings of other volts may share a box with enough of them",
        default=1,
        ge=1,
        le=20,
    )
    price: float | None = entry("Price", default=None, ge=0, le=100_000)

    @model_validator(mode="after")
    def _best_between(self) -> ControllerModel:
        for name in ("light_efficiency", "full_efficiency"):
            value = getattr(self, name)
            if value is not None and value > self.efficiency:
                raise out_of_reach(
                    "A controller works best near half its rating.", name,
                    f"{self.efficiency:g} or less, its efficiency there",
                    limit=self.efficiency, relation="{0} or less",
                )  # fmt: skip
        return self


class Controller(ControllerModel):
    """A charge controller aboard, or several alike that share what feeds them."""

    id: Id
    bank_id: Id | None = entry("Charges", default=None, of="banks", empty="the first")
    count: int = entry("Boxes alike", default=1, ge=1, le=400)
    cable_m: float | None = entry("Cable to the bank", "One way", default=None, gt=0, le=100, step=0.5)


class WiringLimits(Part):
    """What a wiring is held against."""

    coldest_c: float = entry(
        "Coldest morning",
        "Of the years the boat will see; cold panels stand at their highest volts",
        default=-10,
        ge=-50,
        le=30,
    )
    hottest_cell_c: float = entry(
        "Hottest cell", "70 with air behind; a panel flat on a deck can reach 85", default=70, ge=25, le=100
    )
    drop_frac: float = entry("Cables may lose", "Of the volts", default=0.03, gt=0, le=0.2, step=0.5)
    bank_cable_m: float | None = entry("Bank to its bus", "One way", default=None, gt=0, le=50, step=0.5)
    motor_cable_m: float | None = entry("Bus to the motor", "One way", default=None, gt=0, le=50, step=0.5)
    engine_space: bool = entry("Through an engine space", default=False)
    bundled: bool = entry("Panel cables in a bundle", "Three or more together", default=False)
    fuse_at_m: float | None = entry(
        "First fuse, from the bank",
        "Along the cable, from the terminal; what lies before it has no protection",
        default=None,
        ge=0,
        le=20,
        step=0.05,
    )


class Shape(Choice):
    """What throws the shade."""

    SPAR = (
        "spar",
        "a round spar",
    )  # round, from foot to tip: mast, boom, stay, pole, aerial, a person standing
    BOX = (
        "box",
        "an upright box",
    )  # upright, from the middle of its base to the middle of its top: cabin, seat
    SAIL = "sail", "a sail"  # a triangle: tack, head and clew


_FOOT = {"x_m": 0, "y_m": 0.5, "z_m": 0.5}  # of a thing that was just put on deck


class Obstacle(Part):
    """Something that throws shade, between two points of the boat frame."""

    model_config = begins(
        {"shape": "spar", "name": "Pole", "foot": _FOOT, "tip": {**_FOOT, "z_m": 3}, "radius_m": 0.02},
        {
            "shape": "box",
            "name": "Box",
            "foot": _FOOT,
            "tip": {**_FOOT, "z_m": 1.5},
            "width_m": 0.5,
            "length_m": 0.5,
        },
        {
            "shape": "sail",
            "name": "Sail",
            "foot": _FOOT,
            "tip": {**_FOOT, "z_m": 6},
            "clew": {"x_m": 0, "y_m": -1.5, "z_m": 0.8},
        },
    )

    id: Id
    name: Name = entry("Name")
    shape: Shape = entry("It is", default=Shape.SPAR)
    foot: Point = entry("Foot")
    tip: Point = entry("Top")
    radius_m: float = entry("Half its thickness", default=0.03, gt=0, le=5, step=0.01)
    clew: Point | None = entry("Clew", default=None)
    width_m: float | None = entry("Athwart", default=None, gt=0, le=20)
    length_m: float | None = entry("Fore and aft", default=None, gt=0, le=40)
    stands_in: tuple[BoatState, ...] | None = entry("Stands in", default=None, max_length=5)
    swung_deg: float = entry(
        "Swung by",
        "About its foot, clockwise seen from above: a boom that points aft goes to port",
        default=0,
        ge=-180,
        le=180,
    )
    swung_in: tuple[BoatState, ...] = entry("Swung in", default=(), max_length=5)

    def as_it_stands(self, state: BoatState) -> Obstacle | None:
        """In a state of the boat: swung about its foot, clockwise seen from above, or gone."""
        if self.stands_in is not None and state not in self.stands_in:
            return None
        if state not in self.swung_in or self.swung_deg == 0 or self.shape is Shape.BOX:
            return self
        turn = math.radians(self.swung_deg)
        sine, cosine = math.sin(turn), math.cos(turn)

        def swung(point: Point) -> Point:
            x, y = point.x_m - self.foot.x_m, point.y_m - self.foot.y_m
            at = {"x_m": self.foot.x_m + x * cosine + y * sine, "y_m": self.foot.y_m + y * cosine - x * sine}
            return point.model_copy(update=at)

        clew = swung(self.clew) if self.clew else None
        return self.model_copy(update={"tip": swung(self.tip), "clew": clew})

    @model_validator(mode="after")
    def _shaped(self) -> Obstacle:
        if self.shape is Shape.SAIL and self.clew is None:
            raise out_of_reach("A sail needs its third corner.", "clew", "where its clew is")
        if self.shape is Shape.BOX and (self.width_m is None or self.length_m is None):
            raise out_of_reach("A box needs its sizes.", "width_m", "its breadth and its length")
        return self


class PanelRef(Part):
    """One panel: its group, and its number in it from 0."""

    group_id: Id = entry("Panels", of="panels")
    number: int = entry("Number", ge=0, lt=400)


class PanelString(Part):
    """Panels in series on a controller, wired by hand."""

    id: Id
    controller_id: Id = entry("Controller", of="controllers")
    panels: tuple[PanelRef, ...] = entry("Panel", min_length=1, max_length=60)
