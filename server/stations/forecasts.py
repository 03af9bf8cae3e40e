"""Where forecasts come from: a service at an address of its own, or the simulated stand-in.

A service is asked with latitude_deg, longitude_deg, from and days, and answers in the open JSON that
`parhelion.formats.forecast_file` reads.
"""

from __future__ import annotations

from concurrent.futures import ThreadPoolExecutor
from datetime import date as Date
from http.client import HTTPException
from typing import Any
from urllib.parse import urlencode
from urllib.request import urlopen

from config.replies import or_refused
from django.conf import settings
from django.http import HttpRequest
from ninja import Router, Schema
from parhelion.design import Site
from parhelion.errors import ParhelionError, Problem
from parhelion.formats.forecast_file import read_forecast
from parhelion.sun.forecast import LONGEST_DAYS, Forecast, simulated_forecast
from pydantic import Field

WAIT_S = 8.0  # in all, however slowly it answers
_ASKING = ThreadPoolExecutor(2, thread_name_prefix="forecast")
LARGEST_BYTES = 1_000_000

router = Router(tags=["Year"])


class AskedForecast(Schema):
    """The days from a date on, at a place."""

    site: Site
    date: Date
    days: int = Field(default=7, ge=1, le=LONGEST_DAYS)


def forecast_for(site: Site, start: Date, days: int) -> Forecast:
    """The forecast of a place.

    Raises
    ------
    ParhelionError
        Where the service does not answer, or not in the open JSON.
    """
    address = settings.FORECAST_ADDRESS
    if not address:
        return simulated_forecast(site, start, days)
    asked = {
        "latitude_deg": site.latitude_deg,
        "longitude_deg": site.longitude_deg,
        "from": start.isoformat(),
        "days": days,
    }
    try:
        text = _ASKING.submit(_text_at, f"{address}?{urlencode(asked)}").result(timeout=WAIT_S)
    except (OSError, HTTPException, TimeoutError, ValueError) as error:
        problem = Problem(
            code="no_forecast",
            message="The forecast service does not answer.",
            field="/days",
            accepted="try again, read a forecast file, or enter the skies by hand",
        )
        raise ParhelionError([problem]) from error
    found = read_forecast(text)
    if found.days and abs((found.days[0].date - start).days) > LONGEST_DAYS:
        problem = Problem(
            code="other_days",
            message=f"The forecast service answers for {found.days[0].date}.",
            field="/days",
            accepted=f"days from {start} on",
        )
        raise ParhelionError([problem])
    return found


def _text_at(url: str) -> str:
    """What an address answers, of at most a megabyte."""
    with urlopen(url, timeout=WAIT_S) as reply:
        content: bytes = reply.read(LARGEST_BYTES)
    return content.decode("utf-8", "replace")


@router.post("/forecast", response=or_refused(Forecast), operation_id="forecastDays")
def forecast(request: HttpRequest, body: AskedForecast) -> Any:
    """The days from a date on, by the forecast service that is set up."""
    return forecast_for(body.site, body.date, body.days)
