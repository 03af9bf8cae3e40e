"""What else pushes: legs and arms spare the motor some watts, under sail it is off.

References
----------
[1] Watts a person holds: some 75 W for hours, 150 W for half an hour; pedalled and paddled efficiency to
    thrust from human-powered craft (docs/methods/push.md).
"""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from parhelion.design import Push, PushKind
from parhelion.sun.timeline import Timeline

Array = NDArray[np.float64]

TO_THRUST = {PushKind.PEDALS: 0.60, PushKind.PADDLE: 0.50, PushKind.OARS: 0.60}  # [1]


def under_sail(timeline: Timeline, pushes: tuple[Push, ...]) -> Array:
    """How much of each step the boat sails with the motor off, shape (t,) [-]."""
    total = np.zeros(timeline.steps)
    for push in pushes:
        if push.kind is PushKind.SAIL:
            total += timeline.lasting_share(push.from_clock, push.hours_per_day)
    return np.minimum(total, 1.0)


def relief_w(timeline: Timeline, pushes: tuple[Push, ...], drive_efficiency: float) -> Array:
    """Battery watts that people's own work spares the motor over each step, shape (t,) [W].

    Parameters
    ----------
    timeline : Timeline
    pushes : tuple of Push
    drive_efficiency : float
        Battery to thrust of the motor at the planned speed [-]: what one of its watts would have done.
    """
    total = np.zeros(timeline.steps)
    for push in pushes:
        if push.kind in TO_THRUST and drive_efficiency > 0:
            spared = push.power_w * TO_THRUST[push.kind] / drive_efficiency
            total += spared * timeline.lasting_share(push.from_clock, push.hours_per_day)
    return total
