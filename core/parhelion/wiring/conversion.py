"""What a charge controller passes on, loses and turns away, by how hard it works.

References
----------
[1] Losses of a converter: a fixed part while it works, a part with its watts, a part with their square; they
    are made to give the label's efficiency at half its rating and, where they are known, those at a tenth and
    at full. Without those, or without a rated current, the label's efficiency holds at any load.
"""

from __future__ import annotations

from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from parhelion.design import Controller

Array = NDArray[np.float64]


class Passed(NamedTuple):
    """Watts, shapes alike; offered = out + lost + above."""

    out_w: Array
    lost_w: Array
    above_w: Array  # at the input, turned away by the current limit


class Losses(NamedTuple):
    """Of a controller, over the input at its rating: fixed, with its watts, with their square [-]."""

    fixed: float
    straight: float
    square: float


def losses_of(controller: Controller) -> Losses:
    """The losses that give a controller's efficiencies at a tenth, at half and at full rating [1].

    With x the load, loss / x = fixed / x + straight + square x.
    """
    half = controller.efficiency
    light = 0.0 if controller.light_efficiency is None else half - controller.light_efficiency
    full = 0.0 if controller.full_efficiency is None else half - controller.full_efficiency
    if controller.light_efficiency is None:
        fixed = 0.0
    elif controller.full_efficiency is None:
        fixed = light / 8.0
    else:
        fixed = (light + 0.8 * full) / 7.2
    square = 0.0 if controller.full_efficiency is None else 2.0 * (full + fixed)
    return Losses(fixed, 1 - half - 2.0 * fixed - 0.5 * square, square)


def rated_w(controller: Controller, bank_v: float | None) -> float | None:
    """Most that all boxes of a controller put out [W]; None where nothing limits them."""
    if controller.current_limit_a is None or bank_v is None:
        return None
    return controller.count * controller.current_limit_a * bank_v


def passed(offered_w: Array, controller: Controller, bank_v: float | None) -> Passed:
    """What comes out of a controller [1].

    Parameters
    ----------
    offered_w : ndarray
        At its input.
    controller : Controller
        All its boxes, sharing alike.
    bank_v : float or None
        Of the bank it charges; None: it never clips.
    """
    rated = rated_w(controller, bank_v)
    if rated is None:
        out = offered_w * controller.efficiency
        return Passed(out, offered_w - out, np.zeros_like(offered_w))
    losses = losses_of(controller)
    most = rated / (1 - sum(losses))  # the input that gives the rating
    taken = np.minimum(offered_w, most)
    load = taken / most
    lost = most * (losses.fixed + losses.straight * load + losses.square * load**2)
    lost = np.minimum(np.maximum(lost, 0.0), taken)
    return Passed(taken - lost, lost, offered_w - taken)
