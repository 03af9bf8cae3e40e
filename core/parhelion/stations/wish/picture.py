"""The boat as she is, held against her wish, and the places where panels may go."""

from __future__ import annotations

from typing import Literal

from parhelion.design import BoatDesign
from parhelion.design.reads import kept
from parhelion.design.wish import Wish
from parhelion.hull.outline import outlines
from parhelion.quantities import Frozen, Quantity, Sentence
from parhelion.stations.wish.front import DeckCorner, PanelDrawn, drawn
from parhelion.stations.wish.fulfilled import AskMet, bend_for, fulfilled
from parhelion.stations.wish.held import WISH_READS, does, most_stretch, numbers_of, question_of, reach
from parhelion.stations.wish.nothing import why_nothing
from parhelion.stations.wish.places import allowed_places
from parhelion.stations.wish.unclear import unclear
from parhelion.stations.wish.words import reaches, stretched


class PlaceDrawn(Frozen):
    """A place where panels may go, as seen from above."""

    id: str
    name: str
    own: bool
    corners: list[DeckCorner]


class ThingDrawn(Frozen):
    """What stands on deck, where it stands."""

    name: str
    shape: Literal["spar", "box", "sail"]
    at: DeckCorner
    to: DeckCorner


class WishPicture(Frozen):
    """The boat as she is against her wish."""

    refused: Sentence | None
    field: str | None
    stretch: float
    reach: Quantity | None  # of the first thing wished, by the boat as she is
    reaches: Sentence | None
    nothing: Sentence | None  # why she does nothing of it
    whole: Quantity | None
    met: list[AskMet]
    outlines: list[list[DeckCorner]]
    places: list[PlaceDrawn]
    things: list[ThingDrawn]
    panels: list[PanelDrawn]


def wish_picture(design: BoatDesign) -> WishPicture:
    """The boat as she is against her wish.

    Parameters
    ----------
    design : BoatDesign

    Returns
    -------
    WishPicture
        Refused in words where nothing is wished, or what is wished cannot be asked together.
    """
    return _picture(design)


@kept(WISH_READS, 12)
def _picture(design: BoatDesign) -> WishPicture:
    wish = design.wish or Wish()
    why = unclear(design, wish)
    stretch, met, told, nothing = (0.0, [], None, None) if why is not None else _held(design, wish)
    return WishPicture(
        refused=None if why is None else why[0],
        field=None if why is None else why[1],
        stretch=stretch,
        reach=stretched(wish.asks[0], stretch) if why is None else None,
        reaches=told,
        nothing=nothing,
        whole=stretched(wish.asks[0], 1.0) if wish.asks else None,
        met=met,
        outlines=[[DeckCorner(x_m=x, y_m=y) for x, y in line] for line in outlines(design)],
        places=_places(design, wish),
        things=[
            ThingDrawn(name=thing.name, shape=thing.shape.value, at=_corner(thing.foot.x_m, thing.foot.y_m),
                       to=_corner(thing.tip.x_m, thing.tip.y_m))
            for thing in design.obstacles
        ],
        panels=drawn(design, {group.id for group in design.panels}),
    )  # fmt: skip


def _held(design: BoatDesign, wish: Wish) -> tuple[float, list[AskMet], Sentence, Sentence | None]:
    question = question_of(design, wish)
    numbers = numbers_of(design, question)
    far = reach(lambda s: does(question, numbers, s), most_stretch(question))
    met = fulfilled(question, numbers, bend_for(question, numbers))
    told = reaches(question, far, "As surely as wished she reaches {far}.")
    return far, met, told, None if far > 0 else why_nothing(design, question, numbers)


def _corner(x_m: float, y_m: float) -> DeckCorner:
    return DeckCorner(x_m=x_m, y_m=y_m)


def _places(design: BoatDesign, wish: Wish) -> list[PlaceDrawn]:
    own = {place.id for place in design.places}
    found = []
    for place in allowed_places(design, wish):
        if place.at is None or not place.width_m or not place.length_m:
            continue
        x, y, w, h = place.at.x_m, place.at.y_m, place.width_m / 2, place.length_m / 2
        corners = [_corner(x - w, y - h), _corner(x + w, y - h), _corner(x + w, y + h), _corner(x - w, y + h)]
        found.append(PlaceDrawn(id=place.id, name=place.name, own=place.id in own, corners=corners))
    return found
