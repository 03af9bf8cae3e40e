"""A usual plan of each hull from its measures: a fine bow, a broad stern."""

from __future__ import annotations

import numpy as np

from parhelion.design import BoatDesign

BOW_FINENESS, STERN_BREADTH = 1.7, 0.72  # of a usual outline: how the bow closes, and the stern over the beam
EYE_M = 1.6  # over the waterline, of someone at the helm; typical
HELM_AFT = 0.3  # of the length, aft of amidships; typical
OUTLINE_POINTS = 24  # along one side of a hull


def outlines(design: BoatDesign) -> list[list[tuple[float, float]]]:
    """Each hull as seen from above, around: to starboard and forward of the boat's middle [m]."""
    hull = design.hull
    length, half = hull.waterline_length_m, hull.beam_m / 2
    y = np.linspace(-1, 1, OUTLINE_POINTS)
    aft = STERN_BREADTH + (1 - STERN_BREADTH) * (1 - np.clip(-y, 0, 1) ** 2)
    fore = 1 - np.clip(y, 0, 1) ** BOW_FINENESS
    wide = half * np.where(y < 0, aft, fore)
    side = [(float(w), float(v * length / 2)) for w, v in zip(wide, y, strict=True)]
    middles = [-hull.spacing / 2, hull.spacing / 2] if hull.spacing else [0.0]
    return [[(m + w, v) for w, v in side] + [(m - w, v) for w, v in reversed(side)] for m in middles]
