"""Several days' light laid end to end, so that what reads light step by step is asked once."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, fields

import numpy as np
from numpy.typing import NDArray

from parhelion.sun.light import Light, Sunned

Array = NDArray[np.float64]


@dataclass(frozen=True, eq=False)
class ManyDays:
    """The sun over the steps of several days, shape (s,); the part of `DaySteps` that light needs."""

    zenith_deg: Array
    apparent_zenith_deg: Array
    azimuth_deg: Array
    extraterrestrial_w_per_m2: Array
    clear_ghi_w_per_m2: Array
    clear_dhi_w_per_m2: Array
    clear_dni_w_per_m2: Array
    day_of_step: NDArray[np.int64]  # counted from the first

    @property
    def elevation_deg(self) -> Array:
        return 90.0 - self.apparent_zenith_deg


def joined(lights: Sequence[Light]) -> Light:
    """Lights of as many members each as one.

    Parameters
    ----------
    lights : sequence of Light
        Shapes (n, t), each with its air.

    Raises
    ------
    ValueError
        For one without an air of its own: the plan's is that of one date.
    """
    airs_c = [light.air_c for light in lights if light.air_c is not None]
    if len(airs_c) < len(lights):
        raise ValueError("every light has its own air")
    days: list[Sunned] = [light.day for light in lights]
    rows = {
        field.name: np.concatenate([getattr(day, field.name) for day in days])
        for field in fields(ManyDays) if field.name != "day_of_step"
    }  # fmt: skip
    lengths = [light.ghi.shape[1] for light in lights]
    many = ManyDays(**rows, day_of_step=np.repeat(np.arange(len(lengths)), lengths))
    courses = None
    if any(light.course_deg is not None for light in lights):
        unknown = [np.full(steps, np.nan) for steps in lengths]
        own = (light.course_deg for light in lights)
        courses = np.concatenate([a if a is not None else b for a, b in zip(own, unknown, strict=True)])
    ghi, dhi, dni = (
        np.concatenate([getattr(one, n) for one in lights], axis=1) for n in ("ghi", "dhi", "dni")
    )
    return Light(many, ghi, dhi, dni, lights[0].shown, np.concatenate(airs_c), course_deg=courses)
