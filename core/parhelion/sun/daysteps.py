"""A day in steps of ten minutes, from sunrise to a day later, and where the sun stands in each.

Where the sun neither rises nor sets the day begins at solar midnight.

References
----------
[1] I. Reda and A. Andreas, "Solar position algorithm for solar radiation applications", Solar Energy 76
    (2004) 577-589; see `place`.
[2] P. Ineichen and R. Perez, "A new airmass independent formulation for the Linke turbidity coefficient",
    Solar Energy 73 (2002) 151-157; pvlib's clear sky with its monthly turbidity table.
"""

from __future__ import annotations

import warnings
from dataclasses import dataclass, fields, replace
from datetime import UTC, datetime, timedelta
from datetime import date as Date
from datetime import time as Time

import numpy as np
from numpy.typing import NDArray

from parhelion.computing.kept import kept_by_arguments
from parhelion.constants import STEP_S, STEPS_PER_DAY
from parhelion.design import Site, Spot
from parhelion.sun.place import sun_events, sun_place
from parhelion.sun.timeline import Timeline, even_steps
from parhelion.sun.zone import zone_at

Array = NDArray[np.float64]


@dataclass(frozen=True, eq=False)
class SunTrack:
    """The sun's place over a timeline, and a clear sky's light, at the middle of each step, shapes (t,)."""

    timeline: Timeline
    zenith_deg: Array
    apparent_zenith_deg: Array
    azimuth_deg: Array
    extraterrestrial_w_per_m2: Array  # normal to the sun
    clear_ghi_w_per_m2: Array
    clear_dhi_w_per_m2: Array
    clear_dni_w_per_m2: Array
    linke_turbidity: float

    @property
    def elevation_deg(self) -> Array:
        return 90.0 - self.apparent_zenith_deg

    @property
    def steps(self) -> int:
        return self.timeline.steps


@dataclass(frozen=True, eq=False)
class DaySteps(SunTrack):
    """One day at one place, 24 h from sunrise, or from solar midnight where the sun does not rise or set."""

    sunrise_at: datetime | None
    sunset_at: datetime | None
    solar_noon_at: datetime

    def middle_of(self, every: int) -> DaySteps:
        """The day in steps `every` times as long, an odd number; the sun is that of their middles."""
        if every == 1:
            return self
        timeline = self.timeline
        longer = even_steps(timeline.starts_at, every * STEP_S, self.steps // every, timeline.zone)
        rows = {
            field.name: getattr(self, field.name)[every // 2 :: every]
            for field in fields(self) if isinstance(getattr(self, field.name), np.ndarray)
        }  # fmt: skip
        return replace(self, timeline=longer, **rows)

    @property
    def starts_at(self) -> datetime:
        return self.timeline.starts_at

    def index_at(self, moment: datetime) -> float:
        """How many steps after the start a moment lies, with its fraction."""
        return self.timeline.index_at(moment)

    def at_index(self, index: float) -> datetime:
        """The local moment some steps after the start."""
        return self.timeline.at_index(index)

    def step_at(self, moment: datetime) -> int:
        """The step a moment falls in, taken within the 24 h."""
        return int(np.floor(self.index_at(moment))) % self.steps

    @property
    def noon_step(self) -> int:
        return self.step_at(self.solar_noon_at)

    @property
    def dusk_index(self) -> float:
        """Steps from the start to sunset; the day's end where the sun does not set."""
        if self.sunset_at is None:
            return float(self.steps)
        return min(self.index_at(self.sunset_at), float(self.steps))

    def moment(self, clock: Time) -> datetime:
        """The first moment within the day when the local clock shows `clock`."""
        zone = self.timeline.zone
        candidate = datetime.combine(self.starts_at.date(), clock, zone)
        if candidate.astimezone(UTC) < self.starts_at.astimezone(UTC):
            candidate = datetime.combine(self.starts_at.date() + timedelta(days=1), clock, zone)
        return candidate


# pvlib 0.16.1 asks pandas 3.1 for a name that pandas is about to drop.
warnings.filterwarnings("ignore", message="DatetimeIndex.dayofyear is deprecated")


def day_steps(site: Site, date: Date) -> DaySteps:
    """The day's steps with the sun's place and the clear-sky irradiance [1] [2].

    Parameters
    ----------
    site : Site
    date : datetime.date
        Local date on which solar noon falls.

    Returns
    -------
    DaySteps
        Kept for the last places and dates asked for.
    """
    return day_at(site.spot, date)


def _events(spot: Spot, date: Date) -> tuple[datetime, datetime | None, datetime | None]:
    """Solar noon of the local date, and the rise before it and the set after it, in UTC."""
    zone = zone_at(spot.latitude_deg, spot.longitude_deg)
    midday = datetime.combine(date, Time(12), zone)

    def moment(seconds: float) -> datetime:
        return datetime.fromtimestamp(round(seconds), UTC)

    noon, rise, sunset = sun_events(spot, midday.timestamp())
    return moment(noon), None if rise is None else moment(rise), None if sunset is None else moment(sunset)


@kept_by_arguments(64)
def _turbidity(spot: Spot, year: int) -> Array:
    """Of each day of a year, from pvlib's monthly table [2]; one of a place that nobody gave."""
    import pandas as pd
    from pvlib import clearsky

    days = pd.date_range(Date(year, 1, 1), Date(year, 12, 31), tz="UTC")
    return clearsky.lookup_linke_turbidity(days, spot.latitude_deg, spot.longitude_deg).to_numpy()


@kept_by_arguments(64)
def day_at(spot: Spot, date: Date) -> DaySteps:
    """As `day_steps`, of a spot."""
    zone = zone_at(spot.latitude_deg, spot.longitude_deg)
    noon, rise, sunset = _events(spot, date)
    start = rise or noon - timedelta(hours=12)
    made = track_over(spot, even_steps(start, STEP_S, STEPS_PER_DAY, zone), noon)
    return DaySteps(
        **{field.name: getattr(made, field.name) for field in fields(made)},
        sunrise_at=rise.astimezone(zone) if rise else None,
        sunset_at=sunset.astimezone(zone) if sunset else None,
        solar_noon_at=noon.astimezone(zone),
    )


def _light(values: object) -> Array:
    """Nothing where the model has no sun, and never less."""
    return np.maximum(np.nan_to_num(np.asarray(values, dtype=float)), 0.0)


def _day_of_year(first: datetime, seconds: Array) -> Array:
    """Of each moment so many seconds after the first, universal time: 1 on the first of January."""
    moments = np.datetime64(first.replace(tzinfo=None), "ms") + (seconds * 1000).astype("timedelta64[ms]")
    days = moments.astype("datetime64[D]")
    return (days - moments.astype("datetime64[Y]").astype("datetime64[D]")).astype(float) + 1


def track_over(spot: Spot, timeline: Timeline, turbidity_at: datetime | None = None) -> SunTrack:
    """The sun's place and the clear-sky irradiance over any timeline [1] [2].

    Parameters
    ----------
    spot : Spot
    timeline : Timeline
    turbidity_at : datetime, optional
        The moment whose month's haze counts; the start's where it is not given.
    """
    from pvlib import atmosphere, clearsky, irradiance

    first = timeline.starts_at.astimezone(UTC)
    zenith, apparent, azimuth = sun_place(spot, first.timestamp() + timeline.middles_s)
    extra = irradiance.get_extra_radiation(_day_of_year(first, timeline.middles_s))
    turbidity = spot.linke_turbidity
    if turbidity is None:
        hazy = (turbidity_at or first).astimezone(UTC)
        turbidity = float(_turbidity(spot, hazy.year)[hazy.timetuple().tm_yday - 1])
    airmass = atmosphere.get_absolute_airmass(
        atmosphere.get_relative_airmass(apparent), atmosphere.alt2pres(spot.altitude_m)
    )
    with np.errstate(divide="ignore", invalid="ignore"):  # the model divides by cos z at the horizon
        clear = clearsky.ineichen(apparent, airmass, turbidity, altitude=spot.altitude_m, dni_extra=extra)
    return SunTrack(
        timeline=timeline,
        zenith_deg=zenith,
        apparent_zenith_deg=apparent,
        azimuth_deg=azimuth,
        extraterrestrial_w_per_m2=extra,
        clear_ghi_w_per_m2=_light(clear["ghi"]),
        clear_dhi_w_per_m2=_light(clear["dhi"]),
        clear_dni_w_per_m2=_light(clear["dni"]),
        linke_turbidity=turbidity,
    )
