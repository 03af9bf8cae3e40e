"""Small tables that ship with the core, each with a SOURCE note."""

from __future__ import annotations

import gzip
import json
from functools import cache
from importlib.resources import files
from typing import Any

import numpy as np
from numpy.typing import NDArray

from parhelion.design import ControllerModel, PanelModel, Site


@cache
def places() -> tuple[Site, ...]:
    """Invented waters and plain latitude bands to choose from."""
    content = json.loads(files(__name__).joinpath("places.json").read_text(encoding="utf-8"))
    return tuple(Site.model_validate(item) for item in content["places"])


@cache
def panel_models() -> tuple[PanelModel, ...]:
    """Invented panels of every kind, with full datasheets."""
    content = json.loads(files(__name__).joinpath("panels.json").read_text(encoding="utf-8"))
    return tuple(PanelModel.model_validate(item) for item in content["panels"])


@cache
def controller_models() -> tuple[ControllerModel, ...]:
    """Invented charge controllers, small to large: MPPT, PWM, boost."""
    content = json.loads(files(__name__).joinpath("controllers.json").read_text(encoding="utf-8"))
    return tuple(ControllerModel.model_validate(item) for item in content["controllers"])


@cache
def b_series() -> tuple[NDArray[np.float64], NDArray[np.float64]]:
    """The B-series' thrust and torque terms: rows of coefficient, exponents of J, P/D, blade area, Z."""
    content = json.loads(files(__name__).joinpath("b_series.json").read_text(encoding="utf-8"))
    return np.array(content["thrust"], dtype=float), np.array(content["torque"], dtype=float)


@cache
def tide_stations() -> dict[str, Any]:
    """Harmonic constants of tide stations and their sources; none where set-up has not exported them."""
    try:
        packed = files(__name__).joinpath("tides.json.gz").read_bytes()
    except FileNotFoundError:
        return {"sources": [], "stations": []}
    found: dict[str, Any] = json.loads(gzip.decompress(packed))
    return found


@cache
def sketched_waters() -> tuple[dict[str, Any], ...]:
    """Invented shores of the demo boats' waters, metres east and north of a place; no chart to steer by."""
    return tuple(json.loads(files(__name__).joinpath("waters.json").read_text(encoding="utf-8"))["waters"])


@cache
def battery_units() -> tuple[dict[str, Any], ...]:
    """Invented battery units of every chemistry: what a bank's entries of one unit are."""
    content = json.loads(files(__name__).joinpath("batteries.json").read_text(encoding="utf-8"))
    return tuple({name: value for name, value in unit.items() if name != "name"} for unit in content["units"])
