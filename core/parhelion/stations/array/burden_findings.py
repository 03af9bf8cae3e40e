"""Findings about what the array costs the boat: weight, wind, years; and standing cautions."""

from __future__ import annotations

from parhelion.design import Build, How, PlaceKind
from parhelion.finding import Finding
from parhelion.hull.stability import stiffness_lost
from parhelion.panels.gust import SAFETY
from parhelion.quantities import (
    Fact,
    Why,
    angle,
    energy,
    fraction,
    length,
    mass,
    sentence,
    speed,
    words,
    years,
)
from parhelion.stations.array.burden import PlaceBurden
from parhelion.stations.array.view import ArrayView, array_why

HIGH_ABOVE_M = 1.2
STIFFNESS_WORTH = 0.02
STIFFNESS_WARN = 0.1
CATCHES_WIND_DEG = 15.0  # of tilt, before a gust is worth a word
LIST_WORTH_DEG = 2.0
SEAT_WORTH_FRAC = 0.3


def top_weight(view: ArrayView) -> Finding | None:
    """Panels high up cost stability."""
    design = view.design
    high = [
        (deck.group.mass, deck.place.at)
        for deck in view.deck.groups
        if deck.how is not How.GONE and deck.place.kind is not PlaceKind.SHORE
    ]
    raised = [(kg, at.z_m) for kg, at in high if at is not None and at.z_m > HIGH_ABOVE_M]
    if not raised:
        return None
    kilograms = sum(kg for kg, _ in raised)
    mean = sum(kg * z for kg, z in raised) / kilograms
    rise, share = stiffness_lost(design, kilograms, mean)
    if share < STIFFNESS_WORTH:
        return None
    return Finding(
        id="top_weight",
        level="warn" if share > STIFFNESS_WARN else "note",
        title=sentence("{m} sits {z} up", m=mass(kilograms), z=length(mean)),
        detail=sentence(
            "Some {x} of the stiffness that the hull's breadth gives is lost, and the wind finds more. An "
            "estimate, not a stability book: check crew numbers and the loading plate; keep people low.",
            x=fraction(share),
        ),
        why=array_why(view, "Rise of the centre of gravity over the metacentric radius of the waterplane",
                 Fact(label="Centre of gravity rises", value=length(rise))),
        caution=True,
    )  # fmt: skip


def live_panels(view: ArrayView) -> Finding | None:
    """Standing cautions of working on panels."""
    if not view.design.panels:
        return None
    return Finding(
        id="live_panels",
        level="note",
        title=sentence("Panels are live whenever there is light"),
        detail=sentence(
            "Cover them or open the breaker before parting a connector. Work over water and at height with "
            "someone by; thin frames and fastenings are not handholds."
        ),
        why=Why(method="Usual cautions", source="Local codes and licensed practice come first.",
                doc="cautions"),
        caution=True,
    )  # fmt: skip


def _pulled(view: ArrayView) -> list[PlaceBurden]:
    """Places that the wind gets hold of: hinged, tilted, or with fastenings that are known to be weak."""
    burden = view.burden
    if burden is None:
        return []
    tilts = {place.id: max(place.tilt_deg, place.hinge_deg[1]) for place in view.design.places}
    caught = [p for p in burden.places if p.gust_n > 0]
    return [p for p in caught if tilts[p.place_id] >= CATCHES_WIND_DEG or p.overloaded]


def gust_load(view: ArrayView) -> Finding | None:
    """What a gust pulls at tilted panels, and the wind to fold them at."""
    pulled = _pulled(view)
    if not pulled or view.burden is None:
        return None
    worst = min(pulled, key=lambda p: (p.fold_mps if p.fold_mps is not None else 1e3, -p.gust_n))
    pull = Fact(label=f"A gust of 22 kn pulls at {worst.name}", value=words(f"{worst.gust_n:.0f} N"))
    facts = [pull]
    if worst.holds_n is not None:
        facts.append(Fact(label="Its fastenings take", value=words(f"{worst.holds_n:.0f} N")))
    if worst.fold_mps is not None:
        title = sentence("Fold {name} above {w} of wind", name=words(worst.name), w=speed(worst.fold_mps))
        known = "Gusts then pull half of what its fastenings take. " if worst.holds_n is not None else (
            "A rule, while nothing is known of what its fastenings take: test them with a spring balance. "
        )  # fmt: skip
    else:
        title = sentence("A gust of {w} pulls {f} N at {name}", w=speed(view.burden.gust_mps),
                         f=words(f"{worst.gust_n:.0f}"), name=words(worst.name))  # fmt: skip
        known = "Know what its fastenings hold, and lay it flat before. "
    return Finding(
        id="gust_load",
        level="warn" if worst.overloaded else "note",
        title=title,
        detail=sentence(known + "Thin frames let go early, and a loose panel is a blade."),
        why=array_why(view, f"Half rho C A V squared, gusts 1.4 of the wind, {SAFETY:g} for safety",
                      *facts, doc="burden"),
        field=view.place_field(worst.place_id, "holds_n"),
        caution=True,
    )  # fmt: skip


def flexible_life(view: ArrayView) -> Finding | None:
    """Flexible panels in the open age fast."""
    for index, group in enumerate(view.design.panels):
        if group.build is not Build.FLEXIBLE or group.covered or view.burden is None:
            continue
        place = next((p for p in view.burden.places if p.place_id == group.place_id), None)
        if place is None:
            continue
        return Finding(
            id="flexible_life",
            level="note",
            title=sentence("Flexible panels in the open: plan to replace them in {a} to {b}",
                           a=years(place.life_low_years), b=years(place.life_high_years)),
            detail=sentence("A clear cover about doubles that and takes {e} a day. Glass lasts 20 years.",
                            e=energy(place.cover_wh or 0.0)),
            why=array_why(view, "Typical years of service by build; a cover keeps 94 % of the light",
                          doc="burden"),
            field=f"/panels/{index}/covered",
        )  # fmt: skip
    return None


def lists(view: ArrayView) -> Finding | None:
    """One wing out lists the boat."""
    if view.burden is None:
        return None
    out = [p for p in view.burden.places if p.list_deg is not None and abs(p.list_deg) > LIST_WORTH_DEG]
    if not out:
        return None
    worst = max(out, key=lambda p: abs(p.list_deg or 0.0))
    return Finding(
        id="lists",
        level="note",
        title=sentence("{name} alone lists her {d}", name=words(worst.name),
                       d=angle(abs(worst.list_deg or 0.0))),
        detail=sentence("With both sides out it evens up. An estimate, not a stability book."),
        why=array_why(view, "Mass times distance over displacement times metacentric height", doc="burden"),
        caution=True,
    )  # fmt: skip


def gives_shade(view: ArrayView) -> Finding | None:
    """The shade people want."""
    share = view.burden.seat_shade_frac if view.burden else None
    if share is None or share < SEAT_WORTH_FRAC:
        return None
    return Finding(
        id="gives_shade",
        level="good",
        title=sentence("{x} of the seats under it lie in shade around noon", x=fraction(share)),
        detail=sentence("Three hours to either side of noon, 1.2 m under the panels."),
        why=array_why(view, "The panels' own shadow on a level plane below them", doc="burden"),
    )
