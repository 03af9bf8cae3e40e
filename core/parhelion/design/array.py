"""Where panels sit, what shades them, and what charges from them."""

from __future__ import annotations

from enum import StrEnum

from pydantic import Field

from parhelion.design.part import Id, Name, Part, Point

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


class Place(Part):
    """Where panels sit. Flat is the default; `faces` matters only when tilted.

    `at` is the middle of the place; without it nothing is known of what shades it.
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


class PanelGroup(Part):
    """Panels on one place feeding one controller."""

    id: Id
    place_id: Id
    controller_id: Id
    nameplate_w: float = Field(gt=0, le=5_000, title="Nameplate of one panel")
    count: int = Field(default=1, ge=1, le=400, title="How many")
    power_coefficient_per_k: float = Field(default=-0.0035, ge=-0.01, le=0)
    mass_kg: float | None = Field(default=None, gt=0, le=200, title="Mass of one panel")
    panel_width_m: float | None = Field(default=None, gt=0.05, le=4, title="Short side of a panel")
    panel_length_m: float | None = Field(default=None, gt=0.05, le=6, title="Long side of a panel")
    turned: bool = Field(default=False, title="Long side athwart")
    columns: int | None = Field(default=None, ge=1, le=100, title="Side by side athwart")
    cells_across: int = Field(default=6, ge=1, le=24, title="Cells across the short side")
    cells_along: int = Field(default=12, ge=1, le=48, title="Cells along the long side")
    half_cut: bool = Field(default=False, title="Cells cut in half, two halves in parallel")
    salt_loss_frac: float = Field(default=0.03, ge=0, le=0.5)
    mismatch_loss_frac: float = Field(default=0.02, ge=0, le=0.5)
    wiring_loss_frac: float = Field(default=0.03, ge=0, le=0.5)

    @property
    def width(self) -> float:
        """Short side of one panel, given or usual for its watts [m]."""
        return self.panel_width_m or (self.nameplate_w / USUAL_W_PER_M2 / USUAL_ASPECT) ** 0.5

    @property
    def length(self) -> float:
        """Long side of one panel, given or usual for its watts [m]."""
        return self.panel_length_m or self.width * USUAL_ASPECT

    @property
    def mass(self) -> float:
        """Mass of the whole group, given or usual for rigid panels with their share of the frame [kg]."""
        return self.count * (self.mass_kg or self.nameplate_w * PANEL_KG_PER_W)


class Controller(Part):
    """A charge controller; without a current limit it never clips."""

    id: Id
    name: Name = "Controller"
    bank_id: Id | None = Field(default=None, title="The bank it charges; empty: the first")
    efficiency: float = Field(default=0.96, gt=0.5, le=1, title="Controller efficiency")
    current_limit_a: float | None = Field(default=None, gt=0, le=2_000, title="Most it puts out")


class Obstacle(Part):
    """Something that throws shade: a spar between two points of the boat frame."""

    id: Id
    name: Name
    foot: Point
    tip: Point
    radius_m: float = Field(gt=0, le=5)


class PanelString(Part):
    """Panels in series, as wired to a controller input."""

    id: Id
    controller_id: Id
    panel_group_ids: tuple[Id, ...]
