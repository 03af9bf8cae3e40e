"""Small tables that ship with the core, each with a SOURCE note."""

from __future__ import annotations

import json
from functools import cache
from importlib.resources import files

import numpy as np
from numpy.typing import NDArray

from parhelion.design import Site


@cache
def places() -> tuple[Site, ...]:
    """Invented waters and plain latitude bands to choose from."""
    content = json.loads(files(__name__).joinpath("places.json").read_text(encoding="utf-8"))
    return tuple(Site.model_validate(item) for item in content["places"])


@cache
def b_series() -> tuple[NDArray[np.float64], NDArray[np.float64]]:
    """The B-series' thrust and torque terms: rows of coefficient, exponents of J, P/D, blade area, Z."""
    content = json.loads(files(__name__).joinpath("b_series.json").read_text(encoding="utf-8"))
    return np.array(content["thrust"], dtype=float), np.array(content["torque"], dtype=float)
