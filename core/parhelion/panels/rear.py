"""Light on the back of a two-sided panel: from the water far around it, or from a surface close under it.

References
----------
[1] J.R. Ehlert and T.F. Smith, "View factors for perpendicular and parallel rectangular plates", J.
    Thermophysics and Heat Transfer 7 (1993) 173-175: parallel plates, closed form.
[2] Light on the surface: beam outside the panel's shadow, the sky where the panel does not hide it; both
    weighted by the view factor to the panel; isotropic reflection.
"""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from parhelion.computing.kept import kept_by_arguments
from parhelion.design import PanelGroup, Place, Under
from parhelion.panels.layout import sheet_of
from parhelion.panels.plane import DIFFUSE_INCIDENCE, WATER_ALBEDO
from parhelion.sun.light import Light, Sunned

Array = NDArray[np.float64]

ALBEDO = {Under.WATER: WATER_ALBEDO, Under.WHITE: 0.70, Under.DECK: 0.40, Under.DARK: 0.10}  # typical
USUAL_GAP_M = 0.05
POINTS = 24  # along each side of the surface, for the sky seen from it
AROUND = 8.0  # heights of water around a panel in which it hides some of the sky
FAR_M = 3.0  # the surface reaches this far where the place has no size


def _corner(x: Array, y: Array, z: float) -> Array:
    """The double integral of the parallel-plate kernel over one corner [1]."""
    xx, yy = np.sqrt(z * z + x * x), np.sqrt(z * z + y * y)
    made = y * xx * np.arctan2(y, xx) + x * yy * np.arctan2(x, yy)
    return (made - z * z / 2 * np.log(x * x + y * y + z * z)) / (2 * np.pi)


def view_factor(
    panel: tuple[Array, Array, Array, Array], plate: tuple[Array, Array, Array, Array], gap_m: float
) -> Array:
    """Share of a panel's back view that a parallel plate fills [1].

    Parameters
    ----------
    panel, plate : tuple of ndarray
        Lower and upper x, lower and upper y of each [m]; broadcast against each other.
    gap_m : float
        Between the two planes [m].
    """
    total = 0.0
    for i, x in enumerate(panel[:2]):
        for j, y in enumerate(panel[2:]):
            for k, u in enumerate(plate[:2]):
                for m, v in enumerate(plate[2:]):
                    sign = (-1) ** (i + j + k + m)
                    total = total + sign * _corner(np.asarray(x - u), np.asarray(y - v), gap_m)
    return np.asarray(total / ((panel[1] - panel[0]) * (panel[3] - panel[2])))


def _sides(wide: float, long: float) -> tuple[Array, Array, Array, Array]:
    return np.array(-wide / 2), np.array(wide / 2), np.array(-long / 2), np.array(long / 2)


def _sky_through(wide: float, long: float, under_wide: float, under_long: float, gap: float) -> float:
    """View factor to the surface, weighted by the share of the sky that each of its points sees."""
    x = (np.arange(POINTS) + 0.5) / POINTS * under_wide - under_wide / 2
    y = (np.arange(POINTS) + 0.5) / POINTS * under_long - under_long / 2
    a, b = np.meshgrid(x, y, indexing="ij")
    half_a, half_b = under_wide / POINTS / 2, under_long / POINTS / 2
    spot = (a - half_a, a + half_a, b - half_b, b + half_b)
    panel = _sides(wide, long)
    seen_by_panel = view_factor(panel, spot, gap)
    hidden = seen_by_panel * (wide * long) / (4 * half_a * half_b)  # by reciprocity
    return float((seen_by_panel * np.clip(1 - hidden, 0, 1)).sum())


@kept_by_arguments(64)
def _views(panel: tuple[float, float], under: tuple[float, float], gap_m: float) -> tuple[float, float]:
    """View factor of a panel's back to the surface, and the same weighted by the sky that its points see."""
    whole = float(view_factor(_sides(*panel), _sides(*under), gap_m))
    return whole, _sky_through(*panel, *under, gap_m)


def close_rear(
    light: Light, heading_deg: float, panel: tuple[float, float], under: tuple[float, float], gap_m: float,
    albedo: float,
) -> Array:  # fmt: skip
    """Light on the back of a flat panel over a flat surface of its own size or larger, shape (n, 144) [2].

    Parameters
    ----------
    light : Light
    heading_deg : float
        Of the boat, whose athwart side comes first in both sizes [deg].
    panel, under : tuple of float
        Athwart and fore-and-aft size [m].
    gap_m : float
    albedo : float
        Of the surface.
    """
    whole, sky = _views(panel, under, gap_m)
    lit = np.clip(whole - _shadow_seen(light.day, heading_deg, panel, under, gap_m), 0, 1)
    return albedo * (light.dhi * sky + _beam_on(light) * lit)


def _beam_on(light: Light) -> Array:
    """Beam on a level surface, shape (n, t) [W/m2]."""
    return light.dni * np.maximum(np.cos(np.radians(light.day.zenith_deg)), 0.0)


def _shadow_seen(
    day: Sunned, heading_deg: float, panel: tuple[float, float], under: tuple[float, float], gap_m: float
) -> Array:
    """View factor of a flat panel's back to its own shadow on the surface under it, shape (t,) [-]."""
    away = gap_m / np.tan(np.radians(np.maximum(day.elevation_deg, 1.0)))
    bearing = np.radians(day.azimuth_deg - heading_deg)
    dx, dy = -away * np.sin(bearing), -away * np.cos(bearing)
    low_x, high_x, low_y, high_y = _sides(*panel)
    edge_x, edge_y = under[0] / 2, under[1] / 2
    shadow = (
        np.clip(low_x + dx, -edge_x, edge_x), np.clip(high_x + dx, -edge_x, edge_x),
        np.clip(low_y + dy, -edge_y, edge_y), np.clip(high_y + dy, -edge_y, edge_y),
    )  # fmt: skip
    seen = view_factor(_sides(*panel), shadow, gap_m)
    return np.asarray(np.where(day.elevation_deg > 1, seen, 0.0))


def own_shadow(
    light: Light, heading_deg: float, panel: tuple[float, float], height_m: float, albedo: float
) -> Array:
    """Light that a flat panel over open water keeps from its own back, shape (n, t) [W/m2] [2].

    Parameters
    ----------
    light : Light
    heading_deg : float
        Of the boat [deg].
    panel : tuple of float
        Athwart and fore-and-aft size [m].
    height_m : float
        Over the water.
    albedo : float
    """
    around = (panel[0] + AROUND * height_m, panel[1] + AROUND * height_m)
    whole, sky = _views(panel, around, height_m)
    seen = _shadow_seen(light.day, heading_deg, panel, (np.inf, np.inf), height_m)
    return albedo * (light.dhi * (whole - sky) + _beam_on(light) * seen)


def open_rear(light: Light, tilt_deg: float, azimuth_deg: float, albedo: float) -> Array:
    """Light on the back of a panel high over a wide surface, sky and beam behind it too, shape (n, 144)."""
    day = light.day
    tilt = np.radians(tilt_deg)
    apart = np.radians(day.azimuth_deg - azimuth_deg)
    zenith = np.radians(day.zenith_deg)
    facing = np.cos(zenith) * np.cos(tilt) + np.sin(zenith) * np.sin(tilt) * np.cos(apart)
    behind = light.dni * np.maximum(-facing, 0.0) * (day.elevation_deg > 0)
    return albedo * light.ghi * (1 + np.cos(tilt)) / 2 + light.dhi * (1 - np.cos(tilt)) / 2 + behind


def rear_light(
    light: Light, place: Place, group: PanelGroup, heading_deg: float, tilt_deg: float, azimuth_deg: float
) -> Array:
    """Light that the back of a two-sided panel turns into power as the front would, shape (n, 144) [W/m2].

    Panels darken what they look at: water under a flat sheet near it, or a roof or deck of the place's own
    size. A tilted sheet counts as high over wide water. All panels of a group count as one sheet; the frame
    behind them is not counted.
    """
    albedo = ALBEDO[place.under]
    if place.under is Under.WATER or tilt_deg > 0:
        back = open_rear(light, tilt_deg, azimuth_deg, albedo)
        if tilt_deg == 0 and place.at is not None:
            height = max(place.at.z_m, USUAL_GAP_M)
            back = back - own_shadow(light, heading_deg, sheet_of(place, group), height, albedo)
    else:
        sheet = sheet_of(place, group)
        under = (max(place.width_m or FAR_M, sheet[0]), max(place.length_m or FAR_M, sheet[1]))
        back = close_rear(light, heading_deg, sheet, under, place.gap_m or USUAL_GAP_M, albedo)
    return group.bifaciality_frac * DIFFUSE_INCIDENCE * back
