"""Skin friction of a wetted surface.

References
----------
[1] ITTC 1957 model-ship correlation line, Proceedings of the 8th ITTC, Madrid.
"""

from __future__ import annotations

import numpy as np
from numpy.typing import ArrayLike, NDArray

LOWEST_REYNOLDS = 1e4  # [-] below this the line runs away (its pole is at 100)


def friction_coefficient(reynolds: ArrayLike) -> NDArray[np.float64]:
    """ITTC-57 friction coefficient, 0.075 / (log10 Re - 2)^2 [1].

    Parameters
    ----------
    reynolds : array_like
        Reynolds number on the waterline length [-], any shape; held at 1e4 or more, where the
        drag it belongs to is next to nothing.

    Returns
    -------
    ndarray
        C_F [-], same shape.
    """
    held = np.maximum(np.asarray(reynolds, dtype=float), LOWEST_REYNOLDS)
    return 0.075 / (np.log10(held) - 2.0) ** 2
