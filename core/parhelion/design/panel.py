"""One panel by its datasheet, and so many of them on a place."""

from __future__ import annotations

from typing import NamedTuple

from pydantic import model_validator

from parhelion.design.part import Choice, Id, Part, begins, entry, out_of_reach

USUAL_W_PER_M2, USUAL_ASPECT = 205.0, 1.55  # of rigid panels, where their size is not given
PANEL_KG_PER_W = 0.065  # rigid panel with its share of the frame


class Build(Choice):
    """How a panel is made."""

    GLASS = "glass", "glass"
    FLEXIBLE = "flexible", "flexible"
    FOLDING = "folding", "folding, in cloth"


class PanelSet(Choice):
    """Which set of panels a group belongs to, where what was planned and what was built differ."""

    BOTH = "both", "planned and built"
    PLANNED = "planned", "planned"
    BUILT = "built", "built"


class SoldAs(Choice):
    """How panels are sold, which tells their cells and volts where no datasheet does."""

    V12 = "v12", "12 V class, 36 cells"
    V24 = "v24", "24 V class, 72 cells"
    ROOF = "roof", "house roof, 30 to 40 V"


class Grid(NamedTuple):
    """Cells side by side, one after another, and whether they are cut in halves that stand in parallel."""

    across: int
    along: int
    halved: bool

    @property
    def in_series(self) -> float:
        """Cells one after another in the panel's circuit."""
        return self.across * self.along / (2 if self.halved else 1)


V12_UP_TO_W = 215.0  # the largest panels that are commonly sold for 12 V
WHOLE_CELLS_UP_TO_W = 330.0  # house-roof panels over it have half cells
USUAL_GRIDS = (Grid(4, 9, False), Grid(6, 18, True), Grid(6, 10, False), Grid(6, 12, False))
CELL_VOC, CELL_VMP = 0.68, 0.57  # of a silicon cell, where the datasheet is not known


class PanelModel(Part):
    """One panel by its datasheet; what is left empty is usual for its watts."""

    model: str = entry("Name", default="", max_length=80)
    build: Build = entry("Made of", default=Build.GLASS)
    nameplate_w: float = entry("Nameplate, each", gt=0, le=5_000, step=5)
    sold_as: SoldAs | None = entry(
        "Sold as", "Tells cells and volts where the label does not", default=None, empty="usual for its watts"
    )
    power_coefficient_per_k: float = entry(
        "Power with heat",
        "What a degree over 25 takes, about -0.3 to -0.4 %",
        default=-0.0035,
        ge=-0.01,
        le=0,
        quantity="fraction",
        unit="%/K",
        step=0.01,
    )
    mass_kg: float | None = entry("Mass, each", default=None, gt=0, le=200, step=0.5)
    panel_width_m: float | None = entry(
        "Short side", "Empty: usual for its watts", default=None, gt=0.05, le=4, step=0.05
    )
    panel_length_m: float | None = entry(
        "Long side", "Empty: usual for its watts", default=None, gt=0.05, le=6, step=0.05
    )
    cells_across: int | None = entry(
        "Cells across", "Cells side by side along the short side", default=None, ge=1, le=24
    )
    cells_along: int | None = entry(
        "Cells along", "Cells one after another along the long side", default=None, ge=1, le=48
    )
    half_cut: bool = entry("Half-cut cells", "Two halves in parallel", default=False)
    bifaciality_frac: float = entry(
        "Two-sided",
        "What the back gives in the light that the front is rated in; 0 for a panel with an opaque back",
        default=0,
        ge=0,
        le=1,
        step=5,
    )
    leaf_tilts_deg: tuple[float, ...] = entry(
        "Leaf",
        "Tilt of each, end to end along the long side; positive faces the bow",
        default=(),
        examples=[[0, 0, 0, 0]],
        max_length=12,
    )
    open_circuit_v: float | None = entry(
        "Voc", "Volts with nothing connected, at 25 °C", default=None, gt=0.4, le=1_000
    )
    short_circuit_a: float | None = entry(
        "Isc", "Amps with its ends joined", default=None, gt=0, le=100, step=0.1
    )
    best_v: float | None = entry("Vmp", "Volts at its best", default=None, gt=0.4, le=1_000)
    best_a: float | None = entry("Imp", "Amps at its best", default=None, gt=0.01, le=100, step=0.1)
    voltage_coefficient_per_k: float | None = entry(
        "Voc with heat", default=None, ge=-0.01, le=0, quantity="fraction", unit="%/K", step=0.01
    )
    current_coefficient_per_k: float | None = entry(
        "Isc with heat", default=None, ge=-0.002, le=0.005, quantity="fraction", unit="%/K", step=0.01
    )
    most_fuse_a: float | None = entry("Largest series fuse", default=None, gt=0, le=100)
    price: float | None = entry("Price, each", default=None, ge=0, le=100_000)

    @model_validator(mode="after")
    def _leaves(self) -> PanelModel:
        if any(not -90 <= tilt <= 90 for tilt in self.leaf_tilts_deg):
            raise out_of_reach("A leaf cannot stand like that.", "leaf_tilts_deg", "-90 to 90 degrees each")
        if self.leaf_tilts_deg and self.grid.along < len(self.leaf_tilts_deg):
            raise out_of_reach(
                "There are more leaves than rows of cells.", "leaf_tilts_deg",
                "a row of cells or more for each leaf",
            )  # fmt: skip
        return self

    @property
    def usual_class(self) -> SoldAs:
        """How panels of these watts are usually sold."""
        return SoldAs.V12 if self.nameplate_w <= V12_UP_TO_W else SoldAs.ROOF

    @property
    def grid(self) -> Grid:
        """The panel's cells: as given, as its volts tell, or as usual for how it is sold."""
        if self.cells_across is not None and self.cells_along is not None:
            return Grid(self.cells_across, self.cells_along, self.half_cut)
        usual = self._usual_grid
        if self.cells_across is None and self.cells_along is None:
            return usual._replace(halved=usual.halved or self.half_cut)
        return Grid(self.cells_across or usual.across, self.cells_along or usual.along, self.half_cut)

    @property
    def _usual_grid(self) -> Grid:
        cells = (self.best_v or 0) / CELL_VMP or (self.open_circuit_v or 0) / CELL_VOC
        if cells:
            return min(USUAL_GRIDS, key=lambda grid: abs(grid.in_series - cells))
        sold = self.sold_as or self.usual_class
        roof = USUAL_GRIDS[1] if self.nameplate_w > WHOLE_CELLS_UP_TO_W else USUAL_GRIDS[2]
        return {SoldAs.V12: USUAL_GRIDS[0], SoldAs.V24: USUAL_GRIDS[3], SoldAs.ROOF: roof}[sold]

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

    model_config = begins(nameplate_w=200)

    id: Id
    place_id: Id = entry("Place", of="places")
    controller_id: Id = entry("Controller", of="controllers")
    count: int = entry("How many", default=1, ge=1, le=400)
    turned: bool = entry("Long side athwart", default=False)
    columns: int | None = entry(
        "Side by side", "Athwart; empty: as many as the place takes", default=None, ge=1, le=100
    )
    series: int | None = entry(
        "In series",
        "Panels one after another: their volts add up, their amps do not. Empty: as many as its bank needs",
        default=None,
        ge=1,
        le=60,
    )
    salt_loss_frac: float = entry("Lost to salt and dirt", default=0.03, ge=0, le=0.5)
    mismatch_loss_frac: float = entry("Lost to mismatch", default=0.02, ge=0, le=0.5)
    wiring_loss_frac: float = entry("Lost in wires", default=0.03, ge=0, le=0.5)
    belongs: PanelSet = entry("In the set", default=PanelSet.BOTH)
    derate_frac: float = entry(
        "Measured, of nameplate",
        "Used panels: what a clear noon gave, over what it should have; 100 for new ones",
        default=1,
        gt=0,
        le=1.1,
    )
    covered: bool = entry("Under a clear cover", default=False)

    @property
    def in_series(self) -> int:
        """Panels of a string; one where nobody has said, see `wiring.by_itself`."""
        return self.series or 1

    @property
    def wired_frac(self) -> float:
        """Share of the panels that stand in complete strings; the others give nothing [-]."""
        return self.count // self.in_series * self.in_series / self.count

    @property
    def mass(self) -> float:
        """Mass of the whole group [kg]."""
        return self.count * self.each_kg
