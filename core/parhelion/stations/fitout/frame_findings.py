"""What the frames tell: too thin, not counted, unlike metals in salt."""

from __future__ import annotations

from parhelion.design import BoatDesign, Water
from parhelion.design.frame import FrameMetal
from parhelion.finding import Finding
from parhelion.quantities import Fact, Why, force, length, mass, ratio, sentence, speed, words
from parhelion.stations.fitout.frames import framed_places, needs_none

SOURCE = "Beam theory over the places and panels of the design"
HOLDS_LEAST = 2.0  # yield over the stress in a gust
SAG_FRAC = 1 / 150  # of the span, under the panels alone


def frame_why(method: str, *inputs: Fact) -> Why:
    return Why(method=method, source=SOURCE, inputs=list(inputs), doc="frames")


def thin_frame(design: BoatDesign) -> list[Finding]:
    """A frame that a gust bends for good, or that hangs through."""
    found = []
    for index, place, made in framed_places(design):
        if made is None:
            continue
        bends, hangs = made.holds < HOLDS_LEAST, made.sag_m > SAG_FRAC * made.span_m
        if not bends and not hangs:
            continue
        found.append(
            Finding(
                id=f"thin_frame_{place.id}",
                level="warn",
                title=sentence(
                    f"{place.name}: {{f}} of frame for {{p}} of panel is thin",
                    f=mass(made.mass_kg),
                    p=mass(made.panels_kg),
                ),
                detail=sentence(
                    "A gust of {w} bends it for good: another pair of feet, a larger stock, or fold it "
                    "earlier."
                    if bends
                    else "It hangs through {s} under the panels alone: another pair of feet, or a larger "
                    "stock.",
                    w=speed(made.gust_mps),
                    s=length(made.sag_m),
                ),
                why=frame_why(
                    "Each long side as a beam on its feet with half of the load: sag 5 w L^4 / (384 E I), "
                    "stress "
                    "by w L^2 / 8; an estimate, no survey",
                    Fact(label="Between feet", value=length(made.span_m)),
                    Fact(label="Yield over the stress in that gust", value=ratio(made.holds)),
                    Fact(label="Pull on each foot", value=force(made.gust_pull_n)),
                ),
                field=f"/places/{index}/frame/size_m",
            )
        )
    return found


def unframed(design: BoatDesign) -> Finding | None:
    """Places whose panels stand on nothing yet."""
    bare = [place for _, place, _ in framed_places(design) if place.frame is None and not needs_none(place)]
    if not bare:
        return None
    return Finding(
        id="unframed",
        level="note",
        title=sentence("No frame is counted for {names}", names=words(", ".join(p.name for p in bare[:3]))),
        detail=sentence("Its mass, pieces and price are missing: begin one under Frames."),
        why=frame_why("Places with panels that do not lie on a deck or roof, without a frame"),
    )


def metals_meet(design: BoatDesign) -> Finding | None:
    """Unlike metals at sea."""
    metals = {place.frame.metal for _, place, _ in framed_places(design) if place.frame is not None}
    if design.site.water is not Water.SALT or FrameMetal.ALUMINIUM not in metals:
        return None
    return Finding(
        id="metals_meet",
        level="note",
        caution=True,
        title=sentence("Aluminium and stainless steel meet in salt"),
        detail=sentence(
            "Screws, rails and panel frames of unlike metals eat each other: insulate them, with washers "
            "and paste, "
            "and look every season."
        ),
        why=frame_why("A frame of aluminium on salt water"),
    )
