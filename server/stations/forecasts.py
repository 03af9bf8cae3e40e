"""Where forecasts come from: a service at an address of its own, or the simulated stand-in.

A service is asked with latitude_deg, longitude_deg, from and days, and answers in the open JSON that
`parhelion.formats.forecast_file` reads.
"""

from __future__ import annotations

from datetime import date as Date
from urllib.error import URLError
from urllib.parse import urlencode
from urllib.request import urlopen

from django.conf import settings
from parhelion.design import Site
from parhelion.errors import ParhelionError, Problem
from parhelion.formats.forecast_file import read_forecast
from parhelion.sun.forecast import Forecast, simulated_forecast

WAIT_S = 8.0
LARGEST_BYTES = 1_000_000


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
        with urlopen(f"{address}?{urlencode(asked)}", timeout=WAIT_S) as reply:
            text = reply.read(LARGEST_BYTES).decode("utf-8", "replace")
    except (URLError, TimeoutError, ValueError) as error:
        problem = Problem(
            code="no_forecast",
            message="The forecast service does not answer.",
            field="/days",
            accepted="try again, read a forecast file, or enter the skies by hand",
        )
        raise ParhelionError([problem]) from error
    return read_forecast(text)
