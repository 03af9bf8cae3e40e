"""A light as a boat meets it on several headings at once: the sun turns about her instead.

All that stands on a boat sees the sun by its bearing off the bow. So headings are steps of one longer day:
what is worked out of it costs one pass, whatever their number, which is felt where the days are few.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from parhelion.computing.kept import kept_by_arguments
from parhelion.sun.light import Light, Sunned

Array = NDArray[np.float64]

MOST_AT_ONCE = 20_000  # members x steps x headings: more do not lie near the processor, and take longer


@dataclass(frozen=True, eq=False)
class TurnedDay:
    """The steps of a day on the first heading, then on the next; bearings off the bow, shapes (h * s,)."""

    zenith_deg: Array
    azimuth_deg: Array
    elevation_deg: Array
    extraterrestrial_w_per_m2: Array
    clear_ghi_w_per_m2: Array
    clear_dhi_w_per_m2: Array
    clear_dni_w_per_m2: Array


@kept_by_arguments(24)
def _turned_day(day: Sunned, headings_deg: tuple[float, ...]) -> TurnedDay:
    return _day_turned(day, [np.full(len(day.azimuth_deg), heading) for heading in headings_deg])


def _day_turned(day: Sunned, headings_deg: list[Array]) -> TurnedDay:
    """A day on headings that may change by the step, shapes (s,)."""
    number = len(headings_deg)
    return TurnedDay(
        np.tile(day.zenith_deg, number),
        np.concatenate([(day.azimuth_deg - heading) % 360.0 for heading in headings_deg]),
        np.tile(day.elevation_deg, number),
        np.tile(day.extraterrestrial_w_per_m2, number),
        np.tile(day.clear_ghi_w_per_m2, number),
        np.tile(day.clear_dhi_w_per_m2, number),
        np.tile(day.clear_dni_w_per_m2, number),
    )


@kept_by_arguments(48)
def turned(light: Light, headings_deg: tuple[float, ...]) -> Light:
    """A light on several headings, shapes (n, h * s), for a boat whose bow lies north.

    Where her course is known in a step, that is her heading in it, and none of these.
    """
    number = len(headings_deg)
    ghi, dhi, dni = (np.tile(part, (1, number)) for part in (light.ghi, light.dhi, light.dni))
    air_c = None if light.air_c is None else np.tile(light.air_c, number)
    course = light.course_deg
    if course is None:
        day = _turned_day(light.day, headings_deg)
    else:
        day = _day_turned(light.day, [np.where(np.isfinite(course), course, h) for h in headings_deg])
    return Light(day, ghi, dhi, dni, light.shown, air_c)


def at_once(light: Light, headings_deg: tuple[float, ...]) -> bool:
    """Whether headings are worked out together rather than one by one; a course that changes always is."""
    if light.course_deg is not None:
        return True
    return len(headings_deg) > 1 and light.ghi.size * len(headings_deg) <= MOST_AT_ONCE


def by_heading(made: Array, headings_deg: tuple[float, ...]) -> Array:
    """What was made of a turned light, shape (n, h * s), heading by heading: shape (h, n, s)."""
    members, steps = made.shape
    number = len(headings_deg)
    return np.swapaxes(made.reshape(members, number, steps // number), 0, 1)
