"""Small tables that ship with the core, each with a SOURCE note."""

from __future__ import annotations

import json
from functools import cache
from importlib.resources import files

from parhelion.design import Site


@cache
def places() -> tuple[Site, ...]:
    """Invented waters and plain latitude bands to choose from."""
    content = json.loads(files(__name__).joinpath("places.json").read_text(encoding="utf-8"))
    return tuple(Site.model_validate(item) for item in content["places"])
