"""What is known of a place's climate: a word, full-sun hours or counts of days by month."""

from __future__ import annotations

from typing import Literal

from pydantic import model_validator

from parhelion.design.part import Choice, Part, begins, entry, out_of_reach

MONTHS = 12
LONGEST_MONTH = 31


class ClimateWord(Choice):
    MARITIME = "maritime", "maritime"
    INLAND = "inland", "inland"
    MEDITERRANEAN = "mediterranean", "Mediterranean"
    TRADE_WIND = "trade_wind", "trade wind"
    MONSOON = "monsoon", "monsoon"
    HIGH_LATITUDE = "high_latitude", "high latitude"


class DayCount(Part):
    """Days of a month by their sky."""

    model_config = begins(sunny=10, mixed=10, grey=10)

    sunny: int = entry("Sunny days", default=0, ge=0, le=31)
    mixed: int = entry("Mixed days", default=0, ge=0, le=31)
    grey: int = entry("Grey days", default=0, ge=0, le=31)

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

    known_by: Literal["word", "sun_hours", "day_counts"] = entry(
        "Known by",
        default="word",
        labels={"word": "a word", "sun_hours": "full-sun hours", "day_counts": "kinds of days"},
    )
    word: ClimateWord | None = entry("Climate", default=None, empty="usual here")
    sun_hours: tuple[float, ...] = entry(
        "Full-sun hours",
        "A day, month by month",
        default=(),
        examples=[[4] * 12],
        max_length=MONTHS,
        quantity="duration_h",
    )
    day_counts: tuple[DayCount, ...] = entry(
        "Days by their sky",
        default=(),
        examples=[[{"sunny": 10, "mixed": 10, "grey": 10}] * 12],
        max_length=MONTHS,
    )
    source: str = entry("Source", "Where the numbers are from", default="", max_length=120)

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
