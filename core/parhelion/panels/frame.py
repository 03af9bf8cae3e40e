"""A place's frame: its pieces, how to cut them from stock, its mass, how far it sags, what a gust pulls.

References
----------
[1] Each long side a beam on its feet, carrying half of the load evenly: sag 5 w L^4 / (384 E I), moment
    w L^2 / 8. Corners count as hinges, so a welded frame sags less.
[2] First fit, longest piece first: never more than 11/9 of the fewest lengths and one.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import pi

from parhelion.constants import GRAVITY_MPS2
from parhelion.design import PanelGroup, Place
from parhelion.design.frame import METALS, Cut, Frame, FrameStock
from parhelion.panels.gust import GUST_MPS, gust_n

KERF_M = 0.003  # what a saw takes
SHEATH_M, STRANDS = (
    0.0022,
    1.15,
)  # over a conductor, both sides; and how much wider strands are than solid metal
EASE = 1.25  # of the width that both conductors need side by side, to be drawn through


def needs_inside_m(cable_mm2: float) -> float:
    """Inner width that both conductors of a cable ask for [m]."""
    conductor = STRANDS * (4 * cable_mm2 / pi) ** 0.5 / 1000
    return EASE * 2 * (conductor + SHEATH_M)


@dataclass(frozen=True)
class FrameFound:
    """What a frame comes to."""

    frame: Frame
    cuts: list[Cut]
    too_long: list[Cut]  # pieces longer than the stock: joined of two
    bars: list[list[float]]  # the pieces of each length of stock [m]
    left_m: float  # of the stock, not used
    mass_kg: float
    panels_kg: float
    span_m: float
    sag_m: float
    gust_pull_n: float  # on each foot
    gust_sag_m: float
    holds: float  # yield over the stress in that gust [-]
    gust_mps: float
    hinges: int  # on one long side, where the place folds
    hinge_m: float
    inside_m: float | None  # of a tube, for cable

    def takes(self, cable_mm2: float) -> bool | None:
        """Whether both conductors of a cable run inside; None where the stock is no tube."""
        return None if self.inside_m is None else self.inside_m >= needs_inside_m(cable_mm2)


def cutting_plan(cuts: Sequence[Cut], stock_m: float, kerf_m: float = KERF_M) -> list[list[float]]:
    """Pieces laid into lengths of stock, longest first [2]; a piece longer than that is joined of several.

    Parameters
    ----------
    cuts : sequence of Cut
    stock_m, kerf_m : float
    """
    pieces: list[float] = []
    for cut in cuts:
        for _ in range(cut.pieces):
            left = cut.length_m
            while left > stock_m:
                pieces.append(stock_m)
                left -= stock_m
            if left > 0:
                pieces.append(left)
    bars: list[list[float]] = []
    for piece in sorted(pieces, reverse=True):
        fits = (bar for bar in bars if sum(bar) + kerf_m * len(bar) + piece <= stock_m + 1e-9)
        bar = next(fits, None)
        if bar is None:
            bars.append([piece])
        else:
            bar.append(piece)
    return bars


def frame_of(place: Place, groups: Sequence[PanelGroup]) -> FrameFound | None:
    """A place's frame with the panels on it; None without one, or where the place has no size.

    Parameters
    ----------
    place : Place
    groups : sequence of PanelGroup
        On it.
    """
    frame = place.frame
    if frame is None or place.width_m is None or place.length_m is None:
        return None
    cuts = frame.cuts(place.width_m, place.length_m)
    bars = cutting_plan(cuts, frame.stock_m)
    mass = frame.mass_kg(place.width_m, place.length_m)
    panels_kg = sum(group.mass for group in groups)
    area = sum(group.count * group.width * group.length for group in groups)
    long = max(place.width_m, place.length_m)
    span = long / max(frame.feet // 2 - 1, 1)
    metal = METALS[frame.metal]
    stiff = metal.stiff_pa * frame.inertia_m4

    def sag(load_n: float) -> float:
        return 5 * (load_n / 2 / long) * span**4 / (384 * stiff)

    pull = gust_n(GUST_MPS, area, place.hinge_deg[1])
    stress = (pull / 2 / long) * span**2 / 8 * (frame.size_m / 2) / frame.inertia_m4
    return FrameFound(
        frame=frame, cuts=cuts, too_long=[cut for cut in cuts if cut.length_m > frame.stock_m], bars=bars,
        left_m=len(bars) * frame.stock_m - sum(map(sum, bars)), mass_kg=mass, panels_kg=panels_kg,
        span_m=span,
        sag_m=sag((panels_kg + mass) * GRAVITY_MPS2), gust_pull_n=pull / frame.feet, gust_sag_m=sag(pull),
        holds=metal.yields_pa / stress if stress > 0 else float("inf"), gust_mps=GUST_MPS,
        hinges=max(frame.feet // 2, 2) if place.hinged else 0, hinge_m=long if place.hinged else 0.0,
        inside_m=None if frame.stock is FrameStock.ANGLE else frame.size_m - 2 * frame.wall_m,
    )  # fmt: skip
