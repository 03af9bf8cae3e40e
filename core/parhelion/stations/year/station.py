"""What the Year registers."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from parhelion.formats.forecast_file import read_forecast
from parhelion.formats.weather_file import ReadWeather, read_weather
from parhelion.stations.station import Reader, Station, Study, Verb, Work
from parhelion.stations.year.ahead import days_ahead
from parhelion.stations.year.climate import climate_picture
from parhelion.stations.year.compare import compare
from parhelion.stations.year.findings import year_findings
from parhelion.stations.year.season import SEASON_READS, season
from parhelion.stations.year.terminal import ahead, season_table, upgrades
from parhelion.stations.year.upgrades import upgrade_steps
from parhelion.stations.year.worth import worth
from parhelion.sun.forecast import Forecast


def weather_file(
    text: Annotated[str, Field(max_length=8_000_000)],
    latitude_deg: Annotated[float, Field(ge=-90, le=90)],
) -> ReadWeather:
    """Full-sun hours by month from a year of weather, and the latitude of the boat's place."""
    return read_weather(text, latitude_deg)


def forecast_text(text: Annotated[str, Field(max_length=200_000)]) -> Forecast:
    """A forecast file in open JSON."""
    return read_forecast(text)


STATION = Station(
    name="year",
    title="Year",
    findings=year_findings,
    studies=(
        Study("climate", climate_picture),
        Study("ahead", days_ahead, at_rest=True),
        Study("worth", worth),
    ),
    readers=(Reader("weather", weather_file), Reader("forecast/read", forecast_text)),
    works=(
        Work("season", season, SEASON_READS),
        Work("upgrades", upgrade_steps),
        Work("comparison", compare, several=True),
    ),
    verbs=(Verb("season", season_table), Verb("ahead", ahead), Verb("upgrades", upgrades)),
)
