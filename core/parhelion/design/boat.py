"""The boat design document: one JSON document, defined here once.

The database stores it, the API speaks it, the browser's types are generated from it and the file a person
downloads is it. SI units, with the unit in the name; angles in degrees clockwise, seen from above.

Boat frame: x to starboard, y forward, z up from the waterline amidships [m].
"""

from __future__ import annotations

from typing import Any, Literal

from pydantic import ConfigDict, model_validator

from parhelion.constants import FRESH_DENSITY_KG_PER_M3, SEA_DENSITY_KG_PER_M3
from parhelion.design.array import (
    Controller,
    ControllerModel,
    Obstacle,
    PanelRef,
    PanelString,
    Place,
    PlaceKind,
    WiringLimits,
)
from parhelion.design.bank import Bank, Link, Load
from parhelion.design.drive import Drive, Push
from parhelion.design.hull import Hull, Loading, MeasuredRun, Tow
from parhelion.design.hulltypes import draught_m
from parhelion.design.panel import PanelGroup, PanelSet
from parhelion.design.part import Choice, Name, Part, entry, out_of_reach
from parhelion.design.passage import Passage
from parhelion.design.plan import Plan, Site, Source, SourceKind, Water
from parhelion.design.states import How
from parhelion.design.wish import Wish

SCHEMA_NAME = "parhelion.boat"
SCHEMA_VERSION = 12  # counts every change of the document's shape (docs/decisions/18)

DEEPEST_BODY_TO_BEAM = 1.5  # a hull body drawing more than this many beams is a slip of the pen
MOST_PANELS = 120  # in all: every station answers so many in seconds
LIGHTEST_KG, HEAVIEST_KG = 20.0, 200_000.0  # all aboard


class Use(Choice):
    """What the boat is for; the answer rail follows it."""

    CRUISER = "cruiser", "cruises on the sun"
    AUXILIARY = "auxiliary", "sails, motor helps"
    HOME_CHARGED = "home_charged", "charged at home"


def _known(name: str, known: set[str], field: str) -> None:
    if name not in known:
        raise out_of_reach(
            "Nothing in this design is called {missing}.", field, ", ".join(sorted(known)) or "add it first",
            missing=name,
        )  # fmt: skip


class BoatDesign(Part):
    """A solar-electric boat and the day it is asked about."""

    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False, title="Parhelion boat design")

    schema_name: Literal["parhelion.boat"] = "parhelion.boat"
    schema_version: Literal[12] = 12
    name: Name = entry("Name")
    note: str = entry("Note", default="", max_length=2_000)
    use: Use = entry("Use", default=Use.CRUISER)
    hull: Hull = entry("Hull")
    loading: Loading | None = entry("Weights", default=None)
    tows: tuple[Tow, ...] = entry("Tow", default=(), max_length=6)
    runs: tuple[MeasuredRun, ...] = entry("Run", default=(), max_length=60)
    fitted_set: str | None = entry(
        "Runs in use", "A set of runs by its name; empty means all", default=None, max_length=40
    )
    drives: tuple[Drive, ...] = entry("Motor", min_length=1, max_length=4)
    pushes: tuple[Push, ...] = entry("Push", default=(), max_length=6)
    banks: tuple[Bank, ...] = entry("Bank", default=(), max_length=4)
    links: tuple[Link, ...] = entry("Converter", default=(), max_length=8)
    loads: tuple[Load, ...] = entry("Load", default=(), max_length=60)
    places: tuple[Place, ...] = entry("Place", default=(), max_length=60)
    panels: tuple[PanelGroup, ...] = entry("Panels", default=(), max_length=60)
    claimed_w: float | None = entry(
        "Advertised total",
        "What the seller, the builder or a plate says it is; checked against the panels one by one",
        default=None,
        gt=0,
        le=1_000_000,
        step=100,
    )
    panel_set: PanelSet = entry("Count panels as", default=PanelSet.BUILT)
    obstacles: tuple[Obstacle, ...] = entry("What shades", default=(), max_length=40)
    controllers: tuple[Controller, ...] = entry("Controller", default=(), max_length=60)
    own_controllers: tuple[ControllerModel, ...] = entry(
        "Own list of controllers", "To propose from", default=(), max_length=200
    )
    strings: tuple[PanelString, ...] = entry(
        "String",
        "Wired by hand; without any, every group by its number in series",
        default=(),
        max_length=400,
    )
    wiring: WiringLimits = entry("Wiring", default=WiringLimits())
    sources: tuple[Source, ...] = entry("Source", default=(), max_length=10)
    site: Site = entry("Waters")
    plan: Plan = entry("Plan")
    passage: Passage | None = entry("Passage", default=None)
    wish: Wish | None = entry("Wish", default=None)

    @model_validator(mode="after")
    def _joined(self) -> BoatDesign:
        places = {place.id for place in self.places}
        controllers = {controller.id for controller in self.controllers}
        banks = {bank.id for bank in self.banks}
        for index, group in enumerate(self.panels):
            _known(group.place_id, places, f"panels/{index}/place_id")
            _known(group.controller_id, controllers, f"panels/{index}/controller_id")
        chosen = [("loads", i, load.bank_id) for i, load in enumerate(self.loads)]
        chosen += [("controllers", i, controller.bank_id) for i, controller in enumerate(self.controllers)]
        chosen += [("sources", i, source.bank_id) for i, source in enumerate(self.sources)]
        for part, index, bank_id in chosen:
            if bank_id is not None:
                _known(bank_id, banks, f"{part}/{index}/bank_id")
        for index, link in enumerate(self.links):
            _known(link.from_bank_id, banks, f"links/{index}/from_bank_id")
            _known(link.to_bank_id, banks, f"links/{index}/to_bank_id")
            if link.from_bank_id == link.to_bank_id:
                raise out_of_reach(
                    "This converter joins a bank to itself.", f"links/{index}/to_bank_id", "the other bank"
                )
        many = [index for index, group in enumerate(self.panels) if group.count > 1]
        if sum(group.count for group in self.panels) > MOST_PANELS:
            raise out_of_reach(
                "That makes {n} panels on one boat.", f"panels/{many[0] if many else 0}/count",
                f"{MOST_PANELS} panels or fewer in all", n=sum(group.count for group in self.panels),
            )  # fmt: skip
        seen: set[PanelRef] = set()
        for index, string in enumerate(self.strings):
            for number, panel in enumerate(string.panels):
                if panel in seen:
                    raise out_of_reach(
                        "This panel is in two strings.", f"strings/{index}/panels/{number}", "each panel once"
                    )
                seen.add(panel)
        lists = {name: getattr(self, name) for name in type(self).model_fields}
        for part, items in {**lists, **self._lists_within}.items():
            ids = (
                [item.id for item in items if hasattr(item, "id")] if isinstance(items, (list, tuple)) else []
            )
            if len(set(ids)) != len(ids):
                raise out_of_reach("Two entries share one id.", part, "a different id for each entry")
        if sum(source.kind is SourceKind.GENERATOR for source in self.sources) > 1:
            raise out_of_reach("Two generators would start each other.", "sources", "one generator")
        return self

    @property
    def _lists_within(self) -> dict[str, tuple[Part, ...]]:
        passage = self.passage
        inner = (
            {}
            if passage is None
            else {
                f"passage/{name}": getattr(passage, name) for name in ("legs", "skies", "winds", "keep_off")
            }
        )
        wished = (
            {}
            if self.wish is None
            else {
                f"wish/{name}": getattr(self.wish, name)
                for name in ("asks", "owned", "own_units", "own_motors")
            }
        )
        return {"site/skyline": self.site.skyline, **inner, **wished}

    @model_validator(mode="after")
    def _floats(self) -> BoatDesign:
        weighed = self.hull.displacement_kg is not None
        field = "hull/displacement_kg" if weighed else "loading/boat_kg"
        if not weighed and self.loading is None:
            raise out_of_reach(
                "Nothing says how heavy the boat is.",
                field,
                "the weight all aboard, or the boat's own weight",
            )
        whole = self.displacement_kg
        if not LIGHTEST_KG < whole < HEAVIEST_KG:
            raise out_of_reach(
                "All aboard this makes {kg} kg.", field,
                f"parts that add up to {LIGHTEST_KG:g} to {HEAVIEST_KG:g} kg", kg=f"{whole:.0f}",
            )  # fmt: skip
        draught = self.draught_m(SEA_DENSITY_KG_PER_M3)
        if draught > DEEPEST_BODY_TO_BEAM * self.hull.beam_m:
            most = whole * DEEPEST_BODY_TO_BEAM * self.hull.beam_m / draught
            most -= 0 if weighed or self.loading is None else whole - self.loading.boat_kg
            raise out_of_reach(
                "A hull this long and wide would float {draught} m deep.", field,
                f"{most:.0f} kg or less for this length and beam", draught=f"{draught:.3g}", limit=most,
                relation="{0} or less for this length and beam",
            )  # fmt: skip
        return self

    @property
    def displacement_kg(self) -> float:
        """All aboard: as weighed, or the boat, its load, its bank and its panels added up [kg]."""
        if self.hull.displacement_kg is not None:
            return self.hull.displacement_kg
        return self.parts_kg or 0.0

    @property
    def parts_kg(self) -> float | None:
        """The parts added up, where the boat's own weight is known [kg]."""
        if self.loading is None:
            return None
        return self.loading.total_kg + self.banks_kg + self.panels_kg + self.frames_kg

    def weighing(self, whole_kg: float) -> BoatDesign:
        """The boat with so much all aboard: on the scales, or in her own weight where that is given."""
        if self.hull.displacement_kg is not None:
            return self.changed(hull=self.hull.model_copy(update={"displacement_kg": whole_kg}))
        assert self.loading is not None
        own = self.loading.boat_kg + whole_kg - self.displacement_kg
        return self.changed(loading=self.loading.model_copy(update={"boat_kg": own}))

    @property
    def banks_kg(self) -> float:
        return sum(bank.mass for bank in self.banks)

    @property
    def panels_kg(self) -> float:
        return sum(group.mass for group in self.fitted_panels)

    @property
    def frames_kg(self) -> float:
        """Frames of the places aboard [kg]."""
        return sum(place.frame_kg for place in self.places if place.kind is not PlaceKind.SHORE)

    @property
    def fitted_panels(self) -> tuple[PanelGroup, ...]:
        """The panels of the set in use: those of both sets, and those as planned or as built.

        Each by itself where strings are wired by hand.
        """
        fitted = (group for group in self.panels if group.belongs in (PanelSet.BOTH, self.panel_set))
        if self.strings:
            return tuple(group.model_copy(update={"series": 1}) for group in fitted)
        return tuple(fitted)

    def as_it_stands(self, place: Place) -> tuple[Place, How]:
        """A place with the tilt it has in the plan's state, and how it stands."""
        standing = place.stands.in_state(self.plan.state)
        if standing.how is not How.TILTED:
            return place, standing.how
        return place.model_copy(update={"tilt_deg": standing.tilt_deg}), standing.how

    def draught_m(self, water_density_kg_per_m3: float, displacement_kg: float | None = None) -> float:
        """Draught of the hull body at the design's displacement or another [m]."""
        hull = self.hull
        return draught_m(
            hull.type, hull.waterline_length_m, hull.beam_m, displacement_kg or self.displacement_kg,
            hull.prismatic, hull.midship, water_density_kg_per_m3,
        )  # fmt: skip

    @property
    def water_density_kg_per_m3(self) -> float:
        return SEA_DENSITY_KG_PER_M3 if self.site.water is Water.SALT else FRESH_DENSITY_KG_PER_M3

    @property
    def bank(self) -> Bank | None:
        """The bank that drives the boat, if there is one."""
        return self.banks[0] if self.banks else None

    @property
    def house_bank(self) -> Bank | None:
        """The second bank, which the house lives on, if there is one."""
        return self.banks[1] if len(self.banks) > 1 else None

    def load_bank_id(self, load: Load) -> str | None:
        """The bank a load lives on: its own choice, or the house's where there are two."""
        if load.bank_id is not None:
            return load.bank_id
        return self.banks[-1].id if 0 < len(self.banks) < 3 else self.banks[1].id if self.banks else None

    def links_between(self, giver: Bank, taker: Bank) -> list[Link]:
        """Converters from one bank to another."""
        return [x for x in self.links if x.from_bank_id == giver.id and x.to_bank_id == taker.id]

    @property
    def nameplate_w(self) -> float:
        """All panels added up from their parts [W]."""
        return sum(group.nameplate_w * group.count for group in self.fitted_panels)

    @property
    def largest_group(self) -> PanelGroup | None:
        """The panels of one kind and place with the most watts, if there are any."""
        return max(self.panels, key=lambda group: group.nameplate_w * group.count, default=None)

    @property
    def idle_power_w(self) -> float:
        """Draw of all drives when on but not turning [W]."""
        return sum(drive.idle_power_w * drive.count for drive in self.drives)

    @property
    def fitted_runs(self) -> tuple[MeasuredRun, ...]:
        """The runs that set the curve: those of the set in use, or all."""
        if self.fitted_set is None:
            return self.runs
        return tuple(run for run in self.runs if run.set_name == self.fitted_set)

    def changed(self, **parts: Any) -> BoatDesign:
        """Another boat with some parts replaced, unchecked; for what-ifs."""
        return self.model_copy(update=parts)

    def bank_of(self, charger: Controller | Source) -> Bank | None:
        """The bank a controller or another source charges: the one it names, else the first."""
        return next((bank for bank in self.banks if bank.id == charger.bank_id), self.bank)

    def controller(self, controller_id: str) -> Controller:
        return next(item for item in self.controllers if item.id == controller_id)

    def place(self, place_id: str) -> Place:
        return next(item for item in self.places if item.id == place_id)
