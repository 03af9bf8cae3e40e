"""What is known of a place's climate: a word, full-sun hours or counts of days by month."""

from __future__ import annotations

from enum import StrEnum
from typing import Literal

from pydantic import Field, model_validator

from parhelion.design.part import Part, out_of_reach

MONTHS = 12
LONGEST_MONTH = 31


class ClimateWord(StrEnum):
    MARITIME = "maritime"
    INLAND = "inland"
    MEDITERRANEAN = "mediterranean"
    TRADE_WIND = "trade_wind"
    MONSOON = "monsoon"
    HIGH_LATITUDE = "high_latitude"


class DayCount(Part):
    """Days of a month by their sky."""

    sunny: int = Field(default=0, ge=0, le=31)
    mixed: int = Field(default=0, ge=0, le=31)
    grey: int = Field(default=0, ge=0, le=31)

    @model_validator(mode="after")
    def _in_a_month(self) -> DayCount:
        number = self.sunny + self.mixed + self.grey
        if number > LONGEST_MONTH:
            raise out_of_reach(f"A month has no {number} days.", "sunny", f"{LONGEST_MONTH} days in all")
        if number == 0:
            raise out_of_reach("This month has no days.", "sunny", "at least one day")
        return self


class Climate(Part):
    """How a place's months are known; without a word a usual one for its latitude."""

    known_by: Literal["word", "sun_hours", "day_counts"] = "word"
    word: ClimateWord | None = None
    sun_hours: tuple[float, ...] = Field(
        default=(), max_length=MONTHS, title="Full-sun hours a day, by month"
    )
    day_counts: tuple[DayCount, ...] = Field(default=(), max_length=MONTHS)
    source: str = Field(default="", max_length=120, title="Where the numbers are from")

    @model_validator(mode="after")
    def _whole(self) -> Climate:
        for hours in self.sun_hours:
            if not 0 <= hours <= 12:
                raise out_of_reach(
                    f"No month has {hours:g} full-sun hours a day.", "sun_hours", "0 to 12 each"
                )
        for name in ("sun_hours", "day_counts"):
            given = len(getattr(self, name))
            if given not in (0, MONTHS) or (self.known_by == name and given == 0):
                raise out_of_reach("The year has twelve months.", name, "twelve of them")
        return self
