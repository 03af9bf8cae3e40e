"""What of the waves' drag from ahead is felt on a course.

References
----------
[1] Y. J. Kwon, "Speed loss due to added resistance in wind and waves", The Naval Architect, 2008, as
    recalled: the share of the loss from ahead, by sectors of the direction, in the seas of a moderate breeze.
"""

from __future__ import annotations

import numpy as np
from numpy.typing import ArrayLike, NDArray

Array = NDArray[np.float64]

# Middle of each sector off the bow [deg], and the share there [-] [1]
OFF_BOW_DEG = (15.0, 45.0, 105.0, 165.0)
FELT = (1.0, 0.85, 0.33, 0.0)


def felt_of_waves(from_deg: ArrayLike, course_deg: float) -> Array:
    """Share of the drag from ahead [-], of the shape given.

    Parameters
    ----------
    from_deg : array_like
        Where the waves come from [deg]; nan where nobody says: then from ahead on every course.
    course_deg : float
    """
    off = np.abs((np.asarray(from_deg, dtype=float) - course_deg + 180.0) % 360.0 - 180.0)
    return np.where(np.isnan(off), 1.0, np.interp(off, OFF_BOW_DEG, FELT))
