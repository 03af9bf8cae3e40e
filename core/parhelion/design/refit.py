"""What of a design is to be changed: the lists that another boat has otherwise, to be put in their place."""

from __future__ import annotations

from parhelion.design.array import Controller, PanelString, Place
from parhelion.design.bank import Bank, Link, Load
from parhelion.design.boat import BoatDesign
from parhelion.design.drive import Drive
from parhelion.design.hull import Hull, Loading, MeasuredRun
from parhelion.design.panel import PanelGroup
from parhelion.quantities import Frozen


class Refit(Frozen):
    """Whole lists of the document, and how she is weighed; None stays as it is."""

    hull: Hull | None = None
    loading: Loading | None = None
    places: tuple[Place, ...] | None = None
    panels: tuple[PanelGroup, ...] | None = None
    drives: tuple[Drive, ...] | None = None
    controllers: tuple[Controller, ...] | None = None
    strings: tuple[PanelString, ...] | None = None
    banks: tuple[Bank, ...] | None = None
    links: tuple[Link, ...] | None = None
    loads: tuple[Load, ...] | None = None
    runs: tuple[MeasuredRun, ...] | None = None

    def of(self, design: BoatDesign) -> BoatDesign:
        """A boat refitted, unchecked."""
        return design.changed(**{name: value for name, value in self if value is not None})


def refit(before: BoatDesign, after: BoatDesign) -> Refit:
    """What turns one boat into another that differs in these alone."""
    names = Refit.model_fields
    return Refit(**{n: getattr(after, n) for n in names if getattr(after, n) != getattr(before, n)})
