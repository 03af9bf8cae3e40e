"""The light of many similar days on the water: global, diffuse and beam, and which day is shown.

References
----------
[1] A. Driesse et al., continuous form of the diffuse split of D.G. Erbs et al., Solar Energy 28 (1982)
    293-302; pvlib's erbs_driesse.
[2] The clear sky of P. Ineichen and R. Perez (see `daysteps`): its own beam and diffuse; docs/methods/sun.md
    says how near measured light it comes.
"""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date as Date
from typing import Protocol

import numpy as np
from numpy.typing import NDArray

from parhelion.computing.kept import kept_by_arguments, once
from parhelion.design import Shade, Site, Sky, Spot
from parhelion.sun.daysteps import DaySteps, SunTrack, day_at
from parhelion.sun.sky import CLOUD_EDGE, clear_sky_index
from parhelion.sun.timeline import Timeline

Array = NDArray[np.float64]

CLOUDED_INDEX, CLEAR_INDEX = 0.80, 0.97  # share of a clear sky's light: below all cloud, above all clear [2]
MOST_BEAM = (
    1.1  # of a clear sky's beam: a haze less than usual; what is more comes from the edges of clouds [2]
)
RANKS = 25  # of an ensemble's skies that tell all of them, at each step
POOR = 0.1  # of such days give no more than the poor one


class Sunned(Protocol):
    """Steps with the sun's place in each; see `DaySteps`."""

    @property
    def zenith_deg(self) -> Array: ...
    @property
    def azimuth_deg(self) -> Array: ...
    @property
    def elevation_deg(self) -> Array: ...
    @property
    def extraterrestrial_w_per_m2(self) -> Array: ...
    @property
    def clear_ghi_w_per_m2(self) -> Array: ...
    @property
    def clear_dhi_w_per_m2(self) -> Array: ...
    @property
    def clear_dni_w_per_m2(self) -> Array: ...


@dataclass(frozen=True, eq=False)
class Light:
    """Irradiance of members x steps, shape (n, 144) [W/m2]; row `shown` is the median day.

    Or one member over the steps of a year, with its air temperature. A light is the same only as itself: what
    is made of it is kept by it.
    """

    day: Sunned
    ghi: Array
    dhi: Array
    dni: Array
    shown: int
    air_c: Array | None = None  # by step, where it is not the plan's
    by_index: bool = False  # whether diffuse and beam follow from the global light of a step
    course_deg: Array | None = None  # the boat's own by step, where it is known; nan elsewhere

    @property
    def timeline(self) -> Timeline:
        assert isinstance(self.day, SunTrack)
        return self.day.timeline

    @once
    def shown_alone(self) -> Light:
        """The shown member by itself, shape (1, 144)."""
        rows = slice(self.shown, self.shown + 1)
        return Light(self.day, self.ghi[rows], self.dhi[rows], self.dni[rows], 0, self.air_c)

    @once
    def shown_and_poor(self) -> Light:
        """The shown member and one that nine of ten outshine, shape (2, 144)."""
        order = np.argsort(self.ghi.sum(axis=1), kind="stable")
        rows = [self.shown, int(order[int(POOR * (len(order) - 1))])]
        return Light(self.day, self.ghi[rows], self.dhi[rows], self.dni[rows], 0, self.air_c)

    @once
    def few(self) -> Few | None:
        """A few skies that tell what all of these give; None where there are no more than that."""
        return few_of(self) if self.by_index and len(self.ghi) > 2 * RANKS else None

    @once
    def mean(self) -> Light:
        """The mean of the members, shape (1, 144): what such a day gives on the whole."""
        ghi, dhi, dni = (a.mean(axis=0, keepdims=True) for a in (self.ghi, self.dhi, self.dni))
        return Light(self.day, ghi, dhi, dni, 0, self.air_c)


@dataclass(frozen=True, eq=False)
class Few:
    """Some skies of an ensemble, evenly through it at each step, and where each of all lies between them.

    In one step panels give what its light asks for, whichever day it is of: what some give is told from two
    that are a little darker and a little brighter. The shown day is among them, as it is.
    """

    light: Light
    low_at: NDArray[np.intp]  # where among all values the next darker stands, shape (n, t)
    high_at: NDArray[np.intp]  # and the next brighter
    share: Array  # of the brighter one, shape (n, t)

    def read(self, values: Array) -> Array:
        """What all skies give, shape (n, t), of what the few do, shape (k, t)."""
        low, found = values.take(self.low_at), values.take(self.high_at)
        found -= low
        found *= self.share
        found += low
        return found


def few_of(light: Light) -> Few:
    """The few skies of an ensemble; see `Few`."""
    members, steps = light.ghi.shape
    ranks = np.round((members - 1) * (1 - np.cos(np.linspace(0, np.pi, RANKS))) / 2).astype(int)
    chosen = np.concatenate([np.argsort(light.ghi, axis=0)[ranks], np.full((1, steps), light.shown)])
    knots = np.take_along_axis(light.ghi, chosen, axis=0)
    chosen = np.take_along_axis(chosen, np.argsort(knots, axis=0, kind="stable"), axis=0)
    ghi, dhi, dni = (np.take_along_axis(rows, chosen, axis=0) for rows in (light.ghi, light.dhi, light.dni))
    below = np.empty((members, steps), dtype=np.intp)
    for step in range(steps):
        below[:, step] = np.searchsorted(ghi[:, step], light.ghi[:, step], side="right") - 1
    columns = np.arange(steps)
    low_at, high_at = below * steps + columns, np.minimum(below + 1, len(ghi) - 1) * steps + columns
    low = ghi.take(low_at)
    wide = ghi.take(high_at) - low
    share = np.divide(light.ghi - low, wide, out=np.zeros_like(low), where=wide > 0)
    return Few(Light(light.day, ghi, dhi, dni, 0, light.air_c), low_at, high_at, share)


def split(day: Sunned, ghi: Array) -> tuple[Array, Array]:
    """Diffuse horizontal and beam normal from global horizontal, of the shape of `ghi` [W/m2].

    A clear sky keeps the clear-sky model's own beam and diffuse [2]; under cloud the correlation for all
    skies is used [1], which has far too much diffuse for a clear one; between an index of .80 and .97 one
    passes into the other. Light far above a clear sky's comes from the edges of clouds, as diffuse.

    Parameters
    ----------
    day : Sunned
    ghi : ndarray, shape (n, t)
        [W/m2].

    Returns
    -------
    tuple of ndarray
        DHI and DNI [W/m2]. By the correlation all light counts as diffuse where the sun is more than 87 deg
        from the zenith.
    """
    from pvlib.irradiance import erbs_driesse

    parts = erbs_driesse(ghi, day.zenith_deg, dni_extra=day.extraterrestrial_w_per_m2)
    clear = day.clear_ghi_w_per_m2
    index = np.divide(ghi, clear, out=np.zeros_like(ghi), where=clear > 0)
    share = np.clip((index - CLOUDED_INDEX) / (CLEAR_INDEX - CLOUDED_INDEX), 0.0, 1.0)
    share = share * share * (3 - 2 * share)
    capped = np.minimum(index, MOST_BEAM)
    own = ghi - capped * (clear - day.clear_dhi_w_per_m2)
    dhi = share * own + (1 - share) * np.asarray(parts["dhi"])
    dni = share * capped * day.clear_dni_w_per_m2 + (1 - share) * np.asarray(parts["dni"])
    return dhi, dni


def _light(day: DaySteps, index: Array | None) -> Light:
    ghi = day.clear_ghi_w_per_m2[None, :] * (np.ones((1, 1)) if index is None else index)
    dhi, dni = split(day, ghi)
    order = np.argsort(ghi.sum(axis=1), kind="stable")
    return Light(day, ghi, dhi, dni, int(order[(len(order) - 1) // 2]), by_index=True)


@kept_by_arguments(24)
def _ensemble(spot: Spot, date: Date, sky: Sky, shade: Shade) -> Light:
    return _light(day_at(spot, date), clear_sky_index(sky, date, shade=shade))


@kept_by_arguments(24)
def _clearest(spot: Spot, date: Date) -> Light:
    return _light(day_at(spot, date), None)


@kept_by_arguments(24)
def _brightest(spot: Spot, date: Date) -> Light:
    return _light(day_at(spot, date), np.full((1, 1), CLOUD_EDGE))


def light_under(site: Site, date: Date, sky: Sky, shade: Shade = Shade.USUAL) -> Light:
    """The ensemble of days under a sky word; the shown one has the median unshaded irradiation."""
    return _ensemble(site.spot, date, sky, shade)


@kept_by_arguments(24)
def some_of(light: Light, number: int) -> Light:
    """The first members of an ensemble alone, shape (number, t); the first of them stands as shown."""
    rows = slice(number)
    return Light(light.day, light.ghi[rows], light.dhi[rows], light.dni[rows], 0, light.air_c)


def cloud_edge_light(site: Site, date: Date) -> Light:
    """The one day as bright all along as beside a cloud's edge, which lasts for minutes, shape (1, t)."""
    return _brightest(site.spot, date)


def clear_light(site: Site, date: Date) -> Light:
    """The one day with a clear-sky index of exactly 1, shape (1, 144)."""
    return _clearest(site.spot, date)
