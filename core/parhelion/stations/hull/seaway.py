"""What wind, waves, a tow and a stream cost, the strongest head wind, and what gets the boat home.

References
----------
[1] K. Hasselmann et al., JONSWAP 1973, height over a fetch: H = .0016 U sqrt(F / g).
"""

from __future__ import annotations

from typing import Literal

import numpy as np
from numpy.typing import ArrayLike, NDArray

from parhelion.balance.outlook import Outlook, remembered
from parhelion.balance.push import TO_THRUST
from parhelion.constants import GRAVITY_MPS2
from parhelion.design import BoatDesign, Drive, PushKind
from parhelion.drive.chain import battery_w
from parhelion.drive.pull import most_pull_n
from parhelion.drive.ventilation import mean_thrust_left
from parhelion.hull.demand import demand_curve
from parhelion.hull.resistance import air_area_m2, service_resistance, wave_drag_of
from parhelion.hull.weather import wind_resistance_n
from parhelion.quantities import Frozen
from parhelion.rail.stores import hours_at
from parhelion.units import MPS_PER_KNOT

HEADWAY_MPS = 1.0 * MPS_PER_KNOT  # over the ground, that still counts as making way
STRONGEST_MPS = 40.0
FETCH_M = 2000.0  # of sheltered water: a head wind never comes without waves
WINDS = 401  # looked at, from calm to the strongest

CostKey = Literal["water", "air", "wind", "waves", "tow", "chop", "stream"]


class Cost(Frozen):
    """Battery watts that one thing costs at the planned speed; a range where two methods differ."""

    key: CostKey
    label: str
    power_w: float
    low_w: float | None = None
    high_w: float | None = None


class HeadWind(Frozen):
    """The strongest head wind in which the boat still makes a knot over the ground, and for how long."""

    wind_mps: float  # with the waves that wind raises over a short fetch
    flat_wind_mps: float  # on flat water
    wave_height_m: float
    beyond: bool  # still makes it in the strongest wind looked at
    speed_mps: float  # through the water, that this takes
    power_w: float
    hours: float | None  # on the bank from the start charge; None without a bank, or where the sun keeps up


class WayHome(Frozen):
    """What moves the boat when its largest motor fails."""

    means: Literal["second motor", "pedals", "paddle", "oars", "sail", "none"]
    speed_mps: float | None = None


def seaway_costs(outlook: Outlook) -> list[Cost]:
    """The planned speed's battery watts, taken apart; parts that are not there are left out."""
    design, plan = outlook.design, outlook.design.plan
    speed = outlook.plan_speed_mps
    at = np.array([speed])
    made = service_resistance(design, at)
    whole_w = float(battery_w(design, np.maximum(made.total_n, 0.0), at, made.planing_share)[0])
    drawn_w = outlook.plan_power_w - outlook.curve.idle_w  # as every page has it, read off the curve
    factor = drawn_w / whole_w if whole_w > 0 else 0.0

    def watts(thrust: float, flat: bool = False) -> float:
        return factor * float(
            battery_w(design, np.array([max(thrust, 0.0)]), at, made.planing_share, flat)[0]
        )

    whole, service = float(made.total_n[0]), float(made.service_n[0])
    calm = service - float(made.air_n[0])
    found = [
        Cost(key="water", label="the water, calm", power_w=watts(calm, True)),
        Cost(key="air", label="still air", power_w=watts(service, True) - watts(calm, True)),
    ]
    smooth = watts(service, True)
    if plan.wind_angle_deg is not None:
        found.append(
            Cost(key="wind", label="wind", power_w=watts(service + float(made.wind_n[0]), True) - smooth)
        )
    if plan.wave_height_m > 0:
        drag = wave_drag_of(design, at)
        low, middle, high = (
            watts(service + float(n[0]), True) - smooth for n in (drag.low_n, drag.middle_n, drag.high_n)
        )
        found.append(Cost(key="waves", label="waves ahead", power_w=middle, low_w=low, high_w=high))
        if any(d.propeller and mean_thrust_left(d.propeller, plan.wave_height_m) < 1 for d in design.drives):
            found.append(
                Cost(key="chop", label="air drawn in the chop", power_w=watts(whole) - watts(whole, True))
            )
    if design.tows:
        found.append(
            Cost(key="tow", label="the tow", power_w=watts(service + float(made.tow_n[0]), True) - smooth)
        )
    if plan.current_mps:
        over_ground = outlook.curve.power_at([speed, max(speed - plan.current_mps, 0.0)])
        if np.isfinite(over_ground).all():
            found.append(
                Cost(key="stream", label="the stream, to make the same speed over the ground",
                     power_w=float(over_ground[1] - over_ground[0]))
            )  # fmt: skip
    return found


def fetch_height_m(wind_mps: ArrayLike) -> NDArray[np.float64]:
    """Height of the waves a wind raises over the short fetch [1] [m], of the shape of `wind_mps`."""
    return 0.0016 * np.asarray(wind_mps, dtype=float) * np.sqrt(FETCH_M / GRAVITY_MPS2)


@remembered
def head_wind(outlook: Outlook) -> HeadWind:
    """The strongest wind on the nose in which the boat still makes 1 kn over the ground at full power."""
    design = outlook.design
    speed = max(HEADWAY_MPS - design.plan.current_mps, 0.05)
    at = np.array([speed])
    made = service_resistance(design, at)
    still = float(made.service_n[0] + made.tow_n[0])
    full = outlook.rated_w
    share = min(full / max(outlook.label_w, 1e-9), 1.0)
    pull = most_pull_n(design, speed, share)
    area, drag = air_area_m2(design), design.hull.air_drag

    winds = np.linspace(0.0, STRONGEST_MPS, WINDS)
    flat = still + wind_resistance_n(speed, winds, 0.0, area, drag)
    raised = np.maximum(fetch_height_m(winds), design.plan.wave_height_m)
    waves = wave_drag_of(design, np.full(WINDS, speed), height_m=raised).middle_n

    def strongest(asked: NDArray[np.float64]) -> float:
        return float(np.interp(pull, np.maximum.accumulate(asked), winds))

    wind = strongest(flat + waves)
    hours = None
    if outlook.aboard is not None:
        left = hours_at(outlook, full, outlook.shown_by_bank_w, design.plan.start_charge_frac)
        hours = left if np.isfinite(left) else None
    return HeadWind(
        wind_mps=wind, flat_wind_mps=strongest(flat), wave_height_m=float(fetch_height_m(wind)),
        beyond=wind >= STRONGEST_MPS, speed_mps=speed, power_w=full, hours=hours,
    )  # fmt: skip


def _without_largest(design: BoatDesign) -> BoatDesign | None:
    """The design with one motor of its largest drive gone; None where it was the only one."""
    drives = list(design.drives)
    if sum(drive.count for drive in drives) < 2:
        return None

    def size(drive: Drive) -> float:
        return (drive.rated_power_w or 0) + (drive.static_thrust_n or 0)

    index = max(range(len(drives)), key=lambda i: size(drives[i]))
    largest = drives[index]
    if largest.count > 1:
        drives[index] = largest.model_copy(update={"count": largest.count - 1})
    else:
        del drives[index]
    return design.changed(drives=tuple(drives))


@remembered
def way_home(outlook: Outlook) -> WayHome:
    """The best thing left when the largest motor fails, and the speed it gives."""
    design = outlook.design
    left = _without_largest(design)
    if left is not None:
        curve = demand_curve(left, fitted=outlook.curve.fit)
        return WayHome(means="second motor", speed_mps=float(curve.speed_at(curve.most_w)))
    best = WayHome(means="none")
    for push in design.pushes:
        if push.kind is PushKind.SAIL:
            return WayHome(means="sail")
        thrust_w = push.power_w * TO_THRUST[push.kind]
        speed = float(np.interp(thrust_w, outlook.curve.thrust_power_w, outlook.curve.speed_mps))
        if best.speed_mps is None or speed > best.speed_mps:
            best = WayHome(means=push.kind.value, speed_mps=speed)
    return best
