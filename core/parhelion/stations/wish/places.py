"""Where panels may go under a wish: her own places, and those she has room for, less what stays clear."""

from __future__ import annotations

from parhelion.design import BoatDesign, Place, PlaceKind, Side, Tended
from parhelion.design.wish import Clear, Wish
from parhelion.hull.outline import HELM_AFT
from parhelion.panels.proposed import in_each_others_way, proposed_places

VIEW_M = (0.9, 1.75)  # heights over the water between which a thing stands in the helm's view
WAY_M = 0.35  # a way along each side


def allowed_places(design: BoatDesign, wish: Wish) -> list[Place]:
    """Every place that a wish allows, her own first.

    Parameters
    ----------
    design : BoatDesign
    wish : Wish

    Returns
    -------
    list of Place
        With size and position; those not yet aboard are proposed.
    """
    own = [place for place in design.places if place.width_m and place.length_m]
    found = [place for place in own if _kind_allowed(place, wish)]
    for place in proposed_places(design):
        fitted = _kept_clear(design, place, wish)
        if fitted is not None and _kind_allowed(place, wish) and not _too_high(place, wish):
            found.append(fitted)
    return [_tended(place, wish) for place in found]


def _kind_allowed(place: Place, wish: Wish) -> bool:
    if not wish.places:
        return place.kind is not PlaceKind.SHORE
    return place.kind in wish.places


def _too_high(place: Place, wish: Wish) -> bool:
    return wish.air_draught_m is not None and place.at is not None and place.at.z_m > wish.air_draught_m


def _tended(place: Place, wish: Wish) -> Place:
    """Hinged places are set by hand three times a day where that is wished."""
    by_hand = wish.hand_tilted and place.hinged and place.tended is Tended.LEFT
    return place.model_copy(update={"tended": Tended.THRICE}) if by_hand else place


def _kept_clear(design: BoatDesign, place: Place, wish: Wish) -> Place | None:
    """A new place as far as what stays clear allows it, or None."""
    assert place.at is not None and place.width_m is not None
    clear, at = wish.clear, place.at
    if Clear.MAST in clear and place.kind in (PlaceKind.CANOPY, PlaceKind.CABIN_TOP):
        return None
    if Clear.HATCH in clear and place.kind is PlaceKind.DECK:
        return None
    ahead = at.y_m > -HELM_AFT * design.hull.waterline_length_m
    if Clear.VIEW in clear and ahead and VIEW_M[0] <= at.z_m <= VIEW_M[1]:
        return None
    side = {Side.PORT: Clear.PORT, Side.STARBOARD: Clear.STARBOARD}.get(place.faces)
    if place.hinged and side in clear:
        return None
    if Clear.WALKWAY in clear and place.kind in (PlaceKind.DECK, PlaceKind.CABIN_TOP):
        least = design.hull.breadth_m - 2 * WAY_M
        if least < place.width_m:
            return place.model_copy(update={"width_m": round(least, 2)}) if least > 0.2 else None
    return place


def exclusive_pairs(places: list[Place]) -> list[tuple[str, str]]:
    """Pairs of places, by id, of which only one is filled: at least one of them is not there yet."""
    return [(a.id, b.id) for n, a in enumerate(places) for b in places[n + 1 :] if in_each_others_way(a, b)]
