"""What the rules about an array are given, and the reasoning that goes with them."""

from __future__ import annotations

from dataclasses import dataclass

from parhelion.balance.outlook import Outlook
from parhelion.computing.kept import once
from parhelion.design import BoatDesign
from parhelion.panels.deck import Deck, deck_of
from parhelion.quantities import Fact, Sentence, Why
from parhelion.rail.reasons import SUN_SOURCE, sun_facts
from parhelion.stations.array.burden import Burden, burden


@dataclass(frozen=True)
class ArrayView:
    """A boat's array on its day, ready for the rules; costs of obstacles, at the bank [Wh]."""

    outlook: Outlook
    costs: dict[str, float]

    @property
    def design(self) -> BoatDesign:
        return self.outlook.design

    @property
    def deck(self) -> Deck:
        return deck_of(self.design)

    @once
    def burden(self) -> Burden | None:
        return burden(self.outlook)

    @property
    def day_wh(self) -> float:
        """The shown day's harvest at the bank [Wh]."""
        return self.outlook.wh(self.outlook.shown_sun_w)

    def place_field(self, place_id: str, entry: str) -> str:
        """Pointer to an entry of a place."""
        index = next(i for i, place in enumerate(self.design.places) if place.id == place_id)
        return f"/places/{index}/{entry}"


def array_why(
    view: ArrayView, method: str, *facts: Fact, doc: str = "array", band: Sentence | None = None
) -> Why:
    """A reasoning about the array, with what it was computed from."""
    inputs = [*facts, *sun_facts(view.outlook)]
    return Why(method=method, source=SUN_SOURCE, inputs=inputs, band=band, doc=doc)
