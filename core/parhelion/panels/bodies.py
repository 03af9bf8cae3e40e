"""What throws shade, as the caster takes it: spars and flat faces of one body."""

from __future__ import annotations

from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray

from parhelion.design import Obstacle, Point, Shape
from parhelion.panels.layout import PanelAt

Array = NDArray[np.float64]

NO_SPARS, NO_FACES = np.zeros((0, 7)), np.zeros((0, 14))
ABOVE_M = 0.01  # over a panel's plane before anything can shade it


@dataclass(frozen=True)
class Body:
    """One thing that throws shade; equal bodies have the same shape and place, whatever their name."""

    key: bytes
    spars: Array = field(compare=False)  # foot, tip, radius of each, shape (k, 7) [m]
    faces: Array = field(compare=False)  # as in `casting.face_shares`, shape (f, 14) [m]

    def rises_above(self, panel: PanelAt) -> bool:
        """Whether any of it stands in front of a panel's plane."""
        heights = [
            ((self.spars[:, k : k + 3] - np.array(panel.middle)) @ panel.normal + self.spars[:, 6])
            for k in (0, 3)
        ]
        corners = self.faces[:, :12].reshape(-1, 3)
        heights.append((corners - np.array(panel.middle)) @ panel.normal)
        return bool(max((h.max() for h in heights if len(h)), default=-1.0) > ABOVE_M)


def body(spars: Array = NO_SPARS, faces: Array = NO_FACES) -> Body:
    """A body of spars and faces."""
    spars, faces = np.ascontiguousarray(spars, dtype=float), np.ascontiguousarray(faces, dtype=float)
    return Body(spars.tobytes() + b"/" + faces.tobytes(), spars, faces)


def _at(point: Point) -> tuple[float, float, float]:
    return point.x_m, point.y_m, point.z_m


def face(corners: list[tuple[float, float, float]], one_sided: bool = False) -> Array:
    """A row of `Body.faces` from three or four corners in order."""
    filled = [*corners, corners[-1]][:4]
    return np.array([*np.ravel(filled), len(corners), float(one_sided)])


def _box(obstacle: Obstacle) -> Array:
    """Five faces of an upright box, its floor left out, shape (5, 14)."""
    assert obstacle.width_m is not None and obstacle.length_m is not None
    w, h = obstacle.width_m / 2, obstacle.length_m / 2
    low, high = sorted((_at(obstacle.foot), _at(obstacle.tip)), key=lambda point: point[2])
    signs = ((-1, -1), (1, -1), (1, 1), (-1, 1))
    base = [(low[0] + a * w, low[1] + b * h, low[2]) for a, b in signs]
    roof = [(high[0] + a * w, high[1] + b * h, high[2]) for a, b in signs]
    sides = [face([base[i], base[(i + 1) % 4], roof[(i + 1) % 4], roof[i]], True) for i in range(4)]
    return np.stack([face(roof, True), *sides])


def body_of(obstacle: Obstacle) -> Body:
    """The body of one thing on deck."""
    if obstacle.shape is Shape.BOX:
        return body(faces=_box(obstacle))
    if obstacle.shape is Shape.SAIL:
        assert obstacle.clew is not None
        return body(faces=face([_at(obstacle.foot), _at(obstacle.tip), _at(obstacle.clew)])[None, :])
    return body(spars=np.array([[*_at(obstacle.foot), *_at(obstacle.tip), obstacle.radius_m]]))


def body_of_panels(panels: list[PanelAt]) -> Body:
    """Panels as what they are to each other: flat things in the sun."""
    return body(faces=np.stack([face(panel.corners) for panel in panels]))
