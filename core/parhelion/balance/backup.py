"""What stands behind the sun: shore and a generator, as the flow of energy sees them."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]


SHORE_MAIN, SHORE_OWN, GENERATOR_MAIN, GENERATOR_OWN = range(4)  # rows of what stands behind, by bank


class Backup(NamedTuple):
    """Shore and generator over a timeline, and the generator's rule."""

    watts: Array  # shape (4, t): shore at the main bank and at the house's own, then the generator
    start_soc: float = -1.0
    stop_soc: float = -1.0


def no_backup(steps: int) -> Backup:
    """Neither of them."""
    return Backup(np.zeros((4, steps)))
