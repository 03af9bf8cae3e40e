"""What was read on the water: outings, and the readings of meters, by hand or from devices.

Readings are rows beside the design, as records are; each says when, by whom or what, and of which part of the
boat. What was not read is left out; a gap is a gap.
"""

from __future__ import annotations

from datetime import timedelta
from typing import Literal

from pydantic import Field, model_validator

from parhelion.design.part import Id, Name, Part, entry, out_of_reach
from parhelion.design.plan import Sky
from parhelion.design.records import Key, Moment

BY_HAND = "hand"
MOST_READINGS = 20_000  # of one outing as a file or a request carries them
MOST_OUTINGS = 2_000
MOST_PAUSES = 40
SECONDS_KEPT_DAYS, MEANS_S = 30, 60  # what devices read by the second stays so long, then as such means
LONGEST_OUTING_H = 48.0


class Pause(Part):
    """A time within an outing in which she lies still."""

    began_at: Moment
    ended_at: Moment | None = None

    @model_validator(mode="after")
    def _forwards(self) -> Pause:
        if self.ended_at is not None and self.ended_at < self.began_at:
            raise out_of_reach("A pause ends after it begins.", "ended_at", "a later time")
        return self


class Outing(Part):
    """A time on the water."""

    id: Id
    name: Name = entry("Called", default="Outing")
    began_at: Moment
    ended_at: Moment | None = None
    pauses: tuple[Pause, ...] = Field(default=(), max_length=MOST_PAUSES)
    means_s: float | None = entry(
        "Means of", "Readings of devices that were put together since", default=None, gt=0, le=3_600,
        quantity="ratio", unit="s",
    )  # fmt: skip
    distance_m: float | None = entry(
        "Distance", "Empty: from the speeds that were read", default=None, ge=0, le=2_000_000,
        quantity="distance_m",
    )  # fmt: skip
    planned_m: float | None = entry("Planned", default=None, ge=0, le=2_000_000, quantity="distance_m")
    shore_wh: float = entry(
        "From the shore", "Charged from elsewhere than the sun", default=0, ge=0, le=1_000_000
    )
    lowest_c: float | None = entry("Air, lowest", "Empty: usual", default=None, ge=-50, le=60)
    highest_c: float | None = entry("Air, highest", "Empty: usual", default=None, ge=-50, le=60)
    wind_mps: float | None = entry("Wind", "Empty: as it was read, or as planned", default=None, ge=0, le=40)
    heading_deg: float | None = entry(
        "Heading", "Empty: as her track says, or as planned", default=None, ge=0, le=360
    )
    clock_ahead_s: float = entry(
        "Clock ahead", "Of the readings, against the true time", default=0, ge=-86_400, le=86_400,
        quantity="ratio", unit="s", step=60,
    )  # fmt: skip
    broke: str = entry("What broke", default="", max_length=400)
    mended: str = entry("Mended", "How; empty: it is still open", default="", max_length=400)
    note: str = entry("Note", default="", max_length=2_000)

    @model_validator(mode="after")
    def _forwards(self) -> Outing:
        if self.ended_at is not None:
            lasted = self.ended_at - self.began_at
            if not timedelta(0) <= lasted <= timedelta(hours=LONGEST_OUTING_H):
                raise out_of_reach(
                    "An outing ends after it begins, within two days.",
                    "ended_at",
                    "a later time, 48 h at most",
                )
        return self


class Reading(Part):
    """What meters said at a moment, or a word on the sky, the water, or anything."""

    id: Id
    at: Moment
    outing_id: Id | None = None
    source: str = entry("Read by", default=BY_HAND, min_length=1, max_length=40)
    of: Key | None = entry("Of", "A controller; empty for the whole boat", default=None)
    sky: Sky | None = entry("Sky", default=None)
    pv_w: float | None = entry("From the panels", default=None, ge=-500, le=500_000)
    pv_v: float | None = entry("Panel volts", default=None, ge=-2_000, le=2_000)
    pv_a: float | None = entry("Panel amps", default=None, ge=-1_000, le=5_000)
    bank_v: float | None = entry("Bank volts", default=None, ge=0, le=1_200)
    bank_a: float | None = entry("Bank amps", "Charging is plus", default=None, ge=-5_000, le=5_000)
    charge_frac: float | None = entry("Charge", default=None, ge=0, le=1.1)
    motor_w: float | None = entry("Motor", default=None, ge=-50_000, le=1_000_000)
    house_w: float | None = entry("House", default=None, ge=-50_000, le=100_000)
    speed_mps: float | None = entry("Through the water", default=None, ge=0, le=40)
    ground_mps: float | None = entry("Over the ground", default=None, ge=0, le=40)
    wind_mps: float | None = entry("Wind", default=None, ge=0, le=80)
    waves_m: float | None = entry("Waves", default=None, ge=0, le=20, quantity="length_m")
    tilt_deg: float | None = entry("Tilt", default=None, ge=-90, le=90)
    latitude_deg: float | None = entry("Latitude", default=None, ge=-90, le=90)
    longitude_deg: float | None = entry("Longitude", default=None, ge=-180, le=180)
    left_out: bool = entry("Left out", default=False)
    note: str = entry("A word", default="", max_length=400)

    @model_validator(mode="after")
    def _says_something(self) -> Reading:
        if not self.note and all(getattr(self, name) is None for name in (*VALUES, "sky")):
            raise out_of_reach(
                "A reading says something.", "pv_w", "a number, a word for the sky, or a word of your own"
            )
        return self


VALUES = (
    "pv_w", "pv_v", "pv_a", "bank_v", "bank_a", "charge_frac", "motor_w", "house_w", "speed_mps",
    "ground_mps", "wind_mps", "waves_m", "tilt_deg", "latitude_deg", "longitude_deg",
)  # fmt: skip


class Logbook(Part):
    """Outings and readings of a boat, oldest first."""

    schema_name: Literal["parhelion.logbook"] = "parhelion.logbook"
    schema_version: Literal[1] = 1
    outings: tuple[Outing, ...] = Field(default=(), max_length=MOST_OUTINGS)
    readings: tuple[Reading, ...] = Field(default=(), max_length=MOST_READINGS * 20)

    def outing(self, outing_id: str) -> Outing | None:
        return next((one for one in self.outings if one.id == outing_id), None)


NO_LOGBOOK = Logbook()
