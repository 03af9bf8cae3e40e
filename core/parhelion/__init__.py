"""How fast and how far a solar-electric boat cruises on the sun alone, and what would change that.

    boat = parhelion.read_boat(Path("boat.json").read_bytes())
    parhelion.answers(boat).sun_only_steady.speed_mps
    parhelion.day(boat).soc
    parhelion.season(boat).verdict
    parhelion.passage(boat).arrives_h

A `BoatDesign` goes in, frozen answers come out, in SI units; what is refused raises a `ParhelionError` with
its problems. The same boat gives the same answers: nothing here reads a clock, a network or a disk.
"""

from __future__ import annotations

from importlib import import_module
from typing import TYPE_CHECKING, Any

if TYPE_CHECKING:
    from parhelion.design import BoatDesign as BoatDesign
    from parhelion.errors import InvalidDesign as InvalidDesign
    from parhelion.errors import ParhelionError as ParhelionError
    from parhelion.errors import UnreadableFile as UnreadableFile
    from parhelion.face import answers as answers
    from parhelion.face import day as day
    from parhelion.face import passage as passage
    from parhelion.face import season as season
    from parhelion.formats.boat_file import read_boat as read_boat

_PLACES = {
    "BoatDesign": "design",
    "InvalidDesign": "errors",
    "ParhelionError": "errors",
    "UnreadableFile": "errors",
    "answers": "face",
    "day": "face",
    "passage": "face",
    "read_boat": "formats.boat_file",
    "season": "face",
}
__all__ = sorted(_PLACES)  # noqa: PLE0605 - the table is the one list of the face


def __getattr__(name: str) -> Any:
    if name not in _PLACES:
        raise AttributeError(f"parhelion has no {name!r}")
    return getattr(import_module(f"parhelion.{_PLACES[name]}"), name)
