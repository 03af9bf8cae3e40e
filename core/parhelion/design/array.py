"""Where panels sit, what shades them, and what charges from them."""

from __future__ import annotations

import math
from enum import StrEnum

from pydantic import Field, model_validator

from parhelion.design.part import Id, Name, Part, Point, out_of_reach
from parhelion.design.states import BoatState, Stands

USUAL_W_PER_M2, USUAL_ASPECT = 205.0, 1.55  # of rigid panels, where their size is not given
PANEL_KG_PER_W = 0.065  # rigid panel with its share of the frame


class Ventilation(StrEnum):
    OPEN = "open"  # air on both sides
    ON_SURFACE = "on_surface"  # lying on a deck or roof


class Side(StrEnum):
    """Which way a tilted place faces, from the boat."""

    BOW = "bow"
    STARBOARD = "starboard"
    STERN = "stern"
    PORT = "port"


class PlaceKind(StrEnum):
    """What a place is, in the words of the boat."""

    CANOPY = "canopy"
    BIMINI = "bimini"
    ARCH = "arch"
    CABIN_TOP = "cabin_top"
    DECK = "deck"
    RAIL = "rail"
    WING = "wing"
    LOOSE = "loose"
    SHORE = "shore"


class Under(StrEnum):
    """What lies under a place, for panels that also take light from behind."""

    WATER = "water"
    WHITE = "white"  # a white roof or sail cloth
    DECK = "deck"  # light deck
    DARK = "dark"


class Tended(StrEnum):
    """What is done with a hinged place through the day."""

    LEFT = "left"
    THRICE = "thrice"  # set morning, noon and afternoon
    FOLLOWED = "followed"  # kept at its best


class Fastening(StrEnum):
    CLAMPS = "clamps"
    BOLTS = "bolts"
    HINGES = "hinges"
    TIES = "ties"


class Place(Part):
    """Where panels sit. Flat is the default; `faces` matters only when tilted.

    `at` is the middle of the place; without it nothing is known of what shades it. A place with a hinge turns
    about its inboard or far edge; its middle stays where it is, which is near enough for shade.
    """

    id: Id
    name: Name
    kind: PlaceKind = PlaceKind.DECK
    at: Point | None = Field(default=None, title="Its middle")
    width_m: float | None = Field(default=None, gt=0.1, le=20, title="Athwart")
    length_m: float | None = Field(default=None, gt=0.1, le=40, title="Fore and aft")
    tilt_deg: float = Field(default=0, ge=0, le=90, title="Tilt from flat")
    faces: Side = Side.STARBOARD
    ventilation: Ventilation = Ventilation.OPEN
    tilt_least_deg: float | None = Field(default=None, ge=0, le=90, title="Hinge, least tilt")
    tilt_most_deg: float | None = Field(default=None, ge=0, le=90, title="Hinge, most tilt; empty: fixed")
    tended: Tended = Field(default=Tended.LEFT, title="Through the day it is")
    stands: Stands = Stands()
    under: Under = Field(default=Under.WATER, title="Under it")
    gap_m: float | None = Field(default=None, gt=0, le=10, title="From the panels down to that")
    clear_m: float = Field(default=0, ge=0, le=5, title="Kept clear athwart, for people and gear")
    fastening: Fastening = Field(default=Fastening.BOLTS, title="Held by")
    holds_n: float | None = Field(default=None, gt=0, le=200_000, title="Pull that its fastenings take")
    cable_m: float | None = Field(default=None, gt=0, le=100, title="Cable to its controller, one way")

    @property
    def hinged(self) -> bool:
        return self.tilt_most_deg is not None

    @property
    def hinge_deg(self) -> tuple[float, float]:
        """Least and most tilt; the tilt itself where there is no hinge [deg]."""
        if self.tilt_most_deg is None:
            return self.tilt_deg, self.tilt_deg
        return min(self.tilt_least_deg or 0.0, self.tilt_most_deg), self.tilt_most_deg


class Build(StrEnum):
    """How a panel is made."""

    GLASS = "glass"
    FLEXIBLE = "flexible"
    FOLDING = "folding"


class PanelSet(StrEnum):
    """Which set of panels a group belongs to, where what was planned and what was built differ."""

    BOTH = "both"
    PLANNED = "planned"
    BUILT = "built"


class PanelModel(Part):
    """One panel by its datasheet; what is left empty is usual for its watts."""

    model: str = Field(default="", max_length=80, title="Panel")
    build: Build = Field(default=Build.GLASS, title="Made of")
    nameplate_w: float = Field(gt=0, le=5_000, title="Nameplate of one panel")
    power_coefficient_per_k: float = Field(default=-0.0035, ge=-0.01, le=0, title="Power with heat")
    mass_kg: float | None = Field(default=None, gt=0, le=200, title="Mass of one panel")
    panel_width_m: float | None = Field(default=None, gt=0.05, le=4, title="Short side of a panel")
    panel_length_m: float | None = Field(default=None, gt=0.05, le=6, title="Long side of a panel")
    cells_across: int = Field(default=6, ge=1, le=24, title="Cells across the short side")
    cells_along: int = Field(default=12, ge=1, le=48, title="Cells along the long side")
    half_cut: bool = Field(default=False, title="Cells cut in half, two halves in parallel")
    bifaciality_frac: float = Field(default=0, ge=0, le=1, title="Back over front, of a two-sided panel")
    leaf_tilts_deg: tuple[float, ...] = Field(default=(), max_length=12, title="Tilt of each leaf")
    open_circuit_v: float | None = Field(default=None, gt=0, le=1_000, title="Voc")
    short_circuit_a: float | None = Field(default=None, gt=0, le=100, title="Isc")
    best_v: float | None = Field(default=None, gt=0, le=1_000, title="Vmp")
    best_a: float | None = Field(default=None, gt=0, le=100, title="Imp")
    voltage_coefficient_per_k: float | None = Field(default=None, ge=-0.01, le=0, title="Voc with heat")
    current_coefficient_per_k: float | None = Field(default=None, ge=-0.002, le=0.005, title="Isc with heat")
    most_fuse_a: float | None = Field(default=None, gt=0, le=100, title="Largest series fuse")
    price: float | None = Field(default=None, ge=0, le=100_000, title="Price of one panel")

    @model_validator(mode="after")
    def _leaves(self) -> PanelModel:
        if any(not -90 <= tilt <= 90 for tilt in self.leaf_tilts_deg):
            raise out_of_reach("A leaf cannot stand like that.", "leaf_tilts_deg", "-90 to 90 degrees each")
        if self.leaf_tilts_deg and self.cells_along < len(self.leaf_tilts_deg):
            raise out_of_reach(
                "There are more leaves than rows of cells.", "leaf_tilts_deg",
                "a row of cells or more for each leaf",
            )  # fmt: skip
        return self

    @property
    def width(self) -> float:
        """Short side of one panel, given or usual for its watts [m]."""
        return self.panel_width_m or (self.nameplate_w / USUAL_W_PER_M2 / USUAL_ASPECT) ** 0.5

    @property
    def length(self) -> float:
        """Long side of one panel, given or usual for its watts [m]."""
        return self.panel_length_m or self.width * USUAL_ASPECT

    @property
    def each_kg(self) -> float:
        """Mass of one panel, given or usual for rigid panels with their share of the frame [kg]."""
        return self.mass_kg or self.nameplate_w * PANEL_KG_PER_W


class PanelGroup(PanelModel):
    """Panels on one place feeding one controller."""

    id: Id
    place_id: Id
    controller_id: Id
    count: int = Field(default=1, ge=1, le=400, title="How many")
    turned: bool = Field(default=False, title="Long side athwart")
    columns: int | None = Field(default=None, ge=1, le=100, title="Side by side athwart")
    series: int = Field(default=1, ge=1, le=60, title="In series, a string")
    salt_loss_frac: float = Field(default=0.03, ge=0, le=0.5)
    mismatch_loss_frac: float = Field(default=0.02, ge=0, le=0.5)
    wiring_loss_frac: float = Field(default=0.03, ge=0, le=0.5)
    belongs: PanelSet = Field(default=PanelSet.BOTH, title="Belongs to")
    derate_frac: float = Field(default=1, gt=0, le=1.1, title="Measured, of its nameplate")
    covered: bool = Field(default=False, title="Under a clear cover")

    @property
    def wired_frac(self) -> float:
        """Share of the panels that stand in complete strings; the others give nothing [-]."""
        return self.count // self.series * self.series / self.count

    @property
    def mass(self) -> float:
        """Mass of the whole group [kg]."""
        return self.count * self.each_kg


class ControllerKind(StrEnum):
    """What a charge controller does with the panels' volts."""

    MPPT = "mppt"  # finds their best and brings it down to the bank's
    PWM = "pwm"  # connects them to the bank in pulses: they stand at its volts
    BOOST = "boost"  # finds their best and lifts it to the bank's


class ControllerModel(Part):
    """A charge controller by its label; without a current limit it never clips."""

    name: Name = "Controller"
    kind: ControllerKind = ControllerKind.MPPT
    efficiency: float = Field(default=0.96, gt=0.5, le=1, title="Controller efficiency, at half its rating")
    light_efficiency: float | None = Field(
        default=None, gt=0.3, le=1, title="At a tenth of its rating; empty: no less"
    )
    full_efficiency: float | None = Field(default=None, gt=0.5, le=1, title="At its rating; empty: no less")
    current_limit_a: float | None = Field(default=None, gt=0, le=2_000, title="Most it puts out")
    most_pv_v: float | None = Field(default=None, gt=1, le=1_500, title="Most volts from the panels")
    most_pv_a: float | None = Field(default=None, gt=0, le=1_000, title="Most short-circuit amps")
    headroom_v: float = Field(default=2, ge=0, le=100, title="Needs this far over the bank")
    least_bank_v: float | None = Field(default=None, gt=1, le=1_000, title="Bank volts it charges, at least")
    most_bank_v: float | None = Field(default=None, gt=1, le=1_000, title="Bank volts it charges, at most")
    own_power_w: float = Field(default=0, ge=0, le=100, title="Its own draw, day and night")
    inputs: int = Field(default=1, ge=1, le=20, title="Inputs, each at volts of its own")
    price: float | None = Field(default=None, ge=0, le=100_000)

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
    bank_id: Id | None = Field(default=None, title="The bank it charges; empty: the first")
    count: int = Field(default=1, ge=1, le=400, title="Boxes alike")
    cable_m: float | None = Field(default=None, gt=0, le=100, title="Cable to the bank, one way")


class WiringLimits(Part):
    """What a wiring is held against."""

    coldest_c: float = Field(default=-10, ge=-50, le=30, title="Coldest morning")
    hottest_cell_c: float = Field(default=70, ge=25, le=100, title="Hottest cell")
    drop_frac: float = Field(default=0.03, gt=0, le=0.2, title="Volts that cables may lose")
    bank_cable_m: float | None = Field(default=None, gt=0, le=50, title="Bank to its bus, one way")
    motor_cable_m: float | None = Field(default=None, gt=0, le=50, title="Bus to the motor, one way")
    engine_space: bool = Field(default=False, title="The motor's cable runs in an engine space")
    bundled: bool = Field(default=False, title="Cables of the panels run in a bundle of three or more")
    fuse_at_m: float | None = Field(default=None, ge=0, le=20, title="First fuse, from the bank's terminal")


class Shape(StrEnum):
    """What throws the shade."""

    SPAR = "spar"  # round, from foot to tip: mast, boom, stay, pole, aerial, a person standing
    BOX = "box"  # upright, from the middle of its base to the middle of its top: cabin, seat
    SAIL = "sail"  # a triangle: tack, head and clew


class Obstacle(Part):
    """Something that throws shade, between two points of the boat frame."""

    id: Id
    name: Name
    shape: Shape = Shape.SPAR
    foot: Point
    tip: Point
    radius_m: float = Field(default=0.03, gt=0, le=5, title="Half its thickness")
    clew: Point | None = None
    width_m: float | None = Field(default=None, gt=0, le=20, title="Athwart")
    length_m: float | None = Field(default=None, gt=0, le=40, title="Fore and aft")
    stands_in: tuple[BoatState, ...] | None = Field(
        default=None, max_length=5, title="States it stands in; empty: all"
    )
    swung_deg: float = Field(default=0, ge=-180, le=180, title="Swung about its foot")
    swung_in: tuple[BoatState, ...] = Field(default=(), max_length=5, title="States it is swung in")

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

    group_id: Id
    number: int = Field(ge=0, lt=400)


class PanelString(Part):
    """Panels in series on a controller, wired by hand."""

    id: Id
    controller_id: Id
    panels: tuple[PanelRef, ...] = Field(min_length=1, max_length=60)
