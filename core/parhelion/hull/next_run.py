"""What one more run would tell: the speed at which it narrows the band most.

References
----------
[1] The covariance after a run depends on where it is made, not on what it finds (`runs.py`).
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from parhelion.hull.demand import DemandCurve
from parhelion.hull.runs import RUN_SD, with_one_more

Array = NDArray[np.float64]

FROM, TO = 0.35, 1.0  # of the speed that counts as the fast end
CANDIDATES = 10


@dataclass(frozen=True)
class NextRun:
    """A run worth making, and the mean half width of the band before and after it [-]."""

    speed_mps: float
    band_now_frac: float
    band_then_frac: float


def next_run(curve: DemandCurve, fast_mps: float) -> NextRun:
    """The both-way run that would narrow the band most, over the speeds up to a fast end [m/s]."""
    speeds = np.linspace(FROM, TO, CANDIDATES) * fast_mps
    shares = np.interp(speeds, curve.speed_mps, curve.wave_share)
    now = float(np.mean(curve.fit.band_factor(shares))) - 1
    widths = [
        float(np.mean(with_one_more(curve.fit, share, RUN_SD).band_factor(shares))) - 1 for share in shares
    ]
    best = int(np.argmin(widths))
    return NextRun(float(speeds[best]), now, widths[best])
