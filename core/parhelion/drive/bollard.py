"""A motor on the bench or at the dock: its constant, its pull for its watts, and what it bears for hours.

References
----------
[1] Disc theory at rest: an ideal propeller of disc A takes T^1.5 / sqrt(2 rho A) for a pull T; that over what
    is taken is the figure of merit of motor and propeller together, .3 to .6 on small craft.
[2] A housing warms towards its end as 1 - exp(-t / tau); a small motor's tau is 15 to 45 minutes. Copper loss
    goes with the square of the amps, so what it bears for hours goes with the root of the rise allowed.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

SLOW_MIN, QUICK_MIN = 45.0, 15.0  # time constants of a small motor [2]
ALLOWED_RISE_K = 60.0  # of a housing over the air or water: windings stand some 40 higher
USUAL_MERIT = (0.30, 0.60)  # [1]


@dataclass(frozen=True)
class Bollard:
    """What a test of a motor comes to; None where what it needs was not read."""

    power_w: float | None
    pull_per_w: float | None  # [N/W]
    merit: float | None  # of motor and propeller together [1]
    kv_rpm_per_v: float | None
    lasting_w: tuple[float, float] | None  # from, to


def bollard(
    volts: float | None, amps: float | None, pull_n: float | None, disc_m2: float | None,
    density_kg_per_m3: float, no_load_rpm: float | None = None, no_load_v: float | None = None,
    air_c: float | None = None, warm_c: float | None = None, minutes: float = 10.0,
) -> Bollard:  # fmt: skip
    """What a motor's test comes to.

    Parameters
    ----------
    volts, amps : float, optional
        At its terminals under load.
    pull_n : float, optional
        On a line to the dock, the boat at rest.
    disc_m2 : float, optional
        Of its propeller.
    density_kg_per_m3 : float
    no_load_rpm, no_load_v : float, optional
        Turning free.
    air_c, warm_c, minutes : float, optional
        Of the housing after so many minutes under that load, and of what cools it.
    """
    power = None if volts is None or amps is None else volts * amps
    merit = None
    if power and pull_n is not None and disc_m2:
        merit = pull_n**1.5 / np.sqrt(2 * density_kg_per_m3 * disc_m2) / power
    lasting = None
    if power and air_c is not None and warm_c is not None and warm_c > air_c:
        ends = [(warm_c - air_c) / -np.expm1(-minutes / tau) for tau in (SLOW_MIN, QUICK_MIN)]
        low, high = (power * float(np.sqrt(ALLOWED_RISE_K / end)) for end in ends)
        lasting = (min(low, power), min(high, power))
    return Bollard(
        power_w=power,
        pull_per_w=pull_n / power if power and pull_n is not None else None,
        merit=None if merit is None else float(merit),
        kv_rpm_per_v=no_load_rpm / no_load_v if no_load_rpm and no_load_v else None,
        lasting_w=lasting,
    )
